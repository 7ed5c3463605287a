"""The drive's end from behind, to scale: x across from the middle, y up from the ground; the deck straight and leaned."""

from math import cos, degrees, sin, tan

from boardmath.buildfile.build import Build
from boardmath.geometry import shapes
from boardmath.geometry.axle import APART, MOUNT, across
from boardmath.geometry.enclosures import boxes
from boardmath.geometry.shapes import Drawing, Shape, block, dimension, outline
from boardmath.geometry.stance import (
    deck_height,
    deck_of,
    has_cutouts,
    hollow_at,
    lean,
    mounts,
    riser_height,
    under_deck_at,
    wheel_radius,
)
from boardmath.geometry.transmission import FLANGE, belt_path, can_radius, motor_centre
from boardmath.geometry.views.side import in_the_ground
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind

BITE_ROOM = 2.0
"""mm that should be left at the deepest lean (from memory)."""


def concave_at(build: Build, y: float) -> float:
    """mm by which concave lifts the deck at ``y`` from the middle, where the trucks are bolted on: a parabola."""
    deck = deck_of(build)
    return hollow_at(build, mounts(build)[1]) * (y / ((deck.width_mm or USUAL["deck.width_mm"]) / 2.0)) ** 2


def comes_down(build: Build, y: float) -> float:
    """mm that the deck's underside comes down at ``y`` from the middle in the deepest lean.

    It rolls about the middle of its underside by ``y tan(lean)``; concave takes some of it back.
    """
    return y * tan(lean(build)) - concave_at(build, y)


def wheel_room(build: Build) -> float | None:
    """mm left between wheel and deck at the deepest lean; None where the deck does not reach over the wheels."""
    sides, half = across(build), (deck_of(build).width_mm or USUAL["deck.width_mm"]) / 2.0
    if has_cutouts(build) or half <= sides.wheel_inner:
        return None
    touch = min(half, sides.wheel_outer)
    return deck_height(build) - 2.0 * wheel_radius(build) - comes_down(build, touch)


def motor_room(build: Build) -> float | None:
    """mm left between motor and deck at the deepest lean; None without a motor under the deck."""
    if build.parts.motors is None or drive_kind(build) == "hub":
        return None
    x, y = motor_centre(build)
    outer = min(across(build).motors[0][1], (deck_of(build).width_mm or USUAL["deck.width_mm"]) / 2.0)
    return under_deck_at(build, x) - (y + can_radius(build)) - comes_down(build, max(outer, 0.0))


def pulley_room(build: Build) -> float | None:
    """mm between the road and the wheel pulley's flange; None where there is no pulley."""
    path = belt_path(build)
    return None if path is None else wheel_radius(build) - path.large - FLANGE


def behind_view(build: Build) -> Drawing:
    """The rear truck from behind, with the deck in its deepest lean dashed."""
    sides, radius, high = across(build), wheel_radius(build), deck_height(build)
    deck, leaned = _deck(build, 0.0), _deck(build, lean(build))
    motors, pulleys, wheels = _motors(build), _pulleys(build), _wheels(build)
    bite = shapes.clashes(wheels, [leaned], "wheel bite") if not has_cutouts(build) else []
    found = [
        *bite,
        *_motor_in_deck(build, motors),
        *shapes.clashes(motors[:1], motors[1:], "motors overlap"),
        *in_the_ground(pulleys + motors),
    ]
    widest = max((deck_of(build).width_mm or USUAL["deck.width_mm"]) / 2.0, sides.axle) + 30.0
    dimensions = [
        dimension((-sides.axle, -16.0), (sides.axle, -16.0), "axle {length}", 2.0 * sides.axle),
        dimension((-widest + 10.0, 0.0), (-widest + 10.0, high), "{length}", high),
    ]
    path = belt_path(build)
    if path is not None and pulleys and radius > path.large + FLANGE:
        x = -(sides.pulley[0] + sides.pulley[1]) / 2.0
        dimensions.append(
            dimension((x, 0.0), (x, radius - path.large - FLANGE), "{length}", radius - path.large - FLANGE)
        )
    return Drawing(
        view="behind",
        left=-widest - 24.0,
        right=widest + 24.0,
        bottom=-32.0,
        top=max([high + 20.0, *(p.y for s in _boxes(build) for p in s.points)]) + 26.0,
        ground=True,
        shapes=[
            *_boxes(build),
            *_truck(build),
            *motors,
            *pulleys,
            *_mounts_and_covers(build),
            *wheels,
            deck,
            leaned,
        ],
        dimensions=dimensions,
        clashes=found,
        description=_words(build),
    )


def _motor_in_deck(build: Build, motors: list[Shape]) -> list[shapes.Clash]:
    """The deck stands lower or higher at the motor than at the truck; there it is looked at."""
    x, _ = motor_centre(build)
    at_motor = _deck(build, lean(build), under_deck_at(build, x)) if motors else None
    return shapes.clashes(motors, [at_motor], "motor in the leaned deck") if at_motor else []


