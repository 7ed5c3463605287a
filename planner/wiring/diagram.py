"""The wiring as a drawing: plus along the top, minus along the bottom, what stands between them in the order of the current.

Every line tells what it is without colour: plus is thick, minus is thick and hollow, phases are threefold, balance is dotted,
signals are dashed. Lengths are of the paper, 1 a pixel at 100 %.
"""

from collections.abc import Sequence
from typing import Literal
from xml.sax.saxutils import escape, quoteattr

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.messages import written
from planner.wiring.nodes import Node, nodes
from planner.wiring.path import Carries, Wire, round_the_board, wires

WIDTH = 1160.0
Stroke = Literal["thick", "hollow", "three", "thin", "thin_hollow", "dotted", "dashed"]
STROKES: dict[Carries, Stroke] = {
    "plus": "thick",
    "minus": "hollow",
    "charge_plus": "thin",
    "charge_minus": "thin_hollow",
    "balance": "dotted",
    "phase": "three",
    "sensor": "dashed",
    "signal": "dashed",
    "load": "thin",
}


class Box(BaseModel):
    id: str
    x: float
    y: float
    width: float
    height: float
    title: str
    lines: list[str]


class Stripe(BaseModel):
    """One of what is drawn over each other for a line: in ink, or in the paper's tone to hollow it."""

    width: float
    ink: bool = True
    dash: list[float] = []


class Sign(BaseModel):
    x: float
    y: float
    text: str


class Line(BaseModel):
    """A wire on the paper. ``points`` are x, y in turn; ``label`` stands from ``at`` on to the right, one line above the
    other."""

    id: str
    carries: Carries
    stripes: list[Stripe]
    points: list[float]
    at: list[float]
    label: list[str]
    warn: bool = False


LEGEND = [
    "thick: plus",
    "hollow: minus",
    "threefold: phases",
    "thin: charging, lights",
    "dotted: balance",
    "dashed: signals",
]


class Diagram(BaseModel):
    width: float
    height: float
    boxes: list[Box]
    lines: list[Line]
    signs: list[Sign] = []
    """Plus and minus beside the pack's ends."""
    legend: list[str] = LEGEND
    words: str


def diagram(build: Build) -> Diagram:
    """The drawing of a build's wiring; without boxes while there is no pack."""
    found, all_wires = nodes(build), wires(build)
    boxes = _placed(build, found)
    lines = [line for n, wire in enumerate(all_wires) if (line := _line(build, wire, boxes, all_wires, n)) is not None]
    height = max([b.y + b.height for b in boxes.values()] + [200.0]) + 30.0
    pack = boxes.get("pack")
    ends = [] if pack is None else [(_PLUS_Y, "+"), (_MINUS_Y, "\u2212")]
    return Diagram(
        width=WIDTH,
        height=height,
        boxes=list(boxes.values()),
        lines=lines,
        signs=[Sign(x=_right(pack) - 20.0, y=y + 7.0, text=text) for y, text in ends if pack is not None],
        words=_words(build, all_wires),
    )


_PLUS_Y, _MINUS_Y = 70.0, 330.0


def _placed(build: Build, found: Sequence[Node]) -> dict[str, Box]:
    rows: dict[str, Box] = {}

    def put(node: Node, x: float, y: float, width: float, height: float) -> None:
        rows[node.id] = Box(
            id=node.id, x=x, y=y, width=width, height=height, title=node.title, lines=[x for x in node.lines if x]
        )

    units = sum(n.id.startswith("controller") for n in found)
    motors = sum(n.id.startswith("motor") for n in found)
    loads = 0
    for node in found:
        kind, _, number = node.id.partition("-")
        n = int(number or 1)
        if kind == "pack":
            put(node, 20.0, 40.0, 150.0, 320.0)
        elif kind == "fuse":
            put(node, 300.0, 40.0, 84.0, 60.0)
        elif kind == "negative_fuse":
            put(node, 612.0, 300.0, 70.0, 60.0)
        elif kind == "switch":
            put(node, 500.0, 40.0, 104.0, 60.0)
        elif kind == "protection":
            put(node, 340.0, 420.0 if round_the_board(build) else 290.0, 140.0, 80.0)
        elif kind == "controller":
            put(node, 730.0, _row(n, units, 110.0), 140.0, 90.0 if units > 1 else 150.0)
        elif kind == "motor":
            put(node, 1040.0, _row(n, motors, 110.0 if motors < 3 else 78.0), 100.0, 62.0)
        elif kind == "receiver":
            put(node, 730.0, 22.0 if units < 3 else 600.0, 140.0, 46.0)
        elif kind == "load":
            put(node, 420.0, 122.0 + 78.0 * loads if loads < 2 else 420.0 + 78.0 * (loads - 2), 120.0, 46.0)
            loads += 1
        elif kind == "port":
            put(node, 20.0, 560.0, 150.0, 60.0)
    return rows


