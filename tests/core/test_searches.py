"""What the engine searches for: against SciPy's root finder, against statics by hand, and against itself from the other side."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from boardmath.engine import operating, riding, sweeps
from boardmath.engine.boards import changed as altered
from boardmath.model.evaluation import COLDER_K, OLDER, WINDIER_MS, Evaluation
from boardmath.model.resolution import resolve
from boardmath.model.sampling import nominal_boards
from boardmath.physics import pack
from boardmath.predictor import predict
from tests.core.boards import spit_runner
from tests.core.scalar_model import ScalarBoard
from tests.core.test_against_scalar_model import GRID
from tests.core.test_properties import boards

TWO_MOTORS = {"parts__motors__count": 2, "parts__drive__driven_wheels": 2}


def _board(build):
    return nominal_boards([resolve(build)])


# --- one moment -------------------------------------------------------------------------------------------------------


@given(st.floats(-800, 4000), st.floats(15, 60), st.floats(0.01, 0.6))
def test_a_pack_gives_the_power_that_is_asked_of_it_or_says_that_it_cannot(power, volts, ohms):
    """P = I (V - I R), the smaller root; beyond V^2 / 4R the current of utmost power, and a share above 1."""
    current, share = pack.current_for_power(power, volts, ohms)
    assert share == pytest.approx(power / (volts**2 / 4 / ohms), rel=1e-12, abs=1e-12)
    if share <= 1.0:
        assert current * (volts - current * ohms) == pytest.approx(power, rel=1e-9, abs=1e-6)
        assert current <= volts / 2 / ohms * (1 + 1e-12)
    else:
        assert current == pytest.approx(volts / 2 / ohms)


@pytest.mark.parametrize("driven", [1, 2])
@pytest.mark.parametrize("grade", [0.0, 0.15, 0.4])
def test_slip_is_where_friction_holds_no_more_by_the_balance_of_moments(driven, grade):
    """About the front wheels' contact: L N_rear = L/2 m g cos a + h F, and F = mu N_rear, or half of it on one wheel."""
    board = altered(_board(spit_runner(parts__drive__driven_wheels=driven)), grip=0.5)[0]
    weight = board.rolling_mass * 9.80665 * np.cos(np.arctan(grade))
    share = driven / 2
    held = brentq(lambda f: f - 0.5 * share * (weight / 2 + board.height_over_wheelbase * f), 0.0, 2000.0)
    on_rear = (weight / 2 + board.height_over_wheelbase * held) / weight
    expected = held if on_rear <= 0.65 else 0.5 * share * 0.65 * weight
    assert operating.slip_force(board, grade, False) == pytest.approx(expected, rel=1e-6)


@given(boards(), st.floats(0, 1))
@settings(max_examples=60)
def test_uses_grow_with_the_thrust_that_is_asked_for(build, part):
    board = _board(build)
    most = float(sweeps.most_thrusts(board, 2.0, 0.6)[0][0, 0])
    if most <= 2.0 * float(board.drive_drag[0]):
        return  # without thrust its own drag holds the wheels back by more than all of the thrust pushes
    little, much = (sweeps.moments(board, 2.0, 0.0, 0.6, share * most)[0, 0] for share in (part, 1.0))
    for name in ("use_motor_current", "use_pack_voltage", "use_grip", "use_pack_power"):
        assert little[name] <= much[name] + 1e-9


# --- how far abilities hold -------------------------------------------------------------------------------------------


@given(boards(), st.sampled_from([0.0, 0.05, 0.12]), st.floats(0.1, 1.0))
@settings(max_examples=60)
def test_the_highest_speed_is_the_root_that_scipy_finds(build, grade, charge):
    board, scalar = _board(build), ScalarBoard(resolve(build))
    found = float(sweeps.highest_speeds(board, grade, charge)[0][0, 0])
    if scalar.excess(0.0, grade, charge) > 0:
        assert found == 0.0
        return
    assert found == pytest.approx(
        brentq(lambda v: scalar.excess(v, grade, charge), 0.0, 150.0, xtol=1e-7), rel=1e-3, abs=2e-3
    )


