"""All steps of a build's assembly, each from one small rule, in an order that can be followed."""

from collections.abc import Callable, Iterator, Sequence
from itertools import chain

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import once_a_build
from boardmath.model.inputs import marked
from boardmath.model.methods import locking
from planner.assembly import drive, dry_fit, electrics, housing, joining, ready, running_gear
from planner.assembly.board import Board
from planner.shared.log import Moved
from planner.shared.order import in_order
from planner.shared.step import Step

Rule = Callable[[Board], Iterator[Step]]
RULES: tuple[Rule, ...] = (
    ready.lay_out,
    ready.kits,
    ready.weigh_parts,
    ready.take_off,
    housing.make,
    ready.drill_trucks,
    ready.rout_deck,
    dry_fit.bearings,
    dry_fit.trucks,
    dry_fit.pulley_core,
    dry_fit.mount,
    dry_fit.motor,
    dry_fit.belt,
    dry_fit.leaning,
    dry_fit.the_box,
)
LOCKED: tuple[Rule, ...] = (
    running_gear.trucks,
    running_gear.free_wheels,
    drive.mount,
    drive.motor,
    drive.motor_pulley,
    drive.driven_wheels,
    drive.belt_line,
    drive.belt_tension,
    drive.gear_mesh,
    drive.run_true,
    drive.covers,
    housing.drill,
    housing.inserts,
    housing.openings,
    housing.foam,
    electrics.pack,
    electrics.in_the_box,
    joining.joining,
    electrics.set_up,
    housing.close,
    electrics.finish,
)
"""What comes after the gate of the dry fit: all that is locked, drilled, soldered."""
GATE = "dry-look"


@once_a_build
def steps_of(build: Build) -> list[Step]:
    """Every step that this board needs and none that it does not, in the order in which the rules give them."""
    board = Board(marked(build))
    loose = [step for rule in RULES for step in rule(board)]
    dry = {s.id for s in loose if s.phase == "dry_fit"}
    found = [*loose, *dry_fit.looked_over(board, dry), *chain.from_iterable(rule(board) for rule in LOCKED)]
    handled = {path for s in found for path in s.needs}
    found += ready.rest_of_the_list(board, handled)
    gate = () if locking(build) == "as_you_go" else (GATE,)
    return in_order([_whole(s, found, gate) for s in found])


def assembly(build: Build, moves: Sequence[Moved] = ()) -> list[Step]:
    """The steps in an order that can be followed, as far as it may be as the builder moved them."""
    found = steps_of(build)
    return in_order(found, moves) if moves else found


def _whole(step: Step, all_steps: Sequence[Step], gate: Sequence[str]) -> Step:
    """A step with its phases told as steps; nothing is locked before the gate, where there is one."""
    after: list[str] = []
    for one in step.after:
        phase = one.removeprefix("phase:")
        after += [s.id for s in all_steps if s.phase == phase and s.id != step.id] if phase != one else [one]
    if step.threadlock != "none":
        after += gate
    return step.model_copy(update={"after": after})
