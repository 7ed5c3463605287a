"""The board from the side, to scale: x from the nose, y up from the ground."""

from math import asin, atan2, cos, pi, sin

from shapely import MultiPoint

from boardmath.buildfile.build import Build
from boardmath.buildfile.rolling import Wheels
from boardmath.geometry import shapes
from boardmath.geometry.beam import pocket
from boardmath.geometry.enclosures import Boxed, boxes, boxes_under, ground_clearance, pack_outside, pocket_in, stowed
from boardmath.geometry.shapes import Clash, Drawing, Role, Shape, block, circle, dimension, outline
from boardmath.geometry.stance import (
    BASEPLATE,
    axles,
    bends,
    deck_height,
    deck_of,
    ends_bent,
    mounts,
    riser_height,
    top_of_deck_at,
    under_deck_at,
    wheel_radius,
)
from boardmath.geometry.transmission import FLANGE, HANGER, belt_path, can_radius, motor_centre
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind, has_pulleys


def side_view(build: Build) -> Drawing:
    """The board from the right-hand side, nose to the left. What is not chosen is drawn as guessed."""
    length = deck_of(build).length_mm or USUAL["deck.length_mm"]
    front, rear = axles(build)
    radius, high = wheel_radius(build), deck_height(build)
    deck, motor = side_deck(build), side_motor(build)
    box, inside = [_enclosure(b) for b in boxes(build)], _contents(build)
    stands = max([high + 46.0, *(p.y for s in (*box, *inside, *_pack_on_deck(build)) for p in s.points)]) + 16.0
    dimensions = [dimension((front, stands), (rear, stands), "wheelbase {length}", rear - front)]
    clearance = ground_clearance(build)
    hanging = boxes_under(build)
    if hanging and clearance > 0.0:
        lowest = min(hanging, key=lambda b: b.face - b.depth)
        x = min(lowest.span[1] - 30.0, rear - radius - 60.0)
        dimensions.append(dimension((x, 0.0), (x, clearance), "{length} under the enclosure", clearance))
    bodies = [s for s in motor if s.part == "motors"]
    found = [
        *shapes.clashes(bodies, [deck], "motor in the deck"),
        *motor_in_enclosure(build),
        *_not_in_their_boxes(build),
        *shapes.clashes(box[:1], box[1:], "enclosures overlap"),
        *in_the_ground(motor + box),
    ]
    return Drawing(
        view="side",
        left=min(0.0, front - radius) - 30.0,
        right=max([length, rear + radius, *(p.x + (s.radius or 0.0) for s in bodies for p in s.points)]) + 30.0,
        bottom=-30.0,
        top=stands + 26.0,
        ground=True,
        shapes=[
            deck,
            *_pocket(build),
            *_trucks(build),
            *box,
            *inside,
            *_pack_on_deck(build),
            *_charge_port(build),
            *_wheels(build),
            *motor,
            *side_mount(build),
            *side_covers(build),
        ],
        dimensions=dimensions,
        clashes=found,
        description=_description(build, clearance),
    )


def motor_in_enclosure(build: Build) -> list[Clash]:
    """Where the motor and the box are in each other's place, seen from the side."""
    bodies = [s for s in side_motor(build) if s.part == "motors"]
    return shapes.clashes(bodies, [_enclosure(b) for b in boxes_under(build)], "motor in the enclosure")


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
    if boxes_under(build):
        words.append(f"The enclosure is {clearance:.0f} mm above the ground.")
    guessed = [n for n in ("deck", "trucks", "wheels", "motors") if getattr(parts, n) is None]
    if guessed:
        words.append(f"Not chosen yet and drawn as typical: {', '.join(guessed)}.")
    return " ".join(words)


def side_deck(build: Build) -> Shape:
    """The deck's outline from the side, with its rocker or drop, nose and tail."""
    deck = deck_of(build)
    front, rear = mounts(build)
    length, thickness, high = (
        deck.length_mm or USUAL["deck.length_mm"],
        deck.thickness_mm or USUAL["deck.thickness_mm"],
        deck_height(build),
    )
    if ends_bent(build):
        return _bent_deck(build, length, thickness)
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


def _bent_deck(build: Build, length: float, thickness: float) -> Shape:
    """A deck that is flat between two bends and straight beyond them, to nose and tail."""
    (front, rear), (first, last) = mounts(build), bends(build)
    x = sorted({0.0, front, first, last, rear, length} | {first + (last - first) * i / 20.0 for i in range(21)})
    high, slope = deck_height(build), (deck_height(build) - under_deck_at(build, first)) / max(first - front, 1.0)

    def under(at: float) -> float:
        beyond = max(front - at, at - rear, 0.0)
        return high + slope * beyond if beyond else under_deck_at(build, at)

    below = [(at, under(at)) for at in x if 0.0 <= at <= length]
    return outline("deck", below + [(at, y + thickness) for at, y in reversed(below)], guessed=build.parts.deck is None)


