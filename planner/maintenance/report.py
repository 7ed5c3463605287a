"""What is due on a board, what soon; spares, wheels that wear, a pack that ages, the lists of the seasons."""

from collections.abc import Sequence
from datetime import date
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile import BuildFile
from boardmath.buildfile.build import Measured
from boardmath.buildfile.maintenance import Maintenance, SeasonKept, SeasonList, Spare, TaskDone, TaskId
from boardmath.messages import Message, day_in_words, message
from boardmath.model.cell_groups import LINE_UP_V
from boardmath.model.evaluation import Evaluation
from boardmath.model.resolution import missing
from planner.maintenance.schedule import (
    SOON,
    RodeOn,
    due,
    last_done,
    learned_km,
    lives,
    pace,
    ridden_by,
    said_interval,
    since,
)
from planner.maintenance.tasks import BY_ID, SEASONS, TASKS, TROUBLES, Task
from planner.parts_list.accessories import spares_lacking

State = Literal["due", "soon", "in_time"]
WORN_MM = 5.0
"""mm of diameter after which wheels are changed (common practice, no source)."""
APART_V = 0.05
"""V between groups at rest from which something is said."""


class TaskStatus(BaseModel):
    """A task: how often, how far it is through that, when it will be due; ``by`` says where the interval comes from."""

    id: TaskId
    title: str
    how: str
    why: str
    state: State
    share: float
    interval_km: float | None = None
    interval_days: int | None = None
    by: Literal["usual", "said", "learned"] = "usual"
    since_km: float
    since_days: int
    wet_rides: int
    last: str | None = None
    """The day it was last seen to; None never: then it counts from the first ride."""
    due_km: float | None = None
    """km of riding until then; below 0 where it is past."""
    due_on: str | None = None
    life: Message | None = None
    spare: Spare | None = None


class WheelWear(BaseModel):
    """Wheels that wear: how small they are now, what that does, when they will be worn out."""

    new_mm: float
    now_mm: float
    worn_mm: float
    message: Message
    change: bool


class PackProgress(BaseModel):
    """The latest volts of the groups, and what is said of them and of the capacity."""

    on: str | None = None
    volts: list[float] = []
    apart_v: float | None = None
    says: list[Message]


class TickItem(BaseModel):
    id: str
    title: str
    ticked: bool
    changes: dict[str, list[SeasonKept]]
    """What ticking it, or taking the tick away, makes of the build file."""


class SeasonStatus(BaseModel):
    season: SeasonList
    title: str
    begun: str | None
    items: list[TickItem]


class TroubleGuide(BaseModel):
    task: TaskId
    sign: str
    causes: list[str]
    fix: str
    own: int
    """How often it is in this board's own book."""


class MaintenanceReport(BaseModel):
    km: float
    rides: int
    km_a_week: float
    tasks: list[TaskStatus]
    aside: list[TaskStatus]
    """Those that the builder does not want on this board."""
    wheels: WheelWear | None = None
    pack: PackProgress | None = None
    spares: list[Spare]
    to_buy: list[Spare]
    book: list[TaskDone]
    seasons: list[SeasonStatus]
    troubles: list[TroubleGuide]


def maintenance_report(
    build: BuildFile, rides: Sequence[RodeOn], today: date, trends: Sequence[Message] = ()
) -> MaintenanceReport:
    """Args:
    rides: of the log, in any order; trends: what rides told of a pack that fades or something that drags.
    """
    kept = build.maintenance
    rides = [*sorted(rides, key=lambda r: r.on)]
    before = (kept.km_before if kept is not None else None) or 0.0
    stands = [_stands(build, t, rides, today) for t in TASKS if t.applies(build)]
    never = {i.task for i in (kept.intervals if kept is not None else []) if i.never}
    spares = kept.spares if kept is not None else []
    return MaintenanceReport(
        km=before + sum(r.km for r in rides),
        rides=len(rides),
        km_a_week=7.0 * pace(rides, today),
        tasks=sorted((s for s in stands if s.id not in never), key=lambda s: -s.share),
        aside=[s for s in stands if s.id in never],
        wheels=_wheels(build, rides),
        pack=_pack(build, trends),
        spares=spares,
        to_buy=spares_lacking(build),
        book=sorted(kept.done if kept is not None else [], key=lambda d: d.on, reverse=True),
        seasons=[_season(build, which, today) for which in SEASONS],
        troubles=[_trouble(build, t.task, t.sign, t.causes, t.fix) for t in TROUBLES if BY_ID[t.task].applies(build)],
    )


