"""Findings: what does not fit or could hurt. Each is a small pure function of a build; none computes physics."""

from boardmath.checks.finding import Facts, Finding
from boardmath.checks.register import findings

__all__ = ["Facts", "Finding", "findings"]
