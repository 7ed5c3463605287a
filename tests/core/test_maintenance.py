"""Maintenance: due dates by hand over a year, wet rides, a drawer that empties, wheels that wear, and what failures teach."""

import csv
from datetime import date, timedelta
from io import StringIO
from math import exp, log

import pytest

from boardmath.buildfile import BuildFileError, check, read_build, write_build
from boardmath.buildfile.maintenance import Maintenance, TaskDone
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import drive_kind
from boardmath.model.model_inputs import WORN
from planner.maintenance.files import book_as_csv, write_maintenance
from planner.maintenance.report import due_now, maintenance_report, taken_from_the_drawer
from planner.maintenance.schedule import RodeOn, learned_km
from planner.maintenance.tasks import BY_ID, SEASONS, TASKS, TROUBLES
from planner.parts_list.accessories import forgotten
from planner.shared.csv_table import with_apostrophe, without_apostrophe
from tests.core.boards import SPIT_RUNNER, changed, spit_runner
from tests.core.test_calibration import KINDS

BOARD = spit_runner(stage="riding")
FIRST = date(2026, 1, 5)
YEAR = [RodeOn(FIRST + timedelta(days=7 * i), 10.0, wet=i % 5 == 4) for i in range(52)]
"""A year of 10 km every Monday, every fifth of them in the wet: 520 km, 100 of them wet."""
TODAY = YEAR[-1].on


def kept(*done, **more):
    maintenance = {"done": [{"id": f"d{i}", **d} for i, d in enumerate(done)], **more}
    return BOARD.model_copy(update={"maintenance": check(Maintenance, maintenance)})


def task(build, which, rides=YEAR, today=TODAY):
    return next(t for t in maintenance_report(build, rides, today).tasks if t.id == which)


def test_a_year_of_mondays_by_hand():
    """520 km and 357 days: belts at 100 km, a wet km counting one and a half; screws at 100 km or 120 days."""
    belts = task(BOARD, "belts")
    assert belts.since_km == 520
    assert belts.wet_rides == 10
    assert belts.share == pytest.approx((420 + 100 * 1.5) / 100)
    assert belts.state == "due"
    bearings = task(BOARD, "bearings")
    assert bearings.share == pytest.approx(max((420 + 100 * 3) / 300, 358 / 365))
    capacity = task(BOARD, "capacity")
    assert capacity.since_days == 358
    assert capacity.share == pytest.approx(358 / 182)


def test_seen_to_in_october_it_is_due_again_in_december():
    """Seen to on 5 October: six Mondays later 60 km, 10 of them wet, so 65 counted of 100; at 80 it is soon, at 100 due."""
    build = kept({"task": "belts", "on": "2026-10-05"})
    at = date(2026, 11, 16)
    soon = task(build, "belts", [r for r in YEAR if r.on <= at], at)
    assert (soon.since_km, soon.wet_rides) == (60, 1)
    assert soon.share == pytest.approx(0.65)
    assert soon.state == "in_time"
    # 35 counted km are left; of late it was 10 km a week.
    a_day = 90 / 60
    assert soon.due_on == (at + timedelta(days=int(35 / a_day))).isoformat()
    assert task(build, "belts").state == "due"
    assert task(build, "belts", [r for r in YEAR if r.on <= date(2026, 11, 30)], date(2026, 11, 30)).state == "soon"


def test_a_gap_of_a_year_is_days_and_no_kilometres():
    build = kept({"task": "screws", "on": "2026-12-28"}, {"task": "belts", "on": "2026-12-28"})
    later = TODAY + timedelta(days=380)
    screws, belts = (task(build, t, YEAR, later) for t in ("screws", "belts"))
    assert screws.state == "due"
    assert screws.due_km == 100
    assert belts.state == "in_time"
    assert belts.due_on is None, "nobody knows when what is not ridden is due"


def test_a_board_that_nobody_rode_has_nothing_due():
    assert due_now(BOARD, [], TODAY) == []
    assert due_now(BOARD, YEAR, TODAY)[0].share >= due_now(BOARD, YEAR, TODAY)[-1].share


def test_what_is_asked_of_a_board_is_on_it():
    asked = {
        kind: {t.id for t in TASKS if t.applies(read_build(changed(SPIT_RUNNER, said)))} for kind, said in KINDS.items()
    }
    assert "belts" in asked["belt"] - asked["hub"]
    assert "tyres" in asked["pneumatic"] - asked["belt"]
    assert "wheels_turned" in asked["belt"] - asked["pneumatic"]
    for kind, said in KINDS.items():
        build = read_build(changed(SPIT_RUNNER, said))
        assert ("belts" in asked[kind]) == (drive_kind(build) == "belt")
        told = maintenance_report(build, YEAR, TODAY).troubles
        assert {t.task for t in told} <= asked[kind]
    assert {t.task for t in TROUBLES} <= set(BY_ID)


