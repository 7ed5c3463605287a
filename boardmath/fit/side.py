"""The board from the side, to scale: shapes in mm, x from the nose, y up from the ground."""

from math import asin, cos, pi, sin
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Enclosure, Pack
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.fit import belt
from boardmath.inputs import drive_kind
from boardmath.saying import Saying, say

DROP_THROUGH_LOWERS = 13.0
"""mm of clearance that a drop-through mount costs, beside the deck's thickness (common practice, no source)."""
DROPPED_LOWERS = 40.0
_USUAL_CELL = {"18650": (18.5, 65.0), "21700": (21.5, 70.0)}

Role = Literal["body", "inside", "outline", "belt"]
PartName = Literal["deck", "trucks", "wheels", "motors", "drive", "pack", "controller", "enclosure", "ground", "risers"]


class Point(BaseModel):
    """A place in mm."""

    x: float
    y: float


class Shape(BaseModel):
    """A circle (``radius`` set) or an outline of points, closed or not."""

    part: PartName
    role: Role
    points: list[Point]
    radius: float | None = None
    closed: bool = True
    guessed: bool = False
    """Drawn from usual dimensions because the build does not say, or nothing is chosen yet."""


class Dimension(BaseModel):
    """A measured distance between two points, with what it is."""

    start: Point
    end: Point
    saying: Saying


class Drawing(BaseModel):
    """Shapes back to front and dimensions, within ``left``..``right`` and ``bottom``..``top`` mm."""

    left: float
    right: float
    bottom: float
    top: float
    shapes: list[Shape]
    dimensions: list[Dimension]
    description: str


def ground_clearance(build: Build) -> float:
    """mm between the road and the lowest of deck and box."""
    box = build.parts.enclosure
    return _under_deck(build) - (_box_depth(box) if box is not None else 0.0)


def _box_depth(box: Enclosure) -> float:
    return box.depth_mm or 40.0


def _wheel_radius(build: Build) -> float:
    return ((build.parts.wheels or Wheels()).diameter_mm or 90.0) / 2.0


def _deck_height(build: Build) -> float:
    """mm from the ground to the deck's underside at the trucks."""
    deck, trucks = build.parts.deck or Deck(), build.parts.trucks or Trucks()
    riser = (build.parts.risers.height_mm or 0.0) if build.parts.risers else 0.0
    height = _wheel_radius(build) + (trucks.height_mm or 55.0) + riser
    if deck.mount == "drop_through":
        height -= DROP_THROUGH_LOWERS + (deck.thickness_mm or 11.0)
    return height


def _under_deck(build: Build) -> float:
    """mm from the ground to the deck's underside between the trucks."""
    deck = build.parts.deck or Deck()
    lowered = DROPPED_LOWERS if deck.mount == "dropped" else 0.0
    return _deck_height(build) - lowered - (deck.rocker_mm or 0.0)


def axles(build: Build) -> tuple[float, float]:
    """x of front and rear axle: the wheelbase in the middle of what is left of the length without the tail."""
    deck = build.parts.deck or Deck()
    length, wheelbase, tail = deck.length_mm or 900.0, deck.wheelbase_mm or 640.0, deck.tail_mm or 0.0
    front = max((length - wheelbase - tail) / 2.0, 20.0)
    return front, front + wheelbase


def _circle(part: PartName, x: float, y: float, radius: float, role: Role = "body", guessed: bool = False) -> Shape:
    return Shape(part=part, role=role, points=[Point(x=x, y=y)], radius=radius, guessed=guessed)


def _outline(
    part: PartName, points: list[tuple[float, float]], role: Role = "body", guessed: bool = False, closed: bool = True
) -> Shape:
    return Shape(part=part, role=role, points=[Point(x=x, y=y) for x, y in points], closed=closed, guessed=guessed)


def _box(
    part: PartName, x0: float, y0: float, x1: float, y1: float, role: Role = "body", guessed: bool = False
) -> Shape:
    corners = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    return _outline(part, corners, role, guessed)


