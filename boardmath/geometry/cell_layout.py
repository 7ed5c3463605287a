"""How cells lie: the places of a block, each in its group, so that groups hold together and follow each other. In mm."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import islice, pairwise, product
from math import ceil, isinf
from typing import Literal

from boardmath.buildfile.electrics import Cell, Layout, Pack
from boardmath.buildfile.pack_assembly import PackPlan
from boardmath.geometry.shapes import PartName

CELL_SIZES = {"18650": (18.5, 65.2), "21700": (21.5, 70.2), "26650": (26.5, 65.5)}
"""Diameter and length of a cell in its sleeve: the name is the size (IEC 61960: diameter in mm, length in tenths)."""

MOST_LAYERS = 4
"""Layers of cells on each other that anybody welds (from memory)."""

Axis = Literal["across", "along", "standing", "block"]
Lying = Literal["across", "along", "standing"]


@dataclass(frozen=True)
class Item:
    """Something in a box: x from the nose, y across from the middle, z from the deck: down under it, up on it.

    A cell says its ``group``, which ``bank`` of cells with their ends in one plane it stands in, and whether it is ``turned``:
    then its positive end looks towards the nose, the left edge or the deck.
    """

    part: PartName
    x: tuple[float, float]
    y: tuple[float, float]
    z: tuple[float, float]
    axis: Axis = "block"
    guessed: bool = False
    group: int | None = None
    turned: bool = False
    bank: int = 0

    @property
    def middle(self) -> tuple[float, float, float]:
        return sum(self.x) / 2.0, sum(self.y) / 2.0, sum(self.z) / 2.0


@dataclass(frozen=True)
class Way:
    """One way of laying cells: ``banks`` beside or behind each other, ``major`` by ``minor`` places in each.

    Places are filled in lanes of ``lane`` places of the minor direction. ``whole`` where no group is spread over two banks.
    """

    axis: Lying
    banks: int
    major: int
    minor: int
    lane: int
    needed: float
    whole: bool


Place = tuple[int, int, int]


def ways(
    cell: tuple[float, float],
    inner: tuple[float, float, float],
    groups: int,
    parallel: int,
    plan: PackPlan,
    layout: Layout | None,
) -> list[Way]:
    """Every way that goes in by width and depth; none where cells are too thick or too long for both.

    Each direction comes twice where a lane can be as wide as a group: filled to and fro over its whole breadth, and in lanes in
    which each group lies beside all cells of the next.
    """
    diameter, length = cell
    count = groups * parallel
    most = 1 if layout == "flat" else MOST_LAYERS
    layers = min(int(inner[2] // diameter), most if plan.layers is None else plan.layers)
    beside = int(inner[1] // diameter)
    found: list[Way] = []
    rows = int(inner[1] // length)
    if rows and layers:
        in_a_row = ceil(groups / rows)
        columns = ceil(in_a_row * parallel / layers)
        found.append(Way("across", rows, columns, layers, layers, columns * diameter, True))
        if lanes := layers // parallel:
            columns, minor = ceil(in_a_row / lanes), lanes * parallel
            found.append(Way("across", rows, columns, minor, parallel, columns * diameter, True))
        columns = ceil(count / (rows * layers))
        found.append(Way("across", rows, columns, layers, layers, columns * diameter, rows == 1))
    if beside and layers:
        if each := beside * layers // parallel:
            banks = ceil(groups / each)
            found.append(Way("along", banks, beside, layers, layers, banks * length, True))
        if lanes := layers // parallel:
            banks = ceil(groups / (beside * lanes))
            found.append(Way("along", banks, beside, lanes * parallel, parallel, banks * length, True))
        banks = ceil(count / (beside * layers))
        found.append(Way("along", banks, beside, layers, layers, banks * length, banks == 1))
    if beside and inner[2] >= length and (plan.layers or 1) == 1:
        columns = ceil(count / beside)
        found.append(Way("standing", 1, columns, beside, beside, columns * diameter, True))
        if lanes := beside // parallel:
            columns = ceil(groups / lanes)
            found.append(Way("standing", 1, columns, lanes * parallel, parallel, columns * diameter, True))
    return [w for w in found if plan.lie in (None, w.axis)]


def best_way(found: Sequence[Way], room: float, groups: int, parallel: int) -> Way:
    """The way in which most cells face a cell of the next group, of those that keep groups whole and go into ``room`` mm.

    Where none goes in, the shortest; without a box (``room`` infinite) none longer than the shortest.
    """
    if isinf(room):
        room = min((w.needed for w in found if w.whole), default=room)
    going_in = [w for w in found if w.whole and w.needed <= room]
    if going_in:
        return min(going_in, key=lambda w: (-facing_pairs(w, groups, parallel), w.needed))
    return min(found, key=lambda w: (w.needed > room, w.needed, not w.whole, -facing_pairs(w, groups, parallel)))


def stow_cells(
    pack: Pack,
    plan: PackPlan,
    groups: Sequence[int],
    inner: tuple[float, float, float],
    x0: float,
    beside: float = 0.0,
) -> tuple[list[Item], float] | str:
    """The cells of ``groups`` and the length that they take, beside ``beside`` mm for what else is there; or what is too much."""
    cell = CELL_SIZES[(pack.cell or Cell()).size or ""]
    parallel = pack.parallel or 1
    found = ways(cell, inner, len(groups), parallel, plan, pack.layout)
    if not found:
        thick = inner[2] < (cell[1] if plan.lie == "standing" else cell[0] * (plan.layers or 1))
        return "deep" if thick else "wide"
    way = best_way(found, inner[0] - beside, len(groups), parallel)
    items = []
    for group, places in zip(groups, _places(way, len(groups), parallel), strict=True):
        for place in places:
            x, y, z = _box(way, place, cell)
            items.append(
                Item("pack", (x0 + x[0], x0 + x[1]), y, z, way.axis, group=group, turned=group % 2 == 0, bank=place[0])
            )
    return items, way.needed


@lru_cache(maxsize=4096)
def facing_pairs(way: Way, groups: int, parallel: int) -> int:
    """How many pairs of cells of groups that follow each other lie side by side in one bank: each takes a strip of its own."""
    every = _places(way, groups, parallel)
    return sum(
        a[0] == b[0] and abs(a[1] - b[1]) + abs(a[2] - b[2]) == 1
        for low, high in pairwise(every)
        for a, b in product(low, high)
    )


def _places(way: Way, groups: int, parallel: int) -> list[list[Place]]:
    """The places of each group, in the order in which the groups follow each other."""
    path, each = _path(way), _each_bank(way, groups, parallel)
    found = []
    for position in range(groups):
        if way.whole and position and position % each == 0:
            path = _path(way, position // each)
        found.append(list(islice(path, parallel)))
    return found


def _each_bank(way: Way, groups: int, parallel: int) -> int:
    """Groups in one bank, where they stay whole."""
    if way.axis == "across":
        return ceil(groups / way.banks)
    return max(way.major * way.minor // parallel, 1)


def _path(way: Way, first: int = 0) -> Iterator[Place]:
    """The places in an order in which each touches the next: to and fro in each lane, and on from its near end."""
    lanes = range(0, way.minor, way.lane)
    for bank in range(first, way.banks):
        for n, start in enumerate(lanes):
            onward = (bank * len(lanes) + n) % 2 == 0
            for step, major in enumerate(range(way.major) if onward else range(way.major - 1, -1, -1)):
                lane = range(start, min(start + way.lane, way.minor))
                for minor in lane if step % 2 == 0 else reversed(lane):
                    yield bank, major, minor


Span = tuple[float, float]


def _box(way: Way, place: Place, cell: tuple[float, float]) -> tuple[Span, Span, Span]:
    """Where the cell of a place lies: from the box's inner end, from its middle, from the deck."""
    diameter, length = cell
    bank, major, minor = place
    if way.axis == "across":
        left = -way.banks * length / 2.0 + bank * length
        return _from(major * diameter, diameter), _from(left, length), _from(minor * diameter, diameter)
    if way.axis == "along":
        left = -way.major * diameter / 2.0 + major * diameter
        return _from(bank * length, length), _from(left, diameter), _from(minor * diameter, diameter)
    left = -way.minor * diameter / 2.0 + minor * diameter
    return _from(major * diameter, diameter), _from(left, diameter), _from(0.0, length)


def _from(start: float, size: float) -> Span:
    return start, start + size
