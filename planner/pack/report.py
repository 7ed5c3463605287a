"""The plan of a pack: cells to scale with group and polarity, links with what they bear, insulation, the order of the work."""

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from boardmath.battery.bought_pack import bought_pack
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.pack_assembly import Strip
from boardmath.checks.finding import Finding
from boardmath.checks.pack_making import groups_spread, strip_current, strip_heat_at, strip_rule
from boardmath.geometry.cell_layout import CELL_SIZES, Axis
from boardmath.geometry.cell_links import (
    Laid,
    Link,
    drive_current,
    laid,
    links,
    needed_strips,
    of_cells,
    sized_for,
    strip_mass,
    strip_size,
)
from boardmath.geometry.enclosures import EnclosureName, brick_size
from boardmath.messages import Message, message
from boardmath.model.bricks import brick_sets, cells_of_bricks
from boardmath.model.cell_groups import LINE_UP_V, plan_of
from boardmath.model.evaluation import evaluate
from boardmath.model.inputs import cell_voltages, full_voltage, marked
from boardmath.physics.strip import RISE_AT_THE_LIMIT
from planner.pack.work import InsulationStep, WorkStep, insulation, work_of_bricks, work_of_cells

ONE_KIND: tuple[Strip, ...] = ("nickel", "copper", "steel")


class PlacedCell(BaseModel):
    """A cell in its place, mm: along the box from its inner end, across from its middle, down from the deck.

    ``turned``: its positive end looks to the smaller coordinate. ``out`` where it reaches out of what there is.
    """

    group: int
    x: list[float]
    y: list[float]
    z: list[float]
    axis: Axis
    turned: bool
    out: bool


class AlsoInEnclosure(BaseModel):
    """What else is in the box, as the drawings have it."""

    what: str
    x: list[float]
    y: list[float]
    z: list[float]


class Block(BaseModel):
    """The cells of one box, with the box's inside in mm; ``box`` is None for a block that no box is chosen for.

    ``needed_mm`` is what all in the box takes of its length, ``block_mm`` what the cells take.
    """

    box: EnclosureName | None
    inner: list[float]
    cells: list[PlacedCell]
    beside: list[AlsoInEnclosure] = []
    needed_mm: float
    block_mm: float
    left_mm: float | None
    spread: bool
    cannot: Message | None = None


class PackLink(BaseModel):
    """What joins two groups. ``strips`` 0 for a wire; ``would_bear`` says how many strips of each kind bear the current.

    ``bears_a`` of the largest current, ``bears_long_a`` of what a ride takes on the average; loss and volts at the largest.
    """

    between: list[int]
    strips: int
    material: Strip
    awg: float | None = None
    section_mm2: float
    current_a: float
    bears_a: float
    bears_long_a: float
    length_mm: float
    loss_w: float
    volts: float
    rise_k: float
    """K over the cells, of a wire over the air, with the largest current."""
    ride_rise_k: float | None
    """The same with what the brief's ride takes on the average."""
    holds: bool
    half: bool
    would_bear: dict[Strip, int]


class Brick(BaseModel):
    """A brick in the row: its cells in series, and how its lead and balance plug are used."""

    number: int
    set: int
    """Which of the sets in parallel it is in, from 1."""
    series: int
    full_v: float
    from_v: float
    to_v: float
    """V at its negative and its positive end against the set's negative, all of it full."""


class PackReport(BaseModel):
    """The plan; ``needs`` says what has to be chosen first."""

    needs: Message | None = None
    bought: Message | None = None
    """What to say instead where the pack is bought as one: how it is joined is its maker's."""
    kind: Literal["cells", "bricks", "bought", "unknown"] = "unknown"
    series: int = 0
    parallel: int = 1
    order: list[int] = []
    blocks: list[Block] = []
    links: list[PackLink] = []
    current_a: float = 0.0
    ride_a: float | None = None
    """Root mean square of the brief's ride; None while the board is not complete."""
    links_text: Message | None = None
    """How links are judged, and the rule of thumb beside it."""
    sized_for: Message | None = None
    strip_mass_g: float = 0.0
    loss_w: float = 0.0
    volts: float = 0.0
    full_v: float = 0.0
    half_v: float = 0.0
    bricks: list[Brick] = []
    brick_mm: list[float] = []
    words: list[Message] = []
    insulation: list[InsulationStep] = []
    work: list[WorkStep] = []
    findings: list[Finding] = []


