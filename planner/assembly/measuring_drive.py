"""What was measured at the drive: screws, centres, the belt's line and tension.

Tolerances are common practice, no source, unless one stands beside them.
"""

from collections.abc import Mapping
from math import atan, degrees

from boardmath.buildfile.build import Build
from boardmath.geometry.belt import length as belt_length
from boardmath.geometry.fasteners import motor_screws, motor_thread
from boardmath.geometry.transmission import belt_path, pitch
from boardmath.messages import message
from planner.shared.facts import standing_at
from planner.shared.step import Change, Judged, Step

Values = Mapping[str, float]
TRUE_DEG = 0.25
"""Degrees between the planes of two toothed pulleys that belts are rated for (from memory: handbooks of belt drives)."""
READ_MM, DIFFERENCE_MM = 0.1, 0.15
"""mm by which a gap read with a caliper beside a straight edge is off, and two of them to each other."""
SNAPS = 0.01
"""Slope from which belts were thrown on the first ride: 1 mm in 100."""
FAR = 1.5
"""By so much past a span, or so many times under it, tension is wrong and not only odd."""
TEETH_READ = 0.6
"""Teeth by which a belt reckoned from a caliper between two shafts is off."""


def mark(build: Build, path: str) -> dict[str, Change]:
    """The mark that a part's figure was measured, beside those that it has."""
    holder, _, key = path.rpartition(".")
    have = list(getattr(standing_at(build, holder), "measured", None) or [])
    return {f"{holder}.measured": [*have, *([] if key in have else [key])]}


def plate(build: Build, step: Step, values: Values) -> Judged:
    """The length of screw that a plate needs."""
    if "plate" not in values:
        return Judged()
    found = motor_screws(values["plate"])
    thread = motor_thread(build)
    if found is None:
        return Judged(
            verdict="unsure", said=message("No standard length fits: use one washer more, or cut a screw to length.")
        )
    length, least, most = found
    return Judged(
        verdict="right",
        said=message(
            "M{thread} x {length}: from {least} to {most} would hold and not touch the windings.",
            least=(least, "length"),
            most=(most, "length"),
            thread=thread,
            length=f"{length:g}",
        ),
    )


def centre(build: Build, step: Step, values: Values) -> Judged:
    """The teeth that a taut belt has at a distance, against those of the plan."""
    path, drive = belt_path(build), build.parts.drive
    if "centre" not in values or path is None or drive is None:
        return Judged()
    if values["centre"] <= path.large - path.small:
        return Judged(
            verdict="wrong",
            said=message("At this distance the pulleys would overlap: measure between the shafts."),
        )
    teeth = belt_length(values["centre"], path.small, path.large) / pitch(build)
    meant = drive.belt_teeth
    said = message(
        "At {far} a taut belt has {teeth}.", far=(values["centre"], "length"), teeth=(round(teeth, 1), "teeth")
    )
    if meant is None or abs(teeth - meant) <= TEETH_READ:
        return Judged(verdict="right", said=said)
    return Judged(
        verdict="unsure",
        said=said,
        remedy=message(
            "The plan has {meant}. Is the belt taut, and are the pulleys those of the plan? Count its teeth.",
            meant=meant,
        ),
    )


def belt_line_of(build: Build, near: float, far: float) -> tuple[float, float]:
    """How far the planes of the pulleys lean to each other (mm per mm), and the slope that their offset gives the belt.

    What a reading can be off by is taken off first: over a pulley of 24 mm a tenth too much would be a quarter of a degree.
    """
    path = belt_path(build)
    if path is None:
        return 0.0, 0.0
    leans = max(abs(far - near) - DIFFERENCE_MM, 0.0) / (2.0 * path.small)
    return leans, max(abs(near + far) / 2.0 - READ_MM, 0.0) / path.distance


def line(build: Build, step: Step, values: Values) -> Judged:
    """Whether both pulleys run in one plane; of several motors the worst is told."""
    path = belt_path(build)
    worst: Judged | None = None
    for n in range(1, 5):
        if path is None or f"near-{n}" not in values or f"far-{n}" not in values:
            continue
        near, far = values[f"near-{n}"], values[f"far-{n}"]
        leans, offset = belt_line_of(build, near, far)
        slope = leans + offset
        which = f"Motor {n}: " if len(values) > 2 else ""
        off, over = (abs(far - near), "length"), (2.0 * path.small, "length")
        shim = (abs(near + far) / 2.0, "length")
        if degrees(atan(slope)) <= TRUE_DEG:
            found = Judged(
                verdict="right",
                said=message("{which}aligned: {off} over {over}.", off=off, over=over, which=which),
            )
        else:
            snaps = slope >= SNAPS
            askew = leans >= offset
            said = (
                message(
                    "{which}{off} over {over}: "
                    + ("the belt comes off on the first ride." if snaps else "the belt will climb the flange."),
                    which=which,
                    off=off,
                    over=over,
                )
                if askew
                else message(
                    "{which}{aside} offset over {far}: "
                    + ("the belt comes off on the first ride." if snaps else "the belt will climb the flange."),
                    which=which,
                    aside=shim,
                    far=(path.distance, "length"),
                )
            )
            remedy = (
                message(
                    "The plate is crooked: loosen the clamp, square the plate to the axle, tighten in turns, and "
                    "measure again."
                )
                if askew
                else message(
                    "Align them by {shim}: move the motor pulley along its shaft "
                    + ("towards the straight edge" if near + far > 0.0 else "away from the straight edge")
                    + ", or the wheel with washers.",
                    shim=shim,
                )
            )
            found = Judged(verdict="wrong" if snaps else "unsure", said=said, remedy=remedy)
        if worst is None or _GRAVITY[found.verdict] > _GRAVITY[worst.verdict]:
            worst = found
    return worst or Judged()


_GRAVITY = {"open": 0, "right": 1, "unsure": 2, "wrong": 3}


def tension(build: Build, step: Step, values: Values) -> Judged:
    """What the belt gives under a finger, and its teeth."""
    changes: dict[str, Change] = {}
    drive = build.parts.drive
    if (
        "teeth" in values
        and drive is not None
        and values["teeth"] == int(values["teeth"])
        and int(values["teeth"]) != drive.belt_teeth
    ):
        changes = {"parts.drive.belt_teeth": int(values["teeth"]), **mark(build, "parts.drive.belt_teeth")}
    pressed = [(n, values[f"press-{n}"]) for n in range(1, 5) if f"press-{n}" in values]
    if not pressed:
        return Judged(changes=changes, verdict="right" if "teeth" in values else "open")
    check = next(c for c in step.checks if c.id == "press-1")
    low, high = check.low or 0.0, check.high or 0.0
    n, press = max(pressed, key=lambda p: max(low - p[1], p[1] - high))
    which = f"Motor {n}: " if len(pressed) > 1 else ""
    said = message(
        "{which}it gives {press}; {low} to {high} is usual.",
        press=(press, "length"),
        low=(low, "length"),
        high=(high, "length"),
        which=which,
    )
    if low <= press <= high:
        return Judged(verdict="right", said=said, changes=changes)
    far = press < low / FAR or press > FAR * high
    return Judged(
        verdict="wrong" if far else "unsure",
        said=said,
        remedy=message(
            "Loosen it: it wears out the motor's bearing."
            if press < low
            else "Tighten it: it will skip when you first brake."
        ),
        changes=changes,
    )
