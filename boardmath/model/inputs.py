"""An input of the model with its origin, and the small facts of a build that many rooms ask for."""

from dataclasses import dataclass
from math import pi, sqrt
from typing import Any, Literal

import numpy as np
from scipy.special import ndtr

from boardmath.buildfile.build import Build, RangeMeans
from boardmath.buildfile.drivetrain import Drive
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.figures import Part, Record
from boardmath.buildfile.once import once_a_build
from boardmath.model import estimate
from boardmath.model.cell_groups import mean_capacity, measured_groups, pulse_resistance
from boardmath.model.chemistry import chemical_of
from boardmath.model.defaults import MEAN_OF_CRUISE, USUAL
from boardmath.model.estimate import Estimate

RPM = 2.0 * pi / 60.0
"""rad/s in a turn a minute."""

Origin = Literal["measured", "rides", "stated", "estimated", "default", "pinned"]
Shape = Literal["relative", "complement_lognormal", "additive", "lognormal", "magnitude", "student"]
"""How a value v scatters with a spread s, z being standard normal. Relative: ``v e^(sz)``. Loss: ``1 - (1 - v) e^(sz)``. Shift:
``v + sz``. Lopsided: ``v e^(sz - s^2/2)``, v being the mean of what adds up over many ways. Magnitude: the size of a normal
normal score of which the sign does not matter, ``s F((1 + N(z))/2)`` with N the normal distribution and F its inverse. Student:
``v e^(s t(z))`` with heavy tails, :func:`student_score`."""
_STUDENT_90, _NORMAL_90 = 1.5332063, 1.2815516
"""90th percentiles of Student's distribution with 4 degrees of freedom, and of the normal one."""


_FARTHEST = 6.0
"""Normal scores beyond which nothing is told apart: once in a thousand million."""


def student_score(z: Any) -> Any:
    """The score of Student's distribution with 4 degrees of freedom at the percentile of a normal score, as wide at 10 and 90 %.

    Source: Shaw, Sampling Student's T distribution, J. Computational Finance 9 (2006): its quantile in closed form.
    """
    below = ndtr(-np.minimum(np.abs(z), _FARTHEST))
    root = np.sqrt(4.0 * below * (1.0 - below))
    score = 2.0 * np.sqrt(np.maximum(np.cos(np.arccos(root) / 3.0) / root - 1.0, 0.0))
    return np.sign(z) * score * (_NORMAL_90 / _STUDENT_90)


@dataclass(frozen=True)
class Input:
    """One input of the model: its value in the build file's unit, where it comes from and how far it may be off."""

    field: str
    value: float
    origin: Origin
    rule: str | None = None
    spread: float = 0.0
    shape: Shape = "relative"


STATED_SPREAD = {
    "kv_rpm_per_v": 0.075,
    "phase_resistance_mohm": 0.15,
    "no_load_current_a": 0.20,
    "capacity_ah": 0.05,
    "resistance_mohm": 0.20,
    "mass_g": 0.03,
    "health_pct": 0.06,
    "max_motor_current_a": 0.03,
}
"""How far what sellers state lies off, as the deviation of its logarithm (common practice, no source). KV: listings and windings
7 %; rated with six steps or with sines (a factor of pi / 3), 2.4 %; magnets up to 40 K warmer than when rated, 1.3 %."""
STATED_SHAPE: dict[str, Shape] = {"kv_rpm_per_v": "student"}
"""How it scatters where not by a share: some listings of KV are of another winding."""
MEASURED_SPREAD = {
    "kv_rpm_per_v": 0.01,
    "phase_resistance_mohm": 0.04,
    "no_load_current_a": 0.05,
    "capacity_ah": 0.01,
    "resistance_mohm": 0.05,
    "mass_g": 0.005,
    "crr": 0.08,
    "cda_m2": 0.08,
    "health_pct": 0.02,
    "drive_efficiency": 0.15,
    "idle_w": 0.05,
    "drag_n": 0.10,
    "path_resistance_mohm": 0.05,
    "grip": 0.08,
    "mass_kg": 0.004,
    "mean_kmh": 0.04,
    "stops_per_km": 0.10,
    "ascent_m_per_km": 0.10,
}
"""The same of what a hobbyist measures at home."""
_OTHER_MEASURED = 0.01


_NOT_MEASURED = ("money", "wire", "count")
_OF_RIDER_AND_WAY = ("rider.mass_kg", "brief.mean_kmh", "brief.stops_per_km", "brief.ascent_m_per_km")


