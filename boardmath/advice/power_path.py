"""The drive current on its way: protection board, fuse, wire, plugs, switch, controller, motor; and the charging current."""

from collections.abc import Iterator

from boardmath.advice.finding import Choice, Cure, Finding, Severity, cure, finding, less_pack_current
from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.electrics import Pack
from boardmath.inputs import cell_capacity, cell_charge_rating, cell_voltages, full_voltage
from boardmath.limits import allowed_pack_current, motor_current_allowed, recommended_taper, unloaded_electrical_speed
from boardmath.physics.wire import ampacity
from boardmath.saying import say

_GAUGES = (14.0, 12.0, 10.0, 8.0, 6.0)
"""AWG of silicone wire that is sold for it, thin to thick (from memory)."""


def _taper(pack: Pack) -> Cure:
    start, end = recommended_taper(pack)
    changes: dict[str, Choice] = {"settings.taper_end_v": end, "settings.taper_start_v": start}
    return cure("End the taper at {end}", changes, end=(end, "voltage"))


def protection_current(build: Build) -> Iterator[Finding]:
    """The allowed pack current against a protection board that carries it."""
    pack, allowed = build.parts.pack, allowed_pack_current(build)
    guard = pack.protection if pack else None
    if guard is None or allowed is None or guard.max_discharge_a is None or not guard.in_drive_path:
        return
    if allowed > guard.max_discharge_a:
        yield finding(
            "protection-current", "danger", "The protection board opens under load", ["pack", "controller", "settings"],
            ["settings.pack_current_a", "parts.pack.protection.max_discharge_a"],
            say("{allowed} may be drawn through a protection board rated for {most}. When it opens, drive and brake are gone at "
                "once. Set the pack current below it, or take the drive current around the board.",
                allowed=(allowed, "current"), most=(guard.max_discharge_a, "current")),
            less_pack_current(build, guard.max_discharge_a),
        )  # fmt: skip


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
        "no-cut-off", "danger", "Nothing stops an empty pack", ["pack", "controller", "settings"],
        ["settings.taper_end_v", "parts.pack.protection.in_drive_path"],
        say("No protection board stands in the drive's path and no cut-off is set: the cells are empty at {empty} together and "
            "are ruined, or burn, below it. Set the controller's taper to end at {end} or above.",
            empty=(empty, "voltage"), end=(end, "voltage")),
        [_taper(pack)],
    )  # fmt: skip


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
        "cut-off-too-low", "danger", "The cut-off is below what the cells bear", ["pack", "settings"],
        ["settings.taper_end_v", "parts.pack.cell.empty_v"],
        say(f"The taper ends at {{end}}, {{each}} a cell; {chemistry} cells are empty at {{empty}}. Below it they swell, and can "
            "burn when charged again.",
            end=(end, "voltage"), each=(end / pack.series, "voltage"), empty=(cell_empty, "voltage")),
        [_taper(pack)],
    )  # fmt: skip


def fuse_and_wire(build: Build) -> Iterator[Finding]:
    """The fuse against the wire that it guards, and against the current that it has to let through."""
    fuse, wiring, allowed = build.parts.fuse, build.parts.wiring, allowed_pack_current(build)
    if fuse is None or fuse.a is None:
        return
    if wiring is not None and wiring.awg is not None and fuse.a > (bears := float(ampacity(wiring.awg))):
        yield finding(
            "fuse-wire", "danger", "The fuse outlives the wire", ["fuse", "wiring"], ["parts.fuse.a", "parts.wiring.awg"],
            say(f"The fuse melts above {{fuse}}; {wiring.awg:g} AWG in a closed box bears about {{bears}} for long. In a short "
                "the wire burns first. A smaller fuse, or thicker wire.",
                fuse=(fuse.a, "current"), bears=(bears, "current")),
            [cure(f"Take {thicker:g} AWG wire", {"parts.wiring.awg": thicker})
             for thicker in _GAUGES if float(ampacity(thicker)) >= fuse.a][:1],
        )  # fmt: skip
    if allowed is not None and allowed > fuse.a:
        yield finding(
            "fuse-current", "warn", "The fuse melts under full load", ["fuse", "settings", "controller"],
            ["parts.fuse.a", "settings.pack_current_a"],
            say("{allowed} may be drawn through a fuse of {fuse}. When it melts on a hill, drive and brake are gone.",
                allowed=(allowed, "current"), fuse=(fuse.a, "current")),
            less_pack_current(build, fuse.a),
        )  # fmt: skip


