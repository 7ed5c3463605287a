"""The wiring: gauges by current and fuse, guards and their gaps, the order of joining, the drawing."""

import itertools
import xml.etree.ElementTree as ElementTree

import numpy as np
import pytest
from scipy.optimize import brentq

from boardmath import predict, read_build
from boardmath.geometry.cell_links import drive_current
from boardmath.model.resolution import resolve
from boardmath.physics.wire import GAUGES, ampacity
from planner.wiring.diagram import STROKES, diagram, svg
from planner.wiring.guards import guards
from planner.wiring.path import least_gauge, wires
from planner.wiring.report import wiring_report
from tests.core.boards import SPIT_RUNNER, any_builds, changed, spit_runner
from tests.core.scalar_model import ScalarBoard

ROUND = {"parts__pack__protection__in_drive_path": False}


def by_id(build):
    return {w.id: w for w in wires(build)}


def test_a_gauge_bears_its_current_and_outlives_its_fuse():
    for current in (1.0, 12.0, 35.0, 80.0):
        thin = least_gauge(current)
        assert ampacity(thin) >= current
        assert ampacity(thin + 2.0) < current or thin == 26.0, "and no thicker than it has to be"
    assert least_gauge(10.0, 60.0) == least_gauge(60.0)


UNLIMITED = {
    "settings": {},
    "parts.controller.max_pack_current_a": None,
    "parts.pack.protection": None,
    "parts.fuse": None,
}


def most_drawn(build) -> float:
    """A out of the pack at the fullest throttle that the independent model knows, over all speeds up to the fastest."""
    board = ScalarBoard(resolve(build))
    voc, r = board.open_circuit(board.q_top), board.cells(board.q_top, board.kelvin) + board.r_path
    most = 0.0
    for speed in np.linspace(0.0, board.top_speed(q=board.q_top), 25):

        def over(force: float, v: float = float(speed)) -> float:
            return board.worst(v, force, 0.0, voc, r)[0] - 1.0

        if over(board.drag) < 0.0:
            force = brentq(over, board.drag, 5000.0)
            most = max(most, board.electric(float(speed), force, voc, r)["i"])
    return most


@pytest.mark.parametrize("motors", [1, 2])
@pytest.mark.parametrize("programmable", [True, False])
@pytest.mark.parametrize("cell", ["new", "salvaged"])
@pytest.mark.parametrize("says", [True, False], ids=["says", "says nothing"])
def test_wires_are_sized_by_what_can_flow(motors, programmable, cell, says):
    """Without a stated limit the wires bear whatever the independent model may draw, and not what cells ought to bear."""
    for series, parallel, kv, amperes in itertools.product((6, 12), (1, 3), (90, 190), (20, 60)):
        build = read_build(
            changed(
                SPIT_RUNNER,
                UNLIMITED
                | {
                    "parts.pack.series": series,
                    "parts.pack.parallel": parallel,
                    "parts.pack.cell.origin": cell,
                    "parts.pack.cell.max_discharge_a": 5.0,
                    "parts.motors.count": motors,
                    "parts.motors.kv_rpm_per_v": kv,
                    "parts.motors.max_current_a": amperes,
                    "parts.controller.max_motor_current_a": amperes if says else None,
                    "parts.controller.programmable": programmable,
                },
            )
        )
        current = drive_current(build).current
        assert most_drawn(build) <= current * 1.001
        for wire in wires(build):
            if wire.carries in ("plus", "minus"):
                assert wire.least_awg <= 14.0, "never thinner than common practice"
                assert ampacity(wire.least_awg) >= wire.current_a or wire.least_awg == GAUGES[-1]
        assert current > 5.0 * parallel
        asked = [f for f in predict(build, bands=False).findings if f.kind == "cells-current"]
        assert [f.severity for f in asked] == ["danger"]
        assert "No limit is stated" in asked[0].text
        assert wiring_report(build).sized_for.text.startswith("No limit is stated")


def test_the_whole_current_runs_to_the_switch_and_is_shared_by_the_controllers():
    two = by_id(spit_runner(parts__motors__count=2, parts__controller__units=2, settings__pack_current_a=20))
    assert two["plus-switch"].current_a == 40.0
    assert two["plus-controller-1"].current_a == two["plus-controller-2"].current_a == 20.0
    assert two["phase-2"].start == "controller-2"


def test_with_the_board_in_the_path_all_minus_runs_through_it():
    assert (by_id(spit_runner())["minus-board"].end, by_id(spit_runner())["minus-controller-1"].start) == (
        "protection",
        "protection",
    )


def test_a_load_that_is_led_round_the_board_is_drawn_as_what_it_is():
    build = spit_runner(**ROUND)
    assert by_id(build)["minus-controller-1"].start == "pack"
    assert "charge-board" in by_id(build)
    assert "bypasses the BMS" in diagram(build).words
    assert any("protects only while charging" in j.why.text for j in wiring_report(build).joints)


def test_plugs_that_do_not_mate_are_named():
    wire = by_id(spit_runner(parts__pack__plug="5 mm bullet", parts__controller__plug="4 mm bullet"))[
        "plus-controller-1"
    ]
    assert wire.mismatch
    assert not by_id(spit_runner())["plus-controller-1"].mismatch


