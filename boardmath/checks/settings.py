"""What is set in the controller against the board, the brief and the remote, beyond volts and amperes."""

from collections.abc import Iterator
from math import ceil

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import each_controller
from boardmath.buildfile.settings import Settings
from boardmath.checks.finding import Choice, Finding, finding, fix
from boardmath.messages import Message, message
from boardmath.model import estimate
from boardmath.model.inputs import full_voltage, gear_ratio
from boardmath.model.limits import (
    electrical_speed_limits,
    gear_known,
    reads_fast,
    rolling_diameter,
    unloaded_electrical_speed,
)

READS_WRONG = 0.02
"""Share of the speed that nobody notices: below it lies the wear of a wheel."""
DESCENT = 1.1
"""How far over its unloaded speed a steep descent on a full pack may drive a motor (from memory)."""
BEGINNERS_BRAKE_A = 5.0


def speed_reads_wrong(build: Build) -> Iterator[Finding]:
    """Pole pairs, gear ratio or wheel of the settings record that are not the board's."""
    factor, motors, said = reads_fast(build), build.parts.motors, build.settings
    if factor is None or abs(factor - 1.0) <= READS_WRONG:
        return
    changes: dict[str, Choice] = {}
    if said.pole_pairs is not None and motors is not None and motors.pole_pairs is not None:
        changes["settings.pole_pairs"] = motors.pole_pairs
    if said.gear_ratio is not None and gear_known(build):
        changes["settings.gear_ratio"] = round(gear_ratio(build), 3)
    if said.wheel_diameter_mm is not None:
        changes["settings.wheel_diameter_mm"] = round(rolling_diameter(build) or said.wheel_diameter_mm, 1)
    way = "fast" if factor > 1.0 else "slow"
    yield finding(
        kind="speed-reads-wrong",
        severity="warn",
        title=message("The controller reads the speed too {way}", way=way),
        about=["settings", "controller", "drive", "wheels"],
        fields=list(changes),
        message=message(
            "With its pole pairs, gear ratio and wheel size it reads {off} too {way}: at a real {true} it "
            "shows {says}. Speed cap, distance and consumption are wrong with it.",
            off=(abs(factor - 1.0) * 100.0, "share"),
            true=(20.0, "speed"),
            says=(20.0 * factor, "speed"),
            way=way,
        ),
        fixes=[fix("Set the board's real values", changes)],
    )


def cap_above_the_rule(build: Build) -> Iterator[Finding]:
    """A speed cap above the rule that the builder noted down, or above what the brief asks for."""
    cap, brief = build.settings.speed_cap_kmh, build.brief
    if cap is None:
        return
    rule = brief.local_speed_limit_kmh
    true = cap / (reads_fast(build) or 1.0)
    if rule is not None and true > rule * 1.005:
        yield finding(
            kind="cap-above-rule",
            severity="warn",
            title="The speed cap is above the rule you noted",
            about=["settings", "brief"],
            fields=["settings.speed_cap_kmh", "brief.local_speed_limit_kmh"],
            message=message(
                "The cap allows {true}; you noted {rule}. Rules differ from place to place: ask locally, and "
                "ride to them.",
                true=(true, "speed"),
                rule=(rule, "speed"),
            ),
            fixes=[fix("Cap it at {rule}", {"settings.speed_cap_kmh": rule}, rule=(rule, "speed"))],
        )
    elif brief.top_speed_kmh is not None and true < brief.top_speed_kmh * 0.995:
        yield finding(
            kind="cap-below-brief",
            severity="note",
            title="The speed cap is below the target",
            about=["settings", "brief"],
            fields=["settings.speed_cap_kmh"],
            message=message(
                "The cap is {true}; the target is {wanted}.",
                true=(true, "speed"),
                wanted=(brief.top_speed_kmh, "speed"),
            ),
        )