def measurable(path: str, quantity: str | None) -> bool:
    """Whether a mark as measured counts at a figure: prices and counts are known, what is set is read back."""
    counts = path.startswith(("parts.", "assumptions.")) or path in _OF_RIDER_AND_WAY
    return counts and quantity is not None and quantity not in _NOT_MEASURED


def measured_spread(key: str) -> float:
    return MEASURED_SPREAD.get(key, _OTHER_MEASURED)


@once_a_build
def marked(build: Build) -> Build:
    """The build with what its list of measured figures says marked in the parts themselves."""
    by_part: dict[str, list[str]] = {}
    for m in build.measured or ():
        holder, _, key = m.path.rpartition(".")
        if holder.startswith("parts."):
            by_part.setdefault(holder, []).append(key)
    build = _with_its_cells(build)
    if not by_part:
        return build
    parts = build.parts
    for holder, keys in by_part.items():
        parts = _marked_in(parts, holder.split(".")[1:], keys)
    return build.model_copy(update={"parts": parts})


def _with_its_cells(build: Build) -> Build:
    """The build with what its cells turned out to be, once they are measured and sorted: their mean stands for each."""
    groups, pack = measured_groups(build), build.parts.pack
    if groups is None or pack is None:
        return build
    cells = [c for g in groups for c in g.cells]
    found = {"capacity_ah": mean_capacity(groups) / len(groups[0].cells)}
    pulse = pulse_resistance(build, groups)
    cell = pack.cell or Cell()
    if pulse is not None and estimate.salvaged(cell):
        found["max_discharge_a"] = min(estimate.PULSE_MV / pulse[0], cell.max_discharge_a or float("inf"))
    masses = [c.mass_g for c in cells if c.mass_g is not None]
    if len(masses) == len(cells):
        found["mass_g"] = sum(masses) / len(masses)
    cell = cell.model_copy(update={**found, "measured": sorted({*(cell.measured or ()), *found})})
    parts = build.parts.model_copy(update={"pack": pack.model_copy(update={"cell": cell})})
    return build.model_copy(update={"parts": parts})


def _marked_in(node: Any, way: list[str], keys: list[str]) -> Any:
    if not way:
        if not isinstance(node, Part):
            return node
        known = [k for k in keys if getattr(node, k, None) is not None]
        return node.model_copy(update={"measured": sorted({*(node.measured or ()), *known})})
    step, inner = way[0], getattr(node, way[0], None)
    if not isinstance(inner, Record):
        return node
    return node.model_copy(update={step: _marked_in(inner, way[1:], keys)})


def is_measured(build: Build, path: str) -> bool:
    """Whether a figure outside the parts is in the list of what was measured."""
    return any(m.path == path for m in build.measured or ())


def taken(path: str, part: Record, key: str, otherwise: Estimate) -> Input:
    """The part's own figure if it has one, else the estimate."""
    value = getattr(part, key)
    full = f"{path}.{key}"
    if value is None:
        return Input(full, otherwise.value, "estimated", otherwise.rule, otherwise.spread)
    if key in (getattr(part, "measured", None) or ()):
        return Input(full, float(value), "measured", None, measured_spread(key))
    return Input(full, float(value), "stated", None, STATED_SPREAD.get(key, 0.0), STATED_SHAPE.get(key, "relative"))


def drive_kind(build: Build) -> str:
    """How the wheels are driven; a hub or direct motor says it by itself."""
    drive, motors = build.parts.drive, build.parts.motors
    if drive is not None and drive.kind is not None:
        return drive.kind
    if motors is not None and motors.kind in ("hub", "direct"):
        return motors.kind
    return "belt"


@once_a_build
def mounted(build: Build) -> Drive:
    """The drive with what its motor mount says for itself: hanger profile, angle and idler."""
    drive, mount = build.parts.drive or Drive(), build.parts.mount
    if mount is None:
        return drive
    said = {"mount_profile": mount.profile, "mount_angle_deg": mount.angle_deg, "idler": mount.idler}
    return drive.model_copy(update={key: value for key, value in said.items() if value is not None})


def has_pulleys(build: Build) -> bool:
    """Whether something runs between motor and wheel: not with a motor in the hub or on the axle."""
    return drive_kind(build) not in ("hub", "direct")


