"""The log of the work, the builder's pace, wishes and the first ride."""

import random
from itertools import pairwise
from math import exp, log, sqrt
from uuid import UUID

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.integrate import quad

from boardmath import predict
from boardmath.buildfile import BuildFileError
from planner.assembly.plan import assembly
from planner.first_ride.plan import IDS, first_ride, judge
from planner.first_ride.report import first_ride_report
from planner.shared.facts import changed as told
from planner.shared.facts import facts_of, name_of
from planner.shared.log import ENTRY, read_log
from planner.shared.pace import NINTH, PACE_SD, pace, together
from planner.shared.step import Minutes
from planner.shared.wishes import effect, laid_in, second_version
from tests.core.assembled import BEGUN, Written, board
from tests.core.test_assembly import TODAY


def written_all():
    """A log with something of everything."""
    w = Written(board())
    w.done("lay-out", "bearings", minutes=20)
    w.message("measured", step="belt-line", values={"near-1": 0.2, "far-1": 0.4})
    w.message("measured", step="belt-line", values={"far-1": 0.3})
    wrong = w.message("noted", step="mount", text="slipped", trouble=True)
    w.message("opened", step="bearings", why="one is rough")
    w.message("left_out", step="grip", why="bare wood")
    w.message("tool", tool="drill", have="have")
    w.message("wished", step="belt-line", why="taller", changes={"parts.drive.motor_teeth": 16})
    w.message("rode", day="2026-05-04", km=6.0)
    w.message("taken_back", entry=wrong)
    return w


# --- the log ------------------------------------------------------------------------------------------------------------


def test_in_whatever_order_entries_arrive_the_log_says_the_same():
    whole = written_all()
    meant = whole.log
    for seed in range(20):
        shuffled = random.Random(seed).sample(whole.entries, len(whole.entries))
        assert read_log(shuffled) == meant


def test_the_last_word_on_a_step_stands():
    found = written_all().log
    assert found.steps["lay-out"].done is not None
    assert found.steps["bearings"].done is None
    assert found.steps["bearings"].opened.why == "one is rough"
    assert found.steps["grip"].left_out.why == "bare wood"
    assert found.values["belt-line"] == {"near-1": 0.2, "far-1": 0.3}
    assert not [e for e in found.entries if e.kind == "noted"], "what was taken back is not there"
    assert len(found.rides) == 1


def test_a_figure_can_be_taken_away_again():
    w = Written(board())
    w.message("measured", step="weigh", values={"board": 8.0})
    w.message("measured", step="weigh", values={"board": None})
    assert w.log.values["weigh"] == {}


@pytest.mark.parametrize(
    "wrong",
    [
        {"kind": "done", "step": "lay-out", "minutes": -3},
        {"kind": "done", "step": "Lay Out"},
        {"kind": "noted", "text": ""},
        {"kind": "measured", "step": "weigh", "values": {"board": float("nan")}},
        {"kind": "measured", "step": "weigh", "values": {}},
        {"kind": "tool", "tool": "magic wand"},
        {"kind": "rode", "day": "2026-02-30"},
        {"kind": "painted", "step": "deck"},
        {"kind": "done", "step": "lay-out", "mood": "good"},
    ],
)
def test_an_entry_that_cannot_be_is_refused(wrong):
    with pytest.raises(ValidationError):
        ENTRY.validate_python({"id": str(UUID(int=1)), "at": BEGUN, **wrong})


def test_facts_are_named_in_the_words_of_the_trade():
    assert name_of("parts.drive.wheel_teeth") == ("Wheel pulley teeth", "count")
    then = facts_of(board(), ["parts.risers.height_mm", "parts.deck.mount", "parts.wheels.name"])
    now = facts_of(
        board(parts__risers__height_mm=10, parts__deck__mount="dropped", parts__wheels__name="Big ones"), list(then)
    )
    assert [s.text for s in told(then, now)] == [
        "Risers, height: 6 mm then, 10 mm now.",
        "Deck, mounting: top then, dropped now.",
        "Wheels: none then, Big ones now.",
    ]
    assert not told({}, now), "what nobody looked at then is not told"
    assert not told({"parts.risers.height_mm": 10}, {"parts.risers.height_mm": 10.0}), "ten is ten"


