"""What is kept up on a board that is ridden: what was done when, what broke, spares in the drawer, lists of the seasons."""

from typing import Annotated, Literal

from pydantic import Field

from boardmath.buildfile.figures import CURRENCY, Day, Record, choice, day, figure, whole, words

TaskId = Literal[
    "belts",
    "screws",
    "bearings",
    "wheels_turned",
    "wheels_worn",
    "pulleys",
    "chain",
    "gears",
    "bushings",
    "tyres",
    "brake_test",
    "group_volts",
    "capacity",
    "top_up",
    "remote_cell",
    "plugs",
]
FoundAs = Literal["good", "worn", "failed"]
SeasonList = Literal["lay_up", "spring"]
MOST_DONE, MOST_FAILURES, MOST_SPARES = 600, 200, 60
EntryId = Annotated[str, Field(min_length=1, max_length=40)]
Volts = Annotated[float, Field(ge=0, le=6)]


class TaskDone(Record):
    """Something that was looked at or changed; ``km`` is what the board had ridden by then, where the log does not tell."""

    id: EntryId
    task: TaskId
    on: Day
    km: float | None = figure("distance", 0, 200_000, "Ridden by then")
    found: FoundAs | None = choice("It was", "good: still fit; worn: replaced in time; failed: it broke")
    changed: bool | None = Field(default=None, title="Replaced")
    by: str | None = words(60, "By")
    spare: EntryId | None = Field(default=None, title="From the spares")
    count: int | None = whole(1, 40, "How many")
    diameter_mm: float | None = figure("length", 40, 400, "Wheel's diameter")
    volts: list[Volts] | None = Field(default=None, max_length=24, title="Voltage of each group")
    capacity_pct: float | None = figure("share", 20, 120, "Capacity left")
    note: str | None = words(600, "Note")


class Spare(Record):
    """What lies in the drawer for this board."""

    id: EntryId
    name: str = Field(min_length=1, max_length=80, title="Name")
    task: TaskId | None = choice("For")
    count: int | None = whole(0, 99, "In stock")
    wanted: int | None = whole(0, 99, "Wanted in stock")
    price: float | None = figure("money", 0, 10_000, "Price of one")
    currency: str | None = Field(default=None, pattern=CURRENCY, title="Currency")


class ServiceInterval(Record):
    """How often something is looked at, where the builder says it; else as is usual, and as the board's own failures teach."""

    task: TaskId
    km: float | None = figure("distance", 5, 50_000, "Every")
    days: int | None = whole(1, 3000, "Interval in days")
    never: bool | None = Field(default=None, title="Not on this board")


class SeasonKept(Record):
    """A list of the season, as far as it is ticked."""

    season: SeasonList
    on: Day
    ticked: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=40)] = []
    closed: Day | None = day("Done")


class Maintenance(Record):
    done: list[TaskDone] = Field(default=[], max_length=MOST_DONE)
    spares: list[Spare] = Field(default=[], max_length=MOST_SPARES)
    intervals: list[ServiceInterval] = Field(default=[], max_length=40)
    seasons: list[SeasonKept] = Field(default=[], max_length=40)
    wheels_new_mm: float | None = figure("length", 40, 400, "Wheels when new")
    km_before: float | None = figure("distance", 0, 100_000, "Ridden before the log", "counted on top of the rides")


class ReviewCosts(Record):
    """What the parts list does not know of what a board took: for what it came to."""

    hours: float | None = figure("hours", 0, 10_000, "Hours of work", "instead of what the work log says")
    tools: float | None = figure("money", 0, 100_000, "Tools", "bought for this board and kept")
    consumables: float | None = figure("money", 0, 100_000, "Consumables", "solder, tape, glue, sheet, cutters")
    kwh_price: float | None = figure("money", 0, 10, "A kilowatt-hour costs")
    fare: float | None = figure("money", 0, 1000, "A fare costs", "of the journey that it replaces")
    fare_km: float | None = figure("distance", 0.1, 500, "Length of that journey")
    would_change: str | None = words(4000, "What I would change")
    to_say: str | None = words(4000, "To whoever builds it next")
