"""The board from the side, to scale: x from the nose, y up from the ground."""

from math import asin, atan2, cos, pi, sin

from boardmath.buildfile.build import Build
from boardmath.buildfile.rolling import Wheels
from boardmath.fit import shapes
from boardmath.fit.box import box_span, contents
from boardmath.fit.shapes import Clash, Drawing, Role, Shape, block, circle, dimension, outline
from boardmath.fit.stance import (
    BASEPLATE,
    axles,
    box_depth,
    deck_height,
    deck_of,
    ground_clearance,
    riser_height,
    under_deck,
    under_deck_at,
    wheel_radius,
)
from boardmath.fit.transmission import FLANGE, belt_path, can_radius, motor_centre
from boardmath.inputs import drive_kind
from boardmath.usual import USUAL


def side_view(build: Build) -> Drawing:
    """The board from the right-hand side, nose to the left. What is not chosen is drawn as guessed."""
    length = deck_of(build).length_mm or USUAL["deck.length_mm"]
    front, rear = axles(build)
    radius, high = wheel_radius(build), deck_height(build)
    deck, box, inside, motor = side_deck(build), _enclosure(build), _contents(build), side_motor(build)
    dimensions = [dimension((front, high + 62.0), (rear, high + 62.0), "wheelbase {length}", rear - front)]
    clearance = ground_clearance(build)
    if build.parts.enclosure is not None and clearance > 0.0:
        x = min(box_span(build)[1] - 30.0, rear - radius - 60.0)
        dimensions.append(dimension((x, 0.0), (x, clearance), "{length} under the box", clearance))
    bodies = [s for s in motor if s.part == "motors"]
    found = [
        *shapes.clashes(bodies, [deck], "motor in the deck"),
        *motor_in_box(build),
        *(shapes.sticking_out(inside, box[0], "does not go into the box") if box else []),
        *in_the_ground(motor + box),
    ]
    return Drawing(
        view="side",
        left=min(0.0, front - radius) - 30.0,
        right=max(length, rear + radius) + 30.0,
        bottom=-30.0,
        top=high + 88.0,
        ground=True,
        shapes=[deck, *_trucks(build), *box, *inside, *_wheels(build), *motor],
        dimensions=dimensions,
        clashes=found,
        description=_description(build, clearance),
    )


def motor_in_box(build: Build) -> list[Clash]:
    """Where the motor and the box are in each other's place, seen from the side."""
    bodies = [s for s in side_motor(build) if s.part == "motors"]
    return shapes.clashes(bodies, _enclosure(build), "motor in the box")


def in_the_ground(parts: list[Shape]) -> list[Clash]:
    """What reaches below the road."""
    road = block("ground", -5000.0, -500.0, 5000.0, 0.0)
    solid = [s for s in parts if s.closed and s.role != "inside"]
    return shapes.clashes(solid, [road], "in the ground")


def _description(build: Build, clearance: float) -> str:
    parts = build.parts
    wheels, deck = parts.wheels or Wheels(), deck_of(build)
    words = [
        f"A board {deck.length_mm or USUAL['deck.length_mm']:g} mm long "
        f"on {wheels.diameter_mm or USUAL['wheels.diameter_mm']:g} mm wheels,",
        f"wheelbase {deck.wheelbase_mm or USUAL['deck.wheelbase_mm']:g} mm.",
    ]
    if parts.enclosure is not None:
        words.append(f"The box hangs {clearance:.0f} mm above the ground.")
    guessed = [n for n in ("deck", "trucks", "wheels", "motors") if getattr(parts, n) is None]
    if guessed:
        words.append(f"Not chosen yet and drawn as usual: {', '.join(guessed)}.")
    return " ".join(words)


def side_deck(build: Build) -> Shape:
    """The deck's outline from the side, with its rocker or drop, nose and tail."""
    deck = deck_of(build)
    front, rear = axles(build)
    length, thickness, high = (
        deck.length_mm or USUAL["deck.length_mm"],
        deck.thickness_mm or USUAL["deck.thickness_mm"],
        deck_height(build),
    )
    under: list[tuple[float, float]] = []
    nose_lift = 0.18 * max(front - 40.0, 0.0)
    tail_lift = 0.3 * (deck.tail_mm or 0.0) + 0.08 * max(length - rear - 40.0 - (deck.tail_mm or 0.0), 0.0)
    for x in [i * length / 60.0 for i in range(61)]:
        if x < front + 40.0:
            y = high + nose_lift * max((front - 40.0 - x) / max(front - 40.0, 1.0), 0.0)
        elif x > rear - 40.0:
            y = high + tail_lift * max((x - rear - 40.0) / max(length - rear - 40.0, 1.0), 0.0)
        else:
            y = under_deck_at(build, x)
        under.append((x, y))
    top = [(x, y + thickness) for x, y in reversed(under)]
    return outline("deck", under + top, guessed=build.parts.deck is None)


