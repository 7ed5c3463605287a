"""Which cells of a bag are fit to be built in: each rejected one with its reason."""

from collections import Counter
from collections.abc import Callable, Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile.electrics import Cell
from boardmath.buildfile.pack_assembly import MeasuredCell
from boardmath.messages import Message, message
from boardmath.model.cell_groups import TOO_EMPTY_V
from boardmath.model.estimate import salvaged
from boardmath.physics.types import Array

FALLEN_V = 0.030
"""V that a cell may fall in a week more than its good neighbours (common practice, no source: some 30 mV)."""
A_WEEK = 7.0
OUTLIER = 3.5
"""Modified z-score beyond which a value is an outlier (Iglewicz and Hoaglin, How to Detect and Handle Outliers, ASQC 1993)."""
LEAST_SCATTER = 0.02
"""Share of the median below which no scatter counts: good new cells differ by a per cent or two, and meters by as much."""
ENOUGH = 5
"""Cells without which there is nothing to stand out from."""


FAR_OVER_PHOSPHATE_V = 3.8
"""V at rest that says of the good ones of a bag that they are none of iron phosphate."""
PHOSPHATE_V = (3.25, 3.45)
"""V at which a charged iron phosphate cell rests, and no charged cell of the others (the open-circuit curves of physics/cell)."""

Why = Literal["too_empty", "self_discharge", "capacity", "resistance", "another_kind", "not_measured"]


Rejecting = Callable[[MeasuredCell, Why, Message], None]


class Rejected(BaseModel):
    """A cell that is not built in, and why."""

    id: str
    why: Why
    message: Message


def judged(cells: Sequence[MeasuredCell], cell: Cell | None = None) -> tuple[list[MeasuredCell], list[Rejected]]:
    """The cells that are fit, and those that are not.

    Args:
        cell: of what kind the pack is to be, where the build says; else the most frequent in the bag.
    """
    rejected: dict[str, Rejected] = {}
    lot = of_one_lot(cells, cell)

    def reject(one: MeasuredCell, why: Why, message: Message) -> None:
        rejected.setdefault(one.id, Rejected(id=one.id, why=why, message=message))

    for one in cells:
        if one.found_v is not None and one.found_v < TOO_EMPTY_V:
            reject(
                one,
                "too_empty",
                message(
                    "Found at {found}, below {least}: it is damaged in a way that shows only when it burns. Do "
                    "not charge or use it.",
                    found=(one.found_v, "cell_voltage"),
                    least=(TOO_EMPTY_V, "cell_voltage"),
                ),
            )
        if not one.capacity_ah and not lot:
            reject(
                one,
                "not_measured",
                message("Its capacity is not known. Charge and discharge it once, slowly and fully."),
            )
    _other_kinds(cells, cell, reject)
    left = [c for c in cells if c.id not in rejected]
    _fallen(left, reject)
    left = [c for c in left if c.id not in rejected]
    if not lot:
        _far_off(left, reject)
    return [c for c in cells if c.id not in rejected], [rejected[c.id] for c in cells if c.id in rejected]


def of_one_lot(cells: Sequence[MeasuredCell], cell: Cell | None) -> bool:
    """New cells that nobody measured: they are taken as their label says, and lie as they come."""
    return not any(c.capacity_ah for c in cells) and not (cell is not None and salvaged(cell))


def _other_kinds(cells: Sequence[MeasuredCell], cell: Cell | None, reject: Rejecting) -> None:
    wanted_size = cell.size if cell else None
    wanted_chemistry = cell.chemistry if cell else None
    sizes = Counter(c.size for c in cells if c.size)
    chemistries = Counter(c.chemistry for c in cells if c.chemistry)
    size = wanted_size if wanted_size in sizes else next((s for s, _ in sizes.most_common(1)), None)
    kind = (
        wanted_chemistry if wanted_chemistry in chemistries else next((s for s, _ in chemistries.most_common(1)), None)
    )
    for one in cells:
        if one.size and one.size != size:
            reject(
                one,
                "another_kind",
                message("A {size} cell among {others}: it does not fit beside them.", size=one.size, others=size),
            )
        elif one.chemistry and one.chemistry != kind:
            reject(
                one,
                "another_kind",
                message(
                    "{chemistry} among {kind}: its full voltage differs. Never mix them in one pack; that causes fires.",
                    chemistry=one.chemistry,
                    kind=kind,
                ),
            )


def _fallen(cells: Sequence[MeasuredCell], reject: Rejecting) -> None:
    """What fell, at rest, by more than its good neighbours: the upper quarter, as up to half of a bag may be bad; of a handful
    the best."""
    rested = [c for c in cells if c.rested_v is not None]
    if not rested:
        return
    good = float(np.quantile([c.rested_v or 0.0 for c in rested], 0.75 if len(rested) >= ENOUGH else 1.0))
    for one in rested:
        assert one.rested_v is not None
        bears = FALLEN_V * max((one.rested_days or A_WEEK) / A_WEEK, 1.0)
        if good > FAR_OVER_PHOSPHATE_V and PHOSPHATE_V[0] <= one.rested_v <= PHOSPHATE_V[1]:
            reject(
                one,
                "another_kind",
                message(
                    "At rest it has {rested} among {good}: an iron phosphate cell, or one that is almost empty. "
                    "Never put it in one pack with these.",
                    rested=(one.rested_v, "cell_voltage"),
                    good=(good, "cell_voltage"),
                ),
            )
        if good - one.rested_v > bears:
            reject(
                one,
                "self_discharge",
                message(
                    "Dropped to {rested} at rest; good cells here hold {good}. More than {bears} lower: it "
                    "self-discharges and would drain its group.",
                    rested=(one.rested_v, "cell_voltage"),
                    good=(good, "cell_voltage"),
                    bears=(bears, "cell_voltage"),
                ),
            )


def _far_off(cells: Sequence[MeasuredCell], reject: Rejecting) -> None:
    capacity = np.array([c.capacity_ah or 0.0 for c in cells])
    for one, score in zip(cells, _scores(capacity), strict=True):
        if abs(score) > OUTLIER:
            reject(
                one,
                "capacity",
                message(
                    "Capacity {holds}, where the median here is {middle}: "
                    + ("too worn to work beside them." if score < 0 else "another type of cell, or a meter set wrong."),
                    holds=(one.capacity_ah or 0.0, "charge"),
                    middle=(float(np.median(capacity)), "charge"),
                ),
            )
    read = [c for c in cells if c.resistance_mohm is not None]
    resistance = np.array([c.resistance_mohm or 0.0 for c in read])
    for one, score in zip(read, _scores(resistance, 0.1), strict=True):
        if score > OUTLIER:
            reject(
                one,
                "resistance",
                message(
                    "Resistance {has}, where the median here is {middle}: it heats up, and its neighbours carry "
                    "its share.",
                    has=(one.resistance_mohm or 0.0, "resistance"),
                    middle=(float(np.median(resistance)), "resistance"),
                ),
            )


def _scores(values: Array, least: float = LEAST_SCATTER) -> Array:
    """Modified z-scores: deviations from the median over the median deviation, 0.6745 of a standard deviation each."""
    if len(values) < ENOUGH:
        return np.zeros(len(values))
    middle = np.median(values)
    scatter = max(float(np.median(np.abs(values - middle))) / 0.6745, least * float(middle))
    return np.asarray((values - middle) / scatter)
