"""What is found in a track: its sums, speed runs both ways, hills, roll-outs, stops, the wind's mark.

What counts as each is common practice, no source.
"""

from dataclasses import dataclass
from datetime import datetime

import numpy as np
from pydantic import BaseModel

from boardmath.calibration.ride import CoastRun, HillRun, Run, SpeedRun
from boardmath.calibration.track import STANDING_MS, Track, climbed, headings, smoothed_heights, stretches
from boardmath.physics.types import Array

_STOP_S = 4.0


class Found(BaseModel):
    """A run found in a track, and where: s and m since its beginning."""

    run: Run
    from_m: float
    to_m: float
    from_s: float | None = None
    to_s: float | None = None


class Summary(BaseModel):
    """What a track says as a whole; absent is what it cannot tell."""

    points: int
    dropped: dict[str, int]
    began: datetime | None = None
    seconds: float | None = None
    moving_s: float | None = None
    distance_km: float
    ascent_m: float | None = None
    stops: int | None = None
    fastest_kmh: float | None = None
    mean_kmh: float | None = None
    start_v: float | None = None
    end_v: float | None = None
    used_wh: float | None = None
    hottest_c: float | None = None
    wind: str | None = None
    runs: list[Found]


def summary(track: Track) -> Summary:
    """Sums of a track and the runs that are found in it."""
    steps, moving = track.steps, track.moving
    moving_s = float(steps[moving].sum()) if track.timed else None
    height = smoothed_heights(track)
    rested = np.flatnonzero(np.isfinite(track.voltage))
    power = track.power
    used = float(np.nansum(power * steps) / 3600.0) if track.timed and np.isfinite(power).mean() > 0.8 else None
    hot = np.concatenate([track.motor_c, track.board_c])
    km = float(track.way[-1]) / 1000.0
    climb = climbed(height)
    speeds = track.speed[moving]
    return Summary(
        points=len(track),
        dropped=track.dropped,
        began=track.began,
        seconds=float(track.time[-1]) if track.timed else None,
        moving_s=moving_s,
        distance_km=km,
        ascent_m=climb if np.isfinite(climb) else None,
        stops=stops(track) if track.timed else None,
        fastest_kmh=float(np.percentile(speeds, 99.5)) * 3.6 if len(speeds) and track.timed else None,
        mean_kmh=km / moving_s * 3600.0 if moving_s else None,
        start_v=float(np.nanmax(track.voltage[rested[:5]])) if len(rested) else None,
        end_v=float(np.nanmax(track.voltage[rested[-5:]])) if len(rested) else None,
        used_wh=used if used and used > 0.0 else None,
        hottest_c=float(np.nanmax(hot)) if np.isfinite(hot).any() else None,
        wind=winds_mark(track),
        runs=[*speed_runs(track), *hills(track, height), *coasts(track)] if track.timed else [],
    )


def stops(track: Track) -> int:
    """How often it came to a stand of some seconds between moving and moving."""
    count = 0
    for first, last in stretches(~track.moving):
        if first > 0 and last < len(track) and track.time[last] - track.time[first - 1] >= _STOP_S:
            count += 1
    return count


_FAST_SHARE, _FAST_BACK, _FAST_S, _OPPOSITE = 0.96, 0.86, 5.0, 35.0
"""A speed run holds this share of its own fastest for so many s, is at least so fast as the other way, and points so many degrees
about the other way."""


