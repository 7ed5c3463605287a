"""What a builder sees of a space: how much of it keeps the brief, its front, three to look at, and what to give up."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from boardmath.advice import findings
from boardmath.arrays import FEW
from boardmath.buildfile import Build
from boardmath.buildfile.figures import Part
from boardmath.case import Case, cases
from boardmath.choosing import with_part
from boardmath.engine.tallies import CARRY, HILL, MONEY, RANGE, SPEED
from boardmath.explorer.exploring import NAMES, SURE, Explored
from boardmath.explorer.misfits import put_together
from boardmath.explorer.space import Axis, Space
from boardmath.first_settings import first_settings
from boardmath.physics.types import Array
from boardmath.prediction.bands import kept_in
from boardmath.prediction.promises import RANGES, Promise, PromiseName, headline_of, in_short, in_words
from boardmath.saying import Saying, say

QUANTITY: dict[PromiseName, str] = {
    "speed": "speed",
    "hill": "grade",
    "range": "distance",
    "carry": "body_mass",
    "money": "money",
}
_WORDS: dict[PromiseName, str] = {"speed": "speed", "hill": "hill", "range": "range", "carry": "mass", "money": "money"}
_SHOWN = 40
"""Boards of the front that are worked out one by one."""
_ACROSS, _UP = 44, 30
"""Cells of the cloud."""
_BARS = 36
_SUREST_BY = 0.02
"""What is no surer than this is not worth a coin more."""


class ChosenValue(BaseModel):
    """What a board has of one thing that was open."""

    path: str
    title: str
    label: str
    value: float | None = None
    quantity: str | None = None


class ExploredBoard(BaseModel):
    """One board of the space, worked out by itself; ``chance`` is that all that is wanted is kept."""

    number: int
    chosen: list[ChosenValue]
    promises: list[Promise]
    chance: float
    chance_in_words: str
    unpriced: int = 0
    grave: list[str] = []
    """Titles of the findings that keep its parts apart."""
    also: list[str] = []
    """Titles of the findings that another part beside them mends: a box, a charger, a fuse."""


class PickedBoard(BaseModel):
    """One of the boards to look at, and for what."""

    title: str
    number: int


class OpenAxis(BaseModel):
    """Something that is open: for each of its values the surest board that has it."""

    path: str
    title: str
    quantity: str | None
    labels: list[str]
    surest: list[float]


class CloudCell(BaseModel):
    x: float
    y: float
    boards: int
    chance: float
    """Of the surest of them."""


class Cloud(BaseModel):
    """All boards looked at, by two promises; ``wide`` and ``high`` are a cell's sides."""

    across: PromiseName
    up: PromiseName
    wide: float
    high: float
    cells: list[CloudCell]


class WishSpread(BaseModel):
    """How the boards lie along one promise: how many in each of equal steps from ``low`` to ``high``."""

    name: PromiseName
    quantity: str
    low: float
    high: float
    wanted: float | None
    boards: list[int]
    sure: list[int]
    """Of them, those that keep all of it."""


class KeptApart(BaseModel):
    why: str
    boards: int


class GiveUp(BaseModel):
    """What would have to be given up, the least first: one wish, all others as they are."""

    name: PromiseName
    quantity: str
    wanted: float
    bearable: float


class Exploration(BaseModel):
    """How a space stands against what is wanted, after ``share`` of it was looked at."""

    share: float
    boards: int
    looked_at: int
    sure: int
    """Of those looked at, how many keep all that is wanted eight times in ten."""
    best: float
    asks: bool
    """Whether anything is wanted at all."""
    left_out: list[KeptApart]
    axes: list[OpenAxis]
    spreads: list[WishSpread]
    cloud: Cloud
    front: list[ExploredBoard]
    picks: list[PickedBoard]
    give_up: list[GiveUp]
    says: Saying
    lacks: list[Saying]


class StepValue(BaseModel):
    """A value of one axis on the chosen board, all else as it is: what that step buys and what gives way then."""

    label: str
    number: int
    here: bool
    chance: float
    in_short: str
    promises: list[Promise]
    fits: bool


class AxisSteps(BaseModel):
    path: str
    title: str
    values: list[StepValue]


class RealPart(BaseModel):
    """A part of the library near a figure that was free, and how sure the board is with it."""

    path: str
    name: str
    maker: str | None
    chance: float
    in_short: str
    promises: list[Promise]
    parts: dict[str, Any]


class LookedInto(BaseModel):
    """One board looked into: what lays it on the bench, what a step of each part buys, the nearest real parts."""

    board: ExploredBoard
    parts: dict[str, Any]
    settings: dict[str, Any]
    steps: list[AxisSteps]
    real: list[RealPart]


