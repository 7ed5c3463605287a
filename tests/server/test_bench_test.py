"""The bench test's record: entered step by step, filled in by the controller, kept as it was judged, on paper."""

import pytest

from server.controller.models import ControllerCommand
from tests.core.boards import SPIT_RUNNER, changed
from tests.server.papers import text_of

DONE = {
    "wheels_free": True,
    "polarity_right": True,
    "pack_v": 40.0,
    "still": True,
    "motors.0.forward": True,
    "motors.0.erpm": 44000.0,
    "motors.0.current_a": 1.6,
    "pack_current_a": 2.0,
    "brakes": True,
    "lost_link": "lets_go",
    "lost_after_s": 0.3,
    "cut_off_begins_v": 34.0,
    "cut_off_ends_v": 31.0,
    "sound": True,
}


class Stand:
    """A board of one person on the stand."""

    def __init__(self, workshop, document=SPIT_RUNNER):
        self.workshop, self.build = workshop, workshop.new(document)
        self.path = f"/builds/{self.build['id']}/bench-test"

    def send(self, method="GET", status=200, path="", **body):
        answer = self.workshop.send(method, self.path + path, body)
        assert answer.status_code == status, answer.content
        return answer.json()

    def enter(self, status=200, **changes):
        return self.send("PATCH", status, changes=changes)

    def command(self, kind, **result):
        return ControllerCommand.objects.create(
            build_id=self.build["id"], asked_by=self.workshop.user, kind=kind, state="done", result=result
        )


@pytest.fixture
def stand(workshop) -> Stand:
    return Stand(workshop)


def verdicts(said) -> dict[str, str]:
    return {s["key"]: s["verdict"] for s in said["report"]["steps"]}


def test_a_test_is_entered_kept_and_the_next_one_begins_empty(stand):
    assert stand.send()["report"]["standing"] == "not begun"
    assert stand.enter(wheels_free=True)["report"]["next"] == "polarity"
    said = stand.enter(**DONE)
    assert said["report"]["standing"] == "passes", verdicts(said)
    kept = stand.send("POST", on="2026-04-05", by="warden")
    assert kept["entered"] == {}
    assert [(t["number"], t["on"], t["standing"], t["failed"]) for t in kept["kept"]] == [
        (1, "2026-04-05", "passes", [])
    ]
    assert kept["kept"][0]["build_revision"] == stand.build["revision"]
    assert kept["no_longer"] == []
    whole = stand.send(path="/1")
    assert whole["entered"]["motors"] == [{"forward": True, "erpm": 44000.0, "current_a": 1.6}]
    assert len(whole["report"]["steps"]) == len(said["report"]["steps"])


def test_two_who_test_together_do_not_overwrite_each_other(stand):
    stand.enter(**{"motors.0.forward": True})
    stand.enter(**{"motors.0.erpm": 44000.0})
    said = stand.enter(pack_v=40.0)
    assert said["entered"] == {"motors": [{"forward": True, "erpm": 44000.0}], "pack_v": 40.0}
    assert stand.enter(**{"pack_v": None, "motors.0.erpm": None})["entered"] == {"motors": [{"forward": True}]}


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("pack_v", "forty"),
        ("pack_v", 900.0),
        ("wings", 2),
        ("motors.9.erpm", 1.0),
        ("motors.0.wings", 1.0),
        ("motors.0", {}),
        ("motors.0.erpm.low", 1.0),
        ("left_out.cut_off", ""),
        ("lost_link", "explodes"),
        ("__class__", 1),
    ],
)
def test_what_cannot_be_is_refused_by_its_name_and_nothing_of_it_is_kept(stand, path, value):
    stand.enter(pack_v=40.0)
    faults = stand.enter(422, still=True, **{path: value})["faults"]
    assert faults[0]["field"].split(".")[0] == path.split(".")[0]
    assert stand.send()["entered"] == {"pack_v": 40.0}


def test_nothing_is_kept_of_the_future_or_before_something_was_looked_at(stand):
    assert stand.send("POST", 422, on="2026-04-05")["faults"][0]["field"] == "entered"
    stand.enter(wheels_free=True)
    assert stand.send("POST", 422, on="2999-01-01")["faults"][0]["field"] == "on"
    assert stand.send("DELETE")["entered"] == {}


def test_a_pack_that_changes_later_is_noticed_at_the_kept_test(stand):
    """Tested on ten cells, then rebuilt with twelve: what passed then would not now."""
    stand.enter(**DONE)
    stand.send("POST", on="2026-04-05")
    twelve = changed(SPIT_RUNNER, {"parts.pack.series": 12, "settings.cells_in_series": 12})
    body = {"revision": stand.build["revision"], "document": twelve}
    assert stand.workshop.send("PUT", f"/builds/{stand.build['id']}", body).status_code == 200
    said = stand.send()
    assert said["kept"][0]["standing"] == "passes", "the record stands as it was judged"
    assert "Cut-off" in said["no_longer"]


def test_the_sheet_that_was_set_counts_and_not_what_is_wanted(stand):
    record = {
        "settings": {"cells_in_series": 10, "taper_start_v": 35.0, "taper_end_v": 33.0, "fail_safe": "brake_gently"},
        "on": "2026-04-01",
        "reason": "first",
    }
    assert stand.workshop.send("POST", f"/builds/{stand.build['id']}/controller-settings", record).status_code == 200
    said = stand.enter(**DONE)
    assert said["record_number"] == 1
    found = verdicts(said)
    assert (found["cut_off"], found["lost_link"]) == ("unsure", "unsure"), "set otherwise than it does"
    assert stand.send("POST", on="2026-04-05")["kept"][0]["record_number"] == 1


