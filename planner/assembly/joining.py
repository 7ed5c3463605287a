"""The wiring room's order of joining as steps: what belongs to the pack before its first charge, the controller's side,
power last.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from boardmath.messages import message
from planner.assembly.board import Board
from planner.shared.making import minutes, step
from planner.shared.step import Phase, School, Step
from planner.shared.tools import ToolKey
from planner.wiring.joining import JointKey, joints
from planner.wiring.path import Wire, wires

PACK = ("parts.pack.series", "parts.pack.parallel", "parts.pack.layout")
HOLDS = "It holds when you pull at it; nothing is bare, and nothing is warm."
SOLDERING: tuple[ToolKey, ...] = ("iron", "solder", "shrink", "heat_gun", "stripper")
BURNS = "Bare one end at a time, with the other covered. Rings and watch off, eye protection on."
SCHOOLS = [
    School(
        name="Soldered and shrunk",
        text=message("Smallest, and reliable where it does not move; needs strain relief, or it breaks at its edge."),
    ),
    School(name="Crimped", text=message("Can bend; only with the pliers made for that plug, and pull at each.")),
]


@dataclass(frozen=True)
class _Joined:
    """What a joint is as a step: its title, the parts that it needs, the figures it stands on, how to tell that it is right."""

    title: str
    kinds: tuple[str, ...]
    small: tuple[str, ...] = ()
    touches: tuple[str, ...] = ()
    right: str = HOLDS
    wrong: str | None = None
    phase: Phase = "wiring"
    soldered: bool = False
    tools: tuple[ToolKey, ...] = ()
    takes: tuple[float, float] = (3, 8)
    caution: str | None = None
    new: tuple[str, ...] = ()
    """One of these has to be new on the board for the joint to be made anew; any of ``kinds`` unless said."""


ALWAYS: tuple[JointKey, ...] = ("caps", "loop")
_JOINED: dict[JointKey, _Joined] = {
    "caps": _Joined("Caps on: nothing can connect by itself", ("pack",), right="No bare metal can be touched."),
    "motors": _Joined(
        "Motors to the controller",
        ("motors", "controller", "wiring"),
        ("phase-connectors", "heat-shrink"),
        ("parts.motors.count", "parts.motors.plug", "parts.controller.motor_plug", "parts.controller.units"),
        right="Each phase has the same colour at both ends, no wheel reaches them, and no plug moves when you pull at "
        "the motor.",
        wrong="A 4 mm plug in a 5 mm socket does not hold; it gets hot, and comes loose when you brake.",
        soldered=True,
        tools=("sleeves", "cable_ties"),
        takes=(20, 45),
        new=("motors", "controller"),
    ),
    "small": _Joined(
        "The receiver",
        ("remote", "loads", "controller"),
        right="The remote shows its link, and keeps it at ten paces.",
    ),
    "minus": _Joined(
        "Negative, from the controller's end",
        ("controller", "wiring"),
        ("connectors", "heat-shrink"),
        ("parts.wiring.awg",),
        soldered=True,
        takes=(10, 30),
    ),
    "plus": _Joined(
        "Positive, back to the switch or fuse",
        ("controller", "wiring", "switch"),
        ("connectors", "heat-shrink"),
        ("parts.wiring.awg", "parts.switch.kind"),
        soldered=True,
        takes=(10, 30),
    ),
    "board": _Joined(
        "The BMS leads",
        ("pack", "wiring"),
        ("heat-shrink",),
        (*PACK, "parts.pack.protection.in_drive_path"),
        phase="pack",
        soldered=True,
        takes=(10, 30),
        new=("pack",),
    ),
    "balance": _Joined(
        "The balance plug into the BMS",
        ("pack",),
        touches=PACK,
        right="It stays cold, and the voltage at P is the pack's.",
        wrong="Warm in the first minute: unplug it, and check every lead again.",
        phase="pack",
        tools=("multimeter",),
        takes=(5, 12),
    ),
    "minus-pack": _Joined("Negative to the pack", ("pack", "wiring"), ("connectors",), soldered=True, takes=(10, 30)),
    "charge-port": _Joined(
        "The charge port",
        ("charge_port", "pack"),
        ("charge-port",),
        ("parts.charge_port.plug", "parts.pack.charge_plug"),
        right="The meter at the port shows the pack's voltage, with positive where the charger has positive.",
        wrong="Reversed, the charger or the BMS burns: swap it now.",
        phase="pack",
        soldered=True,
        tools=("multimeter",),
        takes=(10, 30),
    ),
    "polarity": _Joined(
        "Check polarity with the meter, twice",
        ("pack", "controller"),
        touches=(*PACK, "parts.pack.plug", "parts.controller.plug"),
        right="Red is positive, both times.",
        wrong="Reversed polarity burns a controller in a second.",
        phase="power",
        tools=("multimeter",),
        takes=(5, 12),
    ),
    "plus-pack": _Joined(
        "Positive to the pack", ("pack", "wiring"), ("connectors",), phase="power", soldered=True, takes=(10, 30)
    ),
    "fuse": _Joined(
        "The fuse, at the pack",
        ("fuse", "pack"),
        touches=("parts.fuse.a",),
        right="It has no play, its rating is that of the plan, and a spare is in the lid of the enclosure.",
        phase="power",
    ),
    "loop": _Joined(
        "Remote on, then power last of all",
        ("pack", "controller", "switch", "remote"),
        touches=(*PACK, "parts.switch.kind"),
        right="One short spark, then nothing: no warmth, no smell, and the controller's light as its maker says.",
        wrong="Unplug first, then look. If it smokes, take it outside with the board.",
        phase="power",
        tools=("stand",),
        caution="Wheels in the air; fingers, hair and laces away; nobody leans over it.",
    ),
}


def joining(b: Board) -> Iterator[Step]:
    """A step for each joint; the pack's own come before its first charge, what closes the way of the current comes last
    of all.
    """
    if not b.new("pack", "controller", "motors", "wiring", "switch", "fuse", "remote"):
        return
    all_wires = wires(b.build)
    about = {wire.id: wire for wire in all_wires}
    before: dict[Phase, str] = {}
    for joint in joints(b.build, all_wires):
        as_step = _JOINED[joint.key]
        if joint.key not in ALWAYS and not b.new(*(as_step.new or as_step.kinds)):
            continue  # joined already, on the board that was there
        soldered = as_step.soldered and not _plugged(b, joint.key)
        sizes = (
            _sizes([w for w in (about.get(id) for id in joint.wires) if w is not None]) if joint.key != "fuse" else ""
        )
        low, high = as_step.takes if soldered or not as_step.soldered else (5, 12)
        yield step(
            f"join-{joint.key}",
            as_step.phase,
            as_step.title if joint.key != "small" or not b.parts.loads else "Receiver and lights",
            joint.why,
            [joint.do, *([sizes] if sizes else [])],
            as_step.right,
            wrong=as_step.wrong,
            caution=as_step.caution or (BURNS if joint.grave else None),
            schools=SCHOOLS if soldered and joint.key in ("plus", "plus-pack", "minus") else [],
            tools=[*(SOLDERING if soldered else ()), *as_step.tools, *(["eye_protection"] if joint.grave else [])],
            minutes=minutes(low, high, b.motors if joint.key == "motors" else 1),
            needs=[*b.needs(*as_step.kinds), *b.small(*as_step.small)],
            touches=[*as_step.touches],
            after=[*([before[as_step.phase]] if as_step.phase in before else []), *_after(joint.key)],
            page="wiring",
        )
        before[as_step.phase] = f"join-{joint.key}"


def _after(key: JointKey) -> list[str]:
    if _JOINED[key].phase == "power":
        return ["pack-in", "first-charge", "bricks", "phase:wiring", "phase:pack"]
    if _JOINED[key].phase == "pack":
        return ["pack-block", "series-lead", "pack-check", "taps", *(["openings"] if key == "charge-port" else [])]
    return {
        "caps": ["controller-in"],
        "motors": ["controller-in", "motor", "take-off"],
        "minus-pack": ["controller-in", "pack-check", "series-lead", "pack-block"],
    }.get(key, ["controller-in"])


def _sizes(told: list[Wire]) -> str:
    """Gauges of the wires of one joint, the thickest first."""
    by = sorted({(w.awg, w.count) for w in told})
    sizes = [f"{count} x {awg:g} AWG" if count > 1 else f"{awg:g} AWG" for awg, count in by]
    return f"{' and '.join(sizes)}; lengths and plugs as the wiring says." if sizes else ""


def _plugged(b: Board, key: JointKey) -> bool:
    """Whether this joint is a plug that came on both ends, and nothing is soldered."""
    if key == "motors":
        return b.in_one_kit("motors", "controller")
    if key in ("minus", "plus", "minus-pack", "plus-pack"):
        return b.parts.controller is not None and b.parts.controller.kit is not None
    return key == "charge-port" and b.parts.pack is not None and b.parts.pack.charge_plug is not None
