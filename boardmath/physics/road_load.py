"""What the road and the air ask of a rolling board."""

from math import sqrt

from boardmath.physics.jit import kernel

GRAVITY = 9.80665
"""m/s2, standard gravity (ISO 80000-3)."""


@kernel
def cosine(grade: float) -> float:
    """Cosine of the slope of a ``grade`` given as rise over run; its sine is ``grade`` times that."""
    return 1.0 / sqrt(1.0 + grade * grade)


@kernel
def rolling_resistance(mass: float, crr: float, grade: float) -> float:
    """Force in N against a board of ``mass`` kg: ``m g Crr cos a``."""
    return mass * GRAVITY * crr * cosine(grade)


@kernel
def climbing_force(mass: float, grade: float) -> float:
    """Force in N that gravity puts against a climb: ``m g sin a``."""
    return mass * GRAVITY * grade * cosine(grade)


@kernel
def air_drag(density: float, cda: float, speed: float, head_wind: float) -> float:
    """Force in N of the air at ``speed`` over ground: ``0.5 rho CdA (v + w) |v + w|``; a strong tail wind pushes."""
    through_air = speed + head_wind
    return 0.5 * density * cda * through_air * abs(through_air)
