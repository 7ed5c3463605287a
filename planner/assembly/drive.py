"""The drive for good: mount, motor, pulleys, belt or gears; what is locked, what is measured. Figures: common practice,
no source.
"""

from collections.abc import Iterator

from boardmath.geometry.fasteners import IN_THE_CAN, PITCHES, most_torque, motor_screws, motor_thread
from boardmath.geometry.transmission import belt_path
from boardmath.messages import counted, message
from boardmath.model.inputs import mounted
from boardmath.model.methods import mount_fixing
from planner.assembly.board import Board
from planner.assembly.pictures import belt_line_picture
from planner.shared.making import minutes, step
from planner.shared.step import Check, Fastener, Step

MOUNT = [
    "parts.trucks.profile",
    "parts.mount.profile",
    "parts.mount.angle_deg",
    "parts.drive.mount_angle_deg",
    "methods.mount_fixing",
]
"""What a mount stands on, clamped or welded."""
HAND = "Hand-tight: short arm of the key, two fingers."
FACE_PLATE = 4.0
"""mm of plate at the motor's face (from memory); the caliper says what yours needs."""
PRESS = (5.0, 8.0)
"""mm that a finger presses a belt in on a run of 100 mm; on other runs in proportion (common practice, no source)."""


def mount(b: Board) -> Iterator[Step]:
    """The motor mount clamped for good."""
    if not b.geared or not b.new("mount", "drive", "trucks", "motors"):
        return
    if mount_fixing(b.build) == "welded":
        yield _welded(b)
        return
    yield step(
        "mount",
        "drive",
        message("Tighten the mounts for good" if b.motors > 1 else "Tighten the mount for good"),
        "All the torque of motor and brake goes through this clamp.",
        [
            (
                "Set it to the marks of the dry fit, with the plate square to the axle. Clean oil off the bolts, and "
                "put a drop of threadlocker on each."
            ),
            "Tighten in turns, a quarter each, so that both gaps of the clamp close evenly.",
        ],
        "You cannot turn it by hand with the motor as a lever, and the plate is square.",
        wrong=f"A mount that turns {'slackens the belt when you first brake, and ' if b.belt else ''}pushes the "
        "motor into the deck.",
        tools=["allen_keys", "threadlocker", "grease_cleaner", "square"],
        fasteners=[
            Fastener(
                what="Clamp bolts",
                count=4 * b.motors,
                thread="M5",
                beneath="flat washer",
                threadlock=True,
                tighten=message(
                    "Hand-tight in turns. Whatever the clamp is made of, a steel bolt of class 8.8 bears at most "
                    "{most} (VDI 2230-1).",
                    most=(round(most_torque(5), 1), "torque"),
                ),
            )
        ],
        threadlock="medium",
        minutes=minutes(15, 35, b.motors),
        needs=[*b.needs("mount", "drive", "trucks"), *b.small("motor-mount", "mount-bolts", "threadlocker")],
        touches=MOUNT,
        after=["dry-mount", "lean", "trucks"],
        method="methods.mount_fixing",
    )


def _welded(b: Board) -> Step:
    """The mount welded to the hanger, by someone who welds that metal."""
    return step(
        "mount",
        "drive",
        message("Have the mounts welded on" if b.motors > 1 else "Have the mount welded on"),
        "A weld cannot slip or be moved: the angle of the dry fit stays for good.",
        [
            "Mark plate and hanger across the seam at the place and angle of the dry fit, and photograph it.",
            (
                "Only the same metal on both sides. Ask what the hanger is made of: heat takes the strength out of "
                "hardened or cast aluminium around the seam, and the axle inside is steel."
            ),
            (
                "Take everything off that heat harms: wheels, bearings, bushings, pivot cup, belt, motor. Tack it, "
                "check the angle with wheel and pulley on, then weld in short runs on alternate sides. Let it cool "
                "by itself, never in water."
            ),
            "Roll the hanger on a flat table afterwards: the axle is as straight as before.",
        ],
        "No crack and no hole along the seam under a lamp, the plate square to the axle, the axle straight.",
        wrong="A bent axle or a seam with a crack is a new hanger. Do not ride it, and do not straighten it cold.",
        caution="Welding is work for someone who does it for a living: fumes, light and fire, and a seam that breaks "
        "takes motor and brake with it. Look at the seam before every ride.",
        tools=["marker", "square", "camera", "straight_edge"],
        minutes=minutes(60, 180, b.motors),
        needs=[*b.needs("mount", "drive", "trucks"), *b.small("motor-mount")],
        touches=MOUNT,
        after=["dry-mount", "lean", "dry-look"],
        method="methods.mount_fixing",
    )


