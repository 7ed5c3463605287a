"""The shelf and the door in a real browser."""

import json

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.server.conftest import PASSWORD

pytestmark = pytest.mark.screens


def _file(content: bytes, name: str = "board.json") -> list[dict]:
    return [{"name": name, "mimeType": "application/json", "buffer": content}]


def test_duplicate_rename_delete_and_undo(own: Page):
    own.get_by_test_id("import").set_input_files(files=_file(json.dumps(SPIT_RUNNER).encode()))
    own.get_by_role("heading", name="What comes next").wait_for()
    own.get_by_role("link", name="Sand Pocket").click()
    builds = own.get_by_test_id("shelf-build")
    expect(builds).to_have_count(1)
    own.get_by_role("button", name="More for Spit runner").click()
    own.get_by_role("menuitem", name="Duplicate").click()
    expect(builds).to_have_count(2)
    own.get_by_role("button", name="More for Spit runner, copy").click()
    own.get_by_role("menuitem", name="Rename").click()
    own.get_by_label("Name of the board").fill("Second thoughts")
    own.get_by_role("dialog").get_by_role("button", name="Rename").click()
    expect(own.get_by_role("heading", name="Second thoughts")).to_be_visible()
    own.get_by_role("button", name="More for Second thoughts").click()
    own.get_by_role("menuitem", name="Delete").click()
    expect(builds).to_have_count(1)
    own.get_by_role("button", name="Undo", exact=True).click()
    expect(builds).to_have_count(2)


@pytest.mark.parametrize(
    ("content", "field", "says"),
    [
        (b"not a board", "the file", "not JSON"),
        (json.dumps({**SPIT_RUNNER, "version": 3}).encode(), "version", "newer"),
        (
            json.dumps(changed(SPIT_RUNNER, {"parts.wheels.diameter_mm": 0.09})).encode(),
            "parts.wheels.diameter_mm",
            "metres",
        ),
        (b" " * 1_500_000, "", "Too large"),
    ],
)
def test_a_broken_file_is_explained_and_changes_nothing(own: Page, content, field, says):
    own.get_by_test_id("import").set_input_files(files=_file(content))
    dialog = own.get_by_role("dialog")
    expect(dialog).to_contain_text(says)
    expect(dialog).to_contain_text(field)
    expect(dialog).to_contain_text("nothing on your shelf was changed")
    dialog.get_by_role("button", name="Close").last.click()
    expect(own.get_by_text("An empty shelf.")).to_be_visible()


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
    expect(own.get_by_role("alert")).to_contain_text("do not go together")
    own.get_by_label("Password").fill("godwit in the reeds")
    own.get_by_role("button", name="Sign in").click()
    expect(own.get_by_role("heading", name="Your shelf")).to_be_visible()


def test_the_story_stands_on_the_demos_shelf(demo: Page):
    builds = demo.get_by_test_id("shelf-build")
    expect(builds).to_have_count(4)
    for stage, count in (("planned", 1), ("building", 2), ("riding", 1)):
        expect(builds.filter(has_text=stage)).to_have_count(count)
