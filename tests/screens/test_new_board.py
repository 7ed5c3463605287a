"""A new board from six questions, in a real browser."""

import pytest
from playwright.sync_api import Page, expect

from tests.screens.conftest import PHONE, expect_foretold, expect_saved, figure, mid

pytestmark = pytest.mark.screens

ANSWERS = {
    "rider.mass_kg": "82",
    "brief.range_km": "12",
    "brief.hill_grade_pct": "9",
    "brief.top_speed_kmh": "26",
    "brief.budget": "900",
}


def begin(page: Page) -> None:
    page.get_by_role("link", name="Start a board").click()
    expect(page.get_by_test_id("question")).to_have_count(6)


def answer(page: Page, answers: dict[str, str]) -> None:
    for path, text in answers.items():
        figure(page, path).fill(text)
        figure(page, path).press("Enter")


def test_six_answers_lead_to_a_believable_board(own: Page):
    own.set_viewport_size(PHONE)
    begin(own)
    answer(own, ANSWERS)
    figure(own, "brief.use").select_option("commute")
    own.get_by_role("button", name="Propose boards").click()
    own.get_by_test_id("proposal").first.wait_for(timeout=90_000)
    own.get_by_test_id("proposal").first.get_by_role("button").first.click()
    expect(own.get_by_role("dialog")).to_have_count(0)
    expect_saved(own)
    expect_foretold(own)
    assert 20 < mid(own, "speed") < 60
    assert mid(own, "hill") > 5
    assert 8 < mid(own, "range") < 60
    expect(own.get_by_test_id("station-brief")).to_contain_text("12 km, 9 % hill")
    own.reload()
    own.get_by_test_id("gauge-speed").wait_for()
    expect(own.get_by_role("dialog")).to_have_count(0)


def test_answers_are_kept_until_the_board_is_made_and_a_bad_one_says_why(own: Page):
    begin(own)
    answer(own, {"brief.range_km": "12", "brief.top_speed_kmh": "900"})
    expect(own.get_by_role("alert")).to_contain_text("outside")
    own.reload()
    expect(figure(own, "brief.range_km")).to_have_value("12")
    expect(figure(own, "brief.top_speed_kmh")).to_have_value("")
    own.get_by_role("button", name="Choose part by part").click()
    own.get_by_test_id("station-brief").wait_for()
    expect(own.get_by_test_id("station-brief")).to_contain_text("12 km")
    own.get_by_role("link", name="Sand Pocket").click()
    own.get_by_role("link", name="New board").first.click()
    expect(figure(own, "brief.range_km")).to_have_value("")
