"""The box as a solid, by constructive geometry (manifold3d), and out of it the files that printers read (trimesh)."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
import trimesh
from manifold3d import CrossSection, Manifold, Mesh
from shapely import Polygon, box

from planner.enclosure.plan import BOLT_HOLE, LAP, PLAY, RIM, EnclosurePlan, Hole

FileKind = Literal["stl", "3mf"]
ROUND = 32
"""Straight pieces to a circle."""
_FAR = 1000.0


@dataclass(frozen=True)
class Piece:
    """One piece to print, lying on its floor."""

    number: int
    mesh: trimesh.Trimesh

    @property
    def volume_cm3(self) -> float:
        return float(self.mesh.volume) / 1000.0

    @property
    def size(self) -> tuple[float, float, float]:
        low, high = self.mesh.bounds
        long, wide, high_ = (float(v) for v in high - low)
        return long, wide, high_


def outline(plan: EnclosurePlan, grown: float = 0.0) -> Polygon:
    """The box's footprint with its rounded edges, ``grown`` mm to every side."""
    return rounded(-grown, plan.length + grown, plan.width / 2.0 + grown, plan.corner + grown)


def cavity(plan: EnclosurePlan) -> Polygon:
    """The inside's footprint, square in its corners."""
    half = plan.width / 2.0 - plan.wall
    return box(plan.wall, -half, plan.length - plan.wall, half)


def rim_outline(plan: EnclosurePlan) -> Polygon:
    """The flange's footprint, with the box's own."""
    return rounded(-plan.ends, plan.length + plan.ends, plan.width / 2.0 + plan.sides, plan.corner + plan.ends)


