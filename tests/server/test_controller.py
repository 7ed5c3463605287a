"""The worker and the controller on the bench: looked at, set, read back, written down; and never half written in silence."""

import fcntl
import json
import threading
import time
from collections.abc import Callable
from datetime import timedelta

import pytest
from django.core.management import call_command
from django.utils import timezone

from boardmath.buildfile import BuildFileError, read_build
from boardmath.model.resolution import Incomplete
from controller.link import LinkFailed
from controller.simulator.device import FACTORY, Device
from controller.simulator.memory import Memory
from controller.simulator.serving import serve
from controller.simulator.wires import TcpWire
from server.boards.models import Build
from server.boards.services import document_of
from server.controller import services, simulators, tasks
from server.controller.models import ControllerCommand
from server.controller_settings.models import SettingsRecord
from tests.core.boards import SPIT_RUNNER, changed
from tests.server.conftest import Workshop

WANTED = {
    "motor_current_a": 50.0,
    "pack_current_a": 35.0,
    "cells_in_series": 10,
    "taper_start_v": 34.0,
    "taper_end_v": 31.0,
}
TWO = {"parts.motors.count": 2, "parts.drive.driven_wheels": 2, "parts.controller.units": 2}


@pytest.fixture
def in_threads(monkeypatch):
    """Simulated controllers in threads of this process: a process of its own for each takes seconds to start.

    They answer over the same sockets and hold the same locks; the processes are started by tests/operations.
    """
    ends: dict[int, Callable[[], None]] = {}

    def start(build_id, unit, document, digest, memory, note, stopped) -> str:
        try:
            device = Device(read_build(document), Memory(memory, FACTORY), str(build_id)[:8], unit)
            device.board.pack_v()
        except (BuildFileError, Incomplete) as error:
            raise LinkFailed(f"the simulated controller did not start: {error}") from None
        lock = memory.with_suffix(".lock").open("w")
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        wire, over, number = TcpWire(), threading.Event(), len(ends) + 1
        thread = threading.Thread(target=serve, args=(device, wire, over.is_set), daemon=True)

        def end() -> None:
            over.set()
            thread.join(5)
            wire.close()
            lock.close()

        ends[number] = end
        thread.start()
        note.write_text(json.dumps({"address": wire.address, "pid": number, "digest": digest}))
        return wire.address

    monkeypatch.setattr(simulators, "_start", start)
    monkeypatch.setattr(simulators, "_end", lambda number, lock: ends[number]())


@pytest.fixture
def bench(workshop, settings, tmp_path, monkeypatch, in_threads):
    """A person with a bench of their own; commands are carried out as they are sent."""
    settings.BENCHMARK_FOLDER = tmp_path
    monkeypatch.setattr(tasks, "RUN_S", 1.0)
    yield Bench(workshop)
    simulators.end_all()


class Bench:
    def __init__(self, workshop):
        self.workshop = workshop

    def send(self, build, kind, status=202, path="", **body):
        answer = self.workshop.send(
            "POST", f"/builds/{build['id']}/controller{path}", {**({} if path else {"kind": kind}), **body}
        )
        assert answer.status_code == status, answer.content
        if status != 202:
            return answer.json()
        tasks.run_command.call(answer.json()["id"])
        return self.workshop.send("GET", f"/controller-commands/{answer.json()['id']}").json()

    def write(self, build, wanted=WANTED, seen=None, **body):
        seen = seen if seen is not None else self.against(build)["held"]
        each = wanted if isinstance(wanted, list) else [wanted] * len(seen)
        return self.send(build, "write", path="/write", settings=each, seen=seen, reason="first set-up", **body)

    def against(self, build, wanted=WANTED, apart=(), **line):
        body = {"settings": wanted, "apart": list(apart), **line}
        return self.workshop.send("POST", f"/builds/{build['id']}/controller/diff", body).json()

    def records(self, build):
        return self.workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["settings_records"]

    def inject(self, build, *link, board=()):
        return self.send(build, "pretend", link=list(link), board=list(board))


