"""Trucks, wheels, motors and belts that do not go together."""

from collections.abc import Iterator
from math import ceil, cos, pi

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Facts, Finding, Fix, finding, fix
from boardmath.geometry import belt
from boardmath.geometry.axle import APART, MOUNT, across, axle_needed, axle_stub, room_between_motors
from boardmath.geometry.stance import BASEPLATE, deck_height, ends_bent, lean, mounts, riser_height, wheel_radius
from boardmath.geometry.transmission import (
    FLANGE,
    LEAST_TEETH_IN_MESH,
    belt_path,
    can_radius,
    least_distance,
    motor_angle,
    motor_centre,
    motor_distance,
    pitch,
    stock_belts,
)
from boardmath.geometry.views.rear import BITE_ROOM, motor_room, pulley_room, wheel_room
from boardmath.messages import message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind, has_pulleys, hill_grade, mounted
from boardmath.model.limits import wheel_torque
from boardmath.model.wheel_materials import material_of

PULLEY_GROUND = 8.0
"""mm that a wheel pulley should stand clear of the road (from memory)."""
TYRE = 4.0
"""mm of tyre that a hub motor needs round its can (from memory)."""
PLASTIC_BEARS = 6.0
"""Nm on a plastic wheel pulley above which its teeth and keys wear fast (from memory)."""
SOFT_WHEEL = 110.0
"""mm from which rubber and pneumatic wheels ask more of a motor without a gear than it can shed (from memory)."""
RISERS = (3.0, 6.0, 10.0, 13.0, 16.0, 20.0)
"""mm, heights that are sold (from memory)."""


def mount_profile(build: Build) -> Iterator[Finding]:
    """The hanger's cross-section against what the motor mount clamps."""
    trucks, drive = build.parts.trucks, mounted(build)
    if trucks is None or not trucks.profile or not drive.mount_profile or not has_pulleys(build):
        return
    own = build.parts.mount is not None and build.parts.mount.profile is not None
    if trucks.profile.casefold() != drive.mount_profile.casefold():
        yield finding(
            kind="mount-profile",
            severity="stop",
            title="The motor mount does not fit this hanger",
            about=["trucks", "mount" if own else "drive"],
            fields=["parts.mount.profile" if own else "parts.drive.mount_profile", "parts.trucks.profile"],
            message=message(
                "The mount is made for a {mount_profile} hanger, the trucks have a {profile} one: it slips or "
                "does not go on. Use a mount for the hanger, or trucks for the mount.",
                mount_profile=drive.mount_profile,
                profile=trucks.profile,
            ),
        )


def trucks_on_the_deck(build: Build) -> Iterator[Finding]:
    """The trucks' baseplates against the deck's ends."""
    deck = build.parts.deck
    if deck is None or deck.length_mm is None or deck.wheelbase_mm is None:
        return
    front, rear = mounts(build)
    plates = 2.0 * BASEPLATE * cos(ends_bent(build))
    needs = rear - front + plates + (deck.tail_mm or 0.0)
    placed = deck.front_axle_mm is not None
    beyond = max(plates / 2.0 - front, rear + plates / 2.0 - deck.length_mm, 0.0) if placed else 0.0
    if needs <= deck.length_mm and beyond <= 0.0:
        return
    yield finding(
        kind="trucks-beyond-deck",
        severity="stop",
        title="The trucks stand over the deck's end",
        about=["deck", "trucks"],
        fields=["parts.deck.front_axle_mm" if placed else "parts.deck.wheelbase_mm", "parts.deck.length_mm"],
        message=message(
            "A wheelbase of {base} with its baseplates needs {needs}; the deck has {length}"
            + (" beside its tail" if deck.tail_mm else "")
            + (", and with the front axle where you placed it they stand out by {beyond}" if beyond else "")
            + ". The bolts would miss the wood, or split its edge. Use a shorter wheelbase, or a longer deck.",
            base=(deck.wheelbase_mm, "length"),
            needs=(needs, "length"),
            length=(deck.length_mm, "length"),
            beyond=(beyond, "length"),
        ),
        fixes=[fix("Set the wheelbase to {base}", {"parts.deck.wheelbase_mm": fits}, base=(fits, "length"))]
        if (fits := float(int(deck.wheelbase_mm - (needs - deck.length_mm)))) >= 250.0 and not placed
        else (),
    )


MOUNT_FROM_MIDDLE = 26.0
"""mm from the middle of a hanger at which it is straight enough to clamp a mount on (from memory)."""


