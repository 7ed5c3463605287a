"""Charging: when to plug in, what a ceiling gives, and a charge under watch."""

from typing import Any

import numpy as np
import pytest

from boardmath import predict, read_build
from boardmath.battery.charge_monitor import all_watched, watched
from planner.charging.report import charging_report
from tests.core.boards import SPIT_RUNNER, changed, spit_runner

BEGAN = "2026-11-22T13:05Z"


def charge(*looks: dict[str, Any], ended: str | None = None, **more: Any):
    """The example with a charge of these looks, all groups alike where one number is given."""
    made = [
        {
            **look,
            "groups_v": [look["groups_v"]] * 10 if isinstance(look.get("groups_v"), float) else look.get("groups_v"),
        }
        for look in looks
    ]
    made = [{k: v for k, v in look.items() if v is not None} for look in made]
    record = {"began": BEGAN, "looks": made, **({"ended": ended} if ended else {})}
    return read_build(changed(SPIT_RUNNER, {"pack_assembly.charges": [record], **more}))


def apart(low: float, high: float) -> list[float]:
    return [low, *[high] * 9]


def test_the_next_look_is_due_every_ten_minutes_and_sooner_near_the_end():
    assert watched(charge()).due_minute == 0.0
    assert watched(charge({"minute": 20.0, "groups_v": 3.7})).due_minute == 30.0
    assert watched(charge({"minute": 80.0, "groups_v": 4.13})).due_minute == 85.0
    assert watched(charge({"minute": 90.0, "groups_v": 4.15}, ended="by_itself")).due_minute is None


STOPS = {
    "over full": ({"minute": 50.0, "groups_v": apart(4.18, 4.26)}, "above its"),
    "hot": ({"minute": 10.0, "warmth": "hot"}, "Hot"),
    "far apart": ({"minute": 10.0, "groups_v": apart(3.4, 3.8)}, "apart"),
    "below empty": ({"minute": 0.0, "groups_v": apart(1.6, 3.6)}, "so empty"),
}


@pytest.mark.parametrize("evaluation", STOPS)
def test_what_stops_a_charge_stops_it_and_is_a_danger_of_the_board(evaluation):
    look, word = STOPS[evaluation]
    build = charge(look)
    report = watched(build)
    assert report.stop is not None
    assert any(word in said.text for said in report.looks[0].said)
    assert report.due_minute is None
    assert {f.id: f.severity for f in predict(build).findings}["charge-stopped"] == "danger"
    sound = charge({"minute": 10.0, "groups_v": 3.8, "warmth": "cool"})
    assert watched(sound).stop is None
    assert "charge-stopped" not in {f.id for f in predict(sound).findings}


def test_a_group_that_falls_while_the_others_rise_takes_no_charge():
    falls = charge({"minute": 0.0, "groups_v": 3.6}, {"minute": 10.0, "groups_v": apart(3.56, 3.66)})
    assert "fell" in watched(falls).stop.text
    rises = charge({"minute": 0.0, "groups_v": 3.6}, {"minute": 10.0, "groups_v": apart(3.65, 3.66)})
    assert watched(rises).stop is None


def test_groups_that_lie_apart_are_balanced_again():
    near = watched(charge({"minute": 90.0, "groups_v": apart(4.05, 4.14)}))
    assert near.looks[0].verdict == "odd"
    assert "until it has balanced" in near.looks[0].said[0].text
    assert near.looks[0].spread_v == pytest.approx(0.09)
    ended = watched(charge({"minute": 90.0, "groups_v": apart(4.05, 4.14)}, ended="by_itself"))
    assert "balance" in ended.last_word.text


def test_a_current_that_does_not_fall_at_the_top_is_said():
    held = charge(
        {"minute": 80.0, "groups_v": 4.15, "current_a": 2.0}, {"minute": 90.0, "groups_v": 4.15, "current_a": 2.0}
    )
    falls = charge(
        {"minute": 80.0, "groups_v": 4.15, "current_a": 2.0}, {"minute": 90.0, "groups_v": 4.15, "current_a": 1.2}
    )
    assert watched(held).looks[1].verdict == "odd"
    assert watched(falls).looks[1].verdict == "good"


def test_no_word_of_a_charge_says_that_it_is_safe():
    for build in (
        charge(),
        charge({"minute": 9.0, "groups_v": 3.9}),
        charge({"minute": 99.0, "groups_v": 4.15}, ended="by_itself"),
    ):
        for report in all_watched(build):
            assert " safe" not in report.last_word.text


