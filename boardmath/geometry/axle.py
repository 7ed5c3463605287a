"""What sits where across the board: wheels, pulleys and motors along the axle, in mm from the middle."""

from dataclasses import dataclass

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.once import once_for_variations
from boardmath.buildfile.rolling import Trucks, Wheels
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind

BEARINGS_AND_SPACER = 24.0
"""Two bearings 7 mm wide (ISO 15, size 608) and the usual 10 mm spacer between them."""
NUT = 9.0
"""Lock nut and washers on the axle's end (from memory)."""
OWN_BEARING = 7.0
"""What a wheel pulley with its own bearing takes of the axle: one more 608."""
MOUNT = 8.0
"""Thickness of a motor mount's plate (from memory)."""
APART = 2.0
"""Air between things that turn beside each other."""


@dataclass(frozen=True)
class Across:
    """Half of the board, right of the middle."""

    hanger: float
    axle: float
    wheel_inner: float
    wheel_outer: float
    pulley: tuple[float, float]
    motors: tuple[tuple[float, float], ...]
    """The rear truck's motors, left ones with negative figures."""


def axle_stub(build: Build) -> float:
    """What stands out of the hanger on each side."""
    trucks = build.parts.trucks or Trucks()
    hanger = trucks.hanger_mm or USUAL["trucks.hanger_mm"]
    return ((trucks.axle_mm or hanger + 66.0) - hanger) / 2.0


def axle_needed(build: Build) -> float:
    """What a wheel, its bearings, the nut, and a pulley's own bearing take of the axle on one side."""
    drive = build.parts.drive or Drive()
    own = OWN_BEARING if drive.pulley_fixing == "own_bearing" else 0.0
    return BEARINGS_AND_SPACER + NUT + own


@once_for_variations
def across(build: Build) -> Across:
    """Where things sit along the axle. Wheels sit centred over their bearings."""
    trucks, wheels = build.parts.trucks or Trucks(), build.parts.wheels or Wheels()
    drive, motors = build.parts.drive or Drive(), build.parts.motors or Motors()
    hanger = (trucks.hanger_mm or USUAL["trucks.hanger_mm"]) / 2.0
    axle = hanger + axle_stub(build)
    width = wheels.width_mm or USUAL["wheels.width_mm"]
    own = OWN_BEARING if drive.pulley_fixing == "own_bearing" else 0.0
    middle = hanger + own + BEARINGS_AND_SPACER / 2.0
    inner, outer = middle - width / 2.0, middle + width / 2.0
    kind = drive_kind(build)
    belt = drive.belt_width_mm or USUAL["drive.belt_width_mm"]
    pulley = (inner - APART - belt, inner - APART)
    end = {"hub": outer, "direct": inner - APART}.get(kind, pulley[0] - APART - MOUNT)
    can = width if kind == "hub" else (motors.can_length_mm or USUAL["motors.can_length_mm"])
    right = (end - can, end)
    count = min(motors.count or 1, 2)
    return Across(hanger, axle, inner, outer, pulley, (right, (-right[1], -right[0]))[:count])


def room_between_motors(build: Build) -> float | None:
    """mm between two motors on one truck, negative where they overlap; None with fewer, or in the hubs."""
    motors = build.parts.motors
    if motors is None or (motors.count or 1) < 2 or drive_kind(build) == "hub":
        return None
    return 2.0 * across(build).motors[0][0]
