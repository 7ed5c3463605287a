"""What a board that rolled out on a track tells of its road and its air, with the errors that the fit leaves."""

from math import hypot

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.calibration.observing import coast_forces
from boardmath.calibration.ride import CoastRun
from boardmath.calibration.runs import Summary, rolled_fit
from boardmath.calibration.track import Track
from boardmath.model.evaluation import Evaluation
from boardmath.model.resolution import Incomplete
from boardmath.physics.road_load import GRAVITY

SLOPE, WIND_SHARE = 0.001, 0.08
"""What no eye and no cheek notices: a slope of a metre in a kilometre, as rolling resistance; half a metre a second of wind, as
a share of the drag area at 6 m/s each way (common practice, no source)."""


class RolledOut(BaseModel):
    """Rolling resistance and drag area of one coast-down, each with its deviation; the drive's own drag is taken off."""

    from_m: float
    crr: float
    crr_error: float
    cda_m2: float
    cda_error_m2: float


def rolled_out_of(build: Build, track: Track, found: Summary) -> list[RolledOut]:
    """The coast-downs that were found in a track; one that the closed solution does not fit is left out."""
    evaluation = Evaluation(build.model_copy(update={"calibration": None}), 0)
    try:
        board = evaluation.board
    except Incomplete:
        return []
    steady, _, mass = coast_forces(board)
    rolling = float(board.rolling_mass[0]) * GRAVITY
    drag = float(steady[0]) - rolling * float(board.crr[0])
    told = []
    for one in found.runs:
        if not isinstance(one.run, CoastRun) or one.from_s is None or one.to_s is None:
            continue
        # Where it ends, something else has begun already.
        own = (track.time >= one.from_s) & (track.time < one.to_s)
        try:
            fit = rolled_fit(track.time[own] - track.time[own][0], track.speed[own], float(mass[0]))
        except (ValueError, RuntimeError):
            continue
        half_rho = 0.5 * float(board.air_density[0])
        errors = np.sqrt(np.diag(fit.covariance))
        told.append(
            RolledOut(
                from_m=one.from_m,
                crr=(fit.steady - drag) / rolling,
                crr_error=hypot(float(errors[0]) / rolling, SLOPE),
                cda_m2=fit.square / half_rho,
                cda_error_m2=hypot(float(errors[1]), WIND_SHARE * fit.square) / half_rho,
            )
        )
    return told
