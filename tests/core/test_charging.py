"""Filling the pack: constant current, then constant voltage, against an integration over time and against the charge itself."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from boardmath.model.chemistry import index_of
from boardmath.model.resolution import resolve
from boardmath.physics import cell
from boardmath.prediction.charging import charge_hours
from tests.core.boards import spit_runner

PLAIN = {"parts__pack__charge_to_v": None, "brief__temperature_c": 25}


def _hours(**changes):
    build = spit_runner(**{**PLAIN, **changes})
    return charge_hours(build, resolve(build))


def _by_time(amperes, capacity, milliohms, end_v, start, ends_at=0.05):
    """Hours to 80, 90 % and the end: a charger that gives its current until the cell is at its voltage, second by second.

    Written from what a charger does: at the cell's terminals its voltage is the resting one plus current times resistance.
    """
    index = index_of(spit_runner().parts.pack.cell)

    def current(charge):
        ohms = milliohms / 1000.0 * cell.resistance_factor(charge, 298.15)
        held = (end_v - cell.open_circuit_voltage(index, charge, 4.2)) / ohms
        return min(amperes, max(held, ends_at * capacity))

    def reached(share):
        def event(_, y):
            return y[0] - share

        return event

    shares = (0.8, 0.9, 0.9999)
    found = solve_ivp(
        lambda _, y: [current(y[0]) / capacity],
        (0.0, 60.0),
        [start],
        events=[reached(s) for s in shares],
        max_step=0.01,
    )
    return [float(t[0]) for t in found.t_events]


@pytest.mark.parametrize("amperes", [2.0, 4.0, 8.0])
@pytest.mark.parametrize("milliohms", [15.0, 40.0])
def test_hours_are_those_of_a_charger_followed_through_time(amperes, milliohms):
    build = spit_runner(**PLAIN, parts__charger__a=amperes, parts__pack__cell__max_charge_a=8.0)
    build.parts.pack.cell.resistance_mohm = milliohms
    pack, resolved = build.parts.pack, resolve(build)
    start = resolved.fixed["charge_reserve"]
    found = charge_hours(build, resolved)
    health = resolved.inputs["health"].value
    expected = _by_time(
        amperes / pack.parallel,
        resolved.inputs["cell_capacity"].value * health,
        resolved.inputs["cell_resistance"].value * cell.aged_resistance_factor(health),
        4.2,
        start,
    )
    assert [found["to_80_pct"], found["to_90_pct"]] == pytest.approx(expected[:2], rel=0.01)
    assert found["to_full"] == pytest.approx(expected[2], rel=0.03)


@given(st.floats(1, 20), st.floats(1, 20))
@settings(max_examples=40, deadline=None)
def test_a_stronger_charger_is_never_slower_and_never_beats_the_cells(one, other):
    weak, strong = (_hours(parts__charger__a=a) for a in sorted((one, other)))
    utmost = _hours(parts__charger__a=60)
    assert all(utmost[key] <= strong[key] + 1e-9 <= weak[key] + 2e-9 for key in weak)
    assert _hours(parts__charger__a=59) == pytest.approx(utmost), "the cells' own limit holds every charger down"


def test_no_charge_comes_from_nowhere():
    """Amperes times hours put in at least the charge that is missing: losses only make it longer."""
    build = spit_runner(**PLAIN, parts__charger__a=3.0)
    resolved = resolve(build)
    found = charge_hours(build, resolved)
    pack = build.parts.pack
    missing = resolved.inputs["cell_capacity"].value * resolved.inputs["health"].value * pack.parallel
    for key, share in (("to_80_pct", 0.8), ("to_90_pct", 0.9), ("to_full", 1.0)):
        assert found[key] * 3.0 >= missing * (share - resolved.fixed["charge_reserve"]) * 0.999


@pytest.mark.parametrize("volts", [4.15, 4.1, 4.0])
def test_a_pack_charged_lower_fills_more_gently_and_holds_less(volts):
    """To the same charge it takes longer, as the current falls off from a lower voltage on; and full is less."""
    full, lower = _hours(), _hours(parts__pack__charge_to_v=volts)
    assert lower["to_80_pct"] >= full["to_80_pct"] - 1e-9
    assert lower["to_80_pct"] <= lower["to_90_pct"] <= lower["to_full"]
    ranges = [
        resolve(spit_runner(**{**PLAIN, "parts__pack__charge_to_v": v})).fixed["charge_full"] for v in (None, volts)
    ]
    assert ranges[1] < ranges[0]


def test_the_protection_boards_charging_limit_holds_a_strong_charger_down():
    free = _hours(parts__charger__a=8.0, parts__pack__cell__max_charge_a=6.0)
    held = _hours(parts__charger__a=8.0, parts__pack__cell__max_charge_a=6.0, parts__pack__protection__max_charge_a=4.0)
    assert held == pytest.approx(_hours(parts__charger__a=4.0, parts__pack__cell__max_charge_a=6.0))
    assert held["to_full"] > free["to_full"]


def test_without_a_charger_there_are_no_hours_and_from_above_full_none_either():
    assert _hours(parts__charger=None) is None
    low = spit_runner(**PLAIN, parts__charger__a=3.0)
    resolved = resolve(low)
    resolved.fixed["charge_reserve"] = resolved.fixed["charge_full"]
    assert charge_hours(low, resolved) is None
