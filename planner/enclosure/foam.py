"""Foam under the rim of a flat box: how many layers where, so that it is pressed everywhere alike."""

from itertools import groupby

from pydantic import BaseModel

from planner.enclosure.plan import FOAM_LAYER, EnclosurePlan

STEP = 10.0
"""mm along the rim at which the gap is looked at."""


class FoamStrip(BaseModel):
    """A strip along one side of the rim: from where to where (mm from the box's front end, or across), in how many layers."""

    side: str
    start: float
    end: float
    layers: int
    gap_mm: float


def foam(plan: EnclosurePlan) -> list[FoamStrip]:
    """Strips around the rim; none where the rim follows the deck."""
    if plan.follows:
        return []
    y = plan.width / 2.0 + plan.sides / 2.0
    across, along = (_places(length) for length in (2.0 * y, plan.length))
    side = _strips("each long side", [(x, plan.rise(x, y)) for x in along], plan.length)
    front, rear = (
        _strips(name, [(a, plan.rise(x, a - y)) for a in across], 2.0 * y)
        for name, x in (("front end", 0.0), ("rear end", plan.length))
    )
    if [(s.start, s.layers) for s in front] == [(s.start, s.layers) for s in rear]:
        return [*side, *(s.model_copy(update={"side": "each end"}) for s in front)]
    return [*side, *front, *rear]


def _places(length: float) -> list[float]:
    """Middles of even steps along a side."""
    count = max(round(length / STEP), 1)
    return [length * (i + 0.5) / count for i in range(count)]


def _strips(side: str, gaps: list[tuple[float, float]], length: float) -> list[FoamStrip]:
    """Neighbouring places with as many layers are one strip; one layer lies everywhere, to seal."""
    half = length / len(gaps) / 2.0
    runs = [list(run) for _, run in groupby(gaps, key=lambda g: layers(g[1]))]
    return [
        FoamStrip(
            side=side,
            start=run[0][0] - half,
            end=run[-1][0] + half,
            layers=layers(run[0][1]),
            gap_mm=max(gap for _, gap in run),
        )
        for run in runs
    ]


def layers(gap: float) -> int:
    """Layers of foam over a gap: one lies everywhere, to seal."""
    return 1 + round(gap / FOAM_LAYER)
