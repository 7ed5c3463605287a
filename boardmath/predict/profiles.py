"""Ridden profiles: path, town with stops, hills; with the energy that braking gives back, and every loss accounted for."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from boardmath.physics.motor import resistance_at
from boardmath.physics.road_load import climbing_force
from boardmath.physics.types import Array
from boardmath.powertrain import (
    Board,
    attained_speed,
    most_braking,
    most_thrust,
    needed_thrust,
    point_at_thrust,
    road_resistance,
)
from boardmath.predict.climbing import losses

_RAMP = 12  # midpoints of a ramp
_COMFORT = 0.6
"""m/s2 at which people speed up and slow down when nothing hurries them (common practice, no source)."""

_NEARLY = 0.97

# Shares of the cruising speed (or of what the hill allows) and stretches of the way: (speed share, m, grade), stop after.
PROFILES: dict[str, tuple[tuple[float, float, float, bool], ...]] = {
    "path": ((1.0, 900.0, 0.0, False), (0.6, 60.0, 0.0, False), (1.0, 1000.0, 0.005, False), (1.0, 1000.0, -0.005, True)),
    "town": tuple((share, 180.0, 0.0, True) for share in (1.0, 0.9, 1.0, 0.8, 1.0, 0.9)),
    "hilly": (
        (1.0, 400.0, 0.0, False), (0.8, 250.0, 0.06, False), (1.0, 250.0, -0.06, False), (1.0, 300.0, 0.02, False),
        (0.7, 120.0, 0.09, False), (0.9, 420.0, -0.04, True),
    ),
}  # fmt: skip
"""Invented, in the manner of a bicycle path, a town and a rolling road; each ends as high as it began, but for half a metre."""


@dataclass(frozen=True)
class Ledger:
    """Energy of one pass of a profile, J, and its length, m; arrays of the boards' shape.

    ``pack`` (at the cells' open circuit) equals the sum of all the rest.
    """

    length: Array
    seconds: Array
    charge: Array  # C out of the pack, net
    pack: Array
    road: Array  # rolling and air
    climbing: Array
    kinetic: Array
    friction_brake: Array  # what the motors could not hold back: the foot; negative where the foot had to push
    drive: Array
    copper: Array
    iron: Array
    controller: Array
    idle: Array
    sag: Array  # in cells and path
    returned: Array  # J at the terminals that braking gave back


def ride_profiles(board: Board, charge: float = 0.7) -> dict[str, Ledger]:
    """Rides one pass of each profile at the brief's cruising speed, or as fast as each stretch allows.

    The speed of each stretch is reached at a comfortable rate. What the motors cannot hold back is braked away by other
    means and counted as ``friction_brake``.
    """
    boards = board.with_axis()
    all_grades = np.array([s[2] for stretches in PROFILES.values() for s in stretches])
    # A little less than all it has, or nothing would be left to reach it with.
    wanted = boards.cruise_speed * np.array([s[0] for stretches in PROFILES.values() for s in stretches])
    target = _NEARLY * attained_speed(boards, wanted / _NEARLY, np.maximum(all_grades, 0.0), charge)[0]
    each, first = {}, 0
    for name, stretches in PROFILES.items():
        each[name] = _moments(stretches, target[..., first : first + len(stretches)])
        first += len(stretches)
    # All profiles' moments one behind the other: one look at the engine.
    speed, acceleration, seconds, grade = (np.concatenate(parts, -1) for parts in zip(*each.values(), strict=True))
    mass = boards.rolling_mass + boards.rotating_mass
    resistance, open_circuit = boards.pack_resistance(charge), boards.open_circuit(charge)
    shape = speed.shape
    acceleration, grade = np.broadcast_to(acceleration, shape), np.broadcast_to(grade, shape)
    wanted = needed_thrust(boards, speed, grade, acceleration)
    point = point_at_thrust(boards, speed, wanted, open_circuit, resistance)
    # Only the moments that are too much are looked at closer: most boards have few.
    over = point.worst > 1.0
    thrust = wanted
    if over.any():
        acceleration, thrust = acceleration.copy(), wanted.copy()
        few = boards.take(shape, over)
        acceleration[over], thrust[over] = _as_it_can(few, speed[over], grade[over], acceleration[over], charge)
        # A weak board takes its time: the same gain of speed at the rate that it can.
        slower = (acceleration > 0.0) & over
        seconds = np.where(slower, seconds * _COMFORT / np.where(slower, acceleration, 1.0), seconds)
        wanted = needed_thrust(boards, speed, grade, acceleration)
        point = point_at_thrust(boards, speed, thrust, open_circuit, resistance)
    copper, iron, _ = losses(boards, point)
    copper = copper * resistance_at(1.0, boards.winding_temperature)
    at_shaft = np.where(thrust >= 0.0, thrust / boards.drive_efficiency, thrust * boards.drive_efficiency)
    climb = climbing_force(boards.rolling_mass, grade)
    power: dict[str, Any] = {
        "length": speed,
        "seconds": 1.0,
        "charge": point.pack_current,
        "pack": open_circuit * point.pack_current,
        "road": (road_resistance(boards, speed, grade) - climb) * speed,
        "climbing": climb * speed,
        "kinetic": mass * acceleration * speed,
        "friction_brake": (thrust - wanted) * speed,
        "drive": (at_shaft - thrust + boards.drive_drag) * speed,
        "copper": boards.motors * copper,
        "iron": boards.motors * iron,
        "controller": _conversion_loss(boards, point.pack_power - boards.idle_power),
        "idle": boards.idle_power,
        "sag": np.square(point.pack_current) * resistance,
        "returned": np.maximum(-point.bus_voltage * point.pack_current, 0.0),
    }
    ends = np.cumsum([moments[3].size for moments in each.values()])
    energy = {name: np.broadcast_to(p * seconds, speed.shape) for name, p in power.items()}
    return {
        profile: Ledger(**{name: e[..., end - moments[3].size : end].sum(axis=-1) for name, e in energy.items()})
        for (profile, moments), end in zip(each.items(), ends, strict=True)
    }


def _as_it_can(board: Board, speed: Array, grade: Array, wanted: Array, charge: float) -> tuple[Array, Array]:
    """Acceleration (m/s2) and thrust (N) of moments whose ``wanted`` acceleration is more than the board can give."""
    most = most_thrust(board, speed, charge)[0]
    possible = 0.98 * (most - needed_thrust(board, speed, grade)) / (board.rolling_mass + board.rotating_mass)
    acceleration = np.where(wanted > 0.0, np.clip(possible, 0.02, _COMFORT), wanted)
    needed = needed_thrust(board, speed, grade, acceleration)
    return acceleration, np.clip(needed, -most_braking(board, speed, charge)[0], most)


def _conversion_loss(board: Board, at_pack: Array) -> Array:
    """W lost in the controllers for the power that they take from the pack, or give to it."""
    taken = at_pack * (1.0 - board.controller_efficiency)
    given = -at_pack * (1.0 / board.controller_efficiency - 1.0)
    return np.where(at_pack >= 0.0, taken, given)


def _moments(
    stretches: tuple[tuple[float, float, float, bool], ...], targets: Array
) -> tuple[Array, Array, Array, Array]:
    """Speed (m/s), acceleration (m/s2), duration (s) and grade of each moment of a pass; shapes (boards, moments).

    Each stretch is a ramp to its speed, a steady part, and a ramp to rest where there is a stop; ramps are midpoints.
    ``targets`` has the speed of each, m/s, shape (boards, stretches).
    """
    middles = (np.arange(_RAMP) + 0.5) / _RAMP
    speeds, rates, times, slopes = [], [], [], []
    before = np.zeros(targets.shape[:-1])
    for i, (_, length, grade, stop) in enumerate(stretches):
        target = targets[..., i]
        ramps = [(before, target)] + ([(target, np.zeros_like(target))] if stop else [])
        left = np.full_like(target, length)
        for begin, end in ramps:
            change = (end - begin)[..., np.newaxis]
            seconds = np.abs(change) / _COMFORT
            speeds.append(begin[..., np.newaxis] + change * middles)
            times.append(np.broadcast_to(seconds / _RAMP, speeds[-1].shape))
            rates.append(np.broadcast_to(np.sign(change) * _COMFORT, speeds[-1].shape))
            left = left - (begin + end) / 2.0 * seconds[..., 0]
        speeds.append(target[..., np.newaxis])
        rates.append(np.zeros_like(speeds[-1]))
        times.append(np.where(target > 0.1, np.maximum(left, 0.0) / np.maximum(target, 0.1), 0.0)[..., np.newaxis])
        slopes += [grade] * (len(ramps) * _RAMP + 1)
        before = np.zeros_like(target) if stop else target
    return np.concatenate(speeds, -1), np.concatenate(rates, -1), np.concatenate(times, -1), np.array(slopes)
