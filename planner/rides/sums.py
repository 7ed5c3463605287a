"""What many rides came to: by month, in all, records, what a kilometre cost."""

from collections.abc import Sequence

from pydantic import BaseModel

from boardmath.calibration.ride import Ride, SpeedRun


class Month(BaseModel):
    month: str
    rides: int
    km: float
    wh: float | None = None


class Best(BaseModel):
    """A record: of which ride, by its place."""

    title: str
    value: float
    quantity: str
    ride: int


class Sums(BaseModel):
    rides: int
    days: int
    km: float
    ascent_m: float
    hours: float
    wh: float
    wet: int
    first: str | None = None
    last: str | None = None
    months: list[Month]
    records: list[Best]
    cost_per_km: float | None = None


def sums(rides: Sequence[Ride], cost: float | None = None) -> Sums:
    """Sums over rides in any order; ``cost`` is what the board cost, in its currency."""
    months: dict[str, Month] = {}
    for ride in rides:
        month = months.setdefault(ride.day[:7], Month(month=ride.day[:7], rides=0, km=0.0))
        month.rides += 1
        month.km += ride.way.distance_km or 0.0
        if ride.pack.wh is not None:
            month.wh = (month.wh or 0.0) + ride.pack.wh
    km = sum(m.km for m in months.values())
    days = sorted({r.day for r in rides})
    return Sums(
        rides=len(rides),
        days=len(days),
        km=km,
        ascent_m=sum(r.way.ascent_m or 0.0 for r in rides),
        hours=sum(r.way.moving_s or 0.0 for r in rides) / 3600.0,
        wh=sum(m.wh or 0.0 for m in months.values()),
        wet=sum(bool(r.conditions.wet) for r in rides),
        first=days[0] if days else None,
        last=days[-1] if days else None,
        months=_without_gaps(months),
        records=_records(rides),
        cost_per_km=cost / km if cost is not None and km > 0.0 else None,
    )


def _without_gaps(months: dict[str, Month]) -> list[Month]:
    """Months in their order, those without a ride among them; no more than five years."""
    if not months:
        return []
    year, month = (int(p) for p in min(months).split("-"))
    found: list[Month] = []
    last = max(months)
    while len(found) < 60:
        key = f"{year:04d}-{month:02d}"
        found.append(months.get(key, Month(month=key, rides=0, km=0.0)))
        if key == last:
            break
        year, month = (year, month + 1) if month < 12 else (year + 1, 1)
    return found


def _records(rides: Sequence[Ride]) -> list[Best]:
    found: list[Best] = []
    farthest = [(r.way.distance_km, i) for i, r in enumerate(rides) if r.way.distance_km]
    highest = [(r.way.ascent_m, i) for i, r in enumerate(rides) if r.way.ascent_m]
    fastest = [
        (sum(run.kmh) / len(run.kmh), i) for i, r in enumerate(rides) for run in r.runs if isinstance(run, SpeedRun)
    ]
    steepest = [
        (run.grade_pct, i)
        for i, r in enumerate(rides)
        for run in r.runs
        if run.kind == "hill" and run.grade_pct and run.top_kmh
    ]
    for title, quantity, values in (
        ("Farthest", "distance", farthest),
        ("Fastest, of both ways", "speed", fastest),
        ("Most climbed", "way", highest),
        ("Steepest hill", "grade", steepest),
    ):
        if values:
            value, place = max(values)
            found.append(Best(title=title, value=value, quantity=quantity, ride=place))
    return found
