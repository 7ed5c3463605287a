"""How the board stands: heights over the road, the axles, and how far the deck leans. Everything in mm."""

from math import cos, pi, radians, sin

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import once_for_variations
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.geometry.beam import bending
from boardmath.model.defaults import USUAL

DROP_THROUGH_LOWERS = 13.0
"""mm of clearance that a drop-through mount costs, beside the deck's thickness (common practice, no source)."""
DROPPED_LOWERS = 40.0
BASEPLATE = 38.0
"""Half of a truck's baseplate along the board (from memory)."""
USUAL_LEAN = 10.0
"""Degrees that a deck leans in a full turn on usual bushings (from memory; soft ones lean more)."""
_SAGS = {"stiff": 3.0, "medium": 8.0, "soft": 16.0}
"""mm that the middle of a deck gives under a rider (from memory)."""


USUAL_BEND = 90.0
"""mm along a bent end from the bend to the truck's middle (from memory)."""


def deck_of(build: Build) -> Deck:
    return build.parts.deck or Deck()


def wheel_radius(build: Build) -> float:
    return ((build.parts.wheels or Wheels()).diameter_mm or USUAL["wheels.diameter_mm"]) / 2.0


def riser_height(build: Build) -> float:
    return (build.parts.risers.height_mm or 0.0) if build.parts.risers else 0.0


@once_for_variations
def deck_height(build: Build) -> float:
    """From the ground to the deck's underside at the trucks."""
    deck = deck_of(build)
    height = wheel_radius(build) + _truck_and_riser(build) * cos(ends_bent(build))
    if deck.mount == "drop_through":
        height -= DROP_THROUGH_LOWERS + (deck.thickness_mm or USUAL["deck.thickness_mm"])
    return height


def _truck_and_riser(build: Build) -> float:
    trucks = build.parts.trucks or Trucks()
    return (trucks.height_mm or USUAL["trucks.height_mm"]) + riser_height(build)


def ends_bent(build: Build) -> float:
    """By how much the deck's ends are bent up where the trucks are bolted on, rad."""
    return radians(deck_of(build).ends_deg or 0.0)


@once_for_variations
def mounts(build: Build) -> tuple[float, float]:
    """x of the middle of both trucks' bolts: inside the axles where the ends are bent up, else over them."""
    front, rear = axles(build)
    inward = _truck_and_riser(build) * sin(ends_bent(build))
    return front + inward, rear - inward


@once_for_variations
def bends(build: Build) -> tuple[float, float]:
    """x of the bends between which the deck is flat; of the mounts where nothing is bent."""
    front, rear = mounts(build)
    angle = ends_bent(build)
    if angle == 0.0:
        return front, rear
    along = (deck_of(build).bend_mm or USUAL_BEND) * cos(angle)
    return front + along, rear - along


@once_for_variations
def _measured(build: Build) -> tuple[np.ndarray, np.ndarray, np.ndarray] | None:
    """Places of the underside that were measured: x, mm below the mounts, mm of hollow; the mounts are among them."""
    points = sorted(deck_of(build).curve or [], key=lambda p: p.at_mm)
    if not points:
        return None
    ends = mounts(build)
    known = dict.fromkeys(ends, 0.0) | {p.at_mm: p.below_mm for p in points if p.below_mm is not None}
    hollow = [(p.at_mm, p.hollow_mm) for p in points if p.hollow_mm is not None]
    at = np.array(sorted(known))
    below = np.array([known[x] for x in at])
    if not hollow:
        return at, below, np.full(len(at), deck_of(build).concave_mm or 0.0)
    return at, below, np.interp(at, [x for x, _ in hollow], [h for _, h in hollow])


def hollow_at(build: Build, x: float) -> float:
    """mm by which the underside is hollow across at ``x``, edge to edge: as measured there, or the deck's concave."""
    measured = _measured(build)
    return deck_of(build).concave_mm or 0.0 if measured is None else float(np.interp(x, measured[0], measured[2]))


