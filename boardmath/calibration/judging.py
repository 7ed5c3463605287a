"""Rides judged: each measured figure beside what was expected of that day, by what was known before it, and what would
explain it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log, sqrt

import numpy as np
from pydantic import BaseModel
from scipy.special import ndtri

from boardmath.calibration.learning import CONTRADICTS, Lesson
from boardmath.calibration.observing import Observation, RidePredictor, What
from boardmath.messages import Message, message
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS
from boardmath.physics.types import Array

TENTH = float(ndtri(0.9))
"""Deviations of a normal distribution out to its tenth and ninetieth percentile."""
_LEAST_SHARE, _MOST_REASONS = 0.08, 4
_MILE, _FAR_OFF_PCT = log(1.609344), 20.0

TITLES: dict[What, str] = {
    "range_km": "Distance to the cut-off",
    "end_v": "Volts at the end",
    "consumption_wh_per_km": "Consumption",
    "at_least_km": "Way ridden",
    "mean_kmh": "Mean speed",
    "ascent_m_per_km": "Climb",
    "stops_per_km": "Stops",
    "speed_kmh": "Top speed",
    "hill_kmh": "Speed up the hill",
    "coast_m": "Rolled out",
    "unloaded_kmh": "Wheel speed in the air",
    "charge_wh": "Charged",
}
_HINTS: tuple[What, ...] = ("ascent_m_per_km", "stops_per_km")
"""Figures of a way that say what is usual, and are no prediction for the board."""
_WORDS = {
    "riding": ("ridden harder than you do", "ridden more gently than you do"),
    "mean_speed": ("ridden faster than usual", "ridden slower than usual"),
    "temperature": ("a warmer day", "a colder day"),
    "charge_start": ("started with more charge", "started with less charge"),
    "stops": ("more stops", "fewer stops"),
    "ascent": ("more climbing on the way", "less climbing on the way"),
    "swing_wind": ("more wind out and back", "less wind out and back"),
    "way_wind": ("more headwind", "more tailwind"),
    "returned": ("more braking by the motors", "less braking by the motors"),
    "drive_efficiency": ("a more efficient drive", "a less efficient drive"),
    "weakest_group": ("groups more alike", "a weaker group of cells"),
    "health": ("more capacity left in the pack", "less capacity left in the pack"),
}
_LASTS = {
    "riding": ("you ride harder than predicted", "you ride more gently than predicted"),
    "mean_speed": ("you ride faster than predicted", "you ride slower than predicted"),
    "stops": ("your route has more stops than predicted", "your route has fewer stops than predicted"),
    "ascent": ("your route climbs more than predicted", "your route climbs less than predicted"),
}


class Because(BaseModel):
    """What would explain a figure that lies off, and how much of its doubt is that."""

    input: str
    words: str
    share: float


class FigureJudged(BaseModel):
    """One figure of a ride, in the unit of ``quantity``, and the band in which it was expected."""

    what: What
    title: str
    quantity: str
    run: int | None = None
    measured: float
    low: float
    mid: float
    high: float
    inside: bool
    off_pct: float
    """Measured over expected, less one; in volts of the end, of what was taken."""
    contradicts: bool = False
    because: list[Because] = []


class RideJudged(BaseModel):
    """A ride as it was judged by what was known before it; ``ride`` counts as the rides were given."""

    ride: int
    day: str
    figures: list[FigureJudged]
    hint: Message | None = None


@dataclass(frozen=True)
class _Before:
    """What was known before a ride."""

    mean: Array
    covariance: Array


def _before_each(lesson: Lesson) -> list[_Before]:
    """The joint distribution before every ride, as the slopes of the whole lesson have it."""
    precision = np.linalg.inv(lesson.first.covariance)
    pull = precision @ lesson.first.mean
    found = []
    for k, seen in enumerate(lesson.seen):
        covariance = np.linalg.inv(precision)
        found.append(_Before(covariance @ pull, covariance))
        slope = lesson.slopes[k]
        weighed = slope.T @ lesson.weighed(k)
        y = np.array([o.y for o in seen.observations])
        precision = precision + weighed @ slope
        pull = pull + weighed @ (y - lesson.said[k] + slope @ lesson.mean)
    return found


def judged(lesson: Lesson, places: Sequence[int]) -> list[RideJudged]:
    """Every ride of the lesson; ``places`` says which each was as the rides were given."""
    before = _before_each(lesson)
    columns = [COLUMN[n] for n in lesson.names]
    x = np.zeros((len(lesson.seen), 1, len(INPUTS)))
    for k, known in enumerate(before):
        x[k, 0, columns] = known.mean
    predictor = RidePredictor(lesson.seen, lesson.usual)
    said = predictor(x, np.zeros_like(x))[0]
    found = []
    for k, (seen, cut) in enumerate(zip(lesson.seen, predictor.cuts, strict=True)):
        slope, known = lesson.slopes[k], before[k]
        lasting = slope @ known.covariance
        figures = []
        for i, o in enumerate(seen.observations):
            if o.what in _HINTS:
                continue
            middle = float(said[cut][i] + lesson.own.shift[cut][i])
            own = float(lesson.own.noise[k][i, i])
            deviation = sqrt(max(float(lasting[i] @ slope[i]) + own, 1e-9))
            figures.append(
                _figure(o, middle, deviation, float(lesson.weights[k][i])).model_copy(
                    update={"because": _because(lesson, k, i, lasting[i] * slope[i], o.y - middle, deviation)}
                )
            )
        found.append(
            RideJudged(ride=places[k], day=seen.day.ride.day, figures=figures, hint=_miles(seen.observations, figures))
        )
    return found


def _figure(o: Observation, middle: float, deviation: float, weight: float) -> FigureJudged:
    ends = [o.value(middle - TENTH * deviation), o.value(middle + TENTH * deviation)]
    low, high = sorted(ends)
    above = (o.y - middle) / deviation
    inside = above <= TENTH if o.at_least else abs(above) <= TENTH
    return FigureJudged(
        what=o.what,
        title=TITLES[o.what],
        quantity=o.quantity,
        run=o.run,
        measured=o.value(o.y),
        low=low,
        mid=o.value(middle),
        high=high,
        inside=inside,
        off_pct=100.0 * (float(np.exp(o.y - middle)) - 1.0),
        contradicts=weight < CONTRADICTS,
    )


def _because(lesson: Lesson, k: int, i: int, lasting: Array, miss: float, deviation: float) -> list[Because]:
    """The doubts that make up the band, largest first, each in the direction in which it would explain the miss."""
    shares = [(name, float(lasting[c]), float(lesson.slopes[k][i, c]), False) for c, name in enumerate(lesson.names)]
    shares += [(name, float(s[0, i]), float(s[1, i]), True) for name, s in lesson.own.shares(k).items()]
    total = deviation * deviation
    found = []
    for name, part, slope, of_the_day in sorted(shares, key=lambda s: -s[1])[:_MOST_REASONS]:
        if part / total >= _LEAST_SHARE:
            found.append(Because(input=name, words=_words(name, slope * miss > 0.0, of_the_day), share=part / total))
    return found


def _words(name: str, more: bool, of_the_day: bool) -> str:
    known = _WORDS.get(name) if of_the_day or name not in _LASTS else _LASTS[name]
    if known is not None:
        return known[0 if more else 1]
    return f"{'more' if more else 'less'} {BY_NAME[name].title}"


def _miles(observations: Sequence[Observation], figures: Sequence[FigureJudged]) -> Message | None:
    """Whether the way would fit, were its kilometres miles."""
    shift: dict[What, float] = {"range_km": _MILE, "end_v": -_MILE, "consumption_wh_per_km": -_MILE}
    for o in observations:
        figure = next((f for f in figures if f.what == o.what and f.what in shift), None)
        if figure is None or figure.inside or abs(figure.off_pct) < _FAR_OFF_PCT:
            continue
        again = o.value(o.y + shift[o.what])
        if figure.low <= again <= figure.high:
            return message("It would fit if the kilometres were miles.")
    return None
