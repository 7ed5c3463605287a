"""The parts list as CSV, and back: prices, shops and how things stand, kept in a spreadsheet in between."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from boardmath.buildfile import Build, BuildFileError, Fault, check, write_build
from boardmath.buildfile.buying import LeftOver, Order
from boardmath.buildfile.electrics import Extra
from boardmath.buildfile.figures import Part
from boardmath.parts.cost import LEFT_OVER, Exchanger, Priced, cost, priced_parts
from boardmath.parts.part_types import KINDS
from planner.shared.csv_table import write_table
from server.tabular import Row, read_table, record_of

COLUMNS = (
    "part",
    "name",
    "maker",
    "count",
    "price",
    "currency",
    "status",
    "order",
    "ordered_on",
    "due_on",
    "arrived_on",
    "duty_pct",
    "tax_pct",
    "mass_g",
    "source",
    "notes",
    "amount",
    "amount_currency",
)
_OF_A_PART = ("maker", "price", "currency", "mass_g", "source", "notes")
_OF_A_PURCHASE = ("order", "due_on", "arrived_on")
_OF_AN_ORDER = {
    "currency": "currency",
    "price": "shipping",
    "duty_pct": "duty_pct",
    "tax_pct": "tax_pct",
    "ordered_on": "ordered_on",
    "due_on": "due_on",
    "notes": "notes",
}


def as_csv(build: Build) -> str:
    """A row for each part and one for each order, whose price is its shipping; the amounts sum up to what it all comes to."""
    sums, exchange = cost(build), Exchanger(build)
    rows = [_row(line, exchange) for line in priced_parts(build)]
    details = {o.name: o for o in build.orders or []}
    for bill in sums.orders:
        order = details.get(bill.name, Order(name=bill.name))
        row = {column: getattr(order, key) for column, key in _OF_AN_ORDER.items()}
        on_top = round(bill.total - bill.goods, 2)
        rows.append({**row, "part": "order", "name": bill.name, "amount": on_top, "amount_currency": sums.currency})
    return write_table(COLUMNS, rows)


def _place(line: Priced) -> str:
    if line.path.startswith("parts.extras."):
        return "extra"
    return "left over" if line.path.startswith(LEFT_OVER) else line.path.removeprefix("parts.")


def _row(line: Priced, exchange: Exchanger) -> dict[str, Any]:
    part, amount = line.part, exchange.of(line)
    row = {"part": _place(line), "name": part.name, "count": line.count, "status": line.state}
    row |= {key: getattr(part, key) for key in _OF_A_PART}
    row |= {key: getattr(part.purchase, key, None) for key in _OF_A_PURCHASE}
    return row | {"amount": None if amount is None else float(amount), "amount_currency": exchange.currency}


@dataclass
class Reading:
    """A list read back: the build it makes, and every row with what became of it."""

    build: Build
    rows: list["RowRead"] = field(default_factory=list)
    broken: list[Row] = field(default_factory=list)


@dataclass
class RowRead:
    line: int
    part: str
    name: str
    changes: bool = False
    faults: list[Fault] = field(default_factory=list)


def read_csv(build: Build, data: bytes) -> Reading:
    """The build with what a list says; broken rows are left out and named. Parts that the list does not have stay.

    Raises:
        BuildFileError: nothing of it can be used.
    """
    columns, rows, decimal_comma = read_table(data, ("part", "name"))
    known = [c for c in COLUMNS if c in columns]
    reading = Reading(build)
    taken: set[str] = set()
    for row in rows:
        read = RowRead(row.line, row.cells.get("part", ""), row.cells.get("name", ""))
        reading.rows.append(read)
        try:
            after = _with_row(reading.build, row, known, decimal_comma, taken)
        except BuildFileError as error:
            read.faults = error.faults
            reading.broken.append(row)
        else:
            read.changes = after != reading.build
            reading.build = after
    return reading


def rest(reading: Reading) -> str | None:
    """The broken rows as a table with their reasons, to be mended and read again."""
    if not reading.broken:
        return None
    why = {r.line: "; ".join(str(f) for f in r.faults) for r in reading.rows}
    rows = [{**row.cells, "reason": why[row.line]} for row in reading.broken]
    return write_table([*COLUMNS, "reason"], rows)


def _with_row(build: Build, row: Row, columns: list[str], decimal_comma: bool, taken: set[str]) -> Build:
    cells, name = row.cells, row.cells.get("name")
    if "" in cells:
        raise _fault("", cells[""])
    unknown = [c for c in cells if c not in COLUMNS and c != "reason"]
    if unknown:
        raise _fault(unknown[0], "unknown column")
    place = cells.get("part", "")
    document = write_build(build)
    if place == "order":
        given = record_of(Order, {key: cells[c] for c, key in _OF_AN_ORDER.items() if c in cells}, decimal_comma)
        _put_order(document, name, given, [key for c, key in _OF_AN_ORDER.items() if c in columns])
        return check(type(build), document)
    target = _target(build, document, place, name, taken)
    status = cells.get("status")
    part_cells = {c: cells[c] for c in (*_OF_A_PART, "count") if c in cells}
    given = record_of(Extra if place == "extra" else LeftOver, part_cells, decimal_comma)
    if place != "extra" and "count" in given and given["count"] != target["count"]:
        raise _fault("count", f"the board has {target['count']}; change the number on the Design page")
    record = target["record"]
    for key in _OF_A_PART:
        if key in columns:
            _set(record, key, given.get(key))
    # One is what an extra counts that says nothing of it.
    if place == "extra" and "count" in columns and given.get("count", 1) != record.get("count", 1):
        _set(record, "count", given.get("count"))
    purchase = dict(record.get("purchase") or {})
    for key in _OF_A_PURCHASE:
        if key in columns:
            _set(purchase, key, cells.get(key))
    if "status" in columns:
        if status == "owned":
            record["owned"] = True
        elif record.get("owned"):
            del record["owned"]
        # What is not said to be anything else is to be ordered.
        unsaid = status == "to_order" and "status" not in purchase
        _set(purchase, "status", None if unsaid or status in (None, "owned") else status)
    _set(record, "purchase", purchase or None)
    # The reasons name the columns of the table, whatever the part.
    check(Extra, {k: v for k, v in record.items() if k in Part.model_fields})
    return check(type(build), document)


def _target(build: Build, document: dict[str, Any], place: str, name: str | None, taken: set[str]) -> dict[str, Any]:
    """The record in ``document`` that a row is about, with how many of it the board has; extras are made where needed."""
    lines = {p.path: p for p in priced_parts(build)}
    if place in ("extra", "left over"):
        field_name = "extras" if place == "extra" else LEFT_OVER.rstrip(".")
        holder = document.setdefault("parts", {}) if place == "extra" else document
        records = holder.setdefault(field_name, [])
        for i, record in enumerate(records):
            key = f"{field_name}.{i}"
            if key not in taken and record.get("name") == name:
                taken.add(key)
                return {"record": record, "count": record.get("count") or 1}
        if place == "left over":
            raise _fault("name", "there is no left-over part of that name")
        if name is None:
            raise _fault("name", "an extra needs a name")
        records.append({"name": name})
        taken.add(f"{field_name}.{len(records) - 1}")
        return {"record": records[-1], "count": 1}
    line = lines.get(f"parts.{place}")
    if line is None:
        kinds = [k for k in KINDS if k != "cell"]
        known = place in kinds or place == "pack.cell"
        raise _fault(
            "part", "the board has none chosen yet" if known else f"one of {', '.join(kinds)}, order, left over"
        )
    if (line.part.name or None) != name:
        raise _fault(
            "name",
            f"the board has “{line.part.name or 'one without a name'}” there; choose another on the Design page",
        )
    node = document["parts"]
    for step in place.split("."):
        node = node[step]
    return {"record": node, "count": line.count}


def _put_order(document: dict[str, Any], name: str | None, given: Mapping[str, Any], keys: list[str]) -> None:
    if name is None:
        raise _fault("name", "an order needs a name")
    orders = document.setdefault("orders", [])
    order = next((o for o in orders if o["name"] == name), None)
    if order is None and not any(v is not None for v in given.values()):
        if not orders:
            del document["orders"]
        return  # an order of which nothing is known but its name
    if order is None:
        order = {"name": name}
        orders.append(order)
    for key in keys:
        _set(order, key, given.get(key))
    check(Order, order)


def _set(record: dict[str, Any], key: str, value: Any) -> None:
    if value is None:
        record.pop(key, None)
    else:
        record[key] = value


def _fault(field_name: str, reason: str) -> BuildFileError:
    return BuildFileError([Fault(field_name, reason)])