def wire_current(build: Build) -> Iterator[Finding]:
    """The allowed current against wire and its plugs."""
    wiring, allowed = build.parts.wiring, allowed_pack_current(build)
    if wiring is None or allowed is None:
        return
    if wiring.awg is not None and allowed > (bears := float(ampacity(wiring.awg))):
        yield finding(
            "wire-current", "danger" if allowed > 1.5 * bears else "warn", "More current than the wire bears",
            ["wiring", "settings", "controller"], ["parts.wiring.awg", "settings.pack_current_a"],
            say(f"{{allowed}} may be drawn; {wiring.awg:g} AWG in a closed box bears about {{bears}} for long. Insulation "
                "softens beside the cells. Thicker wire, or less pack current.",
                allowed=(allowed, "current"), bears=(bears, "current")),
            [cure(f"Take {g:g} AWG wire", {"parts.wiring.awg": g}) for g in _GAUGES if float(ampacity(g)) >= allowed][:1],
        )  # fmt: skip
    if wiring.connector_max_a is not None and allowed > wiring.connector_max_a:
        yield finding(
            "connector-current", "warn", "More current than the plugs bear", ["wiring", "settings"],
            ["parts.wiring.connector_max_a", "settings.pack_current_a"],
            say("{allowed} may be drawn through plugs rated for {most}: they heat, and let go of their solder.",
                allowed=(allowed, "current"), most=(wiring.connector_max_a, "current")),
            less_pack_current(build, wiring.connector_max_a),
        )  # fmt: skip


def switch(build: Build) -> Iterator[Finding]:
    """The switch against pack voltage and drive current; and whether there is one."""
    part, pack, allowed = build.parts.switch, build.parts.pack, allowed_pack_current(build)
    if part is None or part.kind == "none":
        decided = part is not None
        if pack is not None and build.parts.controller is not None:
            yield finding(
                "no-disconnect", "danger" if decided else "warn", "No way to disconnect the pack", ["switch", "pack"],
                ["parts.switch.kind"],
                say("Nothing parts the pack from the controller: a fault, a crash or a wet box cannot be switched off, and the "
                    "controller drains the pack in storage. A loop plug costs little and you hold the key."),
                [cure("Take a loop plug", {"parts.switch.kind": "loop"})],
            )  # fmt: skip
        return
    if pack is not None and pack.series is not None and part.max_v is not None and full_voltage(pack) > part.max_v:
        yield finding(
            "switch-voltage", "danger", "Pack too high for the switch", ["switch", "pack"],
            ["parts.switch.max_v", "parts.pack.series"],
            say(f"{pack.series} cells are {{full}} when full; the switch stands {{most}}. Electronic ones fail closed: it no "
                "longer switches off.",
                full=(full_voltage(pack), "voltage"), most=(part.max_v, "voltage")),
        )  # fmt: skip
    if allowed is not None and part.max_a is not None and allowed > part.max_a:
        yield finding(
            "switch-current", "danger" if part.kind == "electronic" else "warn", "More current than the switch bears",
            ["switch", "settings"], ["parts.switch.max_a", "settings.pack_current_a"],
            say("{allowed} may be drawn through a switch rated for {most}. It overheats, and may cut out while riding.",
                allowed=(allowed, "current"), most=(part.max_a, "current")),
            less_pack_current(build, part.max_a),
        )  # fmt: skip


