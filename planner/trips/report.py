"""What a trip comes to: arrival charge and chance at every point, where to turn back, where walking would begin."""

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.buildfile.trips import StopKind, Trip
from boardmath.calibration.ride import Ride
from boardmath.engine import sweeps
from boardmath.engine.travelling import travelled
from boardmath.interval import Interval
from boardmath.likelihood import LIKELY, Likelihood, WithChance, in_words, likelihood
from boardmath.messages import Message, message
from boardmath.model.evaluation import HIGH, LOW, Evaluation
from boardmath.model.resolution import missing
from boardmath.model.sampling import FEW, SAMPLES
from boardmath.physics.types import Array
from planner.trips.improvements import Help, chance_of, what_helps
from planner.trips.riding import Ridden, course_of, on_the_leg, ride_trip
from planner.trips.spares import Carried, to_carry

_LONG = 700
"""Pieces of way beyond which fewer samples have to do, so that nobody waits."""
_COURSE = 240
"""Points of the course that are drawn."""
_DARK_FROM, _DARK_TO = 21 * 60, 6 * 60
"""Minutes of the day between which lights are needed, whatever the season (common practice, no source)."""


class TripPoint(WithChance):
    """A point of the trip on arriving there, and what its stop makes of it. Charges in per cent, clocks in minutes of the day.

    The chance is that all of the way so far was ridden.
    """

    name: str
    day: int
    leg: int
    km: float
    charge: Interval
    volts: Interval
    """Of the pack at rest, to be held against the meter."""
    clock: Interval
    in_words: str
    wh: float
    on_foot_km: float
    """Mean of those who walk."""
    stop: StopKind | None = None
    place: str | None = None
    leaves_pct: Interval | None = None
    leaves: Interval | None = None


class Course(BaseModel):
    """Charge along the way, per cent over km."""

    km: list[float]
    low: list[float]
    mid: list[float]
    high: list[float]


class TurnBack(BaseModel):
    """Of a stretch between plugs: the furthest point from which the same way back is sure enough."""

    from_km: float
    to_km: float
    latest_km: float | None
    message: Message


class Against(BaseModel):
    """Something of the trip as it was planned and as it was ridden."""

    day: int
    what: str
    title: str
    quantity: str
    planned: Interval
    ridden: float
    inside: bool


class TripReport(BaseModel):
    needs: list[Message]
    remarks: list[Message] = []
    says: Message | None = None
    chance: float | None = None
    likelihood: Likelihood | None = None
    km: float = 0.0
    ascent_m: float = 0.0
    reserve_pct: float = 0.0
    """Charge to come home with, as the brief or the usual has it."""
    points: list[TripPoint] = []
    course: Course | None = None
    walking: Message | None = None
    turn_back: list[TurnBack] = []
    helps: list[Help] = []
    carry: list[Carried] = []
    after: list[Against] = []


def trip_report(build: Build, trip: Trip, rides: Sequence[Ride] = (), whole: bool = True) -> TripReport:
    """Args:
    rides: of the log, as which the trip was ridden; whole: with what helps, turning back and what to carry.
    """
    needs = [message(n.reason) for n in missing(build)]
    legs = [(d, n, leg) for d, day in enumerate(trip.days) for n, leg in enumerate(day.legs)]
    if not any(leg.km > 0.0 for _, _, leg in legs):
        needs.append(message("Enter the distance of the first leg, or import its track."))
    if needs:
        return TripReport(needs=needs)
    trip = _ridable(trip)
    pieces = sum(len(leg.profile.metres) if leg.profile else int(3 * leg.km) for _, _, leg in legs)
    ridden = ride_trip(build, trip, SAMPLES if pieces <= _LONG else FEW)
    chance = chance_of(ridden)
    points = _points(ridden)
    clocks = [p.clock.mid for p in points] + [p.leaves.mid for p in points if p.leaves]
    mean = Evaluation(build, 0).inputs["mean_speed"].value
    longest = max((points_of_day(points, d) for d in range(len(trip.days))), default=0.0)
    dark = any(c % 1440 > _DARK_FROM or c % 1440 < _DARK_TO for c in clocks)
    return TripReport(
        needs=[],
        remarks=_remarks(build, trip),
        says=_says(ridden, points, chance),
        chance=chance,
        likelihood=likelihood(chance),
        km=ridden.points[-1].km,
        ascent_m=sum(w.ascent for _, _, w, _ in ridden.ways),
        reserve_pct=100.0 * float(ridden.ways[0][3].charge_reserve[0]),
        points=points,
        course=_course(ridden),
        walking=_walking(ridden),
        turn_back=_turn_back(ridden) if whole else [],
        helps=what_helps(build, trip, mean) if whole else [],
        carry=to_carry(build, trip, longest / 60.0, dark) if whole else [],
        after=_after(ridden, rides),
    )


def _ridable(trip: Trip) -> Trip:
    """The trip without the legs that nobody has said anything of yet."""
    days = [d.model_copy(update={"legs": [leg for leg in d.legs if leg.km > 0.0]}) for d in trip.days]
    return trip.model_copy(update={"days": [d for d in days if d.legs]})


