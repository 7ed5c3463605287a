"""The five promises of a build set against its brief: speed, hill, range, what is carried, money."""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.cost import Cost, cost
from boardmath.inputs import hill_grade
from boardmath.limits import named
from boardmath.mass import board_mass, resolve_masses
from boardmath.parameters import Incomplete, Resolved, resolve
from boardmath.physics.types import Array
from boardmath.powertrain import LIMITS, STEEPEST, Board
from boardmath.predict.bands import HIGH, LOW, samples_of
from boardmath.predict.outcomes import Outcomes, outcomes
from boardmath.saying import Saying, say

Verdict = Literal["holds", "may hold", "falls short", "no brief", "not yet"]
PromiseName = Literal["speed", "hill", "range", "carry", "money"]


class Promise(BaseModel):
    """One promise, its band in the unit of ``quantity``, and how it stands against what the brief wants."""

    name: PromiseName
    title: str
    quantity: str
    wanted: float | None = None
    low: float | None = None
    mid: float | None = None
    high: float | None = None
    limit: str | None = None
    verdict: Verdict
    more_is_better: bool = True
    saying: Saying | None = None


class Headline(BaseModel):
    """What a shelf or a table of candidates shows of a build."""

    promises: list[Promise]
    needs: list[str]


_TITLES = {"speed": "Speed", "hill": "Hill", "range": "Range", "carry": "Carry", "money": "Money"}
_QUANTITIES = {"speed": "speed", "hill": "grade", "range": "distance", "carry": "body_mass", "money": "money"}


def judge(wanted: float | None, low: float | None, mid: float | None, high: float | None, more: bool) -> Verdict:
    """Band against notch: holds when all of it is on the right side, falls short when none is."""
    if mid is None:
        return "not yet"
    if wanted is None:
        return "no brief"
    worst, best = (low, high) if more else (high, low)
    worst, best = (mid if worst is None else worst), (mid if best is None else best)
    sign = 1.0 if more else -1.0
    if sign * (worst - wanted) >= 0.0:
        return "holds"
    return "may hold" if sign * (best - wanted) >= 0.0 else "falls short"


def promise(
    name: PromiseName,
    wanted: float | None,
    mid: float | None,
    band: tuple[float, float] | None = None,
    limit: str | None = None,
    saying: Saying | None = None,
) -> Promise:
    """A promise with its verdict; the middle never lies outside its own band."""
    more = name not in ("carry", "money")
    low, high = (min(band[0], mid), max(band[1], mid)) if band is not None and mid is not None else (None, None)
    return Promise(
        name=name,
        title=_TITLES[name],
        quantity=_QUANTITIES[name],
        wanted=wanted,
        low=low,
        mid=mid,
        high=high,
        limit=limit,
        verdict=judge(wanted, low, mid, high, more),
        more_is_better=more,
        saying=saying,
    )


def start_pct(rise_over_run: Array) -> Array:
    """Steepest start in percent; a board that cannot start on the flat has none."""
    return np.maximum(rise_over_run, 0.0) * 100.0


def range_limit(result: Outcomes, i: int) -> str:
    """What ends the ride."""
    if result.distance.range[i] <= 0.0:
        return LIMITS[int(result.top_limit[i])]
    return "low-voltage taper" if result.distance.cut_off[i] else "reserve"


def build_promises(
    build: Build,
    resolved: Resolved | None,
    nominal: Outcomes | None,
    index: int,
    bands: dict[str, tuple[float, float]] | None,
    sums: Cost,
) -> list[Promise]:
    """The promises of one build out of outcomes of many; ``None`` where it is not far enough for a prediction."""
    brief, bands = build.brief, bands or {}
    mass = board_mass(resolved.masses if resolved is not None else resolve_masses(build))
    mass_band = (mass.value * np.exp(-1.2816 * mass.spread), mass.value * np.exp(1.2816 * mass.spread))
    carry = promise(
        "carry", brief.carry_mass_kg, mass.value, mass_band if bands or nominal is None else None, "sum of the parts"
    )
    priced = sums.total > 0.0
    money = promise("money", brief.budget, sums.outlay if priced else None, None, "prices of the parts" if priced else None,
                    _money_saying(sums) if priced else None)  # fmt: skip
    if nominal is None or resolved is None:
        empty = [
            promise("speed", brief.top_speed_kmh, None),
            promise("hill", hill_grade(build), None),
            promise("range", brief.range_km, None),
        ]
        return [*empty, carry, money]
    top, start = named(build, LIMITS[int(nominal.top_limit[index])]), LIMITS[int(nominal.start_limit[index])]
    speed_kmh = float(nominal.top_speed[index]) * 3.6
    grade = float(start_pct(nominal.start_grade)[index])
    distance = nominal.distance
    range_km = float(distance.range[index]) / 1000.0
    return [
        promise("speed", brief.top_speed_kmh, speed_kmh, bands.get("speed"), top,
                _speed_saying(build, top, speed_kmh, float(nominal.unloaded_speed[index]) * 3.6)),
        promise("hill", hill_grade(build), grade, bands.get("hill"), start, _hill_saying(start, grade)),
        promise("range", brief.range_km, range_km, bands.get("range"), range_limit(nominal, index),
                _range_saying(build, nominal, index)),
        carry,
        money,
    ]  # fmt: skip