def hanger_too_short(build: Build) -> Iterator[Finding]:
    """Room on the hanger for a mount beside its wheel pulley."""
    trucks, drive, motors = build.parts.trucks, build.parts.drive, build.parts.motors
    if trucks is None or trucks.hanger_mm is None or motors is None or drive is None:
        return
    kind, sides = drive_kind(build), across(build)
    if kind == "hub":
        return
    # A motor on the axle has to lie beside the pivot altogether.
    at = sides.motors[0][0] if kind == "direct" else sides.pulley[0] - APART - MOUNT
    if at >= MOUNT_FROM_MIDDLE:
        return
    yield finding(
        kind="hanger-short",
        severity="stop",
        title="Hanger too short for the mount",
        about=["trucks", "drive"],
        fields=["parts.trucks.hanger_mm", "parts.drive.belt_width_mm"],
        message=message(
            "On a hanger of {hanger} wheel and pulley leave the mount {lack} too little straight length. "
            "Small-cruiser trucks are made for wheels alone: use wider trucks, or hub motors.",
            hanger=(trucks.hanger_mm, "length"),
            lack=(MOUNT_FROM_MIDDLE - at, "length"),
        ),
    )


def motors_side_by_side(build: Build) -> Iterator[Finding]:
    """Two motors on one truck against the hanger's width."""
    room, trucks, motors = room_between_motors(build), build.parts.trucks, build.parts.motors
    if room is None or trucks is None or trucks.hanger_mm is None or motors is None or room >= 2.0:
        return
    yield finding(
        kind="motors-side-by-side",
        severity="stop",
        title="Two motors too wide for the hanger",
        about=["trucks", "motors"],
        fields=["parts.trucks.hanger_mm", "parts.motors.can_length_mm"],
        message=message(
            "Two cans of {can} with mounts and pulleys need a hanger {lack} wider than {hanger}. Use shorter "
            "motors, wider trucks, or one motor.",
            can=(motors.can_length_mm or USUAL["motors.can_length_mm"], "length"),
            lack=(2.0 - room, "length"),
            hanger=(trucks.hanger_mm, "length"),
        ),
        fixes=[fix("Use one motor", {"parts.motors.count": 1, "parts.drive.driven_wheels": 1})],
    )


def axle_length(build: Build) -> Iterator[Finding]:
    """What stands out of the hanger against bearings, nut and a pulley with its own bearing."""
    trucks, drive = build.parts.trucks, build.parts.drive
    if trucks is None or trucks.axle_mm is None or trucks.hanger_mm is None:
        return
    has, needs = axle_stub(build), axle_needed(build)
    if has >= needs:
        return
    own = drive is not None and drive.pulley_fixing == "own_bearing"
    words = " A pulley bolted to the wheel needs none of it." if own else " Use trucks with a longer axle."
    yield finding(
        kind="axle-length",
        severity="stop",
        title="The axle is too short",
        about=["trucks", "drive"],
        fields=["parts.trucks.axle_mm", "parts.drive.pulley_fixing"],
        message=message(
            "Each axle end is {has} long; wheel, bearings and nut"
            + (" and the pulley's own bearing" if own else "")
            + " take {needs}."
            + words,
            has=(has, "length"),
            needs=(needs, "length"),
        ),
        fixes=[fix("Use a bolted pulley", {"parts.drive.pulley_fixing": "bolted"})] if own else (),
    )


def wheel_core(build: Build) -> Iterator[Finding]:
    """The wheel's core against the one that the wheel pulley keys into."""
    wheels, drive = build.parts.wheels, build.parts.drive
    if wheels is None or drive is None or not wheels.core or not drive.wheel_core or drive_kind(build) == "hub":
        return
    if wheels.core.casefold() != drive.wheel_core.casefold():
        has, wants = (c.replace("_", " ") for c in (wheels.core, drive.wheel_core))
        yield finding(
            kind="wheel-core",
            severity="stop",
            title="The pulley does not fit these wheel cores",
            about=["wheels", "drive"],
            fields=["parts.drive.wheel_core", "parts.wheels.core"],
            message=message(
                "The wheel pulley is made for a {wants} core, the wheels have a {has} one. Drilling or cutting "
                "cores is a common mistake. Use matching wheels or pulley.",
                wants=wants,
                has=has,
            ),
        )


