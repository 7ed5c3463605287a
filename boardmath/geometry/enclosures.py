"""The boxes: the room for them between the trucks, how each sits on the deck, and what goes where inside it. In mm."""

from dataclasses import dataclass, field, replace
from math import ceil, cos, sin
from typing import Literal

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Controller, Enclosure, Holds, Pack, Protection
from boardmath.buildfile.once import once_a_build, once_for_variations
from boardmath.geometry.axle import across
from boardmath.geometry.beam import pocket
from boardmath.geometry.cell_layout import CELL_SIZES, Item, stow_cells
from boardmath.geometry.stance import (
    BASEPLATE,
    bends,
    deck_of,
    ends_bent,
    hollow_at,
    is_straight,
    lean,
    lowest_under,
    mounts,
    top_of_deck_at,
    under_deck,
    under_deck_at,
    wheel_radius,
)
from boardmath.geometry.transmission import motor_reach, motors_in_front
from boardmath.model.bricks import bricks_of, cells_of_bricks, parallel_of_brick
from boardmath.model.cell_groups import plan_of
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import cell_capacity, cell_voltages
from boardmath.model.methods import enclosure_fixing

CLEAR = 8.0
"""mm that a box keeps from what moves (from memory)."""
WALLS = {"petg": 3.0, "asa": 3.0, "nylon": 2.5, "glass_fibre": 2.0, "wood": 6.0, "sheet": 1.5}
"""mm of wall that a shell of each material has (from memory)."""
WALL = WALLS["petg"]
FLANGE = 16.0
"""mm of rim that an M5 bolt with its washer asks for, with 3 mm to each side (ISO 7089: the washer is 10 mm)."""
LEAST_FLANGE = 11.0
"""Of it, what a washer cannot do without."""
DECK_EDGE = 4.0
"""mm of the deck's underside that stay free beside a flange (from memory)."""
BOLT_SPACING = 80.0
"""mm from bolt to bolt around a box, about (common practice, no source: six to eight for a usual box)."""
FLOOR_BOLTS, FLOOR_INSET, FLOOR_EDGE = 6, 40.0, 20.0
"""Bolts that hold a container through its floor, and mm from them to its ends and sides (common practice, no source)."""
WIRES = 25.0
"""mm of a box's length for wires' bends and plugs (from memory)."""
PROTECTION_BOARD = (70.0, 60.0, 12.0)
"""Length, width and thickness of a usual protection board; it stands across the box's end (from memory)."""
_CONTROLLER = (100.0, 62.0, 22.0)
"""Length, width and height of a usual controller for one motor (from memory)."""
_BRICK_WH_PER_CM3 = 0.30
"""Polymer bricks with sleeve and leads (from memory)."""


@dataclass(frozen=True)
class Contents:
    """What goes into the box, and what that takes against what there is."""

    items: list[Item] = field(default_factory=list)
    needed_length: float = 0.0
    inner: tuple[float, float, float] = (0.0, 0.0, 0.0)
    too_deep: float | None = None  # height that does not go in
    too_wide: float | None = None
    guessed: bool = False

    def seen(self, depth: Literal["y", "z"]) -> list[Item]:
        """The items without those behind each other along ``depth``: they would only hide each other."""
        first: dict[tuple[str, float, float], Item] = {}
        for item in self.items:
            beside = item.z if depth == "y" else item.y
            first.setdefault((item.part, round(item.x[0], 1), round(beside[0], 1)), item)
        return list(first.values())

    @property
    def fits(self) -> bool:
        return self.too_deep is None and self.too_wide is None and self.needed_length <= self.inner[0]


EnclosureName = Literal["enclosure", "second_enclosure"]


@dataclass(frozen=True)
class Boxed:
    """A box in its place. ``span`` is its ends from the nose; ``face`` the height over the road of what it is screwed to."""

    name: EnclosureName
    box: Enclosure
    span: tuple[float, float]
    above: bool
    holds: Holds
    face: float

    @property
    def length(self) -> float:
        return self.span[1] - self.span[0]

    @property
    def width(self) -> float:
        return self.box.width_mm or USUAL["enclosure.width_mm"]

    @property
    def depth(self) -> float:
        return self.box.depth_mm or USUAL["enclosure.depth_mm"]

    @property
    def wall(self) -> float:
        return self.box.wall_mm if self.box.wall_mm is not None else WALLS[self.box.material or "petg"]

    @property
    def guessed(self) -> bool:
        return self.box.length_mm is None

    def height(self, z: float) -> float:
        """Over the road, of what lies ``z`` into the box from the deck."""
        return self.face + z if self.above else self.face - z


