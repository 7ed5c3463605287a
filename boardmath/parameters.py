"""From a build file to the model's parameters: every value with its origin, and arrays for the engine.

:func:`resolve` decides, for one build, what each input of the model is and where it comes from. :func:`board_of` turns
inputs of one or many builds, or of many samples of one, into a :class:`~boardmath.powertrain.Board`.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from math import pi, sqrt
from typing import Any, Literal

import numpy as np

from boardmath import estimate
from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Controller, Enclosure, Pack, Wiring
from boardmath.buildfile.figures import Record
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.estimate import Estimate
from boardmath.physics import air, motor
from boardmath.physics import cell as cells
from boardmath.physics.types import Array
from boardmath.powertrain import Board

Origin = Literal["measured", "stated", "estimated", "default", "pinned"]
Shape = Literal["relative", "loss"]

RPM = 2.0 * pi / 60.0
DEFAULT_CRUISE_KMH = 24.0
"""Where most riders settle on a bicycle path (24 to 27, common practice, no source)."""
DEFAULT_RESERVE_PCT = 15.0
DEFAULT_TEMPERATURE_C = 15.0
DEFAULT_DUTY_PCT = 95.0
DEFAULT_POLE_PAIRS = 7
DEFAULT_CLIMB_M = 200.0
WARM_WINDING = 35.0
"""K above ambient at which a riding motor's winding is taken, where heat itself is not followed."""


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


_STATED_SPREAD = {
    "kv_rpm_per_v": 0.03,
    "phase_resistance_mohm": 0.10,
    "no_load_current_a": 0.15,
    "capacity_ah": 0.03,
    "resistance_mohm": 0.12,
    "mass_g": 0.03,
}
_MEASURED_SPREAD = 0.01
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


def _taken(path: str, part: Record, key: str, otherwise: Estimate) -> Input:
    """The part's own figure if it has one, else the estimate."""
    value = getattr(part, key)
    full = f"{path}.{key}"
    if value is None:
        return Input(full, otherwise.value, "estimated", otherwise.rule, otherwise.spread)
    if key in (getattr(part, "measured", None) or ()):
        return Input(full, float(value), "measured", None, _MEASURED_SPREAD)
    return Input(full, float(value), "stated", None, _STATED_SPREAD.get(key, 0.0))


def _pinned(field_name: str, value: float | None, otherwise: Estimate, shape: Shape = "relative") -> Input:
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


def resolve_masses(build: Build) -> dict[str, Input]:
    """The mass of each part of the board in g, by part. A part not chosen yet counts as a usual one.

    Remote and charger are not carried on the board.
    """
    parts = build.parts
    kind = drive_kind(build)
    motors = parts.motors or Motors()
    count = motors.count or 1
    pack = parts.pack or Pack()
    cell = pack.cell or Cell()
    capacity, nominal = _cell_capacity(pack).value, cell_voltages(pack)[1]
    cell_count = (pack.series or 10) * (pack.parallel or 1)
    each_cell = _taken("parts.pack.cell", cell, "mass_g", estimate.cell_mass(cell, capacity, nominal))
    whole_pack = Estimate(
        each_cell.value * cell_count * estimate.PACK_OVER_CELLS, f"{cell_count} cells and 12 % on top", 0.05
    )
    controller, drive = parts.controller or Controller(), parts.drive or Drive()

    found = {
        "deck": (parts.deck or Deck(), 1, estimate.deck_mass(parts.deck or Deck())),
        "trucks": (parts.trucks or Trucks(), 1, estimate.trucks_mass(parts.trucks or Trucks())),
        "wheels": (parts.wheels or Wheels(), 1, estimate.wheels_mass(parts.wheels or Wheels())),
        "motors": (motors, count, estimate.motor_mass(motors)),
        "drive": (drive, count, estimate.drive_mass(kind)),
        "pack": (pack, 1, whole_pack),
        "controller": (controller, controller.units or 1, estimate.controller_mass()),
        "enclosure": (
            parts.enclosure or Enclosure(),
            1,
            estimate.enclosure_mass(parts.enclosure or Enclosure()),
        ),
    }
    masses: dict[str, Input] = {}
    for name, (part, times, guess) in found.items():
        one = _taken(f"parts.{name}", part, "mass_g", guess)
        masses[name] = Input(one.field, one.value * times, one.origin, one.rule, one.spread)
    for name, usual in (("risers", 60.0), ("switch", 60.0), ("fuse", 20.0), ("wiring", 150.0)):
        other = getattr(parts, name)
        if other is not None:
            masses[name] = _taken(f"parts.{name}", other, "mass_g", Estimate(usual, "usual", 0.3))
    for i, extra in enumerate(parts.extras or []):
        if extra.mass_g is not None:
            masses[f"extras.{i}"] = Input(
                f"parts.extras.{i}.mass_g", extra.mass_g * (extra.count or 1), "stated", None, 0.03
            )
    return masses


