"""Air density, and nothing else of the weather."""

from boardmath.physics.jit import kernel

GAS_CONSTANT_DRY_AIR = 287.05287
"""J/(kg K), ISO 2533:1975."""
_SEA_LEVEL_PRESSURE = 101_325.0  # Pa, ISO 2533
_SEA_LEVEL_TEMPERATURE = 288.15  # K, ISO 2533
_LAPSE = 0.0065  # K/m, ISO 2533, up to 11 km
_GRAVITY = 9.80665  # m/s2, ISO 2533


@kernel
def pressure_at(altitude: float) -> float:
    """Standard pressure in Pa at a geopotential ``altitude`` in m, up to 11 km (ISO 2533:1975)."""
    exponent = _GRAVITY / (_LAPSE * GAS_CONSTANT_DRY_AIR)
    return _SEA_LEVEL_PRESSURE * (1.0 - _LAPSE * altitude / _SEA_LEVEL_TEMPERATURE) ** exponent


@kernel
def density(temperature: float, altitude: float) -> float:
    """Density of dry air in kg/m3 at ``temperature`` in K and ``altitude`` in m.

    Standard pressure (ISO 2533:1975) with the day's own temperature. Moist air at 20 C is up to 1 % lighter, which the
    spread of the drag area covers.
    """
    return pressure_at(altitude) / (GAS_CONSTANT_DRY_AIR * temperature)
