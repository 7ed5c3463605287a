"""What a missing figure is taken to be: each by a named rule, with a spread.

The rules are common practice without a published source unless they say otherwise. A spread is the standard deviation
of the figure's logarithm: 0.1 is about ten percent either way, two times in three.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi, sqrt
from statistics import NormalDist

from boardmath.buildfile.build import Brief, Rider
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Enclosure, Load, Wiring
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.model.chemistry import chemical_of
from boardmath.model.defaults import USUAL
from boardmath.model.wheel_materials import material_of
from boardmath.physics import wire


@dataclass(frozen=True)
class Estimate:
    """A figure in the build file's unit, the rule it comes from, and how far it may be off."""

    value: float
    rule: str
    spread: float


_CRR_PER_KELVIN = 0.008
"""Share by which rolling resistance falls a kelvin: ISO 28580 corrects passenger car tyres by it (from memory); urethane loses by
the same hysteresis."""
_CRR_PER_KELVIN_SPREAD = 0.5
"""Reasoned: urethane's losses over temperature differ by its kind more than those of tyres, and wheels warm as they roll."""


def crr_per_kelvin() -> Estimate:
    """Share by which rolling resistance falls a kelvin, at any wheel."""
    return Estimate(_CRR_PER_KELVIN, "as tyres by the standard, less surely of urethane", _CRR_PER_KELVIN_SPREAD)


NEW_HEALTH = 0.97
"""Share of its capacity that a pack in use has left where nobody says."""
HELD_BACK_SPREAD = 1.4
HELD_BACK = {False: 0.012, None: 0.012, True: 0.006}
"""Share of the speed that firmware holds back in the middle, by whether the controller is programmable, and how it scatters: of
boxed ones about one in four is held back by 3 % or more, one in fifty by 20 % (a guess: speed modes, caps for a market, filters).
Half of that where the builder sets it: the remote's modes and what was left as it came remain."""


def held_back(programmable: bool | None) -> Estimate:
    """Share of the speed that voltage would give which a controller's firmware lets through."""
    share = HELD_BACK[programmable]
    return Estimate(1.0 - share, "firmware often keeps some of the speed back", HELD_BACK_SPREAD)


# --- road and air ---------------------------------------------------------------------------------------------------

_SURFACE_ON_SMALL_WHEELS = {
    "smooth_asphalt": 0.8,
    "fair_asphalt": 1.0,
    "rough_asphalt": 1.5,
    "boardwalk": 1.6,
    "packed_gravel": 2.6,
}
"""Crr of hard wheels of 90 mm against fair asphalt (from memory)."""


def rolling_resistance(wheels: Wheels, brief: Brief) -> Estimate:
    """Crr from wheel kind, hardness, diameter and surface."""
    material = material_of(wheels)
    surface = _SURFACE_ON_SMALL_WHEELS[brief.surface or "fair_asphalt"]
    size = (material.crr_at_mm / (wheels.diameter_mm or USUAL["wheels.diameter_mm"])) ** material.size_exponent
    softness = 1.0 + 0.02 * (USUAL["wheels.hardness_a"] - (wheels.hardness_a or USUAL["wheels.hardness_a"]))
    soft = max(softness, 0.7) if material.hardness_counts else 1.0
    value = material.crr * (1.0 + material.surface_felt * (surface - 1.0)) * soft * size
    # Surfaces differ more than what one is said to be.
    return Estimate(value, "wheel kind, hardness, size and surface", 0.25 if brief.surface else 0.30)


_STANCE = {"upright": 1.0, "relaxed": 0.88, "crouched": 0.68}


def drag_area(rider: Rider) -> Estimate:
    """CdA in m2: 0.55 standing upright at 1.78 m and 74 kg, scaled by body surface.

    Body surface after Du Bois & Du Bois, Arch. Intern. Med. 17 (1916) 863: W^0.425 H^0.725.
    """
    height = rider.height_m or USUAL["rider.height_m"]
    surface = (rider.mass_kg / 74.0) ** 0.425 * (height / 1.78) ** 0.725
    return Estimate(
        0.55 * surface * _STANCE[rider.stance or "upright"],
        "body surface and stance",
        0.15 if rider.height_m else 0.17,
    )


