"""What holds for any board: properties over generated builds."""

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from boardmath.buildfile import read_build, write_build
from boardmath.buildfile.build import Build
from boardmath.engine import sweeps
from boardmath.engine.boards import changed as altered
from boardmath.engine.operating import LIMITS
from boardmath.model.resolution import Incomplete, resolve
from boardmath.model.sampling import nominal_boards
from boardmath.predictor import predict
from tests.core.boards import SPIT_RUNNER, changed, spit_runner


@st.composite
def boards(draw) -> Build:
    """Builds that someone could put together, sensible or not."""
    count = draw(st.integers(1, 2))
    changes = {
        "rider.mass_kg": draw(st.floats(35, 150)),
        "rider.height_m": draw(st.floats(1.3, 2.1)),
        "brief.cruise_kmh": draw(st.floats(8, 40)),
        "brief.temperature_c": draw(st.floats(-15, 40)),
        "brief.surface": draw(st.sampled_from(["smooth_asphalt", "fair_asphalt", "boardwalk", "packed_gravel"])),
        "parts.wheels.diameter_mm": draw(st.floats(60, 200)),
        "parts.wheels.kind": draw(st.sampled_from(["urethane", "rubber", "pneumatic"])),
        "parts.motors.count": count,
        "parts.motors.kv_rpm_per_v": draw(st.floats(60, 400)),
        "parts.motors.phase_resistance_mohm": None,
        "parts.motors.no_load_current_a": None,
        "parts.drive.driven_wheels": count,
        "parts.drive.motor_teeth": draw(st.integers(9, 30)),
        "parts.drive.wheel_teeth": draw(st.integers(30, 72)),
        "parts.pack.series": draw(st.integers(6, 20)),
        "parts.pack.parallel": draw(st.integers(1, 6)),
        "parts.pack.cell": {
            "chemistry": draw(st.sampled_from(["nmc", "nca", "lfp", "polymer"])),
            "capacity_ah": draw(st.floats(2, 6)),
        },
        "parts.pack.charge_to_v": None,
        "parts.controller.max_v": None,
        "settings": {},
    }
    return read_build(changed(SPIT_RUNNER, changes))


def _board(build: Build):
    return nominal_boards([resolve(build)])


def _with(build: Build, **changes) -> Build:
    return read_build(changed(write_build(build), changes))


def _speed(board, grade=0.0, charge=0.9) -> float:
    return float(sweeps.highest_speeds(board, grade, charge)[0][0, 0])


@given(boards(), st.floats(1.01, 1.5))
def test_more_mass_never_climbs_faster(build, more):
    """With grip to spare: where the wheels slip, a heavier rider presses them down harder against the same air."""
    heavier = _with(build, rider__carried_kg=(build.rider.carried_kg or 0) + (more - 1) * 60)
    light, heavy = (altered(_board(b), grip=9.0) for b in (build, heavier))
    for grade in (0.0, 0.05, 0.12):
        assert _speed(heavy, grade) <= _speed(light, grade) + 1e-5
    assert sweeps.headlines(heavy).start_grade[0] <= sweeps.headlines(light).start_grade[0] + 1e-6


@given(boards(), st.integers(5, 20))
def test_half_the_motor_teeth_halves_the_unloaded_speed(build, teeth):
    whole = sweeps.headlines(_board(_with(build, parts__drive__motor_teeth=2 * teeth))).unloaded_speed
    half = sweeps.headlines(_board(_with(build, parts__drive__motor_teeth=teeth))).unloaded_speed
    assert half * 2 == pytest.approx(whole)


@given(boards(), st.integers(1, 5))
def test_more_parallel_cells_never_shorten_the_range_at_equal_mass(build, parallel):
    same_mass = {"parts__pack__mass_g": 2500}
    fewer = sweeps.rides(_board(_with(build, parts__pack__parallel=parallel, **same_mass))).range
    more = sweeps.rides(_board(_with(build, parts__pack__parallel=parallel + 1, **same_mass))).range
    assert more >= fewer * (1 - 1e-6)


@given(boards())
def test_loaded_is_never_faster_than_the_wheels_in_the_air(build):
    found = sweeps.headlines(_board(build))
    assert found.top_speed[0] <= found.unloaded_speed[0]


