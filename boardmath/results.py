"""The results of a prediction: what the command line prints and the API answers.

Keys follow the build file's contract; a result that is not computed is absent.
"""

from typing import Literal

from pydantic import BaseModel

from boardmath.checks import Finding
from boardmath.parts.cost import Cost
from boardmath.physics.limit import Limit
from boardmath.prediction.explanations import Why
from boardmath.prediction.outcomes import Outcome
from boardmath.prediction.power_flow import Moment
from boardmath.prediction.ranges import InputUncertainty, MeasureNext, Widening


class Result(BaseModel):
    """A predicted number; low and high are the 10th and 90th percentile of what is not known."""

    low: float | None = None
    mid: float
    high: float | None = None
    limit: Limit | None = None


class RangeResult(Result):
    at_kmh: float
    """The usual speed of the rider, as the brief says it, or the most that the board does."""
    mean_kmh: float
    """Over the whole ride, stops and hills included."""


class SpeedAtCharge(BaseModel):
    charge_pct: float
    speed_kmh: float
    limit: Limit


class SpeedOnGrade(BaseModel):
    grade_pct: float
    speed_kmh: float
    limit: Limit
    holds_m: float | None = None
    """m of such a climb after which motor, controller or cells are too hot; absent where that never happens."""


class Hill(BaseModel):
    """Grades that can be started, held for the brief's climb, and held for ever; where the wheels slip; speeds."""

    start_grade_pct: Result
    held_grade_pct: Result
    for_ever_grade_pct: Result
    slip_grade_pct: float
    climb_m: float
    speeds: list[SpeedOnGrade]


class ProfileRange(BaseModel):
    profile: str
    low: float | None = None
    mid: float
    high: float | None = None


class RangeWhen(BaseModel):
    """Range, home with the reserve, in one condition worse than the brief's."""

    when: Literal["freezing", "a fifth of the pack's capacity gone", "5 m/s more headwind"]
    km: float


class Acceleration(BaseModel):
    """Seconds from rest on the flat, absent where the speed is not reached; the first second's mean, in g."""

    to_15_kmh_s: float | None = None
    to_25_kmh_s: float | None = None
    first_second_g: float


class BrakingResult(BaseModel):
    """Deceleration on the flat at cruising speed, and the grade that the motors hold back there."""

    full_pack_ms2: float
    at_80_pct_ms2: float
    full_pack_grade_pct: float
    at_80_pct_grade_pct: float
    limit: Limit


class ChargeHours(BaseModel):
    """From the reserve, with the chosen charger."""

    to_80_pct: float
    to_90_pct: float
    to_full: float


class Life(BaseModel):
    """Until four fifths of the capacity are left."""

    cycles: float
    years: float
    """By time and riding together, on so many days a year as most boards are ridden."""
    km: float
    day_km: float
    pack_cost_per_km: float | None = None


class Mass(BaseModel):
    board: float
    rolling: float


class Estimated(BaseModel):
    """A figure that the build does not state, as the model took it."""

    field: str
    value: float
    rule: str


class Lacking(BaseModel):
    """What the build still needs before it can be predicted."""

    field: str
    reason: str


class Prediction(BaseModel):
    """What a build will do. Speeds, hills and range are absent while ``needs`` names what is still to be chosen."""

    unloaded_speed_kmh: float | None = None
    top_speed_kmh: Result | None = None
    speed_by_charge: list[SpeedAtCharge] | None = None
    hill: Hill | None = None
    range_to_cutoff_km: Result | None = None
    range_km: RangeResult | None = None
    range_worst_day_km: Result | None = None
    range_by_profile: list[ProfileRange] | None = None
    range_when: list[RangeWhen] | None = None
    consumption_wh_per_km: Result | None = None
    acceleration: Acceleration | None = None
    braking: BrakingResult | None = None
    charge_h: ChargeHours | None = None
    life: Life | None = None
    comfort_pct: float | None = None
    pack_wh: float | None = None
    usable_wh: float | None = None
    mass_kg: Mass
    cost: Cost
    widest: list[Widening] | None = None
    doubt: list[InputUncertainty] | None = None
    measure_next: list[MeasureNext] | None = None
    estimated: list[Estimated]
    findings: list[Finding]
    outcomes: list[Outcome]
    line: list[Moment]
    why: dict[str, Why]
    needs: list[Lacking]
    not_of_this_board: list[str] = []
    """Fields of the build file that a board like this has no use for: to be left out of a form, unless they say something."""
