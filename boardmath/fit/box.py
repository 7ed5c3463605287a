"""The box: the room for it between the trucks, how it sits on the deck, and what goes where inside it. In mm."""

from dataclasses import dataclass, field
from math import ceil, cos, sin
from typing import Literal

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Controller, Enclosure, Pack
from boardmath.buildfile.once import once_a_build
from boardmath.fit.across import across
from boardmath.fit.shapes import PartName
from boardmath.fit.stance import BASEPLATE, axles, deck_of, lean, wheel_radius
from boardmath.fit.transmission import motor_reach
from boardmath.inputs import cell_capacity, cell_voltages
from boardmath.usual import USUAL

CLEAR = 8.0
"""mm that the box keeps from what moves (from memory)."""
WALL = 3.0
"""mm of a usual shell (from memory)."""
WIRES = 25.0
"""mm of the box's length for wires' bends and plugs (from memory)."""
PROTECTION_BOARD = 12.0
"""mm of the box's length, standing across it (from memory)."""
_CELL_SIZES = {"18650": (18.5, 65.2), "21700": (21.5, 70.2), "26650": (26.5, 65.5)}
"""Diameter and length of a cell in its sleeve: the name is the size (IEC 61960: diameter in mm, length in tenths)."""
_CONTROLLER = (100.0, 62.0, 22.0)
"""Length, width and height of a usual controller for one motor (from memory)."""
_BRICK_WH_PER_CM3 = 0.30
"""Polymer bricks with sleeve and leads (from memory)."""

Axis = Literal["across", "along", "standing", "block"]


@dataclass(frozen=True)
class Item:
    """Something in the box: x from the nose, y across from the middle, z down from the deck's underside."""

    part: PartName
    x: tuple[float, float]
    y: tuple[float, float]
    z: tuple[float, float]
    axis: Axis = "block"
    guessed: bool = False


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


@once_a_build
def room(build: Build) -> tuple[float, float]:
    """x of the ends of the room for a box: clear of baseplates, of turned wheels beside it, and of the motor."""
    front, rear = axles(build)
    from_front = BASEPLATE + CLEAR
    sides, steer, radius = across(build), lean(build), wheel_radius(build)
    inner_reach = sides.wheel_inner * cos(steer) - radius * sin(steer)
    if (_box(build).width_mm or 0.0) / 2.0 > inner_reach:
        from_front = max(from_front, radius * cos(steer) + sides.wheel_outer * sin(steer) + CLEAR)
    from_rear = max(from_front, motor_reach(build) + CLEAR if motor_reach(build) else 0.0)
    return front + from_front, rear - from_rear


def _box(build: Build) -> Enclosure:
    return build.parts.enclosure or Enclosure()


def box_span(build: Build) -> tuple[float, float]:
    """x of the box's ends: in the middle of its room."""
    start, end = room(build)
    length = _box(build).length_mm or USUAL["enclosure.length_mm"]
    middle = (start + end) / 2.0
    return middle - length / 2.0, middle + length / 2.0


def gap_under_curves(build: Build) -> tuple[float, float]:
    """Gap in mm that concave and rocker leave under the edges of a flat box: parabolas over width and wheelbase."""
    deck, box = deck_of(build), _box(build)
    width, wheelbase = deck.width_mm or USUAL["deck.width_mm"], deck.wheelbase_mm or USUAL["deck.wheelbase_mm"]
    concave = (deck.concave_mm or 0.0) * min((box.width_mm or USUAL["enclosure.width_mm"]) / width, 1.0) ** 2
    rocker = abs(deck.rocker_mm or 0.0) * min((box.length_mm or USUAL["enclosure.length_mm"]) / wheelbase, 1.0) ** 2
    return concave, rocker