def side_view(build: Build) -> Drawing:
    """The board from the right-hand side, nose to the left. What is not chosen is drawn as guessed."""
    length = (build.parts.deck or Deck()).length_mm or 900.0
    front, rear = axles(build)
    radius = _wheel_radius(build)
    shapes = [_deck(build), *_trucks(build), *_enclosure(build), *_wheels(build), *_motor(build)]
    dimensions = [
        Dimension(
            start=Point(x=front, y=_deck_height(build) + 62.0),
            end=Point(x=rear, y=_deck_height(build) + 62.0),
            saying=say("wheelbase {length}", length=(rear - front, "length")),
        ),
    ]
    clearance = ground_clearance(build)
    if build.parts.enclosure is not None and clearance > 0.0:
        box_end = _enclosure_span(build)[1]
        x = min(box_end - 30.0, rear - radius - 60.0)
        dimensions.append(
            Dimension(
                start=Point(x=x, y=0.0),
                end=Point(x=x, y=clearance),
                saying=say("{length} under the box", length=(clearance, "length")),
            )
        )
    left = min(0.0, front - radius) - 30.0
    right = max(length, rear + radius) + 30.0
    return Drawing(
        left=left,
        right=right,
        bottom=-30.0,
        top=_deck_height(build) + 88.0,
        shapes=shapes,
        dimensions=dimensions,
        description=_description(build, clearance),
    )


def _description(build: Build, clearance: float) -> str:
    parts = build.parts
    deck, wheels = parts.deck or Deck(), parts.wheels or Wheels()
    words = [
        f"A board {deck.length_mm or 900:g} mm long on {wheels.diameter_mm or 90:g} mm wheels,",
        f"wheelbase {deck.wheelbase_mm or 640:g} mm.",
    ]
    if parts.enclosure is not None:
        words.append(f"The box hangs {clearance:.0f} mm above the ground.")
    guessed = [n for n in ("deck", "trucks", "wheels", "motors") if getattr(parts, n) is None]
    if guessed:
        words.append(f"Not chosen yet and drawn as usual: {', '.join(guessed)}.")
    return " ".join(words)


def _deck(build: Build) -> Shape:
    deck = build.parts.deck or Deck()
    front, rear = axles(build)
    length, thickness = deck.length_mm or 900.0, deck.thickness_mm or 11.0
    high, low = _deck_height(build), _under_deck(build)
    dropped = deck.mount == "dropped"
    under: list[tuple[float, float]] = []
    nose_lift = 0.18 * max(front - 40.0, 0.0)
    tail_lift = 0.3 * (deck.tail_mm or 0.0) + 0.08 * max(length - rear - 40.0 - (deck.tail_mm or 0.0), 0.0)
    for x in [i * length / 60.0 for i in range(61)]:
        if x < front + 40.0:
            y = high + nose_lift * max((front - 40.0 - x) / max(front - 40.0, 1.0), 0.0)
        elif x > rear - 40.0:
            y = high + tail_lift * max((x - rear - 40.0) / max(length - rear - 40.0, 1.0), 0.0)
        else:
            along = (x - front - 40.0) / max(rear - front - 80.0, 1.0)
            sag = min(along, 1.0 - along) * 5.0 if dropped else sin(pi * along)
            y = high - (high - low) * min(max(sag, 0.0), 1.0)
        under.append((x, y))
    top = [(x, y + thickness) for x, y in reversed(under)]
    return _outline("deck", under + top, guessed=build.parts.deck is None)


def _trucks(build: Build) -> list[Shape]:
    guessed = build.parts.trucks is None
    high, axle = _deck_height(build), _wheel_radius(build)
    riser = (build.parts.risers.height_mm or 0.0) if build.parts.risers else 0.0
    shapes = []
    for x, inward in zip(axles(build), (1.0, -1.0), strict=True):
        if riser:
            shapes.append(_box("risers", x - 40.0, high - riser, x + 40.0, high))
        plate = high - riser
        outline = [
            (x - 38.0, plate),
            (x + 38.0, plate),
            (x + 38.0, plate - 7.0),
            (x + 14.0 * inward + 9.0, plate - 14.0),
        ]
        outline += [
            (x + 11.0, axle - 5.0),
            (x - 11.0, axle - 5.0),
            (x + 14.0 * inward - 9.0, plate - 14.0),
            (x - 38.0, plate - 7.0),
        ]
        shapes.append(_outline("trucks", outline, guessed=guessed))
    return shapes


def _wheels(build: Build) -> list[Shape]:
    radius, guessed = _wheel_radius(build), build.parts.wheels is None
    shapes = []
    for x in axles(build):
        shapes += [
            _circle("wheels", x, radius, radius, "body", guessed),
            _circle("wheels", x, radius, radius * 0.52, "outline", guessed),
            _circle("wheels", x, radius, 4.0, "outline", guessed),
        ]
    return shapes


