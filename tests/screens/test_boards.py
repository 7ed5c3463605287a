"""The list of boards and the door in a real browser."""

import pytest
from playwright.sync_api import Page, expect

from tests.server.conftest import PASSWORD

pytestmark = pytest.mark.screens


def _file(content: bytes, name: str = "board.json") -> list[dict]:
    return [{"name": name, "mimeType": "application/json", "buffer": content}]


def test_out_and_in_again_with_a_new_password(own: Page):
    own.get_by_role("button", name="Your workshop").click()
    own.get_by_role("menuitem", name="Password and devices").click()
    own.get_by_role("button", name="Change it…").click()
    own.get_by_label("Old password").fill(PASSWORD)
    own.get_by_label("New password").fill("godwit in the reeds")
    own.get_by_role("button", name="Change it").click()
    expect(own.get_by_text("Your password is changed")).to_be_visible()
    own.keyboard.press("Escape")
    menu = own.get_by_role("button", name="Your workshop")
    name = (menu.get_attribute("aria-label") or "").removeprefix("Your workshop: ")
    menu.click()
    own.get_by_role("menuitem", name="Sign out").click()
    own.get_by_label("Name").fill(name)
    own.get_by_label("Password").fill(PASSWORD)
    own.get_by_role("button", name="Sign in").click()
    expect(own.get_by_role("alert")).to_contain_text("is wrong")
    own.get_by_label("Password").fill("godwit in the reeds")
    own.get_by_role("button", name="Sign in").click()
    expect(own.get_by_role("heading", name="Your boards")).to_be_visible()


def test_the_story_stands_on_the_demos_boards(demo: Page):
    builds = demo.get_by_test_id("board-listed")
    expect(builds).to_have_count(4)
    for stage, count in (("planned", 1), ("building", 2), ("riding", 1)):
        expect(builds.filter(has_text=stage)).to_have_count(count)
