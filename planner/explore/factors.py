"""The inputs of 100,000 boards without resolving each: every input is found for the pieces that it reads, and laid over all.

That an input reads nothing else is a statement, which the tests hold against boards resolved one by one.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from boardmath.engine.boards import Boards
from boardmath.model import estimate
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import Input, marked
from boardmath.model.mass import WEIGHED_SPREAD, masses_then
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS, BuildContext
from boardmath.model.posterior import MultivariateNormal, middle_of, posterior_of
from boardmath.model.resolution import FIXED
from boardmath.model.sampling import SHAPES, boards_from, scattered, standard_normal, within
from boardmath.parts.cost import Exchanger, cost, priced_parts
from boardmath.physics.types import Array
from planner.explore.space import PIECES, Space

Reads = tuple[str, ...]
"""Pieces, or views of them."""
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
    """Every input of a space by the pieces that it reads; :meth:`rows` lays them over boards."""

    def __init__(self, space: Space):
        self.space = space
        self._built: dict[tuple[int, ...], BuildContext] = {}
        names = [n for n in (*COLUMN, *FIXED) if n not in _COMPOSED]
        reads = {n: READS.get(n, ()) for n in names}
        self.inputs: dict[str, dict[str, Array]] = {}
        self.fixed: dict[str, Array] = {}
        grouped: dict[Reads, list[str]] = defaultdict(list)
        for name, read in reads.items():
            grouped[read].append(name)
        for read, group in grouped.items():
            found = self._over(read, partial(_each, group))
            for i, name in enumerate(group):
                if name in FIXED:
                    self.fixed[name] = self._laid(read, [row[i] for row in found])
                else:
                    self.inputs[name] = {
                        key: self._laid(read, [value(row[i]) for row in found]) for key, value in _KEPT.items()
                    }
        self._masses()
        self.money, self.unpriced = self._prices()

    @property
    def joint(self) -> MultivariateNormal | None:
        """What rides taught of the rider and of what stays; of what is open nothing is known."""
        first = self._site(())
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

    # --- tables ---

    def _site(self, key: tuple[int, ...]) -> BuildContext:
        at = (*key, *(0,) * (len(PIECES) - len(key)))
        if at not in self._built:
            self._built[at] = BuildContext(marked(self.space.made_of(True, **dict(zip(PIECES, at, strict=True)))))
        return self._built[at]

    def _over(self, reads: Reads, of: Callable[[BuildContext], Any]) -> list[Any]:
        """``of`` a board for every combination of the pieces that are read; what looks the same is asked once."""
        known: dict[tuple[int, ...], Any] = {}
        found = []
        for _, first in self.space.combined(reads):
            if first not in known:
                known[first] = of(self._site(first))
            found.append(known[first])
        return found

    def _laid(self, reads: Reads, rows: Iterable[float]) -> Array:
        """A table with an axis for every piece, of length 1 where it is not read."""
        return np.array(list(rows), dtype=float).reshape(self.space.laid(reads))

    def _masses(self) -> None:
        """The board's mass and what turns: each part's own mass, laid over the others."""
        first = self._site(())
        value, spread = self._laid_masses(lambda s: s.masses)
        own = {n: v for n, v in value.items() if not (first.pack.place == "in_a_bag" and n == "pack")}
        weighed = first.build.existing.mass_kg if first.build.existing is not None else None
        if weighed is None:
            self.inputs["board_mass"] = _summed(own, spread)
        else:
            then = self._laid_masses(lambda s: masses_then(s.build))
            self.inputs["board_mass"] = _changed(weighed, (own, spread), then)
        rotor = self._over(
            _MOTORS, lambda s: estimate.rotating_mass(s.motors, s.masses["motors"].value / s.count, 0.0, 1.0, 1.0)
        )
        rotors = self._laid(_MOTORS, [r.value for r in rotor])
        across = self._laid(("wheels",), self._over(("wheels",), _half_wheel))
        turning = 0.5 * value["wheels"] / 1000.0 + rotors * (self.fixed["gear"] / across) ** 2
        self.inputs["rotating_mass"] = {
            "value": turning,
            "spread": np.full((1,) * len(PIECES), rotor[0].spread),
            "shape": np.zeros((1,) * len(PIECES)),
        }

    def _laid_masses(
        self, of: Callable[[BuildContext], Mapping[str, Input]]
    ) -> tuple[dict[str, Array], dict[str, Array]]:
        """Value and spread of every part's mass in g."""
        reads: dict[Reads, list[str]] = defaultdict(list)
        for name, read in _MASS_READS.items():
            reads[read].append(name)
        others = [n for n in of(self._site(())) if n not in _MASS_READS]
        value: dict[str, Array] = {}
        spread: dict[str, Array] = {}
        for read, names in [((), others), *reads.items()]:
            found = self._over(read, of)
            for name in names:
                rows = [m.get(name) for m in found]
                value[name] = self._laid(read, [m.value if m else 0.0 for m in rows])
                spread[name] = self._laid(read, [m.spread if m else 0.0 for m in rows])
        return value, spread

    def _prices(self) -> tuple[Array, Array]:
        """What every board takes out of the purse, and how many of its parts have no price that can be told."""
        slots = tuple(_MONEY_READS)
        base = self._site(()).build
        without = base.model_copy(update={"parts": base.parts.model_copy(update=dict.fromkeys((*slots,)))})
        rest = cost(without)
        one = (1,) * len(PIECES)
        money = np.full(one, rest.outlay)
        unpriced = np.full(one, float(len(rest.unpriced) + len(rest.other_currency)))
        for slot, reads in _MONEY_READS.items():
            rows = self._over(reads, partial(_lines, slot))
            money = money + self._laid(reads, [r[0] for r in rows])
            unpriced = unpriced + self._laid(reads, [r[1] for r in rows])
        return money, unpriced

    # --- boards ---

    def of_boards(self, table: Array, boards: NDArray[np.int64]) -> Array:
        """What a table says of each board, of shape (boards,); one number where it reads nothing."""
        if table.size == 1:
            return table.reshape(1)
        at = self.space.pieces(boards)
        found: Array = table[tuple(at[p] if table.shape[i] > 1 else 0 for i, p in enumerate(PIECES))]
        return found

    def middles(self, boards: NDArray[np.int64]) -> Boards:
        """The engine's boards, every input at its middle."""
        joint = self.joint
        v = {}
        for name, known in self.inputs.items():
            value, spread, shape = (known[k].reshape(1, -1) for k in _KEPT)
            spread, shape = np.broadcast_to(spread, value.shape), np.broadcast_to(shape, value.shape)
            z = np.zeros((*value.shape, 1))
            if joint is not None and name in joint.names:
                moved = [
                    middle_of(Input("", 0.0, "rides", None, s, _SHAPE_OF[int(k)]), *joint.marginal(name))
                    for s, k in zip(spread[0], shape[0], strict=True)
                ]
                z[0, :, 0] = moved
            made = within(name, scattered(value, spread, shape.astype(int), z)[0, :, 0])
            v[name] = self.of_boards(made.reshape(known["value"].shape), boards)[:, np.newaxis]
        return boards_from(v, self._fixed(boards), len(boards), 1)

    def sampled(self, boards: NDArray[np.int64], samples: int) -> tuple[Boards, Array]:
        """The engine's boards with their samples, the middle first, and the normal scores that they were drawn from.

        Returns:
            boards of (boards x (1 + samples)) rows, and normal scores of shape (1 + samples, inputs).
        """
        joint = self.joint
        z = np.concatenate([np.zeros((1, len(COLUMN))), standard_normal(samples)[:, : len(COLUMN)]])
        if joint is not None:
            z = joint.moved(z)
        known = [self.inputs[n] for n in COLUMN]
        value, spread, shape = (
            np.stack([np.broadcast_to(self.of_boards(k[key], boards), boards.shape) for k in known]) for key in _KEPT
        )
        drawn = np.repeat(z.T[:, np.newaxis, :], len(boards), axis=1)
        if joint is not None:
            for name in joint.names:
                at = COLUMN[name]
                drawn[at, :, 0] = [
                    middle_of(Input("", 0.0, "rides", None, s, _SHAPE_OF[int(k)]), *joint.marginal(name))
                    for s, k in zip(spread[at], shape[at], strict=True)
                ]
        made = scattered(value, spread, shape.astype(int), drawn)
        v = {n: within(n, made[i]) for i, n in enumerate(COLUMN)}
        return boards_from(v, self._fixed(boards), len(boards), samples + 1), z

    def _fixed(self, boards: NDArray[np.int64]) -> dict[str, Array]:
        return {n: self.of_boards(t, boards)[:, np.newaxis] for n, t in self.fixed.items()}


