"""Tables of a controller's log: what each column is, by its head or as somebody said, in which unit, row by row."""

import csv
import io
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, Field

from boardmath.buildfile import BuildFileError, Fault
from boardmath.buildfile.figures import Record
from boardmath.calibration.track import MOST_POINTS, Track, track_of
from boardmath.units import conversion

PREVIEW = 6

Column = Literal[
    "time", "lat", "lon", "height", "speed", "distance", "power", "voltage", "current", "motor_c", "board_c"
]
QUANTITY: dict[str, str] = {
    "height": "way",
    "speed": "speed",
    "distance": "way",
    "power": "power",
    "voltage": "voltage",
    "current": "current",
    "motor_c": "temperature",
    "board_c": "temperature",
}
"""What each column is, where it has a unit that may differ."""
_FACTOR: dict[str, tuple[str, float]] = {"speed": ("km/h", 1.0 / 3.6), "distance": ("m", 1.0)}
"""From the build file's unit to that of a track, where they differ."""
TIME_UNITS = ("s", "ms", "min", "clock")
"""Of a time: seconds, milliseconds or minutes from a beginning, or a clock: a date and time, or hours, minutes and seconds."""


class Mapped(Record):
    """Which column of a table is what, in which unit."""

    name: str = Field(max_length=80)
    unit: str = Field(default="", max_length=20)


class TableRead(Record):
    """How a table is read; remembered by its head."""

    columns: dict[Column, Mapped]


class Preview(BaseModel):
    """A table before it is read: its head, the first rows, what each column seems to be, rows that cannot be read."""

    head: list[str]
    rows: list[list[str]]
    mapping: dict[Column, Mapped]
    broken: list[str] = []
    lines: int


def no_track(reason: str) -> BuildFileError:
    """Why a file is no track."""
    return BuildFileError([Fault("file", reason)])


_NAMES: dict[Column, tuple[str, ...]] = {
    "time": ("time", "timestamp", "t", "date", "clock", "seconds", "ms_today", "elapsed"),
    "lat": ("lat", "latitude"),
    "lon": ("lon", "lng", "long", "longitude"),
    "height": ("height", "altitude", "alt", "elevation", "ele"),
    "speed": ("speed", "velocity"),
    "distance": ("distance", "way", "odometer", "trip"),
    "power": ("power", "watts"),
    "voltage": ("voltage", "volts", "volt", "input_voltage", "pack_v"),
    "current": ("current", "amps", "battery_current", "input_current", "pack_a"),
    "motor_c": ("motor_temperature", "motor_temp", "motor_c", "temp_motor"),
    "board_c": ("controller_temperature", "controller_temp", "board_c", "temp_controller", "temperature", "temp"),
}
_UNITS = {
    "speed": ("km/h", "m/s", "mph", "kmh", "kph"),
    "distance": ("km", "m", "miles", "mi", "ft"),
    "height": ("m", "ft"),
    "power": ("W", "kW"),
    "voltage": ("V", "mV"),
    "current": ("A", "mA"),
    "motor_c": ("°C", "°F", "C", "F"),
    "board_c": ("°C", "°F", "C", "F"),
}
_USUAL_UNIT = {"speed": "km/h", "distance": "m", "height": "m", "power": "W", "voltage": "V", "current": "A"}


