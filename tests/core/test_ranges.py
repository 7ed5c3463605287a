"""How sure a prediction is, whose doubt it is, and what makes it surer."""

import numpy as np
import pytest

from boardmath.buildfile import read_build
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS
from boardmath.model.posterior import MultivariateNormal, nothing_known, written
from boardmath.model.sampling import SAMPLES, normal_scores
from boardmath.prediction.outcomes import headlines
from boardmath.predictor import predict
from tests.core.boards import SPIT_RUNNER, changed, spit_runner
from tests.core.test_calibration import KINDS

WINDY = {"assumptions__wind_ms": None}


def _width(result):
    return result.high - result.low


def test_range_of_a_board_that_nobody_rode_is_unsure_by_a_third_and_speed_by_a_tenth():
    found = predict(spit_runner(**WINDY))
    assert 0.25 < _width(found.range_km) / 2 / found.range_km.mid < 0.40
    assert 0.07 < _width(found.top_speed_kmh) / 2 / found.top_speed_kmh.mid < 0.11


def test_every_input_that_is_not_measured_has_a_spread():
    """But for what is a choice of the builder's, or the same in every board."""
    known = {"way_wind", "drive_efficiency", "drive_drag"}
    for build in (spit_runner(**WINDY), spit_runner(**WINDY, parts__drive={"kind": "hub"}, parts__motors__kind="hub")):
        for name, given in Evaluation(build).resolved.inputs.items():
            assert given.spread > 0.0 or name in known, name


def test_a_measured_motor_narrows_the_speed_band():
    stated = predict(spit_runner()).top_speed_kmh
    measured = predict(spit_runner(parts__motors__measured=["kv_rpm_per_v"])).top_speed_kmh
    assert _width(measured) < 0.7 * _width(stated)


def test_the_list_of_what_was_measured_counts_like_a_mark_at_the_part():
    marked = predict(spit_runner(parts__motors__measured=["kv_rpm_per_v"]))
    listed = [{"path": "parts.motors.kv_rpm_per_v", "by": "motor detection", "day": "2026-05-01"}]
    assert predict(spit_runner(measured=listed)).top_speed_kmh == marked.top_speed_kmh


def test_what_was_measured_can_only_be_a_figure_that_is_there():
    """A mark on a figure that nobody gave measures nothing."""
    listed = [{"path": "parts.motors.phase_resistance_mohm", "by": "a meter"}]
    without = {"parts__motors__phase_resistance_mohm": None}
    given = Evaluation(spit_runner(**without, measured=listed)).resolved.inputs["phase_resistance"]
    assert given.origin == "estimated"


def test_a_weighed_board_has_the_mass_that_the_scale_says():
    found = predict(spit_runner(weighed_kg=8.4))
    assert found.mass_kg.board == 8.4
    carry = next(p for p in found.outcomes if p.name == "carry")
    assert carry.high - carry.low < 0.15
    assert carry.limit == "weighed"


def test_pinning_what_widens_the_range_most_narrows_it():
    free = predict(spit_runner(**WINDY))
    first = next(w for w in free.widest if w.result == "range")
    assert first.title == BY_NAME[first.input].title
    assert first.input in ("riding", "mean_speed", "crr")
    known = predict(spit_runner(**WINDY, assumptions__crr=Evaluation(spit_runner()).resolved.inputs["crr"].value))
    assert _width(known.range_km) < _width(free.range_km)


def test_shares_of_a_band_do_not_exceed_it_and_all_doubt_is_somebodys():
    found = predict(spit_runner(**WINDY))
    for result in ("speed", "range", "hill", "consumption"):
        shares = [w.share for w in found.widest if w.result == result]
        assert shares == sorted(shares, reverse=True)
        assert sum(shares) <= 1.0 + 1e-9
        whose = next(d for d in found.doubt if d.result == result)
        assert whose.rider + whose.day + whose.machine == pytest.approx(1.0, abs=0.01)
    by_result = {d.result: d for d in found.doubt}
    assert by_result["range"].rider > by_result["range"].machine, "most of how far it goes is who rides it"
    assert by_result["speed"].machine > 0.8, "most of how fast it goes is the machine"