def label_of(axis: Axis, at: int) -> str:
    """A value of an axis in words: a part's name, or a number without its unit."""
    value = axis.values[at]
    if isinstance(value, Part):
        return value.name or f"{axis.title} {at + 1}"
    return f"{value:g}"


def exploration(
    explored: Explored,
    wanted: Array,
    across: PromiseName = "money",
    up: PromiseName = "range",
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
    sure = int((chance >= SURE).sum())
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
            picks = _picked(space, front)
            best = max((b.chance for b in front), default=best)
    return Exploration(
        share=len(explored.boards) / max(explored.all, 1),
        boards=explored.all,
        looked_at=len(explored.boards),
        sure=sure,
        best=best,
        asks=asks,
        left_out=[KeptApart(why=w, boards=n) for w, n in sorted(explored.left_out.items(), key=lambda i: -i[1])],
        axes=[_axis(explored, i, chance) for i in range(len(space.axes))],
        spreads=[_spread(explored, p, chance, wanted) for p in range(len(NAMES))],
        cloud=_cloud(explored, across, up, chance),
        front=front,
        picks=picks,
        give_up=give_up,
        says=_says(explored, wanted, sure, best, give_up),
        lacks=_lacks(explored, chance, wanted) if whole and not sure and len(chance) else [],
    )


def worked_out(space: Space, numbers: NDArray[np.int64], wanted: Array) -> list[ExploredBoard]:
    """Boards each by itself, with all their bands: what is shown of a board is what its bench will show."""
    builds = [_wishing(space.board(int(n)), wanted) for n in numbers]
    return [_board(space, int(n), c, wanted) for n, c in zip(numbers, cases(builds, FEW), strict=True)]


def _board(space: Space, number: int, case: Case, wanted: Array) -> ExploredBoard:
    promises = headline_of(case).promises
    chance = keeps_all(case, promises, wanted)
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
        promises=promises,
        chance=chance,
        chance_in_words=in_words(chance),
    )


def keeps_all(case: Case, promises: Sequence[Promise], wanted: Array) -> float:
    """The share of its samples in which a board keeps all that is wanted at once."""
    values = [*(case.headline_values[n] for n in ("speed", "hill")), _far(case), case.headline_values["carry"]]
    kept = kept_in(values, wanted[:MONEY], [p < CARRY for p in range(MONEY)])
    money = next(p.mid for p in promises if p.name == "money") or 0.0
    return 0.0 if money > wanted[MONEY] else float(kept.mean())


def _far(case: Case) -> Array:
    name = RANGES[case.build.brief.range_means or "with_reserve"][0]
    return case.values[name] if name == "worst" else case.headline_values[name]


def _wishing(build: Build, wanted: Array) -> Build:
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


def _mid(board: ExploredBoard, name: PromiseName) -> float:
    return next(p.mid for p in board.promises if p.name == name) or 0.0


def _picked(space: Space, front: Sequence[ExploredBoard]) -> list[PickedBoard]:
    """Up to three that are unlike each other: what is enough and no dearer, what is lightest, what is surest."""
    if not front:
        return []
    known: dict[int, tuple[list[str], list[str]]] = {}
    best = max(b.chance for b in front)
    enough = min(SURE, best - _SUREST_BY)
    orders: list[tuple[str, list[ExploredBoard]]] = [
        ("Enough, for the least money", sorted((b for b in front if b.chance >= enough), key=_by("money"))),
        ("Lightest that does it", sorted((b for b in front if b.chance >= enough), key=_by("carry"))),
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


def _by(name: PromiseName) -> Any:
    return lambda board: _mid(board, name)


def _alike(one: ExploredBoard, other: ExploredBoard) -> bool:
    """Whether two boards are the same to their builder: nearly the same parts, doing nearly the same."""
    apart = sum(a.label != b.label for a, b in zip(one.chosen, other.chosen, strict=True))
    same = all(
        abs((p.mid or 0.0) - (q.mid or 0.0)) <= 0.08 * max(abs(p.mid or 0.0), 1e-9)
        for p, q in zip(one.promises, other.promises, strict=True)
    )
    return apart == 0 or (apart <= 2 and same)


def _grave(space: Space, board: ExploredBoard, known: dict[int, tuple[list[str], list[str]]]) -> list[str]:
    if board.number not in known:
        known[board.number] = grave_titles(space.board(board.number), board.promises, space.build)
    board.grave, board.also = known[board.number]
    return board.grave


_FOLLOW = {
    *("enclosure", "second_enclosure", "charger", "charge_port", "fuse", "wiring", "switch", "protection"),
    *("risers", "spreaders", "mount", "covers", "remote", "loads", "extras"),
}
"""Parts that are chosen for the others, and so follow another choice of those."""


def grave_titles(build: Build, promises: Sequence[Promise], before: Build) -> tuple[list[str], list[str]]:
    """What the bench would show as a danger or a misfit and what is not open did not bring already: what keeps the parts apart,
    and what another part beside them mends.
    """
    of_before = {f.id for f in findings(before, headline_of(Case(before, 0)).promises, None)}
    grave: list[str] = []
    also: list[str] = []
    for f in findings(build, promises, None):
        if f.severity in ("danger", "stop") and f.id not in of_before and f.kind != "brief":
            (also if _FOLLOW & set(f.about) else grave).append(f.title)
    return grave, also


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
        quantity=QUANTITY[NAMES[p]],
        low=low,
        high=high,
        wanted=None if np.isnan(wanted[p]) else float(wanted[p]),
        boards=np.histogram(values, edges)[0].tolist(),
        sure=np.histogram(values[chance >= SURE], edges)[0].tolist(),
    )


