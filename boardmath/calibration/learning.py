"""What rides teach of the inputs together: the most probable inputs, and how sure they are, given everything that was measured.

Each ride's own business (its wind, its hurry, its way where nobody said) is taken out by its mean and covariance over a few
points; what remains is a nonlinear least-squares problem in the space of the priors' standard normals, solved by
``scipy.optimize.least_squares``, with the covariance from its Jacobian. A figure that contradicts the rest counts less the
further off it lies, as under a Student distribution with :data:`TAILS` degrees of freedom.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from boardmath.buildfile import Build
from boardmath.calibration.day import LASTING, RIDERS_OWN, ridden_as_now, the_day
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
_BENT = (
    "stops",
    "ascent",
    "mean_speed",
    "crr",
    "cda",
    "drive_drag",
    "drive_efficiency",
    "no_load_current",
    "idle",
    "returned",
)
"""Lasting inputs that add up to what a ride takes, so that it is bent against them: their doubt shifts its mean, and would else
be taken for hurry."""
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
    expected of it at the mean, shifted by its own business, and the weight of each observation, 1 for what agrees.
    """

    usual: Resolved
    names: tuple[str, ...]
    first: MultivariateNormal
    mean: Array
    covariance: Array
    seen: list[Observed]
    slopes: list[Array]
    said: list[Array]
    own: "OwnBusiness"
    weights: list[Array]

    @property
    def joint(self) -> MultivariateNormal:
        return MultivariateNormal(self.names, self.mean, self.covariance)

    def weighed(self, k: int) -> Array:
        """The inverse of a ride's noise, what contradicts the rest counting less."""
        root = np.sqrt(self.weights[k])
        return np.asarray(root[:, np.newaxis] * np.linalg.inv(self.own.noise[k]) * root)


@dataclass(frozen=True)
class OwnBusiness:
    """What the rides' own doubts do to their observations.

    ``shift`` is what they move each observation by in the mean, ``noise`` for each ride the covariance of its doubts and errors.
    ``up`` and ``down`` are what each doubt moves its ride's observations by at its two points, (doubts, observations).
    """

    doubts: list[list[int]]
    cuts: list[slice]
    shift: Array
    noise: list[Array]
    up: Array
    down: Array

    def shares(self, k: int) -> dict[str, Array]:
        """For each doubt of a ride what it adds to the variance of each observation, and its slope; (2, observations)."""
        every, found = list(COLUMN), {}
        for j, column in enumerate(self.doubts[k]):
            up, down = self.up[j, self.cuts[k]], self.down[j, self.cuts[k]]
            variance = (up**2 + down**2) / 6.0 - ((up + down) / 6.0) ** 2
            found[every[column]] = np.stack([variance, (up - down) / 2.0])
        return found


def order_of(ridden: Ridden) -> tuple[str, str, str]:
    """Rides in the order in which they were ridden, whatever the order in which they were entered."""
    ride = ridden.ride
    return ride.day, ride.at or "", repr(sorted(as_document(ride.model_copy(update={"id": None})).items()))


