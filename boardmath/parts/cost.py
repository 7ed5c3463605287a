"""What the parts cost, in exact decimals: prices, currencies, orders with shipping, duty and tax, and how each part stands.

All sums are in the build's currency. Every amount is rounded to the hundredth (half up) when it is brought into it; duty and
tax are reckoned on the rounded amounts, as a customs bill does, and rounded once more.
"""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.buying import Order, ReadyMade
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.figures import Part, Status
from boardmath.buildfile.once import once_a_build, once_for_variations
from boardmath.model.inputs import has_pulleys, wheel_sets

State = Literal["owned"] | Status
"""How a part stands: in the drawer already, still to be ordered, or bought."""
PLACED: frozenset[State] = frozenset(("ordered", "late", "arrived", "faulty", "replaced"))
"""States in which the money is spent."""
LEFT_OVER = "left_over."
"""How the paths of parts begin that were bought and are no longer on the board."""


class Charges(BaseModel):
    """One order's sums in the build's currency; ``placed`` is what of its total is spent."""

    name: str
    goods: float
    shipping: float
    duty: float
    tax: float
    total: float
    placed: float


class Cost(BaseModel):
    """Sums of what has a price that can be told in the build's currency.

    ``total`` is the board's value: all that stands on it, what was in the drawer too. ``spent`` is what was ordered, with its
    share of shipping, duty and tax, and parts bought that are no longer on the board; ``to_spend`` is what is still to be
    ordered; ``outlay`` is both together, what the board takes out of the purse. ``unpriced`` and ``other_currency`` name what
    is left out: parts without a price, and those in a currency without a rate.
    """

    total: float
    to_spend: float
    spent: float = 0.0
    outlay: float = 0.0
    owned: float = 0.0
    charges: float = 0.0
    left_over: float = 0.0
    currency: str | None
    orders: list[Charges] = []
    unpriced: list[str]
    other_currency: list[str]


@dataclass(frozen=True)
class Priced:
    """A part of the list: where it stands in the build file, and how many of it are bought."""

    path: str
    part: Part
    count: int

    @property
    def state(self) -> State:
        """What is in the drawer is in the drawer, whatever was said of an order."""
        if self.part.owned:
            return "owned"
        purchase = self.part.purchase
        return (purchase.status if purchase else None) or "to_order"

    @property
    def order(self) -> str | None:
        """The order it belongs to; what was in the drawer belongs to none."""
        return None if self.part.owned or self.part.purchase is None else self.part.purchase.order


@once_a_build
def priced_parts(build: Build) -> Sequence[Priced]:
    """Every part that is bought: those on the board, the lists of several, and what was bought and is left over.

    What came in a kit is paid with the kit; a motor in the hub or on the axle has no pulleys to buy.
    """
    return tuple(_priced_parts(build))


def _priced_parts(build: Build) -> Iterator[Priced]:
    parts = build.parts
    motors = (parts.motors.count if parts.motors else 1) or 1
    packs = 1 + ((parts.pack.spares if parts.pack else None) or 0)
    # Every motor has its own mount, pulleys and belt.
    geared = motors if has_pulleys(build) else 0
    times = {
        "motors": motors,
        "drive": geared,
        "mount": geared,
        "controller": controllers(build),
        "wheels": wheel_sets(build),
        "pack": packs,
    }
    for name in type(parts).model_fields:
        part, count = getattr(parts, name), times.get(name, 1)
        if isinstance(part, list):
            for i, one in enumerate(part):
                yield Priced(f"parts.{name}.{i}", one, getattr(one, "count", None) or 1)
        elif part is not None and part.kit is None and count:
            if isinstance(part, Pack):
                yield from _of_a_pack(part, count)
            else:
                yield Priced(f"parts.{name}", part, count)
    for i, left in enumerate(build.left_over or []):
        yield Priced(f"{LEFT_OVER}{i}", left, left.count or 1)


def _of_a_pack(pack: Pack, count: int) -> Iterator[Priced]:
    """A pack as it is bought: whole, or cell by cell; and a protection board of its own."""
    cell, guard = pack.cell, pack.protection
    if pack.price is None and cell is not None and cell.price is not None:
        yield Priced("parts.pack.cell", cell, count * (pack.series or 1) * (pack.parallel or 1))
    else:
        yield Priced("parts.pack", pack, count)
    if guard is not None and (guard.name is not None or guard.price is not None or guard.purchase is not None):
        yield Priced("parts.pack.protection", guard, count)


class Exchanger:
    """Brings amounts into the build's currency at the builder's own rates."""

    def __init__(self, build: Build):
        named = (p.part.currency for p in priced_parts(build) if p.part.currency)
        self.currency = build.currency or next(named, None)
        self._rates = {e.currency: Decimal(str(e.rate)) for e in build.exchange or []}

    def __call__(self, amount: Decimal, currency: str | None) -> Decimal | None:
        """The amount in the build's currency; None where its own has no rate."""
        if currency is None or currency == self.currency:
            return cents(amount)
        rate = self._rates.get(currency)
        return None if rate is None else cents(amount * rate)

    def shipping(self, amount: float | None, currency: str | None) -> Decimal | None:
        """Shipping in the build's currency; none at all needs no rate."""
        return self(Decimal(str(amount)), currency) if amount else Decimal(0)

    def of(self, priced: Priced) -> Decimal | None:
        """What a line comes to without shipping, duty and tax; None where that cannot be told."""
        if priced.part.price is None:
            return None
        return self(Decimal(str(priced.part.price)) * priced.count, priced.part.currency)


