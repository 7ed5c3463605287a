"""All boards of a space through the engine, a piece at a time, and how surely each keeps a brief."""

from collections.abc import Iterator, Mapping
from functools import cached_property
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from boardmath.buildfile import Build
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards
from boardmath.engine.histograms import CARRY, MONEY, attainable, chances, front
from boardmath.engine.operating import LIMITS
from boardmath.likelihood import LIKELY
from boardmath.model.evaluation import worst_day
from boardmath.model.inputs import hill_grade, range_means
from boardmath.model.model_inputs import COLUMN
from boardmath.physics.types import Array
from boardmath.prediction.outcomes import OutcomeName
from planner.explore.compatibility import Compatibility
from planner.explore.factors import Tables
from planner.explore.schemas import ExcludedDesigns
from planner.explore.space import Space

NAMES: tuple[OutcomeName, ...] = ("speed", "hill", "range", "carry", "money")
"""The promises in the order of :mod:`boardmath.engine.histograms`."""
"""A board keeps a brief when it does so eight times in ten."""
_FIRST, _AT_ONCE = 3072, 16384
"""Boards of the first look, and of each further one."""
_SAMPLED, _SAMPLES, _NEAR = 640, 64, 3
"""Boards of which samples are drawn, how many of each, and how many of those boards tell how another scatters."""
_AT_FIRST = 128
"""Boards that are sampled for the first look, so that it comes soon."""


def wanted_of(build: Build, otherwise: Mapping[OutcomeName, float | None] | None = None) -> Array:
    """What is wanted, by promise, in km/h, %, km, kg and money; nan where nothing is.

    Args:
        otherwise: what is wanted instead of what the brief says, None where nothing.
    """
    brief = build.brief
    said: dict[OutcomeName, float | None] = {
        "speed": brief.top_speed_kmh,
        "hill": hill_grade(build),
        "range": brief.range_km,
        "carry": brief.carry_mass_kg,
        "money": brief.budget,
        **(otherwise or {}),
    }
    return np.array([np.nan if (v := said[n]) is None else v for n in NAMES], dtype=float)


