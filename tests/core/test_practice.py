"""Boards as they are really built, against what their builders report. Common practice, no source."""

import pytest

from boardmath.fit import belt
from boardmath.report import predict
from tests.core.boards import bare

MILE = 1.609344


def _spans(result, value, slack=0.0):
    assert result.low * (1 - slack) <= value <= result.high * (1 + slack), (result, value)


TWELVE_BY_FOUR = {
    "wheels": {"diameter_mm": 97, "kind": "urethane"},
    "motors": {"count": 2, "kv_rpm_per_v": 190, "can_diameter_mm": 63, "can_length_mm": 74},
    "drive": {"kind": "belt", "motor_teeth": 16, "wheel_teeth": 36, "driven_wheels": 2},
    "pack": {"series": 12, "parallel": 4, "cell": {"chemistry": "nmc", "size": "18650", "capacity_ah": 3.0, "nominal_v": 3.6}},
}  # fmt: skip


def test_energy_printed_on_a_pack():
    """12 x 4 cells of 3.0 Ah at 3.6 V: 518.4 Wh."""
    assert predict(bare(**TWELVE_BY_FOUR), bands=False).pack_wh == pytest.approx(518.4)


def test_loaded_top_speed_is_about_85_percent_of_the_unloaded():
    """About 35 mph against 41 on a 12 x 4 board with two motors."""
    found = predict(bare(**TWELVE_BY_FOUR))
    assert found.unloaded_speed_kmh is not None
    _spans(found.top_speed_kmh, 0.85 * found.unloaded_speed_kmh, slack=0.03)


def test_hard_riding_takes_20_watt_hours_a_mile_and_mellow_15():
    """20 Wh a mile hard, 15 mellow: the bands of rides at 28 and at 20 km/h hold them."""
    mellow = predict(bare(**TWELVE_BY_FOUR, brief={"cruise_kmh": 20}))
    brisk = predict(bare(**TWELVE_BY_FOUR, brief={"cruise_kmh": 28}))
    _spans(mellow.consumption_wh_per_km, 15 / MILE, slack=0.05)
    _spans(brisk.consumption_wh_per_km, 20 / MILE, slack=0.05)


def test_eight_cell_board():
    """8 in series, 6.6 Ah, one 190 KV motor, 80 mm wheels: about 20 mph, about 15 miles."""
    found = predict(
        bare(
            wheels={"diameter_mm": 80},
            motors={"count": 1, "kv_rpm_per_v": 190},
            drive={"kind": "belt", "motor_teeth": 15, "wheel_teeth": 36},
            pack={"series": 8, "parallel": 1, "cell": {"chemistry": "polymer", "capacity_ah": 6.6}},
            brief={"cruise_kmh": 20, "reserve_pct": 5},
        )
    )
    _spans(found.top_speed_kmh, 20 * MILE, slack=0.05)
    _spans(found.range_km, 15 * MILE, slack=0.15)


def test_ten_cell_board():
    """10 in series, 5 Ah bricks, one motor, 80 mm wheels, 16 teeth: about 25 mph, about 10 miles."""
    found = predict(
        bare(
            wheels={"diameter_mm": 80},
            motors={"count": 1, "kv_rpm_per_v": 190},
            drive={"kind": "belt", "motor_teeth": 16, "wheel_teeth": 36},
            pack={"series": 10, "parallel": 1, "cell": {"chemistry": "polymer", "capacity_ah": 5.0}},
            brief={"cruise_kmh": 27, "reserve_pct": 5},
        )
    )
    _spans(found.top_speed_kmh, 25 * MILE, slack=0.05)
    _spans(found.range_km, 10 * MILE, slack=0.1)


def test_bare_longboard_and_one_with_a_185_wh_drive_on_the_scale():
    """About 3.5 kg bare, 6.1 kg with a small drive."""
    found = predict(
        bare(
            deck={"length_mm": 1000, "width_mm": 240, "thickness_mm": 12},
            wheels={"diameter_mm": 80},
            motors={"count": 1, "kv_rpm_per_v": 230, "can_diameter_mm": 50, "can_length_mm": 65},
            drive={"kind": "belt", "motor_teeth": 15, "wheel_teeth": 36},
            pack={"series": 10, "parallel": 2, "cell": {"chemistry": "nmc", "size": "18650", "capacity_ah": 2.6}},
        ),
        bands=False,
    )
    assert found.mass_kg.board == pytest.approx(6.1, rel=0.1)


def test_twelve_to_twenty_four_teeth_doubles_the_unloaded_speed():
    """12 to 24 teeth on 60: from 5 : 1 to 2.5 : 1."""
    low, high = (
        predict(bare(**{**TWELVE_BY_FOUR, "drive": {"motor_teeth": t, "wheel_teeth": 60}}), bands=False)
        for t in (12, 24)
    )
    assert high.unloaded_speed_kmh == pytest.approx(2 * low.unloaded_speed_kmh)


def test_six_to_ten_in_series_is_five_thirds_of_the_volts():
    """1.67 times the volts and the speed of the bare arithmetic; loaded, drag takes some of it back."""
    polymer = {"chemistry": "polymer", "capacity_ah": 5.0}
    six, ten = (
        predict(bare(**{**TWELVE_BY_FOUR, "pack": {"series": s, "parallel": 1, "cell": polymer}}), bands=False)
        for s in (6, 10)
    )
    assert ten.unloaded_speed_kmh == pytest.approx(5 / 3 * six.unloaded_speed_kmh)
    assert 1.5 < ten.top_speed_kmh.mid / six.top_speed_kmh.mid < 5 / 3


def test_a_15_to_40_drive_runs_a_270_mm_belt():
    """With 5 mm pitch the shafts then stand some 65 mm apart, and the small pulley holds six teeth."""
    small, large = belt.pitch_radius(15, 5), belt.pitch_radius(40, 5)
    distance = belt.centre_distance(270, small, large)
    assert belt.length(distance, small, large) == pytest.approx(270)
    assert 60 < distance < 75
    assert belt.teeth_in_mesh(distance, 15, small, large) == pytest.approx(6.0, abs=0.4)
