"""What a motor controller turns into heat."""

from math import pi

from boardmath.physics.jit import kernel

SWITCHING_FREQUENCY = 25_000.0
"""Hz, at which such controllers mostly switch (common practice, no source)."""
EDGE_SECONDS = 300e-9
"""s that current and voltage overlap in one period, both edges together, of transistors of this size (from memory)."""


@kernel
def losses(conduction: float, switching: float, current: float, pack_voltage: float) -> float:
    """Heat in W of one motor's three half bridges.

    Conduction: each of three phases carries a sine of peak ``current`` through one transistor at any time,
    ``3 R (i / sqrt 2)^2``. Switching: ``V |i| t f / 2`` of each phase, the mean of a sine being ``2 / pi`` of its peak
    (as handbooks of power electronics give them).

    Args:
        conduction: ohm of one transistor with its share of shunt, board and leads.
        switching: over that of a controller which switches at the usual frequency with usual edges.
        current: A, peak of the phase.
    """
    per_volt_ampere = 3.0 * 0.5 * (2.0 / pi) * EDGE_SECONDS * SWITCHING_FREQUENCY
    return 1.5 * conduction * current * current + switching * per_volt_ampere * pack_voltage * abs(current)
