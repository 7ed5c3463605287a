"""The box as a flat pattern: what is cut and folded from sheet, cut from wood, or laid under as a drilling pattern (ezdxf)."""

from io import StringIO
from math import pi
from typing import Literal

from ezdxf.addons.drawing.config import BackgroundPolicy, ColorPolicy, Configuration
from ezdxf.addons.drawing.frontend import Frontend
from ezdxf.addons.drawing.layout import Margins, Page, Settings, Units
from ezdxf.addons.drawing.properties import RenderContext
from ezdxf.addons.drawing.svg import SVGBackend
from ezdxf.document import Drawing
from ezdxf.enums import InsertUnits
from ezdxf.filemanagement import new
from ezdxf.layouts.layout import Modelspace
from shapely import Polygon, unary_union
from shapely import box as rectangle

from planner.enclosure.plan import BOLT_HOLE, EnclosurePlan, Hole
from planner.enclosure.solid import rim_outline

FlatKind = Literal["dxf", "svg"]
K_FACTOR = 0.42
"""Where in a sheet's thickness a fold neither stretches nor shortens it, soft aluminium over its own thickness (from memory)."""
CUT, FOLD, DRILL = "CUT", "FOLD", "DRILL"


def bend_deduction(thickness: float, radius: float) -> float:
    """mm by which a flat pattern is shorter than the two outside lengths of a right-angled fold (the usual formula)."""
    return 2.0 * (radius + thickness) - pi / 2.0 * (radius + K_FACTOR * thickness)


def net(plan: EnclosurePlan) -> tuple[Polygon, list[tuple[tuple[float, float], tuple[float, float]]]]:
    """The outline of the unfolded box, its floor in the middle, and its fold lines; mm.

    The walls fold up from the floor and the rims out from the walls; each fold takes its deduction.
    """
    less = bend_deduction(plan.wall, plan.wall)
    half_l, half_w = plan.length / 2.0 - less / 2.0, plan.width / 2.0 - less / 2.0
    high = plan.depth - less
    rim, end_rim = plan.sides - less / 2.0, max(plan.ends - less / 2.0, 0.0)
    # An end without a rim has one fold, and keeps half a deduction.
    end_high = high if end_rim > 0.0 else plan.depth - less / 2.0
    floor = rectangle(-half_l, -half_w, half_l, half_w)
    long_walls = [
        rectangle(-half_l, half_w, half_l, half_w + high),
        rectangle(-half_l, -half_w - high, half_l, -half_w),
    ]
    end_walls = [
        rectangle(half_l, -half_w, half_l + end_high, half_w),
        rectangle(-half_l - end_high, -half_w, -half_l, half_w),
    ]
    rims = [
        rectangle(-half_l, half_w + high, half_l, half_w + high + rim),
        rectangle(-half_l, -half_w - high - rim, half_l, -half_w - high),
    ]
    if end_rim > 0.0:
        rims += [
            rectangle(half_l + high, -half_w, half_l + high + end_rim, half_w),
            rectangle(-half_l - high - end_rim, -half_w, -half_l - high, half_w),
        ]
    folds = [
        *(((-half_l, s * y), (half_l, s * y)) for s in (1.0, -1.0) for y in (half_w, half_w + high)),
        *(
            ((s * x, -half_w), (s * x, half_w))
            for s in (1.0, -1.0)
            for x in ((half_l, half_l + high) if end_rim > 0.0 else (half_l,))
        ),
    ]
    return unary_union([floor, *long_walls, *end_walls, *rims]), folds


def flat_pattern(plan: EnclosurePlan) -> Drawing:
    """The net on layers CUT, FOLD and DRILL, in mm."""
    document = _document()
    space = document.modelspace()
    outline, folds = net(plan)
    _closed(space, list(outline.exterior.coords)[:-1], CUT)
    for start, end in folds:
        space.add_line(start, end, dxfattribs={"layer": FOLD})
    less = bend_deduction(plan.wall, plan.wall)
    half_l, half_w, high = plan.length / 2.0 - less / 2.0, plan.width / 2.0 - less / 2.0, plan.depth - less
    shrink = half_l / (plan.length / 2.0)
    for x, y in plan.bolts:
        across = half_w + high + plan.sides / 2.0
        space.add_circle(
            ((x - plan.length / 2.0) * shrink, across if y > 0.0 else -across),
            BOLT_HOLE / 2.0,
            dxfattribs={"layer": DRILL},
        )
    for hole in plan.holes:
        space.add_circle(_in_the_net(plan, hole, half_l, half_w), hole.diameter / 2.0, dxfattribs={"layer": DRILL})
    return document


def _in_the_net(plan: EnclosurePlan, hole: Hole, half_l: float, half_w: float) -> tuple[float, float]:
    if hole.wall == "side":
        return hole.at - plan.length / 2.0, half_w + hole.up
    out = half_l + hole.up
    return (out if hole.wall == "rear" else -out), hole.at


def drilling(plan: EnclosurePlan) -> Drawing:
    """The rim as it lies on the deck: its outline, the inside, and where to drill; mm from the box's front end."""
    document = _document()
    space = document.modelspace()
    _closed(space, list(rim_outline(plan).exterior.coords)[:-1], CUT)
    inner = rectangle(plan.wall, -plan.width / 2.0 + plan.wall, plan.length - plan.wall, plan.width / 2.0 - plan.wall)
    _closed(space, list(inner.exterior.coords)[:-1], CUT)
    for x, y in plan.bolts:
        space.add_circle((x, y), BOLT_HOLE / 2.0, dxfattribs={"layer": DRILL})
    return document


def _document() -> Drawing:
    document = new("R2010", setup=True)
    document.units = InsertUnits.Millimeters
    for layer, colour in ((CUT, 7), (FOLD, 5), (DRILL, 1)):
        document.layers.add(layer, color=colour)
    document.layers.get(FOLD).dxf.linetype = "DASHED"
    return document


def _closed(space: Modelspace, points: list[tuple[float, ...]], layer: str) -> None:
    space.add_lwpolyline([(p[0], p[1]) for p in points], close=True, dxfattribs={"layer": layer})


def written(document: Drawing, kind: FlatKind) -> bytes:
    """The pattern as a file, at 1:1."""
    if kind == "dxf":
        file = StringIO()
        document.write(file)
        return file.getvalue().encode()
    backend = SVGBackend()
    looks = Configuration(background_policy=BackgroundPolicy.WHITE, color_policy=ColorPolicy.BLACK)
    Frontend(RenderContext(document), backend, config=looks).draw_layout(document.modelspace())
    page = Page(0, 0, Units.mm, margins=Margins.all(10))
    return backend.get_string(page, settings=Settings(fit_page=False)).encode()
