"""What rides teach, and what they must not."""

import itertools
import json
from math import exp, log

import numpy as np
import pytest

from boardmath import predict, read_build
from boardmath.buildfile import Build, BuildFileError, write_build
from boardmath.calibration import learning
from boardmath.calibration.learning import Ridden, learn, observed_of, of_the_rider, together
from boardmath.calibration.observing import WALL, RidePredictor, charge_from_volts, coast_forces, rest_volts, rolled_out
from boardmath.calibration.report import as_taught, calibration_report
from boardmath.calibration.ride import Ride
from boardmath.calibration.ride_file import cannot_be, read_ride, read_rides, write_rides
from boardmath.model.evaluation import Evaluation
from boardmath.model.model_inputs import COLUMN, INPUTS
from boardmath.model.posterior import written
from boardmath.model.resolution import resolve
from tests.core.boards import SPIT_RUNNER, changed

BOARD = read_build(changed(SPIT_RUNNER, {"assumptions.wind_ms": None, "brief.temperature_c": 15.0}))


def a_ride(day: int = 4, **said) -> Ride:
    given = {"way": {"distance_km": 11.2, "ascent_m": 60}, "pack": {"start_v": 41.6, "end_v": 37.4, "rested_s": 900}}
    return read_ride({"day": f"2026-{5 + day // 28:02d}-{1 + day % 28:02d}", **given, **said})


def to_the_end(day: int, km: float, **said) -> Ride:
    return a_ride(day, **{"way": {"distance_km": km}, "pack": {"ended": "cut_off"}, **said})


def ridden(*rides: Ride, board=BOARD) -> list[Ridden]:
    return [Ridden(r, board) for r in rides]


def half_width(build, result: str = "cut_off") -> float:
    evaluation = Evaluation(build)
    low, high = evaluation.bands[result]
    return (high - low) / 2 / float(evaluation.values[result][0])


SEASON = [
    to_the_end(3, 24.6, conditions={"temperature_c": 14, "wind_ms": 2}),
    a_ride(9, runs=[{"kind": "speed", "kmh": [35.8, 34.9], "charge_pct": 90}]),
    a_ride(15, runs=[{"kind": "coast", "from_kmh": 24, "to_kmh": 5, "metres": 92, "both_ways": True}]),
    a_ride(30, pack={"start_v": 41.8, "end_v": 37.4, "by": "gauge", "wh": 158}),
    a_ride(41, way={"distance_km": 14.0, "moving_s": 2500, "stops": 9}, pack={"end_v": 36.9}),
]


def test_the_posterior_is_the_prior_weighed_by_how_well_it_explains_the_rides():
    """Importance sampling: 20,000 draws from the prior, each weighed by the likelihood of two rides, give the same means and
    spreads.
    """
    rides, days = ridden(SEASON[0], SEASON[3]), 16
    lesson = learn(BOARD, rides)
    seen = observed_of(BOARD, rides, lesson.usual)
    predictor = RidePredictor(seen, lesson.usual)
    chance = np.random.default_rng(5)
    z = chance.standard_normal((20_000, len(INPUTS)))
    likely = np.zeros((2, days, len(z)))
    for day in range(days):
        # What each ride's own day adds is drawn with it; only errors of reading remain, with the tails of the model.
        said = predictor(np.stack([z, z]), chance.standard_normal((2, *z.shape)))
        for k, (one, cut) in enumerate(zip(seen, predictor.cuts, strict=True)):
            for o, of_ride in zip(one.observations, said[:, cut].T, strict=True):
                likely[k, day] -= 4.5 * np.log1p(((o.y - of_ride) / o.sd) ** 2 / 8.0)
    weight = np.exp(likely).mean(axis=1).prod(axis=0)
    weight /= weight.sum()
    assert 1 / (weight**2).sum() > 300, "enough draws explain the rides"
    for name in ("riding", "crr", "mean_speed", "cda", "ascent"):
        at, own = lesson.names.index(name), z[:, COLUMN[name]]
        mean = float(weight @ own)
        spread = float(np.sqrt(weight @ (own - mean) ** 2))
        assert lesson.mean[at] == pytest.approx(mean, abs=0.28), name
        assert np.sqrt(lesson.covariance[at, at]) == pytest.approx(spread, abs=0.12), name


