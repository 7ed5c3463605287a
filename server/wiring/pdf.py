"""The wiring on A4, black and white: the drawing across the page, then wires, guards, the order of joining and what to cut."""

from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer

from boardmath.buildfile import Build
from boardmath.messages import written
from planner.wiring.diagram import Diagram, pairs
from planner.wiring.report import WiringReport, wiring_report
from server.paper import CAUTION, SMALL, STYLES, paper, ruled, words


def wiring_pdf(name: str, build: Build) -> bytes:
    """A4, the drawing turned so that it fills its page."""
    file = BytesIO()
    report = wiring_report(build)
    story: list[Any] = [
        DiagramFlowable(report.diagram, name),
        *wiring_story(report),
        Spacer(1, 3 * mm),
        Paragraph(escape(CAUTION), SMALL),
    ]
    paper(file, f"{name}: wiring").build(story)
    return file.getvalue()


def wiring_story(report: WiringReport) -> list[Any]:
    """Order of joining first: it is what lies on the bench; then guards, wires, what to cut."""
    if not report.wires:
        return [words("No pack is chosen yet; there is nothing to wire.")]
    steps: list[list[Any]] = [["", "do", "why", "done"]]
    for joint in report.joints:
        steps.append(
            [
                words(f"{joint.number}{' !' if joint.grave else ''}", bold=True),
                words(joint.do.text, bold=joint.grave),
                words(joint.why.text),
                words("[   ]"),
            ]
        )
    guarded: list[list[Any]] = [["against", "what guards", "and why"]]
    for guard in report.guards:
        by = ", ".join(guard.by) or f"NOTHING. {guard.finding.text if guard.finding else ''}"
        guarded.append([words(guard.title, bold=True), words(by, bold=guard.gap), words(guard.message.text)])
    rows: list[list[Any]] = [["wire", "gauge", "current", "length", "colour", "first at"]]
    for wire in report.wires:
        plugs = f" {wire.start_plug} does not fit {wire.end_plug}!" if wire.mismatch else ""
        many = f"{wire.count} x " if wire.count > 1 else ""
        rows.append(
            [
                words(f"{_name(wire.start)} to {_name(wire.end)}{plugs}", bold=wire.mismatch),
                words(f"{many}{wire.awg:g} AWG"),
                words(written(wire.current_a, "current")),
                words(f"{'about ' if wire.guessed else ''}{written(wire.length_mm, 'length')}"),
                words(wire.colour),
                words(_name(wire.first_end)),
            ]
        )
    cut: list[list[Any]] = [
        ["to cut", "how much"],
        *([words(c.what), words(_amount(c.count, c.length_mm))] for c in report.cuts),
    ]
    return [
        Paragraph("In this order", STYLES["Heading2"]),
        ruled(steps, [10, 92, 62, 14]),
        Paragraph("What protects against what", STYLES["Heading2"]),
        ruled(guarded, [26, 84, 68]),
        Paragraph("Wires", STYLES["Heading2"]),
        ruled(rows, [54, 24, 18, 28, 30, 24]),
        Paragraph("To cut", STYLES["Heading2"]),
        ruled(cut, [90, 50]),
    ]


def _name(id: str) -> str:
    return id.replace("-", " ")


def _amount(count: int | None, length: float | None) -> str:
    said = [f"{count}" if count else "", written(length, "length") if length else ""]
    return ", ".join(x for x in said if x)


class DiagramFlowable(Flowable):
    """The drawing, turned by a quarter so that its length runs along the page."""

    def __init__(self, drawn: Diagram, name: str, width: float = 178 * mm, height: float = 262 * mm) -> None:
        super().__init__()
        self.drawn, self.name = drawn, name
        self.scale = min(height / drawn.width, (width - 20) / drawn.height)
        self.width, self.height = width, drawn.width * self.scale

    def draw(self) -> None:
        canvas, d, k = self.canv, self.drawn, self.scale
        canvas.translate(0, self.height)
        canvas.rotate(-90)
        canvas.setFont("Helvetica-Bold", 12)
        canvas.drawString(0, self.width - 12, f"{self.name}: wiring")
        canvas.translate(0, self.width - 20)
        canvas.scale(k, -k)
        for line in d.lines:
            for stripe in line.stripes:
                canvas.setStrokeGray(0.0 if stripe.ink else 1.0)
                canvas.setLineWidth(stripe.width)
                canvas.setDash(stripe.dash)
                path = canvas.beginPath()
                points = pairs(line.points)
                path.moveTo(*points[0])
                for point in points[1:]:
                    path.lineTo(*point)
                canvas.drawPath(path, stroke=1, fill=0)
        canvas.setDash([])
        canvas.setStrokeGray(0.0)
        canvas.setLineWidth(1.4)
        for box in d.boxes:
            canvas.setFillGray(1.0)
            canvas.rect(box.x, box.y, box.width, box.height, stroke=1, fill=1)
            canvas.setFillGray(0.0)
            self._text(box.x + 8, box.y + 18, box.title, bold=True)
            for i, text in enumerate(box.lines):
                self._text(box.x + 8, box.y + 34 + 15 * i, text)
        for line in d.lines:
            for i, text in enumerate(line.label):
                self._text(line.at[0], line.at[1] + 14 * i, text)
        for sign in d.signs:
            self._text(sign.x, sign.y, sign.text, bold=True)

    def _text(self, x: float, y: float, text: str, bold: bool = False) -> None:
        canvas = self.canv
        canvas.saveState()
        canvas.translate(x, y)
        canvas.scale(1, -1)
        canvas.setFont("Helvetica-Bold" if bold else "Helvetica", 12)
        canvas.drawString(0, 0, text.replace("\u2212", "-"))
        canvas.restoreState()