@given(boards(), st.floats(0.5, 8.0))
@settings(max_examples=60)
def test_the_most_thrust_uses_up_one_ability_and_the_most_braking_one_of_brakings(build, speed):
    board = _board(build)
    for found, limits, sign in (
        (*sweeps.most_thrusts(board, speed, 0.7), 1.0),
        (*sweeps.most_brakings(board, speed, 0.7), -1.0),
    ):
        force = float(found[0, 0])
        if force <= 0.0:
            continue
        point = sweeps.moments(board, speed, 0.0, 0.7, sign * force)[0, 0]
        uses = [point[f"use_{name}"] for name in operating.Uses._fields]
        # The taper is steep: what is 1 on this side is far more just beyond.
        assert max(uses) <= 1.0 + 1e-6
        beyond = sweeps.moments(board, speed, 0.0, 0.7, sign * (force + 0.02 * abs(force) + 0.05))[0, 0]
        assert beyond[f"use_{operating.Uses._fields[int(limits[0, 0])]}"] > 1.0 - 1e-6


@given(boards(), st.floats(1.5, 14.0), st.sampled_from([0.0, 0.06]))
@settings(max_examples=60)
def test_the_speed_of_a_ride_is_the_wanted_one_or_the_highest(build, wanted, grade):
    """The ride's own quick search against the slow one, to a hundredth."""
    board = _board(build)
    b, charge = board[0], 0.5
    voltage = operating.open_circuit(b, charge)
    resistance = operating.pack_resistance(b, charge, b.cell_temperature)
    quick, slower = riding.attained(b, wanted, grade, 0.0, voltage, resistance)
    highest = float(sweeps.highest_speeds(board, grade, charge)[0][0, 0])
    if not slower:
        assert quick == wanted
        assert highest >= wanted * (1 - 1e-6)
    elif highest <= riding.STRANDED or wanted <= riding.STRANDED:
        assert quick == riding.STRANDED
    else:
        assert quick == pytest.approx(min(highest, wanted), rel=0.01)


@given(boards())
@settings(max_examples=40)
def test_wheels_in_the_air_turn_faster_than_on_the_road_and_slower_than_without_drag(build):
    board = _board(build)
    free = float(sweeps.free_speeds(board, 0.9)[0][0, 0])
    assert free >= float(sweeps.highest_speeds(board, 0.0, 0.9)[0][0, 0]) - 1e-6
    assert free <= float(sweeps.headlines(altered(board, charge_full=0.9)).unloaded_speed[0]) + 1e-6


# --- climbs -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("teeth", [16, 20, 24])
@pytest.mark.parametrize("metres", [300.0, 1500.0])
def test_what_is_held_for_a_length_is_held_for_that_length(teeth, metres):
    """The steepest grade for a climb, and the climb for that grade: one undoes the other."""
    board = altered(_board(spit_runner(**TWO_MOTORS, parts__drive__motor_teeth=teeth)), climb_length=metres)
    first = sweeps.headlines(board)
    grades, limits = sweeps.climbs(board, first.start_grade, first.start_limit)
    if limits[0, 0] < len(operating.LIMITS):
        assert grades[0, 0] == pytest.approx(float(first.start_grade[0]), abs=0.02), "no heat: as steep as it starts on"
        return
    way = float(sweeps.held_ways(board, float(grades[0, 0]), sweeps.early_charge(board)[:, None])[0, 0])
    assert way == pytest.approx(metres, rel=0.03)


@given(boards())
@settings(max_examples=40)
def test_steeper_is_held_for_less(build):
    """At one speed: a board that a hill slows down takes less out of its pack, and may warm it more slowly."""
    board, grades = _board(build), np.array([0.02, 0.05, 0.09, 0.14, 0.2])
    as_fast = [sweeps.highest_speeds(board, g, 0.9)[0][0, 0] >= board.cruise_speed[0] for g in grades]
    ways = sweeps.held_ways(board, grades, 0.9)[0][as_fast]
    lasting = np.where(ways < 0.0, np.inf, ways)
    assert (np.diff(lasting[np.isfinite(lasting)]) <= 1.0).all()
    if np.isinf(lasting).any():
        assert np.isinf(lasting[0]), "what is held for ever is the gentlest"


def test_a_pack_does_not_warm_for_longer_than_it_lasts():
    """A climb held for ever ends with the charge, long before eight hours of its current."""
    board = _board(spit_runner(**TWO_MOTORS))
    hour, day = (sweeps.moments(board, 5.0, 0.08, 0.9, seconds=s)[0, 0] for s in (3600.0, 28_800.0))
    empty = float(board.pack_capacity[0]) / hour.pack_current
    assert empty < 3600.0
    assert hour.cells == pytest.approx(day.cells)
    assert day.winding >= hour.winding


# --- other days and other ways ----------------------------------------------------------------------------------------


