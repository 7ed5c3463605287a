"""A build that was evaluated: its inputs, the engine's answers in the middle and over the samples, each found once when asked.

Every page asks an :class:`Evaluation`; nobody resolves a build beside it. :func:`evaluate` takes many builds in one run.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from typing import Any

import numpy as np

from boardmath.buildfile.build import Build, RangeMeans
from boardmath.buildfile.once import varied
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards, changed
from boardmath.model.inputs import Input, marked, range_means
from boardmath.model.model_inputs import COLUMN, FROM_RIDE_TO_RIDE
from boardmath.model.posterior import MultivariateNormal, as_calibrated, posterior_of
from boardmath.model.resolution import Incomplete, Need, Resolved, resolve
from boardmath.model.sampling import SAMPLES, Sampler, boards, normal_scores, standard_normal
from boardmath.physics.cell import aged_resistance_factor
from boardmath.physics.types import Array

COLDER_K, WINDIER_MS, OLDER = 10.0, 4.0, 0.8
"""The worst day, against a usual one: so much colder, so much more wind in the face all the way, and a pack with so much of its
capacity left (common practice, no source: what strands people is these three together)."""


def colder(usual: Boards, by: float, capacity_per_kelvin: float | Array, crr_per_kelvin: float | Array) -> Boards:
    """The same boards and riders on a colder day: air, cells, windings and what rolls.

    Args:
        by: K.
        capacity_per_kelvin: share of capacity that the cells lose a kelvin below 25 C, of all boards or of each.
        crr_per_kelvin: share by which rolling resistance grows a kelvin, likewise.
    """
    kelvin = usual.cell_temperature
    cold = kelvin - by
    lost = [1.0 - capacity_per_kelvin * np.clip(298.15 - k, 0.0, 50.0) for k in (cold, kelvin)]
    return changed(
        usual,
        cell_temperature=cold,
        ambient=usual.ambient - by,
        winding_temperature=usual.winding_temperature - by,
        air_density=usual.air_density * kelvin / cold,
        pack_capacity=usual.pack_capacity * lost[0] / lost[1],
        crr=usual.crr * np.exp(crr_per_kelvin * by),
    )


def older(usual: Boards, health: float | Array) -> Boards:
    """The same boards with packs that have lost a fifth of what they have; ``health`` is the share of capacity left now."""
    return changed(
        usual,
        pack_capacity=usual.pack_capacity * OLDER,
        cell_resistance=usual.cell_resistance * aged_resistance_factor(health * OLDER) / aged_resistance_factor(health),
    )


def worst_day(
    usual: Boards, capacity_per_kelvin: float | Array, crr_per_kelvin: float | Array, health: float | Array
) -> Boards:
    """The same boards and riders on the worst day; arguments as in :func:`colder` and :func:`older`."""
    cold = colder(older(usual, health), COLDER_K, capacity_per_kelvin, crr_per_kelvin)
    return changed(cold, way_wind=cold.way_wind + WINDIER_MS)


RANGE_VALUES: dict[RangeMeans, str] = {"to_cut_off": "cut_off", "with_reserve": "range", "worst_day": "worst"}
"""What the brief's distance may mean: the name of each among an evaluation's values."""


class Evaluation:
    """One build as the engine sees it. The first row of every array is the middle; the rest are samples.

    Args:
        samples: how many; 0 for the middle alone.
    """

    def __init__(self, build: Build, samples: int = SAMPLES):
        self.build, self.samples = build, samples

    @cached_property
    def needs(self) -> list[Need]:
        """What is still to be chosen before anything can be predicted."""
        try:
            self.resolved  # noqa: B018
        except Incomplete as error:
            return error.needs
        return []

    @cached_property
    def resolved(self) -> Resolved:
        """All inputs with their origins.

        Raises:
            Incomplete: naming what is still to be chosen.
        """
        return resolve(self.build)

    @cached_property
    def joint(self) -> MultivariateNormal | None:
        """What rides taught of the inputs together."""
        return posterior_of(self.build, self.resolved.inputs)

    @cached_property
    def inputs(self) -> dict[str, Input]:
        """All inputs as rides left them."""
        return {name: as_calibrated(name, i, self.joint) for name, i in self.resolved.inputs.items()}

    @cached_property
    def calibrated(self) -> Resolved:
        """What was resolved, with the inputs as rides left them."""
        return replace(self.resolved, inputs=self.inputs)

    @cached_property
    def normal_scores(self) -> Array:
        """Of shape (1 + samples, inputs)."""
        return self.drawn()

    def drawn(self, columns: Sequence[int] | None = None) -> Array:
        """Deviates of this build, each input's from its own column of samples or from ``columns``."""
        z, joint = normal_scores(self.samples, self.joint, columns), self.joint
        if joint is not None:
            z[0, joint.columns] = joint.middles(self.resolved.inputs)
        return z

    @cached_property
    def boards(self) -> Boards:
        return boards([self.resolved], [self.normal_scores])

    @property
    def board(self) -> Boards:
        """The middle alone, an array of one."""
        return self.boards[:1]

    @cached_property
    def headlines(self) -> Any:
        """Records of :data:`sweeps.HEADLINE`."""
        return sweeps.headlines(self.boards)

    @cached_property
    def rides(self) -> Any:
        """The brief's ride and the profiles: records of :data:`sweeps.RIDE`."""
        return sweeps.rides(self.boards, profiles=True)

    @cached_property
    def ride_scatter(self) -> float:
        """Deviation of the logarithm of range from one ride of the same rider and way to the next."""
        return _ride_scatter([self], Sampler([self.resolved]))[0]

    def of_the_next_ride(self, kilometres: Array) -> Array:
        """A range over the samples as the next ride has it, with a hurry, stops and a climb of its own; the middle stays."""
        if not self.samples:
            return kilometres
        own = np.concatenate([[0.0], standard_normal(self.samples)[:, -1]])
        return np.asarray(kilometres * np.exp(self.ride_scatter * own))

    @cached_property
    def wanted_range(self) -> Array:
        """What the brief's distance means, in km over the middle and the samples."""
        name = RANGE_VALUES[range_means(self.build)]
        return self.values[name] if name == "worst" else self.headline_values[name]

    @cached_property
    def next_range(self) -> Array:
        """The same of the next ride."""
        return self.of_the_next_ride(self.wanted_range)

    @cached_property
    def next_band(self) -> tuple[float, float] | None:
        """Low and high of :attr:`next_range`."""
        return _next_bands([self])[0]

    @cached_property
    def worst(self) -> Any:
        """The brief's ride on the worst day."""
        return sweeps.rides(self.on_the_worst_day(self.boards))

    @property
    def per_kelvin(self) -> tuple[float, Array]:
        """Shares by which capacity falls and rolling resistance grows a kelvin, the second over the middle and the samples."""
        return self.resolved.fixed["capacity_per_kelvin"], values_row(self, "crr_per_kelvin")

    @property
    def health(self) -> Array:
        """Share of its capacity that the pack has left, over the middle and the samples."""
        return values_row(self, "health")

    def on_the_worst_day(self, boards: Boards) -> Boards:
        """This build's boards on the worst day."""
        return worst_day(boards, *self.per_kelvin, self.health)

    @cached_property
    def climbs(self) -> tuple[Array, Any]:
        """Grades (rise over run) held for the brief's climb and for ever, in columns, and what ends each."""
        return sweeps.climbs(self.boards, self.headlines.start_grade, self.headlines.start_limit)

    @property
    def packs(self) -> float:
        """How many packs are ridden empty one after the other on a way: its own, and those to swap."""
        pack = self.build.parts.pack
        return 1.0 + ((pack.spares if pack else None) or 0)

    @property
    def pack_rms(self) -> float:
        """A, root mean square of the pack's current over the brief's ride."""
        ride = self.rides[0]
        return float(np.sqrt(ride.square / ride.seconds)) if ride.seconds > 0.0 else 0.0

    @property
    def early_charge(self) -> float:
        return float(sweeps.early_charge(self.board)[0])

    @cached_property
    def cruise(self) -> float:
        """m/s, the wanted or the possible speed on the flat."""
        return min(float(self.board.cruise_speed[0]), float(self.headlines.top_speed[0]))

    @cached_property
    def values(self) -> dict[str, Array]:
        """Every result that has a band, in the unit in which it is shown, of shape (1 + samples,)."""
        first, ride = self.headlines, self.rides
        held = self.climbs[0] * 100.0
        return {
            **self.headline_values,
            "worst": self.packs * self.worst.range / 1000.0,
            "held": held[:, 0],
            "for_ever": held[:, 1],
            "unloaded": first.unloaded_speed * 3.6,
            **{f"profile {name}": self.packs * ride[name] / 1000.0 for name in ("path", "town", "hilly")},
        }

    @cached_property
    def bands(self) -> dict[str, tuple[float, float] | None]:
        """Low and high of every result, widened to the middle where that lies outside; None without samples."""
        return bands_of([self.values])[0]

    @cached_property
    def headline_bands(self) -> dict[str, tuple[float, float] | None]:
        """The same of :attr:`headline_values` alone."""
        return bands_of([self.headline_values])[0]

    @cached_property
    def headline_values(self) -> dict[str, Array]:
        """The results that the list of boards shows; :attr:`values` has the rest."""
        return _headline_values([self], self.headlines, self.rides)[0]


