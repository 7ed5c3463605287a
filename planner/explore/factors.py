"""The inputs of 100,000 boards without resolving each: every input is found for the pieces that it reads, and laid over all.

That an input reads nothing else is a statement, which the tests hold against boards resolved one by one.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import cached_property, partial
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray

from boardmath.engine.boards import Boards
from boardmath.model import estimate
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import Input, marked
from boardmath.model.mass import WEIGHED_SPREAD, masses_then
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS, BuildContext
from boardmath.model.posterior import MultivariateNormal, middle_scores, posterior_of
from boardmath.model.resolution import FIXED
from boardmath.model.sampling import SHAPES, boards_from, scattered, standard_normal, within
from boardmath.parts.cost import Exchanger, cost, priced_parts
from boardmath.physics.types import Array
from planner.explore.lookup import Lookup, Reads
from planner.explore.space import PIECES, Piece, Space

Columns = tuple[Array, Array, Array]
"""Value, spread and shape of an input of many boards, each of shape (boards,)."""
_MOTORS: Reads = ("motor", "count")
READS: dict[str, Reads] = {
    # inputs
    **dict.fromkeys(("crr", "wheel_radius", "grip"), ("wheels",)),
    "drive_efficiency": ("motor:kind", "drive"),
    "drive_drag": ("motor:kind", "count", "drive:plain"),
    **dict.fromkeys(("conduction", "switching", "duty", "held_back"), ("controller",)),
    **dict.fromkeys(("kv", "phase_resistance", "no_load_current"), ("motor",)),
    "motor_current_limit": ("motor", "controller"),
    "pack_current_limit": ("count", "controller", "pack"),
    **dict.fromkeys(("cell_capacity", "weakest_group", "health", "cell_resistance", "path_resistance"), ("pack",)),
    **dict.fromkeys(("pack_heat_capacity", "pack_to_air", "load"), ("pack",)),
    **dict.fromkeys(("winding_heat_capacity", "case_heat_capacity", "winding_to_case", "case_to_air"), ("motor",)),
    # what does not scatter
    "height_over_wheelbase": ("deck",),
    "gear": ("motor:kind", "drive"),
    "motors": ("count",),
    "driven_wheels": ("count",),
    **dict.fromkeys(("no_load_over_stated", "pole_pairs"), ("motor",)),
    "controller_heat_capacity": ("count", "controller"),
    "controller_to_air": ("count", "controller"),
    "brake_current_limit": ("motor", "controller"),
    "regen_current_limit": ("count", "controller", "pack"),
    "electrical_speed_limit": ("controller",),
    **dict.fromkeys(
        (
            *("brake_ceiling", "capacity_per_kelvin", "taper_start", "taper_end", "chemistry", "series", "parallel"),
            *("cell_full", "charge_full"),
        ),
        ("pack",),
    ),
}
"""The pieces that each input reads; one that is not named reads none of them."""
_MASS_READS: dict[str, Reads] = {
    "motors": _MOTORS,
    "drive": ("motor:kind", "count", "drive:plain"),
    "mount": ("motor:kind", "count", "drive:kind"),
    "small_parts": ("motor:kind", "count", "drive:kind", "pack:layout", "deck"),
    "deck": ("deck",),
    "trucks": ("trucks",),
    "wheels": ("motor:kind", "count", "wheels"),
    "pack": ("pack",),
    "protection": ("pack",),
    "controller": ("count", "controller"),
}
_COMPOSED = ("board_mass", "rotating_mass")
"""Inputs that are sums over the pieces."""
_MONEY_READS: dict[str, Reads] = {
    "motors": _MOTORS,
    "drive": ("motor:kind", "count", "drive:plain"),
    "mount": ("motor:kind", "count", "drive:kind"),
    "wheels": ("motor:kind", "count", "wheels"),
    "pack": ("pack",),
    "controller": ("count", "controller"),
    "deck": ("deck",),
    "trucks": ("trucks",),
    "charger": ("pack",),
}


class Tables:
    """Every input of a space's boards by the pieces that it reads.

    Args:
        usual_prices: of one part, by slot, for parts without a price that can be told; without one they cost nothing.
    """

    def __init__(self, space: Space, usual_prices: Mapping[str, float] = MappingProxyType({})):
        self.space = space
        self._built: dict[tuple[int, ...], BuildContext] = {}
        self._first = self._site({})
        grouped: dict[Reads, list[str]] = defaultdict(list)
        for name in (n for n in (*COLUMN, *FIXED) if n not in _COMPOSED):
            grouped[READS.get(name, ())].append(name)
        self._inputs = [(names, self._lookup(reads, partial(_each, names))) for reads, names in grouped.items()]
        masses = self._first.masses
        self._masses = self._lookups_of_masses(masses, lambda s: s.masses)
        self._weighed = self._first.build.existing.mass_kg if self._first.build.existing is not None else None
        self._then = (
            self._lookups_of_masses(masses_then(self._first.build), lambda s: masses_then(s.build))
            if self._weighed is not None
            else []
        )
        self._turning = (self._lookup(_MOTORS, _rotor), self._lookup(("wheels",), lambda s: [_half_wheel(s)]))
        slots = tuple(_MONEY_READS)
        base = self._first.build
        without = base.model_copy(update={"parts": base.parts.model_copy(update=dict.fromkeys(slots))})
        self._rest = cost(without).outlay
        self._prices = [
            self._lookup(reads, partial(_lines, slot, usual_prices.get(slot, 0.0)))
            for slot, reads in _MONEY_READS.items()
        ]

    @cached_property
    def joint(self) -> MultivariateNormal | None:
        """What rides taught of the rider and of what stays; of what is open nothing is known."""
        first = self._first
        resolved = {i.name: i.of(first) for i in INPUTS}
        joint = posterior_of(first.build, resolved)
        if joint is None:
            return None
        opened = {a.piece for a in self.space.axes}
        lost = {
            n
            for n in joint.names
            if opened & {r.partition(":")[0] for r in READS.get(n, PIECES if n in _COMPOSED else ())}
        }
        return MultivariateNormal(joint.names, joint.mean, joint.covariance, joint.forgotten | lost)

    # --- of the pieces ---

    def _site(self, pieces: Mapping[Piece, int]) -> BuildContext:
        at = tuple(pieces.get(p, 0) for p in PIECES)
        if at not in self._built:
            self._built[at] = BuildContext(marked(self.space.made_of(True, **dict(zip(PIECES, at, strict=True)))))
        return self._built[at]

    def _lookup(self, reads: Reads, of: Callable[[BuildContext], Sequence[float]]) -> Lookup:
        return Lookup(self.space, reads, lambda pieces: of(self._site(pieces)))

    def _lookups_of_masses(
        self, known: Iterable[str], of: Callable[[BuildContext], Mapping[str, Input]]
    ) -> list[tuple[list[str], Lookup]]:
        """Value and spread of every part's mass in g, the parts by what they read."""
        grouped: dict[Reads, list[str]] = defaultdict(list)
        for name in dict.fromkeys((*_MASS_READS, *known)):
            grouped[_MASS_READS.get(name, ())].append(name)

        def asked(names: list[str], site: BuildContext) -> list[float]:
            of_site = of(site)
            each = [of_site.get(n) for n in names]
            return [x for m in each for x in ((m.value, m.spread) if m is not None else (0.0, 0.0))]

        return [(names, self._lookup(reads, partial(asked, names))) for reads, names in grouped.items()]

    # --- of boards ---

    def money(self, boards: NDArray[np.int64]) -> Array:
        """What every board takes out of the purse."""
        at, n = self.space.pieces(boards), len(boards)
        return np.asarray(self._rest + np.sum([lookup.of(at, n)[0] for lookup in self._prices], axis=0))

    def mass(self, boards: NDArray[np.int64]) -> Columns:
        """The board's mass in kg."""
        at, n = self.space.pieces(boards), len(boards)
        return self._mass(_parts_of(self._masses, at, n), at, n)

    def _mass(self, masses: "Masses", at: Mapping[Piece, NDArray[np.int64]], boards: int) -> Columns:
        own = {n: m for n, m in masses.items() if not (self._first.pack.place == "in_a_bag" and n == "pack")}
        if self._weighed is None:
            return _summed(own)
        return _changed(self._weighed, own, _parts_of(self._then, at, boards))

    def inputs(self, boards: NDArray[np.int64]) -> tuple[dict[str, Columns], dict[str, Array]]:
        """Value, spread and shape of every input, and what does not scatter; each of shape (boards,)."""
        at, n = self.space.pieces(boards), len(boards)
        inputs: dict[str, Columns] = {}
        fixed: dict[str, Array] = {}
        for names, lookup in self._inputs:
            found = iter(lookup.of(at, n))
            for name in names:
                if name in FIXED:
                    fixed[name] = next(found)
                else:
                    inputs[name] = next(found), next(found), next(found)
        masses = _parts_of(self._masses, at, n)
        inputs["board_mass"], wheels = self._mass(masses, at, n), masses["wheels"][0]
        (rotors, spread), (across,) = (lookup.of(at, n) for lookup in self._turning)
        turning = 0.5 * wheels / 1000.0 + rotors * (fixed["gear"] / across) ** 2
        inputs["rotating_mass"] = turning, spread, np.zeros(n)
        return inputs, fixed

    def middles(self, boards: NDArray[np.int64]) -> Boards:
        """The engine's boards, every input at its middle."""
        return self._drawn(boards, np.zeros((1, len(COLUMN))))

    def sampled(self, boards: NDArray[np.int64], samples: int) -> tuple[Boards, Array]:
        """The engine's boards with their samples, the middle first, and the normal scores that they were drawn from.

        Returns:
            boards of (boards x (1 + samples)) rows, and normal scores of shape (1 + samples, inputs).
        """
        z = np.concatenate([np.zeros((1, len(COLUMN))), standard_normal(samples)[:, : len(COLUMN)]])
        if self.joint is not None:
            z = self.joint.moved(z)
        return self._drawn(boards, z), z

    def _drawn(self, boards: NDArray[np.int64], z: Array) -> Boards:
        """The engine's boards at normal scores of shape (rows, inputs), the first row the middle of each."""
        inputs, fixed = self.inputs(boards)
        value, spread, shape = (np.stack([inputs[n][k] for n in COLUMN]) for k in range(3))
        drawn = np.repeat(z.T[:, np.newaxis, :], len(boards), axis=1)
        if self.joint is not None:
            for name in self.joint.names:
                at = COLUMN[name]
                lognormal = shape[at] == SHAPES["lognormal"]
                drawn[at, :, 0] = middle_scores(spread[at], lognormal, *self.joint.marginal(name))
        made = scattered(value, spread, shape.astype(int), drawn)
        v = {n: within(n, made[i]) for i, n in enumerate(COLUMN)}
        return boards_from(v, {n: t[:, np.newaxis] for n, t in fixed.items()}, len(boards), len(z))


