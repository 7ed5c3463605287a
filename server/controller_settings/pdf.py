"""A controller settings on A4 to print: what is set, what was recommended, and why, in black and white."""

from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer

from boardmath.messages import day_in_words
from planner.controller_settings import ControllerSettings, SettingLine
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import otherwise_said, said, title
from server.paper import CAUTION, SMALL, STYLES, paper, picture, ruled, words


def settings_pdf(name: str, kept: SettingsRecord, judged: ControllerSettings) -> bytes:
    """A4, portrait; every value with the recommended one beside it, and what was found wrong with it."""
    file = BytesIO()
    recommended = {line.field: line for line in judged.lines}
    keys = [*(k for k in recommended if k in kept.settings), *(k for k in kept.settings if k not in recommended)]
    rows: list[list[Any]] = [["setting", "as set", "recommended", "why"]]
    for key in (k for k in keys if k != "profile"):
        line = recommended.get(key)
        rows.append(
            [
                words(title(key)),
                words(said(key, kept.settings[key]), bold=True),
                words(_recommended(line) if line else ""),
                words(line.why.text if line else ""),
            ]
        )
    by = f" by {kept.by}" if kept.by else ""
    story: list[Any] = [
        Paragraph(escape(f"{name}: controller settings {kept.number}"), STYLES["Title"]),
        Paragraph(escape(f"Set on {day_in_words(kept.on)}{by}. {kept.reason}"), STYLES["BodyText"]),
        Spacer(1, 4 * mm),
        ruled(rows, [42, 30, 30, 72]),
        Spacer(1, 4 * mm),
    ]
    if kept.end_points:
        points = ", ".join(f"{k.removesuffix('_ms')} {v:g} ms" for k, v in kept.end_points.items())
        story.append(Paragraph(escape(f"Remote, as the controller reads it: {points}."), STYLES["BodyText"]))
    story += [Paragraph(escape(line), STYLES["BodyText"]) for line in otherwise_said(kept.apart)]
    hanging = list(kept.attachments.all())
    story += [picture(bytes(f.data), f.name) for f in hanging if f.kind.startswith("image/")]
    if papers := [f.name for f in hanging if not f.kind.startswith("image/")]:
        story.append(Paragraph(escape(f"Attached to this settings record: {', '.join(papers)}."), STYLES["BodyText"]))
    for f in judged.findings:
        if f.severity != "note":
            story.append(Paragraph(f"<b>{escape(f.title.text)}.</b> {escape(f.text)}", SMALL))
    story += [Spacer(1, 3 * mm), Paragraph(escape(CAUTION), SMALL)]
    paper(file, f"{name}: controller settings").build(story)
    return file.getvalue()


def _recommended(line: SettingLine) -> str:
    further = "".join(f"; controller {i} {said(line.field, v)}" for i, v in enumerate(line.further, 2))
    return said(line.field, line.value) + further