def points_of_day(points: Sequence[TripPoint], day: int) -> float:
    """Minutes from setting out to the last arrival of a day."""
    own = [p for p in points if p.day == day]
    return max((p.clock.mid for p in own), default=0.0) - min((p.clock.mid for p in own), default=0.0)


def _interval(values: Array, scale: float = 1.0) -> Interval:
    drawn = values[1:] if len(values) > 1 else values
    low, high = np.percentile(drawn, (LOW, HIGH))
    mid = float(values[0])
    return Interval(low=scale * min(float(low), mid), mid=scale * mid, high=scale * max(float(high), mid))


def _points(ridden: Ridden) -> list[TripPoint]:
    found: list[TripPoint] = []
    board = ridden.ways[0][3]
    for p in ridden.points:
        if p.after_stop:
            found[-1].leaves_pct, found[-1].leaves = _interval(p.charge, 100.0), _interval(p.clock)
            continue
        volts = sweeps.at_rest(board, p.charge[:, np.newaxis])[0][:, 0]
        # Who stood still before does not arrive, whatever a plug gave since.
        sure = float((p.stranded[1:] > p.km).mean()) if len(p.stranded) > 1 else float(p.stranded[0] > p.km)
        feet = p.walked[1:][p.walked[1:] > 1.0]
        found.append(
            TripPoint(
                name=p.name,
                day=p.day,
                leg=p.leg,
                km=p.km,
                charge=_interval(p.charge, 100.0),
                volts=_interval(volts),
                clock=_interval(p.clock),
                chance=sure,
                in_words=in_words(sure),
                wh=float(p.joules[0]) / 3600.0,
                on_foot_km=float(feet.mean()) / 1000.0 if len(feet) else 0.0,
                stop=p.stop.kind if p.stop is not None else None,
                place=p.stop.place if p.stop is not None else None,
            )
        )
    return found


def _course(ridden: Ridden) -> Course:
    at = np.unique(np.linspace(0, len(ridden.km) - 1, min(_COURSE, len(ridden.km))).round().astype(int))
    rows = ridden.course[:, at]
    low, high = np.percentile(rows[1:] if len(rows) > 1 else rows, (LOW, HIGH), axis=0)

    def told(values: Array) -> list[float]:
        return [round(100.0 * max(float(v), 0.0), 2) for v in values]

    return Course(
        km=[round(float(k), 3) for k in ridden.km[at]],
        low=told(np.minimum(low, rows[0])),
        mid=told(rows[0]),
        high=told(np.maximum(high, rows[0])),
    )


def _says(ridden: Ridden, points: Sequence[TripPoint], chance: float) -> Message:
    tight = min(points[1:] or points, key=lambda p: (p.chance >= 0.5, p.charge.mid))
    at = tight.name
    sure = f"{in_words(chance).capitalize()} to finish."
    if tight.chance < 0.5:
        return message("{sure} In more than half of the cases the charge does not reach {at}.", sure=sure, at=at)
    return message(
        "{sure} Tightest point: {at}, arriving with {left} charge ({low} on a bad day).",
        left=(tight.charge.mid, "share"),
        low=(tight.charge.low, "share"),
        sure=sure,
        at=at,
    )


def _walking(ridden: Ridden) -> Message | None:
    """Where those that do not make it begin to walk, and how far they do."""
    last = ridden.points[-1]
    lost = np.isfinite(last.stranded[1:])
    if lost.mean() < 0.05:
        return None
    where = np.percentile(last.stranded[1:][lost], (20, 80))
    walked = last.walked[1:][lost].mean() / 1000.0
    return message(
        "In {cases} of 10 cases the pack is empty between {first} and {last}; you would then walk about {far}.",
        cases=round(10 * float(lost.mean())),
        first=(float(where[0]), "distance"),
        last=(float(where[1]), "distance"),
        far=(float(walked), "distance"),
    )


_ROWS = 129


def _sections(ridden: Ridden) -> list[list[int]]:
    """Legs between plugs, by their place among all."""
    plugged = {(p.day, p.leg) for p in ridden.points if p.after_stop and p.stop and p.stop.kind != "rest"}
    found: list[list[int]] = [[]]
    for i, (d, n, _, _) in enumerate(ridden.ways):
        found[-1].append(i)
        if (d, n) in plugged:
            found.append([])
    return [s for s in found if s]


def _comes_back(ridden: Ridden, section: Sequence[int], metres: float) -> float:
    """The chance to ride ``metres`` into a section and the same way back."""
    state = ridden.starts[section[0]][:_ROWS].copy()
    state.stranded = np.inf
    gone, out = 0.0, []
    for i in section:
        way = ridden.ways[i][2]
        out.append((i, way if gone + way.metres <= metres else way.first(metres - gone)))
        gone += way.metres
        if gone >= metres:
            break
    for i, way in [*out, *((i, way.back()) for i, way in reversed(out))]:
        wind, comes_from = ridden.winds[i]
        rows, steeper = ridden.ways[i][3][:_ROWS], ridden.steeper[i][:_ROWS]
        travelled(rows, way.pieces, wind[:_ROWS], comes_from[:_ROWS], state, steeper)
    return float(np.isinf(state.stranded[1:] if len(state) > 1 else state.stranded).mean())


