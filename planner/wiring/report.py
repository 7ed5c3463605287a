"""The wiring of a board as a whole."""

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.checks.cells import polymer_balance
from boardmath.checks.finding import Finding
from boardmath.checks.pack_making import load_round_the_board
from boardmath.checks.power_path import fuse_and_wire, plugs, protection_current, switch, wire_current
from boardmath.geometry.cell_links import sized_for
from boardmath.messages import Message
from boardmath.model.inputs import marked
from planner.wiring.diagram import Diagram, diagram
from planner.wiring.guards import Guard, guards
from planner.wiring.joining import Cut, WiringJoint, cut_list, joints
from planner.wiring.path import Wire, wires

_ABOUT_WIRES = (load_round_the_board, protection_current, fuse_and_wire, wire_current, plugs, switch, polymer_balance)


class WiringReport(BaseModel):
    """Drawing, wires, guards, order of joining, what to cut, and the findings that wires have a part in. Empty without a pack."""

    diagram: Diagram
    wires: list[Wire]
    guards: list[Guard]
    joints: list[WiringJoint]
    cuts: list[Cut]
    sized_for: Message
    findings: list[Finding]


def wiring_report(build: Build) -> WiringReport:
    """All of it, for a build that need not be whole."""
    build = marked(build)
    found = wires(build)
    return WiringReport(
        diagram=diagram(build),
        wires=found,
        guards=guards(build),
        joints=joints(build, found),
        cuts=cut_list(found),
        sized_for=sized_for(build),
        findings=[f for judge in _ABOUT_WIRES for f in judge(build)],
    )
