"""A trip on a card for the pocket: A6, black and white, readable in the rain."""

from io import BytesIO

from reportlab.lib import colors
from reportlab.lib.pagesizes import A6
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from boardmath.buildfile.trips import Trip
from boardmath.messages import Message, day_in_words, written
from planner.trips.report import TripPoint, TripReport
from server.paper import STYLES, words

_TEXT = ParagraphStyle("card", STYLES["BodyText"], fontSize=8, leading=9.5, spaceAfter=2)
_HEAD = ParagraphStyle("card-head", STYLES["Heading2"], fontSize=12, leading=13, spaceBefore=0, spaceAfter=3)
_STOPS = {"rest": "rest", "charge": "charge", "swap": "swap the pack", "night": "night"}


def clock(minutes: float) -> str:
    """Minutes of a day as a clock shows them."""
    whole = round(minutes) % 1440
    return f"{whole // 60:02d}:{whole % 60:02d}"


def trip_card(board: str, trip: Trip, report: TripReport) -> bytes:
    """The card as PDF: a page a day with what the meter should still show, and one with what to carry."""
    file = BytesIO()
    edge = 7 * mm
    page = SimpleDocTemplate(
        file, pagesize=A6, topMargin=edge, bottomMargin=edge, leftMargin=edge, rightMargin=edge, title=trip.name
    )
    story: list[Flowable] = []
    for d, day in enumerate(trip.days):
        own = [p for p in report.points if p.day == d]
        if not own:
            continue
        on = f", {day_in_words(day.on)}" if day.on else ""
        title = trip.name if len(trip.days) == 1 else f"{trip.name}, day {d + 1}"
        story += [Paragraph(_plain(f"{title}{on}"), _HEAD), _table(own)]
        backs = [
            t for t in report.turn_back if any(t.from_km <= p.km <= t.to_km for p in own) and t.latest_km is not None
        ]
        story += [Paragraph(_plain(t.message.text), _TEXT) for t in backs]
        story.append(PageBreak())
    story.append(Paragraph("To carry", _HEAD))
    story += [Paragraph(f"☐ <b>{_plain(c.what.text)}.</b> {_plain(c.why.text)}", _TEXT) for c in report.carry]
    if report.walking is not None:
        story += [Spacer(1, 2 * mm), Paragraph(_plain(report.walking.text), _TEXT)]
    story += [Spacer(1, 2 * mm), Paragraph(f"{_plain(board)}. {_plain(_said(report.says))}", _TEXT)]
    story.append(
        Paragraph(
            "The charge is that of the worst case in ten. If the meter shows less: ride slower, or turn back.", _TEXT
        )
    )
    page.build(story)
    return file.getvalue()


def _plain(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;")


def _said(message: Message | None) -> str:
    return message.text if message is not None else ""


def _table(points: list[TripPoint]) -> Table:
    rows = [[words(t, bold=True) for t in ("", "km", "at", "left", "volts")]]
    for p in points:
        name = p.name or "Setting out"
        if p.stop is not None:
            name += f", {_STOPS[p.stop]}" + (f" until {clock(p.leaves.mid)}" if p.leaves is not None else "")
        rows.append(
            [
                words(name),
                words(f"{p.km:.1f}"),
                words(clock(p.clock.mid)),
                words(written(p.charge.low, "share")),
                words(written(p.volts.low, "voltage")),
            ]
        )
    table = Table(rows, colWidths=[w * mm for w in (38, 12, 13, 12, 15)], hAlign="LEFT", repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.black),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 1),
                ("TOPPADDING", (0, 0), (-1, -1), 1),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1),
            ]
        )
    )
    return table
