"""What to set in a controller to begin with: nothing above what any part of the path bears."""

from math import floor

from boardmath.buildfile.build import Build, Settings
from boardmath.inputs import cell_charge_rating
from boardmath.limits import path_ratings, recommended_taper


def first_settings(build: Build) -> Settings:
    """Settings within every rating; a controller that cannot be programmed gets none, a build without a pack neither."""
    controller, pack, motors = build.parts.controller, build.parts.pack, build.parts.motors
    if controller is None or controller.programmable is False or pack is None or pack.series is None:
        return Settings()
    units = controller.units or 1
    most = min(path_ratings(build).values()) / units
    motor = [a for a in (controller.max_motor_current_a, motors.max_current_a if motors else None) if a is not None]
    charge = cell_charge_rating(pack).value * (pack.parallel or 1)
    if pack.protection is not None and pack.protection.in_drive_path and pack.protection.max_charge_a is not None:
        charge = min(charge, pack.protection.max_charge_a)
    start, end = recommended_taper(pack)
    return Settings(
        motor_current_a=float(floor(min(motor))) if motor else None,
        motor_brake_a=float(floor(min(motor))) if motor else None,
        pack_current_a=max(float(floor(min(most, controller.max_pack_current_a or most))), 1.0),
        pack_regen_a=max(floor(charge / units * 2.0) / 2.0, 0.5),
        taper_end_v=end,
        taper_start_v=start,
        cells_in_series=pack.series,
    )
