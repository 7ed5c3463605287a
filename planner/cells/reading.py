"""Cells from a table: CSV, or what was copied out of a spreadsheet. Every row with its faults; good rows are kept."""

import csv
from collections.abc import Iterable, Sequence
from typing import Any

from pydantic import BaseModel

from boardmath.buildfile import BuildFileError, Fault, check
from boardmath.buildfile.pack_assembly import MOST_CELLS, MeasuredCell
from planner.shared.csv_table import without_apostrophe

COLUMNS = ("id", "capacity_ah", "found_v", "rested_v", "rested_days", "resistance_mohm", "mass_g", "size", "source")
"""In this order where a table has no head; the first two are needed."""
FURTHER = ("chemistry", "group", "locked")
NEEDED = COLUMNS[:2]
_WORDS = ("id", "size", "source", "chemistry")
LARGEST_TABLE = 400_000
"""Characters of a table; a thousand cells with all that can be said of them are under half of it."""


class ReadRow(BaseModel):
    """A row as it was read: the cell, or what is wrong with it; ``line`` counts from 1 as an editor does."""

    line: int
    cell: MeasuredCell | None = None
    text: str
    faults: list[str] = []


class ReadTable(BaseModel):
    """A table of cells, row by row; ``refused`` says why nothing of it can be read."""

    rows: list[ReadRow]
    refused: str | None = None

    @property
    def cells(self) -> list[MeasuredCell]:
        return [row.cell for row in self.rows if row.cell is not None]


def read_table(text: str, taken: Iterable[str] = ()) -> ReadTable:
    """The cells of a table with commas, semicolons or tabs between its columns.

    Args:
        taken: names of cells that are there already.
    """
    if len(text) > LARGEST_TABLE:
        return ReadTable(rows=[], refused=f"more than {LARGEST_TABLE:,} characters: import it in several parts")
    text = text.lstrip("\ufeff")
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        return ReadTable(rows=[], refused="it is empty")
    between = next((d for d in ("\t", ";") if d in lines[0]), ",")
    try:
        parsed = [(r.line_num, row) for r in [csv.reader(text.splitlines(), delimiter=between)] for row in r]
    except csv.Error as error:
        return ReadTable(rows=[], refused=f"it is not a table: {error}")
    parsed = [(line, [c.strip() for c in row]) for line, row in parsed if any(c.strip() for c in row)]
    head = [c.lower() for c in parsed[0][1]]
    if "id" in head or "capacity_ah" in head:
        unknown = [c for c in head if c and c not in COLUMNS + FURTHER]
        lacking = [c for c in NEEDED if c not in head]
        if lacking or unknown or len(set(head)) < len(head):
            return ReadTable(rows=[], refused=_of_the_head(lacking, unknown))
        parsed = parsed[1:]
    else:
        head = list(COLUMNS)
    if len(parsed) > MOST_CELLS:
        return ReadTable(rows=[], refused=f"{len(parsed):,} rows; at most {MOST_CELLS:,} cells are kept")
    seen = dict.fromkeys(taken, 0)
    return ReadTable(rows=[_row(line, row, head, between, seen) for line, row in parsed])


def cells_of(text: str) -> list[MeasuredCell]:
    """The cells of a table in which every row is good.

    Raises:
        BuildFileError: with a fault for each row that is not.
    """
    table = read_table(text)
    faults = [Fault(f"line {row.line}", "; ".join(row.faults)) for row in table.rows if row.faults]
    if table.refused:
        faults = [Fault("", table.refused)]
    if faults:
        raise BuildFileError(faults)
    return table.cells


def _of_the_head(lacking: Sequence[str], unknown: Sequence[str]) -> str:
    said = []
    if lacking:
        said.append(f"the header lacks {' and '.join(lacking)}")
    if unknown:
        said.append(f"it has {', '.join(unknown)}, which is not a column here")
    return f"{'; '.join(said) or 'the header has a column twice'}. The columns are {', '.join(COLUMNS)}"


def _row(line: int, row: list[str], head: list[str], between: str, seen: dict[str, int]) -> ReadRow:
    text = between.join(row)
    if len(row) > len(head) and any(row[len(head) :]):
        return ReadRow(line=line, text=text, faults=[f"{len(row)} columns; the header has {len(head)}"])
    values: dict[str, Any] = {}
    faults: list[str] = []
    for key, said in zip(head, row, strict=False):
        if not said:
            continue
        if key in _WORDS:
            values[key] = said.lower() if key == "chemistry" else without_apostrophe(said)
        elif key == "locked":
            values[key] = said.lower() in ("yes", "true", "1")
        else:
            number = _number(said, between)
            if number is None:
                faults.append(f"“{key}”: enter a number, not “{said[:24]}”")
            else:
                values[key] = int(number) if key == "group" and number == int(number) else number
    faults += [
        f"“{key}” is missing"
        for key in NEEDED
        if key not in values and not any(f.startswith(f"“{key}”") for f in faults)
    ]
    if faults:
        return ReadRow(line=line, text=text, faults=faults)
    try:
        cell = check(MeasuredCell, values)
    except BuildFileError as error:
        return ReadRow(line=line, text=text, faults=[f"“{f.field}”: {f.reason}" for f in error.faults])
    if cell.id in seen:
        where = f"is in line {seen[cell.id]}" if seen[cell.id] else "is in the list"
        return ReadRow(line=line, text=text, faults=[f"“id”: {cell.id} {where} already; every cell needs its own name"])
    seen[cell.id] = line
    return ReadRow(line=line, text=text, cell=cell)


def _number(said: str, between: str) -> float | None:
    said = said.replace("\u2212", "-")
    if between != "," and said.count(",") == 1 and "." not in said:
        said = said.replace(",", ".")
    try:
        return float(said)
    except ValueError:
        return None
