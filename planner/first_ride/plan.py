"""The protocol of the first ride, from the build: its speeds, its brake, its settings. Figures: common practice, no source."""

from collections.abc import Iterator, Mapping

from boardmath.buildfile.build import Build
from boardmath.buildfile.settings import Settings
from boardmath.messages import message, written
from boardmath.model.inputs import cruise_speed, drive_kind, full_voltage, has_pulleys
from planner.controller_settings.recommend import recommend
from planner.shared.making import minutes, step
from planner.shared.step import Check, Judged, Step

SPEEDS = (10, 15, 20, 25, 30, 35, 40, 45, 50)
"""km/h; each is left only when the brake from it was tried."""
GENTLE, USUAL = 1.0, 3.0
"""m/s² of a brake that is weak, and of one that throws most riders forward."""
HAND_C, HOT_C = 60.0, 80.0
"""°C at which a hand cannot stay on a can, and from where magnets and glue suffer."""
STOPS = (
    "A noise that was not there, a smell, a wobble, a brake that comes late, a belt that climbs: "
    "stop on foot, walk home, find it."
)
IDS = {
    *(
        "fr-tested",
        "fr-look",
        "fr-gear",
        "fr-place",
        "fr-values",
        "fr-charge",
        "fr-roll",
        "fr-walk",
        "fr-minutes",
        "fr-km",
        "fr-write",
    ),
    *(f"fr-{v}" for v in SPEEDS),
}
_TOUCHES = [
    "parts.drive.motor_teeth",
    "parts.drive.wheel_teeth",
    "parts.wheels.diameter_mm",
    "parts.pack.series",
    *(f"settings.{key}" for key in Settings.model_fields),
]


def first_ride(build: Build) -> list[Step]:
    """The steps in their order, one after the other."""
    found: list[Step] = []
    for one in _steps(build):
        found.append(one.model_copy(update={"after": [found[-1].id] if found else []}))
    return found


