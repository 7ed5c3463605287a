"""True cost, hours, cost a kilometre by year, against a ready-made board and a fare; what was predicted and what it does."""

from collections import defaultdict
from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile import Build, BuildFile
from boardmath.buildfile.maintenance import ReviewCosts
from boardmath.calibration.ride import Ride
from boardmath.messages import Message, message
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.sampling import FEW
from boardmath.parts.cost import PLACED, Exchanger, cost, priced_parts, ready_made_price
from boardmath.prediction.outcomes import Outcome, OutcomeName, headline_of
from planner.maintenance.schedule import RodeOn

FROM_THE_WALL = 0.85
"""Share of what the wall gives that ends in the pack (common practice, no source)."""
Of = Literal["parts", "charges", "left_over", "tools", "consumables", "spares", "electricity"]
_TITLES: dict[Of, str] = {
    "parts": "Parts on the board",
    "charges": "Shipping, duty, tax",
    "left_over": "Bought and not used",
    "tools": "Tools",
    "consumables": "Consumables",
    "spares": "Spares, in stock and used",
    "electricity": "Electricity",
}


class CostLine(BaseModel):
    of: Of
    title: str
    amount: float
    why: Message | None = None


class Year(BaseModel):
    """A year of riding: km in it, and what a km has cost up to its end."""

    year: int
    km: float
    spent: float
    per_km: float | None = None


class AgainstIt(BaseModel):
    """Something that would have been paid instead."""

    what: Literal["ready_made", "fare"]
    title: str
    amount: float
    per_km: float | None
    message: Message


class OutcomeCheck(BaseModel):
    """A promise as it was made at the beginning, and as it is known now."""

    name: OutcomeName
    title: str
    quantity: str
    wanted: float | None = None
    predicted: Outcome
    now: Outcome
    message: Message


class ReviewReport(BaseModel):
    currency: str | None
    lines: list[CostLine]
    total: float
    owned: float
    """Worth of what was in the drawer already: not paid for this board, and not in the total."""
    unpriced: int
    km: float
    kwh: float | None
    per_km: float | None
    running_per_km: float | None
    """What a further kilometre costs: electricity and wear."""
    hours: float | None
    hours_by: Literal["said", "log"] | None = None
    years: list[Year]
    against: list[AgainstIt]
    outcomes: list[OutcomeCheck]
    """What was predicted of the board as it is built, before any ride, and what it does."""
    planned_as: str | None
    """Name of the first revision."""
    changed: list[str]
    """Sections of the build file that are not as they were there."""
    says: list[Message]
    would_change: list[str]


MOST_OF_THE_WAY = 0.8
"""Share of the ridden kilometres from which on what they charged stands for all (reasoning: a fifth that took a quarter more or
less would change the sum by 5 %, less than chargers are off)."""


def charged_wh(rides: Sequence[Ride]) -> float | None:
    """What was charged over all rides, Wh; None where chargers told it for too little of the way."""
    told = [r for r in rides if r.pack.wh is not None and r.way.distance_km]
    km, all_km = (sum(r.way.distance_km or 0.0 for r in some) for some in (told, rides))
    if km <= 0.0 or km < MOST_OF_THE_WAY * all_km:
        return None
    return sum(r.pack.wh or 0.0 for r in told) * all_km / km


