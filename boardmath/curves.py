"""Curves of a build: what it can give against what road and wind need, over speed, charge and time, each with its band."""

from collections.abc import Callable, Sequence

import numpy as np
from pydantic import BaseModel

from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.inputs import hill_grade
from boardmath.parameters import Incomplete, Resolved, resolve
from boardmath.physics.types import Array
from boardmath.powertrain import Board, attained_speed, highest_speed, most_thrust, operating_point, road_resistance
from boardmath.predict.bands import HIGH, LOW, samples_of
from boardmath.predict.braking import NOT_FULL, braking
from boardmath.predict.climbing import warming
from boardmath.predict.distance import ride
from boardmath.predict.outcomes import early_charge, outcomes
from boardmath.report import climb_length

_SAMPLES = 64
_POINTS = 41


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
    try:
        resolved = resolve(build)
    except Incomplete:
        return []
    boards = [nominal_board([resolved]), samples_of(resolved, _SAMPLES)]
    top = outcomes(boards[0])
    speeds = np.linspace(0.0, float(top.unloaded_speed[0]) * 1.02, _POINTS)
    moving = np.linspace(6.0 / 3.6, max(float(top.top_speed[0]), 8.0 / 3.6), 15)
    return [
        _thrust(build, boards, speeds, float(top.top_speed[0])),
        _range(build, boards, moving),
        _consumption(build, boards, moving),
        _speed_by_charge(boards),
        _heat(build, boards, resolved),
        _braking(build, boards, speeds[speeds <= top.top_speed[0]]),
    ]


def _line(
    name: str, role: str, x: Array, of: Callable[[Board], Array], boards: Sequence[Board], scale: float = 1.0
) -> PlotLine:
    """A line from the nominal board and its band from the samples; ``of`` gives (boards, points)."""
    mid = np.broadcast_to(of(boards[0]), (1, x.size))[0] * scale
    sampled = np.broadcast_to(of(boards[1]), (_SAMPLES, x.size)) * scale
    low, high = np.percentile(sampled, (LOW, HIGH), axis=0)
    return PlotLine(
        name=name,
        role=role,
        x=plain(x),
        mid=plain(mid),
        low=plain(np.minimum(low, mid)),
        high=plain(np.maximum(high, mid)),
    )


def plain(values: Array) -> list[float]:
    return [round(float(v), 4) for v in np.nan_to_num(values)]


def _thrust(build: Build, boards: Sequence[Board], speeds: Array, top: float) -> Plot:
    def can(board: Board) -> Array:
        most = most_thrust(board.with_axis(), speeds, early_charge(board)[:, np.newaxis])[0]
        return np.maximum(most - board.with_axis().drive_drag, 0.0)

    kmh = speeds * 3.6
    lines = [_line("the board can give", "can", kmh, can, boards)]
    hill = hill_grade(build)
    for grade in sorted({0.0, 5.0, 10.0, hill or 15.0}):
        name = "flat" if grade == 0.0 else f"{grade:.3g} % uphill"
        need = road_resistance(boards[0].with_axis(), speeds, grade / 100.0)[0]
        lines.append(
            PlotLine(
                name=f"{name} needs",
                short=name.removesuffix(" uphill"),
                role="hill" if grade == hill else "need",
                x=plain(kmh),
                mid=plain(need),
            )
        )
    windy = boards[0].with_values(head_wind=boards[0].head_wind + 5.0)
    against = road_resistance(windy.with_axis(), speeds, 0.0)[0]
    lines.append(
        PlotLine(name="flat into 5 m/s of wind needs", short="wind", role="wind", x=plain(kmh), mid=plain(against))
    )
    return Plot(
        id="thrust", title="Thrust against speed", x_title="speed", x_quantity="speed", y_title="force at the road",
        y_quantity="force", lines=lines, marks=[PlotMark(name="top speed", x=top * 3.6)],
        text=f"Where what the board can give meets what the flat needs, at {top * 3.6:.0f} km/h, it goes no faster. "
        "Where a hill's line lies above, it cannot hold that speed there.",
    )  # fmt: skip


def _range(build: Build, boards: Sequence[Board], speeds: Array) -> Plot:
    def far(board: Board) -> Array:
        return ride(board.with_axis(), np.broadcast_to(speeds, (board.rolling_mass.size, speeds.size))).range

    line = _line("range", "can", speeds * 3.6, far, boards, 1e-3)
    return Plot(
        id="range", title="Range against cruising speed", x_title="cruising speed", x_quantity="speed", y_title="range",
        y_quantity="distance", lines=[line], marks=cruise_marks(build),
        text=f"From {line.mid[0]:.0f} km at {line.x[0]:.0f} km/h down to {line.mid[-1]:.0f} km flat out: the air takes it.",
    )  # fmt: skip


