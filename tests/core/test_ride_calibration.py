"""Rides shrink bands as far as they may and no further.

Simulation-based calibration with evidence (Talts and others 2018): for every board a truth is drawn from the priors; the
independent scalar model rides it one to five times, each day with a wind, a temperature and a hurry of its own; what is
written down has the errors of meters and the mistakes of people (volts off a gauge, kilometres rounded, the wind
forgotten). Learnt from that, the ranks of what the truth does on one more day are even, and eight in ten lie inside the
band. So they do for the next ride, which has a hurry, stops and a climb of its own.
"""

from dataclasses import replace
from itertools import islice

import numpy as np
import pytest
from scipy.special import ndtri

from boardmath.buildfile import read_build
from boardmath.calibration import learning
from boardmath.calibration.day import OF_THE_DAY
from boardmath.calibration.learning import Ridden, learn, observed_of
from boardmath.calibration.observing import RidePredictor
from boardmath.calibration.ride import Ride
from boardmath.model.evaluation import Evaluation
from boardmath.model.model_inputs import FROM_RIDE_TO_RIDE, INPUTS, READS_VOLTS
from boardmath.model.posterior import written
from boardmath.model.resolution import resolve
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.scalar_model import ScalarBoard
from tests.core.test_calibration import KINDS

BOARDS = 320
RESULTS = ("speed", "consumption", "range", "cut_off", "next ride")
NOISE = {"speed": 0.01, "consumption": 0.02, "range": 0.02, "cut_off": 0.02}


def boards(seed: int = 11):
    chance = np.random.default_rng(seed)
    for i in range(BOARDS):
        rider = {
            "rider.mass_kg": float(chance.uniform(50, 105)),
            "rider.height_m": float(chance.uniform(1.55, 1.95)),
            "brief.cruise_kmh": float(chance.uniform(16, 28)),
            "brief.temperature_c": float(chance.uniform(2, 28)),
            "assumptions.wind_ms": None,
        }
        yield read_build(changed(SPIT_RUNNER, {**rider, **list(KINDS.values())[i % len(KINDS)]})), chance


def drawn(chance) -> dict[str, float]:
    return {i.name: float(v) for i, v in zip(INPUTS, chance.standard_normal(len(INPUTS)), strict=True)}


def a_day(lasting: dict[str, float], resolved, chance, usual: bool) -> ScalarBoard:
    """The true board on a day of its own; not a usual one where hurry and way differ too."""
    fresh = drawn(chance)
    z = {name: fresh[name] if name in OF_THE_DAY else value for name, value in lasting.items()}
    for name, differs in FROM_RIDE_TO_RIDE.items():
        spread = resolved.inputs[name].spread
        if not usual and spread > 0:
            z[name] += differs / spread * float(chance.standard_normal())
    return ScalarBoard(resolved, z)