def review(
    build: BuildFile,
    rides: Sequence[RodeOn],
    wh: float | None,
    planned_as: str | None = None,
    changed: Sequence[str] = (),
    hours: float | None = None,
    wishes: Sequence[str] = (),
) -> ReviewReport:
    """Args:
    rides: of the log; wh: charged over them, where chargers told; planned_as: name of the first revision;
    changed: sections that differ from it; hours: of the log of the work; wishes: what was wished for while building and riding.
    """
    said = build.review or ReviewCosts()
    km = sum(r.km for r in rides) + ((build.maintenance.km_before if build.maintenance else None) or 0.0)
    evaluation = Evaluation(build, 0)
    kwh = _kwh(evaluation, km, wh)
    lines = _lines(build, said, kwh)
    total = sum(line.amount for line in lines)
    running = sum(line.amount for line in lines if line.of == "electricity") + _used_spares(build)
    sums = cost(build)
    years = _years(build, rides, total, running, km)
    worked = said.hours if said.hours is not None else hours
    texts = [*([said.would_change] if said.would_change else []), *wishes]
    return ReviewReport(
        currency=sums.currency,
        lines=[line for line in lines if line.amount > 0.0],
        total=total,
        owned=sums.owned,
        unpriced=len(sums.unpriced) + len(sums.other_currency),
        km=km,
        kwh=kwh,
        per_km=total / km if km > 0.0 else None,
        running_per_km=running / km if km > 0.0 else None,
        hours=worked,
        hours_by="said" if said.hours is not None else "log" if hours is not None else None,
        years=years,
        against=_against(build, said, total, running / km if km > 0.0 else 0.0, km),
        outcomes=_outcomes(build) if planned_as is not None or rides else [],
        planned_as=planned_as,
        changed=list(changed),
        says=_says(build, said, total, km, worked),
        would_change=texts,
    )


def _kwh(evaluation: Evaluation, km: float, wh: float | None) -> float | None:
    """kWh out of the wall: as chargers counted them, else by the board's consumption."""
    if wh is not None and wh > 0.0:
        return wh / 1000.0 / FROM_THE_WALL
    if km <= 0.0 or evaluation.needs:
        return None
    return km * float(evaluation.headline_values["consumption"][0]) / 1000.0 / FROM_THE_WALL


def _used_spares(build: BuildFile) -> float:
    """Money of what was taken out of the drawer and worn out."""
    kept = build.maintenance
    if kept is None:
        return 0.0
    price = {s.id: s.price or 0.0 for s in kept.spares}
    return sum(price.get(d.spare or "", 0.0) * (d.count or 1) for d in kept.done if d.spare)


def _lines(build: BuildFile, said: ReviewCosts, kwh: float | None) -> list[CostLine]:
    sums, kept = cost(build), build.maintenance
    in_drawer = sum((s.price or 0.0) * (s.count or 0) for s in kept.spares) if kept is not None else 0.0
    # Spares that are on the parts list are paid there already.
    listed = {e.fills for e in build.parts.extras or [] if e.fills and e.fills.startswith("spare-")}
    if kept is not None:
        in_drawer -= sum((s.price or 0.0) * (s.count or 0) for s in kept.spares if f"spare-{s.id}"[:60] in listed)
    electricity = (kwh or 0.0) * (said.kwh_price or 0.0)
    rows: list[tuple[Of, float, Message | None]] = [
        ("parts", sums.outlay - sums.charges - sums.left_over, None),
        ("charges", sums.charges, None),
        ("left_over", sums.left_over, None),
        ("tools", said.tools or 0.0, None),
        ("consumables", said.consumables or 0.0, None),
        ("spares", in_drawer + _used_spares(build), None),
        (
            "electricity",
            electricity,
            message("{kwh} from the wall socket.", kwh=(1000.0 * (kwh or 0.0), "energy")) if electricity else None,
        ),
    ]
    return [CostLine(of=of, title=_TITLES[of], amount=round(amount, 2), why=why) for of, amount, why in rows]


