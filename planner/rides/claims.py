"""A figure that somebody promises, held against a board: whether it can, what it would need, what the claim leaves out."""

import re
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile import Build, BuildFileError, Fault
from boardmath.engine import sweeps
from boardmath.likelihood import WithChance, in_words
from boardmath.messages import Message, message
from boardmath.model.evaluation import Evaluation
from boardmath.physics.types import Array
from boardmath.prediction.ranges import chance_of
from boardmath.units import conversion

ClaimKind = Literal["speed", "range", "hill"]


class Claim(BaseModel):
    """What is claimed: a top speed, a way on one charge, or a hill, at a speed where one is named."""

    kind: ClaimKind
    speed_kmh: float | None = None
    range_km: float | None = None
    grade_pct: float | None = None


class ClaimReport(WithChance):
    """How a claim compares with the board and its rider: the chance that the board can do it, 0 to 1."""

    claim: Claim
    in_words: str
    low: float
    mid: float
    high: float
    quantity: str
    says: Message
    needs: list[Message]
    leaves_out: list[Message]


_PER_HOUR = r"\s*(?:/|per\b|an?\b)\s*h(?:ou)?rs?\b|\s*/\s*h\b"
_KM, _MILES = r"k(?:ilo)?m(?:et(?:re|er)s?|s)?", r"mi(?:les?)?"
_UNITS: list[tuple[str, str, str]] = [
    ("speed", rf"{_KM}(?:{_PER_HOUR})|km/?hr?\b|kph\b", "kilometer/hour"),
    ("speed", rf"{_MILES}(?:{_PER_HOUR})|mph\b", "mile/hour"),
    ("speed", r"m(?:et(?:re|er)s?)?\s*(?:/|per\b|an?\b)\s*s(?:ec(?:ond)?s?)?\b", "meter/second"),
    ("grade", r"%|per ?cent\b|pct\b", "percent"),
    ("grade", r"°(?!\s*[cf])|deg(?:rees?)?\b(?!\s*[cf]\b|\s*(?:celsius|fahrenheit))", "degree"),
    ("distance", rf"{_KM}\b", "kilometer"),
    ("distance", rf"{_MILES}\b", "mile"),
]
"""What is claimed, how people write its unit, and the unit; speeds first, as they begin with a distance."""
_FIGURE = re.compile(
    r"(?P<number>(?<![\w.,])\d+(?:[.,]\d+)?)"
    r"(?P<upto>\s*(?:-|–|to|or)\s*(?=\d))?"
    r"\s*(?:"
    + "|".join(f"(?P<u{i}>{unit})" for i, (_, unit, _) in enumerate(_UNITS))
    + r"|(?P<word>[^\W\d]+|°\s*[cf]))?",
    re.IGNORECASE,
)
_NAMES = {"speed": "speeds", "grade": "hills", "distance": "distances"}
_ASIDE = re.compile(
    r"kgs?|kilo(?:gram)?s?|lbs?|pounds?|°?\s*[cf]|v(?:olts?)?|w(?:atts?|h)?|a(?:h|mps?)?|cells?|[sp]|kv|[mc]?m|in(?:ch(?:es)?)?"
    r"|met(?:re|er)s?|f(?:oo|ee)?t|min(?:ute)?s?|h(?:(?:ou)?rs?)?|sec(?:ond)?s?|motors?|wheels?|riders?|charges?|eur|usd|gbp|years?",
    re.IGNORECASE,
)
"""Words after a number that make it no part of the claim: of the rider, the board or the day."""


def read_claim(text: str) -> Claim:
    """A claim as people write it, in any order and unit: "climbs 40 % at 30 km/h", "32 miles an hour for 30 miles", "50 km/h".

    Raises:
        BuildFileError: no figure with a unit is in it, one has none, or two of a kind leave in doubt which is meant.
    """
    found: dict[str, float] = {}
    named: dict[str, str] = {}
    for match in _FIGURE.finditer(text[:300]):
        said = match.group(0).strip()
        at = next((i for i in range(len(_UNITS)) if match.group(f"u{i}")), None)
        if match.group("upto"):
            raise _doubt(f"one figure where it has a span ({said})")
        if at is None:
            if _ASIDE.fullmatch(match.group("word") or ""):
                continue
            raise _doubt(f"a unit at {match.group('number')}, such as km, miles, km/h, mph or %")
        quantity, _, spelling = _UNITS[at]
        how, value = conversion(quantity, spelling), float(match.group("number").replace(",", "."))
        value = 100.0 * float(np.tan(np.radians(value))) if how.form == "tangent" else value * how.factor
        if quantity in found and abs(value - found[quantity]) > 0.02 * found[quantity]:
            raise _doubt(f"one of the two {_NAMES[quantity]} {named[quantity]} and {said}")
        found.setdefault(quantity, value)
        named.setdefault(quantity, said)
    if "grade" in found:
        claim = Claim(kind="hill", grade_pct=found["grade"], speed_kmh=found.get("speed"))
    elif "distance" in found:
        claim = Claim(kind="range", range_km=found["distance"], speed_kmh=found.get("speed"))
    elif "speed" in found:
        claim = Claim(kind="speed", speed_kmh=found["speed"])
    else:
        raise _doubt("a figure with its unit, such as 60 km, 45 km/h, or 25 % at 20 km/h")
    for key, most in (("speed_kmh", 300.0), ("range_km", 2000.0), ("grade_pct", 150.0)):
        value_of = getattr(claim, key)
        if value_of is not None and not 0.0 < value_of <= most:
            raise _doubt(f"figures above 0 that a board can have, not {value_of:g}")
    return claim


def _doubt(asked: str) -> BuildFileError:
    return BuildFileError([Fault("claim", asked)])


