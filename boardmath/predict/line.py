"""The line from cell to road: how much of each station's ability is used at a chosen moment."""

from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.fit import belt
from boardmath.inputs import cell_rating, drive_kind, hill_grade
from boardmath.parameters import Resolved
from boardmath.physics.types import Array
from boardmath.powertrain import (
    LIMITS,
    Board,
    OperatingPoint,
    attained_speed,
    most_thrust,
    point_at_thrust,
    road_resistance,
)
from boardmath.predict.climbing import warming
from boardmath.predict.outcomes import Outcomes, early_charge
from boardmath.saying import Figure, Saying, say

StationName = Literal["cells", "volts", "controller", "motor", "drive", "wheel", "road"]


class LineStation(BaseModel):
    """A station of the line: the share of its ability in use (1 is all), and its figures."""

    name: StationName
    title: str
    use: float | None = None
    figures: list[Figure]
    remark: str = ""


class Moment(BaseModel):
    """The line at one moment of riding."""

    id: Literal["flat_out", "hill", "pulling_away", "cruising"]
    title: Saying
    speed_kmh: float
    grade_pct: float
    stations: list[LineStation]
    tightest: StationName
    limit: str


def moments(build: Build, resolved: Resolved, board: Board, nominal: Outcomes) -> list[Moment]:
    """The line flat out, on the brief's hill, pulling away with everything open, and cruising."""
    charge = early_charge(board)
    grade = hill_grade(build)
    cruise = np.minimum(board.cruise_speed, nominal.top_speed)
    rows = [("flat_out", nominal.top_speed, 0.0), ("pulling_away", np.zeros(1), 0.0), ("cruising", cruise, 0.0)]
    if grade:
        rows.insert(1, ("hill", attained_speed(board, board.cruise_speed, grade / 100.0, charge)[0], grade / 100.0))
    speed = np.concatenate([r[1] for r in rows])
    grades = np.array([r[2] for r in rows])
    boards = board.with_values(**{n: np.repeat(getattr(board, n), len(rows)) for n in Board.__dataclass_fields__})
    thrust = road_resistance(boards, speed, grades) + boards.drive_drag
    pulling = [r[0] for r in rows].index("pulling_away")
    thrust[pulling] = most_thrust(board, 0.0, charge)[0][0]
    at = np.repeat(charge, len(rows))
    point = point_at_thrust(boards, speed, thrust, boards.open_circuit(at), boards.pack_resistance(at))
    seconds = _seconds(build, speed)
    winding, _, box = warming(boards, point, seconds)
    found = []
    for i, (id, _, _) in enumerate(rows):
        stations = _stations(build, resolved, boards, point, i, float(winding[i]), float(box[i]))
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
                limit=LIMITS[int(point.limit[i])],
            )
        )
    return found


_DRIVES = {"belt": "Belt", "chain": "Chain", "gear": "Gears"}


def _title(id: str, grade: float | None) -> Saying:
    if id == "hill":
        return say("The hill, {grade}", grade=(grade or 0.0, "grade"))
    return say({"flat_out": "Flat out", "pulling_away": "Pulling away", "cruising": "Cruising"}[id])


def _seconds(build: Build, speed: Array) -> Array:
    """How long each moment lasts for heat: the brief's climb, or two minutes."""
    length = build.brief.hill_length_m
    return np.where(speed > 1.0, (length or 240.0) / np.maximum(speed, 1.0), 20.0)


def _stations(
    build: Build, resolved: Resolved, boards: Board, point: OperatingPoint, i: int, winding: float, box: float
) -> list[LineStation]:
    use = {name: float(point.use[row, i]) for row, name in enumerate(LIMITS)}
    parallel = resolved.fixed["parallel"]
    amps, bus = float(point.pack_current[i]), float(point.bus_voltage[i])
    pack = build.parts.pack
    assert pack is not None
    rating = cell_rating(pack).value
    thrust = float(point.thrust[i])
    speed = float(point.motor_speed[i] / boards.gear[i] * boards.wheel_radius[i])
    allowed_rise = float(boards.winding_limit[i] - boards.ambient[i])
    heat = (winding - float(boards.ambient[i])) / allowed_rise

    def figure(value: float, quantity: str) -> Figure:
        return Figure(value=value, quantity=quantity)

    kind = drive_kind(build)
    drive = build.parts.drive
    drive_figures = []
    if kind in ("belt", "chain", "gear") and drive is not None:
        drive_figures.append(figure(resolved.fixed["gear"], "ratio"))
        if kind == "belt" and drive.belt_teeth is not None:
            pitch = drive.pitch_mm or 5.0
            small, large = (
                belt.pitch_radius(drive.motor_teeth or 15, pitch),
                belt.pitch_radius(drive.wheel_teeth or 40, pitch),
            )
            try:
                distance = belt.centre_distance(drive.belt_teeth * pitch, small, large)
                drive_figures.append(
                    figure(belt.teeth_in_mesh(distance, drive.motor_teeth or 15, small, large), "teeth")
                )
            except ValueError:
                pass
    lost = thrust * speed * (1.0 / float(boards.drive_efficiency[i]) - 1.0)
    if kind not in ("hub", "direct"):
        drive_figures.append(figure(lost, "power"))
    return [
        LineStation(
            name="cells", title="Cells", use=amps / parallel / rating,
            figures=[figure(amps / parallel, "current"), figure(rating, "current")], remark="of the rating",
        ),
        LineStation(
            name="volts", title="Volts", use=use["pack voltage"],
            figures=[figure(float(point.motor_voltage[i]), "voltage"), figure(bus, "voltage")],
            remark="of what is left",
        ),
        LineStation(
            name="controller", title="Controller",
            use=max(use["pack current"], use["low-voltage taper"], use["electrical speed"], use["pack power"]),
            figures=[figure(amps, "current"), figure(box, "temperature")],
            remark="tapering" if use["low-voltage taper"] > 0 else "from the pack",
        ),
        LineStation(
            name="motor", title="Motor", use=max(use["motor current"], heat),
            figures=[figure(float(point.motor_current[i]), "current"), figure(winding, "temperature")],
            remark="by heat" if heat > use["motor current"] else "by current",
        ),
        LineStation(name="drive", title=_DRIVES.get(kind, "Drive"), figures=drive_figures),
        LineStation(
            name="wheel", title="Wheel", use=use["grip"], figures=[figure(thrust, "force")],
            remark=f"grip of {int(boards.driven_wheels[i])} driven",
        ),
        LineStation(name="road", title="Road", figures=[figure(speed * 3.6, "speed"), figure(thrust * speed, "power")]),
    ]  # fmt: skip
