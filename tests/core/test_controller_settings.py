"""The controller settings: no recommended value asks more of the board than it bears, and each does what it says."""

import math
from functools import cache

import pytest
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from boardmath.buildfile import read_build, write_build
from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import each_controller
from boardmath.engine import sweeps
from boardmath.model.chemistry import chemistry_of
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_charge_rating, cell_rating, cell_voltages
from boardmath.model.limits import path_ratings, ramped, reads_fast
from boardmath.model.model_inputs import WORN
from boardmath.model.resolution import resolve
from boardmath.model.sampling import nominal_boards
from boardmath.physics.cell import charge_at
from boardmath.prediction.braking import charge_that_brakes, holds_back
from boardmath.prediction.outcomes import headlines
from boardmath.predictor import predict
from planner.controller_settings import controller_settings, recommend
from planner.controller_settings.recommend import CHARACTERS
from tests.core.boards import any_builds, bare, changed, spit_runner
from tests.core.test_properties import boards

PROFILES = list(CHARACTERS)
BY_SETTINGS = {
    "cells-current",
    "protection-current",
    "regen-current",
    "regen-protection",
    "braking-above-full",
    "cut-off-above-pack",
    "cut-off-too-low",
    "controller-cells-mismatch",
    "no-cut-off",
    "motor-current",
    "motor-power",
    "speed-reads-wrong",
    "cap-above-rule",
    "no-hall-sensors",
    "remote-link",
    "late-rollback-motor",
    "late-rollback-controller",
    "ceiling-on-a-descent",
}
"""Findings that a settings record of recommended values must not bring."""


def applied(build: Build, profile="daily") -> Build:
    values = {r.field: r.value for r in recommend(build, profile)}
    return build.model_copy(update={"settings": build.settings.model_copy(update=values)})


def with_controller(build: Build) -> Build | None:
    controller = build.parts.controller
    if controller is None or build.parts.pack is None or build.parts.pack.series is None:
        return None
    update = {"programmable": True, "fixed_cells": None, "units": 1 + (controller.units or 1) % 2}
    return build.model_copy(
        update={"parts": build.parts.model_copy(update={"controller": controller.model_copy(update=update)})}
    )


def has_a_span(build: Build) -> bool:
    """A cell that is empty where it is full has no cut-off."""
    full, _, empty = cell_voltages(build.parts.pack)
    return full - empty >= 0.8


@cache
def builds() -> list[Build]:
    """Builds by chance whose controller can be set."""
    return [b for b in (with_controller(b) for b in any_builds(400, seed=11)) if b is not None and has_a_span(b)]


@pytest.mark.parametrize("profile", PROFILES)
def test_nothing_recommended_is_above_what_any_part_of_the_path_bears(profile):
    assert len(builds()) > 25
    for build in builds():
        found = {r.field: r for r in recommend(build, profile)}
        controller, pack, motors = build.parts.controller, build.parts.pack, build.parts.motors
        units = controller.units
        values = {field: r.value for field, r in found.items()}
        assert values.get("pack_current_a", 0.0) * units <= min(path_ratings(build).values()) + 1e-9
        assert values["pack_regen_a"] * units <= cell_charge_rating(pack).value * (pack.parallel or 1) + 1e-9
        for most in (controller.max_motor_current_a, motors.max_current_a if motors else None):
            for field in ("motor_current_a", "motor_brake_a"):
                assert most is None or values.get(field, 0.0) <= most
        full, _, empty = cell_voltages(pack)
        assert values["taper_end_v"] >= pack.series * empty - 0.05
        assert values["taper_start_v"] > values["taper_end_v"]
        assert values["regen_ceiling_v"] <= pack.series * full + 0.05
        assert values["cells_in_series"] == pack.series
        assert controller.max_erpm is None or values["max_erpm"] <= controller.max_erpm
        for r in found.values():
            if isinstance(r.value, int | float):
                assert math.isfinite(r.value)
                assert r.low is None or r.value >= r.low - max(0.5, 0.01 * abs(r.low)), r
                assert r.high is None or r.value <= r.high + 0.5, r
            assert r.why.text
            assert r.trades.text


