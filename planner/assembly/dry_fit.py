"""The dry fit: everything held where it is to go, nothing locked, so that what does not fit costs an evening and no part."""

from collections.abc import Iterator
from math import degrees
from typing import Any

from boardmath.geometry.enclosures import ground_clearance
from boardmath.geometry.stance import lean
from boardmath.geometry.transmission import belt_path
from boardmath.geometry.views.rear import motor_room, wheel_room
from boardmath.messages import Message, counted, message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import wheels_bought
from boardmath.model.methods import locking
from planner.assembly.board import Board
from planner.shared.making import minutes, step
from planner.shared.step import Check, Step

GAPS = 5
"""Places along the deck at which the gap over the box is measured."""


def bearings(b: Board) -> Iterator[Step]:
    """Bearings into wheels that come onto the board."""
    count = wheels_bought(b.build) if b.parts.wheels is not None else 0
    if not b.new("wheels") or not count:
        return
    drive = b.parts.drive
    own = drive is not None and drive.pulley_fixing == "own_bearing" and b.geared
    driven = ((drive.driven_wheels if drive else None) or b.motors) if b.geared else 0
    do: list[Message | str] = [
        (
            "Press in the first bearing, flush, by its outer ring only; then the spacer; then the other bearing, "
            "with the axle as a guide."
        ),
        "Never hammer on the inner ring: it dents, and hums for good.",
    ]
    if own:
        do.append(
            f"The pulley has a bearing of its own: leave the inner bearing out of {counted(driven, 'driven wheel')}."
        )
    yield step(
        "bearings",
        "dry_fit",
        message("Press in the bearings, two in each of {wheels}", wheels=counted(count, "wheel")),
        "A crooked bearing costs speed all the time, and the wheel wobbles.",
        do,
        "Held by the inner rings the wheel spins for seconds, silently.",
        tools=["bearing_press", "grease_cleaner"],
        minutes=minutes(12, 30),
        needs=[*b.needs("wheels"), *b.small("bearings", "spacers")],
        touches=["parts.wheels.in_set", "parts.drive.pulley_fixing", "parts.drive.kind"],
        after=["lay-out"],
    )


def trucks(b: Board) -> Iterator[Step]:
    """Trucks loosely on the deck."""
    if not b.new("deck", "trucks", "risers", "spreaders") or b.parts.deck is None or b.parts.trucks is None:
        return
    do: list[Message | str] = [
        "Two bolts in each truck, crosswise, by hand. The kingpin nuts face each other, towards the middle."
    ]
    if b.drop_through:
        do = [
            (
                "Through the cutouts from beneath, baseplates on top; two bolts in each, crosswise, by hand. "
                "Kingpins towards the middle."
            )
        ]
        if b.parts.spreaders is None:
            do.append("A cutout weakens the deck where the bolts pull: a plate under the nuts spreads the load.")
    if b.parts.risers is not None and not b.drop_through:
        do.append(message("Risers of {high} between deck and truck.", high=(b.parts.risers.height_mm or 0.0, "length")))
    yield step(
        "dry-trucks",
        "dry_fit",
        "Fit the trucks loosely",
        "Everything else is measured from the axles.",
        do,
        "Both axles are square to the centre line: both ends have the same distance to the nose.",
        tools=["skate_tool", "square"],
        minutes=minutes(10, 20),
        needs=b.needs("deck", "trucks", "risers", "spreaders"),
        touches=["parts.deck.mount", "parts.deck.wheelbase_mm", "parts.deck.moved_mm", "parts.risers.height_mm"],
        after=["lay-out", "drill-trucks", "rout-deck", "take-off"],
    )


