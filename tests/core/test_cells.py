"""A bag of cells: read, judged, sorted; against an exact solver, and by what no sorting may do."""

import csv
import io
import json

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import Bounds, LinearConstraint, milp

from boardmath import predict, read_build
from boardmath.battery.cell_judging import judged
from boardmath.battery.cell_sorting import TooFew, sort_cells
from boardmath.battery.cells import cells_report, one_lot, report_on
from boardmath.buildfile import BuildFileError
from boardmath.buildfile.pack_assembly import MeasuredCell
from boardmath.model.cell_groups import measured_groups, weakest_share
from planner.__main__ import main
from planner.cells.reading import COLUMNS, cells_of, read_table
from tests.core.boards import SPIT_RUNNER, changed, spit_runner
from tests.core.command import run

HEAD = ",".join(COLUMNS)


def bag(count: int, seed: int = 1, mean: float = 2.4, scatter: float = 0.1) -> list[dict[str, object]]:
    """Salvaged cells as somebody would have measured them."""
    chance = np.random.default_rng(seed)
    return [
        {
            "id": f"a{i}",
            "capacity_ah": round(float(chance.normal(mean, scatter)), 3),
            "found_v": round(float(chance.uniform(2.6, 3.9)), 2),
            "rested_v": round(float(chance.normal(4.17, 0.004)), 3),
            "rested_days": 9.0,
            "resistance_mohm": round(float(chance.normal(55.0, 4.0)), 1),
            "size": "18650",
        }
        for i in range(count)
    ]


def cells(rows: list[dict[str, object]]) -> list[MeasuredCell]:
    return [MeasuredCell(**row) for row in rows]


def best_by_solver(capacity: np.ndarray, series: int, parallel: int) -> float:
    """The largest smallest group, by mixed-integer programming: independent of everything here."""
    count = len(capacity)
    size = count * series + 1
    rows, low, high = [], [], []
    for i in range(count):
        row = np.zeros(size)
        row[i * series : (i + 1) * series] = 1.0
        rows.append(row), low.append(0.0), high.append(1.0)
    for g in range(series):
        row = np.zeros(size)
        row[g : count * series : series] = 1.0
        rows.append(row), low.append(parallel), high.append(parallel)
        row = np.zeros(size)
        row[g : count * series : series] = capacity
        row[-1] = -1.0
        rows.append(row), low.append(0.0), high.append(np.inf)
    cost, whole, top = np.zeros(size), np.ones(size), np.ones(size)
    cost[-1], whole[-1], top[-1] = -1.0, 0.0, np.inf
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), low, high),
        integrality=whole,
        bounds=Bounds(0.0, top),
        options={"time_limit": 30.0},
    )
    return float(-found.fun)


@pytest.mark.parametrize(("series", "parallel"), [(3, 2), (4, 2), (3, 3), (5, 2), (4, 3), (2, 5)])
def test_small_bags_are_sorted_as_well_as_an_exact_solver_does(series, parallel):
    chance = np.random.default_rng(series * 10 + parallel)
    for further in range(3):
        capacity = np.round(chance.normal(2.5, 0.25, series * parallel + further), 2)
        found = sort_cells(capacity, series, parallel)
        smallest = capacity[found.groups].sum(axis=1).min()
        assert smallest >= best_by_solver(capacity, series, parallel) * (1.0 - 1e-3)
        assert smallest <= found.bound_ah + 1e-9, "nothing beats the bound"


@pytest.mark.parametrize(("series", "parallel", "count"), [(20, 25, 500), (14, 35, 500), (24, 20, 490), (10, 4, 40)])
def test_large_bags_come_within_half_a_per_cent_of_the_bound(series, parallel, count):
    chance = np.random.default_rng(count + series)
    capacity, resistance = chance.normal(2.5, 0.2, count), chance.normal(50.0, 5.0, count)
    found = sort_cells(capacity, series, parallel, resistance)
    assert capacity[found.groups].sum(axis=1).min() >= 0.995 * found.bound_ah


