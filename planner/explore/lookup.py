"""What is asked of many boards at once, by the pieces that the answer reads."""

from collections.abc import Callable, Mapping, Sequence
from math import prod

import numpy as np
from numpy.typing import NDArray

from boardmath.physics.types import Array
from planner.explore.space import Piece, Space

Reads = tuple[str, ...]
"""Pieces, or views of them."""
Question = Callable[[Mapping[Piece, int]], Sequence[float]]
"""Numbers, or truths, of the given alternatives of pieces."""


class Lookup:
    """What is asked of boards by some of their pieces, once of all boards that look alike to the question.

    Args:
        reads: the pieces that the question reads, or views of them.
    """

    def __init__(self, space: Space, reads: Reads, question: Question):
        self._pieces, self._alike = space.seen_as(reads)
        self._shape = tuple(space.sizes[p] for p in self._pieces)
        self._question = question
        self._row_of = np.full(prod(self._shape), -1, dtype=np.int64)
        self._rows: list[Sequence[float]] = []

    def of(self, at: Mapping[Piece, NDArray[np.int64]], boards: int) -> Array:
        """The answers, of shape (answers, boards).

        Args:
            at: for every piece which of its alternatives each board has.
            boards: how many boards there are.
        """
        seen = [alike[at[piece]] for piece, alike in zip(self._pieces, self._alike, strict=True)]
        numbers = np.ravel_multi_index(seen, self._shape) if seen else np.zeros(boards, dtype=np.int64)
        for new in np.unique(numbers[self._row_of[numbers] < 0]):
            places = np.unravel_index(new, self._shape) if seen else ()
            self._row_of[new] = len(self._rows)
            self._rows.append(self._question(dict(zip(self._pieces, map(int, places), strict=True))))
        return np.array(self._rows, dtype=float)[self._row_of[numbers]].T
