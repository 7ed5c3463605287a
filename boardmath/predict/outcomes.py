"""The headline results of many boards at once: one build, its samples, a shelf, or ten thousand candidates."""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.types import Array
from boardmath.powertrain import Board, highest_speed, steepest_start
from boardmath.predict.distance import Distance, ride

TOP_SPEED_CHARGE = 0.9
"""Top speed and steepest start are promised at this state of charge: the ride's beginning, not the charger's end."""


@dataclass(frozen=True)
class Outcomes:
    """Arrays of the boards' shape."""

    unloaded_speed: Array  # m/s
    top_speed: Array  # m/s
    top_limit: Array
    start_grade: Array  # rise over run
    start_limit: Array
    distance: Distance
    board_mass: Array | None = None  # kg


def outcomes(board: Board) -> Outcomes:
    """Speed, steepest start, range and consumption of every board."""
    charge = np.minimum(board.charge_full, TOP_SPEED_CHARGE)
    top_speed, top_limit = highest_speed(board, 0.0, charge)
    start_grade, start_limit = steepest_start(board, charge)
    return Outcomes(board.unloaded_speed, top_speed, top_limit, start_grade, start_limit, ride(board))
