"""How the work stands: every step with its state and reason, what can be done when, what a late parcel blocks, which
tools lack.
"""

from collections.abc import Callable, Collection, Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.messages import Message
from boardmath.parts.part_types import KINDS
from planner.parts_list.lines import ListLine
from planner.shared.facts import changed, facts_of
from planner.shared.log import Fact, Log
from planner.shared.order import all_before
from planner.shared.pace import Pace, expected, pace, together
from planner.shared.picture import Picture
from planner.shared.step import PHASES, Judged, MethodChoice, Minutes, Phase, Step
from planner.shared.tools import TOOLS, ToolKey

State = Literal["done", "left_out", "again", "ready", "waits", "parcel"]
"""again: done, and to be looked at once more, as what it stands on has changed; parcel: something of it is not in the house."""
HERE = ("owned", "arrived", "replaced")
TODAY_H = 3.0
WEEKEND_H = 12.0
"""Hours of an evening and of a weekend at the bench (common practice, no source)."""


class Parcel(BaseModel):
    """A part that a step waits for."""

    path: str
    name: str
    state: str
    due_on: str | None = None
    late_days: int | None = None


class Blocked(Parcel):
    """A part that is not here, with the steps that wait for it in however many turns."""

    steps: list[str]


class StepStatus(Step):
    """A step as it stands. ``facts`` is what a tick of it is to say; ``again`` says why it is to be looked at once more."""

    state: State
    facts: dict[str, Fact]
    values: dict[str, float] = {}
    judged: Judged
    again: list[Message] = []
    waits_for: list[str] = []
    parcels: list[Parcel] = []
    at: datetime | None = None
    by: str = ""
    expected: float = 0.0
    """Minutes that it takes these hands, as their ticks tell them."""
    took: float | None = None
    otherwise: str | None = None
    word: str | None = None
    """Why it was left out, or opened again."""
    on_its_page: bool = False


class ToolNeeded(BaseModel):
    """A tool, why it is needed, and where it comes from."""

    key: ToolKey
    name: str
    used_up: bool
    steps: list[str]
    forgotten: str | None = None
    have: Literal["have", "borrow", "buy"] | None = None
    price: float | None = None
    open: bool
    """Whether a step that needs it is still to be done."""


class Agenda(BaseModel):
    """What can be done now with what is here, what on the weekend with what will be here by then, and what is held up."""

    today: list[str]
    today_minutes: Minutes
    weekend: list[str]
    weekend_on: date
    blocked: list[Blocked]


class PhaseProgress(BaseModel):
    phase: Phase
    title: str
    done: int
    steps: int


class Report(BaseModel):
    """The whole of it. ``next`` is the step to do now; ``left`` the time that the rest takes, 80 %."""

    steps: list[StepStatus]
    phases: list[PhaseProgress]
    next: str | None = None
    done: int
    again: int
    left: Minutes
    pace: Pace
    agenda: Agenda
    tools: list[ToolNeeded]
    tools_cost: float = 0.0
    odd: int = 0
    """Steps at which something was measured that is not as it should be."""
    methods: list[MethodChoice] = []
    gone: list[str] = []
    """Steps of the log that this board has no more, as when another device ticked what a change had taken away."""


Judge = Callable[[Build, Step, Mapping[str, float]], Judged]
Drawn = Callable[[Build, Step, Mapping[str, Mapping[str, float]]], Picture | None]
"""Takes what was measured at every step: what is drawn at one may have been measured at another."""


def _nothing(build: Build, step: Step, values: Mapping[str, float]) -> Judged:
    return Judged()


def _as_it_is(build: Build, step: Step, values: Mapping[str, Mapping[str, float]]) -> Picture | None:
    return step.picture


def undrawn(build: Build, step: Step, values: Mapping[str, Mapping[str, float]]) -> Picture | None:
    """For whoever only asks how it stands."""
    return None


def report(
    build: Build,
    steps: Sequence[Step],
    log: Log,
    lines: Sequence[ListLine],
    today: date,
    *,
    judge: Judge = _nothing,
    draw: Drawn = _as_it_is,
    elsewhere: Collection[str] = (),
    others: Collection[str] = (),
) -> Report:
    """Steps in their order against the log and the parts list.

    Args:
        elsewhere: steps that were done on a page of their own.
        others: steps of the log that belong to another page.
    """
    here = {line.path for line in lines if line.state in HERE}
    by_path = {line.path: line for line in lines}
    finished: set[str] = set()
    stands: list[StepStatus] = []
    for step in steps:
        one = _stands(build, step, log, by_path, here, finished, step.id in elsewhere, judge, draw)
        if one.state in ("done", "left_out", "again") or step.optional:
            finished.add(step.id)
        stands.append(one)
    open_ = [s for s in stands if s.state not in ("done", "left_out", "again")]
    told = [(s.minutes, s.took) for s in stands if s.took]
    known = {s.id for s in steps} | set(others)
    hands = pace(told)
    stands = [s.model_copy(update={"expected": round(expected(s.minutes, hands), 1)}) for s in stands]
    return Report(
        steps=stands,
        phases=[
            PhaseProgress(
                phase=phase,
                title=title,
                done=sum(s.state in ("done", "left_out") for s in stands if s.phase == phase),
                steps=sum(s.phase == phase for s in stands),
            )
            for phase, title in PHASES.items()
            if any(s.phase == phase for s in stands)
        ],
        next=_next(stands),
        done=sum(s.state in ("done", "left_out") for s in stands),
        again=sum(s.state == "again" for s in stands),
        left=together((s.minutes for s in open_), told),
        pace=hands,
        agenda=_agenda(stands, by_path, today, told),
        tools=_tools(stands, log),
        tools_cost=sum(t.price or 0.0 for t in log.tools.values() if t.have == "buy"),
        odd=sum(s.judged.verdict in ("unsure", "wrong") for s in stands),
        gone=sorted({*log.steps, *log.values} - known),
    )


