"""Pack, controller and everything the current runs through."""

from typing import Literal

from pydantic import Field

from boardmath.buildfile.figures import Key, Part, choice, figure, whole, words, yes_no

Chemistry = Literal["nmc", "nca", "lfp", "polymer"]
Origin = Literal["new", "salvaged"]
Layout = Literal["flat", "stacked", "bricks"]
PackPlace = Literal["in_a_box", "on_the_deck", "in_a_bag"]
Ports = Literal["one", "two"]
Supply = Literal["converter", "pack", "own_battery", "some_cells"]
EnclosurePlace = Literal["below", "above"]
Holds = Literal["all", "pack", "electronics"]
EnclosureMaterial = Literal["petg", "asa", "nylon", "glass_fibre", "wood", "sheet"]


LIVES_LONGER = "4.1 V a cell instead of 4.2 V it about doubles its life"
"""Common practice, no source; the model of ageing comes to about the same."""


class Cell(Part):
    chemistry: Chemistry | None = choice("Chemistry")
    origin: Origin | None = choice("Cells are", "salvaged cells cost a third and vary; measure and match them")
    size: str | None = words(30, "Size", "such as 18650, 21700, or brick")
    capacity_ah: float | None = figure("charge", 0.3, 120, "Capacity", "from full to empty, slowly")
    nominal_v: float | None = figure("voltage", 2.5, 4.0, "Nominal voltage")
    full_v: float | None = figure("voltage", 3.3, 4.5, "Voltage when full")
    empty_v: float | None = figure("voltage", 1.8, 3.6, "Voltage when empty")
    max_discharge_a: float | None = figure("current", 0.3, 5000, "Largest discharge current")
    max_charge_a: float | None = figure("current", 0.05, 1000, "Largest charge current")
    resistance_mohm: float | None = figure(
        "resistance", 0.1, 500, "Resistance", "direct current, ten-second pulse, 25 °C, half charged"
    )
    cycles_to_80_pct: float | None = figure("count", 10, 20_000, "Cycles to 80 %")


class Protection(Part):
    """The board that guards the cells: a part to buy, and where the charge and the drive current run."""

    max_discharge_a: float | None = figure("current", 1, 1000, "Largest discharge current")
    max_charge_a: float | None = figure("current", 0.2, 500, "Largest charge current")
    in_drive_path: bool | None = yes_no("Carries the drive current", "or only the charging current")
    series: int | None = whole(1, 24, "Made for cells in series")
    ports: Ports | None = choice("Ports", "one for load and charger, or one each")
    balances: bool | None = yes_no("Balances the cells")
    cut_off_v: float | None = figure("cell_voltage", 1.5, 3.6, "Opens below", "per cell; then the load is disconnected")
    ceiling_v: float | None = figure("cell_voltage", 3.3, 4.5, "Stops charging above", "per cell; some can be set")
    sensor: bool | None = yes_no("Has a temperature sensor", "on a lead between the cells")
    length_mm: float | None = figure("length", 10, 200, "Length")
    width_mm: float | None = figure("length", 8, 150, "Width")
    height_mm: float | None = figure("length", 1, 40, "Height")


class Pack(Part):
    series: int | None = whole(1, 24, "Cells in series")
    parallel: int | None = whole(1, 60, "Cells in parallel")
    layout: Layout | None = choice("Layout")
    cell: Cell | None = Field(default=None, title="Cell")
    bricks: int | None = whole(1, 12, "Bricks", "all of them, each with a balance plug of its own")
    brick_sets: int | None = whole(1, 6, "Sets of bricks in parallel", "each of bricks in series")
    weakest_brick_ah: float | None = figure(
        "charge", 0.3, 120, "Smallest brick", "capacity of the smallest, where bricks in series differ"
    )
    length_mm: float | None = figure("length", 20, 1000, "Length", "of the block, or of one brick")
    width_mm: float | None = figure("length", 10, 400, "Width", "of the block, or of one brick")
    height_mm: float | None = figure("length", 5, 200, "Height", "of the block, or of one brick")
    plug: str | None = words(30, "Drive plug", "such as 5 mm bullet")
    charge_plug: str | None = words(30, "Charge port")
    health_pct: float | None = figure(
        "share", 40, 110, "Capacity left", "100 when new; an old pack has less and sags more"
    )
    place: PackPlace | None = choice(
        "Carried", "in an enclosure, in a case on the deck, or in the rider's bag with a cable"
    )
    spares: int | None = whole(0, 6, "Spare packs", "further packs like it, carried and swapped on the way", "board")
    charge_to_v: float | None = figure("voltage", 3.2, 4.5, "Charged to", f"per cell; at {LIVES_LONGER}")
    protection: Protection | None = Field(default=None, title="BMS")


