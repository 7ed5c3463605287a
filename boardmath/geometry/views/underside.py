"""The board from underneath, to scale: x from the nose, y across from the middle."""

from itertools import pairwise
from math import cos, pi, sin

from boardmath.buildfile.build import Build
from boardmath.geometry import shapes
from boardmath.geometry.axle import APART, MOUNT, across
from boardmath.geometry.enclosures import boxes, boxes_under, stowed
from boardmath.geometry.shapes import Drawing, Shape, block, circle, dimension, outline
from boardmath.geometry.stance import BASEPLATE, axles, deck_of, has_cutouts, lean, mounts, wheel_radius
from boardmath.geometry.transmission import belt_path, can_radius, motor_centre
from boardmath.geometry.views.side import motor_in_enclosure
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind

HOLE_SPACING = (53.0, 41.0)
"""mm along and across between a truck's four bolts (from memory: measure your own baseplate)."""


def bolt_holes(build: Build) -> list[tuple[float, float]]:
    """Centres of the trucks' eight bolt holes."""
    return [hole for x in mounts(build) for hole in _holes_round(x)]


def old_holes(build: Build) -> list[tuple[float, float]]:
    """Centres of the holes that the deck came with and that are left where the rear truck was moved."""
    moved = deck_of(build).moved_mm
    return _holes_round(mounts(build)[1] - moved) if moved else []


def _holes_round(x: float) -> list[tuple[float, float]]:
    return [
        (x + along * HOLE_SPACING[0] / 2.0, side * HOLE_SPACING[1] / 2.0)
        for along in (-1.0, 1.0)
        for side in (-1.0, 1.0)
    ]


def enclosure_outlines(build: Build) -> list[tuple[float, float, float, float]]:
    """x0, y0, x1, y1 of each box on the deck's underside."""
    return [(b.span[0], -b.width / 2.0, b.span[1], b.width / 2.0) for b in boxes_under(build)]


def under_view(build: Build) -> Drawing:
    """The underside, nose to the left: trucks, wheels straight and in a full turn, motors, box and what is in it."""
    deck, sides = deck_of(build), across(build)
    front, rear = axles(build)
    length, half = deck.length_mm or USUAL["deck.length_mm"], (deck.width_mm or USUAL["deck.width_mm"]) / 2.0
    wheels, turned, motors, inside = _wheels(build), turned_wheels(build), _motors(build), _contents(build)
    box = [
        block(b.name, b.span[0], -b.width / 2.0, b.span[1], b.width / 2.0, "body", b.guessed)
        for b in boxes_under(build)
    ]
    found = [
        *shapes.clashes(motors[:1], motors[1:], "motors overlap"),
        # Above each other is not in each other: from the side they have to touch as well.
        *(shapes.clashes(motors, box, "motor in the enclosure") if motor_in_enclosure(build) else []),
        *shapes.clashes(turned, box, "turned wheel in the enclosure"),
        *shapes.clashes(box[:1], box[1:], "enclosures overlap"),
        *_not_in_their_boxes(build),
    ]
    widest = max(half, sides.axle) + 64.0
    right = max(length, rear + wheel_radius(build)) + 40.0
    beyond = right - 10.0
    dimensions = [
        dimension((beyond, -sides.hanger), (beyond, sides.hanger), "hanger {length}", 2.0 * sides.hanger),
        dimension((front, widest - 36.0), (rear, widest - 36.0), "wheelbase {length}", rear - front),
    ]
    for b in boxes_under(build):
        (x0, x1), y = b.span, -max(half, b.width / 2.0) - 14.0
        dimensions.append(dimension((x0, y), (x1, y), "enclosure {length}", x1 - x0))
    return Drawing(
        view="under",
        left=min(0.0, front - wheel_radius(build)) - 30.0,
        right=beyond + 110.0,
        bottom=-widest,
        top=widest,
        ground=False,
        shapes=[
            _deck(build),
            *_above(build),
            *_trucks(build),
            *box,
            *inside,
            *motors,
            *_belts(build),
            *wheels,
            *turned,
            *_holes(build),
        ],
        dimensions=dimensions,
        clashes=found,
        description=_words(build, len(found)),
    )