def test_in_whatever_order_rides_are_entered_the_same_is_learnt():
    lessons = [learn(BOARD, ridden(*order)) for order in list(itertools.permutations(SEASON))[::29]]
    for other in lessons[1:]:
        assert (other.mean == lessons[0].mean).all()
        assert (other.covariance == lessons[0].covariance).all()


def test_a_ride_left_out_is_as_if_it_was_never_entered():
    left_out = SEASON[1].model_copy(update={"left_out": "a friend rode"})
    without = learn(BOARD, ridden(*SEASON[:1], *SEASON[2:]))
    with_it = learn(BOARD, ridden(SEASON[0], left_out, *SEASON[2:]))
    assert (without.mean == with_it.mean).all()
    assert learn(BOARD, ridden(left_out)) is None
    assert as_taught(BOARD, ridden(left_out)).calibration is None


def test_the_same_bytes_teach_the_same():
    one, other = (
        calibration_report(read_build(changed(SPIT_RUNNER, {})), ridden(*SEASON)).model_dump_json() for _ in range(2)
    )
    assert one == other


def test_one_ride_to_the_cut_off_leaves_eighteen_per_cent_and_five_leave_ten():
    told = {"conditions": {"temperature_c": 15, "wind_ms": 2}}
    board = read_build(
        changed(SPIT_RUNNER, {"assumptions.wind_ms": None, "brief.temperature_c": 15.0, "brief.wind_ms": 2.0})
    )
    rides = [to_the_end(i, 24 + 0.6 * (i % 3), **told) for i in range(5)]
    assert half_width(board) > 0.28
    assert half_width(as_taught(board, ridden(rides[0], board=board))) <= 0.18
    assert half_width(as_taught(board, ridden(*rides, board=board))) <= 0.10


@pytest.mark.parametrize("programmable", [True, False])
def test_a_top_speed_far_below_the_predicted_one_is_believed_and_leaves_the_range_alone(programmable):
    """A listing of another winding, or a firmware that holds back: 34 km/h where 41 are predicted, measured twice both ways."""
    board = read_build(
        changed(SPIT_RUNNER, {"parts.motors.kv_rpm_per_v": 220, "parts.controller.programmable": programmable})
    )
    before = Evaluation(board)
    assert 39.0 < before.headline_values["speed"][0] < 43.0
    run = {"kind": "speed", "kmh": [34.4, 33.6], "charge_pct": 90}
    taught = Evaluation(as_taught(board, ridden(a_ride(4, runs=[run]), a_ride(9, runs=[run]), board=board)))
    untold = Evaluation(as_taught(board, ridden(a_ride(4), a_ride(9), board=board)))
    low, high = taught.bands["speed"]
    assert low <= 34.0 <= high
    assert taught.values["range"][0] == pytest.approx(untold.values["range"][0], rel=0.04)


def test_a_pack_that_is_worn_is_not_learnt_as_a_hard_rider():
    """Rides that end a fifth early: the pack's health takes its share of it, and less goes to the rider's other boards."""
    early = [to_the_end(i, 17.5 + 0.3 * (i % 3)) for i in range(6)]
    lesson = learn(BOARD, ridden(*early))
    assert lesson.mean[lesson.names.index("health")] < -0.1