def _consumption(build: Build, boards: Sequence[Board], speeds: Array) -> Plot:
    def takes(board: Board) -> Array:
        point = operating_point(board.with_axis(), speeds, 0.0, 0.6)
        return point.bus_voltage * point.pack_current / speeds

    line = _line("consumption on the flat", "can", speeds * 3.6, takes, boards, 1.0 / 3.6)
    return Plot(
        id="consumption", title="Consumption against speed", x_title="speed", x_quantity="speed", y_title="energy by distance",
        y_quantity="energy_per_distance", lines=[line], marks=cruise_marks(build),
        text=f"{line.mid[0]:.0f} Wh/km at {line.x[0]:.0f} km/h and {line.mid[-1]:.0f} Wh/km at {line.x[-1]:.0f} km/h, still air.",
    )  # fmt: skip


def cruise_marks(build: Build) -> list[PlotMark]:
    return [PlotMark(name="cruising", x=build.brief.cruise_kmh)] if build.brief.cruise_kmh else []


def _speed_by_charge(boards: Sequence[Board]) -> Plot:
    charge = np.linspace(0.04, float(boards[0].charge_full[0]), 21)
    line = _line(
        "top speed", "can", charge * 100.0, lambda b: highest_speed(b.with_axis(), 0.0, charge)[0], boards, 3.6
    )
    return Plot(
        id="charge", title="Top speed by charge", x_title="charge left", x_quantity="share", y_title="top speed on the flat",
        y_quantity="speed", lines=[line], marks=[PlotMark(name="reserve", x=float(boards[0].charge_reserve[0]) * 100.0)],
        text=f"Full it does {line.mid[-1]:.0f} km/h, half empty {line.mid[10]:.0f} km/h; near empty the taper takes over.",
    )  # fmt: skip


def _heat(build: Build, boards: Sequence[Board], resolved: Resolved) -> Plot:
    grade = hill_grade(build) or 10.0
    speed, _ = attained_speed(boards[0], boards[0].cruise_speed, grade / 100.0, early_charge(boards[0]))
    pace = max(float(speed[0]), 5.0 / 3.6)
    top_after = climb_length(build) / pace
    seconds = np.linspace(0.0, max(4.0 * top_after, 300.0), _POINTS)

    def at(which: int) -> Callable[[Board], Array]:
        def hot(board: Board) -> Array:
            wide = board.with_axis()
            point = operating_point(wide, pace, grade / 100.0, early_charge(board)[:, np.newaxis])
            return warming(wide, point, seconds)[which]

        return hot

    minutes = seconds / 60.0
    limit = resolved.fixed["winding_limit"]
    lines = [
        _line("motor winding", "can", minutes, at(0), boards),
        _line("controller", "second", minutes, at(2), boards),
    ]
    lines.append(PlotLine(name="winding's limit", role="limit", x=plain(minutes[[0, -1]]), mid=[limit, limit]))
    at_top = float(np.interp(top_after / 60.0, minutes, lines[0].mid))
    return Plot(
        id="heat", title=f"Heat on a {grade:.3g} % climb", x_title="time", x_quantity="minutes", y_title="temperature",
        y_quantity="temperature", lines=lines, marks=[PlotMark(name="top of the hill", x=top_after / 60.0)],
        text=f"At {pace * 3.6:.0f} km/h the top comes after {top_after / 60.0:.1f} minutes, with the winding at {at_top:.0f} °C; "
        f"{limit:.0f} °C is where controllers roll back.",
    )  # fmt: skip


def _braking(build: Build, boards: Sequence[Board], speeds: Array) -> Plot:
    usable = speeds[speeds > 1.0]

    def slows(full: bool) -> Callable[[Board], Array]:
        def by(board: Board) -> Array:
            charge = board.charge_full if full else np.minimum(board.charge_full, NOT_FULL)
            return braking(board.with_axis(), usable, charge[:, np.newaxis]).deceleration

        return by

    lines = [
        _line("at 80 % charge", "can", usable * 3.6, slows(False), boards),
        _line("on a full pack", "second", usable * 3.6, slows(True), boards),
    ]
    return Plot(
        id="braking", title="Braking by the motors", x_title="speed", x_quantity="speed", y_title="deceleration on the flat",
        y_quantity="acceleration", lines=lines, marks=cruise_marks(build),
        text="A full pack cannot take the energy, so the same brake holds less. A foot on the road is not counted.",
    )  # fmt: skip