def _headline_values(evaluations: Sequence[Evaluation], lines: Any, rides: Any) -> list[dict[str, Array]]:
    """What :attr:`Evaluation.headline_values` has, of many with as many samples each.

    Args:
        lines, rides: records of all of them in a row.
    """
    shape = len(evaluations), -1
    way, energy, to_the_end = (rides[name].reshape(shape) for name in ("range", "energy", "to_the_end"))
    packs = np.array([[e.packs] for e in evaluations])
    with np.errstate(invalid="ignore", divide="ignore"):
        used = np.where(way > 0.0, energy / way / 3.6, np.nan)
    every = {
        "speed": lines["top_speed"].reshape(shape) * 3.6,
        "hill": np.maximum(lines["start_grade"].reshape(shape), 0.0) * 100.0,
        "range": packs * way / 1000.0,
        "cut_off": packs * to_the_end / 1000.0,
        "consumption": used,
        "carry": np.stack([values_row(e, "board_mass") for e in evaluations]),
    }
    return [{name: values[i] for name, values in every.items()} for i in range(len(evaluations))]


LOW, HIGH = 10.0, 90.0
"""Percentiles of the shown band."""
_MOST_OF_THE_SAMPLES = 0.95


def bands_of(many: Sequence[Mapping[str, Array]]) -> list[dict[str, tuple[float, float] | None]]:
    """Bands of the results of many builds, all with the same results and samples, in one sorting.

    A result that few samples do not have (no consumption where nothing is ridden) has the band of the others.
    """
    names = list(many[0])
    rows = np.array([[values[n] for n in names] for values in many])
    if rows.shape[-1] < 2:
        return [dict.fromkeys(names) for _ in many]
    known = np.isfinite(rows)
    finite = known[..., 0] & (known[..., 1:].mean(axis=-1) >= _MOST_OF_THE_SAMPLES)
    low, high = np.percentile(np.where(finite[..., np.newaxis], rows, 0.0)[..., 1:], (LOW, HIGH), axis=-1)
    for i, j in np.argwhere(finite & ~known.all(axis=-1)):
        low[i, j], high[i, j] = np.percentile(rows[i, j, 1:][known[i, j, 1:]], (LOW, HIGH))
    low, high = np.minimum(low, rows[..., 0]), np.maximum(high, rows[..., 0])
    return [
        {n: (float(low[i, j]), float(high[i, j])) if finite[i, j] else None for j, n in enumerate(names)}
        for i in range(len(many))
    ]


