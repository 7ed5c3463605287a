"""Acceleration from rest on the flat with everything open, and how hard the motors brake."""

from math import cos, pi
from typing import NamedTuple

from boardmath.engine.boards import Board
from boardmath.engine.operating import most_braking, most_thrust, road_resistance
from boardmath.physics.jit import kernel
from boardmath.physics.road_load import GRAVITY

_SPEEDS = 28


class Pull(NamedTuple):
    """Pulling away on the flat."""

    to_15: float  # s to 15 km/h; infinite where it is not reached
    to_25: float  # s
    first_second: float  # mean acceleration of the first second, in g


@kernel
def pull_away(b: Board, top_speed: float, voltage: float, resistance: float) -> Pull:
    """Integrates ``dt = m dv / (F - R)`` from rest to just under ``top_speed`` (m/s)."""
    mass = b.rolling_mass + b.rotating_mass
    time, speed, before = 0.0, 0.0, 0.0
    to_15, to_25, after_one = float("inf"), float("inf"), -1.0
    for i in range(_SPEEDS):
        # Denser near rest, where the first second happens, and near the end, where the surplus fades.
        now = max(top_speed, 1e-3) * 0.995 * (1.0 - cos(pi * i / (_SPEEDS - 1))) / 2.0
        thrust, _ = most_thrust(b, now, voltage, resistance)
        slowness = mass / max(thrust - b.drive_drag - road_resistance(b, now, 0.0, b.head_wind), 1e-6)
        if i > 0:
            step = (now - speed) * (slowness + before) / 2.0
            for goal in (15.0 / 3.6, 25.0 / 3.6):
                if speed < goal <= now:
                    at = time + step * (goal - speed) / (now - speed)
                    if goal < 20.0 / 3.6:
                        to_15 = at
                    else:
                        to_25 = at
            if after_one < 0.0 and time + step >= 1.0:
                after_one = speed + (now - speed) * (1.0 - time) / step
            time += step
        speed, before = now, slowness
    if after_one < 0.0:
        after_one = speed
    return Pull(to_15, to_25, after_one / GRAVITY)


class Brake(NamedTuple):
    """What the motors hold back at one speed and charge; a foot on the road is not counted."""

    deceleration: float  # m/s2 on the flat, road and air included
    holds_grade: float  # rise over run downhill that the motors hold back at steady speed
    limit: int


@kernel
def brake(b: Board, speed: float, voltage: float, resistance: float) -> Brake:
    """How hard the motors can brake, and how steep a hill they can hold back: less on a full pack."""
    force, limit = most_braking(b, speed, voltage, resistance)
    against = force + b.drive_drag + road_resistance(b, speed, 0.0, b.head_wind)
    # Downhill the same forces stand against m g sin a; rolling resistance as on the flat.
    sine = min(max(against, 0.0) / (b.rolling_mass * GRAVITY), 0.99)
    return Brake(against / (b.rolling_mass + b.rotating_mass), sine / (1.0 - sine * sine) ** 0.5, limit)