_WARM = 0.003
"""Cells that bear more get warmer and sag less: by so little a heavier load may end the ride later."""


_HELD_BACK = 0.02
"""A board of low KV that is held back earlier rides slower, and slower is cheaper: a higher cut-off may give so much more."""


def _shorter(longer, shorter, of=("range", "to_the_end"), slack=_WARM):
    for name in of:
        assert shorter[name][0] <= longer[name][0] * (1 + slack) + 1e-6, name


@given(boards(), st.floats(0, 40), st.floats(0, 20))
def test_range_never_rises_with_the_reserve(build, reserve, more):
    low, high = (_with(build, brief__reserve_pct=r) for r in (reserve, min(reserve + more, 60)))
    little, much = sweeps.rides(_board(low)), sweeps.rides(_board(high))
    assert much.range[0] <= little.range[0] * (1 + 1e-12)
    assert much.to_the_end[0] == pytest.approx(little.to_the_end[0], rel=1e-12)


@given(boards(), st.floats(2.6, 3.6), st.floats(0, 0.3))
def test_range_never_rises_with_the_cut_off(build, volts, higher):
    series = build.parts.pack.series
    low, high = (
        _with(build, settings__taper_end_v=series * v, settings__taper_start_v=series * (v + 0.3))
        for v in (volts, volts + higher)
    )
    _shorter(sweeps.rides(_board(low)), sweeps.rides(_board(high)), slack=_HELD_BACK)


@given(boards(), st.floats(0, 40))
def test_range_never_rises_with_mass(build, more):
    heavier = _with(build, rider__carried_kg=more)
    _shorter(sweeps.rides(_board(_with(build, rider__carried_kg=0))), sweeps.rides(_board(heavier)))


@given(boards(), st.floats(0, 8), st.floats(0, 4))
def test_head_wind_costs_speed_and_range(build, wind, more):
    still, windy = (_board(_with(build, assumptions__wind_ms=w)) for w in (wind, wind + more))
    assert _speed(windy) <= _speed(still) + 1e-5
    _shorter(sweeps.rides(still), sweeps.rides(windy))


@given(boards(), st.floats(50, 100), st.floats(0, 30))
def test_range_never_rises_with_the_packs_age(build, health, worn):
    newer, older = (_board(_with(build, parts__pack__health_pct=h)) for h in (health, max(health - worn, 40)))
    _shorter(sweeps.rides(newer), sweeps.rides(older))


@given(boards(), st.floats(-20, 20), st.floats(0.0, 0.6))
def test_wind_cold_and_slopes_leave_every_number_finite_and_not_negative(build, wind, grade):
    windy = _board(_with(build, assumptions__wind_ms=wind))
    ride, line = sweeps.rides(windy, profiles=True), sweeps.headlines(windy)
    for name in ("range", "to_the_end", "energy", "seconds", "path", "town", "hilly"):
        assert np.isfinite(ride[name][0])
        assert ride[name][0] >= 0.0
    assert ride.to_the_end[0] >= ride.range[0] - 1e-6
    for value in (line.top_speed[0], line.start_grade[0], _speed(windy, grade, 0.5)):
        assert np.isfinite(value)
        assert value >= 0.0
    held, _ = sweeps.climbs(windy, line.start_grade, line.start_limit)
    assert (held >= 0.0).all()
    assert (held <= line.start_grade[0] + 1e-9).all()
    assert held[0, 1] <= held[0, 0] + 2e-3, "for ever is no steeper than for a while"


@given(boards())
def test_profiles_and_range_agree_where_the_way_is_flat_and_steady(build):
    """A path without its slopes is the brief's way with as many stops and no climb: the same integral."""
    flat = _with(build, brief__ascent_m_per_km=0, brief__stops_per_km=0.4, assumptions__wind_ms=0)
    board = altered(_board(flat), hilliness=0.0)
    home = sweeps.rides(board, profiles=True)[0]
    assert home.path == pytest.approx(home.range, rel=6e-3, abs=1e-6)


_ABILITY = {
    "motor current": "motor_current_limit",
    "pack current": "pack_current_limit",
    "electrical speed": "electrical_speed_limit",
    "grip": "grip",
    "pack voltage": "duty",
}


