"""Several controllers on one board: what each has, and what they do together."""

from typing import Any, get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from boardmath.buildfile import Build
from boardmath.buildfile.controllers import acting, directions_for, each_controller, otherwise, turned_round
from boardmath.buildfile.settings import Settings
from boardmath.model.limits import pack_current_limits, regen_current_limit
from tests.core.boards import spit_runner


def _values(key: str) -> st.SearchStrategy[Any]:
    """Any value that the build file allows for a setting."""
    field = Settings.model_fields[key]
    extra = field.json_schema_extra
    if isinstance(extra, dict) and "low" in extra:
        whole = extra.get("whole")
        return st.integers(extra["low"], extra["high"]) if whole else st.floats(extra["low"], extra["high"])
    words = [w for option in get_args(field.annotation) for w in get_args(option)]
    return st.sampled_from(words)


@st.composite
def settings_of_each(draw, most: int = 4) -> list[Settings]:
    """What up to four controllers hold: all of them hold the same settings, with values of their own."""
    keys = draw(st.sets(st.sampled_from(sorted(Settings.model_fields)), min_size=1))
    one = st.fixed_dictionaries({k: _values(k) for k in sorted(keys)})
    first = draw(one)
    further = draw(st.lists(st.one_of(st.just({}), one), max_size=most - 1))
    return [Settings(**{**first, **values}) for values in ({}, *further)]


def board_of(states: list[Settings]) -> Build:
    build = spit_runner(parts__controller__units=len(states), parts__motors__count=len(states))
    return build.model_copy(update={"settings": states[0], "settings_apart": otherwise(states)})


@given(settings_of_each())
@hypothesis_settings(deadline=None, max_examples=150)
def test_what_each_has_comes_back_from_what_is_kept(states):
    assert each_controller(board_of(states)) == states


@given(settings_of_each())
@hypothesis_settings(deadline=None, max_examples=150)
def test_together_their_currents_add_up_and_the_limit_acts_that_comes_first(states):
    together, turned = acting(board_of(states)), acting(board_of(states[::-1]))
    for keys, joined in (
        (("motor_current_a", "motor_brake_a", "pack_current_a", "pack_regen_a", "ramp_s"), np.mean),
        (("taper_start_v", "taper_end_v"), max),  # one that holds back is half of the drive
        (("regen_ceiling_v", "max_erpm", "max_duty_pct", "speed_cap_kmh", "motor_rollback_c"), min),
    ):
        for key in keys:
            held = [v for s in states if (v := getattr(s, key)) is not None]
            assert getattr(together, key) == (pytest.approx(joined(held)) if held else None), key
            assert getattr(together, key) == pytest.approx(getattr(turned, key)), "whichever is called the first"


@given(settings_of_each())
@hypothesis_settings(deadline=None, max_examples=100)
def test_pack_currents_of_the_controllers_add_up(states):
    build = board_of(states)
    for key, total in (
        ("pack_current_a", pack_current_limits(build).get("settings.pack_current_a")),
        ("pack_regen_a", regen_current_limit(build)),
    ):
        if getattr(states[0], key) is not None:
            assert total == pytest.approx(max(sum(getattr(s, key) for s in states), 1e-3))


@pytest.mark.parametrize("count", [1, 2, 3, 4])
def test_the_directions_for_what_was_seen_turn_every_motor_forward(count):
    """All ways in which the motors of one controller can sit; where no setting does it, two phases have to be swapped."""
    for evaluation in range(2**count):
        seen = ["backward" if evaluation >> i & 1 else "forward" for i in range(count)]
        wanted = directions_for(seen)
        if wanted is None:
            assert len(set(seen)) == 2
            continue
        round_ = turned_round(spit_runner(parts__motors__count=count, settings__directions=wanted))
        assert [(s == "backward") == r for s, r in zip(seen, round_, strict=True)] == [True] * count


def test_what_a_further_controller_has_otherwise_goes_with_it():
    """A controller less on the board: what it had is not judged, and is there again when it comes back."""
    apart = [{"motor_current_a": 20}, {"motor_current_a": 10}]
    for units, currents in ((1, [50]), (2, [50, 20]), (3, [50, 20, 10]), (4, [50, 20, 10, 50])):
        build = spit_runner(parts__controller__units=units, settings__motor_current_a=50, settings_apart=apart)
        assert [s.motor_current_a for s in each_controller(build)] == currents