def test_what_a_meter_is_off_by_does_not_average_out():
    """Twenty rides read by one meter leave more doubt than errors drawn anew for each reading would."""
    season = [a_ride(2 * i, pack={"end_v": 36.8 + 0.1 * (i % 3), "by": "gauge", "rested_s": 900}) for i in range(20)]
    lesson = learn(BOARD, ridden(*season))
    at = lesson.names.index("gauge_offset")
    assert lesson.covariance[at, at] > 0.5, "nothing tells it apart from what the board uses"
    to_the_end_too = learn(BOARD, ridden(*season, *[to_the_end(60 + i, 24.0) for i in range(6)]))
    at = to_the_end_too.names.index("gauge_offset")
    assert to_the_end_too.covariance[at, at] < 0.8 * lesson.covariance[at, at], "rides to the cut-off do"


def test_a_ride_that_contradicts_the_rest_is_shown_and_drags_little():
    season = [to_the_end(i, 24 + 0.5 * (i % 3)) for i in range(6)]
    wrong = to_the_end(20, 24.5 / 1.609344)
    before = Evaluation(as_taught(BOARD, ridden(*season))).values["cut_off"][0]
    after = Evaluation(as_taught(BOARD, ridden(*season, wrong))).values["cut_off"][0]
    assert abs(log(after / before)) < 0.03, "a sixth of the seven would be 7 %"
    report = calibration_report(BOARD, ridden(*season, wrong))
    assert report.odd == [6]
    assert not report.judged[6].figures[0].inside
    assert report.judged[6].hint is not None
    assert "miles" in report.judged[6].hint.text


def test_each_ride_is_judged_by_what_was_known_before_it():
    report = calibration_report(BOARD, ridden(*SEASON))
    first, later = report.judged[0].figures[0], calibration_report(BOARD, ridden(*SEASON[1:], SEASON[0])).judged[4]
    assert first.what == later.figures[0].what == "range_km"
    prior = Evaluation(BOARD)
    low, high = prior.bands["cut_off"]
    # The day is said, so the band is narrower than that of any day, but not by much: nothing was ridden before.
    assert 0.75 < log(first.high / first.low) / log(high / low) < 1.1
    # The order of entering changes nothing: the day does.
    assert later.figures[0].low == pytest.approx(first.low)
    named = {b.input for f in report.judged[0].figures for b in f.because}
    assert "riding" in named


def test_what_rides_moved_is_named_and_shrinks_what_depends_on_it():
    report = calibration_report(BOARD, ridden(*SEASON))
    by = {i.input: i for i in report.inputs}
    assert by["riding"].carried_over
    assert not by["crr"].carried_over
    assert 3 in by["riding"].by, "what a charger counted is what the rider took"
    assert 2 in by["crr"].by, "the coast-down tells of the road"
    for outcome in report.outcomes:
        before, after = ((b.high - b.low) / b.mid for b in (outcome.before, outcome.after))
        assert after <= 1.04 * before, outcome.title
    taught = as_taught(BOARD, ridden(*SEASON))
    found = predict(taught)
    origins = {i.name: i.origin for i in found.why["range"].inputs}
    assert origins["how you ride"] == "rides"
    assert found.why["range"].inputs
    before = {
        m.measure: max(g.narrower for g in m.gains if g.result == "range")
        for m in predict(BOARD).measure_next
        if any(g.result == "range" for g in m.gains)
    }
    after = {
        m.measure: max(g.narrower for g in m.gains if g.result == "range")
        for m in found.measure_next
        if any(g.result == "range" for g in m.gains)
    }
    rides = next(m for m in before if "a few rides" in m)
    assert after.get(rides, 0.0) < 0.5 * before[rides], "what was ridden need not be ridden again"


def test_what_is_another_thing_now_is_forgotten_and_all_else_kept():
    taught = as_taught(BOARD, ridden(*SEASON))
    other = taught.model_copy(
        update={
            "parts": taught.parts.model_copy(
                update={"motors": taught.parts.motors.model_copy(update={"kv_rpm_per_v": 140})}
            )
        }
    )
    evaluation = Evaluation(other)
    assert evaluation.joint.marginal("kv") == (0.0, 1.0)
    assert evaluation.joint.marginal("riding")[1] < 0.8
    assert half_width(other, "range") < 0.7 * half_width(BOARD, "range")