class Explored:
    """A space and what its boards do, as far as :meth:`run` has come.

    Args:
        seed: of the order in which boards are looked at; the same space gives the same answers.
        usual_prices: as in :class:`Tables`.
    """

    def __init__(self, space: Space, seed: int = 7, usual_prices: Mapping[str, float] = MappingProxyType({})):
        self.space, self._chance, self._usual_prices = space, np.random.default_rng(seed), usual_prices
        self.boards: NDArray[np.int64] = np.zeros(0, dtype=np.int64)
        self.promised, self.carry_spread = np.zeros((0, len(NAMES))), np.zeros(0)
        self.limits = np.zeros((0, 2), dtype=np.int64)
        """What ends the top speed and the steepest start, into :data:`LIMITS`."""
        self.near: NDArray[np.int64] = np.zeros((0, 1), dtype=np.int64)
        self.left_out: list[ExcludedDesigns] = []
        self.all = 0
        """Boards that can be put together at all."""

    @cached_property
    def tables(self) -> Tables:
        return Tables(self.space, self._usual_prices)

    @cached_property
    def compatibility(self) -> Compatibility:
        return Compatibility(self.space)

    def run(self) -> Iterator[float]:
        """Looks at all boards; gives after each piece of work which share of it is done."""
        every = self.space.boards
        fits, self.left_out = self.compatibility.of(every)
        order = self._chance.permutation(every[fits])
        self.all = len(order)
        if not self.all:
            yield 1.0
            return
        first = order[:_FIRST]
        middles = self._middles(first)
        self._scatter(first, middles, _AT_FIRST if self.all > _SAMPLED else _SAMPLED)
        self._add(first, middles)
        yield len(first) / self.all
        if self.all > _SAMPLED:
            self._scatter(first, middles, _SAMPLED)
            self.near = self._nearest(*middles)
        for start in range(len(first), self.all, _AT_ONCE):
            piece = order[start : start + _AT_ONCE]
            self._add(piece, self._middles(piece))
            yield (start + len(piece)) / self.all

    def whole(self) -> "Explored":
        """The same, all of it done."""
        for _ in self.run():
            pass
        return self

    def promised_of(self, boards: Boards, places: NDArray[np.int64]) -> tuple[Array, NDArray[np.int64]]:
        """Speed, hill and range of boards in the units of the outcomes, and what ends the first two.

        Args:
            places: in the space, of each board, or of as many as ``boards`` has samples of.
        """
        lines = sweeps.headlines(boards)
        means = range_means(self.space.build)
        if means == "worst_day":
            inputs, fixed = self.tables.inputs(places)
            each = fixed["capacity_per_kelvin"], inputs["crr_per_kelvin"][0], inputs["health"][0]
            boards = worst_day(boards, *(np.repeat(values, len(boards) // len(places)) for values in each))
        ride = sweeps.rides(boards)
        far = ride.to_the_end if means == "to_cut_off" else ride.range
        pack = self.space.build.parts.pack
        packs = 1.0 + ((pack.spares if pack else None) or 0)
        found = np.stack(
            [lines.top_speed * 3.6, np.maximum(lines.start_grade, 0.0) * 100.0, packs * far / 1000.0], axis=-1
        )
        return found, np.stack([lines.top_limit, lines.start_limit], axis=-1)

    def _middles(self, boards: NDArray[np.int64]) -> tuple[Array, NDArray[np.int64]]:
        return self.promised_of(self.tables.middles(boards), boards)

    def _scatter(self, first: NDArray[np.int64], middles: tuple[Array, NDArray[np.int64]], most: int) -> None:
        """Samples of some boards: how promises scatter around their middles."""
        few = first[: min(most, len(first))]
        rows, z = self.tables.sampled(few, _SAMPLES)
        values = self.promised_of(rows, few)[0].reshape(len(few), _SAMPLES + 1, 3)
        middle = values[:, :1]
        with np.errstate(divide="ignore", invalid="ignore"):
            self.ratios = np.ascontiguousarray(np.where(middle > 1e-9, values[:, 1:] / middle, 0.0))
        self.mass = np.ascontiguousarray(z[1:, COLUMN["board_mass"]])
        self._like = cKDTree(_features(middles[0][: len(few)], middles[1][: len(few)]))
        self._alone = len(few) == self.all

    def _nearest(self, values: Array, limits: NDArray[np.int64]) -> NDArray[np.int64]:
        """For each board the sampled ones that are most like it; where all are sampled, each is its own."""
        if self._alone:
            return np.arange(len(values)).reshape(-1, 1)
        near = self._like.query(_features(values, limits), k=min(_NEAR, self._like.n))[1]
        return np.asarray(near, dtype=np.int64).reshape(len(values), -1)

    def _add(self, boards: NDArray[np.int64], found: tuple[Array, NDArray[np.int64]]) -> None:
        values, limits = found
        near = self._nearest(values, limits)
        money, (carry, spread, _) = self.tables.money(boards), self.tables.mass(boards)
        rows = np.concatenate([values, carry[:, np.newaxis], money[:, np.newaxis]], axis=1)
        self.boards = np.concatenate([self.boards, boards])
        self.promised = np.concatenate([self.promised, rows])
        self.carry_spread = np.concatenate([self.carry_spread, spread])
        self.limits = np.concatenate([self.limits, limits])
        self.near = near if not len(self.near) else np.concatenate([self.near, near])

    # --- against what is wanted ---

    def chances(self, wanted: Array) -> Array:
        """For every board looked at, how often it keeps all that is wanted."""
        return chances(self.promised, self.carry_spread, self.near, self.ratios, self.mass, wanted)

    def attainable(self, wanted: Array, share: float = LIKELY) -> Array:
        """The best of each promise that any board bears with all else as wanted; nan where none does."""
        near = np.ascontiguousarray(self.near[:, :1])
        found = attainable(self.promised, self.carry_spread, near, self.ratios, self.mass, wanted, share)
        best = np.full(len(NAMES), np.nan)
        for p in range(len(NAMES)):
            known = found[:, p][np.isfinite(found[:, p])]
            if len(known):
                best[p] = known.max() if p < CARRY else known.min()
        return best

    def least_together(self, wanted: Array, share: float = LIKELY) -> float | None:
        """By which share all wishes would have to give way alike so that a board keeps them; None if not even half would do."""
        near = np.argsort(-self.nearness(wanted), kind="stable")[:_NEAREST]
        rows, spread = self.promised[near], self.carry_spread[near]
        like = np.ascontiguousarray(self.near[near])

        def surest(given: float) -> float:
            eased = wanted * np.where(np.arange(len(NAMES)) < CARRY, 1.0 - given, 1.0 / (1.0 - given))
            return float(chances(rows, spread, like, self.ratios, self.mass, eased).max(initial=0.0))

        low, high = 0.0, 0.5
        if surest(high) < share:
            return None
        for _ in range(12):
            middle = (low + high) / 2.0
            low, high = (low, middle) if surest(middle) >= share else (middle, high)
        return high

    def front(self, chance: Array) -> NDArray[np.int64]:
        """The boards than which none is surer, lighter and cheaper at once; what nobody would notice is no difference."""
        money = np.round(self.promised[:, MONEY] / _NOTICED_MONEY)
        carry = np.round(self.promised[:, CARRY] / _NOTICED_KG)
        return front(money, carry, np.round(chance / _NOTICED_CHANCE))

    def nearness(self, wanted: Array) -> Array:
        """How near each board comes to what is wanted, by the promise that it misses by the most; 1 where it misses none."""
        asked = np.flatnonzero(np.isfinite(wanted))
        if not len(asked):
            return np.ones(len(self.boards))
        of = self.promised[:, asked] / np.maximum(wanted[asked], 1e-9)
        with np.errstate(divide="ignore"):
            shares = np.where(asked < CARRY, of, 1.0 / np.maximum(of, 1e-9))
        return np.asarray(np.minimum(shares.min(axis=1), 1.0))

    def limit(self, row: int, which: int) -> str:
        """What ends the top speed (0) or the steepest start (1) of a board looked at."""
        return LIMITS[int(self.limits[row, which])]


_NEAREST = 8192
"""Boards that come nearest to what is wanted: among them is the one for which all wishes have to give way the least."""
_NOTICED_MONEY, _NOTICED_KG, _NOTICED_CHANCE = 2.0, 0.05, 0.02


def _features(values: Array, limits: NDArray[np.int64]) -> Array:
    """What makes two boards scatter alike: what they do, and what holds them back."""
    return np.concatenate([np.log1p(np.maximum(values, 0.0)), 0.7 * limits], axis=1)
