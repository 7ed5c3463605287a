"""Tracks that people bring: read by a worker, kept once, in our own form; how a table is read is remembered."""

import hashlib
import json
import zlib
from collections.abc import Mapping
from dataclasses import dataclass
from io import BytesIO
from typing import Any
from uuid import UUID

import numpy as np
from django.db import transaction
from django.db.models import Sum
from django.http import Http404
from PIL import Image, ImageDraw
from pydantic import ValidationError

from boardmath.buildfile import BuildFileError
from boardmath.calibration.ride import Ride as RideFile
from boardmath.calibration.runs import Summary, summary
from boardmath.calibration.track import Track as TrackFile
from boardmath.calibration.track import day_of, joined, of_one_ride, outline, thinned
from planner.rides.files import kind_of, read_track, write_track
from planner.rides.table import Mapped, Preview, preview
from planner.rides.table import TableRead as Reading
from server import pictures
from server.boards import services as builds
from server.errors import ApiError
from server.rides.models import TableRead, Track
from server.users import Key, Person

LARGEST = 40_000_000
MOST_TRACKS = 1000
SHOWN = 1200
"""Points of a plot."""


def kept_by(owner: Person) -> int:
    """Bytes of a person's tracks."""
    return Track.objects.filter(build__owner=owner).aggregate(sum=Sum("size"))["sum"] or 0


pictures.KEPT_BY.append(kept_by)


@dataclass(frozen=True)
class Brought:
    """What came of a file: the track, and whether it was there before; or a table of which somebody has to say what is what."""

    track: Track | None
    again: bool = False
    joined: bool = False
    """It was recorded on a ride that has a track already, which has what this one knows now."""
    table: Preview | None = None
    fault: str | None = None


def whole(given: pictures.Readable) -> bytes:
    """What was sent; of what is too large only the beginning is read.

    Raises:
        ApiError: it is empty or too large.
    """
    data = given.read(LARGEST + 1)
    if not data:
        raise ApiError("That file is empty.", file="a track: GPX, CSV or JSON")
    if len(data) > LARGEST:
        raise ApiError("That file is too large for a track.", file=f"at most {LARGEST // 1_000_000} MB")
    return data


def bring(owner: Person, build_id: Key, name: str, data: bytes, mapping: Mapping[str, Any] | None) -> Brought:
    """Keeps a track. The same file is the same track, whatever it is called.

    Raises:
        BuildFileError: it cannot be read.
        ApiError: there is no room.
    """
    build = builds.get(owner, build_id)
    digest = hashlib.sha256(data).hexdigest()
    there = Track.objects.filter(build=build, digest=digest).first()
    if there is not None:
        return Brought(there, again=True)
    columns = _columns(mapping) if mapping else None
    if kind_of(data, name) == "csv":
        table = preview(data)
        head = hashlib.sha256(json.dumps(table.head).encode()).hexdigest()
        known = TableRead.objects.filter(owner=owner, head=head).first()
        if columns is None and known is not None:
            columns = _columns(known.mapping)
        try:
            track = read_track(data, name, columns)
        except BuildFileError as error:
            return Brought(None, table=table, fault=error.faults[0].reason)
        if mapping:
            TableRead.objects.update_or_create(owner=owner, head=head, defaults={"mapping": mapping})
    else:
        track = read_track(data, name)
    packed = _packed(track)
    with transaction.atomic():
        if Track.objects.filter(build=build).count() >= MOST_TRACKS:
            raise ApiError(f"A board keeps {MOST_TRACKS:,} tracks.", file="none more")
        pictures.room_for(owner, len(packed))
        kept, made = Track.objects.get_or_create(
            build=build,
            digest=digest,
            defaults={
                "name": name[:120] or "track",
                "summary": summary(track).model_dump(mode="json"),
                "size": len(packed),
                "data": packed,
            },
        )
    if not made:
        return Brought(kept, again=True)
    return Brought(kept, joined=_join(kept, track))


def _packed(track: TrackFile) -> bytes:
    return zlib.compress(json.dumps(write_track(track)).encode(), 6)


def _join(kept: Track, track: TrackFile) -> bool:
    """Whether a ride was recorded twice, by a phone and by a controller: its track gets what the other knows."""
    for first in Track.objects.filter(build=kept.build).exclude(pk=kept.pk).exclude(ride=None):
        there = file_of(first)
        if not of_one_ride(there, track):
            continue
        # The one that knows where it was carries the other.
        one, other = (
            (track, there) if np.isfinite(track.lat).any() and not np.isfinite(there.lat).any() else (there, track)
        )
        both = joined(one, other)
        packed = _packed(both)
        told = summary(both).model_dump(mode="json")
        Track.objects.filter(pk=first.pk).update(data=packed, size=len(packed), summary=told)
        Track.objects.filter(pk=kept.pk).update(ride=first.ride)
        kept.refresh_from_db()
        return True
    return False