# --- how long -----------------------------------------------------------------------------------------------------------


def test_before_any_tick_the_pace_is_unsure_by_what_two_builders_differ():
    found = pace([])
    assert (found.factor, found.low, found.high) == pytest.approx((1.0, 1 / 1.6, 1.6), rel=1e-3)


def test_the_pace_is_that_of_the_integral_over_what_it_may_be():
    usual, taken = Minutes(low=10, high=30), [40.0, 25.0, 33.0]
    middle, spread = log(sqrt(300.0)), log(3.0) / (2 * NINTH)

    def weight(x):
        return exp(-((x / PACE_SD) ** 2) / 2 - sum(((log(t) - middle - x) / spread) ** 2 for t in taken) / 2)

    whole = quad(weight, -6, 6)[0]
    mean = quad(lambda x: x * weight(x), -6, 6)[0] / whole
    sd = sqrt(quad(lambda x: (x - mean) ** 2 * weight(x), -6, 6)[0] / whole)
    found = pace([(usual, t) for t in taken])
    assert log(found.factor) == pytest.approx(mean, abs=1e-6)
    assert log(found.high / found.low) / (2 * NINTH) == pytest.approx(sd, rel=1e-6)


def test_the_time_that_is_left_holds_in_eight_of_ten_drawn_builders():
    rng = np.random.default_rng(7)
    steps = [Minutes(low=low, high=3 * low) for low in (5, 10, 20, 45, 120)]
    shapes = [(log(m.low * m.high) / 2, log(3.0) / (2 * NINTH)) for m in steps]
    span = together(steps, [])
    own = rng.normal(0.0, PACE_SD, 20_000)
    took = sum(np.exp(own + middle + spread * rng.standard_normal(20_000)) for middle, spread in shapes)
    inside = float(np.mean((took >= span.low) & (took <= span.high)))
    assert inside == pytest.approx(0.8, abs=0.02)


def test_many_quick_ticks_make_the_rest_quick_and_sure():
    steps = [Minutes(low=10, high=30)] * 12
    quick = [(m, 0.5 * sqrt(300.0)) for m in steps]
    before, after = together(steps, []), together(steps, quick)
    assert after.high < before.high / 1.5
    assert after.high / after.low < before.high / before.low


def test_a_kit_takes_an_afternoon_and_a_first_board_some_weekends():
    # Common practice, no source: a kit on a ready deck one afternoon; from parts three to five weekends of some ten hours.
    def hours(build):
        span = together([s.minutes for s in assembly(build)], [])
        return span.low / 60, span.high / 60

    ready = dict.fromkeys(("deck", "pack", "enclosure", "wiring", "switch", "fuse", "charger", "risers"), True)
    kit = board("kit", existing={"name": "Ready deck"}, **{f"parts__{k}__owned": v for k, v in ready.items()})
    low, high = hours(kit)
    assert low < 6.0
    assert high > 3.0
    low, high = hours(board("printed box", parts__pack__cell__price=3))
    assert low < 50.0
    assert high > 30.0


# --- wishes -------------------------------------------------------------------------------------------------------------


def test_a_wish_does_what_the_model_says_it_does():
    build = board()
    wished = laid_in(build, {"parts.drive.motor_teeth": 18})
    found = {c.name: c for c in effect(build, {"parts.drive.motor_teeth": 18})}
    heavier = {c.name: c.change for c in effect(build, {"parts.deck.mass_g": 2650})}
    assert heavier["carry"] == pytest.approx(1.0, abs=0.01)
    assert found["speed"].change == pytest.approx(
        predict(wished, bands=False).top_speed_kmh.mid - predict(build, bands=False).top_speed_kmh.mid, rel=1e-9
    )
    assert found["speed"].change > 0
    assert "carry" not in found