def cents(amount: Decimal) -> Decimal:
    """Rounded to the hundredth, half up, as on a bill."""
    return amount.quantize(Decimal("0.01"), ROUND_HALF_UP)


def on_top(goods: Decimal, shipping: Decimal, duty_pct: float | None, tax_pct: float | None) -> tuple[Decimal, Decimal]:
    """Duty on goods and shipping; tax on goods, shipping and duty.

    The base of import tax contains duty and transport: Council Directive 2006/112/EC, articles 85 and 86.
    """
    duty = cents((goods + shipping) * Decimal(str(duty_pct or 0)) / 100)
    return duty, cents((goods + shipping + duty) * Decimal(str(tax_pct or 0)) / 100)


@once_for_variations
def cost(build: Build) -> Cost:
    """The board's value, what is spent and what is still to be spent."""
    exchange = Exchanger(build)
    sums: dict[str, Decimal] = defaultdict(Decimal)
    goods: dict[tuple[str, bool], Decimal] = defaultdict(Decimal)
    unpriced: list[str] = []
    foreign: list[str] = []
    for line in priced_parts(build):
        amount, left = exchange.of(line), line.path.startswith(LEFT_OVER)
        if amount is None:
            (unpriced if line.part.price is None else foreign).append(line.path)
            amount = Decimal(0)
        placed = line.state in PLACED or left
        sums["owned" if line.state == "owned" else "spent" if placed else "to_spend"] += amount
        sums["left_over"] += amount if left else Decimal(0)
        if line.order:
            goods[line.order, placed] += amount
    orders = []
    known = {o.name: (i, o) for i, o in reversed(list(enumerate(build.orders or [])))}
    for name in dict.fromkeys([*(o.name for o in build.orders or []), *(name for name, _ in goods)]):
        i, order = known.get(name, (None, Order(name=name)))
        charges = _charges(order, goods, exchange)
        if charges is None:
            foreign.append(f"orders.{i}.shipping")
            continue
        bill, placed_extra, planned_extra = charges
        orders.append(bill)
        sums["spent"] += placed_extra
        sums["to_spend"] += planned_extra
        sums["charges"] += placed_extra + planned_extra
    outlay = sums["spent"] + sums["to_spend"]
    return Cost(
        total=float(outlay + sums["owned"] - sums["left_over"]),
        to_spend=float(sums["to_spend"]),
        spent=float(sums["spent"]),
        outlay=float(outlay),
        owned=float(sums["owned"]),
        charges=float(sums["charges"]),
        left_over=float(sums["left_over"]),
        currency=exchange.currency,
        orders=orders,
        unpriced=unpriced,
        other_currency=foreign,
    )


def _charges(
    order: Order, goods: dict[tuple[str, bool], Decimal], exchange: Exchanger
) -> tuple[Charges, Decimal, Decimal] | None:
    """An order's bill, and what is on top of the goods as far as it is placed and as far as it is planned.

    Shipping is spent with the first part that is ordered. None where its currency has no rate.
    """
    shipping = exchange.shipping(order.shipping, order.currency)
    if shipping is None:
        return None
    used = {placed: (order.name, placed) in goods for placed in (True, False)}
    if not any(used.values()):
        shipping = Decimal(0)
    extra, duties, taxes = {}, Decimal(0), Decimal(0)
    for placed in (True, False):
        carried = shipping if placed == used[True] else Decimal(0)
        duty, tax = on_top(goods.get((order.name, placed), Decimal(0)), carried, order.duty_pct, order.tax_pct)
        extra[placed] = carried + duty + tax
        duties, taxes = duties + duty, taxes + tax
    bought = goods.get((order.name, True), Decimal(0))
    whole = bought + goods.get((order.name, False), Decimal(0))
    bill = Charges(
        name=order.name,
        goods=float(whole),
        shipping=float(shipping),
        duty=float(duties),
        tax=float(taxes),
        total=float(whole + shipping + duties + taxes),
        placed=float(bought + extra[True]),
    )
    return bill, extra[True], extra[False]


def ready_made_price(build: Build) -> float | None:
    """What the ready-made board comes to in the build's currency, shipping, duty and tax in; None where it cannot be told."""
    board: ReadyMade | None = build.ready_made
    if board is None or board.price is None:
        return None
    exchange = Exchanger(build)
    price = exchange(Decimal(str(board.price)), board.currency)
    shipping = exchange.shipping(board.shipping, board.currency)
    if price is None or shipping is None:
        return None
    return float(price + shipping + sum(on_top(price, shipping, board.duty_pct, board.tax_pct)))


def pack_price(build: Build) -> float | None:
    """What the pack or its cells come to in the build's currency."""
    exchange = Exchanger(build)
    amounts = [exchange.of(p) for p in priced_parts(build) if p.path.startswith("parts.pack")]
    known = [a for a in amounts if a is not None]
    return float(sum(known)) if amounts and amounts[0] is not None else None
