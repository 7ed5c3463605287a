"""A ride as it is written down, and the file of rides. Everything is optional but the day and one measured thing."""

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from boardmath.buildfile.build import Surface, Wind
from boardmath.buildfile.figures import Day, Record, choice, figure, whole, words, yes_no

FORMAT = "sand-pocket/rides"
VERSION = 1
MOST_RIDES = 5000

Ended = Literal["home", "warned", "cut_off"]
By = Literal["meter", "gauge", "controller"]
Kind = Literal["ride", "range_test", "test"]


class RideRider(Record):
    """Who rode, where it was not as the build says."""

    mass_kg: float | None = figure("body_mass", 20, 200, "Rider", "dressed to ride")
    carried_kg: float | None = figure("body_mass", 0, 60, "Carried")
    other: bool | None = yes_no("Somebody else rode", "your own riding is not learned from it")


class Conditions(Record):
    temperature_c: float | None = figure("temperature", -30, 50, "Temperature")
    wind_ms: float | None = figure("wind", 0, 30, "Wind", "as felt standing still, in the open")
    wind: Wind | None = choice("Wind direction on the ride")
    surface: Surface | None = choice("Surface")
    wet: bool | None = yes_no("Wet")


class Way(Record):
    distance_km: float | None = figure("distance", 0.02, 1000, "Distance")
    ascent_m: float | None = figure("way", 0, 20_000, "Climbed", "all climbs together")
    moving_s: float | None = Field(
        default=None, ge=5, le=500_000, title="Moving time", json_schema_extra={"quantity": "seconds", "unit": "s"}
    )
    stops: int | None = whole(0, 2000, "Stops")


class PackOfRide(Record):
    start_v: float | None = figure("voltage", 1, 120, "Volts before")
    end_v: float | None = figure("voltage", 1, 120, "Volts after")
    by: By | None = choice("Read by", "a meter at the plug, the board's or the remote's gauge, or the controller's log")
    rested_s: float | None = Field(
        default=None,
        ge=0,
        le=1_000_000,
        title="Rest before the reading",
        json_schema_extra={"quantity": "seconds", "unit": "s"},
    )
    start_pct: float | None = figure("share", 0, 100, "Charge before")
    end_pct: float | None = figure("share", 0, 100, "Charge after")
    wh: float | None = figure("energy", 1, 20_000, "Charged afterwards", "as counted by the charger into the pack")
    ended: Ended | None = choice("It ended", "home; the controller warned; it cut off")


class SpeedRun(Record):
    """Flat out on the flat, as fast as it goes: one way, or one figure for each way."""

    kind: Literal["speed"]
    kmh: list[Annotated[float, Field(ge=2, le=150)]] = Field(min_length=1, max_length=12, title="Speeds")
    charge_pct: float | None = figure("share", 0, 100, "Charge")


class HillRun(Record):
    kind: Literal["hill"]
    grade_pct: float | None = figure("grade", 0.5, 60, "Grade")
    rise_m: float | None = figure("way", 0.5, 3000, "Rise", "with its length, instead of the grade")
    length_m: float | None = figure("way", 5, 20_000, "Length")
    foot_kmh: float | None = figure("speed", 0, 150, "Speed at the foot")
    top_kmh: float | None = figure("speed", 0, 150, "Speed at the top", "0 where it stopped")
    charge_pct: float | None = figure("share", 0, 100, "Charge")


class CoastRun(Record):
    """Rolled out on the flat without power."""

    kind: Literal["coast"]
    from_kmh: float | None = figure("speed", 3, 100, "From")
    to_kmh: float | None = figure("speed", 0, 95, "To")
    metres: float | None = figure("way", 2, 3000, "Way", "the mean of both directions, where there are two")
    both_ways: bool | None = yes_no("Both ways")
    drive_off: bool | None = yes_no("Belts off", "only bearings, tyres and air slow it down")


class UnloadedRun(Record):
    """Full throttle with the wheels in the air."""

    kind: Literal["unloaded"]
    kmh: float | None = figure("speed", 2, 250, "Speed of the wheel rim")
    pack_v: float | None = figure("voltage", 1, 120, "Pack voltage at rest")


class ChargeRun(Record):
    """A charge by the wall's meter, or by a charger that counts."""

    kind: Literal["charge"]
    wh: float | None = figure("energy", 1, 20_000, "Energy")
    at: Literal["wall", "pack"] | None = choice("Counted", "at the wall socket, or into the pack")
    from_v: float | None = figure("voltage", 1, 120, "From", "the pack at rest")
    to_v: float | None = figure("voltage", 1, 120, "To", "the pack at rest")


Run = Annotated[SpeedRun | HillRun | CoastRun | UnloadedRun | ChargeRun, Field(discriminator="kind")]

_MEASURED = (("way", "distance_km"), ("pack", "end_v"), ("pack", "wh"), ("pack", "end_pct"), ("way", "moving_s"))


class Ride(Record):
    """One ride."""

    day: Day = Field(title="Day")
    id: str | None = Field(default=None, max_length=40, title="Identifier")
    at: str | None = Field(default=None, pattern=r"^\d{2}:\d{2}$", title="Set out")
    kind: Kind = "ride"
    title: str | None = words(120, "What kind of ride")
    rider: RideRider = Field(default_factory=RideRider)
    conditions: Conditions = Field(default_factory=Conditions)
    way: Way = Field(default_factory=Way)
    pack: PackOfRide = Field(default_factory=PackOfRide)
    runs: list[Run] = Field(default_factory=list, max_length=40)
    warm: Literal["cool", "warm", "hot", "rolled_back"] | None = choice(
        "Motors afterwards", "by hand; rolled back: the controller reduced power because of heat"
    )
    broke: str | None = words(600, "What broke")
    wish: str | None = words(600, "What I would change")
    note: str | None = words(2000, "Note")
    revision: str | None = words(120, "The board at that time", "the revision that was ridden")
    left_out: str | None = words(300, "Left out", "why this ride does not count")

    @model_validator(mode="after")
    def _something_measured(self) -> "Ride":
        if not self.runs and all(getattr(getattr(self, holder), key) is None for holder, key in _MEASURED):
            raise ValueError("needs one measurement: kilometres, volts after, Wh, or a test run")
        if self.pack.end_v is not None and self.pack.start_v is not None and self.pack.end_v > 1.02 * self.pack.start_v:
            raise ValueError("the volts after are above the volts before: were they swapped?")
        return self


class RidesFile(Record):
    format: Literal["sand-pocket/rides"]
    version: Literal[1]
    board: str | None = words(120, "Board")
    rides: list[Ride] = Field(max_length=MOST_RIDES)


def measured_things(ride: Ride) -> list[str]:
    """Dotted names of what a ride measured."""
    found = [f"{holder}.{key}" for holder, key in _MEASURED if getattr(getattr(ride, holder), key) is not None]
    return found + [f"runs.{i}" for i in range(len(ride.runs))]


def as_document(ride: Ride) -> dict[str, Any]:
    """A ride as a plain object without what was not said."""
    return {k: v for k, v in ride.model_dump(mode="json", exclude_none=True).items() if v not in ({}, [])}