def test_a_new_controller_is_read_judged_set_read_back_and_written_down(bench):
    build = bench.workshop.new()
    assert bench.against(build).get("held") is None
    assert bench.send(build, "read")["state"] == "done"
    seen = bench.against(build)
    assert seen["held"] == [FACTORY]
    assert {d["key"]: (d["wanted"], d["held"]) for d in seen["differs"]}["cells_in_series"] == ([10], [5])
    assert "controller-cells-mismatch" in {f["id"] for f in seen["findings"]}, "the left-over five cells"
    done = bench.write(build)
    assert [o["verdict"] for o in done["result"]["outcomes"]] == ["as wanted"]
    after = bench.against(build)
    assert after["differs"] == []
    assert after["held"] == [{**FACTORY, **WANTED}]
    assert "controller-cells-mismatch" not in {f["id"] for f in after["findings"]}
    kept = SettingsRecord.objects.get()
    assert (kept.number, kept.read_back, kept.reason) == (done["result"]["record"], True, "first set-up")
    assert kept.settings == {**FACTORY, **WANTED}


def test_after_a_reset_the_record_alone_brings_it_back(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    bench.write(build)
    bench.send(build, "reset")
    lost = bench.against(build)
    assert {d["key"] for d in lost["differs"]} == set(WANTED)
    recorded = bench.records(build)[-1]["settings"]
    back = bench.write(build, recorded, lost["held"])
    assert [o["verdict"] for o in back["result"]["outcomes"]] == ["as wanted"]
    assert bench.against(build, recorded)["differs"] == []


def test_what_was_not_seen_is_not_overwritten(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    seen = bench.against(build)["held"]
    bench.write(build, {"motor_current_a": 40.0})
    again = bench.write(build, WANTED, seen)
    assert [o["verdict"] for o in again["result"]["outcomes"]] == ["not begun"]
    assert "other values than those you confirmed" in again["result"]["outcomes"][0]["why"]
    assert bench.against(build)["held"][0]["cells_in_series"] == 5


def test_a_value_that_the_controller_refuses_is_named(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    done = bench.write(build, {**WANTED, "motor_current_a": 90.0})
    assert [(o["verdict"], o["refused"]) for o in done["result"]["outcomes"]] == [("as before", "motor_current_a")]
    assert done["result"].get("record") is None
    assert SettingsRecord.objects.count() == 0


def test_a_half_written_controller_is_said_until_it_is_settled(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    bench.inject(build, {"what": "torn", "at": "keep", "times": -1})
    torn = bench.write(build)
    assert [o["verdict"] for o in torn["result"]["outcomes"]] == ["neither"]
    assert "cells_in_series" in torn["result"]["outcomes"][0]["differs"]
    said = bench.against(build)
    assert "only partly written. Do not ride" in said["unsettled"]
    assert said["known"]
    assert {d["key"] for d in said["differs"]} == set(torn["result"]["outcomes"][0]["differs"])
    bench.inject(build)
    assert bench.write(build)["result"]["record"] == 1
    assert bench.against(build).get("unsettled") is None


def test_a_link_that_dies_in_the_middle_is_said_and_a_look_settles_it(bench, monkeypatch):
    monkeypatch.setattr("controller.link.PATIENCE_S", 0.1)
    build = bench.workshop.new()
    bench.send(build, "read")
    seen = bench.against(build)["held"]
    # hello, and reading twice before the first change, are answered still; from keeping on nothing is.
    bench.inject(
        build,
        {"what": "request_lost", "at": "keep", "times": -1},
        {"what": "request_lost", "at": "read", "after": 2, "times": -1},
    )
    done = bench.write(build, WANTED, seen)
    assert [o["verdict"] for o in done["result"]["outcomes"]] == ["unknown"]
    said = bench.against(build)
    assert "It is unknown" in said["unsettled"]
    assert not said["known"]
    bench.inject(build)
    bench.send(build, "read")
    after = bench.against(build)
    assert after.get("unsettled") is None
    assert after["held"] == [FACTORY], "nothing was kept"


def test_a_worker_that_dies_in_the_middle_is_found_out(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    row = ControllerCommand.objects.create(
        build_id=build["id"],
        asked_by=bench.workshop.user,
        kind="write",
        state="running",
        step="sending 3 of 5",
        payload={},
    )
    assert bench.send(build, "read", 409)["message"].startswith("The controller service is still busy")
    ControllerCommand.objects.filter(pk=row.pk).update(beat_at=timezone.now() - timedelta(minutes=1))
    said = bench.against(build)
    assert said["command"]["state"] == "lost"
    assert said["unsettled"]
    bench.send(build, "read")
    assert ControllerCommand.objects.get(pk=row.pk).state == "failed"
    assert bench.against(build).get("unsettled") is None


def test_two_controllers_are_set_alike_and_a_difference_is_found(bench):
    build = bench.workshop.new(changed(SPIT_RUNNER, TWO))
    bench.send(build, "read")
    assert len(bench.against(build)["held"]) == 2
    # The second one refuses from here on: what the first holds by then is no longer what the second does.
    memory = next(simulators.settings.BENCHMARK_FOLDER.glob("*-1.json"))
    simulators.end_all()
    kept = json.loads(memory.read_text())
    memory.write_text(json.dumps({**kept, "values": {**kept["values"], "motor_brake_a": 10.0}}))
    bench.send(build, "read")
    found = {f["id"]: f["text"] for f in bench.against(build)["findings"]}
    assert "25 A in the first, 10 A in controller 2" in found["unalike-2-motor-brake-a"]
    done = bench.write(build, {**WANTED, "motor_brake_a": 40.0})
    assert [o["verdict"] for o in done["result"]["outcomes"]] == ["as wanted", "as wanted"]
    assert not any(i.startswith("unalike") for i in (f["id"] for f in bench.against(build)["findings"]))


def test_the_second_controller_is_not_begun_when_the_first_did_not_end_well(bench):
    build = bench.workshop.new(changed(SPIT_RUNNER, TWO))
    bench.send(build, "read")
    done = bench.write(build, {**WANTED, "motor_current_a": 90.0})
    assert [o["verdict"] for o in done["result"]["outcomes"]] == ["as before", "not begun"]


def test_detection_and_a_run_come_back_with_what_was_predicted(bench):
    build = bench.workshop.new(changed(SPIT_RUNNER, TWO))
    found = bench.send(build, "detect")["result"]["detected"]
    assert len(found) == 2
    assert [f["turned"] for f in found] == ["forward", "backward"], "two motors on one axle look at each other"
    bench.send(build, "read")
    wanted = {**WANTED, "max_duty_pct": 95.0, "directions": "forward"}
    apart = {"directions": "reversed"}
    differs = {d["key"]: (d["wanted"], d["held"]) for d in bench.against(build, wanted, [apart])["differs"]}
    assert differs["directions"] == (["forward", "reversed"], ["forward", "forward"])
    bench.write(build, [wanted, {**wanted, **apart}])
    assert bench.against(build, wanted, [apart])["differs"] == []
    assert bench.records(build)[-1]["apart"] == [apart], "written down as each was read back"
    runs = bench.send(build, "run")["result"]["runs"]
    assert [line["name"] for r in runs for line in r["figure"]["lines"]][::2] == ["motor 1", "motor 2"]
    for run in runs:
        told = run["predicted"]["erpm"]
        assert 0.97 * told["low"] < run["steady"]["motors"][0]["erpm"] < 1.03 * told["high"]
        assert 0.0 < run["stopped_in_s"] < 5.0
        assert {m["turns"] for m in run["steady"]["motors"]} == {"forward"}, (
            "each its own way, both drive the board forward"
        )
    assert bench.send(build, "cut_off")["result"]["cut_off"][0]["ends_v"] == pytest.approx(31.0, abs=0.2)
    assert bench.send(build, "lose_remote")["result"]["lost"][0]["does"] == "release"


def test_the_controller_sits_on_the_board_as_it_is_now_and_keeps_what_was_set(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    bench.write(build)
    faster = changed(SPIT_RUNNER, {"parts.motors.kv_rpm_per_v": 230})
    bench.workshop.send("PUT", f"/builds/{build['id']}", {"revision": build["revision"], "document": faster})
    flux = bench.send(build, "detect")["result"]["detected"][0]["flux_linkage_mwb"]
    assert flux == pytest.approx(8.27 / 230 / 1.5 / 7 * 1000, rel=0.05)
    bench.send(build, "read")
    assert bench.against(build)["held"] == [{**FACTORY, **WANTED}]


@pytest.mark.parametrize(
    ("changes", "field"),
    [({"parts.controller": None}, "controller"), ({"parts.controller.programmable": False}, "controller")],
)
def test_without_a_link_there_is_nothing_to_talk_to(bench, changes, field):
    build = bench.workshop.new(changed(SPIT_RUNNER, changes))
    assert [f["field"] for f in bench.send(build, "read", 422)["faults"]] == [field]


def test_an_unfinished_board_says_what_it_needs(bench):
    build = bench.workshop.new(changed(SPIT_RUNNER, {"parts.wheels": None}))
    said = bench.send(build, "read")
    assert said["state"] == "failed"
    assert "Choose wheels" in said["message"]


def test_commands_are_their_owners(bench, other_workshop):
    build = bench.workshop.new()
    mine = bench.send(build, "read")
    for method, path, body in (
        ("GET", f"/controller-commands/{mine['id']}", None),
        ("POST", f"/controller-commands/{mine['id']}/stop", {}),
        ("POST", f"/builds/{build['id']}/controller", {"kind": "read"}),
        ("POST", f"/builds/{build['id']}/controller/diff", {"settings": {}}),
        ("POST", f"/builds/{build['id']}/controller/write", {"settings": [WANTED], "seen": [FACTORY], "reason": "x"}),
    ):
        assert other_workshop.send(method, path, body).status_code == 404, path


def test_a_port_is_only_for_whom_it_was_given(bench, settings):
    build = bench.workshop.new()
    stranger = Workshop("sanderling")
    call_command("ports", "give", "Sanderling", "/dev/ttyACM0")
    call_command("ports", "give", "plover", "socket://127.0.0.1:9")
    assert bench.against(build)["ports"] == ["socket://127.0.0.1:9"]
    assert bench.send(build, "read", 422, port="/dev/ttyACM0")["faults"][0]["field"] == "port"
    assert bench.send(build, "read", 422, port="/etc/passwd")["faults"][0]["field"] == "port"
    assert bench.send(build, "reset", 422, port="socket://127.0.0.1:9")["faults"][0]["field"] == "kind"
    nobody = bench.send(build, "read", port="socket://127.0.0.1:9")
    assert (nobody["state"], "does not answer" in nobody["message"]) == ("failed", True)
    # Whoever takes the name of somebody who has gone does not get their port.
    stranger.user.delete()
    again = Workshop("sanderling")
    assert list(services.ports(again.user)) == []
    call_command("ports", "take", "plover", "socket://127.0.0.1:9")
    assert bench.against(build)["ports"] == []


def test_a_cable_leads_to_one_controller_and_is_moved_to_the_other(bench, settings):
    build = bench.workshop.new(changed(SPIT_RUNNER, TWO))
    file = document_of(Build.objects.get(pk=build["id"]))
    ends = [simulators.address(build["id"], file, unit) for unit in (0, 1)]
    for end in ends:
        call_command("ports", "give", "plover", end)
    lines = [{"port": end, "unit": unit} for unit, end in enumerate(ends)]
    wanted, apart = {**WANTED, "directions": "forward"}, {"directions": "reversed"}
    each = [wanted, {**wanted, **apart}]
    for unit, line in enumerate(lines):
        assert bench.against(build, wanted, [apart], **line).get("held") is None, (
            "what another line held says nothing of it"
        )
        bench.send(build, "read", **line)
        seen = bench.against(build, wanted, [apart], **line)
        assert {d["key"]: d["wanted"] for d in seen["differs"]}.get("directions") == ([None, ["reversed"]][unit])
        done = bench.write(build, [each[unit]], seen=seen["held"], **line)
        assert [o["verdict"] for o in done["result"]["outcomes"]] == ["as wanted"]
        assert bench.against(build, wanted, [apart], **line)["differs"] == []
    first, second = bench.records(build)
    assert (first["apart"], second["apart"]) == ([], [apart]), (
        "the other one's values are those of the settings record before"
    )
    assert [s["reason"] for s in (first, second)] == ["first set-up (controller 1)", "first set-up (controller 2)"]
    # The motors of a cable's controller are the board's own by number.
    found = bench.send(build, "detect", **lines[1])["result"]["detected"]
    assert [f.get("turned") for f in found] == [None, "backward"]
    run = bench.send(build, "run", **lines[1])
    assert run["result"]["runs"][0]["figure"]["lines"][0]["name"] == "motor 2"
    command = {"changes": {}, "command": run["id"]}
    entered = bench.workshop.send("PATCH", f"/builds/{build['id']}/bench-test", command).json()["entered"]
    assert entered["motors"][0] == {}
    assert entered["motors"][1]["forward"] is True
    assert "pack_current_a" not in entered, "one of two draws only its share"
    assert bench.send(build, "read", 422, port=ends[0], unit=2)["faults"] == [{"field": "unit", "reason": "0 to 1"}]


def test_a_look_at_one_controller_says_nothing_of_a_write_to_the_other(bench, settings):
    build = bench.workshop.new(changed(SPIT_RUNNER, TWO))
    call_command("ports", "give", "plover", "socket://127.0.0.1:9")
    about = {"build_id": build["id"], "asked_by": bench.workshop.user, "port": "socket://127.0.0.1:9"}
    unknown = {"outcomes": [{"verdict": "unknown"}], "held": [None]}
    ControllerCommand.objects.create(**about, unit=0, kind="write", state="done", result=unknown)
    ControllerCommand.objects.create(**about, unit=1, kind="read", state="done", result={"held": [FACTORY]})
    assert "It is unknown" in bench.against(build)["unsettled"]
    ControllerCommand.objects.create(**about, unit=0, kind="read", state="done", result={"held": [FACTORY]})
    assert bench.against(build).get("unsettled") is None


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"reason": " "}, "reason"),
        ({"seen": []}, "seen"),
        ({"settings": [{}]}, "settings"),
        ({"settings": [{"motor_current_a": -1}]}, "motor_current_a"),
        ({"settings": [{"wings": 2}]}, "wings"),
        ({"settings": [WANTED, WANTED]}, "settings"),
    ],
)
def test_what_cannot_be_set_is_refused_before_anything_is_sent(bench, body, field):
    build = bench.workshop.new()
    good = {"settings": [WANTED], "seen": [FACTORY], "reason": "first"}
    answer = bench.send(build, "write", 422, "/write", **{**good, **body})
    assert field in answer["faults"][0]["field"]
    assert ControllerCommand.objects.count() == 0


def test_stopping_is_heard(bench):
    build = bench.workshop.new()
    bench.send(build, "read")
    command = ControllerCommand.objects.create(build_id=build["id"], asked_by=bench.workshop.user, kind="run")
    assert bench.workshop.send("POST", f"/controller-commands/{command.pk}/stop", {}).status_code == 200
    began = time.monotonic()
    tasks.run_command.call(str(command.pk))
    assert ControllerCommand.objects.get(pk=command.pk).state == "stopped"
    assert time.monotonic() - began < 20


def test_no_more_simulated_controllers_run_than_the_machine_bears_and_what_they_hold_stays(bench, monkeypatch):
    monkeypatch.setattr(simulators, "MOST", 2)
    boards = [bench.workshop.new() for _ in range(3)]
    bench.send(boards[0], "read")
    bench.write(boards[0])
    for board in boards[1:]:
        bench.send(board, "read")
    notes = list(simulators.settings.BENCHMARK_FOLDER.glob("*.address"))
    assert len(notes) == 3
    assert sum(simulators.running(n.with_suffix(".lock")) for n in notes) == 2
    bench.send(boards[0], "read")
    assert bench.against(boards[0])["held"] == [{**FACTORY, **WANTED}]


def test_a_write_that_nobody_looked_after_is_remembered_however_much_was_tried_since(bench, monkeypatch):
    monkeypatch.setattr(services, "KEPT", 3)
    build = bench.workshop.new()
    torn = ControllerCommand.objects.create(
        build_id=build["id"], asked_by=bench.workshop.user, kind="write", state="failed", step="keeping"
    )
    for _ in range(5):
        bench.send(build, "cut_off")
    assert ControllerCommand.objects.count() == 4
    assert ControllerCommand.objects.filter(pk=torn.pk).exists()
    assert "It is unknown" in bench.against(build)["unsettled"]


def test_a_person_has_one_talk_at_a_time_and_other_people_theirs(bench, other_workshop):
    one, another = bench.workshop.new(), bench.workshop.new({**SPIT_RUNNER, "name": "Marsh hare"})
    talking = bench.workshop.send("POST", f"/builds/{one['id']}/controller", {"kind": "read"}).json()
    busy = bench.send(another, "read", 409)
    assert "“Spit runner”" in busy["message"]
    theirs = other_workshop.new()
    assert other_workshop.send("POST", f"/builds/{theirs['id']}/controller", {"kind": "read"}).status_code == 202
    stopped = bench.workshop.send("POST", f"/controller-commands/{talking['id']}/stop").json()
    assert stopped["state"] == "stopped", "one that waits is stopped at once"
    tasks.run_command.call(talking["id"])
    assert bench.workshop.send("GET", f"/controller-commands/{talking['id']}").json()["state"] == "stopped", (
        "and not begun any more"
    )
    assert bench.send(another, "read")["state"] == "done"


def test_to_wait_for_a_worker_is_not_to_be_lost(bench):
    build = bench.workshop.new()
    waiting = bench.workshop.send("POST", f"/builds/{build['id']}/controller", {"kind": "read"}).json()
    ControllerCommand.objects.update(beat_at=timezone.now() - timedelta(minutes=5))
    assert bench.workshop.send("GET", f"/controller-commands/{waiting['id']}").json()["state"] == "waiting"
    ControllerCommand.objects.update(state="running")
    assert bench.workshop.send("GET", f"/controller-commands/{waiting['id']}").json()["state"] == "lost"