def test_end_points_are_held_against_those_that_were_measured_last(stand):
    for reason, points in (("first", {"low_ms": 1.0, "middle_ms": 1.5, "high_ms": 2.0}), ("softer", {})):
        record = {"settings": {"cells_in_series": 10}, "on": "2026-04-01", "reason": reason, "end_points": points}
        assert (
            stand.workshop.send("POST", f"/builds/{stand.build['id']}/controller-settings", record).status_code == 200
        )
    read = {"still": True, "low_ms": 1.0, "middle_ms": 1.5}
    assert verdicts(stand.enter(**read, high_ms=2.0))["thumb"] == "passes"
    assert verdicts(stand.enter(**read, high_ms=1.9))["thumb"] == "unsure"


def test_what_the_controllers_found_is_entered(stand):
    frame = {"phase": "spin", "t": 3.0, "pack_v": 40.6, "pack_a": 1.1}
    runs = [
        {
            "rest_v": 40.8 - i,
            "stopped_in_s": 0.4 + i,
            "trace": [],
            "steady": {**frame, "motors": [{"erpm": -44000.0 - i, "current_a": 1.5, "turns": turns}]},
        }
        for i, turns in enumerate(["forward", "backward"])
    ]
    said = stand.send("PATCH", command=str(stand.command("run", runs=runs).pk))
    assert said["entered"] == {
        "pack_v": 39.8,
        "pack_current_a": 2.2,
        "stopped_in_s": 1.4,
        "motors": [
            {"erpm": 44000.0, "current_a": 1.5, "forward": True},
            {"erpm": 44001.0, "current_a": 1.5, "forward": False},
        ],
    }
    cut = [{"begins_v": 34.0, "ends_v": 31.0}, {"begins_v": 17.0, "ends_v": 15.5}]
    lost = [{"does": "release", "after_ms": 250.0}, {"does": "release", "after_ms": 900.0}]
    stand.send("PATCH", command=str(stand.command("cut_off", cut_off=cut).pk))
    said = stand.send("PATCH", command=str(stand.command("lose_remote", lost=lost).pk))
    assert (said["entered"]["cut_off_ends_v"], said["entered"]["lost_after_s"]) == (15.5, 0.9), (
        "the worse of two counts"
    )
    assert verdicts(said)["cut_off"] == "fails"
    stand.enter(pack_v=40.2)
    said = stand.send("PATCH", command=str(stand.command("run", runs=runs).pk))
    assert said["entered"]["pack_v"] == 40.2, "a meter counts before the controller's own reading"


def test_only_ones_own_command_on_this_board_is_taken(stand, other_workshop):
    other_board, other_person = Stand(stand.workshop), Stand(other_workshop)
    lost = [{"does": "release", "after_ms": 250.0}]
    stand.send("PATCH", 404, command=str(other_person.command("lose_remote", lost=lost).pk))
    for wrong in (other_board.command("lose_remote", lost=lost), stand.command("read", held=[])):
        assert stand.send("PATCH", 422, command=str(wrong.pk))["faults"][0]["field"] == "command"
    assert stand.send()["entered"] == {}


def test_tests_are_their_owners(stand, other_workshop):
    stand.enter(**DONE)
    stand.send("POST", on="2026-04-05")
    for method, path, body in (
        ("GET", "", None),
        ("PATCH", "", {"changes": {"still": False}}),
        ("POST", "", {"on": "2026-04-05"}),
        ("DELETE", "", None),
        ("GET", "/1", None),
        ("POST", "/paper", None),
        ("POST", "/paper?number=1", None),
    ):
        assert other_workshop.send(method, stand.path + path, body).status_code == 404, path


def test_on_paper_before_and_after(stand):
    empty = text_of(stand.workshop.made(f"{stand.path}/paper"))
    for words in (
        "pack voltage .....",
        "[ ] lets go [ ] brakes gently [ ] keeps running",
        "red is positive, by the meter: [ ] yes [ ] no",
    ):
        assert words in empty, words
    stand.enter(**{**DONE, "lost_link": "keeps_running", "notes": "belt <sings> & hums"})
    stand.send("POST", on="2026-04-05", by="Mar & Tor")
    paper = text_of(stand.workshop.made(f"{stand.path}/paper?number=1"))
    for words in (
        "Tested on 5 Apr 2026 by Mar & Tor",
        "FAILS",
        "It keeps running after 0.3 s.",
        "belt <sings> & hums",
        "gives nothing below 31 V",
        "Fix what fails",
    ):
        assert words in paper, words
    assert stand.workshop.send("POST", f"{stand.path}/paper?number=2").status_code == 404


def test_the_dossier_has_the_last_test_and_says_when_the_controller_was_set_anew(stand):
    dossier = f"/builds/{stand.build['id']}/dossier"
    assert "None is saved" in text_of(stand.workshop.made(dossier))
    stand.enter(**DONE)
    stand.send("POST", on="2026-04-05")
    assert "Test 1, on 5 Apr 2026" in text_of(stand.workshop.made(dossier))
    record = {"settings": {"cells_in_series": 10}, "on": "2026-04-06", "reason": "after a reset"}
    stand.workshop.send("POST", f"/builds/{stand.build['id']}/controller-settings", record)
    assert "settings changed after it: record 1. Repeat the test." in text_of(stand.workshop.made(dossier))
