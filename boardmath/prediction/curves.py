"""Curves of a build: what it can give against what road and wind need, over speed, charge and time, each with its band."""

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards, changed
from boardmath.model.evaluation import HIGH, LOW, Evaluation
from boardmath.model.inputs import climb_length, hill_grade, range_means
from boardmath.model.sampling import FEW
from boardmath.physics.types import Array
from boardmath.prediction.braking import NOT_FULL
from boardmath.prediction.outcomes import RANGE_WORDS

_POINTS = 41
USUAL_HILL_PCT = 10.0
"""Of the heat that is shown where the brief has no hill."""


class PlotLine(BaseModel):
    """One line of a figure; ``low`` and ``high`` are its band where it has one."""

    name: str
    role: str
    short: str | None = None
    """What stands at its end where several lines share a look."""
    x: list[float]
    mid: list[float]
    low: list[float] | None = None
    high: list[float] | None = None


class PlotMark(BaseModel):
    """A place on the x axis worth a name."""

    name: str
    x: float


class Plot(BaseModel):
    """A figure with named axes; ``text`` says in words what it shows."""

    id: str
    title: str
    x_title: str
    x_quantity: str
    y_title: str
    y_quantity: str
    lines: list[PlotLine]
    marks: list[PlotMark]
    text: str


def curves(build: Build) -> list[Plot]:
    """All figures of a build, or none while it is not far enough for a prediction."""
    evaluation = Evaluation(build, FEW)
    if evaluation.needs:
        return []
    top = float(evaluation.headlines.top_speed[0])
    speeds = np.linspace(0.0, float(evaluation.headlines.unloaded_speed[0]) * 1.02, _POINTS)
    moving = np.linspace(6.0 / 3.6, max(top, 8.0 / 3.6), 15)
    return [
        _thrust(evaluation, speeds, top),
        _range(evaluation, moving),
        _consumption(evaluation, moving),
        _speed_by_charge(evaluation),
        _heat(evaluation),
        _braking(evaluation, speeds[speeds <= top]),
    ]


def banded_line(name: str, role: str, x: Array, rows: Array, scale: float = 1.0) -> PlotLine:
    """A line from the middle and its band from the samples; ``rows`` has the middle first, shape (1 + samples, points)."""
    mid = rows[0] * scale
    low, high = np.percentile(rows[1:] * scale, (LOW, HIGH), axis=0)
    return PlotLine(
        name=name,
        role=role,
        x=plain(x),
        mid=plain(mid),
        low=plain(np.minimum(low, mid)),
        high=plain(np.maximum(high, mid)),
    )


def thrust_of(boards: Boards, speeds: Array) -> Array:
    """What the drive gives at the road at most, its own drag taken off, N; shape (boards, speeds)."""
    most, _ = sweeps.most_thrusts(boards, speeds, sweeps.early_charge(boards)[:, None])
    return np.maximum(most - boards.drive_drag[:, None], 0.0)


def consumption_of(boards: Boards, speeds: Array) -> Array:
    """J/m on the flat at 60 % charge, in still air; shape (boards, speeds)."""
    found = sweeps.moments(boards, speeds, 0.0, _HALFWAY)
    return np.asarray(found.bus_voltage * found.pack_current / speeds)


def ranges_of(evaluation: Evaluation, speeds: Array) -> Array:
    """Range by cruising speed as the brief means it and with all packs, m; at the brief's own speed it is the predicted range.

    Args:
        speeds: m/s; each sample's rider keeps up the same share of them as of the brief's.
    """
    boards = evaluation.boards
    match range_means(evaluation.build):
        case "to_cut_off":
            boards = changed(boards, charge_reserve=0.0)
        case "worst_day":
            boards = evaluation.on_the_worst_day(boards)
    return evaluation.packs * sweeps.ranges_at(boards, speeds, boards.mean_speed / boards.cruise_speed[0])


_HALFWAY = 0.6


def needed_by(boards: Boards, speeds: Array, grade: float) -> Array:
    """N at the road that the first board needs on a grade (rise over run)."""
    found = sweeps.moments(boards[:1], speeds, grade, _HALFWAY)[0]
    return np.asarray(found.needed - boards.drive_drag[0])


def plain(values: Array) -> list[float]:
    return [round(float(v), 4) for v in np.nan_to_num(values)]


def _thrust(evaluation: Evaluation, speeds: Array, top: float) -> Plot:
    kmh = speeds * 3.6
    lines = [banded_line("the board can give", "can", kmh, thrust_of(evaluation.boards, speeds))]
    hill = hill_grade(evaluation.build)
    for grade in sorted({0.0, 5.0, 10.0, hill or 15.0}):
        name = "flat" if grade == 0.0 else f"{grade:.3g} % uphill"
        lines.append(
            PlotLine(
                name=f"{name} needs",
                short=name.removesuffix(" uphill"),
                role="hill" if grade == hill else "need",
                x=plain(kmh),
                mid=plain(needed_by(evaluation.boards, speeds, grade / 100.0)),
            )
        )
    windy = changed(evaluation.board, head_wind=evaluation.board.head_wind + 5.0)
    against = needed_by(windy, speeds, 0.0)
    lines.append(
        PlotLine(name="flat into 5 m/s of wind needs", short="wind", role="wind", x=plain(kmh), mid=plain(against))
    )
    return Plot(
        id="thrust",
        title="Thrust against speed",
        x_title="speed",
        x_quantity="speed",
        y_title="force at the road",
        y_quantity="force",
        lines=lines,
        marks=[PlotMark(name="top speed", x=top * 3.6)],
        text=f"Top speed is where the board's thrust meets what the flat needs: {top * 3.6:.0f} km/h. Where a hill's "
        "line is above the board's, it cannot hold that speed there.",
    )


