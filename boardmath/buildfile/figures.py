"""The kinds of figure that a build file holds, each with its unit, its plausible span and its name.

A span is wide enough for any board that someone really builds and narrow enough that a wheel given in metres is caught.
"""

from collections.abc import Mapping
from datetime import date, datetime
from typing import Annotated, Any, Literal, Self, TypeVar, cast

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from boardmath.units import QUANTITIES

CURRENCY = r"^[A-Z]{3}$"
Key = Annotated[str, Field(max_length=60)]


FIRST_YEAR, LAST_YEAR = 1990, 2199
"""Years that a day may have: another one is a typing error, and near the ends of the calendar adding a day overflows."""
DateOrTime = TypeVar("DateOrTime", date, datetime)


def within_years(day: DateOrTime) -> DateOrTime:
    """The day or time as it is, checked.

    Raises:
        ValueError: it is before :data:`FIRST_YEAR` or after :data:`LAST_YEAR`.
    """
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise ValueError(f"the year {day.year} is not from {FIRST_YEAR} to {LAST_YEAR}")
    return day


def _of_the_calendar(text: str) -> str:
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise ValueError(f"{text} is not a date") from None
    within_years(day)
    return text


Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$"), AfterValidator(_of_the_calendar)]
"""A day as 2026-05-31."""
PlausibleDate = Annotated[date, AfterValidator(within_years)]
PlausibleTime = Annotated[datetime, AfterValidator(within_years)]


class Record(BaseModel):
    """Base of everything in a build file: unknown keys, wrong types and infinities are errors."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, validate_assignment=False)

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy with other values; Pydantic itself takes any name here, also one that no field has."""
        assert update is None or update.keys() <= type(self).model_fields.keys(), sorted(update)
        copied = super().model_copy(update=update, deep=deep)
        # What the other was asked is not an answer of this one.
        copied.__dict__.pop(KEPT, None)
        return copied


KEPT = "_kept"
"""Under what a build keeps what it was asked (:mod:`boardmath.buildfile.once`)."""


ABBREVIATIONS = ("nmc", "nca", "lfp", "petg", "abs")
"""Choices that are abbreviations: people read them in capitals."""


def choice_in_words(choice: str) -> str:
    """A choice of the build file as people read it."""
    return choice.upper() if choice in ABBREVIATIONS else choice.replace("_", " ")


Group = Literal["figure", "listing", "buying", "board", "mark"]
"""What a field of a part is for: a figure of the thing; what its ``listing`` says beside them; how it is bought; how many stand
on the ``board``; or a mark on other fields. Said at the field, and nowhere else."""


def figure(
    quantity: str, low: float, high: float, title: str, about: str | None = None, group: Group = "figure"
) -> Any:
    """An optional number of ``quantity`` within ``low``..``high`` (in the build file's unit)."""
    extra: dict[str, Any] = {"quantity": quantity, "unit": QUANTITIES[quantity].unit, "low": low, "high": high}
    extra |= _grouped(group)
    return Field(default=None, ge=low, le=high, title=title, description=about, json_schema_extra=extra)


def whole(low: int, high: int, title: str, about: str | None = None, group: Group = "figure") -> Any:
    """An optional whole number within ``low``..``high``."""
    extra: dict[str, Any] = {"quantity": "count", "unit": "", "low": low, "high": high, "whole": True}
    extra |= _grouped(group)
    return Field(default=None, ge=low, le=high, title=title, description=about, json_schema_extra=extra)


def words(limit: int, title: str, about: str | None = None, group: Group = "figure") -> Any:
    """An optional text of at most ``limit`` characters."""
    return Field(
        default=None, max_length=limit, title=title, description=about, json_schema_extra=_grouped(group) or None
    )


def choice(title: str, about: str | None = None, group: Group = "figure") -> Any:
    """An optional word out of a fixed set (a ``Literal``)."""
    return Field(default=None, title=title, description=about, json_schema_extra=_grouped(group) or None)


def _grouped(group: Group) -> dict[str, Any]:
    return {} if group == "figure" else {"group": group}


def group_of(model: type[BaseModel], key: str) -> Group:
    """What a field of a model is for."""
    extra = model.model_fields[key].json_schema_extra
    found: Any = extra.get("group", "figure") if isinstance(extra, dict) else "figure"
    return cast(Group, found)


def span_of(model: type[BaseModel], key: str) -> tuple[float, float]:
    """The least and the largest value that a figure of a model may have."""
    extra: Any = model.model_fields[key].json_schema_extra
    return extra["low"], extra["high"]


def keys_of(model: type[BaseModel], group: Group) -> list[str]:
    """The fields of a model that are for one thing, in their order."""
    return [key for key in model.model_fields if group_of(model, key) == group]


yes_no = choice
"""An optional yes or no."""


def day(title: str, about: str | None = None) -> Any:
    """An optional day, as 2026-05-31."""
    return Field(default=None, title=title, description=about)


Status = Literal["to_order", "ordered", "late", "arrived", "faulty", "replaced"]
"""Where a part that is bought stands. Faulty: here and no good; replaced: the seller's replacement is here."""


class Purchase(Record):
    """How a part is bought."""

    status: Status | None = choice("Status")
    order: str | None = words(60, "Order", "the shop, or one order of several at a shop")
    due_on: Day | None = day("Due")
    arrived_on: Day | None = day("Arrived")


class Part(Record):
    """What every part may say of itself beside its figures."""

    name: str | None = words(120, "Name", group="listing")
    maker: str | None = words(120, "Maker", group="listing")
    price: float | None = figure(
        "money", 0, 100_000, "Price", "of one, where the part is counted; otherwise of the set", "listing"
    )
    currency: str | None = Field(
        default=None, pattern=CURRENCY, title="Currency", json_schema_extra=_grouped("listing")
    )
    owned: bool | None = yes_no(
        "Already owned", "counts in the board's total value, not in what is still to spend", "buying"
    )
    purchase: Purchase | None = Field(default=None, title="Purchase", json_schema_extra=_grouped("buying"))
    kit: str | None = words(120, "Part of the kit", "which has the price", "buying")
    mass_g: float | None = figure(
        "mass", 0, 60_000, "Mass", "of one, where the part is counted; otherwise of the set", "listing"
    )
    source: str | None = words(400, "Source of the figures", group="listing")
    notes: str | None = words(4000, "Notes", group="listing")
    measured: list[Key] | None = Field(
        default=None,
        max_length=40,
        title="Measured figures",
        description="keys of this part that were measured, not taken from a listing",
        json_schema_extra=_grouped("mark"),
    )
