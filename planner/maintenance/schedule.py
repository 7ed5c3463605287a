"""When what is due: kilometres, wet ones counted more, and days since it was seen to; what the board's own failures teach."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import exp, log

from boardmath.buildfile.maintenance import Maintenance, ServiceInterval, TaskDone, TaskId
from planner.maintenance.tasks import Task

SOON = 0.8
"""Share of its interval at which something is soon due."""
_PACE_DAYS = 60
"""Days back over which the pace of riding is taken."""
_USUAL_WEIGHT = 2.0
"""As how many of one's own findings the usual interval counts."""
_BEFORE_IT_FAILS = 0.8
"""Looked at when so much of the life is over after which it gave way."""


@dataclass(frozen=True)
class RodeOn:
    """A ride, as far as maintenance asks: its day, how far, and whether it was wet."""

    on: date
    km: float
    wet: bool = False


@dataclass(frozen=True)
class Since:
    """What was ridden since a task was last seen to, and since its part was last changed."""

    km: float
    counted: float
    """km, wet ones counted as many times as they wear."""
    days: int
    wet: int


@dataclass(frozen=True)
class DueIn:
    """How far through its interval a task is; ``on`` is the day it will be due at the pace of late."""

    share: float
    km: float | None
    on: date | None


def ridden_by(rides: Sequence[RodeOn], day: date) -> float:
    """km ridden up to the end of a day."""
    return sum(r.km for r in rides if r.on <= day)


def since(rides: Sequence[RodeOn], last: date, today: date, wet: float) -> Since:
    own = [r for r in rides if last < r.on <= today]
    return Since(
        km=sum(r.km for r in own),
        counted=sum(r.km * (wet if r.wet else 1.0) for r in own),
        days=max((today - last).days, 0),
        wet=sum(r.wet for r in own),
    )


def pace(rides: Sequence[RodeOn], today: date) -> float:
    """km a day of late; 0 where nothing was ridden."""
    begun = min((r.on for r in rides), default=today)
    days = min(max((today - begun).days + 1, 1), _PACE_DAYS)
    return sum(r.km for r in rides if (today - r.on).days < days) / days


def last_done(maintenance: Maintenance | None, task: TaskId) -> TaskDone | None:
    """The latest time that a task was seen to."""
    own = [d for d in (maintenance.done if maintenance is not None else []) if d.task == task]
    return max(own, key=lambda d: d.on, default=None)


def said_interval(maintenance: Maintenance | None, task: TaskId) -> ServiceInterval | None:
    return next((i for i in (maintenance.intervals if maintenance is not None else []) if i.task == task), None)


def lives(maintenance: Maintenance | None, task: Task, rides: Sequence[RodeOn], built: date) -> list[tuple[str, float]]:
    """How many counted km each part of a task had lasted when it was found good, worn or failed."""
    found: list[tuple[str, float]] = []
    put_on = built
    own = sorted(
        (d for d in (maintenance.done if maintenance is not None else []) if d.task == task.id), key=lambda d: d.on
    )
    for done in own:
        day = date.fromisoformat(done.on)
        if done.found is not None:
            found.append((done.found, since(rides, put_on, day, task.wet).counted))
        if done.changed or done.found in ("worn", "failed"):
            put_on = day
    return found


def learned_km(task: Task, found: Sequence[tuple[str, float]]) -> float | None:
    """How often to look, in km, as the usual interval and one's own findings say together.

    Each finding is one voice, the usual interval counts as two; voices are put together as logarithms. What failed after L km
    says: look at 0.8 L. What was worn after L says L. What wears and was still good after more than the usual says as much.
    """
    if task.km is None:
        return None
    total, weight = _USUAL_WEIGHT * log(task.km), _USUAL_WEIGHT
    for how, km in found:
        if km <= 0.0 or (how == "good" and task.lasts_km is None):
            continue
        if how == "failed":
            voice = _BEFORE_IT_FAILS * km
        elif how == "worn":
            voice = km
        else:
            voice = max(km, task.km)
        # What lasts ten times as long as usual is not looked at ten times as rarely.
        total += log(min(max(voice, task.km / 5.0), task.km * 2.0))
        weight += 1.0
    return exp(total / weight)


def due(interval_km: float | None, interval_days: int | None, past: Since, a_day: float, today: date) -> DueIn:
    """How far a task is through its interval, and when it will be due; ``a_day`` is the pace in km."""
    shares, days = [0.0], []
    left_km: float | None = None
    if interval_km is not None:
        shares.append(past.counted / interval_km)
        left_km = interval_km - past.counted
        if a_day > 0.0:
            days.append(left_km / a_day)
    if interval_days is not None:
        shares.append(past.days / interval_days)
        days.append(interval_days - past.days)
    on = today + timedelta(days=max(int(min(days)), 0)) if days and min(days) < 3650 else None
    return DueIn(share=max(shares), km=left_km, on=on)
