"""The results of a prediction: what the command line prints and the API answers.

Keys follow the build file's contract; a result that is not computed is absent.
"""

from typing import Literal

from pydantic import BaseModel

from boardmath.advice import Finding
from boardmath.cost import Cost
from boardmath.predict.bands import Widening
from boardmath.predict.line import Moment
from boardmath.predict.promises import Promise
from boardmath.why import Why


class Result(BaseModel):
    """A predicted number; low and high are the 10th and 90th percentile of what is not known."""

    low: float | None = None
    mid: float
    high: float | None = None
    limit: str | None = None


class RangeResult(Result):
    at_kmh: float


class SpeedAtCharge(BaseModel):
    charge_pct: float
    speed_kmh: float
    limit: str


class SpeedOnGrade(BaseModel):
    grade_pct: float
    speed_kmh: float
    limit: str


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
    """Range in other conditions than the brief's."""

    when: Literal["freezing", "pack at 80 %", "head wind of 5 m/s"]
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
    limit: str


class ChargeHours(BaseModel):
    """From the reserve, with the chosen charger."""

    to_80_pct: float
    to_90_pct: float
    to_full: float


class Life(BaseModel):
    """Until four fifths of the capacity are left."""

    cycles: float
    km: float
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
    range_km: RangeResult | None = None
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
    estimated: list[Estimated]
    findings: list[Finding]
    promises: list[Promise]
    line: list[Moment]
    why: dict[str, Why]
    needs: list[Lacking]


class Glance(BaseModel):
    """The promises alone, for a screen that follows every key: the same numbers as the whole prediction's."""

    promises: list[Promise]
    needs: list[Lacking]