def test_a_spare_that_is_used_is_gone_and_the_list_asks_for_more():
    spares = [{"id": "b", "name": "Belt 56 teeth", "task": "belts", "count": 2, "wanted": 2, "price": 9.5}]
    build = kept(spares=spares)
    assert not [s for s in forgotten(build) if s.id == "spare-b"]
    done = check(TaskDone, {"id": "x", "task": "belts", "on": "2026-12-28", "changed": True, "spare": "b", "count": 2})
    after = taken_from_the_drawer(build, done)
    assert after.maintenance.spares[0].count == 0
    (asks,) = [s for s in forgotten(after) if s.id == "spare-b"]
    assert (asks.record.name, asks.record.count, asks.record.price) == ("Belt 56 teeth", 2, 9.5)
    assert maintenance_report(after, YEAR, TODAY).to_buy[0].id == "b"
    bought = after.model_copy(
        update={"parts": after.parts.model_copy(update={"extras": [*(after.parts.extras or []), asks.record]})}
    )
    assert not [s for s in forgotten(bought) if s.id == "spare-b"], "on the list it is not asked for twice"


def test_wheels_worn_by_5_mm_slow_the_board_as_the_model_says():
    measured = {"id": "w", "task": "wheels_worn", "on": "2026-12-28", "diameter_mm": 85.0}
    after = taken_from_the_drawer(BOARD, check(TaskDone, measured))
    assert after.parts.wheels.diameter_mm == 85
    assert after.maintenance.wheels_new_mm == 90
    assert any(m.path == "parts.wheels.diameter_mm" for m in after.measured)
    then, now = (Evaluation(b, 0).headline_values for b in (BOARD, after))
    assert now["speed"][0] / then["speed"][0] == pytest.approx(85 / 90 / WORN, rel=0.012), "by its gearing"
    needed = [c.boards.gear[0] / c.boards.wheel_radius[0] for c in (Evaluation(BOARD, 0), Evaluation(after, 0))]
    assert needed[1] / needed[0] == pytest.approx(WORN * 90 / 85), "and pulls as much harder"
    stands = maintenance_report(after, YEAR, TODAY).wheels
    assert stands.change
    assert "Worn by 5 mm" in stands.message.text
    new = read_build(changed(write_build(after), {"parts.wheels.diameter_mm": 90.0}))
    less = Evaluation(new, 0).headline_values["speed"][0] - now["speed"][0]
    assert f"{less:.1f} km/h less" in stands.message.text
    # New ones on: the caliper's word is the new ones'.
    fresh = taken_from_the_drawer(
        after, check(TaskDone, {"id": "n", "task": "wheels_worn", "on": "2026-12-29", "changed": True})
    )
    assert fresh.parts.wheels.diameter_mm == 90
    assert not maintenance_report(fresh, YEAR, TODAY).wheels.change


def test_ones_own_failures_shorten_what_is_usual():
    """The usual 100 km counts as two voices; a belt that snapped after 60 says 48."""
    belts = BY_ID["belts"]
    assert learned_km(belts, []) == pytest.approx(100)
    assert learned_km(belts, [("failed", 60)]) == pytest.approx(exp((2 * log(100) + log(48)) / 3))
    assert learned_km(belts, [("failed", 60)] * 40) == pytest.approx(48, rel=0.05), "many of them are believed"
    assert learned_km(belts, [("good", 90)]) == pytest.approx(100), "still good before it was due says nothing"
    assert 100 < learned_km(belts, [("good", 180)]) < 180
    assert learned_km(belts, [("good", 9000)] * 50) <= 200
    assert learned_km(BY_ID["brake_test"], [("good", 400)] * 9) == pytest.approx(150), (
        "what does not wear is no rarer for being good"
    )
    snapped = [{"task": "belts", "on": d, "found": "failed", "changed": True} for d in ("2026-02-09", "2026-03-23")]
    own = task(kept(*snapped), "belts")
    assert own.by == "learned"
    assert own.interval_km < 90
    said = task(kept(*snapped, intervals=[{"task": "belts", "km": 40}]), "belts")
    assert (said.by, said.interval_km) == ("said", 40)
    never = maintenance_report(kept(intervals=[{"task": "bushings", "never": True}]), YEAR, TODAY)
    assert [t.id for t in never.aside] == ["bushings"]