def _next_bands(evaluations: Sequence[Evaluation]) -> list[tuple[float, float] | None]:
    return [bands["next"] for bands in bands_of([{"next": e.next_range} for e in evaluations])]


def _ride_scatter(evaluations: Sequence[Evaluation], sampler: Sampler) -> list[float]:
    """By how much the logarithm of range differs from ride to ride: what differs, moved by a deviation each, added up."""
    rows = []
    for evaluation in evaluations:
        own = np.repeat(evaluation.normal_scores[:1], 2 * len(FROM_RIDE_TO_RIDE), axis=0)
        for at, (name, differs) in enumerate(FROM_RIDE_TO_RIDE.items()):
            spread = evaluation.resolved.inputs[name].spread
            step = differs / spread if spread > 0.0 else 0.0
            own[2 * at, COLUMN[name]] += step
            own[2 * at + 1, COLUMN[name]] -= step
        rows.append(own)
    far = sweeps.rides(sampler.boards(np.stack(rows), middle=False))["range"]
    far = np.log(np.maximum(far, 1.0)).reshape(len(evaluations), len(FROM_RIDE_TO_RIDE), 2)
    return [float(v) for v in np.sqrt(np.square((far[..., 0] - far[..., 1]) / 2.0).sum(axis=1))]


def values_row(evaluation: Evaluation, name: str) -> Array:
    """One input over the middle and the samples, in the build file's unit."""
    i = evaluation.resolved.inputs[name]
    return np.asarray(i.value * np.exp(i.spread * evaluation.normal_scores[:, COLUMN[name]]))


