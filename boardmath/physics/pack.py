"""A pack under load."""

import numpy as np

from boardmath.physics.types import Array, Numbers


def current_for_power(power: Numbers, open_circuit: Numbers, resistance: Numbers) -> tuple[Array, Array]:
    """The current in A at which a pack gives ``power``, and the share of its utmost power that this is.

    ``P = I (Voc - I R)``, the smaller root. Utmost power is ``Voc^2 / 4R``: with a share above 1 no current gives the
    power; the current returned then is that of utmost power, and the share says so.
    """
    open_circuit = np.asarray(open_circuit)
    share = 4.0 * resistance * power / np.square(open_circuit)
    root = np.sqrt(np.maximum(1.0 - share, 0.0))
    return np.asarray(2.0 * power / (open_circuit * (1.0 + root))), np.asarray(share)
