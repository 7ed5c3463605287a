"""A ride from the charge that it starts with to the reserve and to the end: flat, wind, hills and stops, cells that warm up."""

from math import log, sqrt
from typing import NamedTuple

import numpy as np

from boardmath.engine.boards import Board
from boardmath.engine.operating import (
    BY_SPEED,
    _use_at,
    driving_use,
    needed_thrust,
    open_circuit,
    pack_resistance,
    point_at_thrust,
    uses_at,
    worst_of,
)
from boardmath.physics import cell, controller, pack
from boardmath.physics.jit import kernel
from boardmath.physics.types import Array

_BETWEEN_STOPS = 0.95
"""Of the way between two stops, the most that pulling away and braking take."""
STRANDED = 5.0 / 3.6
"""m/s. Below walking pace the ride is over, whatever charge is left."""
COMFORT = 1.1
"""m/s2 at which people speed up and slow down when nothing hurries them: 1.0 to 1.2 (common practice, no source; buses and trams
keep to as much for standing passengers, from memory)."""

OWN, PATH, TOWN, HILLY = 0, 1, 2, 3
PROFILES = {"path": PATH, "town": TOWN, "hilly": HILLY}
"""Ridden ways, invented, in the manner of a bicycle path, a town and a rolling road of some 22 m of climb in a kilometre."""
_ROWS = {
    # share of the way, share of the mean speed, grade, wind (1 against, -1 from behind), stops per m
    PATH: ((0.4, 1.0, 0.0, 1.0), (0.4, 1.0, 0.0, -1.0), (0.1, 1.0, 0.02, 0.0), (0.1, 1.0, -0.02, 0.0)),
    TOWN: ((0.46, 1.0, 0.0, 1.0), (0.46, 1.0, 0.0, -1.0), (0.04, 1.0, 0.03, 0.0), (0.04, 1.0, -0.03, 0.0)),
    HILLY: (
        (0.15, 1.0, 0.0, 1.0),
        (0.15, 1.0, 0.0, -1.0),
        (0.17, 0.9, 0.09, 0.0),
        (0.17, 1.1, -0.09, 0.0),
        (0.18, 1.0, 0.04, 0.0),
        (0.18, 1.05, -0.04, 0.0),
    ),
}
_MOST_ROWS = 6
_WAYS = np.zeros((4, _MOST_ROWS, 4))
for _kind, _rows in _ROWS.items():
    _WAYS[_kind, : len(_rows)] = _rows
_STOPS = np.array([0.0, 0.4e-3, 4.0e-3, 0.3e-3])
"""Stops per m of each profile; relative to those that the brief has, when it has more than usual."""

_HALF = sqrt(0.15)
_GAUSS = ((0.5 - _HALF, 5.0 / 18.0), (0.5, 8.0 / 18.0), (0.5 + _HALF, 5.0 / 18.0))
"""Points and weights of Gauss-Legendre on 0..1: of a ramp from rest, or to it."""
_MOMENTS = _MOST_ROWS + 2 * len(_GAUSS)
SECONDS, STEADY, PER_VOLT, VOLTAGE, CURRENT, BRAKES = 0, 1, 2, 3, 4, 5
"""Columns of a moment: s per m of way, W but for switching, A of switching, V of the motor, A of the motor, whether it brakes."""

_EDGES = np.array([0.0, 0.03, 0.07, 0.12, 0.19, 0.3, 0.45, 0.65, 0.85, 1.0])
"""State of charge at which a ride is cut into pieces: the same for every board, so that no answer jumps; denser near empty."""
_NEARLY_EMPTY = 0.12
"""State of charge below which a board that cannot keep its speed is taken to use what it would at that speed: what it still
goes is the same to a part in a thousand, and no answer to the cut-off depends on the reserve that somebody keeps."""
_REFERENCE_CHARGE = 0.6
_EASY = 0.3
"""A charge at which nearly every board keeps up walking pace."""


class Ride(NamedTuple):
    """A ride from the charge it starts with, to the reserve and on to the end."""

    range: float  # m to the reserve, or to the end where that comes first
    energy: float  # J at the pack's terminals, over that
    seconds: float
    square: float  # A2 s of the pack, over that
    to_the_end: float  # m
    cut_off: bool  # voltage, not the reserve, ends the ride home
    slowed: bool  # the wanted speed cannot be held all the way to the reserve
    warmest: float  # K, of the cells
    carried: bool  # the flat takes no thrust at all: the wind pushes
    path: float  # m to the reserve on the profiles, where they are asked for
    town: float
    hilly: float


