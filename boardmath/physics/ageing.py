"""How lithium cells lose capacity: with the days that pass and with the charge that goes through them.

Schmalstieg, Kaebitz, Ecker, Sauer, "A holistic aging model for Li(NiMnCo)O2 based 18650 lithium-ion batteries",
J. Power Sources 257 (2014) 325: ``C = 1 - a t^0.75 - b sqrt Q`` with t in days and Q in Ah of a cell of 2.05 Ah. The
coefficients are from memory. Other chemistries take the same form with a factor of their own.
"""

from math import exp, sqrt

FITTED_CELL_AH = 2.05
"""Ah of the cells that were fitted, by which charge going through is scaled to other cells."""


def calendar_rate(voltage: float, temperature: float) -> float:
    """``a``: share of capacity lost per day to the power 0.75, of a cell kept at ``voltage`` V and ``temperature`` K."""
    return max(7.543 * voltage - 23.75, 0.0) * 1e6 * exp(-6976.0 / temperature)


def cycle_rate(mean_voltage: float, depth: float) -> float:
    """``b``: share lost per square root of Ah through the fitted cell, cycled around ``mean_voltage`` by ``depth`` (0 to 1)."""
    return 7.348e-3 * (mean_voltage - 3.667) ** 2 + 7.600e-4 + 4.081e-3 * depth


def days_to(lost: float, calendar: float, by_square_root_day: float) -> float:
    """Days until a share ``lost`` of the capacity is gone: the root of ``a t^0.75 + c sqrt t = lost``.

    Args:
        calendar: ``a``; by_square_root_day: ``c``, share lost per square root of a day by being ridden every day.
    """
    low, high = 0.0, 200_000.0
    for _ in range(80):
        middle = (low + high) / 2.0
        if calendar * middle**0.75 + by_square_root_day * sqrt(middle) < lost:
            low = middle
        else:
            high = middle
    return high
