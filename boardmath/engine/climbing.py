"""Climbing with heat: how steep a hill can be held for its length, and for ever."""

from typing import NamedTuple, get_args

from boardmath.engine.boards import Board
from boardmath.engine.operating import Point, driving_use, needed_thrust, point_at_thrust, uses_at
from boardmath.engine.riding import STRANDED, attained
from boardmath.physics import cell, heat, motor
from boardmath.physics.jit import kernel
from boardmath.physics.limit import Limit

MOTOR_HEAT, CONTROLLER_HEAT, CELL_HEAT = 10, 11, 12
HEATS: tuple[Limit, ...] = get_args(Limit)[10:13]
"""Limits of a climb beside those of an instant; their indices follow those of :data:`operating.LIMITS`."""
_STEPS = 24


class Warmth(NamedTuple):
    """Temperatures in C after some time at one operating point, all as cold as the day at first."""

    winding: float
    evaluation: float
    controller: float
    cells: float


@kernel
def iron_loss(b: Board, p: Point) -> float:
    """W that one motor's drag turns into heat of its case."""
    drag = motor.no_load_current(b.no_load_current, b.kv, p.motor_speed)
    return motor.torque_constant(b.kv) * drag * abs(p.motor_speed)


@kernel
def warming(b: Board, p: Point, charge: float, seconds: float) -> Warmth:
    """How warm everything is after ``seconds`` at an operating point; the cells with what they lose while cold, which is most."""
    copper = 1.5 * b.phase_resistance * p.motor_current * p.motor_current
    winding, evaluation = heat.temperatures(
        b.winding_heat_capacity,
        b.case_heat_capacity,
        b.winding_to_case,
        b.case_to_air,
        copper,
        iron_loss(b, p),
        b.ambient,
        seconds,
    )
    box = heat.single(b.controller_heat_capacity, b.controller_to_air, p.controller_heat, b.ambient, seconds)
    lost = p.pack_current * p.pack_current * b.cell_resistance * cell.resistance_factor(charge, b.cell_temperature)
    # No pack gives its current for longer than it has charge.
    lasts = b.pack_capacity / max(p.pack_current, 1e-3)
    cells = heat.single(b.pack_heat_capacity, b.pack_to_air, lost, b.ambient, min(seconds, lasts))
    return Warmth(winding, evaluation, box, cells)


@kernel
def hottest(b: Board, warmth: Warmth) -> tuple[float, int]:
    """The largest share of an allowed rise that is used, and whose."""
    winding = (warmth.winding - b.ambient) / (b.winding_limit - b.ambient)
    box = (warmth.controller - b.ambient) / (b.controller_limit - b.ambient)
    cells = (warmth.cells - b.ambient) / max(b.cell_limit - b.ambient, 1.0)
    if winding >= box and winding >= cells:
        return winding, MOTOR_HEAT
    return (box, CONTROLLER_HEAT) if box >= cells else (cells, CELL_HEAT)


@kernel
def _held(
    b: Board, grade: float, length: float, for_ever: bool, charge: float, voltage: float, resistance: float
) -> tuple[float, int]:
    """Above 1 where a grade is not held for its length: too hot, or slower than walking; and what it is."""
    speed, _ = attained(b, b.cruise_speed, grade, b.head_wind, voltage, resistance)
    thrust = needed_thrust(b, speed, grade, b.head_wind, 0.0)
    point = point_at_thrust(b, speed, thrust, voltage, resistance)
    if speed <= STRANDED:
        used, which = driving_use(uses_at(b, point, thrust, grade, voltage, resistance), thrust)
        if used > 1.0:
            return used, which
    seconds = heat.FOR_EVER if for_ever else length / speed
    return hottest(b, warming(b, point, charge, seconds))


@kernel
def steepest_held(
    b: Board,
    start_grade: float,
    start_limit: int,
    length: float,
    for_ever: bool,
    charge: float,
    voltage: float,
    resistance: float,
) -> tuple[float, int]:
    """The steepest grade (rise over run) climbed for ``length`` m at cruising speed or as fast as it goes, and what ends it.

    Never steeper than it can start on. Before anything is too hot; at no less than walking pace.
    """
    low, high = 0.0, start_grade
    used, which = _held(b, high, length, for_ever, charge, voltage, resistance)
    if used <= 1.0:
        return high, start_limit
    flat, on_it = _held(b, 0.0, length, for_ever, charge, voltage, resistance)
    if flat > 1.0:
        return 0.0, on_it
    f_low, f_high = flat - 1.0, min(used - 1.0, 3.0)
    side = 0
    for _ in range(_STEPS):
        # Regula falsi with the Illinois rule: what stays put twice counts half.
        middle = (low * f_high - high * f_low) / (f_high - f_low)
        if not low < middle < high:
            middle = (low + high) / 2.0
        used, at = _held(b, middle, length, for_ever, charge, voltage, resistance)
        if used > 1.0:
            high, f_high, which = middle, min(used - 1.0, 3.0), at
            if side == 1:
                f_low *= 0.5
            side = 1
        else:
            low, f_low = middle, used - 1.0
            if side == -1:
                f_high *= 0.5
            side = -1
        if abs(used - 1.0) < 5e-4:
            return middle, at
        if high - low < 1e-4:
            break
    return low, which


@kernel
def held_metres(b: Board, grade: float, charge: float, voltage: float, resistance: float) -> float:
    """m of a climb on ``grade`` after which something is too hot; -1 where that never happens, 0 where it cannot climb at all."""
    speed, _ = attained(b, b.cruise_speed, grade, b.head_wind, voltage, resistance)
    thrust = needed_thrust(b, speed, grade, b.head_wind, 0.0)
    point = point_at_thrust(b, speed, thrust, voltage, resistance)
    if speed <= STRANDED and driving_use(uses_at(b, point, thrust, grade, voltage, resistance), thrust)[0] > 1.0:
        return 0.0
    low, high = 0.0, heat.FOR_EVER
    if hottest(b, warming(b, point, charge, high))[0] <= 1.0:
        return -1.0
    for _ in range(40):
        middle = (low + high) / 2.0
        if hottest(b, warming(b, point, charge, middle))[0] <= 1.0:
            low = middle
        else:
            high = middle
    return low * speed
