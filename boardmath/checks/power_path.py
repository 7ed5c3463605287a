"""The drive current on its way: protection board, fuse, wire, plugs, switch, controller, motor; and the charging current."""

from collections.abc import Iterator

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers
from boardmath.checks.finding import Finding, Severity, bearing, can_be_set, finding, fix, less_pack_current, taper_of
from boardmath.geometry.cell_links import drive_current
from boardmath.messages import counted, message
from boardmath.model.bricks import charged_parallel
from boardmath.model.inputs import cell_charge_rating, cell_voltages, full_voltage
from boardmath.model.limits import (
    allowed_pack_current,
    motor_current_allowed,
    recommended_taper,
    unloaded_electrical_speed,
)
from boardmath.physics.wire import GAUGES, ampacity

_GAUGES = tuple(g for g in GAUGES if g <= 14.0)
"""AWG of those that are taken for the drive, thin to thick."""


def protection_current(build: Build) -> Iterator[Finding]:
    """The allowed pack current against a protection board that carries it."""
    pack, allowed = build.parts.pack, allowed_pack_current(build)
    guard = pack.protection if pack else None
    if guard is None or allowed is None or guard.max_discharge_a is None or not guard.in_drive_path:
        return
    if allowed > guard.max_discharge_a:
        yield finding(
            kind="protection-current",
            severity="danger",
            title="The BMS disconnects under load",
            about=["pack", "controller", "settings"],
            fields=["settings.pack_current_a", "parts.pack.protection.max_discharge_a"],
            message=message(
                "{allowed} may be drawn through a BMS rated for {most}. When it disconnects, drive and brakes "
                "are gone at once. Set the pack current below that, or bypass the BMS for the drive.",
                allowed=(allowed, "current"),
                most=(guard.max_discharge_a, "current"),
            ),
            fixes=less_pack_current(
                build,
                guard.max_discharge_a,
                bearing(build, "parts.pack.protection.max_discharge_a", "a BMS", allowed),
            ),
        )


STANDARD_FUSES = (10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0, 125.0, 150.0, 200.0)
"""A, of blade and bolt-in fuses (from memory)."""


def no_fuse(build: Build) -> Iterator[Finding]:
    """Nothing that parts the cells from a short: no fuse, and no protection board in the drive's path."""
    pack, wiring = build.parts.pack, build.parts.wiring
    if pack is None or pack.series is None or build.parts.controller is None or build.parts.fuse is not None:
        return
    guard = pack.protection
    if guard is not None and guard.in_drive_path is not False:
        return
    allowed = allowed_pack_current(build) or 0.0
    bears = ampacity(wiring.awg) if wiring is not None and wiring.awg is not None else float("inf")
    fits = [a for a in STANDARD_FUSES if max(allowed, 1.0) <= a <= bears]
    yield finding(
        kind="no-fuse",
        severity="danger" if build.stage in ("building", "riding") else "warn",
        title="Nothing stops a short circuit",
        about=["fuse", "pack"],
        fields=["parts.fuse.a", "parts.pack.protection.in_drive_path"],
        message=message(
            "There is no fuse, and no BMS in the drive path: a chafed wire or a dropped spanner draws hundreds "
            "of amperes from {volts} until something burns. Put a fuse close to the pack, no larger than its "
            "wire bears.",
            volts=(full_voltage(pack), "voltage"),
        ),
        fixes=[fix("Add a fuse of {a}", {"parts.fuse.a": fits[0]}, a=(fits[0], "current"))] if fits else (),
    )


def only_guard(build: Build) -> Iterator[Finding]:
    """A protection board for charging only, and no cut-off set in the controller."""
    pack, controller = build.parts.pack, build.parts.controller
    if pack is None or pack.series is None or controller is None or controller.programmable is False:
        return
    bypassed = pack.protection is None or pack.protection.in_drive_path is False
    if not bypassed or build.settings.taper_end_v is not None:
        return
    empty = pack.series * cell_voltages(pack)[2]
    end = recommended_taper(pack)[1]
    yield finding(
        kind="no-cut-off",
        severity="danger",
        title="Nothing protects an empty pack",
        about=["pack", "controller", "settings"],
        fields=["settings.taper_end_v", "parts.pack.protection.in_drive_path"],
        message=message(
            "There is no BMS in the drive path and no cut-off is set. Below {empty} the cells are ruined, and "
            "can burn. Set the controller's cut-off to end at {end} or above.",
            empty=(empty, "voltage"),
            end=(end, "voltage"),
        ),
        fixes=[taper_of(pack)],
    )


