"""What rides taught, for the command line."""

from collections.abc import Sequence
from typing import Any

from boardmath.buildfile import Build
from boardmath.calibration.learning import Ridden
from boardmath.calibration.report import calibration_report
from boardmath.calibration.ride import Ride


def calibrated_from(build: Build, rides: Sequence[Ride]) -> dict[str, Any]:
    """Each ride judged by what was known before it, and every input that they moved; ``by`` counts the rides of the file."""
    report = calibration_report(build, [Ridden(ride, build) for ride in rides])
    figure = {"what", "measured", "low", "mid", "high", "inside"}
    return {
        "rides": [
            {"day": r.day, "figures": [f.model_dump(mode="json", include=figure) for f in r.figures]}
            for r in report.judged
        ],
        "learnt": [
            i.model_dump(mode="json", include={"input", "unit", "before", "after", "by"}) for i in report.inputs
        ],
    }
