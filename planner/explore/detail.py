"""One board of a space looked into: what a step of each part buys, and the nearest real parts."""

from collections.abc import Mapping, Sequence

import numpy as np

from boardmath.buildfile import Build
from boardmath.buildfile.figures import Part
from boardmath.likelihood import in_short
from boardmath.model.evaluation import evaluate
from boardmath.model.sampling import FEW
from boardmath.parts.default_settings import first_settings
from boardmath.parts.part_selection import with_part
from boardmath.physics.types import Array
from boardmath.prediction.outcomes import headline_of
from planner.explore.compatibility import Compatibility
from planner.explore.picking import grave_titles, keeps_all, wishing, worked_out
from planner.explore.schemas import AxisSteps, LookedInto, RealPart, StepValue, label_of
from planner.explore.space import Space


def looked_into(space: Space, library: Mapping[str, Sequence[Part]], number: int, wanted: Array) -> LookedInto:
    """One board of the space, what a step along every axis buys, and the nearest real parts."""
    board = worked_out(space, np.array([number]), wanted)[0]
    build = space.board(number)
    board.grave, board.also = grave_titles(build, board.outcomes, space.build)
    steps, compatible = [], Compatibility(space)
    for i, axis in enumerate(space.axes):
        numbers = space.beside(number, i)
        fits = compatible.of(numbers)[0] & space.are_boards(numbers)
        rows = worked_out(space, numbers, wanted)
        values = [
            StepValue(
                label=label_of(axis, j),
                number=int(n),
                here=int(n) == number,
                chance=row.chance,
                in_short=in_short(row.chance),
                outcomes=row.outcomes,
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
    build = wishing(space.board(number), wanted)
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
    for (kind, part, made), evaluation in zip(
        tried, evaluate([b for _, _, b in tried], FEW) if tried else [], strict=True
    ):
        if evaluation.needs:
            continue
        outcomes = headline_of(evaluation).outcomes
        sure = keeps_all(evaluation, outcomes, wanted)
        found.append(
            RealPart(
                path=f"parts.{kind}",
                name=part.name or "",
                maker=part.maker,
                chance=sure,
                in_short=in_short(sure),
                outcomes=outcomes,
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