def cut_off_too_low(build: Build) -> Iterator[Finding]:
    """A cut-off below what the cells bear."""
    pack, end = build.parts.pack, build.settings.taper_end_v
    if pack is None or pack.series is None or end is None:
        return
    cell_empty = cell_voltages(pack)[2]
    if end >= pack.series * cell_empty - 0.05:
        return
    chemistry = (pack.cell.chemistry if pack.cell else None) or "these"
    yield finding(
        kind="cut-off-too-low",
        severity="danger",
        title="The cut-off is below the cells' minimum",
        about=["pack", "settings"],
        fields=["settings.taper_end_v", "parts.pack.cell.empty_v"],
        message=message(
            "The cut-off ends at {end}, {each} a cell; {chemistry} cells are empty at {empty}. Below it "
            "they swell, and can burn when charged again.",
            end=(end, "voltage"),
            each=(end / pack.series, "voltage"),
            empty=(cell_empty, "voltage"),
            chemistry=chemistry,
        ),
        fixes=[taper_of(pack)],
    )


def fuse_and_wire(build: Build) -> Iterator[Finding]:
    """The fuse against the wire that it guards, and against the current that it has to let through."""
    fuse, wiring, allowed = build.parts.fuse, build.parts.wiring, allowed_pack_current(build)
    if fuse is None or fuse.a is None:
        return
    if wiring is not None and wiring.awg is not None and fuse.a > (bears := float(ampacity(wiring.awg))):
        yield finding(
            kind="fuse-wire",
            severity="danger",
            title="Fuse too large for the wire",
            about=["fuse", "wiring"],
            fields=["parts.fuse.a", "parts.wiring.awg"],
            message=message(
                "The fuse melts above {fuse}; {awg} AWG in a closed enclosure bears about {bears}. In a short "
                "the wire burns first. Use a smaller fuse, or thicker wire.",
                fuse=(fuse.a, "current"),
                bears=(bears, "current"),
                awg=f"{wiring.awg:g}",
            ),
            fixes=[
                fix("Use {awg} AWG wire", {"parts.wiring.awg": thicker}, awg=f"{thicker:g}")
                for thicker in _GAUGES
                if float(ampacity(thicker)) >= fuse.a
            ][:1],
        )
    if allowed is not None and allowed > fuse.a:
        yield finding(
            kind="fuse-current",
            severity="warn",
            title="The fuse melts under full load",
            about=["fuse", "settings", "controller"],
            fields=["parts.fuse.a", "settings.pack_current_a"],
            message=message(
                "{allowed} may be drawn through a fuse of {fuse}. When it melts on a hill, drive and brakes are gone.",
                allowed=(allowed, "current"),
                fuse=(fuse.a, "current"),
            ),
            fixes=less_pack_current(build, fuse.a, bearing(build, "parts.fuse.a", "a fuse", allowed)),
        )


def wire_current(build: Build) -> Iterator[Finding]:
    """The allowed current against wire and its plugs."""
    wiring, allowed = build.parts.wiring, allowed_pack_current(build)
    if wiring is None or allowed is None:
        return
    if wiring.awg is not None and allowed > (bears := float(ampacity(wiring.awg))):
        yield finding(
            kind="wire-current",
            severity="danger" if allowed > 1.5 * bears else "warn",
            title="More current than the wire bears",
            about=["wiring", "settings", "controller"],
            fields=["parts.wiring.awg", "settings.pack_current_a"],
            message=message(
                "{allowed} may be drawn; {awg} AWG in a closed enclosure bears about {bears}. Its insulation "
                "softens beside the cells. Use thicker wire, or less pack current.",
                allowed=(allowed, "current"),
                bears=(bears, "current"),
                awg=f"{wiring.awg:g}",
            ),
            fixes=[
                fix("Use {awg} AWG wire", {"parts.wiring.awg": g}, awg=f"{g:g}")
                for g in _GAUGES
                if float(ampacity(g)) >= allowed
            ][:1],
        )
    if wiring.connector_max_a is not None and allowed > wiring.connector_max_a:
        yield finding(
            kind="connector-current",
            severity="warn",
            title="More current than the connectors bear",
            about=["wiring", "settings"],
            fields=["parts.wiring.connector_max_a", "settings.pack_current_a"],
            message=message(
                "{allowed} may be drawn through connectors rated for {most}: they get hot, and their solder "
                "joints fail.",
                allowed=(allowed, "current"),
                most=(wiring.connector_max_a, "current"),
            ),
            fixes=less_pack_current(
                build, wiring.connector_max_a, bearing(build, "parts.wiring.connector_max_a", "plugs", allowed)
            ),
        )