def grip(wheels: Wheels, brief: Brief) -> Estimate:
    """Friction coefficient of the driven wheels; from memory for tyres on such surfaces."""
    surface = {"boardwalk": 0.55, "packed_gravel": 0.4}.get(brief.surface or "fair_asphalt", 0.7)
    return Estimate(
        surface * material_of(wheels).grip * (0.6 if brief.wet else 1.0), "wheel kind, surface and wet", 0.15
    )


# --- drive and motor ------------------------------------------------------------------------------------------------


def drive_efficiency(kind: str, drive: Drive) -> Estimate:
    """Share of the motor's torque that reaches the wheel; a small motor pulley bends the belt more."""
    if kind in ("hub", "direct"):
        return Estimate(1.0, "no gearing", 0.0)
    if kind == "gear":
        return Estimate(0.92, "closed spur gears", 0.3)
    if kind == "chain":
        return Estimate(0.93, "roller chain in the open", 0.3)
    # With the drag below 93 % at half of a board's power: belts are rated at 95 to 98 % there (memory), wide and new ones.
    value = 0.985 - 0.3 / (drive.motor_teeth or USUAL["drive.motor_teeth"]) - (0.02 if drive.idler else 0.0)
    return Estimate(value, "toothed belt by motor pulley and idler", 0.3)


def drive_drag(kind: str, drive: Drive, motors: int) -> Estimate:
    """Force in N at the road that the belts or gears take at any load."""
    each = {"belt": 1.2 * (drive.belt_width_mm or USUAL["drive.belt_width_mm"]) / 12.0, "gear": 1.2, "chain": 1.5}.get(
        kind, 0.0
    )
    return Estimate(each * motors, "drag of belts and gears", 0.4)


def can_volume_cm3(motors: Motors) -> float:
    """Volume of the motor's can; a usual 63 mm x 55 mm where it is not stated."""
    return (
        pi
        / 4.0
        * (motors.can_diameter_mm or USUAL["motors.can_diameter_mm"]) ** 2
        * (motors.can_length_mm or USUAL["motors.can_length_mm"])
        / 1000.0
    )


_REFERENCE_CAN = 171.0  # cm3, 63 mm x 55 mm


def phase_resistance(motors: Motors) -> Estimate:
    """Line-to-neutral mOhm: 31 at 170 rpm/V in a 63 x 55 can, with 1 / KV^2 and falling with the can's volume."""
    kv = motors.kv_rpm_per_v or USUAL["motors.kv_rpm_per_v"]
    value = 31.0 * (170.0 / kv) ** 2 * _REFERENCE_CAN / can_volume_cm3(motors)
    return Estimate(value, "can volume and KV", 0.15)


PHASE_TIME_CONSTANT_S = 0.7e-3
"""Inductance over resistance of one phase of such outrunners (from memory)."""


def phase_inductance_uh(resistance_mohm: float) -> Estimate:
    """Line-to-neutral, by the phase's resistance: both go with the square of the turns."""
    return Estimate(resistance_mohm * PHASE_TIME_CONSTANT_S * 1000.0, "time constant of the phase", 0.3)


def no_load_current(motors: Motors) -> Estimate:
    """A: 1.3 at 170 rpm/V in a 63 x 55 can, growing with volume and KV (drag torque by volume)."""
    # As a seller gives it: what the pack's leads carry.
    value = (
        1.3 * can_volume_cm3(motors) / _REFERENCE_CAN * (motors.kv_rpm_per_v or USUAL["motors.kv_rpm_per_v"]) / 170.0
    )
    return Estimate(value, "can volume and KV", 0.3)


def motor_current(motors: Motors) -> Estimate:
    """A that a motor of that can is commonly allowed: torque by volume, so amperes by volume and KV."""
    value = (
        65.0 * can_volume_cm3(motors) / _REFERENCE_CAN * (motors.kv_rpm_per_v or USUAL["motors.kv_rpm_per_v"]) / 170.0
    )
    return Estimate(value, "can volume and KV", 0.25)


