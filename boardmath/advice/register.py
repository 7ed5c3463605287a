"""All findings on a build, gravest first."""

from collections.abc import Sequence

from boardmath.advice import electrical, riding
from boardmath.advice.finding import Finding
from boardmath.buildfile.build import Build
from boardmath.predict.promises import Promise

_OF_BUILD = (
    electrical.controller_voltage,
    electrical.cells_mismatch,
    electrical.cut_off_above_the_pack,
    electrical.cells_current,
    electrical.charger_voltage,
)
_OF_PREDICTION = (riding.cannot_move, riding.short_of_brief, riding.faster_than_the_rule)
_GRAVITY = {"danger": 0, "stop": 1, "warn": 2, "note": 3}


def findings(build: Build, promises: Sequence[Promise]) -> list[Finding]:
    """What to know about the build and its prediction, gravest first."""
    found = [f for judge in _OF_BUILD for f in judge(build)]
    found += [f for weigh in _OF_PREDICTION for f in weigh(build, promises)]
    return sorted(found, key=lambda f: _GRAVITY[f.severity])
