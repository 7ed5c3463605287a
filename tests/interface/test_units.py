"""What a person types into a field and reads beside a figure: the interface's own arithmetic against Pint."""

import json
import math
import random
import subprocess
from functools import cache
from pathlib import Path
from typing import Any

import pint
import pytest

from boardmath.units import QUANTITIES, to_build_file

HERE = Path(__file__).parent
WIDE = {"low": -1e9, "high": 1e9}
UREG: pint.UnitRegistry = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


@cache
def node() -> subprocess.Popen[str]:
    """One Node that has the interface's modules, for all tests of this process; it ends with it."""
    return subprocess.Popen(["node", HERE / "in_node.mjs"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)


def interface(calls: list[list[Any]], module: str = "/src/lib/units.ts") -> list[Any]:
    """The answers of the interface's functions, called in Node as the browser calls them."""
    asked = node()
    assert asked.stdin
    assert asked.stdout
    print(json.dumps([module, calls]), file=asked.stdin, flush=True)
    return json.loads(asked.stdout.readline())


def by_pint(quantity: str, value: float, spelling: str) -> float:
    kind = QUANTITIES[quantity]
    if quantity == "grade" and spelling == "degree":
        return 100.0 * math.tan(math.radians(value))
    return float(UREG.Quantity(value, spelling).to(kind.pint_unit).magnitude)


def typed_values() -> list[tuple[str, str, float, str]]:
    """(quantity, unit as typed, number, unit as Pint spells it), every unit of every quantity."""
    chance, found = random.Random(7), []
    for name, kind in QUANTITIES.items():
        for unit, spelling in {**kind.typed, **kind.shown}.items():
            for _ in range(4):
                found.append((name, unit, round(chance.uniform(0.1, 60.0), 3), spelling))
    return found


def test_every_unit_that_may_be_typed_means_what_pint_means_by_it():
    values = typed_values()
    answers = interface([["parse", f"{v} {u}", {"title": "x", "quantity": q, **WIDE}, {}] for q, u, v, _ in values])
    for (quantity, unit, value, spelling), answer in zip(values, answers, strict=True):
        wanted = by_pint(quantity, value, spelling)
        assert answer.get("value") == pytest.approx(wanted, rel=1e-9, abs=1e-9), (quantity, unit, value, answer)
        # The core's own conversion, which files and the command line use, is the same one.
        assert to_build_file(quantity, value, unit) == pytest.approx(wanted, rel=1e-9, abs=1e-9)


def test_what_is_shown_in_a_unit_and_typed_back_is_the_same_figure():
    asked = [(name, unit) for name, kind in QUANTITIES.items() for unit in kind.shown]
    shown = interface([["toShown", 12.5, name, {name: unit}] for name, unit in asked])
    calls = [
        ["parse", f"{v!r} {unit}", {"title": "x", "quantity": name, **WIDE}, {name: unit}]
        for (name, unit), v in zip(asked, shown, strict=True)
    ]
    for (name, unit), answer in zip(asked, interface(calls), strict=True):
        assert answer["value"] == pytest.approx(12.5, rel=1e-9), (name, unit)


def test_a_number_alone_is_in_the_unit_that_the_person_reads():
    length = {"title": "x", "quantity": "length", **WIDE}
    answers = interface(
        [
            ["parse", "3,5", length, {"length": "in"}],
            ["parse", " .5 IN ", length, {}],
            ["parse", "1e2", length, {}],
            ["parse", "", length, {}],
            ["parse", "90 mm", length, {"length": "in"}],
        ]
    )
    assert [a["value"] for a in answers] == [pytest.approx(88.9), pytest.approx(12.7), 100, None, 90]


@pytest.mark.parametrize(
    ("typed", "spec", "reason"),
    [
        ("ninety", {"quantity": "length"}, "Enter a number, not “ninety”."),
        ("90 parsec", {"quantity": "length"}, "“parsec” is not a unit here; use metre, m, cm"),
        ("7 pole", {"quantity": "count", "whole": True}, "Enter only a number"),
        ("7.5", {"quantity": "count", "whole": True, "low": 1, "high": 50}, "Enter a whole number."),
        (
            "0.09 mm",
            {"quantity": "length", "low": 40, "high": 400},
            "0.09\u00a0mm is outside 40\u00a0mm to 400\u00a0mm.",
        ),
        ("1e999", {"quantity": "length"}, "Enter a finite number."),
        ("12-3", {"quantity": "length"}, "“-3” is not a unit"),
    ],
)
def test_what_cannot_be_is_said_with_its_reason(typed, spec, reason):
    (answer,) = interface([["parse", typed, {"title": "x", **spec}, {}]])
    assert answer["reason"].startswith(reason)


def test_spans_are_said_in_the_persons_own_units():
    speed = {"title": "x", "quantity": "speed", "low": 3, "high": 120}
    (answer,) = interface([["parse", "99", speed, {"speed": "mph"}]])
    assert answer["reason"] == "99\u00a0mph is outside 1.9\u00a0mph to 74.6\u00a0mph."


def test_figures_are_written_as_they_are_read():
    calls = [
        ["written", 25.0, "speed", {}],
        ["written", 25.0, "speed", {"speed": "mph"}],
        ["written", 8.0, "grade", {"grade": "°"}],
        ["written", 44578.9, "electrical_speed", {}],
        ["written", 100, "temperature", {"temperature": "°F"}],
        ["written", 1234.5, "money", {}, "EUR"],
        ["written", 12.5, "money", {}, "XYZ"],
        ["valueText", "a.b", None, {}],
        ["valueText", "a.b", True, {}],
        ["billed", 1234.5, "EUR"],
        [
            "formatMessage",
            {"template": "At {v} of {what}", "values": {"v": {"value": 30, "quantity": "speed"}}, "text": ""},
            {"speed": "mph"},
        ],
    ]
    assert interface(calls) == [
        "25\u00a0km/h",
        "15.5\u00a0mph",
        "4.6°",
        "44,579\u00a0electrical rpm",
        "212\xa0°F",
        "1235\u00a0€",
        "12.50\u00a0XYZ",
        "–",
        "yes",
        "1,234.50\u00a0€",
        "At 18.6\u00a0mph of {what}",
    ]
