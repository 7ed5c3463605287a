"""Orders, the builder's own rates of exchange, what is left over, and a ready-made board to set beside the build."""

from pydantic import Field

from boardmath.buildfile.figures import CURRENCY, Day, Part, Record, day, figure, whole, words


class Order(Record):
    """One order at one shop: what comes on top of the prices. Duty and tax are reckoned on goods and shipping."""

    name: str = Field(
        min_length=1, max_length=60, title="Order", description="the shop, or one of several orders there"
    )
    currency: str | None = Field(default=None, pattern=CURRENCY, title="Currency", description="of its shipping")
    shipping: float | None = figure("money", 0, 100_000, "Shipping")
    duty_pct: float | None = figure(
        "share", 0, 100, "Duty", "on goods and shipping, where the price does not include it"
    )
    tax_pct: float | None = figure(
        "share", 0, 100, "Tax", "on goods, shipping and duty, where the price does not include it"
    )
    ordered_on: Day | None = day("Ordered")
    due_on: Day | None = day("Due")
    notes: str | None = words(2000, "Notes", "order number, whom to ask")


class Exchange(Record):
    """What one unit of another currency costs in the build's own, at the builder's own rate."""

    currency: str = Field(pattern=CURRENCY, title="Currency")
    rate: float = Field(
        gt=0,
        le=1_000_000,
        title="Rate",
        description="what one unit costs in the build's currency",
        json_schema_extra={"quantity": "ratio", "unit": "", "low": 1e-6, "high": 1_000_000},
    )
    on: Day | None = day("Day of the rate")


class LeftOver(Part):
    """A part that was bought and is no longer on the board: its money is spent, its value not in the board."""

    kind: str = Field(max_length=20, title="Kind")
    count: int | None = whole(1, 10_000, "How many", group="board")


class ReadyMade(Record):
    """A board that could be bought instead, as its seller describes it."""

    name: str | None = words(120, "Name")
    price: float | None = figure("money", 0, 100_000, "Price")
    currency: str | None = Field(default=None, pattern=CURRENCY, title="Currency")
    shipping: float | None = figure("money", 0, 100_000, "Shipping")
    duty_pct: float | None = figure(
        "share", 0, 100, "Duty", "on price and shipping, where the price does not include it"
    )
    tax_pct: float | None = figure("share", 0, 100, "Tax", "on everything, where the price does not include it")
    top_speed_kmh: float | None = figure("speed", 5, 120, "Claimed top speed")
    hill_grade_pct: float | None = figure("grade", 0, 60, "Hill promised")
    range_km: float | None = figure("distance", 0.5, 300, "Range promised")
    mass_kg: float | None = figure("body_mass", 1, 60, "Mass")
    pack_wh: float | None = figure("energy", 10, 10_000, "Pack")
    warranty_months: int | None = whole(0, 240, "Warranty, months")
    claims: str | None = words(2000, "Other claims", "tested with which rider, how fast, on which road")
    source: str | None = words(400, "Source of the figures")
