"""What is known of the inputs together: their place in the space of standard normals, before and after rides have taught.

Before any ride the inputs are independent: mean 0, covariance the identity. Evidence moves the mean and ties inputs to each
other; every room asks through :class:`boardmath.model.evaluation.Evaluation`, which takes it from the build.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from boardmath.buildfile.build import Build
from boardmath.buildfile.calibration import Calibration, LearnedInput
from boardmath.buildfile.once import once_for_variations
from boardmath.model.inputs import Input, student_score
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS
from boardmath.physics.types import Array

_TOLD = 0.92
"""An input of which less than this share of its doubt is left, or that moved by as much as is missing, was taught by rides."""


@dataclass(frozen=True)
class MultivariateNormal:
    """A joint normal distribution over the inputs' normal scores, by name; inputs that are not named stay as they were.

    Args:
        mean: of shape (n,); covariance: of shape (n, n), symmetric and positive definite.
        forgotten: names of which nothing is known after all, as they are another thing now.
    """

    names: tuple[str, ...]
    mean: Array
    covariance: Array
    forgotten: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        unknown = [n for n in self.names if n not in COLUMN]
        if unknown:
            raise ValueError(f"no input of the model is called {unknown[0]}")
        if self.mean.shape != (len(self.names),) or self.covariance.shape != (len(self.names),) * 2:
            raise ValueError("mean and covariance have to have a row for each name")

    def moved(self, z: Array) -> Array:
        """Standard normal scores of all inputs, shape (rows, inputs), as draws from this distribution.

        What is forgotten keeps its own draws; all others are the same draws whatever is forgotten, so that two boards of one
        rider
        meet the same rider.
        """
        made = z.copy()
        made[:, self.columns] = self.mean + z[:, self.columns] @ self._root.T
        lost = [COLUMN[n] for n in self.forgotten if n in COLUMN]
        made[:, lost] = z[:, lost]
        return made

    def marginal(self, name: str) -> tuple[float, float]:
        """Mean and deviation of one input's normal score."""
        if name not in self.names:
            return 0.0, 1.0
        at = self.names.index(name)
        return float(self.marginals[0, at]), float(self.marginals[1, at])

    def middles(self, inputs: Mapping[str, Input]) -> Array:
        """The normal scores of the middles of these inputs, in the order of ``names``."""
        spread = np.array([inputs[n].spread for n in self.names])
        lognormal = np.array([inputs[n].shape == "lognormal" for n in self.names])
        return middle_scores(spread, lognormal, *self.marginals)

    @cached_property
    def columns(self) -> list[int]:
        """Of the inputs named, among all inputs."""
        return [COLUMN[n] for n in self.names]

    @cached_property
    def marginals(self) -> Array:
        """Means, and deviations, of the normal scores; what is forgotten is as it was before any ride."""
        lost = np.array([n in self.forgotten for n in self.names], dtype=bool)
        known: Array = np.stack([self.mean, np.sqrt(np.diag(self.covariance))])
        known[:, lost] = [[0.0], [1.0]]
        return known

    @cached_property
    def _root(self) -> Array:
        return np.linalg.cholesky(self.covariance).astype(np.float64)


def nothing_known() -> MultivariateNormal:
    """What is known before any ride."""
    return MultivariateNormal(tuple(i.name for i in INPUTS), np.zeros(len(INPUTS)), np.eye(len(INPUTS)))


def posterior_of(build: Build, inputs: Mapping[str, Input]) -> MultivariateNormal | None:
    """What rides taught of a build whose inputs are these; None where nothing is left.

    What was learnt is carried over as a ratio where the same thing is stated otherwise by now. Of another part it is forgotten,
    but for the share that is the road's (:attr:`ModelInput.stays`), as long as the road has the same surface.
    """
    learned = _learned(build)
    if learned is None:
        return None
    now = [inputs[one.name] for one in learned.inputs]
    kept = np.array([_kept(*of, learned.same_road) for of in zip(learned.inputs, now, learned.left, strict=True)])
    if not kept.any():
        return None
    scale = kept * [
        one.spread / (own.spread or 1.0) if one.spread else 1.0 for one, own in zip(learned.inputs, now, strict=True)
    ]
    return learned.carried_over(kept, scale)


@dataclass(frozen=True)
class _Learned:
    """What rides taught as a build carries it; ``left`` are the deviations of the normal scores."""

    inputs: list[LearnedInput]
    covariance: Array
    left: list[float]
    same_road: bool
    joints: dict[bytes, MultivariateNormal] = field(default_factory=dict)
    """By what is kept of it: most of forty motors keep the same."""

    def carried_over(self, kept: Array, scale: Array) -> MultivariateNormal:
        """The same for other inputs, of which the share ``kept`` still holds."""
        key = kept.tobytes() + scale.tobytes()
        if key not in self.joints:
            names = tuple(one.name for one in self.inputs)
            covariance = self.covariance * np.outer(scale, scale) + np.diag(1.0 - kept**2)
            forgotten = frozenset(name for name, share in zip(names, kept, strict=True) if share == 0.0)
            mean = scale * np.array([one.mean for one in self.inputs])
            self.joints[key] = MultivariateNormal(names, mean, covariance, forgotten)
        return self.joints[key]


