"""Where a board stands: every kind of next step with a case in which it comes and its twin in which it does not."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from functools import cache
from typing import Any

import pytest

from boardmath.buildfile import Build, check, read_build
from boardmath.buildfile.bench_test import BenchTest
from boardmath.checks import Finding
from boardmath.messages import message
from boardmath.predictor import predict
from planner.assembly.report import assembly_report
from planner.bench_test import report_on
from planner.maintenance.schedule import RodeOn
from planner.navigation import PAGES
from planner.overview import BuildFacts, RecordKept, RevisionKept, RidesKept, TestKept, WorkDay, overview
from planner.overview.report import RULES, next_steps
from tests.core.assembled import Written
from tests.core.boards import SPIT_RUNNER, changed

TODAY = date(2026, 11, 26)
PARTS = [*SPIT_RUNNER["parts"]]
HERE = {
    **{f"parts.{p}.purchase.status": "arrived" for p in PARTS if p != "extras"},
    "parts.extras.0.owned": True,
}
BUILDING = {**HERE, "stage": "building"}
BAG = [{"id": f"a{i}", "capacity_ah": 2.4 + 0.01 * (i % 7)} for i in range(31)]
IN_GROUPS = [{**cell, "group": 1 + i // 3} for i, cell in enumerate(BAG[:30])]
READ = [round(3.75 * lead, 2) for lead in range(11)]
SHEET = RecordKept(number=1, on=date(2026, 11, 1), reason="first set-up")
PASSED = TestKept(number=1, on=date(2026, 11, 2), standing="passes", record_number=1)


def known(changes: dict[str, Any] | None = None, **more: Any) -> BuildFacts:
    """A board with the brakes' danger set aside, so that what is asked for is what comes next."""
    word = {"finding": "full-pack-brakes", "reason": "flat kilometres come first", "day": "2026-11-20"}
    build = read_build(changed(SPIT_RUNNER, {"accepted": [word], **(changes or {})}))
    found = predict(build)
    return replace(
        BuildFacts(
            build=build,
            today=TODAY,
            findings=found.findings,
            outcomes=found.outcomes,
            needs=[n.reason for n in found.needs],
            prediction=found,
        ),
        **more,
    )


def ids(board: BuildFacts) -> list[str]:
    return [step.id for step in next_steps(board)]


def step(board: BuildFacts, id: str) -> Any:
    found = [s for s in next_steps(board) if s.id == id]
    assert len(found) == 1, f"{id} among {ids(board)}"
    return found[0]


def of(severity: str, aside: Any = None) -> Finding:
    return Finding(
        id=f"a-{severity}",
        kind="no-fuse",
        severity=severity,
        title="A thing",
        about=[],
        fields=[],
        text="x",
        message=message("x"),
        aside=aside,
    )


def going(**entered: Any) -> Any:
    return report_on(read_build(SPIT_RUNNER), check(BenchTest, entered))


def worked(*done: str, here: bool = True, changes: Any = None, measured: Any = None) -> Any:
    """How the assembly stands when these steps were ticked on the board as it was."""
    was = read_build(changed(SPIT_RUNNER, HERE if here else {}))
    now = read_build(changed(SPIT_RUNNER, {**(HERE if here else {}), **(changes or {})}))
    log = Written(was).done(*done)
    if measured:
        log.message("measured", step="belt-line", values=measured)
    return assembly_report(now, log.log, TODAY)


