"""What holds currents back: the lowest of settings, controller and protection board."""

from math import pi, sqrt
from typing import NamedTuple

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting, controllers
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.once import once_for_variations
from boardmath.model.chemistry import chemical_of
from boardmath.model.defaults import USUAL
from boardmath.model.estimate import controller_class, motor_current
from boardmath.model.inputs import (
    RPM,
    cell_charge_rating,
    cell_rating,
    cell_resistance,
    cell_voltages,
    drive_kind,
    full_voltage,
    gear_ratio,
)
from boardmath.model.wheel_materials import material_of
from boardmath.physics.limit import Limit
from boardmath.physics.motor import torque_constant
from boardmath.physics.wire import ampacity


def pack_current_limits(build: Build) -> dict[str, float]:
    """Everything that holds the pack's current back while riding, A for the whole pack, by field. May be empty."""
    parts, units, said = build.parts, controllers(build), acting(build)
    limits: dict[str, float] = {}
    if said.pack_current_a is not None:
        limits["settings.pack_current_a"] = said.pack_current_a * units
    if parts.controller is not None and parts.controller.max_pack_current_a is not None:
        limits["parts.controller.max_pack_current_a"] = parts.controller.max_pack_current_a * units
    guard = parts.pack.protection if parts.pack else None
    if guard is not None and guard.in_drive_path and guard.max_discharge_a is not None:
        limits["parts.pack.protection.max_discharge_a"] = guard.max_discharge_a
    return limits


MOTOR_TO_PACK = sqrt(3.0) / 2.0 / 0.95
"""A out of the pack for each A of a motor at full duty: the shares of docs/model.md, and a twentieth lost in the controller."""


class PackCurrent(NamedTuple):
    """The largest current of the whole pack, A; the field that sets it, what that is, and whether it is a stated limit."""

    current: float
    field: str
    reason: str
    stated: bool = False


def possible_pack_current(build: Build) -> PackCurrent | None:
    """The largest current that controller, motors and pack can make flow where no limit is stated; None without a controller.

    What cells and motors ought to bear is no limit: nothing holds the current to it.
    """
    parts = build.parts
    if parts.controller is None:
        return None
    motors, units = (parts.motors.count if parts.motors else None) or 1, controllers(build)
    usual = controller_class(parts.controller.programmable)["pack_current"]
    found = [PackCurrent(usual.value * max(units, motors), "parts.controller.max_pack_current_a", usual.rule)]
    each = motor_current_allowed(build)
    if each is not None:
        most = MOTOR_TO_PACK * each * motors
        found.append(PackCurrent(most, "settings.motor_current_a", "what the controller lets into the motors"))
    if parts.pack is not None and parts.pack.series is not None:
        cells = cell_resistance(parts.pack).value / 1000.0 / (parts.pack.parallel or 1) * parts.pack.series
        lets_through = full_voltage(parts.pack) / (2.0 * cells)
        found.append(PackCurrent(lets_through, "parts.pack.cell.resistance_mohm", "the resistance of the cells"))
    return min(found)


def allowed_pack_current(build: Build) -> float | None:
    """A that the drive may draw from the pack: as settings and controllers say; else what they can make flow.

    None without a controller. A protection board is not counted: it disconnects, and holds nothing back.
    """
    limits = pack_current_limits(build)
    limits.pop("parts.pack.protection.max_discharge_a", None)
    if limits:
        return min(limits.values())
    possible = possible_pack_current(build)
    return possible.current if possible is not None else None


def motor_current_allowed(build: Build) -> float | None:
    """A that settings and controller let into one motor; None where neither says."""
    controller = build.parts.controller
    said = (acting(build).motor_current_a, controller.max_motor_current_a if controller else None)
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
    return full_voltage(pack) * motors.kv_rpm_per_v * (motors.pole_pairs or USUAL["motors.pole_pairs"])


def reads_fast(build: Build) -> float | None:
    """The speed that the controller reckons over the true one; None where it does not say by what it reckons.

    It counts electrical turns: a pole pair count, gear ratio or wheel that is not the board's makes it read wrong.
    """
    said, parts = build.settings, build.parts
    if said.pole_pairs is None and said.gear_ratio is None and said.wheel_diameter_mm is None:
        return None
    factor = 1.0
    if said.pole_pairs is not None and parts.motors is not None and parts.motors.pole_pairs is not None:
        factor *= parts.motors.pole_pairs / said.pole_pairs
    if said.gear_ratio is not None and gear_known(build):
        factor *= gear_ratio(build) / said.gear_ratio
    rolling = rolling_diameter(build)
    if said.wheel_diameter_mm is not None and rolling is not None:
        factor *= said.wheel_diameter_mm / rolling
    return factor


def gear_known(build: Build) -> bool:
    """Whether the build says how many turns of the motor make one of the wheel."""
    drive = build.parts.drive
    teeth = drive is not None and drive.motor_teeth is not None and drive.wheel_teeth is not None
    return drive_kind(build) in ("hub", "direct") or teeth


def rolling_diameter(build: Build) -> float | None:
    """mm that the loaded wheel rolls on, for the speed over ground; None without wheels."""
    wheels = build.parts.wheels
    if wheels is None or wheels.diameter_mm is None:
        return None
    return wheels.diameter_mm * material_of(wheels).loaded_radius