def _range(evaluation: Evaluation, speeds: Array) -> Plot:
    line = banded_line("range", "can", speeds * 3.6, ranges_of(evaluation, speeds), 1e-3)
    return Plot(
        id="range",
        title="Range against cruising speed",
        x_title="cruising speed",
        x_quantity="speed",
        y_title=f"range {RANGE_WORDS[range_means(evaluation.build)]}",
        y_quantity="distance",
        lines=[line],
        marks=cruise_marks(evaluation.build),
        text=f"From {line.mid[0]:.0f} km at {line.x[0]:.0f} km/h to {line.mid[-1]:.0f} km flat out: air drag makes the "
        "difference.",
    )


def _consumption(evaluation: Evaluation, speeds: Array) -> Plot:
    line = banded_line(
        "consumption on the flat", "can", speeds * 3.6, consumption_of(evaluation.boards, speeds), 1.0 / 3.6
    )
    return Plot(
        id="consumption",
        title="Consumption against speed",
        x_title="speed",
        x_quantity="speed",
        y_title="energy per distance",
        y_quantity="energy_per_distance",
        lines=[line],
        marks=cruise_marks(evaluation.build),
        text=f"{line.mid[0]:.0f} Wh/km at {line.x[0]:.0f} km/h and {line.mid[-1]:.0f} Wh/km at {line.x[-1]:.0f} km/h, still air.",
    )


def cruise_marks(build: Build) -> list[PlotMark]:
    return [PlotMark(name="cruising", x=build.brief.cruise_kmh)] if build.brief.cruise_kmh else []


def _speed_by_charge(evaluation: Evaluation) -> Plot:
    charge = np.linspace(0.04, float(evaluation.board.charge_full[0]), 21)
    speeds, _ = sweeps.highest_speeds(evaluation.boards, 0.0, charge)
    line = banded_line("top speed", "can", charge * 100.0, speeds, 3.6)
    return Plot(
        id="charge",
        title="Top speed by charge",
        x_title="charge left",
        x_quantity="share",
        y_title="top speed on the flat",
        y_quantity="speed",
        lines=[line],
        marks=[PlotMark(name="reserve", x=float(evaluation.board.charge_reserve[0]) * 100.0)],
        text=f"With a full pack {line.mid[-1]:.0f} km/h, half empty {line.mid[10]:.0f} km/h; near empty the "
        "low-voltage cut-off reduces it.",
    )


def _heat(evaluation: Evaluation) -> Plot:
    grade = hill_grade(evaluation.build) or USUAL_HILL_PCT
    board, charge = evaluation.board, evaluation.early_charge
    speed = sweeps.attained_speeds(board, board.cruise_speed[:, None], grade / 100.0, charge)[0, 0]
    pace = max(float(speed), 5.0 / 3.6)
    top_after = climb_length(evaluation.build) / pace
    seconds = np.linspace(0.0, max(4.0 * top_after, 300.0), _POINTS)
    found = sweeps.moments(evaluation.boards, pace, grade / 100.0, charge, seconds=seconds)
    minutes = seconds / 60.0
    limit = float(board.winding_limit[0])
    lines = [
        banded_line("motor winding", "can", minutes, found.winding),
        banded_line("controller", "second", minutes, found.controller),
        banded_line("cells", "third", minutes, found.cells),
    ]
    lines.append(PlotLine(name="winding's limit", role="limit", x=plain(minutes[[0, -1]]), mid=[limit, limit]))
    at_top = float(np.interp(top_after / 60.0, minutes, lines[0].mid))
    return Plot(
        id="heat",
        title=f"Heat on a {grade:.3g} % climb",
        x_title="time",
        x_quantity="minutes",
        y_title="temperature",
        y_quantity="temperature",
        lines=lines,
        marks=[PlotMark(name="top of the hill", x=top_after / 60.0)],
        text=f"At {pace * 3.6:.0f} km/h you reach the top after {top_after / 60.0:.1f} minutes, with the winding at "
        f"{at_top:.0f} °C. Controllers reduce power at {limit:.0f} °C.",
    )


def _braking(evaluation: Evaluation, speeds: Array) -> Plot:
    # A board that does not move is still braked at walking pace.
    usable = speeds[speeds > 1.0] if (speeds > 1.0).any() else np.array([1.0, 1.4])
    full = evaluation.boards.charge_full

    def slows(charge: Array) -> Array:
        return np.asarray(sweeps.brakes(evaluation.boards, usable, charge[:, None]).deceleration)

    lines = [
        banded_line("at 80 % charge", "can", usable * 3.6, slows(np.minimum(full, NOT_FULL))),
        banded_line("on a full pack", "second", usable * 3.6, slows(full)),
    ]
    return Plot(
        id="braking",
        title="Braking by the motors",
        x_title="speed",
        x_quantity="speed",
        y_title="deceleration on the flat",
        y_quantity="acceleration",
        lines=lines,
        marks=cruise_marks(evaluation.build),
        text="A full pack cannot take the energy, so the brake is weaker. A foot on the road is not counted.",
    )
