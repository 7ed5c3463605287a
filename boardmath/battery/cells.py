"""A bag of cells as a pack would have it: who is out and why, the groups, what is spare, and how near that is to the best."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pydantic import BaseModel

from boardmath.battery.bought_pack import bought_pack
from boardmath.battery.cell_judging import Rejected, judged, of_one_lot
from boardmath.battery.cell_sorting import TooManyLocked, sort_cells
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell
from boardmath.buildfile.pack_assembly import MeasuredCell
from boardmath.messages import Message, counted, in_a_row, message
from boardmath.model.cell_groups import APART_V, TOO_EMPTY_V, Group, in_groups, mean_capacity, work_of


class CellGroup(BaseModel):
    """A group of cells side by side; ``position`` counts from the pack's negative end. ``resistance_mohm`` is as one, as read."""

    position: int
    cells: list[str]
    capacity_ah: float
    resistance_mohm: float | None = None


BEFORE_JOINING = message(
    "Cells in parallel have to be within {near} of each other before you join them. Nothing here says that a "
    "cell is sound: reject any that gets warm at rest or on a slow charge.",
    near=(APART_V, "cell_voltage"),
)
AT_THE_BEGINNING = message(
    "Reject cells found below {least}, and any that are swollen, rusted or dented; do not charge them. Charge "
    "only while you watch, on stone or in a pot of sand.",
    least=(TOO_EMPTY_V, "cell_voltage"),
)


class CellsReport(BaseModel):
    """A bag and its groups. ``bound_ah`` is what the smallest group of no grouping exceeds; ``whole`` once every place is taken.

    ``sorted`` is where the cells would lie if they were sorted now, by name; None where that cannot be, and ``cannot`` says why.
    """

    groups: list[CellGroup]
    rejected: list[Rejected]
    spare: list[str]
    whole: bool
    spread_pct: float | None = None
    weakest_ah: float | None = None
    weakest: int | None = None
    bound_ah: float | None = None
    resistance_spread_pct: float | None = None
    needed: int
    usable: int
    sorted: dict[str, int] | None = None
    sorted_weakest_ah: float | None = None
    cannot: Message | None = None
    wrongly_in: list[str] = []
    """Cells that lie in a group and are rejected."""
    bought: Message | None = None
    """What to say instead where the pack is bought as one."""
    before: Message = BEFORE_JOINING
    begin: Message = AT_THE_BEGINNING


@dataclass(frozen=True)
class Bag:
    """What is known of a bag before anything is sorted: findings ask this of every candidate, and wait for no sorting."""

    fit: list[MeasuredCell]
    rejected: list[Rejected]
    groups: list[Group]
    needed: int
    short: Message | None
    """Why it does not fill the pack."""

    @property
    def wrongly_in(self) -> list[str]:
        """Cells that lie in a group and are rejected."""
        placed = {c.id for g in self.groups for c in g.cells}
        return [r.id for r in self.rejected if r.id in placed]


def bag_of(build: Build) -> Bag:
    """The bag of a build."""
    pack = build.parts.pack
    series, parallel = (pack.series if pack else None) or 0, (pack.parallel if pack else None) or 1
    return looked_through(work_of(build).cells or [], series, parallel, pack.cell if pack else None)


def looked_through(cells: Sequence[MeasuredCell], series: int, parallel: int, cell: Cell | None = None) -> Bag:
    """Any bag, for ``series`` groups of ``parallel`` cells."""
    fit, rejected = judged(cells, cell)
    few = len(fit) < series * parallel
    short = _too_few(len(fit), series, parallel, len(rejected)) if few else None
    return Bag(fit, rejected, in_groups(cells, series), series * parallel, short)


def cells_report(build: Build) -> CellsReport:
    """The bag of a build, as its cells lie and as they would be sorted; empty where the pack has no cells in series yet."""
    pack = build.parts.pack
    series, parallel = (pack.series if pack else None) or 0, (pack.parallel if pack else None) or 1
    report = report_on(work_of(build).cells or [], series, parallel, pack.cell if pack else None)
    return report.model_copy(update={"bought": bought_pack(build)})


