"""How far can I still go? For what a meter, the controller or a gauge reads now: the charge, and the kilometres that are left.

A small table of a board with its rider, to be looked up without a network: rows of volts, columns of chances.
"""

from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.calibration.observing import INSTRUMENT, RESTED_S, cell_reading, rest_curve
from boardmath.engine import sweeps
from boardmath.engine.boards import changed, stacked
from boardmath.interval import Interval
from boardmath.likelihood import ALMOST_CERTAIN, LIKELY, WithChance, in_words
from boardmath.messages import Message, message
from boardmath.model.evaluation import Evaluation
from boardmath.model.model_inputs import COLUMN
from boardmath.model.sampling import FEW, standard_normal
from boardmath.physics.types import Array

ReadBy = Literal["meter", "controller", "gauge"]
READ_BY: tuple[ReadBy, ...] = ("meter", "controller", "gauge")
CHANCES = (ALMOST_CERTAIN, 0.9, LIKELY, 0.7, 0.6, 0.5, 0.4, 0.3, 1.0 - LIKELY, 0.1)
"""Of which the distance is told that is reached with at least that chance."""
IN_A_COLUMN = (ALMOST_CERTAIN, LIKELY, 0.5, 1.0 - LIKELY)
"""Those that are shown; between them a way home has its own."""
PACES = (1.0, 0.8, 0.6)
"""Shares of the usual speed: as always, gently, and as slowly as anybody keeps up on the way home; to whole km/h."""
LEVELS = 13
"""States of charge from which each board is ridden to its end. Between them the km are nearly straight: within 0.1 km of what 97
levels give, on all boards of the demonstration."""
STEP_V = 0.05
"""Of a cell: between two rows, and by which a full pack may read too high."""


class Chance(WithChance):
    """The chance with which at least so far is reached; ``shown`` where it is a column of the table."""

    in_words: str
    shown: bool = False


class Outside(BaseModel):
    """What is said of a reading under so many volts, or above them."""

    volts: float
    says: Message


class PaceLeft(BaseModel):
    """A speed on the flat, and the km that are reached at it with each chance."""

    speed_kmh: float
    km: list[float]


class RowOfVolts(BaseModel):
    """What is left at a reading: charge as a share, and by pace how far."""

    volts: float
    charge: Interval
    paces: list[PaceLeft]


class ReadingTable(BaseModel):
    """Rows for one way of reading, from the lowest volts to a full pack; and what is said outside of them, lowest volts first."""

    by: ReadBy
    rested: bool
    rows: list[RowOfVolts]
    below: list[Outside]
    above: Outside


class HowFar(BaseModel):
    """What is left, for all ways of reading; ``beyond`` is the chance of more than the last distance."""

    chances: list[Chance]
    counted_on: int
    """Place among ``chances`` of the one whose distance is counted on."""
    beyond: Chance
    tables: list[ReadingTable]
    assumes: Message
    """For whom and what the figures are."""


def how_far(build: Build, samples: int = FEW) -> HowFar:
    """What is left for every reading of a board's pack.

    Args:
        build: the board as it is, with what rides taught.

    Raises:
        Incomplete: the board cannot be predicted yet.
    """
    evaluation = Evaluation(build, samples)
    kilometres = _kilometres(evaluation)
    taught = build.calibration.rides if build.calibration else 0
    return HowFar(
        chances=[Chance(chance=c, in_words=in_words(c), shown=c in IN_A_COLUMN) for c in CHANCES],
        counted_on=CHANCES.index(LIKELY),
        beyond=Chance(chance=0.0, in_words=f"under {in_words(CHANCES[-1])}"),
        tables=[_table(evaluation, kilometres, by, rested) for by in READ_BY for rested in (True, False)],
        assumes=message(
            "Until the pack is empty, with {load} on board at {air} and the brief’s wind and hills; {known}. "
            "Empty is where the controller cuts off: keep a margin.",
            load=(evaluation.resolved.inputs["load"].value, "body_mass"),
            air=(float(evaluation.board.ambient[0]), "temperature"),
            known=message("calibrated by {rides} rides", rides=taught)
            if taught
            else message("not calibrated by rides yet"),
        ),
    )


def _kilometres(evaluation: Evaluation) -> Array:
    """km to the cut-off from every level of charge at every pace, of shape (levels, paces, 1 + samples)."""
    boards = evaluation.boards
    many = [
        changed(
            boards,
            charge_start=level,
            cruise_speed=boards.cruise_speed * share,
            mean_speed=boards.mean_speed * share,
        )
        for level in np.linspace(0.0, 1.0, LEVELS)
        for _, share in _paces(evaluation)
    ]
    left = sweeps.rides(stacked(many)).to_the_end / 1000.0
    return np.asarray(left).reshape(LEVELS, len(PACES), len(boards))