def pulley_and_ground(build: Build) -> Iterator[Finding]:
    """The wheel pulley against the wheel: clearly smaller, or it meets the road."""
    room, drive, wheels = pulley_room(build), build.parts.drive, build.parts.wheels
    if room is None or drive is None or drive.wheel_teeth is None or wheels is None or wheels.diameter_mm is None:
        return
    if room >= PULLEY_GROUND:
        return
    most = int((wheels.diameter_mm / 2.0 - FLANGE - PULLEY_GROUND) * 2.0 * pi / pitch(build))
    yield finding(
        kind="pulley-ground",
        severity="stop" if room <= 0.0 else "warn",
        title="The wheel pulley is too big",
        about=["wheels", "drive"],
        fields=["parts.drive.wheel_teeth", "parts.wheels.diameter_mm"],
        message=message(
            "{wheel_teeth} teeth are {pulley} across, the wheel is {wheel}: {room} are left to the road, "
            "{usual} is the usual minimum. Stones and kerbs tear belts there.",
            pulley=(2.0 * (belt.pitch_radius(drive.wheel_teeth, pitch(build)) + FLANGE), "length"),
            wheel=(wheels.diameter_mm, "length"),
            room=(room, "length"),
            usual=(PULLEY_GROUND, "length"),
            wheel_teeth=drive.wheel_teeth,
        ),
        fixes=[fix("Use {most} teeth", {"parts.drive.wheel_teeth": most}, most=most)] if most >= 12 else (),
    )


def belt_length(build: Build) -> Iterator[Finding]:
    """The belt against pulleys, hanger and motor can."""
    path, drive = belt_path(build), build.parts.drive
    if path is None or drive is None or drive.belt_teeth is None:
        return
    least = least_distance(build)
    if not path.too_short and path.distance >= least:
        return
    better = stock_belts(build)
    fixes = [_belt_fix(better[0].teeth, pitch(build))] if better else []
    length = (drive.belt_teeth * pitch(build), "length")
    if path.too_short:
        text = message("A belt of {length} does not reach round these pulleys.", length=length)
    else:
        text = message(
            "A belt of {length} puts the shafts {apart} apart; can, hanger and flanges need {least}.",
            length=length,
            apart=(path.distance, "length"),
            least=(least, "length"),
        )
    yield finding(
        kind="belt-length",
        severity="stop",
        title="The belt is too short",
        about=["drive", "motors"],
        fields=["parts.drive.belt_teeth"],
        message=text,
        fixes=fixes,
    )


def _belt_fix(teeth: int, belt_pitch: float) -> Fix:
    length = (teeth * belt_pitch, "length")
    return fix("Use {teeth} teeth, {length}", {"parts.drive.belt_teeth": teeth}, length=length, teeth=teeth)


def teeth_in_mesh(build: Build) -> Iterator[Finding]:
    """Teeth of the motor pulley that the belt holds: with fewer than six it skips."""
    path, drive = belt_path(build), build.parts.drive
    if path is None or drive is None or not drive.motor_teeth or not drive.wheel_teeth or drive.kind == "chain":
        return
    if path.teeth_in_mesh >= LEAST_TEETH_IN_MESH or path.too_short or mounted(build).idler:
        return
    longer = next((b.teeth for b in stock_belts(build) if b.teeth_in_mesh >= LEAST_TEETH_IN_MESH), None)
    fixes = [_belt_fix(longer, 5.0)] if longer else []
    more = drive.motor_teeth + ceil((LEAST_TEETH_IN_MESH - path.teeth_in_mesh) / path.wrap_deg * 360.0)
    fixes.append(fix("Use {more} motor teeth", {"parts.drive.motor_teeth": more}, more=more))
    yield finding(
        kind="belt-mesh",
        severity="warn",
        title="Few teeth in mesh: belt may skip",
        about=["drive"],
        fields=["parts.drive.motor_teeth", "parts.drive.belt_teeth"],
        message=message(
            "The belt wraps {wrap} of the {motor_teeth} motor teeth, so {mesh} are in mesh; {least} is the "
            "usual minimum. It skips under hard braking. Use more motor teeth (and more speed), a longer "
            "belt, or an idler, which costs friction.",
            wrap=(path.wrap_deg, "angle"),
            mesh=(path.teeth_in_mesh, "teeth"),
            least=(LEAST_TEETH_IN_MESH, "teeth"),
            motor_teeth=drive.motor_teeth,
        ),
        fixes=fixes,
    )


