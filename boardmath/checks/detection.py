"""What the controller detected of the motors against what was stated, and the motors against each other."""

from collections.abc import Iterator

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers, directions_for, motors_each, turned_round
from boardmath.buildfile.settings import Detected
from boardmath.checks.finding import Choice, Finding, Fix, finding, fix
from boardmath.messages import message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import RPM
from boardmath.physics.motor import kv_from_flux_linkage

KV_OFF, RESISTANCE_OFF, UNALIKE = 0.1, 0.35, 0.12
"""Shares: beyond the spread of stated KV, of stated resistance with leads and joints, of two motors of one kind (practice)."""


def detected_kv(build: Build, found: Detected) -> float | None:
    """rpm per volt out of the flux linkage; None where it was not found."""
    if found.flux_linkage_mwb is None:
        return None
    pairs = (build.parts.motors.pole_pairs if build.parts.motors else None) or USUAL["motors.pole_pairs"]
    return float(kv_from_flux_linkage(found.flux_linkage_mwb / 1000.0, pairs)) / RPM


def _mean(values: list[float]) -> float | None:
    return sum(values) / len(values) if values else None


def measured_figures(build: Build) -> dict[str, Choice]:
    """The motor's figures as detected, the mean of all motors, ready to be taken as measured; empty once they are."""
    motors = build.parts.motors
    if motors is None:
        return {}
    kv = _mean([v for d in build.detected or [] if (v := detected_kv(build, d)) is not None])
    resistance = _mean([d.resistance_mohm for d in build.detected or [] if d.resistance_mohm is not None])
    changes: dict[str, Choice] = {}
    if kv is not None:
        changes["parts.motors.kv_rpm_per_v"] = round(kv, 1)
    if resistance is not None:
        changes["parts.motors.phase_resistance_mohm"] = round(resistance, 2)
        changes["parts.motors.resistance_is"] = "line_to_neutral"
    keys = [key.rsplit(".", 1)[1] for key in changes if not key.endswith("resistance_is")]
    if all(getattr(motors, k) == changes[f"parts.motors.{k}"] and k in (motors.measured or []) for k in keys):
        return {}
    changes["parts.motors.measured"] = sorted({*(motors.measured or []), *keys})
    return changes


def far_from_stated(build: Build) -> Iterator[Finding]:
    """A detection that is not of the motor that was stated, or one to be taken as measured."""
    motors, changes = build.parts.motors, measured_figures(build)
    if motors is None or not changes:
        return
    kv, resistance = changes.get("parts.motors.kv_rpm_per_v"), changes.get("parts.motors.phase_resistance_mohm")
    taken = [fix("Use the detected value as measured", changes)]
    fields = ["parts.motors.kv_rpm_per_v", "parts.motors.phase_resistance_mohm"]
    about = ["motors", "controller", "settings"]
    stated_kv, stated = motors.kv_rpm_per_v, motors.phase_resistance_mohm
    if stated is not None and motors.resistance_is == "line_to_line":
        stated /= 2.0
    if isinstance(kv, float) and stated_kv is not None and abs(kv / stated_kv - 1.0) > KV_OFF:
        yield finding(
            kind="detected-kv",
            severity="warn",
            title="The detected motor is not the stated one",
            about=about,
            fields=fields,
            message=message(
                "Its flux linkage gives {found}, stated are {stated}: either it has another winding or its pole "
                "pairs are set wrong. Speed and torque change with it.",
                found=(kv, "motor_constant"),
                stated=(stated_kv, "motor_constant"),
            ),
            fixes=taken,
        )
    elif isinstance(resistance, float) and stated is not None and abs(resistance / stated - 1.0) > RESISTANCE_OFF:
        ratio = resistance / stated
        why = (
            "about twice or half: one value is line to line, the other line to neutral."
            if 0.42 < ratio < 0.58 or 1.7 < ratio < 2.4
            else "another winding, a bad solder joint, or leads that are far too thin."
        )
        yield finding(
            kind="detected-resistance",
            severity="warn",
            title="Detected and stated resistance differ",
            about=about,
            fields=fields,
            message=message(
                "Detected {found}, stated {stated}: " + why,
                found=(resistance, "resistance"),
                stated=(stated, "resistance"),
            ),
            fixes=taken,
        )
    else:
        yield finding(
            kind="detected-to-take",
            severity="note",
            title="Detection agrees with what you stated",
            about=about,
            fields=fields,
            message=message("Use the detected values as measured: that narrows speed, hill and range."),
            fixes=taken,
        )