@once_for_variations
def room(build: Build) -> tuple[float, float]:
    """x of the ends of the room under the deck: clear of baseplates, bends, turned wheels beside it, and of the motors."""
    front, rear = mounts(build)
    first = bends(build)[0]
    baseplate = (BASEPLATE if not ends_bent(build) else 0.0) + CLEAR
    sides, steer, radius = across(build), lean(build), wheel_radius(build)
    from_front = max(baseplate, first - front + CLEAR if ends_bent(build) else 0.0)
    widest = max((b.width_mm or 0.0 for b in _of(build).values() if b.place != "above"), default=0.0)
    inner_reach = sides.wheel_inner * cos(steer) - radius * sin(steer)
    if widest / 2.0 > inner_reach:
        from_front = max(from_front, radius * cos(steer) + sides.wheel_outer * sin(steer) + CLEAR)
    reach = motor_reach(build)
    from_rear = max(from_front, reach + CLEAR if reach else 0.0)
    if reach and motors_in_front(build):
        from_front = from_rear
    return front + from_front, rear - from_rear


def _of(build: Build) -> dict[EnclosureName, Enclosure]:
    parts = build.parts
    found: dict[EnclosureName, Enclosure | None] = {
        "enclosure": parts.enclosure,
        "second_enclosure": parts.second_enclosure,
    }
    return {name: box for name, box in found.items() if box is not None}


@once_a_build
def boxes(build: Build) -> list[Boxed]:
    """The boxes in their places. One stands in the middle of its room; of two under the deck the first stands at the
    front end of it and the second at the rear; ``back_mm`` moves each from there.
    """
    chosen = _of(build)
    below = [name for name, box in chosen.items() if box.place != "above"]
    start, end = room(build)
    length = deck_of(build).length_mm or USUAL["deck.length_mm"]
    found = []
    for name, box in chosen.items():
        above, long = box.place == "above", box.length_mm or USUAL["enclosure.length_mm"]
        x0 = (length - long) / 2.0 if above else (start + end - long) / 2.0
        if len(below) > 1 and not above:
            x0 = start if name == below[0] else end - long
        x0 += box.back_mm or 0.0
        span = (x0, x0 + long)
        face = (
            max(top_of_deck_at(build, float(x)) for x in (span if is_straight(build) else np.linspace(*span, 25)))
            if above
            else lowest_under(build, *span)
        )
        found.append(Boxed(name, box, span, above, box.holds or _usual_holds(name, len(chosen)), face))
    return found


def _usual_holds(name: EnclosureName, count: int) -> Holds:
    return "all" if count == 1 else "pack" if name == "enclosure" else "electronics"


def boxes_under(build: Build) -> list[Boxed]:
    """Those that hang under the deck."""
    return [b for b in boxes(build) if not b.above]


def ground_clearance(build: Build) -> float:
    """Between the road and the lowest of deck and boxes, nobody aboard."""
    return min([under_deck(build), *(b.face - b.depth for b in boxes_under(build))])


def gap_under_curves(build: Build, boxed: Boxed) -> tuple[float, float]:
    """Gap in mm that the deck's hollow and its rocker leave at the rim of a flat box.

    Along the box as the underside runs there, less the straight line through it; across it a parabola over the deck's width.
    """
    width = deck_of(build).width_mm or USUAL["deck.width_mm"]
    across = min(boxed.width / width, 1.0) ** 2
    if is_straight(build):
        return hollow_at(build, boxed.span[0]) * across, 0.0
    x = np.linspace(*boxed.span, 41)
    under = np.array([under_deck_at(build, float(at)) for at in x])
    straight = np.polynomial.Polynomial.fit(x, under, 1)(x) if boxed.length > 1.0 else under
    hollow = max(hollow_at(build, float(at)) for at in x)
    return hollow * across, float(np.ptp(under - straight))


def pocket_in(build: Build, boxed: Boxed) -> float:
    """mm that the deck, routed out, gives to the inside of a box under it; 0 where the pocket is smaller than the inside."""
    cut = pocket(deck_of(build))
    if boxed.above or cut is None:
        return 0.0
    inside = boxed.length - 2.0 * boxed.wall, boxed.width - 2.0 * boxed.wall
    return cut.depth if cut.length >= inside[0] and cut.width >= inside[1] else 0.0


def flange(build: Build, boxed: Boxed) -> tuple[float, float]:
    """mm of rim beside the box and at its ends: as wanted, as far as deck and room leave it; 0 where there is none."""
    wanted = boxed.box.flange_mm or FLANGE
    deck = deck_of(build)
    beside = ((deck.width_mm or USUAL["deck.width_mm"]) - boxed.width) / 2.0 - DECK_EDGE
    if boxed.above:
        beyond = wanted
    else:
        start, end = room(build)
        beyond = min(boxed.span[0] - start, end - boxed.span[1])
    return max(min(wanted, beside), 0.0), max(min(wanted, beyond), 0.0)


