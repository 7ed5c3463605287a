"""The best boards of a library for a brief: among all combinations of the parts that decide, looked for by arrays."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from statistics import median
from typing import get_args

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Pack, Protection
from boardmath.buildfile.figures import Part
from boardmath.checks import enclosure, power_path
from boardmath.engine.boards import Boards
from boardmath.model.inputs import hill_grade
from boardmath.parts.cost import Exchanger, Priced
from boardmath.physics.types import Array
from boardmath.prediction.braking import grades_held
from boardmath.prediction.outcomes import AT_MOST, OutcomeName
from planner.explore.compatibility import Rule
from planner.explore.lookup import Lookup, Question, Reads
from planner.explore.search import NAMES, Explored, wanted_of
from planner.explore.space import Open, OpenKind, OpenNumber, Piece, Space, usable
from planner.explore.variants import pack_of_cells

Numbers = NDArray[np.int64]
Weigh = Callable[[Mapping[OutcomeName, Array], Mapping[OutcomeName, float]], Array]


@dataclass(frozen=True)
class Character:
    """What one proposal cares for beside keeping the brief; ``weigh`` is small where it has much of it."""

    name: str
    weigh: Weigh


UNASKED: dict[OutcomeName, float] = {"money": 600.0, "carry": 8.0, "hill": 10.0, "range": 12.0}
"""Against what a board is weighed where its brief asks for nothing: a usual one (from memory). The weights here are our choices;
what they come to is held by the briefs of the tests."""


def _of_wanted(name: OutcomeName, mid: Mapping[OutcomeName, Array], wanted: Mapping[OutcomeName, float]) -> Array:
    return mid[name] / max(wanted.get(name, UNASKED[name]), 1.0)


def _cheap(mid: Mapping[OutcomeName, Array], wanted: Mapping[OutcomeName, float]) -> Array:
    return _of_wanted("money", mid, wanted)


def _light(mid: Mapping[OutcomeName, Array], wanted: Mapping[OutcomeName, float]) -> Array:
    return _of_wanted("carry", mid, wanted)


def _in_reserve(mid: Mapping[OutcomeName, Array], wanted: Mapping[OutcomeName, float]) -> Array:
    hill, far = (np.minimum(_of_wanted(name, mid, wanted), 2.5) for name in ("hill", "range"))
    return np.asarray(-(hill + far) / 2.0)


CHARACTERS = (Character("money", _cheap), Character("carry", _light), Character("reserve", _in_reserve))
OTHERWISE = Character("otherwise", lambda mid, wanted: 0.3 * _cheap(mid, wanted))
"""The best of another kind of drive."""

GRAVE = 4.0
"""What a danger or a misfit weighs, against one whole target missed, which is 10."""
_MARGIN: dict[OutcomeName, float] = {"speed": 1.07, "hill": 1.25, "range": 1.4, "carry": 1.0, "money": 1.0}
"""What a middle should have in hand over its target, so that most of its range is on the right side."""
_BRAKES_AT = 0.75
"""State of charge by which the brakes should hold the hill: charging to some 4.0 V a cell."""
_SERIES, _MOST_PARALLEL = (6, 8, 10, 12), 8
"""Of packs made of cells: usual counts in series, for which there are controllers and chargers (common practice, no source)."""
_DRAWN, _STARTS, _MOST_ROUNDS = 40_000, 3, 8
"""Boards that are drawn by chance, of how many of the best of each kind neighbours are looked at, and how often."""
_PAIRS: tuple[tuple[Piece, Piece], ...] = (
    ("drive", "wheels"),
    ("drive", "trucks"),
    ("motor", "controller"),
    ("motor", "drive"),
    ("motor", "trucks"),
    ("deck", "trucks"),
)
"""Pieces that have to fit each other: alone neither would leave its place."""
_VAST = 2**62
_PAID_LATER = ("enclosure", "switch", "wiring", "fuse")
"""What is chosen later and costs something; a charger and a remote are on every board of a space."""


def _plugs(space: Space, between: set[str]) -> Question:
    def differ(pieces: Mapping[Piece, int]) -> list[float]:
        build = space.made_of(False, **{str(p): i for p, i in pieces.items()})
        return [any(set(f.about) == between for f in power_path.plugs(build))]

    return differ


_AGAINST: tuple[tuple[Reads, Callable[[Space], Question]], ...] = (
    (("controller", "pack"), partial(_plugs, between={"controller", "pack"})),
    (("motor", "controller"), partial(_plugs, between={"motors", "controller"})),
)
"""What speaks against a board without keeping it apart: another plug can be soldered on."""
_HOLDS: tuple[Rule, ...] = (enclosure.what_goes_into_it,)
_UNDER_THE_DECK: tuple[Rule, ...] = (enclosure.beside_the_deck, enclosure.between_the_trucks)
"""What decides whether a box is for a board; one has to be for both the pack and the deck."""


def _boxes_for(
    space: Space, boxes: Sequence[Part], rules: Sequence[Rule], pieces: Mapping[Piece, int]
) -> Sequence[float]:
    """For each box whether nothing grave speaks against it; one yes where there is no box to choose."""
    build = space.made_of(False, **{str(p): i for p, i in pieces.items()})
    found = []
    for box in boxes:
        boxed = build.model_copy(update={"parts": build.parts.model_copy(update={"enclosure": box})})
        found.append(not any(f.severity == "stop" for rule in rules for f in rule(boxed)))
    return found or [True]


LAYOUTS = (0, 1, 2)


def layout_of(bare: NDArray[np.bool_] | bool, motors: Numbers | int) -> Numbers:
    """How boards are driven: by one motor on pulleys (0), by more (1), by motors that need none (2)."""
    return np.where(bare, 2, np.where(np.greater(motors, 1), 1, 0))


class Field:
    """Every board that a library makes around the parts that a build has, and what each is worth for its brief.

    Args:
        build: with the brief; parts that it has stay.
        library: parts by kind.
        makes_packs: whether packs may be made of the library's cells.

    Raises:
        BuildFileError: what no board can do without is neither chosen nor in the library.
    """

    def __init__(self, build: Build, library: Mapping[str, Sequence[Part]], makes_packs: bool):
        packs = list(library.get("pack", ()))
        if makes_packs:
            packs += _made(library.get("cell", ()), library.get("protection", ()))
        library = {**library, "pack": packs}
        parts = build.parts
        kinds: list[OpenKind] = [
            k
            for k in get_args(OpenKind)
            if k != "cell" and getattr(parts, k) is None and any(usable(p, k) for p in library.get(k, ()))
        ]
        numbers = [OpenNumber(path="parts.motors.count", low=1, high=2)] if "motors" in kinds else []
        self.space = Space(build, library, Open(kinds=kinds, numbers=numbers), most=_VAST)
        prices = {slot: _prices(build, library, slot) for slot in (*library, *_PAID_LATER)}
        # A part without a price is not for nothing: it is taken to cost as much as others of its kind.
        usual = {slot: float(median(known)) for slot, known in prices.items() if known}
        self._explored = Explored(self.space, usual_prices=usual)
        self._wanted = {
            name: float(value) for name, value in zip(NAMES, wanted_of(build), strict=True) if np.isfinite(value)
        }
        self._hill = hill_grade(build) or 0.0
        self._against = [Lookup(self.space, reads, rule(self.space)) for reads, rule in _AGAINST]
        own_box = build.parts.enclosure
        boxes = [own_box] if own_box is not None else library.get("enclosure", ())
        # Around a box that is there the controller has to go in too; of others a larger one can be chosen afterwards.
        held: Reads = ("controller", "pack") if own_box is not None else ("pack",)
        self._boxes = [
            Lookup(self.space, reads, partial(_boxes_for, self.space, boxes, rules))
            for reads, rules in ((held, _HOLDS), (("deck",), _UNDER_THE_DECK))
        ]
        missing = [slot for slot in _PAID_LATER if getattr(build.parts, slot) is None]
        self.following = sum(min(prices[slot], default=0.0) for slot in missing)
        self._known: Numbers = np.zeros(0, dtype=np.int64)
        self._scores = np.zeros((0, len(CHARACTERS) + 1))

    def board(self, number: int) -> Build:
        """One of the boards by its number."""
        return self.space.board(number)

    # --- what a board is worth ---

    def _fitting(self, numbers: Numbers) -> Numbers:
        numbers = np.unique(numbers)
        numbers = numbers[self.space.are_boards(numbers)]
        numbers = numbers[self.layouts(numbers) >= 0]
        return numbers[self._explored.compatibility.of(numbers)[0]]

    def layouts(self, numbers: Numbers) -> Numbers:
        """How each board is driven; -1 for one motor without pulleys, which is for its builder to choose."""
        at = self.space.pieces(numbers)
        bare = self.space.bare[at["motor"]]
        counts = np.array(self.space.alternatives["count"])[at["count"]]
        single = bare & (counts == 1) & (self.space.sizes["motor"] > 1)
        return np.where(single, -1, layout_of(bare, counts))

    def look_at(self, numbers: Numbers) -> None:
        """Judges those boards that nothing grave keeps apart and that were not judged before."""
        fitting = self._fitting(numbers)
        new = fitting[~np.isin(fitting, self._known)]
        if len(new):
            self._known = np.concatenate([self._known, new])
            self._scores = np.concatenate([self._scores, self._judged(new)])

    def outcomes_of(self, number: int) -> dict[OutcomeName, float]:
        """What one board comes to, with the money for what is chosen later."""
        return {name: float(mid[0]) for name, mid in self._outcomes(np.array([number]))[1].items()}

    def _outcomes(self, numbers: Numbers) -> tuple[Boards, dict[OutcomeName, Array]]:
        tables = self._explored.tables
        boards = tables.middles(numbers)
        ridden, _ = self._explored.promised_of(boards, numbers)
        mids: dict[OutcomeName, Array] = dict(zip(NAMES, ridden.T, strict=False))
        mids["carry"], mids["money"] = tables.mass(numbers)[0], tables.money(numbers) + self.following
        return boards, mids

    def _judged(self, numbers: Numbers) -> Array:
        """Shortfall against the brief weighs ten times, then the character; of shape (boards, characters)."""
        boards, mids = self._outcomes(numbers)
        short = np.zeros(len(numbers))
        for name, asked in self._wanted.items():
            target = max(asked * _MARGIN[name], 1e-9)
            short += np.maximum((mids[name] - target if name in AT_MOST else target - mids[name]) / target, 0.0)
        score = 10.0 * short
        if self._hill:
            lacking = np.maximum(1.0 - 100.0 * grades_held(boards, _BRAKES_AT) / self._hill, 0.0)
            score += np.where(lacking > 0.0, GRAVE + 6.0 * lacking, 0.0)
        at = self.space.pieces(numbers)
        score += GRAVE * sum(lookup.of(at, len(numbers))[0] for lookup in self._against)
        holds, fits = (lookup.of(at, len(numbers)) > 0.0 for lookup in self._boxes)
        # Where no box is for the deck, one that holds the pack is still better than none.
        score += GRAVE * (~(holds & fits).any(axis=0) + 1.0 * ~holds.any(axis=0))
        weighed = [2.0 * c.weigh(mids, self._wanted) for c in (*CHARACTERS, OTHERWISE)]
        return np.asarray(score[:, np.newaxis] + np.stack(weighed, axis=-1))

    # --- looking for the best ---

    def search(self, progress: Callable[[float], None]) -> None:
        """Draws boards by chance, and goes from the best of each kind to better ones beside them until there are none.

        Args:
            progress: called with how much of it is done, 0 to 1; what it raises ends it.
        """
        if len(self.space) <= _DRAWN:
            self.look_at(np.arange(len(self.space)))
            return
        self.look_at(np.random.default_rng(5).integers(0, len(self.space), _DRAWN))
        asked: set[int] = set()
        for done in range(_MOST_ROUNDS):
            progress((done + 1) / _MOST_ROUNDS)
            layouts = self.layouts(self._known)
            best = {
                int(n)
                for layout in np.unique(layouts)
                for character in range(len(CHARACTERS) + 1)
                for n in self._first(np.flatnonzero(layouts == layout), character, _STARTS)
            }
            if not best - asked:
                break
            self.look_at(np.concatenate([self._beside(n) for n in sorted(best - asked)]))
            asked |= best

    def _first(self, rows: Numbers, character: int, most: int) -> Numbers:
        order = np.lexsort((self._known[rows], self._scores[rows, character]))
        return self._known[rows[order[:most]]]

    def _beside(self, number: int) -> Numbers:
        """Every board that differs in one thing, or in two that have to fit each other."""
        space = self.space
        at = {p: int(i[0]) for p, i in space.pieces([number]).items()}
        several = [{p: np.arange(space.sizes[p])} for p in at]
        for one, other in _PAIRS:
            first, second = np.indices((space.sizes[one], space.sizes[other])).reshape(2, -1)
            several.append({one: first, other: second})
        return np.concatenate([space.numbers({**at, **changed}) for changed in several])

    def ranked(self, character: Character, of_layouts: Sequence[int] = LAYOUTS) -> list[tuple[float, int]]:
        """Scores and numbers of the boards looked at, the best first."""
        column = (*CHARACTERS, OTHERWISE).index(character)
        rows = np.flatnonzero(np.isin(self.layouts(self._known), of_layouts))
        order = rows[np.lexsort((self._known[rows], self._scores[rows, column]))]
        return [(float(self._scores[i, column]), int(self._known[i])) for i in order]

    def different(self, character: Character, of_layouts: Sequence[int], most: int) -> list[tuple[float, int]]:
        """The best boards, and the best with every alternative of every piece: what speaks against one need not against all."""
        ranked = self.ranked(character, of_layouts)
        at = self.space.pieces(np.array([n for _, n in ranked], dtype=np.int64))
        first = {0, *(int(i) for rows in at.values() for i in np.unique(rows, return_index=True)[1])} if ranked else ()
        return [ranked[i] for i in sorted(first)[:most]]


def _made(cells: Sequence[Part], guards: Sequence[Part]) -> list[Pack]:
    """Packs of usual sizes that can be made of cells, each with a BMS of the library for so many in series that balances.

    Salvaged cells have to be measured one by one before anyone knows what they make.
    """
    found = []
    for series in _SERIES:
        fitting = [g for g in guards if isinstance(g, Protection) and g.series == series and g.balances]
        for cell in (c for c in cells if isinstance(c, Cell) and c.size != "brick" and c.origin != "salvaged"):
            for parallel in range(1, _MOST_PARALLEL + 1):
                made = pack_of_cells(None, cell, series, parallel)
                found += [made.model_copy(update={"protection": guard}) for guard in fitting]
    return found


def _prices(build: Build, library: Mapping[str, Sequence[Part]], slot: str) -> list[float]:
    """What parts of a slot cost, in the build's currency, where it can be told."""
    exchange = Exchanger(build)
    amounts = (exchange.of(Priced(f"parts.{slot}", part, 1)) for part in library.get(slot, ()))
    return [float(a) for a in amounts if a is not None]