def electrical_speed_limits(build: Build) -> dict[str, float]:
    """Everything that ends the motor's speed, erpm, by field: the controller, its ceiling, and the cap on road speed."""
    parts, said, limits = build.parts, acting(build), {}
    if parts.controller is not None and parts.controller.max_erpm is not None:
        limits["parts.controller.max_erpm"] = parts.controller.max_erpm
    if said.max_erpm is not None:
        limits["settings.max_erpm"] = said.max_erpm
    rolling = rolling_diameter(build)
    if said.speed_cap_kmh is not None and rolling is not None and gear_known(build):
        # The controller caps what it reckons: where it reads fast, the board is held below the cap.
        metres = said.speed_cap_kmh / 3.6 / (reads_fast(build) or 1.0)
        turns = metres / (pi * rolling / 1000.0) * 60.0
        pairs = (parts.motors.pole_pairs if parts.motors else None) or USUAL["motors.pole_pairs"]
        limits["settings.speed_cap_kmh"] = turns * gear_ratio(build) * pairs
    return limits


def named(build: Build, limit: Limit) -> Limit:
    """The limit's name, or the speed cap's where it is the cap that ends the motor's speed."""
    limits = electrical_speed_limits(build)
    capped = (
        limit == "electrical speed" and min(limits, key=lambda f: limits[f], default="") == "settings.speed_cap_kmh"
    )
    return "speed cap" if capped else limit


def ramped(build: Build) -> float:
    """Share of the first second's thrust that the throttle ramp leaves: a current that rises evenly over the ramp's time."""
    ramp = acting(build).ramp_s or 0.0
    return 1.0 - ramp / 2.0 if ramp <= 1.0 else 1.0 / (2.0 * ramp)


def brake_current_limit(build: Build, motor_current: float) -> float:
    """A of one motor when braking: as set, but never above what the controller gives."""
    set_to, controller = acting(build).motor_brake_a, build.parts.controller
    most = (controller.max_motor_current_a if controller else None) or motor_current
    return max(min(set_to if set_to is not None else motor_current, most), 1e-3)


def regen_current_limit(build: Build) -> float:
    """A that braking may put into the pack: as set (times controllers), else what the cells may be charged with."""
    pack = build.parts.pack or Pack()
    set_to = acting(build).pack_regen_a
    if set_to is not None:
        return max(set_to * controllers(build), 1e-3)
    return cell_charge_rating(pack).value * (pack.parallel or 1)


def recommended_taper(pack: Pack) -> tuple[float, float]:
    """Pack voltages between which a controller should hold back: where it begins, where it gives nothing more.

    Also what is taken where nothing is set. By the chemistry, above the cells' own empty voltage.
    """
    series, usual = pack.series or 0, chemical_of(pack.cell)
    full, _, empty = cell_voltages(pack)
    quarter = (full - empty) / 4.0  # for cells with hardly any span between empty and full
    end = empty + min(usual.taper_above_empty_v, quarter)
    return round(series * (end + min(usual.taper_span_v, quarter)), 1), round(series * end, 1)


@once_for_variations
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


_BEARERS = {
    "parts.pack.cell.max_discharge_a": "the cells",
    "parts.pack.protection.max_discharge_a": "the BMS",
    "parts.fuse.a": "the fuse",
    "parts.wiring.awg": "the wire",
    "parts.wiring.connector_max_a": "the plugs",
    "parts.switch.max_a": "the switch",
}


def motor_current_ceiling(build: Build) -> tuple[float, str]:
    """A that one motor and its controller both bear, and which of the two is the lower."""
    motors, controller = build.parts.motors or Motors(), build.parts.controller
    guess = motors.max_current_a is None
    motor = motors.max_current_a or motor_current(motors).value
    given = controller.max_motor_current_a if controller else None
    if given is not None and given < motor:
        return given, "the controller gives no more"
    return motor, "the motor bears no more" + (", by its size and KV; it does not say" if guess else "")


def pack_current_ceiling(build: Build) -> tuple[float, str]:
    """A that one controller may draw: the weakest part of the path shared by all controllers, and the controller itself."""
    controller = build.parts.controller
    units = controllers(build)
    ratings = path_ratings(build)
    field = min(ratings, key=lambda f: ratings[f])
    share, own = ratings[field] / units, controller.max_pack_current_a if controller else None
    if own is not None and own < share:
        return own, "the controller bears no more"
    shared = f"; {units} controllers share it" if units > 1 else ""
    return share, f"{_BEARERS[field]} bear{'' if _BEARERS[field].endswith('s') else 's'} no more{shared}"


def charging_ceiling(build: Build) -> tuple[float, str]:
    """A that one controller may push into the pack when braking."""
    pack, units = build.parts.pack or Pack(), controllers(build)
    most, word = cell_charge_rating(pack).value * (pack.parallel or 1), "the cells may not be charged with more"
    guard = pack.protection
    if guard is not None and guard.in_drive_path and guard.max_charge_a is not None and guard.max_charge_a < most:
        most, word = guard.max_charge_a, "the BMS disconnects above it, and the brake is gone"
    return most / units, word + (f"; {units} controllers share it" if units > 1 else "")
