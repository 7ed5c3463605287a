"""Boards as they are really built, against what their builders report. Common practice, no source."""

import pytest

from boardmath.buildfile.build import Brief
from boardmath.buildfile.rolling import Wheels
from boardmath.geometry import belt
from boardmath.model.estimate import rolling_resistance
from boardmath.model.inputs import cell_rating, full_voltage
from boardmath.model.mass import resolve_masses
from boardmath.predictor import predict
from tests.core.boards import bare

MILE = 1.609344


def _spans(result, value):
    """Inside the band of eight in ten, without any slack."""
    assert result.low <= value <= result.high, (result, value)


TWELVE_BY_FOUR = {
    "wheels": {"diameter_mm": 97, "kind": "urethane"},
    "motors": {"count": 2, "kv_rpm_per_v": 190, "can_diameter_mm": 63, "can_length_mm": 74},
    "drive": {"kind": "belt", "motor_teeth": 16, "wheel_teeth": 40, "driven_wheels": 2},
    "pack": {
        "series": 12,
        "parallel": 4,
        "cell": {"chemistry": "nmc", "size": "18650", "capacity_ah": 3.0, "nominal_v": 3.6},
    },
}


def test_energy_printed_on_a_pack():
    """12 x 4 cells of 3.0 Ah at 3.6 V: 518.4 Wh."""
    assert predict(bare(**TWELVE_BY_FOUR), bands=False).pack_wh == pytest.approx(518.4)


def test_loaded_top_speed_is_about_85_percent_of_the_unloaded():
    """About 35 mph against 41 on a 12 x 4 board with two motors."""
    found = predict(bare(**TWELVE_BY_FOUR))
    assert found.unloaded_speed_kmh == pytest.approx(41 * MILE, rel=0.03)
    _spans(found.top_speed_kmh, 35 * MILE)


def test_hard_riding_takes_20_watt_hours_a_mile_and_gentle_15():
    """20 Wh a mile hard, 15 gentle: the bands of rides at 28 and at 20 km/h hold them."""
    gentle = predict(bare(**TWELVE_BY_FOUR, brief={"cruise_kmh": 20}))
    brisk = predict(bare(**TWELVE_BY_FOUR, brief={"cruise_kmh": 28}))
    _spans(gentle.consumption_wh_per_km, 15 / MILE)
    _spans(brisk.consumption_wh_per_km, 20 / MILE)


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
    _spans(found.top_speed_kmh, 20 * MILE)
    _spans(found.range_km, 15 * MILE)


def test_ten_cell_board():
    """10 in series, 5 Ah bricks, one motor, 80 mm wheels, 16 teeth: about 25 mph, about 10 miles. The rest as is usual."""
    found = predict(
        bare(
            wheels={"diameter_mm": 80},
            motors={"count": 1, "kv_rpm_per_v": 170},
            drive={"kind": "belt", "motor_teeth": 16, "wheel_teeth": 36},
            pack={"series": 10, "parallel": 1, "cell": {"chemistry": "polymer", "capacity_ah": 5.0}},
            brief={"cruise_kmh": 27, "reserve_pct": 5},
        )
    )
    _spans(found.top_speed_kmh, 25 * MILE)
    _spans(found.range_km, 10 * MILE)


def test_bare_longboard_and_one_with_a_185_wh_drive_on_the_scale():
    """About 3.5 kg bare, 6.1 kg with a small drive."""
    found = predict(
        bare(
            deck={"length_mm": 1000, "width_mm": 240, "thickness_mm": 12},
            wheels={"diameter_mm": 80},
            motors={"count": 1, "kv_rpm_per_v": 230, "can_diameter_mm": 50, "can_length_mm": 65},
            drive={"kind": "belt", "motor_teeth": 15, "wheel_teeth": 36},
            pack={"series": 10, "parallel": 2, "cell": {"chemistry": "nmc", "size": "18650", "capacity_ah": 2.6}},
        )
    )
    (carry,) = (p for p in found.outcomes if p.name == "carry")
    _spans(carry, 6.1)


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


