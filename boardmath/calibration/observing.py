"""What a ride measured, beside what the engine says of it: each figure in a space in which errors are even, with its own error.

Observations compare logarithms: of the charge a ride took, of the way to the cut-off, of speeds. All errors are common
practice, no
source, unless a line says otherwise; none was tuned on rides by which the bands are judged.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from math import exp, hypot, log
from typing import Literal

import numpy as np

from boardmath.calibration.day import Day
from boardmath.calibration.ride import ChargeRun, CoastRun, HillRun, SpeedRun, UnloadedRun
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards
from boardmath.model.inputs import grade_of
from boardmath.model.model_inputs import COLUMN
from boardmath.model.resolution import Resolved
from boardmath.model.sampling import Sampler
from boardmath.physics.cell import open_circuit_voltage
from boardmath.physics.motor import NO_LOAD_TEST_VOLTAGE, STEADY_SHARE_OF_DRAG
from boardmath.physics.road_load import GRAVITY
from boardmath.physics.types import Array

What = Literal[
    "range_km",
    "end_v",
    "consumption_wh_per_km",
    "at_least_km",
    "mean_kmh",
    "ascent_m_per_km",
    "stops_per_km",
    "speed_kmh",
    "hill_kmh",
    "coast_m",
    "unloaded_kmh",
    "charge_wh",
]
INTO_PACK = 1.05
"""Wh that a charger counts into a pack over those that come out of it at its terminals: resistance both ways."""
WALL = 0.86
"""Of the wall's energy, what reaches the cells: chargers of this size lose 10 to 15 %, the cells the rest."""
WARNED = 0.94
"""Of the way to the cut-off, where a controller warns or holds back."""

ERRORS = {
    "distance": 0.015,  # of a phone or a wheel's counter
    "cut off": 0.025,  # what riders call the end
    "warned": 0.06,
    "charger": 0.04,
    "wall": 0.05,
    "speed, both ways": 0.015,
    "speed, one way": 0.04,
    "hill": 0.06,
    "hill, short": 0.12,
    "coast, both ways": 0.05,
    "coast, one way": 0.12,
    "unloaded": 0.015,
    "mean speed": 0.02,
    "way": 0.35,
}
"""Deviations of the logarithm of what is read off."""
_VOLTS = {"meter": 0.03, "controller": 0.06, "gauge": 0.15, None: 0.1}
"""V of a pack by which one reading scatters, by what read them; what they are off by each time is a lasting input."""
INSTRUMENT = {
    "meter": "meter_offset",
    "controller": "controller_offset",
    "gauge": "gauge_offset",
    None: "meter_offset",
}
"""The lasting input of what read the volts; where nobody says, it was a meter."""
RESTED_S = 300.0
_STILL_LOW_V, _STILL_UNSURE_V = 0.012, 0.015
"""V a cell by which a pack that was just ridden lies under its rest, and how unsure that is."""
_LEAST_USED, _LEAST_SLOPE = 0.02, 0.08
_LEAST_LENGTH_M = 60.0
_ROLLING_MS = 4.0
"""m/s, the middle of a roll-out, at which a motor that is turned along is looked at: its drag hardly grows with speed."""


@dataclass(frozen=True)
class Observation:
    """One figure of one ride: ``y`` with the error ``sd`` in the space of its comparison; ``run`` of which it is, where of
    one.
    """

    what: What
    y: float
    sd: float
    run: int | None = None
    at_least: bool = False
    """Only a prediction below it contradicts it."""
    value: Callable[[float], float] = exp
    """From the space of comparison to the unit in which it is read."""
    quantity: str = "count"
    falling: bool = False
    """A greater ``y`` is a smaller value."""
    read: tuple[tuple[str, float], ...] = ()
    """By how much ``y`` grows with the V (of the pack, of a cell for its curve) of the inputs that instruments are off by."""


@dataclass(frozen=True)
class Observed:
    """All that one ride measured; ``start`` is the charge it set out with, nan where nobody said."""

    day: Day
    observations: list[Observation]
    start: float

    @property
    def metres(self) -> float:
        return (self.day.ride.way.distance_km or 0.0) * 1000.0


