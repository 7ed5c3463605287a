"""What drawings are made of: shapes, dimensions and clashes, in mm."""

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel
from shapely import MultiPolygon
from shapely import Point as Dot
from shapely import Polygon as Area
from shapely.geometry.base import BaseGeometry

from boardmath.messages import Message, message

Role = Literal["body", "inside", "outline", "belt", "turned"]
PartName = Literal[
    "deck",
    "trucks",
    "wheels",
    "motors",
    "drive",
    "mount",
    "covers",
    "pack",
    "controller",
    "enclosure",
    "second_enclosure",
    "ground",
    "risers",
    "spreaders",
    "protection",
    "charge_port",
]
View = Literal["side", "under", "behind", "drive"]
VIEWS: tuple[View, ...] = ("side", "under", "behind", "drive")


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

    @property
    def area(self) -> BaseGeometry:
        """The shape as a plane figure."""
        if self.radius is not None:
            return Dot(self.points[0].x, self.points[0].y).buffer(self.radius, quad_segs=32)
        return Area([(p.x, p.y) for p in self.points]).buffer(0)


class Dimension(BaseModel):
    """A measured distance between two points, with what it is."""

    start: Point
    end: Point
    message: Message


class Clash(BaseModel):
    """Where two parts are in each other's place."""

    points: list[Point]
    message: Message


class Drawing(BaseModel):
    """Shapes back to front, dimensions and clashes, within ``left``..``right`` and ``bottom``..``top`` mm."""

    view: View
    left: float
    right: float
    bottom: float
    top: float
    ground: bool
    shapes: list[Shape]
    dimensions: list[Dimension]
    clashes: list[Clash]
    description: str


def circle(part: PartName, x: float, y: float, radius: float, role: Role = "body", guessed: bool = False) -> Shape:
    return Shape(part=part, role=role, points=[Point(x=x, y=y)], radius=radius, guessed=guessed)


def outline(
    part: PartName,
    points: Sequence[tuple[float, float]],
    role: Role = "body",
    guessed: bool = False,
    closed: bool = True,
) -> Shape:
    return Shape(part=part, role=role, points=[Point(x=x, y=y) for x, y in points], closed=closed, guessed=guessed)


def block(
    part: PartName, x0: float, y0: float, x1: float, y1: float, role: Role = "body", guessed: bool = False
) -> Shape:
    return outline(part, [(x0, y0), (x1, y0), (x1, y1), (x0, y1)], role, guessed)


def dimension(start: tuple[float, float], end: tuple[float, float], template: str, length: float) -> Dimension:
    """A dimension line; ``template`` has ``{length}`` where its measure stands."""
    return Dimension(
        start=Point(x=start[0], y=start[1]),
        end=Point(x=end[0], y=end[1]),
        message=message(template, length=(length, "length")),
    )


_SLIVER = 2.0
"""mm2 below which an overlap is a touch."""


def clashes(first: Sequence[Shape], second: Sequence[Shape], words: str) -> list[Clash]:
    """Where any of ``first`` lies over any of ``second``; what is only drawn as usual collides with nothing."""
    known = [s for s in first if not s.guessed], [s for s in second if not s.guessed]
    return [c for a in known[0] for b in known[1] for c in _clash_of(a.area.intersection(b.area), words)]


def sticking_out(inside: Sequence[Shape], around: Shape, words: str) -> list[Clash]:
    """Where any of ``inside`` reaches out of ``around``."""
    return [c for s in inside for c in _clash_of(s.area.difference(around.area), words)]


def _clash_of(region: BaseGeometry, words: str) -> list[Clash]:
    pieces = region.geoms if isinstance(region, MultiPolygon) else [region]
    return [
        Clash(points=[Point(x=x, y=y) for x, y in piece.exterior.coords[:-1]], message=message(words))
        for piece in pieces
        if isinstance(piece, Area) and piece.area > _SLIVER
    ]
