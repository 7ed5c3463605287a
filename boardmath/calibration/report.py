"""What rides taught, told: every input and every outcome before and after, what each ride moved, trends, what goes with the
rider.
"""

from collections.abc import Sequence
from datetime import date
from math import exp, sqrt
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.calibration.day import RIDERS_OWN
from boardmath.calibration.judging import TENTH, RideJudged, judged
from boardmath.calibration.learning import Lesson, Ridden, learn
from boardmath.calibration.observing import Observed
from boardmath.interval import Interval
from boardmath.messages import Message, message
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import Input
from boardmath.model.model_inputs import BY_NAME, Owner
from boardmath.model.posterior import MultivariateNormal, middle_of, moved_value, written
from boardmath.model.resolution import Incomplete
from boardmath.physics.types import Array
from boardmath.prediction.ranges import QUANTITIES
from boardmath.units import QUANTITIES as UNITS

_WORTH_TELLING = 0.03
"""Of an input's doubt that rides have to take, or of a deviation that they have to move it by, before it is told."""
_TAUGHT = 0.1
"""A ride that gave less than this share of what is known of an input is not named for it."""


class Share(BaseModel):
    """What one ride gave: its place, its share of all that rides taught of the input, and how far it moved it."""

    ride: int
    share: float
    moved: float
    """In the unit of the input."""


class CalibratedInput(BaseModel):
    """An input of the model before and after the rides, in the build file's unit."""

    input: str
    title: str
    unit: str
    quantity: str
    field: str
    owner: Owner
    carried_over: bool
    """It is the rider's own and goes with them to the next board."""
    before: Interval
    after: Interval
    by: list[int]
    shares: list[Share]


class CalibratedOutcome(BaseModel):
    """A result before and after."""

    result: str
    title: str
    quantity: str
    before: Interval
    after: Interval


class Trend(BaseModel):
    """How what rides take has changed over the days, in per cent of it a hundred days, with its band."""

    of: Literal["charge", "energy"]
    low: float
    mid: float
    high: float
    days: int
    message: Message


class CalibrationReport(BaseModel):
    """All that rides taught. ``rides`` are those that taught; ``odd`` those that contradict the rest, by place."""

    rides: int
    left_out: int
    cannot: int
    """Rides of which nothing could be learnt: nothing in them is measured against the prediction."""
    inputs: list[CalibratedInput]
    outcomes: list[CalibratedOutcome]
    judged: list[RideJudged]
    odd: list[int]
    trends: list[Trend]
    boards: list[str]
    """Other boards of the rider from which something came along."""
    needs: list[str] = []


OUTCOMES = {
    "range": "Range",
    "cut_off": "Range to the cut-off",
    "worst": "Range on the worst day",
    "consumption": "Consumption",
    "speed": "Top speed",
    "hill": "Steepest start",
}


def as_taught(
    build: Build, rides: Sequence[Ridden], before: MultivariateNormal | None = None, boards: Sequence[str] = ()
) -> Build:
    """The build with what its rides, and its rider's other boards, teach laid in; as it was where they teach nothing.

    The build need not be far enough for a prediction.
    """
    plain = build.model_copy(update={"calibration": None})
    try:
        lesson = learn(plain, rides, before)
        if lesson is not None:
            taught = written(lesson.joint, lesson.usual.inputs, len(lesson.seen), build, list(boards))
            return build.model_copy(update={"calibration": taught})
        if before is not None:
            inputs = Evaluation(plain, 0).resolved.inputs
            known = MultivariateNormal(before.names, before.mean, before.covariance)
            return build.model_copy(update={"calibration": written(known, inputs, 0, build, list(boards))})
    except Incomplete:
        pass
    return plain