def motor(b: Board) -> Iterator[Step]:
    """Motors on for good."""
    motors = b.parts.motors
    if motors is None or not b.new("motors", "mount", "drive", "trucks"):
        return
    if b.kind in ("hub", "direct"):
        hub = b.kind == "hub"
        yield step(
            "motor",
            "drive",
            message("Fit the {motors} for good", motors="hub motors" if hub else "direct-drive motors"),
            "Braking shakes this joint both ways, a hundred times a ride.",
            [
                (
                    "Seat the flats, put threadlocker on the thread, and tighten the nut until the washer lies flat, "
                    "then a little more."
                )
                if hub
                else (
                    "Set the stator clamp to its mark and tighten its bolts in turns with threadlocker; then "
                    "rotor and wheel onto the axle, spacer, washers, nut."
                ),
                "Lead the cable inwards with a loop that stays slack at full lean, and clip it at the hanger.",
            ],
            "It spins without scraping, has no play on the axle, and the cable is slack at full lean both ways.",
            wrong="A cable pulled when the board leans breaks inside its sleeve, one phase at a time.",
            tools=["spanners", "threadlocker", "grease_cleaner", "cable_ties"],
            fasteners=[
                Fastener(
                    what="Axle nuts" if hub else "Clamp bolts",
                    count=b.motors * (1 if hub else 4),
                    thread=None if hub else "M5",
                    beneath="toothed or flat washer",
                    threadlock=True,
                    tighten=message(
                        "As the motor's maker says; otherwise firm by hand." if hub else "In turns, a quarter each."
                    ),
                )
            ],
            threadlock="medium",
            minutes=minutes(15, 40, b.motors),
            needs=[*b.needs("motors", "trucks", "drive"), *b.small("threadlocker")],
            touches=["parts.motors.count", "parts.motors.kind", "parts.drive.kind", "parts.trucks.hanger_mm"],
            after=["dry-motor", "lean", "trucks"],
        )
        return
    thread = motor_thread(b.build)
    usual = motor_screws(FACE_PLATE)
    yield step(
        "motor",
        "drive",
        message(
            "{motor} on the plate: four M{thread} each, not tight yet",
            motor="Motors" if b.motors > 1 else "Motor",
            thread=thread,
        ),
        "A screw that is too long touches the windings and shorts them to the can; one too short tears its thread out.",
        [
            message(
                "Plate, two washers, and {least} to {most} of thread in the can. Measure the plate; the screw "
                "length follows.",
                least=(IN_THE_CAN[0], "length"),
                most=(IN_THE_CAN[1], "length"),
            ),
            message(
                "Each turns in by hand, {turn} a turn: at least {turns} turns before its washer presses.",
                turn=(PITCHES[thread], "thickness"),
                turns=round(IN_THE_CAN[0] / PITCHES[thread]),
            ),
            "Only so tight that the motor still slides. They are locked once "
            + ("the belt tension is set." if b.belt else "the gear play is set."),
        ],
        "The motor slides along its slot, and its shaft turns without scraping with all four screws pressing.",
        wrong="If the motor binds with its screws tight, one of them is too long. Take it out at once.",
        tools=["allen_keys", "caliper", "washers"],
        fasteners=[
            Fastener(
                what="Motor screws",
                count=4 * b.motors,
                thread=f"M{thread}",
                length_mm=usual[0] if usual and thread == 4 else None,
                beneath="spring washer and flat washer",
                tighten=message("Loose for now."),
            )
        ],
        minutes=minutes(10, 25, b.motors),
        needs=[*b.needs("motors", "mount", "drive"), *b.small("mount-bolts")],
        touches=["parts.motors.can_diameter_mm", "parts.motors.count", "parts.motors.shaft_mm"],
        after=["dry-motor", "mount"],
        checks=[Check(id="plate", text="Plate thickness under the motor", quantity="length", unit="mm")],
    )