_TOP_SAYINGS = {
    "pack voltage": "Flat out it runs out of volts at {speed}.",
    "motor current": "Flat out the motor current limit gives way at {speed}.",
    "pack current": "Flat out the pack current limit gives way at {speed}.",
    "low-voltage taper": "Flat out the pack sags into the low-voltage taper at {speed}.",
    "electrical speed": "Flat out the controller's electrical speed limit stops it at {speed}.",
    "speed cap": "Flat out the controller's speed cap holds it at {speed}.",
    "grip": "Flat out the driven wheels slip at {speed}.",
    "pack power": "Flat out the pack has no more power to give at {speed}.",
}


def _speed_saying(build: Build, limit: str, speed_kmh: float, unloaded_kmh: float) -> Saying:
    if speed_kmh <= 0.0:
        return say(f"It cannot move on the flat: {limit} gives way first.")
    return say(
        _TOP_SAYINGS[limit]
        + " Wheels in the air it would spin to {unloaded}; {rider} of rider and the air take the rest.",
        speed=(speed_kmh, "speed"),
        unloaded=(unloaded_kmh, "speed"),
        rider=(build.rider.mass_kg, "body_mass"),
    )


def _hill_saying(limit: str, grade: float) -> Saying:
    if grade >= STEEPEST * 100.0 - 0.1:
        return say("It pulls away on any grade that wheels can stand on.")
    why = {
        "grip": "steeper, the driven wheels slip",
        "motor current": "steeper, the motor current limit gives way",
    }.get(limit, f"steeper, {limit} gives way")
    return say("It can pull away on {grade}; " + why + ".", grade=(grade, "grade"))


def _range_saying(build: Build, result: Outcomes, i: int) -> Saying:
    distance = result.distance
    if distance.range[i] <= 0.0:
        return say("It cannot keep up walking pace on this charge.")
    at = (float(distance.mean_speed[i]) * 3.6, "speed")
    used = (float(distance.consumption[i]) / 3.6, "energy_per_distance")
    if distance.cut_off[i]:
        return say("At {at} the low-voltage taper ends the ride before the reserve, at {used}.", at=at, used=used)
    slowed = ", slower than wished for towards the end" if distance.slowed[i] else ""
    return say("At {at}" + slowed + " it takes {used} and comes home with the reserve.", at=at, used=used)


def _money_saying(sums: Cost) -> Saying:
    left_out = len(sums.unpriced) + len(sums.other_currency)
    text = "{spent} is spent, {to_spend} still to spend" if sums.spent else "Still to spend"
    text += "; the board is worth {total}." if sums.spent else ", of {total} in all."
    if left_out:
        text += f" {left_out} part{'s' if left_out > 1 else ''} without a price in this currency left out."
    values = {"spent": sums.spent, "to_spend": sums.to_spend, "total": sums.total}
    return say(text, **{name: (value, "money") for name, value in values.items() if f"{{{name}}}" in text})


def headlines(builds: Sequence[Build], samples: int = 0) -> list[Headline]:
    """Promises of many builds in one run of the engine; ``samples`` for bands, 0 for the middles alone."""
    resolved: list[Resolved | None] = []
    needs: list[list[str]] = []
    for build in builds:
        try:
            resolved.append(resolve(build))
            needs.append([])
        except Incomplete as error:
            resolved.append(None)
            needs.append([n.field for n in error.needs])
    ready = [r for r in resolved if r is not None]
    nominal = outcomes(nominal_board(ready)) if ready else None
    spread = _bands(ready, samples) if ready and samples else []
    found, row = [], 0
    for build, own, lacking in zip(builds, resolved, needs, strict=True):
        bands = spread[row] if own is not None and samples else None
        promises = build_promises(build, own, nominal if own is not None else None, row, bands, cost(build))
        found.append(Headline(promises=promises, needs=lacking))
        row += own is not None
    return found


def _bands(ready: Sequence[Resolved], samples: int) -> list[dict[str, tuple[float, float]]]:
    boards = [samples_of(r, samples) for r in ready]
    stacked = Board(**{
        name: np.concatenate([getattr(b, name) for b in boards])
        for name in Board.__dataclass_fields__
    })  # fmt: skip
    result = outcomes(stacked)
    each = {
        "speed": result.top_speed * 3.6,
        "hill": start_pct(result.start_grade),
        "range": result.distance.range / 1000.0,
    }
    edges = {name: np.percentile(v.reshape(len(ready), samples), (LOW, HIGH), axis=1) for name, v in each.items()}
    return [{name: (float(e[0, i]), float(e[1, i])) for name, e in edges.items()} for i in range(len(ready))]
