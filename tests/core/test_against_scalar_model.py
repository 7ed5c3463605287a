"""The vectorised engine against an independent scalar model of the same physics (tests/core/scalar_model.py)."""

import numpy as np
import pytest

from boardmath.arrays import nominal_board
from boardmath.parameters import resolve
from boardmath.powertrain import highest_speed, steepest_start
from boardmath.predict.distance import ride
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
}


@pytest.fixture(scope="module", params=GRID)
def pair(request):
    resolved = resolve(spit_runner(**GRID[request.param]))
    return nominal_board([resolved]), ScalarBoard(resolved)


@pytest.mark.parametrize("grade", [0.0, 0.03, 0.08, 0.15])
@pytest.mark.parametrize("charge", [0.9, 0.4, 0.12])
def test_speed_held_on_a_grade(pair, grade, charge):
    board, scalar = pair
    assert highest_speed(board, grade, charge)[0][0] == pytest.approx(
        scalar.top_speed(grade, charge), rel=5e-3, abs=1e-3
    )


def test_steepest_start(pair):
    board, scalar = pair
    assert steepest_start(board, min(0.9, scalar.q0))[0][0] == pytest.approx(scalar.start_grade(), rel=5e-3, abs=1e-4)


def test_range_by_integrating_charge(pair):
    board, scalar = pair
    assert ride(board).range[0] == pytest.approx(scalar.range(), rel=5e-3)


def test_many_boards_at_once_are_the_boards_one_by_one():
    builds = [resolve(spit_runner(**changes)) for changes in GRID.values()]
    together = ride(nominal_board(builds)).range
    alone = np.array([ride(nominal_board([b])).range[0] for b in builds])
    np.testing.assert_allclose(together, alone, rtol=1e-12)
