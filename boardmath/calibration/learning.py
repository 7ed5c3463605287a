"""What rides teach of the inputs together: the most probable inputs, and how sure they are, given everything that was measured.

Each ride's own business (its wind, its hurry, its way where nobody said) is taken out by its mean and covariance over a few
points; what remains is a nonlinear least-squares problem in the space of the priors' standard normals, solved by
``scipy.optimize.least_squares``, with the covariance from its Jacobian. A figure that contradicts the rest counts less the
further off it lies, as under a Student distribution with :data:`TAILS` degrees of freedom.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.optimize import least_squares

from boardmath.buildfile import Build
from boardmath.calibration.day import LASTING, RIDERS_OWN, the_day
from boardmath.calibration.observing import Observed, RidePredictor, observed
from boardmath.calibration.ride import Ride, as_document
from boardmath.model.inputs import Input
from boardmath.model.model_inputs import COLUMN, INPUTS, READS_VOLTS
from boardmath.model.posterior import MultivariateNormal
from boardmath.model.resolution import Resolved, resolve
from boardmath.physics.types import Array

TAILS = 8.0
_STEP = 0.1
"""Deviates by which an input is moved to see what it does."""
_SEASON = 60
"""Rides from which on inputs are moved one way only."""
_POINT = sqrt(3.0)
_BENT = ("stops", "ascent", "mean_speed")
"""Lasting inputs against which what a ride takes is bent: their doubt shifts its mean, and would else be taken for hurry."""
_ROUNDS = 3
"""How often the rides' own business is looked at anew, about the inputs found."""


@dataclass(frozen=True)
class Ridden:
    """A ride and the board as it was."""

    ride: Ride
    board: Build


@dataclass(frozen=True)
class Lesson:
    """What was learnt.

    ``names`` are the lasting inputs in doubt, ``mean`` and ``covariance`` theirs in normal scores, ``first`` what was known
    before any of these rides. For each ride in ``seen``: its slopes against these inputs (observations, inputs), what is
    expected of it at the mean and by how much its own business shifts that, the covariance of that business and its errors,
    and the weight of each observation, 1 for what agrees.
    """

    usual: Resolved
    names: tuple[str, ...]
    first: MultivariateNormal
    mean: Array
    covariance: Array
    seen: list[Observed]
    slopes: list[Array]
    said: list[Array]
    offsets: list[Array]
    noise: list[Array]
    weights: list[Array]
    own_shares: list[dict[str, Array]]
    """For each ride what each of its own doubts adds to the variance of each observation, and its slope; of shape (2,
    observations).
    """

    @property
    def joint(self) -> MultivariateNormal:
        return MultivariateNormal(self.names, self.mean, self.covariance)

    def weighed(self, k: int) -> Array:
        """The inverse of a ride's noise, what contradicts the rest counting less."""
        root = np.sqrt(self.weights[k])
        return np.asarray(root[:, np.newaxis] * np.linalg.inv(self.noise[k]) * root)


def order_of(ridden: Ridden) -> tuple[str, str, str]:
    """Rides in the order in which they were ridden, whatever the order in which they were entered."""
    ride = ridden.ride
    return ride.day, ride.at or "", repr(sorted(as_document(ride.model_copy(update={"id": None})).items()))


def observed_of(now: Build, rides: Sequence[Ridden], usual: Resolved) -> list[Observed]:
    """What the rides measured, in the order in which they were ridden; what was left out is not among it."""
    found = []
    for one in sorted((r for r in rides if r.ride.left_out is None), key=order_of):
        day = the_day(now, one.board, one.ride, usual)
        if day is None:
            continue
        seen = observed(day, usual)
        if seen.observations:
            found.append(seen)
    return found