def motor_pulley(b: Board) -> Iterator[Step]:
    """The pinion: pulley, sprocket or gear on the motor's shaft."""
    motors, drive = b.parts.motors, b.parts.drive
    if not b.geared or motors is None or drive is None or not b.new("motors", "drive"):
        return
    what = {"gear": "gear", "chain": "sprocket"}.get(b.kind, "pulley")
    yield step(
        "motor-pulley",
        "drive",
        message("Motor {part} on the shaft: key, then grub screws", part=what),
        "The key carries the torque; the grub screw only keeps the pulley in place.",
        [
            (
                message(
                    "Put the key into its slot and hold it with tape until the {what} is over it: it is small and "
                    "easily lost.",
                    what=what,
                )
            ),
            (
                message(
                    "{what} in line with the one on the wheel. Clean oil off shaft and screw; threadlocker; one "
                    "grub screw over the key or on the flat, then the other.",
                    what=what.capitalize(),
                )
            ),
        ],
        message("The {what} has no play round or along the shaft.", what=what),
        wrong=message("A loose {what} shears its key on the first ride, and takes the brake with it.", what=what),
        tools=["allen_keys", "threadlocker", "masking_tape", "grease_cleaner"],
        fasteners=[
            Fastener(
                what="Grub screws",
                count=2 * b.motors,
                thread="M4",
                threadlock=True,
                tighten=message("With the short arm until the key bends a little; no further, the hexagon rounds off."),
            )
        ],
        threadlock="medium",
        minutes=minutes(8, 20, b.motors),
        needs=[*b.needs("motors", "drive"), *b.small("threadlocker")],
        touches=["parts.drive.motor_teeth", "parts.drive.bore_mm", "parts.motors.shaft_mm", "parts.drive.kind"],
        after=["dry-belt", "dry-motor", "motor"],
    )


def driven_wheels(b: Board) -> Iterator[Step]:
    """Driven wheels with their pulley and belt."""
    drive = b.parts.drive
    if not b.geared or drive is None or not b.new("drive", "wheels", "motors", "trucks", "mount"):
        return
    count = drive.driven_wheels or b.motors
    belt = b.kind == "belt"
    yield step(
        "driven-wheels",
        "drive",
        message(
            "{wheels} on, together with the {drive}",
            wheels=counted(count, "driven wheel").capitalize(),
            drive="belt" if belt else "chain" if b.kind == "chain" else "gears",
        ),
        "Put the belt on together with the wheel. A belt levered over a flange afterwards has broken cords."
        if belt
        else "Align metal parts before you push them together.",
        [
            "Belt over the pulleys, push the wheel on while turning; washer and nut as on the other wheels."
            if belt
            else "Wheel onto the axle, teeth into teeth while turning; washer and nut as on the other wheels.",
            *(
                ["The idler runs on the belt's back near the small pulley, and presses only lightly."]
                if belt and _idler(b)
                else []
            ),
        ],
        "With the motor pushed slack the wheel keeps spinning like the others.",
        tools=["skate_tool", "washers"],
        minutes=minutes(10, 25, count),
        needs=b.needs("drive", "wheels", "trucks"),
        touches=["parts.drive.belt_teeth", "parts.drive.wheel_teeth", "parts.drive.driven_wheels", "parts.drive.idler"],
        after=["motor-pulley", "pulley-core", "bearings", "free-wheels"],
    )


