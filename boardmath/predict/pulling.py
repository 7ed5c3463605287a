"""Acceleration from rest on the flat, with everything open."""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.types import Array, Numbers
from boardmath.powertrain import Board, most_thrust, road_resistance

_SPEEDS = 28
G = 9.80665


@dataclass(frozen=True)
class Pull:
    """Speed over time: rows of ``speed`` (m/s), ``time`` (s) and ``thrust`` (N at the road, drive's drag taken off)."""

    speed: Array
    time: Array
    thrust: Array
    resistance: Array

    def seconds_to(self, speed: float) -> Array:
        """Time in s to ``speed`` m/s; inf where it is not reached."""
        return _along(self.speed, self.time, np.full(self.speed.shape[:-1], speed), beyond=np.inf)

    def speed_after(self, seconds: float) -> Array:
        """Speed in m/s after ``seconds``."""
        return _along(self.time, self.speed, np.full(self.speed.shape[:-1], seconds), beyond=None)

    @property
    def first_second(self) -> Array:
        """Mean acceleration of the first second, in g."""
        return self.speed_after(1.0) / G


def pull_away(board: Board, top_speed: Array, charge: Numbers) -> Pull:
    """Integrates ``dt = m dv / (F - R)`` from rest to just under ``top_speed`` (m/s), shape of the board."""
    boards = board.with_axis()
    # Denser near rest, where the first second happens, and near the end, where the surplus fades.
    share = (1.0 - np.cos(np.linspace(0.0, np.pi, _SPEEDS))) / 2.0
    speed = np.maximum(top_speed, 1e-3)[..., np.newaxis] * 0.995 * share
    thrust, _ = most_thrust(boards, speed, np.asarray(charge)[..., np.newaxis])
    net = thrust - boards.drive_drag
    resistance = road_resistance(boards, speed, 0.0)
    surplus = np.maximum(net - resistance, 1e-6)
    per_speed = (boards.rolling_mass + boards.rotating_mass) / surplus
    steps = np.diff(speed, axis=-1) * (per_speed[..., 1:] + per_speed[..., :-1]) / 2.0
    time = np.concatenate([np.zeros_like(steps[..., :1]), np.cumsum(steps, axis=-1)], axis=-1)
    return Pull(
        np.broadcast_to(speed, time.shape),
        time,
        np.broadcast_to(net, time.shape),
        np.broadcast_to(resistance, time.shape),
    )


def _along(x: Array, y: Array, at: Array, beyond: float | None) -> Array:
    """Row-wise linear interpolation of ``y`` over rising ``x``."""
    index = np.clip((x <= at[..., np.newaxis]).sum(axis=-1) - 1, 0, x.shape[-1] - 2)[..., np.newaxis]
    x0, x1 = (np.take_along_axis(x, i, -1)[..., 0] for i in (index, index + 1))
    y0, y1 = (np.take_along_axis(y, i, -1)[..., 0] for i in (index, index + 1))
    part = np.clip((at - x0) / np.maximum(x1 - x0, 1e-12), 0.0, 1.0)
    found = y0 + part * (y1 - y0)
    return np.asarray(found if beyond is None else np.where(at > x[..., -1], beyond, found))