def test_a_sheet_as_recommended_brings_no_finding_of_its_own():
    """Over boards of any figures, with two controllers on one pack among them."""
    for build in builds()[:40]:
        for profile in ("beginner", "full"):
            found = {f.id for f in predict(applied(build, profile), bands=False).findings}
            before = {f.id for f in predict(build, bands=False).findings}
            assert not (found & BY_SETTINGS) - before, (found & BY_SETTINGS, profile)


@given(boards(), st.sampled_from(PROFILES), st.integers(1, 2))
@hypothesis_settings(deadline=None, max_examples=40)
def test_under_the_sheet_the_cells_and_the_motor_stay_within_their_ratings(build, profile, units):
    """At the highest speed on the flat and on a hill, what flows is below what cells and motor are rated for."""
    controller = build.parts.controller.model_copy(update={"units": units})
    build = build.model_copy(update={"parts": build.parts.model_copy(update={"controller": controller})})
    board = nominal_boards([resolve(applied(build, profile))])
    pack, motors = build.parts.pack, build.parts.motors
    for grade in (0.0, 0.1):
        speed, _ = sweeps.highest_speeds(board, grade, 0.9)
        if speed[0, 0] <= 0.0:
            continue
        point = sweeps.moments(board, speed, grade, 0.9)[0, 0]
        assert point.pack_current <= cell_rating(pack).value * (pack.parallel or 1) * 1.001
        assert point.motor_current <= motors.max_current_a * 1.001


def test_softer_profiles_ask_less():
    build = spit_runner()
    values = [{r.field: r.value for r in recommend(build, p)} for p in ("beginner", "daily", "full")]
    for field in ("motor_current_a", "motor_brake_a", "pack_current_a"):
        assert values[0][field] < values[1][field] <= values[2][field]
    assert values[0]["speed_cap_kmh"] == 15.0
    pulls = [predict(applied(build, p), bands=False).acceleration.first_second_g for p in ("beginner", "daily", "full")]
    assert pulls[0] < pulls[1] <= pulls[2]
    assert pulls[0] == pytest.approx(CHARACTERS["beginner"].first_second_g, abs=0.02)


def test_another_profiles_cap_is_not_left_standing_unseen():
    build = spit_runner(brief__local_speed_limit_kmh=None, brief__top_speed_kmh=None)
    assert controller_settings(build, "full").clears == []
    capped = applied(build, "beginner")
    assert controller_settings(capped, "full").clears == ["speed_cap_kmh"]
    assert controller_settings(capped, "beginner").clears == []


def test_the_noted_rule_caps_every_profile():
    for profile in PROFILES:
        capped = applied(spit_runner(brief__local_speed_limit_kmh=20), profile)
        assert predict(capped, bands=False).top_speed_kmh.mid <= 20.001


def test_two_controllers_share_the_packs_current():
    one = {r.field: r for r in recommend(spit_runner(parts__controller__units=1))}
    two = {r.field: r for r in recommend(spit_runner(parts__controller__units=2))}
    assert two["pack_current_a"].high == one["pack_current_a"].high / 2
    assert "At most 20 A for each controller, 40 A in all" in two["pack_current_a"].why.text
    assert "2 controllers share it" in two["pack_current_a"].why.text


def detected_turned(build: Build) -> set[str]:
    return {f.id for f in predict(build, bands=False).findings if f.id.startswith("detected-turned")}


