"""The build file: one board, its rider, what it is for, its settings, and what is kept of its life beside it."""

from collections.abc import Mapping
from typing import Any, Literal, get_args

from pydantic import BaseModel, Field, field_validator, model_validator

from boardmath.buildfile.buying import Exchange, LeftOver, Order, ReadyMade
from boardmath.buildfile.calibration import Calibration
from boardmath.buildfile.electrics import Enclosure, Extra, Load
from boardmath.buildfile.figures import CURRENCY, Day, Key, Record, choice, day, figure, words, yes_no
from boardmath.buildfile.kits import Kit, KitContents
from boardmath.buildfile.maintenance import Maintenance, ReviewCosts
from boardmath.buildfile.methods import Methods
from boardmath.buildfile.migration import upgrade
from boardmath.buildfile.pack_assembly import PackAssembly
from boardmath.buildfile.settings import Detected, Settings
from boardmath.buildfile.trips import MOST_TRIPS, Ground, Trip

FORMAT = "sand-pocket/build"

Stance = Literal["upright", "relaxed", "crouched"]
Surface = Ground
Use = Literal["commute", "cruise", "touring", "rough_ground"]
Stage = Literal["planned", "building", "riding"]
Wind = Literal["out_and_back", "against", "behind", "across"]
Hurry = Literal["easy", "usual", "hard"]
RangeMeans = Literal["to_cut_off", "with_reserve", "worst_day"]


class Rider(Record):
    mass_kg: float = Field(
        ge=20,
        le=200,
        title="Rider weight",
        description="dressed to ride",
        json_schema_extra={"quantity": "body_mass", "unit": "kg", "low": 20, "high": 200},
    )
    height_m: float | None = figure("body_height", 1.0, 2.3, "Height")
    carried_kg: float | None = figure("body_mass", 0, 60, "Weight carried", "bag, lock, shopping")
    stance: Stance | None = choice("Stance")


class Brief(Record):
    use: Use | None = choice("What for")
    top_speed_kmh: float | None = figure("speed", 5, 120, "Target top speed")
    cruise_kmh: float | None = figure("speed", 5, 80, "Cruising speed", "the speed you really ride")
    mean_kmh: float | None = figure(
        "speed", 3, 90, "Mean moving speed", "kilometres over minutes of one usual ride, without standing time"
    )
    range_km: float | None = figure("distance", 0.5, 300, "Distance in a day")
    reserve_pct: float | None = figure("share", 0, 60, "Reserve", "charge left when you come home")
    range_means: RangeMeans | None = choice(
        "This distance is meant", "until the controller cuts off, home with the reserve, or even on the worst day"
    )
    ascent_m_per_km: float | None = figure(
        "ascent", 0, 150, "Climb on the way", "metres up in a kilometre, mean of the ride"
    )
    stops_per_km: float | None = figure("stops", 0, 20, "Stops on the way", "full stops and starts")
    wind_ms: float | None = figure("wind", 0, 25, "Usual wind", "along the way, as felt by a standing rider")
    wind: Wind | None = choice("Wind direction", "out and back on the same route unless stated")
    rides: Hurry | None = choice("Riding style", "easy: coasts and plans ahead; hard: always full power")
    hill_grade_pct: float | None = figure("grade", 0, 60, "Steepest hill")
    hill_rise_m: float | None = figure("way", 0.5, 3000, "Rise of that hill", "with its length, instead of the grade")
    hill_length_m: float | None = figure("way", 5, 20_000, "Length of that hill")
    hill_minutes: float | None = figure("minutes", 0.1, 240, "Time on that hill", "instead of its length")
    budget: float | None = figure("money", 0, 100_000, "Budget")
    carry_mass_kg: float | None = figure("body_mass", 1, 60, "Weight you can carry")
    surface: Surface | None = choice("Surface")
    temperature_c: float | None = figure("temperature", -30, 50, "Temperature")
    altitude_m: float | None = figure("way", -400, 5000, "Altitude")
    wet: bool | None = yes_no("Ridden in the wet")
    local_speed_limit_kmh: float | None = figure(
        "speed", 3, 120, "Local speed limit", "as you found out; rules differ from place to place"
    )
    quiet_zone_kmh: float | None = figure("speed", 3, 60, "Speed in a quiet zone", "where there is one on your route")
    local_rules: str | None = words(2000, "Local rules", "what you found out, and from whom")


class Parts(KitContents):
    """What is on a board: all that may come in a kit, and what a board may have besides."""

    second_enclosure: Enclosure | None = None
    loads: list[Load] | None = Field(default=None, max_length=40)
    kits: list[Kit] | None = Field(default=None, max_length=20)
    extras: list[Extra] | None = Field(default=None, max_length=200)


