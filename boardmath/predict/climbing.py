"""Climbing with heat: how steep a hill can be held for its length, and for ever."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from boardmath.physics import heat, motor
from boardmath.physics.types import Array, Numbers
from boardmath.powertrain import LIMITS, Board, OperatingPoint, attained_speed, operating_point
from boardmath.predict.distance import STRANDED

_GRADES = 24


MOTOR_HEAT, CONTROLLER_HEAT = "motor heat", "controller heat"
"""Limits of a climb beside those of an instant."""


@dataclass(frozen=True)
class Held:
    """The steepest grade (rise over run) that is held, and what ends it: an index, or heat where ``hot`` says so."""

    grade: Array
    limit: Array  # index into powertrain.LIMITS of what gives way on steeper grades, where it is not heat
    motor_hot: NDArray[np.bool_]
    controller_hot: NDArray[np.bool_]


def losses(board: Board, point: OperatingPoint) -> tuple[Array, Array, Array]:
    """Heat in W: in one motor's winding were it at 25 C, in its iron, and in all controllers."""
    at_25 = board.phase_resistance / motor.resistance_at(1.0, board.winding_temperature)
    copper = 1.5 * at_25 * np.square(point.motor_current)
    idle = motor.no_load_current(board.no_load_current, board.kv, point.motor_speed)
    iron = board.torque_constant * idle * point.motor_speed
    motor_power = motor.electrical_power(board.kv, board.phase_resistance, point.motor_current, point.motor_speed)
    given = np.abs(board.motors * motor_power)
    return copper, iron, np.asarray(given * (1.0 / board.controller_efficiency - 1.0))


def warming(board: Board, point: OperatingPoint, seconds: Numbers) -> tuple[Array, Array, Array]:
    """Temperature in C of winding, case and controller after ``seconds`` at an operating point, all cold at first."""
    copper, iron, controller = losses(board, point)
    bodies = heat.TwoBodies(
        board.winding_heat_capacity, board.case_heat_capacity, board.winding_to_case, board.case_to_air
    )
    winding, case = heat.temperatures(bodies, copper, iron, board.ambient, seconds)
    box = heat.single(board.controller_heat_capacity, board.controller_to_air, controller, board.ambient, seconds)
    return winding, case, box


def steepest_held(board: Board, start_grade: Array, charge: Numbers, length: Numbers) -> tuple[Held, Held]:
    """The steepest grade held over ``length`` m of climb at cruising speed or as fast as it goes, and that held for ever.

    Grades up to the steepest start are tried on a grid, and the crossing of the hotter limit is interpolated.

    Args:
        board: shape ``S``.
        start_grade: shape ``S``; charge: broadcastable with it.
        length: m along the slope.
    """
    boards = board.with_axis()
    at_charge = np.asarray(charge)[..., np.newaxis]
    share = np.linspace(0.0, 1.0, _GRADES)
    grades = np.maximum(start_grade, 0.0)[..., np.newaxis] * share
    speed, _ = attained_speed(boards, boards.cruise_speed, grades, at_charge)
    point = operating_point(boards, np.maximum(speed, STRANDED), grades, at_charge)
    pace = np.maximum(speed, STRANDED)
    return (
        _hold(boards, point, grades, speed, np.asarray(length) / pace),
        _hold(boards, point, grades, speed, np.full(pace.shape, heat.FOR_EVER)),
    )


def _hold(boards: Board, point: OperatingPoint, grades: Array, speed: Array, seconds: Array) -> Held:
    """The steepest of ``grades`` (last axis) that is held for ``seconds``, interpolated to where it no longer is."""
    winding, _, box = warming(boards, point, seconds)
    # As shares of the allowed rise, so that motor, controller and walking pace share an axis: above 1 is no longer held.
    of_motor = (winding - boards.ambient) / (boards.winding_limit - boards.ambient)
    of_box = (box - boards.ambient) / (boards.controller_limit - boards.ambient)
    of_pace = 2.0 - speed / STRANDED
    used = np.maximum(np.maximum(of_motor, of_box), of_pace)
    good = used <= 1.0
    last = np.maximum(np.logical_and.accumulate(good, axis=-1).sum(axis=-1) - 1, 0)
    following = np.minimum(last + 1, _GRADES - 1)

    def pick(values: Array, index: NDArray[np.intp]) -> Array:
        full = np.broadcast_to(values, grades.shape)
        return np.asarray(np.take_along_axis(full, index[..., np.newaxis], axis=-1)[..., 0])

    here, there = pick(used, last), pick(used, following)
    part = np.clip((1.0 - here) / np.maximum(there - here, 1e-9), 0.0, 1.0)
    low, high = pick(grades, last), pick(grades, following)
    grade = np.where(good[..., 0], low + np.where(there > 1.0, part, 1.0) * (high - low), 0.0)
    heat_ends = (there > 1.0) & (
        pick(of_pace, following) < np.maximum(pick(of_motor, following), pick(of_box, following))
    )
    motor_is_hotter = pick(of_motor, following) >= pick(of_box, following)
    return Held(grade, pick(point.limit, following), heat_ends & motor_is_hotter, heat_ends & ~motor_is_hotter)


def held_limit(held: Held, i: int) -> str:
    """What ends the climb, in words."""
    if held.motor_hot[i]:
        return MOTOR_HEAT
    return CONTROLLER_HEAT if held.controller_hot[i] else LIMITS[int(held.limit[i])]
