"""A controller sheet on A4 to print: what is set, what was recommended, and why, in black and white."""

from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from boardmath.settings import Sheet
from server.sheets.models import SetSheet
from server.sheets.services import title, unit

CAUTION = (
    "Set with the wheels in the air and fingers away. Brakes fade, a full pack cannot take braking energy, a lost link takes the "
    "brake away: be able to stop on foot. Rules differ from place to place; ask who knows."
)


def sheet_pdf(name: str, kept: SetSheet, judged: Sheet) -> bytes:
    """A4, portrait; every value with the recommended one beside it, and what was found wrong with it."""
    file = BytesIO()
    styles = getSampleStyleSheet()
    small = styles["BodyText"].clone("small", fontSize=8, leading=10)
    document = SimpleDocTemplate(
        file, pagesize=A4, topMargin=16 * mm, bottomMargin=16 * mm, title=f"{name}: controller sheet"
    )
    recommended = {line.field: line for line in judged.lines}
    keys = [*(k for k in recommended if k in kept.settings), *(k for k in kept.settings if k not in recommended)]
    rows: list[list[Any]] = [["setting", "as set", "recommended", "why"]]
    for key in (k for k in keys if k != "profile"):
        line = recommended.get(key)
        rows.append(
            [
                Paragraph(escape(title(key)), small),
                Paragraph(f"<b>{_said(key, kept.settings[key])}</b>", small),
                Paragraph(_said(key, line.value) if line else "", small),
                Paragraph(escape(line.why.text) if line else "", small),
            ]
        )
    table = Table(rows, colWidths=[42 * mm, 30 * mm, 30 * mm, 72 * mm], repeatRows=1)
    table.setStyle(
        TableStyle([
            ("LINEBELOW", (0, 0), (-1, 0), 0.8, colors.black),
            ("LINEBELOW", (0, 1), (-1, -1), 0.25, colors.grey),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("FONTSIZE", (0, 0), (-1, 0), 8),
        ])
    )  # fmt: skip
    by = f" by {kept.by}" if kept.by else ""
    story: list[Any] = [
        Paragraph(escape(f"{name}: controller sheet {kept.number}"), styles["Title"]),
        Paragraph(escape(f"Set on {kept.on.isoformat()}{by}. {kept.reason}"), styles["BodyText"]),
        Spacer(1, 4 * mm),
        table,
        Spacer(1, 4 * mm),
    ]
    if kept.end_points:
        points = ", ".join(f"{k.removesuffix('_ms')} {v:g} ms" for k, v in kept.end_points.items())
        story.append(Paragraph(escape(f"Remote, as the controller reads it: {points}."), styles["BodyText"]))
    for f in judged.findings:
        if f.severity != "note":
            story.append(Paragraph(f"<b>{escape(f.title)}.</b> {escape(f.text)}", small))
    story += [Spacer(1, 3 * mm), Paragraph(CAUTION, small)]
    document.build(story)
    return file.getvalue()


def _said(key: str, value: Any) -> str:
    if isinstance(value, float):
        value = f"{value:g}"
    return escape(f"{str(value).replace('_', ' ')} {unit(key)}".strip())