SIX_STEPS = 6


def halls_of_a_motor(order: list[int]) -> bool:
    """Whether sensors 120 degrees apart say ``order`` through one electrical turn: six states, one wire at a time."""
    if len(order) != SIX_STEPS or set(order) != {1, 2, 3, 4, 5, 6}:
        return False
    return all((a ^ b).bit_count() == 1 for a, b in zip(order, [*order[1:], order[0]], strict=True))


def sensors_and_turning(build: Build) -> Iterator[Finding]:
    """Hall sensors that miss a wire, and a motor that turned the wrong way."""
    mode, round_ = build.settings.sensor_mode, turned_round(build)
    for i, found in enumerate(build.detected or ()):
        number, field = i + 1, f"detected.{i}"
        if found.halls is not None and not halls_of_a_motor(found.halls):
            stuck = [w + 1 for w in range(3) if len({(h >> w) & 1 for h in found.halls}) == 1]
            wire = (
                f"sensor wire {stuck[0]} never changes"
                if len(stuck) == 1
                else "their order is not one a motor can have"
            )
            yield finding(
                kind="detected-halls",
                of=str(number),
                severity="stop" if mode != "sensorless" else "warn",
                title=message("Motor {number}: a Hall sensor wire is faulty", number=number),
                about=["motors", "controller", "settings"],
                fields=[f"{field}.halls"],
                message=message(
                    "Over one electrical turn the sensors report {states}: {wire}. The motor stutters or stands still. "
                    "Check the plug and its pins, then detect again.",
                    states=", ".join(map(str, found.halls)),
                    wire=wire,
                ),
                fixes=[fix("Run without sensors until it is fixed", {"settings.sensor_mode": "sensorless"})]
                if mode != "sensorless"
                else [],
            )
        if found.turned is not None and i < len(round_) and (found.turned == "backward") != round_[i]:
            yield finding(
                kind="detected-turned",
                of=str(number),
                severity="stop",
                title=message("Motor {number} turns the wrong way", number=number),
                about=["motors", "settings"],
                fields=[f"{field}.turned", "settings.directions"],
                message=message(
                    "When told to go forward it turned its wheel {turned}, with the direction set to {direction}: "
                    "this wheel drives the board backwards. Change the direction or swap any two of its phase wires, "
                    "then test with the wheels in the air.",
                    turned=found.turned,
                    direction="reversed" if round_[i] else "normal",
                ),
                fixes=_set_right(build),
            )


def _set_right(build: Build) -> list[Fix]:
    """The directions by which every motor that was detected drives forward; none where a controller cannot set that."""
    own, turned = motors_each(build), [d.turned for d in build.detected or () if d.turned is not None]
    if len(turned) != own * controllers(build):
        return []
    wanted = [directions_for(turned[i : i + own]) for i in range(0, len(turned), own)]
    first, *further = wanted
    if first is None or None in further:
        return []
    changes: dict[str, Choice] = {"settings.directions": first}
    changes |= {f"settings_apart.{i}.directions": w for i, w in enumerate(further) if w is not None}
    said = first if not further else " and ".join(str(w) for w in wanted)
    return [fix(f"Set the direction {said}" if own == 1 and not further else f"Set the directions {said}", changes)]


def motors_unalike(build: Build) -> Iterator[Finding]:
    """Two motors of one kind that are not alike."""
    found = build.detected or []
    for key, word, weaker in (("flux_linkage_mwb", "flux linkage", min), ("resistance_mohm", "resistance", max)):
        values = [(v, i) for i, d in enumerate(found, 1) if (v := getattr(d, key)) is not None]
        if len(values) < 2 or max(values)[0] / min(values)[0] - 1.0 <= UNALIKE:
            continue
        which, quantity = weaker(values)[1], key.rsplit("_", 1)[0]
        yield finding(
            kind="motors-unalike",
            of=quantity.replace("_", "-"),
            severity="warn",
            title="The two motors differ",
            about=["motors", "settings"],
            fields=[f"detected.{which - 1}.{key}"],
            message=message(
                "Their {word} is {low} and {high}. Motor {which} is the weaker one: another winding, a weak "
                "magnet or a bad joint. The board will pull to one side.",
                low=(min(values)[0], quantity),
                high=(max(values)[0], quantity),
                word=word,
                which=which,
            ),
        )