def due_now(build: BuildFile, rides: Sequence[RodeOn], today: date) -> list[TaskStatus]:
    """What is due on a board that is ridden, the most overdue first; a board that nobody has ridden has nothing due."""
    if not rides:
        return []
    report = maintenance_report(build, rides, today)
    return [t for t in report.tasks if t.state == "due"]


def _stands(build: BuildFile, task: Task, rides: Sequence[RodeOn], today: date) -> TaskStatus:
    kept = build.maintenance
    last, said = last_done(kept, task.id), said_interval(kept, task.id)
    first = min((r.on for r in rides), default=today)
    begun = date.fromordinal(first.toordinal() - 1)
    from_day = date.fromisoformat(last.on) if last is not None else begun
    past = since(rides, from_day, today, task.wet)
    found = lives(kept, task, rides, begun)
    calibration = learned_km(task, found)
    km, days, by = task.km, task.days, "usual"
    if found and calibration is not None and task.km is not None and abs(calibration - task.km) > 1.0:
        km, by = calibration, "learned"
    if said is not None and (said.km is not None or said.days is not None):
        km, days, by = said.km, said.days, "said"
    left = due(km, days, past, pace(rides, today), today)
    state: State = "due" if left.share >= 1.0 else "soon" if left.share >= SOON else "in_time"
    spare = next((s for s in (kept.spares if kept is not None else []) if s.task == task.id), None)
    return TaskStatus(
        id=task.id,
        title=task.title,
        how=task.how,
        why=task.why,
        state=state,
        share=left.share,
        interval_km=km,
        interval_days=days,
        by=by,
        since_km=past.km,
        since_days=past.days,
        wet_rides=past.wet,
        last=last.on if last is not None else None,
        due_km=left.km,
        due_on=left.on.isoformat() if left.on is not None else None,
        life=_life(build, task, rides, begun, today),
        spare=spare,
    )


def _life(build: BuildFile, task: Task, rides: Sequence[RodeOn], begun: date, today: date) -> Message | None:
    """How far what is on now is through its usual life."""
    if task.lasts_km is None:
        return None
    own = [d for d in (build.maintenance.done if build.maintenance is not None else []) if d.task == task.id]
    changed = [d.on for d in own if d.changed or d.found in ("worn", "failed")]
    put_on = date.fromisoformat(max(changed)) if changed else begun
    worn = since(rides, put_on, today, task.wet).counted
    gone = [km for how, km in lives(build.maintenance, task, rides, begun) if how in ("worn", "failed") and km > 0]
    lasts = sum(gone) / len(gone) if gone else task.lasts_km
    whose = "as yours did" if gone else "as is usual"
    return message(
        "Used for {worn}; they last about {lasts}, {whose}.",
        worn=(worn, "distance"),
        lasts=(lasts, "distance"),
        whose=whose,
    )


def _wheels(build: BuildFile, rides: Sequence[RodeOn]) -> WheelWear | None:
    kept, wheels = build.maintenance, build.parts.wheels
    if kept is None or wheels is None or wheels.diameter_mm is None or kept.wheels_new_mm is None:
        return None
    new, now = kept.wheels_new_mm, wheels.diameter_mm
    worn = new - now
    speed = ""
    values: dict[str, tuple[float, str]] = {"worn": (max(worn, 0.0), "length"), "now": (now, "length")}
    if not missing(build) and worn > 0.0:
        fresh = build.parts.model_copy(update={"wheels": wheels.model_copy(update={"diameter_mm": new})})
        then, here = (
            float(Evaluation(b, 0).headline_values["speed"][0])
            for b in (build.model_copy(update={"parts": fresh}), build)
        )
        speed = " Top speed is {here}, {less} less than on new ones, with that much more pull."
        values |= {"here": (here, "speed"), "less": (then - here, "speed")}
    measured = sorted((d for d in kept.done if d.diameter_mm is not None), key=lambda d: d.on)
    further = ""
    changed = [d.on for d in kept.done if d.task == "wheels_worn" and d.changed]
    begun = date.fromisoformat(max(changed)) if changed else min((r.on for r in rides), default=None)
    if measured and begun is not None and 0.3 < worn < WORN_MM:
        km = ridden_by(rides, date.fromisoformat(measured[-1].on)) - sum(r.km for r in rides if r.on < begun)
        if km > 20.0:
            further = " At that rate they are worn in {left}."
            values["left"] = ((WORN_MM - worn) * km / worn, "distance")
    if worn >= WORN_MM:
        further = " They are worn out: replace them."
    return WheelWear(
        new_mm=new,
        now_mm=now,
        worn_mm=worn,
        message=message("Worn by {worn}, to {now}." + speed + further, **values),
        change=worn >= WORN_MM,
    )


