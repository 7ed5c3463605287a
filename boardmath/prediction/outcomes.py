"""The five outcomes of a build set against its brief: speed, hill, range, what is carried, money."""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel
from scipy.special import ndtri

from boardmath.buildfile.build import Build, RangeMeans
from boardmath.engine.operating import LIMITS, STEEPEST
from boardmath.likelihood import in_short, in_words
from boardmath.messages import Message, counted, in_a_row, message
from boardmath.model.evaluation import RANGE_VALUES, Evaluation, bands_of, evaluate
from boardmath.model.inputs import hill_grade, marked, range_means
from boardmath.model.limits import named
from boardmath.model.mass import board_mass, resolve_masses
from boardmath.parts.cost import Cost, cost
from boardmath.physics.limit import Limit
from boardmath.physics.types import Array
from boardmath.prediction.ranges import chance_of

Verdict = Literal["on target", "uncertain", "short", "over", "no target", "not predicted"]
MISSED: frozenset[Verdict] = frozenset({"short", "over"})
"""Verdicts on an outcome that misses its target."""
OutcomeName = Literal["speed", "hill", "range", "carry", "money"]


class FurtherRange(BaseModel):
    """Another answer to how far it goes, in km."""

    means: RangeMeans | Literal["next_ride"]
    words: str
    low: float | None = None
    mid: float
    high: float | None = None
    chance: float | None = None


class Outcome(BaseModel):
    """One outcome, its range in the unit of ``quantity``, and how it stands against what the brief wants."""

    name: OutcomeName
    title: str
    quantity: str
    wanted: float | None = None
    low: float | None = None
    mid: float | None = None
    high: float | None = None
    next_low: float | None = None
    """Of the next ride, where it is less sure than a usual one: the verdict and the chance are about it."""
    next_high: float | None = None
    limit: Limit | None = None
    verdict: Verdict
    chance: float | None = None
    """That what the brief wants is kept, 0 to 1, over all that is not known."""
    chance_in_words: str | None = None
    chance_in_short: str | None = None
    more_is_better: bool = True
    message: Message | None = None
    further: list[FurtherRange] = []


class Headline(BaseModel):
    """What the list of boards or a table of candidates shows of a build."""

    outcomes: list[Outcome]
    needs: list[str]


AT_MOST: frozenset[OutcomeName] = frozenset({"carry", "money"})
"""Outcomes of which less is better."""
OUTCOME_TITLES: dict[OutcomeName, str] = {
    "speed": "Speed",
    "hill": "Hill",
    "range": "Range",
    "carry": "Weight",
    "money": "Cost",
}
QUANTITIES: dict[OutcomeName, str] = {
    "speed": "speed",
    "hill": "grade",
    "range": "distance",
    "carry": "body_mass",
    "money": "money",
}


def judge(wanted: float | None, low: float | None, mid: float | None, high: float | None, more: bool) -> Verdict:
    """The range against the target: on target when all of it is on the right side, short (or over) when none is."""
    if mid is None:
        return "not predicted"
    if wanted is None:
        return "no target"
    worst, best = (low, high) if more else (high, low)
    worst, best = (mid if worst is None else worst), (mid if best is None else best)
    sign = 1.0 if more else -1.0
    if sign * (worst - wanted) >= 0.0:
        return "on target"
    if sign * (best - wanted) >= 0.0:
        return "uncertain"
    return "short" if more else "over"


def outcome(
    name: OutcomeName,
    wanted: float | None,
    mid: float | None = None,
    values: Array | None = None,
    band: tuple[float, float] | None = None,
    limit: Limit | None = None,
    message: Message | None = None,
    further: Sequence[FurtherRange] = (),
    judged_by: tuple[float, float] | None = None,
) -> Outcome:
    """An outcome with its verdict and the chance that it is kept; the middle never lies outside its own range.

    Args:
        values: the middle and the samples; band: its low and high.
        judged_by: low and high of what the verdict is about, where that is not what is shown.
    """
    more = name not in AT_MOST
    low, high = band or (None, None)
    worst_low, worst_high = judged_by or (low, high)
    chance = chance_of(values, wanted, more) if wanted is not None and values is not None and mid is not None else None
    return Outcome(
        name=name,
        title=OUTCOME_TITLES[name],
        quantity=QUANTITIES[name],
        wanted=wanted,
        low=low,
        mid=mid,
        high=high,
        next_low=judged_by[0] if judged_by else None,
        next_high=judged_by[1] if judged_by else None,
        limit=limit,
        verdict=judge(wanted, worst_low, mid, worst_high, more),
        chance=chance,
        chance_in_words=in_words(chance) if chance is not None else None,
        chance_in_short=in_short(chance) if chance is not None else None,
        more_is_better=more,
        message=message,
        further=list(further),
    )