def pulley_core(b: Board) -> Iterator[Step]:
    """The wheel pulley into or onto the wheel."""
    drive = b.parts.drive
    if not b.geared or drive is None or not b.new("drive", "wheels"):
        return
    keyed, wheels = drive.wheel_core, b.parts.wheels
    core = keyed.replace("_", " ") if keyed else ""
    plastic = drive.pulley_material == "plastic"
    word = {"gear": "Gear", "chain": "Sprocket"}.get(b.kind, "Pulley")
    about: dict[str, Any] = {
        "needs": [*b.needs("drive", "wheels")],
        "touches": [
            "parts.drive.wheel_core",
            "parts.drive.pulley_fixing",
            "parts.drive.wheel_teeth",
            "parts.wheels.core",
        ],
        "after": ["lay-out", "bearings", "take-off"],
    }
    unlike = keyed is not None and wheels is not None and wheels.core is not None and wheels.core != keyed
    wrong = (
        (
            f"This pulley is made for {core}, the wheel is {(wheels.core or '').replace('_', ' ') if wheels else ''}: "
            "do not force it."
        )
        if unlike
        else "A pulley forced in splits the core weeks later, on a hill."
    )
    if b.in_one_kit("drive", "wheels"):
        yield step(
            "pulley-core",
            "dry_fit",
            message("{part} onto the wheel, as the kit has it", part=word),
            "All braking and every hill go through this joint.",
            [
                (
                    "In the kit they were made for each other: push it on by hand, tighten its screws crosswise, a turn "
                    "each."
                )
            ],
            "Turned on the axle, the pulley's rim is true to half a millimetre.",
            wrong="If it has to be forced it is from another kit: ask the seller before you file.",
            tools=["allen_keys"],
            minutes=minutes(5, 15, b.motors),
            **about,
        )
        return
    if drive.pulley_fixing == "own_bearing":
        title, do = (
            "Pulley with its own bearing onto the wheel",
            [
                (
                    "Take the wheel's inner bearing out, put the pulley's hub in its place, and its own bearing on "
                    "the axle's shoulder."
                ),
                "The pulley's bearing carries half of the wheel: it needs the spacer as the wheel did.",
            ],
        )
    elif keyed:
        title, do = (
            f"{word} into the wheel’s {core} core",
            [
                (
                    "Measure a gap between two spokes of the core, and the pulley's lug that goes into it, in "
                    "several places: cores are cast."
                ),
                "Where it binds, mark how deep it has to go, cut and file the pulley, never the wheel's spokes.",
            ],
        )
    else:
        title, do = (
            f"{word} onto the wheel: drilled straight through",
            [
                "Centre it on the bearing seat and clamp it; drill through core and pulley with the pulley as guide.",
                (
                    "Use long screws crosswise, with a retaining ring or washers on the far side, where the core "
                    "would crush."
                ),
            ],
        )
    yield step(
        "pulley-core",
        "dry_fit",
        title,
        why="All braking and every hill go through this joint."
        + (" A plastic pulley wears first at its lugs." if plastic else ""),
        do=do,
        right="Turned on the axle, the pulley's rim is true to half a millimetre.",
        wrong=wrong,
        caution="Wear eye and dust protection where you cut." if drive.pulley_fixing != "own_bearing" else None,
        tools=["caliper", "files", "knife", "marker"]
        + ([] if keyed or drive.pulley_fixing == "own_bearing" else ["drill", "clamps", "eye_protection"])
        + (["dust_mask"] if drive.pulley_fixing != "own_bearing" else []),
        minutes=minutes(20, 90, b.motors) if keyed else minutes(40, 120, b.motors),
        checks=[
            Check(id="core", text="Gap between two spokes of the core", quantity="thickness", unit="mm"),
            Check(id="lug", text="The pulley’s lug", quantity="thickness", unit="mm"),
        ]
        if keyed
        else [],
        **about,
    )