def middle(build: Build) -> float:
    return float(Evaluation(build, 0).headline_values["range"][0])


def edited(build: Build, changes: dict[str, object]) -> Build:
    """The build with something entered otherwise, and with what its rides taught."""
    return read_build(changed(write_build(build), changes)).model_copy(update={"calibration": build.calibration})


@pytest.mark.parametrize(
    "edit",
    [
        {"brief.rides": "usual"},
        {"rider.mass_kg": 81},
        {"parts.wheels.diameter_mm": 89.4, "measured": [{"path": "parts.wheels.diameter_mm"}]},
        {"brief.cruise_kmh": 23},
    ],
    ids=["how it is ridden", "a heavier rider", "a wheel measured", "a little faster"],
)
def test_what_was_learnt_survives_an_edit(edit):
    """The board changes by what the edit changes; nothing that rides taught is lost with it."""
    taught = as_taught(BOARD, ridden(*SEASON))
    changed_by = middle(edited(taught, edit)) / middle(taught)
    assert changed_by == pytest.approx(middle(edited(BOARD, edit)) / middle(BOARD), abs=0.015)
    assert half_width(edited(taught, edit), "range") < 0.75 * half_width(edited(BOARD, edit), "range")


def test_another_wheel_does_not_profit_from_forgetting():
    """Rides on a rough road taught more rolling resistance: a smaller wheel is not better for it."""
    slow = as_taught(BOARD, ridden(*[to_the_end(i, 15.0) for i in range(6)]))
    crr = Evaluation(slow, 0).joint.marginal("crr")
    assert crr[0] > 0.1, "the rides taught it"
    smaller = {"parts.wheels.diameter_mm": 72}
    other = Evaluation(edited(slow, smaller), 0).joint.marginal("crr")
    assert 0.0 < other[0] < crr[0], "what is the road's stays"
    assert crr[1] < other[1] < 1.0, "and what is the wheel's is unknown again"
    assert middle(edited(slow, smaller)) < middle(slow), "a smaller wheel goes less far, learnt or not"
    gravel = edited(slow, {**smaller, "brief.surface": "packed_gravel"})
    assert Evaluation(gravel, 0).joint.marginal("crr") == (0.0, 1.0), "another road is another thing altogether"


def test_a_ride_of_somebody_else_says_nothing_of_how_its_owner_rides():
    season = [to_the_end(i, 22.0, rider={"other": True, "mass_kg": 60}) for i in range(4)]
    lesson = learn(BOARD, ridden(*season))
    at = lesson.names.index("riding")
    assert lesson.mean[at] == pytest.approx(0.0, abs=1e-9)
    assert lesson.covariance[at, at] == pytest.approx(1.0)


def test_what_is_the_riders_own_is_carried_to_the_next_board():
    lesson = learn(BOARD, ridden(*SEASON))
    own = of_the_rider(lesson)
    other = read_build(
        changed(
            SPIT_RUNNER,
            {"assumptions.wind_ms": None, "parts.wheels.diameter_mm": 100, "parts.motors.kv_rpm_per_v": 140},
        )
    )
    usual = Evaluation(other, 0).resolved.inputs
    along = as_taught(other, [], together([own], usual), ["Spit runner"])
    assert along.calibration.boards == ["Spit runner"]
    assert half_width(along, "range") < 0.9 * half_width(other, "range")
    taught = {i.name: i.mean for i in along.calibration.inputs}
    assert set(taught) <= {"riding", "mean_speed", "cda", "returned"}
    # Two boards that say the same make it surer than one.
    twice = together([own, own], usual)
    assert twice.covariance[0, 0] < together([own], usual).covariance[0, 0] < 1.0
    np.testing.assert_allclose(together([own], usual).mean, own.joint.mean, atol=1e-9)


