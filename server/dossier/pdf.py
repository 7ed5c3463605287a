"""A build's dossier on A4, black and white: what it is made of, what it will do, what is set, what was let stand and why."""

from datetime import date
from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, Spacer

from boardmath.battery.cells import cells_report
from boardmath.battery.charge_monitor import all_watched
from boardmath.buildfile import Build, BuildFile
from boardmath.buildfile.figures import choice_in_words
from boardmath.calibration.report import CalibratedInput, CalibratedOutcome, CalibrationReport
from boardmath.checks import Finding
from boardmath.geometry.views.view import draw
from boardmath.likelihood import in_words
from boardmath.messages import counted, day_in_words, written
from boardmath.model.cell_groups import plan_of, work_of
from boardmath.parts.cost import LEFT_OVER, Exchanger, cost, priced_parts
from boardmath.prediction.outcomes import Outcome
from boardmath.predictor import predict
from boardmath.results import Prediction
from planner.bench_test import BenchTestReport
from planner.enclosure.report import enclosure_reports
from planner.maintenance.report import MaintenanceReport
from planner.pack.report import pack_report
from planner.review.report import ReviewReport
from planner.rides.sums import Sums
from planner.shared.log import Log
from planner.shared.report import Report
from planner.trips.report import trip_report
from planner.wiring.report import wiring_report
from server.bench_test.models import BenchTest
from server.bench_test.pdf import bench_test_story
from server.cells.pdf import map_story
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import otherwise_said, said, title
from server.paper import CAUTION, SMALL, STYLES, DrawingFlowable, GaugeFlowable, paper, ruled, words
from server.wiring.pdf import wiring_story


def dossier_pdf(
    name: str,
    build: BuildFile,
    kept: SettingsRecord | None,
    tested: BenchTest | None,
    worked: tuple[Report, Log],
    ridden: tuple[Sums, CalibrationReport],
    upkept: tuple[MaintenanceReport, ReviewReport],
    today: date,
) -> bytes:
    """Predictions with bands on gauges, drawings, parts, settings, bench test, findings, and the usual cautions."""
    file = BytesIO()
    prediction = predict(build)
    rider = f"{build.rider.mass_kg:g} kg" + (
        f" and {build.rider.carried_kg:g} kg carried" if build.rider.carried_kg else ""
    )
    head = f"{build.stage or 'planned'}, printed on {day_in_words(today)}. Ridden by {rider}."
    story: list[Any] = [
        Paragraph(escape(name), STYLES["Title"]),
        Paragraph(escape(head), STYLES["BodyText"]),
        *_promised(build, prediction),
        *_drawn(build),
        *_boxed(build),
        *_listed(build),
        *_pack_made(name, build),
        *_wired(build),
        *_worked(*worked),
        *_set(build, kept),
        *_tested(tested, kept),
        *_ridden(*ridden),
        *_travelled(build),
        *_kept_up(build, *upkept),
        *_found(prediction.findings),
        Spacer(1, 3 * mm),
        Paragraph(escape(CAUTION), SMALL),
    ]
    paper(file, f"{name}: dossier").build(story)
    return file.getvalue()


def _heading(text: str) -> Paragraph:
    return Paragraph(escape(text), STYLES["Heading2"])


def _figure(promised: Outcome, value: float | None, build: Build) -> str:
    if value is None:
        return "-"
    unit = f" {build.currency}" if promised.quantity == "money" and build.currency else ""
    return written(value, promised.quantity) + unit


def _promised(build: Build, prediction: Prediction) -> list[Any]:
    rows: list[list[Any]] = [["", "predicted", "brief", "", "what limits it"]]
    for p in prediction.outcomes:
        band = f" ({_figure(p, p.low, build)} to {_figure(p, p.high, build)})" if p.low is not None else ""
        rows.append(
            [
                words(p.title, bold=True),
                words(_figure(p, p.mid, build) + band),
                words(f"{_figure(p, p.wanted, build)}: {p.verdict}" if p.wanted is not None else "no target"),
                GaugeFlowable(p, 52 * mm),
                words(p.message.text if p.message else p.limit or ""),
            ]
        )
    needs = [words(f"Not predicted yet. {n.reason}") for n in prediction.needs]
    return [_heading("What it will do"), ruled(rows, [14, 32, 28, 56, 46]), *needs]


def _drawn(build: Build) -> list[Any]:
    pictures = [DrawingFlowable(draw(build, "side"), most=45 * mm), DrawingFlowable(draw(build, "under"), most=60 * mm)]
    return [KeepTogether([_heading("To scale"), pictures[0], Spacer(1, 2 * mm), pictures[1]])]


