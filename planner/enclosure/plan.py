"""What a box is, in its own mm: x along it from its front end, y across from the middle, z up from its floor's outside.

Sizes of rims, holes and joints are common practice without a source unless a line says otherwise.
"""

import itertools
from dataclasses import dataclass
from math import ceil
from typing import Literal

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.geometry.enclosures import (
    LEAST_FLANGE,
    Boxed,
    EnclosureName,
    boxes,
    boxes_under,
    contents,
    enclosure_bolts,
    flange,
)
from boardmath.geometry.stance import deck_of, hollow_at, top_of_deck_at, under_deck_at
from boardmath.messages import Message, message
from boardmath.model.defaults import USUAL
from boardmath.model.estimate import ENCLOSURE_DENSITY
from boardmath.model.inputs import drive_kind
from boardmath.physics.types import Array

CORNER_OVER_WALL = 1.7
"""Radius of a box's standing edges over its wall: inside they stay square, for what lies in them, and the wall no thinner than
seven tenths there."""
RIM = 4.0
"""mm, thickness of the flange."""
BOLT_HOLE = 5.5
"""mm, for M5 with play (ISO 273, medium fit)."""
GLAND = 16.0
"""mm, hole of a gland for one motor's phase and sensor wires."""
LOOP = 14.0
"""mm, hole for a loop key."""
LAP = 12.0
"""mm by which the halves of a box that is printed in two overlap, outside."""
PLAY = 0.3
"""mm of play between the halves."""
BED_EDGE = 4.0
"""mm of a printer's bed that stay free on each side."""
FOAM_LAYER = 3.0
"""mm of a layer of gasket foam."""

Wall = Literal["front", "rear", "side"]
Made = Literal["printed", "laminated", "cut"]
MADE: dict[str, Made] = {
    "petg": "printed",
    "asa": "printed",
    "nylon": "printed",
    "glass_fibre": "laminated",
    "wood": "cut",
    "sheet": "cut",
}


@dataclass(frozen=True)
class Hole:
    """A round hole in a wall: ``at`` along it (y on an end, x on the side), ``up`` over the floor's outside, mm."""

    what: str
    wall: Wall
    at: float
    up: float
    diameter: float


@dataclass(frozen=True)
class EnclosurePlan:
    """A box for its deck; ``rise`` is how far the deck's underside stands over its lowest point at (x, y), mm."""

    boxed: Boxed
    length: float
    width: float
    depth: float
    wall: float
    sides: float
    ends: float
    bolts: list[tuple[float, float]]
    holes: list[Hole]
    ribs: list[float]
    split: float | None
    """x where it is made in two, None where it is of one piece."""
    x: Array
    along: Array
    hollow: Array
    deck_width: float
    follows: bool

    @property
    def made(self) -> Made:
        return MADE[self.material]

    @property
    def material(self) -> str:
        return self.boxed.box.material or "petg"

    @property
    def density(self) -> float:
        """g/cm3."""
        return ENCLOSURE_DENSITY[self.material]

    @property
    def corner(self) -> float:
        """mm, radius of the standing edges."""
        return CORNER_OVER_WALL * self.wall

    def rise(self, x: float, y: float) -> float:
        along = float(np.interp(x, self.x, self.along))
        across = float(np.interp(x, self.x, self.hollow)) * (y / (self.deck_width / 2.0)) ** 2
        return along + across


class CannotBeMade(ValueError):
    """The box cannot be made like that; ``message`` says why, with its numbers, and ``field`` where to change it."""

    def __init__(self, field: str, message: Message):
        super().__init__(message.text)
        self.field, self.message = field, message


def enclosure_plan(build: Build, name: EnclosureName = "enclosure") -> EnclosurePlan:
    """The box as it has to be for its deck, its contents and its printer.

    Raises:
        CannotBeMade: there is no such box, its size is not known, what goes in has no room, no rim is left to screw through, or
            the printer's bed is too small for two halves.
    """
    boxed = next((b for b in boxes(build) if b.name == name), None)
    path = f"parts.{name}"
    if boxed is None or not (boxed.box.length_mm and boxed.box.width_mm and boxed.box.depth_mm):
        raise CannotBeMade(
            f"{path}.length_mm",
            message("Enter length, width and depth of the enclosure: on the Design page, under Enclosure."),
        )
    inside = contents(build, boxed)
    if inside is not None and not inside.fits:
        raise CannotBeMade(
            f"{path}.length_mm",
            message(
                "Its contents do not fit: they need {needs} of length, inside are {has}. Fix that first.",
                needs=(inside.needed_length, "length"),
                has=(inside.inner[0], "length"),
            )
            if inside.too_deep is None and inside.too_wide is None
            else message(
                "Its contents do not fit: they are {needs} "
                + ("high" if inside.too_deep else "wide")
                + ", inside are {has}. Fix that first.",
                needs=(inside.too_deep or inside.too_wide or 0.0, "length"),
                has=(inside.inner[2 if inside.too_deep else 1], "length"),
            ),
        )
    sides, ends = flange(build, boxed)
    if sides < LEAST_FLANGE:
        raise CannotBeMade(
            f"{path}.width_mm",
            message(
                "{left} of rim are left beside it; an M5 bolt with its washer needs {least}. Make the enclosure "
                "narrower by {by}.",
                left=(sides, "length"),
                least=(LEAST_FLANGE, "length"),
                by=(2.0 * (LEAST_FLANGE - sides), "length"),
            ),
        )
    wall, floor = boxed.wall, RIM + boxed.wall + 2.0
    if boxed.depth < floor + 6.0 or min(boxed.length, boxed.width) < 2.0 * wall + 20.0:
        raise CannotBeMade(
            f"{path}.depth_mm",
            message(
                "An enclosure {deep} deep with a wall of {wall} has almost no inside: {least} are the minimum.",
                deep=(boxed.depth, "length"),
                wall=(wall, "length"),
                least=(floor + 6.0, "length"),
            ),
        )
    bolts = [(x - boxed.span[0], y) for x, y in enclosure_bolts(build, boxed)]
    along_sides = sorted({round(x, 6) for x, _ in bolts})
    split = _split(boxed, sides, ends, along_sides)
    x = np.linspace(-ends, boxed.length + ends, 41)
    surface = top_of_deck_at if boxed.above else under_deck_at
    from_nose = [float(boxed.span[0] + at) for at in x]
    heights = np.array([surface(build, at) for at in from_nose])
    rises = boxed.face - heights if boxed.above else heights - boxed.face
    hollow = np.array([-hollow_at(build, at) if boxed.above else hollow_at(build, at) for at in from_nose])
    return EnclosurePlan(
        boxed=boxed,
        length=boxed.length,
        width=boxed.width,
        depth=boxed.depth,
        wall=wall,
        sides=sides,
        ends=ends,
        bolts=bolts,
        holes=_holes(build, boxed),
        ribs=[
            (a + b) / 2.0
            for a, b in itertools.pairwise(along_sides)
            if split is None or abs((a + b) / 2.0 - split) > LAP + wall
        ],
        split=split,
        x=x,
        along=np.maximum(rises, 0.0),
        hollow=np.maximum(hollow, 0.0),
        deck_width=deck_of(build).width_mm or USUAL["deck.width_mm"],
        follows=boxed.box.seat == "moulded" and MADE[boxed.box.material or "petg"] != "cut",
    )


