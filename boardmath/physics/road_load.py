"""What the road and the air ask of a rolling board."""

import numpy as np

from boardmath.physics.types import Array, Numbers

GRAVITY = 9.80665
"""m/s2, standard gravity (ISO 80000-3)."""


def slope_angle(grade: Numbers) -> Array:
    """Angle in rad of a ``grade`` given as rise over run."""
    return np.arctan(grade)


def rolling_resistance(mass: Numbers, crr: Numbers, grade: Numbers) -> Array:
    """Force in N against a board of ``mass`` kg: ``m g Crr cos a``."""
    return np.asarray(mass * GRAVITY * crr * np.cos(slope_angle(grade)))


def climbing_force(mass: Numbers, grade: Numbers) -> Array:
    """Force in N that gravity puts against a climb: ``m g sin a``."""
    return np.asarray(mass * GRAVITY * np.sin(slope_angle(grade)))


def air_drag(density: Numbers, cda: Numbers, speed: Numbers, head_wind: Numbers) -> Array:
    """Force in N of the air at ``speed`` over ground: ``0.5 rho CdA (v + w) |v + w|``; a strong tail wind pushes."""
    through_air = np.asarray(speed + head_wind)
    return np.asarray(0.5 * density * cda * through_air * np.abs(through_air))