def _motor(build: Build) -> list[Shape]:
    parts = build.parts
    motors, drive = parts.motors or Motors(), parts.drive or Drive()
    kind, rear, axle = drive_kind(build), axles(build)[1], _wheel_radius(build)
    can = (motors.can_diameter_mm or 63.0) / 2.0
    if parts.motors is None and parts.drive is None:
        return []
    if kind in ("hub", "direct"):
        return [_circle("motors", rear, axle, min(can, axle * 0.8), "body", motors.can_diameter_mm is None)]
    small = belt.pitch_radius(drive.motor_teeth or 15, drive.pitch_mm or 5.0)
    large = belt.pitch_radius(drive.wheel_teeth or 40, drive.pitch_mm or 5.0)
    # Without a belt chosen: just clear of wheel and pulley.
    distance = max(can, small) + large + 12.0
    guessed = drive.belt_teeth is None or parts.motors is None
    if drive.belt_teeth is not None:
        try:
            distance = belt.centre_distance(drive.belt_teeth * (drive.pitch_mm or 5.0), small, large)
        except ValueError:
            guessed = True
    # In front of the axle, a little above it, where mounts usually hold it.
    lean = 14.0 * pi / 180.0
    x, y = rear - distance * cos(lean), axle + distance * sin(lean)
    shapes = [_circle("motors", x, y, can, "body", guessed)]
    if kind in ("belt", "chain"):
        half_wrap = pi / 2.0 - asin(max(-1.0, min(1.0, (large - small) / distance)))
        side = []
        for angle in (pi - lean + half_wrap, pi - lean - half_wrap):
            c, n = cos(angle), sin(angle)
            side.append(((rear + large * c, axle + large * n), (x + small * c, y + small * n)))
        shapes += [
            _circle("drive", rear, axle, large, "outline"),
            _circle("drive", x, y, small, "outline"),
            *(_outline("drive", [a, b], "belt", guessed, closed=False) for a, b in side),
        ]
    return shapes


def _enclosure_span(build: Build) -> tuple[float, float]:
    """x of the box's ends: midway between the axles, a little towards the nose where the motor needs room."""
    front, rear = axles(build)
    length = (build.parts.enclosure or Enclosure()).length_mm or 450.0
    middle = (front + rear) / 2.0 - 20.0
    return middle - length / 2.0, middle + length / 2.0


def _enclosure(build: Build) -> list[Shape]:
    parts = build.parts
    if parts.enclosure is None:
        return []
    x0, x1 = _enclosure_span(build)
    top = _under_deck(build)
    depth = _box_depth(parts.enclosure)
    shapes = [_box("enclosure", x0, top - depth, x1, top, "body", parts.enclosure.length_mm is None)]
    inside = x0 + 8.0
    if parts.pack is not None and parts.pack.series is not None:
        inside = _cells(parts.pack, inside, x1 - 8.0, top - 3.0, depth, shapes)
    if parts.controller is not None and inside + 20.0 < x1:
        shapes.append(
            _box(
                "controller",
                inside + 8.0,
                top - min(depth - 4.0, 24.0),
                min(inside + 100.0, x1 - 8.0),
                top - 3.0,
                "inside",
            )
        )
    return shapes


def _cells(pack: Pack, x: float, end: float, top: float, depth: float, shapes: list[Shape]) -> float:
    """Cells lying across the board, a column for each group in series, as far as they reach; returns where they end."""
    cell = pack.cell
    size = (cell.size if cell else None) or "18650"
    if size not in _USUAL_CELL:
        shapes.append(
            _box("pack", x, top - min(depth - 6.0, 40.0), min(x + (end - x) * 0.62, end), top, "inside", True)
        )
        return x + (end - x) * 0.62
    across = _USUAL_CELL[size][0]
    rows = max(int((depth - 4.0) // across), 1)
    columns = -(-(pack.series or 1) * (pack.parallel or 1) // (rows * 3))
    for column in range(columns):
        for row in range(rows):
            at = x + across * (column + 0.5)
            if at + across / 2.0 <= end:
                shapes.append(_circle("pack", at, top - across * (row + 0.5), across / 2.0 - 0.5, "inside"))
    return min(x + columns * across, end)