def _parts_of(
    lookups: Sequence[tuple[list[str], Lookup]], at: Mapping[Piece, NDArray[np.int64]], boards: int
) -> dict[str, tuple[Array, Array]]:
    """Value and spread of every part's mass."""
    found: dict[str, tuple[Array, Array]] = {}
    for names, lookup in lookups:
        rows = lookup.of(at, boards)
        found |= {name: (rows[2 * i], rows[2 * i + 1]) for i, name in enumerate(names)}
    return found


def _each(names: Sequence[str], site: BuildContext) -> list[float]:
    """What does not scatter as it is, and of inputs value, spread and shape."""
    found: list[float] = []
    for name in names:
        if name in FIXED:
            found.append(FIXED[name](site))
        else:
            one = BY_NAME[name].of(site)
            found += [one.value, one.spread, SHAPES[one.shape]]
    return found


def _rotor(site: BuildContext) -> list[float]:
    rotor = estimate.rotating_mass(site.motors, site.masses["motors"].value / site.count, 0.0, 1.0, 1.0)
    return [rotor.value, rotor.spread]


def _half_wheel(site: BuildContext) -> float:
    return (site.wheels.diameter_mm or USUAL["wheels.diameter_mm"]) / 2.0


def _lines(slot: str, usual_price: float, site: BuildContext) -> list[float]:
    """What a slot's lines come to."""
    exchange = Exchanger(site.build)
    total = 0.0
    for line in priced_parts(site.build):
        if line.state != "owned" and (line.path == f"parts.{slot}" or line.path.startswith(f"parts.{slot}.")):
            amount = exchange.of(line)
            total += float(amount) if amount is not None else usual_price * line.count
    return [total]


