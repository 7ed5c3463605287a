"""Resistance of copper wire by gauge."""

from math import pi, sqrt

RESISTIVITY_ANNEALED_COPPER = 1.0 / 58.0e6
"""ohm m at 20 C: 1/58 ohm mm2/m (IEC 60028)."""


def diameter(awg: float) -> float:
    """Bare diameter in m of a solid wire of that American gauge: ``0.127 mm x 92^((36 - n) / 39)`` (ASTM B258)."""
    return float(0.127e-3 * 92.0 ** ((36.0 - awg) / 39.0))


def resistance(awg: float, length: float) -> float:
    """ohm at 20 C of ``length`` m of annealed copper of that gauge; a stranded wire of the gauge has the same copper."""
    return RESISTIVITY_ANNEALED_COPPER * length / (pi / 4.0 * diameter(awg) ** 2)


_COEFFICIENT = 14.0
"""W/m2K from a wire in still air of a box, convection and radiation together (from memory)."""
_RISE = 100.0
"""K that silicone insulation bears above a warm box (from memory: rated to 200 C)."""
_WARM_COPPER = 1.0 + 0.00393 * 100.0


def ampacity(awg: float) -> float:
    """Steady current in A at which a silicone wire of that gauge reaches what its insulation bears.

    Heat balance of a long wire: ``I^2 R' = h pi D dT`` with the insulated diameter about twice the conductor's.
    """
    outside = 2.0 * diameter(awg) + 0.5e-3
    return sqrt(_COEFFICIENT * pi * outside * _RISE / (resistance(awg, 1.0) * _WARM_COPPER))
