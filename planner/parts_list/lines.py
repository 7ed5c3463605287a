"""The parts list of a build: every part with what it costs and how it stands, the orders, and what is forgotten."""

from collections.abc import Iterator, Sequence
from datetime import date

from pydantic import BaseModel

from boardmath.buildfile.build import Build, BuildFile
from boardmath.buildfile.buying import LeftOver, ReadyMade
from boardmath.buildfile.electrics import Extra
from boardmath.buildfile.kits import Kit
from boardmath.messages import Message, message
from boardmath.model.inputs import has_pulleys
from boardmath.parts.cost import Cost, Exchanger, Priced, State, cost, pack_price, priced_parts, ready_made_price
from boardmath.parts.part_types import came_in, kind_of
from boardmath.prediction.outcomes import Outcome, outcome
from boardmath.predictor import pack_wh, predict
from boardmath.results import Prediction
from planner.parts_list.accessories import SmallPart, forgotten


class ListLine(BaseModel):
    """One line: a part, how many, what it comes to in the build's currency, and how it stands."""

    path: str
    kind: str
    name: str
    maker: str | None = None
    count: int
    price: float | None = None
    currency: str | None = None
    amount: float | None = None
    state: State
    order: str | None = None
    due_on: str | None = None
    arrived_on: str | None = None
    late_days: int | None = None
    """Days past its due day, where it is ordered and not here."""
    lacks: Message | None = None
    """Why it has no amount."""
    brings: list[str] = []
    """What came in it, where it is a kit."""


class Measure(BaseModel):
    """A figure made out of the sums; ``why`` says how."""

    title: str
    value: float
    quantity: str
    per: str
    why: Message


class Beside(BaseModel):
    """The ready-made board against the same brief, as its seller promises it."""

    price: float | None
    outcomes: list[Outcome]
    remarks: list[Message]


class PartsList(BaseModel):
    """Everything that the parts list shows."""

    lines: list[ListLine]
    sums: Cost
    money: Outcome
    outcomes: list[Outcome]
    measures: list[Measure]
    forgotten: list[SmallPart]
    to_choose: list[str]
    """Kinds of part that a board has and that are not chosen yet."""
    beside: Beside | None = None


USUAL = (
    "deck",
    "trucks",
    "wheels",
    "motors",
    "drive",
    "pack",
    "controller",
    "charger",
    "remote",
    "switch",
    "fuse",
    "wiring",
    "enclosure",
)
"""What every board has; risers are asked for by the wheels' room, where it lacks."""


def parts_list(build: BuildFile, today: date, library: Sequence[Extra] = ()) -> PartsList:
    """The list as it stands ``today``; ``library`` is what the library has of small parts."""
    sums = cost(build)
    prediction = predict(build)
    outcomes = prediction.outcomes
    return PartsList(
        lines=list_lines(build, today),
        sums=sums,
        money=next(p for p in outcomes if p.name == "money"),
        outcomes=outcomes,
        measures=_measures(build, sums, prediction),
        forgotten=forgotten(build, library),
        to_choose=to_choose(build),
        beside=_beside(build, outcomes, prediction),
    )


def list_lines(build: Build, today: date) -> list[ListLine]:
    """Every part with what it costs and how it stands ``today``; needs no prediction."""
    exchange = Exchanger(build)
    return [_line(build, p, exchange, today) for p in priced_parts(build)]


def _line(build: Build, priced: Priced, exchange: Exchanger, today: date) -> ListLine:
    part, purchase = priced.part, priced.part.purchase
    amount, state = exchange.of(priced), priced.state
    due = purchase.due_on if purchase else None
    if due is None and priced.order:
        due = next((o.due_on for o in build.orders or [] if o.name == priced.order), None)
    late = (today - date.fromisoformat(due)).days if due and state in ("ordered", "late") else 0
    currency = part.currency or exchange.currency
    return ListLine(
        path=priced.path,
        kind=part.kind if isinstance(part, LeftOver) else kind_of(priced.path) or "extra",
        name=part.name or "",
        maker=part.maker,
        count=priced.count,
        price=part.price,
        currency=currency,
        amount=None if amount is None else float(amount),
        state="late" if late > 0 else state,
        order=priced.order,
        due_on=due,
        arrived_on=purchase.arrived_on if purchase else None,
        late_days=late if late > 0 else None,
        lacks=None if amount is not None else _lacks(part.price, currency, exchange.currency),
        brings=came_in(build.parts, part) if isinstance(part, Kit) else [],
    )