RANGE_WORDS: dict[RangeMeans, str] = {
    "to_cut_off": "until the controller cuts off",
    "with_reserve": "home with the reserve left",
    "worst_day": "home even on the worst day",
}
"""The three answers to how far it goes, in words."""


def range_limit(evaluation: Evaluation) -> Limit:
    """What ends the ride."""
    ride = evaluation.rides[0]
    if ride["range"] <= 0.0:
        return LIMITS[int(evaluation.headlines[0]["top_limit"])]
    return "low-voltage cut-off" if ride["cut_off"] else "reserve"


def build_outcomes(evaluation: Evaluation, sums: Cost, whole: bool = False, explained: bool = True) -> list[Outcome]:
    """The outcomes of one build; without a middle where it is not far enough for a prediction.

    Args:
        whole: with the further answers to how far it goes, which take another run of the engine.
        explained: each with a sentence on what makes it what it is.
    """
    build, brief = evaluation.build, evaluation.build.brief
    priced = sums.total > 0.0
    money = outcome(
        "money",
        brief.budget,
        sums.outlay if priced else None,
        limit="prices of the parts" if priced else None,
        message=_money_message(sums) if priced and explained else None,
    )
    # What has no price yet can only add to it.
    if money.verdict == "on target" and (sums.unpriced or sums.other_currency):
        money = money.model_copy(update={"verdict": "uncertain"})
    if evaluation.needs:
        mass = board_mass(build, resolve_masses(marked(build)))
        empty = [
            outcome("speed", brief.top_speed_kmh),
            outcome("hill", hill_grade(build)),
            outcome("range", brief.range_km),
        ]
        spread = np.array([mass.value, *mass.value * np.exp(_QUANTILES * mass.spread)])
        band = bands_of([{"carry": spread}])[0]["carry"]
        return [*empty, outcome("carry", brief.carry_mass_kg, mass.value, spread, band, "sum of the parts"), money]
    first, values = evaluation.headlines[0], evaluation.headline_values
    # The whole prediction has every band at hand; the list of boards sorts only what it shows.
    bands = evaluation.bands if whole else evaluation.headline_bands
    top, start = named(build, LIMITS[int(first["top_limit"])]), LIMITS[int(first["start_limit"])]
    speed_kmh, grade = float(values["speed"][0]), float(values["hill"][0])
    means = range_means(build)
    far, name = evaluation.wanted_range, RANGE_VALUES[means]
    far_band = evaluation.bands[name] if name == "worst" else bands[name]
    next_band = evaluation.next_band
    return [
        outcome(
            "speed",
            brief.top_speed_kmh,
            speed_kmh,
            values["speed"],
            bands["speed"],
            top,
            _speed_message(build, top, speed_kmh, float(first["unloaded_speed"]) * 3.6) if explained else None,
        ),
        outcome(
            "hill",
            hill_grade(build),
            grade,
            values["hill"],
            bands["hill"],
            start,
            _hill_message(start, grade) if explained else None,
        ),
        outcome(
            "range",
            brief.range_km,
            float(far[0]),
            # What the brief wants is wanted of the next ride, which has a pace, stops and a climb of its own.
            evaluation.next_range,
            far_band,
            range_limit(evaluation),
            _range_message(evaluation) if explained else None,
            [*_next_ride(float(far[0]), far_band, next_band), *_further(evaluation, means)] if whole else [],
            next_band,
        ),
        outcome(
            "carry",
            brief.carry_mass_kg,
            float(values["carry"][0]),
            values["carry"],
            bands["carry"],
            "weighed" if build.weighed_kg is not None else "sum of the parts",
        ),
        money,
    ]


_QUANTILES = np.asarray(ndtri((np.arange(200) + 0.5) / 200.0))


_TOLD_APART = 1.1
"""Times as wide as that of a usual ride, from which on the range of the next one is shown beside it."""


def _next_ride(
    mid: float, usual: tuple[float, float] | None, following: tuple[float, float] | None
) -> list[FurtherRange]:
    """How far the next ride goes, where that is less sure than what rides do on average."""
    if usual is None or following is None or following[1] - following[0] < _TOLD_APART * (usual[1] - usual[0]):
        return []
    words = "on your next ride, with a pace, stops and a climb of its own"
    return [FurtherRange(means="next_ride", words=words, low=following[0], mid=mid, high=following[1])]


