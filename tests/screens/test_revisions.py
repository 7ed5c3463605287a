"""A build's revisions, and builds side by side, in a real browser."""

import socket
import urllib.request
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER
from tests.screens.conftest import expect_saved, figure, open_board, to_page

pytestmark = pytest.mark.screens


def point(page: Page, name: str):
    return page.locator(f'[data-testid="revision"][data-name="{name}"]')


def set_teeth(page: Page, teeth: str) -> None:
    to_page(page, "Design")
    page.get_by_test_id("station-drive").click()
    page.get_by_role("button", name="Drive’s figures").click()
    figure(page, "parts.drive.motor_teeth").fill(teeth)
    figure(page, "parts.drive.motor_teeth").press("Enter")
    expect_saved(page)


def test_a_point_is_kept_compared_and_gone_back_to(bench):
    page = bench(SPIT_RUNNER)
    to_page(page, "Revisions")
    page.get_by_label("Note: why, or what you learned").fill("on paper")
    page.get_by_role("button", name="Keep it").click()
    expect(point(page, "Planned")).to_contain_text("on paper")
    expect(page.get_by_role("button", name="Keep it")).to_have_count(0)  # nothing has changed since
    set_teeth(page, "12")
    to_page(page, "Revisions")
    expect(page.get_by_test_id("now")).to_contain_text("motor pulley teeth 15 → 12")
    page.get_by_role("checkbox", name="Compare Planned").check()
    page.get_by_role("checkbox", name="Compare as it is now").check()
    page.get_by_role("button", name="Show the differences").click()
    expect(page.get_by_test_id("column")).to_have_count(2)
    row = page.locator('[data-testid="differences"] [data-path="parts.drive.motor_teeth"]')
    expect(row).to_contain_text("15")
    expect(row).to_contain_text("12")
    expect(page.locator('[data-testid="differences"] tr[data-path]')).to_have_count(1)
    page.go_back()
    page.get_by_role("button", name="Restore Planned").click()
    page.get_by_role("dialog").get_by_role("button", name="Restore").click()
    expect(page.get_by_test_id("revision")).to_have_count(3)
    expect(point(page, "Before restoring Planned")).to_contain_text("15 → 12")
    expect(point(page, "Restored: Planned")).to_contain_text("12 → 15")
    to_page(page, "Design")
    expect(page.get_by_test_id("station-drive")).to_contain_text("15 : 42")
    to_page(page, "Revisions")
    page.get_by_role("button", name="Restore Before restoring").click()
    page.get_by_role("dialog").get_by_role("button", name="Restore").click()
    to_page(page, "Design")
    expect(page.get_by_test_id("station-drive")).to_contain_text("12 : 42")


def test_two_builds_from_the_boards_stand_side_by_side(demo: Page):
    demo.get_by_role("checkbox", name="Compare Hide round").check()
    expect(demo.get_by_text("tick another")).to_be_visible()
    demo.get_by_role("checkbox", name="Compare Old light").check()
    demo.get_by_role("link", name="Compare them").click()
    columns = demo.get_by_test_id("column")
    expect(columns).to_have_count(2)
    # One scale for both: a longer range stands higher on the screen.
    middles = [float(columns.nth(i).get_by_test_id("gauge-range").get_attribute("data-mid")) for i in range(2)]
    blocks = [
        columns.nth(i).get_by_test_id("gauge-range").locator(".block-on-gauge line").bounding_box() for i in range(2)
    ]
    assert (middles[0] < middles[1]) == (blocks[0]["y"] > blocks[1]["y"])
    expect(demo.get_by_test_id("differences")).to_contain_text("The brief")
    lines = demo.get_by_test_id("plot-range").locator("ul li")
    expect(lines).to_have_text(["Hide round", "Old light"])
    demo.get_by_label("Add another board").select_option("Stile carry")
    expect(columns).to_have_count(3)
    demo.get_by_role("button", name="Remove Old light from the comparison").click()
    expect(columns).to_have_count(2)
    expect(columns.nth(1)).to_contain_text("Stile carry")


def test_a_board_and_its_copy_stand_side_by_side(bench):
    page = bench(SPIT_RUNNER)
    ref = page.url.split("/")[-2]
    page.goto(f"/compare/{ref},{ref}")
    expect(page.get_by_text("Nothing: same parts, same settings, same brief.")).to_be_visible()
    expect(page.get_by_test_id("plot-range").locator("ul li")).to_have_text(["Spit runner", "Spit runner (2)"])


def test_the_storys_points_tell_what_was_learnt(demo: Page):
    open_board(demo, "Hide round", "Design")
    to_page(demo, "Revisions")
    expect(demo.get_by_test_id("revision")).to_have_count(3)
    expect(point(demo, "After the new gearing")).to_contain_text("18 → 15")


def test_connections_that_are_kept_for_later_hold_nobody_up(address: str):
    """Browsers open connections before they need them; the server still answers whoever asks."""
    where = urlsplit(address)
    kept = [socket.create_connection((where.hostname, where.port)) for _ in range(8)]
    try:
        with urllib.request.urlopen(f"{address}/api/session", timeout=25) as answer:
            assert answer.status == 200
    finally:
        for connection in kept:
            connection.close()