def _columns(mapping: Mapping[str, Any]) -> dict[str, Mapped]:
    try:
        return {str(c): m for c, m in Reading.model_validate({"columns": mapping}).columns.items()}
    except ValidationError as error:
        raise ApiError("A table cannot be read like that.", mapping=str(error.errors()[0]["msg"])[:200]) from None


def get(owner: Person, id: UUID) -> Track:
    """One of the person's tracks."""
    found = Track.objects.filter(pk=id, build__owner=owner, build__deleted_at=None).first()
    if found is None:
        raise Http404
    return found


def belongs(owner: Person, build_id: Key, track: UUID, ride: str) -> None:
    """The track is of that ride, where both are there."""
    try:
        of = UUID(ride)
    except ValueError:
        return
    Track.objects.filter(pk=track, build=builds.get(owner, build_id)).update(ride=of)


def take_away(owner: Person, id: UUID) -> None:
    get(owner, id).delete()


def file_of(track: Track) -> TrackFile:
    """The track as it was read."""
    return read_track(zlib.decompress(bytes(track.data)), "track.json")


def shown(track: Track) -> TrackFile:
    """Few enough points to be drawn."""
    return thinned(file_of(track), SHOWN)


def as_ride(track: Track, minutes_east: int, today: str) -> RideFile:
    """A ride as a track tells it, with the runs that are found in it; whoever accepts it may alter it."""
    told = Summary.model_validate(track.summary)
    way: dict[str, Any] = {"distance_km": round(max(told.distance_km, 0.02), 2)}
    if told.ascent_m is not None:
        way["ascent_m"] = round(told.ascent_m)
    if told.moving_s is not None and told.moving_s >= 5:
        way |= {"moving_s": round(told.moving_s), "stops": told.stops}
    pack: dict[str, Any] = {}
    if told.start_v is not None and told.end_v is not None and told.end_v <= 1.02 * told.start_v:
        pack = {"start_v": round(told.start_v, 2), "end_v": round(told.end_v, 2), "by": "controller", "rested_s": 0}
    return RideFile.model_validate(
        {
            "day": day_of(file_of(track), minutes_east) or today,
            "title": track.name.rpartition(".")[0][:120] or track.name,
            "way": way,
            "pack": pack,
            "runs": [f.run.model_dump(exclude_none=True) for f in told.runs],
        }
    )


def line_svg(track: Track, cut_m: float) -> str:
    """The way as a line, without a map, its ends cut off.

    Raises:
        ApiError: nothing is left of it.
    """
    points, side = _placed(track, cut_m)
    path = " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {side} {side}" width="{side}" height="{side}" role="img">'
        f'<title>The way that was ridden</title><rect width="{side}" height="{side}" fill="#FBF8F1"/>'
        f'<polyline points="{path}" fill="none" stroke="#12303A" stroke-width="4" stroke-linejoin="round" '
        'stroke-linecap="round"/></svg>'
    )


def line_png(track: Track, cut_m: float) -> bytes:
    """The same as a picture of pixels."""
    points, side = _placed(track, cut_m)
    twice = Image.new("RGB", (2 * side, 2 * side), "#FBF8F1")
    ImageDraw.Draw(twice).line([(2 * x, 2 * y) for x, y in points], fill="#12303A", width=8, joint="curve")
    file = BytesIO()
    twice.resize((side, side), Image.Resampling.LANCZOS).save(file, "PNG", optimize=True)
    return file.getvalue()


_SIDE, _EDGE = 800, 40


def _placed(track: Track, cut_m: float) -> tuple[list[tuple[float, float]], int]:
    points = outline(file_of(track), cut_m)
    if not points:
        raise ApiError("Nothing is left of that track.", cut=f"{cut_m:g} m at both ends, or no positions were recorded")
    east, north = zip(*points, strict=True)
    reach = max(max(east) - min(east), max(north) - min(north), 1.0)
    scale = (_SIDE - 2 * _EDGE) / reach
    middle = ((max(east) + min(east)) / 2, (max(north) + min(north)) / 2)
    return [(_SIDE / 2 + (x - middle[0]) * scale, _SIDE / 2 - (y - middle[1]) * scale) for x, y in points], _SIDE
