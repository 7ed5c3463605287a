"""What follows from the parts that decide: a box, wires, a fuse, a charger, a remote, chosen around them."""

from collections.abc import Mapping, Sequence

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive
from boardmath.buildfile.electrics import Charger, Controller, Pack
from boardmath.buildfile.figures import Part
from boardmath.buildfile.once import varied
from boardmath.checks import findings
from boardmath.checks.finding import Finding
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import full_voltage, marked
from boardmath.model.mass import resolve_masses
from boardmath.parts.cost import cost
from boardmath.parts.default_settings import first_settings
from boardmath.parts.part_selection import for_motors, with_part
from boardmath.prediction.braking import charge_that_brakes
from boardmath.prediction.outcomes import headline_of
from planner.design.best_boards import GRAVE, UNASKED

_GRAVITY = {"danger": GRAVE, "stop": GRAVE, "warn": 0.25, "note": 0.0}
_SPEED_TO_SPARE = 0.2
"""Gearing that the brief never rides weighs about as much as a warning."""
_MISMATCH = 2.0
"""A charger of another voltage, by the share that it is off."""
_UNPRICED = 0.1
"""A part without a price, which is not for nothing."""
_MONEY, _KG = 1.0 / UNASKED["money"], 0.5 / UNASKED["carry"]
"""What 1 of money and 1 kg weigh where nothing speaks against a part: a choice of ours, like the weights above."""
FOLLOWING = ("enclosure", "risers", "switch", "wiring", "fuse", "charger", "remote")
"""The slots that follow, in the order in which they are settled."""


class Finish:
    """Chooses what follows from the parts that decide.

    Args:
        library: parts by kind.
        kept: slots that the builder has filled; they stay.
    """

    def __init__(self, library: Mapping[str, Sequence[Part]], kept: set[str]):
        self._library, self._kept = library, kept

    def whole(self, build: Build) -> Build:
        """The board with everything that the library has for it: slot by slot what the least speaks against."""
        now = settled(build)
        for kind in FOLLOWING:
            options = self._options(now, kind)
            if options:
                now = _least_against(options)
            if kind == "enclosure" and has_dangers(now) and "deck" not in self._kept:
                # No box under this deck holds the pack: another deck with each of its boxes.
                decks = [now, *(settled(with_part(build, "deck", deck)) for deck in self._library.get("deck", ()))]
                now = _least_against([o for deck in decks for o in self._options(deck, kind) or [deck]])
        return now

    def _options(self, now: Build, kind: str) -> list[Build]:
        """The board with each part of a kind; risers also none."""
        if kind in self._kept or not self._library.get(kind):
            return []
        chosen = [settled(with_part(now, kind, part)) for part in self._library[kind]]
        return [now, *chosen] if kind == "risers" else chosen


def settled(build: Build) -> Build:
    """What follows from the choices: driven wheels, as many controllers as motors need, settings within every rating."""
    parts = build.parts
    count = (parts.motors.count if parts.motors else 1) or 1
    drive, controller = parts.drive or Drive(kind="belt"), parts.controller
    changed: dict[str, Part] = {"drive": drive.model_copy(update={"driven_wheels": count})}
    if controller is not None:
        changed["controller"] = for_motors(controller, count)
    build = build.model_copy(update={"parts": parts.model_copy(update=changed)})
    return build.model_copy(update={"settings": first_settings(build)})


def charged_to_brake(build: Build) -> Build:
    """Charged only so far that the brakes hold the hill from the start, where that helps."""
    volts, pack = charge_that_brakes(Evaluation(build, 0)), build.parts.pack
    if volts is None or pack is None:
        return build
    changed = build.parts.model_copy(update={"pack": pack.model_copy(update={"charge_to_v": volts})})
    return build.model_copy(update={"parts": changed})


def grave(build: Build) -> float:
    """What is found of a board: each danger or misfit weighs four. What the brief's shortfall says is counted elsewhere."""
    found = findings(build, headline_of(Evaluation(build, 0), explained=False).outcomes, None)
    return _weight(found) + _SPEED_TO_SPARE * any(f.kind == "speed-to-spare" for f in found) + _mismatch(build)


def has_dangers(build: Build) -> bool:
    """Whether anything is found that must not be."""
    return any(f.severity in ("danger", "stop") for f in findings(build, None, None))


def _weight(found: Sequence[Finding]) -> float:
    return sum(_GRAVITY[f.severity] for f in found if f.kind != "brief")


def _least_against(options: Sequence[Build]) -> Build:
    """The board against which the least speaks, then the cheapest and lightest; findings are asked while they can decide."""
    varied(options[0], options[1:])
    varied(marked(options[0]), [marked(b) for b in options[1:]])
    rows = []
    for i, option in enumerate(options):
        mass = sum(m.value for m in resolve_masses(option).values()) / 1000.0
        sums = cost(option)
        rows.append((_MONEY * sums.outlay + _UNPRICED * len(sums.unpriced) + _KG * mass + _mismatch(option), i))
    best, least = options[0], float("inf")
    for low, i in sorted(rows):
        if low >= least:
            break
        score = low + _weight(findings(options[i], None, None))
        if score < least:
            best, least = options[i], score
    return best


def _mismatch(build: Build) -> float:
    """Parts that no finding compares but nobody would put together."""
    parts = build.parts
    score = 0.0
    if isinstance(parts.charger, Charger) and isinstance(parts.pack, Pack) and parts.charger.v and parts.pack.series:
        score += _MISMATCH * abs(parts.charger.v - full_voltage(parts.pack)) / full_voltage(parts.pack)
    if isinstance(parts.controller, Controller) and parts.controller.programmable is False:
        score += 0.1
    return score
