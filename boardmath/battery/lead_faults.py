"""What wrong balance leads look like: every single mistake as the readings that it would give, in voltages of one group.

Wires are numbered 0 to S, lead t belongs at the positive end of group t, 0 at the pack's negative; each is read against the
pack's negative. With groups of v volts a right lead t reads t v.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal

import numpy as np

from boardmath.physics.types import Array

Kind = Literal[
    "swapped", "missing", "skipped", "reversed", "short", "weak", "strong", "other_lead", "meter_reversed", "beyond"
]


@dataclass(frozen=True)
class Pattern:
    """One mistake: where, and ``groups`` times v that each lead would read; ``other`` is the second wire or where it sits."""

    kind: Kind
    at: int
    other: int | None
    groups: Array


@cache
def patterns(series: int) -> tuple[Pattern, ...]:
    """Every single mistake of a harness of ``series`` groups, each set of readings once, the likelier name of it first."""
    right = np.arange(series + 1, dtype=float)
    found: dict[tuple[float, ...], Pattern] = {}
    for pattern in _all(series, right):
        found.setdefault(tuple(pattern.groups), pattern)
    return tuple(found.values())


@cache
def readings_of(series: int) -> Array:
    """What every one of them would show, in voltages of a group, of shape (patterns, leads)."""
    return np.stack([p.groups for p in patterns(series)])


def _all(series: int, right: Array) -> Iterator[Pattern]:
    def moved(at: int, to: Sequence[float]) -> Array:
        changed = right.copy()
        changed[at : at + len(to)] = to
        return changed

    for i in range(series):
        yield Pattern("swapped", i, i + 1, moved(i, (i + 1.0, float(i))))
    for k in range(1, series + 1):
        yield Pattern("missing", k, None, moved(k, (0.0,)))
    for k in range(1, series + 1):
        yield Pattern("reversed", k, None, right - 2.0 * (right >= k))
    for k in range(1, series + 1):
        yield Pattern("short", k, None, right - (right >= k))
    for k in range(1, series):
        # One group was passed over: all from there sit one too high, and the last wire has no place left.
        ahead = right + (right >= k)
        ahead[-1] = 0.0
        yield Pattern("skipped", k, None, ahead)
    yield Pattern("meter_reversed", 1, None, -right)
    for i in range(series + 1):
        for j in range(i + 2, series + 1):
            other = right.copy()
            other[i], other[j] = float(j), float(i)
            yield Pattern("swapped", i, j, other)
    for k in range(series + 1):
        for j in range(series + 1):
            if j != k:
                yield Pattern("other_lead", k, j, moved(k, (float(j),)))
