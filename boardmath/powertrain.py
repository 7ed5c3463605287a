"""The operating point: what a board takes to hold a speed on a grade, and which of its abilities gives way first.

Everything broadcasts: a :class:`Board` holds arrays, of one build, of many samples of it, or of ten thousand candidates.
"""

from dataclasses import dataclass, fields, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from boardmath.physics import cell, motor, pack, road_load
from boardmath.physics.types import Array, Numbers

LIMITS = (
    "pack voltage",
    "motor current",
    "pack current",
    "low-voltage taper",
    "electrical speed",
    "grip",
    "pack power",
)
"""What can give way, in words; the index is what the solvers return."""
_TAPER = LIMITS.index("low-voltage taper")
_PACK_CURRENT = LIMITS.index("pack current")


@dataclass(frozen=True)
class Board:
    """One or many boards with rider, in SI units; every field an array, all broadcastable with each other.

    Currents of the motor are peak phase amperes of one motor; pack figures are those of the whole pack.
    """

    rolling_mass: Array  # kg, board, rider and load
    crr: Array
    cda: Array  # m2
    air_density: Array  # kg/m3
    head_wind: Array  # m/s
    wheel_radius: Array  # m, loaded
    gear: Array
    drive_efficiency: Array
    drive_drag: Array  # N at the road
    motors: Array
    kv: Array  # rad/s per V
    phase_resistance: Array  # ohm, line to neutral, winding warm
    no_load_current: Array  # A
    pole_pairs: Array
    motor_current_limit: Array  # A
    electrical_speed_limit: Array  # rad/s
    duty: Array
    controller_efficiency: Array
    idle_power: Array  # W
    pack_current_limit: Array  # A
    taper_start: Array  # V
    taper_end: Array  # V
    chemistry: Array  # index into cell.CHEMISTRIES
    series: Array
    cell_full: Array  # V
    pack_capacity: Array  # C
    cell_resistance: Array  # ohm, all cells together, pulse, 25 C, half charge
    path_resistance: Array  # ohm, links, wire, connectors
    cell_temperature: Array  # K
    charge_full: Array  # 0..1, as it is charged
    charge_reserve: Array  # 0..1
    grip: Array  # friction coefficient of the driven wheels
    driven_wheels: Array
    height_over_wheelbase: Array
    cruise_speed: Array  # m/s

    @cached_property
    def torque_constant(self) -> Array:
        return motor.torque_constant(self.kv)

    @cached_property
    def unloaded_speed(self) -> Array:
        """m/s with the wheels in the air and a full pack: what bare arithmetic promises."""
        full = self.open_circuit(self.charge_full)
        return np.asarray(full * self.duty * self.kv / self.gear * self.wheel_radius)

    def open_circuit(self, charge: Numbers) -> Array:
        """Pack voltage at rest, V."""
        return np.asarray(self.series * cell.open_circuit_voltage(self.chemistry, charge, self.cell_full))

    def pack_resistance(self, charge: Numbers) -> Array:
        """Resistance of cells and path while riding, ohm."""
        return np.asarray(
            self.cell_resistance * cell.resistance_factor(charge, self.cell_temperature) + self.path_resistance
        )

    def with_axis(self) -> "Board":
        """The same boards with an empty last axis, to be set against a row of situations."""
        return Board(**{f.name: getattr(self, f.name)[..., np.newaxis] for f in fields(self)})

    def with_values(self, **values: Array) -> "Board":
        """The same boards with some fields replaced."""
        return replace(self, **{name: np.asarray(value, dtype=float) for name, value in values.items()})

    def take(self, shape: tuple[int, ...], mask: NDArray[np.bool_]) -> "Board":
        """The boards at ``mask`` once all fields are broadcast to ``shape``; the result is flat."""
        return Board(**{f.name: np.broadcast_to(getattr(self, f.name), shape)[mask] for f in fields(self)})


@dataclass(frozen=True)
class OperatingPoint:
    """What a board takes at one speed, grade and charge. ``use`` has the limits as its first axis: 1 is all there is."""

    use: Array
    thrust: Array  # N at the road, drag of the drive included
    motor_current: Array  # A, one motor
    motor_voltage: Array  # V line to line peak
    motor_speed: Array  # rad/s
    pack_power: Array  # W
    pack_current: Array  # A
    bus_voltage: Array  # V

    @property
    def worst(self) -> Array:
        return np.asarray(self.use.max(axis=0))

    @property
    def limit(self) -> Array:
        """Index into :data:`LIMITS` of the ability that is used most."""
        return np.asarray(self.use.argmax(axis=0))


def operating_point(board: Board, speed: Numbers, grade: Numbers, charge: Numbers) -> OperatingPoint:
    """What holding ``speed`` (m/s) on ``grade`` (rise over run) takes at ``charge`` (0 to 1) in steady state."""
    return _point(board, speed, grade, board.open_circuit(charge), board.pack_resistance(charge))


