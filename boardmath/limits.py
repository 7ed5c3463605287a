"""What holds currents back: the lowest of settings, controller and protection board."""

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.inputs import RPM, cell_charge_rating, cell_rating, cell_voltages, full_voltage, gear_ratio
from boardmath.physics.motor import torque_constant
from boardmath.physics.wire import ampacity


def pack_current_limits(build: Build) -> dict[str, float]:
    """Everything that holds the pack's current back while riding, A for the whole pack, by field. May be empty."""
    parts, units = build.parts, (build.parts.controller.units or 1) if build.parts.controller else 1
    limits: dict[str, float] = {}
    if build.settings.pack_current_a is not None:
        limits["settings.pack_current_a"] = build.settings.pack_current_a * units
    if parts.controller is not None and parts.controller.max_pack_current_a is not None:
        limits["parts.controller.max_pack_current_a"] = parts.controller.max_pack_current_a * units
    guard = parts.pack.protection if parts.pack else None
    if guard is not None and guard.in_drive_path and guard.max_discharge_a is not None:
        limits["parts.pack.protection.max_discharge_a"] = guard.max_discharge_a
    return limits


def allowed_pack_current(build: Build) -> float | None:
    """A that settings and controllers let the drive draw from the pack; None where neither says."""
    limits = pack_current_limits(build)
    limits.pop("parts.pack.protection.max_discharge_a", None)
    return min(limits.values()) if limits else None


def motor_current_allowed(build: Build) -> float | None:
    """A that settings and controller let into one motor; None where neither says."""
    controller = build.parts.controller
    said = (build.settings.motor_current_a, controller.max_motor_current_a if controller else None)
    return min((a for a in said if a is not None), default=None)


def wheel_torque(build: Build) -> float | None:
    """Nm that one motor can put on its wheel pulley at its current limit; None where something is missing."""
    current, motors = motor_current_allowed(build), build.parts.motors
    if current is None or motors is None or motors.kv_rpm_per_v is None:
        return None
    return float(torque_constant(motors.kv_rpm_per_v * RPM)) * current * gear_ratio(build)


def unloaded_electrical_speed(build: Build) -> float | None:
    """erpm with the wheels in the air on a full pack; None where motor or pack do not say."""
    motors, pack = build.parts.motors, build.parts.pack
    if motors is None or motors.kv_rpm_per_v is None or pack is None or pack.series is None:
        return None
    return full_voltage(pack) * motors.kv_rpm_per_v * (motors.pole_pairs or 7)


def brake_current_limit(build: Build, motor_current: float) -> float:
    """A of one motor when braking: as set, but never above what the controller gives."""
    set_to, controller = build.settings.motor_brake_a, build.parts.controller
    most = (controller.max_motor_current_a if controller else None) or motor_current
    return max(min(set_to if set_to is not None else motor_current, most), 1e-3)


def regen_current_limit(build: Build) -> float:
    """A that braking may put into the pack: as set (times controllers), else what the cells may be charged with."""
    pack = build.parts.pack or Pack()
    units = (build.parts.controller.units or 1) if build.parts.controller else 1
    if build.settings.pack_regen_a is not None:
        return max(build.settings.pack_regen_a * units, 1e-3)
    return cell_charge_rating(pack).value * (pack.parallel or 1)


ABOVE_EMPTY, TAPER_SPAN = 0.3, 0.3
"""V a cell: the taper ends this far above empty and begins as much further up, so that nmc cells stop between 3.4 and 3.1
under load (common practice, no source)."""


def recommended_taper(pack: Pack) -> tuple[float, float]:
    """Pack voltages between which a controller should hold back: where it begins, where it gives nothing more."""
    series = pack.series or 0
    end = cell_voltages(pack)[2] + ABOVE_EMPTY
    return round(series * (end + TAPER_SPAN), 1), round(series * end, 1)


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
