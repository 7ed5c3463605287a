"""What is one's own: taken out and brought in through the menu, and the way out for good."""

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER
from tests.screens.test_accessibility import looked_at
from tests.server.conftest import PASSWORD

pytestmark = pytest.mark.screens


def to_what_is_mine(page: Page) -> str:
    menu = page.get_by_role("button", name="Your workshop")
    name = menu.get_attribute("aria-label").split(": ")[1]
    menu.click()
    page.get_by_role("menuitem", name="What is yours: out, in, delete").click()
    return name


def test_everything_is_taken_out_and_brought_in_and_the_workshop_deleted(bench, tmp_path):
    page = bench(SPIT_RUNNER)
    page.get_by_role("link", name="Sand Pocket").click()
    name = to_what_is_mine(page)
    looked_at(page)
    with page.expect_download() as down:
        page.get_by_role("link", name="Take it out").click()
    file = tmp_path / "mine.zip"
    down.value.save_as(file)
    page.get_by_test_id("archive").set_input_files(file)
    expect(page.get_by_test_id("brought")).to_contain_text("1 builds")
    page.get_by_test_id("archive").set_input_files(
        files=[{"name": "a.zip", "mimeType": "application/zip", "buffer": b"no"}]
    )
    expect(page.get_by_role("alert")).to_contain_text("no archive")
    page.get_by_role("button", name="Delete it…").click()
    page.get_by_label("Your name").fill(name)
    page.get_by_label("Your password").fill("guess")
    page.get_by_role("button", name="Delete it for good").click()
    expect(page.get_by_text("not the password you sign in with")).to_be_visible()
    page.get_by_label("Your password").fill(PASSWORD)
    page.get_by_role("button", name="Delete it for good").click()
    expect(page.get_by_role("button", name="Open a workshop of your own")).to_be_visible()
    page.get_by_role("button", name="Sign in").first.click()
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").last.click()
    expect(page.get_by_role("alert")).to_contain_text("do not go together")
