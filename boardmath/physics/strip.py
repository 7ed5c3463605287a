"""Flat strips that join cells: resistance, the current at which they warm by a given rise, mass."""

from math import sqrt

RESISTIVITY = {"nickel": 6.93e-8, "steel": 14.3e-8, "copper": 1.0 / 58.0e6}
"""ohm m at 20 C. Nickel: CRC Handbook of Chemistry and Physics, electrical resistivity of pure metals, 293 K. Low-carbon
steel: ASM
Metals Handbook, grade 1010 (both from memory). Copper: IEC 60028."""
DENSITY = {"nickel": 8908.0, "steel": 7870.0, "copper": 8890.0}
"""kg/m3; copper's is of IEC 60028, the others from the same handbooks."""
COEFFICIENT = 14.0
"""W/m2K from a strip in still air of a box, both faces, convection and radiation together: as for wire (from memory)."""
BORNE_RISE = 10.0
"""K by which a strip may be warmer than the cells whose ends it lies on. Reasoned: cells end their discharge at 60 C, and a
strip that heats them by more than a few kelvin decides that. With it nickel of 0.15 x 8 mm bears 6 A; common practice says
5 to 7."""
STEEL_OF_NICKEL = 0.25
"""Of nickel's current, what is trusted to steel that is sold as nickel (common practice, no source): it welds worse and rusts."""


def resistance(material: str, width: float, thickness: float, length: float) -> float:
    """ohm of a strip; all in m."""
    return RESISTIVITY[material] * length / (width * thickness)


def rise(material: str, width: float, thickness: float, current: float) -> float:
    """K above what is around it that a long strip reaches with ``current`` A: ``I^2 R' = h U dT`` with its perimeter U."""
    return current**2 * resistance(material, width, thickness, 1.0) / (COEFFICIENT * 2.0 * (width + thickness))


def ampacity(material: str, width: float, thickness: float) -> float:
    """A for long: where the rise is what is borne; of steel no more than its share of nickel's."""
    bears = sqrt(BORNE_RISE / rise(material, width, thickness, 1.0))
    return min(bears, STEEL_OF_NICKEL * ampacity("nickel", width, thickness)) if material == "steel" else bears


def mass(material: str, width: float, thickness: float, length: float) -> float:
    """kg."""
    return DENSITY[material] * width * thickness * length