def calibration_report(
    build: Build, rides: Sequence[Ridden], before: MultivariateNormal | None = None, boards: Sequence[str] = ()
) -> CalibrationReport:
    """What the rides of a board taught."""
    plain = build.model_copy(update={"calibration": None})
    left_out = sum(r.ride.left_out is not None for r in rides)
    nothing = CalibrationReport(
        rides=0,
        left_out=left_out,
        cannot=0,
        inputs=[],
        outcomes=[],
        judged=[],
        odd=[],
        trends=[],
        boards=list(boards),
    )
    first = Evaluation(plain)
    if first.needs:
        return nothing.model_copy(update={"needs": [n.reason for n in first.needs], "cannot": len(rides) - left_out})
    lesson = learn(plain, rides, before)
    if lesson is None:
        return nothing.model_copy(update={"cannot": len(rides) - left_out})
    places = _places(lesson, rides)
    taught = build.model_copy(
        update={"calibration": written(lesson.joint, lesson.usual.inputs, len(lesson.seen), build)}
    )
    figures = judged(lesson, places)
    return nothing.model_copy(
        update={
            "rides": len(lesson.seen),
            "cannot": len(rides) - left_out - len(lesson.seen),
            "inputs": _inputs(lesson, places),
            "outcomes": _outcomes(first, Evaluation(taught)),
            "judged": sorted(figures, key=lambda j: j.ride),
            "odd": sorted(j.ride for j in figures if any(f.contradicts for f in j.figures)),
            "trends": trends(lesson),
        }
    )


def _places(lesson: Lesson, rides: Sequence[Ridden]) -> list[int]:
    """For each ride of the lesson its place among the rides as they were given."""
    of = {id(r.ride): i for i, r in enumerate(rides)}
    return [of[id(seen.day.ride)] for seen in lesson.seen]


def _band_of(known: Input, mean: float, left: float) -> Interval:
    shift = known.spread / 2.0 if known.shape == "lognormal" else 0.0
    ends = [moved_value(known, mean + t * left - shift) for t in (-TENTH, TENTH)]
    mid = moved_value(known, middle_of(known, mean, left))
    return Interval(low=min(*ends, mid), mid=mid, high=max(*ends, mid))


def _inputs(lesson: Lesson, places: Sequence[int]) -> list[CalibratedInput]:
    given, pulls = _contributions(lesson)
    deviation = np.sqrt(np.diag(lesson.covariance))
    found = []
    for c, name in enumerate(lesson.names):
        mean, left = float(lesson.mean[c]), float(deviation[c])
        if 1.0 - left < _WORTH_TELLING and abs(mean) < _WORTH_TELLING:
            continue
        record, known = BY_NAME[name], lesson.usual.inputs[name]
        all_of_it = max(float(given[:, c].clip(0.0).sum()), 1e-9)
        start = moved_value(known, float(lesson.first.mean[c]))
        shares = [
            Share(
                ride=places[k],
                share=float(given[k, c]) / all_of_it,
                moved=moved_value(known, float(lesson.first.mean[c] + pulls[k, c])) - start,
            )
            for k in np.argsort(-given[:, c])
            if given[k, c] / all_of_it >= _TAUGHT
        ]
        found.append(
            CalibratedInput(
                input=name,
                title=record.title,
                unit=UNITS[record.quantity].unit,
                quantity=record.quantity,
                field=known.field,
                owner=record.owner,
                carried_over=name in RIDERS_OWN,
                before=_band_of(known, 0.0, 1.0),
                after=_band_of(known, mean, left),
                by=sorted(s.ride for s in shares),
                shares=shares,
            )
        )
    return sorted(found, key=lambda i: _narrower(i))


def _narrower(one: CalibratedInput) -> float:
    return (one.after.high - one.after.low) / max(one.before.high - one.before.low, 1e-12)


def _contributions(lesson: Lesson) -> tuple[Array, Array]:
    """For each ride and input the share of its knowledge that the ride gave, and how far the ride pulled it; (rides, inputs)."""
    given, pulls = [], []
    for k, seen in enumerate(lesson.seen):
        slope = lesson.slopes[k]
        weighed = lesson.covariance @ slope.T @ lesson.weighed(k)
        y = np.array([o.y for o in seen.observations])
        given.append(np.diag(weighed @ slope))
        pulls.append(weighed @ (y - lesson.said[k] + slope @ (lesson.mean - lesson.first.mean)))
    return np.array(given), np.array(pulls)


