"""How often many boards keep what is wanted, told from the scatter of the boards that are most like them.

A board is its middles; how its outcomes scatter around them is taken, as ratios, from the samples of a few boards near it.
"""

import numpy as np
from numpy.typing import NDArray

from boardmath.engine.sweeps import cut_over_threads
from boardmath.physics.jit import kernel
from boardmath.physics.types import Array

SPEED, HILL, RANGE, CARRY, MONEY = 0, 1, 2, 3, 4
"""Columns of what is promised and of what is wanted; more is better of the first three."""


@kernel
def _keeps(promised: Array, wanted: Array, but: int) -> bool:
    """Whether all that is wanted is kept, ``but`` left out of it; what is nan is not asked for."""
    for p in range(5):
        if p == but or np.isnan(wanted[p]):
            continue
        if (p < CARRY and promised[p] < wanted[p]) or (p >= CARRY and promised[p] > wanted[p]):
            return False
    return True


@kernel
def _scattered(middle: Array, spread: float, ratio: Array, mass: float, out: Array) -> None:
    for p in range(3):
        out[p] = middle[p] * ratio[p]
    out[CARRY] = middle[CARRY] * np.exp(spread * mass)
    out[MONEY] = middle[MONEY]


@kernel
def _chances(rows: Array, spreads: Array, near: Array, out: Array, ratios: Array, mass: Array, wanted: Array) -> None:
    one = np.empty(5)
    for i in range(len(rows)):
        kept = 0
        for j in range(near.shape[1]):
            for s in range(ratios.shape[1]):
                _scattered(rows[i], spreads[i], ratios[near[i, j], s], mass[s], one)
                kept += _keeps(one, wanted, -1)
        out[i] = kept / (near.shape[1] * ratios.shape[1])


def chances(
    promised: Array, carry_spread: Array, near: NDArray[np.int64], ratios: Array, mass: Array, wanted: Array
) -> Array:
    """The share of samples in which each board keeps all that is wanted.

    Args:
        promised: middles of shape (boards, 5); carry_spread: of the mass, shape (boards,).
        near: which sampled boards are like each, shape (boards, few).
        ratios: of the samples over their own middle, shape (sampled boards, samples, 3).
        mass: normal scores of the mass, shape (samples,); wanted: shape (5,), nan where nothing is wanted.
    """
    out = np.empty(len(promised))
    # Closures, so that nothing that all boards share is cut as if it had a row a board.
    cut_over_threads(
        lambda rows, spreads, near, out: _chances(rows, spreads, near, out, ratios, mass, wanted),
        promised, carry_spread, near, out,
    )  # fmt: skip
    return out


@kernel
def _bearable(
    rows: Array, spreads: Array, near: Array, out: Array, ratios: Array, mass: Array, wanted: Array, share: float
) -> None:
    samples = near.shape[1] * ratios.shape[1]
    needed = int(np.ceil(share * samples))
    one, held = np.empty(5), np.empty(samples)
    for i in range(len(rows)):
        for p in range(5):
            out[i, p] = np.nan
            if np.isnan(wanted[p]):
                continue
            count = 0
            for j in range(near.shape[1]):
                for s in range(ratios.shape[1]):
                    _scattered(rows[i], spreads[i], ratios[near[i, j], s], mass[s], one)
                    if _keeps(one, wanted, p):
                        held[count] = one[p] if p < CARRY else -one[p]
                        count += 1
            if count >= needed:
                ordered = np.sort(held[:count])
                out[i, p] = abs(ordered[count - needed])


def attainable(
    promised: Array,
    carry_spread: Array,
    near: NDArray[np.int64],
    ratios: Array,
    mass: Array,
    wanted: Array,
    share: float,
) -> Array:
    """For each board and outcome the most that could be wanted of that one, all else as it is, so that all is kept in ``share``
    of the samples; nan where nothing of that one helps. Shape (boards, 5).
    """
    out = np.empty((len(promised), 5))
    cut_over_threads(
        lambda rows, spreads, near, out: _bearable(rows, spreads, near, out, ratios, mass, wanted, share),
        promised, carry_spread, near, out,
    )  # fmt: skip
    return out


@kernel
def _front(order: NDArray[np.int64], money: Array, carry: Array, chance: Array, out: NDArray[np.bool_]) -> None:
    """Marks what nothing beats in all three; ``order`` goes by money, then mass, then chance, best first."""
    # The staircase of mass and chance of all that is no dearer: masses rising, chances rising with them.
    masses, best, count = np.empty(len(order)), np.empty(len(order)), 0
    for k in range(len(order)):
        i = order[k]
        low = np.searchsorted(masses[:count], carry[i], side="right")
        if low > 0 and best[low - 1] >= chance[i]:
            continue
        out[i] = True
        high = low
        if low > 0 and masses[low - 1] == carry[i]:
            low -= 1
        while high < count and best[high] <= chance[i]:
            high += 1
        moved = count - high
        if low + 1 > high:
            for m in range(moved - 1, -1, -1):
                masses[low + 1 + m], best[low + 1 + m] = masses[high + m], best[high + m]
        else:
            for m in range(moved):
                masses[low + 1 + m], best[low + 1 + m] = masses[high + m], best[high + m]
        masses[low], best[low] = carry[i], chance[i]
        count = low + 1 + moved


def front(money: Array, carry: Array, chance: Array) -> NDArray[np.int64]:
    """The boards than which none is at once no dearer, no heavier and no less sure, and better in one; of equals the first."""
    order = np.lexsort((-chance, carry, money)).astype(np.int64)
    out = np.zeros(len(money), dtype=np.bool_)
    _front(order, money, carry, chance, out)
    return np.flatnonzero(out)