@pytest.mark.parametrize(
    ("motors", "units", "turned", "wanted"),
    [
        (1, 1, [], ["forward"]),
        (1, 1, ["backward"], ["reversed"]),
        (2, 1, [], ["mirrored"]),
        (2, 2, [], ["forward", "reversed"]),
        (4, 2, [], ["mirrored", "mirrored"]),
        (2, 1, ["forward", "forward"], ["forward"]),
        (2, 2, ["backward", "forward"], ["reversed", "forward"]),
    ],
)
def test_each_controller_is_told_which_way_its_motors_turn(motors, units, turned, wanted):
    """Two motors on one axle look at each other; what detection saw counts before that."""
    build = spit_runner(
        parts__motors__count=motors, parts__controller__units=units, detected=[{"turned": t} for t in turned] or None
    )
    line = next(line for line in controller_settings(build).lines if line.field == "directions")
    assert [line.value, *(line.further or [line.value] * (units - 1))] == wanted
    first, *further = wanted
    taken = spit_runner(
        parts__motors__count=motors,
        parts__controller__units=units,
        settings__directions=first,
        settings_apart=[{"directions": w} for w in further],
        detected=[{"turned": t} for t in turned] or None,
    )
    assert (
        next(line for line in controller_settings(taken).lines if line.field == "directions").stand == "as recommended"
    )
    assert not detected_turned(taken)


def test_a_wheel_that_drives_against_the_other_is_found_and_set_right():
    build = spit_runner(
        parts__motors__count=2,
        parts__controller__units=2,
        settings__directions="forward",
        detected=[{"turned": "forward"}, {"turned": "backward"}],
    )
    assert detected_turned(build) == {"detected-turned-2"}
    fix = next(f for f in predict(build, bands=False).findings if f.id == "detected-turned-2").fixes[0]
    assert fix.message.text == "Set the directions forward and reversed"
    cured = read_build(changed(write_build(build), fix.changes))
    assert [s.directions for s in each_controller(cured)] == ["forward", "reversed"]
    assert not detected_turned(cured)


def test_unlike_controllers_pull_as_much_as_both_together():
    two = {"parts__motors__count": 2, "parts__controller__units": 2, "parts__drive__driven_wheels": 2}
    alike, half, unlike = (
        predict(spit_runner(**two, settings__motor_current_a=first, settings_apart=apart), bands=False)
        for first, apart in ((40, None), (20, None), (40, [{"motor_current_a": 20}]))
    )
    grades = [p.hill.start_grade_pct.mid for p in (half, unlike, alike)]
    assert grades[0] < grades[1] < grades[2]
    assert grades[1] == pytest.approx((grades[0] + grades[2]) / 2, rel=0.02), "thrusts add up"


def test_a_boxed_controller_has_a_short_sheet_and_is_judged_too():
    boxed = spit_runner(parts__controller={"programmable": False, "units": 1, "fixed_cells": 6}, settings={})
    lines = {line.field: line.value for line in controller_settings(boxed, "beginner").lines}
    assert set(lines) == {"cells_in_series", "ride_mode", "throttle_curve", "remote_link"}
    assert (lines["cells_in_series"], lines["ride_mode"]) == (10, "slow")
    assert "ride_mode" not in {line.field for line in controller_settings(spit_runner()).lines}, (
        "only boxed ones have it"
    )
    assert "fixed-cells" in {f.id for f in predict(boxed).findings}
    assert recommend(bare(wheels={"diameter_mm": 90})) == []


def test_a_left_over_cell_count_stands_outside_its_span():
    lines = {line.field: line for line in controller_settings(spit_runner(settings__cells_in_series=5)).lines}
    assert lines["cells_in_series"].stand == "outside its range"
    assert "controller-cells-mismatch" in {
        f.id for f in controller_settings(spit_runner(settings__cells_in_series=5)).findings
    }


def test_a_pack_that_changes_after_the_sheet_was_set_is_noticed():
    set_up = applied(spit_runner())
    swapped = set_up.parts.pack.model_copy(update={"series": 12})
    later = set_up.model_copy(update={"parts": set_up.parts.model_copy(update={"pack": swapped})})
    stands = {line.field: line.stand for line in controller_settings(later).lines}
    assert stands["cells_in_series"] == stands["taper_start_v"] == "outside its range"


