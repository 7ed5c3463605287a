"""Where a board stands: what comes next across all rooms and why, what is done, what is late, and what happened lately."""

from boardmath.stands.known import Known, RevisionKept, RidesKept, SheetKept, TestKept, WorkDay
from boardmath.stands.report import Stands, stands

__all__ = ["Known", "RevisionKept", "RidesKept", "SheetKept", "Stands", "TestKept", "WorkDay", "stands"]