def motor_current(build: Build) -> Iterator[Finding]:
    """The current let into a motor against what it bears."""
    motors, allowed = build.parts.motors, motor_current_allowed(build)
    if motors is None or motors.max_current_a is None or allowed is None or allowed <= motors.max_current_a:
        return
    by_choice = build.settings.motor_current_a is not None
    yield finding(
        "motor-current", "warn", "More current than the motor bears", ["motors", "controller", "settings"],
        ["settings.motor_current_a", "parts.motors.max_current_a"],
        say(("{allowed} is set" if by_choice else "The controller gives up to {allowed}") + " for a motor that bears {most}; hot "
            "magnets lose their strength for good.",
            allowed=(allowed, "current"), most=(motors.max_current_a, "current")),
        [cure("Set the motor current to {most}", {"settings.motor_current_a": motors.max_current_a},
              most=(motors.max_current_a, "current"))],
    )  # fmt: skip


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
        "controller-motors", "stop", "Too few controllers for the motors", ["controller", "motors"],
        ["parts.controller.units", "parts.motors.count"],
        say(f"{wanted} motors, and {units} controller{'s' if units > 1 else ''} for {controller.motors} each."),
        [cure(f"Take {need} controllers", {"parts.controller.units": need})],
    )  # fmt: skip


def electrical_speed(build: Build) -> Iterator[Finding]:
    """Electrical speed with the wheels in the air against the controller's ceiling."""
    controller, speed = build.parts.controller, unloaded_electrical_speed(build)
    if controller is None or controller.max_erpm is None or speed is None or speed <= controller.max_erpm:
        return
    yield finding(
        "electrical-speed", "warn", "The motor turns faster than the controller follows", ["controller", "motors", "pack"],
        ["parts.controller.max_erpm", "parts.motors.kv_rpm_per_v"],
        say("Wheels in the air the motor reaches {speed}; the controller follows up to {most}. Above it the drive stutters or "
            "brakes by itself. A lower KV, fewer cells, or a faster controller.",
            speed=(speed, "electrical_speed"), most=(controller.max_erpm, "electrical_speed")),
    )  # fmt: skip


def fixed_cells(build: Build) -> Iterator[Finding]:
    """A boxed controller's fixed cell count against the pack."""
    pack, controller = build.parts.pack, build.parts.controller
    if pack is None or pack.series is None or controller is None or controller.fixed_cells in (None, pack.series):
        return
    fixed = controller.fixed_cells or 0
    severity: Severity = "danger" if fixed < pack.series else "stop"
    consequence = "its cut-off comes far below empty" if fixed < pack.series else "it cuts off before the pack is used"
    yield finding(
        "fixed-cells", severity, f"Controller fixed at {fixed} cells, the pack has {pack.series}", ["controller", "pack"],
        ["parts.controller.fixed_cells", "parts.pack.series"],
        say(f"The controller is made for {fixed} cells and the pack has {pack.series}: {consequence}. Some have a solder jumper; "
            "otherwise another pack or another controller.",
        ),
    )  # fmt: skip


def plugs(build: Build) -> Iterator[Finding]:
    """Plugs that do not mate."""
    parts = build.parts
    pairs = (
        ("drive", "pack", parts.pack and parts.pack.plug, "parts.pack.plug",
         "controller", parts.controller and parts.controller.plug, "parts.controller.plug"),
        ("phase", "motors", parts.motors and parts.motors.plug, "parts.motors.plug",
         "controller", parts.controller and parts.controller.motor_plug, "parts.controller.motor_plug"),
        ("charging", "charger", parts.charger and parts.charger.plug, "parts.charger.plug",
         "pack", parts.pack and parts.pack.charge_plug, "parts.pack.charge_plug"),
    )  # fmt: skip
    for what, one, its, field, other, theirs, other_field in pairs:
        if its and theirs and its.casefold().strip() != theirs.casefold().strip():
            yield finding(
                f"plugs-{what}", "stop", f"The {what} plugs do not mate", [one, other], [field, other_field],
                say(f"{one.capitalize()}: {its}. {other.capitalize()}: {theirs}. Order the matching half and solder it before "
                    "the build stands still for it; one joint at a time, never two bare leads together."),
            )  # fmt: skip