_SHARED_FROM = 3
"""Builds in one run from which on it pays to note what is read of the first."""


def evaluate(builds: Sequence[Build], samples: int) -> list[Evaluation]:
    """Many builds evaluated in one run of the engine; builds that are not far enough are left unevaluated.

    They are taken as variations of the first: what does not read where they differ is found once, findings too.
    Inputs that a part states are drawn apart for parts that differ from the first build's, as they are other things; all else,
    the rider, the day and the rules by which figures are estimated, is the same for all.
    """
    if len(builds) > _SHARED_FROM:
        varied(builds[0], builds[1:])
        varied(marked(builds[0]), [marked(b) for b in builds[1:]])
    found = [Evaluation(b, samples) for b in builds]
    ready = [c for c in found if not c.needs]
    if not ready:
        return found
    base = ready[0].resolved
    for c in ready:
        c.normal_scores = c.drawn(_columns(base, c.resolved) if c is not ready[0] else None)
    rows = samples + 1
    sampler = Sampler([c.resolved for c in ready])
    every = sampler.boards(np.stack([c.normal_scores for c in ready]))
    lines, ride = sweeps.headlines(every), sweeps.rides(every, profiles=False)
    for i, c in enumerate(ready):
        own = slice(i * rows, (i + 1) * rows)
        c.boards, c.headlines, c.rides = every[own], lines[own], ride[own]
    if samples:
        for c, scatter in zip(ready, _ride_scatter(ready, sampler), strict=True):
            c.ride_scatter = scatter
    values = _headline_values(ready, lines, ride)
    for c, own_values, bands in zip(ready, values, bands_of(values), strict=True):
        c.headline_values, c.headline_bands = own_values, bands
    # The worst day takes a run of its own, which not everybody asks for.
    if usual := [c for c in ready if range_means(c.build) != "worst_day"]:
        for c, band in zip(usual, _next_bands(usual), strict=True):
            c.next_band = band
    return found


def _columns(base: Resolved, other: Resolved) -> list[int]:
    """For each input the column of normal scores that it is drawn from."""
    columns = list(range(len(COLUMN)))
    for name, column in COLUMN.items():
        one, two = base.inputs[name], other.inputs[name]
        if two.origin in ("stated", "measured") and two.field.startswith("parts.") and one.value != two.value:
            columns[column] += len(COLUMN)
    return columns
