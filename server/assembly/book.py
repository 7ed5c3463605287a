"""The build book: the whole work on paper with its photos, as JSON, and as Markdown."""

from collections.abc import Sequence
from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from django.utils import timezone
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Paragraph, Spacer

from boardmath.messages import Message, written
from planner.shared.log import Log
from planner.shared.picture import Picture
from planner.shared.report import Report, StepStatus
from planner.shared.step import PHASES, Check
from server.assembly.models import Photo
from server.paper import CAUTION, SMALL, STYLES, paper, picture, ruled, words

FORMAT = "sand-pocket/build-book"
STATES = {
    "done": "done",
    "left_out": "left out",
    "again": "LOOK AGAIN",
    "ready": "open",
    "waits": "open",
    "parcel": "waits for a part",
}
Photos = Sequence[tuple[str | None, str, bytes]]
"""Step, caption and picture."""


class _Drawn(Flowable):
    """A step's drawing in black and white."""

    def __init__(self, drawn: Picture, width: float = 100 * mm, most: float = 55 * mm) -> None:
        super().__init__()
        self.drawn = drawn
        self.scale = min(width / (drawn.right - drawn.left), most / (drawn.top - drawn.bottom))
        self.width, self.height = (drawn.right - drawn.left) * self.scale, (drawn.top - drawn.bottom) * self.scale

    def draw(self) -> None:
        canvas, d, k = self.canv, self.drawn, self.scale
        canvas.setLineWidth(0.5)
        for mark in d.marks:
            points = [((x - d.left) * k, (y - d.bottom) * k) for x, y in mark.points]
            canvas.setDash(2, 1.5) if mark.ink == "axis" else canvas.setDash()
            if mark.radius is not None:
                canvas.circle(*points[0], mark.radius * k, stroke=1, fill=0)
                continue
            path = canvas.beginPath()
            path.moveTo(*points[0])
            for point in points[1:]:
                path.lineTo(*point)
            if mark.closed:
                path.close()
            canvas.drawPath(path, stroke=1, fill=0)
        canvas.setDash()
        canvas.setFillColor(colors.black)
        canvas.setFont("Helvetica", 6.5)
        for label in d.labels:
            told = f"{label.text} {written(label.value, label.quantity) if label.value is not None and label.quantity else ''}"
            place = ((label.x - d.left) * k, (label.y - d.bottom) * k)
            {"start": canvas.drawString, "middle": canvas.drawCentredString, "end": canvas.drawRightString}[
                label.anchor
            ](*place, told.strip())


def book_pdf(name: str, report: Report, ride: Report, log: Log, photos: Photos) -> bytes:
    """A4, portrait, black and white: every step as it was done, what was measured, the photos, what would be changed."""
    file = BytesIO()
    story: list[Any] = [
        Paragraph(escape(f"{name}: build book"), STYLES["Title"]),
        Paragraph(escape(_head(report, log)), STYLES["BodyText"]),
    ]
    for stands in (report, ride):
        for phase in stands.phases:
            story.append(Paragraph(escape(PHASES[phase.phase]), STYLES["Heading2"]))
            for step in (s for s in stands.steps if s.phase == phase.phase):
                story += _step(step, log, [p for p in photos if p[0] == step.id])
    rest = [p for p in photos if p[0] not in {s.id for s in (*report.steps, *ride.steps)}]
    if rest:
        story.append(Paragraph("Further photos", STYLES["Heading2"]))
        story += [picture(data, caption or "photo") for _, caption, data in rest]
    story += _tools(report)
    story += _wishes(log)
    story += [Spacer(1, 4 * mm), Paragraph(escape(CAUTION), SMALL)]
    paper(file, f"{name}: build book").build(story)
    return file.getvalue()


def _head(report: Report, log: Log) -> str:
    began = f"Begun {timezone.localtime(log.began):%-d %b %Y}. " if log.began else ""
    hours = sum(s.took or 0.0 for s in report.steps) / 60.0
    took = f" {hours:.1f} hours recorded." if hours else ""
    return f"{began}{report.done} of {len(report.steps)} steps done.{took}"


def _step(step: StepStatus, log: Log, photos: Photos) -> list[Any]:
    when = f"{timezone.localtime(step.at):%-d %b %Y, %H:%M}" if step.at else ""
    head = " · ".join(x for x in (STATES[step.state], when, step.by, f"{step.took:g} min" if step.took else "") if x)
    found: list[Any] = [words(f"{'[x]' if step.state == 'done' else '[  ]'} {step.title.text}", bold=True), words(head)]
    if step.state not in ("done", "left_out"):
        found += [words(d.text) for d in step.do]
        found.append(words(f"Right when: {step.right.text}"))
        found += [words(f"{f.count} x {f.what}{_size(f)}: {f.tighten.text}") for f in step.fasteners]
        if step.caution:
            found.append(words(f"Caution: {step.caution.text}", bold=True))
        if step.picture:
            found.append(_Drawn(step.picture))
    found += [words(f"{c.text}: {_value(c)}") for c in step.checks if c.entered is not None or step.state != "done"]
    found += [words(said.text, bold=True) for said in (step.judged.said, step.judged.remedy) if said and step.values]
    found += [words(text) for text in _told(step, log)]
    found += [picture(data, caption or "photo", width=80 * mm, most=60 * mm) for _, caption, data in photos]
    found.append(Spacer(1, 1.5 * mm))
    return [KeepTogether(found[:6]), *found[6:]]


