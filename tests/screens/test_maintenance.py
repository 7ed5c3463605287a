"""Maintenance and what it came to in a real browser; the page that is handed on opens without server or network."""

import re
from datetime import date, timedelta
from uuid import uuid4

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import PHONE, ask, bring, expect_saved, figure, to_page

pytestmark = pytest.mark.screens
SPARES = {"spares": [{"id": "b", "name": "Belt 56 teeth", "task": "belts", "count": 1, "wanted": 1, "price": 12}]}
BOARD = changed(SPIT_RUNNER, {"stage": "riding", "name": "Wall runner", "maintenance": SPARES})


def ridden(page: Page) -> str:
    """A board that was ridden three times, with its rides open; its id."""
    id = bring(page, BOARD, "rides")
    for ago in (80, 50, 20):
        day = (date.today() - timedelta(days=ago)).isoformat()
        ride = {"id": str(uuid4()), "day": day, "way": {"distance_km": 45}, "conditions": {"wet": ago == 50}}
        ask(page, "POST", f"/builds/{id}/rides", {"rides": [{"ride": ride}]})
    return id


def task(page: Page, which: str):
    return page.locator(f'[data-testid="task"][data-task="{which}"]')


def test_a_belt_is_changed_and_the_list_asks_for_another(own: Page):
    own.set_viewport_size(PHONE)
    id = ridden(own)
    own.goto(f"/builds/{id}")
    expect(own.get_by_text("Due: ", exact=False).first).to_be_visible()
    to_page(own, "Maintenance")
    expect(own.get_by_test_id("odometer")).to_contain_text("135 km")
    expect(task(own, "belts")).to_have_attribute("data-state", "due")
    task(own, "belts").get_by_role("button", name="Done: Belts").click()
    form = own.get_by_test_id("seen-to")
    form.get_by_label("It was").select_option(label="worn: replaced in time")
    form.get_by_label("Replaced with a new one").check()
    form.get_by_label("From stock").select_option(label="Belt 56 teeth (1)")
    form.get_by_label("How many").fill("2")
    form.get_by_role("button", name="Save entry").click()
    expect(form.get_by_role("alert")).to_contain_text("not that many spares")
    form.get_by_label("How many").fill("1")
    form.get_by_role("button", name="Save entry").click()
    expect(task(own, "belts")).to_have_attribute("data-state", "in_time")
    expect(own.get_by_test_id("drawer")).to_contain_text("1 × Belt 56 teeth")
    expect(own.get_by_test_id("book")).to_contain_text("Worn, replaced in time")
    # A wheel under the caliper: the board is slower at once, on every page.
    task(own, "wheels_worn").get_by_role("button", name="Done: Wheels measured").click()
    form.get_by_label("Diameter now").fill("85")
    form.get_by_role("button", name="Save entry").click()
    expect(own.get_by_test_id("wheels")).to_contain_text("Worn by 5 mm")
    expect_saved(own)
    own.locator('[data-season="spring"]').get_by_label("Bearings spin freely").check()
    expect(own.locator('[data-season="spring"]')).to_contain_text("1 of")
    expect_saved(own)
    to_page(own, "Parts list")
    expect(own.get_by_text("Belt 56 teeth").first).to_be_visible()


def test_what_it_review_is_handed_on_without_a_network(own: Page, context: BrowserContext, tmp_path):
    ridden(own)
    to_page(own, "Review")
    expect(own.get_by_test_id("came-to")).to_contain_text("a kilometre so far")
    before = own.get_by_test_id("total").inner_text()
    figure(own, "review.tools").fill("100")
    figure(own, "review.tools").press("Enter")
    expect(own.get_by_test_id("total")).not_to_have_text(before)
    figure(own, "review.fare").fill("3")
    figure(own, "review.fare").press("Enter")
    figure(own, "review.fare_km").fill("6")
    figure(own, "review.fare_km").press("Enter")
    expect(own.get_by_test_id("against-fare")).to_contain_text("a km")
    own.get_by_label("To whoever builds it next").fill("The wider belt.")
    own.get_by_label("To whoever builds it next").blur()
    expect_saved(own)
    with own.expect_download(timeout=60_000) as taken:
        own.get_by_role("button", name="Summary page").click()
    file = tmp_path / "handed.html"
    taken.value.save_as(file)
    context.set_offline(True)
    page = context.new_page()
    page.goto(file.as_uri())
    expect(page.get_by_role("heading", name="Wall runner")).to_be_visible()
    expect(page.get_by_text("The wider belt.")).to_be_visible()
    expect(page.locator("svg")).to_be_visible()
    page.close()
    context.set_offline(False)
    own.goto("/")
    own.locator('input[type="file"][accept*=".html"]').first.set_input_files(file)
    expect(own).to_have_url(re.compile(r"/builds/[0-9a-f-]{36}"), timeout=30_000)
    expect(own.get_by_role("button", name="Wall runner")).to_be_visible()
    assert len([n for n in ask(own, "GET", "/builds/names") if n["name"] == "Wall runner"]) == 2