def board_mass(masses: Mapping[str, Input]) -> Input:
    """The board as carried, kg, with the spread of its parts' masses."""
    total = sum(m.value for m in masses.values())
    spread = sqrt(sum((m.value * m.spread) ** 2 for m in masses.values())) / total
    return Input("parts", total / 1000.0, "estimated", "sum of the parts", spread)


def cell_voltages(pack: Pack) -> tuple[float, float, float]:
    """Full, nominal and empty voltage of one cell."""
    cell = pack.cell or Cell()
    full, nominal, empty = estimate.CELL_VOLTAGES[cell.chemistry or "nmc"]
    return cell.full_v or full, cell.nominal_v or nominal, cell.empty_v or empty


def full_voltage(pack: Pack) -> float:
    """The pack's voltage straight off a charger that fills its cells, V."""
    return (pack.series or 0) * cell_voltages(pack)[0]


def _cell_capacity(pack: Pack) -> Input:
    cell = pack.cell or Cell()
    return _taken("parts.pack.cell", cell, "capacity_ah", estimate.cell_capacity(cell))


def cell_rating(pack: Pack) -> Input:
    """Largest discharge current of one cell, A."""
    cell = pack.cell or Cell()
    return _taken(
        "parts.pack.cell", cell, "max_discharge_a", estimate.cell_max_discharge(cell, _cell_capacity(pack).value)
    )


def pack_current_limits(build: Build) -> dict[str, float]:
    """Everything that holds the pack's current back while riding, A for the whole pack, by field. May be empty."""
    parts, units = build.parts, (build.parts.controller.units or 1) if build.parts.controller else 1
    limits: dict[str, float] = {}
    if build.settings.pack_current_a is not None:
        limits["settings.pack_current_a"] = build.settings.pack_current_a * units
    if parts.controller is not None and parts.controller.max_pack_current_a is not None:
        limits["parts.controller.max_pack_current_a"] = parts.controller.max_pack_current_a * units
    guard = parts.pack.protection if parts.pack else None
    if guard is not None and guard.in_drive_path and guard.max_discharge_a is not None:
        limits["parts.pack.protection.max_discharge_a"] = guard.max_discharge_a
    return limits


def cell_charge_rating(pack: Pack) -> Input:
    """Largest charge current of one cell, A."""
    cell = pack.cell or Cell()
    guess = estimate.cell_max_charge(cell, _cell_capacity(pack).value)
    return _taken("parts.pack.cell", cell, "max_charge_a", guess)


def brake_current_limit(build: Build, motor_current: float) -> float:
    """A of one motor when braking: as set, but never above what the controller gives."""
    set_to, controller = build.settings.motor_brake_a, build.parts.controller
    most = (controller.max_motor_current_a if controller else None) or motor_current
    return max(min(set_to if set_to is not None else motor_current, most), 1e-3)


def regen_current_limit(build: Build) -> float:
    """A that braking may put into the pack: as set (times controllers), else what the cells may be charged with."""
    pack = build.parts.pack or Pack()
    units = (build.parts.controller.units or 1) if build.parts.controller else 1
    if build.settings.pack_regen_a is not None:
        return max(build.settings.pack_regen_a * units, 1e-3)
    return cell_charge_rating(pack).value * (pack.parallel or 1)


