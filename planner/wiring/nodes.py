"""What the wires of a board end at."""

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Pack, Protection
from boardmath.model.inputs import full_voltage
from boardmath.model.methods import fuse_poles


class Node(BaseModel):
    """Something that wires end at: its name, and a line or two of what it is."""

    id: str
    title: str
    lines: list[str] = []


def nodes(build: Build) -> list[Node]:
    """Everything that a wire of this board ends at, the pack first."""
    parts = build.parts
    pack = parts.pack
    if pack is None:
        return []
    found = [Node(id="pack", title="Pack", lines=_pack_lines(pack))]
    if pack.protection is not None:
        found.append(Node(id="protection", title="BMS", lines=_board_lines(pack.protection)))
    if parts.fuse is not None:
        rating = [f"{parts.fuse.a:g} A"] if parts.fuse.a else []
        found.append(Node(id="fuse", title="Fuse", lines=rating))
        if fuse_poles(build) == "both_poles":
            found.append(Node(id="negative_fuse", title="Fuse", lines=rating))
    if parts.switch is not None and parts.switch.kind != "none":
        loop = parts.switch.kind == "loop"
        found.append(Node(id="switch", title="Loop key" if loop else "Switch", lines=["goes in last"] if loop else []))
    units, motors = controllers(build), parts.motors
    if parts.controller is not None:
        found += [
            Node(id=f"controller-{n}", title=f"Controller {n}" if units > 1 else "Controller", lines=_controller(build))
            for n in range(1, units + 1)
        ]
        if motors is not None:
            count = motors.count or 1
            found += [
                Node(id=f"motor-{n}", title=f"Motor {n}" if count > 1 else "Motor", lines=_motor_lines(motors))
                for n in range(1, count + 1)
            ]
        if parts.remote is not None:
            found.append(
                Node(id="receiver", title="Receiver", lines=[f"{parts.remote.link} link" if parts.remote.link else ""])
            )
    for n, load in enumerate(parts.loads or [], 1):
        if load.supply != "own_battery":
            found.append(
                Node(id=f"load-{n}", title=(load.name or "Light")[:24], lines=[f"{load.v:g} V" if load.v else ""])
            )
    if pack.layout == "bricks" and parts.charge_port is None:
        found.append(Node(id="port", title="The bricks' own plugs", lines=["each charged alone"]))
    else:
        found.append(Node(id="port", title="Charge port", lines=["cap on after use"]))
    return found


def _pack_lines(pack: Pack) -> list[str]:
    size = [f"{pack.series or '?'} in series"]
    if (pack.parallel or 1) > 1:
        size.append(f"{pack.parallel} in parallel")
    return [*size, f"{full_voltage(pack):g} V full"] if pack.series else size


def _board_lines(board: Protection) -> list[str]:
    ports = {"one": "one port", "two": "two ports"}.get(board.ports or "", "")
    rated = f"{board.max_discharge_a:g} A out" if board.max_discharge_a else ""
    if board.in_drive_path is False:
        rated = "charge only"
    return [x for x in (rated, f"{board.max_charge_a:g} A in" if board.max_charge_a else "", ports) if x]


def _controller(build: Build) -> list[str]:
    controller = build.parts.controller
    assert controller is not None
    return [f"{controller.max_v:g} V at most"] if controller.max_v else []


def _motor_lines(motors: Motors) -> list[str]:
    return [f"{motors.kv_rpm_per_v:g} rpm/V"] if motors.kv_rpm_per_v else []
