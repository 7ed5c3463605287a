"""Small drawings of a step, to scale, in mm: x to the right, y upwards."""

from typing import Annotated, Literal

from pydantic import BaseModel, WithJsonSchema

Ink = Literal["metal", "wood", "rubber", "foam", "printed", "line", "axis", "right", "wrong", "copper"]


_PLACES = {"type": "array", "items": {"type": "array", "items": {"type": "number"}}}
"""Lists of numbers: the interface's way to the server makes no difference between pairs and lists."""
Places = Annotated[list[tuple[float, float]], WithJsonSchema(_PLACES)]


class Mark(BaseModel):
    """A closed outline, an open line, or a circle (``radius``)."""

    ink: Ink
    points: Places
    radius: float | None = None
    closed: bool = True


class Label(BaseModel):
    """Words at a place; with a figure behind them where ``value`` says one."""

    x: float
    y: float
    text: str
    value: float | None = None
    quantity: str | None = None
    anchor: Literal["start", "middle", "end"] = "start"


class Picture(BaseModel):
    """Marks back to front and their labels, within ``left``..``right`` and ``bottom``..``top``; ``words`` says it all in
    words.
    """

    left: float
    right: float
    bottom: float
    top: float
    marks: list[Mark]
    labels: list[Label]
    words: str


def box(ink: Ink, x0: float, y0: float, x1: float, y1: float) -> Mark:
    return Mark(ink=ink, points=[(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def line(ink: Ink, *points: tuple[float, float]) -> Mark:
    return Mark(ink=ink, points=list(points), closed=False)


def circle(ink: Ink, x: float, y: float, radius: float) -> Mark:
    return Mark(ink=ink, points=[(x, y)], radius=radius)
