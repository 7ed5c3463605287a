"""What joins the groups: the cells as they lie, and between each two groups the strip or wire with the current that it bears."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import dist, inf

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.once import once_for_variations
from boardmath.buildfile.pack_assembly import PackPlan, Strip
from boardmath.geometry.cell_layout import CELL_SIZES, Item, stow_cells
from boardmath.geometry.enclosures import Contents, EnclosureName, order_of_groups, stowed
from boardmath.messages import Message, message
from boardmath.model.cell_groups import plan_of
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import cell_rating
from boardmath.model.limits import PackCurrent, pack_current_limits, possible_pack_current
from boardmath.physics import strip as strips
from boardmath.physics import wire

TOUCHING = 1.15
"""Middles of cells that touch lie at most so many of their diameters apart."""
STRIP_WIDTH, STRIP_THICKNESS = 8.0, 0.15
"""mm of the strip that most blocks are welded with (common practice, no source)."""
FREE_WIDTH = 170.0
"""mm across of a block for which no box says how wide it may be."""
JUMPER_SLACK = 40.0
"""mm by which a wire between two banks is longer than the way (from memory: bends and its two tinned ends)."""


@dataclass(frozen=True)
class Laid:
    """The cells of one box, or of a block without one. ``inside`` says what does not go in, where there is a box."""

    items: list[Item]
    inner: tuple[float, float, float]
    box: EnclosureName | None
    needed: float
    spread: bool
    inside: Contents | None = None


@once_for_variations
def laid(build: Build) -> list[Laid]:
    """Where the cells lie, box by box; empty for bricks, and while size or count are not known."""
    pack = build.parts.pack
    if pack is None or pack.series is None or not of_cells(pack):
        return []
    found = []
    for boxed, inside in stowed(build):
        cells = [i for i in inside.items if i.group is not None]
        if boxed.holds in ("all", "pack") and (cells or not inside.fits):
            found.append(Laid(cells, inside.inner, boxed.name, inside.needed_length, _spread(cells), inside))
    if found:
        return found
    cell = CELL_SIZES[(pack.cell or Cell()).size or ""]
    plan = plan_of(build)
    layers = plan.layers or 1
    inner = (inf, FREE_WIDTH, cell[1] if plan.lie == "standing" else cell[0] * layers)
    stowed_free = stow_cells(pack, plan, order_of_groups(build), inner, 0.0)
    if isinstance(stowed_free, str):
        return []
    items, needed = stowed_free
    return [Laid(items, (needed, inner[1], inner[2]), None, needed, _spread(items))]


def of_cells(pack: Pack) -> bool:
    """Whether a pack is a block of cells whose size is known, and no bricks."""
    return pack.layout != "bricks" and (pack.cell or Cell()).size in CELL_SIZES


def _spread(items: Sequence[Item]) -> bool:
    return any(len({i.bank for i in items if i.group == g}) > 1 for g in {i.group for i in items})


@dataclass(frozen=True)
class Link:
    """What joins two groups in series; ``strips`` is how many lie side by side and on each other, 0 for a wire of ``awg``.

    ``current`` A at the limit, ``bears`` A of it, ``bears_long`` A of what a ride takes on the average. ``length`` m over which
    the whole current runs, ``laid`` m of strip or wire in it, ``free`` m of a strip between two welds.
    """

    between: tuple[int, int]
    strips: int
    material: Strip
    section_mm2: float
    current: float
    bears: float
    bears_long: float
    length: float
    laid: float
    resistance: float
    awg: float | None = None
    half: bool = False
    """Made last: it joins the two halves."""
    strip_mm: tuple[float, float] = (STRIP_WIDTH, STRIP_THICKNESS)
    free: float = 0.0

    @property
    def holds(self) -> bool:
        """Whether it bears the largest current, which warms a strip within seconds."""
        return self.current <= self.bears

    def loss(self, current: float) -> float:
        """W with a current of so many A."""
        return current**2 * self.resistance

    def rise(self, current: float) -> float:
        """K over the cells with a current of so many A, in the long run; a wire's over the air around it."""
        if self.awg is not None:
            return wire.BORNE_RISE * (current / wire.ampacity(self.awg)) ** 2
        width, thickness = (x / 1000.0 for x in self.strip_mm)
        return strips.rise(self.material, width, thickness, current / self.strips, self.free)

    @property
    def rule_a(self) -> float | None:
        """A by the rule of thumb for strips of this size, which takes them as lying in still air; None for a wire."""
        if self.awg is not None:
            return None
        width, thickness = (x / 1000.0 for x in self.strip_mm)
        return self.strips * strips.ampacity(self.material, width, thickness)


STATED = {
    "settings.pack_current_a": "the pack current that is set",
    "parts.controller.max_pack_current_a": "the controller's largest pack current",
    "parts.pack.protection.max_discharge_a": "the BMS's rating",
}
"""Limits of the pack's current in words, by field."""


def drive_current(build: Build) -> PackCurrent:
    """A that can flow out of the pack, by which wires, links, fuses and plugs are sized; and the field that sets it.

    The lowest stated limit; without one what controller, motors and pack can make flow, never what cells ought to bear. Before a
    controller is chosen the cells' rating stands in for it.
    """
    limits = pack_current_limits(build)
    if limits:
        field = min(limits, key=lambda f: limits[f])
        return PackCurrent(limits[field], field, STATED[field], stated=True)
    possible = possible_pack_current(build)
    if possible is not None:
        return possible
    pack = build.parts.pack or Pack()
    rated = cell_rating(pack).value * (pack.parallel or 1)
    return PackCurrent(rated, "parts.pack.cell.max_discharge_a", "the cells' rating, as no controller is chosen yet")


