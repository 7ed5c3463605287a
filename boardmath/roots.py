"""Where many monotone functions cross at once."""

from collections.abc import Callable

import numpy as np

from boardmath.physics.types import Array

_STEPS = 40
"""Far above what is needed: some ten steps, and never more than bisection in the worst case."""
_ZERO = 1e-9


def crossing(excess: Callable[[Array], Array], low: Array, high: Array, tolerance: float = 1e-7) -> Array:
    """For each element the largest ``x`` in ``low``..``high`` up to which ``excess(x)`` is not above zero.

    Chandrupatla's method (Advances in Engineering Software 28 (1997) 145) on whole arrays: inverse quadratic
    interpolation where that is sound, bisection where it is not. Where ``excess`` is above zero already at ``low`` that is
    the answer; where it never is, ``high``.

    Args:
        excess: rising through zero once; finite.
        tolerance: as a share of the span.
    """
    a, b = high.astype(float), low.astype(float)
    fa, fb = excess(a), excess(b)
    never, always = fa <= 0.0, fb > 0.0
    c, fc = a, fa
    t = np.full(a.shape, 0.5)
    close = tolerance * np.abs(high - low)
    for _ in range(_STEPS):
        x = a + t * (b - a)
        fx = excess(x)
        same = (fx > 0.0) == (fa > 0.0)
        c, fc = np.where(same, a, b), np.where(same, fa, fb)
        b, fb = np.where(same, b, a), np.where(same, fb, fa)
        a, fa = x, fx
        done = (np.abs(b - a) <= close) | (np.abs(fa) < _ZERO) | never | always
        if done.all():
            break
        with np.errstate(divide="ignore", invalid="ignore"):
            xi, phi = (a - b) / (c - b), (fa - fb) / (fc - fb)
            sound = (np.square(phi) < xi) & (np.square(1.0 - phi) < 1.0 - xi)
            quadratic = fa / (fb - fa) * fc / (fb - fc) + (c - a) / (b - a) * fa / (fc - fa) * fb / (fc - fb)
        edge = np.minimum(0.5, close / np.maximum(np.abs(b - a), 1e-300))
        t = np.clip(np.where(sound & np.isfinite(quadratic), quadratic, 0.5), edge, 1.0 - edge)
        t = np.where(done, 0.0, t)  # at rest, so that an element's answer does not hang on its neighbours
    # Of the last two points the one on the good side, so that nothing promised is just out of reach.
    good = np.where((fa <= 0.0) | (np.abs(fa) < _ZERO), a, b)
    return np.where(always, low, np.where(never, high, good))