def mount(b: Board) -> Iterator[Step]:
    """The motor mount loosely on the hanger, and whether its plate meets the pulley."""
    drive = b.parts.drive
    if not b.geared or not b.new("mount", "drive", "trucks", "motors") or b.parts.trucks is None:
        return
    profile = b.parts.trucks.profile
    yield step(
        "dry-mount",
        "dry_fit",
        message("Clamp the mounts loosely on the hanger" if b.motors > 1 else "Clamp the mount loosely on the hanger"),
        "A plate that touches the pulley is easy to see now; with the motor on it is a noise that nobody finds.",
        [
            (
                f"Clamp it round the {profile} hanger with the plate outwards; put the wheel with its pulley onto the "
                "axle."
            )
            if profile
            else "Clamp it round the hanger with the plate outwards; put the wheel with its pulley onto the axle.",
            (
                f"Turn the wheel: does the plate touch the pulley{', or the place of the belt' if b.belt else ''}? "
                "Mark where the clamp sits. If it still rubs, put three or four washers on the axle."
            ),
        ],
        "The wheel turns freely, the plate is parallel to the pulley, and the clamp grips along its whole length.",
        wrong="A clamp that does not lie flat on the hanger will turn: file the weld or cast seam, not the clamp.",
        tools=["allen_keys", "marker", "washers"],
        minutes=minutes(15, 40, b.motors, b.fitting_left("motors", "drive", "trucks")),
        needs=[*b.needs("mount", "drive", "trucks", "wheels"), *b.small("motor-mount", "mount-bolts")],
        touches=[
            "parts.trucks.profile",
            "parts.drive.mount_profile",
            "parts.mount.profile",
            "parts.drive.motor_place",
            *(["parts.drive.wheel_teeth"] if drive else []),
        ],
        after=["dry-trucks", "pulley-core", "take-off"],
    )


def motor(b: Board) -> Iterator[Step]:
    """The motor held where it will sit."""
    motors = b.parts.motors
    if motors is None or not b.new("motors", "mount", "drive", "trucks"):
        return
    about: dict[str, Any] = {
        "needs": [*b.needs("motors", "mount", "drive", "trucks"), *b.small("mount-bolts")],
        "after": ["dry-trucks", "dry-mount", "take-off"],
    }
    if b.kind == "hub":
        yield step(
            "dry-motor",
            "dry_fit",
            message("{motors} onto the hanger", motors=counted(b.motors, "hub motor").capitalize()),
            why="The cable leaves a hub on one side only, and the flats of its shaft take all of the torque.",
            do=[
                (
                    "Put the shaft into the end of the hanger with the flats seated, the cable inwards and down "
                    "where no wheel reaches."
                ),
                "By hand only. Turn both: they do not scrape, and the cable does not turn with them.",
            ],
            right="The flats have no play, and the cable runs freely to the enclosure.",
            wrong="Play at the flats grows with every braking, and cuts the cable.",
            tools=["spanners", "marker"],
            minutes=minutes(15, 40, b.motors),
            touches=["parts.motors.count", "parts.drive.kind", "parts.trucks.hanger_mm"],
            **about,
        )
    elif b.kind == "direct":
        yield step(
            "dry-motor",
            "dry_fit",
            message(
                "{motors} round the axle, wheel onto the rotor", motors=counted(b.motors, "direct motor").capitalize()
            ),
            why="The stator has to be held on the hanger: nothing else stops it from turning.",
            do=[
                (
                    "Stator clamp on the hanger, rotor onto the axle with its own bearing, adapter into the wheel's "
                    "core."
                ),
                "By hand only. The cable leaves on the hanger's side.",
            ],
            right="Spun by hand you feel only the magnets.",
            tools=["allen_keys", "spanners"],
            minutes=minutes(20, 50, b.motors),
            touches=["parts.motors.count", "parts.drive.kind", "parts.wheels.core"],
            **about,
        )
    else:
        behind = b.parts.drive is not None and b.parts.drive.motor_place == "behind"
        yield step(
            "dry-motor",
            "dry_fit",
            message("{motors} on the plate, by hand", motors=counted(b.motors, "motor").capitalize()),
            why="Before its screws are tight it can be turned, moved and taken off again; that is what a dry fit is "
            "for.",
            do=[
                f"{'Behind the axle' if behind else 'Towards the middle of the board'}, cable away from the "
                "wheel, two screws crosswise.",
                *(["Gear onto the shaft, meshed by eye: slight play, zero nowhere."] if b.kind == "gear" else []),
                *(["Two motors on one truck: a finger's width between their backs."] if b.motors > 1 else []),
            ],
            right="The can is clear of hanger, deck and wheel along the whole slot.",
            tools=["allen_keys"],
            minutes=minutes(10, 20, b.motors, b.fitting_left("motors", "drive")),
            touches=[
                "parts.motors.count",
                "parts.motors.can_diameter_mm",
                "parts.motors.can_length_mm",
                "parts.drive.kind",
                "parts.drive.motor_place",
            ],
            **about,
        )


