"""What is kept up, how often, why and how. Common practice, no source, unless a line says otherwise."""

from collections.abc import Callable
from dataclasses import dataclass

from boardmath.buildfile import Build
from boardmath.buildfile.maintenance import SeasonList, TaskId
from boardmath.model.inputs import drive_kind, has_pulleys
from boardmath.model.wheel_materials import material_of
from boardmath.prediction.charging import bricks_of

Applies = Callable[[Build], bool]


@dataclass(frozen=True)
class Task:
    """One thing to look at.

    ``km`` and ``days`` are how often; a wet kilometre counts ``wet`` times. After ``lasts_km`` it is usually worn out.
    """

    id: TaskId
    title: str
    how: str
    why: str
    applies: Applies
    km: float | None = None
    days: int | None = None
    wet: float = 1.0
    lasts_km: float | None = None
    spare: str | None = None
    """What is taken out of the drawer for it."""


def _always(build: Build) -> bool:
    return True


def _belts(build: Build) -> bool:
    return drive_kind(build) == "belt"


def _plastic(build: Build) -> bool:
    drive = build.parts.drive
    return has_pulleys(build) and drive is not None and drive.pulley_material == "plastic"


def _pneumatic(build: Build) -> bool:
    wheels = build.parts.wheels
    return wheels is not None and material_of(wheels).inflated


TASKS: tuple[Task, ...] = (
    Task(
        "belts",
        "Belts",
        "Cracks between the teeth, frayed edges, teeth that point; press in the middle: 5 to 8 mm.",
        "A belt that snaps takes the drive and the brake with it. They last 500 to 1,500 km.",
        _belts,
        km=100,
        wet=1.5,
        lasts_km=900,
        spare="belt",
    ),
    Task(
        "screws",
        "Screws and nuts",
        "Trucks, wheels, motor mounts, pulleys, box; where threadlock let go, clean it and put new on.",
        "What shakes loose is found now, or on the road.",
        _always,
        km=100,
        days=120,
    ),
    Task(
        "bearings",
        "Bearings",
        "Spin each wheel off the ground, belt off: it runs on without grating, and does not rattle sideways.",
        "Grit and rain eat them; a bearing that seizes stops a wheel.",
        _always,
        km=300,
        days=365,
        wet=3.0,
        lasts_km=1500,
        spare="bearings",
    ),
    Task(
        "wheels_turned",
        "Wheels turned round",
        "Outer side in, front to back, so that they wear evenly.",
        "Driven wheels cone; half as far again comes of turning them.",
        lambda b: not _pneumatic(b),
        km=300,
    ),
    Task(
        "wheels_worn",
        "Wheels measured",
        "Caliper over the middle of each driven wheel; write the mean down: gearing and speed follow it.",
        "Worn by 5 mm they are changed; smaller wheels are slower and pull harder.",
        lambda b: not _pneumatic(b),
        km=300,
        lasts_km=1500,
        spare="wheels",
    ),
    Task(
        "tyres",
        "Tyres",
        "Pressure; cuts, threads that show, valves that stand askew.",
        "Soft tyres roll hard and pinch their tubes.",
        _pneumatic,
        km=60,
        days=14,
        spare="tube",
    ),
    Task(
        "pulleys",
        "Plastic pulleys",
        "Teeth that point, cracks from the screws.",
        "They wear until the belt skips, mostly uphill and on the brake.",
        _plastic,
        km=200,
        wet=1.5,
        lasts_km=800,
        spare="pulley",
    ),
    Task(
        "chain",
        "Chain",
        "Oil, slack of a finger, a link that does not close.",
        "A dry chain stretches, jumps, and opens.",
        lambda b: drive_kind(b) == "chain",
        km=60,
        wet=3.0,
        lasts_km=1500,
        spare="link",
    ),
    Task(
        "gears",
        "Gears",
        "Grease, play between the teeth, chips in the old grease.",
        "What is ground off grinds on.",
        lambda b: drive_kind(b) == "gear",
        km=400,
    ),
    Task(
        "bushings",
        "Truck bushings",
        "Cracked or pressed flat; the board leans to one side by itself.",
        "Soft bushings let it wobble at speed.",
        _always,
        km=800,
        days=730,
        spare="bushings",
    ),
    Task(
        "brake_test",
        "Brakes tried",
        "From walking pace, from 15 km/h, on the level; both motors alike.",
        "It is looked at before it is needed.",
        lambda b: b.parts.motors is not None,
        km=150,
        days=60,
    ),
    Task(
        "group_volts",
        "Volts of the groups",
        "After an hour's rest, at half charge or full: each group by meter or the balance plug.",
        "Groups more than 0.05 V apart at rest: balance, and if it comes back, find the weak one.",
        lambda b: b.parts.pack is not None,
        km=400,
        days=90,
    ),
    Task(
        "capacity",
        "What the pack still holds",
        "A range ride to the warning, or the watt-hours that the charger puts in after one.",
        "Twice a year; a fifth gone is the end of a pack's first life.",
        lambda b: b.parts.pack is not None,
        days=182,
    ),
    Task(
        "top_up",
        "Charge in between",
        "To half where it stands, to the ceiling the evening before it is ridden. Watched.",
        "A pack that stands empty dies; one that stands full ages.",
        lambda b: b.parts.pack is not None,
        days=60,
    ),
    Task(
        "remote_cell",
        "Remote's cell",
        "Charge it with the board; note if it lasts shorter.",
        "A remote that dies takes the brake with it.",
        lambda b: b.parts.remote is not None,
        days=30,
    ),
    Task(
        "plugs",
        "Plugs and phase wires",
        "Warm, brown or loose plugs; wires rubbed where they bend.",
        "A plug that heats melts its neighbour.",
        lambda b: b.parts.controller is not None,
        km=300,
        days=180,
        wet=2.0,
    ),
)
BY_ID = {t.id: t for t in TASKS}


