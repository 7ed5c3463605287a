"""The log of the work: what was done, measured, photographed, moved and wished for. Entries are added and never changed,
so that two devices, one of them without network, cannot overwrite each other; an entry that was wrong is taken back by
another one.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, AwareDatetime, Field, TypeAdapter

from boardmath.buildfile.figures import Day, Record, figure, within_years
from planner.shared.tools import ToolKey

StepId = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9-]+$")]
Id = Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
Text = Annotated[str, Field(min_length=1, max_length=2000)]
Fact = Annotated[str, Field(max_length=500)] | float | int | bool | None
Facts = Annotated[dict[Annotated[str, Field(max_length=120)], Fact], Field(max_length=80)]
MOST_ENTRIES = 5000


class _Entry(Record):
    """What every entry says: an id that the device gives, so that it arrives once; when by the device's clock; and who."""

    id: Id
    at: Annotated[AwareDatetime, AfterValidator(within_years), Field(strict=False)]
    by: str = Field(default="", max_length=60)


class Done(_Entry):
    """A step is done. ``facts`` is what the board was then, as far as the step stands on it."""

    kind: Literal["done"]
    step: StepId
    minutes: float | None = figure("minutes", 0.1, 6000, "Minutes it took")
    otherwise: Text | None = None
    facts: Facts = Field(default_factory=dict)


class StillRight(_Entry):
    """A step was looked at again after a change, and stands."""

    kind: Literal["still_right"]
    step: StepId
    facts: Facts = Field(default_factory=dict)


class LeftOut(_Entry):
    """A step is not done on this board, with the reason."""

    kind: Literal["left_out"]
    step: StepId
    why: Text


class Opened(_Entry):
    """A step is not done after all; with a word where something went wrong."""

    kind: Literal["opened"]
    step: StepId
    why: Text | None = None


class Noted(_Entry):
    """A remark; ``trouble`` where something went wrong, which the next board is warned of."""

    kind: Literal["noted"]
    step: StepId | None = None
    text: Text
    trouble: bool = False


class Measured(_Entry):
    """Figures that were measured at a step, by their check; None takes one away."""

    kind: Literal["measured"]
    step: StepId
    values: Annotated[dict[StepId, Annotated[float, Field(ge=-1e6, le=1e6)] | None], Field(min_length=1, max_length=40)]


class Photographed(_Entry):
    """A picture; it arrives by itself, under this entry's id."""

    kind: Literal["photographed"]
    step: StepId | None = None
    caption: str = Field(default="", max_length=300)


class Moved(_Entry):
    """A step was moved by hand: it comes right before another one, or at the end."""

    kind: Literal["moved"]
    step: StepId
    before: StepId | None = None


class ToolSaid(_Entry):
    """Where a tool comes from, and what it cost."""

    kind: Literal["tool"]
    tool: ToolKey
    have: Literal["have", "borrow", "buy"] | None = None
    price: float | None = Field(default=None, ge=0, le=100_000)


class Wished(_Entry):
    """What the builder would change: the figures as they would be, why, and what it would cost."""

    kind: Literal["wished"]
    step: StepId | None = None
    why: Text
    changes: Annotated[
        dict[Annotated[str, Field(max_length=120)], float | int | str | bool], Field(default_factory=dict, max_length=8)
    ]
    cost: float | None = Field(default=None, ge=0, le=100_000)


class Rode(_Entry):
    """A ride in its simplest form, until rides have a room of their own."""

    kind: Literal["rode"]
    day: Day
    km: float | None = figure("distance", 0, 1000, "Distance")
    start_v: float | None = figure("voltage", 1, 120, "Volts before")
    end_v: float | None = figure("voltage", 1, 120, "Volts after")
    note: str = Field(default="", max_length=2000)


class TakenBack(_Entry):
    """An entry that was wrong."""

    kind: Literal["taken_back"]
    entry: Id


Entry = Annotated[
    Done
    | StillRight
    | LeftOut
    | Opened
    | Noted
    | Measured
    | Photographed
    | Moved
    | ToolSaid
    | Wished
    | Rode
    | TakenBack,
    Field(discriminator="kind"),
]
ENTRY: TypeAdapter[Entry] = TypeAdapter(Entry)


@dataclass
class Worked:
    """How a step stands by the log alone."""

    done: Done | None = None
    facts: Mapping[str, Any] | None = None
    left_out: LeftOut | None = None
    opened: Opened | None = None


@dataclass
class Log:
    """The log read to its end: what stands."""

    entries: list[Entry] = field(default_factory=list)
    steps: dict[str, Worked] = field(default_factory=dict)
    values: dict[str, dict[str, float]] = field(default_factory=dict)
    tools: dict[str, ToolSaid] = field(default_factory=dict)
    moves: list[Moved] = field(default_factory=list)
    wishes: list[Wished] = field(default_factory=list)
    rides: list[Rode] = field(default_factory=list)
    began: datetime | None = None


def read_log(entries: Iterable[Entry]) -> Log:
    """What stands at the end of the log; the order is that of the devices' clocks, then of the ids."""
    whole = sorted(entries, key=lambda e: (e.at, e.id))
    back = {e.entry for e in whole if e.kind == "taken_back"}
    log = Log(entries=[e for e in whole if e.id not in back and e.kind != "taken_back"])
    for entry in log.entries:
        _take(log, entry)
    log.began = next((e.at for e in log.entries if e.kind in ("done", "measured", "photographed", "noted")), None)
    return log


def _take(log: Log, entry: Entry) -> None:
    match entry:
        case Done():
            log.steps[entry.step] = Worked(done=entry, facts=entry.facts)
        case StillRight():
            worked = log.steps.get(entry.step)
            if worked is not None and worked.done is not None:
                worked.facts = entry.facts
        case LeftOut():
            log.steps[entry.step] = Worked(left_out=entry)
        case Opened():
            log.steps[entry.step] = Worked(opened=entry)
        case Measured():
            held = log.values.setdefault(entry.step, {})
            for check, value in entry.values.items():
                if value is None:
                    held.pop(check, None)
                else:
                    held[check] = value
        case ToolSaid():
            log.tools[entry.tool] = entry
        case Moved():
            log.moves.append(entry)
        case Wished():
            log.wishes.append(entry)
        case Rode():
            log.rides.append(entry)
        case _:
            pass
