"""A pack of bricks: how many lie in series, how many such sets in parallel, and what one brick is."""

from math import ceil

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.methods import BrickCharging, Methods
from boardmath.model.defaults import BRICK_CELLS
from boardmath.model.inputs import cell_voltages

FEWEST_CELLS = 3
"""Cells in series of the smallest bricks that drive boards (common practice, no source)."""


def bricks_of(pack: Pack) -> int:
    """How many bricks there are, each with its own balance plug; 1 for a block with one plug."""
    if pack.bricks is not None:
        return pack.bricks
    if pack.layout != "bricks":
        return 1
    return ceil((pack.series or 1) / BRICK_CELLS) * (pack.brick_sets or 1)


def brick_sets(pack: Pack) -> int:
    """How many sets of bricks in series are joined in parallel.

    As entered; otherwise the most with which a brick has :data:`FEWEST_CELLS` to :data:`BRICK_CELLS` cells in series, as what is
    sold has one cell in parallel: four bricks for 8 in series and 2 in parallel are two sets of two, not four of two cells.
    """
    count, series, parallel = bricks_of(pack), pack.series or 0, pack.parallel or 1
    if pack.brick_sets is not None:
        return pack.brick_sets if count % pack.brick_sets == 0 else 1
    can = [n for n in range(1, count + 1) if count % n == 0 and parallel % n == 0]
    return max((n for n in can if FEWEST_CELLS * count <= series * n <= BRICK_CELLS * count), default=1)


def cells_of_bricks(pack: Pack) -> list[int]:
    """Cells in series of each brick, set after set, as even as they come; of a block all of them."""
    sets = brick_sets(pack)
    count = bricks_of(pack) // sets
    each, rest = divmod(pack.series or 0, count)
    return [each + (n < rest) for n in range(count)] * sets


def parallel_of_brick(pack: Pack) -> float:
    """Cells in parallel within one brick."""
    return (pack.parallel or 1) / brick_sets(pack)


def charge_turns(build: Build) -> int:
    """How often the charger is plugged in for a full charge: once for each brick, or once where they are charged together."""
    return 1 if brick_charging(build) == "together" else bricks_of(build.parts.pack or Pack())


def charged_parallel(build: Build) -> float:
    """Cells in parallel that share the charger's current at one turn."""
    pack = build.parts.pack or Pack()
    return parallel_of_brick(pack) * bricks_of(pack) / charge_turns(build)


def brick_charging(build: Build) -> BrickCharging:
    """How bricks are charged: together only where there are several, all with the same cells in series."""
    pack, methods = build.parts.pack or Pack(), build.methods or Methods()
    alike = bricks_of(pack) > 1 and len(set(cells_of_bricks(pack))) == 1
    return (methods.brick_charging or "one_by_one") if alike else "one_by_one"


def brick_full_voltage(pack: Pack) -> float:
    """V of the smallest brick straight off its charger; of a block the whole pack's."""
    return min(cells_of_bricks(pack)) * cell_voltages(pack)[0]
