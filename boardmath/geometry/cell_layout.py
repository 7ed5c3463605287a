"""How cells lie: the places of a block, each in its group, so that groups hold together and follow each other. In mm."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import islice
from math import ceil
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

    ``whole`` where no group is spread over two banks.
    """

    axis: Lying
    banks: int
    major: int
    minor: int
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
    """Every way that goes in by width and depth; none where cells are too thick or too long for both."""
    diameter, length = cell
    count = groups * parallel
    most = 1 if layout == "flat" else MOST_LAYERS
    layers = min(int(inner[2] // diameter), most if plan.layers is None else plan.layers)
    beside = int(inner[1] // diameter)
    found: list[Way] = []
    rows = int(inner[1] // length)
    if rows and layers:
        columns = ceil(ceil(groups / rows) * parallel / layers)
        found.append(Way("across", rows, columns, layers, columns * diameter, True))
        columns = ceil(count / (rows * layers))
        found.append(Way("across", rows, columns, layers, columns * diameter, rows == 1))
    if beside and layers:
        each = beside * layers // parallel
        if each:
            banks = ceil(groups / each)
            found.append(Way("along", banks, beside, layers, banks * length, True))
        banks = ceil(count / (beside * layers))
        found.append(Way("along", banks, beside, layers, banks * length, banks == 1))
    if beside and inner[2] >= length and (plan.layers or 1) == 1:
        columns = ceil(count / beside)
        found.append(Way("standing", 1, columns, beside, columns * diameter, True))
    return [w for w in found if plan.lie in (None, w.axis)]


def best_way(found: Sequence[Way], inner: tuple[float, float, float]) -> Way:
    """The shortest that keeps groups whole, where one such goes in; else the shortest."""
    return min(found, key=lambda w: (w.needed > inner[0], not w.whole and w.needed <= inner[0], w.needed))


def stow_cells(
    pack: Pack, plan: PackPlan, groups: Sequence[int], inner: tuple[float, float, float], x0: float
) -> tuple[list[Item], float] | str:
    """The cells of ``groups`` and the length that they take; or what is too much."""
    cell = CELL_SIZES[(pack.cell or Cell()).size or ""]
    parallel = pack.parallel or 1
    found = ways(cell, inner, len(groups), parallel, plan, pack.layout)
    if not found:
        thick = inner[2] < (cell[1] if plan.lie == "standing" else cell[0] * (plan.layers or 1))
        return "deep" if thick else "wide"
    way = best_way(found, inner)
    places, each = _path(way), _each_bank(way, len(groups), parallel)
    items = []
    for position, group in enumerate(groups):
        if way.whole and position and position % each == 0:
            places = _path(way, position // each)
        for place in islice(places, parallel):
            x, y, z = _box(way, place, cell)
            items.append(
                Item("pack", (x0 + x[0], x0 + x[1]), y, z, way.axis, group=group, turned=group % 2 == 0, bank=place[0])
            )
    return items, way.needed


def _each_bank(way: Way, groups: int, parallel: int) -> int:
    """Groups in one bank, where they stay whole."""
    if way.axis == "across":
        return ceil(groups / way.banks)
    return max(way.major * way.minor // parallel, 1)


def _path(way: Way, first: int = 0) -> Iterator[Place]:
    """The places in an order in which each touches the next: to and fro within a bank, and from bank to bank at the near end."""
    for bank in range(first, way.banks):
        majors = range(way.major) if bank % 2 == 0 else range(way.major - 1, -1, -1)
        for n, major in enumerate(majors):
            minors = range(way.minor) if n % 2 == 0 else range(way.minor - 1, -1, -1)
            for minor in minors:
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