def _pack(build: BuildFile, trends: Sequence[Message]) -> PackProgress | None:
    if build.parts.pack is None:
        return None
    done = sorted(build.maintenance.done if build.maintenance is not None else [], key=lambda d: d.on)
    read = [d for d in done if d.volts]
    says: list[Message] = []
    apart: float | None = None
    if read:
        volts = read[-1].volts or []
        apart = max(volts) - min(volts)
        if apart > APART_V:
            low = volts.index(min(volts)) + 1
            says.append(
                message(
                    "The groups are {apart} apart at rest, with group {low} the lowest. Balance them, and measure "
                    "again.",
                    apart=(apart, "cell_voltage"),
                    low=low,
                )
            )
        else:
            says.append(message("The groups are within {apart} of each other.", apart=(apart, "cell_voltage")))
        if len(read) > 1 and len(read[0].volts or []) == len(volts):
            then = read[0].volts or []
            mean = sum(then) / len(then), sum(volts) / len(volts)
            drift = [(v - mean[1]) - (t - mean[0]) for v, t in zip(volts, then, strict=True)]
            worst = min(range(len(drift)), key=lambda i: drift[i])
            if drift[worst] < -LINE_UP_V / 4.0:
                says.append(
                    message(
                        "Group {group} has fallen behind the others by {by} since {day}.",
                        group=worst + 1,
                        day=day_in_words(read[0].on),
                        by=(-drift[worst], "cell_voltage"),
                    )
                )
    held = [d for d in done if d.capacity_pct is not None]
    if held:
        says.append(
            message(
                "On {on} it had {pct} of its capacity when new.",
                pct=(held[-1].capacity_pct or 0.0, "share"),
                on=day_in_words(held[-1].on),
            )
        )
    says += list(trends)
    return PackProgress(
        on=read[-1].on if read else None, volts=list(read[-1].volts or []) if read else [], apart_v=apart, says=says
    )


def _season(build: BuildFile, which: SeasonList, today: date) -> SeasonStatus:
    title, steps = SEASONS[which]
    kept = build.maintenance.seasons if build.maintenance is not None else []
    now = next((s for s in reversed(kept) if s.season == which and s.closed is None), None)
    items = [s for s in steps if s.applies(build)]
    ticked = {*(now.ticked if now is not None else ())}

    def with_other_tick(item: str) -> list[SeasonKept]:
        """All lists with one tick more or less; the last tick closes this one."""
        after = [i.id for i in items if (i.id in ticked) != (i.id == item)]
        on, closed = now.on if now is not None else today.isoformat(), len(after) == len(items)
        own = SeasonKept(season=which, on=on, ticked=after, closed=today.isoformat() if closed else None)
        return [*(s for s in kept if s is not now), own]

    return SeasonStatus(
        season=which,
        title=title,
        begun=now.on if now is not None else None,
        items=[
            TickItem(
                id=s.id,
                title=s.title,
                ticked=s.id in ticked,
                changes={"maintenance.seasons": with_other_tick(s.id)},
            )
            for s in items
        ],
    )


def _trouble(build: BuildFile, task: TaskId, sign: str, causes: Sequence[str], fix: str) -> TroubleGuide:
    own = sum(
        d.task == task and d.found == "failed"
        for d in (build.maintenance.done if build.maintenance is not None else [])
    )
    return TroubleGuide(task=task, sign=sign, causes=list(causes), fix=fix, own=own)


def taken_from_the_drawer(build: BuildFile, done: TaskDone) -> BuildFile:
    """The build with something seen to: in the book, its spare out of the drawer, a measured wheel on the board at once."""
    kept = build.maintenance or Maintenance()
    spares = [
        s.model_copy(update={"count": max((s.count or 0) - (done.count or 1), 0)}) if s.id == done.spare else s
        for s in kept.spares
    ]
    changed: dict[str, object] = {"done": [*kept.done, done], "spares": spares}
    parts, measured = build.parts, list(build.measured or [])
    wheels = parts.wheels
    if done.task == "wheels_worn" and wheels is not None and (done.diameter_mm is not None or done.changed):
        new = kept.wheels_new_mm or wheels.diameter_mm
        changed["wheels_new_mm"] = new
        now = new if done.changed and done.diameter_mm is None else done.diameter_mm
        parts = parts.model_copy(update={"wheels": wheels.model_copy(update={"diameter_mm": now})})
        path = "parts.wheels.diameter_mm"
        measured = [m for m in measured if m.path != path]
        measured.append(Measured(path=path, by="caliper", day=done.on))
    return build.model_copy(
        update={"maintenance": kept.model_copy(update=changed), "parts": parts, "measured": measured or None}
    )