def _size(fastener: Any) -> str:
    size = f" {fastener.thread}" if fastener.thread else ""
    return size + (f" x {fastener.length_mm:g}" if fastener.length_mm else "")


def _value(check: Check) -> str:
    if check.entered is None:
        return "...................."
    return written(check.entered, check.quantity)


def _told(step: StepStatus, log: Log) -> list[str]:
    found = [a.text for a in step.again]
    if step.otherwise:
        found.append(f"Done differently: {step.otherwise}")
    if step.word:
        found.append(f"{'Skipped' if step.state == 'left_out' else 'Reopened'}: {step.word}")
    found += [
        f"{'Problem: ' if e.trouble else ''}{e.text}" for e in log.entries if e.kind == "noted" and e.step == step.id
    ]
    return found


def _tools(report: Report) -> list[Any]:
    rows: list[list[Any]] = [["tool", "why", "have / borrow / buy", "cost"]]
    rows += [
        [
            words(t.name),
            words(t.forgotten or ""),
            words(t.have or ""),
            words(f"{t.price:.2f}" if t.price is not None else ""),
        ]
        for t in report.tools
    ]
    return [Paragraph("Tools and consumables", STYLES["Heading2"]), ruled(rows, [60, 70, 30, 18])]


def _wishes(log: Log) -> list[Any]:
    if not log.wishes:
        return []
    told = [Paragraph("What I would change", STYLES["Heading2"])]
    return [*told, *(words(f"{w.why}{_changes(w.changes)}") for w in log.wishes)]


def _changes(changes: Any) -> str:
    return f" ({', '.join(f'{path} = {value}' for path, value in changes.items())})" if changes else ""


def as_json(name: str, report: Report, ride: Report, log: Log) -> dict[str, Any]:
    """The book as an open document; photos are named by their entries."""
    return {
        "format": FORMAT,
        "version": 1,
        "board": name,
        "steps": [
            {
                **s.model_dump(
                    mode="json",
                    include={"id", "phase", "title", "state", "at", "by", "took", "otherwise", "word", "values"},
                ),
                "said": s.judged.said.text if s.judged.said else None,
            }
            for s in (*report.steps, *ride.steps)
        ],
        "log": [e.model_dump(mode="json", exclude_none=True, exclude={"facts"}) for e in log.entries],
    }


def as_markdown(name: str, report: Report, ride: Report, log: Log) -> str:
    """The book as Markdown, to be put beside a board's papers."""
    lines = [f"# {_plain(name)}: build book", "", _head(report, log), ""]
    for stands in (report, ride):
        for phase in stands.phases:
            lines += [f"## {PHASES[phase.phase]}", ""]
            for step in (s for s in stands.steps if s.phase == phase.phase):
                lines.append(
                    f"- [{'x' if step.state == 'done' else ' '}] **{_plain(step.title.text)}** ({STATES[step.state]})"
                )
                if step.at:
                    took = f", {step.took:g} min" if step.took else ""
                    lines.append(f"  - {timezone.localtime(step.at):%-d %b %Y, %H:%M} {_plain(step.by)}{took}")
                lines += [f"  - {_plain(c.text)}: {_value(c)}" for c in step.checks if c.entered is not None]
                lines += [f"  - {_plain(s.text)}" for s in _messages(step)]
                lines += [f"  - {_plain(text)}" for text in _told(step, log)]
            lines.append("")
    if log.wishes:
        lines += [
            "## What I would change",
            "",
            *(f"- {_plain(w.why)}{_plain(_changes(w.changes))}" for w in log.wishes),
            "",
        ]
    return "\n".join(lines)


def _messages(step: StepStatus) -> list[Message]:
    return [s for s in (step.judged.said, step.judged.remedy) if s is not None and step.values]


def _plain(text: str) -> str:
    """A person's words on one line, their signs no markup."""
    flat = " ".join(text.split())
    return "".join(f"\\{c}" if c in "\\`*_[]<>#|" else c for c in flat)


def photos_of(rows: Sequence[tuple[Any, Photo | None]]) -> Photos:
    """What the paper needs of the photos that have arrived."""
    return [(e.step, e.caption, bytes(p.data)) for e, p in rows if p is not None]
