"""What to set in a controller to begin with: all that the path bears, and nothing above it."""

from math import floor

from boardmath.buildfile.build import Build
from boardmath.buildfile.settings import Settings
from boardmath.model.limits import charging_ceiling, motor_current_ceiling, pack_current_ceiling, recommended_taper


def first_settings(build: Build) -> Settings:
    """Settings within every rating; a controller that cannot be programmed gets none, a build without a pack neither."""
    controller, pack = build.parts.controller, build.parts.pack
    if controller is None or controller.programmable is False or pack is None or pack.series is None:
        return Settings()
    motor = float(floor(motor_current_ceiling(build)[0]))
    start, end = recommended_taper(pack)
    return Settings(
        motor_current_a=motor,
        motor_brake_a=motor,
        pack_current_a=max(float(floor(pack_current_ceiling(build)[0])), 1.0),
        pack_regen_a=max(floor(charging_ceiling(build)[0] * 2.0) / 2.0, 0.5),
        taper_end_v=end,
        taper_start_v=start,
        cells_in_series=pack.series,
    )
