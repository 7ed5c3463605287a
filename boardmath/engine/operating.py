"""The operating point: what a board takes to hold a speed on a grade, and which of its abilities gives way first."""

from typing import NamedTuple, get_args

from boardmath.engine.boards import Board
from boardmath.physics import cell, controller, motor, pack, road_load
from boardmath.physics.jit import kernel
from boardmath.physics.limit import Limit

LIMITS: tuple[Limit, ...] = get_args(Limit)[:10]
"""What can give way, in words; the index is what the solvers return. The last three hold back braking."""
_LEANING_LIMIT = 0.65
"""Largest share of the weight on the rear axle: beyond it a rider leans forward (common practice, no source)."""


class Point(NamedTuple):
    """What a board takes at one moment."""

    motor_current: float  # A, peak, one motor
    motor_voltage: float  # V, line to line peak
    motor_speed: float  # rad/s
    controller_heat: float  # W, all controllers
    pack_power: float  # W
    pack_current: float  # A
    bus_voltage: float  # V
    power_share: float  # of the pack's utmost


class Uses(NamedTuple):
    """How much of each ability is used, in the order of :data:`LIMITS`; 1 is all there is."""

    pack_voltage: float
    motor_current: float
    pack_current: float
    taper: float
    electrical_speed: float
    grip: float
    pack_power: float
    brake_current: float
    charging_current: float
    full_pack: float


@kernel
def open_circuit(b: Board, charge: float) -> float:
    """Pack voltage at rest, V."""
    return b.series * cell.open_circuit_voltage(b.chemistry, charge, b.cell_full)


@kernel
def pack_resistance(b: Board, charge: float, kelvin: float) -> float:
    """Resistance of cells and path while riding, ohm, the cells at ``kelvin``."""
    return b.cell_resistance * cell.resistance_factor(charge, kelvin) + b.path_resistance


@kernel
def unloaded_speed(b: Board) -> float:
    """m/s with the wheels in the air and a full pack: what bare arithmetic promises."""
    return open_circuit(b, b.charge_full) * b.duty * b.kv / b.gear * b.wheel_radius


@kernel
def slip_force(b: Board, grade: float, braking: bool) -> float:
    """Force in N at the road at which the driven wheels slip on ``grade``.

    ``F = mu (N/2 + h/L F)`` of a driven rear axle with N = m g cos a, solved for F: thrust and climbing press the rear wheels
    down, and the rider leans against it. Braking lifts them.
    """
    rear, front = min(b.driven_wheels, 2.0) / 2.0, max(b.driven_wheels - 2.0, 0.0) / 2.0
    transfer = b.grip * rear * b.height_over_wheelbase
    if braking:
        share = max(0.5 / (1.0 + transfer), 1.0 - _LEANING_LIMIT)
    else:
        share = min(0.5 / max(1.0 - transfer, 1e-3), _LEANING_LIMIT)
    pressed = b.rolling_mass * road_load.GRAVITY * road_load.cosine(grade)
    return b.grip * pressed * (rear * share + front * (1.0 - share))


@kernel
def slip_grade(b: Board) -> float:
    """The grade, rise over run, that the driven wheels cannot hold: ``tan a = F / N - Crr``."""
    held = slip_force(b, 0.0, False) / (b.rolling_mass * road_load.GRAVITY)
    return max(held - b.crr, 0.0)


@kernel
def road_resistance(b: Board, speed: float, grade: float, wind: float) -> float:
    """Force in N of road, grade and air against the board; ``wind`` in m/s from ahead."""
    return (
        road_load.climbing_force(b.rolling_mass, grade)
        + road_load.rolling_resistance(b.rolling_mass, b.crr, grade)
        + road_load.air_drag(b.air_density, b.cda, speed, wind)
    )


@kernel
def point_at_thrust(b: Board, speed: float, thrust: float, voltage: float, resistance: float) -> Point:
    """The operating point at which the drive gives ``thrust`` N at the road, its own drag included.

    Args:
        voltage: V of the pack at rest; resistance: ohm of cells and path.
    """
    motor_speed = speed / b.wheel_radius * b.gear
    # Losses of the drive help when the wheels drive the motor.
    through = 1.0 / b.drive_efficiency if thrust >= 0.0 else b.drive_efficiency
    torque = thrust * through * b.wheel_radius / (b.gear * b.motors)
    current = torque / motor.torque_constant(b.kv) + motor.no_load_current(b.no_load_current, b.kv, motor_speed)
    warm = motor.resistance_at(b.phase_resistance, b.winding_temperature)
    motor_voltage = motor.line_voltage(b.kv, warm, current, motor_speed)
    power = motor.electrical_power(b.kv, warm, current, motor_speed)
    heat = controller.losses(b.conduction, b.switching, current, voltage)
    # A pinned efficiency stands for all of it, and is 1 otherwise.
    heat += abs(power) * (1.0 / b.controller_efficiency - 1.0 if power >= 0.0 else 1.0 - b.controller_efficiency)
    pack_power = b.motors * (power + heat) + b.idle_power
    pack_current, share = pack.current_for_power(pack_power, voltage, resistance)
    bus = voltage - pack_current * resistance
    return Point(current, motor_voltage, motor_speed, b.motors * heat, pack_power, pack_current, bus, share)


