"""In which order the wires are joined and why; and what is cut for it: wire, shrink, plugs."""

from collections.abc import Iterator, Sequence
from math import ceil
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Extra
from boardmath.messages import Message, message
from boardmath.model.cell_groups import comes_whole
from boardmath.model.methods import fuse_poles
from boardmath.physics.wire import diameter
from planner.wiring.path import Wire, round_the_board

JointKey = Literal[
    "caps",
    "motors",
    "small",
    "minus",
    "plus",
    "board",
    "balance",
    "minus-pack",
    "charge-port",
    "polarity",
    "plus-pack",
    "fuse",
    "loop",
]


class WiringJoint(BaseModel):
    """A step of joining: what, why, and the wires that it is about. ``grave`` where a slip burns."""

    key: JointKey
    number: int
    do: Message
    why: Message
    wires: list[str] = []
    grave: bool = False


def joints(build: Build, all_wires: Sequence[Wire]) -> list[WiringJoint]:
    """The order: what cannot hurt first, what closes the way of the current last."""
    return [
        WiringJoint(key=key, number=n, do=message(do), why=message(why), wires=ids, grave=grave)
        for n, (key, do, why, ids, grave) in enumerate(_steps(build, all_wires), 1)
    ]


Step = tuple[JointKey, str, str, list[str], bool]


def _steps(build: Build, all_wires: Sequence[Wire]) -> Iterator[Step]:
    parts, by = build.parts, {w.id: w for w in all_wires}

    def ids(*kinds: str) -> list[str]:
        return [w.id for w in all_wires if w.carries in kinds]

    if not all_wires:
        return
    yield (
        "caps",
        "Caps on both ends of the pack"
        + (", loop key in your pocket" if parts.switch is not None and parts.switch.kind == "loop" else "")
        + (", fuse out." if parts.fuse is not None else "."),
        "While nothing can connect, a slip costs nothing. Rings and watch off, eye protection on.",
        [],
        True,
    )
    if phases := ids("phase", "sensor"):
        yield (
            "motors",
            (
                "Motors to controllers: three phase wires each, ring to ring, then the sensor plugs. Strain relief, "
                "sleeves, away from wheels."
            ),
            "They carry no current yet and are the stiffest: the rest is routed around them.",
            phases,
            False,
        )
    if small := ids("signal", "load"):
        yield (
            "small",
            "Receiver into its socket, its aerial free" + ("; lights to their converter." if parts.loads else "."),
            "Away from the phase wires, which disturb the remote.",
            small,
            False,
        )
    if minus := [w for w in ids("minus") if by[w].start != "pack"]:
        yield (
            "minus",
            "Negative, from the controller's end: controller first, the far end covered until its turn.",
            "Bare the end with voltage last.",
            minus,
            False,
        )
    if plus := [w for w in ids("plus") if by[w].start != "pack"]:
        yield (
            "plus",
            "Positive, from the controller's end back to the switch or fuse.",
            "One joint at a time; shrink tube over it before you bare the next.",
            plus,
            False,
        )
    pack = parts.pack
    if pack is not None and pack.protection is not None and not comes_whole(build):
        if round_the_board(build):
            yield (
                "board",
                (
                    "BMS: its B− to the pack's negative with the thin wire; the drive lead goes past it, straight "
                    "from the pack."
                ),
                "This BMS protects only while charging. The drive current is protected by fuse and cut-off alone.",
                ["charge-board", *[w for w in ids("minus") if by[w].start == "pack"]],
                True,
            )
        else:
            yield (
                "board",
                "BMS: B− to the pack's negative first, then the load's negative to P−.",
                "With P− first the whole current could flow through the balance leads.",
                ["minus-board"],
                True,
            )
        yield (
            "balance",
            "Balance plug into the BMS, after every lead was measured right.",
            "Two swapped leads destroy the BMS the moment the plug goes in.",
            ["balance"],
            True,
        )
    elif minus_pack := [w for w in ids("minus") if by[w].start in ("pack", "protection")]:
        # A pack that was bought has its board inside: nobody opens it to join that.
        yield (
            "minus-pack",
            "Negative to the pack.",
            "Negative before positive: a spanner that touches the truck meets no voltage yet.",
            minus_pack,
            True,
        )
    if charge := ids("charge_plus", "charge_minus"):
        yield (
            "charge-port",
            "Charge port, cap on it at once.",
            "Its pins are the pack's poles: a key in your pocket is enough to short them.",
            [w for w in charge if w != "charge-board"],
            True,
        )
    yield (
        "polarity",
        "Check polarity with a meter at the controller's plug, twice, before you plug anything in: red is positive.",
        "A controller has no protection against reversed polarity.",
        [],
        True,
    )
    at_the_pack = [w.id for w in all_wires if w.carries == "plus" and w.start == "pack"]
    if parts.fuse is None and at_the_pack:
        yield (
            "plus-pack",
            "Positive to the pack.",
            "There is no fuse: from here on a short circuit ends when something burns through.",
            at_the_pack,
            True,
        )
    if parts.fuse is not None:
        yield (
            "fuse",
            "Fuses in: negative first, then the pack's positive."
            if fuse_poles(build) == "both_poles"
            else "Fuse in, at the pack's positive.",
            "From here on a short circuit ends at the fuse.",
            at_the_pack,
            True,
        )
    loop = parts.switch is not None and parts.switch.kind != "none"
    yield (
        "loop",
        "Remote on, wheels in the air, fingers away. "
        + ("Loop key last." if loop and parts.switch and parts.switch.kind == "loop" else "Pack to controller last.")
        + " One short spark is usual; a second one, warmth or a smell is not: unplug it.",
        "What goes in last comes out first.",
        [],
        True,
    )


