"""All findings on a build, gravest first."""

from collections.abc import Sequence

from boardmath.advice import electrical, riding
from boardmath.advice.finding import Facts, Finding
from boardmath.buildfile.build import Build
from boardmath.predict.promises import Promise

_OF_BUILD = (
    electrical.controller_voltage,
    electrical.cells_mismatch,
    electrical.cut_off_above_the_pack,
    electrical.cells_current,
    electrical.charger_voltage,
    electrical.regen_current,
)
_OF_PREDICTION = (riding.cannot_move, riding.short_of_brief, riding.faster_than_the_rule, riding.speed_to_spare)
_OF_FACTS = (riding.heat_before_the_top, riding.brakes_on_a_full_pack, riding.first_second)
_GRAVITY = {"danger": 0, "stop": 1, "warn": 2, "note": 3}


def findings(build: Build, promises: Sequence[Promise], facts: Facts | None) -> list[Finding]:
    """What to know about the build and its prediction, gravest first; without ``facts`` only what a headline tells."""
    found = [f for judge in _OF_BUILD for f in judge(build)]
    found += [f for weigh in _OF_PREDICTION for f in weigh(build, promises)]
    if facts is not None:
        found += [f for ponder in _OF_FACTS for f in ponder(build, facts)]
    return sorted(found, key=lambda f: _GRAVITY[f.severity])
