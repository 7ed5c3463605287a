"""What a figure measured at the bench can be at all: a caliper read in metres is told at once."""

from collections.abc import Mapping, Sequence

from boardmath.buildfile.reading import Fault
from planner.shared.step import Check, Step

MOST = {
    "length": 2000.0,
    "thickness": 60.0,
    "mass": 60_000.0,
    "angle": 90.0,
    "seconds": 600.0,
    "count": 400.0,
    "body_mass": 60.0,
    "voltage": 120.0,
    "way": 500.0,
    "temperature": 300.0,
}
FAR_OFF = 200.0
"""So many times under its plan a figure is one in another unit."""


def cannot_be(steps: Sequence[Step], step: str, values: Mapping[str, float | None]) -> list[Fault]:
    """Figures that were entered at a step and cannot be so; of a step that is not there nothing is told."""
    checks = next((s.checks for s in steps if s.id == step), [])
    return [
        Fault(check.id, reason)
        for check in checks
        if (value := values.get(check.id)) is not None and (reason := _reason(check, value))
    ]


def _reason(check: Check, value: float) -> str | None:
    most = MOST.get(check.quantity)
    if most is None:
        return None
    # A gap can lie on the other side, and a deck can lean the other way.
    least = -most if check.quantity in ("length", "temperature") else 0.0
    if least <= value <= most and not (check.plan and 0.0 < abs(value) < abs(check.plan) / FAR_OFF):
        return None
    unit = f" {check.unit}" if check.unit else ""
    about = f", the plan has {check.plan:g}{unit}" if check.plan else ""
    return f"{value:g}{unit} is not possible: it has to be {least:g} to {most:g}{unit}{about}. Is it in another unit?"