class Cut(BaseModel):
    """Something to cut or to buy for the wiring; ``record`` is what goes on the parts list: wire and shrink by their length."""

    what: str
    count: int | None = None
    length_mm: float | None = None
    record: Extra


def _cut(what: str, count: int | None = None, length_mm: float | None = None) -> Cut:
    name = f"{what}, {length_mm / 1000.0:.1f} m" if length_mm else what
    return Cut(what=what, count=count, length_mm=length_mm, record=Extra(name=name, count=1 if length_mm else count))


SPARE = 1.1
"""Wire is bought a tenth longer than it is cut (common practice, no source)."""
SHRINK_EACH_MM = 40.0
"""mm of shrink over one joint: twice the joint (from memory)."""


def cut_list(all_wires: Sequence[Wire]) -> list[Cut]:
    """Wire by gauge and colour, shrink by size, plugs by kind; what is a bundle of its own part is left out."""
    lengths: dict[tuple[float, str], float] = {}
    joints_of: dict[float, int] = {}
    plugs: dict[str, int] = {}
    for wire in all_wires:
        if wire.carries in ("sensor", "signal"):
            continue
        colour = {"phase": "phases", "balance": "balance"}.get(wire.carries, wire.colour)
        colours = colour.split(" and ") if wire.carries == "load" else [colour]
        for one in colours:
            count = wire.count / len(colours)
            lengths[(wire.awg, one)] = lengths.get((wire.awg, one), 0.0) + count * wire.length_mm
        joints_of[wire.awg] = joints_of.get(wire.awg, 0) + 2 * wire.count
        for plug in {wire.start_plug, wire.end_plug} - {None}:
            if wire.carries in ("plus", "phase", "charge_plus"):
                assert plug is not None
                plugs[plug] = plugs.get(plug, 0) + (3 if wire.carries == "phase" else 1)
    cuts = [
        _cut(f"Silicone wire, {awg:g} AWG, {colour}", None, 10.0 * ceil(SPARE * long / 10.0))
        for (awg, colour), long in sorted(lengths.items())
    ]
    shrink: dict[float, int] = {}
    for awg, count in joints_of.items():
        size = next(s for s in SHRINK_SIZES if s >= LOOSE * (2.0 * 1e3 * diameter(awg) + 0.5))
        shrink[size] = shrink.get(size, 0) + count
    cuts += [_cut(f"Heat shrink, {size:g} mm", n, n * SHRINK_EACH_MM) for size, n in sorted(shrink.items())]
    return [*cuts, *(_cut(f"Plug pair, {plug}", n) for plug, n in sorted(plugs.items()))]


LOOSE = 1.6
"""Of the insulated wire's diameter, what shrink has before it shrinks: it halves, and goes over the joint (from memory)."""
SHRINK_SIZES = (2.4, 3.2, 4.8, 6.4, 9.5, 12.7, 19.1, 25.4, 50.0)
"""mm before it shrinks, as it is sold (inch sizes; from memory)."""
