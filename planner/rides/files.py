"""Tracks and logs from files: GPX, CSV with whatever columns it has, and JSON of our own; nothing is believed that a file
says of itself.
"""

import json
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

import numpy as np

from boardmath.buildfile import BuildFileError
from boardmath.calibration.track import COLUMNS, MOST_POINTS, Track, track_of
from planner.rides.table import Mapped, no_track, read_table

LARGEST_TRACK = 40 * 1024 * 1024
JSON_FORMAT = "sand-pocket/track"


def read_track(data: bytes, name: str = "", mapping: Mapping[str, Mapped] | None = None) -> Track:
    """A track from the bytes of a file.

    Raises:
        BuildFileError: it is none, with the reason.
    """
    if len(data) > LARGEST_TRACK:
        raise no_track(f"the file has {len(data) / 1e6:.0f} MB; a track may have {LARGEST_TRACK / 1e6:.0f}")
    if not data.strip():
        raise no_track("the file is empty")
    kind = kind_of(data, name)
    try:
        if kind == "gpx":
            return _gpx(data)
        if kind == "json":
            return _json(data)
        return read_table(data, mapping)
    except ValueError as error:
        if isinstance(error, BuildFileError):
            raise
        raise no_track(f"the track {error}") from None


def kind_of(data: bytes, name: str = "") -> Literal["gpx", "json", "csv"]:
    """By what stands in a file, then by its name."""
    head = data[:4096].lstrip(b"\xef\xbb\xbf \r\n\t")
    if head.startswith(b"<") or name.lower().endswith(".gpx"):
        return "gpx"
    return "json" if head.startswith(b"{") else "csv"


def _gpx(data: bytes) -> Track:
    """Points of all tracks of a GPX file, of its routes where it has no track; names of other writers are passed over."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        root = fromstring(data, forbid_dtd=True)
    except DefusedXmlException:
        raise no_track("it declares entities; a track needs none, and they can hide anything") from None
    except (ParseError, ValueError, LookupError) as error:
        raise no_track(f"it is XML that cannot be read: {str(error)[:200]}") from None
    if _plain(root.tag) != "gpx":
        raise no_track("it is XML, but not GPX")
    # Not through the library that writes GPX here: it takes three seconds for 50,000 points.
    points = [p for p in root.iter() if _plain(p.tag) == "trkpt"] or [
        p for p in root.iter() if _plain(p.tag) == "rtept"
    ]
    if not points:
        raise no_track("it has no track; waypoints alone give no route")
    if len(points) > MOST_POINTS:
        raise no_track(f"{len(points):,} points; at most {MOST_POINTS:,}")
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
    return track_of(columns, began)


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
        raise ValueError("has no positions")
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
        raise no_track(f"not JSON: {str(error)[:120]}") from None
    if not isinstance(raw, dict) or raw.get("format") != JSON_FORMAT:
        raise no_track(f"it is JSON, but not a track: a track says 'format': '{JSON_FORMAT}'")
    if raw.get("version") != 1:
        raise no_track("a track of a newer version than this program reads")
    columns = raw.get("columns")
    if not isinstance(columns, dict) or not columns:
        raise no_track("columns are missing")
    if unknown := [c for c in columns if c not in COLUMNS]:
        raise no_track(f"there is no column {str(unknown[0])[:40]}; there are {', '.join(COLUMNS)}")
    lengths = {len(c) if isinstance(c, list) else -1 for c in columns.values()}
    if len(lengths) != 1 or lengths == {-1}:
        raise no_track("columns have to be lists of the same length")
    try:
        read = {n: [float("nan") if v is None else float(v) for v in c] for n, c in columns.items()}
        began = datetime.fromisoformat(str(raw["began"])) if raw.get("began") else None
    except (TypeError, ValueError) as error:
        raise no_track(f"a value is not a number, or the start is not a time: {str(error)[:80]}") from None
    return track_of(read, began)


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