@dataclass(frozen=True)
class SeasonStep:
    id: str
    title: str
    applies: Applies = _always


SEASONS: dict[SeasonList, tuple[str, tuple[SeasonStep, ...]]] = {
    "lay_up": (
        "Laying it up",
        (
            SeasonStep("dry", "Brush it off, let it dry for a day, box open"),
            SeasonStep(
                "half", "Charge or ride the pack to half: about 3.7 to 3.8 V a cell", lambda b: b.parts.pack is not None
            ),
            SeasonStep("volts", "Write the volts of the groups down", lambda b: b.parts.pack is not None),
            SeasonStep("loop", "Loop plug out, switch off, charger away"),
            SeasonStep(
                "bricks",
                "Bricks out, caps on every plug",
                lambda b: b.parts.pack is not None and bricks_of(b.parts.pack) > 1,
            ),
            SeasonStep("belt", "Slacken or take off the belts", _belts),
            SeasonStep("oil", "A drop of oil into open bearings, salt washed off"),
            SeasonStep("tyres", "Tyres pumped up, the board off the ground", _pneumatic),
            SeasonStep("remote", "Remote charged to half, out of the cold"),
            SeasonStep("place", "Dry, cool, above freezing; nothing that burns beside the pack"),
            SeasonStep("note", "Write down what is to be mended before spring"),
        ),
    ),
    "spring": (
        "The spring check",
        (
            SeasonStep(
                "look",
                "Pack not swollen, no smell, no corrosion; swollen means retired",
                lambda b: b.parts.pack is not None,
            ),
            SeasonStep(
                "volts",
                "Volts of the groups against the autumn's: none fallen by more than 0.05 V",
                lambda b: b.parts.pack is not None,
            ),
            SeasonStep("charge", "First charge watched to its end, warmth by hand"),
            SeasonStep("screws", "Every screw and nut; threadlock where it let go"),
            SeasonStep("belt", "Belts on, tension, alignment: twenty turns by hand", _belts),
            SeasonStep("bearings", "Bearings spin freely"),
            SeasonStep("tyres", "Tyres: pressure, cuts", _pneumatic),
            SeasonStep("remote", "Remote bound, throttle home, brake by hand with the wheels in the air"),
            SeasonStep("settings", "Controller read back: nothing was lost"),
            SeasonStep("ride", "First ride in the slow mode: brake from walking pace, then from 15 km/h"),
        ),
    ),
}
"""Lists of the seasons, in an order that works."""


@dataclass(frozen=True)
class Trouble:
    """Something that gives way, what is mostly behind it, and what fixes it."""

    task: TaskId
    sign: str
    causes: tuple[str, ...]
    fix: str


TROUBLES: tuple[Trouble, ...] = (
    Trouble(
        "belts",
        "A belt snapped",
        ("pulleys out of line", "too tight", "a stone between", "old"),
        "Line the pulleys up: 1 mm in 100 is too much; press 5 to 8 mm; then a new belt.",
    ),
    Trouble(
        "belts",
        "A belt skips",
        ("too loose", "few teeth in mesh", "worn teeth"),
        "Tighten, add an idler, or a larger motor pulley.",
    ),
    Trouble(
        "bearings",
        "A wheel grates or wobbles",
        ("water and grit", "no spacer", "nut too tight"),
        "New bearings with spacer and washers; nut until it still spins freely.",
    ),
    Trouble(
        "screws",
        "A screw went missing",
        ("no threadlock", "threadlock on grease"),
        "Clean both threads, medium threadlock, a day to cure.",
    ),
    Trouble(
        "wheels_worn",
        "Wheels coned or chunked",
        ("never turned", "too soft for the load", "hard braking"),
        "Turn them at 300 km; harder ones for heavy riders.",
    ),
    Trouble("pulleys", "Plastic teeth point", ("load", "grit"), "A metal pulley, or a wider belt."),
    Trouble(
        "group_volts",
        "One group falls behind",
        ("a weak cell", "a bad joint", "a balance lead that drains"),
        "Balance once; if it comes back, measure that group’s cells. Repair of packs goes to someone qualified.",
    ),
    Trouble(
        "remote_cell",
        "The link drops out",
        ("flat cell", "receiver beside phase wires", "wet"),
        "Charge it, move the receiver away from the phase wires, try it at 50 m.",
    ),
    Trouble(
        "brake_test",
        "The brake is weak",
        ("full pack", "a charging limit set low", "one motor out"),
        "Ride a kilometre first; check the controller settings; turn both wheels by hand.",
    ),
    Trouble(
        "capacity",
        "It goes less far",
        ("cold", "soft tyres or a brake that drags", "an aged pack"),
        "Let it roll out beside last year’s figure; then a range ride.",
    ),
    Trouble(
        "plugs",
        "A plug is hot",
        ("too small", "a loose spring", "a cold joint"),
        "The next size up, soldered anew, strain taken off.",
    ),
)
