"""How long the rest takes: the steps' own spans, and the builder's pace as their ticks tell it.

A step's span is taken as the 10th and 90th part in a hundred of a lognormal. On top of it each builder has a pace of
their own that holds for all steps alike. Before any tick that pace is unsure by a factor of 1.6 either way (two builders told one
afternoon and one weekend for the same kit: common practice, no source); each step whose minutes were written down makes
it surer, in closed form, as both are normal in the logarithm.
"""

from collections.abc import Iterable
from math import exp, log, sqrt

from pydantic import BaseModel

from planner.shared.step import Minutes

PACE_SD = log(1.6) / 1.2816
NINTH = 1.2816
"""Standard normal quantile of 0.9."""


class Pace(BaseModel):
    """A builder's minutes over the usual ones, with how unsure that is; ``steps`` told it."""

    factor: float
    low: float
    high: float
    steps: int


def _shape(minutes: Minutes) -> tuple[float, float]:
    """Mean and standard deviation in the logarithm."""
    return (log(minutes.low) + log(minutes.high)) / 2.0, max(log(minutes.high / minutes.low) / (2.0 * NINTH), 0.05)


def _pace(told: Iterable[tuple[Minutes, float]]) -> tuple[float, float, int]:
    weight, pull, count = 1.0 / PACE_SD**2, 0.0, 0
    for usual, taken in told:
        middle, spread = _shape(usual)
        weight += 1.0 / spread**2
        pull += (log(taken) - middle) / spread**2
        count += 1
    return pull / weight, sqrt(1.0 / weight), count


def expected(minutes: Minutes, pace: Pace) -> float:
    """The middle of a step's minutes for this builder."""
    return exp(_shape(minutes)[0]) * pace.factor


def pace(told: Iterable[tuple[Minutes, float]]) -> Pace:
    """The pace from steps' usual minutes and those that were taken."""
    middle, spread, count = _pace(told)
    low, high = exp(middle - NINTH * spread), exp(middle + NINTH * spread)
    return Pace(factor=exp(middle), low=low, high=high, steps=count)


def together(left: Iterable[Minutes], told: Iterable[tuple[Minutes, float]]) -> Minutes:
    """Minutes of several steps one after the other, 80 %: each has a luck of its own, the pace is the same for all."""
    mean = variance = 0.0
    for minutes in left:
        middle, spread = _shape(minutes)
        one = exp(middle + spread**2 / 2.0)
        mean += one
        variance += one**2 * (exp(spread**2) - 1.0)
    if mean == 0.0:
        return Minutes(low=0.0, high=0.0)
    shift, unsure, _ = _pace(told)
    own = log(1.0 + variance / mean**2)
    spread = sqrt(own + unsure**2)
    middle = log(mean) - own / 2.0 + shift
    return Minutes(low=exp(middle - NINTH * spread), high=exp(middle + NINTH * spread))
