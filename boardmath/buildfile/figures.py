"""The kinds of figure that a build file holds, each with its unit, its plausible span and its name.

A span is wide enough for any board that someone really builds and narrow enough that a wheel given in metres is caught.
"""

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from boardmath.units import QUANTITIES

CURRENCY = r"^[A-Z]{3}$"
Key = Annotated[str, Field(max_length=60)]


class Record(BaseModel):
    """Base of everything in a build file: unknown keys, wrong types and infinities are errors."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, validate_assignment=False)


def figure(quantity: str, low: float, high: float, title: str, about: str | None = None) -> Any:
    """An optional number of ``quantity`` within ``low``..``high`` (in the build file's unit)."""
    extra: dict[str, Any] = {"quantity": quantity, "unit": QUANTITIES[quantity].unit, "low": low, "high": high}
    return Field(default=None, ge=low, le=high, title=title, description=about, json_schema_extra=extra)


def whole(low: int, high: int, title: str, about: str | None = None) -> Any:
    """An optional whole number within ``low``..``high``."""
    extra: dict[str, Any] = {"quantity": "count", "unit": "", "low": low, "high": high, "whole": True}
    return Field(default=None, ge=low, le=high, title=title, description=about, json_schema_extra=extra)


def words(limit: int, title: str, about: str | None = None) -> Any:
    """An optional text of at most ``limit`` characters."""
    return Field(default=None, max_length=limit, title=title, description=about)


def choice(title: str, about: str | None = None) -> Any:
    """An optional word out of a fixed set (a ``Literal``)."""
    return Field(default=None, title=title, description=about)


yes_no = choice
"""An optional yes or no."""


class Part(Record):
    """What every part may say of itself beside its figures."""

    name: str | None = words(120, "Name")
    maker: str | None = words(120, "Maker")
    price: float | None = figure("money", 0, 100_000, "Price", "of one, where the part is counted; else of the set")
    currency: str | None = Field(default=None, pattern=CURRENCY, title="Currency")
    owned: bool | None = yes_no(
        "Already in the drawer", "counts to the board's value, not to what is still to be spent"
    )
    mass_g: float | None = figure("mass", 0, 60_000, "Mass", "of one, where the part is counted; else of the set")
    source: str | None = words(400, "Where the figures come from")
    notes: str | None = words(4000, "Notes")
    measured: list[Key] | None = Field(
        default=None,
        max_length=40,
        title="Measured figures",
        description="keys of this part that were measured, not read off a listing",
    )