@kernel
def uses_at(b: Board, p: Point, thrust: float, grade: float, voltage: float, resistance: float) -> Uses:
    """How much of each ability an operating point uses."""
    span = (p.bus_voltage - b.taper_end) / (b.taper_start - b.taper_end)
    left = min(max(span, 0.0), 1.0)
    current_use = max(p.pack_current, 0.0) / b.pack_current_limit
    charging = max(-p.pack_current, 0.0)
    at_road = thrust - b.drive_drag
    grip = at_road / slip_force(b, grade, False) if at_road >= 0.0 else -at_road / slip_force(b, grade, True)
    # A pack may be charged to its full voltage and no further, also by braking.
    room = max(b.brake_ceiling - voltage, 1e-3)
    return Uses(
        p.motor_voltage / (b.duty * p.bus_voltage),
        max(p.motor_current, 0.0) / b.motor_current_limit,
        current_use if left >= 1.0 else 0.0,
        current_use / max(left, 1e-9) if left < 1.0 else 0.0,
        p.motor_speed * b.pole_pairs / b.electrical_speed_limit,
        grip,
        p.power_share,
        max(-p.motor_current, 0.0) / b.brake_current_limit,
        charging / b.regen_current_limit,
        charging * resistance / room,
    )


@kernel
def driving_use(uses: Uses, thrust: float) -> tuple[float, int]:
    """The ability that driving uses most, and how much of it: what braking cannot do, a foot does, and what pushes rolls on."""
    worst, which = uses.pack_voltage, 0
    if uses.motor_current > worst:
        worst, which = uses.motor_current, 1
    if uses.pack_current > worst:
        worst, which = uses.pack_current, 2
    if uses.taper > worst:
        worst, which = uses.taper, 3
    if uses.electrical_speed > worst:
        worst, which = uses.electrical_speed, 4
    if thrust >= 0.0 and uses.grip > worst:
        worst, which = uses.grip, 5
    if uses.pack_power > worst:
        worst, which = uses.pack_power, 6
    return worst, which


@kernel
def worst_of(uses: Uses) -> tuple[float, int]:
    """The ability of all that is used most, and how much of it."""
    worst, which = driving_use(uses, 0.0)
    if uses.brake_current > worst:
        worst, which = uses.brake_current, 7
    if uses.charging_current > worst:
        worst, which = uses.charging_current, 8
    if uses.full_pack > worst:
        worst, which = uses.full_pack, 9
    return worst, which


@kernel
def needed_thrust(b: Board, speed: float, grade: float, wind: float, acceleration: float) -> float:
    """Force in N that the drive has to give at the road, its own drag included; negative when braking."""
    inertia = (b.rolling_mass + b.rotating_mass) * acceleration
    return road_resistance(b, speed, grade, wind) + b.drive_drag + inertia


# --- how far abilities hold -----------------------------------------------------------------------------------------

BY_SPEED, BY_GRADE, BY_THRUST, BY_BRAKING, IN_THE_AIR = 0, 1, 2, 3, 4
"""What is raised until something gives way: road speed, the grade at rest, thrust, braking force, speed of free wheels."""
STEEPEST = 1.5
"""Rise over run at which the search for the steepest start ends: no board on wheels climbs it."""
_STEPS = 40
_CLOSE = 1e-7
_JUST_ABOVE = 1e-5
"""Share of the span by which a limit is looked at beyond the crossing that it causes."""


@kernel
def _use_at(
    b: Board, what: int, x: float, given: float, wind: float, voltage: float, resistance: float
) -> tuple[float, int]:
    """The largest use of the abilities that count for ``what`` raised to ``x``; ``given`` is grade or speed."""
    if what == BY_SPEED:
        thrust = needed_thrust(b, x, given, wind, 0.0)
        point = point_at_thrust(b, x, thrust, voltage, resistance)
        return driving_use(uses_at(b, point, thrust, given, voltage, resistance), thrust)
    if what == BY_GRADE:
        thrust = needed_thrust(b, 0.0, x, wind, 0.0)
        point = point_at_thrust(b, 0.0, thrust, voltage, resistance)
        return driving_use(uses_at(b, point, thrust, x, voltage, resistance), thrust)
    if what == IN_THE_AIR:
        point = point_at_thrust(b, x, b.drive_drag, voltage, resistance)
        return driving_use(uses_at(b, point, b.drive_drag, 0.0, voltage, resistance), b.drive_drag)
    thrust = x if what == BY_THRUST else -x
    point = point_at_thrust(b, given, thrust, voltage, resistance)
    return worst_of(uses_at(b, point, thrust, 0.0, voltage, resistance))