def test_a_pack_that_fades_shows_as_a_trend_and_a_steady_one_does_not():
    steady = [to_the_end(7 * i, 24.0 + 0.4 * (i % 3 - 1)) for i in range(12)]
    fading = [to_the_end(7 * i, (24.0 + 0.4 * (i % 3 - 1)) * exp(-0.02 * i)) for i in range(12)]
    told = [calibration_report(BOARD, ridden(*rides)).trends[0] for rides in (steady, fading)]
    assert told[0].low < 0 < told[0].high
    assert told[1].low > 0
    # What is usual holds the slope back: half of it is told, and its band reaches to the whole of it.
    assert told[1].high > 0.6 * 100 * (exp(0.02 / 7 * 100) - 1)
    assert "ageing" in told[1].message.text


def test_a_coast_down_follows_the_closed_solution():
    """m dv/dt = -(a + b v^2), integrated in small steps of time."""
    evaluation = Evaluation(BOARD, 0)
    a, b, m = (float(v[0]) for v in coast_forces(evaluation.board))
    speed, way = 25 / 3.6, 0.0
    while speed > 5 / 3.6:
        way, speed = way + speed * 1e-3, speed - (a + b * speed**2) / m * 1e-3
    assert float(rolled_out(np.array([a]), np.array([b]), np.array([m]), 25 / 3.6, 5 / 3.6)[0]) == pytest.approx(
        way, rel=1e-3
    )


@pytest.mark.parametrize("chemistry", ["nmc", "lfp", "polymer"])
@pytest.mark.parametrize("charge", [0.15, 0.4, 0.7, 0.95])
def test_volts_and_charge_are_told_from_each_other(chemistry, charge):
    fixed = resolve(read_build(changed(SPIT_RUNNER, {"parts.pack.cell.chemistry": chemistry}))).fixed
    back, slope = charge_from_volts(fixed, rest_volts(fixed, charge) / fixed["series"])
    # Where the curve is nearly flat a tenth of the charge is a few millivolts, and the slope says so.
    assert back == pytest.approx(charge, abs=0.01 if slope > 0.2 else 0.06)
    above, below = (rest_volts(fixed, c) for c in (charge + 0.04, charge - 0.04))
    assert slope == pytest.approx(max((above - below) / fixed["series"] / 0.08, 0.08), rel=0.02)


def own_prediction(said, kind: str) -> float:
    """What the board itself would have read off the run that is described, by the model's middle."""
    usual = resolve(BOARD)
    seen = observed_of(BOARD, ridden(a_ride(way={}, pack={}, runs=[said])), usual)
    rows = np.zeros((1, 1, len(INPUTS)))
    found = RidePredictor(seen, usual)(rows, rows)
    assert [o.what for o in seen[0].observations] == [kind]
    return exp(float(found[0, 0]))


def test_each_guided_test_is_told_by_its_own_physics():
    evaluation = Evaluation(BOARD, 0)
    full = float(evaluation.board.charge_full[0])
    # Wheels in the air at a voltage: the free speed grows with it, and loses to the wheel's own drag only.
    low, high = (own_prediction({"kind": "unloaded", "kmh": 40, "pack_v": v}, "unloaded_kmh") for v in (37.0, 41.0))
    assert low < high
    assert high / low == pytest.approx(41.0 / 37.0, rel=0.02)
    # A charge between two voltages at rest: the wall gives more than arrives, and twice the charge is twice the energy.
    volts = [rest_volts(evaluation.resolved.fixed, q * full) for q in (0.2, 0.5, 0.8)]
    at_the_pack = [
        own_prediction({"kind": "charge", "wh": 100, "at": "pack", "from_v": a, "to_v": b}, "charge_wh")
        for a, b in (volts[:2], volts[1:], volts[::2])
    ]
    assert at_the_pack[0] + at_the_pack[1] == pytest.approx(at_the_pack[2], rel=0.02)
    said = {"kind": "charge", "wh": 100, "at": "wall", "from_v": volts[0], "to_v": volts[2]}
    assert own_prediction(said, "charge_wh") == pytest.approx(at_the_pack[2] / WALL)
    # With the belts off nothing of the drive holds the board back.
    rolls = [
        own_prediction({"kind": "coast", "from_kmh": 24, "to_kmh": 5, "metres": 90, "drive_off": off}, "coast_m")
        for off in (False, True)
    ]
    assert rolls[0] < rolls[1]
    # A steeper hill is climbed more slowly, and one on which the board stands still is told as a stop.
    climbs = [
        own_prediction({"kind": "hill", "grade_pct": g, "length_m": 200, "top_kmh": 10}, "hill_kmh")
        for g in (4, 10, 16)
    ]
    assert climbs == sorted(climbs, reverse=True)