def _lacks(price: float | None, currency: str | None, own: str | None) -> Message:
    if price is None:
        return message("no price yet")
    return message("no rate from {currency} to {own}", currency=currency, own=own or "the build’s currency")


def _measures(build: Build, sums: Cost, prediction: Prediction) -> list[Measure]:
    """Cost per Wh and per km, as far as they can be told."""
    found: list[Measure] = []

    def over(title: str, money: float | None, by: float | None, per: str, template: str, quantity: str) -> None:
        if money and by:
            why = message(template, money=(money, "money"), by=(by, quantity))
            found.append(Measure(title=title, value=money / by, quantity="money", per=per, why=why))

    wh, pack = pack_wh(build), pack_price(build)
    km = round(prediction.life.km, -2) if prediction.life else None
    over("Pack", pack, wh, "Wh", "{money} for {by}, as printed on the pack.", "energy")
    over("Whole board", sums.total, wh, "Wh", "{money} for {by} of pack.", "energy")
    over("Pack", pack, km, "km", "{money} over the {by} until the pack has 80 % of its capacity left.", "distance")
    over(
        "Whole board",
        sums.total,
        km,
        "km",
        "{money} over the {by} until the pack has 80 % of its capacity left; without belts, wheels and electricity.",
        "distance",
    )
    return found


def _beside(build: Build, outcomes: Sequence[Outcome], prediction: Prediction) -> Beside | None:
    board = build.ready_made
    if board is None:
        return None
    price = ready_made_price(build)
    given = {
        "speed": board.top_speed_kmh,
        "hill": board.hill_grade_pct,
        "range": board.range_km,
        "carry": board.mass_kg,
        "money": price,
    }
    theirs = [
        outcome(p.name, p.wanted, given[p.name], message=message("As the seller claims.") if given[p.name] else None)
        for p in outcomes
    ]
    remarks = list(_remarks(board, price, cost(build), prediction, len(to_choose(build))))
    return Beside(price=price, outcomes=theirs, remarks=remarks)


def to_choose(build: Build) -> list[str]:
    """Kinds of part that every board has and that are not chosen yet."""
    needless = () if has_pulleys(build) else ("drive",)
    return [kind for kind in USUAL if getattr(build.parts, kind) is None and kind not in needless]


def _remarks(
    board: ReadyMade, price: float | None, own: Cost, prediction: Prediction, to_choose: int
) -> Iterator[Message]:
    """What speaks for each side, in numbers."""
    if price is not None and own.total:
        lacking = to_choose + len(own.unpriced) + len(own.other_currency)
        yield message(
            "You pay {difference} "
            + ("less" if own.outlay < price else "more")
            + " than for the ready-made board"
            + ("; total value with what you own: {value}." if own.owned else ".")
            + (" {lacking} of its parts are not chosen yet or have no price." if lacking else ""),
            difference=(abs(price - own.outlay), "money"),
            value=(own.total, "money"),
            lacking=lacking,
        )
    elif board.price is not None and price is None:
        yield message("No price comparison: there is no exchange rate from {currency}.", currency=board.currency)
    needs = prediction.consumption_wh_per_km
    if board.pack_wh and board.range_km:
        promised = (board.pack_wh / board.range_km, "energy_per_distance")
        if needs is None:
            yield message("Its range would mean {promised}, with the pack used to its end.", promised=promised)
        else:
            yield message(
                "Its range would mean {promised}, with the pack used to its end; yours with you on it is "
                "predicted to use {needs}. Ask with which rider and at which speed theirs was measured.",
                promised=promised,
                needs=(needs.mid, "energy_per_distance"),
            )
    if board.warranty_months:
        yield message(
            "It has {warranty_months} months of warranty; what you build, you repair yourself.",
            warranty_months=board.warranty_months,
        )
    elif board.warranty_months == 0:
        yield message("It has no warranty.")