def brick_size(pack: Pack) -> tuple[float, float, float, bool]:
    """Length, width, height of one brick, and whether they are guessed from its energy."""
    bricks = pack.bricks or 1
    if pack.length_mm and pack.width_mm and pack.height_mm:
        return pack.length_mm, pack.width_mm, pack.height_mm, False
    energy = (pack.series or 1) / bricks * cell_voltages(pack)[1] * cell_capacity(pack).value * (pack.parallel or 1)
    # A usual brick is about three times as long as wide and half as high as wide.
    width = (energy / _BRICK_WH_PER_CM3 * 1000.0 / (3.0 * 0.6)) ** (1.0 / 3.0)
    return pack.length_mm or 3.0 * width, pack.width_mm or width, pack.height_mm or 0.6 * width, True


@once_a_build
def contents(build: Build) -> Contents | None:
    """Pack, protection board, wires and controllers one behind the other; None without box or pack."""
    box, pack = build.parts.enclosure, build.parts.pack
    if box is None or pack is None or pack.series is None or not (box.length_mm and box.width_mm and box.depth_mm):
        return None
    wall = box.wall_mm if box.wall_mm is not None else WALL
    inner = (box.length_mm - 2.0 * wall, box.width_mm - 2.0 * wall, box.depth_mm - wall)
    x0 = box_span(build)[0] + wall
    cell = pack.cell or Cell()
    size = _CELL_SIZES.get(cell.size or "")
    if size is not None and pack.layout != "bricks" and not pack.length_mm:
        stowed = _cells(pack, size, inner, x0)
    else:
        stowed = _bricks(pack, inner, x0)
    if isinstance(stowed, str):
        height, width = (size[0], size[1]) if size else (brick_size(pack)[2], brick_size(pack)[1])
        deep = stowed == "deep"
        return Contents(inner=inner, too_deep=height if deep else None, too_wide=None if deep else width)
    items, used, guessed = stowed
    if pack.protection is not None:
        items.append(
            Item("protection", (x0 + used, x0 + used + PROTECTION_BOARD), _about(min(inner[1], 70.0)), (2.0, inner[2]))
        )
        used += PROTECTION_BOARD
    used += WIRES
    if build.parts.controller is not None:
        more, taken, known = _controllers(build.parts.controller, inner, x0 + used)
        if taken is None:
            return Contents(items, used, inner, too_deep=more[0].z[1], guessed=not known)
        items += more
        used += taken
        guessed = guessed or not known
    return Contents(items, used, inner, guessed=guessed)


def _about(width: float) -> tuple[float, float]:
    return -width / 2.0, width / 2.0


def _cells(
    pack: Pack, size: tuple[float, float], inner: tuple[float, float, float], x0: float
) -> tuple[list[Item], float, bool] | str:
    """The way of stowing cells that takes the least length."""
    diameter, length = size
    count = (pack.series or 1) * (pack.parallel or 1)
    layers = int(inner[2] // diameter)
    if pack.layout == "flat":
        layers = min(layers, 1)
    ways: list[tuple[float, Axis, int, int, float]] = []  # needed length, axis, cells across, layers, step along
    for axis, wide, deep, step in (
        ("across", int(inner[1] // length), layers, diameter),
        ("along", int(inner[1] // diameter), layers, length),
        ("standing", int(inner[1] // diameter), int(inner[2] >= length), diameter),
    ):
        if wide and deep:
            ways.append((ceil(count / (wide * deep)) * step, axis, wide, deep, step))  # type: ignore[arg-type]
    if not ways:
        return "deep" if not layers else "wide"
    needed, axis, wide, deep, step = min(ways, key=lambda w: w[0])
    across_step = length if axis == "across" else diameter
    high = length if axis == "standing" else diameter
    left = -wide * across_step / 2.0
    items = []
    for i in range(count):
        column, place = divmod(i, wide * deep)
        layer, row = divmod(place, wide)
        x, y, z = x0 + column * step, left + row * across_step, layer * diameter
        items.append(Item("pack", (x, x + step), (y, y + across_step), (z, z + high), axis))
    return items, needed, False


def _bricks(pack: Pack, inner: tuple[float, float, float], x0: float) -> tuple[list[Item], float, bool] | str:
    long, wide, high, guessed = brick_size(pack)
    if high > inner[2]:
        return "deep"
    if wide > inner[1]:
        return "wide"
    beside, layers = int(inner[1] // wide), int(inner[2] // high)
    items = []
    bricks = pack.bricks or 1
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