def switch(build: Build) -> Iterator[Finding]:
    """The switch against pack voltage and drive current; and whether there is one."""
    part, pack, allowed = build.parts.switch, build.parts.pack, allowed_pack_current(build)
    if part is None or part.kind == "none":
        decided = part is not None
        if pack is not None and build.parts.controller is not None:
            yield finding(
                kind="no-disconnect",
                severity="danger" if decided else "warn",
                title="No way to disconnect the pack",
                about=["switch", "pack"],
                fields=["parts.switch.kind"],
                message=message(
                    "Nothing disconnects the pack from the controller: you cannot switch it off after a fault, a "
                    "crash or water, and it drains in storage. A loop key costs little."
                ),
                fixes=[fix("Add a loop key", {"parts.switch.kind": "loop"})],
            )
        return
    if pack is not None and pack.series is not None and part.max_v is not None and full_voltage(pack) > part.max_v:
        yield finding(
            kind="switch-voltage",
            severity="danger",
            title="Pack voltage too high for the switch",
            about=["switch", "pack"],
            fields=["parts.switch.max_v", "parts.pack.series"],
            message=message(
                "{series} cells have {full} when full; the switch is rated for {most}. Electronic switches fail "
                "closed: it no longer switches off.",
                full=(full_voltage(pack), "voltage"),
                most=(part.max_v, "voltage"),
                series=pack.series,
            ),
        )
    if allowed is not None and part.max_a is not None and allowed > part.max_a:
        yield finding(
            kind="switch-current",
            severity="danger" if part.kind == "electronic" else "warn",
            title="More current than the switch bears",
            about=["switch", "settings"],
            fields=["parts.switch.max_a", "settings.pack_current_a"],
            message=message(
                "{allowed} may be drawn through a switch rated for {most}. It overheats, and may cut out while riding.",
                allowed=(allowed, "current"),
                most=(part.max_a, "current"),
            ),
            fixes=less_pack_current(build, part.max_a, bearing(build, "parts.switch.max_a", "a switch", allowed)),
        )


def motor_current(build: Build) -> Iterator[Finding]:
    """The current let into a motor against what it bears."""
    motors, allowed = build.parts.motors, motor_current_allowed(build)
    if motors is None or motors.max_current_a is None or allowed is None or allowed <= motors.max_current_a:
        return
    by_choice = build.settings.motor_current_a is not None
    yield finding(
        kind="motor-current",
        severity="warn",
        title="More current than the motor bears",
        about=["motors", "controller", "settings"],
        fields=["settings.motor_current_a", "parts.motors.max_current_a"],
        message=message(
            ("{allowed} is set" if by_choice else "The controller gives up to {allowed}")
            + " for a motor rated for {most}; magnets that get too hot lose their strength for good.",
            allowed=(allowed, "current"),
            most=(motors.max_current_a, "current"),
        ),
        fixes=[
            fix(
                "Set the motor current to {most}",
                {"settings.motor_current_a": motors.max_current_a},
                most=(motors.max_current_a, "current"),
            )
        ]
        if can_be_set(build)
        else (),
    )


def motor_power(build: Build) -> Iterator[Finding]:
    """What the pack can give each motor against the most that its maker states; makers' figures are peaks already."""
    motors, pack = build.parts.motors, build.parts.pack
    if motors is None or motors.max_power_w is None or pack is None or pack.series is None:
        return
    count = motors.count or 1
    current = drive_current(build).current
    given = current * full_voltage(pack) / count
    if given <= motors.max_power_w * 1.001:
        return
    yield finding(
        kind="motor-power",
        severity="warn",
        title="More power than the motor bears",
        about=["motors", "settings"],
        fields=["parts.motors.max_power_w", "settings.pack_current_a"],
        message=message(
            "{current} of a full pack are {given} for each motor; its maker states {most} at most. Held for long, that "
            "overheats the winding and weakens the magnets. Set less pack current.",
            current=(current, "current"),
            given=(given, "power"),
            most=(motors.max_power_w, "power"),
        ),
        fixes=less_pack_current(build, motors.max_power_w * count / full_voltage(pack)),
    )


