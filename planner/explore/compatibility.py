"""What must not be put together: the findings that two or three pieces decide between them, for every board at once."""

from collections.abc import Callable, Iterator

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.build import Build
from boardmath.checks import electrical, power_path, rolling_gear
from boardmath.checks.finding import Finding
from boardmath.messages import Message
from planner.explore.schemas import ExcludedDesigns
from planner.explore.space import PIECES, Space

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


def put_together(space: Space, boards: NDArray[np.int64]) -> tuple[NDArray[np.bool_], list[ExcludedDesigns]]:
    """Which of the boards nothing grave keeps apart, and how many are left out for what."""
    at, fits = space.pieces(boards), np.ones(len(boards), dtype=bool)
    left_out: dict[str, ExcludedDesigns] = {}
    for rule, reads in RULES:
        if np.prod(space.laid(reads)) == 1:
            continue  # what is not open is the builder's own choice, and its findings say so on the bench
        table = np.zeros(space.laid(reads), dtype=bool)
        title: Message | None = None
        known: dict[tuple[int, ...], bool] = {}
        for place, first in space.combined(reads):
            if first not in known:
                build = space.made_of(rule in _OF_SETTINGS, **dict(zip(PIECES, first, strict=True)))
                grave = [f for f in rule(build) if f.severity in ("danger", "stop")]
                known[first] = bool(grave)
                title = title or (grave[0].title if grave else None)
            table[place] = known[first]
        wrong = table[tuple(at[p] if table.shape[i] > 1 else 0 for i, p in enumerate(PIECES))]
        if title is not None and (count := int((fits & wrong).sum())):
            left_out.setdefault(title.text, ExcludedDesigns(why=title, boards=0)).boards += count
        fits &= ~wrong
    return fits, sorted(left_out.values(), key=lambda excluded: -excluded.boards)