RIDDEN = {**HERE, "stage": "riding"}
CASES: dict[str, tuple[str, Callable[[], BuildFacts], Callable[[], BuildFacts]]] = {
    "a board that is ridden is asked for its rides until there is one": (
        "write-rides",
        lambda: known(RIDDEN, rides=RidesKept(0)),
        lambda: known(RIDDEN, rides=RidesKept(3)),
    ),
    "what is due by the kilometre comes until it is seen to": (
        "maintenance-due",
        lambda: known(RIDDEN, rides=RidesKept(4, ridden=[RodeOn(date(2026, 11, d), 40.0) for d in (3, 9, 15, 21)])),
        lambda: known(RIDDEN, rides=RidesKept(1, ridden=[RodeOn(date(2026, 11, 21), 10.0)])),
    ),
    "wheels that the caliper finds worn are changed": (
        "wheels-worn",
        lambda: known({"maintenance": {"wheels_new_mm": 95}}),
        lambda: known({"maintenance": {"wheels_new_mm": 92}}),
    ),
    "a ride that contradicts the others is looked at": (
        "odd-rides",
        lambda: known(RIDDEN, rides=RidesKept(6, odd=["2026-08-09"])),
        lambda: known(RIDDEN, rides=RidesKept(6)),
    ),
    "of what is hardly begun every board can be tried": (
        "explore",
        lambda: known({"stage": "planned", "parts.motors": None, "parts.wheels": None}),
        lambda: known({"stage": "planned"}),
    ),
    "what can hurt comes until it is mended": (
        "controller-cells-mismatch",
        lambda: known({"settings.cells_in_series": 5}),
        lambda: known({"settings.cells_in_series": 10}),
    ),
    "what does not fit comes until it fits": (
        "box-contents",
        lambda: known({"parts.enclosure.length_mm": 200}),
        lambda: known(),
    ),
    "a board without a brief is asked what it is for": (
        "brief",
        lambda: known({"brief": {}}),
        lambda: known({"brief": {"range_km": 10}}),
    ),
    "what is not chosen is chosen next": ("choose", lambda: known({"parts.motors": None}), lambda: known()),
    "a brief that is not kept is said": (
        "short-range",
        lambda: known({"brief.range_km": 90}),
        lambda: known({"brief.range_km": 90, "stage": "riding"}),
    ),
    "what should be weighed up is, before it is bought": (
        "warnings",
        lambda: known(),
        lambda: known({"stage": "building"}),
    ),
    "a late part is asked after": (
        "late-parts.motors",
        lambda: known({"parts.motors.purchase": {"status": "ordered", "due_on": "2026-11-02"}}),
        lambda: known({"parts.motors.purchase": {"status": "ordered", "due_on": "2026-11-30"}}),
    ),
    "a faulty part is asked after": (
        "faulty-parts.drive",
        lambda: known({"parts.drive.purchase": {"status": "faulty"}}),
        lambda: known({"parts.drive.purchase": {"status": "replaced"}}),
    ),
    "what is chosen is ordered": ("order", lambda: known(), lambda: known(HERE)),
    "nothing is ordered for a board that can hurt": (
        "order",
        lambda: known(),
        lambda: known({"settings.cells_in_series": 5}),
    ),
    "a plan whose parts are all here is built": ("begin-building", lambda: known(HERE), lambda: known(BUILDING)),
    "one part that is missing keeps it from being built": (
        "begin-building",
        lambda: known(HERE),
        lambda: known({**HERE, "parts.fuse.purchase.status": "ordered"}),
    ),
    "salvaged cells are measured, which takes longest": (
        "measure-cells",
        lambda: known({"parts.pack.cell.origin": "salvaged"}),
        lambda: known({"parts.pack.cell.origin": "new"}),
    ),
    "measured cells are sorted": (
        "sort-cells",
        lambda: known({"pack_assembly.cells": BAG}),
        lambda: known({"pack_assembly.cells": IN_GROUPS}),
    ),
    "a pack of one's own is planned before it is welded": (
        "plan-pack",
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS}),
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS, "pack_assembly.plan.strip": "copper"}),
    ),
    "nobody plans the links of a pack that is bought": (
        "plan-pack",
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS}),
        lambda: known(BUILDING),
    ),
    "every balance lead is read": (
        "read-leads",
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS}),
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS, "pack_assembly.balance_leads.readings": READ}),
    ),
    "the first charge is watched": (
        "first-charge",
        lambda: known(BUILDING),
        lambda: known({**BUILDING, "pack_assembly.charges": [{"began": "2026-11-22T13:05Z", "ended": "by_itself"}]}),
    ),
    "no charge before every wire is read": (
        "first-charge",
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS, "pack_assembly.balance_leads.readings": READ}),
        lambda: known({**BUILDING, "pack_assembly.cells": IN_GROUPS}),
    ),
    "a controller is decided on": ("settings", lambda: known({"settings": {}}), lambda: known()),
    "a boxed controller has nothing to decide": (
        "settings",
        lambda: known({"settings": {}}),
        lambda: known({"settings": {}, "parts.controller.programmable": False}),
    ),
    "a controller that is here is set": (
        "set",
        lambda: known(BUILDING),
        lambda: known(BUILDING, settings_records=[SHEET]),
    ),
    "a controller that is on its way is not set yet": (
        "set",
        lambda: known(BUILDING),
        lambda: known({**BUILDING, "parts.controller.purchase.status": "ordered"}),
    ),
    "what was set otherwise than wanted is set again": (
        "set-again",
        lambda: known(BUILDING, settings_records=[SHEET], set_otherwise=True),
        lambda: known(BUILDING, settings_records=[SHEET]),
    ),
    "what was set and can hurt comes first": (
        "set-a-danger",
        lambda: known(BUILDING, settings_records=[SHEET], as_set=[of("danger")]),
        lambda: known(BUILDING, settings_records=[SHEET], as_set=[of("warn")]),
    ),
    "a board that is set is tested before it is ridden": (
        "bench-test",
        lambda: known(BUILDING, settings_records=[SHEET]),
        lambda: known(BUILDING, settings_records=[SHEET], tests=[PASSED]),
    ),
    "a board that was set since is tested again": (
        "bench-test",
        lambda: known(BUILDING, settings_records=[SHEET, replace(SHEET, number=2)], tests=[PASSED]),
        lambda: known(BUILDING, settings_records=[SHEET], tests=[PASSED]),
    ),
    "a board on which a passed step would fail now is tested again": (
        "bench-test",
        lambda: known(BUILDING, settings_records=[SHEET], tests=[PASSED], no_longer=["Cut-off"]),
        lambda: known(BUILDING, settings_records=[SHEET], tests=[PASSED]),
    ),
    "a plan is not tested": (
        "bench-test",
        lambda: known(BUILDING, settings_records=[SHEET]),
        lambda: known(HERE, settings_records=[SHEET]),
    ),
    "a tested board is ridden": (
        "first-ride",
        lambda: known(BUILDING, settings_records=[SHEET], tests=[PASSED]),
        lambda: known(BUILDING, settings_records=[SHEET], tests=[replace(PASSED, standing="fails", failed=["Brake"])]),
    ),
    "the work goes on step by step": (
        "assemble",
        lambda: known(BUILDING, work=worked("lay-out")),
        lambda: known(HERE, work=worked("lay-out")),
    ),
    "a parcel that holds all of it up is named": (
        "assemble-waits",
        lambda: known(BUILDING, work=worked("lay-out", "weigh-parts", here=False)),
        lambda: known(BUILDING, work=worked("lay-out", "weigh-parts")),
    ),
    "what stands on something that changed is looked at again": (
        "look-again",
        lambda: known(BUILDING, work=worked("lay-out", "belt-line", changes={"parts.drive.wheel_teeth": 36})),
        lambda: known(BUILDING, work=worked("lay-out", "belt-line")),
    ),
    "what was measured and is not right stops": (
        "wrong-belt-line",
        lambda: known(BUILDING, work=worked("lay-out", measured={"near-1": 0.2, "far-1": 1.8})),
        lambda: known(BUILDING, work=worked("lay-out", measured={"near-1": 0.1, "far-1": 0.1})),
    ),
    "a whole board is weighed": ("weigh", lambda: known(BUILDING), lambda: known({**BUILDING, "weighed_kg": 7.4})),
    "small parts are looked through": ("forgotten", lambda: known(), lambda: known({"stage": "riding"})),
    "what makes the band narrowest is measured": (
        "measure",
        lambda: known(BUILDING),
        lambda: known({"stage": "planned"}),
    ),
    "what is not here is not measured": (
        "measure",
        lambda: known(BUILDING),
        lambda: known({"stage": "building", "rider.height_m": 1.8}),
    ),
    "a box that is made is made while parcels are on their way": (
        "make-box",
        lambda: known({**BUILDING, "parts.enclosure.purchase": None, "parts.enclosure.material": "petg"}),
        lambda: known({**BUILDING, "parts.enclosure.material": "petg"}),
    ),
    "a plan is kept before the first order": (
        "keep-plan",
        lambda: known(),
        lambda: known(revisions=[RevisionKept(name="Planned", on=TODAY)]),
    ),
    "a ridden board that has changed is kept": (
        "keep-point",
        lambda: known({**HERE, "stage": "riding"}, changed=True),
        lambda: known({**HERE, "stage": "riding"}, changed=False),
    ),
}


