"""Two to four builds side by side: their outcomes, what differs and nothing else, and curves laid over each other."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.model.cell_groups import plan_of, work_of
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.inputs import hill_grade
from boardmath.model.sampling import FEW
from boardmath.physics.types import Array
from boardmath.prediction.curves import (
    Plot,
    PlotLine,
    banded_line,
    consumption_of,
    cruise_marks,
    needed_by,
    plain,
    ranges_of,
    thrust_of,
)
from boardmath.prediction.outcomes import Headline, headline_of
from planner.design.candidates import Change, changes_from

MOST = 4
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
    changes: list[list[Change]]
    """For each build what becomes of every outcome against the first one, on the same samples: the same rider, the same days."""
    differences: list[Differences]
    plots: list[Plot]


def compare(builds: Sequence[Build], names: Sequence[str]) -> Comparison:
    """Everything that the comparison shows; one run of the engine for all builds.

    Raises:
        ValueError: with fewer than two or more than four.
    """
    if not 2 <= len(builds) <= MOST:
        raise ValueError(f"compare two to {MOST} boards, not {len(builds)}")
    found = evaluate(builds, FEW)
    lines = [headline_of(c) for c in found]
    changes = changes_from(found[0], lines[0].outcomes, found, lines)
    return Comparison(headlines=lines, changes=changes, differences=differences(builds), plots=overlaid(found, names))


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
    for path, values in _unlike([_making(b) for b in builds], "pack_assembly"):
        rows.setdefault("pack_assembly", []).append(Difference(path=path, values=values))
    return [Differences(section=name, rows=of_it) for name, of_it in rows.items()]


def _making(build: Build) -> dict[str, Any]:
    """The pack as it is made, in a few words: nobody compares cells one by one."""
    work = work_of(build)
    told: dict[str, Any] = {"plan": plan_of(build).model_dump(mode="json", exclude_none=True, exclude={"insulated"})}
    if order := told["plan"].pop("order", None):
        told["plan"]["order"] = " ".join(map(str, order))
    if work.cells:
        placed = sum(c.group is not None for c in work.cells)
        told["cells"] = f"{len(work.cells)}, {placed} of them in groups"
    if work.charges:
        told["charges"] = f"{len(work.charges)} charges watched"
    return told


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
    """The builds that are far enough for a prediction, with their samples."""

    def __init__(self, found: Sequence[Evaluation], names: Sequence[str]):
        known = [(c, n, r) for c, n, r in zip(found, _apart(names), ROLES, strict=False) if not c.needs]
        self.evaluations, self.names = [k[0] for k in known], [k[1] for k in known]
        self.roles = [k[2] for k in known]

    def lines(
        self,
        x: Array,
        of: Callable[[Evaluation], Array],
        x_scale: float,
        scale: float,
        ends: Sequence[float] | None = None,
    ) -> list[PlotLine]:
        """One line a build over ``x``, as far as where each ``ends``; ``of`` gives (1 + samples, points)."""
        found = []
        for i, (evaluation, name, role) in enumerate(zip(self.evaluations, self.names, self.roles, strict=True)):
            count = x.size if ends is None else max(int((x <= ends[i] * 1.001).sum()), 2)
            line = banded_line(name, role, x[:count] * x_scale, of(evaluation)[:, :count], scale)
            found.append(line)
        return found


def overlaid(found: Sequence[Evaluation], names: Sequence[str]) -> list[Plot]:
    """The deciding curves of all builds in one figure each; builds that cannot be predicted yet are left out."""
    boards = _Boards(found, names)
    if not boards.evaluations:
        return []
    builds = [c.build for c in found]
    tops = [float(c.headlines.top_speed[0]) for c in boards.evaluations]
    unloaded = max(float(c.headlines.unloaded_speed[0]) for c in boards.evaluations)
    speeds = np.linspace(0.0, unloaded * 1.02, _POINTS)
    moving = np.linspace(6.0 / 3.6, max(*tops, 8.0 / 3.6), 15)
    charge = np.linspace(0.04, 1.0, 21)
    marks = cruise_marks(builds[0])
    hills = sorted({0.0, *(grade for b in builds if (grade := hill_grade(b)))})
    needed = [
        PlotLine(
            name=f"{'flat' if g == 0.0 else f'{g:.3g} % uphill'} needs",
            short="flat" if g == 0.0 else f"{g:.3g} %",
            role="need",
            x=plain(speeds * 3.6),
            mid=plain(needed_by(boards.evaluations[0].boards, speeds, g / 100.0)),
        )
        for g in hills
    ]
    return [
        Plot(
            id="thrust",
            title="Thrust against speed",
            x_title="speed",
            x_quantity="speed",
            y_title="force at the road",
            y_quantity="force",
            lines=[*boards.lines(speeds, lambda c: thrust_of(c.boards, speeds), 3.6, 1.0), *needed],
            marks=[],
            text=f"What each board can give; the thin lines are what {boards.names[0]} needs.",
        ),
        Plot(
            id="range",
            title="Range against cruising speed",
            x_title="cruising speed",
            x_quantity="speed",
            y_title="range",
            y_quantity="distance",
            lines=boards.lines(moving, lambda c: ranges_of(c, moving), 3.6, 1e-3, tops),
            marks=marks,
            text="Each as its own brief means its distance. A line ends where the board goes no faster.",
        ),
        Plot(
            id="consumption",
            title="Consumption against speed",
            x_title="speed",
            x_quantity="speed",
            y_title="energy by distance",
            y_quantity="energy_per_distance",
            lines=boards.lines(moving, lambda c: consumption_of(c.boards, moving), 3.6, 1.0 / 3.6, tops),
            marks=marks,
            text="On the flat, in still air.",
        ),
        Plot(
            id="charge",
            title="Top speed by charge",
            x_title="charge left",
            x_quantity="share",
            y_title="top speed on the flat",
            y_quantity="speed",
            lines=boards.lines(charge, lambda c: sweeps.highest_speeds(c.boards, 0.0, charge)[0], 100.0, 3.6),
            marks=[],
            text="How much speed is left as the pack empties.",
        ),
    ]