@kernel
def _rows_of(b: Board, kind: int, rows: Array) -> int:
    """Fills the stretches of a way (share of it, wanted speed, grade, wind in m/s) and says how many there are."""
    wind = b.head_wind + b.way_wind
    if kind == OWN:
        hill = min(b.ascent / b.ascent_grade, 0.5)
        grade = b.ascent / hill if hill > 0.0 else 0.0
        flat = (1.0 - 2.0 * hill) / 2.0
        for i in range(4):
            rows[i, 1] = b.mean_speed
        rows[0, 0], rows[0, 2], rows[0, 3] = flat, 0.0, wind + b.swing_wind
        rows[1, 0], rows[1, 2], rows[1, 3] = flat, 0.0, wind - b.swing_wind
        rows[2, 0], rows[2, 2], rows[2, 3] = hill, grade, wind
        rows[3, 0], rows[3, 2], rows[3, 3] = hill, -grade, wind
        return 4
    count = 0
    for i in range(_MOST_ROWS):
        if _WAYS[kind, i, 0] <= 0.0:
            break
        rows[i, 0] = _WAYS[kind, i, 0]
        rows[i, 1] = _WAYS[kind, i, 1] * b.mean_speed
        rows[i, 2] = _WAYS[kind, i, 2] * b.hilliness
        rows[i, 3] = wind + _WAYS[kind, i, 3] * b.swing_wind
        count += 1
    return count


@kernel
def _moment(
    b: Board,
    m: Array,
    i: int,
    seconds: float,
    speed: float,
    thrust: float,
    carried: bool,
    voltage: float,
    resistance: float,
) -> None:
    """Writes down one moment so that its current at another charge is a square root away."""
    m[i, SECONDS] = seconds
    if carried:
        m[i, STEADY], m[i, PER_VOLT], m[i, VOLTAGE], m[i, CURRENT], m[i, BRAKES] = b.idle_power, 0.0, 0.0, 0.0, 0.0
        return
    p = point_at_thrust(b, speed, thrust, voltage, resistance)
    # Switching losses go with the pack's voltage; all else of the power does not.
    per_volt = b.motors * controller.losses(0.0, b.switching, p.motor_current, 1.0)
    m[i, STEADY] = p.pack_power - per_volt * voltage
    m[i, PER_VOLT] = per_volt
    m[i, VOLTAGE], m[i, CURRENT] = p.motor_voltage, p.motor_current
    m[i, BRAKES] = 1.0 if thrust < 0.0 else 0.0


@kernel
def _within(b: Board, speed: float, thrust: float, grade: float, voltage: float, resistance: float) -> float:
    """A thrust, or a braking force below 0, cut down to what every ability bears: uses grow no slower than it."""
    point = point_at_thrust(b, speed, thrust, voltage, resistance)
    uses = uses_at(b, point, thrust, grade, voltage, resistance)
    return thrust / max(worst_of(uses)[0] if thrust < 0.0 else driving_use(uses, thrust)[0], 1.0)


@kernel
def attained(
    b: Board, wanted: float, grade: float, wind: float, voltage: float, resistance: float
) -> tuple[float, bool]:
    """``wanted`` speed, or the highest above walking pace that can be held, to a thousandth; and whether it is less."""
    above = _use_at(b, BY_SPEED, wanted, grade, wind, voltage, resistance)[0] - 1.0
    if above <= 0.0:
        return wanted, False
    below = _use_at(b, BY_SPEED, STRANDED, grade, wind, voltage, resistance)[0] - 1.0
    if below > 0.0 or wanted <= STRANDED:
        return STRANDED, True
    # Regula falsi with the Illinois rule: an end that stays put twice counts half.
    low, high, side, above = STRANDED, wanted, 0, min(above, 4.0)
    for _ in range(20):
        middle = (low * above - high * below) / (above - below)
        use = min(_use_at(b, BY_SPEED, middle, grade, wind, voltage, resistance)[0] - 1.0, 4.0)
        if use > 0.0:
            high, above = middle, use
            below *= 0.5 if side == 1 else 1.0
            side = 1
        else:
            low, below = middle, use
            above *= 0.5 if side == -1 else 1.0
            side = -1
        if abs(use) < 5e-4:
            return middle, True
        if high - low < 1e-3:
            break
    return low, True