def test_a_brick_has_its_own_groups():
    bricks = {"parts.pack": {"series": 10, "layout": "bricks", "bricks": 2, "cell": {"chemistry": "polymer"}}}
    record = {"began": BEGAN, "brick": 2}
    build = read_build(changed(SPIT_RUNNER, {**bricks, "pack_assembly.charges": [record]}))
    assert watched(build).groups == 5
    assert charging_report(build).groups == [5, 5]


def test_hours_by_the_clock_agree_with_the_charge_that_goes_in():
    """An independent sum: at constant current, hours are ampere hours over amperes; the end takes longer."""
    build = spit_runner()
    low = charging_report(build, 20.0, 60.0).timetable
    holds, amperes = 3 * 3.0, 3.0
    plain = 60.0 * 0.4 * holds / amperes
    assert low.mid_min == pytest.approx(plain, rel=0.12)
    assert low.low_min < low.mid_min < low.high_min
    whole = charging_report(build, 20.0, 100.0).timetable
    halves = [charging_report(build, a, b).timetable.mid_min for a, b in ((20.0, 70.0), (70.0, 100.0))]
    assert whole.mid_min == pytest.approx(sum(halves), rel=0.02)


def test_it_is_planned_by_the_longer_end_and_before_midnight_where_it_has_to():
    table = charging_report(spit_runner(), 15.0, 100.0, 60).timetable
    (turn,) = table.turns
    assert turn.days_before == 1
    ahead = (60 - turn.plug_in_min) % (24 * 60)
    assert table.high_min <= ahead <= table.high_min + 6
    assert table.night is not None, "one in the morning: nobody looks"
    assert charging_report(spit_runner(), 15.0, 100.0, 18 * 60).timetable.night is None


def test_a_charge_of_more_than_a_day_says_how_many_days_before():
    slow = spit_runner(parts__pack__parallel=30, parts__charger__a=2)
    table = charging_report(slow, 5.0, 100.0, 12 * 60).timetable
    (turn,) = table.turns
    assert table.high_min > 24 * 60
    begins = turn.plug_in_min - turn.days_before * 24 * 60
    assert 12 * 60 - begins == pytest.approx(table.high_min, abs=6)


def test_bricks_come_one_after_the_other():
    build = spit_runner(
        parts__pack={"series": 12, "layout": "bricks", "bricks": 3, "cell": {"chemistry": "polymer", "capacity_ah": 5}}
    )
    table = charging_report(build, 20.0, 90.0, 20 * 60).timetable
    assert [t.brick for t in table.turns] == [1, 2, 3]
    begins = np.array([t.plug_in_min for t in table.turns])
    assert (np.diff(begins) >= table.low_min / 3 - 6).all()
    assert table.turns[0].unplug_min <= table.turns[1].plug_in_min + 6


def test_a_lower_ceiling_costs_way_and_gives_years():
    shown = charging_report(spit_runner()).ceilings
    volts = [c.cell_v for c in shown]
    assert volts == sorted(volts, reverse=True)
    assert sum(c.chosen for c in shown) == 1
    ranges, years = [c.range_km for c in shown], [c.years for c in shown]
    assert ranges == sorted(ranges, reverse=True)
    assert years == sorted(years)
    full, lower = next(c for c in shown if c.cell_v == 4.2), next(c for c in shown if c.cell_v == 4.1)
    # Common practice, no source: 0.1 V less about doubles the life.
    assert 1.4 < lower.years / full.years < 2.3


def test_a_pack_is_put_away_half_full_and_the_charger_has_to_fit():
    report = charging_report(spit_runner())
    assert report.storage.values["pack"].value == pytest.approx(37.5, abs=0.3)
    wrong = charging_report(spit_runner(parts__charger__v=50.4, parts__charger__a=20))
    assert {"charger-voltage", "charging-current"} <= {f.kind for f in wrong.findings}
    assert not {"charger-voltage", "charging-current"} & {f.kind for f in report.findings}


def test_without_charger_or_pack_it_says_what_is_missing():
    assert charging_report(spit_runner(parts__charger=None)).needs
    empty = charging_report(spit_runner(parts__pack=None))
    assert empty.needs
    assert empty.timetable is None