def _words(build: Build, clashing: int) -> str:
    count = len(_motors(build))
    text = f"From underneath: {count} motor{'s' if count != 1 else ''}." if count else "From underneath; no motor yet."
    for boxed, inside in stowed(build):
        which = "The enclosure" if boxed.name == "enclosure" else "The second enclosure"
        text += f" {which} has {inside.inner[0]:.0f} mm inside; its contents need {inside.needed_length:.0f}."
    if clashing:
        text += f" In {clashing} place{'s' if clashing > 1 else ''} parts collide."
    return text


def _deck(build: Build) -> Shape:
    return outline("deck", deck_outline(build), guessed=build.parts.deck is None)


def deck_outline(build: Build) -> list[tuple[float, float]]:
    """The deck's edge, rounded at nose and tail, cut away at the wheels where it is; x from the nose, y across."""
    deck = deck_of(build)
    length, half = deck.length_mm or USUAL["deck.length_mm"], (deck.width_mm or USUAL["deck.width_mm"]) / 2.0
    corner = min(half * 0.95, 0.16 * length)
    turns = [i * pi / 48.0 for i in range(25)]
    edge = [(corner - corner * cos(a), half * sin(a) ** 0.8) for a in turns]
    right = edge + [(length - x, y) for x, y in reversed(edge)]
    if has_cutouts(build):
        narrow, radius = min(half, across(build).wheel_inner - 6.0), wheel_radius(build) + 12.0
        sides = [(a + s * (radius + out)) for a in axles(build) for s in (-1.0, 1.0) for out in (0.0, 10.0)]
        stations = sorted({x for x, _ in right} | {x for x in sides if 0.0 < x < length})
        right = [(x, min(_at(right, x), _narrowed(build, x, narrow, half, radius))) for x in stations]
    return right + [(x, -y) for x, y in reversed(right)]


def _narrowed(build: Build, x: float, narrow: float, half: float, radius: float) -> float:
    """Half width that a cutout leaves at ``x``, with slanted ends of 10 mm."""
    away = min(abs(x - a) for a in axles(build)) - radius
    return narrow + (half - narrow) * min(max(away / 10.0, 0.0), 1.0)


def _at(edge: list[tuple[float, float]], x: float) -> float:
    for (x0, y0), (x1, y1) in pairwise(edge):
        if x0 <= x <= x1:
            return y0 + (y1 - y0) * ((x - x0) / (x1 - x0) if x1 > x0 else 0.0)
    return 0.0


def _trucks(build: Build) -> list[Shape]:
    sides, guessed = across(build), build.parts.trucks is None
    found = []
    for x, at in zip(axles(build), mounts(build), strict=True):
        found += [
            block("trucks", at - BASEPLATE, -28.0, at + BASEPLATE, 28.0, "body", guessed),
            block("trucks", x - 13.0, -sides.hanger, x + 13.0, sides.hanger, "body", guessed),
            block("trucks", x - 4.0, -sides.axle, x + 4.0, sides.axle, "body", guessed),
        ]
    return found


def _wheels(build: Build) -> list[Shape]:
    sides, radius, guessed = across(build), wheel_radius(build), build.parts.wheels is None
    return [
        block("wheels", x - radius, y0, x + radius, y1, "body", guessed)
        for x in axles(build)
        for y0, y1 in ((sides.wheel_inner, sides.wheel_outer), (-sides.wheel_outer, -sides.wheel_inner))
    ]


def turned_wheels(build: Build) -> list[Shape]:
    """The wheels in a full turn to either side; both trucks steer, against each other."""
    sides, radius, steer = across(build), wheel_radius(build), lean(build)
    found = []
    for x in axles(build):
        for turn in (-steer, steer):
            for side in (-1.0, 1.0):
                corners = [
                    (dx, side * dy)
                    for dx, dy in (
                        (-radius, sides.wheel_inner),
                        (radius, sides.wheel_inner),
                        (radius, sides.wheel_outer),
                        (-radius, sides.wheel_outer),
                    )
                ]
                points = [(x + dx * cos(turn) - dy * sin(turn), dx * sin(turn) + dy * cos(turn)) for dx, dy in corners]
                found.append(outline("wheels", points, "turned"))
    return found