def charging_current(build: Build) -> Iterator[Finding]:
    """The charger's current against cells and protection board."""
    pack, charger = build.parts.pack, build.parts.charger
    if pack is None or charger is None or charger.a is None:
        return
    rating = cell_charge_rating(pack)
    limits = {rating.field: rating.value * (pack.parallel or 1)}
    if pack.protection is not None and pack.protection.max_charge_a is not None:
        limits["parts.pack.protection.max_charge_a"] = pack.protection.max_charge_a
    tightest = min(limits, key=lambda f: limits[f])
    if charger.a <= limits[tightest]:
        return
    by_cells = tightest == rating.field
    yield finding(
        "charging-current", "danger" if by_cells else "warn", "The charger gives too much current", ["charger", "pack"],
        ["parts.charger.a", tightest],
        say("The charger gives {gives}; " + ("the cells may be charged with {most} together. They heat and can burn."
            if by_cells else "the protection board allows {most} and will cut the charge off."),
            gives=(charger.a, "current"), most=(limits[tightest], "current")),
    )  # fmt: skip


def unlike_bricks(build: Build) -> Iterator[Finding]:
    """Bricks in series of different capacity: the smallest is empty first and is driven below nothing."""
    pack = build.parts.pack
    if pack is None or pack.weakest_brick_ah is None:
        return
    full = cell_capacity(pack).value
    if pack.weakest_brick_ah >= 0.97 * full:
        return
    yield finding(
        "bricks-differ", "danger", "Bricks in series that differ", ["pack"],
        ["parts.pack.weakest_brick_ah", "parts.pack.cell.capacity_ah"],
        say("The smallest brick holds {least}, the others {full}: in series it is empty first and is driven on below its "
            "voltage, where it swells and can burn. Match the bricks, or ride by the smallest.",
            least=(pack.weakest_brick_ah, "charge"), full=(full, "charge")),
        [cure("Ride by the smallest: {least}", {"parts.pack.cell.capacity_ah": pack.weakest_brick_ah},
              least=(pack.weakest_brick_ah, "charge"))],
    )  # fmt: skip


def polymer_balance(build: Build) -> Iterator[Finding]:
    """Polymer bricks without anything that balances their cells."""
    pack, charger = build.parts.pack, build.parts.charger
    if pack is None or pack.cell is None or pack.cell.chemistry != "polymer" or pack.protection is not None:
        return
    if charger is None or charger.balance:
        return
    count = pack.series or 0
    yield finding(
        "polymer-balance", "danger", "Polymer cells without balance charging", ["pack", "charger"], ["parts.charger.balance"],
        say(f"{count} polymer cells in series without a protection board, on a charger that does not balance: they drift apart, "
            "and one of them is overcharged past {full}. Overcharged polymer burns. A balance charger, watched, on a surface "
            "that cannot burn.",
            full=(cell_voltages(pack)[0], "voltage")),
        [cure("The charger balances", {"parts.charger.balance": True})],
    )  # fmt: skip


def salvaged_cells(build: Build) -> Iterator[Finding]:
    """Salvaged cells that nobody measured."""
    pack = build.parts.pack
    cell = pack.cell if pack else None
    if cell is None or cell.origin != "salvaged" or "capacity_ah" in (cell.measured or ()):
        return
    groups = (pack.series if pack else None) or 0
    yield finding(
        "salvaged-unmeasured", "warn", "Salvaged cells, not measured", ["pack"],
        ["parts.pack.cell.measured", "parts.pack.cell.capacity_ah"],
        say(f"{groups} groups in series are as good as the weakest, and salvaged cells vary: {{said}} is what was said of them. "
            "Measure each cell's capacity and rest voltage, match the groups, and retire what is warm or swollen.",
            said=(cell_capacity(pack).value if pack else 0.0, "charge")),
    )  # fmt: skip