def _steps(build: Build) -> Iterator[Step]:
    pulleys = has_pulleys(build)
    pack = build.parts.pack
    yield step(
        "fr-tested",
        "before",
        "The bench test has passed",
        "A brake that fails with the wheels in the air would have failed on the road.",
        ["Every step of it, with the board as it is now. What was left out is found out first."],
        "It passes, or you know what is odd and why it harms nobody.",
        wrong="It stays on the stand.",
        minutes=minutes(1, 40),
        touches=_TOUCHES,
        page="bench-test",
    )
    yield step(
        "fr-look",
        "before",
        "Once round the board, by hand",
        "What a hand finds in two minutes the road finds at speed.",
        [
            "Axle nuts, truck bolts, mount, motor screws, grub screws, box: each with the key, none with force.",
            "Wheels spin free, belt in the middle, nothing hangs down. Remote charged, link strong, fail-safe tried once more."
            if pulleys
            else "Wheels spin free, cables clear of them at full lean. Remote charged, link strong, fail-safe tried once more.",
        ],
        "Nothing turned, nothing knocks.",
        wrong="A screw that turned is locked anew before, not after.",
        tools=["allen_keys", "skate_tool"],
        minutes=minutes(5, 10),
        touches=_TOUCHES,
    )
    yield step(
        "fr-gear",
        "before",
        "Helmet, wrists, elbows, knees; shoes with a flat sole",
        "Wrists break first, from walking pace on. The first ride is the one on which the board does what nobody expects.",
        ["Closed shoes, long sleeves. Somebody knows where you are, or is there."],
        "You could fall now and walk home.",
        tools=["helmet_and_pads"],
        minutes=minutes(3, 8),
    )
    limit = build.brief.local_speed_limit_kmh
    yield step(
        "fr-place",
        "before",
        "Empty, level, dry, and long enough",
        "You need room for what goes wrong, not for what goes right.",
        [
            "No traffic, no slope, no gravel; grass beside it is a friend. Walk it once, kick the stones away.",
            message("What holds there you found out yourself: {limit} is what the brief says.", limit=(limit, "speed"))
            if limit
            else "Whether it may be ridden there is for you to find out: rules differ from place to place.",
        ],
        "Nobody is there whom you could hit.",
        minutes=minutes(5, 20),
    )
    values = [r for r in recommend(build, "beginner") if r.field in _SHOWN]
    yield step(
        "fr-values",
        "before",
        "The beginner’s values set" if values else "The slow mode set",
        "Half the current is still more than your balance is used to.",
        [message(f"{_SHOWN[r.field]}: {_value(r.field, r.value)}.") for r in values]
        or ["The remote’s slowest mode; tried with the wheels in the air."],
        "The remote shows the slow mode, and the wheels in the air turn slowly at full thumb.",
        minutes=minutes(5, 15),
        touches=_TOUCHES,
        page="controller-settings",
    )
    full = full_voltage(pack) if pack is not None and pack.series else None
    yield step(
        "fr-charge",
        "before",
        "Not brim-full",
        "A full pack cannot take what the brake gives back: there it brakes weakly, or not at all.",
        [
            message(
                "Begin a little below {full}; or ride the first kilometre gently, on the level, before you trust the brake.",
                full=(full, "voltage"),
            )
            if full
            else "Begin a little below full; or ride the first kilometre gently, on the level, before you trust the brake."
        ],
        "The meter shows less than full.",
        tools=["multimeter"],
        minutes=minutes(2, 5),
        checks=[Check(id="volts", text="Pack before the ride", quantity="voltage", unit="V", plan=full)],
        touches=["parts.pack.series", "parts.pack.charge_to_v"],
    )
    yield step(
        "fr-roll",
        "first_metres",
        "Power off: push, roll, step off",
        "Being able to stop on foot is part of riding: a cut-off or a lost link takes the brake away.",
        ["Push twice, roll out, step off running. Lean both ways. Ten times, until it is dull."],
        "It rolls straight by itself, leans without a scrape, and stepping off is no decision any more.",
        wrong="Pulls to one side: a wheel nut, an axle that is not square, a bushing.",
        minutes=minutes(5, 15),
        tools=["helmet_and_pads"],
    )
    yield step(
        "fr-walk",
        "first_metres",
        "Power on at walking pace: brake first",
        "Whoever can brake may go on.",
        [
            "One foot on the ground, thumb a hair forward, then back: does it brake at once? Then rolling "
            "at walking pace, brake to a stand, "
            "ten times. Remote off once at walking pace: it has to let go or brake gently.",
        ],
        "It brakes every time, without a jolt, straight.",
        wrong=STOPS,
        minutes=minutes(8, 20),
        tools=["helmet_and_pads"],
        touches=_TOUCHES,
    )
    for speed in _speeds(build):
        metres = (speed / 3.6) ** 2 / 2.0
        yield step(
            f"fr-{speed}",
            "first_metres" if speed <= 15 else "faster",
            f"{written(float(speed), 'speed')}, and from there to a stand",
            "The way to a stand grows with the square of the speed: twice as fast, four times as far.",
            [
                message(
                    "Upright, knees loose. From {speed} the usual brake takes {near} to {far}.",
                    speed=(float(speed), "speed"),
                    near=(metres / USUAL, "way"),
                    far=(metres / GENTLE, "way"),
                ),
                "Three times. Step the way off from a stone where you began to brake.",
            ],
            "Three times alike, straight, and you would have had room to spare.",
            wrong=STOPS,
            tools=["helmet_and_pads"],
            minutes=minutes(6, 15),
            touches=_TOUCHES,
            checks=[
                Check(
                    id="metres",
                    text="To a stand, stepped off",
                    quantity="way",
                    unit="m",
                    low=round(metres / USUAL, 1),
                    high=round(metres / GENTLE, 1),
                )
            ],
        )
        if speed == 15:
            yield _after_ten_minutes(build)
    yield step(
        "fr-km",
        "after",
        "After ten kilometres: every screw once more",
        "What comes loose does so on the first ten kilometres.",
        [
            "Truck bolts, mount, grub screws, motor screws, axle nuts, box. Belt: its edge, the dust beside it."
            if pulleys
            else "Truck bolts, motor nuts, axle nuts, box; the cable at the hanger.",
            "Groups of the pack by the meter, after an hour of rest.",
        ],
        "Nothing turned; the belt’s edge is as it was." if pulleys else "Nothing turned.",
        wrong="A screw that turned again is cleaned, locked anew, and marked with a line of paint.",
        tools=["allen_keys", "skate_tool", "multimeter"],
        minutes=minutes(15, 30),
    )
    yield step(
        "fr-write",
        "after",
        "Write it down at the door",
        "Five seconds, or it is not done: and then nobody ever knows what this board does.",
        [
            "Day, kilometres, volts before and after. And what you would change: on the ride home it is "
            "clear, tomorrow it is gone."
        ],
        "The first ride stands in the log.",
        minutes=minutes(1, 3),
    )