def _turn_back(ridden: Ridden) -> list[TurnBack]:
    found, start = [], 0.0
    for section in _sections(ridden):
        long = sum(ridden.ways[i][2].metres for i in section)
        latest: float | None = long
        if _comes_back(ridden, section, long) < LIKELY:
            low, high = 0.0, long
            for _ in range(7):
                middle = (low + high) / 2.0
                low, high = (middle, high) if _comes_back(ridden, section, middle) >= LIKELY else (low, middle)
            latest = low if low > 0.02 * long else None
        if latest is None:
            words = message("From {at} on you cannot count on riding back.", at=(start / 1000.0, "distance"))
        elif latest >= long:
            words = message(
                "Until {to} you can still ride back to the last charge.",
                to=((start + long) / 1000.0, "distance"),
            )
        else:
            words = message(
                "Turn back by {at} if it goes worse than predicted: after that riding back is uncertain.",
                at=((start + latest) / 1000.0, "distance"),
            )
        found.append(
            TurnBack(
                from_km=start / 1000.0,
                to_km=(start + long) / 1000.0,
                latest_km=(start + latest) / 1000.0 if latest is not None else None,
                message=words,
            )
        )
        start += long
    return found


def _remarks(build: Build, trip: Trip) -> list[Message]:
    """What of the trip cannot be as it is written, and is not refused for it."""
    said: list[Message] = []
    swaps = sum(leg.then is not None and leg.then.kind == "swap" for d in trip.days for leg in d.legs)
    if swaps > (trip.swap_packs or 0):
        said.append(
            message(
                "The trip swaps packs {swaps} times, and {swap_packs} are carried: without a spare pack nothing "
                "is swapped.",
                swaps=swaps,
                swap_packs=trip.swap_packs or 0,
            )
        )
    for day in trip.days:
        for leg in day.legs:
            stop = leg.then
            if stop is None or stop.kind not in ("charge", "night"):
                continue
            evaluation = Evaluation(on_the_leg(build, trip, day, leg), 0)
            at = stop.place or leg.name or "there"
            if build.parts.charger is None and stop.charger_a is None:
                said.append(
                    message(
                        "No charger is chosen, so nothing is charged at {at}. Enter its current, or choose a charger.",
                        at=at,
                    )
                )
            elif course_of(evaluation, stop) is None:
                said.append(
                    message("The charger at {at} never fills this pack: its voltage is below the pack's.", at=at)
                )
    return said


def _after(ridden: Ridden, rides: Sequence[Ride]) -> list[Against]:
    """The plan against the rides that it became, day by day."""
    found: list[Against] = []
    for d, day in enumerate(ridden.trip.days):
        own = [r for r in rides if day.on is None or r.day == day.on]
        points = [p for p in ridden.points if p.day == d]
        if not own or not points:
            continue
        first, last = points[0], [p for p in points if not p.after_stop][-1]
        km = [r.way.distance_km for r in own if r.way.distance_km is not None]
        moving = [r.way.moving_s for r in own if r.way.moving_s is not None]
        if km:
            plan = last.km - (first.km if first.leg < 0 else first.km - ridden.trip.days[d].legs[0].km)
            found.append(_against(d, "km", "Way", "distance", np.full(2, plan), sum(km), 0.05))
        wh = [r.pack.wh for r in own if r.pack.wh is not None]
        begun = ridden.starts[next(i for i, w in enumerate(ridden.ways) if w[0] == d)]
        if wh:
            found.append(_against(d, "wh", "Used", "energy", (last.joules - begun.joules) / 3600.0, sum(wh)))
        if moving:
            minutes = sum(
                p.clock - q.clock
                for q, p in zip(ridden.points, ridden.points[1:], strict=False)
                if p.day == d and q.day == d and not p.after_stop
            )
            if not isinstance(minutes, int):
                found.append(_against(d, "moving", "On the move", "minutes", minutes, sum(moving) / 60.0))
        ended = own[-1].pack
        if ended.end_v is not None:
            rest = sweeps.at_rest(ridden.ways[0][3], last.charge[:, np.newaxis])[0][:, 0]
            found.append(_against(d, "volts", "Volts on arrival", "voltage", rest, ended.end_v))
    return found


def _against(
    day: int, what: str, title: str, quantity: str, planned: Array, ridden: float, share: float = 0.0
) -> Against:
    span = _interval(planned)
    if share:
        span = Interval(low=span.mid * (1.0 - share), mid=span.mid, high=span.mid * (1.0 + share))
    return Against(
        day=day,
        what=what,
        title=title,
        quantity=quantity,
        planned=span,
        ridden=ridden,
        inside=span.low <= ridden <= span.high,
    )
