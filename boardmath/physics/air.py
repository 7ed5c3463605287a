"""Air density, and nothing else of the weather."""

import numpy as np

from boardmath.physics.types import Array, Numbers

GAS_CONSTANT_DRY_AIR = 287.05287
"""J/(kg K), ISO 2533:1975."""
_SEA_LEVEL_PRESSURE = 101_325.0  # Pa, ISO 2533
_SEA_LEVEL_TEMPERATURE = 288.15  # K, ISO 2533
_LAPSE = 0.0065  # K/m, ISO 2533, up to 11 km
_GRAVITY = 9.80665  # m/s2, ISO 2533


def pressure_at(altitude: Numbers) -> Array:
    """Standard pressure in Pa at a geopotential ``altitude`` in m, up to 11 km (ISO 2533:1975)."""
    exponent = _GRAVITY / (_LAPSE * GAS_CONSTANT_DRY_AIR)
    return np.asarray(_SEA_LEVEL_PRESSURE * (1.0 - _LAPSE * np.asarray(altitude) / _SEA_LEVEL_TEMPERATURE) ** exponent)


def density(temperature: Numbers, altitude: Numbers = 0.0) -> Array:
    """Density of dry air in kg/m3 at ``temperature`` in K and ``altitude`` in m.

    Standard pressure (ISO 2533:1975) with the day's own temperature. Moist air at 20 C is up to 1 % lighter, which the
    spread of the drag area covers.
    """
    return np.asarray(pressure_at(altitude) / (GAS_CONSTANT_DRY_AIR * np.asarray(temperature)))
