"""How sure a prediction is: quasi-random samples of everything not measured, through the same engine."""

from collections.abc import Mapping
from functools import lru_cache

import numpy as np
from pydantic import BaseModel
from scipy.special import ndtri

from boardmath.arrays import sampled_board, uncertain
from boardmath.parameters import Resolved
from boardmath.physics.types import Array
from boardmath.powertrain import Board

SAMPLES = 256
LOW, HIGH = 10.0, 90.0
"""Percentiles of the shown band."""


class Widening(BaseModel):
    """An input's share of a result's band, and what to measure to shrink it."""

    input: str
    result: str
    share: float
    measure: str | None = None


@lru_cache(maxsize=32)
def standard_normal(inputs: int, samples: int = SAMPLES) -> Array:
    """Sobol points (Owen-scrambled, fixed seed) as standard normal deviates, shape (samples, inputs)."""
    from scipy.stats import qmc  # slow to import, and many uses of the core need no bands

    points = qmc.Sobol(inputs, scramble=True, rng=np.random.default_rng(20)).random(samples)
    return np.asarray(ndtri(np.clip(points, 1e-6, 1.0 - 1e-6)))


def samples_of(build: Resolved, samples: int = SAMPLES) -> Board:
    """Samples of one build, deterministic for the same build."""
    return sampled_board(build, standard_normal(len(uncertain(build)), samples))


def band(values: Array) -> tuple[float, float]:
    """10th and 90th percentile."""
    low, high = np.percentile(values, (LOW, HIGH))
    return float(low), float(high)


def widest(build: Resolved, results: Mapping[str, Array], most: int = 3) -> list[Widening]:
    """For each result the inputs that widen its band most, by squared rank correlation over the samples."""
    names = uncertain(build)
    deviates = standard_normal(len(names))
    ranks = _standardised(deviates.argsort(axis=0).argsort(axis=0).astype(float))
    found: list[Widening] = []
    for result, values in results.items():
        if np.ptp(values) <= 1e-9 * max(1.0, float(np.abs(values).max())):
            continue
        rank = _standardised(values.argsort().argsort().astype(float)[:, np.newaxis])
        power = np.square((ranks * rank).mean(axis=0))
        shares = power / power.sum()
        for column in np.argsort(-shares)[:most]:
            if shares[column] >= 0.05:
                share = round(float(shares[column]), 3)
                measure = build.inputs[names[column]].measure
                found.append(Widening(input=names[column], result=result, share=share, measure=measure))
    return found


def _standardised(columns: Array) -> Array:
    return np.asarray((columns - columns.mean(axis=0)) / np.maximum(columns.std(axis=0), 1e-12))
