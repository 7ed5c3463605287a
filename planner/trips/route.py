"""Legs as pieces of way: typed ones cut into flats, ups and downs, tracks by their nodes."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.trips import MOST_NODES, RouteProfile, TripLeg
from boardmath.calibration.track import Track, bearings, smoothed_heights, turning_points
from boardmath.engine.boards import Boards
from boardmath.physics.types import Array

_PIECE_M = 1000.0
"""m of a typed leg that are cut into flat, up and down."""
_NODE_M = 150.0
"""m from node to node of a track where it only runs on: the wind is met by where it leads."""
_BEND_M = 1.5
"""m by which the height of a track may lie off between its nodes."""


@dataclass(frozen=True)
class RouteSegment:
    """A leg as pieces (m, rise over run, degrees that it leads to), as :mod:`boardmath.engine.travelling` rides them.

    ``told`` is how well the climb is known: the deviation of its logarithm.
    """

    pieces: Array
    told: float
    aimed: bool = True
    """Whether anybody knows where it leads; if not, every direction counts as north."""

    @property
    def metres(self) -> float:
        return float(self.pieces[:, 0].sum())

    @property
    def ascent(self) -> float:
        up = self.pieces[:, 1] > 0.0
        return float((self.pieces[up, 0] * self.pieces[up, 1]).sum())

    @property
    def heading(self) -> float:
        """Degrees from north that the first half of the way leads to, all in all."""
        way_out = self.first(self.metres / 2.0).pieces
        towards = np.radians(way_out[:, 2])
        east, north = (float(way_out[:, 0] @ of(towards)) for of in (np.sin, np.cos))
        return float(np.degrees(np.arctan2(east, north)))

    def back(self) -> "RouteSegment":
        """The same way the other way round."""
        turned = self.pieces[::-1].copy()
        turned[:, 1] *= -1.0
        turned[:, 2] = (turned[:, 2] + 180.0) % 360.0
        return RouteSegment(turned, self.told, self.aimed)

    def first(self, metres: float) -> "RouteSegment":
        """The way as far as ``metres``."""
        ends = np.cumsum(self.pieces[:, 0])
        last = int(np.searchsorted(ends, metres))
        kept = self.pieces[: last + 1].copy()
        if last < len(self.pieces):
            kept[-1, 0] -= max(ends[last] - metres, 0.0)
        return RouteSegment(kept[kept[:, 0] > 0.0], self.told, self.aimed)


def segment_of(leg: TripLeg, usual_ascent: float, steep: float) -> RouteSegment:
    """A leg as pieces.

    Args:
        usual_ascent: m of climb in a km where the leg says none; steep: rise over run of what is climbed on a usual way.
    """
    if leg.profile is not None:
        return _of_profile(leg.profile)
    metres = (leg.distance_km or 0.0) * 1000.0
    up = leg.ascent_m if leg.ascent_m is not None else usual_ascent * metres / 1000.0
    down = leg.descent_m if leg.descent_m is not None else up
    told = 0.7 if leg.ascent_m is None else 0.2
    half = 0.5 if leg.there_and_back else 1.0
    aimed = leg.bearing_deg is not None
    out = RouteSegment(_typed(metres * half, up * half, down * half, steep, leg.bearing_deg or 0.0), told, aimed)
    if not leg.there_and_back:
        return out
    return RouteSegment(np.concatenate([out.pieces, out.back().pieces]), told, aimed)


def _typed(metres: float, up: float, down: float, steep: float, bearing: float) -> Array:
    grade = max(steep, (up + down) / max(metres, 1.0) / 0.9)
    count = max(round(metres / _PIECE_M), 1)
    rising, falling = up / grade / count, down / grade / count
    flat = max(metres / count - rising - falling, 0.0)
    pieces = [(m, g, bearing) for m, g in ((flat, 0.0), (rising, grade), (falling, -grade)) if m > 0.0]
    return np.array(pieces * count, dtype=float).reshape(-1, 3)


def _of_profile(profile: RouteProfile) -> RouteSegment:
    metres = np.array(profile.metres, dtype=float)
    rise = np.diff(profile.heights)
    towards = bearings(np.array(profile.lat), np.array(profile.lon))
    kept = metres > 0.0
    grade = np.clip(rise[kept] / np.sqrt(np.maximum(metres[kept] ** 2 - rise[kept] ** 2, 1.0)), -1.0, 1.0)
    pieces = np.stack([metres[kept], grade, np.nan_to_num(towards[kept])], axis=-1)
    return RouteSegment(pieces, 0.7 if profile.unknown_heights else 0.08)


def profile_of(track: Track) -> RouteProfile:
    """A track as a leg keeps it: a node every so many metres and wherever it turns from up to down, so that no climb is lost.

    Raises:
        ValueError: it tells no places.
    """
    if not np.isfinite(track.lat).all():
        raise ValueError("has no positions: the wind on a leg needs its direction")
    heights = smoothed_heights(track)
    unknown = not np.isfinite(heights).all()
    way, total = track.way, float(track.way[-1])
    if unknown:
        heights = np.zeros(len(way))
    turns = turning_points(heights)
    apart, off = max(_NODE_M, total / MOST_NODES), _BEND_M
    while True:
        even = np.searchsorted(way, np.arange(apart, total, apart))
        nodes = np.unique(np.concatenate([[0], even, turns, _bends(way, heights, off), [len(way) - 1]]))
        if len(nodes) <= MOST_NODES or off > 1000.0:
            break
        apart, off = 1.5 * apart, 1.5 * off
        turns = turning_points(heights, off)
    told = _monotone(heights, turns)[nodes]
    metres = np.diff(way[nodes])
    return RouteProfile(
        metres=[round(float(m)) for m in np.diff(np.round(np.concatenate([[0.0], np.cumsum(metres)])))],
        heights=[round(float(h), 1) for h in told],
        lat=[round(float(v), 6) for v in track.lat[nodes]],
        lon=[round(float(v), 6) for v in track.lon[nodes]],
        unknown_heights=unknown or None,
    )


def _bends(way: Array, heights: Array, off: float) -> NDArray[np.int64]:
    """Where the way has to be bent so that no height lies further off than ``off`` m: a short steep ramp stays one (Ramer,
    Douglas and Peucker's algorithm).
    """
    kept, parts = [0, len(way) - 1], [(0, len(way) - 1)]
    while parts:
        first, last = parts.pop()
        if last - first < 2:
            continue
        part = slice(first + 1, last)
        slope = (heights[last] - heights[first]) / max(way[last] - way[first], 1e-9)
        apart = np.abs(heights[part] - heights[first] - slope * (way[part] - way[first]))
        worst = int(np.argmax(apart))
        if apart[worst] > off:
            at = first + 1 + worst
            kept.append(at)
            parts += [(first, at), (at, last)]
    return np.array(sorted(kept), dtype=np.int64)


def _monotone(heights: Array, turns: NDArray[np.int64]) -> Array:
    """Heights that only rise or only fall from one turning point to the next: what comes and goes between them is no climb."""
    made = heights.copy()
    edges = [0, *(int(t) for t in turns), len(heights) - 1]
    for first, last in pairwise(edges):
        part = heights[first : last + 1]
        rises = part[-1] >= part[0]
        kept = np.maximum.accumulate(part) if rises else np.minimum.accumulate(part)
        made[first : last + 1] = np.clip(kept, min(part[0], part[-1]), max(part[0], part[-1]))
    return made


def usual_steepness(boards: Boards) -> float:
    """Rise over run of what is climbed on the brief's way, in the middle."""
    return float(boards.ascent_grade[0])
