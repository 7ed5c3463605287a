"""Loops over many boards: builds, samples of one, candidates. Large sweeps are cut over threads.

Every function takes a record array of boards (:mod:`boardmath.engine.boards`) and gives arrays with a row for each.
"""

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from boardmath.engine import operating
from boardmath.engine.boards import Boards
from boardmath.engine.climbing import held_metres, steepest_held, warming
from boardmath.engine.operating import (
    Point,
    Uses,
    free_speed,
    highest_speed,
    most_braking,
    most_thrust,
    needed_thrust,
    open_circuit,
    pack_resistance,
    point_at_thrust,
    slip_grade,
    steepest_start,
    unloaded_speed,
    uses_at,
)
from boardmath.engine.pulling import brake, pull_away
from boardmath.engine.riding import CHARGE as STATE
from boardmath.engine.riding import ENERGY, OWN, PIECES, TIME, WARMTH, WAY, ride, room
from boardmath.physics.jit import kernel
from boardmath.physics.types import Array

Records = Any
"""A record array with a row a board."""
_FEWEST = 128
"""Boards for which a second thread is worth its start."""
_pools: dict[int, ThreadPoolExecutor] = {}
"""By process: a thread does not survive a fork."""
THREADS = "SAND_POCKET_ENGINE_THREADS"
"""Environment variable: over how many threads a sweep is cut; as many as there are cores unless it is said."""


@cache
def _threads() -> int:
    said = os.environ.get(THREADS, "")
    return max(int(said) if said.isdecimal() else min(os.cpu_count() or 1, 8), 1)


def cut_over_threads(loop: Callable[..., None], boards: Any, *arguments: Any) -> None:
    """Runs ``loop`` over rows of ``boards`` and of every argument with as many rows, on all cores where that is worth it."""
    rows, workers = len(boards), _threads()
    if workers == 1 or rows < _FEWEST:
        loop(boards, *arguments)
        return
    pool = _pools.get(os.getpid())
    if pool is None:
        _pools.clear()
        pool = _pools.setdefault(os.getpid(), ThreadPoolExecutor(workers, thread_name_prefix="engine"))

    def part(first: int, last: int) -> None:
        cut = [a[first:last] if isinstance(a, np.ndarray) and len(a) == rows else a for a in arguments]
        loop(boards[first:last], *cut)

    edges = np.linspace(0, rows, workers + 1).astype(int)
    for done in [pool.submit(part, int(a), int(b)) for a, b in pairwise(edges)]:
        done.result()


def early_charge(boards: Boards) -> Array:
    """State of charge of a ride's beginning, 90 %, or full where it is charged to less: of top speed and steepest start."""
    return np.minimum(boards.charge_full, 0.9)


@kernel
def _early(charge_full: float) -> float:
    return min(charge_full, 0.9)


# --- headlines: what the list of boards shows, and what is sampled for every band ---------------------------------------------

RIDE = np.dtype(
    [
        ("range", float),
        ("energy", float),
        ("seconds", float),
        ("square", float),
        ("to_the_end", float),
        ("cut_off", np.bool_),
        ("slowed", np.bool_),
        ("warmest", float),
        ("carried", np.bool_),
        ("path", float),
        ("town", float),
        ("hilly", float),
    ]
)
HEADLINE = np.dtype(
    [
        ("unloaded_speed", float),
        ("top_speed", float),
        ("top_limit", np.int64),
        ("start_grade", float),
        ("start_limit", np.int64),
    ]
)


@kernel
def _headlines(boards: Boards, out: Records) -> None:
    for i in range(len(boards)):
        b = boards[i]
        charge = _early(b.charge_full)
        v, r = open_circuit(b, charge), pack_resistance(b, charge, b.cell_temperature)
        out[i].unloaded_speed = unloaded_speed(b)
        out[i].top_speed, out[i].top_limit = highest_speed(b, 0.0, b.head_wind, v, r)
        out[i].start_grade, out[i].start_limit = steepest_start(b, v, r)


def headlines(boards: Boards) -> Records:
    """Unloaded speed, top speed and steepest start of every board."""
    out = np.recarray(len(boards), dtype=HEADLINE)
    cut_over_threads(_headlines, boards, out)
    return out


@kernel
def _rides(boards: Boards, out: Records, kind: int, profiles: bool) -> None:
    rows, m, trace = room()
    for i in range(len(boards)):
        found = ride(boards[i], kind, profiles, rows, m, trace)
        o = out[i]
        o.range, o.energy, o.seconds, o.square = found.range, found.energy, found.seconds, found.square
        o.to_the_end = found.to_the_end
        o.cut_off, o.slowed, o.warmest, o.carried = found.cut_off, found.slowed, found.warmest, found.carried
        o.path, o.town, o.hilly = found.path, found.town, found.hilly


