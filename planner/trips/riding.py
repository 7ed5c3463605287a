"""A trip ridden by a board and its samples: the charge along the way, stops, where it ends on foot."""

from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from scipy.special import ndtr

from boardmath.buildfile import Build
from boardmath.buildfile.build import Brief
from boardmath.buildfile.electrics import Charger
from boardmath.buildfile.trips import Trip, TripDay, TripLeg, TripStop
from boardmath.engine.boards import Boards, changed
from boardmath.engine.travelling import beginning, travelled
from boardmath.model.bricks import charge_turns
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_voltages
from boardmath.model.model_inputs import COLUMN, FROM_RIDE_TO_RIDE, INPUTS
from boardmath.model.sampling import boards, standard_normal
from boardmath.physics import cell as cells
from boardmath.physics.types import Array
from boardmath.prediction.charging import CHARGER_SPREAD, charge_course
from planner.trips.route import RouteSegment, segment_of, usual_steepness

WIND_SPREAD, WIND_TURNS = 0.3, 20.0
"""How far a wind that was typed in lies off: deviation of its logarithm, and of its direction in degrees (common practice, no
source)."""
STARTS = "09:00"
_SWAP_MIN, _REST_MIN, _CHARGE_MIN, _NIGHT_MIN = 5.0, 20.0, 90.0, 600.0
"""Minutes of a stop that does not say how long."""
PLUG_MIN = 5.0
"""Minutes until a charger is found and plugged in."""


@dataclass(frozen=True)
class Point:
    """How the samples stand at a point of the trip, after a leg or after a stop; arrays have the middle first."""

    name: str
    day: int
    leg: int
    km: float
    charge: Array
    clock: Array
    """Minutes of the day."""
    joules: Array
    walked: Array
    """m walked so far."""
    stranded: Array
    """km after which each stood still for the first time; inf where it did not yet."""
    stop: TripStop | None = None
    after_stop: bool = False


@dataclass(frozen=True)
class Ridden:
    """A trip as it was ridden: points in their order, and the charge along the way."""

    trip: Trip
    points: list[Point]
    km: Array
    """Of the course: the ends of all pieces."""
    course: Array
    """Charge there, of shape (samples, pieces)."""
    ways: list[tuple[int, int, RouteSegment, Boards]] = field(default_factory=list)
    """Day, leg, way and boards of each leg."""
    starts: list[Any] = field(default_factory=list)
    """The states in which each leg was begun."""
    winds: list[tuple[Array, Array]] = field(default_factory=list)
    steeper: list[Array] = field(default_factory=list)


def on_the_leg(build: Build, trip: Trip, day: TripDay, leg: TripLeg) -> Build:
    """The build with what the trip says of load, weather, ground and speed in place of what the brief says."""
    said: dict[str, Any] = {}
    assumptions = build.assumptions
    if day.weather.wind_ms is not None:
        said |= {"wind_ms": None, "wind": None}
        assumptions = assumptions.model_copy(update={"wind_ms": None})
    if day.weather.temperature_c is not None:
        said["temperature_c"] = day.weather.temperature_c
    if day.weather.wet is not None:
        said["wet"] = day.weather.wet
    if leg.surface is not None:
        said["surface"] = leg.surface
    if leg.speed_kmh is not None:
        said["mean_kmh"] = leg.speed_kmh
    km = leg.km
    if leg.stops is not None and km:
        said["stops_per_km"] = min(leg.stops / km, 20.0)
    brief: Brief = build.brief.model_copy(update=said)
    rider = build.rider
    if trip.carried_kg is not None:
        rider = rider.model_copy(update={"carried_kg": trip.carried_kg})
    parts, pack = build.parts, build.parts.pack
    if pack is not None:
        beside = 1 + (trip.packs_beside or 0)
        changed: dict[str, Any] = {"spares": trip.swap_packs or 0, "parallel": (pack.parallel or 1) * beside}
        if pack.mass_g is not None:
            changed["mass_g"] = pack.mass_g * beside
        parts = parts.model_copy(update={"pack": pack.model_copy(update=changed)})
    weighed = build.weighed_kg if not trip.packs_beside else None
    return build.model_copy(
        update={"brief": brief, "rider": rider, "parts": parts, "assumptions": assumptions, "weighed_kg": weighed}
    )