@cache
def twins(name: str) -> tuple[BuildFacts, BuildFacts]:
    """A board of which the step is asked, and one of which it is not."""
    _, evaluation, twin = CASES[name]
    return evaluation(), twin()


@pytest.mark.parametrize("name", CASES)
def test_a_step_comes_when_it_is_due_and_not_otherwise(name):
    id, evaluation, twin = CASES[name][0], *twins(name)
    assert id in ids(evaluation)
    if name == "what is not here is not measured":
        assert all(f.split(".")[0] != "parts" for f in [s.field or "" for s in next_steps(twin) if s.id == id])
    else:
        assert id not in ids(twin)


def test_every_rule_has_a_case():
    boards = [twins(name)[0] for name in CASES]
    said = {s.id for board in boards for s in next_steps(board)}
    silent = [rule.__name__ for rule in RULES if not any(s.id in said for board in boards for s in rule(board))]
    assert not silent


def test_dangers_come_first_then_what_will_not_work_then_what_is_late():
    board = known(
        {
            "settings.cells_in_series": 5,
            "parts.enclosure.length_mm": 200,
            "parts.motors.purchase": {"status": "ordered", "due_on": "2026-11-02"},
        }
    )
    urgencies = [s.urgency for s in next_steps(board)]
    order = ["danger", "stop", "late", "due", "next", "better"]
    assert urgencies == sorted(urgencies, key=order.index)
    assert urgencies[0] == "danger"
    assert "late" in urgencies