def test_resistance_is_shared_out_and_costs_no_capacity_that_a_meter_sees():
    chance = np.random.default_rng(8)
    capacity, resistance = chance.normal(2.5, 0.2, 132), chance.normal(50.0, 8.0, 132)

    def spread(groups: np.ndarray) -> float:
        flows = (1.0 / resistance)[groups].sum(axis=1)
        return float(np.ptp(flows) / flows.mean())

    plain, shared = sort_cells(capacity, 12, 11), sort_cells(capacity, 12, 11, resistance)
    assert spread(shared.groups) < 0.5 * spread(plain.groups)
    smallest = [capacity[s.groups].sum(axis=1).min() for s in (plain, shared)]
    assert smallest[1] >= 0.999 * smallest[0]


@given(st.data())
def test_no_cell_is_lost_or_doubled_and_locks_hold(data):
    series, parallel = data.draw(st.integers(1, 8)), data.draw(st.integers(1, 6))
    count = series * parallel + data.draw(st.integers(0, 7))
    capacity = data.draw(st.lists(st.floats(0.5, 6.0), min_size=count, max_size=count))
    which = data.draw(st.lists(st.integers(0, count - 1), unique=True, max_size=min(count, series)))
    locked = {cell: group for group, cell in enumerate(which)}
    found = sort_cells(capacity, series, parallel, [30.0 + 7.0 * (c % 1.0) for c in capacity], locked)
    assert found.groups.shape == (series, parallel)
    assert sorted([*found.groups.ravel().tolist(), *found.spare]) == list(range(count))
    for cell, group in locked.items():
        assert cell in found.groups[group]
    assert np.array(capacity)[found.groups].sum(axis=1).min() <= found.bound_ah + 1e-9


def test_too_few_cells_and_too_many_locked_are_refused():
    with pytest.raises(TooFew):
        sort_cells([2.0] * 7, 4, 2)
    with pytest.raises(ValueError, match="locked"):
        sort_cells([2.0] * 8, 4, 2, None, {0: 1, 1: 1, 2: 1})


OUT = {
    "too_empty": {"found_v": 1.4},
    "self_discharge": {"rested_v": 4.09},
    "capacity": {"capacity_ah": 1.1},
    "resistance": {"resistance_mohm": 160.0},
    "another_kind": {"size": "21700"},
    "not_measured": {"capacity_ah": None},
}


@pytest.mark.parametrize("why", OUT)
def test_each_reason_to_throw_a_cell_out_is_found_and_its_twin_stays(why):
    rows = bag(44)
    rows[7] |= OUT[why]
    fit, rejected = judged(cells(rows))
    assert [(r.id, r.why) for r in rejected] == [("a7", why)]
    assert len(fit) == 43
    assert not judged(cells(bag(44)))[1], "a good bag loses none"


def test_an_iron_phosphate_cell_among_others_is_told_by_where_it_rests():
    rows = bag(40)
    rows[3]["rested_v"] = 3.34
    (out,) = judged(cells(rows))[1]
    assert out.why == "another_kind"
    assert "phosphate" in out.message.text
    mixed = cells([row | {"chemistry": "lfp" if i == 5 else "nmc"} for i, row in enumerate(bag(40))])
    assert [r.why for r in judged(mixed)[1]] == ["another_kind"]


def test_iron_phosphate_cells_among_their_own_kind_are_not_called_another():
    rows = [r | {"rested_v": 3.36, "chemistry": "lfp"} for r in bag(40)]
    rows[4]["rested_v"] = 3.30
    assert [r.why for r in judged(cells(rows))[1]] == ["self_discharge"]


def test_of_a_handful_that_were_not_charged_full_none_is_called_fallen():
    """Four cells at 4.08 V were charged to 4.1 V; only one of them that lies lower than the rest discharges itself."""
    rows = [r | {"rested_v": 4.08} for r in bag(4)]
    assert not judged(cells(rows))[1]
    rows[2]["rested_v"] = 4.02
    assert [r.id for r in judged(cells(rows))[1]] == ["a2"]


