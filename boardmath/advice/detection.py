"""What the controller detected of the motors against what was stated, and the motors against each other."""

from collections.abc import Iterator

from boardmath.advice.finding import Choice, Finding, cure, finding
from boardmath.buildfile.build import Build
from boardmath.buildfile.settings import Detected
from boardmath.inputs import RPM, USUAL_POLE_PAIRS
from boardmath.physics.motor import kv_from_flux_linkage
from boardmath.saying import say

KV_OFF, RESISTANCE_OFF, UNALIKE = 0.1, 0.35, 0.12
"""Shares: beyond the spread of stated KV, of stated resistance with leads and joints, of two motors of one kind (practice)."""


def detected_kv(build: Build, found: Detected) -> float | None:
    """rpm per volt out of the flux linkage; None where it was not found."""
    if found.flux_linkage_mwb is None:
        return None
    pairs = (build.parts.motors.pole_pairs if build.parts.motors else None) or USUAL_POLE_PAIRS
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
    taken = [cure("Take what was found as measured", changes)]
    fields = ["parts.motors.kv_rpm_per_v", "parts.motors.phase_resistance_mohm"]
    about = ["motors", "controller", "settings"]
    stated_kv, stated = motors.kv_rpm_per_v, motors.phase_resistance_mohm
    if stated is not None and motors.resistance_is == "line_to_line":
        stated /= 2.0
    if isinstance(kv, float) and stated_kv is not None and abs(kv / stated_kv - 1.0) > KV_OFF:
        yield finding(
            "detected-kv", "warn", "The motor found is not the motor stated", about, fields,
            say("Its flux linkage makes {found}, stated are {stated}: another winding, or pole pairs that are not its own. "
                "Speed and torque change with it.", found=(kv, "motor_constant"), stated=(stated_kv, "motor_constant")),
            taken,
        )  # fmt: skip
    elif isinstance(resistance, float) and stated is not None and abs(resistance / stated - 1.0) > RESISTANCE_OFF:
        ratio = resistance / stated
        why = (
            "about twice or half of it: one of the two is line to line, the other line to neutral."
            if 0.42 < ratio < 0.58 or 1.7 < ratio < 2.4
            else "another winding, a joint that is not soldered through, or leads far too thin."
        )
        yield finding(
            "detected-resistance", "warn", "The resistance found is not the one stated", about, fields,
            say("Found {found}, stated {stated}: " + why, found=(resistance, "resistance"), stated=(stated, "resistance")),
            taken,
        )  # fmt: skip
    else:
        yield finding(
            "detected-to-take", "note", "What was detected can be taken as measured", about, fields,
            say("It fits what was stated. Taken as measured it narrows the bands of speed, hill and range."), taken,
        )  # fmt: skip


def motors_unalike(build: Build) -> Iterator[Finding]:
    """Two motors of one kind that are not alike."""
    found = build.detected or []
    for key, word, weaker in (("flux_linkage_mwb", "flux linkage", min), ("resistance_mohm", "resistance", max)):
        values = [(v, i) for i, d in enumerate(found, 1) if (v := getattr(d, key)) is not None]
        if len(values) < 2 or max(values)[0] / min(values)[0] - 1.0 <= UNALIKE:
            continue
        which, quantity = weaker(values)[1], key.rsplit("_", 1)[0]
        yield finding(
            f"motors-unalike-{quantity.replace('_', '-')}", "warn", "The motors are not alike", ["motors", "settings"],
            [f"detected.{which - 1}.{key}"],
            say(f"Their {word} is {{low}} and {{high}}. Motor {which} is the weaker one: another winding, a weak magnet, or a "
                "joint that does not carry. The board pulls to one side.",
                low=(min(values)[0], quantity), high=(max(values)[0], quantity)),
        )  # fmt: skip