def _trucks(build: Build) -> list[Shape]:
    guessed = build.parts.trucks is None
    high, axle, riser = deck_height(build), wheel_radius(build), riser_height(build)
    found = []
    for x, inward in zip(axles(build), (1.0, -1.0), strict=True):
        if riser:
            found.append(block("risers", x - 40.0, high - riser, x + 40.0, high))
        plate = high - riser
        points = [
            (x - BASEPLATE, plate),
            (x + BASEPLATE, plate),
            (x + BASEPLATE, plate - 7.0),
            (x + 14.0 * inward + 9.0, plate - 14.0),
            (x + 11.0, axle - 5.0),
            (x - 11.0, axle - 5.0),
            (x + 14.0 * inward - 9.0, plate - 14.0),
            (x - BASEPLATE, plate - 7.0),
        ]
        found.append(outline("trucks", points, guessed=guessed))
    return found


def _wheels(build: Build) -> list[Shape]:
    radius, guessed = wheel_radius(build), build.parts.wheels is None
    rings: tuple[tuple[float, Role], ...] = ((radius, "body"), (radius * 0.52, "outline"), (4.0, "outline"))
    return [circle("wheels", x, radius, r, role, guessed) for x in axles(build) for r, role in rings]


def side_motor(build: Build, arcs: bool = False) -> list[Shape]:
    """Motor, pulleys and belt from the side; with ``arcs`` the belt is drawn round its pulleys as well."""
    parts = build.parts
    if parts.motors is None and parts.drive is None:
        return []
    kind, rear, axle, can = drive_kind(build), axles(build)[1], wheel_radius(build), can_radius(build)
    guessed = parts.motors is None
    if kind in ("hub", "direct"):
        unknown = guessed or parts.motors is None or parts.motors.can_diameter_mm is None
        return [circle("motors", rear, axle, min(can, axle * 0.8) if kind == "hub" else can, "body", unknown)]
    x, y = motor_centre(build)
    found = [circle("motors", x, y, can, "body", guessed)]
    path = belt_path(build)
    if path is None:
        return found
    lean = atan2(y - axle, rear - x)
    half_wrap = pi / 2.0 - asin(max(-1.0, min(1.0, (path.large - path.small) / path.distance)))
    ends = [
        ((rear + path.large * cos(a), axle + path.large * sin(a)), (x + path.small * cos(a), y + path.small * sin(a)))
        for a in (pi - lean + half_wrap, pi - lean - half_wrap)
    ]
    found += [
        circle("drive", rear, axle, path.large + FLANGE, "outline", path.wheel_pulley_guessed),
        circle("drive", x, y, path.small + FLANGE, "outline", path.guessed),
        *(outline("drive", [a, b], "belt", path.guessed, closed=False) for a, b in ends),
    ]
    if arcs:
        towards = pi - lean
        for cx, cy, r, begin, end in (
            (x, y, path.small, towards - half_wrap, towards + half_wrap),
            (rear, axle, path.large, towards + half_wrap, towards + 2.0 * pi - half_wrap),
        ):
            steps = [begin + (end - begin) * i / 40.0 for i in range(41)]
            arc = [(cx + r * cos(a), cy + r * sin(a)) for a in steps]
            found.append(outline("drive", arc, "belt", path.guessed, closed=False))
    return found


def _enclosure(build: Build) -> list[Shape]:
    box = build.parts.enclosure
    if box is None:
        return []
    x0, x1 = box_span(build)
    top = under_deck(build)
    return [block("enclosure", x0, top - box_depth(build), x1, top, "body", box.length_mm is None)]


def _contents(build: Build) -> list[Shape]:
    stowed = contents(build)
    if stowed is None:
        return []
    top, found = under_deck(build), []
    for item in stowed.seen(depth="y"):
        (x0, x1), (z0, z1) = item.x, item.z
        if item.axis == "across":
            radius = (x1 - x0) / 2.0
            found.append(circle(item.part, x0 + radius, top - z0 - radius, radius - 0.4, "inside", item.guessed))
        else:
            found.append(block(item.part, x0, top - z1, x1, top - z0, "inside", item.guessed))
    return found
