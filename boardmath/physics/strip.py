"""Flat strips that join cells: resistance, how warm they get between two welds, the current that they bear, mass."""

from math import cosh, sqrt

RESISTIVITY = {"nickel": 6.93e-8, "steel": 14.3e-8, "copper": 1.0 / 58.0e6}
"""ohm m at 20 C. Nickel: CRC Handbook of Chemistry and Physics, electrical resistivity of pure metals, 293 K. Low-carbon
steel: ASM
Metals Handbook, grade 1010 (both from memory). Copper: IEC 60028."""
PER_KELVIN = {"nickel": 6.0e-3, "steel": 5.0e-3, "copper": 3.93e-3}
"""Share by which the resistance grows a kelvin above 20 C (copper: IEC 60028; the others: the same handbooks, from memory)."""
WARM = 40.0
"""K over 20 C of the cells that a strip is judged on: the end of their discharge."""
DENSITY = {"nickel": 8908.0, "steel": 7870.0, "copper": 8890.0}
"""kg/m3; copper's is of IEC 60028, the others from the same handbooks."""
CONDUCTIVITY = {"nickel": 90.7, "steel": 63.9, "copper": 401.0}
"""W/mK at 300 K of pure nickel, AISI 1010, pure copper: Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, table A.1
(from memory)."""
COEFFICIENT = 14.0
"""W/m2K from a strip in still air of a box, both faces, convection and radiation together: as for wire (from memory)."""
WELDED = 4e-3
"""m of every pitch that lie on welds and have the cell's temperature: two spots some 4 mm apart (common practice, no source)."""
RISE_ON_A_RIDE = 10.0
"""K by which the current that a ride takes on the average may warm a strip over its cells. Reasoned: cells end their discharge at
60 C, and a strip that heats them by more than a few kelvin decides that."""
RISE_AT_THE_LIMIT = 20.0
"""K by which the largest current may warm it: it gets there within seconds. Reasoned: on cells of 60 C the fish paper and sleeves
around it bear 45 K more (IEC 60085, class A: 105 C); half of that, as strips are thinner and welds worse than stated."""
RULE_RISE = 10.0
"""K of an endless strip in air at the current of the rule of thumb. With it nickel of 0.15 x 8 mm bears 6 A; common practice says
5 to 7."""
STEEL_OF_NICKEL = 0.25
"""Of nickel's current, what is trusted to steel that is sold as nickel (common practice, no source): it welds worse and rusts."""


def resistance(material: str, width: float, thickness: float, length: float) -> float:
    """ohm of a strip; all in m."""
    return RESISTIVITY[material] * length / (width * thickness)


def rise(material: str, width: float, thickness: float, current: float, free: float | None = None) -> float:
    """How much warmer than the cells a strip gets in the middle between two welds, in the long run: within seconds.

    A fin with heat of its own and both ends at the cells' temperature: ``k A T'' = h U T - I^2 R'``.

    Args:
        material: of the strip; width, thickness: m; current: A.
        free: m between the welds; None for an endless strip in air.

    Returns:
        K over the cells, which are taken to be as warm as the air around.

    Source: Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, fins with prescribed temperatures, with generation.
    """
    around = COEFFICIENT * 2.0 * (width + thickness)
    ohm_per_m = resistance(material, width, thickness, 1.0) * (1.0 + PER_KELVIN[material] * WARM)
    endless = current**2 * ohm_per_m / around
    if free is None:
        return endless
    per_m = sqrt(around / (CONDUCTIVITY[material] * width * thickness))
    return endless * (1.0 - 1.0 / cosh(per_m * free / 2.0))


def ampacity(
    material: str, width: float, thickness: float, free: float | None = None, kelvin: float = RULE_RISE
) -> float:
    """A at which a strip warms by ``kelvin``; of steel no more than its share of nickel's.

    Args:
        material: of the strip; width, thickness: m.
        free: m between the welds; None for an endless strip in air, as in the rule of thumb.
    """
    bears = sqrt(kelvin / rise(material, width, thickness, 1.0, free))
    return (
        min(bears, STEEL_OF_NICKEL * ampacity("nickel", width, thickness, free, kelvin))
        if material == "steel"
        else bears
    )


def mass(material: str, width: float, thickness: float, length: float) -> float:
    """kg."""
    return DENSITY[material] * width * thickness * length