def _motors(build: Build) -> list[Shape]:
    if build.parts.motors is None:
        return []
    kind, (front, rear) = drive_kind(build), axles(build)
    sides, can = across(build), can_radius(build)
    x = rear if kind in ("hub", "direct") else motor_centre(build)[0]
    count = build.parts.motors.count or 1
    spans = [(x, span) for span in sides.motors]
    # The third and fourth motor drive the front truck, behind it.
    spans += [(front + (rear - x), span) for span in sides.motors[: max(count - 2, 0)]]
    return [block("motors", at - can, y0, at + can, y1) for at, (y0, y1) in spans]


def _belts(build: Build) -> list[Shape]:
    path, motors = belt_path(build), build.parts.motors
    if path is None or (motors is None and build.parts.drive is None):
        return []
    (front, rear), x = axles(build), motor_centre(build)[0]
    y0, y1 = across(build).pulley
    count = (motors.count if motors else 1) or 1
    found = []
    # From the axle to the motor at the rear, and the other way round at the front.
    driven = [(rear, x, s) for s in (1.0, -1.0)[: min(count, 2)]]
    driven += [(front, front + rear - x, s) for s in (1.0, -1.0)[: max(count - 2, 0)]]
    for axle, motor, side in driven:
        low, high = sorted((side * y0, side * y1))
        ends = (axle - path.large, axle + path.large, motor - path.small, motor + path.small)
        found += [
            block("drive", min(ends), low, max(ends), high, "outline", path.guessed),
            block("drive", axle - path.large, low, axle + path.large, high, "outline", path.wheel_pulley_guessed),
        ]
        if build.parts.mount is not None and motors is not None:
            plate = sorted((side * (y0 - APART), side * (y0 - APART - (build.parts.mount.plate_mm or MOUNT))))
            reach = sorted((axle, motor))
            found.append(block("mount", reach[0] - 16.0, plate[0], reach[1] + 16.0, plate[1]))
        if build.parts.covers is not None and build.parts.covers.over != "motors":
            outer = sorted((side * y0, side * (y1 + 1.0)))
            found.append(block("covers", min(ends) - 7.0, outer[0], max(ends) + 7.0, outer[1], "outline"))
    return found


def _above(build: Build) -> list[Shape]:
    """What stands on the deck and is hidden by it."""
    return [
        block(b.name, b.span[0], -b.width / 2.0, b.span[1], b.width / 2.0, "outline", b.guessed)
        for b in boxes(build)
        if b.above
    ]


def _inside(build: Build) -> list[tuple[Shape, list[Shape]]]:
    """Each box under the deck with what is in it."""
    found = []
    for boxed, inside in stowed(build):
        if boxed.above:
            continue
        shown = []
        for item in inside.seen(depth="z"):
            (x0, x1), (y0, y1) = item.x, item.y
            if item.axis == "standing":
                radius = (x1 - x0) / 2.0
                shown.append(circle(item.part, x0 + radius, y0 + radius, radius - 0.4, "inside", item.guessed))
            else:
                shown.append(block(item.part, x0, y0, x1, y1, "inside", item.guessed))
        around = block(boxed.name, boxed.span[0], -boxed.width / 2.0, boxed.span[1], boxed.width / 2.0)
        found.append((around, shown))
    return found


def _contents(build: Build) -> list[Shape]:
    return [shape for _, inside in _inside(build) for shape in inside]


def _not_in_their_boxes(build: Build) -> list[shapes.Clash]:
    return [
        clash
        for around, inside in _inside(build)
        for clash in shapes.sticking_out(inside, around, "does not fit the enclosure")
    ]


def _holes(build: Build) -> list[Shape]:
    """The bolt holes, and those that are left from where the truck stood."""
    guessed = build.parts.trucks is None
    return [
        *(circle("deck", x, y, 2.7, "outline", guessed) for x, y in bolt_holes(build)),
        *(circle("deck", x, y, 2.7, "turned", guessed) for x, y in old_holes(build)),
    ]
