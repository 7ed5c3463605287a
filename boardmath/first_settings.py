"""What to set in a controller to begin with: nothing above what any part of the path bears."""

from math import floor

from boardmath.buildfile.build import Build, Settings
from boardmath.inputs import cell_charge_rating, cell_rating
from boardmath.limits import recommended_taper
from boardmath.physics.wire import ampacity


def path_ratings(build: Build) -> dict[str, float]:
    """A that each part of the drive current's path bears, by field: cells, protection board, fuse, wire, plugs, switch."""
    parts, found = build.parts, {}
    pack = parts.pack
    if pack is not None:
        rating = cell_rating(pack)
        found[rating.field] = rating.value * (pack.parallel or 1)
        guard = pack.protection
        if guard is not None and guard.in_drive_path and guard.max_discharge_a is not None:
            found["parts.pack.protection.max_discharge_a"] = guard.max_discharge_a
    if parts.fuse is not None and parts.fuse.a is not None:
        found["parts.fuse.a"] = parts.fuse.a
    if parts.wiring is not None and parts.wiring.awg is not None:
        found["parts.wiring.awg"] = float(ampacity(parts.wiring.awg))
    if parts.wiring is not None and parts.wiring.connector_max_a is not None:
        found["parts.wiring.connector_max_a"] = parts.wiring.connector_max_a
    if parts.switch is not None and parts.switch.max_a is not None:
        found["parts.switch.max_a"] = parts.switch.max_a
    return found


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