@once_for_variations
def _learned(build: Build) -> _Learned | None:
    calibration = build.calibration
    if calibration is None or not calibration.inputs:
        return None
    at = [i for i, one in enumerate(calibration.inputs) if one.name in COLUMN]
    covariance = np.array(calibration.covariance)[np.ix_(at, at)]
    # Written to a file and read back, it is only nearly symmetric.
    values, vectors = np.linalg.eigh((covariance + covariance.T) / 2.0)
    covariance = (vectors * np.clip(values, 1e-6, None)) @ vectors.T
    return _Learned(
        inputs=[calibration.inputs[i].model_copy() for i in at],
        covariance=covariance,
        left=np.sqrt(np.diag(covariance)).tolist(),
        same_road=calibration.surface == build.brief.surface,
    )


_SAME = 0.2
"""In deviations: a part whose figure moved by less was measured or entered anew, and is no other part (reasoning: a scale or a
calliper moves a listed figure by less; another wheel of 76 instead of 90 mm moves its rolling resistance by 0.34)."""
_ROUNDED = 1e-3
"""By which a deviation that rides left as it was may be off after it was written to a file."""


def _kept(taught: LearnedInput, now: Input, left: float, same_road: bool) -> float:
    """The share of what was learnt of an input that still holds, 0 to 1; ``left`` is the deviation of its normal score."""
    if now.spread <= 0.0 or taught.spread <= 0.0:
        return 1.0 if taught.spread == now.spread and _moved(taught, now) == 0.0 else 0.0
    if left * taught.spread > now.spread * (1.0 + _ROUNDED):
        return 0.0  # what is stated now is better known than what was learnt
    of = BY_NAME[taught.name]
    if of.owner != "machine" or abs(_moved(taught, now)) <= _SAME * taught.spread:
        return 1.0
    return of.stays if same_road else 0.0


def _moved(taught: LearnedInput, now: Input) -> float:
    """How far an input's estimate has moved since, as its shape scatters."""
    if now.shape == "additive":
        return now.value - taught.value
    one, other = (
        (1.0 - now.value, 1.0 - taught.value) if now.shape == "complement_lognormal" else (now.value, taught.value)
    )
    if one <= 0.0 or other <= 0.0:
        return 0.0 if one == other else np.inf
    # A file keeps fewer digits.
    return 0.0 if abs(one - other) <= 1e-6 * other else float(np.log(one / other))


def written(
    joint: MultivariateNormal, inputs: Mapping[str, Input], rides: int, build: Build, boards: list[str] | None = None
) -> Calibration:
    """A joint distribution as a build carries it; ``build`` is the one that was ridden."""
    return Calibration(
        inputs=[
            LearnedInput(name=n, value=inputs[n].value, spread=inputs[n].spread, mean=round(float(m), 5))
            for n, m in zip(joint.names, joint.mean, strict=True)
        ],
        covariance=[[round(float(c), 6) for c in row] for row in joint.covariance],
        rides=rides,
        surface=build.brief.surface,
        boards=boards or None,
    )


def as_calibrated(name: str, known: Input, joint: MultivariateNormal | None) -> Input:
    """An input as rides left it: its value moved, its spread as small as it has become, its origin the rides."""
    if joint is None or known.spread <= 0.0:
        return known
    mean, left = joint.marginal(name)
    if left > _TOLD and abs(mean) < 1.0 - _TOLD:
        return known
    return replace(
        known,
        value=moved_value(known, middle_of(known, mean, left)),
        spread=known.spread * left,
        origin="rides",
        rule=None,
    )


def middle_of(known: Input, mean: float, left: float) -> float:
    """The normal score of the middle where ``mean`` and ``left`` are mean and deviation of an input's normal score."""
    return float(middle_scores(known.spread, known.shape == "lognormal", mean, left))


def middle_scores(spread: Array | float, lognormal: NDArray[np.bool_] | bool, mean: float, left: float) -> Array:
    """The same of many inputs by their spread and whether they are lognormal.

    What adds up over many ways is reckoned by its mean: as its doubt goes, so does what that mean has over the median.
    """
    return np.asarray(mean - np.where(lognormal, spread, 0.0) * (1.0 - left * left) / 2.0)


def moved_value(known: Input, z: float) -> float:
    """The value of an input at a normal score of ``z``; 0 is the middle, the value itself."""
    if known.shape == "complement_lognormal":
        return 1.0 - (1.0 - known.value) * float(np.exp(known.spread * z))
    if known.shape == "additive":
        return known.value + known.spread * z
    if known.shape == "student":
        z = float(student_score(z))
    return known.value * float(np.exp(known.spread * z))
