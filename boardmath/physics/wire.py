"""Resistance of copper wire by gauge."""

import numpy as np

from boardmath.physics.types import Array, Numbers

RESISTIVITY_ANNEALED_COPPER = 1.0 / 58.0e6
"""ohm m at 20 C: 1/58 ohm mm2/m (IEC 60028)."""


def diameter(awg: Numbers) -> Array:
    """Bare diameter in m of a solid wire of that American gauge: ``0.127 mm x 92^((36 - n) / 39)`` (ASTM B258)."""
    return np.asarray(0.127e-3 * 92.0 ** ((36.0 - np.asarray(awg)) / 39.0))


def resistance(awg: Numbers, length: Numbers) -> Array:
    """ohm at 20 C of ``length`` m of annealed copper of that gauge; a stranded wire of the gauge has the same copper."""
    return np.asarray(RESISTIVITY_ANNEALED_COPPER * length / (np.pi / 4.0 * np.square(diameter(awg))))
