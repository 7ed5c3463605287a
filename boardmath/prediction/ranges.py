"""How sure a prediction is, whose doubt it is, and what to measure next to be surer."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from pydantic import BaseModel

from boardmath.model.evaluation import HIGH, LOW, Evaluation
from boardmath.model.model_inputs import BY_NAME, COLUMN, Owner
from boardmath.model.sampling import normal_scores
from boardmath.physics.types import Array

_LEAST_SHARE = 0.03


class Widening(BaseModel):
    """An input's share of a result's band, and what to measure to shrink it."""

    input: str
    title: str
    result: str
    share: float
    owner: Owner
    measure: str | None = None


class InputUncertainty(BaseModel):
    """Which part of a result's doubt is the rider's, the day's and the machine's; shares of the whole."""

    result: str
    rider: float
    day: float
    machine: float


class Gain(BaseModel):
    """How much narrower a result's band would be, from low to high, in the unit of ``quantity``."""

    result: str
    quantity: str
    narrower: float
    width: float


class MeasureNext(BaseModel):
    """Something to measure: what it tells, how long it takes, and what it does to the bands."""

    measure: str
    inputs: list[str]
    titles: list[str]
    fields: list[str]
    minutes: float
    gains: list[Gain]


QUANTITIES = {
    "speed": "speed",
    "hill": "grade",
    "range": "distance",
    "cut_off": "distance",
    "worst": "distance",
    "consumption": "energy_per_distance",
    "held": "grade",
    "carry": "body_mass",
}


def changes_of(base: Array, others: Sequence[Array]) -> list[tuple[float, float] | None]:
    """Low and high of what each of ``others`` differs from ``base``, sample by sample: the same riders on the same days."""
    if not others or len(base) < 2:
        return [None] * len(others)
    low, high = np.percentile(np.array(others)[:, 1:] - base[1:], (LOW, HIGH), axis=1)
    return [(float(a), float(b)) for a, b in zip(low, high, strict=True)]


def chance_of(values: Array, wanted: float, more: bool) -> float | None:
    """The share of samples on the right side of ``wanted``; None without samples."""
    if len(values) < 2:
        return None
    drawn = values[1:]
    return int(np.count_nonzero(drawn >= wanted if more else drawn <= wanted)) / len(drawn)


def kept_in(values: Sequence[Array], wanted: Sequence[float] | Array, more: Sequence[bool]) -> Array:
    """For each sample whether all of several results are on the right side of what is wanted; nan is not asked for.

    Args:
        values: of each result the middle and the samples; more: whether more of it is better.
    """
    kept = np.ones(len(values[0]) - 1, dtype=bool)
    for row, target, better_above in zip(values, wanted, more, strict=True):
        if not np.isnan(target):
            kept &= row[1:] >= target if better_above else row[1:] <= target
    return kept


_OF_INTEREST = ("speed", "hill", "range", "consumption", "held")


def _standardised(columns: Array) -> Array:
    return np.asarray((columns - columns.mean(axis=0)) / np.maximum(columns.std(axis=0), 1e-12))


def _ranked(columns: Array) -> Array:
    return _standardised(columns.argsort(axis=0).argsort(axis=0).astype(float))


@lru_cache(maxsize=4)
def _ranked_scores(samples: int) -> Array:
    return _ranked(normal_scores(samples)[1:])


def _shares(evaluation: Evaluation) -> tuple[list[str], dict[str, Array]]:
    """Names of the inputs with a spread, and for each result their shares of its band, by squared rank correlation."""
    names = [n for n, i in evaluation.inputs.items() if i.spread > 0.0]
    every = _ranked_scores(evaluation.samples) if evaluation.joint is None else _ranked(evaluation.normal_scores[1:])
    ranks = every[:, [COLUMN[n] for n in names]]
    found = {}
    for result in _OF_INTEREST:
        values = evaluation.values[result][1:]
        if not np.isfinite(values).all() or np.ptp(values) <= 1e-9 * max(1.0, float(np.abs(values).max())):
            continue
        rank = _ranked(values[:, np.newaxis])
        # What chance alone gives in so many samples is no share.
        power = np.maximum(np.square((ranks * rank).mean(axis=0)) - 1.0 / len(values), 0.0)
        if power.sum() > 0.0:
            found[result] = power / power.sum()
    return names, found


def unsure(evaluation: Evaluation, most: int = 3) -> tuple[list[Widening], list[InputUncertainty], list[MeasureNext]]:
    """For each result what widens its band most and whose doubt it is; and what to measure next, best first."""
    names, shares = _shares(evaluation)
    widest: list[Widening] = []
    doubts: list[InputUncertainty] = []
    for result, row in shares.items():
        by_owner: dict[Owner, float] = {"rider": 0.0, "day": 0.0, "machine": 0.0}
        for name, share in zip(names, row, strict=True):
            by_owner[BY_NAME[name].owner] += float(share)
        doubts.append(InputUncertainty(result=result, **{o: round(v, 3) for o, v in by_owner.items()}))
        for column in np.argsort(-row)[:most]:
            if row[column] >= _LEAST_SHARE:
                of = BY_NAME[names[column]]
                measure = of.measure.how if of.measure and evaluation.inputs[of.name].origin != "measured" else None
                widest.append(
                    Widening(
                        input=of.name,
                        title=of.title,
                        result=result,
                        share=round(float(row[column]), 3),
                        owner=of.owner,
                        measure=measure,
                    )
                )
    return widest, doubts, _measures(evaluation, names, shares)


def _measures(evaluation: Evaluation, names: list[str], shares: Mapping[str, Array]) -> list[MeasureNext]:
    """What each measurement would take off each band: the variance of its inputs goes down to what measuring leaves."""
    by_measure: dict[str, list[str]] = {}
    for name in names:
        measure, known = BY_NAME[name].measure, evaluation.inputs[name]
        if measure is not None and known.spread > 1.2 * measure.spread:
            by_measure.setdefault(measure.how, []).append(name)
    widths = {}
    for result in shares:
        low, high = evaluation.bands[result] or (0.0, 0.0)
        widths[result] = high - low
    found = []
    for how, inputs in by_measure.items():
        gains = []
        for result, row in shares.items():
            gone = 0.0
            for name in inputs:
                measure = BY_NAME[name].measure
                assert measure is not None
                left = measure.spread / evaluation.inputs[name].spread
                gone += float(row[names.index(name)]) * (1.0 - left * left)
            narrower = widths[result] * (1.0 - np.sqrt(max(1.0 - gone, 0.0)))
            if gone > _LEAST_SHARE and widths[result] > 0.0:
                gains.append(
                    Gain(result=result, quantity=QUANTITIES[result], narrower=float(narrower), width=widths[result])
                )
        if gains:
            records = [BY_NAME[n] for n in inputs]
            minutes = max(r.measure.minutes for r in records if r.measure)
            fields = [evaluation.inputs[n].field for n in inputs]
            titles = [r.title for r in records]
            found.append(
                MeasureNext(measure=how, inputs=inputs, titles=titles, fields=fields, minutes=minutes, gains=gains)
            )
    # What takes most off a band for the time that it takes comes first; the first minutes count less than the first hour.
    return sorted(found, key=lambda m: -max(g.narrower / g.width for g in m.gains) / (10.0 + m.minutes) ** 0.5)