def _boxed(build: Build) -> list[Any]:
    """The boxes as they are made, for the bench beside the printer; nothing where there is none to make."""
    story: list[Any] = []
    for report in enclosure_reports(build):
        if report.cannot is not None:
            continue
        long, wide, deep = report.outer_mm
        lines = [
            f"{long:.0f} x {wide:.0f} x {deep:.0f} mm over all, wall {report.wall_mm:g} mm of "
            f"{choice_in_words(report.material)}, {len(report.bolts)} bolts M5 along both sides.",
            *(f"{hole.what.capitalize()}: {hole.diameter_mm:.0f} mm, {hole.wall} wall." for hole in report.holes),
        ]
        foam = [[words(x) for x in ("foam along", "from mm", "to mm", "layers")]]
        foam += [[words(str(x)) for x in (f.side, round(f.start), round(f.end), f.layers)] for f in report.foam]
        name = "Box" if report.which == "enclosure" else "Second box"
        story += [_heading(name), *map(words, lines), *([ruled(foam, [50, 30, 30, 30])] if report.foam else [])]
    return story


def _listed(build: Build) -> list[Any]:
    sums, exchange = cost(build), Exchanger(build)
    rows: list[list[Any]] = [["part", "count", "status", "sum"]]
    for line in priced_parts(build):
        amount = exchange.of(line)
        named = ", ".join(x for x in (line.part.name or line.path.split(".")[1], line.part.maker) if x)
        left = " (no longer on the board)" if line.path.startswith(LEFT_OVER) else ""
        rows.append(
            [
                words(named + left),
                words(str(line.count)),
                words(line.state.replace("_", " ") if line.state != "owned" else "already owned"),
                words("-" if amount is None else f"{amount} {exchange.currency or ''}"),
            ]
        )
    text = (
        f"Spent {sums.spent:.2f}, still to spend {sums.to_spend:.2f}, of it shipping, duty and tax "
        f"{sums.charges:.2f}; total value {sums.total:.2f} {sums.currency or ''}."
    )
    return [_heading("Parts"), ruled(rows, [96, 14, 34, 32]), words(text)]


def _pack_made(name: str, build: Build) -> list[Any]:
    """The cells in their groups, the links, the charges that were watched; nothing where none of it was done."""
    cells = work_of(build).cells or []
    story: list[Any] = map_story(name, cells_report(build), {c.id: c for c in cells}) if cells else []
    report = pack_report(build)
    if cells or plan_of(build).strip is not None:
        rows: list[list[Any]] = [["groups", "joined by", "bears", "current"]]
        for link in report.links:
            joined = f"{link.strips} x {link.material}" if link.strips else f"{link.awg:g} AWG wire"
            rows.append(
                [
                    words(f"{link.between[0]} - {link.between[1]}{' (made last)' if link.half else ''}"),
                    words(joined),
                    words(written(link.bears_a, "current"), bold=not link.holds),
                    words(written(link.current_a, "current")),
                ]
            )
        if report.links:
            story += [_heading("Links"), ruled(rows, [44, 50, 34, 34])]
    charges: list[list[Any]] = [["began", "looks", "result"]]
    for charge in all_watched(build):
        charges.append(
            [words(day_in_words(charge.began[:10])), words(str(len(charge.looks))), words(charge.last_word.text)]
        )
    if len(charges) > 1:
        story += [_heading("Charges watched"), ruled(charges, [40, 16, 120])]
    return story


def _wired(build: Build) -> list[Any]:
    report = wiring_report(build)
    return [_heading("Wiring"), *wiring_story(report)] if report.wires else []


def _worked(report: Report, log: Log) -> list[Any]:
    """How far it is put together, what was measured, what went wrong; the whole of it is the build book."""
    if log.began is None:
        return []
    hours = sum(s.took or 0.0 for s in report.steps) / 60.0
    told = f"{report.done} of {len(report.steps)} steps done" + (f", {hours:.1f} hours recorded" if hours else "")
    again = f"; {report.again} to check again" if report.again else ""
    rows: list[list[Any]] = [["measured", "found", "how it stands"]]
    for step in report.steps:
        found = [f"{c.text}: {written(c.entered, c.quantity)}" for c in step.checks if c.entered is not None]
        if found:
            said = step.judged.said.text if step.judged.said else ""
            odd = step.judged.verdict in ("unsure", "wrong")
            rows.append([words(step.title.text.split(":")[0]), words("; ".join(found)), words(said, bold=odd)])
    wrong = [e.text for e in log.entries if e.kind == "noted" and e.trouble]
    return [
        _heading("Put together"),
        words(f"{told}{again}."),
        *([ruled(rows, [44, 66, 66])] if len(rows) > 1 else []),
        *(words(f"Problem: {text}") for text in wrong),
        *(words(f"Would change: {wish.why}") for wish in log.wishes),
    ]