def check_claim(build: Build, claim: Claim) -> ClaimReport:
    """How a claim stands against a board.

    Raises:
        Incomplete: the build is not far enough for a prediction.
    """
    evaluation = Evaluation(build)
    evaluation.resolved  # noqa: B018  (raises)
    if claim.kind == "speed":
        return _speed(evaluation, claim)
    return _range(evaluation, claim) if claim.kind == "range" else _hill(evaluation, claim)


def _report(
    evaluation: Evaluation,
    claim: Claim,
    values: Array,
    wanted: float,
    quantity: str,
    needs: list[Message],
    leaves: list[Message],
) -> ClaimReport:
    can = chance_of(values, wanted, True) or 0.0
    low, high = (float(v) for v in np.percentile(values[1:], (10.0, 90.0)))
    mid = float(values[0])
    told = "Claimed: {wanted}. This board with you on it does {low} to {high}."
    return ClaimReport(
        claim=claim,
        chance=can,
        in_words=in_words(can),
        low=min(low, mid),
        mid=mid,
        high=max(high, mid),
        quantity=quantity,
        says=message(told, wanted=(wanted, quantity), low=(low, quantity), high=(high, quantity)),
        needs=needs if can < 0.5 else [],
        leaves_out=leaves,
    )


def _speed(evaluation: Evaluation, claim: Claim) -> ClaimReport:
    wanted, values = claim.speed_kmh or 0.0, evaluation.values["speed"]
    free = float(evaluation.values["unloaded"][0])
    mid = max(float(values[0]), 0.1)
    kv = evaluation.inputs["kv"].value * wanted / mid
    needs = [
        message("About {kv} on the same pack and gearing, if current and heat allow it.", kv=(kv, "motor_constant")),
        message(
            "{watts} at the road, where this board gives {now} at its own top speed.",
            watts=(_watts(evaluation, wanted / 3.6, 0.0), "power"),
            now=(_watts(evaluation, mid / 3.6, 0.0), "power"),
        ),
    ]
    leaves = [message("The rider and stance, the wind, and the charge of the pack.")]
    if free >= wanted > float(np.percentile(values[1:], 90.0)):
        leaves.insert(
            0, message("With the wheels in the air they turn at {free}, without road or rider.", free=(free, "speed"))
        )
    return _report(evaluation, claim, values, wanted, "speed", needs, leaves)


def _watts(evaluation: Evaluation, speed: float, grade: float) -> float:
    """W at the road that a speed on a grade takes, in the middle."""
    return float(sweeps.moments(evaluation.board, speed, grade, evaluation.early_charge)[0, 0].needed) * speed


_SLOW = np.array([8.0, 10.0, 12.0, 15.0, 18.0, 20.0]) / 3.6


def _range(evaluation: Evaluation, claim: Claim) -> ClaimReport:
    wanted, values = claim.range_km or 0.0, evaluation.values["cut_off"]
    used = float(evaluation.values["consumption"][0])
    needs = []
    if np.isfinite(used):
        needs.append(message("{wh} from the pack, ridden as you do.", wh=(wanted * used, "energy")))
    slow = sweeps.ranges_at(evaluation.board, _SLOW, np.ones(1))[0] / 1000.0 * evaluation.packs
    share = float(values[0]) / max(float(evaluation.values["range"][0]), 1e-9)
    reached = [float(v) * 3.6 for v, km in zip(_SLOW, slow * share, strict=True) if km >= wanted]
    leaves = [
        message("The speed, the rider, the hills, and down to which charge.")
        if claim.speed_kmh is None
        else message("The rider, the hills, and down to which charge.")
    ]
    if reached:
        leaves.insert(0, message("At a mean of {slow} it gets that far.", slow=(max(reached), "speed")))
    else:
        leaves.insert(
            0, message("Not even at a mean of {slow} does it get that far.", slow=(float(_SLOW[0]) * 3.6, "speed"))
        )
    return _report(evaluation, claim, values, wanted, "distance", needs, leaves)


def _hill(evaluation: Evaluation, claim: Claim) -> ClaimReport:
    grade, asked = (claim.grade_pct or 0.0) / 100.0, claim.speed_kmh
    if asked is None:
        slip = message(
            "The speed, and the length: here a hill of {way} is assumed.",
            way=(evaluation.board.climb_length[0], "way"),
        )
        return _report(
            evaluation,
            claim,
            evaluation.values["held"],
            grade * 100.0,
            "grade",
            _of_the_hill(evaluation, grade, 5.0),
            [slip],
        )
    speed = sweeps.highest_speeds(evaluation.boards, grade, evaluation.early_charge)[0][:, 0] * 3.6
    leaves = [message("The length of the hill: motors that climb it for half a minute may overheat after two.")]
    return _report(evaluation, claim, speed, asked, "speed", _of_the_hill(evaluation, grade, asked), leaves)


def _of_the_hill(evaluation: Evaluation, grade: float, kmh: float) -> list[Message]:
    """What a hill asks for, beside what there is."""
    board = evaluation.board[0]
    needs = [
        message(
            "{watts} at the road for {speed} on {grade}; the pack as limited can give {now}.",
            watts=(_watts(evaluation, kmh / 3.6, grade), "power"),
            speed=(kmh, "speed"),
            grade=(grade * 100.0, "grade"),
            now=(float(board.pack_current_limit * board.series * board.cell_full * 0.9), "power"),
        )
    ]
    slips = float(sweeps.pulls(evaluation.board, evaluation.headlines.top_speed[:1]).slip_grade[0])
    if grade > slips:
        needs.insert(0, message("More grip: the driven wheels slip from {slips}.", slips=(slips * 100.0, "grade")))
    return needs
