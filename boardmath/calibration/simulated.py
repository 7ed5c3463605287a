"""A simulated ride: a board and its rider go over a way leg by leg, and a log comes out as a controller would write it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import cos, radians, sin

import numpy as np

from boardmath.buildfile import Build
from boardmath.calibration.observing import coast_forces
from boardmath.calibration.track import Track, track_of
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards
from boardmath.engine.riding import COMFORT
from boardmath.model.model_inputs import INPUTS
from boardmath.model.resolution import resolve
from boardmath.model.sampling import boards

STEP_S, _PARTS = 1.0, 20


@dataclass(frozen=True)
class Leg:
    """A stretch of a way: m, rise over run, the speed that is wanted in m/s (0 stops), degrees from north; ``coast`` rolls
    out.
    """

    metres: float
    grade: float
    speed: float
    heading: float = 0.0
    coast: bool = False


def ridden_log(
    board: Boards, legs: Sequence[Leg], began: datetime, lat: float = 0.0, lon: float = 0.0, charge: float = 0.97
) -> Track:
    """A log of a board (an array of one) over ``legs``, a point a second: place, height, speed, power, volts and amperes.

    Speeds change by what riders find comfortable; where the wanted speed cannot be held, it goes as fast as it can.
    """
    b = board[:1].copy()
    rows: dict[str, list[float]] = {
        n: [] for n in ("time", "lat", "lon", "height", "speed", "power", "voltage", "current")
    }
    steady, square, rolling = (float(v[0]) for v in coast_forces(b))
    mass = float(b.rolling_mass[0] + b.rotating_mass[0])
    now, speed, height, north, east = 0.0, 0.0, 4.0, 0.0, 0.0
    for leg in legs:
        wanted = float(sweeps.attained_speeds(b, max(leg.speed, 0.1), leg.grade, charge)[0, 0]) if leg.speed else 0.0
        way = 0.0
        # A stop takes as long as it takes to come to rest, and a few seconds more.
        for _ in range(100_000):
            if leg.coast:
                new = speed
                for _ in range(_PARTS):
                    new = max(new - (steady + square * new**2) / rolling * STEP_S / _PARTS, 0.0)
            else:
                new = speed + float(np.clip(wanted - speed, -COMFORT * STEP_S, COMFORT * STEP_S))
            gain = 0.0 if leg.coast else (new - speed) / STEP_S
            speed = new
            thrust = np.nan if gain == 0.0 and speed > 0.0 else _thrust(b, speed, leg.grade, gain * mass)
            m = sweeps.moments(b, speed, leg.grade, charge, thrust)[0, 0]
            watts, amperes, volts = float(m.pack_power), float(m.pack_current), float(m.bus_voltage)
            if leg.coast or speed == 0.0:
                watts = float(b.idle_power[0])
                volts = float(sweeps.at_rest(b, charge)[0][0, 0])
                amperes = watts / volts
            way, now = way + speed * STEP_S, now + STEP_S
            height += speed * STEP_S * leg.grade
            north += speed * STEP_S * cos(radians(leg.heading))
            east += speed * STEP_S * sin(radians(leg.heading))
            charge -= amperes * STEP_S / float(b.pack_capacity[0])
            told = (
                now,
                lat + north / 111_200.0,
                lon + east / (111_320.0 * cos(radians(lat))),
                height,
                speed,
                watts,
                volts,
                amperes,
            )
            for name, value in zip(rows, told, strict=True):
                rows[name].append(value)
            if (leg.speed and not leg.coast and way >= leg.metres) or (
                leg.coast and (speed < 1.4 or way >= leg.metres)
            ):
                break
            if not leg.speed and not leg.coast and speed == 0.0 and way + now > 0.0 and _rested(rows["speed"]):
                break
    return track_of(rows, began)


def _thrust(b: Boards, speed: float, grade: float, inertia: float) -> float:
    steady = float(sweeps.moments(b, speed, grade, 0.9)[0, 0].needed)
    return steady + inertia


def _rested(speeds: Sequence[float]) -> bool:
    return len(speeds) >= 6 and not any(speeds[-6:])


def a_ride_of(build: Build, seed: int, began: datetime) -> Track:
    """A ride of a board with a truth of its own, drawn from what is not known of it.

    Out and back: a hill, a stop, a run flat out each way, a roll-out.

    Raises:
        Incomplete: the build is not far enough for a prediction.
    """
    resolved = resolve(build.model_copy(update={"calibration": None}))
    z = np.random.default_rng(seed).standard_normal((1, len(INPUTS)))
    board = boards([resolved], [z], middle=False)
    quick = float(sweeps.highest_speeds(board, 0.0, 0.9)[0][0, 0])
    usual = min(float(board.mean_speed[0]), 0.8 * quick)
    legs = [
        Leg(600, 0.0, usual, 40),
        Leg(0, 0.0, 0.0),
        Leg(900, 0.002, usual, 65),
        Leg(180, 0.05, 0.8 * usual, 80),
        Leg(400, 0.0, usual, 95),
        Leg(160, 0.0, quick, 95),
        Leg(200, 0.0, usual, 95, coast=True),
        Leg(500, -0.004, usual, 120),
        Leg(0, 0.0, 0.0),
        Leg(500, 0.004, usual, 300),
        Leg(220, 0.0, quick, 275),
        Leg(400, 0.0, usual, 275),
        Leg(180, -0.05, 0.8 * usual, 260),
        Leg(900, -0.002, usual, 245),
        Leg(600, 0.0, usual, 220),
        Leg(0, 0.0, 0.0),
    ]
    return ridden_log(board, legs, began)
