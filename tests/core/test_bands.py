"""How sure a prediction is."""

import pytest

from boardmath.arrays import nominal_board
from boardmath.parameters import resolve
from boardmath.predict.bands import samples_of
from boardmath.predict.outcomes import outcomes
from boardmath.report import predict
from tests.core.boards import spit_runner


def _width(result):
    return result.high - result.low


def test_a_measured_motor_narrows_the_speed_band():
    stated = predict(spit_runner()).top_speed_kmh
    measured = predict(spit_runner(parts__motors__measured=["kv_rpm_per_v"])).top_speed_kmh
    assert _width(measured) < 0.7 * _width(stated)


def test_pinning_what_widens_the_range_most_narrows_it():
    free = predict(spit_runner())
    first = next(w for w in free.widest if w.result == "range")
    assert first.input in ("crr", "cda")
    assert first.measure
    key = {"crr": "crr", "cda": "cda_m2"}[first.input]
    known = resolve(spit_runner()).inputs[first.input].value
    pinned = predict(spit_runner(**{f"assumptions__{key}": known}))
    assert _width(pinned.range_km) < 0.85 * _width(free.range_km)


def test_shares_of_a_band_do_not_exceed_it():
    for result in ("speed", "range", "hill", "consumption"):
        shares = [w.share for w in predict(spit_runner()).widest if w.result == result]
        assert shares == sorted(shares, reverse=True)
        assert sum(shares) <= 1.0 + 1e-9


def test_the_middle_is_the_median_of_the_samples():
    """Every input at its median gives the median result, as the chain is monotone in each."""
    resolved = resolve(spit_runner())
    sampled, middle = outcomes(samples_of(resolved)), outcomes(nominal_board([resolved]))
    median = lambda values: sorted(values)[len(values) // 2]  # noqa: E731
    assert middle.top_speed[0] == pytest.approx(median(sampled.top_speed), rel=0.01)
    assert middle.distance.range[0] == pytest.approx(median(sampled.distance.range), rel=0.02)


def test_what_is_stated_is_not_listed_as_estimated():
    listed = {e.field for e in predict(spit_runner(), bands=False).estimated}
    assert "parts.motors.phase_resistance_mohm" not in listed
    less = spit_runner(parts__motors__phase_resistance_mohm=None)
    row = next(e for e in predict(less, bands=False).estimated if e.field == "parts.motors.phase_resistance_mohm")
    assert row.value == pytest.approx(31.0, rel=0.02)
    assert "KV" in row.rule


def test_line_to_line_resistance_is_twice_the_phases_own():
    neutral = resolve(spit_runner()).inputs["phase_resistance"].value
    line = resolve(spit_runner(parts__motors__resistance_is="line_to_line")).inputs["phase_resistance"].value
    assert line == pytest.approx(neutral / 2)
