"""Maintenance as files: JSON of our own, and the book as CSV."""

from typing import Any

from boardmath.buildfile.maintenance import Maintenance, TaskDone
from planner.maintenance.tasks import BY_ID
from planner.shared.csv_table import write_table

FORMAT, VERSION = "sand-pocket/upkeep", 1
COLUMNS = (
    "on",
    "task",
    "title",
    "km",
    "found",
    "changed",
    "by",
    "spare",
    "count",
    "diameter_mm",
    "volts",
    "capacity_pct",
    "note",
)


def write_maintenance(maintenance: Maintenance) -> dict[str, Any]:
    """All of it as a plain object."""
    return {"format": FORMAT, "version": VERSION, "maintenance": maintenance.model_dump(mode="json", exclude_none=True)}


def book_as_csv(maintenance: Maintenance) -> str:
    """A row for everything that was done, the oldest first."""
    spares = {s.id: s.name for s in maintenance.spares}
    return write_table(COLUMNS, [_row(done, spares) for done in sorted(maintenance.done, key=lambda d: d.on)])


def _row(done: TaskDone, spares: dict[str, str]) -> dict[str, object]:
    row: dict[str, object] = {c: getattr(done, c, None) for c in COLUMNS}
    row["title"] = BY_ID[done.task].title
    row["spare"] = spares.get(done.spare or "", done.spare)
    row["volts"] = " ".join(f"{v:g}" for v in done.volts or [])
    return row
