"""The operating point: what a board takes to hold a speed on a grade, and which of its abilities gives way first.

Everything broadcasts: a :class:`Board` holds arrays, of one build, of many samples of it, or of ten thousand candidates.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from boardmath.physics import cell, motor, pack, road_load
from boardmath.physics.types import Array, Numbers
from boardmath.roots import crossing

LIMITS = (
    "pack voltage",
    "motor current",
    "pack current",
    "low-voltage taper",
    "electrical speed",
    "grip",
    "pack power",
    "brake current",
    "charging current",
    "full pack",
)
"""What can give way, in words; the index is what the solvers return. The last three hold back braking."""


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
    rotating_mass: Array  # kg at the road that wheels and rotors add
    brake_current_limit: Array  # A, one motor
    regen_current_limit: Array  # A, into the pack
    brake_ceiling: Array  # V of the pack, above which braking gives nothing back
    winding_temperature: Array  # C, at which phase_resistance holds
    ambient: Array  # C
    winding_heat_capacity: Array  # J/K, one motor
    case_heat_capacity: Array  # J/K
    winding_to_case: Array  # K/W
    case_to_air: Array  # K/W, riding
    winding_limit: Array  # C
    controller_heat_capacity: Array  # J/K, all controllers
    controller_to_air: Array  # K/W
    controller_limit: Array  # C

    @cached_property
    def torque_constant(self) -> Array:
        return motor.torque_constant(self.kv)

    @cached_property
    def unloaded_speed(self) -> Array:
        """m/s with the wheels in the air and a full pack: what bare arithmetic promises."""
        full = self.open_circuit(self.charge_full)
        return np.asarray(full * self.duty * self.kv / self.gear * self.wheel_radius)

    @cached_property
    def slip_thrust(self) -> Array:
        """Thrust in N at the road at which the driven wheels slip.

        ``F = mu W (1/2 + h/L F/W)`` a driven rear axle, solved for F: thrust and climbing press the rear wheels down, and
        the rider leans against it.
        """
        share = np.minimum(0.5 / np.maximum(1.0 - self._load_transfer, 1e-3), _LEANING_LIMIT)
        return self._held_by(share)

    @cached_property
    def slip_braking(self) -> Array:
        """The same when braking, which lifts the rear wheels."""
        return self._held_by(np.maximum(0.5 / (1.0 + self._load_transfer), 1.0 - _LEANING_LIMIT))

    @property
    def _load_transfer(self) -> Array:
        return np.asarray(self.grip * np.minimum(self.driven_wheels, 2.0) / 2.0 * self.height_over_wheelbase)

    def _held_by(self, rear_share: Array) -> Array:
        rear, front = np.minimum(self.driven_wheels, 2.0) / 2.0, np.maximum(self.driven_wheels - 2.0, 0.0) / 2.0
        weight = self.rolling_mass * road_load.GRAVITY
        return np.asarray(self.grip * weight * (rear * rear_share + front * (1.0 - rear_share)))

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


def operating_point(
    board: Board, speed: Numbers, grade: Numbers, charge: Numbers, acceleration: Numbers = 0.0
) -> OperatingPoint:
    """What holding ``speed`` (m/s) on ``grade`` (rise over run) takes at ``charge`` (0 to 1).

    With an ``acceleration`` (m/s2) also what that takes; braking harder than road and air do gives energy back.
    """
    thrust = needed_thrust(board, speed, grade, acceleration)
    return point_at_thrust(board, speed, thrust, board.open_circuit(charge), board.pack_resistance(charge))


def road_resistance(board: Board, speed: Numbers, grade: Numbers) -> Array:
    """Force in N of road, grade and air against the board."""
    return np.asarray(
        road_load.climbing_force(board.rolling_mass, grade)
        + road_load.rolling_resistance(board.rolling_mass, board.crr, grade)
        + road_load.air_drag(board.air_density, board.cda, speed, board.head_wind)
    )


def needed_thrust(board: Board, speed: Numbers, grade: Numbers, acceleration: Numbers = 0.0) -> Array:
    """Force in N that the drive has to give at the road, its own drag included; negative when braking."""
    inertia = (board.rolling_mass + board.rotating_mass) * acceleration
    return np.asarray(road_resistance(board, speed, grade) + board.drive_drag + inertia)


def point_at_thrust(
    board: Board, speed: Numbers, thrust: Array, open_circuit: Array, resistance: Array
) -> OperatingPoint:
    """The operating point at which the drive gives ``thrust`` N at the road; the pack as seen at its terminals."""
    motor_speed = speed / board.wheel_radius * board.gear
    # Losses of the drive help when the wheels drive the motor.
    through = np.where(thrust >= 0.0, 1.0 / board.drive_efficiency, board.drive_efficiency)
    torque = thrust * through * board.wheel_radius / (board.gear * board.motors)
    current = torque / board.torque_constant + motor.no_load_current(board.no_load_current, board.kv, motor_speed)
    motor_voltage = motor.line_voltage(board.kv, board.phase_resistance, current, motor_speed)
    motor_power = motor.electrical_power(board.kv, board.phase_resistance, current, motor_speed)
    converted = np.where(motor_power >= 0.0, 1.0 / board.controller_efficiency, board.controller_efficiency)
    pack_power = board.motors * motor_power * converted + board.idle_power
    pack_current, power_share = pack.current_for_power(pack_power, open_circuit, resistance)
    bus_voltage = open_circuit - pack_current * resistance

    left = np.clip((bus_voltage - board.taper_end) / (board.taper_start - board.taper_end), 0.0, 1.0)
    current_use = np.maximum(pack_current, 0.0) / board.pack_current_limit
    tapering = left < 1.0
    charging = np.maximum(-pack_current, 0.0)
    # A pack may be charged to its full voltage and no further, also by braking.
    room = np.maximum(board.brake_ceiling - open_circuit, 1e-3)
    parts = (
        motor_voltage / (board.duty * bus_voltage),
        np.maximum(current, 0.0) / board.motor_current_limit,
        np.where(tapering, 0.0, current_use),
        np.where(tapering, current_use / np.maximum(left, 1e-9), 0.0),
        motor_speed * board.pole_pairs / board.electrical_speed_limit,
        np.where(thrust >= 0.0, thrust / board.slip_thrust, -thrust / board.slip_braking),
        power_share,
        np.maximum(-current, 0.0) / board.brake_current_limit,
        charging / board.regen_current_limit,
        charging * resistance / room,
    )
    shape = np.broadcast_shapes(*(np.shape(p) for p in parts))
    use = np.empty((len(LIMITS), *shape))
    for row, part in enumerate(parts):
        use[row] = part
    return OperatingPoint(use, thrust, current, motor_voltage, motor_speed, pack_power, pack_current, bus_voltage)


_LEANING_LIMIT = 0.65
"""Largest share of the weight on the rear axle: beyond it a rider leans forward (common practice, no source)."""
_JUST_ABOVE = 1e-5
"""Share of the span by which a limit is looked at beyond the crossing that it causes."""


def _reach(at: Callable[[Array], OperatingPoint], low: Array, high: Array) -> tuple[Array, Array]:
    """How far every ability holds in ``low``..``high``, and the limit that gives way just beyond."""
    # Uses have no upper bound (a tapered current near its end); far beyond 1 only their side matters.
    reached = crossing(lambda x: np.minimum(at(x).worst, 4.0) - 1.0, low, high)
    return reached, at(reached + _JUST_ABOVE * (high - low)).limit


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

    def at(speed: Array) -> OperatingPoint:
        return point_at_thrust(board, speed, needed_thrust(board, speed, grade), open_circuit, resistance)

    shape = np.broadcast_shapes(np.shape(ceiling), np.shape(grade), np.shape(board.rolling_mass))
    return _reach(at, np.zeros(shape), np.broadcast_to(ceiling, shape))


def free_speed(board: Board, charge: Numbers) -> tuple[Array, Array]:
    """The speed of the driven wheels' rims in the air, m/s, at full throttle, and what limits it.

    Only the motors' own drag and that of belts or gears hold them back; the controller's limits act as on the road.
    """
    open_circuit, resistance = board.open_circuit(charge), board.pack_resistance(charge)
    ceiling = open_circuit * board.duty * board.kv / board.gear * board.wheel_radius

    def at(speed: Array) -> OperatingPoint:
        return point_at_thrust(board, speed, np.broadcast_to(board.drive_drag, shape), open_circuit, resistance)

    shape = np.broadcast_shapes(np.shape(ceiling), np.shape(board.drive_drag))
    return _reach(at, np.zeros(shape), np.broadcast_to(ceiling, shape))


def attained_speed(board: Board, wanted: Numbers, grade: Numbers, charge: Numbers) -> tuple[Array, NDArray[np.bool_]]:
    """``wanted`` speed (m/s) or the highest that can be held, and where it is less than wanted.

    Searched for only where ``wanted`` is too much, which is what makes long rows of moments cheap.
    """
    first = operating_point(board, wanted, grade, charge).worst
    shape = np.broadcast_shapes(first.shape, np.shape(wanted))
    slow = np.broadcast_to(first > 1.0, shape)
    speed = np.broadcast_to(np.asarray(wanted, dtype=float), shape)
    if slow.any():
        speed = speed.copy()
        at_grade, at_charge = (np.broadcast_to(x, shape)[slow] for x in (grade, charge))
        speed[slow] = highest_speed(board.take(shape, slow), at_grade, at_charge)[0]
    return speed, slow


STEEPEST = 1.5
"""Rise over run at which the search for the steepest start ends: no board on wheels climbs it."""


def steepest_start(board: Board, charge: Numbers) -> tuple[Array, Array]:
    """The steepest grade (rise over run) on which a board can hold itself at a standstill under power, and its limit.

    At standstill the winding's heat is the only power, so motor current, grip or the pack decide. 0 where it cannot even
    start on the flat.
    """
    open_circuit, resistance = board.open_circuit(charge), board.pack_resistance(charge)

    def at(grade: Array) -> OperatingPoint:
        return point_at_thrust(board, 0.0, needed_thrust(board, 0.0, grade), open_circuit, resistance)

    shape = np.broadcast_shapes(np.shape(open_circuit), np.shape(board.rolling_mass), np.shape(board.cda))
    return _reach(at, np.zeros(shape), np.full(shape, STEEPEST))


def _most(board: Board, speed: Numbers, charge: Numbers, sign: float) -> tuple[Array, Array]:
    """The largest thrust (``sign`` 1) or braking force (-1) at the road, and its limit."""
    open_circuit, resistance = board.open_circuit(charge), board.pack_resistance(charge)
    shape = np.broadcast_shapes(np.shape(open_circuit), np.shape(speed), np.shape(board.rolling_mass))
    # More than the wheels can hold is never needed.
    high = np.broadcast_to(1.01 * board.slip_thrust, shape)

    def at(force: Array) -> OperatingPoint:
        return point_at_thrust(board, speed, sign * force, open_circuit, resistance)

    return _reach(at, np.zeros(shape), high)


def most_thrust(board: Board, speed: Numbers, charge: Numbers) -> tuple[Array, Array]:
    """The largest thrust in N that the drive can give at the road at ``speed``, its own drag included, and its limit.

    0 where even standing thrust is too much (above the speed that its volts allow).
    """
    return _most(board, speed, charge, 1.0)


def most_braking(board: Board, speed: Numbers, charge: Numbers) -> tuple[Array, Array]:
    """The largest force in N with which the motors can hold back at the road at ``speed``, and its limit."""
    return _most(board, speed, charge, -1.0)