def _row(n: int, of: int, step: float) -> float:
    """y of one of several that stand between the rails."""
    top = (_PLUS_Y + _MINUS_Y) / 2.0 - (of - 1) * step / 2.0
    return top + (n - 1) * step - (75.0 if of == 1 else 31.0) + (44.0 if of == 1 else 0.0) - (0.0 if of > 1 else 44.0)


def _line(build: Build, wire: Wire, boxes: dict[str, Box], all_wires: Sequence[Wire], n: int) -> Line | None:
    if wire.start not in boxes or wire.end not in boxes:
        return None
    points, at = _route(build, wire, boxes)
    length = written(wire.length_mm, "length")
    many = f"{wire.count} x " if wire.count > 1 else ""
    current = "" if wire.carries in ("sensor", "signal", "balance") else f", {written(wire.current_a, 'current')}"
    label = [f"{many}{wire.awg:g} AWG{current}", f"{'about ' if wire.guessed else ''}{length}, {_short(wire)}"]
    if wire.mismatch:
        label.append("plugs do not fit!")
        if wire.carries in ("plus", "phase"):
            at = at[0], at[1] - 14.0
    return Line(
        id=wire.id,
        carries=wire.carries,
        stripes=STRIPES[STROKES[wire.carries]],
        points=points,
        at=list(at),
        label=label,
        warn=wire.mismatch or wire.current_a > wire.bears_a,
    )


def _short(wire: Wire) -> str:
    return {"phase": "rings", "sensor": "bundle", "balance": "black first", "signal": "own plug", "load": "a pair"}.get(
        wire.carries, wire.colour
    )


def _right(box: Box) -> float:
    return box.x + box.width


def _route(build: Build, wire: Wire, boxes: dict[str, Box]) -> tuple[list[float], tuple[float, float]]:
    """The way of a wire on the paper, and where its label begins."""
    a, b = boxes[wire.start], boxes[wire.end]
    if wire.carries == "plus":
        if b.id.startswith("controller"):
            x, y = b.x - 60.0 - 8.0 * _number(b.id), b.y + 22.0
            return [_right(a), _PLUS_Y, x, _PLUS_Y, x, y, b.x, y], (_right(a) + 8.0, _PLUS_Y - 24.0)
        return [_right(a), _PLUS_Y, b.x, _PLUS_Y], (_right(a) + 8.0, _PLUS_Y - 24.0)
    if wire.carries == "minus":
        if b.id in ("protection", "negative_fuse"):
            return [_right(a), _MINUS_Y, b.x, _MINUS_Y], (_right(a) + 14.0, _MINUS_Y - 24.0)
        x, y = b.x - 30.0 - 8.0 * _number(b.id), b.y + b.height - 22.0
        return [_right(a), _MINUS_Y, x, _MINUS_Y, x, y, b.x, y], (_right(a) + 14.0, _MINUS_Y + 20.0)
    if wire.carries in ("phase", "sensor"):
        off = 0.0 if wire.carries == "phase" else 22.0
        y = b.y + 20.0 + off
        start = min(max(y, a.y + 16.0), a.y + a.height - 12.0)
        bend = b.x - 26.0 - (10.0 if wire.carries == "sensor" else 0.0)
        at = (_right(a) + 8.0, start - 24.0) if wire.carries == "phase" else (_right(a) + 8.0, start + 16.0)
        return [_right(a), start, bend, start, bend, y, b.x, y], at
    if wire.carries == "signal":
        x = a.x + a.width / 2.0
        above = a.y < b.y
        start, end = (a.y + a.height, b.y) if above else (a.y, b.y + b.height)
        return [x, start, x, end], (_right(a) + 10.0, a.y + 18.0)
    if wire.carries == "load":
        x = a.x + 62.0 if a.id == "switch" else _right(a) + 40.0
        y = b.y + b.height / 2.0
        end = _right(b) if a.id == "switch" else b.x
        return [x, a.y + a.height if a.id == "switch" else y, x, y, end, y], (b.x, b.y + b.height + 14.0)
    if wire.carries == "balance":
        if b.id == "port":
            return [a.x + 40.0, a.y + a.height, a.x + 40.0, b.y], (a.x + 46.0, (a.y + a.height + b.y) / 2.0)
        x, y = a.x + a.width - 30.0, a.y + a.height + (40.0 if b.y < a.y + a.height else 120.0)
        if b.y < a.y + a.height:
            into = b.x + 30.0
            return [x, a.y + a.height, x, y, into, y, into, b.y + b.height], (x + 12.0, y + 16.0)
        return [x, a.y + a.height, x, y, b.x, y], (x + 12.0, y + 16.0)
    return _charging(build, wire, a, b)