def _after_ten_minutes(build: Build) -> Step:
    hub = drive_kind(build) == "hub"
    return step(
        "fr-minutes",
        "faster",
        "After ten minutes: stop, and lay a hand on it",
        "Warm is work; hot is something wrong, or a limit reached.",
        [
            "Motor"
            + (" through the wheel’s rim" if hub else "")
            + ", controller through the box, pack: hand on each for three seconds.",
            "Screws by eye, belt by finger. Drink something." if not hub else "Screws by eye. Drink something.",
        ],
        message("A hand can stay on all of it: under about {hand}.", hand=(HAND_C, "temperature")),
        wrong=message(
            "Above {hot}: an hour’s rest, and less current. A warm pack, warm by itself: home on foot, outside, watched.",
            hot=(HOT_C, "temperature"),
        ),
        tools=["allen_keys"],
        minutes=minutes(5, 10),
        checks=[Check(id="motor", text="Motor", quantity="temperature", unit="°C", high=HAND_C)],
    )


def _speeds(build: Build) -> list[int]:
    """In steps up to what the brief asks for, never past what holds there."""
    top = build.brief.top_speed_kmh or cruise_speed(build)
    if build.brief.local_speed_limit_kmh is not None:
        top = min(top, build.brief.local_speed_limit_kmh)
    return [v for v in SPEEDS if v <= top] or [SPEEDS[0]]


_SHOWN = {
    "motor_current_a": "Motor current",
    "motor_brake_a": "Brake current",
    "pack_current_a": "Pack current",
    "speed_cap_kmh": "Speed cap",
    "ramp_s": "Ramp",
}
_QUANTITY = {"speed_cap_kmh": "speed", "ramp_s": "seconds"}


def _value(field: str, value: float | int | str) -> str:
    return value if isinstance(value, str) else written(float(value), _QUANTITY.get(field, "current"))


def judge(build: Build, step: Step, values: Mapping[str, float]) -> Judged:
    """What was written down on the way."""
    if "metres" in values:
        check = step.checks[0]
        low, high, found = check.low or 0.0, check.high or 0.0, values["metres"]
        said = message("{found}; {low} to {high} is usual.", found=(found, "way"), low=(low, "way"), high=(high, "way"))
        if found > high:
            remedy = message(
                "Too far: a full pack, little brake current, or a belt that skips. No faster before it is found."
            )
            return Judged(verdict="wrong", said=said, remedy=remedy)
        if found < low:
            return Judged(
                verdict="unsure", said=said, remedy=message("So hard it throws you: less brake current, a longer ramp.")
            )
        return Judged(verdict="right", said=said)
    if step.id == "fr-minutes" and "motor" in values:
        warm = values["motor"]
        said = message("{warm}.", warm=(warm, "temperature"))
        if warm <= HAND_C:
            return Judged(verdict="right", said=said)
        return Judged(
            verdict="wrong" if warm >= HOT_C else "unsure",
            said=said,
            remedy=message("Let it cool; less motor current, or a shorter gear. Does the wheel run free by hand?"),
        )
    if step.id == "fr-charge" and "volts" in values:
        full = step.checks[0].plan
        said = message("{v}.", v=(values["volts"], "voltage"))
        if full is not None and values["volts"] > 0.992 * full:
            return Judged(
                verdict="unsure",
                said=said,
                remedy=message("Brim-full: the brake is weak until the first kilometre is ridden."),
            )
        return Judged(verdict="right", said=said)
    return Judged()