def _rows(data: bytes) -> tuple[list[str], list[list[str]]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    if "\0" in text:
        raise no_track("it is not text: neither GPX nor a table")
    first = text.splitlines()[0] if text.splitlines() else ""
    between = max(("\t", ";", ","), key=first.count)
    if not first.count(between):
        raise no_track("it is not a table: its first line has no columns")
    try:
        rows = [[c.strip() for c in row] for row in csv.reader(io.StringIO(text), delimiter=between) if any(row)]
    except csv.Error as error:
        raise no_track(f"it is not a table: {error}") from None
    return rows[0], rows[1:]


def preview(data: bytes) -> Preview:
    """What a table seems to hold.

    Raises:
        BuildFileError: it is no table.
    """
    head, rows = _rows(data)
    mapping = guessed(head, rows[:PREVIEW])
    broken = []
    if mapping:
        try:
            broken = _values(head, rows, mapping)[2]
        except BuildFileError as error:
            broken = [f.reason for f in error.faults]
    return Preview(head=head, rows=rows[:PREVIEW], mapping=mapping, broken=broken[:20], lines=len(rows))


def guessed(head: Sequence[str], rows: Sequence[Sequence[str]]) -> dict[Column, Mapped]:
    """What the columns of a table seem to be, by their heads; a unit stands in brackets or at the end of the name."""
    found: dict[Column, Mapped] = {}
    plain = [h.lower().replace(" ", "_").replace("(", "_").replace("[", "_").strip("_)]") for h in head]
    for column, names in _NAMES.items():
        for i, name in enumerate(plain):
            if head[i] in (m.name for m in found.values()):
                continue
            if any(name == n or name.startswith(n + "_") for n in names):
                unit = _unit_in(column, head[i], [r[i] for r in rows if i < len(r)])
                found[column] = Mapped(name=head[i], unit=unit)
                break
    return found


def _unit_in(column: Column, head: str, values: Sequence[str]) -> str:
    if column == "time":
        if any(":" in v for v in values):
            return "clock"
        return "ms" if "ms" in head.lower() else "min" if head.lower().endswith("min") else "s"
    ending = head.rstrip(")]").replace("(", " ").replace("[", " ").replace("_", " ").split()
    units = _UNITS.get(column, ())
    last = ending[-1] if ending else ""
    said = next((u for u in units if u.lower() == last.lower()), None)
    return said or _USUAL_UNIT.get(column, "°C" if column.endswith("_c") else "")


def read_table(data: bytes, mapping: Mapping[str, Mapped] | None) -> Track:
    head, rows = _rows(data)
    chosen: Mapping[Any, Mapped] = mapping or guessed(head, rows[:PREVIEW])
    columns, began, broken = _values(head, rows, chosen)
    track = track_of(columns, began)
    if broken:
        track.dropped["a row that cannot be read"] = len(broken)
    return track


def _values(
    head: Sequence[str], rows: Sequence[Sequence[str]], mapping: Mapping[Any, Mapped]
) -> tuple[dict[str, Sequence[float]], datetime | None, list[str]]:
    """Columns in a track's units, when it began, and the rows that cannot be read."""
    if not mapping:
        raise no_track(f"no column heading is known ({', '.join(h[:20] for h in head[:8])}): say which column is which")
    if missing := [m.name for m in mapping.values() if m.name not in head]:
        raise no_track(f"there is no column {missing[0]}")
    if len(rows) > MOST_POINTS:
        raise no_track(f"{len(rows):,} rows; at most {MOST_POINTS:,}")
    at = {column: head.index(m.name) for column, m in mapping.items()}
    found: dict[str, list[float]] = {column: [] for column in mapping}
    broken: list[str] = []
    began: datetime | None = None
    for number, row in enumerate(rows, 2):
        values: dict[str, float] = {}
        try:
            for column, i in at.items():
                text = row[i] if i < len(row) else ""
                if column == "time":
                    seconds, moment = _seconds(text, mapping[column].unit, began)
                    began = began or moment
                    values[column] = seconds
                else:
                    values[column] = _number(text) if text else float("nan")
        except ValueError as error:
            broken.append(f"line {number}: {error}")
            continue
        for column, value in values.items():
            found[column].append(value)
    if not any(found.values()):
        raise no_track(broken[0] if broken else "no row can be read")
    return {c: _converted(c, v, mapping[c].unit) for c, v in found.items()}, began, broken


def _number(text: str) -> float:
    plain = text.replace("\u202f", "").replace(" ", "")
    if "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    try:
        return float(plain)
    except ValueError:
        raise ValueError(f"{text[:30]} is not a number") from None


def _seconds(text: str, unit: str, began: datetime | None) -> tuple[float, datetime | None]:
    """s from the beginning, and the moment where a clock says it."""
    if unit != "clock":
        return _number(text) * {"ms": 0.001, "min": 60.0}.get(unit, 1.0), None
    try:
        moment = datetime.fromisoformat(text.replace("Z", "+00:00").replace("/", "-"))
    except ValueError:
        parts = text.split(":")
        if not 2 <= len(parts) <= 3:
            raise ValueError(f"{text[:30]} is not a time") from None
        return sum(_number(p) * 60.0**k for k, p in enumerate(reversed(parts))), None
    moment = moment if moment.tzinfo else moment.replace(tzinfo=UTC)
    return (moment - (began or moment)).total_seconds(), moment


def _converted(column: str, values: Sequence[float], unit: str) -> Sequence[float]:
    quantity = QUANTITY.get(column)
    if quantity is None:
        return values
    spelled = {"kmh": "km/h", "kph": "km/h", "C": "°C", "F": "°F", "mi": "miles"}.get(unit, unit)
    pint = {
        "km/h": "kilometer/hour",
        "m/s": "meter/second",
        "mph": "mile/hour",
        "km": "kilometer",
        "m": "meter",
        "miles": "mile",
        "ft": "foot",
        "W": "watt",
        "kW": "kilowatt",
        "V": "volt",
        "mV": "millivolt",
        "A": "ampere",
        "mA": "milliampere",
        "°C": "degC",
        "°F": "degF",
    }.get(spelled)
    if pint is None:
        raise no_track(f"{unit[:20]} is not a unit of {column}")
    to_file = conversion(quantity, pint)
    array = np.asarray(values) * to_file.factor + to_file.offset
    return np.asarray(array * _FACTOR.get(column, ("", 1.0))[1])  # type: ignore[return-value]
