"""Setting a device over a bad link: afterwards device and record agree, or the difference is shown."""

import random
import socket
import threading
import tracemalloc
from contextlib import contextmanager, suppress
from types import SimpleNamespace

import pytest

from controller import running, writing
from controller.link import Link, LinkFailed, Stopped
from controller.protocol import line_of
from controller.simulator import serving
from controller.simulator.device import FACTORY
from controller.simulator.fault_injection import LINK_FAULTS, FaultInjection
from tests.controller.linked import on_the_bench
from tests.core.boards import spit_runner

WANTED = {
    "motor_current_a": 50.0,
    "pack_current_a": 35.0,
    "cells_in_series": 10,
    "gear_ratio": 2.8,
    "sensor_mode": "hall",
}
PATIENCE_S = 0.25
"""Short, so that faults cost little, and long enough for a busy machine to answer."""
STEPS = [("read", 0), ("begin", 0), ("set", 0), ("set", 2), ("set", 4), ("keep", 0), ("read", 1)]
"""Every step of a write: reading first, staging, the first, third and last value, keeping, reading back."""


@pytest.fixture(autouse=True)
def quick(monkeypatch):
    monkeypatch.setattr(serving, "LATE_S", 1.5 * PATIENCE_S)
    # pyserial rests at every close of a socket.
    monkeypatch.setattr("serial.urlhandler.protocol_socket.time", SimpleNamespace(sleep=lambda _: None))


def holds(values, wanted=WANTED) -> bool:
    return not writing.differences(wanted, values)


@pytest.mark.parametrize("over", ["tcp", "pty"])
@pytest.mark.parametrize(("step", "after"), STEPS)
@pytest.mark.parametrize("what", LINK_FAULTS)
def test_one_fault_at_any_step_is_made_good_or_shown(tmp_path, over, step, after, what):
    with on_the_bench(spit_runner(), over, tmp_path, patience=PATIENCE_S) as (link, device):
        device.injected = [FaultInjection(what, "set value" if what == "swallowed" else step, after)]
        outcome = writing.write(link, WANTED)
        assert outcome.after == device.memory.values
        # A value that the device swallowed makes its count another one: it refuses to keep.
        assert outcome.verdict == ("as before" if what == "swallowed" else "as wanted")
        assert bool(outcome.differs) == (what == "swallowed")
        assert (outcome.verdict == "as wanted") == holds(device.memory.values)
        # Once the link is good again, the same write sets it right.
        device.injected = []
        assert writing.write(link, WANTED).verdict == "as wanted"


@pytest.mark.parametrize("over", ["tcp", "pty"])
@pytest.mark.parametrize(("step", "after"), STEPS[1:])
def test_a_link_that_never_comes_back_leaves_it_unknown_and_says_so(tmp_path, over, step, after):
    with on_the_bench(spit_runner(), over, tmp_path, patience=PATIENCE_S) as (link, device):
        # From this step on nothing is answered any more, whatever is asked.
        device.injected = [
            FaultInjection("request_lost", step, after, -1),
            FaultInjection("request_lost", "read", 1, -1),
        ]
        outcome = writing.write(link, WANTED)
        assert outcome.verdict == "unknown"
        assert outcome.after is None
        assert "no whole answer" in outcome.why
        assert outcome.before == FACTORY


@pytest.mark.parametrize("over", ["tcp", "pty"])
def test_a_device_that_keeps_only_half_is_found_out(tmp_path, over):
    with on_the_bench(spit_runner(), over, tmp_path, patience=PATIENCE_S) as (link, device):
        device.injected = [FaultInjection("torn", "keep", times=-1)]
        outcome = writing.write(link, WANTED)
        assert outcome.verdict == "neither"
        assert set(outcome.differs) == set(WANTED) - {"motor_current_a", "pack_current_a"}
        assert outcome.differs["cells_in_series"] == (10, 5)
        assert "started anew" in " ".join(outcome.troubles)


def test_a_value_where_there_was_none_is_a_change_too(tmp_path):
    with on_the_bench(spit_runner(), "tcp", tmp_path, patience=PATIENCE_S) as (link, device):
        device.injected = [FaultInjection("torn", "keep", times=-1)]
        outcome = writing.write(link, {"taper_start_v": 34.0, "cells_in_series": 10})
        assert device.memory.values == {**FACTORY, "taper_start_v": 34.0}
        assert outcome.verdict == "neither"


def test_whatever_goes_wrong_the_outcome_tells_what_the_device_holds(tmp_path):
    chance = random.Random(11)
    kinds, places = [f for f in LINK_FAULTS if f != "late"], [None, "read", "begin", "set", "keep", "set value"]
    for evaluation in range(40):
        with on_the_bench(spit_runner(), "tcp", tmp_path, patience=PATIENCE_S) as (link, device):
            device.memory.forget()
            device.injected = [
                FaultInjection(
                    chance.choice(kinds), chance.choice(places), chance.randrange(6), chance.choice([1, 1, 2, 5])
                )
                for _ in range(chance.randrange(1, 5))
            ]
            try:
                outcome = writing.write(link, WANTED)
            except LinkFailed:
                assert device.memory.values == FACTORY, (evaluation, "nothing was begun, nothing may have changed")
                continue
            if outcome.verdict == "unknown":
                assert outcome.why
                continue
            assert outcome.after == device.memory.values, evaluation
            assert (outcome.verdict == "as wanted") == holds(device.memory.values), evaluation
            assert outcome.differs == writing.differences(WANTED, device.memory.values), evaluation