UNDER_A_COVER = 1.33
"""Thermal resistance from can to air under a cover, over that in the open: a quarter less heat goes (from memory)."""


def motor_heat(motors: Motors, mass_g: float, covered: bool = False) -> dict[str, Estimate]:
    """Heat capacities (J/K) of winding and case and thermal resistances (K/W), by mass and can size.

    Three tenths of the mass is copper at 385 J/(kg K), the rest iron and aluminium at about 500. A hub motor's can sits
    inside the tyre and gives its heat away worse. From memory of open outrunners of this size.
    """
    # A mass of nothing, as a list may have it, holds no heat: a gram is as good as none, and leaves no division by it.
    mass, volume = max(mass_g, 1.0) / 1000.0, can_volume_cm3(motors)
    size = (_REFERENCE_CAN / volume) ** (2.0 / 3.0)
    enclosed = (1.5 if motors.kind == "hub" else 1.0) * (UNDER_A_COVER if covered else 1.0)
    rule = "mass and can size"
    return {
        "winding_heat_capacity": Estimate(0.3 * mass * 385.0, rule, 0.15),
        "case_heat_capacity": Estimate(0.7 * mass * 500.0, rule, 0.1),
        "winding_to_case": Estimate(0.45 * size, rule, 0.25),
        "case_to_air": Estimate(0.95 * size * enclosed, rule, 0.25),
    }


WINDING_LIMIT_C = 110.0
"""Where controllers usually roll a motor's current back and magnets begin to suffer (common practice, no source)."""
CONTROLLER_LIMIT_C = 85.0
CONTROLLER_TO_AIR = 3.2
"""K/W of one controller in a closed box (common practice, no source)."""
CONTROLLER_HEAT_PER_KG = 900.0
"""J/(kg K) of aluminium and board (from memory)."""


def rotating_mass(motors: Motors, motor_mass_g: float, wheels_mass_g: float, gear: float, radius_mm: float) -> Estimate:
    """kg that turning parts add at the road: wheels as discs, half of each motor's mass as a ring of its can's radius."""
    wheels = 0.5 * wheels_mass_g / 1000.0
    can = (motors.can_diameter_mm or USUAL["motors.can_diameter_mm"]) / 2.0
    rotors = (motors.count or 1) * 0.5 * motor_mass_g / 1000.0 * (can * gear / radius_mm) ** 2 * 0.8
    return Estimate(wheels + rotors, "mass and size of wheels and rotors", 0.2)


# --- cells ----------------------------------------------------------------------------------------------------------


_SIZE_CAPACITY = {"18650": 2.5, "21700": 4.2, "brick": 5.0}
"""Ah of what is sold without a label, or read off none: somewhat below what the size can hold."""
_SIZE_MASS = {"18650": 47.0, "21700": 70.0}

SALVAGED_KEEPS = 0.82
"""Of the printed capacity. Salvaged cells give 60 to 95 % (common practice, no source); who builds a pack of them keeps the good
ones and throws away what is below about 70 %, so that those on a board lie around 82 %."""
_SALVAGED_SPREAD = 0.12
SALVAGED_RATE = 1.0
"""A an Ah of salvaged or unlabelled cells."""
_SALVAGED_RESISTANCE = 1.6
_SALVAGED_LIFE = 0.4
_SALVAGED_UNALIKE, _SORTED_UNALIKE = 0.10, 0.03
"""Spread of capacity among salvaged cells as they come, and measured and sorted."""


def salvaged(cell: Cell) -> bool:
    """Whether the cells were taken out of something else."""
    return cell.origin == "salvaged"


def unlabelled(cell: Cell) -> bool:
    """Cells that say neither what they hold nor what they bear."""
    return cell.capacity_ah is None and cell.max_discharge_a is None and cell.resistance_mohm is None


def cell_capacity(cell: Cell) -> Estimate:
    """Ah by size; salvaged cells keep a share of what is printed on them, until they are measured."""
    printed = printed_capacity(cell)
    if salvaged(cell):
        return Estimate(
            printed * SALVAGED_KEEPS, "salvaged, not measured: 70 to 95 % of the printed capacity", _SALVAGED_SPREAD
        )
    return Estimate(printed, "usual for the cell's size", 0.15)


