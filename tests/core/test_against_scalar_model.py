"""The vectorised engine against an independent scalar model of the same physics (tests/core/scalar_model.py)."""

import numpy as np
import pytest

from boardmath.engine import sweeps
from boardmath.engine.operating import LIMITS
from boardmath.model.model_inputs import INPUTS
from boardmath.model.resolution import resolve
from boardmath.model.sampling import boards, nominal_boards, normal_scores
from tests.core.boards import spit_runner
from tests.core.scalar_model import ScalarBoard

GRID = {
    "as designed": {},
    "heavy rider": {"rider__mass_kg": 118, "rider__carried_kg": 20},
    "light rider, crouched": {"rider__mass_kg": 45, "rider__stance": "crouched"},
    "two motors, two wheels": {"parts__motors__count": 2, "parts__drive__driven_wheels": 2},
    "short gear": {"parts__drive__motor_teeth": 12, "parts__drive__wheel_teeth": 60},
    "tall gear": {"parts__drive__motor_teeth": 24, "parts__drive__wheel_teeth": 36},
    "high KV": {"parts__motors__kv_rpm_per_v": 280, "parts__motors__phase_resistance_mohm": None},
    "six bricks in series": {
        "parts__pack__series": 6,
        "parts__pack__parallel": 1,
        "parts__pack__cell": {"chemistry": "polymer", "capacity_ah": 8.0},
        "settings": {},
    },
    "lithium iron phosphate": {
        "parts__pack__series": 12,
        "parts__pack__cell": {"chemistry": "lfp", "capacity_ah": 3.3, "max_discharge_a": 20},
        "parts__pack__charge_to_v": None,
        "settings": {},
    },
    "cold morning": {"brief__temperature_c": -10},
    "big pneumatic wheels": {"parts__wheels": {"diameter_mm": 150, "kind": "pneumatic"}},
    "hub motors": {
        "parts__drive": {"kind": "hub", "driven_wheels": 2},
        "parts__motors": {"count": 2, "kind": "hub", "kv_rpm_per_v": 75, "can_diameter_mm": 78, "can_length_mm": 32},
    },
    "small cells that taper early": {"parts__pack__parallel": 1, "parts__pack__cell__resistance_mohm": 60},
    "into the wind": {"assumptions__wind_ms": 8},
    "held by electrical speed": {"settings__max_erpm": 20000},
    "held by pack current": {"settings__pack_current_a": 8, "settings__motor_current_a": 60},
    "hills and stops": {"brief__ascent_m_per_km": 25, "brief__stops_per_km": 4, "assumptions__wind_ms": None},
    "a usual wind out and back": {"assumptions__wind_ms": None, "brief__wind_ms": 5},
    "salvaged": {"parts__pack__cell__origin": "salvaged"},
    "four motors": {"parts__motors__count": 4, "parts__drive__driven_wheels": 4},
    "a boxed controller": {"parts__controller": {"units": 1, "programmable": False}, "settings": {}},
}


@pytest.fixture(scope="module", params=GRID)
def pair(request):
    resolved = resolve(spit_runner(**GRID[request.param]))
    return nominal_boards([resolved]), ScalarBoard(resolved)


@pytest.mark.parametrize("grade", [0.0, 0.03, 0.08, 0.15])
@pytest.mark.parametrize("charge", [0.9, 0.4, 0.12])
def test_speed_held_on_a_grade(pair, grade, charge):
    board, scalar = pair
    speed, _ = sweeps.highest_speeds(board, grade, charge)
    assert speed[0, 0] == pytest.approx(scalar.top_speed(grade, charge), rel=1e-3, abs=1e-3)


def test_what_gives_way_flat_out_is_what_the_scalar_model_uses_most(pair):
    board, scalar = pair
    found, charge = sweeps.headlines(board), min(0.9, scalar.q_top)
    just_above = float(found.top_speed[0]) * 1.0005
    force = scalar.resist(just_above, 0.0, scalar.pinned_wind)
    voc, r = scalar.open_circuit(charge), scalar.cells(charge, scalar.kelvin) + scalar.r_path
    used, name = scalar.worst(just_above, force, 0.0, voc, r)
    assert 1.0 <= used < 1.1
    assert LIMITS[int(found.top_limit[0])] == name


def test_steepest_start(pair):
    board, scalar = pair
    assert sweeps.headlines(board).start_grade[0] == pytest.approx(max(scalar.start_grade(), 0), rel=1e-3, abs=1e-4)


def test_a_ride_home_and_to_the_end_as_a_time_integration_says(pair):
    """``solve_ivp`` over the ride, the cells warming up, speeds by ``brentq`` and stops by ``quad`` at every step."""
    board, scalar = pair
    ours, theirs = sweeps.rides(board)[0], scalar.ride()
    assert ours.range == pytest.approx(theirs["range"], rel=0.012)
    assert ours.to_the_end == pytest.approx(theirs["to_the_end"], rel=0.015)
    assert ours.energy == pytest.approx(theirs["energy"], rel=0.015)


def test_many_boards_at_once_are_the_boards_one_by_one():
    builds = [resolve(spit_runner(**changes)) for changes in GRID.values()]
    together = sweeps.rides(nominal_boards(builds * 8))[: len(builds)]  # enough of them to be cut over threads
    alone = np.concatenate([sweeps.rides(nominal_boards([b])) for b in builds])
    for name in together.dtype.names:
        np.testing.assert_array_equal(together[name], alone[name])


def test_samples_of_a_board_are_the_boards_of_those_samples():
    """What the priors draw, the scalar model draws by its own reading of them."""
    resolved = resolve(spit_runner(assumptions__wind_ms=None))
    z = normal_scores(16)
    found = sweeps.headlines(boards([resolved], [z])).top_speed
    for row in range(1, 17):
        one = ScalarBoard(resolved, {i.name: z[row, c] for c, i in enumerate(INPUTS)})
        assert found[row] == pytest.approx(one.top_speed(), rel=1e-3)