def learn(now: Build, rides: Sequence[Ridden], before: MultivariateNormal | None = None) -> Lesson | None:
    """What ``rides`` teach of the board as it is ``now``; None where it cannot be predicted or nothing was measured.

    Args:
        before: what is known of the rider from other boards.

    Raises:
        Incomplete: the build is not far enough for a prediction.
    """
    now = now.model_copy(update={"calibration": None})
    usual = resolve(now)
    seen = observed_of(now, rides, usual)
    names = tuple(n for n in LASTING if usual.inputs[n].spread > 0.0)
    first = _first(names, before)
    if not seen:
        return None
    columns = [COLUMN[n] for n in names]
    root = np.linalg.cholesky(first.covariance)
    y = np.concatenate([[o.y for o in s.observations] for s in seen])
    floor = np.concatenate([[o.at_least for o in s.observations] for s in seen]).astype(bool)

    predictor = RidePredictor(seen, usual)
    # What only readings depend on is a straight line, and needs no engine.
    of_readings = predictor.readings[:, columns]
    of_boards = [i for i, n in enumerate(names) if n not in READS_VOLTS]
    looked: dict[bytes, tuple[Array, Array]] = {}

    def look(x: Array) -> tuple[Array, Array]:
        """What is predicted of every observation at lasting normal scores, and its slopes against them."""
        if (found := looked.get(x.tobytes())) is not None:
            return found
        step = _STEP * np.eye(len(x))[of_boards]
        # Of a whole season looking one way is enough: what is bent in one ride is lost among the many.
        rows = np.concatenate([x[np.newaxis], x + step] if len(seen) > _SEASON else [x[np.newaxis], x + step, x - step])
        z = np.zeros((len(rows), len(INPUTS)))
        z[:, columns] = rows
        whole = np.broadcast_to(z, (len(seen), *z.shape))
        said = predictor(whole, np.zeros_like(whole))
        up, down = said[1 : len(step) + 1], said[len(step) + 1 :]
        slope = of_readings.copy()
        slope[:, of_boards] = ((up - down) / (2.0 * _STEP) if len(down) else (up - said[0]) / _STEP).T
        return looked.setdefault(x.tobytes(), (said[0], slope))

    def loss(squares: Array, /, *, cost_only: bool | None = None) -> Array:
        """The prior as it is; evidence under a distribution with heavy tails."""
        rho = np.empty((3, len(squares)))
        rho[0], rho[1], rho[2] = squares, 1.0, 0.0
        far = squares[len(names) :] / TAILS
        rho[0, len(names) :] = TAILS * np.log1p(far)
        rho[1, len(names) :] = 1.0 / (1.0 + far)
        rho[2, len(names) :] = -1.0 / TAILS / (1.0 + far) ** 2
        return rho

    xi, left = np.zeros(len(names)), np.sqrt(np.diag(first.covariance))
    for _ in range(_ROUNDS):
        x = first.mean + root @ xi
        offsets, noises, shares = _own_business(seen, predictor, names, x, left)
        offset, white = np.concatenate(offsets), _Whitening(noises, predictor.cuts)

        def residuals(xi: Array, offset: Array = offset, white: _Whitening = white) -> Array:
            miss = y - look(first.mean + root @ xi)[0] - offset
            return np.concatenate([xi, white(_only_below(miss, floor))])

        def slopes(xi: Array, offset: Array = offset, white: _Whitening = white) -> Array:
            said, slope = look(first.mean + root @ xi)
            counts = ~floor | (y - said - offset > 0.0)
            return np.concatenate([np.eye(len(xi)), -white((slope * counts[:, np.newaxis]) @ root)])

        found = least_squares(
            residuals,
            xi,
            jac=slopes,
            loss=loss,
            method="trf",
            xtol=1e-4,
            ftol=1e-5,
            gtol=1e-5,
            max_nfev=5 if len(seen) > _SEASON else 12,
        )
        moved, xi = float(np.abs(found.x - xi).max()), found.x
        covariance = root @ np.linalg.inv(np.asarray(found.jac).T @ np.asarray(found.jac)) @ root.T
        closer, left = float(np.abs(np.sqrt(np.diag(covariance)) - left).max()), np.sqrt(np.diag(covariance))
        if moved < 0.02 and closer < 0.05:
            break
    else:
        offsets, noises, shares = _own_business(seen, predictor, names, first.mean + root @ xi, left)
    x = first.mean + root @ xi
    said, slope = look(x)
    miss = _only_below(y - said - np.concatenate(offsets), floor)
    slope = slope * (~floor | (miss > 0.0))[:, np.newaxis]
    white = _Whitening(noises, predictor.cuts)
    weight = 1.0 / (1.0 + white(miss) ** 2 / TAILS)
    whitened = white(slope @ root) * np.sqrt(weight)[:, np.newaxis]
    covariance = root @ np.linalg.inv(np.eye(len(xi)) + whitened.T @ whitened) @ root.T
    cut = predictor.cuts
    return Lesson(
        usual=usual,
        names=names,
        first=first,
        mean=x,
        covariance=(covariance + covariance.T) / 2.0,
        seen=seen,
        slopes=[slope[c] for c in cut],
        said=[said[c] + o for c, o in zip(cut, offsets, strict=True)],
        offsets=offsets,
        noise=noises,
        weights=[weight[c] for c in cut],
        own_shares=shares,
    )