def _cloud(explored: Explored, across: PromiseName, up: PromiseName, chance: Array) -> Cloud:
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
    best = explored.bearable(wanted)
    found = [
        GiveUp(name=n, quantity=QUANTITY[n], wanted=float(w), bearable=float(b))
        for n, w, b in zip(NAMES, wanted, best, strict=True)
        if np.isfinite(w) and np.isfinite(b)
    ]
    return sorted(found, key=lambda g: abs(g.bearable - g.wanted) / max(abs(g.wanted), 1e-9))


def _says(explored: Explored, wanted: Array, sure: int, best: float, give_up: Sequence[GiveUp]) -> Saying:
    """The whole of it in a sentence or two."""
    if not explored.all:
        return say("No board can be put together of these: what is open does not go together.")
    if not np.isfinite(wanted).any():
        return say("The brief asks for nothing yet: say what the board has to do, and the boards fall into order.")
    count = (float(len(explored.boards)), "count")
    if sure:
        keeps = "keeps" if sure == 1 else "keep"
        return say(
            f"{{sure}} of {{all}} boards {keeps} all of it, eight times in ten.", sure=(sure, "count"), all=count
        )
    said = "No board of these keeps all of it eight times in ten; the surest does so " + in_words(best) + "."
    if not give_up:
        said += " Giving up one wish alone does not help: more than one is out of reach."
        share = explored.least_together(wanted)
        if share is None:
            return say(said + " Not even half of each would do.")
        return say(said + " Each eased by {share} would do.", share=(100.0 * share, "share"))
    first = give_up[0]
    least = " The least to give up: {bearable} of " + _WORDS[first.name] + " instead of {wanted}."
    pair = _excluding(explored, wanted, give_up)
    if pair is not None:
        one, other = pair
        said += f" The {_WORDS[one.name]} and the {_WORDS[other.name]} exclude each other:"
        said += " with the {other} it is {bearable} that can be had, and {wanted} takes {instead}."
        return say(
            said,
            bearable=(one.bearable, one.quantity),
            wanted=(one.wanted, one.quantity),
            other=(other.wanted, other.quantity),
            instead=(other.bearable, other.quantity),
        )
    return say(said + least, bearable=(first.bearable, first.quantity), wanted=(first.wanted, first.quantity))


def _excluding(explored: Explored, wanted: Array, give_up: Sequence[GiveUp]) -> tuple[GiveUp, GiveUp] | None:
    """Two wishes that no board keeps even where nothing else is asked, the least to give up among them first."""
    for i, one in enumerate(give_up):
        for other in give_up[i + 1 :]:
            alone = np.full(len(NAMES), np.nan)
            for g in (one, other):
                alone[NAMES.index(g.name)] = g.wanted
            if explored.chances(alone).max(initial=0.0) < SURE:
                return one, other
    return None


_HOLDS_BACK: dict[str, str] = {
    "motor current": "a controller and a motor for more current, or pulleys of a lower gear",
    "pack current": "cells that give more current, or more of them side by side",
    "pack voltage": "more cells in series, a motor of higher KV, or pulleys of a higher gear",
    "low-voltage taper": "a larger pack, or cells that sag less",
    "electrical speed": "a controller for more electrical speed, or a motor with fewer pole pairs",
    "grip": "a second driven wheel",
    "pack power": "a larger pack, or cells of less resistance",
}