class Assumptions(Record):
    """Pins a parameter of the model to a value; absent means the model's own estimate."""

    crr: float | None = figure("ratio", 0.001, 0.2, "Rolling resistance coefficient")
    cda_m2: float | None = figure("area", 0.05, 2, "Drag area")
    drive_efficiency: float | None = figure("ratio", 0.4, 1, "Drive efficiency")
    controller_efficiency: float | None = figure("ratio", 0.5, 1, "Controller efficiency")
    air_density_kg_m3: float | None = figure("density", 0.5, 1.8, "Air density")
    wind_ms: float | None = figure("wind", -25, 25, "Head wind", "negative from behind")
    idle_w: float | None = figure("power", 0, 200, "Idle draw")
    drag_n: float | None = figure("force", 0, 60, "Drag of belts or gears", "at the road, all motors together")
    path_resistance_mohm: float | None = figure(
        "resistance", 0.5, 500, "Links, wire and connectors", "from the cells to the controller"
    )
    grip: float | None = figure(
        "ratio", 0.05, 1.5, "Grip of the driven wheels", "where they slip: force divided by the weight on them"
    )


class Existing(Record):
    """The board that was there before, of which some parts stay."""

    name: str | None = words(120, "Which board it is")
    mass_kg: float | None = figure("body_mass", 1, 60, "Weight before the change", "before anything was removed")
    top_speed_kmh: float | None = figure("speed", 3, 120, "Top speed before the change", "measured, on a full pack")
    range_km: float | None = figure("distance", 0.5, 300, "Range before the change")
    was: Parts | None = Field(default=None, title="What was replaced", description="the old parts, as they were")
    note: str | None = words(2000, "Why you change it")


class AcceptedFinding(Record):
    """A finding that the builder has looked at and accepts, with the reason."""

    finding: str = Field(max_length=60, title="Finding")
    reason: str = Field(min_length=3, max_length=600, title="Why")
    text: str | None = words(1000, "What the finding said")
    day: Day | None = Field(default=None, title="Day")


class Measured(Record):
    """A figure of this build that was measured: where it stands, with what, and when."""

    path: str = Field(
        min_length=3, max_length=120, title="Figure", description="its path, such as parts.motors.kv_rpm_per_v"
    )
    by: str | None = words(120, "Measured with")
    day: Day | None = day("On")

    @field_validator("path")
    @classmethod
    def _a_figure(cls, path: str) -> str:
        if not _is_figure(Build, path.split(".")):
            raise ValueError(f"{path} is not a figure of a build")
        return path


class Build(Record):
    """What a board is and what is asked of it; everything that a prediction reads."""

    format: Literal["sand-pocket/build"]
    version: Literal[2]
    name: str | None = words(120, "Name")
    stage: Stage | None = choice("Stage")
    currency: str | None = Field(default=None, pattern=CURRENCY, title="Currency")
    rider: Rider
    brief: Brief = Field(default_factory=Brief)
    parts: Parts = Field(default_factory=Parts)
    settings: Settings = Field(default_factory=Settings)
    settings_apart: list[Settings] | None = Field(
        default=None,
        max_length=3,
        title="Further controllers",
        description="what the second, third and fourth controller have where they differ from the first",
    )
    assumptions: Assumptions = Field(default_factory=Assumptions)
    weighed_kg: float | None = figure("body_mass", 1, 60, "Weighed", "the whole board as carried, on a scale")
    measured: list[Measured] | None = Field(
        default=None,
        max_length=200,
        title="Measured figures",
        description="which figures were measured, not taken from a listing",
    )
    accepted: list[AcceptedFinding] | None = Field(default=None, max_length=100)
    detected: list[Detected] | None = Field(default=None, max_length=4)
    orders: list[Order] | None = Field(default=None, max_length=60)
    exchange: list[Exchange] | None = Field(default=None, max_length=30)
    left_over: list[LeftOver] | None = Field(default=None, max_length=200)
    not_needed: list[Key] | None = Field(
        default=None, max_length=60, title="Not needed", description="small parts that you do without"
    )
    ready_made: ReadyMade | None = None
    existing: Existing | None = Field(default=None, title="The board before the change")
    pack_assembly: PackAssembly | None = Field(default=None, title="The pack you make")
    methods: Methods | None = Field(
        default=None, title="Methods", description="how the builder works where builders differ"
    )
    calibration: Calibration | None = Field(
        default=None, title="Calibration", description="added from the rides of the board and of its rider"
    )

    @model_validator(mode="before")
    @classmethod
    def _under_todays_names(cls, raw: Any) -> Any:
        return upgrade(raw) if isinstance(raw, Mapping) else raw


class BuildFile(Build):
    """A whole build file: the board, and what happened to it whatever it was at a named point."""

    trips: list[Trip] | None = Field(default=None, max_length=MOST_TRIPS, title="Trips")
    maintenance: Maintenance | None = Field(default=None, title="Maintenance")
    review: ReviewCosts | None = Field(default=None, title="Review")


HISTORY_FIELDS = tuple(name for name in BuildFile.model_fields if name not in Build.model_fields)
"""Names of what happened to a board."""


def _is_figure(model: type[BaseModel], way: list[str]) -> bool:
    """Whether a dotted path of the build file leads to a number."""
    field = model.model_fields.get(way[0])
    if field is None:
        return False
    if len(way) == 1:
        extra = field.json_schema_extra
        return isinstance(extra, dict) and "quantity" in extra
    inner = next((a for a in get_args(field.annotation) or (field.annotation,) if _is_model(a)), None)
    return inner is not None and _is_figure(inner, way[1:])


def _is_model(annotation: object) -> bool:
    return isinstance(annotation, type) and issubclass(annotation, BaseModel)
