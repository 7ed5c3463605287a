"""What the parts cost, in exact decimals."""

from collections.abc import Iterator
from decimal import Decimal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import Part


class Cost(BaseModel):
    """Sums of what has a price in the build's currency; ``unpriced`` and ``other_currency`` name the parts left out."""

    total: float
    to_spend: float
    currency: str | None
    unpriced: list[str]
    other_currency: list[str]


def priced_parts(build: Build) -> Iterator[tuple[str, Part, int]]:
    """Every chosen part with its path and how many of it are bought."""
    parts = build.parts
    for name in type(parts).model_fields:
        part = getattr(parts, name)
        if part is None or name == "extras":
            continue
        # Every motor has its own pulleys and belt.
        motors = (parts.motors.count if parts.motors else 1) or 1
        times = {"motors": motors, "drive": motors, "controller": getattr(part, "units", None)}.get(name) or 1
        cell = getattr(part, "cell", None)
        if name == "pack" and part.price is None and cell is not None and cell.price is not None:
            yield "parts.pack.cell", cell, (part.series or 1) * (part.parallel or 1)
        else:
            yield f"parts.{name}", part, times
    for i, extra in enumerate(parts.extras or []):
        yield f"parts.extras.{i}", extra, extra.count or 1


def cost(build: Build) -> Cost:
    """Total value of the parts and the money still to spend (parts in the drawer left out)."""
    currency = build.currency or next((p.currency for _, p, _ in priced_parts(build) if p.currency), None)
    total = to_spend = Decimal(0)
    unpriced: list[str] = []
    foreign: list[str] = []
    for path, part, times in priced_parts(build):
        if part.price is None:
            unpriced.append(path)
        elif (part.currency or currency) != currency:
            foreign.append(path)
        else:
            amount = Decimal(str(part.price)) * times
            total += amount
            to_spend += Decimal(0) if part.owned else amount
    return Cost(
        total=float(total), to_spend=float(to_spend), currency=currency, unpriced=unpriced, other_currency=foreign
    )