def enclosure_bolts(build: Build, boxed: Boxed) -> list[tuple[float, float]]:
    """Where a box is screwed to the deck: x from the nose, y across; along both sides, evenly, or through its floor."""
    if enclosure_fixing(build) == "through_floor":
        ends, edge = min(FLOOR_INSET, boxed.length / 4.0), max(boxed.width / 2.0 - boxed.wall - FLOOR_EDGE, 0.0)
        along = np.linspace(boxed.span[0] + ends, boxed.span[1] - ends, FLOOR_BOLTS // 2)
        return [(float(x), side * edge) for x in along for side in (-1.0, 1.0)]
    sides, _ = flange(build, boxed)
    inset, count = BOLT_SPACING / 4.0, max(round((boxed.length - BOLT_SPACING / 2.0) / BOLT_SPACING) + 1, 2)
    y = boxed.width / 2.0 + sides / 2.0
    places = np.linspace(boxed.span[0] + inset, boxed.span[1] - inset, count)
    return [(float(x), side * y) for x in places for side in (-1.0, 1.0)]


FLUSH, FOAM = 2.0, 8.0
"""mm of gap that a flat box bears without cracking, and that gasket foam follows (from memory)."""
STANDING_ROOM = 450.0
"""mm of the deck's top that two feet and the way between them take (from memory)."""


@once_for_variations
def on_the_deck(build: Build) -> float:
    """mm of the deck's length that boxes and a pack on it take from the rider."""
    taken = sum(b.length for b in boxes(build) if b.above)
    pack = build.parts.pack
    return taken + (pack_outside(build)[0] if pack is not None and pack.place == "on_the_deck" else 0.0)


def pack_outside(build: Build) -> tuple[float, float, float, bool]:
    """Length, width, height of a pack in a case of its own, and whether they are guessed."""
    return brick_size(build.parts.pack or Pack())


def brick_size(pack: Pack) -> tuple[float, float, float, bool]:
    """Length, width, height of one brick, and whether they are guessed from its energy."""
    if pack.length_mm and pack.width_mm and pack.height_mm:
        return pack.length_mm, pack.width_mm, pack.height_mm, False
    cells = max(cells_of_bricks(pack)) or 1
    energy = cells * cell_voltages(pack)[1] * cell_capacity(pack).value * parallel_of_brick(pack)
    # A usual brick is about three times as long as wide and half as high as wide.
    width = (energy / _BRICK_WH_PER_CM3 * 1000.0 / (3.0 * 0.6)) ** (1.0 / 3.0)
    return pack.length_mm or 3.0 * width, pack.width_mm or width, pack.height_mm or 0.6 * width, True


@once_a_build
def stowed(build: Build) -> list[tuple[Boxed, Contents]]:
    """What is in each box, for those of which length, width and depth are known."""
    found = ((boxed, contents(build, boxed)) for boxed in boxes(build))
    return [(boxed, inside) for boxed, inside in found if inside is not None]


def contents(build: Build, boxed: Boxed) -> Contents | None:
    """What a box holds, one behind the other: pack, protection board, wires and controllers; None where nothing is known."""
    box, pack = boxed.box, build.parts.pack
    if pack is not None and (pack.place or "in_a_box") != "in_a_box":
        pack = None
    pack = pack if boxed.holds in ("all", "pack") and pack is not None and pack.series is not None else None
    controller = build.parts.controller if boxed.holds in ("all", "electronics") else None
    if not (box.length_mm and box.width_mm and box.depth_mm) or (pack is None and controller is None):
        return None
    pocket = pocket_in(build, boxed)
    inner = (
        box.length_mm - 2.0 * boxed.wall,
        box.width_mm - 2.0 * boxed.wall,
        box.depth_mm - boxed.wall + pocket,
    )
    x0 = boxed.span[0] + boxed.wall
    items: list[Item] = []
    used, guessed = 0.0, False
    beside = WIRES + (_controllers(controller, inner, x0)[1] or 0.0 if controller is not None else 0.0)
    if pack is not None:
        if pack.protection is not None:
            beside += _board_size(pack.protection)[0]
        stowed_pack = _pack(build, boxed, pack, inner, x0, beside)
        if isinstance(stowed_pack, Contents):
            return stowed_pack
        items, used, guessed = stowed_pack
        if pack.protection is not None:
            thick, wide, high = _board_size(pack.protection)
            items.append(
                Item(
                    "protection",
                    (x0 + used, x0 + used + thick),
                    _about(min(inner[1], wide)),
                    (0.0, min(high, inner[2])),
                )
            )
            used += thick
    used += WIRES
    if controller is not None:
        more, taken, known = _controllers(controller, inner, x0 + used)
        if taken is None:
            return Contents(items, used, inner, too_deep=more[0].z[1], guessed=not known)
        items += more
        used += taken
        guessed = guessed or not known
    if pocket:
        items = [replace(i, z=(i.z[0] - pocket, i.z[1] - pocket)) for i in items]
    return Contents(items, used, inner, guessed=guessed)


def order_of_groups(build: Build) -> list[int]:
    """The groups in series as they lie: from 1 up, or as the plan has them."""
    pack, order = build.parts.pack, plan_of(build).order
    series = (pack.series if pack else None) or 0
    return order if order is not None and len(order) == series else list(range(1, series + 1))


def groups_in(build: Build, boxed: Boxed) -> list[int]:
    """The groups in series that lie in a box: all of them, or its share where two boxes hold the pack."""
    every = order_of_groups(build)
    holding = [b.name for b in boxes(build) if b.holds in ("all", "pack")]
    if len(holding) < 2 or boxed.name not in holding:
        return every
    half = ceil(len(every) / 2)
    return every[:half] if boxed.name == holding[0] else every[half:]


def _pack(
    build: Build, boxed: Boxed, pack: Pack, inner: tuple[float, float, float], x0: float, beside: float
) -> tuple[list[Item], float, bool] | Contents:
    """The cells or bricks stowed, or by how much they do not go in."""
    size = CELL_SIZES.get((pack.cell or Cell()).size or "")
    if size is not None and pack.layout != "bricks" and not pack.length_mm:
        laid = stow_cells(pack, plan_of(build), groups_in(build, boxed), inner, x0, beside)
        found = laid if isinstance(laid, str) else (*laid, False)
    else:
        found = _bricks(pack, inner, x0)
    if not isinstance(found, str):
        return found
    height, width = (size[0], size[1]) if size else (brick_size(pack)[2], brick_size(pack)[1])
    deep = found == "deep"
    return Contents(inner=inner, too_deep=height if deep else None, too_wide=None if deep else width)


def _board_size(board: Protection) -> tuple[float, float, float]:
    """Thickness along the box, width across, and height of a protection board that stands on its edge."""
    usual = PROTECTION_BOARD
    return board.height_mm or usual[2], board.length_mm or usual[0], board.width_mm or usual[1]


def _about(width: float) -> tuple[float, float]:
    return -width / 2.0, width / 2.0


def _bricks(pack: Pack, inner: tuple[float, float, float], x0: float) -> tuple[list[Item], float, bool] | str:
    long, wide, high, guessed = brick_size(pack)
    if high > inner[2]:
        return "deep"
    if wide > inner[1]:
        return "wide"
    beside, layers = int(inner[1] // wide), int(inner[2] // high)
    items = []
    bricks = bricks_of(pack)
    for i in range(bricks):
        column, place = divmod(i, beside * layers)
        layer, row = divmod(place, beside)
        x, y, z = x0 + column * long, (row - min(beside, bricks) / 2.0) * wide, layer * high
        items.append(Item("pack", (x, x + long), (y, y + wide), (z, z + high), "block", guessed))
    return items, ceil(bricks / (beside * layers)) * long, guessed


def _controllers(
    controller: Controller, inner: tuple[float, float, float], x0: float
) -> tuple[list[Item], float | None, bool]:
    long, wide, high = (
        controller.length_mm or _CONTROLLER[0],
        controller.width_mm or _CONTROLLER[1],
        controller.height_mm or _CONTROLLER[2],
    )
    known = all((controller.length_mm, controller.width_mm, controller.height_mm))
    if high > inner[2] or min(wide, long) > inner[1]:
        return [Item("controller", (x0, x0 + long), _about(wide), (0.0, high), guessed=not known)], None, known
    # Turned across where that takes less of the length.
    along, beside_width = (wide, long) if long <= inner[1] and wide < long else (long, wide)
    units = controller.units or 1
    beside = max(int(inner[1] // beside_width), 1)
    items = []
    for i in range(units):
        column, row = divmod(i, beside)
        x, y = x0 + column * along, (row - min(beside, units) / 2.0) * beside_width
        items.append(Item("controller", (x, x + along), (y, y + beside_width), (0.0, high), guessed=not known))
    return items, ceil(units / beside) * along, known
