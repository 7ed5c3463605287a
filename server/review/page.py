"""The page to hand on: one HTML file that needs neither server nor network, and the same on A4."""

from collections.abc import Sequence
from html import escape
from io import BytesIO
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer

from boardmath.buildfile import Build
from boardmath.geometry.shapes import Drawing
from boardmath.geometry.views.view import draw
from boardmath.messages import written
from boardmath.parts.cost import priced_parts
from boardmath.prediction.outcomes import Outcome
from planner.review.report import ReviewReport
from planner.review.summary import ELEMENT, as_json
from server.paper import CAUTION, STYLES, DrawingFlowable, GaugeFlowable, paper, ruled, words

_STYLE = """
body{margin:0 auto;max-width:46rem;padding:1.5rem;background:#F5F0E6;color:#12303A;font:16px/1.45 Georgia,serif}
h1{font-size:1.9rem;margin:0 0 .3rem}h2{font-size:1.2rem;border-bottom:1px solid #12303A;margin:1.6rem 0 .4rem}
table{border-collapse:collapse;width:100%;font-size:.95rem}td,th{text-align:left;padding:.25rem .5rem .25rem 0;
border-bottom:1px solid #D8CDB9;vertical-align:top}td.n{text-align:right;white-space:nowrap}svg{max-width:100%;height:auto}
.small{font-size:.85rem;color:#48606A}a{color:#12303A}@media print{body{background:#fff}}
"""


def page_html(name: str, build: Build, outcomes: Sequence[Outcome], report: ReviewReport) -> str:
    """The page; the build stands in it as a file that can be imported, ``outcomes`` are those of its builder's own page."""
    said = build_words(report)
    own = as_json(build)
    parts = "".join(
        f"<tr><td>{escape(kind)}</td><td>{escape(what)}</td><td class='n'>{escape(price)}</td></tr>"
        for kind, what, price in parts_of(build)
    )
    does = "".join(
        f"<tr><td>{escape(p.title)}</td><td class='n'>{escape(_mid(p))}</td><td class='n'>{escape(_band(p))}</td></tr>"
        for p in outcomes
        if p.mid is not None and p.name != "money"
    )
    texts = "".join(f"<h2>{escape(t)}</h2>" + "".join(f"<p>{escape(s)}</p>" for s in ss) for t, ss in said)
    return f"""<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{escape(name)}</title><style>{_STYLE}</style></head><body>
<h1>{escape(name)}</h1>
<p class="small">A board as built and ridden, shared by its builder. This file needs no network.</p>
{svg_of(draw(build, "side"))}
<h2>What it does</h2><table><tr><th></th><th></th><th class="small">80 % of such boards are within</th></tr>{does}</table>
<p class="small">For its builder, of about {build.rider.mass_kg:.0f} kg; another rider has other figures.</p>
{texts}
<h2>Parts</h2><table>{parts}</table>
<h2>Start from this board</h2>
<p>Choose “Import a file” on the page “Your boards” of Sand Pocket and open this file. Then change what you like.</p>
<p class="small">{escape(CAUTION)}</p>
<script type="application/json" id="{ELEMENT}">{own}</script>
</body></html>
"""


def build_words(report: ReviewReport) -> list[tuple[str, list[str]]]:
    """What is told of how it went, by heading; nothing of who and where."""
    found: list[tuple[str, list[str]]] = []
    money = [s.text for s in report.says if "Tools and consumables" not in s.text]
    if report.hours:
        money.append(f"{report.hours:.0f} hours of work.")
    if report.km > 0.0:
        found.append(("What it cost", money))
    kept = [f"{p.title}: {p.message.text}" for p in report.outcomes if p.name != "money"]
    if kept:
        found.append(("What was predicted, what it does", kept))
    if report.would_change:
        found.append(("What I would change", list(report.would_change)))
    return found


def parts_of(build: Build) -> list[tuple[str, str, str]]:
    """Every part: its kind, its name with how many, its price."""
    rows = []
    for line in priced_parts(build):
        kind = line.path.split(".")[1].replace("_", " ")
        name = " ".join(w for w in (line.part.name or "", f"({line.part.maker})" if line.part.maker else "") if w)
        times = f"{line.count} × " if line.count > 1 else ""
        price = (
            f"{line.part.price * line.count:.2f} {line.part.currency or build.currency or ''}"
            if line.part.price
            else ""
        )
        rows.append((kind, times + (name or "not named"), price.strip()))
    return rows


def _mid(p: Outcome) -> str:
    return written(p.mid or 0.0, p.quantity)


def _band(p: Outcome) -> str:
    return (
        f"{written(p.low, p.quantity)} to {written(p.high, p.quantity)}"
        if p.low is not None and p.high is not None
        else ""
    )


def svg_of(d: Drawing) -> str:
    """A view as SVG, lines only."""
    wide, high = d.right - d.left, d.top - d.bottom
    marks = []
    for shape in d.shapes:
        dash = ' stroke-dasharray="8 6"' if shape.guessed else ""
        at = [(p.x - d.left, d.top - p.y) for p in shape.points]
        if shape.radius is not None:
            marks.append(f'<circle cx="{at[0][0]:.1f}" cy="{at[0][1]:.1f}" r="{shape.radius:.1f}"{dash}/>')
        elif len(at) > 1:
            tag = "polygon" if shape.closed else "polyline"
            points = " ".join(f"{x:.1f},{y:.1f}" for x, y in at)
            marks.append(f'<{tag} points="{points}"{dash}/>')
    return (
        f'<svg viewBox="0 0 {wide:.0f} {high:.0f}" role="img" aria-label="{escape(d.description, quote=True)}" '
        f'fill="#FBF8F1" stroke="#12303A" stroke-width="2">{"".join(marks)}</svg>'
    )


def page_pdf(name: str, build: Build, outcomes: Sequence[Outcome], report: ReviewReport) -> bytes:
    """The same on A4."""
    file = BytesIO()
    gauges: list[list[Any]] = [[words("", True), words("", True), words("80 % of such boards are within", True)]]
    gauges += [
        [words(f"{p.title}: {_mid(p)}"), GaugeFlowable(p), words(_band(p))] for p in outcomes if p.mid is not None
    ]
    story: list[Any] = [
        Paragraph(escape(name), STYLES["Title"]),
        Paragraph("A board as built and ridden, shared by its builder.", STYLES["BodyText"]),
        DrawingFlowable(draw(build, "side")),
        ruled(gauges, (45, 66, 50)),
    ]
    for title, texts in build_words(report):
        story.append(Paragraph(escape(title), STYLES["Heading2"]))
        story += [Paragraph(escape(t), STYLES["BodyText"]) for t in texts]
    rows: Sequence[Sequence[Any]] = [[words(t, True) for t in ("Part", "", "Price")]] + [
        [words(a), words(b), words(c)] for a, b, c in parts_of(build)
    ]
    story += [Paragraph("Parts", STYLES["Heading2"]), ruled(rows, (32, 115, 30)), Spacer(1, 4 * mm), words(CAUTION)]
    paper(file, name).build(story)
    return file.getvalue()
