"""What is kept up, how often, why and how. Common practice, no source, unless a line says otherwise."""

from collections.abc import Callable
from dataclasses import dataclass

from boardmath.buildfile import Build
from boardmath.buildfile.maintenance import SeasonList, TaskId
from boardmath.model.bricks import bricks_of
from boardmath.model.inputs import drive_kind, has_pulleys
from boardmath.model.wheel_materials import material_of

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
        "Look for cracks between the teeth, frayed edges and pointed teeth; pressed in the middle it gives 5 to 8 mm.",
        "A belt that snaps takes drive and brake away. They last 500 to 1,500 km.",
        _belts,
        km=100,
        wet=1.5,
        lasts_km=900,
        spare="belt",
    ),
    Task(
        "screws",
        "Screws and nuts",
        "Trucks, wheels, motor mounts, pulleys, enclosure. Where threadlocker has failed, clean the thread and "
        "apply new.",
        "What has worked loose is found now, or on the road.",
        _always,
        km=100,
        days=120,
    ),
    Task(
        "bearings",
        "Bearings",
        "Spin each wheel off the ground with its belt off: it runs without grating, and has no side play.",
        "Grit and rain ruin them; a bearing that seizes stops a wheel.",
        _always,
        km=300,
        days=365,
        wet=3.0,
        lasts_km=1500,
        spare="bearings",
    ),
    Task(
        "wheels_turned",
        "Rotate the wheels",
        "Outer side in, front to back, so that they wear evenly.",
        "Driven wheels wear to a cone; rotating makes them last half as long again.",
        lambda b: not _pneumatic(b),
        km=300,
    ),
    Task(
        "wheels_worn",
        "Wheels measured",
        "Measure the middle of each driven wheel with a caliper and enter the mean: gearing and speed follow it.",
        "Replace them when 5 mm are worn; smaller wheels are slower and pull harder.",
        lambda b: not _pneumatic(b),
        km=300,
        lasts_km=1500,
        spare="wheels",
    ),
    Task(
        "tyres",
        "Tyres",
        "Check pressure, cuts, visible threads, and valves that are not straight.",
        "Soft tyres roll hard and pinch their tubes.",
        _pneumatic,
        km=60,
        days=14,
        spare="tube",
    ),
    Task(
        "pulleys",
        "Plastic pulleys",
        "Look for pointed teeth and cracks at the screws.",
        "They wear until the belt skips, mostly uphill and when braking.",
        _plastic,
        km=200,
        wet=1.5,
        lasts_km=800,
        spare="pulley",
    ),
    Task(
        "chain",
        "Chain",
        "Oil it; check that it gives a finger's width, and that every link is closed.",
        "A dry chain stretches, jumps and opens.",
        lambda b: drive_kind(b) == "chain",
        km=60,
        wet=3.0,
        lasts_km=1500,
        spare="link",
    ),
    Task(
        "gears",
        "Gears",
        "Check grease, play between the teeth, and chips in the old grease.",
        "Metal chips grind on.",
        lambda b: drive_kind(b) == "gear",
        km=400,
    ),
    Task(
        "bushings",
        "Truck bushings",
        "Check for cracks and flat spots; the board must not lean to one side by itself.",
        "Soft bushings let it wobble at speed.",
        _always,
        km=800,
        days=730,
        spare="bushings",
    ),
    Task(
        "brake_test",
        "Brakes tried",
        "On level ground from walking pace, then from 15 km/h; both motors must brake alike.",
        "Test it before you need it.",
        lambda b: b.parts.motors is not None,
        km=150,
        days=60,
    ),
    Task(
        "group_volts",
        "Volts of the groups",
        "After an hour's rest, at half charge or full: measure each group with a meter or at the balance plug.",
        "If groups are more than 0.05 V apart at rest, balance them; if it comes back, find the weak one.",
        lambda b: b.parts.pack is not None,
        km=400,
        days=90,
    ),
    Task(
        "capacity",
        "Pack capacity",
        "Ride until the controller warns, or note the watt hours that the charger puts in after such a ride.",
        "Twice a year. With a fifth gone a pack is near the end of its life.",
        lambda b: b.parts.pack is not None,
        days=182,
    ),
    Task(
        "top_up",
        "Charge in between",
        "Store at half charge; charge fully only the evening before a ride. Stay with it.",
        "A pack stored empty is ruined; one stored full ages.",
        lambda b: b.parts.pack is not None,
        days=60,
    ),
    Task(
        "remote_cell",
        "Remote's cell",
        "Charge it with the board; note when it no longer lasts as long.",
        "An empty remote takes the brake away.",
        lambda b: b.parts.remote is not None,
        days=30,
    ),
    Task(
        "plugs",
        "Plugs and phase wires",
        "Look for warm, brown or loose plugs, and for wires rubbed where they bend.",
        "A plug that overheats melts its neighbour.",
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
        "Winter storage",
        (
            SeasonStep("dry", "Brush it off and let it dry for a day with the enclosure open"),
            SeasonStep(
                "half", "Charge or ride the pack to half: about 3.7 to 3.8 V a cell", lambda b: b.parts.pack is not None
            ),
            SeasonStep("volts", "Write down the voltage of each group", lambda b: b.parts.pack is not None),
            SeasonStep("loop", "Loop key out, switch off, charger away"),
            SeasonStep(
                "bricks",
                "Bricks out, caps on every plug",
                lambda b: b.parts.pack is not None and bricks_of(b.parts.pack) > 1,
            ),
            SeasonStep("belt", "Slacken or remove the belts", _belts),
            SeasonStep("oil", "Wash off salt, a drop of oil into open bearings"),
            SeasonStep("tyres", "Inflate the tyres, keep the board off the ground", _pneumatic),
            SeasonStep("remote", "Remote charged to half, out of the cold"),
            SeasonStep("place", "Dry, cool, above freezing; nothing that burns beside the pack"),
            SeasonStep("note", "Write down what to repair before spring"),
        ),
    ),
    "spring": (
        "Spring check",
        (
            SeasonStep(
                "look",
                "Pack not swollen, no smell, no corrosion; retire a swollen pack",
                lambda b: b.parts.pack is not None,
            ),
            SeasonStep(
                "volts",
                "Voltage of each group against autumn: none has dropped by more than 0.05 V",
                lambda b: b.parts.pack is not None,
            ),
            SeasonStep("charge", "Watch the first charge to its end, and feel for warmth"),
            SeasonStep("screws", "Every screw and nut; new threadlocker where it has failed"),
            SeasonStep("belt", "Belts on, tension, alignment: twenty turns by hand", _belts),
            SeasonStep("bearings", "Bearings spin freely"),
            SeasonStep("tyres", "Tyres: pressure, cuts", _pneumatic),
            SeasonStep("remote", "Remote paired, throttle at rest, brake tried with the wheels in the air"),
            SeasonStep("settings", "Controller settings read back: nothing was lost"),
            SeasonStep("ride", "First ride in slow mode: brake from walking pace, then from 15 km/h"),
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
        ("pulleys not aligned", "too tight", "a stone between belt and pulley", "old"),
        "Align the pulleys: 1 mm in 100 is too much. Set 5 to 8 mm of give, then fit a new belt.",
    ),
    Trouble(
        "belts",
        "A belt skips",
        ("too loose", "few teeth in mesh", "worn teeth"),
        "Tighten it, add an idler, or use a larger motor pulley.",
    ),
    Trouble(
        "bearings",
        "A wheel grates or wobbles",
        ("water and grit", "no spacer", "nut too tight"),
        "Fit new bearings with spacer and washers; tighten the nut so that it still spins freely.",
    ),
    Trouble(
        "screws",
        "A screw is missing",
        ("no threadlock", "threadlocker on a greasy thread"),
        "Clean both threads, medium threadlocker, a day to cure.",
    ),
    Trouble(
        "wheels_worn",
        "Wheels worn to a cone or chunked",
        ("never turned", "too soft for the load", "hard braking"),
        "Rotate them at 300 km; use harder ones for heavy riders.",
    ),
    Trouble("pulleys", "Plastic teeth are pointed", ("load", "grit"), "Use a metal pulley, or a wider belt."),
    Trouble(
        "group_volts",
        "One group falls behind",
        ("a weak cell", "a bad joint", "a balance lead that drains it"),
        "Balance once; if it comes back, measure that group's cells. Take pack repairs to someone qualified.",
    ),
    Trouble(
        "remote_cell",
        "The remote link drops out",
        ("flat cell", "receiver next to phase wires", "wet"),
        "Charge it, move the receiver away from the phase wires, and test it at 50 m.",
    ),
    Trouble(
        "brake_test",
        "The brake is weak",
        ("full pack", "a low charging limit", "one motor not working"),
        "Ride a kilometre first; check the controller settings; turn both wheels by hand.",
    ),
    Trouble(
        "capacity",
        "The range is shorter",
        ("cold", "soft tyres or a dragging brake", "an aged pack"),
        "Do a roll-out test and compare it with last year's, then a range ride.",
    ),
    Trouble(
        "plugs",
        "A plug gets hot",
        ("too small", "a loose spring", "a cold solder joint"),
        "Use the next size up, solder it anew, and take the strain off it.",
    ),
)
