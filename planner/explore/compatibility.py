"""What must not be put together: the findings that two or three pieces decide between them, for every board at once."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.build import Build
from boardmath.checks import electrical, power_path, rolling_gear
from boardmath.checks.finding import Finding
from boardmath.messages import Message
from planner.explore.lookup import Lookup
from planner.explore.schemas import ExcludedDesigns
from planner.explore.space import Piece, Space

Rule = Callable[[Build], Iterator[Finding]]
RULES: tuple[tuple[Rule, tuple[str, ...]], ...] = (
    (electrical.controller_voltage, ("controller", "pack")),
    (power_path.fixed_cells, ("controller", "pack")),
    (power_path.controllers_and_motors, ("count", "controller")),
    (power_path.motor_current, ("motor", "controller")),
    (electrical.cells_current, ("count", "controller", "pack")),
    (rolling_gear.wheel_core, ("motor:kind", "drive:plain", "wheels")),
    (rolling_gear.pulley_and_ground, ("motor:kind", "drive", "wheels")),
    (rolling_gear.shaft_and_bore, ("motor", "drive:plain")),
    (rolling_gear.mount_profile, ("motor:kind", "drive:plain", "trucks")),
    (rolling_gear.motors_side_by_side, ("motor", "count", "drive:plain", "trucks")),
    (rolling_gear.hanger_too_short, ("motor", "count", "drive:plain", "wheels", "trucks")),
    (rolling_gear.axle_length, ("motor:kind", "drive:plain", "wheels", "trucks")),
    (rolling_gear.trucks_on_the_deck, ("deck", "trucks")),
    (rolling_gear.motor_and_ground, ("motor", "drive:plain", "wheels")),
    (rolling_gear.soft_wheels_direct, ("motor", "wheels")),
)
"""Rules of the advice that are decided by a few pieces, and by which; the others are asked of the boards that are shown."""


_OF_SETTINGS = (power_path.motor_current, electrical.cells_current)
"""Rules that look at what the controllers are set to."""


class Compatibility:
    """What nothing grave keeps apart, asked once of each combination that any board has."""

    def __init__(self, space: Space):
        self._space = space
        self._titles: dict[Rule, Message] = {}
        # What is not open is the builder's own choice, and its findings say so on the bench.
        opened = [(rule, reads) for rule, reads in RULES if space.are_open(reads)]
        self._lookups = [(rule, Lookup(space, reads, partial(self._grave, rule))) for rule, reads in opened]

    def _grave(self, rule: Rule, pieces: Mapping[Piece, int]) -> list[float]:
        build = self._space.made_of(rule in _OF_SETTINGS, **{str(p): i for p, i in pieces.items()})
        grave = [f for f in rule(build) if f.severity in ("danger", "stop")]
        if grave:
            self._titles.setdefault(rule, grave[0].title)
        return [bool(grave)]

    def of(self, boards: NDArray[np.int64]) -> tuple[NDArray[np.bool_], list[ExcludedDesigns]]:
        """Which of the boards nothing grave keeps apart, and how many are left out for what."""
        left: NDArray[np.int64] = np.arange(len(boards))
        left_out: dict[str, ExcludedDesigns] = {}
        for rule, lookup in self._lookups:
            if not len(left):
                break
            # What one rule keeps apart the others are not asked of.
            wrong = lookup.of(self._space.pieces(boards[left]), len(left))[0].astype(bool)
            if count := int(wrong.sum()):
                title = self._titles[rule]
                left_out.setdefault(title.text, ExcludedDesigns(why=title, boards=0)).boards += count
            left = left[~wrong]
        fits = np.zeros(len(boards), dtype=bool)
        fits[left] = True
        return fits, sorted(left_out.values(), key=lambda excluded: -excluded.boards)
