"""Where the motor sits, the belt's path round the pulleys, and the stock belts that would do. Everything in mm."""

from dataclasses import dataclass
from functools import lru_cache
from math import acos, cos, degrees, radians, sin

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.once import once_for_variations
from boardmath.geometry import belt
from boardmath.geometry.stance import axles, wheel_radius
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind, mounted

FLANGE = 2.0
"""mm by which a pulley's flange stands above the belt's cords (from memory)."""
HANGER = 16.0
"""Radius of a hanger round its axle (from memory)."""
USUAL_ANGLE = 14.0
"""Degrees that mounts usually hold the motor above the axle, in front of it (from memory)."""
LEAST_TEETH_IN_MESH = 6.0
"""Below it a toothed belt skips under load (common practice, no source)."""

STOCK_TEETH = tuple(
    length // 5
    for length in (
        *(180, 200, 225),
        *range(235, 405, 5),
        *(405, 415, 420, 425, 435, 440, 450, 460, 475, 480, 490, 500, 510, 520, 525, 535, 540, 550, 565, 575, 580, 600),
    )
)
"""Stock lengths of closed 5 mm belts, in teeth (from memory: sellers differ)."""


@dataclass(frozen=True)
class BeltPath:
    """An open belt round two pulleys."""

    small: float  # pitch radius of the motor pulley
    large: float
    distance: float  # between the centres
    teeth_in_mesh: float
    wrap_deg: float  # round the motor pulley
    guessed: bool
    too_short: bool
    wheel_pulley_guessed: bool
    """Its place is the axle whatever the belt; only its size may be unknown."""


class StockBelt(BaseModel):
    """A belt that one can buy, with the centre distance that it needs."""

    teeth: int
    length_mm: float
    centre_distance_mm: float
    teeth_in_mesh: float
    chosen: bool


def pitch(build: Build) -> float:
    return (build.parts.drive or Drive()).pitch_mm or USUAL["drive.pitch_mm"]


def radii(build: Build) -> tuple[float, float]:
    """Pitch radii of motor pulley and wheel pulley."""
    drive = build.parts.drive or Drive()
    return (
        belt.pitch_radius(drive.motor_teeth or USUAL["drive.motor_teeth"], pitch(build)),
        belt.pitch_radius(drive.wheel_teeth or USUAL["drive.wheel_teeth"], pitch(build)),
    )


def can_radius(build: Build) -> float:
    return ((build.parts.motors or Motors()).can_diameter_mm or USUAL["motors.can_diameter_mm"]) / 2.0


@once_for_variations
def least_distance(build: Build) -> float:
    """Centre distance at which the pulleys clear each other and the can clears the hanger."""
    small, large = radii(build)
    return max(small + large + 2.0 * FLANGE + 1.0, can_radius(build) + HANGER + 2.0)


@once_for_variations
def belt_path(build: Build) -> BeltPath | None:
    """The belt as chosen; without one, just clear of everything. None where nothing runs round pulleys."""
    if drive_kind(build) not in ("belt", "chain"):
        return None
    drive = build.parts.drive or Drive()
    small, large = radii(build)
    distance, guessed, too_short = max(can_radius(build), small) + large + 12.0, True, False
    if drive.belt_teeth is not None:
        try:
            distance = belt.centre_distance(drive.belt_teeth * pitch(build), small, large)
            guessed = False
        except ValueError:
            too_short = True
    wrap = 2.0 * acos(max(-1.0, min(1.0, (large - small) / distance)))
    mesh = (drive.motor_teeth or USUAL["drive.motor_teeth"]) * wrap / radians(360.0)
    return BeltPath(small, large, distance, mesh, degrees(wrap), guessed, too_short, drive.wheel_teeth is None)


def motor_angle(build: Build) -> float:
    """How far the motor stands above the line from the axle to the nose, or to the tail where it stands behind it, rad."""
    angle = mounted(build).mount_angle_deg
    return radians(USUAL_ANGLE if angle is None else angle)


def motor_distance(build: Build) -> float:
    """Between axle and motor shaft: 0 in the hub or on the axle."""
    path = belt_path(build)
    if path is not None:
        return path.distance
    if drive_kind(build) == "gear":
        # Gears' pitch circles touch; a module of 1.5 mm is usual (from memory).
        drive = build.parts.drive or Drive()
        return max(
            1.5
            * ((drive.motor_teeth or USUAL["drive.motor_teeth"]) + (drive.wheel_teeth or USUAL["drive.wheel_teeth"]))
            / 2.0,
            can_radius(build) + HANGER,
        )
    return 0.0


@once_for_variations
def motor_centre(build: Build) -> tuple[float, float]:
    """x from the nose and height of the rear motor's shaft."""
    rear, distance, angle = axles(build)[1], motor_distance(build), motor_angle(build)
    towards = 1.0 if stands_behind(build) else -1.0
    return rear + towards * distance * cos(angle), wheel_radius(build) + distance * sin(angle)


def stands_behind(build: Build) -> bool:
    """Whether the motor stands behind its axle, where no box can meet it."""
    return (build.parts.drive or Drive()).motor_place == "behind"


def motors_in_front(build: Build) -> bool:
    """Whether the front truck is driven too: by the third and fourth motor."""
    return build.parts.motors is not None and (build.parts.motors.count or 1) > 2


def motor_reach(build: Build) -> float:
    """How far the motor stands into the room between the axles; 0 without one there."""
    if build.parts.motors is None or drive_kind(build) in ("hub", "direct") or stands_behind(build):
        return 0.0
    return axles(build)[1] - motor_centre(build)[0] + can_radius(build)


def stock_belts(build: Build, room: float = 45.0) -> list[StockBelt]:
    """Stock belts whose centre distance clears everything, by length, up to ``room`` mm further than need be."""
    drive = build.parts.drive or Drive()
    if belt_path(build) is None or pitch(build) != 5.0 or not (drive.motor_teeth and drive.wheel_teeth):
        return []
    (small, large), least = radii(build), least_distance(build)
    return [
        StockBelt(
            teeth=teeth,
            length_mm=teeth * 5.0,
            centre_distance_mm=distance,
            teeth_in_mesh=belt.teeth_in_mesh(distance, drive.motor_teeth, small, large),
            chosen=teeth == drive.belt_teeth,
        )
        for teeth, distance in _stock_between(small, large, least, least + room)
    ]


@lru_cache(maxsize=1024)
def _stock_between(small: float, large: float, least: float, most: float) -> tuple[tuple[int, float], ...]:
    """Teeth and centre distance of the stock belts that come to lie within ``least``..``most``."""
    found = []
    for teeth in STOCK_TEETH:
        try:
            distance = belt.centre_distance(teeth * 5.0, small, large)
        except ValueError:
            continue
        if least <= distance <= most:
            found.append((teeth, distance))
    return tuple(found)
