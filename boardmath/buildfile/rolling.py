"""Deck, trucks, wheels and risers: what the rider stands on."""

from typing import Literal

from boardmath.buildfile.figures import Part, choice, figure, whole, words, yes_no

Mount = Literal["top", "drop_through", "dropped"]
Flex = Literal["stiff", "medium", "soft"]
WheelKind = Literal["urethane", "rubber", "pneumatic"]


class Deck(Part):
    length_mm: float | None = figure("length", 400, 1500, "Length")
    width_mm: float | None = figure("length", 120, 400, "Width")
    thickness_mm: float | None = figure("length", 4, 60, "Thickness")
    wheelbase_mm: float | None = figure("length", 250, 1200, "Wheelbase", "between the axles")
    mount: Mount | None = choice("Mounting", "drop-through lowers the rider and costs about 13 mm of clearance")
    concave_mm: float | None = figure("length", 0, 40, "Concave", "depth of the hollow across the deck")
    rocker_mm: float | None = figure(
        "length", -40, 60, "Rocker", "how far the middle hangs below the mounts; negative is camber"
    )
    flex: Flex | None = choice("Flex")
    cutouts: bool | None = yes_no("Wheel cutouts", "the deck is cut away above the wheels")
    tail_mm: float | None = figure("length", 0, 250, "Tail", "length behind the rear truck's mount; 0 for none")


class Trucks(Part):
    hanger_mm: float | None = figure("length", 80, 400, "Hanger width")
    axle_mm: float | None = figure("length", 120, 520, "Axle length", "tip to tip")
    height_mm: float | None = figure("length", 25, 150, "Height", "axle centre below the baseplate")
    profile: str | None = words(30, "Hanger profile", "the cross-section that a motor mount has to clamp")
    lean_deg: float | None = figure("angle", 2, 40, "Largest lean", "how far the deck leans in a full turn")
    pivots: int | None = whole(1, 2, "Pivots", "double-pivot trucks turn more and are unsettled when fast")


class Wheels(Part):
    diameter_mm: float | None = figure("length", 40, 400, "Diameter")
    width_mm: float | None = figure("length", 15, 150, "Width")
    hardness_a: float | None = figure("hardness", 50, 105, "Hardness", "durometer, A scale")
    kind: WheelKind | None = choice("Kind")
    core: str | None = words(40, "Core", "the window pattern that a wheel pulley keys into")


class Risers(Part):
    height_mm: float | None = figure("length", 0, 50, "Height")