def ride_trip(build: Build, trip: Trip, samples: int) -> Ridden:
    """The trip by the middle and ``samples`` boards, the same riders on the same days whatever is changed of it.

    Raises:
        Incomplete: the build is not far enough for a prediction.
    """
    normals = standard_normal(samples) if samples else np.zeros((0, 2 * len(INPUTS) + 1))
    fresh = np.concatenate([np.zeros((1, normals.shape[1])), normals])
    states: Any = None
    points: list[Point] = []
    kms: list[Array] = []
    courses: list[Array] = []
    ridden = Ridden(trip, points, np.zeros(0), np.zeros(0))
    swaps, so_far = trip.swap_packs or 0, 0.0
    first: Boards | None = None
    for d, day in enumerate(trip.days):
        clock = np.full(samples + 1, minutes_of(day.start or STARTS))
        for n, leg in enumerate(day.legs):
            evaluation = Evaluation(on_the_leg(build, trip, day, leg), samples)
            rows = boards([evaluation.resolved], [_of_the_day(evaluation, fresh, d)])
            way = segment_of(leg, evaluation.resolved.inputs["ascent"].value, usual_steepness(rows))
            if states is None:
                states, first = beginning(rows), rows
                if trip.start_pct is not None:
                    states.charge = rows.charge_full * trip.start_pct / 100.0
                points.append(_point("", d, -1, so_far, states, clock, None))
            states.kelvin = np.maximum(states.kelvin, rows.cell_temperature)
            wind, comes_from, rows = _wind(day, way, rows, fresh, d, n)
            ridden.ways.append((d, n, way, rows))
            ridden.starts.append(states.copy())
            ridden.winds.append((wind, comes_from))
            steeper = _steeper(way, fresh)
            ridden.steeper.append(steeper)
            before = states.seconds.copy()
            course = travelled(rows, way.pieces, wind, comes_from, states, steeper)
            kms.append((so_far + np.cumsum(way.pieces[:, 0])) / 1000.0)
            courses.append(course)
            so_far += way.metres
            clock = clock + (states.seconds - before) / 60.0
            name = leg.name or f"{so_far / 1000.0:.0f} km"
            points.append(_point(name, d, n, so_far, states, clock, leg.then))
            stop = leg.then
            if stop is None:
                continue
            minutes = minutes_at(stop)
            if stop.kind == "swap" and swaps > 0 and first is not None:
                states.charge, swaps = first.charge_start.copy(), swaps - 1
            elif stop.kind in ("charge", "night"):
                states.charge = charged(evaluation, stop, states.charge, minutes, fresh)
            states.kelvin = rows.cell_temperature.copy()
            clock = clock + minutes
            points.append(_point(name, d, n, so_far, states, clock, stop, after_stop=True))
    if not points:
        return ridden
    return replace(ridden, km=np.concatenate(kms), course=np.concatenate(courses, axis=1))


def minutes_of(clock: str) -> float:
    hours, minutes = clock.split(":")
    return int(hours) * 60.0 + int(minutes)


def minutes_at(stop: TripStop) -> float:
    """How long a stop takes."""
    usual = {"swap": _SWAP_MIN, "rest": _REST_MIN, "charge": _CHARGE_MIN, "night": _NIGHT_MIN}
    return stop.minutes if stop.minutes is not None else usual[stop.kind]


def _point(
    name: str, day: int, leg: int, metres: float, s: Any, clock: Array, stop: TripStop | None, after_stop: bool = False
) -> Point:
    return Point(
        name=name,
        day=day,
        leg=leg,
        km=metres / 1000.0,
        charge=np.maximum(s.charge, 0.0).copy(),
        clock=clock.copy(),
        joules=s.joules.copy(),
        walked=s.walked.copy(),
        stranded=s.stranded / 1000.0,
        stop=stop,
        after_stop=after_stop,
    )


def _of_the_day(evaluation: Evaluation, fresh: Array, day: int) -> Array:
    """The samples' normal scores, with what differs from one ride to the next drawn anew for every day."""
    z = evaluation.drawn().copy()
    for i, (name, own) in enumerate(FROM_RIDE_TO_RIDE.items()):
        spread = evaluation.resolved.inputs[name].spread
        if spread > 0.0:
            z[:, COLUMN[name]] += own / spread * fresh[:, len(INPUTS) + (7 * day + i) % len(INPUTS)]
    return z


