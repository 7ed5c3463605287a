"""What would help a trip most: the same trip, changed in one thing, by the same riders on the same days."""

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from boardmath.buildfile import Build
from boardmath.buildfile.trips import Trip, TripLeg
from boardmath.likelihood import WithChance, in_short
from boardmath.messages import Message, message
from planner.trips.riding import Ridden, minutes_at, ride_trip

SAMPLES = 64
_SLOWER, _LIGHTER, _LONGER = 3.0, 3.0, 30.0
"""km/h, kg and minutes of which it is told what they would help."""


class Help(WithChance):
    """A change, and what becomes of the trip: the chance to ride all of it, and the charge left at its tightest point."""

    id: str
    message: Message
    in_short: str
    gains: float
    """Of the chance."""
    left_pct: float
    gains_pct: float
    trip: Trip | None = None
    """The trip as it was tried, where it is another."""
    changes: dict[str, Any] = {}
    """What was tried of the board, by path of the build file."""


Changed = tuple[str, Message, Build, Trip]


def chance_of(ridden: Ridden) -> float:
    """The share of samples that ride all of it."""
    last = ridden.points[-1].stranded
    return float(np.isinf(last[1:] if len(last) > 1 else last).mean())


def tightest(ridden: Ridden) -> float:
    """Charge in the middle where least of it is left, 0 to 1."""
    return min(float(p.charge[0]) for p in ridden.points)


def _legs(trip: Trip, change: Callable[[TripLeg], TripLeg]) -> Trip:
    days = [d.model_copy(update={"legs": [change(leg) for leg in d.legs]}) for d in trip.days]
    return trip.model_copy(update={"days": days})


def _stops(trip: Trip, kinds: tuple[str, ...], **changed: Any) -> Trip:
    def at(leg: TripLeg) -> TripLeg:
        if leg.then is None or leg.then.kind not in kinds:
            return leg
        made = {k: v(leg.then) if callable(v) else v for k, v in changed.items()}
        return leg.model_copy(update={"then": leg.then.model_copy(update=made)})

    return _legs(trip, at)


def ways(build: Build, trip: Trip, mean_kmh: float) -> Iterator[Changed]:
    """Every change that could be tried on this trip; ``mean_kmh`` is ridden where a leg says no speed."""
    slower = _legs(
        trip, lambda leg: leg.model_copy(update={"speed_kmh": max((leg.speed_kmh or mean_kmh) - _SLOWER, 6.0)})
    )
    yield "slower", message("Ride {by} slower.", by=(_SLOWER, "speed")), build, slower
    kinds = {leg.then.kind for d in trip.days for leg in d.legs if leg.then is not None}
    if "charge" in kinds:
        longer = _stops(trip, ("charge",), minutes=lambda s: min(minutes_at(s) + _LONGER, 2880.0))
        yield "longer", message("Charge {by} longer at each plug.", by=(_LONGER, "minutes")), build, longer
        if any(leg.then and leg.then.until_pct for d in trip.days for leg in d.legs):
            yield (
                "fuller",
                message("Charge fully at each plug."),
                build,
                _stops(trip, ("charge",), until_pct=None),
            )
    carried = trip.carried_kg if trip.carried_kg is not None else build.rider.carried_kg or 0.0
    if carried >= 1.0:
        lighter = max(carried - _LIGHTER, 0.0)
        yield (
            "lighter",
            message("Leave {by} at home.", by=(carried - lighter, "body_mass")),
            build,
            trip.model_copy(update={"carried_kg": lighter}),
        )
    if trip.start_pct is not None and trip.start_pct < 99.0:
        yield "full", message("Start fully charged."), build, trip.model_copy(update={"start_pct": None})
    pack = build.parts.pack
    if pack is not None and pack.charge_to_v is not None:
        full = build.parts.model_copy(update={"pack": pack.model_copy(update={"charge_to_v": None})})
        yield (
            "ceiling",
            message(
                "Charge to the cells' full voltage for this trip, and ride a flat kilometre before you need the brakes."
            ),
            build.model_copy(update={"parts": full}),
            trip,
        )
    more = (trip.packs_beside or 0) + 1
    if more <= 3 and pack is not None:
        yield (
            "pack",
            message("Take a second pack."),
            build,
            trip.model_copy(update={"packs_beside": more}),
        )
    if build.rider.stance != "crouched" and any(
        (leg.speed_kmh or mean_kmh) >= 18.0 for d in trip.days for leg in d.legs
    ):
        crouched = build.rider.model_copy(update={"stance": "crouched"})
        yield "crouched", message("Crouch against the wind."), build.model_copy(update={"rider": crouched}), trip


_TELLS, _TELLS_LEFT = 0.02, 0.01


def what_helps(build: Build, trip: Trip, mean_kmh: float) -> list[Help]:
    """Every change that helps, the most helpful first; what is no surer by two in a hundred is told only by what it leaves."""
    now = ride_trip(build, trip, SAMPLES)
    chance, left = chance_of(now), tightest(now)
    found = []
    for id, sentence, changed, other in ways(build, trip, mean_kmh):
        then = ride_trip(changed, other, SAMPLES)
        sure, rest = chance_of(then), tightest(then)
        if sure - chance < _TELLS and (sure < chance or rest - left < _TELLS_LEFT):
            continue
        found.append(
            Help(
                id=id,
                message=sentence,
                chance=sure,
                in_short=in_short(sure),
                gains=sure - chance,
                left_pct=100.0 * rest,
                gains_pct=100.0 * (rest - left),
                trip=other if other != trip else None,
                changes=_changes(build, changed),
            )
        )
    return sorted(found, key=lambda h: (-round(h.gains, 2), -h.gains_pct))


def _changes(build: Build, changed: Build) -> dict[str, Any]:
    """What was tried of the board, as a change of the build file."""
    found: dict[str, Any] = {}
    if changed.rider != build.rider:
        found["rider.stance"] = changed.rider.stance
    if changed.parts != build.parts:
        found["parts.pack.charge_to_v"] = changed.parts.pack.charge_to_v if changed.parts.pack else None
    return found