def printed_capacity(cell: Cell) -> float:
    """Ah when new: as printed, by the size, or what a salvaged cell that was measured must have had."""
    if cell.capacity_ah is None:
        return _SIZE_CAPACITY.get(cell.size or "", USUAL["cell.capacity_ah"])
    aged = salvaged(cell) and "capacity_ah" in (cell.measured or ())
    return cell.capacity_ah / SALVAGED_KEEPS if aged else cell.capacity_ah


def cell_max_discharge(cell: Cell, capacity_ah: float) -> Estimate:
    """A by chemistry and capacity; salvaged or without a label, an ampere for each ampere hour."""
    if salvaged(cell):
        return Estimate(SALVAGED_RATE * capacity_ah, "salvaged: one ampere for each ampere hour, until measured", 0.0)
    if unlabelled(cell) and cell.size not in (None, "brick") and cell.name is not None:
        return Estimate(2.0 * capacity_ah, "no label: two amperes for each ampere hour", 0.0)
    return Estimate(chemical_of(cell).discharge_per_ah * capacity_ah, "usual rate for the chemistry", 0.0)


PULSE_MV = 360.0
"""mV that a pulse of the largest discharge current costs a cell (common practice of data sheets, from memory)."""


def cell_resistance(cell: Cell, capacity_ah: float) -> Estimate:
    """mOhm: cells are rated for the current at which a pulse costs about 0.36 V; salvaged ones have grown."""
    if salvaged(cell):
        # As new they bore more than they are trusted with now.
        as_new = cell.max_discharge_a if cell.max_discharge_a is not None else 2.0 * printed_capacity(cell)
        stated = cell.resistance_mohm if cell.resistance_mohm is not None else PULSE_MV / as_new
        return Estimate(stated * _SALVAGED_RESISTANCE, "salvaged, not measured: well above new", 0.3)
    rated = cell.max_discharge_a if cell.max_discharge_a is not None else cell_max_discharge(cell, capacity_ah).value
    return Estimate(PULSE_MV / rated, "0.36 V at the largest discharge current", 0.25)


def weakest_group(cell: Cell, series: int, parallel: int, measured: bool) -> Estimate:
    """Capacity of the weakest group in series over the mean, which ends the ride."""
    alone = chemical_of(cell).cells_unalike
    if salvaged(cell):
        alone = _SORTED_UNALIKE if measured else _SALVAGED_UNALIKE
    rule = "how much such cells vary, and how many groups there are"
    return Estimate(1.0 - min(alone * below_the_mean(series, parallel), 0.5), rule, 0.4)


def below_the_mean(series: int, parallel: int) -> float:
    """How far the smallest group lies below the mean, in deviations of one cell.

    The least of ``series`` draws from a normal distribution lies about ``z(1 - (1 - 3/8) / (series + 1/4))`` deviations
    below its mean (Blom, Statistical Estimates and Transformed Beta-Variables, 1958; from memory), a group's deviation being
    that of its cells over the root of how many there are.
    """
    return NormalDist().inv_cdf(1.0 - (1.0 - 0.375) / (series + 0.25)) / sqrt(parallel) if series > 1 else 0.0


CELL_LIMIT_C = 60.0
"""Where makers of lithium cells end the discharge, on the cell's skin (common practice of data sheets, from memory)."""


def pack_heat(cells_mass_g: float) -> dict[str, Estimate]:
    """Heat capacity (J/K) of all cells, and what their box leaves them to the air (K/W).

    About 950 J/(kg K) for cylindrical lithium cells; a block of 2 kg in a closed box gives some 0.6 W a kelvin away, which
    goes with its surface (both from memory).
    """
    mass = max(cells_mass_g, 20.0) / 1000.0
    return {
        "pack_heat_capacity": Estimate(950.0 * mass, "mass of the cells", 0.1),
        "pack_to_air": Estimate(1.0 / (0.6 * (mass / 2.0) ** (2.0 / 3.0)), "size of the pack in its enclosure", 0.35),
    }