def ridden(day: int, truth: ScalarBoard, off: dict[str, float], chance) -> Ride | None:
    """A ride of the truth as somebody writes it down, with errors and mistakes; ``off`` V are those of curve and instruments."""
    to_the_end = chance.random() < 0.35
    home = float(chance.uniform(0.12, 0.6))
    truth.q1 = home
    ride = truth.ride(slices=0.34, rtol=2e-2)
    to_the_end = to_the_end or ride["range"] >= ride["to_the_end"]
    metres = ride["to_the_end"] if to_the_end else ride["range"]
    if metres < 400:
        return None
    # A counter's error, and what a rider calls the end.
    km = metres / 1000 * np.exp((0.028 if to_the_end else 0.015) * chance.standard_normal())
    km = max(round(km), 1) if chance.random() < 0.3 and km > 5 else round(km, 1)
    said: dict = {"day": f"2026-05-{day + 1:02d}", "way": {"distance_km": float(km)}, "conditions": {}, "pack": {}}
    if chance.random() < 0.7:
        said["conditions"]["temperature_c"] = float(round(truth.ambient + 2.5 * chance.standard_normal()))
    if chance.random() < 0.5:  # else forgotten
        said["conditions"] |= {"wind_ms": float(round(truth.swing * np.exp(0.3 * chance.standard_normal()), 1))}
    if chance.random() < 0.4:
        said["way"]["ascent_m"] = float(round(truth.ascent * metres * np.exp(0.1 * chance.standard_normal())))
    if chance.random() < 0.4 and not to_the_end:
        said["way"]["moving_s"] = round(ride["seconds"], 0)
    if to_the_end:
        said["pack"] = {"ended": "cut_off"}
        return Ride.model_validate(said)
    by, error = ("gauge", 0.15) if chance.random() < 0.35 else ("meter", 0.03)
    always = truth.s * off["cell_curve"] + off[f"{by}_offset"]
    volts = truth.open_circuit(home) + always + error * chance.standard_normal()
    if chance.random() < 0.5:
        rested = 900.0
    else:
        rested, volts = None, volts - truth.s * (0.006 + 0.012 * chance.standard_normal())
    said["pack"] = {"end_v": float(round(volts, 1)), "by": by}
    if rested:
        said["pack"]["rested_s"] = rested
    if chance.random() < 0.4:
        volts = truth.open_circuit(truth.q0) + always + error * chance.standard_normal()
        said["pack"]["start_v"] = float(max(round(volts, 1), said["pack"]["end_v"]))
    if chance.random() < 0.25:
        said["pack"]["wh"] = float(round(ride["energy"] / 3600 * 1.05 * np.exp(0.04 * chance.standard_normal())))
    return Ride.model_validate(said)


def judge_board(build, chance, days: int, otherwise=lambda resolved, truth, chance: None):
    """Ranks of what a true board does among the samples that its rides left, and half the width of the band over its middle.

    Args:
        otherwise: changes the truth to one that the priors do not know; with the same draws on every day.
    """
    before = Evaluation(build, 256)
    lasting = drawn(chance)
    off = {name: before.resolved.inputs[name].spread * lasting[name] for name in READS_VOLTS}
    seed = int(chance.integers(1 << 30))

    def on_a_day(usual: bool) -> ScalarBoard:
        truth = a_day(lasting, before.resolved, chance, usual)
        otherwise(before.resolved, truth, np.random.default_rng(seed))
        return truth

    every = [ridden(day, on_a_day(usual=False), off, chance) for day in range(days)]
    rides = [Ridden(ride, build) for ride in every if ride is not None]
    lesson = learn(build, rides)
    if lesson is None:
        return None
    taught = written(lesson.joint, lesson.usual.inputs, len(rides), build)
    evaluation = Evaluation(build.model_copy(update={"calibration": taught}), 256)
    truth = on_a_day(usual=True)
    ride = truth.ride(slices=0.34, rtol=2e-2)
    did = {
        "speed": truth.top_speed() * 3.6,
        "consumption": ride["energy"] / ride["range"] / 3.6 if ride["range"] else np.nan,
        "range": ride["range"] / 1000,
        "cut_off": ride["to_the_end"] / 1000,
    }
    ranks = {}
    for name, noise in NOISE.items():
        read_off = did[name] * np.exp(noise * chance.standard_normal())
        ranks[name] = float((evaluation.headline_values[name][1:] < read_off).mean())
    # One more ride, with a hurry and a way of its own, against what is said of the next ride.
    following = on_a_day(usual=False).ride(slices=0.34, rtol=2e-2)["to_the_end"] / 1000
    read_off = following * np.exp(NOISE["cut_off"] * chance.standard_normal())
    expected = evaluation.of_the_next_ride(evaluation.headline_values["cut_off"])
    ranks["next ride"] = float((expected[1:] < read_off).mean())
    low, high = evaluation.headline_bands["cut_off"]
    return ranks, (high - low) / 2 / float(evaluation.values["cut_off"][0])


