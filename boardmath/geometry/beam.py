"""A deck as a beam between its trucks: what routing it thinner leaves of stiffness and strength.

Elementary beam theory, a section symmetric about the board's middle line (Gere and Goodno, Mechanics of Materials, chapters 5
and 9). Wood is not one material: strength is that of the lower twentieth, and a deck's plies that run across carry nothing.
"""

from dataclasses import dataclass

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import once_for_variations
from boardmath.buildfile.rolling import Deck
from boardmath.model.defaults import USUAL
from boardmath.physics.road_load import GRAVITY

WOODS: dict[str, float] = {
    "maple": 109.0,
    "birch": 114.0,
    "bamboo": 110.0,
    "composite": 180.0,
}
"""MPa of bending strength along the grain. Sugar maple and yellow birch, clear and straight-grained at 12 %
moisture: Wood Handbook, FPL-GTR-282, table 5-3a. Bamboo and glass over wood: from memory."""
ALONG = 0.75
"""Share of a deck's thickness whose plies run along it (from memory: five of seven)."""
LOWER_TWENTIETH = 1.0 - 1.645 * 0.16
"""Of bending strength, whose coefficient of variation is 16 % (Wood Handbook, table 5-6)."""
APART = 400.0
"""mm between a rider's feet (from memory)."""
LANDING, STEPPING_ON = 3.0, 1.5
"""Times the weight: off a kerb with the feet apart; with one foot after the other in the middle (from memory)."""
LEAST_LEFT = 1.5
"""Strength over load that should be left (from memory)."""


@dataclass(frozen=True)
class Section:
    """mm from the top to the neutral axis, mm to the underside, and mm4."""

    to_top: float
    to_bottom: float
    inertia: float


def section(width: float, thickness: float, pocket_width: float = 0.0, pocket_depth: float = 0.0) -> Section:
    """A rectangle with a pocket let into its underside, like a channel lying open below; all in mm.

    Raises:
        ValueError: the pocket goes through, or is as wide as the board.
    """
    if pocket_depth >= thickness or pocket_width >= width:
        raise ValueError("the pocket leaves nothing of the deck")
    whole, gone = width * thickness, pocket_width * pocket_depth
    centre = (whole * thickness / 2.0 - gone * (thickness - pocket_depth / 2.0)) / (whole - gone)
    inertia = (
        width * thickness**3 / 12.0
        + whole * (thickness / 2.0 - centre) ** 2
        - pocket_width * pocket_depth**3 / 12.0
        - gone * (thickness - pocket_depth / 2.0 - centre) ** 2
    )
    return Section(centre, thickness - centre, inertia)


@dataclass(frozen=True)
class Pocket:
    """What is routed out of a deck's underside, in the middle between the trucks, mm."""

    length: float
    width: float
    depth: float


def pocket(deck: Deck) -> Pocket | None:
    """The pocket, as long and wide as a usual box where the deck does not say; None where nothing is routed."""
    if not deck.routed_mm:
        return None
    return Pocket(
        deck.routed_length_mm or USUAL["enclosure.length_mm"],
        deck.routed_width_mm or USUAL["enclosure.width_mm"],
        deck.routed_mm,
    )


@dataclass(frozen=True)
class Bending:
    """A deck under its rider: shares are of the same deck left whole; ``left`` is strength over the worst load."""

    stiffness_share: float
    strength_share: float
    left: float
    left_whole: float
    stress_mpa: float
    bears_mpa: float


@once_for_variations
def bending(build: Build) -> Bending | None:
    """The deck as routed against the deck as it was; None without a deck that says how thick it is."""
    deck = build.parts.deck
    if deck is None or deck.thickness_mm is None:
        return None
    width, thick = deck.width_mm or USUAL["deck.width_mm"], deck.thickness_mm
    span = deck.wheelbase_mm or USUAL["deck.wheelbase_mm"]
    cut, solid = pocket(deck), section(width, thick)
    thinned = section(width, thick, min(cut.width, width - 1.0), cut.depth) if cut and cut.depth < thick else solid
    bears = WOODS[deck.wood or "maple"] * ALONG * LOWER_TWENTIETH
    newtons = (build.rider.mass_kg + (build.rider.carried_kg or 0.0)) * GRAVITY
    moment = max(
        LANDING * newtons / 2.0 * max(span - APART, 0.0) / 2.0,
        STEPPING_ON * newtons * span / 4.0,
    )
    stresses = [moment * max(s.to_top, s.to_bottom) / s.inertia for s in (solid, thinned)]
    routed = min(cut.length, span) if cut else 0.0
    # A load in the middle: deflection is the sum of x^2 / 4 EI along each half, the pocket lying in the middle.
    outer = (span - routed) / 2.0
    flexible = (outer**3 / solid.inertia + ((span / 2.0) ** 3 - outer**3) / thinned.inertia) * solid.inertia
    return Bending(
        stiffness_share=(span / 2.0) ** 3 / flexible,
        strength_share=stresses[0] / stresses[1],
        left=bears / stresses[1],
        left_whole=bears / stresses[0],
        stress_mpa=stresses[1],
        bears_mpa=bears,
    )