def test_groups_that_drift_apart_are_named():
    even = [3.80] * 10
    first = {"task": "group_volts", "on": "2026-03-02", "volts": even}
    weak = {"task": "group_volts", "on": "2026-09-07", "volts": [*[3.79] * 6, 3.72, *[3.79] * 3]}
    good, bad = (maintenance_report(kept(*d), YEAR, TODAY).pack for d in ((first,), (first, weak)))
    assert "within 0 V" in good.says[0].text
    assert bad.apart_v == pytest.approx(0.07)
    assert "group 7 the lowest" in bad.says[0].text
    assert "Group 7 has fallen behind" in bad.says[1].text


def test_ticking_a_seasons_list_to_its_end_closes_it_and_the_next_tick_begins_another():
    def lay_up(board):
        return next(s for s in maintenance_report(board, YEAR, TODAY).seasons if s.season == "lay_up")

    def tick(board, item):
        (change,) = next(i for i in lay_up(board).items if i.id == item).changes.values()
        return kept(seasons=[s.model_dump(exclude_none=True) for s in change])

    board = kept(seasons=[{"season": "spring", "on": "2027-03-01", "ticked": ["look"]}])
    items = [i.id for i in lay_up(board).items]
    for n, item in enumerate(items):
        assert [i.ticked for i in lay_up(board).items] == [True] * n + [False] * (len(items) - n)
        # A tick that is taken away again leaves what was ticked before.
        again = tick(tick(board, item), item)
        if n < len(items) - 1:
            assert [i.id for i in lay_up(again).items if i.ticked] == items[:n]
        board = tick(board, item)
    spring, closed = board.maintenance.seasons
    assert (spring.season, closed.closed, len(closed.ticked)) == ("spring", TODAY.isoformat(), len(items))
    assert not any(i.ticked for i in lay_up(board).items)
    board = tick(board, items[0])
    assert [s.closed for s in board.maintenance.seasons] == [None, TODAY.isoformat(), None]


def test_the_lists_of_the_seasons_are_this_boards():
    titles = {s.season: [i.id for i in s.items] for s in maintenance_report(BOARD, YEAR, TODAY).seasons}
    assert "belt" in titles["lay_up"]
    assert "tyres" not in titles["lay_up"]
    assert titles["lay_up"].index("half") < titles["lay_up"].index("loop")
    assert titles["spring"][-1] == "ride"
    ticked = kept(seasons=[{"season": "spring", "on": "2027-03-01", "ticked": ["look", "volts"]}])
    (spring,) = [s for s in maintenance_report(ticked, YEAR, TODAY).seasons if s.season == "spring"]
    assert [i.id for i in spring.items if i.ticked] == ["look", "volts"]
    assert all(len({s.id for s in steps}) == len(steps) for _, steps in SEASONS.values())


@pytest.mark.parametrize(
    "text", ["=1+1", "+1", "-1+2", "@SUM(A1)", "\t=1", "＝1+1", "＠SUM(A1)", "\u200b=1", "\u00a0+1", " =1", "'=1"]
)
def test_what_a_spreadsheet_would_run_gets_an_apostrophe_and_loses_it_again(text):
    """Also full-width marks, and marks behind what nobody sees: spreadsheets take both for formulas."""
    assert with_apostrophe(text) == f"'{text}"
    assert without_apostrophe(with_apostrophe(text)) == text


@pytest.mark.parametrize("text", ["", "plain", "5 - 3", "a=1", "\u2212 5 mm", "it's"])
def test_what_it_would_not_run_stays_as_it_is(text):
    assert with_apostrophe(text) == without_apostrophe(text) == text


def test_files():
    build = kept(
        {"task": "belts", "on": "2026-10-05", "note": "=1+1", "volts": [3.8, 3.81]},
        {"task": "screws", "on": "2026-02-02"},
    )
    assert read_build(write_build(build)) == build
    assert write_maintenance(build.maintenance)["format"] == "sand-pocket/upkeep"
    rows = list(csv.DictReader(StringIO(book_as_csv(build.maintenance).removeprefix("\ufeff"))))
    assert [r["task"] for r in rows] == ["screws", "belts"]
    assert rows[1]["note"] == "'=1+1", "no formula for a table"
    assert without_apostrophe(rows[1]["note"]) == "=1+1"
    assert rows[1]["volts"] == "3.8 3.81"
    with pytest.raises(BuildFileError, match="2026-13-05"):
        kept({"task": "belts", "on": "2026-13-05"})