def test_rides_come_back_from_their_file_as_they_were():
    document = write_rides(SEASON, "Spit runner")
    assert read_rides(json.dumps(document)) == SEASON
    assert read_rides(json.dumps(document).encode()) == SEASON


@pytest.mark.parametrize(
    ("said", "field", "reason"),
    [
        ({"day": "2026-13-04", "way": {"distance_km": 3}}, "day", "no|day"),
        ({"day": "2026-05-04"}, "", "one measurement"),
        ({"day": "2026-05-04", "way": {"distance_km": -3}}, "way.distance_km", "outside"),
        ({"day": "2026-05-04", "pack": {"start_v": 30, "end_v": 41}}, "", "swapped"),
        ({"day": "2026-05-04", "way": {"distance_km": 3}, "mood": 3}, "mood", "unknown key"),
        ({"day": "2026-05-04", "runs": [{"kind": "flight"}]}, "runs.0", "kind|tag"),
    ],
)
def test_a_ride_that_cannot_be_names_its_field_and_its_reason(said, field, reason):
    with pytest.raises(BuildFileError) as told:
        read_ride(said)
    fault = told.value.faults[0]
    assert fault.field == field or field in fault.field
    assert any(word in fault.reason for word in reason.split("|")), fault.reason


def test_volts_of_another_pack_are_told():
    (fault,) = cannot_be(BOARD, a_ride(pack={"end_v": 22.0}))
    assert fault.field == "pack.end_v"
    assert "not of this pack" in fault.reason


def test_a_build_that_carries_what_was_learnt_is_read_back():
    taught = as_taught(BOARD, ridden(*SEASON))
    again = read_build(taught.model_dump(mode="json", exclude_none=True))
    assert half_width(again) == pytest.approx(half_width(taught), rel=1e-3)
    broken = taught.model_dump(mode="json", exclude_none=True)
    broken["calibration"]["covariance"].pop()
    with pytest.raises(BuildFileError, match="row and a column"):
        read_build(broken)


def test_weights_never_make_the_covariance_lose_its_sense():
    lesson = learn(BOARD, ridden(*SEASON, to_the_end(50, 3.0)))
    values = np.linalg.eigvalsh(lesson.covariance)
    assert (values > 0).all()
    assert (values < 1 + 1e-6).all()
    assert written(lesson.joint, lesson.usual.inputs, 1, BOARD).rides == 1


def test_a_season_is_learnt_as_its_rides_are_looked_at_closely(monkeypatch):
    """Of many rides slopes are taken one way and once a round; with both ways at every step the same is learnt."""
    chance = np.random.default_rng(8)
    rides = ridden(
        *(
            a_ride(way={"distance_km": float(chance.uniform(4, 12))}, pack={"start_v": 41.6, "end_v": float(v)})
            for v in chance.normal(38.5, 0.4, 64)
        )
    )
    quick = learn(BOARD, rides)
    monkeypatch.setattr(learning, "_SEASON", 1000)
    close = learn(BOARD, rides)
    deviations = np.sqrt(np.diag(close.covariance))
    assert np.abs((quick.mean - close.mean) / deviations).max() < 0.1
    assert np.sqrt(np.diag(quick.covariance)) == pytest.approx(deviations, rel=0.05)
