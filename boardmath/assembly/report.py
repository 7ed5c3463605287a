"""How the assembly of a build stands."""

from collections.abc import Collection
from datetime import date

from boardmath.assembly.board import Board
from boardmath.assembly.electrics import done_in_its_room
from boardmath.assembly.measuring import judge, picture
from boardmath.assembly.plan import assembly
from boardmath.buildfile.build import Build
from boardmath.cost import LEFT_OVER
from boardmath.firstride.plan import IDS
from boardmath.inputs import marked
from boardmath.partslist.lines import list_lines
from boardmath.steps.log import Log
from boardmath.steps.report import Report, report, undrawn


def assembly_report(build: Build, log: Log, today: date, elsewhere: Collection[str] = (), drawn: bool = True) -> Report:
    """Every step of this board against the log.

    Args:
        elsewhere: steps that other rooms know to be done.
        drawn: with the pictures of the steps.
    """
    build = marked(build)
    board = Board(build)
    # A box that the builder makes is waited for as a step, and not as a parcel.
    made = [f"parts.{kind}" for kind in ("enclosure", "second_enclosure") if board.made(kind)]
    lines = [x for x in list_lines(build, today) if not x.path.startswith(LEFT_OVER) and x.path not in made]
    return report(
        build,
        assembly(build, log.moves),
        log,
        lines,
        today,
        judge=judge,
        draw=picture if drawn else undrawn,
        elsewhere={*elsewhere, *done_in_its_room(board)},
        others=IDS,
    )