def _ridden(sums: Sums, calibration: CalibrationReport) -> list[Any]:
    """What it was ridden, and what the rides taught, before and after."""
    if not sums.rides or sums.first is None or sums.last is None:
        return []
    span = f"from {day_in_words(sums.first)} to {day_in_words(sums.last)}"
    told = f"{counted(sums.rides, 'ride')} {span}, {written(sums.km, 'distance')}"
    wet = f"; {sums.wet} in the wet" if sums.wet else ""
    rows: list[list[Any]] = [["what", "before any ride", "from the rides"]]
    told_of: list[CalibratedOutcome | CalibratedInput] = [*calibration.outcomes, *calibration.inputs[:8]]
    for one in told_of:
        bands = [f"{written(b.low, one.quantity)} to {written(b.high, one.quantity)}" for b in (one.before, one.after)]
        rows.append([words(one.title[:1].upper() + one.title[1:]), words(bands[0]), words(bands[1], bold=True)])
    return [
        _heading("Ridden"),
        words(f"{told}{wet}."),
        *([ruled(rows, [56, 60, 60])] if len(rows) > 1 else []),
        *(words(t.message.text) for t in calibration.trends),
    ]


def _travelled(build: BuildFile) -> list[Any]:
    """Trips that are planned: what is left at the end of each, and the chance to ride it."""
    found: list[list[Any]] = [["trip", "way", "chance to finish", "tightest"]]
    for trip in build.trips or []:
        report = trip_report(build.model_copy(update={"trips": None}), trip, whole=False)
        if report.needs or not report.points:
            continue
        tight = min(report.points[1:] or report.points, key=lambda p: p.charge.mid)
        left = f"{tight.name}: {written(tight.charge.mid, 'share')} ({written(tight.charge.low, 'share')} on a bad day)"
        found.append(
            [
                words(trip.name, bold=True),
                words(written(report.km, "distance")),
                words(in_words(report.chance or 0.0)),
                words(left),
            ]
        )
    return [_heading("Trips"), ruled(found, [60, 24, 36, 60])] if len(found) > 1 else []


def _kept_up(build: Build, maintenance: MaintenanceReport, sums: ReviewReport) -> list[Any]:
    """What is due, and what it came to; nothing of a board that nobody has ridden."""
    if not maintenance.rides:
        return []
    rows: list[list[Any]] = [["task", "status", "last done", "since"]]
    for task in maintenance.tasks[:10]:
        stands = {"due": "DUE", "soon": "soon", "in_time": "in time"}[task.state]
        since = f"{written(task.since_km, 'distance')}, {task.since_days} days"
        rows.append(
            [
                words(task.title, bold=task.state == "due"),
                words(stands),
                words(day_in_words(task.last) if task.last else "never"),
                words(since),
            ]
        )
    told = "; ".join(f"{line.title.lower()} {line.amount:.2f}" for line in sums.lines)
    money = f"{told}: {sums.total:.2f} {sums.currency or ''}"
    return [
        _heading("Maintenance"),
        ruled(rows, [60, 30, 34, 56]),
        _heading("What it cost"),
        words(money + (f", {sums.per_km:.2f} a kilometre." if sums.per_km else ".")),
        *(words(f"{p.title}: {p.message.text}") for p in sums.outcomes if p.name != "money"),
    ]


def _set(build: Build, kept: SettingsRecord | None) -> list[Any]:
    values = kept.settings if kept else build.settings.model_dump(mode="json", exclude_none=True)
    if not values:
        return []
    where = "These are the settings you want; no settings record was saved yet."
    if kept:
        where = f"As set: record {kept.number}, set on {day_in_words(kept.on)}: {kept.reason}"
    rows: list[list[Any]] = [["setting", "value"]]
    rows += [[words(title(key)), words(said(key, value), bold=True)] for key, value in values.items()]
    apart = kept.apart if kept else [a.model_dump(mode="json", exclude_none=True) for a in build.settings_apart or ()]
    return [_heading("Controller"), words(where), ruled(rows, [80, 60]), *map(words, otherwise_said(apart))]


def _tested(test: BenchTest | None, kept: SettingsRecord | None) -> list[Any]:
    heading = _heading("Bench test")
    if test is None or test.on is None:
        return [heading, words("None is saved. Before the first ride: wheels in the air, step by step.")]
    told = f"Test {test.number}, on {day_in_words(test.on)}{f' by {test.by}' if test.by else ''}."
    if kept and kept.number != test.record_number:
        told += f" The controller settings changed after it: record {kept.number}. Repeat the test."
    return [heading, words(told), *bench_test_story(test.entered, BenchTestReport.model_validate(test.report))]


def _found(findings: list[Finding]) -> list[Any]:
    story: list[Any] = []
    if standing := [f for f in findings if f.severity != "note" and not f.accepted]:
        story += [
            _heading("Findings"),
            *(Paragraph(f"<b>{escape(f.title.text)}.</b> {escape(f.text)}", SMALL) for f in standing),
        ]
    if aside := [f for f in findings if f.accepted]:
        story.append(_heading("Accepted risks, and why"))
        for f in aside:
            word = f.accepted.reason if f.accepted else ""
            when = f" ({day_in_words(f.accepted.day)})" if f.accepted and f.accepted.day else ""
            story.append(Paragraph(f"<b>{escape(f.title.text)}.</b> {escape(word + when)}", SMALL))
    return story