@kernel
def reach(
    b: Board, what: int, low: float, high: float, given: float, wind: float, voltage: float, resistance: float
) -> tuple[float, int]:
    """How far every ability holds in ``low``..``high``, and the limit that gives way just beyond.

    Chandrupatla's method (Advances in Engineering Software 28 (1997) 145): inverse quadratic interpolation where that is
    sound, bisection where it is not. ``low`` where it does not hold even there, ``high`` where nothing gives way.
    """
    a, fa = high, min(_use_at(b, what, high, given, wind, voltage, resistance)[0], 4.0) - 1.0
    c, fc = low, min(_use_at(b, what, low, given, wind, voltage, resistance)[0], 4.0) - 1.0
    if fc > 0.0:
        good = low
    elif fa <= 0.0:
        good = high
    else:
        # b_ is the last point on the other side, as the method calls it.
        b_, fb = c, fc
        c, fc = a, fa
        t = 0.5
        close = _CLOSE * abs(high - low)
        for _ in range(_STEPS):
            x = a + t * (b_ - a)
            fx = min(_use_at(b, what, x, given, wind, voltage, resistance)[0], 4.0) - 1.0
            if (fx > 0.0) == (fa > 0.0):
                c, fc = a, fa
            else:
                c, fc = b_, fb
                b_, fb = a, fa
            a, fa = x, fx
            if abs(b_ - a) <= close or abs(fa) < 1e-9:
                break
            xi, phi = (a - b_) / (c - b_), (fa - fb) / (fc - fb)
            t = 0.5
            if phi * phi < xi and (1.0 - phi) * (1.0 - phi) < 1.0 - xi:
                t = fa / (fb - fa) * fc / (fb - fc) + (c - a) / (b_ - a) * fa / (fc - fa) * fb / (fc - fb)
            edge = min(0.5, close / max(abs(b_ - a), 1e-300))
            t = min(max(t, edge), 1.0 - edge)
        # Of the last two points the one on the good side, so that nothing promised is just out of reach.
        good = a if fa <= 0.0 or abs(fa) < 1e-9 else b_
    beyond = good + _JUST_ABOVE * (high - low)
    return good, _use_at(b, what, beyond, given, wind, voltage, resistance)[1]


@kernel
def highest_speed(b: Board, grade: float, wind: float, voltage: float, resistance: float) -> tuple[float, int]:
    """The highest speed in m/s that can be held, and the index into :data:`LIMITS` of what gives way just above it.

    0 where the board cannot even stand still under power.
    """
    ceiling = voltage * b.duty * b.kv / b.gear * b.wheel_radius
    return reach(b, BY_SPEED, 0.0, ceiling, grade, wind, voltage, resistance)


@kernel
def attained_speed(
    b: Board, wanted: float, grade: float, wind: float, voltage: float, resistance: float
) -> tuple[float, bool]:
    """``wanted`` speed (m/s) or the highest that can be held, and whether it is less than wanted."""
    if _use_at(b, BY_SPEED, wanted, grade, wind, voltage, resistance)[0] <= 1.0:
        return wanted, False
    return min(highest_speed(b, grade, wind, voltage, resistance)[0], wanted), True


@kernel
def free_speed(b: Board, voltage: float, resistance: float) -> tuple[float, int]:
    """The speed of the driven wheels' rims in the air, m/s, at full throttle, and what limits it.

    Only the motors' own drag and that of belts or gears hold them back; the controller's limits act as on the road.
    """
    ceiling = voltage * b.duty * b.kv / b.gear * b.wheel_radius
    return reach(b, IN_THE_AIR, 0.0, ceiling, 0.0, 0.0, voltage, resistance)


@kernel
def steepest_start(b: Board, voltage: float, resistance: float) -> tuple[float, int]:
    """The steepest grade (rise over run) on which a board can hold itself at a standstill under power, and its limit.

    At standstill the winding's heat is the only power, so motor current, grip or the pack decide. 0 where it cannot even
    start on the flat.
    """
    return reach(b, BY_GRADE, 0.0, STEEPEST, 0.0, b.head_wind, voltage, resistance)


@kernel
def most_thrust(b: Board, speed: float, voltage: float, resistance: float) -> tuple[float, int]:
    """The largest thrust in N that the drive can give at the road at ``speed``, its own drag included, and its limit.

    0 where even standing thrust is too much (above the speed that its volts allow). More than the wheels hold is never
    needed.
    """
    high = 1.01 * slip_force(b, 0.0, False) + b.drive_drag
    return reach(b, BY_THRUST, 0.0, high, speed, 0.0, voltage, resistance)


@kernel
def most_braking(b: Board, speed: float, voltage: float, resistance: float) -> tuple[float, int]:
    """The largest force in N with which the motors can hold back at the road at ``speed``, and its limit."""
    high = 1.01 * slip_force(b, 0.0, False)
    return reach(b, BY_BRAKING, 0.0, high, speed, 0.0, voltage, resistance)