@once_for_variations
def under_deck(build: Build) -> float:
    """From the ground to the deck's underside at its lowest between the trucks, nobody aboard."""
    deck, high = deck_of(build), deck_height(build)
    measured = _measured(build)
    if measured is not None:
        return high - float(max(measured[1].max(), 0.0))
    lowered = DROPPED_LOWERS if deck.mount == "dropped" else 0.0
    bent = (deck.bend_mm or USUAL_BEND) * sin(ends_bent(build))
    return high - lowered - bent - (deck.rocker_mm or 0.0)


def under_deck_at(build: Build, x: float) -> float:
    """The same between the trucks at ``x`` from the nose: a hollow curve, or straight down where it is dropped."""
    high, low = deck_height(build), under_deck(build)
    measured = _measured(build)
    if measured is not None:
        return high - float(np.interp(x, measured[0], measured[1]))
    front, rear = mounts(build)
    if ends_bent(build):
        (first, last), rocker = bends(build), deck_of(build).rocker_mm or 0.0
        flat = low + rocker
        if x < first or x > last:
            return flat + min((first - x) / (first - front) if x < first else (x - last) / (rear - last), 1.0) * (
                high - flat
            )
        return flat - rocker * sin(pi * (x - first) / max(last - first, 1.0))
    along = min(max((x - front - 40.0) / max(rear - front - 80.0, 1.0), 0.0), 1.0)
    dropped = deck_of(build).mount == "dropped"
    sag = min(along, 1.0 - along) * 5.0 if dropped else sin(pi * along)
    return high - (high - low) * min(max(sag, 0.0), 1.0)


@once_for_variations
def is_straight(build: Build) -> bool:
    """Whether the underside runs straight from mount to mount, so that nobody has to look along it."""
    deck = deck_of(build)
    return not (deck.rocker_mm or deck.ends_deg or deck.curve or deck.mount == "dropped")


def lowest_under(build: Build, x0: float, x1: float) -> float:
    """From the ground to the deck's underside at its lowest from ``x0`` to ``x1``: there a flat box touches it."""
    if x1 <= x0 or is_straight(build):
        return under_deck_at(build, (x0 + x1) / 2.0)
    return min(under_deck_at(build, float(x)) for x in np.linspace(x0, x1, 25))


def top_of_deck_at(build: Build, x: float) -> float:
    """From the ground to the deck's top at ``x``."""
    return under_deck_at(build, x) + (deck_of(build).thickness_mm or USUAL["deck.thickness_mm"])


def sag(build: Build) -> float:
    """How far the deck's middle gives under a rider; a deck routed thinner gives more."""
    bent = bending(build)
    return _SAGS[deck_of(build).flex or "medium"] / (bent.stiffness_share if bent else 1.0)


@once_for_variations
def axles(build: Build) -> tuple[float, float]:
    """x of front and rear axle: the wheelbase in the middle of what is left of the length without the tail."""
    deck = deck_of(build)
    length, wheelbase, tail = (
        deck.length_mm or USUAL["deck.length_mm"],
        deck.wheelbase_mm or USUAL["deck.wheelbase_mm"],
        deck.tail_mm or 0.0,
    )
    front = deck.front_axle_mm if deck.front_axle_mm is not None else max((length - wheelbase - tail) / 2.0, 20.0)
    return front, front + wheelbase


def lean(build: Build) -> float:
    """How far the deck leans in a full turn, rad; the trucks steer by about as much."""
    return radians((build.parts.trucks or Trucks()).lean_deg or USUAL_LEAN)


def has_cutouts(build: Build) -> bool:
    """Whether the wheels have room beside or through the deck; a drop-through or dropped deck is cut away there."""
    deck = deck_of(build)
    return bool(deck.cutouts) or deck.mount in ("drop_through", "dropped")
