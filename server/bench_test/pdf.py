"""A bench test on A4: as it was judged, or empty with lines to fill in beside the board."""

from io import BytesIO
from typing import Any, get_args
from xml.sax.saxutils import escape

from pydantic import BaseModel
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, Spacer

from boardmath.buildfile.bench_test import BenchTest as Entered
from boardmath.buildfile.bench_test import MotorOnTheStand
from boardmath.messages import day_in_words, written
from planner.bench_test import BenchTestReport, Step
from server.bench_test.models import BenchTest
from server.paper import CAUTION, SMALL, STYLES, paper, ruled, words

BLANK = "...................."
NEVER_BROKEN = "\u00a0"
WORDS = {"passes": "passes", "unsure": "odd", "fails": "FAILS", "open": "not done", "left out": "left out"}


def bench_test_pdf(name: str, test: BenchTest, report: BenchTestReport) -> bytes:
    """A4, portrait, black and white."""
    file = BytesIO()
    by = f" by {test.by}" if test.by else ""
    revision = f"; build revision {test.build_revision}" if test.build_revision else ""
    record = f", controller as on record {test.record_number}" if test.record_number else ""
    head = (
        f"Tested on {day_in_words(test.on)}{by}{revision}{record}."
        if test.on
        else "On . . . . . . . . . .  by . . . . . . . . . .  with the controller as on record . . . . ."
    )
    story: list[Any] = [
        Paragraph(escape(f"{name}: bench test{f' {test.number}' if test.number else ''}"), STYLES["Title"]),
        Paragraph(escape(head), STYLES["BodyText"]),
        *bench_test_story(test.entered, report, to_fill_in=test.on is None),
        Spacer(1, 3 * mm),
        Paragraph(escape(CAUTION), SMALL),
    ]
    paper(file, f"{name}: bench test").build(story)
    return file.getvalue()


def bench_test_story(entered: dict[str, Any], report: BenchTestReport, to_fill_in: bool = False) -> list[Any]:
    """The steps as a table, and the last word; with lines and boxes for what is still to be found where it is to fill in."""
    rows: list[list[Any]] = [["", "what to do", "found", ""]]
    for number, step in enumerate(report.steps, 1):
        verdict = "" if to_fill_in and step.verdict == "open" else WORDS[step.verdict]
        rows.append(
            [
                words(f"{number}. {step.title}", bold=True),
                _told(step),
                [words(line) for line in _entries(step, entered, to_fill_in)],
                words(verdict, bold=step.verdict == "fails"),
            ]
        )
    story: list[Any] = [Spacer(1, 2 * mm), ruled(rows, [32, 84, 44, 18])]
    if notes := entered.get("notes"):
        story.append(Paragraph(escape(f"Notes: {notes}"), SMALL))
    story.append(KeepTogether([Spacer(1, 2 * mm), Paragraph(escape(report.last_word.text), STYLES["BodyText"])]))
    return story


def _told(step: Step) -> list[Any]:
    bands = ", ".join(f"{written(b.low, b.quantity)} to {written(b.high, b.quantity)}" for b in step.predicted)
    told = [words(f"{step.do.text} {bands}".strip())]
    if step.said:
        told.append(words(step.said.text, bold=True))
    if step.remedy:
        told.append(words(step.remedy.text))
    return told


def _entries(step: Step, entered: dict[str, Any], to_fill_in: bool) -> list[str]:
    found: list[tuple[str, type[BaseModel], str, Any]]
    found = [("", Entered, key, entered.get(key)) for key in step.fields]
    motors = entered.get("motors") or [{}]
    for number, motor in enumerate(motors, 1):
        which = f"motor {number}: " if len(motors) > 1 else ""
        found += [(which, MotorOnTheStand, key, motor.get(key)) for key in step.motor_fields]
    return [which + _entry(model, key, value) for which, model, key, value in found if to_fill_in or value is not None]


def _entry(model: type[BaseModel], key: str, value: Any) -> str:
    field = model.model_fields[key]
    extra = field.json_schema_extra
    quantity = str(extra["quantity"]) if isinstance(extra, dict) and "quantity" in extra else None
    title = (field.title or key).lower()
    if value is None and quantity is None:
        choices = next((get_args(a) for a in get_args(field.annotation) if get_args(a)), ("yes", "no"))
        return f"{title}: {'  '.join(f'[  ] {_plain(c)}'.replace(' ', NEVER_BROKEN) for c in choices)}"
    if value is None:
        return f"{title} {BLANK}"
    if isinstance(value, bool):
        return f"{title}: {'yes' if value else 'NO'}"
    return f"{title} {written(value, quantity) if quantity else _plain(str(value))}"


def _plain(word: str) -> str:
    return word.replace("_", " ")