def _words(build: Build) -> str:
    text = f"From behind, with the deck leaned {degrees(lean(build)):.0f} degrees."
    wheel, motor = wheel_room(build), motor_room(build)
    for what, left in (("wheel", wheel), ("motor", motor)):
        if left is not None:
            text += f" Between {what} and deck {left:.0f} mm." if left >= 0.0 else f" The {what} touches the deck."
    return text


def _deck(build: Build, leaned: float, under: float | None = None) -> Shape:
    deck = deck_of(build)
    half, thick, high = (
        (deck.width_mm or USUAL["deck.width_mm"]) / 2.0,
        deck.thickness_mm or USUAL["deck.thickness_mm"],
        under or deck_height(build),
    )
    steps = [half * i / 12.0 for i in range(-12, 13)]
    points = [(x, concave_at(build, x)) for x in steps]
    points += [(x, y + thick) for x, y in reversed(points)]
    turned = [(x * cos(leaned) + y * sin(leaned), high - x * sin(leaned) + y * cos(leaned)) for x, y in points]
    return outline("deck", turned, "turned" if leaned else "body", build.parts.deck is None)


def _truck(build: Build) -> list[Shape]:
    sides, radius, guessed = across(build), wheel_radius(build), build.parts.trucks is None
    plate = deck_height(build) - riser_height(build)
    found = [
        outline(
            "trucks",
            [
                (-28.0, plate),
                (28.0, plate),
                (28.0, plate - 8.0),
                (14.0, plate - 8.0),
                (20.0, radius + 9.0),
                (-20.0, radius + 9.0),
                (-14.0, plate - 8.0),
                (-28.0, plate - 8.0),
            ],
            "body",
            guessed,
        ),
        block("trucks", -sides.hanger, radius - 10.0, sides.hanger, radius + 12.0, "body", guessed),
        block("trucks", -sides.axle, radius - 4.0, sides.axle, radius + 4.0, "body", guessed),
    ]
    if riser_height(build):
        found.append(block("risers", -28.0, plate, 28.0, plate + riser_height(build)))
    spreaders = build.parts.spreaders
    if spreaders is not None:
        half = (spreaders.width_mm or USUAL["spreaders.width_mm"]) / 2.0
        top = deck_height(build) + (deck_of(build).thickness_mm or USUAL["deck.thickness_mm"])
        found.append(block("spreaders", -half, top, half, top + (spreaders.height_mm or USUAL["spreaders.height_mm"])))
    return found


def _boxes(build: Build) -> list[Shape]:
    """The boxes as they stand behind the truck."""
    return [
        block(
            b.name,
            -b.width / 2.0,
            min(b.height(0.0), b.height(b.depth)),
            b.width / 2.0,
            max(b.height(0.0), b.height(b.depth)),
            "outline",
            b.guessed,
        )
        for b in boxes(build)
    ]


def _mounts_and_covers(build: Build) -> list[Shape]:
    """The mount's plate beside each pulley, and the cover over it."""
    path, motors, parts = belt_path(build), build.parts.motors, build.parts
    if path is None or motors is None:
        return []
    (_, y), radius, (x0, x1) = motor_centre(build), wheel_radius(build), across(build).pulley
    thick = (parts.mount.plate_mm if parts.mount else None) or MOUNT
    low, top = min(y - path.small, radius - path.large), max(y + path.small, radius + path.large)
    found = []
    for side in (1.0, -1.0)[: min(motors.count or 1, 2)]:
        if parts.mount is not None:
            a, b = sorted((side * (x0 - APART - thick), side * (x0 - APART)))
            found.append(block("mount", a, min(y, radius) - 18.0, b, max(y, radius) + 18.0))
        if parts.covers is not None and parts.covers.over != "motors":
            a, b = sorted((side * (x0 - 1.0), side * x1))
            found.append(block("covers", a, low - 7.0, b, top + 7.0, "outline"))
    return found


def _wheels(build: Build) -> list[Shape]:
    sides, top, guessed = across(build), 2.0 * wheel_radius(build), build.parts.wheels is None
    return [
        block("wheels", sides.wheel_inner, 0.0, sides.wheel_outer, top, "body", guessed),
        block("wheels", -sides.wheel_outer, 0.0, -sides.wheel_inner, top, "body", guessed),
    ]


def _motors(build: Build) -> list[Shape]:
    if build.parts.motors is None or drive_kind(build) == "hub":
        return []
    (_, y), can = motor_centre(build), can_radius(build)
    return [block("motors", x0, y - can, x1, y + can) for x0, x1 in across(build).motors]


def _pulleys(build: Build) -> list[Shape]:
    path, motors = belt_path(build), build.parts.motors
    if path is None or (motors is None and build.parts.drive is None):
        return []
    (_, y), radius, (x0, x1) = motor_centre(build), wheel_radius(build), across(build).pulley
    large, small = path.large + FLANGE, path.small + FLANGE
    found = []
    for side in (1.0, -1.0)[: min((motors.count if motors else 1) or 1, 2)]:
        left, right = sorted((side * x0, side * x1))
        found += [
            block("drive", left, radius - large, right, radius + large, "body", path.wheel_pulley_guessed),
            block("drive", left, y - small, right, y + small, "body", path.guessed),
        ]
    return found