def _point(board: Board, speed: Numbers, grade: Numbers, open_circuit: Array, resistance: Array) -> OperatingPoint:
    weight = board.rolling_mass * road_load.GRAVITY
    thrust = (
        road_load.climbing_force(board.rolling_mass, grade)
        + road_load.rolling_resistance(board.rolling_mass, board.crr, grade)
        + road_load.air_drag(board.air_density, board.cda, speed, board.head_wind)
        + board.drive_drag
    )
    motor_speed = speed / board.wheel_radius * board.gear
    torque = np.maximum(thrust, 0.0) * board.wheel_radius / (board.gear * board.drive_efficiency * board.motors)
    current = torque / board.torque_constant + motor.no_load_current(board.no_load_current, board.kv, motor_speed)
    motor_voltage = motor.line_voltage(board.kv, board.phase_resistance, current, motor_speed)
    motor_power = motor.electrical_power(board.kv, board.phase_resistance, current, motor_speed)
    pack_power = board.motors * motor_power / board.controller_efficiency + board.idle_power
    pack_current, power_share = pack.current_for_power(pack_power, open_circuit, resistance)
    bus_voltage = open_circuit - pack_current * resistance

    left = np.clip((bus_voltage - board.taper_end) / (board.taper_start - board.taper_end), 0.0, 1.0)
    current_use = pack_current / board.pack_current_limit
    tapered_use = current_use / np.maximum(left, 1e-9)
    tapering = left < 1.0
    on_driven = road_load.driven_share(thrust, weight, board.height_over_wheelbase, _LEANING_LIMIT)
    slip_force = board.grip * weight * on_driven * np.minimum(board.driven_wheels, 2.0) / 2.0

    parts = (
        motor_voltage / (board.duty * bus_voltage),
        current / board.motor_current_limit,
        np.where(tapering, 0.0, current_use),
        np.where(tapering, tapered_use, 0.0),
        motor_speed * board.pole_pairs / board.electrical_speed_limit,
        thrust / slip_force,
        power_share,
    )
    shape = np.broadcast_shapes(*(np.shape(p) for p in parts))
    use = np.empty((len(LIMITS), *shape))
    for row, part in enumerate(parts):
        use[row] = part
    return OperatingPoint(use, thrust, current, motor_voltage, motor_speed, pack_power, pack_current, bus_voltage)


_LEANING_LIMIT = 0.65
"""Largest share of the weight on the rear axle: beyond it a rider leans forward (common practice, no source)."""
_HALVINGS = 26  # 30 m/s / 2^26 is under a micrometre a second


def _bisect(feasible: Any, low: Array, high: Array) -> tuple[Array, Array]:
    """Narrows to the last feasible value in ``low``..``high``, all elements at once, ``low`` taken as feasible."""
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        ok = feasible(middle)
        low = np.where(ok, middle, low)
        high = np.where(ok, high, middle)
    return low, high


def highest_speed(board: Board, grade: Numbers, charge: Numbers) -> tuple[Array, Array]:
    """The highest speed that can be held, and what limits it.

    Args:
        board: any shape; grade, charge: broadcastable with it.

    Returns:
        Speed in m/s, 0 where the board cannot even stand still under power, and the index into :data:`LIMITS` of what
        gives way just above it.
    """
    open_circuit, resistance = board.open_circuit(charge), board.pack_resistance(charge)
    ceiling = open_circuit * board.duty * board.kv / board.gear * board.wheel_radius
    shape = np.broadcast_shapes(np.shape(ceiling), np.shape(grade), np.shape(board.rolling_mass))
    low, high = _bisect(
        lambda v: _point(board, v, grade, open_circuit, resistance).worst <= 1.0,
        np.zeros(shape),
        np.broadcast_to(ceiling, shape).copy(),
    )
    return low, _point(board, high, grade, open_circuit, resistance).limit


STEEPEST = 1.5
"""Rise over run at which the search for the steepest start ends: no board on wheels climbs it."""


def steepest_start(board: Board, charge: Numbers) -> tuple[Array, Array]:
    """The steepest grade (rise over run) on which a board can hold itself at a standstill under power, and its limit.

    At standstill the winding's heat is the only power, so motor current, grip or the pack decide. A negative grade means
    that it cannot start on the flat: only this far downhill.
    """
    open_circuit, resistance = board.open_circuit(charge), board.pack_resistance(charge)
    shape = np.broadcast_shapes(np.shape(open_circuit), np.shape(board.rolling_mass), np.shape(board.cda))
    low, high = _bisect(
        lambda grade: _point(board, 0.0, grade, open_circuit, resistance).worst <= 1.0,
        np.full(shape, -0.2),
        np.full(shape, STEEPEST),
    )
    return low, _point(board, 0.0, high, open_circuit, resistance).limit
