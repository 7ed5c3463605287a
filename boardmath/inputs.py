"""An input of the model with its origin, and the small facts of a build that many rooms ask for."""

from dataclasses import dataclass
from math import pi, sqrt
from typing import Literal

from boardmath import estimate
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.figures import Record
from boardmath.estimate import Estimate

RPM = 2.0 * pi / 60.0
"""rad/s in a turn a minute."""

Origin = Literal["measured", "stated", "estimated", "default", "pinned"]
Shape = Literal["relative", "loss"]


USUAL_POLE_PAIRS = 7
DEFAULT_CRUISE_KMH = 24.0
"""Where most riders settle on a bicycle path (24 to 27, common practice, no source)."""


@dataclass(frozen=True)
class Input:
    """One input of the model: its value in the build file's unit, where it comes from and how far it may be off."""

    field: str
    value: float
    origin: Origin
    rule: str | None = None
    spread: float = 0.0
    shape: Shape = "relative"
    measure: str | None = None


_STATED_SPREAD = {
    "kv_rpm_per_v": 0.03,
    "phase_resistance_mohm": 0.10,
    "no_load_current_a": 0.15,
    "capacity_ah": 0.03,
    "resistance_mohm": 0.12,
    "mass_g": 0.03,
}


_MEASURED_SPREAD = 0.01


def taken(path: str, part: Record, key: str, otherwise: Estimate) -> Input:
    """The part's own figure if it has one, else the estimate."""
    value = getattr(part, key)
    full = f"{path}.{key}"
    if value is None:
        return Input(full, otherwise.value, "estimated", otherwise.rule, otherwise.spread)
    if key in (getattr(part, "measured", None) or ()):
        return Input(full, float(value), "measured", None, _MEASURED_SPREAD)
    return Input(full, float(value), "stated", None, _STATED_SPREAD.get(key, 0.0))


def pinned_or(field_name: str, value: float | None, otherwise: Estimate, shape: Shape = "relative") -> Input:
    full = f"assumptions.{field_name}"
    if value is not None:
        return Input(full, value, "pinned")
    return Input(full, otherwise.value, "estimated", otherwise.rule, otherwise.spread, shape)


def drive_kind(build: Build) -> str:
    """How the wheels are driven; a hub or direct motor says it by itself."""
    drive, motors = build.parts.drive, build.parts.motors
    if drive is not None and drive.kind is not None:
        return drive.kind
    if motors is not None and motors.kind in ("hub", "direct"):
        return motors.kind
    return "belt"


def cell_voltages(pack: Pack) -> tuple[float, float, float]:
    """Full, nominal and empty voltage of one cell."""
    cell = pack.cell or Cell()
    full, nominal, empty = estimate.CELL_VOLTAGES[estimate.chemistry_of(cell)]
    return cell.full_v or full, cell.nominal_v or nominal, cell.empty_v or empty


def full_voltage(pack: Pack) -> float:
    """The pack's voltage straight off a charger that fills its cells, V."""
    return (pack.series or 0) * cell_voltages(pack)[0]


def cell_capacity(pack: Pack) -> Input:
    cell = pack.cell or Cell()
    return taken("parts.pack.cell", cell, "capacity_ah", estimate.cell_capacity(cell))


def cell_rating(pack: Pack) -> Input:
    """Largest discharge current of one cell, A."""
    cell = pack.cell or Cell()
    return taken(
        "parts.pack.cell", cell, "max_discharge_a", estimate.cell_max_discharge(cell, cell_capacity(pack).value)
    )


def cell_charge_rating(pack: Pack) -> Input:
    """Largest charge current of one cell, A."""
    cell = pack.cell or Cell()
    guess = estimate.cell_max_charge(cell, cell_capacity(pack).value)
    return taken("parts.pack.cell", cell, "max_charge_a", guess)


def cruise_speed(build: Build) -> float:
    """The brief's cruising speed in km/h, or where most riders settle."""
    return build.brief.cruise_kmh or DEFAULT_CRUISE_KMH


def hill_grade(build: Build) -> float | None:
    """The brief's hill in percent: as stated, or from its rise and its length along the slope."""
    brief = build.brief
    if brief.hill_grade_pct is not None:
        return brief.hill_grade_pct
    if brief.hill_rise_m is None or brief.hill_length_m is None:
        return None
    sine = min(brief.hill_rise_m / brief.hill_length_m, 0.5)
    return 100.0 * sine / sqrt(1.0 - sine * sine)


def gear_ratio(build: Build) -> float:
    """Turns of the motor for one of the wheel."""
    drive = build.parts.drive
    if drive_kind(build) in ("hub", "direct") or drive is None:
        return 1.0
    return (drive.wheel_teeth or 1) / (drive.motor_teeth or 1)


def estimated(field_name: str, guess: Estimate) -> Input:
    return Input(field_name, guess.value, "estimated", guess.rule, guess.spread)