def pack_report(build: Build) -> PackReport:
    """The plan of a build's pack."""
    build = marked(build)
    pack = build.parts.pack
    if pack is None or pack.series is None:
        return PackReport(
            needs=message("Choose a pack on the Design page: how many cells in series, and of which size.")
        )
    if (bought := bought_pack(build)) is not None:
        return PackReport(
            kind="bought", bought=bought, series=pack.series, parallel=pack.parallel or 1, full_v=full_voltage(pack)
        )
    full = full_voltage(pack)
    report = PackReport(
        series=pack.series,
        parallel=pack.parallel or 1,
        full_v=full,
        half_v=full * (pack.series - pack.series // 2) / pack.series,
        insulation=insulation(build, pack),
        findings=[f for judge in (strip_current, strip_rule, groups_spread) for f in judge(build)],
    )
    report = report.model_copy(update={"current_a": drive_current(build).current, "sized_for": sized_for(build)})
    if pack.layout == "bricks":
        return report.model_copy(update={**_bricks(pack), "work": work_of_bricks(pack)})
    if not of_cells(pack):
        sizes = ", ".join(CELL_SIZES)
        return report.model_copy(
            update={
                "needs": message("Enter the size of the cells on the Design page: {sizes}, or bricks.", sizes=sizes),
                "work": work_of_cells(build, pack),
            }
        )
    found = links(build)
    blocks = laid(build)
    ridden = evaluate([build], 0)[0]
    mean = None if ridden.needs else ridden.pack_rms
    if mean is not None:
        report.findings.extend(strip_heat_at(build, mean))
    return report.model_copy(
        update={
            "kind": "cells",
            "order": list(dict.fromkeys(i.group for part in blocks for i in part.items if i.group is not None)),
            "blocks": [_block(part) for part in blocks],
            "links": [_shown(link, mean) for link in found],
            "ride_a": mean,
            "links_text": _links_text(build, found),
            "strip_mass_g": strip_mass(build),
            "loss_w": sum(link.loss(link.current) for link in found),
            "volts": sum(link.current * link.resistance for link in found),
            "work": work_of_cells(build, pack),
        }
    )


def _block(part: Laid) -> Block:
    x0 = min((i.x[0] for i in part.items), default=0.0)
    long = part.inner[0]
    cells = [
        PlacedCell(
            group=i.group or 0,
            x=[round(v - x0, 2) for v in i.x],
            y=[round(v, 2) for v in i.y],
            z=[round(v, 2) for v in i.z],
            axis=i.axis,
            turned=i.turned,
            out=part.box is not None and i.x[1] - x0 > long + 0.01,
        )
        for i in part.items
    ]
    cannot = None
    if part.inside is not None and not part.inside.fits:
        inside = part.inside
        if inside.too_deep is not None:
            cannot = message(
                "Too shallow: {has} inside, and cells in this position need {needs}.",
                has=(inside.inner[2], "length"),
                needs=(inside.too_deep, "length"),
            )
        elif inside.too_wide is not None:
            cannot = message(
                "Too narrow: {has} inside, and cells in this position need {needs}.",
                has=(inside.inner[1], "length"),
                needs=(inside.too_wide, "length"),
            )
        else:
            cannot = message(
                "Too short: the contents need {needs}, and there are {has}.",
                needs=(inside.needed_length, "length"),
                has=(inside.inner[0], "length"),
            )
    return Block(
        box=part.box,
        inner=list(part.inner),
        cells=cells,
        beside=[
            AlsoInEnclosure(what=i.part, x=[v - x0 for v in i.x], y=list(i.y), z=list(i.z))
            for i in (part.inside.items if part.inside is not None else [])
            if i.group is None
        ],
        needed_mm=part.needed,
        block_mm=max((c.x[1] for c in cells), default=0.0),
        left_mm=None if part.box is None else part.inner[0] - part.needed,
        spread=part.spread,
        cannot=cannot,
    )


def _shown(link: Link, mean: float | None) -> PackLink:
    return PackLink(
        between=list(link.between),
        strips=link.strips,
        material=link.material,
        awg=link.awg,
        section_mm2=link.section_mm2,
        current_a=link.current,
        bears_a=link.bears,
        bears_long_a=link.bears_long,
        length_mm=1000.0 * link.length,
        loss_w=link.loss(link.current),
        volts=link.current * link.resistance,
        rise_k=link.rise(link.current),
        ride_rise_k=None if mean is None else link.rise(mean),
        holds=link.holds,
        half=link.half,
        would_bear={kind: needed_strips(link, kind) for kind in ONE_KIND},
    )


def _links_text(build: Build, found: Sequence[Link]) -> Message | None:
    """How the strips are judged, with the rule of thumb for one of them."""
    strip = next((link for link in found if link.rule_a), None)
    if strip is None or strip.rule_a is None:
        return None
    width, thickness = strip_size(plan_of(build))
    return message(
        "Strips of {width} by {thickness}. A link bears the current that warms it by {limit} K between two welds; it gets there "
        "within seconds. The rule of thumb allows {rule} a strip (common practice, no source), as if it lay in still air.",
        width=(width, "thickness"),
        thickness=(thickness, "thickness"),
        limit=f"{RISE_AT_THE_LIMIT:.0f}",
        rule=(strip.rule_a / strip.strips, "current"),
    )


def _in_their_sets(sizes: Sequence[int], sets: int, full: float) -> list[Brick]:
    found, in_a_set = [], len(sizes) // sets
    for n, series in enumerate(sizes):
        which = n // in_a_set
        below = sum(sizes[which * in_a_set : n])
        found.append(
            Brick(
                number=n + 1,
                set=which + 1,
                series=series,
                full_v=series * full,
                from_v=below * full,
                to_v=(below + series) * full,
            )
        )
    return found


def _bricks(pack: Pack) -> dict[str, object]:
    full = cell_voltages(pack)[0]
    sizes = cells_of_bricks(pack)
    long, wide, high, _ = brick_size(pack)
    sets = brick_sets(pack)
    words = [
        message(
            "In series by one lead: positive of one into negative of the next. A cap on every unused plug: two "
            "leads plugged into each other short-circuit the pack."
        ),
        message(
            "Each brick has a balance plug with one lead more than it has cells. The numbers beside the bricks are the "
            "volts at each joint against the first negative, with all of it full."
        ),
        message(
            "The balance plugs stay outside the enclosure, or you take each brick out to charge it; each is charged "
            "alone."
        ),
        message(
            "Connect a second set in parallel only at the same voltage, within {near}: otherwise the fuller one "
            "discharges into the other, limited only by the leads.",
            near=(LINE_UP_V, "cell_voltage"),
        )
        if sets == 1
        else message(
            "{sets} sets in parallel: connect each set in series, bring all to one voltage within {near}, then join "
            "positive to positive, negative to negative. Otherwise the fuller set discharges into the other, limited "
            "only by the leads.",
            sets=sets,
            near=(LINE_UP_V, "cell_voltage"),
        ),
    ]
    if pack.spares:
        words.append(
            message(
                "Carry the spare pack capped and padded, and swap it in where the other came out: never connect "
                "both at once."
            )
        )
    return {
        "kind": "bricks",
        "bricks": _in_their_sets(sizes, sets, full),
        "brick_mm": [long, wide, high],
        "words": words,
    }