def _outcomes(first: Evaluation, after: Evaluation) -> list[CalibratedOutcome]:
    found = []
    for result, title in OUTCOMES.items():
        bands = [c.bands[result] for c in (first, after)]
        if bands[0] is None or bands[1] is None:
            continue
        both = [
            Interval(low=b[0], mid=float(c.values[result][0]), high=b[1])
            for b, c in zip((bands[0], bands[1]), (first, after), strict=True)
        ]
        found.append(
            CalibratedOutcome(result=result, title=title, quantity=QUANTITIES[result], before=both[0], after=both[1])
        )
    return found


# --- trends ---------------------------------------------------------------------------------------------------------

_FEWEST_RIDES, _FEWEST_DAYS = 4, 30
_DRIFT = 0.15
"""How far what a ride takes drifts in a hundred days, as the deviation of its logarithm, before anything is known of a board
(common
practice, no source: a pack worn by a fifth in some years, or a brake that drags from one day to the next)."""


def trends(lesson: Lesson) -> list[Trend]:
    """Whether rides take more than they did: of the charge (a pack that fades, or something that drags), of the energy
    (drags).
    """
    found = []
    for of, what in (("charge", ("end_v", "range_km")), ("energy", ("consumption_wh_per_km",))):
        rows = [
            (
                date.fromisoformat(seen.day.ride.day).toordinal(),
                _miss(lesson, k, i, seen),
                lesson.own.noise[k][i, i],
                seen.day.resolved.inputs["temperature"].value,
            )
            for k, seen in enumerate(lesson.seen)
            for i, o in enumerate(seen.observations)
            if o.what in what and lesson.weights[k][i] > 0.5
        ]
        if len(rows) < _FEWEST_RIDES or rows[-1][0] - rows[0][0] < _FEWEST_DAYS:
            continue
        day, miss, variance, celsius = np.array(rows, dtype=float).T
        found.append(_trend(of, day, miss, variance, celsius))
    return found


def _miss(lesson: Lesson, k: int, i: int, seen: Observed) -> float:
    """How much more than expected a ride took, as a logarithm."""
    o = seen.observations[i]
    miss = o.y - float(lesson.said[k][i])
    return -miss if o.what == "range_km" else miss


_BY_WARMTH = 0.08
"""How much more a ride may take for 10 K less than is expected of them (reasoning: half of what the cold is expected to take)."""


def _trend(of: str, day: Array, miss: Array, variance: Array, celsius: Array) -> Trend:
    """A straight line through what rides took beyond the expected, its slope held near 0 by what is usual.

    A second slope takes what goes with the temperature, so that a winter is no trend.
    """
    hundred, warmth = (day - day.mean()) / 100.0, (celsius - celsius.mean()) / 10.0
    design = np.stack([np.ones_like(hundred), hundred, warmth], axis=1) / np.sqrt(variance)[:, np.newaxis]
    precision = design.T @ design + np.diag([1.0 / 0.1**2, 1.0 / _DRIFT**2, 1.0 / _BY_WARMTH**2])
    covariance = np.linalg.inv(precision)
    middle = float((covariance @ design.T @ (miss / np.sqrt(variance)))[1])
    deviation = sqrt(float(covariance[1, 1]))
    low, mid, high = (100.0 * (exp(middle + t * deviation) - 1.0) for t in (-TENTH, 0.0, TENTH))
    if low > 0.0:
        why = (
            "the pack is ageing, or something drags"
            if of == "charge"
            else "something drags: a belt, a bearing, a brake"
        )
        told = message(
            "The {of} used per kilometre has risen: {mid} in a hundred days; {why}.", mid=(mid, "share"), of=of, why=why
        )
    elif high < 0.0:
        told = message("The {of} used per kilometre has fallen: {mid} in a hundred days.", mid=(mid, "share"), of=of)
    else:
        told = message("No change in the {of} used per kilometre, as far as the rides show.", of=of)
    days = int(day[-1] - day[0])
    return Trend(of="charge" if of == "charge" else "energy", low=low, mid=mid, high=high, days=days, message=told)