@pytest.mark.parametrize("names", [("kv",), ("riding",), ("mean_speed",), ("crr", "cda")])
def test_measuring_narrows_a_band_by_what_was_promised(names):
    """The promise reckons with shares of variance; here the input is measured in truth, and the band looked at again."""
    evaluation = Evaluation(spit_runner(**WINDY))
    now = predict(evaluation.build)
    known = next(m for m in now.measure_next if names[0] in m.inputs)
    first = max(known.gains, key=lambda g: g.narrower / g.width)
    z = evaluation.normal_scores.copy()
    for name in known.inputs:
        z[:, COLUMN[name]] *= BY_NAME[name].measure.spread / evaluation.resolved.inputs[name].spread
    after = Evaluation(evaluation.build)
    after.normal_scores = z
    low, high = np.percentile(after.values[first.result][1:], (10, 90))
    assert first.width - (high - low) == pytest.approx(first.narrower, abs=0.05 * first.width)


def test_what_takes_most_off_a_band_in_least_time_comes_first():
    listed = predict(spit_runner(**WINDY)).measure_next
    assert {i for m in listed[:3] for i in m.inputs} >= {"riding", "kv"}
    assert all(m.gains and m.minutes > 0 for m in listed)


def test_the_middle_is_the_median_of_the_samples():
    """Every input in its middle gives about the median result, as the chain is monotone in each."""
    evaluation = Evaluation(spit_runner(**WINDY))
    for name, slack in (("speed", 0.02), ("hill", 0.02), ("range", 0.04), ("consumption", 0.04)):
        values = evaluation.headline_values[name]
        assert values[0] == pytest.approx(np.median(values[1:]), rel=slack)


def test_a_verdict_says_how_likely_the_brief_is_kept():
    found = {p.name: p for p in predict(spit_runner(**WINDY)).outcomes}
    evaluation = Evaluation(spit_runner(**WINDY))
    next_ride = evaluation.of_the_next_ride(evaluation.values["range"])
    assert found["range"].chance == pytest.approx((next_ride[1:] >= 14).mean())
    assert found["range"].chance_in_words == "over 95 % likely"
    chances = [
        next(p.chance for p in predict(spit_runner(**WINDY, brief__range_km=km)).outcomes if p.name == "range")
        for km in (10, 20, 25, 32, 60)
    ]
    assert chances == sorted(chances, reverse=True)
    assert chances[0] > 0.97
    assert chances[-1] < 0.03


# --- how far it goes, three ways ----------------------------------------------------------------------------------------


def test_to_the_cut_off_is_further_than_home_and_the_worst_day_is_shortest():
    found = predict(spit_runner(**WINDY))
    for edge in ("low", "mid", "high"):
        ends = [getattr(r, edge) for r in (found.range_worst_day_km, found.range_km, found.range_to_cutoff_km)]
        assert ends == sorted(ends)
    assert found.range_worst_day_km.mid < 0.75 * found.range_km.mid


@pytest.mark.parametrize(
    ("means", "key"),
    [("to_cut_off", "range_to_cutoff_km"), ("with_reserve", "range_km"), ("worst_day", "range_worst_day_km")],
)
def test_the_gauge_shows_the_range_that_the_brief_asks_for_and_the_other_two_beside_it(means, key):
    found = predict(spit_runner(**WINDY, brief__range_means=means))
    shown = next(p for p in found.outcomes if p.name == "range")
    assert shown.mid == getattr(found, key).mid
    others = [f for f in shown.further if f.means != "next_ride"]
    assert {f.means for f in others} == {"to_cut_off", "with_reserve", "worst_day"} - {means}
    assert {f.mid for f in others} | {shown.mid} == {
        found.range_to_cutoff_km.mid,
        found.range_km.mid,
        found.range_worst_day_km.mid,
    }


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("cruise", [16, 22, 30])
def test_more_stops_never_give_more_range(kind, cruise):
    """From none to fifteen a kilometre; nor do they take more than a weak board can use between two stops."""
    far = [
        predict(
            read_build(changed(SPIT_RUNNER, {**KINDS[kind], "brief.cruise_kmh": cruise, "brief.stops_per_km": stops})),
            bands=False,
        ).range_km.mid
        for stops in (0.0, 0.5, 1.0, 2.0, 4.0, 8.0, 15.0)
    ]
    assert far == sorted(far, reverse=True)
    assert far[-1] > 0.4 * far[0]