def speed_runs(track: Track) -> list[Found]:
    """Flat out, held: one way and, where the opposite way was ridden as well, both, each its mean speed."""
    if not len(track.speed[track.moving]):
        return []
    top = float(np.percentile(track.speed[track.moving], 99.0))
    runs = []
    for begin, end in stretches(track.speed >= _FAST_BACK * top):
        own = _FAST_SHARE * float(np.percentile(track.speed[begin:end], 95.0))
        first, last = max(stretches(track.speed[begin:end] >= own), key=lambda s: s[1] - s[0])
        first, last = begin + first, begin + last
        if track.time[last - 1] - track.time[first] >= _FAST_S and not _steep(track, first, last):
            runs.append((first, last, float(np.mean(track.speed[first:last]))))
    # A stretch that is merely the usual speed is no run: the run stands out.
    if not runs or top < 1.12 * float(np.median(track.speed[track.moving])):
        return []
    heading = headings(track)
    runs.sort(key=lambda r: -r[2])
    first, last, speed = runs[0]
    there = _mean_heading(heading[first:last])
    for back in runs[1:]:
        turned = abs((_mean_heading(heading[back[0] : back[1]]) - there + 180.0) % 360.0 - 180.0)
        if turned >= 180.0 - _OPPOSITE:
            run = SpeedRun(kind="speed", kmh=[round(speed * 3.6, 1), round(back[2] * 3.6, 1)])
            return [_found(track, run, min(first, back[0]), max(last, back[1]))]
    return [_found(track, SpeedRun(kind="speed", kmh=[round(speed * 3.6, 1)]), first, last)]


def _steep(track: Track, first: int, last: int) -> bool:
    """Whether heights are known there and it is no level stretch."""
    rise, way = track.height[last - 1] - track.height[first], track.way[last - 1] - track.way[first]
    return bool(np.isfinite(rise) and way > 0.0 and abs(rise / way) > 0.012)


def _mean_heading(degrees: Array) -> float:
    turned = np.radians(degrees[np.isfinite(degrees)])
    if len(turned) == 0:
        return float("nan")
    return float(np.degrees(np.arctan2(np.sin(turned).mean(), np.cos(turned).mean())) % 360.0)


def _found(track: Track, run: Run, first: int, last: int) -> Found:
    ends = (first, min(last, len(track) - 1))
    return Found(
        run=run,
        from_m=float(track.way[ends[0]]),
        to_m=float(track.way[ends[1]]),
        from_s=float(track.time[ends[0]]),
        to_s=float(track.time[ends[1]]),
    )


_HILL_GRADE, _HILL_M, _HILL_RISE_M = 0.035, 50.0, 5.0


def hills(track: Track, height: Array) -> list[Found]:
    """Climbs of some length: grade, length, speed at the foot and at the top, the steepest first."""
    if not np.isfinite(height).all():
        return []
    rise, run = np.diff(height, prepend=height[0]), np.diff(track.way, prepend=track.way[0])
    with np.errstate(invalid="ignore", divide="ignore"):
        grade = np.where(run > 0.0, rise / run, 0.0)
    found = []
    for begin, stop in stretches((grade > _HILL_GRADE / 2.0) & (track.speed > STANDING_MS)):
        # Evened out, a hill's ends lie where half of its grade is left.
        own = 0.5 * float(np.percentile(grade[begin:stop], 90.0))
        first, last = max(stretches(grade[begin:stop] >= own), key=lambda s: s[1] - s[0])
        first, last = begin + first, begin + last
        start, end = max(first - 1, 0), last - 1
        length, up = float(track.way[end] - track.way[start]), float(height[end] - height[start])
        if length < _HILL_M or up < _HILL_RISE_M or up / length < _HILL_GRADE:
            continue
        hill = HillRun(
            kind="hill",
            grade_pct=round(100.0 * up / length, 1),
            length_m=round(length, 0),
            foot_kmh=round(float(track.speed[start]) * 3.6, 1),
            top_kmh=round(float(np.median(track.speed[max(end - 3, start) : end + 1])) * 3.6, 1),
        )
        found.append(_found(track, hill, start, end))
    return sorted(found, key=lambda f: -((f.run.grade_pct or 0.0) if isinstance(f.run, HillRun) else 0.0))[:8]


_COAST_W, _COAST_FROM, _COAST_FALL = 12.0, 4.0, 2.0