def _lacks(explored: Explored, chance: Array, wanted: Array) -> list[Saying]:
    """Which kind of part is not among what is open: what holds back the boards that come nearest, wish by wish."""
    nearest = np.argsort(-explored.nearness(wanted), kind="stable")[:200]
    found: list[Saying] = []
    for p, which in ((SPEED, 0), (HILL, 1)):
        if np.isnan(wanted[p]) or (explored.promised[nearest, p] >= wanted[p]).mean() > 0.5:
            continue
        names = [explored.limit(int(i), which) for i in nearest]
        limit = max(set(names), key=names.count)
        part = _HOLDS_BACK.get(limit)
        if part:
            found.append(say(f"For the {_WORDS[NAMES[p]]} there would have to be {part}: {limit} gives way first."))
    if np.isfinite(wanted[RANGE]) and (explored.promised[nearest, RANGE] >= wanted[RANGE]).mean() <= 0.5:
        found.append(say("For the range there would have to be a larger pack among what is open."))
    return found


# --- one board looked into -------------------------------------------------------------------------------------------


def looked_into(space: Space, library: Mapping[str, Sequence[Part]], number: int, wanted: Array) -> LookedInto:
    """One board of the space, what a step along every axis buys, and the nearest real parts."""
    board = worked_out(space, np.array([number]), wanted)[0]
    build = space.board(number)
    board.grave, board.also = grave_titles(build, board.promises, space.build)
    steps = []
    for i, axis in enumerate(space.axes):
        numbers = space.beside(number, i)
        fits = put_together(space, numbers)[0] & np.isin(numbers, space.boards)
        rows = worked_out(space, numbers, wanted)
        values = [
            StepValue(
                label=label_of(axis, j),
                number=int(n),
                here=int(n) == number,
                chance=row.chance,
                in_short=in_short(row.chance),
                promises=row.promises,
                fits=bool(ok),
            )
            for j, (n, row, ok) in enumerate(zip(numbers, rows, fits, strict=True))
        ]
        steps.append(AxisSteps(path=axis.path, title=axis.title, values=values))
    return LookedInto(
        board=board,
        parts=build.parts.model_dump(mode="json", exclude_none=True),
        settings=build.settings.model_dump(mode="json", exclude_none=True),
        steps=steps,
        real=_real_parts(space, library, number, wanted),
    )


_FREE: dict[str, tuple[str, tuple[str, ...]]] = {
    "parts.motors.kv_rpm_per_v": ("motors", ("kv_rpm_per_v", "can_diameter_mm", "can_length_mm")),
    "parts.drive.motor_teeth": ("drive", ("motor_teeth", "wheel_teeth")),
    "parts.drive.wheel_teeth": ("drive", ("motor_teeth", "wheel_teeth")),
    "parts.wheels.diameter_mm": ("wheels", ("diameter_mm",)),
    "parts.pack.series": ("pack", ("series", "parallel")),
    "parts.pack.parallel": ("pack", ("series", "parallel")),
}
_NEAREST = 3


def _real_parts(space: Space, library: Mapping[str, Sequence[Part]], number: int, wanted: Array) -> list[RealPart]:
    """For every figure that was free the parts of the library that come nearest to it, laid on the board."""
    build = _wishing(space.board(number), wanted)
    kinds = {_FREE[a.path] for a in space.axes if a.path in _FREE}
    tried: list[tuple[str, Part, Build]] = []
    for kind, keys in sorted(kinds):
        own = getattr(build.parts, kind)
        if own is None:
            continue
        near = sorted(((_apart(own, p, keys), i) for i, p in enumerate(library.get(kind, ()))), key=lambda n: n)
        for apart, i in near[:_NEAREST]:
            if np.isfinite(apart):
                made = with_part(build, kind, library[kind][i])
                count = (build.parts.motors.count if build.parts.motors else 1) or 1
                made = _driven(made, count)
                tried.append((kind, library[kind][i], made.model_copy(update={"settings": first_settings(made)})))
    found = []
    for (kind, part, made), case in zip(tried, cases([b for _, _, b in tried], FEW) if tried else [], strict=True):
        if case.needs:
            continue
        promises = headline_of(case).promises
        sure = keeps_all(case, promises, wanted)
        found.append(
            RealPart(
                path=f"parts.{kind}",
                name=part.name or "",
                maker=part.maker,
                chance=sure,
                in_short=in_short(sure),
                promises=promises,
                parts=made.parts.model_dump(mode="json", exclude_none=True),
            )
        )
    return found


def _driven(build: Build, count: int) -> Build:
    """As many driven wheels as there are motors."""
    drive = build.parts.drive
    if drive is None:
        return build
    parts = build.parts.model_copy(update={"drive": drive.model_copy(update={"driven_wheels": count})})
    return build.model_copy(update={"parts": parts})


def _apart(own: Part, other: Part, keys: Sequence[str]) -> float:
    """How far two parts are from each other, as the sum of squares of their figures' logarithms."""
    total = 0.0
    for key in keys:
        a, b = getattr(own, key, None), getattr(other, key, None)
        if a is None:
            continue
        if b is None:
            return float("inf")
        total += float(np.log(a / b)) ** 2
    return total
