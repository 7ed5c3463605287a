"""Resistance of copper wire by gauge."""

from math import pi, sqrt

RESISTIVITY_ANNEALED_COPPER = 1.0 / 58.0e6
"""ohm m at 20 C: 1/58 ohm mm2/m (IEC 60028)."""


GAUGES = (26.0, 24.0, 22.0, 20.0, 18.0, 16.0, 14.0, 12.0, 10.0, 8.0, 6.0)
"""AWG of silicone wire that is sold, thin to thick (from memory)."""


def diameter(awg: float) -> float:
    """Bare diameter in m of a solid wire of that American gauge: ``0.127 mm x 92^((36 - n) / 39)`` (ASTM B258)."""
    return float(0.127e-3 * 92.0 ** ((36.0 - awg) / 39.0))


def section(awg: float) -> float:
    """m2 of copper in a wire of that gauge."""
    return pi / 4.0 * diameter(awg) ** 2


def resistance(awg: float, length: float) -> float:
    """ohm at 20 C of ``length`` m of annealed copper of that gauge; a stranded wire of the gauge has the same copper."""
    return RESISTIVITY_ANNEALED_COPPER * length / section(awg)


_COEFFICIENT = 14.0
"""W/m2K from a wire in still air of a box, convection and radiation together (from memory)."""
BORNE_RISE = 100.0
"""K that silicone insulation bears above a warm box (from memory: rated to 200 C)."""
_WARM_COPPER = 1.0 + 0.00393 * 100.0


def ampacity(awg: float) -> float:
    """Steady current in A at which a silicone wire of that gauge reaches what its insulation bears.

    Heat balance of a long wire: ``I^2 R' = h pi D dT`` with the insulated diameter about twice the conductor's.
    """
    outside = 2.0 * diameter(awg) + 0.5e-3
    return sqrt(_COEFFICIENT * pi * outside * BORNE_RISE / (resistance(awg, 1.0) * _WARM_COPPER))
