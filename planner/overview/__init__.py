"""The overview: what comes next across all pages and why, what is done, what is late, and what happened lately."""

from planner.overview.facts import BuildFacts, RecordKept, RevisionKept, RidesKept, TestKept, WorkDay
from planner.overview.report import Overview, overview

__all__ = ["BuildFacts", "Overview", "RecordKept", "RevisionKept", "RidesKept", "TestKept", "WorkDay", "overview"]