@pytest.mark.parametrize("board", ["as designed", "hub motors", "lithium iron phosphate", "salvaged"])
def test_the_worst_day_is_a_ride_that_the_scalar_model_makes_as_well(board):
    """Ten kelvin colder, four metres a second more in the face all the way, a fifth of the pack's capacity gone."""
    resolved = resolve(spit_runner(**GRID[board]))
    worst = sweeps.rides(Evaluation(spit_runner(**GRID[board]), 0).on_the_worst_day(nominal_boards([resolved])))[0]
    z = dict(resolved.inputs)
    moved = {
        "temperature": z["temperature"].value - COLDER_K,
        "health": z["health"].value * OLDER,
        "way_wind": z["way_wind"].value + WINDIER_MS,
    }
    inputs = {n: type(i)(i.field, moved.get(n, i.value), i.origin, i.rule, i.spread, i.shape) for n, i in z.items()}
    theirs = ScalarBoard(type(resolved)(inputs, resolved.fixed, resolved.masses)).ride()
    # Weak boards pull away in the cold as their limits let them, which is looked at at one charge only.
    assert worst.range == pytest.approx(theirs["range"], rel=0.02)


@pytest.mark.parametrize("profile", riding.PROFILES)
@pytest.mark.parametrize("board", ["as designed", "two motors, two wheels", "hub motors", "big pneumatic wheels"])
def test_profiles_are_rides_that_the_scalar_model_makes_as_well(board, profile):
    """The stretches are the profile's; everything else is written apart. Near the end the engine goes by the brief's ride."""
    kind = riding.PROFILES[profile]
    resolved = resolve(spit_runner(**GRID[board]))
    ours = sweeps.rides(nominal_boards([resolved]), profiles=True)[0][profile]

    class OnProfile(ScalarBoard):
        def way(self, wind):
            stretches = riding._ROWS[kind]
            stops = max(riding._STOPS[kind], self.stops if profile == "town" else 0.0)
            return [
                (share, grade, wind + sign * self.swing, part * self.mean) for share, part, grade, sign in stretches
            ], stops

    assert ours == pytest.approx(OnProfile(resolved).ride()["range"], rel=0.03)


@pytest.mark.parametrize(
    ("change", "when"),
    [
        ({"brief__temperature_c": 0}, "freezing"),
        ({"parts__pack__health_pct": 80}, "a fifth of the pack's capacity gone"),
        ({"brief__wind_ms": 5, "brief__wind": "against"}, "5 m/s more headwind"),
    ],
)
def test_what_stands_beside_today_is_what_such_a_day_promises(change, when):
    calm = {
        "brief__wind_ms": 0,
        "brief__wind": "against",
        "assumptions__wind_ms": None,
        "parts__pack__health_pct": 100,
    }
    today = predict(spit_runner(**calm), bands=False)
    that_day = predict(spit_runner(**{**calm, **change}), bands=False)
    beside = next(row.km for row in today.range_when if row.when == when)
    assert beside == pytest.approx(that_day.range_km.mid, rel=1e-3)


# --- an evaluated build -----------------------------------------------------------------------------------------------


def test_a_case_is_evaluated_once_and_says_what_it_waits_for():
    evaluation = Evaluation(spit_runner())
    assert evaluation.needs == []
    assert evaluation.values is evaluation.values
    assert evaluation.boards is evaluation.boards
    unfinished = Evaluation(spit_runner(parts__pack=None))
    assert [n.field for n in unfinished.needs] == ["parts.pack.series"]
    with pytest.raises(ValueError, match="Choose a pack"):
        _ = unfinished.boards


def test_without_samples_there_is_a_middle_and_no_band():
    evaluation = Evaluation(spit_runner(), 0)
    assert all(len(v) == 1 for v in evaluation.values.values())
    assert set(evaluation.bands.values()) == {None}


def test_every_result_of_a_case_is_in_order_over_the_samples():
    evaluation = Evaluation(spit_runner(assumptions__wind_ms=None))
    v = evaluation.values
    assert (v["worst"] <= v["range"] + 1e-9).all()
    assert (v["range"] <= v["cut_off"] + 1e-9).all()
    assert (v["speed"] <= v["unloaded"] + 1e-9).all()
    assert (v["for_ever"] <= v["held"] + 0.2).all()
    assert (v["held"] <= v["hill"] + 0.05).all()
    assert (v["profile hilly"] < v["profile path"]).mean() > 0.95
