"""The order of the steps: what has to come before what, and what a builder may move by hand within it."""

from collections.abc import Iterable, Sequence

from planner.shared.log import Moved
from planner.shared.step import Step


def in_order(steps: Sequence[Step], moves: Iterable[Moved] = ()) -> list[Step]:
    """The steps in an order that can be followed: as they are given and were moved, each after what it waits for.

    What a step waits for and is not there is left out; a move that the order does not allow goes as far as it may.

    Raises:
        ValueError: two steps wait for each other.
    """
    there = {s.id for s in steps}
    known = [s.model_copy(update={"after": [a for a in dict.fromkeys(s.after) if a in there]}) for s in steps]
    wanted = _moved([s.id for s in known], moves)
    rank = {id: n for n, id in enumerate(wanted)}
    by = {s.id: s for s in known}
    open_ = {s.id: set(s.after) for s in known}
    ordered: list[Step] = []
    while open_:
        free = [id for id, waits in open_.items() if not waits]
        if not free:
            raise ValueError(f"these wait for each other: {', '.join(sorted(open_))}")
        first = min(free, key=rank.__getitem__)
        del open_[first]
        for waits in open_.values():
            waits.discard(first)
        ordered.append(by[first])
    return ordered


def _moved(ids: list[str], moves: Iterable[Moved]) -> list[str]:
    for move in moves:
        if move.step in ids and move.before != move.step:
            ids.remove(move.step)
            ids.insert(ids.index(move.before) if move.before in ids else len(ids), move.step)
    return ids


def before(steps: Sequence[Step], id: str) -> set[str]:
    """Everything that a step waits for, in however many turns."""
    return all_before(steps).get(id, set())


def all_before(steps: Sequence[Step]) -> dict[str, set[str]]:
    """The same of every step; they come in an order that can be followed."""
    found: dict[str, set[str]] = {}
    for step in steps:
        found[step.id] = {*step.after}.union(*(found[a] for a in step.after))
    return found


def why_not(steps: Sequence[Step], step: str, target: str | None) -> str | None:
    """Why a step cannot come right before another one (None: at the end): the titles that stand in the way; None if it can."""
    ids = [s.id for s in steps]
    titles = {s.id: s.title.text for s in steps}
    if step not in ids or (target is not None and target not in ids):
        return "This step does not exist any more."
    place = ids.index(target) if target is not None else len(ids)
    later = [id for id in ids[place:] if id != step]
    waits_for = all_before(steps)
    if waits := [titles[id] for id in later if id in waits_for[step]]:
        return f"It comes after: {', '.join(waits)}."
    if holds := [titles[id] for id in ids[:place] if id != step and step in waits_for[id]]:
        return f"These wait for it: {', '.join(holds)}."
    return None
