"""Deck, trucks, wheels and risers: what the rider stands on."""

from typing import Literal

from pydantic import Field

from boardmath.buildfile.figures import Part, Record, choice, figure, whole, words, yes_no
from boardmath.buildfile.methods import Threads

Mount = Literal["top", "drop_through", "dropped"]
Flex = Literal["stiff", "medium", "soft"]
WheelKind = Literal["urethane", "rubber", "pneumatic"]
Wood = Literal["maple", "birch", "bamboo", "composite"]


class CurvePoint(Record):
    """A place of the deck's underside, measured with a straight edge: along the deck, and across it."""

    at_mm: float = Field(
        ge=0,
        le=1500,
        title="From the nose",
        json_schema_extra={"quantity": "length", "unit": "mm", "low": 0, "high": 1500},
    )
    below_mm: float | None = figure(
        "length", -40, 80, "Hangs below", "a straight edge from mount to mount; negative where it is above"
    )
    hollow_mm: float | None = figure("length", 0, 40, "Hollow across", "of the underside, edge to edge")


class Deck(Part):
    length_mm: float | None = figure("length", 400, 1500, "Length")
    width_mm: float | None = figure("length", 120, 400, "Width")
    thickness_mm: float | None = figure("length", 4, 60, "Thickness")
    wheelbase_mm: float | None = figure("length", 250, 1200, "Wheelbase", "between the axles")
    mount: Mount | None = choice("Mounting", "drop-through lowers the rider and costs about 13 mm of clearance")
    concave_mm: float | None = figure("length", 0, 40, "Concave", "depth of the hollow across the deck")
    rocker_mm: float | None = figure(
        "length", -40, 60, "Rocker", "how far the middle is below the mounts; negative is camber"
    )
    flex: Flex | None = choice("Flex")
    cutouts: bool | None = yes_no("Wheel cutouts", "the deck is cut away above the wheels")
    tail_mm: float | None = figure("length", 0, 250, "Tail", "length behind the rear truck's mount; 0 for none")
    front_axle_mm: float | None = figure(
        "length", -60, 500, "Front axle", "from the nose; in the middle of the rest unless stated"
    )
    ends_deg: float | None = figure(
        "angle", 0, 50, "Ends bent up by", "where the trucks are bolted on; 0 for a flat deck"
    )
    bend_mm: float | None = figure("length", 30, 250, "From bend to bolts", "along the end, to the truck's middle")
    moved_mm: float | None = figure(
        "length", -200, 200, "Rear truck moved back", "from the original holes: new ones are drilled"
    )
    routed_mm: float | None = figure(
        "length", 0, 40, "Routed out", "depth removed from the underside for the enclosure"
    )
    routed_length_mm: float | None = figure("length", 20, 1200, "Routed length")
    routed_width_mm: float | None = figure("length", 20, 380, "Routed width")
    wood: Wood | None = choice("Made of", "for its stiffness and strength; plies run mostly lengthwise unless stated")
    curve: list[CurvePoint] | None = Field(
        default=None,
        max_length=40,
        title="Underside as measured",
        description="places along the deck, in any order; they replace concave and rocker",
    )


class Trucks(Part):
    hanger_mm: float | None = figure("length", 80, 400, "Hanger width")
    axle_mm: float | None = figure("length", 120, 520, "Axle length", "tip to tip")
    height_mm: float | None = figure("length", 25, 150, "Height", "axle centre below the baseplate")
    profile: str | None = words(30, "Hanger profile", "the cross-section that the motor mount has to fit")
    lean_deg: float | None = figure("angle", 2, 40, "Largest lean", "how far the deck leans in a full turn")
    pivots: int | None = whole(1, 2, "Pivots", "double-pivot trucks turn more and are unsettled when fast")
    threads: Threads | None = choice("Threads", "of axles and bolts")


class Wheels(Part):
    diameter_mm: float | None = figure("length", 40, 400, "Diameter")
    width_mm: float | None = figure("length", 15, 150, "Width")
    hardness_a: float | None = figure("hardness", 50, 105, "Hardness", "durometer, A scale")
    kind: WheelKind | None = choice("Kind")
    core: str | None = words(40, "Core", "the window pattern that the wheel pulley fits into")
    in_set: int | None = whole(1, 4, "Wheels in the price", "a set of four unless stated", "listing")


class Risers(Part):
    height_mm: float | None = figure("length", 0, 50, "Height")


class Spreaders(Part):
    """Plates on top of the deck that keep the truck bolts from pulling through."""

    height_mm: float | None = figure("length", 0.5, 10, "Thickness")
    length_mm: float | None = figure("length", 40, 200, "Length")
    width_mm: float | None = figure("length", 30, 150, "Width")