def test_hills_stops_wind_and_hurry_shorten_the_ride():
    usual = predict(spit_runner(**WINDY), bands=False).range_km.mid
    for more in (
        {"brief__ascent_m_per_km": 25},
        {"brief__stops_per_km": 6},
        {"brief__wind_ms": 6},
        {"brief__wind_ms": 6, "brief__wind": "against"},
        {"brief__rides": "hard"},
        {"brief__temperature_c": -8},
    ):
        assert predict(spit_runner(**{**WINDY, **more}), bands=False).range_km.mid < 0.97 * usual, more
    assert predict(spit_runner(**WINDY, brief__wind_ms=4, brief__wind="behind"), bands=False).range_km.mid > usual


def test_wind_from_all_sides_costs_more_against_than_out_and_back_than_across():
    far = [
        predict(spit_runner(**WINDY, brief__wind_ms=5, brief__wind=way), bands=False).range_km.mid
        for way in ("against", "out_and_back", "across", "behind")
    ]
    assert far == sorted(far)


def test_rolling_with_a_gale_takes_what_the_controller_awake_takes_and_says_so():
    found = predict(spit_runner(assumptions__wind_ms=-25, brief__ascent_m_per_km=0, brief__stops_per_km=0))
    assert found.top_speed_kmh.mid > 30
    assert found.range_km.mid > 300
    assert "wind carries it" in next(p for p in found.outcomes if p.name == "range").message.text


# --- salvaged, unlabelled, aged -----------------------------------------------------------------------------------------


def test_salvaged_cells_are_taken_for_less_until_they_are_measured():
    cell = {"chemistry": "nmc", "size": "18650", "capacity_ah": 3.0, "max_discharge_a": 15}
    new = Evaluation(spit_runner(parts__pack__cell=cell))
    old = Evaluation(spit_runner(parts__pack__cell={**cell, "origin": "salvaged"}))
    known = Evaluation(
        spit_runner(parts__pack__cell={**cell, "capacity_ah": 2.2, "origin": "salvaged", "measured": ["capacity_ah"]})
    )
    share = old.resolved.inputs["cell_capacity"].value / 3.0
    assert 0.6 < share < 0.85
    assert old.resolved.inputs["cell_resistance"].value > 1.4 * new.resolved.inputs["cell_resistance"].value
    assert known.resolved.inputs["cell_capacity"].value == 2.2
    low, high = (np.percentile(c.values["range"][1:] / c.values["range"][0], (10, 90)) for c in (old, new))
    assert low[1] - low[0] > high[1] - high[0], "and less is sure of them"
    few, many = (predict(c.build, bands=False).life for c in (old, new))
    assert few.km < 0.55 * many.km


def test_the_smallest_brick_ends_the_ride():
    brick = {"chemistry": "polymer", "size": "brick", "capacity_ah": 5.0}
    pack = {"series": 12, "parallel": 1, "layout": "bricks", "bricks": 2, "cell": brick}
    alike = predict(spit_runner(parts__pack={**pack, "weakest_brick_ah": 5.0}, settings={}), bands=False)
    weaker = predict(spit_runner(parts__pack={**pack, "weakest_brick_ah": 4.0}, settings={}), bands=False)
    assert weaker.range_km.mid == pytest.approx(0.8 * alike.range_km.mid, rel=0.02)


def test_more_groups_in_series_have_a_weaker_weakest():
    weakest = [
        Evaluation(spit_runner(parts__pack__series=s, parts__pack__parallel=p)).resolved.inputs["weakest_group"].value
        for s, p in ((6, 4), (12, 4), (12, 1))
    ]
    assert weakest == sorted(weakest, reverse=True)
    assert weakest[-1] > 0.95


# --- changes and evidence ---------------------------------------------------------------------------------------------


def test_a_change_is_far_surer_than_what_it_changes():
    """The same rider on the same day with another pulley: what is unsure about both is the same."""
    before, after = evaluate([spit_runner(**WINDY), spit_runner(**WINDY, parts__drive__motor_teeth=18)], 128)
    change = after.values["range"] - before.values["range"]
    assert np.ptp(np.percentile(change[1:], (10, 90))) < 0.2 * np.ptp(
        np.percentile(before.values["range"][1:], (10, 90))
    )


def test_two_motors_of_which_each_is_stated_are_unsure_apart():
    before, after = evaluate([spit_runner(), spit_runner(parts__motors__kv_rpm_per_v=190)], 128)
    drawn = [c.normal_scores[1:, COLUMN["kv"]] for c in (before, after)]
    assert abs(np.corrcoef(*drawn)[0, 1]) < 0.3
    same = [c.normal_scores[1:, COLUMN["riding"]] for c in (before, after)]
    np.testing.assert_array_equal(*same)