@lru_cache(maxsize=64)
def rest_curve(chemistry: int, full_v: float) -> tuple[Array, Array]:
    """States of charge, and V of a cell that rests at them."""
    charges = np.linspace(0.0, 1.0, 401)
    return charges, np.array([open_circuit_voltage(float(chemistry), float(q), full_v) for q in charges])


def charge_from_volts(fixed: dict[str, float], cell_v: float) -> tuple[float, float]:
    """State of charge at which a cell rests at ``cell_v``, and V a cell for all of the charge there."""
    charges, volts = rest_curve(int(fixed["chemistry"]), fixed["cell_full"])
    rising = np.maximum.accumulate(volts)
    charge = float(np.interp(cell_v, rising, charges))
    low, high = max(charge - 0.04, 0.0), min(charge + 0.04, 1.0)
    slope = float(np.interp(high, charges, rising) - np.interp(low, charges, rising)) / (high - low)
    return charge, max(slope, _LEAST_SLOPE)


def rest_volts(fixed: dict[str, float], charge: float) -> float:
    """V of the pack at rest."""
    charges, volts = rest_curve(int(fixed["chemistry"]), fixed["cell_full"])
    return fixed["series"] * float(np.interp(charge, charges, volts))


def observed(day: Day, usual: Resolved) -> Observed:
    """What a ride measured; ``usual`` are the inputs of the board as it is now."""
    ride = day.ride
    start = _start(day)
    found: list[Observation] = []
    km = ride.way.distance_km
    if km is not None:
        found += _of_the_charge(day, km, start)
        if ride.way.moving_s is not None:
            mean = log(km / ride.way.moving_s * 3600.0)
            found.append(Observation("mean_kmh", mean, ERRORS["mean speed"], quantity="speed"))
        if ride.way.ascent_m is not None:
            found += _usual(usual, "ascent", "ascent_m_per_km", ride.way.ascent_m / km, "way", "ascent")
        if ride.way.stops is not None:
            found += _usual(usual, "stops", "stops_per_km", ride.way.stops / km, "way", "stops")
    for i, run in enumerate(ride.runs):
        match run:
            case SpeedRun():
                both = len(run.kmh) > 1
                sd = ERRORS["speed, both ways" if both else "speed, one way"]
                found.append(Observation("speed_kmh", log(float(np.mean(run.kmh))), sd, i, quantity="speed"))
            case HillRun() if run.top_kmh and _grade(run) is not None:
                # Who came faster to the top than to the foot may not have asked for all of it.
                held = run.foot_kmh is not None and run.top_kmh >= run.foot_kmh
                sd = ERRORS["hill" if (run.length_m or 0.0) >= _LEAST_LENGTH_M else "hill, short"]
                found.append(Observation("hill_kmh", log(run.top_kmh), sd, i, at_least=held, quantity="speed"))
            case CoastRun() if run.metres and run.from_kmh and run.from_kmh > (run.to_kmh or 0.0):
                sd = ERRORS["coast, both ways" if run.both_ways else "coast, one way"]
                found.append(Observation("coast_m", log(run.metres), sd, i, quantity="way"))
            case UnloadedRun() if run.kmh:
                found.append(Observation("unloaded_kmh", log(run.kmh), ERRORS["unloaded"], i, quantity="speed"))
            case ChargeRun() if run.wh and run.from_v and run.to_v and run.to_v > run.from_v:
                low, high = (_charge(day, v, "meter", RESTED_S) for v in (run.from_v, run.to_v))
                between = max(high.charge - low.charge, 0.05)
                sd = hypot(low.error, high.error) / between
                of = ERRORS["charger" if run.at == "pack" else "wall"]
                read = _read_off("meter", day, (low.per_v - high.per_v) / between)
                found.append(Observation("charge_wh", log(run.wh), hypot(of, sd), i, quantity="energy", read=read))
            case _:
                pass
    return Observed(day, found, start.charge if start.sd is not None else float("nan"))


def _grade(run: HillRun) -> float | None:
    if run.grade_pct is not None:
        return run.grade_pct / 100.0
    if run.rise_m is None or run.length_m is None:
        return None
    return grade_of(run.rise_m, run.length_m) / 100.0


