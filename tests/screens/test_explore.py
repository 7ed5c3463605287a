"""The explorer in a real browser: left open, tried, wishes pulled, looked into, laid on the bench."""

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.accessibility import check_accessibility
from tests.screens.conftest import expect_foretold, expect_saved, to_page

pytestmark = pytest.mark.screens
BOARD = changed(SPIT_RUNNER, {"stage": "planned", "brief.hill_grade_pct": 8})


def tried(page: Page) -> str:
    page.get_by_role("button", name="Search").click()
    expect(page.get_by_test_id("says")).to_be_visible(timeout=60_000)
    expect(page.get_by_role("button", name="Search")).to_be_visible(timeout=60_000)
    return page.get_by_test_id("says").inner_text()


def test_which_board_is_answered_and_laid_on_the_bench(bench):
    page = bench(BOARD)
    to_page(page, "Explore")
    page.get_by_label("Controller", exact=False).first.check()
    page.get_by_label("Cells, for a pack you make").check()
    said = tried(page)
    assert "80 % certainty" in said
    # A wish that nothing keeps: what excludes what is said, and one press takes what can be had.
    hill = page.get_by_role("slider", name="Hill, at least")
    hill.focus()
    page.keyboard.press("End")
    expect(page.get_by_test_id("says")).to_contain_text("No design meets")
    page.get_by_role("button", name="No target for hill").click()
    expect(page.get_by_test_id("says")).to_contain_text("80 % certainty")
    page.get_by_role("button", name="As in the brief").click()
    expect(page.get_by_test_id("says")).to_have_text(said)
    # Two beside each other, one looked into, a step beside it, and laid on the bench.
    cards = page.get_by_test_id("explored-board")
    expect(cards.first).to_be_visible()
    for card in cards.all()[:2]:
        card.get_by_role("button", name="Compare").click()
    expect(page.get_by_test_id("beside")).to_contain_text("Meets every target")
    page.get_by_test_id("front-board").first.focus()
    page.keyboard.press("Enter")
    looked = page.get_by_test_id("looked-into")
    expect(looked).to_be_visible(timeout=30_000)
    check_accessibility(page)
    number = looked.get_attribute("data-number")
    steps = page.locator('[data-testid="steps"][data-path="parts.pack.parallel"]')
    steps.get_by_role("button").first.click()
    expect(looked).not_to_have_attribute("data-number", number)
    expect(page.get_by_test_id("real-parts")).to_be_visible()
    page.get_by_role("button", name="Use this board", exact=True).click()
    expect_foretold(page)
    expect_saved(page)
    page.get_by_role("button", name="undo", exact=True).click()
    expect_saved(page)