def test_range_of_the_12_by_4_board_at_20_watt_hours_a_mile():
    """518 Wh at 20 Wh a mile: 25.9 miles to the end, for one at the upper end of what most settle at, on hills."""
    hard = {"cruise_kmh": 27, "ascent_m_per_km": 8}
    found = predict(bare(**TWELVE_BY_FOUR, brief=hard))
    _spans(found.range_to_cutoff_km, 25.92 * MILE)


@pytest.mark.parametrize(
    ("series", "parallel", "ah", "volts", "watt_hours", "amperes_at_10c"),
    [(12, 11, 3.0, 3.6, 1425.6, 330), (8, 1, 25.0, 3.7, 740, 250), (12, 4, 3.0, 3.6, 518.4, 120)],
)
def test_watt_hours_and_amperes_of_packs(series, parallel, ah, volts, watt_hours, amperes_at_10c):
    """132 cells hold 1.425 kWh; eight of 25 Ah hold 740 Wh and give 250 A at ten times their capacity."""
    cell = {"chemistry": "polymer", "capacity_ah": ah, "nominal_v": volts, "max_discharge_a": 10 * ah}
    pack = {"series": series, "parallel": parallel, "cell": cell}
    assert predict(bare(**{**TWELVE_BY_FOUR, "pack": pack}), bands=False).pack_wh == pytest.approx(watt_hours, rel=1e-3)
    assert cell_rating(bare(pack=pack).parts.pack).value * parallel == pytest.approx(amperes_at_10c)


@pytest.mark.parametrize(("series", "full"), [(6, 25.2), (10, 42.0)])
def test_volts_of_a_full_pack(series, full):
    """25.2 V of six cells, 42.0 V of ten."""
    assert full_voltage(bare(pack={"series": series}).parts.pack) == pytest.approx(full)


def test_a_claim_of_36_per_cent_at_25_km_h_from_a_10_ampere_hub_drive_is_not_possible():
    """The steepest street that anybody quotes has 30 %; two small hubs on 10 A do not come near it."""
    hubs = bare(
        wheels={"diameter_mm": 90},
        motors={"count": 2, "kind": "hub", "kv_rpm_per_v": 75, "can_diameter_mm": 70, "can_length_mm": 40},
        pack={"series": 10, "parallel": 2, "cell": {"chemistry": "nmc", "size": "18650", "capacity_ah": 2.5}},
        controller={"units": 1, "programmable": False, "max_pack_current_a": 10, "max_motor_current_a": 20},
    )
    hill = predict(hubs).hill
    assert hill.start_grade_pct.high < 20
    assert next(s.speed_kmh for s in hill.speeds if s.grade_pct == 30) < 5


def test_tyres_roll_harder_than_urethane_on_asphalt_and_easier_on_boards_and_gravel():
    """From memory: small tyres 0.018 to 0.025 on asphalt, urethane 0.010 to 0.020."""
    rolls = {
        (kind, surface): rolling_resistance(Wheels(kind=kind, diameter_mm=size), Brief(surface=surface)).value
        for kind, size in (("urethane", 90), ("pneumatic", 200))
        for surface in ("smooth_asphalt", "fair_asphalt", "boardwalk", "packed_gravel")
    }
    assert 0.018 <= rolls["pneumatic", "fair_asphalt"] <= 0.025
    assert 0.010 <= rolls["urethane", "fair_asphalt"] <= 0.020
    for surface in ("smooth_asphalt", "fair_asphalt"):
        assert rolls["pneumatic", surface] > rolls["urethane", surface]
    for surface in ("boardwalk", "packed_gravel"):
        assert rolls["pneumatic", surface] < rolls["urethane", surface]


def test_a_board_on_the_scale_is_heavier_than_its_listed_parts():
    """What nobody lists, fasteners, grip, foam, glue and wire, comes to half a kilogram and more."""
    listed = {name: {"mass_g": grams} for name, grams in (("deck", 1600), ("trucks", 900), ("enclosure", 600))}
    found = predict(bare(**{**TWELVE_BY_FOUR, **listed}), bands=False)
    parts = resolve_masses(bare(**{**TWELVE_BY_FOUR, **listed}))
    unlisted = found.mass_kg.board - sum(m.value for n, m in parts.items() if n != "small_parts") / 1000
    assert 0.4 < unlisted < 0.9
    assert 0.03 < unlisted / found.mass_kg.board < 0.16