def rides(boards: Boards, kind: int = OWN, profiles: bool = False) -> Records:
    """Rides over the brief's own way, or one of :data:`boardmath.engine.riding.PROFILES`; with all profiles where asked for."""
    out = np.recarray(len(boards), dtype=RIDE)
    cut_over_threads(_rides, boards, out, kind, profiles)
    return out


ARRIVAL = np.dtype(
    [
        *((n, float) for n in ("charge", "energy", "seconds", "warmth", "rest_v", "to_the_end", "bus_v")),
    ]
)


@kernel
def _arrivals(boards: Boards, metres: Array, out: Records) -> None:
    rows, m, trace = room()
    for i in range(len(boards)):
        b, way = boards[i], metres[i]
        found = ride(b, OWN, False, rows, m, trace)
        o = out[i]
        o.to_the_end = found.to_the_end
        j = 0
        while j < PIECES - 1 and trace[j + 1, WAY] < way:
            j += 1
        piece = trace[j + 1, WAY] - trace[j, WAY]
        # Beyond the end of the ride it goes on as in its last piece: less than nothing is left, and says by how much.
        part = (way - trace[j, WAY]) / piece if piece > 0.0 else 0.0
        o.charge = trace[j, STATE] + part * (trace[j + 1, STATE] - trace[j, STATE])
        o.energy = trace[j, ENERGY] + part * (trace[j + 1, ENERGY] - trace[j, ENERGY])
        o.seconds = trace[j, TIME] + part * (trace[j + 1, TIME] - trace[j, TIME])
        o.warmth = trace[j, WARMTH] + part * (trace[j + 1, WARMTH] - trace[j, WARMTH])
        o.rest_v = open_circuit(b, max(o.charge, 0.0))
        current = o.energy / max(o.seconds, 1.0) / max(o.rest_v, 1.0)
        o.bus_v = o.rest_v - current * pack_resistance(b, max(o.charge, 0.0), o.warmth)


def arrivals(boards: Boards, metres: Array) -> Records:
    """How every board stands after its own way in m: charge left, J and s used, K of the cells, V at rest and under the ride's
    mean current; and the m after which it would have stranded.
    """
    out = np.recarray(len(boards), dtype=ARRIVAL)
    cut_over_threads(_arrivals, boards, np.ascontiguousarray(metres), out)
    return out


@kernel
def _climbs(boards: Boards, start: Array, start_limit: Any, out: Array, limits: Any) -> None:
    for i in range(len(boards)):
        b = boards[i]
        charge = _early(b.charge_full)
        v, r = open_circuit(b, charge), pack_resistance(b, charge, b.cell_temperature)
        for k in range(2):
            out[i, k], limits[i, k] = steepest_held(b, start[i], start_limit[i], b.climb_length, k == 1, charge, v, r)


def climbs(boards: Boards, start_grade: Array, start_limit: NDArray[np.int64]) -> tuple[Array, NDArray[np.int64]]:
    """The steepest grade held over the brief's climb and for ever (columns), and what ends each."""
    out, limits = np.empty((len(boards), 2)), np.empty((len(boards), 2), np.int64)
    cut_over_threads(_climbs, boards, np.ascontiguousarray(start_grade), np.ascontiguousarray(start_limit), out, limits)
    return out, limits


# --- one look at many situations --------------------------------------------------------------------------------------

SPEED, THRUST, BRAKING, FREE = 0, 1, 2, 3


@kernel
def _reaches(boards: Boards, out: Array, limits: Any, charge: Array, given: Array, what: int) -> None:
    for i in range(len(boards)):
        b = boards[i]
        for j in range(out.shape[1]):
            v, r = open_circuit(b, charge[i, j]), pack_resistance(b, charge[i, j], b.cell_temperature)
            if what == SPEED:
                out[i, j], limits[i, j] = highest_speed(b, given[i, j], b.head_wind, v, r)
            elif what == THRUST:
                out[i, j], limits[i, j] = most_thrust(b, given[i, j], v, r)
            elif what == BRAKING:
                out[i, j], limits[i, j] = most_braking(b, given[i, j], v, r)
            else:
                out[i, j], limits[i, j] = free_speed(b, v, r)


def _situations(boards: Boards, *given: Any) -> list[Array]:
    """Numbers, rows of situations, or a row for each board, all as (boards, situations)."""
    arrays = [np.asarray(g, dtype=float) for g in given]
    columns = max((a.shape[-1] for a in arrays if a.ndim), default=1)
    return [np.ascontiguousarray(np.broadcast_to(a, (len(boards), columns))) for a in arrays]


def _reach(boards: Boards, what: int, given: Any, charge: Any) -> tuple[Array, NDArray[np.int64]]:
    given, charge = _situations(boards, given, charge)
    out, limits = np.empty(given.shape), np.empty(given.shape, np.int64)
    cut_over_threads(_reaches, boards, out, limits, charge, given, what)
    return out, limits