def sized_for(build: Build) -> Message:
    """The current by which wires, links, fuse and plugs are sized, and where it comes from."""
    current = drive_current(build)
    if current.stated:
        return message("Sized for {current}: {reason}.", current=(current.current, "current"), reason=current.reason)
    return message(
        "No limit is stated: sized for the {current} that can flow ({reason}).",
        current=(current.current, "current"),
        reason=current.reason,
    )


def strip_size(plan: PackPlan) -> tuple[float, float]:
    """Width and thickness of the strip in mm, as planned or as most are."""
    return plan.strip_width_mm or STRIP_WIDTH, plan.strip_thickness_mm or STRIP_THICKNESS


@once_for_variations
def links(build: Build) -> list[Link]:
    """The links of a block, from the pack's negative end up; empty where no cells lie."""
    pack, plan = build.parts.pack, plan_of(build)
    items = [i for part in laid(build) for i in part.items]
    if pack is None or pack.series is None or not items:
        return []
    boxes_of = {i.group: part.box for part in laid(build) for i in part.items}
    current = drive_current(build).current
    found = []
    for low in range(1, pack.series):
        lower, upper = ([i for i in items if i.group == g] for g in (low, low + 1))
        if not lower or not upper:
            continue
        across = _touching(lower, upper) if boxes_of[low] == boxes_of[low + 1] else 0
        half = bool(plan.halves) and low == pack.series // 2
        found.append(_link(build, plan, (low, low + 1), lower, upper, across, current, half))
    return found


def _touching(lower: Sequence[Item], upper: Sequence[Item]) -> int:
    """How many pairs of neighbours join two groups whose ends lie in one plane."""
    if {i.bank for i in lower} != {i.bank for i in upper} or len({i.bank for i in lower}) > 1:
        return 0
    step = TOUCHING * min(lower[0].x[1] - lower[0].x[0], lower[0].y[1] - lower[0].y[0], lower[0].z[1] - lower[0].z[0])
    return sum(dist(a.middle, b.middle) <= step for a in lower for b in upper)


def _middle(items: Sequence[Item]) -> tuple[float, float, float]:
    x, y, z = zip(*(i.middle for i in items), strict=True)
    return sum(x) / len(x), sum(y) / len(y), sum(z) / len(z)


def _link(
    build: Build,
    plan: PackPlan,
    between: tuple[int, int],
    lower: Sequence[Item],
    upper: Sequence[Item],
    across: int,
    current: float,
    half: bool,
) -> Link:
    apart = dist(_middle(lower), _middle(upper))
    if not across or half:
        awg = (build.parts.wiring.awg if build.parts.wiring else None) or USUAL["wiring.awg"]
        long = (apart + JUMPER_SLACK) / 1000.0
        bears = wire.ampacity(awg)
        return Link(
            between,
            0,
            "copper",
            1e6 * wire.section(awg),
            current,
            bears,
            bears,
            long,
            long,
            wire.resistance(awg, long),
            awg,
            half,
        )
    material = plan.strip or "nickel"
    width, thickness = strip_size(plan)
    count = across * (plan.strip_layers or 1) + (plan.bridges or 0)
    # Each group's cells give their current to the strip evenly, which loses a third of what the whole current would along it.
    pitch = min(dist(a.middle, b.middle) for a in lower for b in upper) / 1000.0
    long = pitch + 2.0 / 3.0 * max(apart / 1000.0 - pitch, 0.0)
    one = strips.resistance(material, width / 1000.0, thickness / 1000.0, long)
    free = pitch - strips.WELDED
    return Link(
        between,
        count,
        material,
        count * width * thickness,
        current,
        count * _bears(material, width, thickness, free),
        count * _bears(material, width, thickness, free, strips.RISE_ON_A_RIDE),
        long,
        count * (apart + pitch * 1000.0) / 1000.0 + (len(lower) - 1) * pitch,
        one / count,
        strip_mm=(width, thickness),
        free=free,
    )


def _bears(
    material: Strip, width: float, thickness: float, free: float, kelvin: float = strips.RISE_AT_THE_LIMIT
) -> float:
    """A that one strip of so many mm bears between two welds."""
    return strips.ampacity(material, width / 1000.0, thickness / 1000.0, free, kelvin)


def strip_mass(build: Build) -> float:
    """g of strip and wire in the links, the pieces along each group with them."""
    plan = plan_of(build)
    width, thickness = (x / 1000.0 for x in strip_size(plan))
    total = 0.0
    for link in links(build):
        if link.awg is None:
            total += strips.mass(link.material, width, thickness, link.laid)
        else:
            total += strips.DENSITY["copper"] * wire.section(link.awg) * link.laid
    return 1000.0 * total


def needed_strips(link: Link, material: Strip) -> int:
    """How many strips of the link's size and a material would bear its current; 0 where a wire has to join."""
    if link.awg is not None:
        return 0
    return max(int(-(-link.current // _bears(material, *link.strip_mm, link.free))), 1)
