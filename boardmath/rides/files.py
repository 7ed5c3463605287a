"""Tracks and logs from files: GPX, CSV with whatever columns it has, and JSON of our own; nothing is believed that a file
says of itself.
"""

import csv
import io
import json
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, Field

from boardmath.buildfile import BuildFileError, Fault
from boardmath.buildfile.figures import Record
from boardmath.rides.track import COLUMNS, MOST_POINTS, Track, track_of
from boardmath.units import conversion

LARGEST_TRACK = 40 * 1024 * 1024
PREVIEW = 6
JSON_FORMAT = "sand-pocket/track"

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


def read_track(data: bytes, name: str = "", mapping: Mapping[str, Mapped] | None = None) -> Track:
    """A track from the bytes of a file.

    Raises:
        BuildFileError: it is none, with the reason.
    """
    if len(data) > LARGEST_TRACK:
        raise _bad(f"the file has {len(data) / 1e6:.0f} MB; a track may have {LARGEST_TRACK / 1e6:.0f}")
    if not data.strip():
        raise _bad("the file is empty")
    kind = kind_of(data, name)
    try:
        if kind == "gpx":
            return _gpx(data)
        if kind == "json":
            return _json(data)
        return _table(data, mapping)
    except ValueError as error:
        if isinstance(error, BuildFileError):
            raise
        raise _bad(f"the track {error}") from None


def kind_of(data: bytes, name: str = "") -> Literal["gpx", "json", "csv"]:
    """By what stands in a file, then by its name."""
    head = data[:4096].lstrip(b"\xef\xbb\xbf \r\n\t")
    if head.startswith(b"<") or name.lower().endswith(".gpx"):
        return "gpx"
    return "json" if head.startswith(b"{") else "csv"


def _bad(reason: str) -> BuildFileError:
    return BuildFileError([Fault("file", reason)])