GAPS = {
    # Against what, a wiring in which nothing guards, and its twin in which something does.
    "short": ({**ROUND, "parts__fuse": None}, {**ROUND, "parts__fuse": {"a": 50}}),
    "emptying": ({**ROUND, "settings__taper_end_v": None}, {**ROUND, "settings__taper_end_v": 31}),
    "overcharge": (
        {"parts__pack__protection": None},
        {"parts__pack__protection": None, "parts__charger__balance": True},
    ),
    "over_current": (
        {
            **ROUND,
            "parts__fuse": None,
            "settings__pack_current_a": None,
            "parts__controller__max_pack_current_a": None,
        },
        {**ROUND, "parts__fuse": None},
    ),
    "heat": ({}, {"parts__pack__protection__sensor": True}),
    "reversed": ({"parts__pack__plug": "ring terminals"}, {"parts__pack__plug": "keyed pair"}),
}


@pytest.mark.parametrize("against", GAPS)
def test_a_gap_is_a_finding_and_its_fixes_close_it(against):
    open_, closed = GAPS[against]
    guard = next(g for g in guards(spit_runner(**open_)) if g.against == against)
    assert guard.gap
    assert guard.by == []
    assert guard.finding is not None
    twin = next(g for g in guards(spit_runner(**closed)) if g.against == against)
    assert not twin.gap
    assert twin.finding is None
    for fix in guard.finding.fixes:
        document = changed(changed(SPIT_RUNNER, open_), fix.changes)
        assert not next(g for g in guards(read_build(document)) if g.against == against).gap, fix.message.text


def test_the_loop_plug_comes_last_and_after_polarity():
    told = [j.do.text for j in wiring_report(spit_runner()).joints]
    assert "Loop key last" in told[-1]
    polarity = next(i for i, text in enumerate(told) if "polarity" in text)
    leads = next(i for i, text in enumerate(told) if "Balance plug" in text)
    assert leads < polarity < len(told) - 1
    assert [j.number for j in wiring_report(spit_runner()).joints] == list(range(1, len(told) + 1))


def test_steps_name_only_wires_that_there_are_and_every_plus_and_minus_once():
    for build in [spit_runner(), spit_runner(**ROUND), spit_runner(parts__pack__protection=None, parts__fuse=None)]:
        there = {w.id: w for w in wires(build)}
        named = [id for joint in wiring_report(build).joints for id in joint.wires]
        assert set(named) <= set(there)
        heavy = [w.id for w in there.values() if w.carries in ("plus", "minus", "phase")]
        assert all(named.count(id) == 1 for id in heavy)


def test_what_is_cut_is_enough_for_every_wire():
    build = spit_runner(parts__motors__count=2)
    report = wiring_report(build)
    for awg in {w.awg for w in report.wires if w.carries not in ("sensor", "signal")}:
        needed = sum(
            w.count * w.length_mm for w in report.wires if w.awg == awg and w.carries not in ("sensor", "signal")
        )
        cut = sum(c.length_mm for c in report.cuts if c.what.startswith(f"Silicone wire, {awg:g} AWG"))
        assert 1.05 * needed <= cut <= 1.2 * needed + 50.0


def test_every_line_ends_at_boxes_and_is_told_apart_without_colour():
    drawn = diagram(spit_runner(**ROUND, parts__motors__count=2, parts__remote={"link": "serial"}))
    boxes = {b.id: b for b in drawn.boxes}
    ends = {
        w.id: (w.start, w.end)
        for w in wires(spit_runner(**ROUND, parts__motors__count=2, parts__remote={"link": "serial"}))
    }

    def touches(box, x: float, y: float) -> bool:
        return box.x - 1 <= x <= box.x + box.width + 1 and box.y - 1 <= y <= box.y + box.height + 1

    for line in drawn.lines:
        start, end = ends[line.id]
        assert touches(boxes[start], *line.points[:2]), line.id
        assert touches(boxes[end], *line.points[-2:]), line.id
    strokes = {STROKES[k] for k in ("plus", "minus", "phase", "balance", "signal")}
    assert len(strokes) == 5


def test_boxes_of_the_drawing_do_not_lie_over_each_other():
    loads = [{"name": f"Light {n}", "a": 0.3} for n in range(3)]
    for more in ({}, ROUND, {"parts__motors__count": 4, "parts__controller__units": 4}, {"parts__loads": loads}):
        found = diagram(spit_runner(**more, parts__remote={"link": "serial"})).boxes
        for i, a in enumerate(found):
            for b in found[i + 1 :]:
                apart = a.x + a.width <= b.x or b.x + b.width <= a.x or a.y + a.height <= b.y or b.y + b.height <= a.y
                assert apart, (a.id, b.id, more)


def test_the_drawing_is_a_file_of_its_own_in_black_and_white():
    root = ElementTree.fromstring(svg(diagram(spit_runner())))
    tones = {e.get(k) for e in root.iter() for k in ("fill", "stroke")} - {None}
    assert tones <= {"#000", "#fff", "none"}
    assert any("Loop key" in (e.text or "") for e in root.iter())


def test_any_build_at_all_can_be_wired_or_says_that_it_cannot():
    for build in any_builds(60, 21):
        report = wiring_report(build)
        assert bool(report.wires) == (build.parts.pack is not None and build.parts.pack.series is not None)
