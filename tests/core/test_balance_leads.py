"""Balance leads: what each lead has to show, and every single mistake of a harness told by its readings."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from boardmath import predict, read_build
from boardmath.battery.balance_leads import expected, group_voltage, judged
from boardmath.buildfile.electrics import Cell, Pack
from tests.core.boards import SPIT_RUNNER, changed, spit_runner


def pack(series: int, chemistry: str = "nmc") -> Pack:
    return Pack(series=series, cell=Cell(chemistry=chemistry))


CHARGES = {
    # Chemistry, charge in per cent, V of a cell at rest: read off the published curves that physics/cell names.
    ("nmc", 100): 4.2,
    ("nmc", 50): 3.751,
    ("nmc", 20): 3.485,
    ("nca", 50): 3.685,
    ("lfp", 50): 3.266,
    ("lfp", 100): 3.6,
    ("polymer", 50): 3.827,
    ("polymer", 0): 2.8,
}


@pytest.mark.parametrize(("chemistry", "charge"), CHARGES)
def test_a_lead_shows_its_number_of_cells(chemistry, charge):
    leads = expected(pack(10, chemistry), charge)
    assert len(leads) == 11
    assert np.allclose(leads, np.arange(11) * CHARGES[chemistry, charge], atol=0.02)


def wiring(series: int, v: float) -> dict[tuple[str, int, int | None], list[float]]:
    """Every single mistake as a meter would show it, from what each wire touches; written apart from the product's own list."""
    right = [t * v for t in range(series + 1)]
    found: dict[tuple[str, int, int | None], list[float]] = {}
    for i in range(series + 1):
        for j in range(i + 1, series + 1):
            sits = list(range(series + 1))
            sits[i], sits[j] = j, i
            found["swapped", i, j] = [right[s] for s in sits]
    for k in range(1, series + 1):
        found["missing", k, None] = [0.0 if t == k else right[t] for t in range(series + 1)]
        signs = [-1.0 if g == k else 1.0 for g in range(1, series + 1)]
        found["reversed", k, None] = [v * sum(signs[:t]) for t in range(series + 1)]
        found["short", k, None] = [v * (t - (t >= k)) for t in range(series + 1)]
        for j in range(1, series + 1):
            if j != k:
                found["other_lead", k, j] = [right[j] if t == k else right[t] for t in range(series + 1)]
    for k in range(1, series):
        shifted = [right[t + 1] if t >= k else right[t] for t in range(series)]
        found["skipped", k, None] = [*shifted, 0.0]
    return found


@pytest.mark.parametrize("series", range(3, 17))
@pytest.mark.parametrize("chemistry", ["nmc", "lfp"])
def test_every_mistake_of_a_harness_is_named_rightly(series, chemistry):
    chance = np.random.default_rng(series)
    v = group_voltage(pack(series, chemistry), 60)
    faults = wiring(series, v)
    # Two mistakes may give the same readings, such as the last group short and the last wire on the one before.
    alike: dict[tuple[float, ...], set[tuple[str, int, int | None]]] = {}
    for fault, readings in faults.items():
        alike.setdefault(tuple(np.round(readings, 6)), set()).add(fault)
    for fault, readings in faults.items():
        shown = [
            round(float(r * 1.004 + n), 2) for r, n in zip(readings, chance.normal(0, 0.004, series + 1), strict=True)
        ]
        report = judged(pack(series, chemistry), 50, shown)
        assert report.stop is not None, fault
        assert not report.done
        named = report.meanings[0]
        assert (named.kind, named.at, named.other) in alike[tuple(np.round(readings, 6))]


def test_right_readings_are_right_whatever_the_charge_was_said_to_be():
    for said in (30, 50, 80):
        v = group_voltage(pack(10), 55)
        report = judged(pack(10), said, [round(t * v, 2) for t in range(11)])
        assert report.done, said
        assert "black lead first" in report.last_word.text
        assert "not that the pack is safe" in report.last_word.text


@given(st.integers(3, 16), st.lists(st.floats(-0.02, 0.02), min_size=16, max_size=16))
def test_groups_that_differ_as_unbalanced_ones_do_stop_nothing(series, scatter):
    v = group_voltage(pack(series), 50)
    readings = np.concatenate([[0.0], np.cumsum(v + np.array(scatter[:series]))])
    assert judged(pack(series), 50, [round(float(r), 2) for r in readings]).done


def test_it_stops_at_the_first_wrong_one_and_asks_for_the_one_that_tells():
    report = judged(pack(10), 50, [0.0, 3.75, 7.5, 15.0])
    assert report.stop == 3
    assert {m.kind for m in report.meanings} == {"swapped", "skipped", "other_lead"}
    assert report.next == 4
    for fourth, kind in ((11.25, "swapped"), (18.75, "skipped"), (15.0, "other_lead")):
        told = judged(pack(10), 50, [0.0, 3.75, 7.5, 15.0, fourth])
        assert [m.kind for m in told.meanings] == [kind]
        assert told.stop == 3, "telling which it is does not make it right"


def test_what_comes_after_a_wrong_lead_is_not_called_right():
    report = judged(pack(6), 50, [0.0, 3.75, 11.25, 7.5, 15.0, 18.75, 22.5])
    assert [t.verdict for t in report.leads] == ["right", "right", "wrong", "after", "after", "after", "after"]


@pytest.mark.parametrize(("low", "kind"), [(2.9, "weak"), (3.45, "weak"), (4.05, "strong")])
def test_a_group_that_is_off_is_told_from_a_wire_that_is(low, kind):
    report = judged(pack(10), 50, [0.0, 3.75, 7.5, 7.5 + low])
    assert (report.stop, report.meanings[0].kind, report.meanings[0].at) == (3, kind, 3)
    told = report.meanings[0].message.values
    assert (told["group"].value, told["others"].value) == pytest.approx((low, 3.75)), (
        "the group, not the sum of all below"
    )


def test_forty_one_volts_on_the_first_group_are_the_last_lead_and_four_hundred_are_none():
    assert {(m.kind, m.other) for m in judged(pack(10), 90, [0.0, 41.0]).meanings} == {
        ("other_lead", 10),
        ("swapped", 10),
    }
    assert judged(pack(10), 90, [0.0, 400.0]).meanings[0].kind == "beyond"
    assert judged(pack(10), 50, [0.0, -3.75, -7.5]).meanings[0].kind in ("meter_reversed", "reversed")


def test_a_wrong_wire_is_a_danger_of_the_board():
    board = read_build(changed(SPIT_RUNNER, {"pack_assembly.balance_leads.readings": [0.0, 3.75, 11.25, 7.5]}))
    assert {f.id: f.severity for f in predict(board).findings}["lead-wrong"] == "danger"
    assert "lead-wrong" not in {f.id for f in predict(spit_runner()).findings}