def _further(evaluation: Evaluation, shown: RangeMeans) -> list[FurtherRange]:
    """The answers to how far it goes beside the one that the brief asks for."""
    found = []
    for means, name in RANGE_VALUES.items():
        if means == shown:
            continue
        low, high = evaluation.bands[name] or (None, None)
        wanted = evaluation.build.brief.range_km
        following = evaluation.of_the_next_ride(evaluation.values[name])
        chance = chance_of(following, wanted, True) if wanted is not None else None
        found.append(
            FurtherRange(
                means=means,
                words=RANGE_WORDS[means],
                low=low,
                mid=float(evaluation.values[name][0]),
                high=high,
                chance=chance,
            )
        )
    return found


_TOP_MESSAGES = {
    "pack voltage": "Limited by pack voltage: {speed} flat out.",
    "motor current": "Limited by motor current: {speed} flat out.",
    "pack current": "Limited by pack current: {speed} flat out.",
    "low-voltage cut-off": "Limited by voltage sag, which reaches the low-voltage cut-off: {speed} flat out.",
    "electrical speed": "Limited by the controller's electrical speed (ERPM): {speed} flat out.",
    "speed cap": "Limited by the controller's speed cap: {speed} flat out.",
    "grip": "Limited by grip of the driven wheels: {speed} flat out.",
    "pack power": "Limited by pack power: {speed} flat out.",
}


def _speed_message(build: Build, limit: Limit, speed_kmh: float, unloaded_kmh: float) -> Message:
    if speed_kmh <= 0.0:
        return message("It cannot move on the flat. Limit: {limit}.", limit=limit)
    return message(
        _TOP_MESSAGES[limit]
        + " Without load the wheels would spin at {unloaded}; a rider of {rider} and the air take the rest.",
        speed=(speed_kmh, "speed"),
        unloaded=(unloaded_kmh, "speed"),
        rider=(build.rider.mass_kg, "body_mass"),
    )


def _hill_message(limit: Limit, grade: float) -> Message:
    if grade >= STEEPEST * 100.0 - 0.1:
        return message("It starts on any hill on which the wheels still grip.")
    if limit == "grip":
        return message("It can start on {grade}; the driven wheels slip on anything steeper.", grade=(grade, "grade"))
    return message(
        "It can start on {grade}; {limit} is the limit on anything steeper.", grade=(grade, "grade"), limit=limit
    )


def _range_message(evaluation: Evaluation) -> Message:
    ride = evaluation.rides[0]
    if ride.range <= 0.0:
        return message("It cannot hold walking pace on this charge.")
    at = (float(ride.range / ride.seconds) * 3.6, "speed")
    used = (float(evaluation.headline_values["consumption"][0]), "energy_per_distance")
    if ride.carried:
        return message("The wind carries it: at {at} it uses little more than the idle draw of the controller.", at=at)
    if ride.cut_off:
        return message(
            "At {at} the low-voltage cut-off ends the ride before the reserve does, at {used}.", at=at, used=used
        )
    slowed = ", slower towards the end than the speed you asked for" if ride.slowed else ""
    return message(
        "At {at} on the move" + slowed + " it uses {used} and comes home with the reserve left.", at=at, used=used
    )


def _money_message(sums: Cost) -> Message:
    left_out = len(sums.unpriced) + len(sums.other_currency)
    return in_a_row(
        message(
            "{spent} spent, {to_spend} still to spend; total value {total}."
            if sums.spent
            else "Still to spend, of {total} in all.",
            spent=(sums.spent, "money"),
            to_spend=(sums.to_spend, "money"),
            total=(sums.total, "money"),
        ),
        message("{parts} without a price in this currency not counted.", parts=counted(left_out, "part").capitalize())
        if left_out
        else None,
    )


def headlines(builds: Sequence[Build], samples: int = 0) -> list[Headline]:
    """Outcomes of many builds in one run of the engine; ``samples`` for bands, 0 for the middles alone."""
    return [headline_of(c) for c in evaluate(builds, samples)]


def headline_of(evaluation: Evaluation, explained: bool = True) -> Headline:
    """What the list of boards shows of an evaluated build; ``explained`` as in :func:`build_outcomes`."""
    return Headline(
        outcomes=build_outcomes(evaluation, cost(evaluation.build), explained=explained),
        needs=[n.field for n in evaluation.needs],
    )
