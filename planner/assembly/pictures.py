"""Drawings of single steps, to scale, from the build and from what was measured."""

from collections.abc import Sequence

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import once_a_build
from boardmath.geometry.fasteners import Through
from boardmath.geometry.shapes import View
from boardmath.geometry.transmission import belt_path
from boardmath.geometry.views.view import draw
from boardmath.model.defaults import USUAL
from planner.enclosure.foam import layers
from planner.enclosure.plan import FOAM_LAYER
from planner.shared.picture import Ink, Label, Mark, Picture, box, line

_INKS: dict[str, Ink] = {"deck": "wood", "risers": "rubber", "plates": "metal", "baseplate": "metal", "nut": "copper"}
LARGER = 5.0
"""How much larger than it is a gap of the belt line is drawn."""


def bolt_picture(through: Through) -> Picture:
    """A truck bolt through its layers, with what each takes."""
    marks: list[Mark] = []
    labels: list[Label] = []
    y, half = 0.0, 34.0
    for name, thick in through.layers:
        wide = 9.0 if name == "nut" else half if name in ("deck", "risers") else 24.0
        marks.append(box(_INKS[name], -wide, y - thick, wide, y))
        labels.append(
            Label(x=half + 4.0, y=y - thick / 2.0 - 1.2, text=_LAYER[name], value=round(thick, 1), quantity="length")
        )
        y -= thick
    marks.append(box("line", -2.5, -through.length, 2.5, 0.0))
    marks.append(Mark(ink="line", points=[(-5.0, 0.0), (5.0, 0.0), (2.5, -2.8), (-2.5, -2.8)]))
    labels.append(Label(x=-half - 4.0, y=-through.length / 2.0, text=through.size, anchor="end"))
    marks.append(line("axis", (-half - 2.0, 0.0), (-half - 2.0, -through.length)))
    said = ", ".join(f"{_LAYER[name]} {thick:g} mm" for name, thick in through.layers)
    return Picture(
        left=-half - 34.0,
        right=half + 72.0,
        bottom=min(y, -through.length) - 3.0,
        top=5.0,
        marks=marks,
        labels=labels,
        words=f"A bolt through {said}: {through.needed:g} mm, so {through.size}.",
    )


_LAYER = {"deck": "deck", "risers": "riser", "plates": "plate", "baseplate": "baseplate", "nut": "nut, two threads"}


def belt_line_picture(
    build: Build, near: float | None = None, far: float | None = None, ink: Ink = "line"
) -> Picture | None:
    """Both pulleys from above and the straight edge on the wheel's; gaps larger than they are, in the verdict's ink."""
    path = belt_path(build)
    if path is None:
        return None
    drive = build.parts.drive
    wide = min((drive.belt_width_mm if drive else None) or USUAL["drive.belt_width_mm"], 25.0)
    known = near is not None and far is not None
    a, z = (near or 0.0) * LARGER, (far or 0.0) * LARGER
    small, large, x = path.small, path.large, path.distance
    motor = Mark(ink="metal", points=[(-small, -a), (small, -z), (small, -z - wide), (-small, -a - wide)])
    marks = [
        box("copper", x - large, -wide, x + large, 0.0),
        motor,
        Mark(
            ink="rubber",
            points=[
                (0.0, -(a + z) / 2.0 - 0.2 * wide),
                (x, -0.2 * wide),
                (x, -0.8 * wide),
                (0.0, -(a + z) / 2.0 - 0.8 * wide),
            ],
        ),
        line("axis", (-small - 14.0, 0.0), (x + large + 8.0, 0.0)),
    ]
    labels = [
        Label(
            x=x,
            y=-wide - 8.0,
            text=f"wheel {drive.wheel_teeth if drive and drive.wheel_teeth else ''}",
            anchor="middle",
        ),
        Label(
            x=0.0,
            y=min(-a, -z) - wide - 8.0,
            text=f"motor {drive.motor_teeth if drive and drive.motor_teeth else ''}",
            anchor="middle",
        ),
        Label(x=x + large, y=3.0, text="straight edge", anchor="end"),
    ]
    if known:
        marks += [line(ink, (-small, 0.0), (-small, -a)), line(ink, (small, 0.0), (small, -z))]
        labels += [
            Label(x=-small - 2.0, y=3.0, text="", value=near, quantity="length", anchor="end"),
            Label(x=small + 2.0, y=3.0, text="", value=far, quantity="length"),
        ]
    words = "Seen from above: a straight edge on the wheel pulley’s face reaches past the motor pulley."
    if known:
        words += (
            f" The gap is {near:g} mm on the near side and {far:g} mm on the far side, drawn {LARGER:g} times larger."
        )
    return Picture(
        left=-small - 34.0,
        right=x + large + 10.0,
        bottom=min(-a, -z, 0.0) - wide - 12.0,
        top=max(0.0, -a, -z) + 10.0,
        marks=marks,
        labels=labels,
        words=words,
    )