def quiet_cap_above_the_zone(build: Build) -> Iterator[Finding]:
    """A slow mode that is faster than the quiet zone noted in the brief."""
    cap, zone = build.settings.quiet_cap_kmh, build.brief.quiet_zone_kmh
    if cap is None or zone is None or cap / (reads_fast(build) or 1.0) <= zone * 1.005:
        return
    yield finding(
        kind="quiet-cap-above-zone",
        severity="warn",
        title="Slow mode too fast for the quiet zone",
        about=["settings", "brief"],
        fields=["settings.quiet_cap_kmh", "brief.quiet_zone_kmh"],
        message=message(
            "Its cap allows {true}; for the quiet zone you noted {zone}.",
            true=(cap / (reads_fast(build) or 1.0), "speed"),
            zone=(zone, "speed"),
        ),
        fixes=[fix("Cap it at {zone}", {"settings.quiet_cap_kmh": float(zone)}, zone=(zone, "speed"))],
    )


_OF_THEIR_OWN = {"directions"}
"""What controllers of one board may well differ in: two motors on one axle look at each other."""


def controllers_unalike(build: Build) -> Iterator[Finding]:
    """Controllers of one board that are not set alike: one pulls, brakes or cuts off where the other does not."""
    for number, state in enumerate(each_controller(build)[1:], 2):
        for key in Settings.model_fields:
            own, first = getattr(state, key), getattr(build.settings, key)
            if own is None or own == first or key in _OF_THEIR_OWN:
                continue
            title = Settings.model_fields[key].title or key
            grave = key in ("cells_in_series", "taper_end_v", "motor_brake_a", "fail_safe")
            yield finding(
                kind="unalike",
                of=f"{number}-{key.replace('_', '-')}",
                severity="stop" if grave else "warn",
                title="The controllers are set differently",
                about=["settings", "controller"],
                fields=[f"settings_apart.{number - 2}.{key}"],
                message=_against(title, key, number, own, first),
                fixes=[fix("Set it as on the first", {f"settings_apart.{number - 2}.{key}": first})]
                if first is not None
                else [],
            )


def _against(title: str, key: str, number: int, own: float | str, first: float | str | None) -> Message:
    spec = Settings.model_fields[key].json_schema_extra
    ends = " The board pulls or brakes to one side, and one controller reaches its limit first. Set both the same."
    if isinstance(own, int | float) and isinstance(first, int | float) and isinstance(spec, dict):
        quantity = str(spec["quantity"])
        return message(
            "{title}: {first} in the first, {own} in controller {number}." + ends,
            title=title,
            number=number,
            first=(first, quantity),
            own=(own, quantity),
        )
    return message(
        "{title}: {first} in the first, {own} in controller {number}." + ends,
        title=title,
        number=number,
        first="nothing" if first is None else str(first).replace("_", " "),
        own=str(own).replace("_", " "),
    )


def ceiling_on_a_descent(build: Build) -> Iterator[Finding]:
    """An electrical-speed ceiling that a descent reaches: there the controller brakes by itself."""
    ceiling, unloaded = build.settings.max_erpm, unloaded_electrical_speed(build)
    if ceiling is None or unloaded is None or ceiling >= unloaded * DESCENT:
        return
    follows = build.parts.controller.max_erpm if build.parts.controller else None
    if follows is not None and ceiling >= follows:
        return  # As high as it goes; that the controller is too slow for the motor is another finding.
    wanted = min(follows or 1e9, ceil(unloaded * DESCENT / 100.0) * 100.0)
    yield finding(
        kind="ceiling-on-a-descent",
        severity="warn",
        title="A steep descent reaches the speed ceiling",
        about=["settings", "controller", "motors"],
        fields=["settings.max_erpm"],
        message=message(
            "The ceiling is {ceiling}; on a full pack the motor reaches {unloaded} by itself, and more downhill. "
            "At the ceiling the controller brakes without being asked. Use a speed cap instead.",
            ceiling=(ceiling, "electrical_speed"),
            unloaded=(unloaded, "electrical_speed"),
        ),
        fixes=[
            fix(
                "Set the ceiling to {wanted}", {"settings.max_erpm": float(wanted)}, wanted=(wanted, "electrical_speed")
            )
        ],
    )