@pytest.mark.parametrize(
    "changes", [{"parts.drive.no_such": 3}, {"parts.drive.motor_teeth": 900}, {"parts.deck": 3}, {"parts.loads.0.v": 3}]
)
def test_a_wish_for_what_cannot_be_is_named(changes):
    with pytest.raises(BuildFileError):
        laid_in(board(), changes)


def test_the_second_version_is_a_plan_in_which_the_changed_part_is_bought_anew():
    build = board(
        parts__drive__owned=True,
        parts__drive__name="Belt set",
        parts__drive__price=49,
        parts__deck__owned=True,
        weighed_kg=8,
    )
    w = Written(build)
    w.message("wished", why="climbs badly", changes={"parts.drive.motor_teeth": 12})
    w.message("wished", why="more of it", changes={"parts.drive.motor_teeth": 13})
    w.message("wished", why="in words only", changes={})
    found = second_version(build, w.log.wishes)
    assert found.parts.drive.motor_teeth == 13, "the later wish stands"
    assert (found.parts.drive.owned, found.parts.drive.name, found.parts.drive.price) == (None, None, None)
    assert found.parts.drive.wheel_teeth == build.parts.drive.wheel_teeth
    assert found.parts.deck.owned is True
    assert (found.stage, found.weighed_kg) == ("planned", None)
    assert found.name.endswith("second version")
    assert build.parts.drive.motor_teeth == 15, "the first one stays as it is"


# --- the first ride -----------------------------------------------------------------------------------------------------


def test_no_step_of_speed_is_past_what_holds_there():
    for limit in (12, 20, 25):
        for wanted in (15, 30, 60):
            steps = first_ride(board(brief__local_speed_limit_kmh=limit, brief__top_speed_kmh=wanted))
            speeds = [int(s.id[3:]) for s in steps if s.id[3:].isdigit()]
            assert max(speeds) <= limit
            assert max(speeds) <= max(wanted, 10)
            assert speeds == sorted(speeds)
            assert {s.id for s in steps} <= IDS


def test_each_step_comes_after_the_one_before_and_the_brake_before_any_speed():
    steps = first_ride(board())
    assert all(s.after == [before.id] for before, s in pairwise(steps))
    order = [s.id for s in steps]
    assert order.index("fr-roll") < order.index("fr-walk") < order.index("fr-10")
    assert order.index("fr-tested") == 0
    assert order[-1] == "fr-write"


def test_twice_as_fast_takes_four_times_as_far_to_a_stand():
    by = {s.id: s.checks[0] for s in first_ride(board()) if s.id in ("fr-10", "fr-20")}
    assert by["fr-20"].high / by["fr-10"].high == pytest.approx(4.0, rel=0.03)
    # From 20 km/h at 1 m/s²: v²/2a = 15.4 m.
    assert by["fr-20"].high == pytest.approx(15.4, abs=0.1)


def test_what_is_found_on_the_way_is_judged():
    by = {s.id: s for s in first_ride(board())}
    assert judge(board(), by["fr-20"], {"metres": 8.0}).verdict == "right"
    assert judge(board(), by["fr-20"], {"metres": 30.0}).verdict == "wrong"
    assert judge(board(), by["fr-20"], {"metres": 2.0}).verdict == "unsure"
    assert [judge(board(), by["fr-minutes"], {"motor": t}).verdict for t in (40, 70, 95)] == [
        "right",
        "unsure",
        "wrong",
    ]
    full = by["fr-charge"].checks[0].plan
    assert judge(board(), by["fr-charge"], {"volts": full}).verdict == "unsure", "brim-full"


def test_the_beginners_values_are_those_of_the_sheet_and_a_ride_ends_it():
    values = next(s for s in first_ride(board()) if s.id == "fr-values")
    assert any("Speed cap: 15 km/h" in d.text for d in values.do)
    w = Written(board())
    w.message("rode", day="2026-05-03", km=4.2)
    stands = {s.id: s.state for s in first_ride_report(board(), w.log, TODAY).steps}
    assert stands["fr-write"] == "done"
    assert stands["fr-tested"] == "ready"
    assert stands["fr-10"] == "waits"
