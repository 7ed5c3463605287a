"""What a builder sees of a space: how much of it keeps the brief, its front, three to look at, and what to give up."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from boardmath.engine.histograms import HILL, MONEY, RANGE, SPEED
from boardmath.likelihood import LIKELY, in_words
from boardmath.messages import Message, message
from boardmath.parts.part_types import KINDS
from boardmath.physics.types import Array
from boardmath.prediction.outcomes import AT_MOST, QUANTITIES, OutcomeName
from planner.explore.picking import picked, worked_out
from planner.explore.schemas import (
    Cloud,
    CloudCell,
    Exploration,
    ExploredBoard,
    GiveUp,
    OpenAxis,
    PickedBoard,
    WishSpread,
    label_of,
)
from planner.explore.search import NAMES, Explored
from planner.explore.space import Space

_WORDS: dict[OutcomeName, str] = {"speed": "speed", "hill": "hill", "range": "range", "carry": "mass", "money": "money"}
_SHOWN = 40
"""Boards of the front that are worked out one by one."""
_ACROSS, _UP = 44, 30
"""Cells of the cloud."""
_BARS = 36


def exploration(
    explored: Explored,
    wanted: Array,
    across: OutcomeName = "money",
    up: OutcomeName = "range",
    whole: bool = True,
) -> Exploration:
    """What is to be seen of what was looked at so far.

    Args:
        wanted: as of :func:`wanted_of`; across, up: the cloud's axes.
        whole: with the front worked out board by board, what to pick and what to give up.
    """
    space = explored.space
    chance = explored.chances(wanted)
    asks = bool(np.isfinite(wanted).any())
    best = float(chance.max(initial=0.0))
    sure = int((chance >= LIKELY).sum())
    front: list[ExploredBoard] = []
    picks: list[PickedBoard] = []
    give_up: list[GiveUp] = []
    if len(chance):
        # Where nothing keeps it, what comes nearest is looked at.
        rank = chance if best > 0.05 else explored.nearness(wanted)
        numbers = explored.boards[_thinned(explored, explored.front(rank), rank)]
        front = worked_out(space, numbers, wanted)
        if whole:
            if not sure:
                give_up = _give_up(explored, wanted)
            picks = picked(space, front)
            best = max((b.chance for b in front), default=best)
    return Exploration(
        progress=len(explored.boards) / max(explored.all, 1),
        boards=explored.all,
        looked_at=len(explored.boards),
        sure=sure,
        best=best,
        asks=asks,
        left_out=explored.left_out,
        axes=[_axis(explored, i, chance) for i in range(len(space.axes))],
        spreads=[_spread(explored, p, chance, wanted) for p in range(len(NAMES))],
        cloud=_cloud(explored, across, up, chance),
        front=front,
        picks=picks,
        give_up=give_up,
        says=_says(explored, wanted, sure, best, give_up),
        of=len(space),
        chosen_from=space.chosen_from,
        lacks=_lacks(explored, chance, wanted) if whole and not sure and len(chance) else [],
        completed=_completed(space),
    )


def _completed(space: Space) -> Message | None:
    """What was added to every board, so that sums and weights are of whole boards."""
    added = [f"{KINDS[slot].name.lower()} ({part.name})" for slot, part in space.completed.items()]
    if space.build.parts.charger is None and any(space.chargers):
        added.append("a charger for each pack")
    if not added:
        return None
    return message(
        "Every design also has the cheapest that fits of what is not chosen: {added}.", added=", ".join(added)
    )


def _thinned(explored: Explored, front: NDArray[np.int64], rank: Array) -> NDArray[np.int64]:
    """As many of the front as can be worked out one by one: its ends, the surest ones, and the others evenly by money."""
    useful = front[rank[front] > 0.02 * max(float(rank[front].max(initial=0.0)), 1e-9)]
    if len(useful) <= _SHOWN:
        return useful
    by_money = useful[np.argsort(explored.promised[useful, MONEY], kind="stable")]
    surest = by_money[np.argsort(-rank[by_money], kind="stable")[: _SHOWN // 2]]
    even = by_money[np.linspace(0, len(by_money) - 1, _SHOWN // 2).round().astype(int)]
    kept = np.union1d(surest, even)
    return by_money[np.isin(by_money, kept)]


def _axis(explored: Explored, which: int, chance: Array) -> OpenAxis:
    axis = explored.space.axes[which]
    at = np.unravel_index(explored.boards, explored.space.shape)[which]
    surest = np.zeros(len(axis))
    np.maximum.at(surest, at, chance)
    return OpenAxis(
        path=axis.path,
        title=axis.title,
        quantity=axis.quantity,
        labels=[label_of(axis, i) for i in range(len(axis))],
        surest=[round(float(s), 3) for s in surest],
    )


def _span(values: Array) -> tuple[float, float]:
    if not len(values):
        return 0.0, 1.0
    low, high = float(values.min()), float(values.max())
    return (low, high) if high > low else (low - 0.5, high + 0.5)


def _spread(explored: Explored, p: int, chance: Array, wanted: Array) -> WishSpread:
    values = explored.promised[:, p]
    low, high = _span(values)
    edges = np.linspace(low, high, _BARS + 1)
    return WishSpread(
        name=NAMES[p],
        quantity=QUANTITIES[NAMES[p]],
        at_most=NAMES[p] in AT_MOST,
        low=low,
        high=high,
        wanted=None if np.isnan(wanted[p]) else float(wanted[p]),
        boards=np.histogram(values, edges)[0].tolist(),
        sure=np.histogram(values[chance >= LIKELY], edges)[0].tolist(),
    )


def _cloud(explored: Explored, across: OutcomeName, up: OutcomeName, chance: Array) -> Cloud:
    x, y = (explored.promised[:, NAMES.index(n)] for n in (across, up))
    (left, right), (bottom, top) = _span(x), _span(y)
    wide, high = (right - left) / _ACROSS, (top - bottom) / _UP
    i = np.minimum(((x - left) / wide).astype(int), _ACROSS - 1)
    j = np.minimum(((y - bottom) / high).astype(int), _UP - 1)
    cell = i * _UP + j
    count, surest = np.bincount(cell, minlength=_ACROSS * _UP), np.zeros(_ACROSS * _UP)
    np.maximum.at(surest, cell, chance)
    cells = [
        CloudCell(
            x=round(left + (int(c) // _UP) * wide, 4),
            y=round(bottom + (int(c) % _UP) * high, 4),
            boards=int(count[c]),
            chance=round(float(surest[c]), 3),
        )
        for c in np.flatnonzero(count)
    ]
    return Cloud(across=across, up=up, wide=wide, high=high, cells=cells)


def _give_up(explored: Explored, wanted: Array) -> list[GiveUp]:
    """For each wish what could be had of it, all others as they are; the least to give up, as a share of it, first."""
    best = explored.attainable(wanted)
    found = [
        GiveUp(name=n, quantity=QUANTITIES[n], wanted=float(w), attainable=float(b))
        for n, w, b in zip(NAMES, wanted, best, strict=True)
        if np.isfinite(w) and np.isfinite(b)
    ]
    return sorted(found, key=lambda g: abs(g.attainable - g.wanted) / max(abs(g.wanted), 1e-9))


def _says(explored: Explored, wanted: Array, sure: int, best: float, give_up: Sequence[GiveUp]) -> Message:
    """The whole of it in a sentence or two."""
    if not explored.all:
        return message("These parts make no board: none of them fit together.")
    if not np.isfinite(wanted).any():
        return message("The brief has no targets yet. Say what the board has to do, and the designs are ranked.")
    count = (float(len(explored.boards)), "count")
    if sure:
        keeps = "keeps" if sure == 1 else "keep"
        return message(
            "{sure} of {all} designs {keeps} every target with 80 % certainty.",
            sure=(sure, "count"),
            all=count,
            keeps=keeps,
        )
    none = message("No design meets every target with 80 % certainty; the best one is {likely}.", likely=in_words(best))
    if not give_up:
        share = explored.least_together(wanted)
        if share is None:
            return message(
                "{none} Lowering one target alone does not help. Lowering each by half does not help either.", none=none
            )
        return message(
            "{none} Lowering one target alone does not help. Lowering each by {share} would do.",
            none=none,
            share=(100.0 * share, "share"),
        )
    first = give_up[0]
    pair = _excluding(explored, wanted, give_up)
    if pair is not None:
        one, other = pair
        return message(
            "{none} {one} and {two} conflict: with the {other} you can have {attainable}, and {wanted} needs {instead}.",
            none=none,
            one=_WORDS[one.name].capitalize(),
            two=_WORDS[other.name],
            attainable=(one.attainable, one.quantity),
            wanted=(one.wanted, one.quantity),
            other=(other.wanted, other.quantity),
            instead=(other.attainable, other.quantity),
        )
    return message(
        "{none} Smallest compromise: {attainable} of {outcome} instead of {wanted}.",
        none=none,
        outcome=_WORDS[first.name],
        attainable=(first.attainable, first.quantity),
        wanted=(first.wanted, first.quantity),
    )


def _excluding(explored: Explored, wanted: Array, give_up: Sequence[GiveUp]) -> tuple[GiveUp, GiveUp] | None:
    """Two wishes that no board keeps even where nothing else is asked, the least to give up among them first."""
    for i, one in enumerate(give_up):
        for other in give_up[i + 1 :]:
            alone = np.full(len(NAMES), np.nan)
            for g in (one, other):
                alone[NAMES.index(g.name)] = g.wanted
            if explored.chances(alone).max(initial=0.0) < LIKELY:
                return one, other
    return None


HOLDS_BACK: dict[str, str] = {
    "motor current": "a controller and a motor for more current, or pulleys with more reduction",
    "pack current": "cells that give more current, or more cells in parallel",
    "pack voltage": "more cells in series, a motor of higher KV, or pulleys with less reduction",
    "low-voltage cut-off": "a larger pack, or cells that sag less",
    "electrical speed": "a controller for more electrical speed, or a motor with fewer pole pairs",
    "grip": "a second driven wheel",
    "pack power": "a larger pack, or cells with less resistance",
}


def _lacks(explored: Explored, chance: Array, wanted: Array) -> list[Message]:
    """Which kind of part is not among what is open: what holds back the boards that come nearest, wish by wish."""
    nearest = np.argsort(-explored.nearness(wanted), kind="stable")[:200]
    found: list[Message] = []
    for p, which in ((SPEED, 0), (HILL, 1)):
        if np.isnan(wanted[p]) or (explored.promised[nearest, p] >= wanted[p]).mean() > 0.5:
            continue
        names = [explored.limit(int(i), which) for i in nearest]
        limit = max(set(names), key=names.count)
        part = HOLDS_BACK.get(limit)
        if part:
            found.append(
                message(
                    "For the {outcomes} the search needs {part}. Limit: {limit}.",
                    outcomes=_WORDS[NAMES[p]],
                    part=part,
                    limit=limit,
                )
            )
    if np.isfinite(wanted[RANGE]) and (explored.promised[nearest, RANGE] >= wanted[RANGE]).mean() <= 0.5:
        found.append(message("For the range the search needs a larger pack."))
    return found