def braking_above_full(build: Build) -> Iterator[Finding]:
    """A braking ceiling above the full pack: braking at the top of a hill overcharges the cells."""
    ceiling, pack = build.settings.regen_ceiling_v, build.parts.pack
    if ceiling is None or pack is None or pack.series is None:
        return
    full = full_voltage(pack)
    if ceiling > full + 0.05:
        yield finding(
            kind="braking-above-full",
            severity="danger",
            title="Braking may overcharge the pack",
            about=["settings", "pack"],
            fields=["settings.regen_ceiling_v"],
            message=message(
                "Braking charges up to {ceiling}; {series} cells are full at {full}. Overcharged cells burn.",
                ceiling=(ceiling, "voltage"),
                full=(full, "voltage"),
                series=pack.series,
            ),
            fixes=[fix("End it at {full}", {"settings.regen_ceiling_v": round(full, 1)}, full=(full, "voltage"))],
        )


def heat_unguarded(build: Build) -> Iterator[Finding]:
    """Roll-back that begins where the damage does."""
    for name, title, most in (
        ("motor_rollback_c", "motor", estimate.WINDING_LIMIT_C),
        ("controller_rollback_c", "controller", estimate.CONTROLLER_LIMIT_C),
    ):
        begins = getattr(build.settings, name)
        if begins is not None and begins > most:
            yield finding(
                kind="late-rollback",
                of=title,
                severity="warn",
                title=message("The {title} is protected too late", title=title),
                about=["settings", "controller", "motors"],
                fields=[f"settings.{name}"],
                message=message(
                    "Thermal roll-back of the {title} starts at {begins}; it is damaged from {most}.",
                    begins=(begins, "temperature"),
                    most=(most, "temperature"),
                    title=title,
                ),
                fixes=[fix("Start at {lower}", {f"settings.{name}": most - 10.0}, lower=(most - 10.0, "temperature"))],
            )


def sensors_not_there(build: Build) -> Iterator[Finding]:
    """Hall sensors asked for that the motor does not have."""
    motors, mode = build.parts.motors, build.settings.sensor_mode
    if motors is None or motors.sensored is not False or mode in (None, "sensorless"):
        return
    yield finding(
        kind="no-hall-sensors",
        severity="stop",
        title="Hall sensors are set, the motor has none",
        about=["settings", "motors"],
        fields=["settings.sensor_mode"],
        message=message("The controller waits for sensors that are not there: the motor stutters or stands still."),
        fixes=[fix("Set it to run without sensors", {"settings.sensor_mode": "sensorless"})],
    )


def link_mismatch(build: Build) -> Iterator[Finding]:
    """The link that is set against the one that the receiver speaks."""
    remote, said = build.parts.remote, build.settings.remote_link
    if remote is None or remote.link is None or said is None or said == remote.link:
        return
    yield finding(
        kind="remote-link",
        severity="stop",
        title="The remote link is set wrong",
        about=["settings", "remote"],
        fields=["settings.remote_link", "parts.remote.link"],
        message=message(
            "The controller listens for a {said} link, the receiver uses {link}: nothing drives, and nothing brakes.",
            said=said,
            link=remote.link,
        ),
        fixes=[fix("Set {link}", {"settings.remote_link": remote.link}, link=remote.link)],
    )


def hardly_any_brake(build: Build) -> Iterator[Finding]:
    """A brake current with which the motors hold nothing."""
    brake = build.settings.motor_brake_a
    if brake is None or brake >= BEGINNERS_BRAKE_A:
        return
    yield finding(
        kind="no-brake",
        severity="danger",
        title="Almost no brake is set",
        about=["settings", "controller"],
        fields=["settings.motor_brake_a"],
        message=message(
            "The motors brake with {brake} each. On a slope that is no brake: only your foot is left.",
            brake=(brake, "current"),
        ),
    )


def caps_that_never_come(build: Build) -> Iterator[Finding]:
    """A cap on speed that cannot work, as the controller does not know how fast the board is."""
    if build.settings.speed_cap_kmh is None or "settings.speed_cap_kmh" in electrical_speed_limits(build):
        return
    yield finding(
        kind="cap-without-gearing",
        severity="note",
        title="The speed cap cannot be converted yet",
        about=["settings", "drive", "wheels"],
        fields=["settings.speed_cap_kmh"],
        message=message(
            "Pulleys and wheels are not chosen, so the cap cannot be converted into motor speed and is ignored."
        ),
    )