def shaft_and_bore(build: Build) -> Iterator[Finding]:
    """The motor's shaft against the bore of its pulley."""
    motors, drive = build.parts.motors, build.parts.drive
    if motors is None or drive is None or motors.shaft_mm is None or drive.bore_mm is None:
        return
    if drive_kind(build) in ("hub", "direct") or abs(motors.shaft_mm - drive.bore_mm) < 0.05:
        return
    thick = motors.shaft_mm > drive.bore_mm
    yield finding(
        kind="shaft-bore",
        severity="stop",
        title="Motor pulley does not fit the shaft",
        about=["motors", "drive"],
        fields=["parts.drive.bore_mm", "parts.motors.shaft_mm"],
        message=message(
            "The shaft is {shaft}, the pulley's bore {bore}: "
            + ("it does not go on." if thick else "it sits loose and shears its key.")
            + " Use a pulley bored for the shaft.",
            shaft=(motors.shaft_mm, "length"),
            bore=(drive.bore_mm, "length"),
        ),
        fixes=[
            fix("Use a bore of {shaft}", {"parts.drive.bore_mm": motors.shaft_mm}, shaft=(motors.shaft_mm, "length"))
        ],
    )


def _taller(build: Build, lacking: float) -> list[Fix]:
    """The next riser height that gives ``lacking`` mm more."""
    wanted = riser_height(build) + lacking
    height = next((h for h in RISERS if h >= wanted), None)
    if height is None:
        return []
    return [fix("Use risers of {height}", {"parts.risers.height_mm": height}, height=(height, "length"))]


def motor_and_deck(build: Build) -> Iterator[Finding]:
    """The motor can against the deck through the full turn, and against the hanger's own place."""
    room = motor_room(build)
    parts = build.parts
    if room is None or parts.deck is None or parts.motors is None or parts.motors.can_diameter_mm is None:
        return
    if room >= BITE_ROOM:
        return
    angle = (
        "parts.mount.angle_deg" if parts.mount is not None and parts.mount.angle_deg else "parts.drive.mount_angle_deg"
    )
    lower = [fix("Turn the mount down to 0°", {angle: 0})]
    can_turn = parts.drive is not None and drive_kind(build) != "direct" and motor_angle(build) > 0.0
    # Lower only as far as the can stays off the road.
    can_turn = can_turn and wheel_radius(build) - can_radius(build) > 10.0 and motor_distance(build) > 0.0
    yield finding(
        kind="motor-deck",
        severity="stop" if room < 0.0 else "warn",
        title="The motor hits the deck in turns",
        about=["motors", "deck", "trucks"],
        fields=[angle, "parts.risers.height_mm"],
        message=message(
            "In a full turn the deck comes down by {lean}; "
            + ("{lack} are missing" if room < 0.0 else "{room} are left")
            + " between motor and deck. Use a lower mount angle, taller risers or a shorter belt.",
            lean=(lean(build) * 180.0 / pi, "angle"),
            room=(max(room, 0.0), "length"),
            lack=(max(-room, 0.0), "length"),
        ),
        fixes=[*_taller(build, BITE_ROOM - room), *(lower if can_turn else []), *_behind(build)],
    )


def _behind(build: Build) -> list[Fix]:
    """The motor on the other side of its axle, where it has room there."""
    drive = build.parts.drive
    if drive is None or drive.motor_place == "behind" or motor_distance(build) == 0.0:
        return []
    moved = drive.model_copy(update={"motor_place": "behind"})
    room = motor_room(build.model_copy(update={"parts": build.parts.model_copy(update={"drive": moved})}))
    if room is None or room < BITE_ROOM:
        return []
    return [fix("Put the motor behind the axle", {"parts.drive.motor_place": "behind"})]


def wheel_bite(build: Build) -> Iterator[Finding]:
    """The wheels against the deck at the deepest lean: a wheel that bites stops the board, not the rider."""
    room, deck, wheels = wheel_room(build), build.parts.deck, build.parts.wheels
    if room is None or deck is None or deck.width_mm is None or wheels is None or wheels.diameter_mm is None:
        return
    if room >= BITE_ROOM:
        return
    trucks = build.parts.trucks
    stated = trucks is not None and trucks.height_mm is not None
    guess = "" if stated else " The trucks' height is estimated: measure it."
    yield finding(
        kind="wheel-bite",
        severity="danger" if room < 0.0 and stated else "warn",
        title="Wheel bite in a full turn",
        about=["wheels", "deck", "risers"],
        fields=["parts.risers.height_mm", "parts.deck.cutouts"],
        message=message(
            "The deck's underside is {high} high, the wheels are {wheel}: at a lean of {lean}, "
            + ("{lack} are missing" if room < 0.0 else "{room} are left")
            + (
                ". Wheel bite stops the board and throws the rider. Use taller risers, smaller wheels, cutouts in "
                "the deck, or harder bushings."
            )
            + guess,
            high=(deck_height(build), "length"),
            wheel=(wheels.diameter_mm, "length"),
            lean=(lean(build) * 180.0 / pi, "angle"),
            room=(max(room, 0.0), "length"),
            lack=(max(-room, 0.0), "length"),
        ),
        fixes=[*_taller(build, BITE_ROOM - room), fix("The deck has cutouts", {"parts.deck.cutouts": True})],
    )


