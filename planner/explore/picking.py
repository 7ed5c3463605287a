"""Boards worked out one by one, what is wrong with them, and the three that are worth a look."""

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile import Build
from boardmath.checks import findings
from boardmath.engine.histograms import CARRY, MONEY
from boardmath.likelihood import LIKELY, in_words
from boardmath.messages import Message
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.sampling import FEW
from boardmath.physics.types import Array
from boardmath.prediction.outcomes import Outcome, OutcomeName, headline_of
from boardmath.prediction.ranges import kept_in
from planner.explore.schemas import ChosenValue, ExploredBoard, PickedBoard, label_of
from planner.explore.search import NAMES
from planner.explore.space import Space

_SUREST_BY = 0.02
"""What is no surer than this is not worth a coin more."""


def worked_out(space: Space, numbers: NDArray[np.int64], wanted: Array) -> list[ExploredBoard]:
    """Boards each by itself, with all their bands: what is shown of a board is what its bench will show."""
    builds = [wishing(space.board(int(n)), wanted) for n in numbers]
    return [_board(space, int(n), c, wanted) for n, c in zip(numbers, evaluate(builds, FEW), strict=True)]


def _board(space: Space, number: int, evaluation: Evaluation, wanted: Array) -> ExploredBoard:
    outcomes = headline_of(evaluation).outcomes
    chance = keeps_all(evaluation, outcomes, wanted)
    return ExploredBoard(
        number=number,
        chosen=[
            ChosenValue(
                path=a.path,
                title=a.title,
                label=label_of(a, i),
                value=v if isinstance(v := a.values[i], float) else None,
                quantity=a.quantity,
            )
            for a, i in zip(space.axes, space.positions(number), strict=True)
        ],
        outcomes=outcomes,
        chance=chance,
        chance_in_words=in_words(chance),
    )


def keeps_all(evaluation: Evaluation, outcomes: Sequence[Outcome], wanted: Array) -> float:
    """The share of its samples in which a board keeps all that is wanted at once."""
    values = [
        *(evaluation.headline_values[n] for n in ("speed", "hill")),
        evaluation.wanted_range,
        evaluation.headline_values["carry"],
    ]
    kept = kept_in(values, wanted[:MONEY], [p < CARRY for p in range(MONEY)])
    money = next(p.mid for p in outcomes if p.name == "money") or 0.0
    return 0.0 if money > wanted[MONEY] else float(kept.mean())


def wishing(build: Build, wanted: Array) -> Build:
    """The board with a brief that wants what is wanted here."""
    said = {n: None if np.isnan(w) else float(w) for n, w in zip(NAMES, wanted, strict=True)}
    brief = build.brief.model_copy(
        update={
            "top_speed_kmh": said["speed"],
            "hill_grade_pct": said["hill"],
            "hill_rise_m": None,
            "range_km": said["range"],
            "carry_mass_kg": said["carry"],
            "budget": said["money"],
        }
    )
    return build.model_copy(update={"brief": brief})


def _mid(board: ExploredBoard, name: OutcomeName) -> float:
    return next(p.mid for p in board.outcomes if p.name == name) or 0.0


def picked(space: Space, front: Sequence[ExploredBoard]) -> list[PickedBoard]:
    """Up to three that are unlike each other: what is enough and no dearer, what is lightest, what is surest."""
    if not front:
        return []
    known: dict[int, tuple[list[Message], list[Message]]] = {}
    best = max(b.chance for b in front)
    enough = min(LIKELY, best - _SUREST_BY)
    orders: list[tuple[str, list[ExploredBoard]]] = [
        ("Cheapest that meets the brief", sorted((b for b in front if b.chance >= enough), key=_by("money"))),
        ("Lightest that meets the brief", sorted((b for b in front if b.chance >= enough), key=_by("carry"))),
        (
            "Surest",
            # Of those that are as sure as can be told apart, the cheapest.
            sorted(front, key=lambda b: (round((best - b.chance) / _SUREST_BY), _mid(b, "money"))),
        ),
    ]
    picks: list[PickedBoard] = []
    taken: list[ExploredBoard] = []
    for title, order in orders:
        for board in order:
            if board.chance < best / 2.0:
                continue  # what is half as sure as another is no answer beside it
            if any(_alike(board, other) for other in taken):
                continue
            if _grave(space, board, known):
                continue
            picks.append(PickedBoard(title=title, number=board.number))
            taken.append(board)
            break
    return picks


def _by(name: OutcomeName) -> Any:
    return lambda board: _mid(board, name)


def _alike(one: ExploredBoard, other: ExploredBoard) -> bool:
    """Whether two boards are the same to their builder: nearly the same parts, doing nearly the same."""
    apart = sum(a.label != b.label for a, b in zip(one.chosen, other.chosen, strict=True))
    same = all(
        abs((p.mid or 0.0) - (q.mid or 0.0)) <= 0.08 * max(abs(p.mid or 0.0), 1e-9)
        for p, q in zip(one.outcomes, other.outcomes, strict=True)
    )
    return apart == 0 or (apart <= 2 and same)


def _grave(space: Space, board: ExploredBoard, known: dict[int, tuple[list[Message], list[Message]]]) -> list[Message]:
    if board.number not in known:
        known[board.number] = grave_titles(space.board(board.number), board.outcomes, space.build)
    board.grave, board.also = known[board.number]
    return board.grave


_FOLLOW = {
    *("enclosure", "second_enclosure", "charger", "charge_port", "fuse", "wiring", "switch", "protection"),
    *("risers", "spreaders", "mount", "covers", "remote", "loads", "extras"),
}
"""Parts that are chosen for the others, and so follow another choice of those."""


def grave_titles(build: Build, outcomes: Sequence[Outcome], before: Build) -> tuple[list[Message], list[Message]]:
    """What the bench would show as a danger or a misfit and what is not open did not bring already: what keeps the parts apart,
    and what another part beside them mends.
    """
    of_before = {f.id for f in findings(before, headline_of(Evaluation(before, 0), explained=False).outcomes, None)}
    grave: list[Message] = []
    also: list[Message] = []
    for f in findings(build, outcomes, None):
        if f.severity in ("danger", "stop") and f.id not in of_before and f.kind != "brief":
            (also if _FOLLOW & set(f.about) else grave).append(f.title)
    return grave, also