def coasts(track: Track) -> list[Found]:
    """Rolled out without power: known where power was recorded, from 4 m/s up, slower by 2 m/s at the least."""
    if np.isfinite(track.power).mean() < 0.8:
        return []
    found = []
    for first, last in stretches((np.abs(track.power) < _COAST_W) & track.moving):
        speed = track.speed[first:last]
        if len(speed) < 4 or speed[0] < _COAST_FROM or speed[0] - speed[-1] < _COAST_FALL or _steep(track, first, last):
            continue
        run = CoastRun(
            kind="coast",
            from_kmh=round(float(speed[0]) * 3.6, 1),
            to_kmh=round(float(speed[-1]) * 3.6, 1),
            metres=round(float(track.way[last - 1] - track.way[first]), 1),
        )
        found.append(_found(track, run, first, last))
    return found[:8]


def winds_mark(track: Track) -> str | None:
    """What out and back differ by: W a km where power was recorded, else speed, between two opposite directions."""
    if not track.timed or not np.isfinite(track.lat).all():
        return None
    heading = headings(track)
    cruising = track.moving & np.isfinite(heading) & (track.speed > 0.6 * float(np.median(track.speed[track.moving])))
    if cruising.sum() < 40:
        return None
    turned = np.radians(2.0 * heading[cruising])
    axis = float(np.degrees(np.arctan2(np.sin(turned).mean(), np.cos(turned).mean())) / 2.0 % 180.0)
    one = cruising & (np.cos(np.radians(heading - axis)) > 0.8)
    other = cruising & (np.cos(np.radians(heading - axis)) < -0.8)
    if one.sum() < 20 or other.sum() < 20:
        return None
    means = [float(track.speed[m].mean()) for m in (one, other)]
    what = "slower"
    ratio = means[0] / means[1] - 1.0
    if np.isfinite(track.power).mean() > 0.8:
        force = [float(track.power[m].mean()) / v for m, v in zip((one, other), means, strict=True)]
        ratio, what = force[1] / force[0] - 1.0, "harder"
    if abs(ratio) < 0.06:
        return None
    slow = axis if ratio < 0.0 else (axis + 180.0) % 360.0
    return f"{abs(ratio) * 100.0:.0f} % {what} going {_compass(slow)} than back: the wind, or a slope"


def _compass(degrees: float) -> str:
    names = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
    return names[int(((degrees + 22.5) % 360.0) // 45.0)]


@dataclass(frozen=True)
class Rolled:
    """What a coast-down tells: N that stay, N for each (m/s)^2, with their errors and how they go together."""

    steady: float
    square: float
    covariance: Array


def rolled_fit(seconds: Array, speed: Array, mass: float) -> Rolled:
    """Rolling force and drag from speeds while rolling out, by least squares against the closed solution of
    ``m dv/dt = -(a + b v^2)``: ``v = sqrt(a/b) tan(atan(v0 sqrt(b/a)) - t sqrt(a b) / m)``.

    Args:
        seconds: since the first reading; speed: m/s; mass: kg, with what turns.

    Raises:
        ValueError: too few readings, or no rolling out.
    """
    from scipy.optimize import curve_fit

    if len(seconds) < 4 or speed[0] - speed[-1] < 1.0:
        raise ValueError("rolls out by less than 1 m/s, or has fewer than four readings")

    def rolling(t: Array, first: float, log_a: float, log_b: float) -> Array:
        a, b = np.exp(log_a), np.exp(log_b)
        angle = np.arctan(first * np.sqrt(b / a)) - t * np.sqrt(a * b) / mass
        return np.asarray(np.sqrt(a / b) * np.tan(np.clip(angle, 0.0, None)))

    slope = mass * (speed[0] - speed[-1]) / (seconds[-1] - seconds[0])
    guess = (float(speed[0]), float(np.log(0.7 * slope)), float(np.log(0.3 * slope / max(speed.mean(), 1.0) ** 2)))
    found, covariance = curve_fit(rolling, seconds, speed, p0=guess, maxfev=4000)
    a, b = float(np.exp(found[1])), float(np.exp(found[2]))
    scale = np.diag([a, b])
    return Rolled(a, b, scale @ covariance[1:, 1:] @ scale)
