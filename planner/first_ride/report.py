"""How the first ride stands."""

from collections.abc import Collection
from datetime import date

from boardmath.buildfile.build import Build
from boardmath.model.inputs import marked
from planner.first_ride.plan import first_ride, judge
from planner.shared.log import Log
from planner.shared.report import Report, report


def first_ride_report(
    build: Build, log: Log, today: date, *, tested: bool = False, others: Collection[str] = ()
) -> Report:
    """Every step of the protocol against the log; ``tested`` is whether the last bench test passed."""
    build = marked(build)
    elsewhere = {*(["fr-write"] if log.rides else []), *(["fr-tested"] if tested else [])}
    return report(build, first_ride(build), log, [], today, judge=judge, elsewhere=elsewhere, others=others)