@given(boards(), st.sampled_from([0.0, 0.06, 0.14]))
def test_relaxing_the_named_limit_alone_raises_the_speed(build, grade):
    """And relaxing any other alone does not. The taper is a share of the pack current, and grows with it."""
    board = _board(build)
    speed, limit = sweeps.highest_speeds(board, grade, 0.9)
    named = LIMITS[int(limit[0, 0])].replace("low-voltage cut-off", "pack current")
    for name, ability in _ABILITY.items():
        relaxed = _speed(altered(board, **{ability: board[ability] * 1.1}), grade)
        if name != named:
            assert relaxed == pytest.approx(speed[0, 0], abs=2e-5)
        elif speed[0, 0] > 0:
            assert relaxed > speed[0, 0]


@given(boards())
def test_any_valid_build_survives_a_round_trip(build):
    text = json.dumps(write_build(build))
    assert read_build(text) == build
    assert json.dumps(write_build(read_build(text))) == text


@given(boards())
@settings(max_examples=25)
def test_every_number_is_finite_and_inside_its_band(build):
    found = predict(build)
    json.dumps(found.model_dump(mode="json"), allow_nan=False)
    for result in (found.top_speed_kmh, found.range_km, found.hill.start_grade_pct):
        assert result.low <= result.mid <= result.high
        assert result.limit
    assert found == predict(build), "the same build file gives the same prediction"


@pytest.mark.parametrize(
    "changes",
    [
        {"rider__mass_kg": 160, "parts__motors": {"count": 1, "kind": "hub", "kv_rpm_per_v": 60}, "parts__drive": None},
        {"rider__mass_kg": 20, "parts__motors__count": 4, "parts__motors__kv_rpm_per_v": 400},
        {"parts__pack__series": 20, "brief__temperature_c": -15},
        {"parts__pack__parallel": 1, "parts__pack__cell__resistance_mohm": 500},
        {"parts__motors__kv_rpm_per_v": 780, "parts__drive__motor_teeth": 9, "parts__drive__wheel_teeth": 72},
        {"assumptions__wind_ms": -25},
        {"assumptions__wind_ms": 25},
        {"brief__reserve_pct": 60, "parts__pack__charge_to_v": 3.2},
    ],
)
def test_extreme_but_valid_boards_are_explained(changes):
    found = predict(spit_runner(**changes))
    json.dumps(found.model_dump(mode="json"), allow_nan=False)
    assert found.top_speed_kmh.limit in LIMITS
    if found.top_speed_kmh.mid == 0:
        assert "cannot-move" in {f.id for f in found.findings}


def test_a_pack_that_cannot_give_the_power_says_so():
    weak = {"parts__pack__parallel": 1, "parts__pack__cell__resistance_mohm": 500, "settings": {"pack_current_a": 60}}
    found = predict(spit_runner(**weak, rider__mass_kg=150, brief__temperature_c=-15))
    assert found.top_speed_kmh.limit in ("low-voltage cut-off", "pack power")
    assert found.top_speed_kmh.mid < 10


def test_nothing_chosen_yet_names_what_is_needed():
    empty = read_build({"format": "sand-pocket/build", "version": 1, "rider": {"mass_kg": 75}})
    with pytest.raises(Incomplete) as stopped:
        resolve(empty)
    assert {n.field for n in stopped.value.needs} >= {
        "parts.wheels.diameter_mm",
        "parts.motors.kv_rpm_per_v",
        "parts.pack.series",
    }
    found = predict(empty)
    assert found.top_speed_kmh is None
    assert found.range_km is None
    assert len(found.needs) == len(stopped.value.needs)
    assert found.mass_kg.board > 4, "parts not chosen yet count as usual ones"


def test_parts_that_weigh_nothing_leave_every_result_a_number():
    """A list of parts may well say 0 g: heat is then held by nothing, and nothing is divided by it."""
    weightless = {f"parts.{name}.mass_g": 0 for name in ("motors", "controller", "wheels", "deck", "trucks", "drive")}
    found = predict(read_build(changed(SPIT_RUNNER, weightless)))
    json.dumps(found.model_dump(mode="json"), allow_nan=False)
    assert found.hill is not None
    assert found.hill.held_grade_pct.mid >= 0.0