def highest_speeds(boards: Boards, grade: Any, charge: Any) -> tuple[Array, NDArray[np.int64]]:
    """Highest speeds in m/s and their limits, of shape (boards, situations)."""
    return _reach(boards, SPEED, grade, charge)


def most_thrusts(boards: Boards, speed: Any, charge: Any) -> tuple[Array, NDArray[np.int64]]:
    """Largest thrusts in N at speeds in m/s, and their limits, of shape (boards, situations)."""
    return _reach(boards, THRUST, speed, charge)


def most_brakings(boards: Boards, speed: Any, charge: Any) -> tuple[Array, NDArray[np.int64]]:
    """Largest braking forces in N of the motors, and their limits, of shape (boards, situations)."""
    return _reach(boards, BRAKING, speed, charge)


def free_speeds(boards: Boards, charge: Any) -> tuple[Array, NDArray[np.int64]]:
    """Rim speeds in m/s with the wheels in the air, and their limits, of shape (boards, situations)."""
    return _reach(boards, FREE, 0.0, charge)


MOMENT = np.dtype(
    [
        *((n, float) for n in ("speed", "grade", "thrust", "needed", "voltage", "winding", "controller", "cells")),
        *((n, float) for n in Point._fields),
        *((f"use_{n}", float) for n in Uses._fields),
    ]
)


@kernel
def _moments(
    boards: Boards, speed: Array, grade: Array, thrust: Array, charge: Array, seconds: Array, out: Records
) -> None:
    for i in range(len(boards)):
        b = boards[i]
        for j in range(speed.shape[1]):
            o = out[i, j]
            v, r = open_circuit(b, charge[i, j]), pack_resistance(b, charge[i, j], b.cell_temperature)
            needed = needed_thrust(b, speed[i, j], grade[i, j], b.head_wind, 0.0)
            given = needed if np.isnan(thrust[i, j]) else thrust[i, j]
            p = point_at_thrust(b, speed[i, j], given, v, r)
            u = uses_at(b, p, given, grade[i, j], v, r)
            w = warming(b, p, charge[i, j], seconds[i, j])
            o.speed, o.grade, o.thrust, o.needed, o.voltage = speed[i, j], grade[i, j], given, needed, v
            o.winding, o.controller, o.cells = w.winding, w.controller, w.cells
            o.motor_current, o.motor_voltage, o.motor_speed = p.motor_current, p.motor_voltage, p.motor_speed
            o.controller_heat, o.pack_power, o.pack_current = p.controller_heat, p.pack_power, p.pack_current
            o.bus_voltage, o.power_share = p.bus_voltage, p.power_share
            o.use_pack_voltage, o.use_motor_current, o.use_pack_current = (
                u.pack_voltage,
                u.motor_current,
                u.pack_current,
            )
            o.use_taper, o.use_electrical_speed, o.use_grip = u.taper, u.electrical_speed, u.grip
            o.use_pack_power, o.use_brake_current = u.pack_power, u.brake_current
            o.use_charging_current, o.use_full_pack = u.charging_current, u.full_pack


def moments(boards: Boards, speed: Any, grade: Any, charge: Any, thrust: Any = np.nan, seconds: Any = 0.0) -> Records:
    """Operating points, uses and warmth in many situations, of shape (boards, situations).

    Args:
        thrust: N at the road, the drive's own drag included; what holding the speed takes where it is nan.
        seconds: after which winding, controller and cells are looked at.
    """
    speed, grade, charge, thrust, seconds = _situations(boards, speed, grade, charge, thrust, seconds)
    out = np.recarray(speed.shape, dtype=MOMENT)
    cut_over_threads(_moments, boards, speed, grade, thrust, charge, seconds, out)
    return out


def limit_of(moments: Records) -> NDArray[np.int64]:
    """Index into :data:`operating.LIMITS` of the ability that each moment uses most."""
    return np.asarray(np.argmax(np.stack([moments[f"use_{n}"] for n in Uses._fields]), axis=0))


@kernel
def _attained(boards: Boards, wanted: Array, grade: Array, charge: Array, out: Array) -> None:
    for i in range(len(boards)):
        b = boards[i]
        for j in range(wanted.shape[1]):
            v, r = open_circuit(b, charge[i, j]), pack_resistance(b, charge[i, j], b.cell_temperature)
            out[i, j] = operating.attained_speed(b, wanted[i, j], grade[i, j], b.head_wind, v, r)[0]


def attained_speeds(boards: Boards, wanted: Any, grade: Any, charge: Any) -> Array:
    """The wanted speeds (m/s), or the highest that can be held, of shape (boards, situations)."""
    wanted, grade, charge = _situations(boards, wanted, grade, charge)
    out = np.empty(wanted.shape)
    cut_over_threads(_attained, boards, wanted, grade, charge, out)
    return out


