"""The why of a number: everything that is named moves it, and whatever moves it is named."""

from dataclasses import replace

import numpy as np
import pytest

from boardmath.buildfile import read_build
from boardmath.buildfile.build import Build, _is_figure
from boardmath.engine import sweeps
from boardmath.model.evaluation import RANGE_VALUES, Evaluation
from boardmath.model.model_inputs import BY_NAME, INPUTS
from boardmath.model.resolution import resolve
from boardmath.model.sampling import FEW, boards, normal_scores
from boardmath.prediction.curves import curves, ranges_of
from boardmath.prediction.explanations import _FORMULAS, whys
from boardmath.prediction.outcomes import RANGE_WORDS
from boardmath.prediction.ranges import unsure
from boardmath.predictor import predict
from tests.core.boards import SPIT_RUNNER, bare, changed, spit_runner
from tests.core.scalar_model import ScalarBoard

FREE = {"assumptions": {}, "brief__ascent_m_per_km": 12, "brief__stops_per_km": 2}
BOARDS = {
    "belt": spit_runner(**FREE),
    "geared down": spit_runner(**FREE, parts__drive__motor_teeth=11, settings__motor_current_a=80),
    "little current": spit_runner(**FREE, settings__motor_current_a=18),
    "two motors": spit_runner(**FREE, parts__motors__count=2, parts__drive__driven_wheels=2),
    "hubs": spit_runner(
        **FREE,
        parts__drive={"kind": "hub"},
        parts__motors={"count": 2, "kv_rpm_per_v": 75, "pole_pairs": 10},
        settings={},
    ),
}
RESULT = {"speed": "speed", "hill": "hill", "range": "range"}


@pytest.mark.parametrize("board", BOARDS)
@pytest.mark.parametrize("outcome", RESULT)
def test_whatever_makes_a_number_unsure_is_named_in_its_why(board, outcome):
    """A builder who asks why meets every input that has a part in the band worth a look."""
    named = set(_FORMULAS[outcome][2])
    widest, _, _ = unsure(Evaluation(BOARDS[board], 2048), most=40)
    matters = {w.input: w.share for w in widest if w.result == RESULT[outcome] and w.share > 0.04}
    assert set(matters) <= named, {name: share for name, share in matters.items() if name not in named}


@pytest.mark.parametrize("outcome", RESULT)
def test_whatever_is_named_moves_the_number_on_some_board(outcome):
    for name in _FORMULAS[outcome][2]:
        assert any(_moves(build, outcome, name) for build in BOARDS.values()), name


def _moves(build, outcome, name):
    """Whether any rider on any day notices when the input is an eighth off."""
    resolved = resolve(build)
    if name not in resolved.inputs:
        return False

    def result(value):
        moved = resolve(build)
        moved.inputs[name] = replace(moved.inputs[name], value=value)
        board = boards([moved], [normal_scores(FEW)])
        if outcome == "range":
            return sweeps.rides(board).range
        found = sweeps.headlines(board)
        return found.top_speed if outcome == "speed" else found.start_grade

    usual = resolved.inputs[name].value
    return any(
        not np.allclose(result(usual * f + 0.02 * (f - 1)), result(usual), rtol=1e-7, atol=0.0) for f in (0.875, 1.125)
    )


def test_every_named_input_says_where_it_comes_from_and_how_it_would_be_surer():
    for outcome, why in whys(BOARDS["belt"], resolve(BOARDS["belt"]).inputs, {}).items():
        assert why.formula.endswith("."), outcome
        for given in why.inputs:
            assert "_" not in given.name, "words, no keys"
            assert given.origin in ("measured", "stated", "estimated", "default", "pinned")
            if given.origin in ("estimated", "default"):
                assert given.rule, f"{given.name} is assumed and does not say by what rule"


def test_before_a_build_is_far_enough_the_formula_stands_without_inputs():
    found = whys(spit_runner(), {}, {})
    assert set(found) == set(_FORMULAS)
    assert all(why.formula and not why.inputs for why in found.values())
    assert predict(bare()).needs


def test_measuring_takes_the_advice_to_measure_away():
    before = {i.name: i for i in whys(spit_runner(), resolve(spit_runner()).inputs, {})["range"].inputs}
    title = BY_NAME["cell_capacity"].title
    after = {
        i.name: i
        for i in whys(spit_runner(), resolve(spit_runner(parts__pack__cell__measured=["capacity_ah"])).inputs, {})[
            "range"
        ].inputs
    }
    assert before[title].measure
    assert after[title].measure is None
    assert after[title].origin == "measured"


def test_whoever_follows_the_advice_to_measure_has_a_place_for_it_and_gets_the_spread_it_promised():
    """Nothing is advised that cannot be entered, and what is entered counts as well as was said."""
    resolved = resolve(BOARDS["belt"])
    for record in (r for r in INPUTS if r.measure is not None):
        given = resolved.inputs[record.name]
        if not _is_figure(Build, given.field.split(".")):
            assert given.field == "brief.rides", record.name
            continue
        if given.field.startswith("settings.") or given.field == "weighed_kg":
            continue  # read back rather than measured; and what is weighed is measured without a mark
        if record.name in ("wheel_radius", "health", "weakest_group", "load", "swing_wind"):
            continue  # of which the field is another figure; each has a test of its own
        build = read_build(
            changed(changed(SPIT_RUNNER, FREE), {given.field: given.value, "measured": [{"path": given.field}]})
        )
        after = resolve(build).inputs[record.name]
        assert after.value == pytest.approx(given.value, rel=1e-9), record.name
        assert after.origin == "measured", record.name
        assert after.shape == ("relative" if given.shape == "student" else given.shape), record.name
        assert after.spread == pytest.approx(record.measure.spread, rel=1e-9), record.name
        assert after.spread < given.spread, record.name


