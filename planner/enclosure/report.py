"""Everything that is to be said of a box that is to be made."""

from typing import Literal

import numpy as np
import trimesh
from pydantic import BaseModel
from shapely.affinity import translate

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Enclosure
from boardmath.geometry.enclosures import CLEAR, EnclosureName, boxes, contents
from boardmath.geometry.stance import sag
from boardmath.geometry.views.underside import turned_wheels
from boardmath.messages import Message, message
from planner.enclosure.foam import FoamStrip, foam
from planner.enclosure.plan import FOAM_LAYER, CannotBeMade, EnclosurePlan, Made, enclosure_plan
from planner.enclosure.solid import Piece, pieces, rim_outline
from planner.enclosure.suggest import another, suggested

PRINTED_CM3_AN_HOUR = (15.0, 40.0)
"""Of plastic, by printers as hobbyists have them: slow and sure, and fast (from memory; boxes are said to take 12 hours)."""
WALLS_SOLID = (0.75, 1.0)
"""Share of the solid that is printed: walls as thin as a box's are nearly all shell (from memory)."""


class EnclosureHole(BaseModel):
    what: str
    wall: Literal["front", "rear", "side"]
    at_mm: float
    up_mm: float
    diameter_mm: float


class Spread(BaseModel):
    low: float
    high: float


class EnclosurePiece(BaseModel):
    """A piece to make: its size as it lies, how much of the material, g and hours of printing."""

    number: int
    length_mm: float
    width_mm: float
    height_mm: float
    volume_cm3: float
    mass_g: Spread
    hours: Spread | None = None


class Face(BaseModel):
    """A triangle of the picture: its corners seen from above at a slant, mm on the paper, and how light it is, 0 to 1."""

    points: list[float]
    light: float


class EnclosurePicture(BaseModel):
    """The pieces seen from above at a slant, back to front."""

    faces: list[Face]
    width: float
    height: float


class EnclosureReport(BaseModel):
    """A box as it is to be made; ``cannot`` says why there is none, and ``field`` where to change it."""

    which: EnclosureName
    cannot: Message | None = None
    field: str | None = None
    suggested: Enclosure | None = None
    """A box that would hold what is chosen, where this one does not or there is none."""
    second: Enclosure | None = None
    """A box to put beside the only one, to begin with."""
    made: Made = "printed"
    material: str = "petg"
    outer_mm: list[float] = []
    inner_mm: list[float] = []
    wall_mm: float = 0.0
    sides_mm: float = 0.0
    ends_mm: float = 0.0
    follows: bool = False
    bolts: list[list[float]] = []
    holes: list[EnclosureHole] = []
    ribs: list[float] = []
    pieces: list[EnclosurePiece] = []
    foam: list[FoamStrip] = []
    foam_layer_mm: float = FOAM_LAYER
    clearance_mm: float | None = None
    """Under it with the rider aboard; None of a box on the deck."""
    wheels_mm: float | None = None
    """From its rim to the wheels in a full turn."""
    left_mm: float | None = None
    """Of its inside length that nothing takes."""
    picture: EnclosurePicture | None = None
    remarks: list[Message] = []


def enclosure_reports(build: Build) -> list[EnclosureReport]:
    """Of every box that the build has, or of the one that it has not yet."""
    names: list[EnclosureName] = [b.name for b in boxes(build)] or ["enclosure"]
    second = another(build)
    return [enclosure_report(build, name).model_copy(update={"second": second}) for name in names]


def enclosure_report(build: Build, name: EnclosureName) -> EnclosureReport:
    """The box as it is to be made, with its picture."""
    try:
        plan = enclosure_plan(build, name)
    except CannotBeMade as error:
        better = suggested(build) if name == "enclosure" else None
        return EnclosureReport(which=name, cannot=error.message, field=error.field, suggested=better)
    made = pieces(plan)
    boxed = plan.boxed
    inside = contents(build, boxed)
    wheels = None if boxed.above else _to_wheels(build, plan)
    inner = (boxed.length - 2.0 * plan.wall, boxed.width - 2.0 * plan.wall, boxed.depth - plan.wall)
    return EnclosureReport(
        which=name,
        made=plan.made,
        material=plan.material,
        # A rim that follows the deck stands higher than the box is deep.
        outer_mm=[
            boxed.length + 2.0 * plan.ends,
            boxed.width + 2.0 * plan.sides,
            max(piece.size[2] for piece in made),
        ],
        inner_mm=list(inside.inner if inside else inner),
        wall_mm=plan.wall,
        sides_mm=plan.sides,
        ends_mm=plan.ends,
        follows=plan.follows,
        bolts=[list(b) for b in plan.bolts],
        holes=[
            EnclosureHole(what=h.what, wall=h.wall, at_mm=h.at, up_mm=h.up, diameter_mm=h.diameter) for h in plan.holes
        ],
        ribs=plan.ribs,
        pieces=[_piece(plan, p) for p in made],
        foam=foam(plan),
        clearance_mm=None if boxed.above else boxed.face - boxed.depth - sag(build),
        wheels_mm=wheels,
        left_mm=inside.inner[0] - inside.needed_length if inside else None,
        picture=picture(made),
        remarks=[*_remarks(plan), *_near_a_wheel(wheels)],
    )


