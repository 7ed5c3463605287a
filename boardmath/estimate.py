"""What a missing figure is taken to be: each by a named rule, with a spread.

The rules are common practice without a published source unless they say otherwise. A spread is the standard deviation
of the figure's logarithm: 0.1 is about ten percent either way, two times in three.
"""

from dataclasses import dataclass
from math import pi, sqrt

from boardmath.buildfile.build import Brief, Rider
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Chemistry, Enclosure, Wiring
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.physics import wire


@dataclass(frozen=True)
class Estimate:
    """A figure in the build file's unit, the rule it comes from, and how far it may be off."""

    value: float
    rule: str
    spread: float


# --- road and air ---------------------------------------------------------------------------------------------------

_URETHANE_CRR = 0.015  # 78A, 90 mm, fair asphalt, upright rider: working value that agrees with practice
_SURFACE_ON_SMALL_WHEELS = {
    "smooth_asphalt": 0.8,
    "fair_asphalt": 1.0,
    "rough_asphalt": 1.5,
    "boardwalk": 1.35,
    "packed_gravel": 2.6,
}
_WHEEL_KIND = {"urethane": (1.0, 1.0), "rubber": (1.25, 0.7), "pneumatic": (1.2, 0.4)}
"""Crr against urethane on fair asphalt, and how much of the surface's effect such a wheel feels."""


def rolling_resistance(wheels: Wheels, brief: Brief) -> Estimate:
    """Crr from wheel kind, hardness, diameter and surface."""
    kind, feels = _WHEEL_KIND[wheels.kind or "urethane"]
    surface = _SURFACE_ON_SMALL_WHEELS[brief.surface or "fair_asphalt"]
    diameter = wheels.diameter_mm or 90.0
    hardness = wheels.hardness_a or 78.0
    softness = 1.0 + 0.02 * (78.0 - hardness) if wheels.kind != "pneumatic" else 1.0
    value = _URETHANE_CRR * kind * (1.0 + feels * (surface - 1.0)) * max(softness, 0.7) * sqrt(90.0 / diameter)
    return Estimate(value, "wheel kind, hardness, size and surface", 0.20)


_STANCE = {"upright": 1.0, "relaxed": 0.88, "crouched": 0.68}


def drag_area(rider: Rider) -> Estimate:
    """CdA in m2: 0.55 standing upright at 1.78 m and 74 kg, scaled by body surface.

    Body surface after Du Bois & Du Bois, Arch. Intern. Med. 17 (1916) 863: W^0.425 H^0.725.
    """
    height = rider.height_m or 1.75
    surface = (rider.mass_kg / 74.0) ** 0.425 * (height / 1.78) ** 0.725
    return Estimate(
        0.55 * surface * _STANCE[rider.stance or "upright"],
        "body surface and stance",
        0.10 if rider.height_m else 0.13,
    )


def grip(wheels: Wheels, brief: Brief) -> Estimate:
    """Friction coefficient of the driven wheels; from memory for tyres on such surfaces."""
    surface = {"boardwalk": 0.55, "packed_gravel": 0.4}.get(brief.surface or "fair_asphalt", 0.7)
    tyre = 1.0 if (wheels.kind or "urethane") == "urethane" else 1.1
    return Estimate(surface * tyre * (0.6 if brief.wet else 1.0), "wheel kind, surface and wet", 0.15)


LOADED_RADIUS = {"urethane": 0.99, "rubber": 0.98, "pneumatic": 0.95}
"""Rolling radius under a rider over the printed one."""


# --- drive and motor ------------------------------------------------------------------------------------------------


def drive_efficiency(kind: str, drive: Drive) -> Estimate:
    """Share of the motor's torque that reaches the wheel; a small motor pulley bends the belt more."""
    if kind in ("hub", "direct"):
        return Estimate(1.0, "no gearing", 0.0)
    if kind == "gear":
        return Estimate(0.92, "closed spur gears", 0.3)
    if kind == "chain":
        return Estimate(0.93, "roller chain in the open", 0.3)
    value = 0.975 - 0.5 / (drive.motor_teeth or 15) - (0.02 if drive.idler else 0.0)
    return Estimate(value, "toothed belt by motor pulley and idler", 0.3)


