"""How the board stands: heights over the road, the axles, and how far the deck leans. Everything in mm."""

from math import pi, radians, sin

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import once_a_build
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.usual import USUAL

DROP_THROUGH_LOWERS = 13.0
"""mm of clearance that a drop-through mount costs, beside the deck's thickness (common practice, no source)."""
DROPPED_LOWERS = 40.0
BASEPLATE = 38.0
"""Half of a truck's baseplate along the board (from memory)."""
USUAL_LEAN = 10.0
"""Degrees that a deck leans in a full turn on usual bushings (from memory; soft ones lean more)."""
_SAGS = {"stiff": 3.0, "medium": 8.0, "soft": 16.0}
"""mm that the middle of a deck gives under a rider (from memory)."""


def deck_of(build: Build) -> Deck:
    return build.parts.deck or Deck()


def wheel_radius(build: Build) -> float:
    return ((build.parts.wheels or Wheels()).diameter_mm or USUAL["wheels.diameter_mm"]) / 2.0


def riser_height(build: Build) -> float:
    return (build.parts.risers.height_mm or 0.0) if build.parts.risers else 0.0


@once_a_build
def deck_height(build: Build) -> float:
    """From the ground to the deck's underside at the trucks."""
    deck, trucks = deck_of(build), build.parts.trucks or Trucks()
    height = wheel_radius(build) + (trucks.height_mm or USUAL["trucks.height_mm"]) + riser_height(build)
    if deck.mount == "drop_through":
        height -= DROP_THROUGH_LOWERS + (deck.thickness_mm or USUAL["deck.thickness_mm"])
    return height


@once_a_build
def under_deck(build: Build) -> float:
    """From the ground to the deck's underside in the middle, nobody aboard."""
    deck = deck_of(build)
    lowered = DROPPED_LOWERS if deck.mount == "dropped" else 0.0
    return deck_height(build) - lowered - (deck.rocker_mm or 0.0)


def under_deck_at(build: Build, x: float) -> float:
    """The same between the trucks at ``x`` from the nose: a hollow curve, or straight down where it is dropped."""
    front, rear = axles(build)
    high, low = deck_height(build), under_deck(build)
    along = min(max((x - front - 40.0) / max(rear - front - 80.0, 1.0), 0.0), 1.0)
    dropped = deck_of(build).mount == "dropped"
    sag = min(along, 1.0 - along) * 5.0 if dropped else sin(pi * along)
    return high - (high - low) * min(max(sag, 0.0), 1.0)


def box_depth(build: Build) -> float:
    box = build.parts.enclosure
    return (box.depth_mm or USUAL["enclosure.depth_mm"]) if box is not None else 0.0


def ground_clearance(build: Build) -> float:
    """Between the road and the lowest of deck and box, nobody aboard."""
    return under_deck(build) - box_depth(build)


def sag(build: Build) -> float:
    """How far the deck's middle gives under a rider."""
    return _SAGS[deck_of(build).flex or "medium"]


@once_a_build
def axles(build: Build) -> tuple[float, float]:
    """x of front and rear axle: the wheelbase in the middle of what is left of the length without the tail."""
    deck = deck_of(build)
    length, wheelbase, tail = (
        deck.length_mm or USUAL["deck.length_mm"],
        deck.wheelbase_mm or USUAL["deck.wheelbase_mm"],
        deck.tail_mm or 0.0,
    )
    front = max((length - wheelbase - tail) / 2.0, 20.0)
    return front, front + wheelbase


def lean(build: Build) -> float:
    """How far the deck leans in a full turn, rad; the trucks steer by about as much."""
    return radians((build.parts.trucks or Trucks()).lean_deg or USUAL_LEAN)


def has_cutouts(build: Build) -> bool:
    """Whether the wheels have room beside or through the deck; a drop-through or dropped deck is cut away there."""
    deck = deck_of(build)
    return bool(deck.cutouts) or deck.mount in ("drop_through", "dropped")