@pytest.fixture(scope="module")
def judged():
    """For each result the rank of what the truth did among the samples; and by days half the width of the band."""
    found = [(1 + i % 5, judge_board(build, chance, 1 + i % 5)) for i, (build, chance) in enumerate(boards())]
    ranks = {name: np.array([f[0][name] for _, f in found if f]) for name in RESULTS}
    widths = {days: np.median([f[1] for d, f in found if f and d == days]) for days in (1, 5)}
    return ranks, widths


def test_rides_leave_bands_as_narrow_as_they_are_worth(judged):
    """Half the width of the band of range, over its middle, in the median of the boards."""
    assert judged[1][1] <= 0.18
    assert judged[1][5] <= 0.10


@pytest.mark.parametrize("result", RESULTS)
def test_eight_in_ten_lie_inside_the_band_that_rides_left(judged, result):
    ranks = judged[0][result]
    assert len(ranks) >= 300
    # Of 320 boards alone two deviations are 4.5 in a hundred.
    assert ((ranks >= 0.1) & (ranks <= 0.9)).mean() == pytest.approx(0.80, abs=0.05)


@pytest.mark.parametrize("result", RESULTS)
def test_the_ranks_are_even(judged, result):
    """No tenth of the band holds many more or fewer truths than another: chi squared of 9 degrees is below 40.0 in 99,999
    of 100,000: ten such questions are asked of the same boards.
    """
    counts = np.histogram(judged[0][result], bins=10, range=(0, 1))[0]
    assert ((counts - counts.mean()) ** 2 / counts.mean()).sum() < 40.0


def as_written(day: int, usual, chance) -> Ride:
    """A ride of which some is said and some is not; what was measured on it is put in afterwards."""
    volts = float(usual.fixed["series"] * chance.uniform(3.5, 3.9))
    said: dict = {"day": f"2026-05-{day + 1:02d}", "way": {"distance_km": float(chance.uniform(4, 12))}}
    said["pack"] = {"end_v": volts, "by": "meter", "rested_s": 900.0}
    if chance.random() < 0.5:
        said["conditions"] = {"temperature_c": float(chance.uniform(5, 25)), "wind_ms": float(chance.uniform(0, 5))}
    return Ride.model_validate(said)


def test_after_twenty_rides_as_many_truths_lie_above_the_middle_as_below(monkeypatch):
    """In a world of the model's own, where nothing but the learning itself can lean to one side.

    What the rides measured is what the engine says of a board drawn from the priors, with the errors of reading. The mean of the
    ranks as normal scores is within 0.15 of nothing; on these boards it was 0.20 while the doubt of stops, climb and pace alone
    was looked at.
    """
    ranks = []
    for build, chance in islice(boards(77), 30):
        usual = resolve(build)
        seen = observed_of(build, [Ridden(as_written(day, usual, chance), build) for day in range(20)], usual)
        true = chance.standard_normal(len(INPUTS))
        predictor = RidePredictor(seen, usual)
        own = chance.standard_normal((len(seen), 1, len(INPUTS)))
        said = predictor(np.broadcast_to(true, own.shape), own)[0]
        for k, (of_ride, cut) in enumerate(zip(seen, predictor.cuts, strict=True)):
            read = [
                replace(o, y=y + o.sd * chance.standard_normal())
                for o, y in zip(of_ride.observations, said[cut], strict=True)
            ]
            seen[k] = replace(of_ride, observations=read)
        monkeypatch.setattr(learning, "observed_of", lambda *_, seen=seen: seen)
        lesson = learn(build, [])
        taught = written(lesson.joint, lesson.usual.inputs, len(seen), build)
        samples = Evaluation(build.model_copy(update={"calibration": taught}), 256).headline_values["cut_off"][1:]
        truth = Evaluation(build, 1)
        truth.normal_scores = np.stack([np.zeros(len(INPUTS)), true])
        ranks.append((samples < truth.headline_values["cut_off"][1]).mean())
    scores = ndtri(np.clip(ranks, 0.01, 0.99))
    assert abs(scores.mean()) < 0.15
    assert 0.7 <= np.mean(np.abs(scores) < ndtri(0.9)) <= 0.95
