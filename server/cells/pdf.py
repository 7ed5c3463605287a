"""Labels for the cells, to cut out of A4, and the map of the groups for the table."""

from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, PageBreak, Paragraph, Table, TableStyle

from boardmath.battery.cells import CellsReport, cells_report
from boardmath.buildfile import Build
from boardmath.buildfile.pack_assembly import MeasuredCell
from boardmath.messages import written
from boardmath.model.cell_groups import work_of
from server.paper import SMALL, STYLES, paper, ruled, words

ACROSS, HIGH = 4, 21 * mm
PAGE = 48


def labels_pdf(name: str, build: Build) -> bytes:
    """A4: a label for every cell of the bag, then who lies where."""
    file = BytesIO()
    cells, report = work_of(build).cells or [], cells_report(build)
    out = {r.id for r in report.rejected}
    placed = sorted((c for c in cells if c.group is not None), key=lambda c: c.group or 0)
    rest = [c for c in cells if c.group is None]
    story: list[Any] = []
    ordered = [*placed, *rest]
    for start in range(0, len(ordered), PAGE):
        story += [_labels(ordered[start : start + PAGE], out), PageBreak()]
    story += map_story(name, report, {c.id: c for c in cells})
    paper(file, f"{name}: cells").build(story)
    return file.getvalue()


def _labels(cells: list[MeasuredCell], out: set[str]) -> Table:
    faces = [_label(c, c.id in out) for c in cells]
    rows: list[list[Any]] = [list(faces[i : i + ACROSS]) for i in range(0, len(faces), ACROSS)]
    rows[-1] += [""] * (ACROSS - len(rows[-1]))
    table = Table(rows, colWidths=[45 * mm] * ACROSS, rowHeights=[HIGH] * len(rows))
    table.setStyle(
        TableStyle(
            [
                ("GRID", (0, 0), (-1, -1), 0.25, colors.grey, None, (2, 2)),
                ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
                ("TOPPADDING", (0, 0), (-1, -1), 1),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1),
            ]
        )
    )
    return table


def _label(cell: MeasuredCell, out: bool) -> list[Paragraph]:
    where = "OUT" if out else f"group {cell.group}" if cell.group else "spare"
    found = [(cell.capacity_ah, "charge"), (cell.resistance_mohm, "resistance"), (cell.rested_v, "cell_voltage")]
    read = ", ".join(written(v, q) for v, q in found if v is not None)
    head = f"<font size='13'><b>{escape(cell.id)}</b></font>  <font size='11'>{where}</font>"
    return [Paragraph(head, STYLES["BodyText"]), Paragraph(escape(read or "not measured"), SMALL)]


def map_story(name: str, report: CellsReport, cells: dict[str, MeasuredCell]) -> list[Any]:
    """The groups as a table: who lies where, what each holds; then who is spare and who is out and why."""
    rows: list[list[Any]] = [["group", "cells", "holds", "resists"]]
    for group in report.groups:
        rows.append(
            [
                words(str(group.position), bold=True),
                words(", ".join(group.cells) or "empty"),
                words(written(group.capacity_ah, "charge") if group.capacity_ah else "-"),
                words(written(group.resistance_mohm, "resistance") if group.resistance_mohm else "-"),
            ]
        )
    told = []
    if report.weakest_ah and report.bound_ah:
        told.append(
            f"The smallest group is {report.weakest} with {written(report.weakest_ah, 'charge')}; the best "
            f"possible is {written(report.bound_ah, 'charge')}."
        )
    if report.spare:
        told.append(f"Spare: {', '.join(report.spare)}.")
    story: list[Any] = [
        Paragraph(escape(f"{name}: the cells by group"), STYLES["Heading2"]),
        ruled(rows, [16, 110, 26, 26]),
        *(Paragraph(escape(text), SMALL) for text in told),
    ]
    if report.rejected:
        story.append(Paragraph("Rejected, and why", STYLES["Heading3"]))
        story += [
            KeepTogether([Paragraph(f"<b>{escape(r.id)}</b>: {escape(r.message.text)}", SMALL)])
            for r in report.rejected
        ]
    return story