@dataclass(frozen=True)
class _ReadCharge:
    """State of charge as it was read, its deviation (None where nobody read it), and by how much a V a cell moves it."""

    charge: float
    sd: float | None = None
    per_v: float = 0.0

    @property
    def error(self) -> float:
        return self.sd or 0.0


def _read_off(by: str | None, day: Day, per_v: float) -> tuple[tuple[str, float], ...]:
    """What a reading's lasting errors do to an observation that grows by ``per_v`` with a V a cell."""
    if per_v == 0.0:
        return ()
    return (("cell_curve", per_v), (INSTRUMENT[by], per_v / day.resolved.fixed["series"]))


def cell_reading(series: float, by: str | None, rested: float | None) -> tuple[float, float]:
    """V a cell by which a pack that was ridden lies under its rest, and by how much V a cell one reading scatters.

    Args:
        by: what read it; rested: seconds since it was ridden, None where nobody said.
    """
    low, unsure = (_STILL_LOW_V, _STILL_UNSURE_V) if rested is None or rested < RESTED_S else (0.0, 0.004)
    return (low / 2.0 if rested is None else low), hypot(_VOLTS[by] / series, unsure)


def _charge(day: Day, volts: float, by: str | None, rested: float | None) -> _ReadCharge:
    """State of charge from a pack's volts, and how unsure it is."""
    series = day.resolved.fixed["series"]
    low, scatter = cell_reading(series, by, rested)
    charge, slope = charge_from_volts(day.resolved.fixed, volts / series + low)
    return _ReadCharge(charge, scatter / slope, 1.0 / slope)


def _start(day: Day) -> _ReadCharge:
    """The charge that a ride set out with; without a deviation where it was not said."""
    said = day.ride.pack
    if said.start_v is not None:
        read = _charge(day, said.start_v, said.by, RESTED_S)
        return replace(read, charge=min(read.charge, 1.0))
    if said.start_pct is not None:
        return _ReadCharge(said.start_pct / 100.0, 0.03)
    return _ReadCharge(day.resolved.fixed["charge_full"] * day.resolved.inputs["charge_start"].value)


def _of_the_charge(day: Day, km: float, start: _ReadCharge) -> list[Observation]:
    """What the way took out of the pack: by its end, by volts, by a charger's count; else that it went so far at least."""
    said, fixed, far = day.ride.pack, day.resolved.fixed, ERRORS["distance"]
    found: list[Observation] = []
    if said.ended == "cut_off":
        found.append(
            Observation(
                "range_km",
                log(km),
                hypot(far, ERRORS["cut off"], start.error),
                quantity="distance",
                read=_read_off(said.by, day, -start.per_v / max(start.charge, 0.1)),
            )
        )
    elif said.end_v is not None or said.end_pct is not None:
        if said.end_v is not None:
            end = _charge(day, said.end_v, said.by, said.rested_s)
        else:
            end = _ReadCharge((said.end_pct or 0.0) / 100.0, 0.04 if said.by == "controller" else 0.10)
        used = start.charge - end.charge
        if used >= _LEAST_USED:
            sd = hypot(hypot(start.error, end.error) / used, far)
            found.append(
                Observation(
                    "end_v",
                    log(used),
                    sd,
                    value=lambda y: rest_volts(fixed, max(start.charge - exp(y), 0.0)),
                    quantity="voltage",
                    falling=True,
                    read=_read_off(said.by, day, (start.per_v - end.per_v) / used),
                )
            )
    elif said.ended == "warned":
        found.append(
            Observation(
                "range_km",
                log(km / WARNED),
                hypot(far, ERRORS["warned"]),
                value=lambda y: exp(y) * WARNED,
                quantity="distance",
            )
        )
    if said.wh is not None:
        found.append(
            Observation(
                "consumption_wh_per_km",
                log(said.wh / INTO_PACK / km),
                hypot(ERRORS["charger"], far),
                quantity="energy_per_distance",
            )
        )
    if not found:
        found.append(Observation("at_least_km", log(km), 0.05, at_least=True, quantity="distance"))
    return found