_KEPT: dict[str, Callable[[Input], float]] = {
    "value": lambda i: i.value,
    "spread": lambda i: i.spread,
    "shape": lambda i: SHAPES[i.shape],
}
_SHAPE_OF = {code: shape for shape, code in SHAPES.items()}


def _each(names: Sequence[str], site: BuildContext) -> list[Any]:
    return [FIXED[n](site) if n in FIXED else BY_NAME[n].of(site) for n in names]


def _half_wheel(site: BuildContext) -> float:
    return (site.wheels.diameter_mm or USUAL["wheels.diameter_mm"]) / 2.0


def _lines(slot: str, site: BuildContext) -> tuple[float, int]:
    """What a slot's lines come to, and how many of them have no price that can be told."""
    build = site.build
    exchange = Exchanger(build)
    total, lacking = 0.0, 0
    for line in priced_parts(build):
        if line.path != f"parts.{slot}" and not line.path.startswith(f"parts.{slot}."):
            continue
        amount = exchange.of(line)
        if amount is None:
            lacking += 1
        elif line.state != "owned":
            total += float(amount)
    return total, lacking


_NONE: Array = np.zeros((1,) * len(PIECES))


def _summed(own: Mapping[str, Array], spread: Mapping[str, Array]) -> dict[str, Array]:
    """The board's mass in kg as the sum of its parts, as :func:`boardmath.model.mass.board_mass` has it, of all boards."""
    total = sum(own.values(), _NONE)
    square = sum(((own[n] * spread[n]) ** 2 for n in own), _NONE)
    return _mass(total / 1000.0, np.sqrt(square) / total)


Masses = tuple[Mapping[str, Array], Mapping[str, Array]]


def _changed(weighed: float, now: Masses, then: Masses) -> dict[str, Array]:
    """The same of a board that was weighed before: what went and what came is unsure, what stayed cancels out."""
    change, unsure = _NONE, _NONE + (weighed * WEIGHED_SPREAD) ** 2
    for name in {*now[0], *then[0]}:
        own, was = (m[0].get(name, _NONE) for m in (now, then))
        square = sum((m[0].get(name, _NONE) * m[1].get(name, _NONE) / 1000.0) ** 2 for m in (now, then))
        change = change + (own - was) / 1000.0
        unsure = unsure + np.where(own != was, square, 0.0)
    total = np.maximum(weighed + change, 0.5)
    return _mass(total, np.sqrt(unsure) / total)


def _mass(value: Array, spread: Array) -> dict[str, Array]:
    value, spread = np.broadcast_arrays(value, spread)
    return {"value": value, "spread": spread, "shape": np.zeros(value.shape)}
