"""On the stand, wheels in the air: how fast the wheels spin and what that takes, before anything is ridden."""

from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.estimate import chemistry_of
from boardmath.inputs import RPM, cell_voltages
from boardmath.parameters import Resolved, resolve
from boardmath.physics import cell as cells
from boardmath.physics.types import Array, Numbers
from boardmath.powertrain import LIMITS, Board, free_speed, point_at_thrust
from boardmath.predict.bands import band, samples_of

SAMPLES = 64
STAND_C = 25.0
"""Of the windings on the stand: indoors, and nothing warm yet."""


@dataclass(frozen=True)
class FreeRun:
    """What boards do with the wheels in the air at full throttle; arrays."""

    speed: Array  # m/s at the rim
    electrical_speed: Array  # rad/s
    motor_current: Array  # A, peak, one motor
    pack_current: Array  # A, all of it
    bus_voltage: Array  # V
    limit: Array  # index into LIMITS


def free_run(board: Board, charge: Numbers) -> FreeRun:
    """The steady run at ``charge`` (0 to 1), the motors' winding as warm as the board's."""
    speed, limit = free_speed(board, charge)
    thrust = np.broadcast_to(board.drive_drag, speed.shape)
    point = point_at_thrust(board, speed, thrust, board.open_circuit(charge), board.pack_resistance(charge))
    electrical = point.motor_speed * board.pole_pairs
    return FreeRun(speed, electrical, point.motor_current, point.pack_current, point.bus_voltage, limit)


class Banded(BaseModel):
    """A figure with its band, in the build file's unit of ``quantity``."""

    low: float
    mid: float
    high: float
    quantity: str


class OnTheStand(BaseModel):
    """What the stand should show at one pack voltage."""

    pack_v: float
    bus_v: float
    """Under the run's own current."""
    duty: float
    erpm: Banded
    wheel_rpm: Banded
    motor_current_a: Banded
    pack_current_a: Banded
    limit: str


def charge_of(build: Build, resolved: Resolved, pack_v: float | None) -> float:
    """State of charge of a rested pack at ``pack_v``, as full as it is charged without one."""
    full = resolved.fixed["charge_full"]
    pack = build.parts.pack
    if pack_v is None or pack is None or not pack.series:
        return full
    chemistry = chemistry_of(pack.cell)
    return float(np.clip(cells.charge_at(chemistry, pack_v / pack.series, cell_voltages(pack)[0]), 0.0, 1.0))


def on_the_stand(build: Build, pack_v: float | None = None) -> OnTheStand:
    """The unloaded run that the build promises, with bands.

    Args:
        pack_v: the rested pack's voltage; None for the pack as it is charged.

    Raises:
        Incomplete: what the build still lacks.
    """
    resolved = resolve(build)
    charge = charge_of(build, resolved, pack_v)
    resolved.fixed["winding_temperature"] = STAND_C
    mid, spread = (free_run(b, charge) for b in (nominal_board([resolved]), samples_of(resolved, SAMPLES)))
    rest_v = float(nominal_board([resolved]).open_circuit(charge)[0])

    def banded(name: str, factor: float, quantity: str) -> Banded:
        middle = float(getattr(mid, name)[0]) * factor
        low, high = band(getattr(spread, name) * factor)
        return Banded(low=min(low, middle), mid=middle, high=max(high, middle), quantity=quantity)

    turns = 1.0 / resolved.fixed["wheel_radius"] / RPM
    return OnTheStand(
        pack_v=rest_v,
        bus_v=float(mid.bus_voltage[0]),
        duty=resolved.fixed["duty"],
        erpm=banded("electrical_speed", 1.0 / RPM, "electrical_speed"),
        wheel_rpm=banded("speed", turns, "turns"),
        motor_current_a=banded("motor_current", 1.0, "current"),
        pack_current_a=banded("pack_current", 1.0, "current"),
        limit=LIMITS[int(mid.limit[0])],
    )