def _stands(
    build: Build,
    step: Step,
    log: Log,
    lines: Mapping[str, ListLine],
    here: Collection[str],
    finished: Collection[str],
    on_its_page: bool,
    judge: Judge,
    draw: Drawn,
) -> StepStatus:
    worked, values = log.steps.get(step.id), log.values.get(step.id, {})
    values = {c.id: values[c.id] for c in step.checks if c.id in values}
    facts = facts_of(build, step.touches)
    parcels = [_parcel(lines[path]) for path in step.needs if path in lines and path not in here]
    waits = [a for a in step.after if a not in finished]
    state: State = "parcel" if parcels else "waits" if waits else "ready"
    again: list[Message] = []
    done = worked.done if worked is not None else None
    if worked is not None and worked.left_out is not None:
        state = "left_out"
    elif done is not None and worked is not None:
        again = changed(worked.facts or {}, facts)
        state = "again" if again else "done"
    elif on_its_page and (worked is None or worked.opened is None):
        state = "done"
    seen = [c.model_copy(update={"entered": values.get(c.id)}) for c in step.checks]
    opened = worked.opened if worked is not None else None
    said = worked.left_out if worked is not None else None
    told = done or said or opened
    return StepStatus.model_validate(
        {
            **{key: getattr(step, key) for key in Step.model_fields},
            "checks": seen,
            "picture": draw(build, step, log.values),
            "state": state,
            "facts": facts,
            "values": values,
            "judged": judge(build, step, values),
            "again": again,
            "waits_for": waits if state in ("waits", "parcel") else [],
            "parcels": parcels if state in ("parcel", "waits") else [],
            "at": told.at if told else None,
            "by": told.by if told else "",
            "took": done.minutes if done else None,
            "otherwise": done.otherwise if done else None,
            "word": said.why if said else opened.why if opened else None,
            "on_its_page": on_its_page and done is None,
        }
    )


def _parcel(line: ListLine) -> Parcel:
    return Parcel(
        path=line.path,
        name=line.name or KINDS[line.kind].name,
        state=line.state,
        due_on=line.due_on,
        late_days=line.late_days,
    )


def _next(stands: Sequence[StepStatus]) -> str | None:
    """What is to be looked at again comes before what is new; an optional step never holds the finger."""
    again = next((s.id for s in stands if s.state == "again"), None)
    ready = next((s.id for s in stands if s.state == "ready" and not s.optional), None)
    return again or ready or next((s.id for s in stands if s.state == "ready"), None)


def _agenda(
    stands: Sequence[StepStatus], lines: Mapping[str, ListLine], today: date, told: Sequence[tuple[Minutes, float]]
) -> Agenda:
    saturday = today + timedelta(days=(5 - today.weekday()) % 7)
    now = _fill(stands, told, TODAY_H, lambda path: lines[path].state in HERE)
    later = _fill(stands, told, TODAY_H + WEEKEND_H, lambda path: _by(lines[path], saturday), set(now))
    by = {s.id: s for s in stands}
    return Agenda(
        today=now,
        today_minutes=together((by[id].minutes for id in now), told),
        weekend=[id for id in later if id not in now],
        weekend_on=saturday,
        blocked=_blocked(stands, lines),
    )


def _by(line: ListLine, day: date) -> bool:
    due = line.due_on if line.state == "ordered" else None
    return line.state in HERE or (due is not None and date.fromisoformat(due) <= day)


def _fill(
    stands: Sequence[StepStatus],
    told: Sequence[tuple[Minutes, float]],
    hours: float,
    is_here: Callable[[str], bool],
    first: Collection[str] = (),
) -> list[str]:
    """Open steps in their order, as many as go into so many hours, with the parts that are here by then."""
    done = {s.id for s in stands if s.state in ("done", "left_out", "again") or s.optional}
    hands = pace(told)
    found: list[str] = []
    used = 0.0
    for step in stands:
        if step.state in ("done", "left_out", "again"):
            continue
        if any(not is_here(p.path) for p in step.parcels) or any(a not in done for a in step.after):
            continue
        cost = expected(step.minutes, hands)
        if used + cost > hours * 60.0 and found:
            continue
        used += cost
        found.append(step.id)
        # What dries, prints or charges is not there the same evening.
        if step.waits_h < 1.0 or step.id in first:
            done.add(step.id)
    return found


def _blocked(stands: Sequence[StepStatus], lines: Mapping[str, ListLine]) -> list[Blocked]:
    """Parts that are not here, those that hold up most first."""
    open_ = [s for s in stands if s.state not in ("done", "left_out")]
    earlier = all_before(stands)
    found = []
    for path, line in lines.items():
        if line.state in HERE:
            continue
        own = {s.id for s in open_ if path in s.needs}
        held = [s.id for s in open_ if s.id in own or earlier[s.id] & own]
        if held:
            found.append(Blocked(**_parcel(line).model_dump(), steps=held))
    return sorted(found, key=lambda b: -len(b.steps))


def _tools(stands: Sequence[StepStatus], log: Log) -> list[ToolNeeded]:
    found = []
    for key, tool in TOOLS.items():
        users = [s for s in stands if key in s.tools and s.state != "left_out"]
        if not users:
            continue
        said = log.tools.get(key)
        found.append(
            ToolNeeded(
                key=key,
                name=tool.name,
                used_up=tool.used_up,
                steps=[s.id for s in users],
                forgotten=tool.forgotten,
                have=said.have if said else None,
                price=said.price if said else None,
                open=any(s.state not in ("done", "again") for s in users),
            )
        )
    return found
