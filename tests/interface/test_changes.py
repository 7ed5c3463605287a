"""What a choice changes, as it is written beside it: its sign, its own doubt and its colour, in a person's units."""

import pytest

from tests.interface.test_units import interface

FASTER = {
    "name": "speed",
    "quantity": "speed",
    "mid": 33.0,
    "change": 3.0,
    "low": 2.4,
    "high": 3.6,
    "better": True,
    "sure": True,
}
METRIC, MILES = {}, {"speed": "mph", "temperature": "°F"}


def shown(change, units=METRIC):
    (answer,) = interface([["changeText", change, units]], "/src/lib/changes.ts")
    return answer


def test_a_change_carries_its_own_doubt_not_that_of_the_whole_number():
    assert shown(FASTER) == {"text": "+3.0", "unsure": "±0.6", "tone": "text-holds"}


@pytest.mark.parametrize(
    ("better", "sure", "tone"),
    [(True, True, "text-holds"), (False, True, "text-short"), (True, False, "text-ink2"), (False, False, "text-ink2")],
)
def test_what_may_go_either_way_is_neither_green_nor_red(better, sure, tone):
    assert shown({**FASTER, "better": better, "sure": sure})["tone"] == tone


def test_a_difference_is_converted_as_a_difference():
    """Three kelvin more are 5.4 °F more, not 37.4: the zero of a scale has no part in a difference."""
    warmer = {**FASTER, "name": "heat", "quantity": "temperature", "mid": 63.0}
    assert shown(warmer, MILES)["text"] == "+5.4"
    assert shown(FASTER, MILES) == {"text": "+1.9", "unsure": "±0.4", "tone": "text-holds"}


def test_losses_have_a_real_minus_and_kilograms_two_digits():
    assert shown({**FASTER, "change": -3.0, "better": False})["text"] == "\u22123.0"
    carried = {
        **FASTER,
        "name": "carry",
        "quantity": "body_mass",
        "mid": 8.0,
        "change": -0.25,
        "low": -0.25,
        "high": -0.25,
    }
    assert shown(carried) == {"text": "\u22120.25", "tone": "text-holds"}


@pytest.mark.parametrize(
    ("change", "text"), [(None, "–"), ({**FASTER, "mid": None}, "–"), ({**FASTER, "better": None}, "0")]
)
def test_what_is_not_known_or_changes_nothing_says_so(change, text):
    assert shown(change)["text"] == text


def test_where_there_is_nothing_to_compare_with_the_number_itself_stands():
    assert shown({**FASTER, "change": None})["text"] == "33\u00a0km/h"