@kernel
def fill_moments(b: Board, kind: int, rows: Array, m: Array, voltage: float, resistance: float) -> tuple[int, bool]:
    """Every moment of a metre of the way, as it can be ridden at one charge; how many, and whether it is slower than wanted."""
    count = _rows_of(b, kind, rows)
    stops = b.stops if kind == OWN else max(_STOPS[kind], b.stops if kind == TOWN else 0.0)
    return moments_of(b, count, rows, stops, b.head_wind + b.way_wind, m, voltage, resistance)


@kernel
def moments_of(
    b: Board, count: int, rows: Array, stops: float, wind: float, m: Array, voltage: float, resistance: float
) -> tuple[int, bool]:
    """The same of any ``count`` stretches of a metre (share of it, wanted speed, grade, wind), with so many stops a metre; the
    stops are ridden against ``wind``.
    """
    slowed = False
    cruise = STRANDED
    for i in range(count):
        speed, slow = attained(b, rows[i, 1], rows[i, 2], rows[i, 3], voltage, resistance)
        slowed = slowed or (slow and rows[i, 2] <= 0.0)
        if i == 0:
            cruise = speed
        thrust = needed_thrust(b, speed, rows[i, 2], rows[i, 3], 0.0)
        # Pushed along by the wind or rolling down, no motor is needed; only a descent is braked, and gives some back.
        carried = thrust < 0.0 and rows[i, 2] >= 0.0
        if thrust < 0.0 and not carried:
            thrust = _within(b, speed, b.returned * thrust, 0.0, voltage, resistance)
        _moment(b, m, i, rows[i, 0] / speed, speed, thrust, carried, voltage, resistance)
    if stops <= 0.0:
        return count, slowed
    # Where stops lie close, nobody reaches the wanted speed between them; a weak board takes longer to it, and turns back sooner.
    top = min(cruise, sqrt(_BETWEEN_STOPS * COMFORT / stops))
    away = _ramps(b, m, count, top, stops, wind, voltage, resistance)
    power = 2.0
    for _ in range(6):
        if away <= _BETWEEN_STOPS * (1.0 + 1e-3):
            break
        lower = top * (_BETWEEN_STOPS / away) ** (1.0 / power)
        less = _ramps(b, m, count, lower, stops, wind, voltage, resistance)
        power = min(max(log(less / away) / log(lower / top), 1.5), 8.0)
        top, away = lower, less
    for j in range(count):
        m[j, SECONDS] *= max(1.0 - away, 0.0)
    return count + 2 * len(_GAUSS), slowed


@kernel
def _ramps(
    b: Board, m: Array, at: int, top: float, stops: float, wind: float, voltage: float, resistance: float
) -> float:
    """The share of the way that pulling away to ``top`` m/s and braking take; their moments are written from row ``at`` on."""
    inertia = b.rolling_mass + b.rotating_mass
    away, i = 0.0, at
    for point, weight in _GAUSS:
        speed = point * top
        steady = needed_thrust(b, speed, 0.0, wind, 0.0)
        rate, thrust = COMFORT, steady + inertia * COMFORT
        if thrust > 0.0:
            # A weak board takes its time: the same gain of speed at the rate that it can.
            thrust = max(_within(b, speed, thrust, 0.0, voltage, resistance), steady + inertia * 0.02)
            rate = (thrust - steady) / inertia
        seconds = stops * weight * top / rate
        _moment(b, m, i, seconds, speed, thrust, thrust < 0.0, voltage, resistance)
        away += seconds * speed
        i += 1
    for point, weight in _GAUSS:
        speed = point * top
        thrust = needed_thrust(b, speed, 0.0, wind, -COMFORT)
        if thrust < 0.0:
            thrust = _within(b, speed, b.returned * thrust, 0.0, voltage, resistance)
        seconds = stops * weight * top / COMFORT
        _moment(b, m, i, seconds, speed, thrust, False, voltage, resistance)
        away += seconds * speed
        i += 1
    return away


