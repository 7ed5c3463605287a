"""Whose doubt it is and what a choice changes: shares against brute force, and choices that no wide band makes a lottery."""

import numpy as np
import pytest

from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.likelihood import in_short, in_words
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.model_inputs import BY_NAME, COLUMN
from boardmath.model.sampling import SAMPLES
from boardmath.parts.part_selection import with_part
from boardmath.prediction.ranges import unsure
from planner.compare import compare
from planner.design.candidates import TRIED, candidates, choice
from tests.core.boards import spit_runner

WINDY = {"assumptions__wind_ms": None}


def _without(evaluation, name):
    """The same samples with one input held at its middle."""
    held = Evaluation(evaluation.build)
    z = evaluation.normal_scores.copy()
    z[:, COLUMN[name]] = 0.0
    held.normal_scores = z
    return held


@pytest.fixture(scope="module")
def windy():
    return Evaluation(spit_runner(**WINDY))


@pytest.mark.parametrize(
    ("result", "name"),
    [
        ("range", "riding"),
        ("range", "mean_speed"),
        ("range", "crr"),
        ("speed", "kv"),
        ("speed", "wheel_radius"),
        ("hill", "grip"),
    ],
)
def test_a_share_is_what_the_variance_loses_without_that_input(windy, result, name):
    """Squared rank correlation against holding the input still and looking at what is left."""
    widest, _, _ = unsure(windy, most=40)
    share = next(w.share for w in widest if w.result == result and w.input == name)
    before = np.log(windy.values[result][1:]).var()
    after = np.log(_without(windy, name).values[result][1:]).var()
    # Ranks do not see how heavy a tail is, variances do.
    heavy = 0.05 if windy.resolved.inputs[name].shape == "student" else 0.0
    assert share == pytest.approx(1.0 - after / before, abs=0.08 + heavy)


def test_the_riders_the_days_and_the_boards_doubt_add_up(windy):
    """Everything of the rider held still leaves what the day and the board are unsure by."""
    _, doubts, _ = unsure(windy)
    shares = next(d for d in doubts if d.result == "range")
    still = Evaluation(windy.build)
    z = windy.normal_scores.copy()
    z[:, [COLUMN[n] for n, i in BY_NAME.items() if i.owner == "rider"]] = 0.0
    still.normal_scores = z
    left = np.log(still.values["range"][1:]).var() / np.log(windy.values["range"][1:]).var()
    assert left == pytest.approx(shares.day + shares.machine, abs=0.08)


# --- what would it change ---------------------------------------------------------------------------------------------

PULLEYS = [Drive(name=f"{t} teeth", kind="belt", motor_teeth=t, wheel_teeth=42, belt_teeth=56) for t in range(11, 20)]


def test_each_tooth_more_is_a_little_faster_for_every_rider_on_every_day():
    build = spit_runner(**WINDY)
    found = candidates(build, "drive", PULLEYS)
    speeds = [next(c for c in row.changes if c.name == "speed") for row in found]
    assert [c.mid for c in speeds] == sorted(c.mid for c in speeds)
    for row, change in zip(found, speeds, strict=True):
        if row.name != "15 teeth":
            assert change.sure, row.name
            assert change.low * change.high > 0.0
            assert change.high - change.low < 3.0, "though the speed itself is unsure by four kilometres an hour"


def test_few_samples_say_of_a_change_what_many_say():
    build = spit_runner(**WINDY)
    other = with_part(build, "drive", PULLEYS[-1])
    few, many = (
        np.percentile(b.values["speed"][1:] - a.values["speed"][1:], (10, 90))
        for a, b in (evaluate([build, other], n) for n in (TRIED, SAMPLES))
    )
    np.testing.assert_allclose(few, many, rtol=0.25)


def test_the_order_of_candidates_is_that_of_their_middles_and_no_draw():
    """However wide the bands: the same parts in the same order, time and again, and by what they change."""
    build = spit_runner(**WINDY, brief__range_km=60)
    motors = [Motors(name=f"KV {kv}", kv_rpm_per_v=kv, can_diameter_mm=63) for kv in (120, 240, 150, 190, 170)]
    first, again = (choice(build, "motors", motors) for _ in range(2))
    assert [c.name for c in first.candidates] == [c.name for c in again.candidates]
    assert first.lacks is not None
    gains = [
        next(x.change for x in c.changes if x.name == first.lacks)
        for c in first.candidates
        if c.fits
    ]  # fmt: off
    signed = gains if first.lacks not in ("carry", "money") else [-g for g in gains]
    assert signed == sorted(signed, reverse=True)


def test_a_change_that_may_go_either_way_is_not_called_better_for_sure():
    """Another motor of the same winding by another seller: by its own tolerance it may well be slower."""
    build = spit_runner(**WINDY)
    twin = Motors(name="Twin", kv_rpm_per_v=172, can_diameter_mm=63, can_length_mm=55)
    (row,) = candidates(build, "motors", [twin])
    speed = next(c for c in row.changes if c.name == "speed")
    assert speed.low < 0.0 < speed.high
    assert not speed.sure


def test_boards_side_by_side_meet_the_same_rider_on_the_same_days():
    build = spit_runner(**WINDY)
    found = compare([build, spit_runner(**WINDY, parts__pack__parallel=4)], ["three", "four"])
    assert [c.change for c in found.changes[0] if c.change] == []
    by_name = {c.name: c for c in found.changes[1]}
    own = next(p for p in found.headlines[0].outcomes if p.name == "range")
    assert by_name["range"].sure
    assert by_name["range"].low > 0.0
    assert by_name["range"].high - by_name["range"].low < 0.4 * (own.high - own.low)
    assert by_name["carry"].change > 0.4


def test_a_verdict_of_a_candidate_has_its_chance():
    build = spit_runner(**WINDY, brief__top_speed_kmh=38)
    rows = candidates(build, "drive", PULLEYS)
    chances = [next(c.chance for c in row.changes if c.name == "speed") for row in rows]
    assert chances == sorted(chances)
    assert chances[0] < 0.1
    assert chances[-1] > 0.75


# --- chances in words -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("chance", "words", "short"),
    [
        (0.0, "under 5 % likely", "< 5 %"),
        (0.04, "under 5 % likely", "< 5 %"),
        (0.06, "5 % likely", "5 %"),
        (0.5, "50 % likely", "50 %"),
        (0.87, "85 % likely", "85 %"),
        (0.949, "95 % likely", "95 %"),
        (0.96, "over 95 % likely", "> 95 %"),
        (1.0, "over 95 % likely", "> 95 %"),
    ],
)
def test_chances_are_said_to_five_per_cent_and_nothing_is_certain(chance, words, short):
    assert in_words(chance) == words
    assert in_short(chance) == short