def report_on(cells: Sequence[MeasuredCell], series: int, parallel: int, cell: Cell | None = None) -> CellsReport:
    """The same of any bag: ``series`` groups of ``parallel`` cells."""
    bag = looked_through(cells, series, parallel, cell)
    placed = {c.id for g in bag.groups for c in g.cells}
    report = CellsReport(
        groups=[_shown(g) for g in bag.groups],
        rejected=bag.rejected,
        spare=[c.id for c in bag.fit if c.id not in placed],
        whole=bool(bag.groups) and all(len(g.cells) == parallel for g in bag.groups),
        needed=bag.needed,
        usable=len(bag.fit),
        wrongly_in=bag.wrongly_in,
        cannot=bag.short,
    )
    if any(g.capacity_ah for g in bag.groups):
        report = report.model_copy(update=_sums(bag.groups, report.whole))
    if not series:
        return report.model_copy(
            update={"cannot": message("Enter on the Design page how many cells are in series and in parallel.")}
        )
    if bag.short is not None:
        return report
    locked = {c.id: c.group - 1 for c in bag.fit if c.locked and c.group is not None and c.group <= series}
    try:
        best, ceiling = sorted_into(bag.fit, series, parallel, locked)
    except TooManyLocked:
        return report.model_copy(update={"cannot": message("More cells are locked into one group than it has places.")})
    lot = of_one_lot(cells, cell)
    return report.model_copy(
        update={
            "sorted": {c.id: g.position for g in best for c in g.cells},
            "sorted_weakest_ah": None if lot else min(g.capacity_ah for g in best),
            "bound_ah": None if lot else ceiling,
        }
    )


def sorted_into(
    fit: Sequence[MeasuredCell], series: int, parallel: int, locked: Mapping[str, int] | None = None
) -> tuple[list[Group], float]:
    """The groups of cells that are all fit, and the bound.

    Raises:
        TooFew: with how many there are and how many are needed.
    """
    read = [c.resistance_mohm for c in fit]
    place = {c.id: i for i, c in enumerate(fit)}
    found = sort_cells(
        [c.capacity_ah or 0.0 for c in fit],
        series,
        parallel,
        [r or 0.0 for r in read] if all(read) else None,
        {place[id]: group for id, group in (locked or {}).items()},
    )
    return [Group(g + 1, tuple(fit[int(i)] for i in row)) for g, row in enumerate(found.groups)], found.bound_ah


def _too_few(have: int, series: int, parallel: int, out: int) -> Message:
    smaller = have // series
    return in_a_row(
        message(
            "{have} usable cells; {series} x {parallel} needs {needed}.",
            have=have,
            series=series,
            parallel=parallel,
            needed=series * parallel,
        ),
        message("{out} rejected.", out=counted(out, "cell").capitalize()) if out else None,
        message("They are enough for {series} x {parallel}.", series=series, parallel=smaller)
        if 0 < smaller < parallel
        else None,
    )


def _shown(group: Group) -> CellGroup:
    return CellGroup(
        position=group.position,
        cells=[c.id for c in group.cells],
        capacity_ah=group.capacity_ah,
        resistance_mohm=group.resistance_mohm,
    )


def _sums(groups: Sequence[Group], whole: bool) -> dict[str, object]:
    holds = [g.capacity_ah for g in groups]
    resists = [g.resistance_mohm for g in groups if g.resistance_mohm is not None]
    least = min(holds)
    spread = (max(resists) - min(resists)) / (sum(resists) / len(resists)) if len(resists) == len(groups) else None
    return {
        "weakest_ah": least,
        "weakest": holds.index(least) + 1,
        "spread_pct": 100.0 * (max(holds) - least) / mean_capacity(groups) if whole else None,
        "resistance_spread_pct": 100.0 * spread if spread is not None and whole else None,
    }


def one_lot(build: Build) -> list[MeasuredCell]:
    """New cells of one lot, in one line: as many as the pack has, in their groups already; the label stays the part's."""
    pack = build.parts.pack
    series, parallel = (pack.series if pack else None) or 0, (pack.parallel if pack else None) or 1
    if pack is None or not series:
        return []
    size = pack.cell.size if pack.cell else None
    return [
        MeasuredCell(id=f"{group}.{place}", size=size, source="new, same batch", group=group)
        for group in range(1, series + 1)
        for place in range(1, parallel + 1)
    ]


def printed(report: CellsReport, cells: Sequence[MeasuredCell], series: int, parallel: int) -> dict[str, object]:
    """The contract of the command line: the bag sorted now.

    Raises:
        ValueError: in words, where it cannot be sorted.
    """
    if report.sorted is None:
        raise ValueError(report.cannot.text if report.cannot else "cannot be sorted")
    if not any(c.capacity_ah for c in cells):
        raise ValueError("no cell was measured, and cells are sorted by capacity")
    moved = [c.model_copy(update={"group": report.sorted.get(c.id)}) for c in cells]
    groups = in_groups(moved, series)
    sums = _sums(groups, True)
    return {
        "groups": [_shown(g).model_dump(exclude_none=True) for g in groups],
        "rejected": [{"id": r.id, "reason": r.message.text} for r in report.rejected],
        "spare": [c.id for c in moved if c.group is None and c.id not in {r.id for r in report.rejected}],
        "spread_pct": sums["spread_pct"],
        "weakest_ah": sums["weakest_ah"],
        "bound_ah": report.bound_ah,
    }
