"""How hard the motors can brake, and how steep a hill they can hold back: less on a full pack."""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.road_load import GRAVITY
from boardmath.physics.types import Array, Numbers
from boardmath.powertrain import Board, most_braking, road_resistance

NOT_FULL = 0.8
"""State of charge of the braking that a ride mostly has."""


@dataclass(frozen=True)
class Braking:
    """At one speed and charge, on the flat unless said."""

    force: Array  # N of the motors at the road
    deceleration: Array  # m/s2, road and air included
    holds_grade: Array  # rise over run downhill that the motors hold back at steady speed
    limit: Array

    def at(self, column: int) -> "Braking":
        """One column of the last axis."""
        return Braking(*(getattr(self, f)[..., column] for f in self.__dataclass_fields__))


def braking(board: Board, speed: Numbers, charge: Numbers) -> Braking:
    """What the motors hold back at ``speed`` (m/s) and ``charge``; a foot on the road is not counted."""
    force, limit = most_braking(board, speed, charge)
    against = force + board.drive_drag
    rolling = road_resistance(board, speed, 0.0)
    deceleration = (against + rolling) / (board.rolling_mass + board.rotating_mass)
    # Downhill the same forces stand against m g sin a; rolling resistance as on the flat.
    sine = np.minimum((against + rolling) / (board.rolling_mass * GRAVITY), 0.99)
    return Braking(force, np.asarray(deceleration), np.asarray(sine / np.sqrt(1.0 - np.square(sine))), limit)