@kernel
def per_metre(
    b: Board, m: Array, count: int, voltage: float, resistance: float
) -> tuple[float, float, float, float, bool]:
    """Over all moments of a metre of way: C, J at the terminals, s, A2 s; and whether no ability gives way at this charge."""
    charge, energy, time, heat, holds = 0.0, 0.0, 0.0, 0.0, True
    for i in range(count):
        seconds = m[i, SECONDS]
        current, share = pack.current_for_power(m[i, STEADY] + m[i, PER_VOLT] * voltage, voltage, resistance)
        bus = voltage - current * resistance
        charge += seconds * current
        energy += seconds * current * bus
        time += seconds
        heat += seconds * current * current
        if m[i, BRAKES] > 0.0:
            room = max(b.brake_ceiling - voltage, 1e-3)
            holds = holds and -current <= b.regen_current_limit and -current * resistance <= room
        else:
            left = min(max((bus - b.taper_end) / (b.taper_start - b.taper_end), 1e-9), 1.0)
            volts = m[i, VOLTAGE] <= b.duty * bus
            holds = holds and share <= 1.0 and volts and current <= b.pack_current_limit * left
    return charge, energy, time, heat, holds


@kernel
def too_much(b: Board, wind: float, charge: float, kelvin: float) -> float:
    """Above 0 where walking pace cannot be held on the flat, against the wind of the way out."""
    voltage, resistance = open_circuit(b, charge), pack_resistance(b, charge, kelvin)
    return min(_use_at(b, BY_SPEED, STRANDED, 0.0, wind, voltage, resistance)[0] - 1.0, 4.0)


@kernel
def _strands_at(b: Board, wind: float, low: float, high: float, too_low: float, kelvin: float) -> float:
    """The charge within ``low``..``high`` below which it no longer keeps up walking pace; ``too_low`` is by how much there."""
    too_high, side = too_much(b, wind, high, kelvin), 0
    if too_high >= 0.0:
        return high
    for _ in range(30):
        # Regula falsi with the Illinois rule.
        middle = (low * too_high - high * too_low) / (too_high - too_low)
        too = too_much(b, wind, middle, kelvin)
        if too > 0.0:
            low, too_low = middle, too
            too_high *= 0.5 if side == 1 else 1.0
            side = 1
        else:
            high, too_high = middle, too
            too_low *= 0.5 if side == -1 else 1.0
            side = -1
        if abs(too) < 1e-4:
            return middle
        if high - low < 1e-6:
            break
    return high


@kernel
def _on_profile(b: Board, m: Array, count: int, voltage: float, resistance: float) -> float:
    """C of a metre of a profile, never less than the controller awake takes."""
    charge, _, seconds, _, _ = per_metre(b, m, count, voltage, resistance)
    return max(charge, b.idle_power / voltage * seconds)


PIECES = len(_EDGES) - 1
"""How many pieces of charge a ride is cut into at the most; its trace has a row more."""
CHARGE, WAY, ENERGY, TIME, WARMTH = 0, 1, 2, 3, 4
"""Columns of a trace: state of charge, m, J at the terminals and s since the start, K of the cells."""