def rounded(x0: float, x1: float, half: float, radius: float) -> Polygon:
    """A rectangle with rounded corners."""
    r = min(radius, (x1 - x0) / 2.0 - 0.5, half - 0.5)
    return box(x0 + r, -half + r, x1 - r, half - r).buffer(r, quad_segs=ROUND // 4)


def _extruded(area: Polygon, low: float, high: float) -> Manifold:
    points = np.array(area.exterior.coords)[:-1]
    return Manifold.extrude(CrossSection([points[::-1] if not area.exterior.is_ccw else points]), high - low).translate(
        (0.0, 0.0, low)
    )


def deck_solid(plan: EnclosurePlan, lowered: float = 0.0) -> Manifold:
    """The deck over the box: everything above its underside, ``lowered`` mm; a plane where the rim does not follow it."""
    if not plan.follows:
        return Manifold.cube((2.0 * _FAR, 2.0 * _FAR, _FAR)).translate((-_FAR, -_FAR, plan.depth - lowered))
    x = np.linspace(-plan.ends - 20.0, plan.length + plan.ends + 20.0, 33)
    half = plan.width / 2.0 + plan.sides + 20.0
    y = np.linspace(-half, half, 25)
    under = np.array([[plan.depth + plan.rise(a, b) - lowered for b in y] for a in x])
    return _under_a_ceiling(x, y, under)


def _under_a_ceiling(x: np.ndarray, y: np.ndarray, under: np.ndarray) -> Manifold:
    """The solid between a surface over a grid and a plane far above it."""
    columns, count = len(y), len(x) * len(y)
    grid = np.array([(a, b, under[i, j]) for i, a in enumerate(x) for j, b in enumerate(y)])
    ceiling = grid.copy()
    ceiling[:, 2] = _FAR
    quads = [(i * columns + j) for i in range(len(x) - 1) for j in range(columns - 1)]
    below = [t for q in quads for t in ((q, q + 1, q + columns), (q + 1, q + columns + 1, q + columns))]
    above = [(count + a, count + c, count + b) for a, b, c in below]
    edge = [
        *(range(columns)),
        *(range(2 * columns - 1, count, columns)),
        *(range(count - 2, count - columns - 1, -1)),
        *(range(count - 2 * columns, 0, -columns)),
    ]
    walls = [
        t
        for a, b in zip(edge, [*edge[1:], edge[0]], strict=True)
        for t in ((a, count + b, b), (a, count + a, count + b))
    ]
    faces = np.array([*below, *above, *walls], dtype=np.uint32)
    solid = Manifold(Mesh(vert_properties=np.vstack([grid, ceiling]).astype(np.float32), tri_verts=faces))
    if solid.volume() < 0.0 or solid.is_empty():
        faces = faces[:, ::-1].copy()
        solid = Manifold(Mesh(vert_properties=np.vstack([grid, ceiling]).astype(np.float32), tri_verts=faces))
    return solid


def enclosure_solid(plan: EnclosurePlan) -> Manifold:
    """The whole box: shell, rim, ribs, with its holes."""
    top = plan.depth + max(plan.rise(x, y) for x in plan.x for y in (0.0, plan.width / 2.0 + plan.sides)) + 1.0
    above = deck_solid(plan)
    shell = _extruded(outline(plan), 0.0, top) - _extruded(cavity(plan), plan.wall, top + 1.0)
    rim = (_extruded(rim_outline(plan), 0.0, top) ^ deck_solid(plan, RIM)) - _extruded(cavity(plan), -1.0, top + 1.0)
    solid = shell + rim
    for rib in _ribs(plan, top):
        solid += rib
    solid -= above
    for x, y in plan.bolts:
        solid -= Manifold.cylinder(2.0 * _FAR, BOLT_HOLE / 2.0, circular_segments=ROUND).translate((x, y, -_FAR))
    for hole in plan.holes:
        solid -= _drilled(plan, hole)
    return solid


def _ribs(plan: EnclosurePlan, top: float) -> list[Manifold]:
    """Gussets under the rim between the bolts, outside, where nothing in the box can touch them."""
    reach, drop = plan.sides - 2.0, min(2.0 * plan.sides, plan.depth - RIM - 2.0)
    found = []
    for x in plan.ribs:
        for side in (1.0, -1.0):
            foot = plan.width / 2.0 - plan.wall / 2.0
            low = plan.depth - RIM - drop
            # A triangle standing on the wall, up to whatever the rim follows.
            points = [(foot, low), (foot + plan.wall / 2.0, low), (foot + reach, top - 0.5), (foot, top - 0.5)]
            profile = CrossSection([np.array(points)]).extrude(plan.wall)
            turned = profile.rotate((90.0, 0.0, 90.0)).translate((x - plan.wall / 2.0, 0.0, 0.0))
            found.append(turned if side > 0 else turned.mirror((0.0, 1.0, 0.0)))
    return found


def _drilled(plan: EnclosurePlan, hole: Hole) -> Manifold:
    through = 6.0 * plan.wall
    pin = Manifold.cylinder(through, hole.diameter / 2.0, circular_segments=ROUND, center=True)
    if hole.wall == "side":
        return pin.rotate((90.0, 0.0, 0.0)).translate((hole.at, plan.width / 2.0 - plan.wall / 2.0, hole.up))
    x = plan.wall / 2.0 if hole.wall == "front" else plan.length - plan.wall / 2.0
    return pin.rotate((0.0, 90.0, 0.0)).translate((x, hole.at, hole.up))


def pieces(plan: EnclosurePlan) -> list[Piece]:
    """What is printed: the box whole, or its halves; the first one carries the lap outside, and the second goes into it."""
    whole = enclosure_solid(plan)
    if plan.split is None:
        return [Piece(1, _mesh(whole))]
    at = plan.split
    first = whole.trim_by_plane((-1.0, 0.0, 0.0), -at)
    second = whole.trim_by_plane((1.0, 0.0, 0.0), at)
    high = plan.depth - RIM
    around = _extruded(outline(plan, plan.wall), 0.0, high)
    band = around - _extruded(outline(plan, PLAY), -1.0, high + 1.0)
    joined = around - _extruded(outline(plan), -1.0, high + 1.0)
    # Along the walls, outside: over the second half with play, over the first grown onto it. The floors meet edge to edge, so
    # that both lie flat on the printer's bed.
    lap = band.trim_by_plane((1.0, 0.0, 0.0), at).trim_by_plane((-1.0, 0.0, 0.0), -(at + LAP))
    root = joined.trim_by_plane((1.0, 0.0, 0.0), at - LAP).trim_by_plane((-1.0, 0.0, 0.0), -at)
    return [Piece(1, _mesh(first + lap + root)), Piece(2, _mesh(second))]


def _mesh(solid: Manifold) -> trimesh.Trimesh:
    made = solid.to_mesh()
    return trimesh.Trimesh(vertices=made.vert_properties[:, :3].astype(float), faces=made.tri_verts, process=False)


def written(piece: Piece, kind: FileKind) -> bytes:
    """A piece as a file, in mm."""
    mesh = piece.mesh.copy()
    mesh.units = "mm"
    data = mesh.export(file_type=kind)
    return data if isinstance(data, bytes) else str(data).encode()
