"""The pack as it is made: measured cells, how they lie and are joined, what was measured at its wires and while it charged."""

from typing import Annotated, Literal

from pydantic import Field, field_validator

from boardmath.buildfile.electrics import Chemistry
from boardmath.buildfile.figures import Day, Record, choice, day, figure, whole, words, yes_no

MOST_CELLS = 1000
MOST_SERIES = 24
MOST_CHARGES, MOST_LOOKS = 12, 60
CellId = Annotated[str, Field(min_length=1, max_length=24)]
ResistanceBy = Literal["pulse", "tester"]
Lie = Literal["across", "along", "standing"]
Strip = Literal["nickel", "steel", "copper"]
Insulated = Literal["rings", "paper", "tape", "sleeves", "sheet", "padding", "caps", "wrap"]
Warmth = Literal["cool", "warm", "hot"]
Ended = Literal["by_itself", "stopped"]
MOST_LEAD_V = 120.0
LeadVoltage = Annotated[float, Field(ge=-MOST_LEAD_V, le=MOST_LEAD_V)] | None
GroupVoltage = Annotated[float, Field(ge=0, le=6)] | None


class MeasuredCell(Record):
    """One cell as it was found and measured, and where it was put.

    ``group`` counts from the pack's negative end, 1 to the cells in series; absent, it lies spare.
    """

    id: CellId = Field(title="Cell", description="as written on it")
    capacity_ah: float | None = figure("charge", 0, 120, "Capacity", "after one full slow charge and discharge")
    found_v: float | None = figure("cell_voltage", 0, 5, "As found")
    rested_v: float | None = figure("cell_voltage", 0, 5, "After rest", "a week or more after a full charge")
    rested_days: float | None = figure("count", 0, 2000, "Days of rest")
    resistance_mohm: float | None = figure("resistance", 0.1, 2000, "Resistance")
    mass_g: float | None = figure("mass", 1, 6000, "Mass")
    size: str | None = words(30, "Size")
    source: str | None = words(80, "Where from")
    chemistry: Chemistry | None = choice("Chemistry", "where you have several")
    group: int | None = whole(1, MOST_SERIES, "Group", "counted from the pack's negative end")
    locked: bool | None = yes_no("Locked in its group", "sorting does not move it")


class PackPlan(Record):
    """How the cells lie and what joins them."""

    lie: Lie | None = choice("Cells lie", "across the board, along it, or upright")
    layers: int | None = whole(1, 4, "Layers")
    halves: bool | None = yes_no("Made in two halves", "no more than half the voltage on the table")
    order: list[Annotated[int, Field(ge=1, le=MOST_SERIES)]] | None = Field(
        default=None,
        max_length=MOST_SERIES,
        title="Order of the groups",
        description="as they follow each other along the current path",
    )
    strip: Strip | None = choice("Strip", "steel is sold as nickel: it rusts in salt water, nickel does not")
    strip_width_mm: float | None = figure("length", 2, 60, "Strip, width")
    strip_thickness_mm: float | None = figure("thickness", 0.05, 2, "Strip, thickness")
    strip_layers: int | None = whole(1, 6, "Strips on each other")
    bridges: int | None = whole(0, 60, "Bridges beside", "further strips or braids over each link, of the same kind")
    insulated: list[Insulated] | None = Field(default=None, max_length=8, title="Insulated")

    @field_validator("order")
    @classmethod
    def _each_group_once(cls, order: list[int] | None) -> list[int] | None:
        if order is not None and sorted(order) != list(range(1, len(order) + 1)):
            raise ValueError("every group once, from 1 up")
        return order


class LeadTest(Record):
    """What a meter showed at each balance lead, against the pack's negative."""

    charge_pct: float | None = figure("share", 0, 100, "Charge of the day")
    readings: list[LeadVoltage] | None = Field(
        default=None,
        max_length=MOST_SERIES + 1,
        title="Readings",
        json_schema_extra={"quantity": "cell_voltage", "unit": "V", "low": -MOST_LEAD_V, "high": MOST_LEAD_V},
    )
    day: Day | None = day("On")


class ChargeLook(Record):
    """One look at a charge: minutes since it began, every group, how warm, how much current."""

    minute: float = Field(ge=0, le=6000, title="Minute", json_schema_extra={"quantity": "minutes", "unit": "min"})
    groups_v: list[GroupVoltage] | None = Field(default=None, max_length=MOST_SERIES, title="Groups")
    current_a: float | None = figure("current", 0, 60, "Current", "at the charger, or with a clamp meter")
    warmth: Warmth | None = choice("By hand", "the whole block, and each group where you can reach it")


class ChargeWatch(Record):
    """One charge that was watched."""

    began: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?Z$", title="Began")
    brick: int | None = whole(1, 12, "Brick", "where each is charged alone")
    looks: list[ChargeLook] | None = Field(default=None, max_length=MOST_LOOKS, title="Looks")
    ended: Ended | None = choice("Ended")
    note: str | None = words(600, "Note")


class PackAssembly(Record):
    """All that is done at the pack between choosing it and riding it."""

    cells: list[MeasuredCell] | None = Field(default=None, max_length=MOST_CELLS, title="Cells")
    resistance_by: ResistanceBy | None = choice(
        "Resistance measured", "by the voltage step under a current, or by a tester's 1 kHz, which shows less"
    )
    plan: PackPlan | None = Field(default=None, title="Pack plan")
    balance_leads: LeadTest | None = Field(default=None, title="Balance leads")
    charges: list[ChargeWatch] | None = Field(default=None, max_length=MOST_CHARGES, title="Charges")

    @field_validator("cells")
    @classmethod
    def _each_once(cls, cells: list[MeasuredCell] | None) -> list[MeasuredCell] | None:
        seen: set[str] = set()
        for cell in cells or ():
            if cell.id in seen:
                raise ValueError(f"two cells are called {cell.id}")
            seen.add(cell.id)
        return cells
