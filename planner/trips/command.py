"""``python -m planner trip``: how far the charge carries over a route."""

from typing import Any

from boardmath.buildfile import Build, BuildFileError, Fault
from planner.trips.files import route_of
from planner.trips.report import trip_report


def trip_ridden(build: Build, route: bytes, name: str) -> dict[str, Any]:
    """What the trip of a file comes to with a board.

    Raises:
        BuildFileError: the route cannot be read, or there is no prediction.
    """
    report = trip_report(build, route_of(route, name))
    if report.needs:
        raise BuildFileError([Fault("", n.text) for n in report.needs])
    return report.model_dump(
        mode="json", exclude_none=True, exclude={"needs": True, "helps": {"__all__": {"trip", "changes"}}}
    )
