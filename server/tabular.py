"""Reads tables that :mod:`planner.shared.csv_table` or a spreadsheet wrote: commas, semicolons or tabs, and decimal commas where
the cells are parted by something else.
"""

import csv
import io
import re
import types
import typing
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from boardmath.buildfile import BuildFileError, Fault
from planner.shared.csv_table import BYTE_ORDER_MARK, without_apostrophe

LARGEST_TABLE = 1000
"""Rows. A list of parts has a hundred at most, a library some hundreds."""


MOST_COLUMNS = 200
"""Columns. A part has thirty figures at most, and a spreadsheet adds a few of its own."""


class TableError(ValueError):
    """Why nothing of a table can be used."""


@dataclass(frozen=True)
class Row:
    """One row: the line of the file it begins on, and its cells by column, empty ones left out."""

    line: int
    cells: dict[str, str]


def read_table(data: str | bytes, needed: Sequence[str] = ()) -> tuple[list[str], list[Row], bool]:
    """The columns, the rows, and whether decimals may have commas.

    Raises:
        BuildFileError: nothing can be read of it, or a ``needed`` column is not there.
    """
    try:
        columns, rows, decimal_comma = _read(data)
    except TableError as error:
        raise BuildFileError([Fault("", str(error))]) from None
    if lacking := [c for c in needed if c not in columns]:
        words = " and ".join(f"“{c}”" for c in lacking)
        raise BuildFileError([Fault("", f"the first line names the columns; {words} is needed among them")])
    return columns, rows, decimal_comma


def _read(data: str | bytes) -> tuple[list[str], list[Row], bool]:
    if isinstance(data, bytes):
        try:
            data = data.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            raise TableError(f"not UTF-8 text (byte {error.start}); save it as “CSV UTF-8”") from None
    text = data.removeprefix(BYTE_ORDER_MARK)
    if "\0" in text:
        raise TableError("not a table in text: it has zero bytes in it")
    first = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
    try:
        columns = [c.strip() for c in next(reader, [])]
        if len(columns) > MOST_COLUMNS:
            raise TableError(f"it has {len(columns):,} columns; {MOST_COLUMNS} at most")
        rows = list(_rows(reader, columns))
    except csv.Error as error:
        raise TableError(f"line {reader.line_num}: {error}") from None
    if not any(columns):
        raise TableError("it is empty: the first line names the columns")
    double = next((c for c in columns if c and columns.count(c) > 1), None)
    if double:
        raise TableError(f"the column {double[:40]} is there twice")
    return columns, rows, delimiter != ","


def _rows(reader: Any, columns: Sequence[str]) -> Iterator[Row]:
    end, count = reader.line_num, 0
    for cells in reader:
        line, end = end + 1, reader.line_num
        if not any(c.strip() for c in cells):
            continue
        count += 1
        if count > LARGEST_TABLE:
            raise TableError(f"more than {LARGEST_TABLE} rows; import it in parts")
        named = {c: without_apostrophe(v.strip()) for c, v in zip(columns, cells, strict=False) if c and v.strip()}
        if len(cells) > len(columns) and any(c.strip() for c in cells[len(columns) :]):
            named[""] = "more cells than columns"
        yield Row(line, named)


# --- records and rows -------------------------------------------------------------------------------------------------


def flat(record: Mapping[str, Any], before: str = "") -> dict[str, Any]:
    """Records inside the record as dotted keys."""
    found: dict[str, Any] = {}
    for key, value in record.items():
        if isinstance(value, dict):
            found |= flat(value, f"{before}{key}.")
        else:
            found[before + key] = value
    return found


def record_of(model: type[BaseModel], cells: Mapping[str, str], decimal_comma: bool) -> dict[str, Any]:
    """Cells with dotted columns as a record for ``model``; what cannot be told stays text, for the model to refuse."""
    record: dict[str, Any] = {}
    for column, text in cells.items():
        *way, last = column.split(".")
        node, here = record, model
        for step in way:
            node = node.setdefault(step, {})
            inner = inner_model(here, step)
            if inner is None or not isinstance(node, dict):
                break
            here = inner
        if isinstance(node, dict):
            field = here.model_fields.get(last)
            node[last] = _typed(field.annotation if field else str, text, decimal_comma)
    return record


def _kinds(annotation: Any) -> list[Any]:
    if typing.get_origin(annotation) in (types.UnionType, typing.Union):
        return [k for a in typing.get_args(annotation) for k in _kinds(a)]
    if typing.get_origin(annotation) is typing.Annotated:
        return _kinds(typing.get_args(annotation)[0])
    return [annotation]


def inner_model(model: type[BaseModel], key: str) -> type[BaseModel] | None:
    """The model of the record that stands inside ``model`` under ``key``, if one does."""
    field = model.model_fields.get(key)
    kinds = _kinds(field.annotation) if field else []
    return next((k for k in kinds if isinstance(k, type) and issubclass(k, BaseModel)), None)


_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?", re.IGNORECASE)
_YES_NO = {"yes": True, "true": True, "no": False, "false": False}


def _typed(annotation: Any, text: str, decimal_comma: bool) -> Any:
    kinds = _kinds(annotation)
    if bool in kinds:
        return _YES_NO.get(text.casefold(), text)
    if float in kinds or int in kinds:
        number = text.replace(",", ".", 1) if decimal_comma else text
        if not _NUMBER.fullmatch(number):
            return text
        value = float(number)
        return int(value) if int in kinds and value.is_integer() else value
    if any(typing.get_origin(k) is list for k in kinds):
        return text.split()
    return text
