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
STOPS = "A new noise, a smell, a wobble, a late brake, a belt that climbs: stop on foot, walk home, and find the cause."
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
        ["Do every step of it, with the board as it is now. Find out what you left out first."],
        "It passes, or you know what is unclear and why it is harmless.",
        wrong="Leave it on the stand.",
        minutes=minutes(1, 40),
        touches=_TOUCHES,
        page="bench-test",
    )
    yield step(
        "fr-look",
        "before",
        "Check the whole board by hand",
        "What your hands find in two minutes the road finds at speed.",
        [
            (
                "Axle nuts, truck bolts, mount, motor screws, grub screws, enclosure: each with the key, none with "
                "force."
            ),
            (
                "Wheels spin freely, belt in the middle, nothing hangs down. Remote charged, link strong, fail-safe "
                "tested once more."
            )
            if pulleys
            else (
                "Wheels spin freely, cables clear of them at full lean. Remote charged, link strong, fail-safe "
                "tested once more."
            ),
        ],
        "Nothing turned, nothing knocks.",
        wrong="If a screw turned, lock it again before you ride.",
        tools=["allen_keys", "skate_tool"],
        minutes=minutes(5, 10),
        touches=_TOUCHES,
    )
    yield step(
        "fr-gear",
        "before",
        "Helmet, wrists, elbows, knees; shoes with a flat sole",
        "Wrists break first, from walking pace on. On the first ride the board does what nobody expects.",
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
        "You need room for what goes wrong.",
        [
            "No traffic, no slope, no gravel; grass beside it helps. Walk along it once and kick stones away.",
            message("Your brief notes a limit of {limit}, as you found out.", limit=(limit, "speed"))
            if limit
            else "Find out for yourself whether you may ride there: rules differ from place to place.",
        ],
        "Nobody is there whom you could hit.",
        minutes=minutes(5, 20),
    )
    values = [r for r in recommend(build, "beginner") if r.field in _SHOWN]
    yield step(
        "fr-values",
        "before",
        "Set the beginner's values" if values else "Set slow mode",
        "Half the current is still more than your balance is used to.",
        [message("{name}: {value}.", name=_SHOWN[r.field], value=_value(r.field, r.value)) for r in values]
        or ["Set the remote's slowest mode, and test it with the wheels in the air."],
        "The remote shows slow mode, and the wheels in the air turn slowly at full throttle.",
        minutes=minutes(5, 15),
        touches=_TOUCHES,
        page="controller-settings",
    )
    full = full_voltage(pack) if pack is not None and pack.series else None
    yield step(
        "fr-charge",
        "before",
        "Not brim-full",
        "A full pack cannot take braking energy: there it brakes weakly, or not at all.",
        [
            message(
                "Start a little below {full}; or ride the first kilometre gently, on the level, before you trust "
                "the brake.",
                full=(full, "voltage"),
            )
            if full
            else (
                "Start a little below full; or ride the first kilometre gently, on the level, before you trust the "
                "brake."
            )
        ],
        "The meter shows less than full.",
        tools=["multimeter"],
        minutes=minutes(2, 5),
        checks=[Check(id="volts", text="Pack voltage before the ride", quantity="voltage", unit="V", plan=full)],
        touches=["parts.pack.series", "parts.pack.charge_to_v"],
    )
    yield step(
        "fr-roll",
        "first_metres",
        "Power off: push, roll, step off",
        "Being able to stop on foot is part of riding: a cut-off or a lost remote takes the brake away.",
        ["Push twice, roll, step off running. Lean both ways. Ten times, until it is routine."],
        "It rolls straight, leans without scraping, and stepping off needs no thought any more.",
        wrong="If it pulls to one side: a wheel nut, an axle that is not square, or a bushing.",
        minutes=minutes(5, 15),
        tools=["helmet_and_pads"],
    )
    yield step(
        "fr-walk",
        "first_metres",
        "Power on at walking pace: brake first",
        "First make sure that you can brake.",
        [
            (
                "One foot on the ground, throttle slightly forward, then back: does it brake at once? Then at "
                "walking pace, brake to a stop, ten times. Switch the remote off once at walking pace: the board has "
                "to coast or brake gently."
            ),
        ],
        "It brakes every time, straight, without a jolt.",
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
            message("{speed}, then brake to a stop", speed=written(float(speed), "speed")),
            "Braking distance grows with the square of the speed: twice as fast, four times as far.",
            [
                message(
                    "Upright, knees loose. From {speed} the usual brake needs {near} to {far}.",
                    speed=(float(speed), "speed"),
                    near=(metres / USUAL, "way"),
                    far=(metres / GENTLE, "way"),
                ),
                "Three times. Pace out the distance from a stone where you started to brake.",
            ],
            "Three times alike, straight, with room to spare.",
            wrong=STOPS,
            tools=["helmet_and_pads"],
            minutes=minutes(6, 15),
            touches=_TOUCHES,
            checks=[
                Check(
                    id="metres",
                    text="Braking distance, paced out",
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
        "After ten kilometres: check every screw",
        "What works loose does so in the first ten kilometres.",
        [
            (
                "Truck bolts, mount, grub screws, motor screws, axle nuts, enclosure. Belt: its edge, and the dust "
                "beside it."
            )
            if pulleys
            else "Truck bolts, motor nuts, axle nuts, enclosure; the cable at the hanger.",
            "Measure the groups of the pack after an hour of rest.",
        ],
        "Nothing turned; the belt's edge is as before." if pulleys else "Nothing turned.",
        wrong="Clean a screw that turned again, lock it again, and mark it with a line of paint.",
        tools=["allen_keys", "skate_tool", "multimeter"],
        minutes=minutes(15, 30),
    )
    yield step(
        "fr-write",
        "after",
        "Record the ride at the door",
        "It takes five seconds, and without it you never learn what this board does.",
        [
            (
                "Day, kilometres, volts before and after. And what you would change: on the ride home it is clear, "
                "tomorrow it is forgotten."
            )
        ],
        "The first ride is recorded.",
        minutes=minutes(1, 3),
    )


def _after_ten_minutes(build: Build) -> Step:
    hub = drive_kind(build) == "hub"
    return step(
        "fr-minutes",
        "faster",
        "After ten minutes: stop and feel the heat",
        "Warm is normal; hot means a fault, or a limit reached.",
        [
            "Motor"
            + (" through the rim of the wheel" if hub else "")
            + ", controller through the enclosure, pack: hand on each for three seconds.",
            "Check the screws by eye and the belt by finger. Drink something."
            if not hub
            else "Check the screws by eye. Drink something.",
        ],
        message("You can keep your hand on everything: under about {hand}.", hand=(HAND_C, "temperature")),
        wrong=message(
            "Above {hot}: an hour's rest, and less current. A pack that is warm by itself: go home on foot, "
            "leave it outside, and watch it.",
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
                "Too far: a full pack, too little brake current, or a belt that skips. Do not ride faster before "
                "you find the cause."
            )
            return Judged(verdict="wrong", said=said, remedy=remedy)
        if found < low:
            return Judged(
                verdict="unsure",
                said=said,
                remedy=message("So hard that it throws you: use less brake current, or a longer ramp."),
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
            remedy=message(
                "Let it cool; use less motor current, or more gear reduction. Does the wheel spin freely by hand?"
            ),
        )
    if step.id == "fr-charge" and "volts" in values:
        full = step.checks[0].plan
        said = message("{v}.", v=(values["volts"], "voltage"))
        if full is not None and values["volts"] > 0.992 * full:
            return Judged(
                verdict="unsure",
                said=said,
                remedy=message("Full: the brake is weak for the first kilometre."),
            )
        return Judged(verdict="right", said=said)
    return Judged()
