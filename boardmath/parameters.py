"""From a build file to the model's parameters: every value with its origin.

:func:`resolve` decides, for one build, what each input of the model is and where it comes from.
"""

from dataclasses import dataclass, field
from typing import Any

from boardmath import estimate
from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting, controllers
from boardmath.buildfile.drivetrain import Drive
from boardmath.buildfile.electrics import Cell, Controller, Wiring
from boardmath.estimate import Estimate
from boardmath.inputs import (
    DEFAULT_CRUISE_KMH,
    RPM,
    USUAL_POLE_PAIRS,
    Input,
    cell_capacity,
    cell_rating,
    cell_voltages,
    cruise_speed,
    drive_kind,
    estimated,
    gear_ratio,
    pinned_or,
    taken,
)
from boardmath.limits import brake_current_limit, electrical_speed_limits, pack_current_limits, regen_current_limit
from boardmath.mass import board_mass, resolve_masses
from boardmath.physics import air
from boardmath.physics import cell as cells

DEFAULT_RESERVE_PCT = 15.0


DEFAULT_TEMPERATURE_C = 15.0


DEFAULT_DUTY_PCT = 95.0


DEFAULT_CLIMB_M = 200.0


WARM_WINDING = 35.0
"""K above ambient at which a riding motor's winding is taken, where heat itself is not followed."""


@dataclass(frozen=True)
class Need:
    """Something that a prediction cannot do without."""

    field: str
    reason: str


class Incomplete(ValueError):
    """The build is not far enough for a prediction; ``needs`` says what is missing."""

    def __init__(self, needs: list[Need]):
        super().__init__("; ".join(f"{n.field}: {n.reason}" for n in needs))
        self.needs = needs


@dataclass(frozen=True)
class Resolved:
    """All inputs of one build. ``inputs`` have an origin and may be sampled; ``fixed`` are choices, not estimates."""

    inputs: dict[str, Input]
    fixed: dict[str, float]
    masses: dict[str, Input] = field(default_factory=dict)


_MEASURE = {
    "crr": "a roll-down test on the usual surface",
    "cda": "a roll-down test from a high speed",
    "kv": "motor detection, or unloaded speed at a known voltage",
    "phase_resistance": "motor detection on the stand",
    "no_load_current": "the current with the wheels in the air",
    "cell_capacity": "one slow full discharge of a cell",
    "cell_resistance": "the voltage step when a known current is switched on",
    "board_mass": "the board on a scale",
    "drive_efficiency": "a roll-down test with and without the belt",
    "drive_drag": "the current with the wheels in the air, belt on and off",
    "controller_efficiency": "pack power and motor power on one ride",
    "grip": "where the driven wheel slips on a known ramp",
    "path_resistance": "the voltage lost between pack and controller under load",
}


def missing(build: Build) -> list[Need]:
    """What the build still lacks for a prediction of speed, hill and range."""
    parts, needs = build.parts, []
    if parts.wheels is None or parts.wheels.diameter_mm is None:
        needs.append(Need("parts.wheels.diameter_mm", "choose wheels: the prediction needs their diameter"))
    motors, drive = parts.motors, parts.drive
    if motors is None or motors.kv_rpm_per_v is None:
        needs.append(Need("parts.motors.kv_rpm_per_v", "choose a motor: the prediction needs its KV"))
    elif motors.count is None:
        needs.append(Need("parts.motors.count", "say how many motors there are"))
    if drive_kind(build) not in ("hub", "direct"):
        lacking = [k for k in ("motor_teeth", "wheel_teeth") if drive is None or getattr(drive, k) is None]
        if lacking:
            which = "the teeth of both" if len(lacking) == 2 else f"the {lacking[0].split('_')[0]} pulley's teeth"
            needs.append(Need(f"parts.drive.{lacking[0]}", f"choose pulleys: the prediction needs {which}"))
    if parts.pack is None or parts.pack.series is None:
        needs.append(Need("parts.pack.series", "choose a pack: the prediction needs its cells in series"))
    return needs