Masses = Mapping[str, tuple[Array, Array]]
"""Of every part, the masses of all boards in g and their spread."""


def _summed(own: Masses) -> Columns:
    """The board's mass in kg as the sum of its parts, as :func:`boardmath.model.mass.board_mass` has it, of all boards."""
    total = np.sum([value for value, _ in own.values()], axis=0)
    square = np.sum([(value * spread) ** 2 for value, spread in own.values()], axis=0)
    return total / 1000.0, np.sqrt(square) / total, np.zeros_like(total)


def _changed(weighed: float, now: Masses, then: Masses) -> Columns:
    """The same of a board that was weighed before: what went and what came is unsure, what stayed cancels out."""
    size = len(next(iter(now.values()))[0])
    none = np.zeros(size), np.zeros(size)
    change, unsure = np.zeros(size), np.full(size, (weighed * WEIGHED_SPREAD) ** 2)
    for name in {*now, *then}:
        (own, own_spread), (was, was_spread) = now.get(name, none), then.get(name, none)
        change = change + (own - was) / 1000.0
        square = (own * own_spread / 1000.0) ** 2 + (was * was_spread / 1000.0) ** 2
        unsure = unsure + np.where(own != was, square, 0.0)
    total = np.maximum(weighed + change, 0.5)
    return total, np.sqrt(unsure) / total, np.zeros(size)