def _usual(usual: Resolved, name: str, what: What, value: float, error: str, quantity: str) -> list[Observation]:
    """A figure of one ride as a hint of what is usual."""
    known = usual.inputs[name]
    if known.spread <= 0.0:
        return []
    return [Observation(what, log(max(value, 0.05)), ERRORS[error], quantity=quantity)]


_OF_THE_USUAL = {"ascent_m_per_km": "ascent", "stops_per_km": "stops"}


class RidePredictor:
    """What the engine says of every observation of several rides, as often as it is asked.

    ``cuts`` has, for each ride, the columns of its observations.
    """

    def __init__(self, many: Sequence[Observed], usual: Resolved) -> None:
        self._many = many
        self._shared = np.stack([seen.day.shared for seen in many])[:, np.newaxis]
        self._own = np.stack([seen.day.own for seen in many])[:, np.newaxis]
        self._sampler = Sampler([seen.day.resolved for seen in many])
        self._start = np.array([seen.start for seen in many])
        self._metres = np.array([seen.metres for seen in many])
        self._began_with = np.array([_start(seen.day).charge for seen in many])
        edges = np.cumsum([0, *(len(seen.observations) for seen in many)])
        self.cuts = [slice(int(a), int(b)) for a, b in pairwise(edges)]
        all_of_them = [(k, o) for k, seen in enumerate(many) for o in seen.observations]
        self.readings = np.array([_by_reading(o, usual) for _, o in all_of_them])
        """By how much each observation grows with the normal score of each input that needs no engine."""
        self._read = [self.readings[cut].any() for cut in self.cuts]
        self._always = np.array([_always(o, usual) for _, o in all_of_them])
        self._of_ways = {
            what: (np.array([k for k, _ in found]), np.array([column for _, column in found]))
            for what in _OF_WAYS
            if (found := [(k, column) for column, (k, o) in enumerate(all_of_them) if o.what == what])
        }
        self._of_runs = [(k, o, column) for column, (k, o) in enumerate(all_of_them) if o.run is not None]

    def __call__(self, x: Array, u: Array) -> Array:
        """Args:
            x: lasting normal scores, (rides, rows, inputs); u: the rides' own, of the same shape.

        Returns:
            Observations in the spaces of their comparison, (rows, observations).
        """
        rides, rows = x.shape[:2]
        every = self._sampler.boards(np.where(self._shared > 0.0, x + self._own * u, u), middle=False)
        start = np.repeat(self._start, rows)
        every.charge_start = np.where(np.isnan(start), every.charge_start, start)
        said = np.tile(self._always, (rows, 1))
        if self._of_ways:
            of_ways = self._of_the_way(every, rides, rows)
            for what, (of_rides, columns) in self._of_ways.items():
                said[:, columns] += of_ways[what][of_rides].T
        for k, o, column in self._of_runs:
            said[:, column] += _of_a_run(self._many[k], o, every[k * rows : (k + 1) * rows])
        for k, cut in enumerate(self.cuts):
            if self._read[k]:
                said[:, cut] += x[k] @ self.readings[cut].T
        return said

    def _of_the_way(self, every: Boards, rides: int, rows: int) -> dict[What, Array]:
        """What is measured of a whole way, for all rides at once, each of shape (rides, rows)."""
        metres = np.repeat(self._metres, rows)
        there = sweeps.arrivals(every, np.maximum(metres, 1.0))
        far = np.log(np.maximum(there.to_the_end / 1000.0, _TINY))
        km = np.maximum(metres, 1.0) / 1000.0
        found: dict[What, Array] = {
            "range_km": far,
            "at_least_km": far,
            "mean_kmh": np.log(np.maximum(km / np.maximum(there.seconds, _TINY) * 3600.0, _TINY)),
            # From the charge that was reckoned with: what it really began with is part of the doubt.
            "end_v": np.log(np.maximum(np.repeat(self._began_with, rows) - there.charge, _TINY)),
            "consumption_wh_per_km": np.log(np.maximum(there.energy / 3600.0 / km, _TINY)),
        }
        return {what: values.reshape(rides, rows) for what, values in found.items()}


_OF_WAYS: tuple[What, ...] = ("range_km", "at_least_km", "mean_kmh", "end_v", "consumption_wh_per_km")
_TINY = 1e-6