# --- what each value does ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize("cap", [12.0, 18.0, 25.0])
def test_a_speed_cap_holds_the_board_at_it(cap):
    """By wheels of the size that the controller is told; worn ones are so much slower."""
    found = predict(spit_runner(settings__speed_cap_kmh=cap), bands=False)
    assert found.top_speed_kmh.mid == pytest.approx(WORN * cap, rel=1e-3)
    assert found.top_speed_kmh.limit == "speed cap"


@pytest.mark.parametrize(
    ("wrong", "reads"),
    [
        ({"settings__gear_ratio": 1.4}, 2.0),
        ({"settings__pole_pairs": 14}, 0.5),
        ({"settings__wheel_diameter_mm": 98.01}, 1.1),
    ],
)
def test_a_controller_that_reads_wrong_caps_wrong(wrong, reads):
    """Half the ratio reads twice the speed, so the cap comes at half of it; twice the pole pairs the other way."""
    build = spit_runner(settings__speed_cap_kmh=20, **wrong)
    assert reads_fast(build) == pytest.approx(reads)
    capped = predict(build, bands=False)
    uncapped = predict(spit_runner(), bands=False).top_speed_kmh.mid
    assert capped.top_speed_kmh.mid == pytest.approx(min(WORN * 20.0 / reads, uncapped), rel=2e-3)
    found = {f.id: f for f in capped.findings}["speed-reads-wrong"]
    assert f"{abs(reads - 1) * 100:.0f} %" in found.text
    cured = build.model_copy(
        update={
            "settings": build.settings.model_copy(
                update={k.removeprefix("settings."): v for k, v in found.fixes[0].changes.items()}
            )
        }
    )
    assert reads_fast(cured) == pytest.approx(1.0, abs=1e-3)


def test_a_ramp_halves_the_first_second_when_it_lasts_it():
    """A thrust that rises evenly over r seconds leaves 1 - r/2 of the speed after one second, 1/2r where r is longer."""
    for ramp, left in ((0.0, 1.0), (0.5, 0.75), (1.0, 0.5), (2.0, 0.25)):
        assert ramped(spit_runner(settings__ramp_s=ramp)) == left
    slow, quick = predict(spit_runner(settings__ramp_s=1.0)).acceleration, predict(spit_runner()).acceleration
    assert slow.first_second_g == pytest.approx(quick.first_second_g / 2)
    assert slow.to_15_kmh_s == pytest.approx(quick.to_15_kmh_s + 0.5)


def test_a_lower_braking_ceiling_takes_the_brake_on_a_full_pack():
    open_ = predict(spit_runner(), bands=False).braking
    closed = predict(spit_runner(settings__regen_ceiling_v=40), bands=False).braking
    assert closed.full_pack_ms2 < open_.full_pack_ms2
    assert closed.at_80_pct_grade_pct <= open_.at_80_pct_grade_pct
    higher = predict(spit_runner(settings__regen_ceiling_v=60), bands=False)
    assert higher.braking == open_, "a ceiling above full promises no more brake"
    assert "braking-above-full" in {f.id for f in higher.findings}


@pytest.mark.parametrize("grade", [3, 6, 9, 12, 15])
def test_charged_to_what_is_named_the_brakes_hold_the_hill_from_its_start(grade):
    """And charged one step of 0.05 V higher they do not: the highest of the steps is named, and none where none would do."""
    build = spit_runner(brief__hill_grade_pct=grade)
    volts, full = charge_that_brakes(Evaluation(build, 0)), cell_voltages(build.parts.pack)[0]

    def held(cell_v: float) -> float:
        charge = charge_at(chemistry_of(build.parts.pack.cell), cell_v, full)
        return 100.0 * holds_back([Evaluation(build, 0)], charge)[0]

    if volts is None:
        assert held(full) >= grade or held(full - 0.3) < grade
    else:
        assert held(volts) >= grade > held(volts + 0.05)


