"""Findings: each with a build that has the fault, and its twin that has not."""

import pytest

from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Cell
from boardmath.checks.handling import tipping_g
from boardmath.parts.part_selection import with_part
from boardmath.predictor import predict
from planner.design.candidates import candidates
from tests.core.boards import spit_runner

FAULTS = {
    "controller-voltage": ({"parts__pack__series": 14}, {}, "danger", ["58.8", "57"]),
    "controller-cells-mismatch": ({"settings__cells_in_series": 5}, {}, "danger", ["14 V", "28 V"]),
    "cells-current": (
        {"settings__pack_current_a": 60, "parts__controller__max_pack_current_a": 60, "parts__pack__protection": None},
        {},
        "danger",
        ["60 A", "45 A"],
    ),
    "cut-off-above-pack": ({"parts__pack__series": 6}, {}, "stop", ["31 V", "25.2 V"]),
    "charger-voltage": ({"parts__charger__v": 50.4}, {}, "danger", ["50.4", "42"]),
    "cannot-start-on-hill": ({"brief__hill_grade_pct": 35}, {"brief__hill_grade_pct": 5}, "stop", ["35 %"]),
    "cannot-move": ({"settings__motor_current_a": 1}, {}, "stop", ["motor current"]),
    "heat-before-the-top": (
        {
            "brief__hill_grade_pct": 18,
            "brief__hill_length_m": 4000,
            "parts__motors__count": 2,
            "parts__drive__driven_wheels": 2,
            "parts__drive__motor_teeth": 18,
        },
        {"brief__hill_grade_pct": 2},
        "warn",
        ["18 %", "4,000 m"],
    ),
    "full-pack-brakes": ({}, {"brief__hill_grade_pct": 2}, "danger", ["12 %"]),
    "regen-current": ({"settings__pack_regen_a": 30}, {}, "danger", ["30 A", "9 A"]),
    "first-second": (
        {
            "parts__motors__count": 2,
            "parts__drive": {"motor_teeth": 10, "wheel_teeth": 60, "driven_wheels": 4},
            "settings__motor_current_a": 60,
        },
        {},
        "warn",
        ["tips off the back"],
    ),
    "wobble": (
        {"parts__trucks__pivots": 2, "parts__deck__wheelbase_mm": 520, "parts__drive__motor_teeth": 20},
        {"settings__speed_cap_kmh": 15},
        "warn",
        ["its wheelbase is short", "two pivots"],
    ),
    "high-kv": ({"parts__motors__kv_rpm_per_v": 320}, {}, "warn", ["320 rpm/V"]),
    "small-hard-wheels": (
        {"parts__wheels__diameter_mm": 76, "parts__wheels__hardness_a": 85, "brief__surface": "packed_gravel"},
        {"brief__surface": "packed_gravel"},
        "warn",
        ["76 mm", "packed gravel"],
    ),
    "speed-to-spare": (
        {"brief__top_speed_kmh": 15, "parts__motors__count": 2, "parts__drive__driven_wheels": 4},
        {},
        "note",
        ["15 km/h"],
    ),
    "brief-range": ({"brief__range_km": 80}, {}, "warn", ["80 km"]),
    "faster-than-local-rule": ({}, {"brief__local_speed_limit_kmh": 90}, "note", ["25 km/h"]),
}


@pytest.mark.parametrize("id", FAULTS)
def test_the_fault_is_found_with_its_numbers_and_its_twin_is_clean(id):
    faulty, twin, severity, numbers = FAULTS[id]
    found = {f.id: f for f in predict(spit_runner(**faulty)).findings}
    assert id in found
    assert found[id].severity == severity
    for number in numbers:
        assert number in found[id].text
    assert found[id].text == found[id].message.text
    assert id not in {f.id for f in predict(spit_runner(**twin)).findings}


def test_gravest_first():
    order = ["danger", "stop", "warn", "note"]
    faulty = spit_runner(parts__pack__series=14, brief__range_km=90, brief__hill_grade_pct=40)
    ranks = [order.index(f.severity) for f in predict(faulty).findings]
    assert ranks == sorted(ranks)


def test_no_finding_calls_anything_legal_or_safe():
    for changes in FAULTS.values():
        for f in predict(spit_runner(**changes[0])).findings:
            assert not {"legal", "safe", "allowed by law"} & set(f.text.lower().replace(".", "").split())


def test_a_candidates_promised_change_is_what_happens_when_it_is_chosen():
    build = spit_runner()
    motor = Motors(name="Slow and strong", kv_rpm_per_v=140, can_diameter_mm=63, can_length_mm=74, price=118)
    row = candidates(build, "motors", [motor])[0]
    before, after = predict(build), predict(with_part(build, "motors", motor))
    for change, old, new in zip(row.changes, before.outcomes, after.outcomes, strict=True):
        if new.mid is not None and old.mid is not None:
            assert change.change == pytest.approx(new.mid - old.mid, abs=1e-9)
    assert row.parts["motors"]["kv_rpm_per_v"] == 140
    assert set(row.parts) == {"motors"}


def test_choosing_keeps_what_belongs_to_the_build():
    build = spit_runner(parts__motors__count=2)
    assert with_part(build, "motors", Motors(kv_rpm_per_v=190)).parts.motors.count == 2
    hub = with_part(build, "motors", Motors(kind="hub", kv_rpm_per_v=75))
    assert (hub.parts.drive.kind, hub.parts.drive.motor_teeth) == ("hub", None)
    celled = with_part(build, "cell", Cell(chemistry="lfp", capacity_ah=3.3))
    assert (celled.parts.pack.series, celled.parts.pack.cell.chemistry) == (10, "lfp")


def test_costs_count_what_lies_in_the_drawer_apart():
    """Worked by hand: 2 x 88.10 + 12 x 4.20 + 9.99 = 236.59, of which the motors are owned: 60.39 to spend."""
    build = spit_runner(
        parts__motors={"count": 2, "kv_rpm_per_v": 170, "price": 88.10, "owned": True},
        parts__pack={"series": 6, "parallel": 2, "cell": {"capacity_ah": 3.0, "price": 4.20}},
        parts__extras=[{"name": "Plug", "price": 3.33, "count": 3}],
        parts__deck={"price": 90, "currency": "GBP"},
    )
    sums = predict(build, bands=False).cost
    assert (sums.total, sums.to_spend) == (236.59, 60.39)
    assert sums.other_currency == ["parts.deck"]
    assert "parts.controller" in sums.unpriced


def test_who_stands_higher_or_shorter_tips_sooner():
    """By hand: 0.55 m between the feet, 0.55 x 1.75 + 0.12 m up, a fifth more for leaning into it: 1.2 x 0.275 / 1.0825 g."""
    usual = {"rider__height_m": 1.75, "parts__deck__wheelbase_mm": 700}
    assert tipping_g(spit_runner(**usual)) == pytest.approx(1.2 * 0.275 / 1.0825)
    assert tipping_g(spit_runner(**usual | {"rider__height_m": 1.95})) < tipping_g(spit_runner(**usual))
    short = spit_runner(**usual | {"parts__deck__wheelbase_mm": 450})
    assert tipping_g(short) == pytest.approx(1.2 * 0.165 / 1.0825)