def _only_below(miss: Array, floor: Array) -> Array:
    """What went further than predicted contradicts it; what was only known to go so far at least does not, when it falls
    short.
    """
    return np.where(floor, np.maximum(miss, 0.0), miss)


def _first(names: tuple[str, ...], before: MultivariateNormal | None) -> MultivariateNormal:
    """What is known before any of the rides."""
    mean, covariance = np.zeros(len(names)), np.eye(len(names))
    if before is not None:
        known = [n for n in before.names if n in names]
        at, of = [names.index(n) for n in known], [before.names.index(n) for n in known]
        mean[at] = before.mean[of]
        covariance[np.ix_(at, at)] = before.covariance[np.ix_(of, of)]
    return MultivariateNormal(names, mean, covariance)


class _Whitening:
    """Divides observations by the root of their covariance; rides err independently of each other."""

    def __init__(self, noises: Sequence[Array], cuts: Sequence[slice]) -> None:
        by_size: dict[int, list[int]] = {}
        for k, noise in enumerate(noises):
            by_size.setdefault(len(noise), []).append(k)
        self._blocks = [
            (
                np.stack([np.arange(cuts[k].start, cuts[k].stop) for k in rides]),
                np.linalg.inv(np.linalg.cholesky(np.stack([noises[k] for k in rides]))),
            )
            for rides in by_size.values()
        ]

    def __call__(self, values: Array) -> Array:
        """Args:
        values: of shape (observations,) or (observations, columns).
        """
        columns = values.reshape(len(values), -1)
        found = np.empty_like(columns)
        for places, inverse in self._blocks:
            found[places] = inverse @ columns[places]
        return found.reshape(values.shape)