def path_resistance(series: int, wiring: Wiring) -> Estimate:
    """mOhm of cell links, connectors and wire there and back (copper by gauge: ASTM B258, IEC 60028)."""
    copper = (
        float(
            wire.resistance(
                wiring.awg or USUAL["wiring.awg"], 2.0 * (wiring.length_mm or USUAL["wiring.length_mm"]) / 1000.0
            )
        )
        * 1000.0
    )
    return Estimate(0.4 * series + 2.0 + copper, "links, connectors and copper", 0.2)


def cycles_to_80_pct(cell: Cell) -> Estimate:
    """Full cycles until four fifths of the capacity are left, charged to full."""
    new = cell.cycles_to_80_pct or chemical_of(cell).cycles_to_80_pct
    if salvaged(cell):
        return Estimate(new * _SALVAGED_LIFE, "salvaged: two fifths of a new one's", 0.4)
    return Estimate(new, "usual for the chemistry", 0.25)


def cell_max_charge(cell: Cell, capacity_ah: float) -> Estimate:
    """A by chemistry and capacity; salvaged cells half of it."""
    rate = chemical_of(cell).charge_per_ah * (0.5 if salvaged(cell) else 1.0)
    return Estimate(rate * capacity_ah, "usual rate for the chemistry", 0.0)


# --- controller -----------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Class:
    conduction_mohm: float
    """Of one transistor with its share of shunt, board and leads."""
    switching: float
    duty: float
    duty_spread: float
    pack_current_a: float
    """That one of them usually takes where nobody says."""


_CLASSES = {
    True: _Class(conduction_mohm=3.0, switching=1.0, duty=0.95, duty_spread=0.012, pack_current_a=50.0),
    False: _Class(conduction_mohm=6.0, switching=1.4, duty=1.0, duty_spread=0.04, pack_current_a=20.0),
}
"""Programmable controllers made for this, and boxed ones sold with a remote (common practice and memory, no source)."""


def controller_class(programmable: bool | None) -> dict[str, Estimate]:
    """What a controller of that class loses, how far it opens, and what it takes from the pack where it does not say."""
    usual = _CLASSES[programmable is not False]
    rule = "usual for a programmable controller" if programmable is not False else "usual for a boxed controller"
    return {
        "conduction": Estimate(usual.conduction_mohm, rule, 0.35),
        "switching": Estimate(usual.switching, rule, 0.35),
        "duty": Estimate(usual.duty, rule, usual.duty_spread),
        "pack_current": Estimate(usual.pack_current_a, rule, 0.3),
    }


# --- mass -----------------------------------------------------------------------------------------------------------


def deck_mass(deck: Deck) -> Estimate:
    """g: wood at 0.72 g/cm3 over 85 % of the outline's rectangle, less what is routed out of it."""
    volume = (
        (deck.length_mm or USUAL["deck.length_mm"])
        * (deck.width_mm or USUAL["deck.width_mm"])
        * (deck.thickness_mm or USUAL["deck.thickness_mm"])
        / 1000.0
    )
    routed = (deck.routed_mm or 0.0) * (deck.routed_length_mm or 0.0) * (deck.routed_width_mm or 0.0) / 1000.0
    return Estimate(max(volume * 0.85 - routed, 0.1 * volume) * 0.72, "outline and thickness in wood", 0.12)


def trucks_mass(trucks: Trucks) -> Estimate:
    """g of a pair with baseplates and bolts."""
    return Estimate(900.0 * (trucks.hanger_mm or USUAL["trucks.hanger_mm"]) / 184.0, "hanger width", 0.12)


def wheels_mass(wheels: Wheels) -> Estimate:
    """g of a set of four by size and kind, core and bearings in."""
    volume = (
        pi
        / 4.0
        * (wheels.diameter_mm or USUAL["wheels.diameter_mm"]) ** 2
        * (wheels.width_mm or USUAL["wheels.width_mm"])
        / 1000.0
    )
    return Estimate(4.0 * volume * material_of(wheels).density_g_cm3, "size and kind", 0.12)


def motor_mass(motors: Motors) -> Estimate:
    """g of one motor: 3.6 g/cm3 of can."""
    return Estimate(3.6 * can_volume_cm3(motors), "can volume", 0.1)