def test_a_danger_that_is_accepted_with_a_word_is_no_next_step():
    assert "full-pack-brakes" not in ids(known())
    assert "full-pack-brakes" in ids(known({"accepted": None}))


def test_a_fix_of_a_step_is_the_findings_own_and_fixes_it():
    board = known({"settings.cells_in_series": 5})
    fix = step(board, "controller-cells-mismatch").fix
    assert "controller-cells-mismatch" not in ids(known({"settings.cells_in_series": 5, **fix.changes}))


def test_late_parts_of_one_order_are_one_step_with_the_worst_of_them():
    order = {"name": "Hythermere Motion", "due_on": "2026-11-02"}
    late = {"status": "ordered", "order": "Hythermere Motion"}
    board = known(
        {"orders": [order], "parts.motors.purchase": late, "parts.drive.purchase": {**late, "due_on": "2026-11-20"}}
    )
    found = step(board, "late-Hythermere Motion")
    assert "24 days late" in found.title.text
    assert found.why.text.startswith("Ask Hythermere Motion, or buy elsewhere")


def test_a_failing_bench_test_holds_the_board():
    board = known(BUILDING, settings_records=[SHEET], under_way=going(wheels_free=True, polarity_right=False))
    found = step(board, "bench-test")
    assert found.urgency == "stop"
    assert "polarity" in found.title.text.lower()
    half = step(known(BUILDING, settings_records=[SHEET], under_way=going(wheels_free=True)), "bench-test")
    assert half.urgency == "next"
    assert half.why.text.startswith("1 of ")


def test_each_step_leads_to_a_room_that_there_is_and_says_why():
    pages = {r.slug for r in PAGES}
    for evaluation in (twins(name)[0] for name in CASES):
        for s in next_steps(evaluation):
            assert s.page in pages
            assert s.why.text
            assert s.label
            assert "{" not in s.why.text


def test_words_of_a_person_are_no_template():
    odd = {"parts.motors.name": "{kv} motor", "parts.motors.purchase": {"status": "faulty"}}
    record = replace(SHEET, reason="{why} not")
    board = known(odd, settings_records=[record])
    assert "{kv} motor" in step(board, "faulty-parts.motors").title.text
    assert any("{why} not" in e.what.text for e in overview(board).recent)


def progress(board: BuildFacts) -> dict[str, str]:
    return {s.slug: s.progress for s in overview(board).stages}


def test_a_stage_says_how_far_it_is():
    assert progress(known())["plan"] == "done"
    assert progress(known({"settings.cells_in_series": 5}))["plan"] == "trouble"
    assert progress(known({"parts": {}}))["plan"] == "open"
    assert progress(known({"brief.range_km": 90}))["plan"] == "under way"
    assert progress(known())["buy"] == "open"
    assert progress(known(HERE))["buy"] == "done"
    assert progress(known({**HERE, "parts.fuse.purchase.status": "ordered"}))["buy"] == "under way"
    assert progress(known({**HERE, "parts.fuse.purchase.status": "faulty"}))["buy"] == "trouble"
    assert progress(known(BUILDING))["setup"] == "open"
    assert progress(known(BUILDING, settings_records=[SHEET]))["setup"] == "under way"
    assert progress(known(BUILDING, settings_records=[SHEET], tests=[PASSED]))["setup"] == "done"
    failed = replace(PASSED, standing="fails")
    assert progress(known(BUILDING, settings_records=[SHEET], tests=[failed]))["setup"] == "trouble"