def resolve(build: Build) -> Resolved:
    """All inputs of the model for one build.

    Raises:
        Incomplete: naming what is still to be chosen.
    """
    if needs := missing(build):
        raise Incomplete(needs)
    parts, brief, settings, pinned = build.parts, build.brief, acting(build), build.assumptions
    assert parts.wheels is not None
    assert parts.motors is not None
    assert parts.pack is not None
    wheels, motors, pack = parts.wheels, parts.motors, parts.pack
    drive, controller = parts.drive or Drive(), parts.controller or Controller()
    cell = pack.cell or Cell()
    count, series = motors.count or 1, pack.series or 1
    kind = drive_kind(build)
    chemistry = estimate.chemistry_of(cell)
    full_v, _, _ = cell_voltages(pack)
    temperature = brief.temperature_c if brief.temperature_c is not None else DEFAULT_TEMPERATURE_C

    resistance = taken("parts.motors", motors, "phase_resistance_mohm", estimate.phase_resistance(motors))
    if motors.phase_resistance_mohm is not None and motors.resistance_is == "line_to_line":
        resistance = Input(
            resistance.field, resistance.value / 2.0, resistance.origin, "half of line to line", resistance.spread
        )
    rating, capacity = cell_rating(pack), cell_capacity(pack)
    masses = resolve_masses(build)
    inputs = {
        "crr": pinned_or("crr", pinned.crr, estimate.rolling_resistance(wheels, brief)),
        "cda": pinned_or("cda_m2", pinned.cda_m2, estimate.drag_area(build.rider)),
        "drive_efficiency": pinned_or(
            "drive_efficiency", pinned.drive_efficiency, estimate.drive_efficiency(kind, drive), "loss"
        ),
        "drive_drag": estimated("parts.drive.drag_n", estimate.drive_drag(kind, drive, count)),
        "controller_efficiency": pinned_or(
            "controller_efficiency", pinned.controller_efficiency, Estimate(0.97, "usual", 0.3), "loss"
        ),
        "idle": pinned_or("idle_w", pinned.idle_w, Estimate(4.0, "controller, receiver and protection awake", 0.3)),
        "grip": estimated("parts.wheels.grip", estimate.grip(wheels, brief)),
        "kv": taken("parts.motors", motors, "kv_rpm_per_v", Estimate(0, "", 0)),
        "phase_resistance": resistance,
        "no_load_current": taken("parts.motors", motors, "no_load_current_a", estimate.no_load_current(motors)),
        "cell_capacity": capacity,
        "cell_resistance": taken("parts.pack.cell", cell, "resistance_mohm", estimate.cell_resistance(cell, rating.value)),
        "path_resistance": estimated("parts.wiring", estimate.path_resistance(series, parts.wiring or Wiring())),
        "board_mass": board_mass(masses),
        **{
            name: estimated("parts.motors.heat", guess)
            for name, guess in estimate.motor_heat(motors, masses["motors"].value / count).items()
        },
        "rotating_mass": estimated(
            "parts.motors.inertia",
            estimate.rotating_mass(
                motors,
                masses["motors"].value / count,
                masses["wheels"].value,
                gear_ratio(build),
                (wheels.diameter_mm or 90.0) / 2.0,
            ),
        ),
    }  # fmt: skip
    inputs = {name: _with_measure(name, i) for name, i in inputs.items()}

    taper_start, taper_end = _taper(build, chemistry, series)
    motor_currents = [
        a for a in (controller.max_motor_current_a, settings.motor_current_a, motors.max_current_a) if a is not None
    ]
    electrical_speeds = electrical_speed_limits(build).values()
    pack_currents = pack_current_limits(build)
    units = controllers(build)
    health = (pack.health_pct if pack.health_pct is not None else 100.0) / 100.0
    density = pinned.air_density_kg_m3 or float(air.density(temperature + 273.15, brief.altitude_m or 0.0))
    wheelbase = (parts.deck.wheelbase_mm if parts.deck else None) or 640.0
    fixed = {
        "load": build.rider.mass_kg + (build.rider.carried_kg or 0.0),
        "air_density": density,
        "head_wind": pinned.wind_ms or 0.0,
        "wheel_radius": (wheels.diameter_mm or 0.0) / 2000.0 * estimate.LOADED_RADIUS[wheels.kind or "urethane"],
        "gear": gear_ratio(build),
        "motors": float(count),
        "pole_pairs": float(motors.pole_pairs or USUAL_POLE_PAIRS),
        "winding_temperature": temperature + WARM_WINDING,
        "ambient": temperature,
        "winding_limit": settings.motor_rollback_c or estimate.WINDING_LIMIT_C,
        "controller_heat_capacity": max(masses["controller"].value, 1.0) / 1000.0 * 900.0,
        "controller_to_air": estimate.CONTROLLER_TO_AIR / units,
        "controller_limit": settings.controller_rollback_c or estimate.CONTROLLER_LIMIT_C,
        "brake_ceiling": min(settings.regen_ceiling_v or series * full_v, series * full_v),
        "brake_current_limit": brake_current_limit(
            build, min(motor_currents, default=estimate.motor_current(motors).value)
        ),
        "regen_current_limit": regen_current_limit(build),
        "capacity_factor": cells.capacity_factor(chemistry, temperature + 273.15) * health,
        "resistance_factor": cells.aged_resistance_factor(health),
        "motor_current_limit": min(motor_currents, default=estimate.motor_current(motors).value),
        "electrical_speed_limit": min(electrical_speeds, default=1e6) * RPM,
        "duty": (settings.max_duty_pct or DEFAULT_DUTY_PCT) / 100.0,
        "pack_current_limit": min(pack_currents.values(), default=rating.value * (pack.parallel or 1)),
        "taper_start": taper_start,
        "taper_end": taper_end,
        "chemistry": float(cells.CHEMISTRIES.index(chemistry)),
        "series": float(series),
        "parallel": float(pack.parallel or 1),
        "cell_full": full_v,
        "cell_temperature": temperature + 273.15,
        "charge_full": cells.charge_at(chemistry, pack.charge_to_v or full_v, full_v),
        "charge_reserve": (brief.reserve_pct if brief.reserve_pct is not None else DEFAULT_RESERVE_PCT) / 100.0,
        "driven_wheels": float(drive.driven_wheels or count),
        "height_over_wheelbase": (0.55 * (build.rider.height_m or 1.75) + 0.12) / (wheelbase / 1000.0),
        "cruise_speed": cruise_speed(build) / 3.6,
    }
    return Resolved(inputs, fixed, masses)


