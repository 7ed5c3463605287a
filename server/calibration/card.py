"""A card to tape on the board: what the volts at rest mean, A7, black and white."""

from io import BytesIO
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A7
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer

from boardmath.messages import written
from planner.rides.how_far import HowFar, RowOfVolts
from server.paper import STYLES, ruled, words

_TEXT = ParagraphStyle("volts", STYLES["BodyText"], fontSize=6.5, leading=7.8, spaceAfter=1.5)
_HEAD = ParagraphStyle("volts-head", STYLES["Heading2"], fontSize=10, leading=11, spaceBefore=0, spaceAfter=2)
MOST_ROWS = 10


def how_far_card(board: str, found: HowFar) -> bytes:
    """The card as PDF: volts on a multimeter at rest, charge, and the distance that is counted on."""
    table = next(t for t in found.tables if t.by == "meter" and t.rested)
    counted = found.counted_on
    every = -(-len(table.rows) // MOST_ROWS)
    rows = table.rows[::-1][::every]
    pace = written(rows[0].paces[0].speed_kmh, "speed")
    edge = 5 * mm
    file = BytesIO()
    page = SimpleDocTemplate(
        file, pagesize=A7, topMargin=edge, bottomMargin=edge, leftMargin=edge, rightMargin=edge, title=f"{board}: volts"
    )
    story: list[Flowable] = [Paragraph(escape(f"{board}: volts at rest"), _HEAD)]
    story.append(
        ruled(
            [[words(t, bold=True) for t in ("Volts", "Charge", "Left")], *(_cells(r, counted) for r in rows)],
            (20, 20, 22),
        )
    )
    chance = found.chances[counted].in_words
    story += [
        Spacer(1, 1.5 * mm),
        Paragraph(escape(f"On a multimeter, after five minutes at rest. Left: {chance} at {pace}."), _TEXT),
        Paragraph(escape(found.assumes.text), _TEXT),
        *(Paragraph(f"<b>{escape(one.says.text)}</b>", _TEXT) for one in table.below[:1]),
    ]
    page.build(story)
    return file.getvalue()


def _cells(row: RowOfVolts, counted: int) -> list[Paragraph]:
    left = row.paces[0].km[counted]
    return [
        words(written(row.volts, "voltage"), bold=True),
        words(written(row.charge.mid * 100.0, "share")),
        words(written(left, "distance")),
    ]
