"""Cells in their groups: what measured and sorted cells make of the pack, group by group."""

from collections.abc import Sequence
from dataclasses import dataclass

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell
from boardmath.buildfile.once import once_a_build
from boardmath.buildfile.pack_assembly import LeadTest, MeasuredCell, PackAssembly, PackPlan
from boardmath.model.estimate import salvaged


def work_of(build: Build) -> PackAssembly:
    """What was done at the pack; empty where nothing was."""
    return build.pack_assembly or PackAssembly()


def plan_of(build: Build) -> PackPlan:
    """How the cells are to lie and to be joined; empty where nothing is said."""
    return work_of(build).plan or PackPlan()


def as_a_plan(build: Build) -> Build:
    """The build without what is of one thing and of no plan: what was read at its wires, and its charges."""
    if build.pack_assembly is None:
        return build
    work = build.pack_assembly.model_copy(update={"balance_leads": None, "charges": None})
    return build.model_copy(update={"pack_assembly": work})


def leads_of(build: Build) -> LeadTest:
    """What was measured at the balance leads."""
    return work_of(build).balance_leads or LeadTest()


def self_made(build: Build) -> bool:
    """Whether the pack is made by the builder out of cells, and not bought as one."""
    pack = build.parts.pack
    if pack is None or pack.layout == "bricks":
        return False
    cell = pack.cell or Cell()
    return bool(work_of(build).cells) or salvaged(cell) or (cell.price is not None and pack.price is None)


def comes_whole(build: Build) -> bool:
    """Whether the pack is bought as one, its protection board inside; one of which nobody says so may be made."""
    pack = build.parts.pack
    if pack is None or pack.layout == "bricks" or self_made(build):
        return False
    return pack.price is not None or pack.kit is not None or pack.name is not None


TOO_EMPTY_V = 2.0
"""V under which a cell is thrown out as it is found, and is charged no more (common practice, no source)."""
APART_V = 0.05
"""V by which cells, and groups of a pack, may lie apart at rest: more wants balancing (common practice, no source)."""
LINE_UP_V = 0.1
"""V by which two packs may differ when they are joined side by side (common practice, no source)."""


@dataclass(frozen=True)
class Group:
    """Cells side by side: Ah together, and mOhm as one where every cell's is known."""

    position: int
    cells: tuple[MeasuredCell, ...]

    @property
    def capacity_ah(self) -> float:
        return sum(c.capacity_ah or 0.0 for c in self.cells)

    @property
    def resistance_mohm(self) -> float | None:
        known = [c.resistance_mohm for c in self.cells if c.resistance_mohm is not None]
        return 1.0 / sum(1.0 / r for r in known) if known and len(known) == len(self.cells) else None


def in_groups(cells: Sequence[MeasuredCell], series: int) -> list[Group]:
    """The cells by the group that they were put into, from 1 to ``series``; those that lie elsewhere are left out."""
    found: list[list[MeasuredCell]] = [[] for _ in range(series)]
    for cell in cells:
        if cell.group is not None and cell.group <= series:
            found[cell.group - 1].append(cell)
    return [Group(position, tuple(group)) for position, group in enumerate(found, 1)]


@once_a_build
def measured_groups(build: Build) -> list[Group] | None:
    """The groups as sorted: None until each has as many cells as stand side by side, every one of known capacity."""
    pack, cells = build.parts.pack, work_of(build).cells
    if not cells or pack is None or pack.series is None:
        return None
    groups = in_groups(cells, pack.series)
    whole = all(len(g.cells) == (pack.parallel or 1) for g in groups)
    return groups if whole and all(c.capacity_ah for g in groups for c in g.cells) else None


def mean_capacity(groups: Sequence[Group]) -> float:
    """Ah of a group, the mean over all."""
    return sum(g.capacity_ah for g in groups) / len(groups)


def weakest_share(groups: Sequence[Group]) -> float:
    """Capacity of the smallest group over the mean."""
    return min(g.capacity_ah for g in groups) / mean_capacity(groups)


RIDE_OVER_READING = {"pulse": (1.0, 0.08), "tester": (1.5, 0.2), None: (1.2, 0.3)}
"""A cell's ten-second resistance over what was read, and how far that may be off: a tester's 1 kHz sees neither the cell's slow
reactions nor its diffusion, which a pulse does (1.3 to 1.9 times as much, from memory)."""


def pulse_resistance(build: Build, groups: Sequence[Group]) -> tuple[float, float] | None:
    """mOhm of one cell by the groups that it stands in, and its spread; None where a reading is missing."""
    found = [g.resistance_mohm for g in groups]
    known = [r for r in found if r is not None]
    if len(known) < len(found):
        return None
    factor, spread = RIDE_OVER_READING[work_of(build).resistance_by]
    return factor * sum(known) / len(known) * len(groups[0].cells), spread