@kernel
def _held_ways(boards: Boards, grade: Array, charge: Array, out: Array) -> None:
    for i in range(len(boards)):
        b = boards[i]
        for j in range(grade.shape[1]):
            v, r = open_circuit(b, charge[i, j]), pack_resistance(b, charge[i, j], b.cell_temperature)
            out[i, j] = held_metres(b, grade[i, j], charge[i, j], v, r)


def held_ways(boards: Boards, grade: Any, charge: Any) -> Array:
    """m of a climb after which something is too hot; -1 where never, 0 where it cannot climb; (boards, situations)."""
    grade, charge = _situations(boards, grade, charge)
    out = np.empty(grade.shape)
    cut_over_threads(_held_ways, boards, grade, charge, out)
    return out


PULL = np.dtype([("to_15", float), ("to_25", float), ("first_second", float), ("slip_grade", float)])


@kernel
def _pulls(boards: Boards, top_speed: Array, out: Records) -> None:
    for i in range(len(boards)):
        b = boards[i]
        charge = _early(b.charge_full)
        v, r = open_circuit(b, charge), pack_resistance(b, charge, b.cell_temperature)
        found = pull_away(b, top_speed[i], v, r)
        out[i].to_15, out[i].to_25, out[i].first_second = found.to_15, found.to_25, found.first_second
        out[i].slip_grade = slip_grade(b)


def pulls(boards: Boards, top_speed: Array) -> Records:
    """Pulling away with everything open, and the grade on which the driven wheels slip."""
    out = np.recarray(len(boards), dtype=PULL)
    cut_over_threads(_pulls, boards, np.ascontiguousarray(top_speed), out)
    return out


BRAKE = np.dtype([("deceleration", float), ("holds_grade", float), ("limit", np.int64)])


@kernel
def _brakes(boards: Boards, speed: Array, charge: Array, out: Records) -> None:
    for i in range(len(boards)):
        b = boards[i]
        for j in range(speed.shape[1]):
            v, r = open_circuit(b, charge[i, j]), pack_resistance(b, charge[i, j], b.cell_temperature)
            found = brake(b, speed[i, j], v, r)
            out[i, j].deceleration, out[i, j].holds_grade = found.deceleration, found.holds_grade
            out[i, j].limit = found.limit


def brakes(boards: Boards, speed: Any, charge: Any) -> Records:
    """What the motors hold back at speeds (m/s) and charges, of shape (boards, situations)."""
    speed, charge = _situations(boards, speed, charge)
    out = np.recarray(speed.shape, dtype=BRAKE)
    cut_over_threads(_brakes, boards, speed, charge, out)
    return out


@kernel
def _rests(boards: Boards, charge: Array, volts: Array, ohms: Array) -> None:
    for i in range(len(boards)):
        for j in range(charge.shape[1]):
            volts[i, j] = open_circuit(boards[i], charge[i, j])
            ohms[i, j] = pack_resistance(boards[i], charge[i, j], boards[i].cell_temperature)


def at_rest(boards: Boards, charge: Any) -> tuple[Array, Array]:
    """V of the pack at rest and ohm of it while riding, of shape (boards, situations)."""
    (charge,) = _situations(boards, charge)
    volts, ohms = np.empty(charge.shape), np.empty(charge.shape)
    cut_over_threads(_rests, boards, charge, volts, ohms)
    return volts, ohms


@kernel
def _ranges(boards: Boards, share: Array, speeds: Array, out: Array) -> None:
    rows, m, trace = room()
    for i in range(len(boards)):
        for j in range(len(speeds)):
            boards[i].mean_speed = share[i] * speeds[j]
            out[i, j] = ride(boards[i], OWN, False, rows, m, trace).range


def ranges_at(boards: Boards, speeds: Array, share: Array) -> Array:
    """Range in m home with the reserve for riders of usual speeds in m/s, of shape (boards, speeds).

    Args:
        share: of the usual speed that each board's rider keeps up over a ride.
    """
    out = np.empty((len(boards), len(speeds)))
    # A closure, so that the speeds are never cut as if they had a row a board.
    cut_over_threads(lambda b, s, o: _ranges(b, s, speeds, o), boards.copy(), np.ascontiguousarray(share), out)
    return out


__all__ = [
    "ARRIVAL",
    "HEADLINE",
    "RIDE",
    "arrivals",
    "at_rest",
    "attained_speeds",
    "brakes",
    "climbs",
    "cut_over_threads",
    "early_charge",
    "free_speeds",
    "headlines",
    "held_ways",
    "highest_speeds",
    "limit_of",
    "moments",
    "most_brakings",
    "most_thrusts",
    "pulls",
    "ranges_at",
    "rides",
]
