"""A pack under load, and how warm its cells get by it."""

from math import exp, sqrt

from boardmath.physics.jit import kernel


@kernel
def current_for_power(power: float, open_circuit: float, resistance: float) -> tuple[float, float]:
    """The current in A at which a pack gives ``power``, and the share of its utmost power that this is.

    ``P = I (Voc - I R)``, the smaller root. Utmost power is ``Voc^2 / 4R``: with a share above 1 no current gives the
    power; the current returned then is that of utmost power, and the share says so.
    """
    share = 4.0 * resistance * power / (open_circuit * open_circuit)
    if share >= 1.0:
        return open_circuit / (2.0 * resistance), share
    return 2.0 * power / (open_circuit * (1.0 + sqrt(1.0 - share))), share


@kernel
def warmed(temperature: float, heat: float, ambient: float, capacity: float, to_air: float, seconds: float) -> float:
    """Temperature of the cells as one lump after ``seconds``, in the unit of ``ambient``: exact for a constant heat.

    Args:
        heat: W of all cells; capacity: J/K; to_air: K/W.
    """
    settled = ambient + heat * to_air
    return settled + (temperature - settled) * exp(-seconds / (capacity * to_air))
