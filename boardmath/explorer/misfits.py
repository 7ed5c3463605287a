"""What must not be put together: the findings that two or three pieces decide between them, for every board at once."""

from collections.abc import Callable, Iterator
from itertools import product

import numpy as np
from numpy.typing import NDArray

from boardmath.advice import electrical, power_path, rolling_gear
from boardmath.advice.finding import Finding
from boardmath.buildfile.build import Build
from boardmath.explorer.space import PIECES, Piece, Space

Rule = Callable[[Build], Iterator[Finding]]
RULES: tuple[tuple[Rule, tuple[Piece, ...]], ...] = (
    (electrical.controller_voltage, ("controller", "pack")),
    (power_path.fixed_cells, ("controller", "pack")),
    (power_path.controllers_and_motors, ("count", "controller")),
    (power_path.motor_current, ("motor", "count", "controller", "pack")),
    (electrical.cells_current, ("count", "controller", "pack")),
    (rolling_gear.wheel_core, ("motor", "drive", "wheels")),
    (rolling_gear.pulley_and_ground, ("motor", "drive", "wheels")),
    (rolling_gear.shaft_and_bore, ("motor", "drive")),
    (rolling_gear.mount_profile, ("motor", "drive")),
    (rolling_gear.motors_side_by_side, ("motor", "count", "drive")),
    (rolling_gear.hanger_too_short, ("motor", "count", "drive", "wheels")),
    (rolling_gear.axle_length, ("motor", "drive", "wheels")),
    (rolling_gear.motor_and_ground, ("motor", "drive", "wheels")),
    (rolling_gear.soft_wheels_direct, ("motor", "wheels")),
)
"""Rules of the advice that are decided by a few pieces, and by which; the others are asked of the boards that are shown."""


def put_together(space: Space, boards: NDArray[np.int64]) -> tuple[NDArray[np.bool_], dict[str, int]]:
    """Which of the boards nothing grave keeps apart, and how many are left out for what."""
    at, fits = space.pieces(boards), np.ones(len(boards), dtype=bool)
    left_out: dict[str, int] = {}
    for rule, reads in RULES:
        if not any(space.sizes[p] > 1 for p in reads):
            continue  # what is not open is the builder's own choice, and its findings say so on the bench
        table, title = np.zeros([space.sizes[p] if p in reads else 1 for p in PIECES], dtype=bool), ""
        for place in product(*(range(n) for n in table.shape)):
            build = space.made_of(**dict(zip(PIECES, place, strict=True)))
            grave = [f for f in rule(build) if f.severity in ("danger", "stop")]
            if grave:
                table[place], title = True, title or grave[0].title
        wrong = table[tuple(at[p] if table.shape[i] > 1 else 0 for i, p in enumerate(PIECES))]
        if count := int((fits & wrong).sum()):
            left_out[title] = left_out.get(title, 0) + count
        fits &= ~wrong
    return fits, left_out
