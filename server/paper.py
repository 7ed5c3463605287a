"""What the printed papers share: styles, tables, a gauge and a drawing in black and white on A4."""

from collections.abc import Sequence
from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle, getSampleStyleSheet
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether, Paragraph, SimpleDocTemplate, Table, TableStyle

from boardmath.geometry.shapes import Drawing
from boardmath.prediction.outcomes import Outcome

CAUTION = (
    "Set and test it with the wheels in the air and fingers away. Lithium packs burn: never discharge below the "
    "cut-off, use a charger of the right chemistry and cell count, watch every charge on a surface that cannot "
    "burn, and retire a swollen pack. Brakes fade, a full pack cannot take braking energy, and a lost remote "
    "link takes the brake away: be able to stop on foot. Helmet and pads. Rules differ from place to place; ask "
    "locally. Take mains-side and pack repair work to someone qualified."
)
STYLES = getSampleStyleSheet()
SMALL = ParagraphStyle("small", STYLES["BodyText"], fontSize=8, leading=10)


def paper(file: BytesIO, title: str) -> SimpleDocTemplate:
    """An A4 page, portrait, with margins that printers keep."""
    edge = 15 * mm
    return SimpleDocTemplate(
        file, pagesize=A4, topMargin=edge, bottomMargin=edge, leftMargin=edge, rightMargin=edge, title=title
    )


def words(text: str, bold: bool = False) -> Paragraph:
    """A cell of small text."""
    return Paragraph(f"<b>{escape(text)}</b>" if bold else escape(text), SMALL)


def ruled(rows: Sequence[Sequence[Any]], widths_mm: Sequence[float]) -> Table:
    """A table with a head and hairlines."""
    table = Table([list(r) for r in rows], colWidths=[w * mm for w in widths_mm], repeatRows=1, hAlign="LEFT")
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, 0), 0.8, colors.black),
                ("LINEBELOW", (0, 1), (-1, -1), 0.25, colors.grey),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("FONTSIZE", (0, 0), (-1, 0), 8),
                ("LEFTPADDING", (0, 0), (-1, -1), 2),
            ]
        )
    )
    return table


def picture(data: bytes, name: str, width: float = 120 * mm, most: float = 90 * mm) -> KeepTogether:
    """A photo with its name under it, as large as fits in ``width`` by ``most``."""
    image = Image(BytesIO(data), width=width, height=most, kind="proportional")
    image.hAlign = "LEFT"
    return KeepTogether([image, words(name)])


class GaugeFlowable(Flowable):
    """A promise as a ruled gauge lying down: the band as a block, the middle as a line, the brief's notch above."""

    def __init__(self, promised: Outcome, width: float = 62 * mm, height: float = 9 * mm) -> None:
        super().__init__()
        self.promised, self.width, self.height = promised, width, height

    def draw(self) -> None:
        p, canvas = self.promised, self.canv
        mid, wanted = p.mid, p.wanted
        top = max((p.high or mid or 0.0) * 1.12, (wanted or 0.0) * 1.4, 1e-6)

        def x(value: float) -> float:
            return min(value / top, 1.0) * self.width

        canvas.setLineWidth(0.4)
        canvas.rect(0, 1.5 * mm, self.width, 4 * mm)
        for step in range(11):
            canvas.line(self.width * step / 10, 1.5 * mm, self.width * step / 10, (2.6 if step % 5 else 3.2) * mm)
        if mid is not None:
            low, high = p.low if p.low is not None else mid, p.high if p.high is not None else mid
            canvas.setFillGray(0.8)
            canvas.rect(x(low), 2.6 * mm, max(x(high) - x(low), 0.6), 2.2 * mm, fill=1)
            canvas.setLineWidth(1.4)
            canvas.line(x(mid), 2.2 * mm, x(mid), 5.2 * mm)
        if wanted is not None:
            canvas.setFillGray(0.0)
            notch = canvas.beginPath()
            notch.moveTo(x(wanted) - 1.3 * mm, 7.6 * mm)
            notch.lineTo(x(wanted) + 1.3 * mm, 7.6 * mm)
            notch.lineTo(x(wanted), 5.5 * mm)
            notch.close()
            canvas.drawPath(notch, fill=1, stroke=0)


class DrawingFlowable(Flowable):
    """A view of the board to scale, with its dimensions."""

    def __init__(self, drawing: Drawing, width: float = 174 * mm, most: float = 70 * mm) -> None:
        super().__init__()
        self.drawing = drawing
        self.scale = min(width / (drawing.right - drawing.left), most / (drawing.top - drawing.bottom))
        self.width = width
        self.height = (drawing.top - drawing.bottom) * self.scale

    def draw(self) -> None:
        canvas, d, k = self.canv, self.drawing, self.scale
        canvas.setLineWidth(0.5)
        for shape in d.shapes:
            points = [((p.x - d.left) * k, (p.y - d.bottom) * k) for p in shape.points]
            if shape.guessed:
                canvas.setDash(2, 1.5)
            if shape.radius is not None:
                canvas.circle(*points[0], shape.radius * k, stroke=1, fill=0)
            elif len(points) > 1:
                path = canvas.beginPath()
                path.moveTo(*points[0])
                for point in points[1:]:
                    path.lineTo(*point)
                if shape.closed:
                    path.close()
                canvas.drawPath(path, stroke=1, fill=0)
            canvas.setDash()
        canvas.setLineWidth(0.25)
        canvas.setFont("Helvetica", 6)
        for dimension in d.dimensions:
            x0, y0 = (dimension.start.x - d.left) * k, (dimension.start.y - d.bottom) * k
            x1, y1 = (dimension.end.x - d.left) * k, (dimension.end.y - d.bottom) * k
            canvas.line(x0, y0, x1, y1)
            canvas.drawCentredString((x0 + x1) / 2, (y0 + y1) / 2 + 1.5, dimension.message.text)
