"""What would it change: every part of a kind, tried on a build in one run of the engine."""

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import Part
from boardmath.checks import Finding, findings
from boardmath.checks.riding import OF_THE_RIDE
from boardmath.messages import Message
from boardmath.model.evaluation import RANGE_VALUES, Evaluation, evaluate
from boardmath.model.inputs import range_means
from boardmath.parts.part_selection import with_part
from boardmath.prediction.outcomes import MISSED, Headline, Outcome, OutcomeName, Verdict, headline_of
from boardmath.prediction.part_columns import (
    OwnColumn,
    Telling,
    can_be_judged,
    not_of_this_board,
    own_columns,
    own_figures,
)
from boardmath.prediction.ranges import changes_of

TRIED = 32
"""Samples of each candidate: enough for the change, as all meet the same riders and days."""


class Change(BaseModel):
    """An outcome's middle if the part were chosen, what that changes, its own range, and the verdict then."""

    name: OutcomeName
    quantity: str
    mid: float | None = None
    change: float | None = None
    low: float | None = None
    high: float | None = None
    """Of the change, over the same riders and days for both: far narrower than either outcome's own range."""
    sure: bool = True
    """Whether all of that span is to one side: more, or less."""
    chance: float | None = None
    verdict: Verdict
    better: bool | None = None
    more_is_better: bool


class Candidate(BaseModel):
    """A part with what it would change. ``parts`` are the build file's parts that the choice replaces; ``left_over`` is the
    build file's list of what was bought and is no longer on the board, where the choice adds to it.
    """

    index: int
    """Its place among the parts that were asked about."""
    name: str
    maker: str | None = None
    record: dict[str, Any]
    chosen: bool
    parts: dict[str, Any]
    settings: dict[str, Any] | None = None
    """The build file's settings, where the choice takes along what was set for the old part."""
    own: dict[str, Telling] = {}
    """What is to be told of such a part, by the columns that the kind has of its own."""
    left_over: list[dict[str, Any]] | None = None
    changes: list[Change]
    findings: list[Finding]
    """What is grave about it: what it would bring, and what is wrong with it in any case."""
    fits: bool | None
    """None before there is anything that it could fit, or not."""
    owned: bool
    price: float | None = None


class Choice(BaseModel):
    """The candidates for a slot, best first for what the brief lacks most."""

    lacks: OutcomeName | None
    candidates: list[Candidate]
    columns: list[OutcomeName] = []
    """The outcomes that any of them moves: the others need no column."""
    own: list[OwnColumn] = []
    nothing: Message | None = None
    """Why there is nothing to choose, where the board has no such part."""


_VALUES: dict[OutcomeName, str] = {"speed": "speed", "hill": "hill", "carry": "carry"}


def value_of(build: Build, name: OutcomeName) -> str | None:
    """The name among the values of what an outcome shows; None of money, which has no samples."""
    if name == "range":
        return RANGE_VALUES[range_means(build)]
    return _VALUES.get(name)


def changes_from(
    base: Evaluation, now: Sequence[Outcome], evaluations: Sequence[Evaluation], then: Sequence[Headline]
) -> list[list[Change]]:
    """What becomes of every outcome in each of ``evaluations``, and how sure that is, over the same riders and days."""
    spans: list[dict[OutcomeName, tuple[float, float] | None]] = [{} for _ in evaluations]
    ready = [i for i, c in enumerate(evaluations) if not c.needs and not base.needs]
    for before in now:
        name = value_of(base.build, before.name)
        if name is None or not ready:
            continue
        values = [
            evaluations[i].values[name] if name == "worst" else evaluations[i].headline_values[name] for i in ready
        ]
        start = base.values[name] if name == "worst" else base.headline_values[name]
        for i, span in zip(ready, changes_of(start, values), strict=True):
            spans[i][before.name] = span
    return [
        [change_of(before, after, own.get(before.name)) for before, after in zip(now, line.outcomes, strict=True)]
        for own, line in zip(spans, then, strict=True)
    ]


def change_of(before: Outcome, after: Outcome, span: tuple[float, float] | None = None) -> Change:
    """What became of an outcome; ``span`` is how far the change may lie off."""
    change = None if after.mid is None or before.mid is None else after.mid - before.mid
    low, high = (min(span[0], change), max(span[1], change)) if span and change is not None else (None, None)
    return Change(
        name=after.name,
        quantity=after.quantity,
        mid=after.mid,
        change=change,
        low=low,
        high=high,
        sure=low is None or high is None or low >= 0.0 or high <= 0.0,
        chance=after.chance,
        verdict=after.verdict,
        better=_better(before.mid, after.mid, after.more_is_better),
        more_is_better=after.more_is_better,
    )


def lacks_most(outcomes: Sequence[Outcome]) -> OutcomeName | None:
    """The outcome furthest from its target, as a share of it; None where the brief is kept or says nothing."""
    short: dict[OutcomeName, float] = {
        p.name: (p.wanted - p.mid if p.more_is_better else p.mid - p.wanted) / max(p.wanted, 1e-9)
        for p in outcomes
        if p.wanted is not None and p.mid is not None and p.verdict in {*MISSED, "uncertain"}
    }
    return max(short.items(), key=lambda item: item[1])[0] if short else None


