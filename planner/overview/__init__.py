"""Where a board stands: what comes next across all rooms and why, what is done, what is late, and what happened lately."""

from planner.overview.facts import BuildFacts, RevisionKept, RidesKept, SheetKept, TestKept, WorkDay
from planner.overview.report import Stands, stands

__all__ = ["BuildFacts", "RevisionKept", "RidesKept", "SheetKept", "Stands", "TestKept", "WorkDay", "stands"]
