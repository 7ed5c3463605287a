"""Cells into groups of equal count, so that the smallest group is as large as can be and no group resists more than another.

The groups in series carry one current, so that the smallest ends the ride. Which grouping is best is a hard problem (it holds
number partitioning in it); what is done here is a fair deal, then exchanges of single cells as long as one helps, from several
beginnings. How good it is stands beside it: :func:`bound` is what no grouping can beat.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from boardmath.physics.types import Array

Places = NDArray[np.int64]
TRIES = 6
SLACK, OVER = 2e-4, 2e-3
"""Shares of a group's capacity by which the smallest may fall, and the largest rise, to even out resistance.
No meter tells them apart."""
MOST_EXCHANGES = 4000


@dataclass(frozen=True)
class Sorting:
    """``groups`` are places in the list that was given, of shape (series, parallel); ``spare`` those in none."""

    groups: Places
    spare: list[int]
    bound_ah: float


class TooManyLocked(ValueError):
    """More cells are locked into a group than it has places."""


class TooFew(ValueError):
    """There are fewer cells than places."""

    def __init__(self, have: int, need: int):
        super().__init__(f"{have} usable cells; {need} are needed")
        self.have, self.need = have, need


def sort_cells(
    capacity: Sequence[float],
    series: int,
    parallel: int,
    resistance: Sequence[float] | None = None,
    locked: Mapping[int, int] | None = None,
) -> Sorting:
    """Groups of ``parallel`` cells each.

    Args:
        capacity: Ah; resistance: mOhm, of the same cells; locked: place in the list to its group, counted from 0.

    Raises:
        TooFew: fewer cells than ``series * parallel``.
        TooManyLocked: more cells locked into a group than it has places.
    """
    c = np.asarray(capacity, dtype=float)
    held = dict(locked or {})
    if len(c) < series * parallel:
        raise TooFew(len(c), series * parallel)
    each = [[i for i, g in held.items() if g == group] for group in range(series)]
    if any(len(group) > parallel for group in each):
        raise TooManyLocked("more cells are locked into a group than it has places")
    order = [int(i) for i in np.lexsort((np.arange(len(c)), -c)) if int(i) not in held]
    free = series * parallel - len(held)
    used, spare = order[:free], sorted(order[free:])
    r = None if resistance is None else np.asarray(resistance, dtype=float)
    ceiling = bound(c, each, used, series, parallel)
    best: Places | None = None
    for attempt in range(TRIES):
        found = _dealt(c, each, used, parallel, attempt)
        fixed = np.isin(found, list(held))
        _even_out(c, found, fixed)
        if best is None or _smallest(c, found) > _smallest(c, best) + 1e-12:
            best = found
        if _smallest(c, best) >= ceiling * (1.0 - 1e-6):
            break
    assert best is not None
    if r is not None:
        _share_resistance(c, r, best, np.isin(best, list(held)))
    return Sorting(best, spare, ceiling)


def bound(c: Array, each: Sequence[Sequence[int]], used: Sequence[int], series: int, parallel: int) -> float:
    """Ah that the smallest group of no grouping exceeds.

    The groups together hold no more than the largest cells that fill all places, so that the smallest is at most their mean; the
    group that has the smallest of these holds at most that one and the largest others; and a group into which cells are locked
    holds at most these and the largest others.
    """
    chosen = sorted((float(c[i]) for i in (*used, *(i for group in each for i in group))), reverse=True)
    free = sorted((float(c[i]) for i in used), reverse=True)
    least = [sum(chosen) / series, chosen[-1] + sum(chosen[: parallel - 1])]
    least += [sum(float(c[i]) for i in group) + sum(free[: parallel - len(group)]) for group in each if group]
    return min(least)


def _dealt(c: Array, each: Sequence[Sequence[int]], used: Sequence[int], parallel: int, attempt: int) -> Places:
    """Largest first, each to the group that is furthest behind and has a place; later attempts shuffle those nearly alike."""
    chance = np.random.default_rng(attempt)
    worth = c[list(used)] * (1.0 + (0.004 * attempt) * chance.standard_normal(len(used))) if used else np.empty(0)
    groups = [list(group) for group in each]
    sums = [float(c[group].sum()) if group else 0.0 for group in groups]
    for k in np.argsort(-worth, kind="stable"):
        open_ = [g for g, group in enumerate(groups) if len(group) < parallel]
        to = min(open_, key=lambda g: (sums[g], len(groups[g]), g))
        groups[to].append(used[int(k)])
        sums[to] += float(c[used[int(k)]])
    return np.array(groups, dtype=np.int64)


def _smallest(c: Array, groups: Places) -> float:
    return float(c[groups].sum(axis=1).min())


def _even_out(c: Array, groups: Places, fixed: NDArray[np.bool_]) -> None:
    """Exchanges cells between the smallest group and another, then between the largest and another, while it helps."""
    for toward in (1.0, -1.0):
        for _ in range(MOST_EXCHANGES):
            holds = c[groups]
            sums = holds.sum(axis=1) * toward
            if not _exchange(groups, holds * toward, sums, int(np.argmin(sums)), fixed):
                break


def _exchange(groups: Places, holds: Array, sums: Array, low: int, fixed: NDArray[np.bool_]) -> bool:
    """The exchange with the group ``low`` that leaves the lower of the two highest; False where none helps."""
    gain = holds[:, None, :] - holds[low][None, :, None]  # other group, own place, its place
    after = np.minimum(sums[low] + gain, sums[:, None, None] - gain)
    after[low] = -np.inf
    after[:, fixed[low], :] = -np.inf
    after[np.broadcast_to(fixed[:, None, :], after.shape)] = -np.inf
    best = int(np.argmax(after))
    if after.flat[best] <= sums[low] + 1e-9:
        return False
    other, own, its = np.unravel_index(best, after.shape)
    groups[low, own], groups[other, its] = groups[other, its], groups[low, own]
    return True


def _share_resistance(c: Array, r: Array, groups: Places, fixed: NDArray[np.bool_]) -> None:
    """Exchanges cells nearly alike in capacity so that the groups resist alike; no group falls below what the smallest had."""
    floor = _smallest(c, groups) * (1.0 - SLACK)
    ceiling = float(c[groups].sum(axis=1).max()) * (1.0 + OVER)
    conduct = 1.0 / r
    for _ in range(MOST_EXCHANGES):
        sums, flows = c[groups].sum(axis=1), conduct[groups].sum(axis=1)
        low, high = int(np.argmin(flows)), int(np.argmax(flows))
        moved = False
        for one in (low, high):
            gain = c[groups][:, None, :] - c[groups][one][None, :, None]
            flow = conduct[groups][:, None, :] - conduct[groups][one][None, :, None]
            mean = float(flows.mean())
            before = np.abs(flows[one] - mean) + np.abs(flows - mean)
            after = np.abs(flows[one] + flow - mean) + np.abs(flows[:, None, None] - flow - mean)
            better = before[:, None, None] - after
            own, its = sums[one] + gain, sums[:, None, None] - gain
            better[(own < floor) | (its < floor) | (own > ceiling) | (its > ceiling)] = -np.inf
            better[one] = -np.inf
            better[:, fixed[one], :] = -np.inf
            better[np.broadcast_to(fixed[:, None, :], better.shape)] = -np.inf
            best = int(np.argmax(better))
            if better.flat[best] <= 1e-9 * mean:
                continue
            g, i, k = np.unravel_index(best, better.shape)
            groups[one, i], groups[g, k] = groups[g, k], groups[one, i]
            moved = True
            break
        if not moved:
            return
