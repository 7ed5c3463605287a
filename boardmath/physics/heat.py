"""How winding and case of a motor warm up: two bodies, each with a heat capacity, and copper loss that grows with heat."""

from math import exp, expm1, sqrt

from boardmath.physics.jit import kernel
from boardmath.physics.motor import COPPER_TEMPERATURE_COEFFICIENT

FOR_EVER = 8.0 * 3600.0
"""s. Long after any motor of this size has settled or burnt."""
_LARGEST_EXPONENT = 60.0  # a winding that runs away is past any limit long before


@kernel
def temperatures(
    winding_capacity: float,
    case_capacity: float,
    winding_to_case: float,
    case_to_air: float,
    copper_loss_25: float,
    case_loss: float,
    ambient: float,
    seconds: float,
) -> tuple[float, float]:
    """Winding and case temperature in C after ``seconds`` at constant current, both starting at ``ambient`` C.

    The exact solution of ``Cw Tw' = P25 (1 + a (Tw - 25)) - (Tw - Tc) / Rwc`` and
    ``Cc Tc' = Pc + (Tw - Tc) / Rwc - (Tc - Ta) / Rca``, linear in both temperatures.

    Args:
        winding_capacity, case_capacity: J/K; winding_to_case, case_to_air: K/W.
        copper_loss_25: W in the winding, were it at 25 C.
        case_loss: W of iron and bearings, taken to warm the case.
    """
    alpha = COPPER_TEMPERATURE_COEFFICIENT
    between, out = 1.0 / winding_to_case, 1.0 / case_to_air
    a11, a12 = (copper_loss_25 * alpha - between) / winding_capacity, between / winding_capacity
    a21, a22 = between / case_capacity, -(between + out) / case_capacity
    b1 = copper_loss_25 * (1.0 + alpha * (ambient - 25.0)) / winding_capacity
    b2 = case_loss / case_capacity
    half = (a11 + a22) / 2.0
    root = sqrt(((a11 - a22) / 2.0) ** 2 + a12 * a21)  # never zero: both bodies touch
    fast, slow = half - root, half + root
    grown_fast, grown_slow = _grown(fast, seconds), _grown(slow, seconds)
    same = (slow * grown_fast - fast * grown_slow) / (slow - fast)
    mixed = (grown_slow - grown_fast) / (slow - fast)
    winding = same * b1 + mixed * (a11 * b1 + a12 * b2)
    evaluation = same * b2 + mixed * (a21 * b1 + a22 * b2)
    return winding + ambient, evaluation + ambient


@kernel
def single(capacity: float, to_air: float, loss: float, ambient: float, seconds: float) -> float:
    """Temperature in C of one body after ``seconds`` at a constant loss in W, starting at ``ambient`` C."""
    return ambient + loss * to_air * (1.0 - exp(-seconds / (capacity * to_air)))


@kernel
def _grown(rate: float, seconds: float) -> float:
    """``(e^(rate t) - 1) / rate``; where it neither grows nor fades, the time itself."""
    exponent = min(rate * seconds, _LARGEST_EXPONENT)
    if abs(exponent) < 1e-9:
        return seconds
    return expm1(exponent) / rate