def _paces(evaluation: Evaluation) -> list[tuple[float, float]]:
    """Of each pace the km/h on the flat, as far as the board reaches them, and its share of the usual speed."""
    wanted, usual = float(evaluation.board.cruise_speed[0]) * 3.6, evaluation.cruise * 3.6
    slower = [max(float(round(usual * share)), 1.0) for share in PACES[1:]]
    return [(usual, 1.0), *((speed, speed / wanted) for speed in slower)]


def _ends(rows: list[RowOfVolts], series: float, cell_v: tuple[float, float]) -> tuple[list[Outside], Outside]:
    """What is said under the empty end of the cells (common practice, no source), under the first row, and above a full pack.

    Args:
        cell_v: V of a cell at rest, empty and full.
    """
    lowest_v, full_v = cell_v[0] * series, cell_v[1] * series
    deep = message(
        "Under {lowest}, the cells are below their lowest voltage. Do not ride, and do not charge this pack: cells that were so "
        "low can catch fire when they are charged. Measure each group, and ask someone qualified in pack repair.",
        lowest=(lowest_v, "voltage"),
    )
    empty = message(
        "Under {first}, the pack is empty: the controller cuts off. Do not ride on. Measure each group before you charge: one "
        "under {cell} must not be charged. Then charge soon: cells that stay empty are damaged.",
        first=(rows[0].volts, "voltage"),
        cell=(cell_v[0], "voltage"),
    )
    full = message(
        "This pack is full at {full}. Check the reading, and the cells that you entered for this board. Do not charge a pack "
        "that is above its full voltage.",
        full=(full_v, "voltage"),
    )
    below = [Outside(volts=round(lowest_v, 2), says=deep), Outside(volts=rows[0].volts, says=empty)]
    return below, Outside(volts=round(full_v + STEP_V * series, 2), says=full)


def _table(evaluation: Evaluation, kilometres: Array, by: ReadBy, rested: bool) -> ReadingTable:
    fixed, z = evaluation.resolved.fixed, evaluation.normal_scores
    series = fixed["series"]
    charges, volts = rest_curve(int(fixed["chemistry"]), fixed["cell_full"])
    rising = np.maximum.accumulate(volts)
    low, scatter = cell_reading(series, by, RESTED_S if rested else 0.0)

    def offset(name: str) -> Array:
        return np.asarray(evaluation.resolved.inputs[name].spread * z[:, COLUMN[name]])

    own = np.concatenate([[0.0], standard_normal(evaluation.samples)[:, -2]])
    wrong_by = offset("cell_curve") + offset(INSTRUMENT[by]) / series + scatter * own
    cell_v = np.append(np.arange(rising[0], rising[-1] - STEP_V / 2.0, STEP_V), rising[-1])
    charge = np.interp(cell_v[:, np.newaxis] + low - wrong_by, rising, charges)
    paces, quantiles = _paces(evaluation), [1.0 - chance for chance in CHANCES]
    left = [evaluation.of_the_next_ride(_at(kilometres[:, i], charge)) for i in range(len(paces))]
    # Of shape (rows, paces, chances).
    km = np.stack([np.quantile(of_pace[:, 1:], quantiles, axis=1).T for of_pace in left], axis=1).round(1)
    low_charge, high_charge = np.quantile(charge[:, 1:], (0.1, 0.9), axis=1)
    nothing_left = int(np.count_nonzero(~km.any(axis=(1, 2))))
    rows = [
        RowOfVolts(
            volts=round(float(cell_v[r] * series), 2),
            charge=Interval(
                low=round(float(low_charge[r]), 3),
                mid=round(float(charge[r, 0]), 3),
                high=round(float(high_charge[r]), 3),
            ),
            paces=[PaceLeft(speed_kmh=round(speed, 1), km=km[r, i].tolist()) for i, (speed, _) in enumerate(paces)],
        )
        # Of the rows at which nothing is left the last is enough.
        for r in range(max(nothing_left - 1, 0), len(cell_v))
    ]
    below, above = _ends(rows, series, (float(rising[0]), float(rising[-1])))
    return ReadingTable(by=by, rested=rested, rows=rows, below=below, above=above)


def _at(kilometres: Array, charge: Array) -> Array:
    """What is left at a charge of each sample: from (levels, 1 + samples), for charges of shape (rows, 1 + samples)."""
    place, each = charge * (LEVELS - 1), np.arange(charge.shape[1])
    below = np.minimum(place.astype(int), LEVELS - 2)
    # Where nothing is left at the level below, the cut-off is somewhere between: the line of the next two levels finds it.
    below = np.where(kilometres[below, each] > 0.0, below, np.minimum(below + 1, LEVELS - 2))
    per_level = kilometres[below + 1, each] - kilometres[below, each]
    return np.asarray(np.maximum(kilometres[below, each] + (place - below) * per_level, 0.0))
