"""Two to four builds side by side: their promises, what differs and nothing else, and curves laid over each other."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from pydantic import BaseModel

from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.curves import Plot, PlotLine, cruise_marks, plain
from boardmath.inputs import hill_grade
from boardmath.parameters import Incomplete, Resolved, resolve
from boardmath.physics.types import Array
from boardmath.powertrain import Board, highest_speed, most_thrust, operating_point, road_resistance
from boardmath.predict.bands import HIGH, LOW, samples_of
from boardmath.predict.distance import ride
from boardmath.predict.outcomes import early_charge, outcomes
from boardmath.predict.promises import Headline, headlines

MOST = 4
_SAMPLES = 64
_POINTS = 31


class Difference(BaseModel):
    """One figure in which the builds differ, by its path in the build file; a value for each build, None where it has none."""

    path: str
    values: list[Any]


class Differences(BaseModel):
    """What differs in one part, in the settings, or in what is asked of the board."""

    section: str
    rows: list[Difference]


class Comparison(BaseModel):
    headlines: list[Headline]
    differences: list[Differences]
    plots: list[Plot]


def compare(builds: Sequence[Build], names: Sequence[str]) -> Comparison:
    """Everything that the comparison shows; one run of the engine for all builds.

    Raises:
        ValueError: with fewer than two or more than four.
    """
    if not 2 <= len(builds) <= MOST:
        raise ValueError(f"two to {MOST} builds are compared, not {len(builds)}")
    return Comparison(
        headlines=headlines(builds, _SAMPLES), differences=differences(builds), plots=overlaid(builds, names)
    )


# What belongs to the buying, to a person's notes or to where a figure came from makes no other board.
_NOT_THE_BOARD = {"purchase", "notes", "source", "measured", "owned", "fills", "currency"}


def differences(builds: Sequence[Build]) -> list[Differences]:
    """What is not the same in all builds: parts first, then settings, then what was asked of them."""
    documents = [b.model_dump(mode="json", exclude_none=True) for b in builds]
    home = builds[0].currency
    documents = [_with_currencies(d, d.get("currency"), home) for d in documents]
    rows: dict[str, list[Difference]] = {}
    for section in ("parts", "settings", "assumptions", "rider", "brief"):
        for path, values in _unlike([d.get(section) for d in documents], section):
            rows.setdefault(_group(path), []).append(Difference(path=path, values=values))
    return [Differences(section=name, rows=of_it) for name, of_it in rows.items()]


def settings_differences(
    settings: Sequence[dict[str, Any]], apart: Sequence[Sequence[dict[str, Any]]] = ()
) -> list[Difference]:
    """What differs between states of the controllers, as plain objects.

    Args:
        settings: what the first controller has, a state each.
        apart: what the further ones have otherwise, a list of them for each state.
    """
    unlike = _unlike(settings, "settings")
    for further in range(max((len(a) for a in apart), default=0)):
        nodes = [a[further] if further < len(a) else {} for a in apart]
        unlike += _unlike(nodes, f"settings_apart.{further}")
    return [Difference(path=path, values=values) for path, values in unlike]


def _with_currencies(node: Any, currency: str | None, home: str | None) -> Any:
    """Amounts in another currency than ``home`` as text with their currency, so that nobody compares unlike money."""
    if isinstance(node, list):
        return [_with_currencies(n, currency, home) for n in node]
    if not isinstance(node, dict):
        return node
    of_it = node.get("currency") or currency
    return {
        key: f"{value:.2f} {of_it}"
        if key in ("price", "budget") and of_it is not None and of_it != home
        else _with_currencies(value, currency, home)
        for key, value in node.items()
    }


def _group(path: str) -> str:
    """``parts.motors.kv_rpm_per_v`` belongs to ``parts.motors``, ``settings.max_erpm`` to ``settings``."""
    steps = path.split(".")
    return ".".join(steps[:2]) if steps[0] == "parts" else steps[0]


def _unlike(nodes: Sequence[Any], path: str) -> list[tuple[str, list[Any]]]:
    if all(node == nodes[0] for node in nodes):
        return []
    if path == "parts.extras":
        return _extras(nodes)
    if any(isinstance(node, dict) for node in nodes):
        keys = dict.fromkeys(key for node in nodes if isinstance(node, dict) for key in node)
        return [
            found
            for key in sorted(keys, key=lambda k: (k != "name", k != "maker"))
            if key not in _NOT_THE_BOARD
            for found in _unlike([node.get(key) if isinstance(node, dict) else None for node in nodes], f"{path}.{key}")
        ]
    return [(path, list(nodes))]


def _extras(nodes: Sequence[Any]) -> list[tuple[str, list[Any]]]:
    """Extras are told apart by their names: which board has how many of each."""
    counts = [{e.get("name") or "extra": e.get("count") or 1 for e in node or []} for node in nodes]
    found = []
    for name in dict.fromkeys(name for c in counts for name in c):
        values = [c.get(name) for c in counts]
        if len(set(values)) > 1:
            found.append((f"parts.extras.{name}", list(values)))
    return found


# --- curves laid over each other ------------------------------------------------------------------------------------

ROLES = ("first", "second-board", "third", "fourth")


def _apart(names: Sequence[str]) -> list[str]:
    """Names that can be told apart: two boards may well be called the same."""
    return [f"{name} ({names[:i].count(name) + 1})" if name in names[:i] else name for i, name in enumerate(names)]


class _Boards:
    """The builds that are far enough for a prediction, as one stack of boards and one of their samples."""

    def __init__(self, builds: Sequence[Build], names: Sequence[str]):
        self.names: list[str] = []
        self.roles: list[str] = []
        resolved: list[Resolved] = []
        for build, name, role in zip(builds, _apart(names), ROLES, strict=False):
            try:
                resolved.append(resolve(build))
            except Incomplete:
                continue
            self.names.append(name)
            self.roles.append(role)
        self.count = len(resolved)
        if self.count:
            self.mid = nominal_board(resolved)
            each = [samples_of(r, _SAMPLES) for r in resolved]
            self.sampled = Board(
                **{k: np.concatenate([getattr(b, k) for b in each]) for k in Board.__dataclass_fields__}
            )

    def lines(
        self, x: Array, of: Callable[[Board], Array], x_scale: float, scale: float, ends: Array | None = None
    ) -> list[PlotLine]:
        """One line a build over ``x``, as far as where each ``ends``; ``of`` gives (boards, points)."""
        reach = np.full(self.count, x.size) if ends is None else (x <= ends[:, np.newaxis] * 1.001).sum(axis=1)
        mid = np.broadcast_to(of(self.mid), (self.count, x.size)) * scale
        sampled = np.broadcast_to(of(self.sampled), (self.count * _SAMPLES, x.size)) * scale
        low, high = np.percentile(sampled.reshape(self.count, _SAMPLES, x.size), (LOW, HIGH), axis=1)
        return [
            PlotLine(
                name=name,
                role=role,
                x=plain(x[:n] * x_scale),
                mid=plain(mid[i, :n]),
                low=plain(np.minimum(low[i, :n], mid[i, :n])),
                high=plain(np.maximum(high[i, :n], mid[i, :n])),
            )
            for i, (name, role, n) in enumerate(zip(self.names, self.roles, np.maximum(reach, 2), strict=True))
        ]


def overlaid(builds: Sequence[Build], names: Sequence[str]) -> list[Plot]:
    """The deciding curves of all builds in one figure each; builds that cannot be predicted yet are left out."""
    boards = _Boards(builds, names)
    if not boards.count:
        return []
    top = outcomes(boards.mid)
    speeds = np.linspace(0.0, float(np.max(top.unloaded_speed)) * 1.02, _POINTS)
    moving = np.linspace(6.0 / 3.6, max(float(np.max(top.top_speed)), 8.0 / 3.6), 15)
    charge = np.linspace(0.04, 1.0, 21)
    marks = cruise_marks(builds[0])

    def can(board: Board) -> Array:
        most = most_thrust(board.with_axis(), speeds, early_charge(board)[:, np.newaxis])[0]
        return np.maximum(most - board.with_axis().drive_drag, 0.0)

    def far(board: Board) -> Array:
        return ride(board.with_axis(), np.broadcast_to(moving, (board.rolling_mass.size, moving.size))).range

    def takes(board: Board) -> Array:
        point = operating_point(board.with_axis(), moving, 0.0, 0.6)
        return point.bus_voltage * point.pack_current / moving

    def fast(board: Board) -> Array:
        return highest_speed(board.with_axis(), 0.0, charge)[0]

    hills = sorted({0.0, *(grade for b in builds if (grade := hill_grade(b)))})
    needed = [
        PlotLine(
            name=f"{'flat' if g == 0.0 else f'{g:.3g} % uphill'} needs",
            short="flat" if g == 0.0 else f"{g:.3g} %",
            role="need",
            x=plain(speeds * 3.6),
            mid=plain(road_resistance(boards.mid.with_axis(), speeds, g / 100.0)[0]),
        )
        for g in hills
    ]
    return [
        Plot(
            id="thrust", title="Thrust against speed", x_title="speed", x_quantity="speed", y_title="force at the road",
            y_quantity="force", lines=[*boards.lines(speeds, can, 3.6, 1.0), *needed], marks=[],
            text=f"What each can give; the thin lines are what {boards.names[0]} needs.",
        ),
        Plot(
            id="range", title="Range against cruising speed", x_title="cruising speed", x_quantity="speed", y_title="range",
            y_quantity="distance", lines=boards.lines(moving, far, 3.6, 1e-3, top.top_speed), marks=marks,
            text="Each to its own reserve. A line ends where the board goes no faster.",
        ),
        Plot(
            id="consumption", title="Consumption against speed", x_title="speed", x_quantity="speed",
            y_title="energy by distance", y_quantity="energy_per_distance",
            lines=boards.lines(moving, takes, 3.6, 1.0 / 3.6, top.top_speed), marks=marks, text="On the flat, in still air.",
        ),
        Plot(
            id="charge", title="Top speed by charge", x_title="charge left", x_quantity="share",
            y_title="top speed on the flat", y_quantity="speed", lines=boards.lines(charge, fast, 100.0, 3.6), marks=[],
            text="How much speed is left as the pack empties.",
        ),
    ]  # fmt: skip