def _trucks(build: Build) -> list[Shape]:
    guessed = build.parts.trucks is None
    high, axle, riser = deck_height(build), wheel_radius(build), riser_height(build)
    angle, thick = ends_bent(build), deck_of(build).thickness_mm or USUAL["deck.thickness_mm"]
    spreaders = build.parts.spreaders
    found = []
    for x, at, inward in zip(axles(build), mounts(build), (1.0, -1.0), strict=True):

        def on_end(
            u: float, v: float, at: float = at, inward: float = inward
        ) -> tuple[float, float]:  # along the deck towards the tail, and off its underside
            return at + u * cos(angle) + v * inward * sin(angle), high - u * inward * sin(angle) + v * cos(angle)

        def plate(name: shapes.PartName, half: float, low: float, top: float) -> Shape:
            corners = ((-half, low), (half, low), (half, top), (-half, top))
            return outline(name, [on_end(u, v) for u, v in corners])

        if riser:
            found.append(plate("risers", 40.0, -riser, 0.0))
        if spreaders is not None:
            half = (spreaders.length_mm or 2.0 * BASEPLATE) / 2.0
            found.append(plate("spreaders", half, thick, thick + (spreaders.height_mm or USUAL["spreaders.height_mm"])))
        points = [
            on_end(-BASEPLATE, -riser),
            on_end(BASEPLATE, -riser),
            on_end(BASEPLATE, -riser - 7.0),
            on_end(14.0 * inward + 9.0, -riser - 14.0),
            (x + 11.0, axle - 5.0),
            (x - 11.0, axle - 5.0),
            on_end(14.0 * inward - 9.0, -riser - 14.0),
            on_end(-BASEPLATE, -riser - 7.0),
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


def _enclosure(boxed: Boxed) -> Shape:
    """A box from the side."""
    (x0, x1), ends = boxed.span, sorted((boxed.height(0.0), boxed.height(boxed.depth)))
    return block(boxed.name, x0, ends[0], x1, ends[1], "body", boxed.guessed)


def _pocket(build: Build) -> list[Shape]:
    """What is routed out of the deck's underside: in the middle between the trucks."""
    cut = pocket(deck_of(build))
    if cut is None:
        return []
    middle, half = sum(mounts(build)) / 2.0, cut.length / 2.0
    low = under_deck_at(build, middle)
    return [block("deck", middle - half, low, middle + half, low + cut.depth, "outline")]


def inside_of(build: Build) -> list[list[Shape]]:
    """What is in each box, from the side; one list a box of which that is known."""
    found = []
    for boxed, inside in stowed(build):
        shown = []
        for item in inside.seen(depth="y"):
            (x0, x1), (z0, z1) = item.x, item.z
            if item.axis == "across":
                radius = (x1 - x0) / 2.0
                middle = boxed.height(z0 + radius)
                shown.append(circle(item.part, x0 + radius, middle, radius - 0.4, "inside", item.guessed))
            else:
                low, top = sorted((boxed.height(z0), boxed.height(z1)))
                shown.append(block(item.part, x0, low, x1, top, "inside", item.guessed))
        found.append(shown)
    return found


def _contents(build: Build) -> list[Shape]:
    return [shape for inside in inside_of(build) for shape in inside]


def _not_in_their_boxes(build: Build) -> list[Clash]:
    """What reaches out of its box; into a pocket of the deck it may."""
    found = []
    for (boxed, _), inside in zip(stowed(build), inside_of(build), strict=True):
        (x0, x1), depth = boxed.span, boxed.height(boxed.depth)
        low, top = sorted((boxed.height(-pocket_in(build, boxed)), depth))
        around = block(boxed.name, x0, low, x1, top)
        found += shapes.sticking_out(inside, around, "does not fit the enclosure")
    return found


def _pack_on_deck(build: Build) -> list[Shape]:
    """A pack in a case of its own on top of the deck."""
    pack = build.parts.pack
    if pack is None or pack.place != "on_the_deck":
        return []
    long, _, high, guessed = pack_outside(build)
    middle = sum(mounts(build)) / 2.0
    top = max(top_of_deck_at(build, middle + long * i / 8.0) for i in range(-4, 5))
    return [block("pack", middle - long / 2.0, top, middle + long / 2.0, top + high, "body", guessed)]


def _charge_port(build: Build) -> list[Shape]:
    """The hole for the charge port in the wall of the box that has the pack."""
    port = build.parts.charge_port
    holder = next((b for b in boxes(build) if b.holds in ("all", "pack")), None)
    if port is None or holder is None:
        return []
    radius = (port.hole_mm or USUAL["charge_port.hole_mm"]) / 2.0
    return [circle("charge_port", holder.span[0] + 30.0, holder.height(holder.depth / 2.0), radius, "outline")]


def side_mount(build: Build) -> list[Shape]:
    """The motor mount's plate, from the hanger to the can's middle."""
    if build.parts.mount is None or build.parts.motors is None or not has_pulleys(build):
        return []
    (x, y), rear, axle = motor_centre(build), axles(build)[1], wheel_radius(build)
    return [_around("mount", [(rear, axle, HANGER + 6.0), (x, y, can_radius(build) * 0.75)])]


def side_covers(build: Build) -> list[Shape]:
    """Covers over the belt or the motor: what they cover with room round it."""
    covers, path = build.parts.covers, belt_path(build)
    if covers is None or build.parts.motors is None:
        return []
    (x, y), rear, axle = motor_centre(build), axles(build)[1], wheel_radius(build)
    found = []
    if covers.over in (None, "belts", "both") and path is not None:
        found.append(_around("covers", [(rear, axle, path.large + FLANGE + 5.0), (x, y, path.small + FLANGE + 5.0)]))
    if covers.over in ("motors", "both"):
        found.append(
            circle("covers", x, y, can_radius(build) + (covers.width_mm or USUAL["covers.width_mm"]), "outline")
        )
    return found


def _around(part: shapes.PartName, circles: list[tuple[float, float, float]]) -> Shape:
    """A plate with round ends about circles, each given by its middle and radius."""
    dots = [
        (x + r * cos(2.0 * pi * i / 36.0), y + r * sin(2.0 * pi * i / 36.0)) for x, y, r in circles for i in range(36)
    ]
    return outline(part, list(MultiPoint(dots).convex_hull.exterior.coords)[:-1], "outline")