def test_findings_of_many_builds_wait_for_no_sorting(monkeypatch):
    """What is asked of every candidate asks who is fit, and never how to sort them."""
    rows = [{**row, "group": 1 + i // 3} for i, row in enumerate(bag(30))]
    monkeypatch.setattr("boardmath.battery.cells.sort_cells", lambda *_: pytest.fail("sorted"))
    predict(read_build(changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": rows})))


def test_a_long_row_that_is_broken_comes_back_whole():
    note = "found in the drawer of the shed, " * 8
    (row,) = read_table(f"id,capacity_ah,source\na1,two,{note}").rows
    assert row.text.endswith("of the shed,")


def test_good_new_cells_of_one_lot_are_not_called_outliers():
    """A scatter of a per cent is what new cells have; a robust measure without a floor would throw one in twenty out."""
    chance = np.random.default_rng(3)
    rows = [{"id": f"n{i}", "capacity_ah": float(chance.normal(3.0, 0.02))} for i in range(200)]
    assert not judged(cells(rows))[1]


def test_a_table_keeps_its_good_rows_and_says_of_each_bad_one_what_is_wrong():
    lines = [HEAD, *(",".join(str(r.get(c, "")) for c in COLUMNS) for r in bag(100))]
    lines[50] = lines[50].replace(lines[50].split(",")[1], "two and a half", 1)
    lines[60] = "a3,2.4"
    read = read_table("\n".join(lines))
    bad = {row.line: row.faults for row in read.rows if row.faults}
    assert len(read.cells) == 98
    assert set(bad) == {51, 61}
    assert "capacity_ah" in bad[51][0]
    assert "two and a half" in bad[51][0]
    assert "a3" in bad[61][0]
    assert "line 5" in bad[61][0]


@pytest.mark.parametrize("between", [",", ";", "\t"])
def test_tables_come_with_any_separator_and_without_a_head(between):
    comma = between != ","
    text = between.join(["c1", "2,41" if comma else "2.41", "3.5"]) + "\n" + between.join(["c2", "2.5", ""])
    first, second = read_table(text).cells
    assert (first.id, first.capacity_ah, first.found_v) == ("c1", 2.41, 3.5)
    assert second.found_v is None


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "empty"),
        ("id,volts\na,3", "capacity_ah"),
        ("id,capacity_ah,capacity_ah\na,1,1", "twice"),
        ("x" * 500_000, "characters"),
    ],
)
def test_a_table_of_which_nothing_can_be_read_says_why(text, said):
    read = read_table(text)
    assert not read.cells
    assert said in (read.refused or "")


@given(st.text(max_size=300))
def test_no_text_at_all_breaks_the_reading(text):
    read = read_table(text)
    assert read.refused or read.rows
    assert all((row.cell is None) == bool(row.faults) for row in read.rows), "every row is a cell or says why not"


def test_spans_of_a_cell_are_checked():
    with pytest.raises(BuildFileError, match="capacity_ah"):
        cells_of("id,capacity_ah\na,2400")


SALVAGED = {"parts.pack.cell.origin": "salvaged"}


def sorted_build(rows: list[dict[str, object]], **more: object):
    """The example with a bag that was sorted into its groups."""
    document = changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": rows, **more})
    report = cells_report(read_build(document))
    assert report.sorted is not None
    for row in document["pack_assembly"]["cells"]:
        row["group"] = report.sorted.get(row["id"])
    document["pack_assembly"]["cells"] = [
        {k: v for k, v in r.items() if v is not None} for r in document["pack_assembly"]["cells"]
    ]
    return read_build(document)


def test_sorted_cells_settle_what_salvaged_ones_leave_open():
    before, after = predict(read_build(changed(SPIT_RUNNER, SALVAGED))), predict(sorted_build(bag(33)))
    assert "salvaged-unmeasured" in {f.id for f in before.findings}
    assert "salvaged-unmeasured" not in {f.id for f in after.findings}
    assert before.range_km is not None
    assert after.range_km is not None

    def width(band) -> float:
        return (band.high - band.low) / band.mid

    assert width(after.range_km) < width(before.range_km)


def test_the_weakest_group_ends_the_ride():
    good = sorted_build(bag(30))
    rows = [c.model_dump(exclude_none=True) for c in good.pack_assembly.cells]
    for row in rows:
        if row["group"] == 4:
            row["capacity_ah"] -= 0.4
    worse = read_build(changed(good.model_dump(mode="json", exclude_none=True), {"pack_assembly.cells": rows}))
    share = weakest_share(measured_groups(worse))
    assert share < 0.9
    ranges = [predict(b, bands=False).range_km.mid for b in (good, worse)]
    # The mean falls by a tenth of the group's loss, the smallest by all of it.
    assert ranges[1] / ranges[0] == pytest.approx(share, rel=0.08)


def test_cells_that_resist_more_sag_more():
    low, high = (predict(sorted_build([r | {"resistance_mohm": ohms} for r in bag(30)])) for ohms in (25.0, 90.0))
    assert high.top_speed_kmh.mid < low.top_speed_kmh.mid


def test_a_tester_that_sees_less_is_told_apart_from_a_pulse():
    pulse, tester = (
        predict(sorted_build(bag(30), **{"pack_assembly.resistance_by": by})).top_speed_kmh.mid
        for by in ("pulse", "tester")
    )
    assert tester < pulse


def test_a_bag_without_groups_changes_nothing():
    loose = read_build(changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": bag(30)}))
    assert measured_groups(loose) is None
    assert (
        predict(loose, bands=False).range_km
        == predict(read_build(changed(SPIT_RUNNER, SALVAGED)), bands=False).range_km
    )


def test_a_rejected_cell_in_a_group_is_a_danger_and_a_bag_too_small_a_stop():
    rows = [c.model_dump(exclude_none=True) for c in sorted_build(bag(33)).pack_assembly.cells]
    rows[0]["found_v"] = 1.2
    rows[0]["group"] = 1
    wrong = predict(read_build(changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": rows})))
    assert next(f for f in wrong.findings if f.id == "rejected-built-in").severity == "danger"
    few = predict(read_build(changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": bag(22)})))
    found = next(f for f in few.findings if f.id == "too-few-cells")
    assert found.severity == "stop"
    cured = changed(SPIT_RUNNER, {**SALVAGED, "pack_assembly.cells": bag(22), **found.fixes[0].changes})
    assert "too-few-cells" not in {f.id for f in predict(read_build(cured)).findings}


def test_two_cells_of_one_name_are_refused():
    with pytest.raises(BuildFileError, match="two cells are called a1"):
        read_build(changed(SPIT_RUNNER, {"pack_assembly.cells": [{"id": "a1"}, {"id": "a1"}]}))


def test_new_cells_of_one_lot_lie_in_their_groups_and_count_as_the_label_says():
    lot = one_lot(spit_runner())
    assert [c.group for c in lot] == [1 + i // 3 for i in range(30)]
    report = report_on(lot, 10, 3)
    assert report.whole
    assert not report.rejected
    assert report.weakest_ah is None


def test_the_command_line_sorts_a_bag_by_its_contract():
    file = io.StringIO()
    rows = bag(45)
    rows[2]["found_v"] = 0.7
    writer = csv.DictWriter(file, COLUMNS)
    writer.writeheader()
    writer.writerows(rows)
    told = run("cells", "-", "--series", "10", "--parallel", "4", text=file.getvalue())
    found = json.loads(told.stdout)
    assert set(found) == {"groups", "rejected", "spare", "spread_pct", "weakest_ah", "bound_ah"}
    assert [g["position"] for g in found["groups"]] == list(range(1, 11))
    by_id = {r["id"]: r["capacity_ah"] for r in rows}
    for group in found["groups"]:
        assert group["capacity_ah"] == pytest.approx(sum(by_id[i] for i in group["cells"]))
    assert [r["id"] for r in found["rejected"]] == ["a2"]
    assert found["weakest_ah"] == pytest.approx(min(g["capacity_ah"] for g in found["groups"]))
    assert 0.995 * found["bound_ah"] <= found["weakest_ah"] <= found["bound_ah"]


@pytest.mark.parametrize(
    ("arguments", "text", "said"),
    [
        (("--series", "4", "--parallel", "2"), "id,capacity_ah\na,2\nb,x\n", "line 3"),
        (("--series", "4", "--parallel", "2"), "id,capacity_ah\na,2\nb,2\n", "4 x 2 needs 8"),
        (("--series", "0", "--parallel", "2"), "id,capacity_ah\na,2\n", "--series"),
        (("--series", "1", "--parallel", "1"), "id,capacity_ah\na,2\na,2\n", "is in line 2"),
    ],
)
def test_a_bad_bag_is_refused_in_words_with_nothing_on_standard_output(tmp_path, capsys, arguments, text, said):
    file = tmp_path / "cells.csv"
    file.write_text(text)
    assert main(["cells", str(file), *arguments]) == 2
    shown = capsys.readouterr()
    assert shown.out == ""
    assert said in shown.err