def _gpx(data: bytes) -> Track:
    """Points of all tracks of a GPX file, of its routes where it has no track; names of other writers are passed over."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        root = fromstring(data, forbid_dtd=True)
    except DefusedXmlException:
        raise _bad("it declares entities; a track needs none, and they can hide anything") from None
    except (ParseError, ValueError, LookupError) as error:
        raise _bad(f"no XML that can be read: {str(error)[:200]}") from None
    if _plain(root.tag) != "gpx":
        raise _bad("XML, but no GPX")
    # Not through the library that writes GPX here: it takes three seconds for 50,000 points.
    points = [p for p in root.iter() if _plain(p.tag) == "trkpt"] or [
        p for p in root.iter() if _plain(p.tag) == "rtept"
    ]
    if not points:
        raise _bad("no track in it: waypoints alone tell no way")
    if len(points) > MOST_POINTS:
        raise _bad(f"{len(points):,} points; at most {MOST_POINTS:,}")
    nan = float("nan")
    columns: dict[str, list[float]] = {"lat": [], "lon": [], "height": [], "time": []}
    began: datetime | None = None
    for point in points:
        inner = {_plain(child.tag): child.text for child in point}
        moment = _moment(inner.get("time"))
        began = began or moment
        columns["lat"].append(_or_nan(point.get("lat")))
        columns["lon"].append(_or_nan(point.get("lon")))
        columns["height"].append(_or_nan(inner.get("ele")))
        columns["time"].append(nan if moment is None or began is None else (moment - began).total_seconds())
    return track_of(columns, began.astimezone(UTC) if began is not None else None)


def _plain(tag: str) -> str:
    """A tag without its namespace, which differs between writers."""
    return tag.rpartition("}")[2]


def _or_nan(text: str | None) -> float:
    try:
        return float(text) if text is not None else float("nan")
    except ValueError:
        return float("nan")


def _moment(text: str | None) -> datetime | None:
    try:
        moment = datetime.fromisoformat(text.strip()) if text else None
    except ValueError:
        return None
    return moment.replace(tzinfo=UTC) if moment is not None and moment.tzinfo is None else moment


def write_gpx(track: Track, name: str = "") -> str:
    """A track as GPX 1.1; it has to have places.

    Raises:
        ValueError: nobody knows where it was.
    """
    import gpxpy.gpx as gpx

    if not np.isfinite(track.lat).all():
        raise ValueError("tells no places")
    segment = gpx.GPXTrackSegment()
    for i in range(len(track)):
        high = float(track.height[i]) if np.isfinite(track.height[i]) else None
        moment = track.began + timedelta(seconds=float(track.time[i])) if track.began and track.timed else None
        segment.points.append(gpx.GPXTrackPoint(float(track.lat[i]), float(track.lon[i]), high, moment))
    file = gpx.GPX()
    file.creator = "Sand Pocket"
    file.tracks.append(gpx.GPXTrack(name=name or None))
    file.tracks[0].segments.append(segment)
    return str(file.to_xml())


def _json(data: bytes) -> Track:
    """Our own form: ``{"format": "sand-pocket/track", "version": 1, "began": ..., "columns": {"time": [...], ...}}`` in SI
    units.
    """
    try:
        raw = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise _bad(f"not JSON: {str(error)[:120]}") from None
    if not isinstance(raw, dict) or raw.get("format") != JSON_FORMAT:
        raise _bad(f'JSON, but no track: a track says "format": "{JSON_FORMAT}"')
    if raw.get("version") != 1:
        raise _bad("a track of a newer version than this program reads")
    columns = raw.get("columns")
    if not isinstance(columns, dict) or not columns:
        raise _bad("columns are missing")
    if unknown := [c for c in columns if c not in COLUMNS]:
        raise _bad(f"there is no column {str(unknown[0])[:40]}; there are {', '.join(COLUMNS)}")
    lengths = {len(c) if isinstance(c, list) else -1 for c in columns.values()}
    if len(lengths) != 1 or lengths == {-1}:
        raise _bad("columns have to be lists of one length")
    try:
        read = {n: [float("nan") if v is None else float(v) for v in c] for n, c in columns.items()}
        began = datetime.fromisoformat(str(raw["began"])) if raw.get("began") else None
    except (TypeError, ValueError) as error:
        raise _bad(f"a value is no number, or the beginning no time: {str(error)[:80]}") from None
    return track_of(read, began.astimezone(UTC) if began is not None else None)


def write_track(track: Track) -> dict[str, Any]:
    """A track in our own form; columns of which nothing is known are left out."""
    columns = {}
    for name in COLUMNS:
        values = track.way if name == "distance" else getattr(track, name)
        if np.isfinite(values).any():
            columns[name] = [
                None if not np.isfinite(v) else round(float(v), 7 if name in ("lat", "lon") else 3) for v in values
            ]
    began = {"began": track.began.isoformat()} if track.began else {}
    return {"format": JSON_FORMAT, "version": 1, **began, "columns": columns}


# --- tables ---------------------------------------------------------------------------------------------------------

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
        raise _bad("no text: neither GPX nor a table")
    first = text.splitlines()[0] if text.splitlines() else ""
    between = max(("\t", ";", ","), key=first.count)
    if not first.count(between):
        raise _bad("no table: its first line has no columns")
    try:
        rows = [[c.strip() for c in row] for row in csv.reader(io.StringIO(text), delimiter=between) if any(row)]
    except csv.Error as error:
        raise _bad(f"no table: {error}") from None
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


def _table(data: bytes, mapping: Mapping[str, Mapped] | None) -> Track:
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
        raise _bad(f"no column is known by its head ({', '.join(h[:20] for h in head[:8])}): say which is which")
    if missing := [m.name for m in mapping.values() if m.name not in head]:
        raise _bad(f"there is no column {missing[0]}")
    if len(rows) > MOST_POINTS:
        raise _bad(f"{len(rows):,} rows; at most {MOST_POINTS:,}")
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
        raise _bad(broken[0] if broken else "no row can be read")
    return {c: _converted(c, v, mapping[c].unit) for c, v in found.items()}, began, broken


def _number(text: str) -> float:
    plain = text.replace("\u202f", "").replace(" ", "")
    if "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    try:
        return float(plain)
    except ValueError:
        raise ValueError(f"{text[:30]} is no number") from None


def _seconds(text: str, unit: str, began: datetime | None) -> tuple[float, datetime | None]:
    """s from the beginning, and the moment where a clock says it."""
    if unit != "clock":
        return _number(text) * {"ms": 0.001, "min": 60.0}.get(unit, 1.0), None
    try:
        moment = datetime.fromisoformat(text.replace("Z", "+00:00").replace("/", "-"))
    except ValueError:
        parts = text.split(":")
        if not 2 <= len(parts) <= 3:
            raise ValueError(f"{text[:30]} is no time") from None
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
        raise _bad(f"{unit[:20]} is no unit of {column}")
    to_file = conversion(quantity, pint)
    array = np.asarray(values) * to_file.factor + to_file.offset
    return np.asarray(array * _FACTOR.get(column, ("", 1.0))[1])  # type: ignore[return-value]