def belt(b: Board) -> Iterator[Step]:
    """Does the chosen belt reach, and what is left of the slot."""
    path, drive = belt_path(b.build), b.parts.drive
    if not b.belt or path is None or drive is None or not b.new("drive", "motors", "mount", "wheels", "trucks"):
        return
    teeth = drive.belt_teeth
    slot = b.parts.mount.slot_mm if b.parts.mount is not None else None
    pair = {"parts.drive.motor_teeth", "parts.drive.wheel_teeth", "parts.drive.belt_teeth", "parts.drive.pitch_mm"}
    yield step(
        "dry-belt",
        "dry_fit",
        "Lay the belt on: does it reach?",
        message(
            "A belt of {teeth} teeth is too short for {motor_teeth} and {wheel_teeth}: get another one first.",
            teeth=teeth,
            motor_teeth=drive.motor_teeth or round(USUAL["drive.motor_teeth"]),
            wheel_teeth=drive.wheel_teeth or round(USUAL["drive.wheel_teeth"]),
        )
        if path.too_short
        else message(
            (
                "{motor_teeth} and {wheel_teeth} teeth with a belt of {teeth}: the centres are {far} apart when it is taut."
                if teeth
                else "{motor_teeth} and {wheel_teeth} teeth: the centres are {far} apart when it is taut."
            ),
            motor_teeth=drive.motor_teeth or "?",
            wheel_teeth=drive.wheel_teeth or "?",
            teeth=teeth,
            far=(path.distance, "length"),
        ),
        [
            "Belt over the pulley on the axle first, then over the motor's; push the wheel on while turning.",
            "Slide the motor: the belt should be taut in the middle of the slot, so that you can tension it later."
            + (f" The slot is {slot:g} mm long." if slot else ""),
        ],
        "It is taut in the middle third of the slot, with at least six teeth of the small pulley in mesh.",
        wrong="Taut only at the end of the slot: use the next longer belt. Slack at the far end: one size shorter.",
        tools=["caliper"],
        minutes=minutes(10, 20, b.motors, b.fitting_left("motors", "drive", "wheels")),
        needs=b.needs("drive", "motors", "mount", "wheels"),
        touches=[*sorted(pair), "parts.mount.slot_mm"],
        after=["dry-motor", "dry-mount"],
        checks=[
            Check(
                id="centre",
                text="Distance between axle and motor shaft",
                quantity="length",
                unit="mm",
                plan=None if path.guessed else round(path.distance, 1),
            )
        ],
    )


def leaning(b: Board) -> Iterator[Step]:
    """The deck leaned all the way, both ways."""
    if (
        b.parts.deck is None
        or b.parts.trucks is None
        or not b.new("deck", "trucks", "risers", "wheels", "motors", "mount", "drive")
    ):
        return
    room, wheel = motor_room(b.build), wheel_room(b.build)
    turned = b.motors > 0 and b.kind not in ("hub", "direct")
    checks = [
        Check(
            id="lean", text="Lean of the deck, by a phone's level", quantity="angle", unit="°", plan=_deg(lean(b.build))
        )
    ]
    if turned and room is not None:
        checks.append(
            Check(id="motor", text="Motor to deck, at full lean", quantity="length", unit="mm", plan=round(room, 1))
        )
    if wheel is not None:
        checks.append(
            Check(id="wheel", text="Wheel to deck, at full lean", quantity="length", unit="mm", plan=round(wheel, 1))
        )
    yield step(
        "lean",
        "dry_fit",
        "Lean the deck all the way, both ways",
        "Wheel bite stops the board and throws the rider"
        + ("; a motor that hits the deck breaks the mount." if turned else "."),
        [
            "Kneel on one edge with your whole weight, then on the other, while someone else looks and measures.",
            *(["Turn the motor on its clamp until it is clear; then mark the plate's angle."] if turned else []),
            *(["The cables of the hubs follow without being pulled."] if b.kind == "hub" and b.motors else []),
        ],
        "Nothing touches, with a finger's width to spare for soft bushings and potholes.",
        wrong=f"Where it touches: taller risers, {'the plate turned down, ' if turned else ''}harder bushings. Do "
        "not take a test ride instead.",
        tools=["phone_level", "caliper", "marker"],
        minutes=minutes(15, 35),
        needs=b.needs("deck", "trucks", "risers", "wheels", "motors"),
        touches=[
            "parts.risers.height_mm",
            "parts.wheels.diameter_mm",
            "parts.wheels.width_mm",
            "parts.trucks.height_mm",
            "parts.deck.cutouts",
            "parts.motors.can_diameter_mm",
            "parts.drive.belt_teeth",
        ],
        after=["dry-trucks", "bearings", "dry-motor", "dry-belt"],
        checks=checks,
    )


