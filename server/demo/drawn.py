"""Photos for the demonstration, drawn by ourselves: what a phone over the bench would have shown, in pencil on the
bench's wood.
"""

import random
from io import BytesIO

from PIL import Image, ImageDraw, ImageFilter

from boardmath.buildfile import Build
from boardmath.geometry.shapes import View
from boardmath.geometry.views.view import draw
from planner.shared.picture import Picture

SIZE = (1200, 900)
WOOD, PENCIL, CHALK = (196, 164, 120), (32, 52, 60), (244, 238, 224)


def bench(seed: int) -> Image.Image:
    """The top of a bench: planks, grain, a stain."""
    chance = random.Random(seed)
    picture = Image.new("RGB", SIZE, WOOD)
    pen = ImageDraw.Draw(picture)
    for y in range(0, SIZE[1], 4):
        shade = chance.randint(-14, 14)
        pen.line([(0, y), (SIZE[0], y + chance.randint(-3, 3))], fill=tuple(c + shade for c in WOOD), width=4)
    for y in (300, 600):
        pen.line([(0, y), (SIZE[0], y)], fill=(120, 96, 66), width=5)
    return picture.filter(ImageFilter.GaussianBlur(1.2))


def _wobbly(
    pen: ImageDraw.ImageDraw, points: list[tuple[float, float]], closed: bool, fill: tuple[int, ...] | None
) -> None:
    if len(points) < 2:
        return
    if closed and fill:
        pen.polygon(points, fill=fill)
    pen.line([*points, points[0]] if closed else points, fill=PENCIL, width=5, joint="curve")


def of_the_board(build: Build, view: View, seed: int) -> bytes:
    """The board lying on the bench, in one of its views."""
    drawing = draw(build, view)
    wide, high = drawing.right - drawing.left, drawing.top - drawing.bottom
    scale = min((SIZE[0] - 160) / wide, (SIZE[1] - 200) / high)
    left, top = (SIZE[0] - wide * scale) / 2.0, (SIZE[1] - high * scale) / 2.0
    picture = bench(seed)
    pen = ImageDraw.Draw(picture)
    for shape in drawing.shapes:
        if shape.part == "ground":
            continue
        points = [(left + (p.x - drawing.left) * scale, top + (drawing.top - p.y) * scale) for p in shape.points]
        fill = CHALK if shape.role in ("body", "outline") else None
        if shape.radius is not None:
            r = shape.radius * scale
            (x, y) = points[0]
            pen.ellipse([x - r, y - r, x + r, y + r], fill=fill, outline=PENCIL, width=5)
        else:
            _wobbly(pen, points, shape.closed, fill)
    return _jpeg(picture)


def of_a_step(drawn: Picture, seed: int) -> bytes:
    """A step's own drawing as if it lay there: pulleys and straight edge, bolt and layers."""
    wide, high = drawn.right - drawn.left, drawn.top - drawn.bottom
    scale = min((SIZE[0] - 160) / wide, (SIZE[1] - 160) / high)
    left, top = (SIZE[0] - wide * scale) / 2.0, (SIZE[1] - high * scale) / 2.0
    picture = bench(seed)
    pen = ImageDraw.Draw(picture)
    for mark in drawn.marks:
        points = [(left + (x - drawn.left) * scale, top + (drawn.top - y) * scale) for x, y in mark.points]
        closed = mark.closed and mark.radius is None
        _wobbly(pen, points, closed, CHALK if closed else None)
    return _jpeg(picture)


def _jpeg(picture: Image.Image) -> bytes:
    kept = BytesIO()
    picture.filter(ImageFilter.GaussianBlur(0.6)).save(kept, "JPEG", quality=82)
    return kept.getvalue()