def _steeper(way: RouteSegment, fresh: Array) -> Array:
    """By how much each sample's hills are steeper than the leg says: a track knows, a guess does not."""
    z = fresh[:, COLUMN["ascent"]]
    found: Array = np.exp(way.told * z - (way.told**2 / 2.0 if way.told > 0.5 else 0.0))
    found[0] = 1.0
    return found


def mean_headwind(speed: float, wind: float) -> float:
    """The head wind that drags as much as a wind from any direction does on average, all in m/s."""
    angle = np.linspace(0.0, 2.0 * np.pi, 72, endpoint=False)
    along = speed + wind * np.cos(angle)
    drag = float(np.mean(along * np.hypot(along, wind * np.sin(angle))))
    return float(np.sqrt(drag)) - speed


def _wind(day: TripDay, way: RouteSegment, rows: Boards, fresh: Array, d: int, n: int) -> tuple[Array, Array, Boards]:
    """m/s and degrees that it comes from, for every sample, and the boards that ride in it.

    Where the day says nothing it is the brief's wind, or any usual one. A brief's wind against or from behind blows along the way
    out, and so the other way on the way back. A wind of unknown direction comes from a direction of its own for each sample; the
    middle has the head wind that costs as much as it does on average.
    """
    said = day.weather
    force = fresh[:, COLUMN["swing_wind"]]
    turn = fresh[:, len(INPUTS) + (COLUMN["way_wind"] + 3 * d) % len(INPUTS)]
    anywhere = 360.0 * ndtr(fresh[:, len(INPUTS) + (COLUMN["stops"] + 5 * d) % len(INPUTS)])
    if said.wind_ms is None and rows.way_wind.any():
        return rows.way_wind.copy(), np.full(len(rows), way.heading), rows
    speed = rows.swing_wind.copy() if said.wind_ms is None else said.wind_ms * np.exp(WIND_SPREAD * force)
    if said.wind_from_deg is not None and way.aimed:
        return speed, said.wind_from_deg + WIND_TURNS * turn, rows
    if not way.aimed:
        anywhere = (anywhere + 137.5 * n) % 360.0
    head_wind = rows.head_wind.copy()
    head_wind[0] += mean_headwind(float(rows.mean_speed[0]), float(speed[0]))
    speed[0] = 0.0
    return speed, anywhere, changed(rows, head_wind=head_wind)


def charged(evaluation: Evaluation, stop: TripStop, charge: Array, minutes: float, fresh: Array) -> Array:
    """Charge after so many minutes at a plug, each charger as strong as it really is."""
    found = course_of(evaluation, stop)
    if found is None:
        return charge
    level, hours = found
    off = np.exp(CHARGER_SPREAD * fresh[:, len(INPUTS) + COLUMN["idle"]])
    until = min(stop.until_pct / 100.0, 1.0) * float(level[-1]) if stop.until_pct is not None else float(level[-1])
    begun = np.interp(np.clip(charge, 0.0, None), level, hours)
    after = np.interp(begun + max(minutes - PLUG_MIN, 0.0) / 60.0 * off, hours, level)
    return np.maximum(charge, np.minimum(after, until))


def course_of(evaluation: Evaluation, stop: TripStop) -> tuple[Array, Array] | None:
    """Charge and hours at a stop's plug, from empty; None where nothing charges there."""
    build = evaluation.build
    charger, pack = build.parts.charger, build.parts.pack
    changed: dict[str, Any] = {}
    if stop.charger_a is not None or stop.charger_v is not None:
        changed["charger"] = (charger or Charger()).model_copy(
            update={k: v for k, v in (("a", stop.charger_a), ("v", stop.charger_v)) if v is not None}
        )
    now = build.model_copy(update={"parts": build.parts.model_copy(update=changed)})
    volts = now.parts.charger.v if now.parts.charger is not None else None
    resolved = evaluation.calibrated
    if volts is not None and pack is not None and pack.series:
        each = volts / pack.series
        full = pack.charge_to_v or cell_voltages(pack)[0]
        if each < full - 0.005:
            # A weaker charger ends where its own volts are reached.
            ends = cells.charge_at(cells.CHEMISTRIES[int(resolved.fixed["chemistry"])], each, cell_voltages(pack)[0])
            if ends <= 0.0:
                return None
            resolved = replace(resolved, fixed={**resolved.fixed, "charge_full": ends})
    found = charge_course(now, resolved, 0.0)
    return (found[0], found[1] * charge_turns(build)) if found is not None else None