def _own_business(
    seen: Sequence[Observed], predictor: RidePredictor, names: Sequence[str], x: Array, left: Array
) -> tuple[list[Array], list[Array], list[dict[str, Array]]]:
    """For each ride what doubts shift its observations by, the covariance of its own doubts and its errors, and whose it is.

    Three points a doubt (Gauss and Hermite's), one doubt at a time: exact for what is of the second degree in each.

    Args:
        x: the lasting inputs about which it is looked, ``left`` the deviations in which they are still in doubt.
    """
    doubts = [s.day.nuisances for s in seen]
    most = max(len(d) for d in doubts)
    bent = [n for n in _BENT if n in names]
    own = np.zeros((len(seen), 1 + 2 * (most + len(bent)), len(INPUTS)))
    lasting = np.zeros_like(own)
    lasting[:, :, [COLUMN[n] for n in names]] = x
    for k, columns_of_ride in enumerate(doubts):
        for j, column in enumerate(columns_of_ride):
            own[k, 1 + 2 * j, column], own[k, 2 + 2 * j, column] = _POINT, -_POINT
    for j, name in enumerate(bent, most):
        step = _POINT * float(left[list(names).index(name)])
        lasting[:, 1 + 2 * j, COLUMN[name]] += step
        lasting[:, 2 + 2 * j, COLUMN[name]] -= step
    said = predictor(lasting, own)
    every = list(COLUMN)
    offsets, noises, shares = [], [], []
    for k, one in enumerate(seen):
        of_ride = said[:, predictor.cuts[k]]
        middle = of_ride[0]
        offset, noise = np.zeros(len(middle)), np.diag([o.sd**2 for o in one.observations])
        share: dict[str, Array] = {}
        for j, column in enumerate(doubts[k]):
            up, down = of_ride[1 + 2 * j] - middle, of_ride[2 + 2 * j] - middle
            mean = (up + down) / 6.0
            spread = (np.outer(up, up) + np.outer(down, down)) / 6.0 - np.outer(mean, mean)
            offset, noise = offset + mean, noise + spread
            share[every[column]] = np.stack([np.diag(spread), (up - down) / 2.0])
        for j in range(most, most + len(bent)):
            offset = offset + (of_ride[1 + 2 * j] + of_ride[2 + 2 * j] - 2.0 * middle) / 6.0
        offsets.append(offset)
        noises.append(noise + 1e-9 * np.eye(len(middle)))
        shares.append(share)
    return offsets, noises, shares


CONTRADICTS = 0.5
"""Below this weight a figure contradicts the rest: some 2.8 deviations off."""


def contradicting(lesson: Lesson) -> list[str]:
    """Days of the rides of which a figure contradicts the others."""
    return [
        seen.day.ride.day
        for seen, weight in zip(lesson.seen, lesson.weights, strict=True)
        if (weight < CONTRADICTS).any()
    ]


@dataclass(frozen=True)
class OfTheRider:
    """What a board's rides say of the person alone: ``joint`` in deviations that have the spreads ``spread``."""

    joint: MultivariateNormal
    spread: tuple[float, ...]


def of_the_rider(lesson: Lesson) -> OfTheRider:
    """What the lesson says of the person alone, for their other boards."""
    names = tuple(n for n in RIDERS_OWN if n in lesson.names)
    at = [lesson.names.index(n) for n in names]
    joint = MultivariateNormal(names, lesson.mean[at], lesson.covariance[np.ix_(at, at)])
    return OfTheRider(joint, tuple(lesson.usual.inputs[n].spread for n in names))


def together(many: Sequence[OfTheRider], usual: Mapping[str, Input]) -> MultivariateNormal | None:
    """What several boards, each learnt by its own rides alone, say of their rider on a board whose inputs are ``usual``.

    What goes along is by how much the rider differs from what was thought, as a ratio: their evidence is added up.
    """
    names = tuple(n for n in RIDERS_OWN if usual[n].spread > 0.0 and any(n in one.joint.names for one in many))
    if not names:
        return None
    precision, pull = np.eye(len(names)), np.zeros(len(names))
    for one in many:
        known = [n for n in one.joint.names if n in names]
        at, of = [names.index(n) for n in known], [one.joint.names.index(n) for n in known]
        inverse = np.linalg.inv(one.joint.covariance[np.ix_(of, of)])
        wider = np.array([usual[n].spread / one.spread[i] for n, i in zip(known, of, strict=True)])
        precision[np.ix_(at, at)] += wider[:, np.newaxis] * (inverse - np.eye(len(at))) * wider
        pull[at] += wider * (inverse @ one.joint.mean[of])
    values, vectors = np.linalg.eigh((precision + precision.T) / 2.0)
    covariance = (vectors / np.clip(values, 1.0, None)) @ vectors.T
    return MultivariateNormal(names, covariance @ pull, covariance)