def test_a_value_out_of_range_is_refused_with_its_name_and_nothing_is_kept(tmp_path):
    with on_the_bench(spit_runner(), "tcp", tmp_path) as (link, device):
        outcome = writing.write(link, {**WANTED, "motor_current_a": 400.0})
        assert (outcome.verdict, outcome.refused, outcome.why) == (
            "as before",
            "motor_current_a",
            "from 1 to 60, not 400",
        )
        assert device.memory.values == FACTORY


def test_stopping_in_the_middle_is_followed_by_a_look(tmp_path):
    said: list[str] = []
    with on_the_bench(spit_runner(), "tcp", tmp_path) as (link, device):
        link.stopped = lambda: "sending 3 of 5" in said
        outcome = writing.write(link, WANTED, said.append)
        assert (outcome.verdict, outcome.why) == ("as before", "stopped before it was finished")
        assert device.memory.values == FACTORY
    with on_the_bench(spit_runner(), "tcp", tmp_path) as (link, _):
        link.stopped = lambda: True
        with pytest.raises(Stopped):
            writing.write(link, WANTED)


def test_settings_outlive_a_restart_and_a_reset_brings_the_five_cells_back(tmp_path):
    with on_the_bench(spit_runner(), "pty", tmp_path) as (link, device):
        assert writing.write(link, WANTED).verdict == "as wanted"
        device.start()
    with on_the_bench(spit_runner(), "tcp", tmp_path) as (link, _):
        assert holds(writing.read(link))
        link.ask("reset")
        assert writing.read(link)["cells_in_series"] == 5


@pytest.mark.parametrize("over", ["tcp", "pty"])
def test_ten_thousand_messages_without_loss(tmp_path, over):
    with on_the_bench(spit_runner(), over, tmp_path, patience=5.0) as (link, _):
        link.ask("watch", count=8000, fast=True)
        assert [m["n"] for m in link.told(60)] == list(range(8000))
    with on_the_bench(spit_runner(), over, tmp_path, patience=5.0) as (link, device):
        for number in range(1000):
            assert link.ask("begin", token=f"t{number}")["ok"]
            assert device.token == f"t{number}"
        assert link.troubles == []


def test_nobody_there_is_said_soon():
    with Link("socket://127.0.0.1:9", patience=PATIENCE_S) as link, pytest.raises(LinkFailed, match="hello"):
        link.ask("hello")


# --- a device that floods ---------------------------------------------------------------------------------------------


@contextmanager
def flooding(piece: bytes):
    """Something at the other end that says the same over and over, as fast as it is taken."""
    door = socket.create_server(("127.0.0.1", 0))
    ended = threading.Event()

    def pour():
        door.settimeout(0.2)
        while not ended.is_set():
            try:
                there, _ = door.accept()
            except OSError:
                continue
            with there, suppress(OSError):
                there.settimeout(0.2)
                while not ended.is_set():
                    with suppress(TimeoutError):
                        there.send(piece)

    thread = threading.Thread(target=pour, daemon=True)
    thread.start()
    try:
        yield f"socket://127.0.0.1:{door.getsockname()[1]}"
    finally:
        ended.set()
        thread.join(5)
        door.close()


FLOODS = {
    "noise without an end": b"\xff" * 4096,
    "lines that are none": b"x\n" * 2048,
    "answers that nobody asked for": line_of({"to": -1, "ok": True, "pad": "y" * 4000}),
    "telling without end": line_of({"tell": "frame", "phase": "spin", "pad": "y" * 4000}) * 4,
}


@pytest.mark.parametrize("piece", FLOODS.values(), ids=FLOODS)
def test_a_device_that_floods_the_line_fills_no_memory_and_is_given_up(piece):
    with flooding(piece) as address, Link(address, patience=0.3) as link:
        tracemalloc.start()
        try:
            with pytest.raises(LinkFailed):
                link.ask("hello")
            with suppress(LinkFailed):
                sum(1 for _ in link.told(1.5))
            peak = tracemalloc.get_traced_memory()[1]
        finally:
            tracemalloc.stop()
        assert peak < 4_000_000, "megabytes of a flood are not kept"
        assert len(link.troubles) <= 50


def test_a_run_that_is_told_without_end_is_ended_and_the_motors_stopped():
    asked = []
    frame = {"phase": "spin", "t": 0.1, "motors": [], "pack_v": 40.0, "pack_a": 2.0}

    class Endless:
        def ask(self, do, **_):
            asked.append(do)
            return {"pack_v": 40.0}

        def told(self, seconds):
            while True:
                yield frame

    with pytest.raises(LinkFailed, match="without end"):
        running.spin(Endless(), 3.0)
    assert asked == ["hello", "run", "stop"]