def _motor_screws_locked(b: Board) -> Fastener:
    return Fastener(
        what="Motor screws",
        count=4 * b.motors,
        thread=f"M{motor_thread(b.build)}",
        beneath="spring washer and flat washer",
        threadlock=True,
        tighten=message(HAND + " There is no published torque for a steel screw in aluminium."),
    )


def _idler(b: Board) -> bool:
    return bool(mounted(b.build).idler)


def belt_line(b: Board) -> Iterator[Step]:
    """Both pulleys in one plane."""
    path, drive = belt_path(b.build), b.parts.drive
    if not b.belt or path is None or drive is None or not b.new("drive", "motors", "mount", "trucks", "wheels"):
        return
    checks = []
    for n in range(1, b.motors + 1):
        which = f", motor {n}" if b.motors > 1 else ""
        checks += [
            Check(id=f"near-{n}", text=f"Gap, near side{which}", quantity="length", unit="mm"),
            Check(id=f"far-{n}", text=f"Gap, far side{which}", quantity="length", unit="mm"),
        ]
    yield step(
        "belt-line",
        "drive",
        "Belt line: align both pulleys",
        "A misalignment of one millimetre in a hundred throws the belt on the first ride.",
        [
            (
                "Lay a straight edge on the face of the wheel pulley so that it reaches past the motor pulley. "
                "Measure the gap there, near side and far side."
            ),
            "Same gap twice: slide the motor pulley. Two different gaps: the plate is crooked.",
        ],
        "Both gaps are within a few tenths of a millimetre of each other and of zero.",
        wrong="A belt that climbs a flange is cut by it. It does not run in by itself.",
        tools=["straight_edge", "caliper", "washers"],
        minutes=minutes(10, 30, b.motors),
        needs=b.needs("drive", "motors"),
        touches=[
            "parts.drive.motor_teeth",
            "parts.drive.wheel_teeth",
            "parts.drive.belt_width_mm",
            "parts.wheels.core",
        ],
        after=["driven-wheels"],
        checks=checks,
        picture=belt_line_picture(b.build),
    )


def belt_tension(b: Board) -> Iterator[Step]:
    """Drawn, pressed with a finger, locked."""
    path, drive = belt_path(b.build), b.parts.drive
    if not b.belt or path is None or drive is None or not b.new("drive", "motors", "mount", "trucks", "wheels"):
        return
    run = (path.distance**2 - (path.large - path.small) ** 2) ** 0.5
    low, high = (run / 100.0 * each for each in PRESS)
    chain = b.kind == "chain"
    yield step(
        "belt-tension",
        "drive",
        message("Tension the {drive} and lock the motor", drive="chain" if chain else "belt"),
        "Too loose, it skips when you first brake. Too tight, it wears out the motor's bearing and uses charge.",
        [
            message(
                "Slide the motor; press the middle of the free span of {run} firmly with a finger.",
                run=(run, "length"),
            ),
            (
                "Then take out one motor screw after the other, put threadlocker on it and screw it back in, "
                "crosswise, so that the motor does not slide."
            ),
            *(["Set the idler last: it takes up the remaining slack, no more."] if _idler(b) else []),
        ],
        message(
            "It gives {low} to {high}. The wheel turns by hand with a soft, even pull.",
            low=(low, "length"),
            high=(high, "length"),
        ),
        wrong="If it skips under your hand: tighter. If it hums and stops at once: looser.",
        tools=["allen_keys", "threadlocker", "caliper"],
        fasteners=[_motor_screws_locked(b)],
        threadlock="medium",
        minutes=minutes(10, 30, b.motors),
        needs=[*b.needs("drive", "motors", "mount"), *b.small("threadlocker")],
        touches=[
            "parts.drive.motor_teeth",
            "parts.drive.wheel_teeth",
            "parts.drive.belt_teeth",
            "parts.drive.pitch_mm",
            "parts.drive.idler",
            "parts.mount.idler",
        ],
        after=["belt-line"],
        checks=[
            *(
                Check(
                    id=f"press-{n}",
                    text="Gives under a finger" + (f", motor {n}" if b.motors > 1 else ""),
                    quantity="length",
                    unit="mm",
                    low=round(low, 1),
                    high=round(high, 1),
                )
                for n in range(1, b.motors + 1)
            ),
            Check(
                id="teeth",
                text="Belt teeth, counted or as printed on it",
                quantity="count",
                unit="",
                plan=drive.belt_teeth,
            ),
        ],
    )