def resolve(build: Build) -> Resolved:
    """All inputs of the model for one build.

    Raises:
        Incomplete: naming what is still to be chosen.
    """
    if needs := missing(build):
        raise Incomplete(needs)
    parts, brief, settings, pinned = build.parts, build.brief, build.settings, build.assumptions
    assert parts.wheels is not None
    assert parts.motors is not None
    assert parts.pack is not None
    wheels, motors, pack = parts.wheels, parts.motors, parts.pack
    drive, controller = parts.drive or Drive(), parts.controller or Controller()
    cell = pack.cell or Cell()
    count, series = motors.count or 1, pack.series or 1
    kind = drive_kind(build)
    chemistry = cell.chemistry or "nmc"
    full_v, _, _ = cell_voltages(pack)
    temperature = brief.temperature_c if brief.temperature_c is not None else DEFAULT_TEMPERATURE_C

    resistance = _taken("parts.motors", motors, "phase_resistance_mohm", estimate.phase_resistance(motors))
    if motors.phase_resistance_mohm is not None and motors.resistance_is == "line_to_line":
        resistance = Input(
            resistance.field, resistance.value / 2.0, resistance.origin, "half of line to line", resistance.spread
        )
    rating, capacity = cell_rating(pack), _cell_capacity(pack)
    masses = resolve_masses(build)
    inputs = {
        "crr": _pinned("crr", pinned.crr, estimate.rolling_resistance(wheels, brief)),
        "cda": _pinned("cda_m2", pinned.cda_m2, estimate.drag_area(build.rider)),
        "drive_efficiency": _pinned(
            "drive_efficiency", pinned.drive_efficiency, estimate.drive_efficiency(kind, drive), "loss"
        ),
        "drive_drag": _estimated("parts.drive.drag_n", estimate.drive_drag(kind, drive, count)),
        "controller_efficiency": _pinned(
            "controller_efficiency", pinned.controller_efficiency, Estimate(0.97, "usual", 0.3), "loss"
        ),
        "idle": _pinned("idle_w", pinned.idle_w, Estimate(4.0, "controller, receiver and protection awake", 0.3)),
        "grip": _estimated("parts.wheels.grip", estimate.grip(wheels, brief)),
        "kv": _taken("parts.motors", motors, "kv_rpm_per_v", Estimate(0, "", 0)),
        "phase_resistance": resistance,
        "no_load_current": _taken("parts.motors", motors, "no_load_current_a", estimate.no_load_current(motors)),
        "cell_capacity": capacity,
        "cell_resistance": _taken("parts.pack.cell", cell, "resistance_mohm", estimate.cell_resistance(cell, rating.value)),
        "path_resistance": _estimated("parts.wiring", estimate.path_resistance(series, parts.wiring or Wiring())),
        "board_mass": board_mass(masses),
        **{
            name: _estimated("parts.motors.heat", guess)
            for name, guess in estimate.motor_heat(motors, masses["motors"].value / count).items()
        },
        "rotating_mass": _estimated(
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
    electrical_speeds = [e for e in (controller.max_erpm, settings.max_erpm) if e is not None]
    pack_currents = pack_current_limits(build)
    units = controller.units or 1
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
        "pole_pairs": float(motors.pole_pairs or DEFAULT_POLE_PAIRS),
        "winding_temperature": temperature + WARM_WINDING,
        "ambient": temperature,
        "winding_limit": estimate.WINDING_LIMIT_C,
        "controller_heat_capacity": masses["controller"].value / 1000.0 * 900.0,
        "controller_to_air": estimate.CONTROLLER_TO_AIR / units,
        "controller_limit": estimate.CONTROLLER_LIMIT_C,
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
        "parts.motors.pole_pairs": (DEFAULT_POLE_PAIRS, "usual for outrunners"),
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


def cruise_speed(build: Build) -> float:
    """The brief's cruising speed in km/h, or where most riders settle."""
    return build.brief.cruise_kmh or DEFAULT_CRUISE_KMH


def gear_ratio(build: Build) -> float:
    """Turns of the motor for one of the wheel."""
    drive = build.parts.drive
    if drive_kind(build) in ("hub", "direct") or drive is None:
        return 1.0
    return (drive.wheel_teeth or 1) / (drive.motor_teeth or 1)


def _estimated(field_name: str, guess: Estimate) -> Input:
    return Input(field_name, guess.value, "estimated", guess.rule, guess.spread)


def _with_measure(name: str, i: Input) -> Input:
    return Input(i.field, i.value, i.origin, i.rule, i.spread, i.shape, _MEASURE.get(name))


def _taper(build: Build, chemistry: str, series: int) -> tuple[float, float]:
    """Pack voltages where the controller begins and ends holding back; the end always below the beginning."""
    start, end = (v * series for v in estimate.TAPER_PER_CELL[chemistry])
    start = build.settings.taper_start_v if build.settings.taper_start_v is not None else start
    end = build.settings.taper_end_v if build.settings.taper_end_v is not None else min(end, 0.95 * start)
    return max(start, end + 0.1), end


def board_of(values: Mapping[str, Any], fixed: Mapping[str, Any]) -> Board:
    """The engine's arrays from inputs in build-file units; arrays of any shapes that broadcast.

    Args:
        values: by name as in :attr:`Resolved.inputs`, numbers or arrays.
        fixed: by name as in :attr:`Resolved.fixed`.
    """
    v = {name: np.asarray(value, dtype=np.float64) for name, value in {**values, **fixed}.items()}
    return Board(
        rolling_mass=v["board_mass"] + v["load"],
        crr=v["crr"],
        cda=v["cda"],
        air_density=v["air_density"],
        head_wind=v["head_wind"],
        wheel_radius=v["wheel_radius"],
        gear=v["gear"],
        drive_efficiency=v["drive_efficiency"],
        drive_drag=v["drive_drag"],
        motors=v["motors"],
        kv=v["kv"] * RPM,
        phase_resistance=motor.resistance_at(v["phase_resistance"] / 1000.0, v["winding_temperature"]),
        no_load_current=v["no_load_current"],
        pole_pairs=v["pole_pairs"],
        motor_current_limit=v["motor_current_limit"],
        electrical_speed_limit=v["electrical_speed_limit"],
        duty=v["duty"],
        controller_efficiency=v["controller_efficiency"],
        idle_power=v["idle"],
        pack_current_limit=v["pack_current_limit"],
        taper_start=v["taper_start"],
        taper_end=v["taper_end"],
        chemistry=v["chemistry"],
        series=v["series"],
        cell_full=v["cell_full"],
        pack_capacity=v["cell_capacity"] * v["parallel"] * 3600.0 * v["capacity_factor"],
        cell_resistance=v["cell_resistance"] / 1000.0 * v["series"] / v["parallel"] * v["resistance_factor"],
        path_resistance=v["path_resistance"] / 1000.0,
        cell_temperature=v["cell_temperature"],
        charge_full=v["charge_full"],
        charge_reserve=v["charge_reserve"],
        grip=v["grip"],
        driven_wheels=v["driven_wheels"],
        height_over_wheelbase=v["height_over_wheelbase"],
        cruise_speed=v["cruise_speed"],
        **{name: v[name] for name in _TAKEN_AS_THEY_ARE},
    )


_TAKEN_AS_THEY_ARE = (
    "rotating_mass", "brake_current_limit", "regen_current_limit", "winding_temperature", "ambient",
    "winding_heat_capacity", "case_heat_capacity", "winding_to_case", "case_to_air", "winding_limit",
    "controller_heat_capacity", "controller_to_air", "controller_limit",
)  # fmt: skip


def nominal_board(builds: Sequence[Resolved]) -> Board:
    """One board a build, every input at its own value; arrays of shape (builds,)."""
    names, fixed = builds[0].inputs.keys(), builds[0].fixed.keys()
    return board_of(
        {name: np.array([b.inputs[name].value for b in builds]) for name in names},
        {name: np.array([b.fixed[name] for b in builds]) for name in fixed},
    )


def uncertain(build: Resolved) -> list[str]:
    """Names of the inputs that carry a spread, in a fixed order."""
    return [name for name, i in build.inputs.items() if i.spread > 0.0]


def sampled_board(build: Resolved, standard_normal: Array) -> Board:
    """Many samples of one build; ``standard_normal`` has a row a sample and a column for each of :func:`uncertain`."""
    values: dict[str, Any] = {name: i.value for name, i in build.inputs.items()}
    for column, name in enumerate(uncertain(build)):
        i = build.inputs[name]
        factor = np.exp(i.spread * standard_normal[:, column])
        if i.shape == "loss":
            values[name] = 1.0 - np.minimum((1.0 - i.value) * factor, 0.6)
        else:
            values[name] = i.value * factor
    shape = (standard_normal.shape[0],)
    board = board_of(values, build.fixed)
    return Board(**{f: np.broadcast_to(getattr(board, f), shape) for f in Board.__dataclass_fields__})