def test_an_earlier_roll_back_holds_less_of_a_long_climb():
    long = {
        "brief__hill_length_m": 8000,
        "parts__motors__count": 2,
        "parts__drive__driven_wheels": 2,
        "parts__drive__motor_teeth": 18,
    }
    late = predict(spit_runner(**long), bands=False).hill.held_grade_pct.mid
    early = predict(spit_runner(**long, settings__motor_rollback_c=70), bands=False).hill.held_grade_pct.mid
    assert early < late


def test_what_a_line_says_it_changes_is_what_setting_it_does():
    build = spit_runner(settings__pack_current_a=8)
    line = next(x for x in controller_settings(build, "full").lines if x.field == "pack_current_a")
    assert {c.name for c in line.changes} >= {"speed"}
    done = build.model_copy(update={"settings": build.settings.model_copy(update={"pack_current_a": line.value})})
    before, after = headlines([build, done])
    for change in line.changes:
        pair = [next(p.mid for p in h.outcomes if p.name == change.name) for h in (before, after)]
        assert change.change == pytest.approx(pair[1] - pair[0])


FAULTS = {
    "speed-reads-wrong": ({"settings__gear_ratio": 3.5}, "warn"),
    "cap-above-rule": ({"settings__speed_cap_kmh": 32, "brief__local_speed_limit_kmh": 25}, "warn"),
    "cap-below-brief": ({"settings__speed_cap_kmh": 20}, "note"),
    "ceiling-on-a-descent": ({"settings__max_erpm": 45000}, "warn"),
    "braking-above-full": ({"settings__regen_ceiling_v": 43}, "danger"),
    "late-rollback-motor": ({"settings__motor_rollback_c": 140}, "warn"),
    "late-rollback-controller": ({"settings__controller_rollback_c": 100}, "warn"),
    "no-hall-sensors": ({"settings__sensor_mode": "hall", "parts__motors__sensored": False}, "stop"),
    "remote-link": ({"settings__remote_link": "pulse"}, "stop"),
    "no-brake": ({"settings__motor_brake_a": 2}, "danger"),
    "cap-without-gearing": ({"settings__speed_cap_kmh": 20, "parts__drive": None}, "note"),
}


@pytest.mark.parametrize("id", FAULTS)
def test_what_is_set_wrong_is_found_and_its_fix_fixes_it(id):
    faulty, severity = FAULTS[id]
    build = spit_runner(settings__cells_in_series=10, **faulty)
    found = {f.id: f for f in predict(build, bands=False).findings}
    assert found[id].severity == severity
    assert id not in {f.id for f in predict(spit_runner(), bands=False).findings}
    for fix in found[id].fixes:
        changes = {k.removeprefix("settings."): v for k, v in fix.changes.items()}
        cured = build.model_copy(update={"settings": build.settings.model_copy(update=changes)})
        assert id not in {f.id for f in predict(cured, bands=False).findings}


@pytest.mark.parametrize("profile", CHARACTERS)
@pytest.mark.parametrize(("height", "wheelbase"), [(1.95, 640), (1.6, 640), (1.85, 460)])
def test_recommended_settings_do_not_tip_the_rider(profile, height, wheelbase):
    """The limit that a finding names is the one that the settings keep, for every rider and board."""
    strong = {
        "parts__motors__count": 2,
        "parts__drive": {"motor_teeth": 10, "wheel_teeth": 60, "driven_wheels": 4},
        "settings__motor_current_a": 60,
    }
    build = spit_runner(**strong, rider__height_m=height, parts__deck__wheelbase_mm=wheelbase)
    assert "first-second" in {f.id for f in predict(build).findings}
    found = predict(applied(build, profile)).findings
    assert "first-second" not in {f.id for f in found}
