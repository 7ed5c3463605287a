"""On the stand, wheels in the air: how fast the wheels spin and what that takes, before anything is ridden."""

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards, changed
from boardmath.engine.operating import LIMITS
from boardmath.interval import Interval
from boardmath.model.chemistry import chemistry_of
from boardmath.model.evaluation import Evaluation, bands_of
from boardmath.model.inputs import RPM, cell_voltages
from boardmath.model.resolution import Resolved
from boardmath.model.sampling import FEW
from boardmath.physics import cell as cells
from boardmath.physics.limit import Limit

STAND_C = 25.0
"""Of the windings on the stand: indoors, and nothing warm yet."""


def on_stand(boards: Boards) -> Boards:
    """The same boards, their motors as cold as the room."""
    return changed(boards, winding_temperature=STAND_C)


class FigureInterval(Interval):
    """A figure with its range, in the build file's unit of ``quantity``."""

    quantity: str


class OnTheStand(BaseModel):
    """What the stand should show at one pack voltage."""

    pack_v: float
    bus_v: float
    """Under the run's own current."""
    duty: float
    erpm: FigureInterval
    wheel_rpm: FigureInterval
    motor_current_a: FigureInterval
    pack_current_a: FigureInterval
    limit: Limit


def charge_of(build: Build, resolved: Resolved, pack_v: float | None) -> float:
    """State of charge of a rested pack at ``pack_v``, as full as it is charged without one."""
    full = resolved.fixed["charge_full"]
    pack = build.parts.pack
    if pack_v is None or pack is None or not pack.series:
        return full
    charge = cells.charge_at(chemistry_of(pack.cell), pack_v / pack.series, cell_voltages(pack)[0])
    return min(max(charge, 0.0), 1.0)


def on_the_stand(build: Build, pack_v: float | None = None) -> OnTheStand:
    """The unloaded run predicted for the build, with ranges.

    Args:
        pack_v: the rested pack's voltage; None for the pack as it is charged.

    Raises:
        Incomplete: what the build still lacks.
    """
    evaluation = Evaluation(build, FEW)
    charge = charge_of(build, evaluation.resolved, pack_v)
    rows = on_stand(evaluation.boards)
    speed, limit = sweeps.free_speeds(rows, charge)
    run = sweeps.moments(rows, speed, 0.0, charge, rows.drive_drag[:, None])[:, 0]

    found = {
        "erpm": run.motor_speed * rows.pole_pairs / RPM,
        "wheel_rpm": speed[:, 0] / rows.wheel_radius / RPM,
        "motor_current": run.motor_current,
        "pack_current": run.pack_current,
    }
    bands = bands_of([found])[0]

    def banded(name: str, quantity: str) -> FigureInterval:
        middle = float(found[name][0])
        low, high = bands[name] or (middle, middle)
        return FigureInterval(low=low, mid=middle, high=high, quantity=quantity)

    return OnTheStand(
        pack_v=float(run.voltage[0]),
        bus_v=float(run.bus_voltage[0]),
        duty=float(rows.duty[0]),
        erpm=banded("erpm", "electrical_speed"),
        wheel_rpm=banded("wheel_rpm", "turns"),
        motor_current_a=banded("motor_current", "current"),
        pack_current_a=banded("pack_current", "current"),
        limit=LIMITS[int(limit[0, 0])],
    )
