"""The line from cell to road: how much of each station's ability is used at a chosen moment."""

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, computed_field

from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.engine.operating import LIMITS
from boardmath.geometry import belt
from boardmath.messages import Figure, Message, message
from boardmath.model.defaults import USUAL
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_rating, drive_kind, hill_grade
from boardmath.physics.limit import Limit
from boardmath.physics.types import Array

Strain = Literal["easy", "near", "at its limit", "over its limit"]
NEAR, GIVES_WAY, ASKED_FOR_MORE = 0.85, 0.995, 1.001
"""Shares of an ability in use above which it is near its end, gives way, and is asked for more than it has."""
StationName = Literal["cells", "volts", "controller", "motor", "drive", "wheel", "road"]


class LineStation(BaseModel):
    """A station of the line: the share of its ability in use (1 is all), and its figures."""

    name: StationName
    title: str
    use: float | None = None
    figures: list[Figure]
    remark: str = ""

    @computed_field  # type: ignore[prop-decorator]
    @property
    def state(self) -> Strain:
        """How near to all of it: the searches stop within half a per cent of where something gives way."""
        if self.use is None or self.use <= NEAR:
            return "easy"
        if self.use < GIVES_WAY:
            return "near"
        return "at its limit" if self.use <= ASKED_FOR_MORE else "over its limit"


class Moment(BaseModel):
    """The line at one moment of riding."""

    id: Literal["flat_out", "hill", "pulling_away", "cruising"]
    title: Message
    speed_kmh: float
    grade_pct: float
    stations: list[LineStation]
    tightest: StationName
    limit: Limit


def moments(evaluation: Evaluation) -> list[Moment]:
    """The line flat out, on the brief's hill, pulling away with everything open, and cruising."""
    build, board, charge = evaluation.build, evaluation.board, evaluation.early_charge
    grade = hill_grade(build)
    rows = [
        ("flat_out", float(evaluation.headlines.top_speed[0]), 0.0),
        ("pulling_away", 0.0, 0.0),
        ("cruising", evaluation.cruise, 0.0),
    ]
    if grade:
        on_it = sweeps.attained_speeds(board, board.cruise_speed[:, None], grade / 100.0, charge)
        rows.insert(1, ("hill", float(on_it[0, 0]), grade / 100.0))
    speed, grades = np.array([r[1] for r in rows]), np.array([r[2] for r in rows])
    most = float(sweeps.most_thrusts(board, 0.0, charge)[0][0, 0])
    thrust = np.array([most if r[0] == "pulling_away" else np.nan for r in rows])
    points = sweeps.moments(board, speed, grades, charge, thrust, _seconds(build, speed))[0]
    limits = sweeps.limit_of(points)
    found = []
    for i, (id, _, _) in enumerate(rows):
        stations = _stations(evaluation, points[i])
        used = [s for s in stations if s.use is not None]
        tightest = max(used, key=lambda s: s.use or 0.0)
        found.append(
            Moment(
                id=id,
                title=_title(id, grade),
                speed_kmh=float(speed[i]) * 3.6,
                grade_pct=float(grades[i]) * 100.0,
                stations=stations,
                tightest=tightest.name,
                limit=LIMITS[int(limits[i])],
            )
        )
    return found


_DRIVES = {"belt": "Belt", "chain": "Chain", "gear": "Gears"}


def _title(id: str, grade: float | None) -> Message:
    if id == "hill":
        return message("The hill, {grade}", grade=(grade or 0.0, "grade"))
    return message({"flat_out": "Flat out", "pulling_away": "Pulling away", "cruising": "Cruising"}[id])


def _seconds(build: Build, speed: Array) -> Array:
    """How long each moment lasts for heat: the brief's climb, or two minutes."""
    length = build.brief.hill_length_m
    return np.where(speed > 1.0, (length or 240.0) / np.maximum(speed, 1.0), 20.0)


def _stations(evaluation: Evaluation, point: Any) -> list[LineStation]:
    build, board = evaluation.build, evaluation.board[0]
    parallel = evaluation.resolved.fixed["parallel"]
    amps, bus = float(point.pack_current), float(point.bus_voltage)
    pack = build.parts.pack
    assert pack is not None
    rating = cell_rating(pack).value
    thrust = float(point.thrust)
    speed = float(point.speed)
    heat = float((point.winding - board.ambient) / (board.winding_limit - board.ambient))
    by_current = float(point.use_motor_current)

    def figure(value: float, quantity: str) -> Figure:
        return Figure(value=value, quantity=quantity)

    kind = drive_kind(build)
    drive = build.parts.drive
    drive_figures = []
    if kind in ("belt", "chain", "gear") and drive is not None:
        drive_figures.append(figure(float(board.gear), "ratio"))
        if kind == "belt" and drive.belt_teeth is not None:
            pitch = drive.pitch_mm or USUAL["drive.pitch_mm"]
            small, large = (
                belt.pitch_radius(drive.motor_teeth or USUAL["drive.motor_teeth"], pitch),
                belt.pitch_radius(drive.wheel_teeth or USUAL["drive.wheel_teeth"], pitch),
            )
            try:
                distance = belt.centre_distance(drive.belt_teeth * pitch, small, large)
                drive_figures.append(
                    figure(
                        belt.teeth_in_mesh(distance, drive.motor_teeth or USUAL["drive.motor_teeth"], small, large),
                        "teeth",
                    )
                )
            except ValueError:
                pass
    lost = thrust * speed * (1.0 / float(board.drive_efficiency) - 1.0)
    if kind not in ("hub", "direct"):
        drive_figures.append(figure(lost, "power"))
    controller = max(
        float(u) for u in (point.use_pack_current, point.use_taper, point.use_electrical_speed, point.use_pack_power)
    )
    return [
        LineStation(
            name="cells",
            title="Cells",
            use=amps / parallel / rating,
            figures=[figure(amps / parallel, "current"), figure(rating, "current")],
            remark="of the rating",
        ),
        LineStation(
            name="volts",
            title="Volts",
            use=float(point.use_pack_voltage),
            figures=[figure(float(point.motor_voltage), "voltage"), figure(bus, "voltage")],
            remark="of what is left",
        ),
        LineStation(
            name="controller",
            title="Controller",
            use=controller,
            figures=[figure(amps, "current"), figure(float(point.controller), "temperature")],
            remark="tapering" if point.use_taper > 0 else "from the pack",
        ),
        LineStation(
            name="motor",
            title="Motor",
            use=max(by_current, heat),
            figures=[figure(float(point.motor_current), "current"), figure(float(point.winding), "temperature")],
            remark="by heat" if heat > by_current else "by current",
        ),
        LineStation(name="drive", title=_DRIVES.get(kind, "Drive"), figures=drive_figures),
        LineStation(
            name="wheel",
            title="Wheel",
            use=float(point.use_grip),
            figures=[figure(thrust, "force")],
            remark=f"grip of {int(board.driven_wheels)} driven",
        ),
        LineStation(name="road", title="Road", figures=[figure(speed * 3.6, "speed"), figure(thrust * speed, "power")]),
    ]