def foam_picture(gaps: Sequence[tuple[float, float]]) -> Picture | None:
    """Gaps along the box's rim and the layers of foam that fill them; heights drawn larger."""
    if len(gaps) < 2:
        return None
    taller = 8.0
    step = (gaps[-1][0] - gaps[0][0]) / (len(gaps) - 1)
    left, right = gaps[0][0] - step / 2.0, gaps[-1][0] + step / 2.0
    marks: list[Mark] = []
    labels: list[Label] = []
    for x, gap in gaps:
        count = layers(gap)
        for n in range(count):
            marks.append(
                box("foam", x - step / 2.0, n * FOAM_LAYER * taller, x + step / 2.0, (n + 1) * FOAM_LAYER * taller)
            )
        labels.append(Label(x=x, y=-16.0, text=f"{count} x", anchor="middle"))
    under = [(x, (gap + FOAM_LAYER) * taller) for x, gap in gaps]
    marks.append(line("wood", (left, under[0][1]), *under, (right, under[-1][1])))
    marks.append(line("line", (left, 0.0), (right, 0.0)))
    top = max(y for _, y in under) + 10.0
    said = ", ".join(f"{layers(gap)} at {x:.0f} mm" for x, gap in gaps)
    return Picture(
        left=left - 4.0,
        right=right + 4.0,
        bottom=-24.0,
        top=max(top, 40.0),
        marks=marks,
        labels=labels,
        words=f"Layers of foam of {FOAM_LAYER:g} mm along the rim, from the nose: {said}.",
    )


_OF_PART: dict[str, Ink] = {
    "deck": "wood",
    "wheels": "rubber",
    "risers": "rubber",
    "trucks": "metal",
    "motors": "metal",
    "mount": "metal",
    "drive": "copper",
    "enclosure": "printed",
    "second_enclosure": "printed",
    "pack": "foam",
    "controller": "foam",
    "ground": "axis",
}


@once_a_build
def _seen(build: Build) -> dict[View, Picture]:
    """Views of a build that were drawn already: several steps look at it from one side."""
    return {}


def board_picture(build: Build, view: View) -> Picture:
    """The board itself in one of its views, as the drawings have it; where parts are in each other's place it is marked."""
    seen = _seen(build)
    if view not in seen:
        seen[view] = _board(build, view)
    return seen[view]


def _board(build: Build, view: View) -> Picture:
    drawn = draw(build, view)
    marks = [
        Mark(
            ink=_OF_PART.get(shape.part, "metal"),
            points=[(round(p.x, 1), round(p.y, 1)) for p in shape.points],
            radius=shape.radius,
            closed=shape.closed and shape.role not in ("inside", "turned"),
        )
        for shape in drawn.shapes
        if len(shape.points) > 1 or shape.radius is not None
    ]
    marks += [
        Mark(ink="wrong", points=[(round(p.x, 1), round(p.y, 1)) for p in clash.points])
        for clash in drawn.clashes
        if clash.points
    ]
    return Picture(
        left=drawn.left,
        right=drawn.right,
        bottom=drawn.bottom,
        top=drawn.top,
        marks=marks,
        labels=[],
        words=drawn.description,
    )