def defaults(build: Build, resolved: Resolved) -> list[Input]:
    """What the build does not say and the model takes as usual, beside the estimated inputs."""
    usual = {
        "brief.cruise_kmh": (DEFAULT_CRUISE_KMH, "where most riders settle"),
        "brief.reserve_pct": (DEFAULT_RESERVE_PCT, "usual"),
        "brief.temperature_c": (DEFAULT_TEMPERATURE_C, "a mild day"),
        "settings.max_duty_pct": (DEFAULT_DUTY_PCT, "usual"),
        "parts.motors.pole_pairs": (USUAL_POLE_PAIRS, "usual for outrunners"),
        "settings.taper_start_v": (resolved.fixed["taper_start"], "by chemistry and cells in series"),
        "settings.taper_end_v": (resolved.fixed["taper_end"], "by chemistry and cells in series"),
    }
    found = []
    for path, (value, rule) in usual.items():
        node: Any = build
        for step in path.split("."):
            node = getattr(node, step, None)
        if node is None:
            found.append(Input(path, value, "default", rule))
    return found


def _with_measure(name: str, i: Input) -> Input:
    return Input(i.field, i.value, i.origin, i.rule, i.spread, i.shape, _MEASURE.get(name))


def _taper(build: Build, chemistry: str, series: int) -> tuple[float, float]:
    """Pack voltages where the controller begins and ends holding back; the end always below the beginning."""
    start, end = (v * series for v in estimate.TAPER_PER_CELL[chemistry])
    said = acting(build)
    start = said.taper_start_v if said.taper_start_v is not None else start
    end = said.taper_end_v if said.taper_end_v is not None else min(end, 0.95 * start)
    return max(start, end + 0.1), end