def _by_reading(o: Observation, usual: Resolved) -> Array:
    """By how much an observation grows with the normal scores of all inputs without the engine: what read it is off, or it is
    itself what is usual; (inputs,).
    """
    slopes = np.zeros(len(COLUMN))
    for name, per_v in o.read:
        slopes[COLUMN[name]] = per_v * usual.inputs[name].spread
    if o.what in _OF_THE_USUAL:
        name = _OF_THE_USUAL[o.what]
        slopes[COLUMN[name]] = usual.inputs[name].spread
    return slopes


def _always(o: Observation, usual: Resolved) -> float:
    """What is predicted without the engine where no input differs from its middle."""
    if o.what not in _OF_THE_USUAL:
        return 0.0
    known = usual.inputs[_OF_THE_USUAL[o.what]]
    return log(max(known.value, 0.05)) - (known.spread**2 / 2.0 if known.shape == "lognormal" else 0.0)


def _of_a_run(seen: Observed, o: Observation, b: Boards) -> Array:
    """One observation of a run in the space of its comparison, for every row."""
    assert o.run is not None
    run = seen.day.ride.runs[o.run]
    if isinstance(run, SpeedRun | HillRun):
        charge = min(run.charge_pct / 100.0, 1.0) if run.charge_pct is not None else 0.9
        grade = _grade(run) if isinstance(run, HillRun) else 0.0
        speed = sweeps.highest_speeds(b, grade or 0.0, min(charge, float(b.charge_full[0])))[0][:, 0]
        return np.asarray(np.log(np.maximum(speed * 3.6, _TINY)))
    if isinstance(run, CoastRun):
        steady, square, mass = coast_forces(b, bool(run.drive_off))
        first, last = (run.from_kmh or 0.0) / 3.6, (run.to_kmh or 0.0) / 3.6
        return np.asarray(np.log(rolled_out(steady, square, mass, first, last)))
    if isinstance(run, UnloadedRun):
        cell_v = run.pack_v / float(b.series[0]) if run.pack_v is not None else None
        charge = (
            charge_from_volts(seen.day.resolved.fixed, cell_v)[0] if cell_v is not None else float(b.charge_full[0])
        )
        return np.asarray(np.log(np.maximum(sweeps.free_speeds(b, charge)[0][:, 0] * 3.6, _TINY)))
    assert isinstance(run, ChargeRun)
    low, high = (_charge(seen.day, v or 0.0, "meter", RESTED_S).charge for v in (run.from_v, run.to_v))
    mean_v = rest_volts(seen.day.resolved.fixed, (low + high) / 2.0) * (1.0 + (INTO_PACK - 1.0) / 2.0)
    into = b.pack_capacity * (high - low) * mean_v / 3600.0
    return np.asarray(np.log(np.maximum(into if run.at == "pack" else into / WALL, _TINY)))


def coast_forces(b: Boards, drive_off: bool = False) -> tuple[Array, Array, Array]:
    """N that do not grow with speed, N for each (m/s)^2, and kg that roll, of boards coasting on the flat in still air.

    A motor that is turned along holds back by its iron and bearings; with the belts off it does not.
    """
    steady = b.rolling_mass * GRAVITY * b.crr
    if not drive_off:
        torque = np.sqrt(3.0) / 2.0 / b.kv * b.no_load_current
        turned = b.gear / b.wheel_radius
        spinning = _ROLLING_MS * turned / (b.kv * NO_LOAD_TEST_VOLTAGE)
        share = STEADY_SHARE_OF_DRAG + (1.0 - STEADY_SHARE_OF_DRAG) * spinning
        steady = steady + b.drive_drag + b.motors * torque * turned * share
    return steady, 0.5 * b.air_density * b.cda, b.rolling_mass + b.rotating_mass


def rolled_out(steady: Array, square: Array, mass: Array, first: float, last: float) -> Array:
    """m from one speed to a lower one (m/s): the closed solution of ``m dv/dt = -(a + b v^2)``."""
    return np.asarray(mass / (2.0 * square) * np.log((steady + square * first**2) / (steady + square * last**2)))