def drive_mass(kind: str) -> Estimate:
    """g for each motor: mount, pulleys, belt or gears."""
    each = {"belt": 420.0, "chain": 500.0, "gear": 600.0, "direct": 150.0, "hub": 0.0}[kind]
    return Estimate(each, "usual for the kind of drive", 0.2)


def cell_mass(cell: Cell, capacity_ah: float, nominal_v: float) -> Estimate:
    """g by size, or by the chemistry's watt hours a kilogram."""
    if cell.size in _SIZE_MASS:
        return Estimate(_SIZE_MASS[cell.size], "usual for the cell's size", 0.03)
    return Estimate(capacity_ah * nominal_v / chemical_of(cell).wh_per_kg * 1000.0, "energy by chemistry", 0.12)


PACK_OVER_CELLS = 1.12
"""Links, wrap, leads and protection board on top of the cells."""


SMALL_PARTS_G = 250.0
"""Bolts and washers that no part lists, box screws and inserts 60 g, foam and padding 40, glue, tape and shrink 60, receiver
and its plugs 50, a charge port 40 (by weighing up a list; from memory)."""
GRIP_G_PER_MM2 = 0.9e-3
"""Of grip tape (from memory: 0.9 kg/m2)."""
LOOSE_WIRE_G = 150.0


def small_parts(deck: Deck, listed_g: float, wired: bool, belts: int, bricks: bool) -> Estimate:
    """g of what nobody lists: fasteners, straps, glue, foam, grip, wire; less what the build lists of it as extras."""
    grip = (
        GRIP_G_PER_MM2 * (deck.length_mm or USUAL["deck.length_mm"]) * (deck.width_mm or USUAL["deck.width_mm"]) * 0.85
    )
    usual = SMALL_PARTS_G + grip + (0.0 if wired else LOOSE_WIRE_G) + 40.0 * belts + (60.0 if bricks else 0.0)
    return Estimate(max(usual - listed_g, 80.0), "fasteners, foam, glue, grip tape and wire that are on no list", 0.35)


PROTECTION_OVER_CELLS = 0.03
"""Of that, the protection board."""
MOUNT_G = 200.0
"""g of a motor mount with its clamp and screws (from memory)."""


AWAKE_W = 4.0
CONVERTER_EFFICIENCY = 0.85
"""Of a small converter for lights (from memory)."""


def idle_draw(loads: Sequence[Load]) -> Estimate:
    """W that leave the pack with nothing turning: what is awake, and lights on all the way."""
    fed = [(load, load.supply or "converter") for load in loads]
    lit = sum(
        (load.count or 1) * (load.v or 0.0) * (load.a or 0.0) / (CONVERTER_EFFICIENCY if by == "converter" else 1.0)
        for load, by in fed
        if by != "own_battery"
    )
    rule = "controller, receiver and BMS switched on" + (", and lights on all the way" if lit else "")
    return Estimate(AWAKE_W + lit, rule, 0.3)


def controller_mass() -> Estimate:
    """g of one controller."""
    return Estimate(150.0, "usual", 0.3)


ENCLOSURE_DENSITY = {"petg": 1.27, "asa": 1.07, "nylon": 1.14, "glass_fibre": 1.8, "wood": 0.68, "sheet": 2.7}
"""g/cm3 of what boxes are made of: printed solid, glass fibre in resin, birch plywood, aluminium sheet (from memory)."""


def enclosure_mass(enclosure: Enclosure) -> Estimate:
    """g of a shell with its screws: 2.5 mm of a usual plastic, or of the wall and material that are stated."""
    length, width = (
        enclosure.length_mm or USUAL["enclosure.length_mm"],
        enclosure.width_mm or USUAL["enclosure.width_mm"],
    )
    depth = enclosure.depth_mm or USUAL["enclosure.depth_mm"]
    area = length * width + 2.0 * depth * (length + width)
    density = ENCLOSURE_DENSITY[enclosure.material] if enclosure.material else 1.2
    wall = enclosure.wall_mm if enclosure.wall_mm is not None else 2.5
    return Estimate(area * wall / 1000.0 * density + 60.0, "shell by its size", 0.25)