def drive_drag(kind: str, drive: Drive, motors: int) -> Estimate:
    """Force in N at the road that the belts or gears take at any load."""
    each = {"belt": 1.2 * (drive.belt_width_mm or 12.0) / 12.0, "gear": 1.2, "chain": 1.5}.get(kind, 0.0)
    return Estimate(each * motors, "drag of belts and gears", 0.4)


def can_volume_cm3(motors: Motors) -> float:
    """Volume of the motor's can; a usual 63 mm x 55 mm where it is not stated."""
    return pi / 4.0 * (motors.can_diameter_mm or 63.0) ** 2 * (motors.can_length_mm or 55.0) / 1000.0


_REFERENCE_CAN = 171.0  # cm3, 63 mm x 55 mm


def phase_resistance(motors: Motors) -> Estimate:
    """Line-to-neutral mOhm: 31 at 170 rpm/V in a 63 x 55 can, with 1 / KV^2 and falling with the can's volume."""
    kv = motors.kv_rpm_per_v or 170.0
    value = 31.0 * (170.0 / kv) ** 2 * _REFERENCE_CAN / can_volume_cm3(motors)
    return Estimate(value, "can volume and KV", 0.15)


PHASE_TIME_CONSTANT_S = 0.7e-3
"""Inductance over resistance of one phase of such outrunners (from memory)."""


def phase_inductance_uh(resistance_mohm: float) -> Estimate:
    """Line-to-neutral, by the phase's resistance: both go with the square of the turns."""
    return Estimate(resistance_mohm * PHASE_TIME_CONSTANT_S * 1000.0, "time constant of the phase", 0.3)


def no_load_current(motors: Motors) -> Estimate:
    """A: 1.3 at 170 rpm/V in a 63 x 55 can, growing with volume and KV (drag torque by volume)."""
    value = 1.3 * can_volume_cm3(motors) / _REFERENCE_CAN * (motors.kv_rpm_per_v or 170.0) / 170.0
    return Estimate(value, "can volume and KV", 0.3)


def motor_current(motors: Motors) -> Estimate:
    """A that a motor of that can is commonly allowed: torque by volume, so amperes by volume and KV."""
    value = 65.0 * can_volume_cm3(motors) / _REFERENCE_CAN * (motors.kv_rpm_per_v or 170.0) / 170.0
    return Estimate(value, "can volume and KV", 0.0)


def motor_heat(motors: Motors, mass_g: float) -> dict[str, Estimate]:
    """Heat capacities (J/K) of winding and case and thermal resistances (K/W), by mass and can size.

    Three tenths of the mass is copper at 385 J/(kg K), the rest iron and aluminium at about 500. A hub motor's can sits
    inside the tyre and gives its heat away worse. From memory of open outrunners of this size.
    """
    # A mass of nothing, as a list may have it, holds no heat: a gram is as good as none, and leaves no division by it.
    mass, volume = max(mass_g, 1.0) / 1000.0, can_volume_cm3(motors)
    size = (_REFERENCE_CAN / volume) ** (2.0 / 3.0)
    enclosed = 1.5 if motors.kind == "hub" else 1.0
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


def rotating_mass(motors: Motors, motor_mass_g: float, wheels_mass_g: float, gear: float, radius_mm: float) -> Estimate:
    """kg that turning parts add at the road: wheels as discs, half of each motor's mass as a ring of its can's radius."""
    wheels = 0.5 * wheels_mass_g / 1000.0
    can = (motors.can_diameter_mm or 63.0) / 2.0
    rotors = (motors.count or 1) * 0.5 * motor_mass_g / 1000.0 * (can * gear / radius_mm) ** 2 * 0.8
    return Estimate(wheels + rotors, "mass and size of wheels and rotors", 0.2)


# --- cells ----------------------------------------------------------------------------------------------------------


def chemistry_of(cell: Cell | None) -> Chemistry:
    """What the cell says; nmc where it does not, as most packs are."""
    return (cell.chemistry if cell else None) or "nmc"