@kernel
def ride(b: Board, kind: int, profiles: bool, rows: Array, m: Array, trace: Array) -> Ride:
    """A ride over a way from ``charge_start``: ``dx = dQ / (C per m)``, the cells warming up by what they lose.

    Where the wanted speed cannot be held, it goes on as fast as it can; the ride ends at the charge at which it no longer keeps
    up walking pace. What slowing down would save is not counted, so that no guard that acts earlier lengthens it.
    Profiles are ridden on the same charges: near the end each takes as much more, or less, as the ride itself.

    Args:
        kind: of the way; profiles: whether the three profiles are ridden too.
        rows, m, trace: room to work in, of :func:`room`; the trace holds the ride at every edge of charge afterwards, the last
        row
            repeated to its end.
    """
    wind = b.head_wind + b.way_wind + b.swing_wind
    kelvin, start = b.cell_temperature, b.charge_start
    way, energy, seconds, squares, warmest = 0.0, 0.0, 0.0, 0.0, kelvin
    home, home_energy, home_seconds, home_squares, arrived = 0.0, 0.0, 0.0, 0.0, False
    slowed, ended, most, end = False, False, 0.0, 0.0
    at = 0
    for j in range(PIECES + 1):
        trace[j, CHARGE], trace[j, WAY], trace[j, ENERGY], trace[j, TIME], trace[j, WARMTH] = (
            start,
            0.0,
            0.0,
            0.0,
            kelvin,
        )
    if too_much(b, wind, start, kelvin) > 0.0:
        return Ride(0.0, 0.0, 0.0, 0.0, 0.0, True, True, kelvin, False, 0.0, 0.0, 0.0)
    v, r = open_circuit(b, _REFERENCE_CHARGE), pack_resistance(b, _REFERENCE_CHARGE, kelvin)
    # As wanted: what the taper holds back is no saving.
    taper_start, taper_end = b.taper_start, b.taper_end
    b.taper_start, b.taper_end = -1.0, -2.0
    count, limited = fill_moments(b, kind, rows, m[0], v, r)
    path, town, hilly = 0.0, 0.0, 0.0
    on_path, in_town, on_hills = 0, 0, 0
    if profiles:
        on_path = fill_moments(b, PATH, rows, m[PATH], v, r)[0]
        in_town = fill_moments(b, TOWN, rows, m[TOWN], v, r)[0]
        on_hills = fill_moments(b, HILLY, rows, m[HILLY], v, r)[0]
    b.taper_start, b.taper_end = taper_start, taper_end
    # What it can do at this charge it can do at any above it.
    easy = 1.0
    if too_much(b, wind, _EASY, kelvin) <= 0.0:
        easy = _EASY
    for i in range(len(_EDGES) - 2, -1, -1):
        high, low = min(_EDGES[i + 1], start), _EDGES[i]
        if high <= low:
            continue
        too_low = too_much(b, wind, low, kelvin) if low < easy else 0.0
        if too_low > 0.0:
            low, ended = _strands_at(b, wind, low, high, too_low, kelvin), True
        middle = (low + high) / 2.0
        v, r = open_circuit(b, middle), pack_resistance(b, middle, kelvin)
        charge, joules, time, heat, holds = per_metre(b, m[0], count, v, r)
        wanted = charge
        if limited or (not holds and middle > _NEARLY_EMPTY):
            _, slow = fill_moments(b, kind, rows, m[4], v, r)
            charge, joules, time, heat, holds = per_metre(b, m[4], count, v, r)
            slowed = slowed or (slow and middle >= b.charge_reserve)
        # Never less than the controller awake takes, however far the wind carries.
        least = b.idle_power / v * time
        if charge < least:
            joules, charge = least * v, least
        most = max(most, charge, wanted)
        joules *= most / charge
        coulombs = (high - low) * b.pack_capacity / b.riding
        metres = coulombs / most
        joules *= b.riding * metres
        time *= metres
        square = heat * metres * b.riding * b.riding
        part = min(max((high - b.charge_reserve) / (high - low), 0.0), 1.0) if high > low else 0.0
        if not arrived and low <= b.charge_reserve:
            home, home_energy, home_seconds = way + part * metres, energy + part * joules, seconds + part * time
            home_squares = squares + part * square
            arrived = True
        if profiles:
            as_home = part * coulombs * max(wanted, least) / most
            path += as_home / _on_profile(b, m[PATH], on_path, v, r)
            town += as_home / _on_profile(b, m[TOWN], in_town, v, r)
            hilly += as_home / _on_profile(b, m[HILLY], on_hills, v, r)
        way, energy, seconds, squares = way + metres, energy + joules, seconds + time, squares + square
        if time > 0.0:
            watts = square / time * b.cell_resistance * cell.resistance_factor(middle, kelvin)
            kelvin = pack.warmed(kelvin, watts, b.ambient + 273.15, b.pack_heat_capacity, b.pack_to_air, time)
            if middle >= b.charge_reserve:
                warmest = max(warmest, kelvin)
        end = low
        at += 1
        for j in range(at, PIECES + 1):
            trace[j, CHARGE], trace[j, WAY], trace[j, ENERGY], trace[j, TIME] = low, way, energy, seconds
            trace[j, WARMTH] = kelvin
        if ended:
            break
    cut_off = ended and end > b.charge_reserve
    if not arrived:
        home, home_energy, home_seconds, home_squares = way, energy, seconds, squares
    carried = needed_thrust(b, b.mean_speed, 0.0, b.head_wind + b.way_wind, 0.0) < 0.0
    slowed = slowed or cut_off
    return Ride(
        home, home_energy, home_seconds, home_squares, way, cut_off, slowed, warmest, carried, path, town, hilly
    )


@kernel
def room() -> tuple[Array, Array, Array]:
    """Room for a ride to work in: its stretches; its moments as wanted, on the three profiles, and as possible; its trace."""
    return np.zeros((_MOST_ROWS, 4)), np.zeros((5, _MOMENTS, 6)), np.zeros((PIECES + 1, 5))
