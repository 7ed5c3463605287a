"""A toothed belt round two pulleys."""

from functools import lru_cache
from math import acos, asin, pi, sqrt

from scipy.optimize import brentq


def pitch_radius(teeth: float, pitch: float) -> float:
    """Radius in mm on which the belt's cords run."""
    return teeth * pitch / (2.0 * pi)


def length(centre_distance: float, small_radius: float, large_radius: float) -> float:
    """Length in mm of an open belt round two pitch circles: the textbook formula of tangents and arcs.

    Raises:
        ValueError: one pulley lies inside the other.
    """
    step = large_radius - small_radius
    if centre_distance <= abs(step):
        raise ValueError("the pulleys lie inside each other")
    lean = asin(step / centre_distance)
    tangent = sqrt(centre_distance**2 - step**2)
    return 2.0 * tangent + small_radius * (pi - 2.0 * lean) + large_radius * (pi + 2.0 * lean)


@lru_cache(maxsize=4096)
def centre_distance(belt_length: float, small_radius: float, large_radius: float) -> float:
    """Centre distance in mm that a belt of that length pulls taut.

    Raises:
        ValueError: the belt is too short to go round the two.
    """
    # With the circles touching inside, the belt is as short as it can be.
    nearest = abs(large_radius - small_radius) + 1e-6
    if belt_length <= length(nearest, small_radius, large_radius):
        raise ValueError("the belt is too short for these pulleys")
    return float(brentq(lambda c: length(c, small_radius, large_radius) - belt_length, nearest, belt_length))


def teeth_in_mesh(distance: float, small_teeth: float, small_radius: float, large_radius: float) -> float:
    """Teeth of the small pulley that the belt holds."""
    wrap = 2.0 * acos((large_radius - small_radius) / distance)
    return small_teeth * wrap / (2.0 * pi)
