"""Bricks in series, in parallel and both: which there are, what charges them, how they are joined and what the smallest ends."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from boardmath.buildfile.electrics import Cell, Pack
from boardmath.checks.electrical import charger_voltage
from boardmath.model.bricks import brick_sets, cells_of_bricks, parallel_of_brick
from boardmath.model.evaluation import Evaluation
from boardmath.prediction.charging import charge_hours
from planner.assembly.plan import assembly
from planner.charging.report import charging_report
from planner.pack.report import pack_report
from tests.core.boards import spit_runner

CELL = {"chemistry": "polymer", "size": "brick", "capacity_ah": 5.0, "max_discharge_a": 100, "max_charge_a": 5}


def of_bricks(series, parallel, bricks, charger_v=None, **pack):
    charger = {"v": charger_v, "a": 5.0, "balance": pack.pop("balance", False)} if charger_v else None
    described = {"series": series, "parallel": parallel, "layout": "bricks", "bricks": bricks, "cell": CELL, **pack}
    return spit_runner(parts__pack=described, parts__charger=charger, settings={})


@pytest.mark.parametrize(
    ("series", "parallel", "bricks", "sets", "cells"),
    [
        (8, 2, 4, 2, [4, 4, 4, 4]),
        (9, 2, 6, 2, [3] * 6),
        (12, 1, 3, 1, [4, 4, 4]),
        (10, 1, 3, 1, [4, 3, 3]),
        (6, 2, 2, 2, [6, 6]),
        (12, 2, 2, 1, [6, 6]),
    ],
)
def test_bricks_are_what_is_sold(series, parallel, bricks, sets, cells):
    pack = of_bricks(series, parallel, bricks).parts.pack
    assert (brick_sets(pack), cells_of_bricks(pack)) == (sets, cells)


@given(
    in_series=st.integers(1, 4),
    sets=st.integers(1, 3),
    cells=st.integers(3, 6),
    own=st.integers(1, 3),
    said=st.booleans(),
)
def test_sets_of_bricks_make_the_pack(in_series, sets, cells, own, said):
    """However many: each set has all cells in series, all sets together all cells in parallel."""
    pack = Pack(
        series=in_series * cells,
        parallel=sets * own,
        layout="bricks",
        bricks=in_series * sets,
        brick_sets=sets if said else None,
        cell=Cell(chemistry="polymer"),
    )
    sizes = cells_of_bricks(pack)
    assert len(sizes) == in_series * sets
    assert sum(sizes) == pack.series * brick_sets(pack)
    assert parallel_of_brick(pack) * brick_sets(pack) == pack.parallel
    if said:
        assert set(sizes) == {cells}
        assert parallel_of_brick(pack) == own


@pytest.mark.parametrize(
    ("volts", "balance", "kinds"),
    [
        (16.8, False, []),  # a brick's own
        (33.6, False, []),  # the whole pack's; that it balances is asked elsewhere
        (25.2, False, [("charger-voltage", "danger")]),  # more than a brick and less than the pack
        (25.2, True, []),  # set to a brick's cells
        (12.6, False, [("charger-cells", "stop")]),
        (42.0, False, [("charger-voltage", "danger")]),
    ],
)
def test_a_charger_is_held_against_a_brick_too(volts, balance, kinds):
    found = list(charger_voltage(of_bricks(8, 2, 4, volts, balance=balance)))
    assert [(f.kind, f.severity) for f in found] == kinds


def test_a_brick_charger_is_told_how_to_be_set():
    said = " ".join(w.text for w in charging_report(of_bricks(8, 2, 4, 33.6, balance=True)).words)
    assert "to 4 cells for each brick: 16.8 V" in said


def test_each_joint_has_its_volts():
    report = pack_report(of_bricks(8, 2, 4))
    assert [b.set for b in report.bricks] == [1, 1, 2, 2]
    for one, other in pairwise(report.bricks):
        assert other.from_v == (one.to_v if one.set == other.set else 0.0)
    assert report.bricks[-1].to_v == pytest.approx(8 * 4.2)
    assert any("one voltage" in words.text for words in report.words)
    assert report.work[-1].title == "The parallel lead"


def test_sets_are_joined_after_their_bricks():
    ids = [s.id for s in assembly(of_bricks(8, 2, 4))]
    assert ids.index("bricks") < ids.index("series-lead") < ids.index("parallel-lead")
    assert "parallel-lead" not in [s.id for s in assembly(of_bricks(12, 1, 3))]
    assert "series-lead" not in [s.id for s in assembly(of_bricks(6, 2, 2))]


def test_each_brick_is_charged_alone_with_its_own_cells():
    """Twice as many bricks take twice as long, and a brick of twice the cells in parallel too."""
    hours = [
        charge_hours(build, Evaluation(build, 0).resolved)["to_full"]
        for build in (
            of_bricks(*pack, 16.8, brick_sets=sets) for pack, sets in (((8, 1, 2), 1), ((8, 2, 4), 2), ((8, 2, 2), 1))
        )
    ]
    assert hours[1] == pytest.approx(2.0 * hours[0], rel=0.01)
    assert hours[2] == pytest.approx(2.0 * hours[0], rel=0.05)


def test_another_set_makes_up_for_half_of_a_small_brick():
    share = {
        sets: Evaluation(of_bricks(8, sets, 2 * sets, weakest_brick_ah=4.0), 0).inputs["weakest_group"].value
        for sets in (1, 2)
    }
    assert share == pytest.approx({1: 0.8, 2: 0.9})
