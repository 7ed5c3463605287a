"""Range and consumption: charge integrated with sag, taper and reserve, not capacity divided by an average."""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.types import Array, Numbers
from boardmath.powertrain import Board, attained_speed, operating_point

STRANDED = 5.0 / 3.6
"""m/s. Below walking pace the ride is over, whatever charge is left."""
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(12)


@dataclass(frozen=True)
class Distance:
    """A ride from the charge the pack starts with to its reserve, at the wanted speed or the most it can hold."""

    range: Array  # m
    energy: Array  # J at the pack's terminals
    mean_speed: Array  # m/s over the way
    cut_off: Array  # true where voltage, not the reserve, ends the ride
    slowed: Array  # true where the wanted speed cannot be held all the way

    @property
    def consumption(self) -> Array:
        """J/m, nan where nothing moves."""
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.asarray(np.where(self.range > 0, self.energy / self.range, np.nan))


def ride(board: Board, wanted_speed: Numbers | None = None, grade: Numbers = 0.0) -> Distance:
    """Integrates distance over charge: ``dx = v dQ / I``.

    Where the wanted speed cannot be held at some charge, the ride goes on as fast as it can; below walking pace it ends
    there (the low-voltage taper has cut in).

    Args:
        board: shape ``S``.
        wanted_speed: m/s, broadcastable with ``S``; the brief's cruising speed when left out.
        grade: rise over run of the whole way.
    """
    boards = board.with_axis()
    wanted = boards.cruise_speed if wanted_speed is None else np.asarray(wanted_speed)[..., np.newaxis]
    span = np.maximum(boards.charge_full - boards.charge_reserve, 0.0)
    charge = boards.charge_reserve + span * (_NODES + 1.0) / 2.0
    weight = span * _WEIGHTS / 2.0 * boards.pack_capacity

    speed, slow = attained_speed(boards, wanted, grade, charge)
    moving = speed >= STRANDED
    # Once stranded, a rested pack may crawl on; nobody counts that. The ride ends at the first such charge from above.
    moving = np.flip(np.logical_and.accumulate(np.flip(moving, -1), axis=-1), -1)

    point = operating_point(boards, np.maximum(speed, STRANDED), grade, charge)
    seconds = np.where(moving, weight / point.pack_current, 0.0)
    way = (seconds * speed).sum(axis=-1)
    energy = (seconds * point.bus_voltage * point.pack_current).sum(axis=-1)
    total = seconds.sum(axis=-1)
    return Distance(
        range=way,
        energy=energy,
        mean_speed=np.divide(way, total, out=np.zeros_like(way), where=total > 0),
        cut_off=np.asarray(~moving.all(axis=-1)),
        slowed=np.asarray(slow.any(axis=-1)),
    )