def _deg(angle: float) -> float:
    return round(degrees(angle), 1)


def the_box(b: Board) -> Iterator[Step]:
    """The box with what it holds, held under the deck."""
    for boxed in b.boxes:
        which = "" if boxed.name == "enclosure" else "-second"
        kind = "second_enclosure" if which else "enclosure"
        if not b.new(kind, "deck", "pack", "controller"):
            continue
        flat = boxed.box.seat != "moulded" and not boxed.above
        places = [boxed.span[0] + boxed.length * (i + 0.5) / GAPS for i in range(GAPS)] if flat else []
        two = len(b.boxes) > 1
        yield step(
            f"dry-box{which}",
            "dry_fit",
            message(
                "Hold the {enclosure} {place} the deck, with everything in it",
                enclosure="second enclosure" if which else "enclosure",
                place="on" if boxed.above else "under",
            ),
            "On paper it fits. Wires, plugs and the deck's hollow need space too.",
            [
                (
                    "Put in pack, controller and plugs as they will be, and hold it in place with two clamps; use "
                    "cardboard of the same size for what is not here yet."
                ),
                *(
                    [
                        (
                            "A flat enclosure on a hollow deck stands on its corners. Measure the gap over its rim "
                            "at five places along it: the foam is cut to fit."
                        )
                    ]
                    if flat
                    else []
                ),
                *(["Check the path of the wire channel to the other enclosure too."] if two else []),
            ],
            "It touches all round, the wheels are clear of it at full lean, and nothing inside is pressed.",
            wrong="An enclosure screwed down over a gap cracks after months, at its middle bolts.",
            tools=["clamps", "caliper", "marker"],
            minutes=minutes(20, 45),
            needs=b.needs(kind, "deck"),
            touches=[
                f"parts.{kind}.length_mm",
                f"parts.{kind}.width_mm",
                f"parts.{kind}.depth_mm",
                f"parts.{kind}.back_mm",
                "parts.deck.concave_mm",
                "parts.deck.rocker_mm",
                "parts.pack.series",
                "parts.pack.parallel",
            ],
            after=["dry-trucks", f"box-made{which}", "rout-deck"],
            checks=[
                *(
                    Check(id=f"gap-{n}", text=f"Gap {round(at)} mm from the nose", quantity="length", unit="mm")
                    for n, at in enumerate(places, 1)
                ),
                *(
                    [
                        Check(
                            id="ground",
                            text="Enclosure to the ground, wheels on",
                            quantity="length",
                            unit="mm",
                            plan=round(ground_clearance(b.build), 0),
                        )
                    ]
                    if not boxed.above
                    else []
                ),
            ],
        )


def looked_over(b: Board, there: set[str]) -> Iterator[Step]:
    """The gate: nothing is locked before all of it was seen together, unless each part is locked as it fits."""
    if not there or locking(b.build) == "as_you_go":
        return
    yield step(
        "dry-look",
        "dry_fit",
        "Look at all of it together, then take it apart",
        "After this, parts are locked. What bothers you now takes a minute; later it takes a weekend.",
        [
            "Stand on it, roll it by hand, lean it. Go through the list of findings.",
            "Take photos from every side. Then take it apart again, with the screws beside each part.",
        ],
        "Nothing touches, nothing is under strain, and you would build it like this.",
        tools=["camera"],
        minutes=minutes(10, 25),
        after=["phase:dry_fit"],
        method="methods.locking",
    )