def _charging(build: Build, wire: Wire, a: Box, b: Box) -> tuple[list[float], tuple[float, float]]:
    if wire.carries == "charge_plus":
        x = b.x + 24.0
        return [x, a.y, x, b.y + b.height], (x + 8.0, b.y + b.height + 174.0)
    if wire.id == "charge-board":
        x = b.x + b.width - 60.0
        return [a.x, a.y + 24.0, x, a.y + 24.0, x, b.y + b.height], (x + 42.0, a.y - 4.0)
    if b.id == "protection":
        x = b.x + b.width / 2.0
        return [_right(a), a.y + 30.0, x, a.y + 30.0, x, b.y + b.height], (_right(a) + 12.0, a.y + 50.0)
    x = b.x + b.width - 24.0
    return [x, a.y, x, b.y + b.height], (x + 8.0, b.y + b.height + 110.0)


def _number(id: str) -> int:
    return int(id.partition("-")[2] or 1)


def _words(build: Build, all_wires: Sequence[Wire]) -> str:
    if not all_wires:
        return "No wiring yet."
    said = ["The path of the current from the pack to the motors."]
    if round_the_board(build):
        said.append("The drive current bypasses the BMS, straight from the pack.")
    said += [
        f"{w.id.replace('-', ' ').capitalize()}: {w.start.replace('-', ' ')} to {w.end.replace('-', ' ')}, {w.awg:g} AWG, "
        f"{w.current_a:.3g} A, {w.length_mm:.0f} mm."
        for w in all_wires
    ]
    return " ".join(said)


def _stripe(width: float, ink: bool = True, *dash: float) -> Stripe:
    return Stripe(width=width, ink=ink, dash=list(dash))


STRIPES: dict[Stroke, list[Stripe]] = {
    "thick": [_stripe(5.0)],
    "hollow": [_stripe(5.0), _stripe(2.6, False)],
    "three": [_stripe(6.0), _stripe(3.6, False), _stripe(1.2)],
    "thin": [_stripe(2.0)],
    "thin_hollow": [_stripe(3.0), _stripe(1.2, False)],
    "dotted": [_stripe(1.6, True, 1.5, 4.0)],
    "dashed": [_stripe(1.4, True, 7.0, 4.0)],
}
"""How each kind of line is drawn, on every paper and screen."""


def svg(drawn: Diagram) -> str:
    """The drawing as a file: black on white, fonts that every viewer has."""
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {drawn.width:g} {drawn.height:g}" '
        f'width="{drawn.width:g}" height="{drawn.height:g}" font-family="sans-serif" font-size="12">',
        f"<title>Wiring</title><desc>{escape(drawn.words)}</desc>",
        f'<rect width="{drawn.width:g}" height="{drawn.height:g}" fill="#fff"/>',
    ]
    for line in drawn.lines:
        points = " ".join(f"{x:g},{y:g}" for x, y in pairs(line.points))
        for stripe in line.stripes:
            dash = f' stroke-dasharray="{" ".join(f"{d:g}" for d in stripe.dash)}"' if stripe.dash else ""
            tone = "#000" if stripe.ink else "#fff"
            out.append(
                f'<polyline points="{points}" fill="none" stroke="{tone}" stroke-width="{stripe.width:g}"{dash}/>'
            )
    for box in drawn.boxes:
        out.append(
            f'<rect x="{box.x:g}" y="{box.y:g}" width="{box.width:g}" height="{box.height:g}" fill="#fff" stroke="#000" '
            f'stroke-width="1.4" rx="2" id={quoteattr(box.id)}/>'
        )
        out.append(
            f'<text x="{box.x + 8:g}" y="{box.y + 18:g}" font-weight="bold" font-size="13">{escape(box.title)}</text>'
        )
        out += [
            f'<text x="{box.x + 8:g}" y="{box.y + 34 + 15 * i:g}">{escape(text)}</text>'
            for i, text in enumerate(box.lines)
        ]
    for sign in drawn.signs:
        out.append(f'<text x="{sign.x:g}" y="{sign.y:g}" font-size="20" font-weight="bold">{sign.text}</text>')
    for line in drawn.lines:
        out += [
            f'<text x="{line.at[0]:g}" y="{line.at[1] + 14 * i:g}" paint-order="stroke" stroke="#fff" stroke-width="3">'
            f"{escape(text)}</text>"
            for i, text in enumerate(line.label)
        ]
    return "".join([*out, "</svg>"])


def pairs(points: Sequence[float]) -> list[tuple[float, float]]:
    """x, y in turn as points."""
    return list(zip(points[::2], points[1::2], strict=True))
