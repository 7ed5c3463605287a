"""A track or a telemetry log: cleaned, summed, and what is found in it: speed runs both ways, hills, coasting, stops, the
wind's mark.

Arrays have a row a point. What was not recorded is nan. Distances are on the WGS 84 ellipsoid, by its radii of curvature where
the board
is, which is right to a part in a million over the metres between two points.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from math import radians
from typing import Any

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.figures import within_years
from boardmath.physics.types import Array

MOST_POINTS = 400_000
LONGEST_S = 366 * 86_400.0
"""A year; a longer track is a clock that was set in between."""
_A, _E2 = 6378137.0, 0.0066943799901413165
"""m and none: half the long axis of WGS 84, the square of its eccentricity."""
STANDING_MS = 0.6
"""m/s under which a board stands (common practice, no source: what a phone's position wanders)."""
FASTEST_MS = 36.0
"""m/s above which two points are no ride but a jump."""
_GAP_S = 20.0
_SMOOTH_M, _CLIMB_M = 25.0, 2.0
"""m of way over which heights are evened out, and m by which a height has to differ before it counts as climbed: a phone's height
wanders by some metres (common practice, no source)."""
Mask = NDArray[np.bool_]
COLUMNS = ("time", "lat", "lon", "height", "speed", "distance", "power", "voltage", "current", "motor_c", "board_c")


@dataclass(frozen=True)
class Track:
    """Points in their order. ``time`` in s since ``began``; ``lat``, ``lon`` in degrees; heights and ``way`` in m; ``speed``
    in m/s;
    power in W, voltage in V, current in A out of the pack, temperatures in C.
    """

    time: Array
    lat: Array
    lon: Array
    height: Array
    speed: Array
    way: Array
    power: Array
    voltage: Array
    current: Array
    motor_c: Array
    board_c: Array
    began: datetime | None = None
    dropped: dict[str, int] = field(default_factory=dict)
    """Points that were left out, by why."""

    def __len__(self) -> int:
        return len(self.time)

    @property
    def timed(self) -> bool:
        return bool(np.isfinite(self.time).all()) and len(self) > 1

    @property
    def moving(self) -> Mask:
        """Whether the board moves on the way to each point; the first has none."""
        return np.asarray(self.speed > STANDING_MS)

    @property
    def steps(self) -> Array:
        """s from the point before; 0 for the first and across gaps."""
        if not self.timed:
            return np.zeros(len(self))
        step = np.diff(self.time, prepend=self.time[0])
        return np.asarray(np.where(step > _GAP_S, 0.0, step))


def metres_between(lat: Array, lon: Array) -> Array:
    """m between each point and the one before, along the ellipsoid; the first is 0. The date line is crossed the short way."""
    phi = np.radians((lat[1:] + lat[:-1]) / 2.0)
    east = np.radians((np.diff(lon) + 180.0) % 360.0 - 180.0)
    w2 = 1.0 - _E2 * np.sin(phi) ** 2
    along = _A * (1.0 - _E2) / w2**1.5 * np.radians(np.diff(lat))
    across = _A / np.sqrt(w2) * np.cos(phi) * east
    return np.concatenate([[0.0], np.hypot(along, across)])


def headings(track: Track) -> Array:
    """Degrees from north, clockwise, on the way to each point; nan where it stands or nobody knows where."""
    return np.concatenate([[np.nan], bearings(track.lat, track.lon)])


def bearings(lat: Array, lon: Array) -> Array:
    """Degrees from north, clockwise, from each point to the next, one fewer than points; nan where both are one."""
    phi = np.radians((lat[1:] + lat[:-1]) / 2.0)
    east = (np.diff(lon) + 180.0) % 360.0 - 180.0
    north = np.diff(lat)
    w2 = 1.0 - _E2 * np.sin(phi) ** 2
    along, across = _A * (1.0 - _E2) / w2**1.5 * north, _A / np.sqrt(w2) * np.cos(phi) * east
    found = np.degrees(np.arctan2(across, along)) % 360.0
    return np.asarray(np.where((east == 0.0) & (north == 0.0), np.nan, found))


def track_of(columns: Mapping[str, Sequence[float]], began: datetime | None = None) -> Track:
    """A cleaned track from columns of :data:`COLUMNS` as far as they were recorded, each as long as the others.

    Args:
        began: in any zone; None where no clock was recorded.

    Raises:
        ValueError: nothing in it tells a way, it began in an impossible year, or it takes longer than a year.
    """
    if began is not None:
        began = within_years(began).astimezone(UTC)
    count = len(next(iter(columns.values()), ()))
    raw = {n: np.asarray(columns.get(n, np.full(count, np.nan)), dtype=float) for n in COLUMNS}
    dropped: dict[str, int] = {}

    def keep(mask: Mask, why: str) -> None:
        gone = int((~mask).sum())
        if gone:
            dropped[why] = dropped.get(why, 0) + gone
            for n in raw:
                raw[n] = raw[n][mask]

    placed = bool(np.isfinite(raw["lat"]).any())
    if placed:
        keep(np.isfinite(raw["lat"]) & np.isfinite(raw["lon"]), "without a position")
        keep((np.abs(raw["lat"]) <= 90.0) & (np.abs(raw["lon"]) <= 360.0), "with an impossible position")
    timed = bool(np.isfinite(raw["time"]).sum() > 1)
    if timed:
        keep(np.isfinite(raw["time"]), "without a time")
        # What goes back in time is told apart from what stands still in it.
        latest = np.maximum.accumulate(raw["time"])
        keep(raw["time"] >= latest, "with a time that goes backwards")
        keep(np.diff(raw["time"], prepend=-np.inf) > 0.0, "with the same time")
    if placed and len(raw["lat"]) > 2:
        for _ in range(3):
            step = metres_between(raw["lat"], raw["lon"])
            seconds = np.diff(raw["time"], prepend=raw["time"][:1] - 1.0) if timed else np.full(len(step), np.nan)
            far = step / np.maximum(seconds, 0.2) > FASTEST_MS if timed else step > 2000.0
            if not far.any():
                break
            # A point that is jumped to and away from is the one that is wrong.
            keep(~(far & np.append(far[1:], True)), "a jump")
            if not (far & np.append(far[1:], True)).any():
                break
    way = metres_between(raw["lat"], raw["lon"]).cumsum() if placed else raw["distance"]
    if not placed and not np.isfinite(way).all():
        if not (timed and np.isfinite(raw["speed"]).all()):
            raise ValueError("has no distance: it needs positions, a distance, or speed and time")
        step = np.diff(raw["time"], prepend=raw["time"][0])
        way = np.cumsum(np.where(step > _GAP_S, 0.0, step) * np.maximum(raw["speed"], 0.0))
    elif not placed:
        way = way - way[0]
    if len(way) < 2:
        raise ValueError("has fewer than two points")
    if len(way) > MOST_POINTS:
        raise ValueError(f"has {len(way):,} points; at most {MOST_POINTS:,}")
    if timed and raw["time"][-1] - raw["time"][0] > LONGEST_S:
        raise ValueError("takes longer than a year")
    track = Track(
        time=raw["time"] - raw["time"][0] if timed else np.full(len(way), np.nan),
        way=way,
        began=began,
        dropped=dropped,
        **{n: raw[n] for n in ("lat", "lon", "height", "speed", "power", "voltage", "current", "motor_c", "board_c")},
    )
    power = np.where(np.isfinite(track.power), track.power, track.voltage * track.current)
    return replace(track, speed=_speeds(track), power=power)


def _speeds(track: Track) -> Array:
    """m/s as recorded, else over the few seconds about each point."""
    if np.isfinite(track.speed).mean() > 0.9:
        return np.nan_to_num(track.speed)
    if not track.timed:
        return np.full(len(track), np.nan)
    first = np.searchsorted(track.time, track.time - 1.6)
    last = np.minimum(np.searchsorted(track.time, track.time + 1.6, side="right") - 1, len(track) - 1)
    first, last = np.where(first == last, np.maximum(first - 1, 0), first), np.where(first == last, last, last)
    seconds = np.maximum(track.time[last] - track.time[first], 1e-9)
    speed = (track.way[last] - track.way[first]) / seconds
    return np.asarray(np.where(seconds > _GAP_S, 0.0, np.minimum(speed, FASTEST_MS)))


def smoothed_heights(track: Track) -> Array:
    """m, evened out over :data:`_SMOOTH_M` of way."""
    if not np.isfinite(track.height).any():
        return track.height
    height = np.interp(track.way, track.way[np.isfinite(track.height)], track.height[np.isfinite(track.height)])
    sums = np.concatenate([[0.0], np.cumsum(height)])
    first = np.searchsorted(track.way, track.way - _SMOOTH_M)
    last = np.searchsorted(track.way, track.way + _SMOOTH_M, side="right")
    return np.asarray((sums[last] - sums[first]) / (last - first))


def turning_points(height: Array, least: float = _CLIMB_M) -> NDArray[np.int64]:
    """Where a way turns from up to down or back, by more than ``least`` m; what comes and goes by less is no climb."""
    if len(height) == 0:
        return np.zeros(0, dtype=np.int64)
    found: list[int] = []
    top = bottom = 0
    rising: bool | None = None
    values = height.tolist()
    for i, h in enumerate(values):
        if h > values[top]:
            top = i
        if h < values[bottom]:
            bottom = i
        if rising is not False and values[top] - h > least:
            found += [top] if rising else [top] if top else []
            rising, bottom = False, i
        elif rising is not True and h - values[bottom] > least:
            found += [bottom] if rising is False else [bottom] if bottom else []
            rising, top = True, i
    return np.array(found, dtype=np.int64)


def climbed(height: Array) -> float:
    """m of all ups together; what comes and goes by less than :data:`_CLIMB_M` is no climb."""
    if len(height) == 0 or not np.isfinite(height).all():
        return float("nan")
    turns = turning_points(height)
    # From the last turning point on it goes to the highest or lowest that comes.
    last = int(turns[-1]) if len(turns) else 0
    after = height[last:]
    rest = after[np.argmax(np.abs(after - height[last]))] if len(after) else height[last]
    nodes = np.concatenate([height[:1], height[turns], [rest]])
    ups = np.diff(nodes)
    return float(ups[ups > _CLIMB_M].sum())


def stretches(mask: Mask) -> list[tuple[int, int]]:
    """First and one beyond the last row of every run of rows where ``mask`` holds."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]]).astype(int)))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def thinned(track: Track, most: int) -> Track:
    """Every so many points, so that at most ``most`` are left, the last among them."""
    if len(track) <= most:
        return track
    at = np.unique(np.linspace(0, len(track) - 1, most).round().astype(int))
    arrays = ("time", "way", "lat", "lon", "height", "speed", "power", "voltage", "current", "motor_c", "board_c")
    return replace(track, **{n: getattr(track, n)[at] for n in arrays})


_OVERLAP = 0.6
"""Share of the shorter of two tracks that has to lie in the other before they are of one ride."""


def of_one_ride(one: Track, other: Track) -> bool:
    """Whether two tracks were recorded at the same time, as by a phone and by a controller."""
    if one.began is None or other.began is None or not (one.timed and other.timed):
        return False
    shift = (other.began - one.began).total_seconds()
    both = min(float(one.time[-1]), shift + float(other.time[-1])) - max(0.0, shift)
    return both >= _OVERLAP * max(min(float(one.time[-1]), float(other.time[-1])), 1.0)


def joined(one: Track, other: Track) -> Track:
    """``one`` with what ``other`` recorded at the same moments and it did not; where ``other`` has a gap, nothing is made up."""
    assert one.began is not None
    assert other.began is not None
    at = one.time - (other.began - one.began).total_seconds()
    nearest = np.clip(np.searchsorted(other.time, at), 1, len(other) - 1)
    near = np.minimum(np.abs(other.time[nearest] - at), np.abs(other.time[nearest - 1] - at)) <= _GAP_S / 2.0
    found: dict[str, Any] = {}
    for name in ("height", "power", "voltage", "current", "motor_c", "board_c"):
        theirs = getattr(other, name)
        known = np.isfinite(theirs)
        if np.isfinite(getattr(one, name)).any() or not known.any():
            continue
        found[name] = np.where(near, np.interp(at, other.time[known], theirs[known], np.nan, np.nan), np.nan)
    return replace(one, **found)


def day_of(track: Track, minutes_east: int = 0) -> str | None:
    """The day on which it was ridden, of a place so many minutes east of universal time."""
    return (track.began + timedelta(minutes=minutes_east)).date().isoformat() if track.began else None


def outline(track: Track, cut_m: float, most: int = 1500) -> list[tuple[float, float]]:
    """The way as a line in m east and north of its middle, ``cut_m`` taken off both ends."""
    kept = (track.way >= cut_m) & (track.way <= track.way[-1] - cut_m)
    lat, lon = track.lat[kept], track.lon[kept]
    if len(lat) < 2 or not np.isfinite(lat).all():
        return []
    at = np.unique(np.linspace(0, len(lat) - 1, min(most, len(lat))).round().astype(int))
    lat, lon = lat[at], lon[at]
    east = ((lon - lon[0] + 180.0) % 360.0 - 180.0) * np.cos(radians(float(lat.mean()))) * 111_320.0
    north = (lat - lat.mean()) * 110_574.0
    east = east - east.mean()
    return [(round(float(x), 1), round(float(y), 1)) for x, y in zip(east, north, strict=True)]