def _holes(build: Build, boxed: Boxed) -> list[Hole]:
    """Glands for motors and harness in the ends, charge port and loop key in the side."""
    parts, wall = build.parts, boxed.wall
    high = boxed.depth - RIM - wall  # of the wall's free face
    up, most = wall + high / 2.0, max(high - 4.0, 3.0)
    found: list[Hole] = []
    others = [b for b in boxes_under(build) if b.name != boxed.name and not boxed.above]
    if others:
        facing: Wall = "rear" if others[0].span[0] > boxed.span[0] else "front"
        found.append(Hole("wires between the enclosures", facing, 0.0, up, min(GLAND, most)))
    if boxed.holds in ("all", "electronics"):
        motors = (parts.motors.count if parts.motors else 1) or 1
        kind = drive_kind(build)
        at_rear, at_front = min(motors, 2), max(motors - 2, 0)
        step = min(boxed.width / 3.0, 2.0 * GLAND)
        for end, count in (("rear", at_rear), ("front", at_front)):
            for i in range(count):
                y = (i - (count - 1) / 2.0) * step
                if found and found[0].wall == end:
                    y += step  # beside the harness
                what = "wires of the hub motor" if kind == "hub" else "phase and sensor wires"
                found.append(Hole(what, end, y, up, min(GLAND, most)))  # type: ignore[arg-type]
    if boxed.holds in ("all", "pack") and parts.charge_port is not None:
        diameter = parts.charge_port.hole_mm or USUAL["charge_port.hole_mm"]
        found.append(Hole("charge port", "side", wall + 30.0, up, min(diameter, most)))
    if parts.switch is not None and parts.switch.kind == "loop" and boxed.holds in ("all", "pack"):
        found.append(Hole("loop key", "side", wall + 60.0, up, min(LOOP, most)))
    return [h for h in found if h.wall != "side" or h.at + h.diameter < boxed.length - 2.0 * wall]


def _split(boxed: Boxed, sides: float, ends: float, bolts: list[float]) -> float | None:
    """Where the box is parted for the printer: in the middle between two bolts; None where it goes on the bed whole.

    Raises:
        CannotBeMade: two halves do not go on it either.
    """
    box = boxed.box
    if box.bed_length_mm is None or MADE[box.material or "petg"] != "printed":
        return None
    long, wide = boxed.length + 2.0 * ends, boxed.width + 2.0 * sides
    bed = sorted((box.bed_length_mm, box.bed_width_mm or box.bed_length_mm))
    usable = [b - 2.0 * BED_EDGE for b in bed]

    def goes(length: float) -> bool:
        return min(length, wide) <= usable[0] and max(length, wide) <= usable[1]

    if goes(long):
        return None
    between = [(a + b) / 2.0 for a, b in itertools.pairwise(bolts)]
    split = min(between, key=lambda x: abs(x - boxed.length / 2.0))
    half = max(split, boxed.length - split) + ends + LAP
    if goes(half):
        return split
    pieces = ceil(long / max(usable[1] - LAP, 1.0))
    raise CannotBeMade(
        f"parts.{boxed.name}.bed_length_mm",
        message(
            ("With its rim the enclosure is {long} by {wide}, each half {half}; the printer bed is {bed} by {other}. ")
            + (
                "It is wider than the bed: cutting it in two does not help."
                if min(half, wide) > usable[0]
                else (
                    "It would need {pieces} pieces; more than two do not stay tight. Use a larger bed, or two "
                    "enclosures."
                )
            ),
            pieces=pieces,
            long=(long, "length"),
            wide=(wide, "length"),
            half=(half, "length"),
            bed=(bed[1], "length"),
            other=(bed[0], "length"),
        ),
    )