def observed_of(now: Build, rides: Sequence[Ridden], usual: Resolved) -> list[Observed]:
    """What the rides measured, in the order in which they were ridden; what was left out is not among it."""
    found = []
    in_todays_hands: dict[int, Resolved | None] = {id(now): usual}
    for one in sorted((r for r in rides if r.ride.left_out is None), key=order_of):
        if id(one.board) not in in_todays_hands:
            in_todays_hands[id(one.board)] = ridden_as_now(now, one.board)
        day = the_day(one.board, one.ride, in_todays_hands[id(one.board)], usual)
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
    season = len(seen) > _SEASON
    expected_at: dict[bytes, Array] = {}
    slopes_at: dict[bytes, Array] = {}

    def engine(rows: Array) -> Array:
        """Observations that are predicted for rows of lasting normal scores."""
        z = np.zeros((len(rows), len(INPUTS)))
        z[:, columns] = rows
        whole = np.broadcast_to(z, (len(seen), *z.shape))
        return predictor(whole, np.zeros_like(whole))

    def look(x: Array) -> Array:
        """What is predicted at lasting normal scores, with its slopes; looked at together, as each mostly wants the other."""
        key = x.tobytes()
        if key not in slopes_at:
            step = _STEP * np.eye(len(x))[of_boards]
            # Of a whole season looking one way is enough: what is bent in one ride is lost among the many.
            said = engine(np.concatenate([x[np.newaxis], x + step, *([] if season else [x - step])]))
            up, down = said[1 : len(step) + 1], said[len(step) + 1 :]
            slopes_at[key] = of_readings.copy()
            slopes_at[key][:, of_boards] = ((up - said[0]) / _STEP if season else (up - down) / (2.0 * _STEP)).T
            expected_at[key] = said[0]
        return slopes_at[key]

    def expected(x: Array) -> Array:
        if not season:
            look(x)
        if (found := expected_at.get(x.tobytes())) is None:
            found = expected_at[x.tobytes()] = engine(x[np.newaxis])[0]
        return found

    def loss(squares: Array, /, *, cost_only: bool | None = None) -> Array:
        """The prior as it is; evidence under a distribution with heavy tails."""
        rho = np.empty((3, len(squares)))
        rho[0], rho[1], rho[2] = squares, 1.0, 0.0
        far = squares[len(names) :] / TAILS
        rho[0, len(names) :] = TAILS * np.log1p(far)
        rho[1, len(names) :] = 1.0 / (1.0 + far)
        rho[2, len(names) :] = -1.0 / TAILS / (1.0 + far) ** 2
        return rho

    xi, covariance = np.zeros(len(names)), first.covariance
    for _ in range(_ROUNDS):
        x = first.mean + root @ xi
        own = _own_business(seen, predictor, names, x, covariance)
        white = _Whitening(own.noise, predictor.cuts)

        def residuals(xi: Array, own: OwnBusiness = own, white: _Whitening = white) -> Array:
            miss = y - expected(first.mean + root @ xi) - own.shift
            return np.concatenate([xi, white(_only_below(miss, floor))])

        def slopes(
            xi: Array, own: OwnBusiness = own, white: _Whitening = white, began: Array = x, season: bool = season
        ) -> Array:
            at = first.mean + root @ xi
            # Among many rides a step moves little: the slopes of where the round began lead there.
            slope = look(began if season else at)
            counts = ~floor | (y - expected(at) - own.shift > 0.0)
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
            max_nfev=12,
        )
        moved, xi = float(np.abs(found.x - xi).max()), found.x
        doubted = np.sqrt(np.diag(covariance))
        covariance = root @ np.linalg.inv(np.asarray(found.jac).T @ np.asarray(found.jac)) @ root.T
        if moved < 0.02 and float(np.abs(np.sqrt(np.diag(covariance)) - doubted).max()) < 0.05:
            break
    else:
        own = _own_business(seen, predictor, names, first.mean + root @ xi, covariance)
    x = first.mean + root @ xi
    slope = look(x)
    miss = _only_below(y - expected(x) - own.shift, floor)
    slope = slope * (~floor | (miss > 0.0))[:, np.newaxis]
    white = _Whitening(own.noise, predictor.cuts)
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
        said=[(expected(x) + own.shift)[c] for c in cut],
        own=own,
        weights=[weight[c] for c in cut],
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

    def __init__(self, noise: Sequence[Array], cuts: Sequence[slice]) -> None:
        self._blocks = [
            (places, np.linalg.inv(np.linalg.cholesky(np.stack([noise[k] for k in rides]))))
            for rides, places in _by_size(cuts)
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


def _by_size(cuts: Sequence[slice]) -> Iterator[tuple[list[int], NDArray[np.int64]]]:
    """Rides with as many observations as each other, and where these are, (rides, observations of one)."""
    sizes: dict[int, list[int]] = {}
    for k, cut in enumerate(cuts):
        sizes.setdefault(cut.stop - cut.start, []).append(k)
    for rides in sizes.values():
        yield rides, np.stack([np.arange(cuts[k].start, cuts[k].stop) for k in rides])


def _own_business(
    seen: Sequence[Observed], predictor: RidePredictor, names: Sequence[str], x: Array, covariance: Array
) -> OwnBusiness:
    """What the rides' own doubts do about the lasting inputs ``x``, and by how much the doubt of these shifts what is expected.

    Three points a doubt (Gauss and Hermite's), one doubt at a time: exact for what is of the second degree in each. The lasting
    doubts are taken along the axes of their covariance: boards that are drawn from what was learnt would else take more than the
    rides did.
    """
    doubts = [s.day.nuisances for s in seen]
    most = max(len(d) for d in doubts)
    at = [i for i, n in enumerate(names) if n in _BENT]
    sizes, axes = np.linalg.eigh(covariance[np.ix_(at, at)])
    bent = (axes * np.sqrt(np.maximum(sizes, 0.0))).T
    own = np.zeros((len(seen), 1 + 2 * (most + len(bent)), len(INPUTS)))
    lasting = np.zeros_like(own)
    lasting[:, :, [COLUMN[n] for n in names]] = x
    columns = [COLUMN[names[i]] for i in at]
    for k, columns_of_ride in enumerate(doubts):
        for j, column in enumerate(columns_of_ride):
            own[k, 1 + 2 * j, column], own[k, 2 + 2 * j, column] = _POINT, -_POINT
    for j, axis in enumerate(bent, most):
        lasting[:, 1 + 2 * j, columns] += _POINT * axis
        lasting[:, 2 + 2 * j, columns] -= _POINT * axis
    said = predictor(lasting, own)
    up, down = said[1::2] - said[0], said[2::2] - said[0]
    errors = np.array([o.sd**2 + 1e-9 for s in seen for o in s.observations])
    noise: dict[int, Array] = {}
    for rides, places in _by_size(predictor.cuts):
        u, d = up[:most, places], down[:most, places]
        mean = (u + d) / 6.0
        whole = (_products(u) + _products(d)) / 6.0 - _products(mean)
        whole += errors[places][:, np.newaxis] * np.eye(places.shape[1])
        noise.update(zip(rides, whole, strict=True))
    of_rides = [noise[k] for k in range(len(seen))]
    return OwnBusiness(doubts, predictor.cuts, (up + down).sum(axis=0) / 6.0, of_rides, up, down)


def _products(moved: Array) -> Array:
    """Sums over the doubts of each pair of observations of a ride, from (doubts, rides, observations)."""
    return np.asarray(np.einsum("jrn,jrm->rnm", moved, moved))


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
