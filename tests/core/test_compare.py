"""Builds side by side, and what is assumed for a part alone."""

import json
from pathlib import Path

import numpy as np
import pytest

from boardmath.buildfile import check, read_build
from boardmath.parts.library import missing_figures, usual_board
from boardmath.parts.part_selection import with_part
from boardmath.parts.part_types import KINDS
from boardmath.prediction.curves import curves
from boardmath.prediction.outcomes import headlines
from boardmath.predictor import predict
from planner.compare import compare, differences
from tests.core.boards import bare, changed, spit_runner

LIBRARY = json.loads((Path(__file__).parents[2] / "server/demo/data/library.json").read_text())


def test_what_differs_and_nothing_else():
    first = spit_runner(parts__deck__notes="mine", parts__deck__owned=True)
    second = spit_runner(
        parts__drive__motor_teeth=12,
        settings__motor_current_a=40,
        parts__extras=None,
        parts__fuse=None,
        parts__deck__purchase={"status": "arrived"},
    )
    found = {row.path: row.values for group in differences([first, second]) for row in group.rows}
    assert found == {
        "parts.drive.motor_teeth": [15, 12],
        "parts.fuse.a": [50, None],
        "parts.extras.Bearings, set of eight": [1, None],
        "settings.motor_current_a": [50, 40],
    }
    assert differences([first, first, first]) == []


def test_unlike_briefs_are_said_so():
    """Two boards that were asked different things are not compared by their verdicts alone."""
    groups = [g.section for g in differences([spit_runner(), spit_runner(rider__mass_kg=90, brief__range_km=20)])]
    assert groups == ["rider", "brief"]


def test_prices_in_another_currency_carry_it():
    build = spit_runner(parts__deck__price=85, parts__deck__currency="GBP", currency="EUR")
    (group,) = differences([spit_runner(parts__deck__price=85, currency="EUR"), build])
    assert [r.values for r in group.rows] == [[85.0, "85.00 GBP"]]


def test_beside_others_a_board_promises_what_it_promises_alone():
    builds = [spit_runner(), spit_runner(parts__drive__motor_teeth=12), spit_runner(rider__mass_kg=95), bare()]
    found = compare(builds, list("abcd"))
    for build, headline in zip(builds, found.headlines, strict=True):
        for beside, alone in zip(headline.outcomes, predict(build).outcomes, strict=True):
            assert (beside.mid is None) == (alone.mid is None)
            if alone.mid is not None:
                assert beside.mid == pytest.approx(alone.mid, rel=1e-6)
    assert found.headlines[3].needs
    for plot in found.plots:
        assert [line.name for line in plot.lines if line.low] == ["a", "b", "c"], "what cannot be predicted has no line"


def test_curves_laid_over_each_other_are_the_boards_own():
    builds = [spit_runner(), spit_runner(parts__pack__parallel=5, parts__motors__kv_rpm_per_v=190)]
    laid = {p.id: p for p in compare(builds, ["a", "b"]).plots}
    for i, build in enumerate(builds):
        own = {p.id: p for p in curves(build)}
        for name in ("thrust", "range", "consumption", "charge"):
            theirs, line = laid[name].lines[i], own[name].lines[0]
            shared = np.linspace(max(theirs.x[0], line.x[0]), min(theirs.x[-1], line.x[-1]) * 0.95, 9)
            one, other = (np.interp(shared, x.x, x.mid) for x in (theirs, line))
            assert one == pytest.approx(other, rel=0.03, abs=0.05 * max(line.mid)), (name, i)


def test_boards_of_the_same_name_are_told_apart():
    plot = compare([spit_runner(), spit_runner(), spit_runner()], ["Spit runner"] * 3).plots[1]
    assert [line.name for line in plot.lines] == ["Spit runner", "Spit runner (2)", "Spit runner (3)"]


def test_two_to_four_are_compared():
    for count in (1, 5):
        with pytest.raises(ValueError, match="two to 4"):
            compare([spit_runner()] * count, ["x"] * count)


# --- a part alone -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["wheels", "motors", "cell", "deck", "trucks", "controller", "enclosure", "drive"])
def test_stating_what_is_assumed_changes_no_promise(kind):
    """What the library says is assumed is what the model takes: stated as such, the board promises the same."""
    complete = dict(LIBRARY[kind][0])
    bought = {
        "name",
        "maker",
        "price",
        "source",
        "kind",
        "chemistry",
        "size",
        "kv_rpm_per_v",
        "diameter_mm",
        "motor_teeth",
        "wheel_teeth",
        "resistance_is",
    }
    sparse = {k: v for k, v in complete.items() if k in bought}
    sparse.pop("resistance_is", None)
    assumed = [m for m in missing_figures(kind, check(KINDS[kind].model, sparse)) if m.value is not None]
    assert assumed
    stated = check(KINDS[kind].model, {**sparse, **{m.key: _fitting(kind, m.key, m.value) for m in assumed}})
    boards = [with_part(usual_board(), kind, p) for p in (check(KINDS[kind].model, sparse), stated)]
    before, after = headlines(boards)
    for one, other in zip(before.outcomes, after.outcomes, strict=True):
        assert one.mid is None or other.mid == pytest.approx(one.mid, rel=1e-6), one.name


def _fitting(kind: str, key: str, value: float | None):
    whole = (KINDS[kind].model.model_fields[key].json_schema_extra or {}).get("whole")  # type: ignore[union-attr]
    return int(value) if whole and value is not None else value


def test_a_full_part_assumes_nothing_and_a_bare_one_says_what():
    full = check(KINDS["motors"].model, LIBRARY["motors"][0])
    assert [m.key for m in missing_figures("motors", full) if m.rule] == []
    bare_motor = {m.key: m for m in missing_figures("motors", check(KINDS["motors"].model, {"kv_rpm_per_v": 190}))}
    assert bare_motor["phase_resistance_mohm"].rule == "can volume and KV"
    assert bare_motor["plug"].rule is None


def test_every_kind_can_be_looked_at_alone():
    for kind, model in ((k, v.model) for k, v in KINDS.items()):
        assert missing_figures(kind, model()) is not None


def test_the_usual_board_is_one_that_can_be_predicted():
    assert read_build(changed(usual_board().model_dump(mode="json", exclude_none=True), {})).parts.pack is not None
    assert all(p.mid for p in headlines([usual_board()])[0].outcomes if p.name in ("speed", "range"))


def test_how_a_pack_is_made_is_told_in_a_few_words_and_not_cell_by_cell():
    cells = [{"id": f"a{i}", "capacity_ah": 2.4, "group": 1 + i // 3} for i in range(30)]
    plain, made = (
        spit_runner(),
        spit_runner(**{"pack_assembly.cells": cells, "pack_assembly.plan": {"strip": "copper", "order": [2, 1]}}),
    )
    (section,) = [d for d in differences([plain, made]) if d.section == "pack_assembly"]
    assert {row.path: row.values[1] for row in section.rows} == {
        "pack_assembly.cells": "30, 30 of them in groups",
        "pack_assembly.plan.strip": "copper",
        "pack_assembly.plan.order": "2 1",
    }
    assert not [d for d in differences([made, made]) if d.section == "pack_assembly"]
