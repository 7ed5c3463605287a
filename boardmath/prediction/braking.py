"""What the motors hold back, for findings and proposals: many builds at once."""

from collections.abc import Sequence

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards, stacked
from boardmath.model.chemistry import chemistry_of
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_voltages, hill_grade
from boardmath.physics.cell import charge_at
from boardmath.physics.types import Array

NOT_FULL = 0.8
"""State of charge of the braking that a ride mostly has."""


def holds_back(evaluations: Sequence[Evaluation], charge: float = 1.0) -> list[float]:
    """The grade (rise over run) that each board's motors hold back at cruising speed.

    At ``charge`` (0 to 1), or at what it is charged to where that is less; 0 for all where one cannot be predicted yet.
    """
    if any(c.needs for c in evaluations):
        return [0.0] * len(evaluations)
    return grades_held(stacked([c.board for c in evaluations]), charge).tolist()  # type: ignore[no-any-return]


def grades_held(boards: Boards, charge: float) -> Array:
    """The same of the engine's boards, of shape (boards,)."""
    cruise = sweeps.attained_speeds(boards, boards.cruise_speed[:, None], 0.0, sweeps.early_charge(boards)[:, None])
    held: Array = sweeps.brakes(boards, cruise, np.minimum(boards.charge_full, charge)[:, None]).holds_grade[:, 0]
    return held


def first_second(build: Build) -> float | None:
    """Mean acceleration of the first second at full throttle, g; None where the build cannot be predicted yet."""
    evaluation = Evaluation(build, 0)
    if evaluation.needs:
        return None
    return float(sweeps.pulls(evaluation.board, evaluation.headlines.top_speed).first_second[0])


def charge_that_brakes(evaluation: Evaluation) -> float | None:
    """V a cell up to which the pack may be charged for the brakes to hold the hill from the start.

    None where they hold it on a full pack already, or hold it on none: then something else than the full pack gives way.
    """
    hill, pack = hill_grade(evaluation.build), evaluation.build.parts.pack
    if hill is None or pack is None or pack.series is None or evaluation.needs:
        return None
    full, board = cell_voltages(pack)[0], evaluation.board
    volts = [round(full - 0.05 * step, 2) for step in range(7)]
    charges = np.array([charge_at(chemistry_of(pack.cell), v, full) for v in volts])
    cruise = sweeps.attained_speeds(board, board.cruise_speed[:, None], 0.0, np.minimum(charges, 0.9))
    held = sweeps.brakes(board, cruise, charges).holds_grade[0]
    holds = [v for v, grade in zip(volts, held, strict=True) if grade * 100.0 >= hill]
    return holds[0] if holds and holds[0] != volts[0] else None