# --- curves, point by point against the scalar model -------------------------------------------------------------------


@pytest.fixture(scope="module")
def figures():
    build = spit_runner(parts__motors__count=2, parts__drive__driven_wheels=2)
    return {p.id: p for p in curves(build)}, ScalarBoard(resolve(build)), build


def test_the_thrust_that_is_drawn_uses_up_one_ability(figures):
    """Drawn is what is left of the drive at the road: its own drag is added again before the scalar model judges it."""
    plots, scalar, _ = figures
    line = plots["thrust"].lines[0]
    voc, r = scalar.open_circuit(0.9), scalar.cells(0.9, scalar.kelvin) + scalar.r_path
    for x, mid in list(zip(line.x, line.mid, strict=True))[1:-2:4]:
        if mid > 5.0:
            assert scalar.worst(x / 3.6, mid + scalar.drag, 0.0, voc, r)[0] == pytest.approx(1.0, abs=5e-3), x


def test_what_a_hill_needs_is_weight_rolling_and_air(figures):
    plots, scalar, _ = figures
    for line in plots["thrust"].lines[1:]:
        if line.name.startswith(("flat needs", "5 %", "10 %")):
            grade = 0.0 if line.name.startswith("flat") else float(line.name.split()[0]) / 100.0
            wanted = [scalar.resist(x / 3.6, grade, 0.0) - scalar.drag for x in line.x]
            assert line.mid == pytest.approx(wanted, rel=2e-3, abs=0.05), line.name


def test_consumption_by_speed_is_volts_times_amperes_over_speed(figures):
    plots, scalar, _ = figures
    line = plots["consumption"].lines[0]
    voc, r = scalar.open_circuit(0.6), scalar.cells(0.6, scalar.kelvin) + scalar.r_path
    for x, mid in zip(line.x, line.mid, strict=True):
        now = scalar.electric(x / 3.6, scalar.resist(x / 3.6, 0.0, 0.0), voc, r)
        assert mid == pytest.approx(now["bus"] * now["i"] / (x / 3.6) / 3.6, rel=0.01), f"at {x} km/h"


@pytest.mark.parametrize("means", ["to_cut_off", "with_reserve", "worst_day"])
@pytest.mark.parametrize(
    "other", [{}, {"brief__mean_kmh": 14}, {"parts__pack__spares": 1, "brief__wind_ms": 4, "brief__wind": "against"}]
)
def test_range_at_the_briefs_speed_is_the_predicted_range(means, other):
    """In every meaning of the distance, with all packs, in the day's wind."""
    build = spit_runner(**{"brief__cruise_kmh": 20, "brief__range_means": means, **other})
    evaluation = Evaluation(build, 64)
    at = ranges_of(evaluation, np.array([20.0 / 3.6]))[:, 0] / 1000.0
    name, words = RANGE_VALUES[means], RANGE_WORDS[means]
    assert at == pytest.approx(evaluation.values[name], rel=1e-9)
    plot = next(p for p in curves(build) if p.id == "range")
    assert words in plot.y_title


def test_top_speed_by_charge_is_the_scalar_models(figures):
    plots, scalar, _ = figures
    line = plots["charge"].lines[0]
    for x, mid in list(zip(line.x, line.mid, strict=True))[2::4]:
        assert mid == pytest.approx(scalar.top_speed(0.0, x / 100.0) * 3.6, rel=5e-3, abs=0.1), f"at {x} %"
    assert np.all(np.diff(line.mid) >= -1e-3), "never faster with less in the pack"


def test_braking_is_the_hardest_that_no_ability_forbids(figures):
    plots, scalar, _ = figures
    inertia = scalar.mass + scalar.turning
    for line, charge in zip(plots["braking"].lines, (0.8, scalar.q_top), strict=True):
        voc, r = scalar.open_circuit(charge), scalar.cells(charge, scalar.kelvin) + scalar.r_path
        for x, mid in list(zip(line.x, line.mid, strict=True))[3::9]:
            force = scalar.resist(x / 3.6, 0.0, 0.0) - mid * inertia
            if force < -5.0:
                assert scalar.worst(x / 3.6, force, 0.0, voc, r)[0] == pytest.approx(1.0, abs=0.02), (line.name, x)


def test_why_it_weighs_what_it_does_is_the_sum_of_its_parts():
    """Every mass that is added stands there, the heaviest first, and what it adds up to is the promise."""
    board = BOARDS["belt"]
    why = predict(board, bands=False).why["carry"]
    whole, *parts = why.inputs
    grams = [p.figure.value for p in parts]
    assert sum(grams) / 1000.0 == pytest.approx(whole.figure.value, rel=1e-9)
    assert grams == sorted(grams, reverse=True)
    assert {"Deck", "Pack", "Motor", "Wheels"} <= {p.name for p in parts}
    assert all(p.rule for p in parts if p.origin == "estimated"), "what is estimated says by which rule"