def test_what_happened_comes_with_its_day_the_latest_first_and_nothing_of_the_future():
    board = known(
        {
            "orders": [{"name": "Tern Street", "ordered_on": "2026-10-01"}],
            "parts.wheels.purchase": {"status": "arrived", "arrived_on": "2026-10-09"},
            "parts.fuse.purchase": {"status": "arrived", "arrived_on": "2026-12-24"},
        },
        settings_records=[SHEET],
        tests=[PASSED],
        revisions=[RevisionKept(name="Planned", on=date(2026, 9, 1))],
    )
    days = [e.on for e in overview(board).recent]
    assert days == sorted(days, reverse=True)
    assert max(days) <= TODAY
    text = " ".join(e.what.text for e in overview(board).recent)
    for word in ("Ordered: Tern Street", "arrived", "record 1", "Bench test passed", "“Planned”", "Risk accepted"):
        assert word in text


def test_everything_that_has_a_day_is_among_what_happened():
    """One event of each kind, each on a day of its own, so that none can stand for another."""
    happened = {
        "parts-list": [
            ({"orders": [{"name": "Tern Street", "ordered_on": "2026-11-01"}]}, {}, "Ordered: Tern Street"),
            (
                {"parts.wheels.purchase": {"status": "faulty", "arrived_on": "2026-11-02"}},
                {},
                "came faulty",
            ),
        ],
        "assembly": [
            ({}, {"days": [WorkDay(on=date(2026, 11, 3), steps=2, photos=1)]}, "Two steps done, one photo"),
            ({}, {"days": [WorkDay(on=date(2026, 11, 4), troubles=["nut {stripped}"])]}, "nut {stripped}"),
        ],
        "bench-test": [
            (
                {},
                {"tests": [TestKept(number=2, on=date(2026, 11, 5), standing="fails", failed=["Cut-off", "Brake"])]},
                "Bench test failed: cut-off and brake",
            ),
            (
                {},
                {"tests": [TestKept(number=3, on=date(2026, 11, 6), standing="under way")]},
                "Bench test saved unfinished",
            ),
        ],
        "rides": [
            ({}, {"rides": RidesKept(count=1, latest=[(date(2026, 11, 7), 6.5, "belt")])}, "Rode 6.5 km: belt"),
            ({}, {"rides": RidesKept(count=1, latest=[(date(2026, 11, 8), None, "")])}, "Test ride"),
        ],
        "design": [
            (
                {"measured": [{"path": "parts.motors.kv_rpm_per_v", "by": "a drill", "day": "2026-11-09"}]},
                {},
                "Measured, a drill: kv rpm per v",
            ),
        ],
    }
    for page, ways in happened.items():
        for changes, more, words in ways:
            found = overview(known(changes, **more)).recent
            assert [e.page for e in found if words in e.what.text] == [page], words


def test_only_the_latest_are_told():
    many = [WorkDay(on=date(2026, 11, day), steps=day) for day in range(1, 20)]
    found = [e.on.day for e in overview(known(days=many)).recent if e.page == "assembly"]
    assert found == sorted(found, reverse=True)
    assert found[0] == 19
    assert len(overview(known(days=many)).recent) < len(many)


def test_an_empty_board_begins_with_its_brief():
    empty: Build = read_build({"format": "sand-pocket/build", "version": 1, "rider": {"mass_kg": 75}})
    found = predict(empty)
    board = BuildFacts(build=empty, today=TODAY, findings=found.findings, outcomes=found.outcomes, needs=["a deck"])
    assert ids(board)[:2] == ["brief", "choose"]
    assert step(board, "choose").title.text == "Choose the deck"


def test_the_stage_of_riding_says_how_far_and_the_last_rides_stand_among_what_happened():
    latest = [(date(2026, 11, 20), 11.2, "belt"), (date(2026, 11, 22), None, "")]
    found = overview(known({**HERE, "stage": "riding"}, rides=RidesKept(2, 11.2, latest=latest)))
    assert {s.slug: s.word.text for s in found.stages}["ride"] == "two rides, 11 km"
    told = [e.what.text for e in found.recent]
    assert "Rode 11.2 km: belt" in told
    assert "Test ride" in told
    assert {s.slug: s.progress for s in overview(known()).stages}["ride"] == "open"