class Controller(Part):
    units: int | None = whole(1, 4, "Controllers", group="board")
    programmable: bool | None = yes_no("Programmable")
    max_v: float | None = figure("voltage", 6, 200, "Largest voltage", "with the pack full, not nominal")
    max_motor_current_a: float | None = figure("current", 1, 1000, "Largest motor current", "each motor")
    max_pack_current_a: float | None = figure("current", 1, 1000, "Largest pack current", "each controller")
    max_erpm: float | None = figure("electrical_speed", 1000, 500_000, "Largest electrical speed")
    fixed_cells: int | None = whole(2, 24, "Fixed cell count", "what its solder jumper is set to")
    motors: int | None = whole(1, 4, "Motors it drives", "of one controller")
    plug: str | None = words(30, "Pack plug")
    motor_plug: str | None = words(30, "Phase plugs")
    length_mm: float | None = figure("length", 20, 400, "Length")
    width_mm: float | None = figure("length", 15, 300, "Width")
    height_mm: float | None = figure("length", 5, 150, "Height")


class Charger(Part):
    v: float | None = figure("voltage", 3, 120, "Voltage")
    a: float | None = figure("current", 0.1, 60, "Current")
    balance: bool | None = yes_no("Balances the cells", "bricks have no BMS to do it")
    plug: str | None = words(30, "Plug")


class ChargePort(Part):
    plug: str | None = words(30, "Plug")
    max_a: float | None = figure("current", 0.2, 100, "Largest current")
    cap: bool | None = yes_no("Has a cap", "against spray and grit")
    hole_mm: float | None = figure("length", 5, 40, "Hole in the wall")


class Remote(Part):
    link: Literal["serial", "pulse"] | None = choice("Link to the controller")
    runtime_h: float | None = figure("hours", 0.3, 200, "Running time")
    charge_plug: str | None = words(30, "Charged by")


class Switch(Part):
    kind: Literal["loop", "electronic", "none"] | None = choice("Kind")
    max_v: float | None = figure("voltage", 5, 200, "Largest voltage")
    max_a: float | None = figure("current", 1, 1000, "Largest current")


class Fuse(Part):
    a: float | None = figure("current", 1, 500, "Rating")


class Wiring(Part):
    awg: float | None = figure("wire", 2, 24, "Wire gauge")
    length_mm: float | None = figure("length", 50, 10_000, "Length", "pack to controller, one way")
    connector_max_a: float | None = figure("current", 1, 1000, "Connectors' largest current")


class Load(Part):
    """Lights and whatever else lives off the pack."""

    count: int | None = whole(1, 20, "How many", group="board")
    v: float | None = figure("voltage", 1.5, 120, "Voltage")
    a: float | None = figure("current", 0.005, 20, "Current", "of one, on")
    supply: Supply | None = choice("Fed by", "a converter, the whole pack, its own battery, or only some of the cells")


Seat = Literal["flat", "gasket", "moulded"]


class Enclosure(Part):
    length_mm: float | None = figure("length", 60, 1200, "Length")
    width_mm: float | None = figure("length", 40, 400, "Width")
    depth_mm: float | None = figure("length", 10, 150, "Depth", "how far it hangs below the deck")
    wall_mm: float | None = figure("length", 0.5, 15, "Wall")
    seat: Seat | None = choice("Sits on the deck", "flat, on gasket foam, or moulded to the deck's shape")
    place: EnclosurePlace | None = choice("Place", "under the deck or on it")
    holds: Holds | None = choice("Holds", "with two enclosures: the pack in one, the electronics in the other")
    back_mm: float | None = figure("length", -400, 400, "Moved back", "from the middle of its space, towards the tail")
    material: EnclosureMaterial | None = choice("Made of")
    flange_mm: float | None = figure("length", 6, 60, "Flange", "the rim that is screwed to the deck")
    bed_length_mm: float | None = figure("length", 80, 1000, "Printer bed, length")
    bed_width_mm: float | None = figure("length", 80, 1000, "Printer bed, width")


class Extra(Part):
    count: int | None = whole(1, 500, "How many", group="board")
    fills: Key | None = words(60, "Stands for", "the small part on the parts list that it is", "board")