def test_a_boards_shows_what_the_boards_show_alone():
    builds = [spit_runner(), spit_runner(rider__mass_kg=95)]
    for build, line in zip(builds, headlines(builds, SAMPLES), strict=True):
        for listed, own in zip(line.outcomes, predict(build).outcomes, strict=True):
            assert (listed.low, listed.mid, listed.high) == (own.low, own.mid, own.high)


def test_what_is_found_follows_the_band_also_where_only_the_middle_is_reckoned():
    """A hill that the middle just misses may hold: the list of boards and the board's own page say the same of it."""
    start = predict(spit_runner(**WINDY)).hill.start_grade_pct
    build = spit_runner(**WINDY, brief__hill_grade_pct=start.mid + 0.2 * (start.high - start.mid))
    whole = predict(build)
    (head,) = headlines([build], SAMPLES)
    bare_of_bands = predict(build, bands=False)
    listed = predict(build, bands=False, outcomes=head.outcomes)
    assert "Cannot start on the hill" in {f.title.text for f in bare_of_bands.findings}
    assert {f.id for f in listed.findings} == {f.id for f in whole.findings}


def test_knowing_nothing_more_changes_nothing():
    build = spit_runner(**WINDY)
    plain = Evaluation(build)
    told = Evaluation(
        build.model_copy(update={"calibration": written(nothing_known(), plain.resolved.inputs, 1, build)})
    )
    np.testing.assert_allclose(told.values["range"], plain.values["range"])


def test_what_is_known_of_two_inputs_together_moves_and_ties_them():
    """Rides that show a tenth more consumption: the rider may ride so, or the road roll so; not both."""
    joint = MultivariateNormal(("riding", "crr"), np.array([0.5, 0.5]), np.array([[0.6, -0.3], [-0.3, 0.6]]))
    z = joint.moved(normal_scores(4096))
    drawn = z[1:, [COLUMN["riding"], COLUMN["crr"]]]
    np.testing.assert_allclose(drawn.mean(axis=0), joint.mean, atol=0.02)
    np.testing.assert_allclose(np.cov(drawn.T), joint.covariance, atol=0.03)
    assert z[0, COLUMN["riding"]] == 0.5
    build = spit_runner(**WINDY)
    calibration = written(joint, Evaluation(build).resolved.inputs, 1, build)
    assert (
        Evaluation(build.model_copy(update={"calibration": calibration})).values["range"][0]
        < Evaluation(build).values["range"][0]
    )


def test_evidence_about_an_input_that_does_not_exist_is_refused():
    with pytest.raises(ValueError, match="no input of the model is called mood"):
        MultivariateNormal(("mood",), np.zeros(1), np.eye(1))
    with pytest.raises(ValueError, match="a row for each name"):
        MultivariateNormal(("crr",), np.zeros(2), np.eye(1))


# --- origins ----------------------------------------------------------------------------------------------------------


def test_what_is_stated_is_not_listed_as_estimated():
    listed = {e.field for e in predict(spit_runner(), bands=False).estimated}
    assert "parts.motors.phase_resistance_mohm" not in listed
    less = spit_runner(parts__motors__phase_resistance_mohm=None)
    row = next(e for e in predict(less, bands=False).estimated if e.field == "parts.motors.phase_resistance_mohm")
    assert row.value == pytest.approx(31.0, rel=0.02)
    assert "KV" in row.rule


def test_line_to_line_resistance_is_twice_the_phases_own():
    neutral = Evaluation(spit_runner()).resolved.inputs["phase_resistance"].value
    line = (
        Evaluation(spit_runner(parts__motors__resistance_is="line_to_line")).resolved.inputs["phase_resistance"].value
    )
    assert line == pytest.approx(neutral / 2)


def test_inputs_have_titles_in_words():
    for record in INPUTS:
        assert " " in record.title or record.title in ("temperature",)
        assert record.title[0].islower()


def test_the_ends_of_a_range_lie_where_many_more_samples_put_them():
    """Within 4 % of the middle, and the range itself within 1.5 %."""
    for build in (spit_runner(), spit_runner(brief__range_means="to_cut_off", rider__mass_kg=95)):
        shown, many = Evaluation(build), Evaluation(build, 4096)
        for name, band in many.bands.items():
            middle = max(abs(float(many.values[name][0])), 1e-9)
            apart = [abs(one - other) / middle for one, other in zip(shown.bands[name], band, strict=True)]
            assert max(apart) < (0.015 if name == "range" else 0.04), (name, apart)
