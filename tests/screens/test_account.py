"""The door and what is behind it: what is taken out, brought in and deleted; devices, second factor, what was not sent."""

import base64
import os
import re
import time

import pytest
from django_otp.oath import TOTP
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER
from tests.screens.conftest import board_menu
from tests.server.conftest import PASSWORD

pytestmark = pytest.mark.screens


def to_what_is_mine(page: Page) -> str:
    menu = page.get_by_role("button", name="Your workshop")
    name = menu.get_attribute("aria-label").split(": ")[1]
    menu.click()
    page.get_by_role("menuitem", name="Your data: export, import, delete").click()
    return name


def test_everything_is_taken_out_and_brought_in_and_the_workshop_deleted(bench, tmp_path):
    page = bench(SPIT_RUNNER)
    page.get_by_role("link", name="Sand Pocket").click()
    name = to_what_is_mine(page)
    with page.expect_download() as down:
        page.get_by_role("link", name="Export").click()
    file = tmp_path / "mine.zip"
    down.value.save_as(file)
    page.get_by_test_id("archive").set_input_files(file)
    expect(page.get_by_test_id("brought")).to_contain_text("Imported: boards 1")
    page.get_by_test_id("archive").set_input_files(
        files=[{"name": "a.zip", "mimeType": "application/zip", "buffer": b"no"}]
    )
    expect(page.get_by_role("alert")).to_contain_text("not an archive")
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
    expect(page.get_by_role("alert")).to_contain_text("is wrong")


def test_a_board_in_the_bin_is_brought_back(bench):
    page = bench(SPIT_RUNNER)
    board_menu(page, "Delete")
    page.get_by_role("heading", name="Your boards").wait_for()
    to_what_is_mine(page)
    expect(page.get_by_test_id("binned")).to_contain_text("Spit runner")
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_role("heading", name="Next steps")).to_be_visible()
    expect(page.get_by_test_id("board-name")).to_have_text("Spit runner")


def to_the_door(page: Page) -> str:
    menu = page.get_by_role("button", name="Your workshop")
    name = menu.get_attribute("aria-label").split(": ")[1]
    menu.click()
    page.get_by_role("menuitem", name="Password and devices").click()
    page.get_by_role("heading", name="Where you are signed in").wait_for()
    return name


def sign_out(page: Page) -> None:
    page.get_by_role("button", name="Your workshop").click()
    page.get_by_role("menuitem", name="Sign out").click()


def test_a_second_factor_is_taken_up_asked_for_and_a_device_left_behind_signed_out(own: Page, browser, address):
    name = to_the_door(own)
    own.get_by_role("button", name="Set up…").click()
    own.get_by_label("Your password").fill(PASSWORD)
    own.get_by_role("button", name="Continue").click()
    secret = own.get_by_test_id("secret").inner_text().replace(" ", "")
    expect(own.get_by_alt_text("The secret")).to_be_visible()
    assert own.get_by_alt_text("The secret").evaluate("picture => picture.naturalWidth") > 0, "it can be checked"
    key = base64.b32decode(secret + "=" * (-len(secret) % 8))
    own.get_by_label("The six digits").fill(f"{TOTP(key).token():06d}")
    own.get_by_role("button", name="Turn on").click()
    kept = own.get_by_test_id("recovery-codes").get_by_role("listitem")
    expect(kept).to_have_count(10)
    codes = kept.all_inner_texts()
    own.get_by_role("button", name="I have saved them").click()
    expect(own.get_by_text("10 recovery codes are left")).to_be_visible()
    other = browser.new_context(base_url=address, viewport={"width": 390, "height": 844}).new_page()
    other.goto("/")
    other.get_by_label("Name").fill(name)
    other.get_by_label("Password").fill(PASSWORD)
    other.get_by_role("button", name="Sign in").click()
    other.get_by_label("Code of your second factor").fill(codes[0])
    expect(other.get_by_role("alert")).to_have_count(0)
    other.get_by_role("button", name="Sign in").click()
    other.get_by_role("heading", name="Your boards").wait_for()
    own.keyboard.press("Escape")
    to_the_door(own)
    expect(own.get_by_test_id("signed-in")).to_have_count(2)
    expect(own.get_by_text("9 recovery codes are left")).to_be_visible()
    own.get_by_role("button", name="Sign out").click()
    expect(own.get_by_test_id("signed-in")).to_have_count(1)
    other.reload()
    expect(other.get_by_role("button", name="Sign in")).to_be_visible()
    other.context.close()


def test_what_was_not_sent_is_said_before_it_goes_with_the_sign_out(bench):
    page = bench(SPIT_RUNNER)
    page.context.route(
        "**/api/builds/*", lambda route: route.abort() if route.request.method == "PUT" else route.continue_()
    )
    page.keyboard.press("1")
    page.get_by_label("Rider weight").first.fill("91")
    page.keyboard.press("Tab")
    expect(page.get_by_test_id("saving")).not_to_have_attribute("data-saving", "saved")
    sign_out(page)
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("changes to a board")
    dialog.get_by_role("button", name="Stay signed in").click()
    expect(page.get_by_test_id("gauge-speed")).to_be_visible()
    sign_out(page)
    dialog.get_by_role("button", name="Delete them and sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert page.evaluate("Object.keys(localStorage).filter((key) => key.startsWith('sand-pocket:'))") == []


def test_an_invitation_and_a_forgotten_password_have_their_way_in(page: Page):
    page.goto("/join#some-invitation")
    expect(page.get_by_text("Your invitation opens one workshop")).to_be_visible()
    page.get_by_label("Name").fill(f"builder{time.time_ns()}")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Create workshop").click()
    page.get_by_role("heading", name="Your boards").wait_for()
    page.goto("/recover#MQ/no-such-token")
    page.get_by_label("New password").fill("godwit in the reeds")
    page.get_by_role("button", name="Set password").click()
    expect(page.get_by_role("alert")).to_contain_text("used or has expired")
    page.get_by_role("button", name="Back to signing in").click()
    page.get_by_role("button", name="I forgot my password").click()
    expect(page.get_by_text("Ask the operator")).to_be_visible()


# --- what is made by a worker -----------------------------------------------------------------------------------------


def test_a_paper_that_takes_its_time_shows_how_far_it_is_and_can_be_stopped(bench):
    page = bench(SPIT_RUNNER)
    made = {"progress": 0.4, "state": "running"}
    page.route(
        re.compile(r"/api/jobs/[0-9a-f-]+$"),
        lambda route: route.fulfill(json={**route.fetch().json(), **made}),
    )
    page.get_by_role("button", name="The board").click()
    page.get_by_role("menuitem", name="Dossier on A4").click()
    tray = page.get_by_test_id("tray")
    expect(tray.get_by_role("progressbar")).to_have_attribute("aria-valuenow", "40")

    def stopped(route):
        made["state"] = "stopped"
        route.continue_()

    page.route("**/api/jobs/*/stop", stopped)
    tray.get_by_role("button", name="Stop").click()
    expect(tray).to_have_count(0)
    page.unroute_all(behavior="wait")
    page.get_by_role("button", name="The board").click()
    with page.expect_download() as down:
        page.get_by_role("menuitem", name="Dossier on A4").click()
    assert down.value.suggested_filename == "spit-runner-dossier.pdf"
    assert os.path.getsize(down.value.path()) > 10_000
    expect(tray).to_have_count(0)
