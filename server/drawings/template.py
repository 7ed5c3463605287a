"""Deck drilling and box outline at 1:1, as PDF pages to print, cut and tape together."""

from io import BytesIO
from math import ceil

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from boardmath.buildfile import Build
from boardmath.geometry.beam import pocket
from boardmath.geometry.stance import axles, deck_of, mounts
from boardmath.geometry.views.underside import bolt_holes, deck_outline, enclosure_outlines, old_holes

MARGIN = 12.0
"""mm that printers leave white."""
OVERLAP = 10.0
FOOT = 14.0
CHECK_LINE = 100.0
HOLE_RADIUS = 2.7


def template_pdf(build: Build, name: str) -> bytes:
    """A4 pages, portrait, the board's length up the page.

    Every page has the 100 mm check line, its place among the others, and crosses where it meets its neighbours.
    """
    file = BytesIO()
    canvas = Canvas(file, pagesize=A4)
    canvas.setTitle(f"{name}: drilling and enclosure outline, 1:1")
    width, height = A4[0] / mm - 2.0 * MARGIN, A4[1] / mm - 2.0 * MARGIN - FOOT
    step_x, step_y = width - OVERLAP, height - OVERLAP
    length, half = deck_of(build).length_mm or 900.0, (deck_of(build).width_mm or 235.0) / 2.0
    columns, rows = ceil((2.0 * half - OVERLAP) / step_x), ceil((length - OVERLAP) / step_y)
    # The middle line falls in the middle of the pages.
    left = -(columns * step_x + OVERLAP) / 2.0
    pages = [(c, r) for r in range(rows) for c in range(columns)]
    for number, (column, row) in enumerate(pages, start=1):
        x0, y0 = left + column * step_x, row * step_y
        canvas.saveState()
        frame = canvas.beginPath()
        frame.rect(MARGIN * mm, (MARGIN + FOOT) * mm, width * mm, height * mm)
        canvas.clipPath(frame, stroke=0)
        canvas.translate((MARGIN - x0) * mm, (MARGIN + FOOT - y0) * mm)
        _board(canvas, build)
        canvas.restoreState()
        _frame(canvas, width, height)
        _foot(canvas, f"{name}, page {number} of {len(pages)}: column {column + 1}, row {row + 1}, nose at the bottom")
        canvas.showPage()
    canvas.save()
    return file.getvalue()


def _board(canvas: Canvas, build: Build) -> None:
    """The board in mm from nose (y) and middle (x)."""
    canvas.setLineWidth(0.4)
    outline = canvas.beginPath()
    for i, (along, across) in enumerate(deck_outline(build)):
        (outline.lineTo if i else outline.moveTo)(across * mm, along * mm)
    outline.close()
    canvas.drawPath(outline)
    canvas.setDash(6, 3)
    length = deck_of(build).length_mm or 900.0
    canvas.line(0, 0, 0, length * mm)
    for x in axles(build):
        canvas.line(-60 * mm, x * mm, 60 * mm, x * mm)
    canvas.setDash()
    for along, across in bolt_holes(build):
        canvas.circle(across * mm, along * mm, HOLE_RADIUS * mm)
        canvas.line((across - 5) * mm, along * mm, (across + 5) * mm, along * mm)
        canvas.line(across * mm, (along - 5) * mm, across * mm, (along + 5) * mm)
    canvas.setDash(1, 2)
    for along, across in old_holes(build):
        canvas.circle(across * mm, along * mm, HOLE_RADIUS * mm)
    canvas.setDash()
    cut = pocket(deck_of(build))
    if cut is not None:
        half, wide = cut.length / 2.0, cut.width / 2.0
        middle = sum(mounts(build)) / 2.0
        canvas.setDash(4, 2)
        canvas.rect(-wide * mm, (middle - half) * mm, 2.0 * wide * mm, 2.0 * half * mm)
        canvas.setDash()
        canvas.setFont("Helvetica", 8)
        canvas.drawString((-wide + 4) * mm, (middle + half - 7) * mm, f"routed {cut.depth:g} mm deep")
    for x0, y0, x1, y1 in enclosure_outlines(build):
        canvas.setLineWidth(0.8)
        canvas.rect(y0 * mm, x0 * mm, (y1 - y0) * mm, (x1 - x0) * mm)
        canvas.setFont("Helvetica", 8)
        canvas.drawString((y0 + 4) * mm, (x0 + 4) * mm, f"enclosure {x1 - x0:.0f} x {y1 - y0:.0f} mm")


def _frame(canvas: Canvas, width: float, height: float) -> None:
    """Crosses in the corners of what overlaps, to lay the pages by."""
    canvas.setLineWidth(0.3)
    for x in (OVERLAP / 2.0, width - OVERLAP / 2.0):
        for y in (OVERLAP / 2.0, height - OVERLAP / 2.0):
            cx, cy = (MARGIN + x) * mm, (MARGIN + FOOT + y) * mm
            canvas.line(cx - 4 * mm, cy, cx + 4 * mm, cy)
            canvas.line(cx, cy - 4 * mm, cx, cy + 4 * mm)


def _foot(canvas: Canvas, words: str) -> None:
    canvas.setFont("Helvetica", 7.5)
    canvas.drawString(MARGIN * mm, (MARGIN + 7) * mm, words)
    canvas.drawString(
        MARGIN * mm,
        (MARGIN + 3.5) * mm,
        "Print at 100 %, not fitted to the page. Measure your own trucks "
        "and deck before you drill. This line is 100 mm:",
    )
    x, y = MARGIN * mm, (MARGIN + 0.5) * mm
    canvas.setLineWidth(0.6)
    canvas.line(x, y, x + CHECK_LINE * mm, y)
    for end in (x, x + CHECK_LINE * mm):
        canvas.line(end, y - 1.5 * mm, end, y + 1.5 * mm)