def controllers_and_motors(build: Build) -> Iterator[Finding]:
    """As many motors as the controllers can drive."""
    motors, controller = build.parts.motors, build.parts.controller
    if motors is None or controller is None or controller.motors is None:
        return
    units, wanted = controllers(build), motors.count or 1
    if wanted <= units * controller.motors:
        return
    need = -(-wanted // controller.motors)
    yield finding(
        kind="controller-motors",
        severity="stop",
        title="Too few controllers for the motors",
        about=["controller", "motors"],
        fields=["parts.controller.units", "parts.motors.count"],
        message=message(
            "{motors} motors, and {controllers} for {each} motors each.",
            motors=wanted,
            controllers=counted(units, "controller"),
            each=controller.motors,
        ),
        fixes=[fix("Use {need} controllers", {"parts.controller.units": need}, need=need)],
    )


def electrical_speed(build: Build) -> Iterator[Finding]:
    """Electrical speed with the wheels in the air against the controller's ceiling."""
    controller, speed = build.parts.controller, unloaded_electrical_speed(build)
    if controller is None or controller.max_erpm is None or speed is None or speed <= controller.max_erpm:
        return
    yield finding(
        kind="electrical-speed",
        severity="warn",
        title="Motor faster than the controller can follow",
        about=["controller", "motors", "pack"],
        fields=["parts.controller.max_erpm", "parts.motors.kv_rpm_per_v"],
        message=message(
            "Without load the motor reaches {speed}; the controller follows up to {most}. Above that the drive "
            "stutters or brakes by itself. Use a lower KV, fewer cells in series, or a faster controller.",
            speed=(speed, "electrical_speed"),
            most=(controller.max_erpm, "electrical_speed"),
        ),
    )


def fixed_cells(build: Build) -> Iterator[Finding]:
    """A boxed controller's fixed cell count against the pack."""
    pack, controller = build.parts.pack, build.parts.controller
    if pack is None or pack.series is None or controller is None or controller.fixed_cells in (None, pack.series):
        return
    fixed = controller.fixed_cells or 0
    severity: Severity = "danger" if fixed < pack.series else "stop"
    consequence = "its cut-off comes far too late" if fixed < pack.series else "it cuts off before the pack is used up"
    yield finding(
        kind="fixed-cells",
        severity=severity,
        title=message("Controller for {fixed} cells, pack has {series}", fixed=fixed, series=pack.series),
        about=["controller", "pack"],
        fields=["parts.controller.fixed_cells", "parts.pack.series"],
        message=message(
            "The controller is made for {fixed} cells and the pack has {series}: {consequence}. Some have a "
            "solder jumper; otherwise use another pack or controller.",
            fixed=fixed,
            series=pack.series,
            consequence=consequence,
        ),
    )


def plugs(build: Build) -> Iterator[Finding]:
    """Plugs that do not mate."""
    parts = build.parts
    pairs = (
        (
            "drive",
            "pack",
            parts.pack and parts.pack.plug,
            "parts.pack.plug",
            "controller",
            parts.controller and parts.controller.plug,
            "parts.controller.plug",
        ),
        (
            "phase",
            "motors",
            parts.motors and parts.motors.plug,
            "parts.motors.plug",
            "controller",
            parts.controller and parts.controller.motor_plug,
            "parts.controller.motor_plug",
        ),
        (
            "charging",
            "charger",
            parts.charger and parts.charger.plug,
            "parts.charger.plug",
            "pack",
            parts.pack and parts.pack.charge_plug,
            "parts.pack.charge_plug",
        ),
    )
    for what, one, its, field, other, theirs, other_field in pairs:
        if its and theirs and its.casefold().strip() != theirs.casefold().strip():
            yield finding(
                kind="plugs",
                of=what,
                severity="stop",
                title=message("The {what} plugs do not fit each other", what=what),
                about=[one, other],
                fields=[field, other_field],
                message=message(
                    "{one}: {its}. {other}: {theirs}. Order the matching half in time and solder it: one joint at a "
                    "time, never two bare leads together.",
                    one=one.capitalize(),
                    its=its,
                    other=other.capitalize(),
                    theirs=theirs,
                ),
            )


def charging_current(build: Build) -> Iterator[Finding]:
    """The charger's current against cells and protection board."""
    pack, charger = build.parts.pack, build.parts.charger
    if pack is None or charger is None or charger.a is None:
        return
    rating = cell_charge_rating(pack)
    limits = {rating.field: rating.value * charged_parallel(build)}
    if pack.protection is not None and pack.protection.max_charge_a is not None:
        limits["parts.pack.protection.max_charge_a"] = pack.protection.max_charge_a
    tightest = min(limits, key=lambda f: limits[f])
    if charger.a <= limits[tightest]:
        return
    by_cells = tightest == rating.field
    yield finding(
        kind="charging-current",
        severity="danger" if by_cells else "warn",
        title="Charging current too high",
        about=["charger", "pack"],
        fields=["parts.charger.a", tightest],
        message=message(
            "The charger gives {gives}; "
            + (
                "the cells may be charged with {most} together. They get hot and can burn."
                if by_cells
                else "the BMS allows {most} and will stop the charge."
            ),
            gives=(charger.a, "current"),
            most=(limits[tightest], "current"),
        ),
    )