def motor_and_ground(build: Build) -> Iterator[Finding]:
    """The motor against the road, or against the wheel that it is built into."""
    motors, wheels = build.parts.motors, build.parts.wheels
    if motors is None or wheels is None or motors.can_diameter_mm is None or wheels.diameter_mm is None:
        return
    hub = drive_kind(build) == "hub"
    height = wheel_radius(build) if hub else motor_centre(build)[1]
    room, usual = height - can_radius(build), TYRE if hub else PULLEY_GROUND
    if room >= usual:
        return
    says = "the tyre on the motor is {room} thick" if hub else "{room} are left to the road"
    yield finding(
        kind="motor-ground",
        severity="stop" if room <= 0.0 or hub else "warn",
        title="Motor too big for the wheels",
        about=["motors", "wheels"],
        fields=["parts.motors.can_diameter_mm", "parts.wheels.diameter_mm"],
        message=message(
            "A can of {can} on wheels of {wheel}: "
            + says
            + ", {usual} is the usual minimum. Use bigger wheels, or a smaller motor.",
            can=(motors.can_diameter_mm, "length"),
            wheel=(wheels.diameter_mm, "length"),
            room=(room, "length"),
            usual=(usual, "length"),
        ),
    )


def soft_wheels_direct(build: Build) -> Iterator[Finding]:
    """Big soft wheels on a motor without a gear."""
    wheels, kind = build.parts.wheels, drive_kind(build)
    if wheels is None or not material_of(wheels).soft or kind not in ("direct", "hub"):
        return
    if (wheels.diameter_mm or 0.0) < SOFT_WHEEL:
        return
    yield finding(
        kind="soft-wheels-direct",
        severity="warn",
        title="Big soft wheels on an ungeared motor",
        about=["wheels", "motors", "drive"],
        fields=["parts.wheels.diameter_mm", "parts.drive.kind"],
        message=message(
            "A {motor} motor turns {wheels} wheels of {wheel} without gears; from {usual} on soft ground "
            "such motors burn out. Use smaller wheels, hard ground, or a belt drive.",
            wheel=(wheels.diameter_mm or 0.0, "length"),
            usual=(SOFT_WHEEL, "length"),
            motor=kind,
            wheels=wheels.kind,
        ),
    )


def plastic_pulley(build: Build) -> Iterator[Finding]:
    """A plastic wheel pulley against the torque that it is given."""
    drive, torque = build.parts.drive, wheel_torque(build)
    if drive is None or drive.pulley_material != "plastic" or torque is None or torque <= PLASTIC_BEARS:
        return
    yield finding(
        kind="plastic-pulley",
        severity="warn",
        title="High torque on a plastic pulley",
        about=["drive", "settings"],
        fields=["parts.drive.pulley_material", "settings.motor_current_a"],
        message=message(
            "The motor can put {torque} on a plastic wheel pulley; above {bears} its teeth and keys wear fast, "
            "and the brake goes with them. Use a metal pulley, or less motor current.",
            torque=(torque, "torque"),
            bears=(PLASTIC_BEARS, "torque"),
        ),
        fixes=[fix("Use a metal pulley", {"parts.drive.pulley_material": "metal"})],
    )


def one_driven_wheel(build: Build, facts: Facts) -> Iterator[Finding]:
    """One driven wheel on a hill near what its grip holds."""
    hill, motors, drive = hill_grade(build), build.parts.motors, build.parts.drive
    if hill is None or motors is None or (motors.count or 1) > 1 or (drive and (drive.driven_wheels or 1) > 1):
        return
    if facts.slip_grade_pct > 1.25 * hill:
        return
    yield finding(
        kind="one-driven-wheel",
        severity="warn",
        title="One driven wheel on a steep hill",
        about=["motors", "drive"],
        fields=["parts.motors.count", "brief.hill_grade_pct"],
        message=message(
            "One wheel slips from {slip}, the hill has {hill}. On wet leaves or sand it spins, uphill and when "
            "braking. A second motor doubles the grip.",
            slip=(facts.slip_grade_pct, "grade"),
            hill=(hill, "grade"),
        ),
        fixes=[fix("Use two motors", {"parts.motors.count": 2, "parts.drive.driven_wheels": 2})],
    )