def _years(build: BuildFile, rides: Sequence[RodeOn], total: float, running: float, km: float) -> list[Year]:
    """Parts by the year in which they came, where that is known, else before the first ride; what runs by the kilometre."""
    if not rides:
        return []
    ridden: dict[int, float] = defaultdict(float)
    for r in rides:
        ridden[r.on.year] += r.km
    first = min(ridden)
    spent: dict[int, float] = defaultdict(float)
    exchange = Exchanger(build)
    days = {o.name: o.ordered_on for o in build.orders or []}
    later = 0.0
    for line in priced_parts(build):
        amount, purchase = exchange.of(line), line.part.purchase
        if amount is None or line.state not in PLACED or purchase is None:
            continue
        day = purchase.arrived_on or days.get(purchase.order or "")
        year = int(day[:4]) if day else first
        if year > first:
            spent[year] += float(amount)
            later += float(amount)
    spent[first] += total - running - later
    for year, far in ridden.items():
        spent[year] += running * far / max(km, 1e-9)
    found, so_far, all_km = [], 0.0, 0.0
    for year in range(first, max(*ridden, *spent) + 1):
        so_far, all_km = so_far + spent[year], all_km + ridden[year]
        found.append(
            Year(year=year, km=ridden[year], spent=round(spent[year], 2), per_km=so_far / all_km if all_km else None)
        )
    return found


def _against(build: BuildFile, said: ReviewCosts, total: float, running: float, km: float) -> list[AgainstIt]:
    found = []
    price = ready_made_price(build)
    if price is not None:
        name = (build.ready_made.name if build.ready_made else None) or "The ready-made board"
        less = price - total
        compared = (
            "{less} more than this board has cost so far."
            if less > 0
            else "{less} less than this board has cost so far."
        )
        found.append(
            AgainstIt(
                what="ready_made",
                title=name,
                amount=price,
                per_km=(price + running * km) / km if km else None,
                message=message(compared, less=(abs(less), "money")),
            )
        )
    if said.fare is not None and said.fare_km:
        each = said.fare / said.fare_km
        saved = each - running
        if saved <= 0.0:
            words = message("A fare costs no more than a further kilometre on the board.")
        elif km * saved >= total:
            words = message("It has paid for itself against fares, by {by}.", by=(km * saved - total, "money"))
        else:
            words = message(
                "It pays for itself against fares after {km}; {left} to go.",
                km=((total - running * km) / saved, "distance"),
                left=(max((total - running * km) / saved - km, 0.0), "distance"),
            )
        found.append(AgainstIt(what="fare", title="Fares instead", amount=each * km, per_km=each, message=words))
    return found


def _outcomes(now: Build) -> list[OutcomeCheck]:
    """What was predicted of the board as it is built, and what it does as rides have taught."""
    before_rides = now.model_copy(update={"calibration": None})
    then, here = (headline_of(c).outcomes for c in evaluate([before_rides, now], FEW))
    found = []
    for a, b in zip(then, here, strict=True):
        if a.mid is None or b.mid is None:
            continue
        inside = a.low is None or a.high is None or a.low <= b.mid <= a.high
        found.append(
            OutcomeCheck(
                name=a.name,
                title=a.title,
                quantity=a.quantity,
                wanted=b.wanted,
                predicted=a,
                now=b,
                message=message(
                    "{then} predicted, {now} now: "
                    + ("within the predicted range." if inside else "outside the predicted range."),
                    then=(a.mid, a.quantity),
                    now=(b.mid, b.quantity),
                ),
            )
        )
    return found


def _says(build: BuildFile, said: ReviewCosts, total: float, km: float, hours: float | None) -> list[Message]:
    found = []
    if km > 0.0:
        found.append(
            message(
                "{total} over {km}: {each} a kilometre so far, and less with every further one.",
                total=(total, "money"),
                km=(km, "distance"),
                each=(total / km, "money"),
            )
        )
    else:
        found.append(message("{total} so far, and no ride recorded yet.", total=(total, "money")))
    price = ready_made_price(build)
    if hours is not None and hours > 0.0 and price is not None and price > total:
        found.append(
            message(
                "Each of {hours} of work saved {rate} against the ready-made board.",
                hours=(hours, "hours"),
                rate=((price - total) / hours, "money"),
            )
        )
    if not any((said.tools, said.consumables)):
        found.append(message("Tools and consumables are not included: enter what they cost."))
    return found
