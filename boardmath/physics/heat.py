"""How winding and case of a motor warm up: two bodies, each with a heat capacity, and copper loss that grows with heat."""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.motor import COPPER_TEMPERATURE_COEFFICIENT
from boardmath.physics.types import Array, Numbers

FOR_EVER = 8.0 * 3600.0
"""s. Long after any motor of this size has settled or burnt."""
_LARGEST_EXPONENT = 60.0  # a winding that runs away is past any limit long before


@dataclass(frozen=True)
class TwoBodies:
    """Heat capacities in J/K and thermal resistances in K/W of one motor."""

    winding_capacity: Numbers
    case_capacity: Numbers
    winding_to_case: Numbers
    case_to_air: Numbers


def temperatures(
    bodies: TwoBodies, copper_loss_25: Numbers, case_loss: Numbers, ambient: Numbers, seconds: Numbers
) -> tuple[Array, Array]:
    """Winding and case temperature in C after ``seconds`` at constant current, both starting at ``ambient`` C.

    The exact solution of ``Cw Tw' = P25 (1 + a (Tw - 25)) - (Tw - Tc) / Rwc`` and
    ``Cc Tc' = Pc + (Tw - Tc) / Rwc - (Tc - Ta) / Rca``, linear in both temperatures.

    Args:
        copper_loss_25: W in the winding, were it at 25 C.
        case_loss: W of iron and bearings, taken to warm the case.
    """
    alpha = COPPER_TEMPERATURE_COEFFICIENT
    cw, cc = np.asarray(bodies.winding_capacity), np.asarray(bodies.case_capacity)
    between, out = 1.0 / np.asarray(bodies.winding_to_case), 1.0 / np.asarray(bodies.case_to_air)
    a11, a12 = (copper_loss_25 * alpha - between) / cw, between / cw
    a21, a22 = between / cc, -(between + out) / cc
    b1 = copper_loss_25 * (1.0 + alpha * (np.asarray(ambient) - 25.0)) / cw
    b2 = np.asarray(case_loss) / cc
    half = (a11 + a22) / 2.0
    root = np.sqrt(np.square((a11 - a22) / 2.0) + a12 * a21)  # never zero: both bodies touch
    fast, slow = half - root, half + root
    # Integrals of the two exponentials; where one neither grows nor fades it is the time itself.
    grown_fast, grown_slow = _grown(fast, seconds), _grown(slow, seconds)
    same = (slow * grown_fast - fast * grown_slow) / (slow - fast)
    mixed = (grown_slow - grown_fast) / (slow - fast)
    winding = same * b1 + mixed * (a11 * b1 + a12 * b2)
    case = same * b2 + mixed * (a21 * b1 + a22 * b2)
    return np.asarray(winding + ambient), np.asarray(case + ambient)


def single(capacity: Numbers, to_air: Numbers, loss: Numbers, ambient: Numbers, seconds: Numbers) -> Array:
    """Temperature in C of one body after ``seconds`` at a constant loss in W, starting at ``ambient`` C."""
    settled = 1.0 - np.exp(-np.asarray(seconds) / (np.asarray(capacity) * to_air))
    return np.asarray(ambient + loss * to_air * settled)


def _grown(rate: Array, seconds: Numbers) -> Array:
    """``(e^(rate t) - 1) / rate``."""
    exponent = np.minimum(rate * seconds, _LARGEST_EXPONENT)
    small = np.abs(exponent) < 1e-9
    return np.where(small, seconds, np.expm1(exponent) / np.where(small, 1.0, rate))