CELL_VOLTAGES = {
    "nmc": (4.2, 3.6, 2.8),
    "nca": (4.2, 3.6, 2.8),
    "lfp": (3.6, 3.2, 2.3),
    "polymer": (4.2, 3.7, 3.2),
}
"""Full, nominal, empty; V a cell, common practice."""
TAPER_PER_CELL = {"nmc": (3.4, 3.1), "nca": (3.4, 3.1), "lfp": (2.9, 2.6), "polymer": (3.5, 3.3)}
"""Where a controller begins and ends holding back, V a cell under load, common practice."""
_RATE = {"nmc": 5.0, "nca": 3.0, "lfp": 5.0, "polymer": 15.0}
_SIZE_CAPACITY = {"18650": 2.8, "21700": 4.5, "brick": 5.0}
_SIZE_MASS = {"18650": 47.0, "21700": 70.0}
_WH_PER_KG = {"nmc": 230.0, "nca": 240.0, "lfp": 110.0, "polymer": 160.0}


def cell_capacity(cell: Cell) -> Estimate:
    """Ah by size."""
    return Estimate(_SIZE_CAPACITY.get(cell.size or "", 3.0), "usual for the cell's size", 0.12)


def cell_max_discharge(cell: Cell, capacity_ah: float) -> Estimate:
    """A by chemistry and capacity."""
    return Estimate(_RATE[chemistry_of(cell)] * capacity_ah, "usual rate for the chemistry", 0.0)


def cell_resistance(cell: Cell, max_discharge_a: float) -> Estimate:
    """mOhm: cells are rated for the current at which a pulse costs about 0.36 V."""
    return Estimate(360.0 / max_discharge_a, "0.36 V at the largest discharge current", 0.2)


def path_resistance(series: int, wiring: Wiring) -> Estimate:
    """mOhm of cell links, connectors and wire there and back (copper by gauge: ASTM B258, IEC 60028)."""
    copper = float(wire.resistance(wiring.awg or 12.0, 2.0 * (wiring.length_mm or 900.0) / 1000.0)) * 1000.0
    return Estimate(0.4 * series + 2.0 + copper, "links, connectors and copper", 0.2)


_CYCLES = {"nmc": 500.0, "nca": 400.0, "lfp": 1500.0, "polymer": 200.0}


def cycles_to_80_pct(cell: Cell) -> Estimate:
    """Full cycles until four fifths of the capacity are left, charged to full."""
    return Estimate(_CYCLES[chemistry_of(cell)], "usual for the chemistry", 0.25)


def cell_max_charge(cell: Cell, capacity_ah: float) -> Estimate:
    """A by chemistry and capacity."""
    rate = {"nmc": 1.0, "nca": 0.7, "lfp": 1.0, "polymer": 1.0}[chemistry_of(cell)]
    return Estimate(rate * capacity_ah, "usual rate for the chemistry", 0.0)


# --- mass -----------------------------------------------------------------------------------------------------------


def deck_mass(deck: Deck) -> Estimate:
    """g: wood at 0.72 g/cm3 over 85 % of the outline's rectangle."""
    volume = (deck.length_mm or 900.0) * (deck.width_mm or 235.0) * (deck.thickness_mm or 11.0) / 1000.0
    return Estimate(volume * 0.85 * 0.72, "outline and thickness in wood", 0.12)


def trucks_mass(trucks: Trucks) -> Estimate:
    """g of a pair with baseplates and bolts."""
    return Estimate(900.0 * (trucks.hanger_mm or 184.0) / 184.0, "hanger width", 0.12)


def wheels_mass(wheels: Wheels) -> Estimate:
    """g of a set of four by size and kind, core and bearings in."""
    volume = pi / 4.0 * (wheels.diameter_mm or 90.0) ** 2 * (wheels.width_mm or 52.0) / 1000.0
    filled = {"urethane": 0.62, "rubber": 0.6, "pneumatic": 0.3}[wheels.kind or "urethane"]
    return Estimate(4.0 * volume * filled, "size and kind", 0.12)


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
    return Estimate(capacity_ah * nominal_v / _WH_PER_KG[chemistry_of(cell)] * 1000.0, "energy by chemistry", 0.12)


PACK_OVER_CELLS = 1.12
"""Links, wrap, leads and protection board on top of the cells."""


def controller_mass() -> Estimate:
    """g of one controller."""
    return Estimate(150.0, "usual", 0.3)


def enclosure_mass(enclosure: Enclosure) -> Estimate:
    """g of a shell 2.5 mm thick with screws."""
    length, width = enclosure.length_mm or 450.0, enclosure.width_mm or 180.0
    depth = enclosure.depth_mm or 40.0
    area = length * width + 2.0 * depth * (length + width)
    return Estimate(area * 2.5 / 1000.0 * 1.2 + 60.0, "shell by its size", 0.25)