def wheels_bought(build: Build) -> int:
    """How many wheels a board needs beside those that its hub motors are."""
    motors = build.parts.motors
    hubs = (motors.count or 1) if motors is not None and drive_kind(build) == "hub" else 0
    return max(4 - hubs, 0)


def wheel_sets(build: Build) -> int:
    """How many of the wheels' price are bought."""
    wheels = build.parts.wheels
    each = int((wheels.in_set if wheels else None) or USUAL["wheels.in_set"])
    return -(-wheels_bought(build) // each)


def cell_voltages(pack: Pack) -> tuple[float, float, float]:
    """Full, nominal and empty voltage of one cell."""
    cell = pack.cell or Cell()
    usual = chemical_of(cell)
    return cell.full_v or usual.full_v, cell.nominal_v or usual.nominal_v, cell.empty_v or usual.empty_v


def full_voltage(pack: Pack) -> float:
    """The pack's voltage straight off a charger that fills its cells, V."""
    return (pack.series or 0) * cell_voltages(pack)[0]


def _of_the_cell(pack: Pack, key: str, otherwise: Estimate) -> Input:
    """A figure of the cell; what salvaged cells are said to have counts only when it was measured."""
    cell = pack.cell or Cell()
    found = taken("parts.pack.cell", cell, key, otherwise)
    if estimate.salvaged(cell) and found.origin == "stated":
        return Input(found.field, otherwise.value, "estimated", otherwise.rule, otherwise.spread)
    return found


def cell_capacity(pack: Pack) -> Input:
    """Ah of a cell, the mean over the pack."""
    return _of_the_cell(pack, "capacity_ah", estimate.cell_capacity(pack.cell or Cell()))


def cell_rating(pack: Pack) -> Input:
    """Largest discharge current of one cell, A."""
    cell = pack.cell or Cell()
    guess = estimate.cell_max_discharge(cell, cell_capacity(pack).value)
    if estimate.salvaged(cell) and cell.max_discharge_a is not None:
        # No more than is printed, however much the rule would allow.
        guess = Estimate(min(guess.value, cell.max_discharge_a), guess.rule, guess.spread)
    return _of_the_cell(pack, "max_discharge_a", guess)


def cell_resistance(pack: Pack) -> Input:
    """mOhm of one cell."""
    guess = estimate.cell_resistance(pack.cell or Cell(), cell_capacity(pack).value)
    return _of_the_cell(pack, "resistance_mohm", guess)


def cell_charge_rating(pack: Pack) -> Input:
    """Largest charge current of one cell, A."""
    guess = estimate.cell_max_charge(pack.cell or Cell(), cell_capacity(pack).value)
    return _of_the_cell(pack, "max_charge_a", guess)


def cruise_speed(build: Build) -> float:
    """The brief's cruising speed in km/h, what its mean speed comes from, or where most riders settle."""
    brief = build.brief
    if brief.cruise_kmh is None and brief.mean_kmh is not None:
        return brief.mean_kmh / MEAN_OF_CRUISE
    return brief.cruise_kmh or USUAL["brief.cruise_kmh"]


def range_means(build: Build) -> RangeMeans:
    """What the brief's distance means, or home with the reserve."""
    return build.brief.range_means or "with_reserve"


def hill_grade(build: Build) -> float | None:
    """The brief's hill in percent: as stated, or from its rise and its length along the slope."""
    brief = build.brief
    if brief.hill_grade_pct is not None:
        return brief.hill_grade_pct
    if brief.hill_rise_m is None or brief.hill_length_m is None:
        return None
    return grade_of(brief.hill_rise_m, brief.hill_length_m)


def grade_of(rise_m: float, length_m: float) -> float:
    """Percent of a hill, from its rise and its length along the slope."""
    sine = min(rise_m / length_m, 0.5)
    return 100.0 * sine / sqrt(1.0 - sine * sine)


def climb_length(build: Build) -> float:
    """Length in m of the brief's climb: as stated, or by its minutes at cruising speed, or a usual one."""
    if build.brief.hill_length_m is not None:
        return build.brief.hill_length_m
    if build.brief.hill_minutes is not None:
        return build.brief.hill_minutes * 60.0 * cruise_speed(build) / 3.6
    return USUAL["brief.hill_length_m"]


def gear_ratio(build: Build) -> float:
    """Turns of the motor for one of the wheel."""
    drive = build.parts.drive
    if drive_kind(build) in ("hub", "direct") or drive is None:
        return 1.0
    return (drive.wheel_teeth or 1) / (drive.motor_teeth or 1)
