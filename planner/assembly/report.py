"""How the assembly of a build stands."""

from collections.abc import Collection
from datetime import date

from boardmath.buildfile.build import Build
from boardmath.model.inputs import marked
from boardmath.parts.cost import LEFT_OVER
from planner.assembly.board import Board
from planner.assembly.electrics import done_on_its_page
from planner.assembly.measuring import judge, picture
from planner.assembly.methods import methods_of
from planner.assembly.plan import assembly
from planner.first_ride.plan import IDS
from planner.parts_list.lines import list_lines
from planner.shared.log import Log
from planner.shared.report import Report, report, undrawn


def assembly_report(build: Build, log: Log, today: date, elsewhere: Collection[str] = (), drawn: bool = True) -> Report:
    """Every step of this board against the log.

    Args:
        elsewhere: steps that other pages know to be done.
        drawn: with the pictures of the steps.
    """
    build = marked(build)
    board = Board(build)
    # A box that the builder makes is waited for as a step, and not as a parcel.
    made = [f"parts.{kind}" for kind in ("enclosure", "second_enclosure") if board.made(kind)]
    lines = [x for x in list_lines(build, today) if not x.path.startswith(LEFT_OVER) and x.path not in made]
    found = report(
        build,
        assembly(build, log.moves),
        log,
        lines,
        today,
        judge=judge,
        draw=picture if drawn else undrawn,
        elsewhere={*elsewhere, *done_on_its_page(board)},
        others=IDS,
    )
    return found.model_copy(update={"methods": methods_of(board)})