def _near_a_wheel(wheels: float | None) -> list[Message]:
    if wheels is None or wheels >= CLEAR:
        return []
    return [
        message(
            "The rim comes within {near} of a wheel in a full turn; {least} is the usual minimum. Use a narrower "
            "rim or a shorter enclosure.",
            near=(wheels, "length"),
            least=(CLEAR, "length"),
        )
    ]


def _piece(plan: EnclosurePlan, piece: Piece) -> EnclosurePiece:
    long, wide, high = piece.size
    light, heavy = (piece.volume_cm3 * plan.density * share for share in WALLS_SOLID)
    slow, fast = PRINTED_CM3_AN_HOUR
    hours = Spread(low=WALLS_SOLID[0] * piece.volume_cm3 / fast, high=piece.volume_cm3 / slow)
    return EnclosurePiece(
        number=piece.number,
        length_mm=long,
        width_mm=wide,
        height_mm=high,
        volume_cm3=piece.volume_cm3,
        mass_g=Spread(low=light if plan.made == "printed" else heavy, high=heavy),
        hours=hours if plan.made == "printed" else None,
    )


def _to_wheels(build: Build, plan: EnclosurePlan) -> float:
    """mm from the rim, as it lies under the deck, to the nearest wheel in a full turn."""
    rim = translate(rim_outline(plan), plan.boxed.span[0])
    return min(float(rim.distance(shape.area)) for shape in turned_wheels(build))


_MADE_WORDS: dict[Made, str] = {
    "printed": (
        "Print it floor down, without supports: ribs hold the underside of the rim. Three walls, the seam in a corner."
    ),
    "laminated": (
        "Laid up over a mould: the solid is the shape of the mould. Gloves, fresh air, and a mask when you sand it."
    ),
    "cut": "Cut flat, then fold or join it along the dashed lines. Try it in card first.",
}


def _remarks(plan: EnclosurePlan) -> list[Message]:
    found = [message(_MADE_WORDS[plan.made])]
    if plan.ends < LEAST_END:
        found.append(
            message(
                (
                    "Only {ends} of rim are left at its ends, so it is screwed along its sides alone; foam seals the "
                    "ends."
                )
                if plan.ends >= 0.5
                else "No rim is left at its ends, so it is screwed along its sides alone; foam seals the ends.",
                **({"ends": (plan.ends, "length")} if plan.ends >= 0.5 else {}),
            )
        )
    if plan.split is not None:
        found.append(
            message(
                "In two halves that overlap: glue them, and tape over the seam in the floor inside before "
                "anything goes in."
            )
        )
    if plan.material == "sheet":
        found.append(
            message(
                "Metal under cells and wires: line it with fish paper, and round off every edge that a wire crosses."
            )
        )
    return found


LEAST_END = 4.0
"""mm of rim that still bears on foam (from memory)."""

PICTURE_FACE = 60.0
"""mm, longest edge of a face of the picture."""
_ASIDE, _ABOVE = np.radians(32.0), np.radians(38.0)


def picture(made: list[Piece]) -> EnclosurePicture:
    """The pieces beside each other, seen into from above at a slant; nearer faces are drawn later."""
    turn = np.array([[np.cos(_ASIDE), np.sin(_ASIDE), 0.0], [-np.sin(_ASIDE), np.cos(_ASIDE), 0.0], [0.0, 0.0, 1.0]])
    tilt = np.array([[1.0, 0.0, 0.0], [0.0, np.sin(_ABOVE), np.cos(_ABOVE)], [0.0, -np.cos(_ABOVE), np.sin(_ABOVE)]])
    view = tilt @ turn
    corners, lights, depths = [], [], []
    for i, piece in enumerate(made):
        # In small pieces: what is long would lie before and behind something at once.
        corners_of, faces = trimesh.remesh.subdivide_to_size(piece.mesh.vertices, piece.mesh.faces, PICTURE_FACE)[:2]  # type: ignore[no-untyped-call]
        mesh = trimesh.Trimesh(corners_of, faces, process=False)
        shifted = mesh.triangles + np.array([30.0 * i, 0.0, 0.0])
        seen = shifted @ view.T
        normals = mesh.face_normals @ view.T
        facing = normals[:, 2] > 1e-6
        corners.append(seen[facing][:, :, :2])
        depths.append(seen[facing][:, :, 2].mean(axis=1))
        lights.append(np.clip(0.35 + 0.65 * (mesh.face_normals[facing] @ _LAMP), 0.0, 1.0))
    points, light, depth = np.concatenate(corners), np.concatenate(lights), np.concatenate(depths)
    low, high = points.reshape(-1, 2).min(axis=0), points.reshape(-1, 2).max(axis=0)
    order = np.argsort(depth)
    return EnclosurePicture(
        width=float(high[0] - low[0]),
        height=float(high[1] - low[1]),
        faces=[
            Face(
                points=[round(float(v), 1) for x, y in points[i] for v in (x - low[0], high[1] - y)],
                light=round(float(light[i]), 2),
            )
            for i in order
        ],
    )


_LAMP = np.array([-0.35, -0.45, 0.82])