def best_first(lacks: OutcomeName | None, found: Sequence[Candidate]) -> list[Candidate]:
    """What fits before what does not, then by the gain in what is lacking; otherwise as given."""

    def gain(one: Candidate) -> float:
        change = next((c for c in one.changes if c.name == lacks), None)
        if change is None or change.change is None:
            return 0.0
        return change.change if change.more_is_better else -change.change

    return sorted(found, key=lambda c: (c.fits is False, -gain(c)))


def choice(build: Build, kind: str, parts: Sequence[Part]) -> Choice:
    """The candidates for a slot in the order in which to look at them."""
    if (nothing := not_of_this_board(build, kind)) is not None:
        return Choice(lacks=None, candidates=[], nothing=nothing)
    now, found = _tried(build, kind, parts)
    lacks = lacks_most(now)
    moved = {c.name for one in found for c in one.changes if c.change is not None and _shows(c)}
    return Choice(
        lacks=lacks,
        candidates=best_first(lacks, found),
        columns=[p.name for p in now if p.name in moved or p.name == "money"],
        own=own_columns(kind),
    )


def _shows(change: Change) -> bool:
    """Whether a change is more than a scale or a stopwatch would miss."""
    return change.change is not None and abs(change.change) > 5e-3 * max(abs(change.mid or 0.0), 1e-9)


def candidates(build: Build, kind: str, parts: Sequence[Part]) -> list[Candidate]:
    """Each of ``parts`` tried on ``build``, in the same order; ``findings`` are those that the choice would bring."""
    return _tried(build, kind, parts)[1]


def _tried(build: Build, kind: str, parts: Sequence[Part]) -> tuple[list[Outcome], list[Candidate]]:
    """The outcomes as they are, and each part tried."""
    tried = [with_part(build, kind, part) for part in parts]
    base, *others = evaluate([build, *tried], TRIED)
    now, *then = (headline_of(c, explained=False) for c in (base, *others))
    all_changes = changes_from(base, now.outcomes, others, then)
    known = {f.id for f in findings(build, now.outcomes, None)}
    chosen, slot = _chosen(build, kind), "pack" if kind == "cell" else kind
    found = []
    for index, (part, result, headline) in enumerate(zip(parts, tried, then, strict=True)):
        # What was wrong before is not held against a part, unless it is about this very part and how it fits.
        grave = [
            f
            for f in findings(result, headline.outcomes, None)
            if f.severity in ("danger", "stop") and not f.accepted and (f.id not in known or _of_fit(f, slot))
        ]
        found.append(
            Candidate(
                index=index,
                name=part.name or "",
                maker=part.maker,
                record=part.model_dump(mode="json", exclude_none=True),
                chosen=(part.name, part.maker) == chosen,
                parts=_replaced(build, result),
                left_over=_left_over(build, result),
                settings=_settings(build, result),
                own=own_figures(kind, result, None if others[index].needs else others[index]),
                changes=all_changes[index],
                findings=grave,
                fits=False if grave else None if not can_be_judged(build, kind) else True,
                owned=bool(part.owned),
                price=part.price,
            )
        )
    return now.outcomes, found


def _of_fit(found: Finding, slot: str) -> bool:
    """Whether it is about how this very part fits; what is set wrong is mended by setting it, not by another part."""
    by_setting = any(field.startswith("settings.") for field in found.fields)
    return slot in found.about and found.id not in OF_THE_RIDE and not by_setting


def _better(before: float | None, after: float | None, more_is_better: bool) -> bool | None:
    """None where nothing changes that a scale or a stopwatch would show."""
    if before is None or after is None or abs(after - before) <= 1e-3 * max(abs(before), 1e-9):
        return None
    return (after > before) == more_is_better


def _chosen(build: Build, kind: str) -> tuple[str | None, str | None] | None:
    part = build.parts.pack.cell if kind == "cell" and build.parts.pack else getattr(build.parts, kind, None)
    return (part.name, part.maker) if part is not None else None


def _replaced(before: Build, after: Build) -> dict[str, Any]:
    """The parts that differ, as plain objects; None where the choice takes one away."""
    changed: dict[str, Any] = {}
    for name in type(before.parts).model_fields:
        old, new = getattr(before.parts, name), getattr(after.parts, name)
        if old is new:
            continue
        if isinstance(new, list):
            changed[name] = [e.model_dump(mode="json", exclude_none=True) for e in new]
        else:
            changed[name] = new.model_dump(mode="json", exclude_none=True) if new is not None else None
    return changed


def _settings(before: Build, after: Build) -> dict[str, Any] | None:
    return None if after.settings == before.settings else after.settings.model_dump(mode="json", exclude_none=True)


def _left_over(before: Build, after: Build) -> list[dict[str, Any]] | None:
    if after.left_over is before.left_over:
        return None
    return [left.model_dump(mode="json", exclude_none=True) for left in after.left_over or []]