def gear_mesh(b: Board) -> Iterator[Step]:
    """Gears: play and grease instead of a belt."""
    if b.kind != "gear" or not b.geared or not b.new("drive", "motors", "mount", "wheels"):
        return
    yield step(
        "gear-mesh",
        "drive",
        "Set the gear play, grease, lock the motor",
        "Gears without play howl and wear; with too much they break teeth when braking.",
        [
            (
                "Put a strip of paper between the teeth, push them together, tighten the screws, pull the paper out: "
                "that is the play."
            ),
            (
                "Take the screws out one after the other, threadlocker, back in crosswise. A film of grease that "
                "stays on, then the cover."
            ),
        ],
        "Turned by hand it feels the same all the way round, with slight play everywhere.",
        tools=["allen_keys", "threadlocker"],
        fasteners=[_motor_screws_locked(b)],
        threadlock="medium",
        minutes=minutes(15, 40, b.motors),
        needs=[*b.needs("drive", "motors"), *b.small("threadlocker")],
        touches=["parts.drive.motor_teeth", "parts.drive.wheel_teeth", "parts.motors.count"],
        after=["driven-wheels"],
    )


def run_true(b: Board) -> Iterator[Step]:
    """Twenty turns by hand, and once more at full lean."""
    if not b.geared or not b.new("drive", "motors", "mount", "wheels", "trucks"):
        return
    yield step(
        "run-true",
        "drive",
        "Turn every driven wheel twenty times",
        "What a belt does in twenty turns by hand it does in one second on the road.",
        [
            (
                "Turn forward and backward, looking along the belt. Then again with the deck leaned and someone "
                "standing on its edge."
            )
            if b.belt
            else "Turn forward and backward, listening. Then again with the deck leaned.",
        ],
        "It stays in the middle of its pulleys, touches no flange, and sounds the same all round."
        if b.belt
        else "It sounds and feels the same all round.",
        wrong="If it wanders to one side, align it again. A tight spot once a turn means a pulley that is not true.",
        minutes=minutes(4, 10, b.motors),
        needs=b.needs("drive"),
        touches=["parts.drive.motor_teeth", "parts.drive.wheel_teeth", "parts.drive.belt_teeth", "parts.drive.kind"],
        after=["belt-tension", "gear-mesh", "driven-wheels"],
    )


def covers(b: Board) -> Iterator[Step]:
    """Guards over belts or motors."""
    if not b.new("covers"):
        return
    yield step(
        "covers",
        "drive",
        message("Fit the covers over the {part}", part=b.parts.covers.over or "drive" if b.parts.covers else "drive"),
        "Grit jams belts, and fingers and laces are pulled in. Covered motors stay warmer: check their heat on "
        "the first ride.",
        ["Fit them last, with space to everything that turns. Turn every wheel twice more and listen."],
        "Nothing scrapes, at full lean either.",
        tools=["allen_keys", "threadlocker"],
        fasteners=[
            Fastener(
                what="Cover screws",
                count=3 * max(b.motors, 1),
                threadlock=True,
                tighten=message("Snug: plastic cracks."),
            )
        ],
        threadlock="medium",
        minutes=minutes(10, 25, b.motors),
        needs=[*b.needs("covers"), *b.small("threadlocker")],
        touches=["parts.covers.over", "parts.covers.width_mm"],
        after=["run-true", "motor", "dry-look"],
    )
