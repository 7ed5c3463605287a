"""In the garage: without network, from two devices, in two time zones, over a release."""

import re
import shutil
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread
from zoneinfo import ZoneInfo

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import ROOT, bring, expect_saved, figure, new_context, sign_up, to_page

pytestmark = pytest.mark.screens
DIST = ROOT / "frontend" / "dist"


def _installed(page: Page) -> None:
    """The shell is kept on the device."""
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")


def _second(context: BrowserContext, browser: Browser, address: str, url: str) -> Page:
    """The same person at another device."""
    other = new_context(browser, address, storage_state=context.storage_state()).new_page()
    other.goto(url)
    return other


def _teeth(page: Page, teeth: str) -> None:
    page.get_by_test_id("station-drive").click()
    page.get_by_role("button", name="Drive’s figures").click()
    figure(page, "parts.drive.motor_teeth").fill(teeth)
    figure(page, "parts.drive.motor_teeth").press("Enter")


@pytest.mark.installed
def test_the_next_person_at_a_device_finds_nothing_of_the_first(bench: Callable[[dict], Page], context: BrowserContext):
    """Whose session ended without signing out left six answers, a board and changes; with and without network."""
    page = bench(SPIT_RUNNER)
    _installed(page)
    board = page.url
    page.reload()  # now the shell comes from the device
    page.get_by_test_id("board-name").wait_for()
    page.goto("/new-board")
    page.get_by_role("button", name="From six questions").click()
    page.get_by_label("Name of the board").fill("The first one's secret")
    context.clear_cookies()
    page.goto("/")
    page.get_by_role("button", name="Sign in").wait_for()
    context.set_offline(True)
    page.goto(board)
    expect(page.get_by_text("Spit runner")).to_have_count(0)
    context.set_offline(False)
    sign_up(page)
    page.goto("/new-board")
    page.get_by_role("button", name="From six questions").click()
    expect(page.get_by_label("Name of the board")).not_to_have_value(re.compile("secret"))
    page.goto("/")
    page.get_by_role("heading", name="Your boards").wait_for()
    context.set_offline(True)
    page.goto(board)
    expect(page.get_by_test_id("board-name")).to_have_count(0)
    expect(page.get_by_text("Spit runner")).to_have_count(0)


@pytest.mark.installed
def test_the_shell_and_the_board_come_up_without_network_and_entries_are_sent_later(
    bench: Callable[[dict], Page], context: BrowserContext
):
    page = bench(SPIT_RUNNER)
    _installed(page)
    page.get_by_role("link", name="Sand Pocket").click()
    page.get_by_role("link", name="Spit runner", exact=True).click()
    page.get_by_test_id("step").first.wait_for()
    to_page(page, "Parts list")
    page.get_by_test_id("list-line").first.wait_for()
    page.reload()  # now the shell comes from the device
    page.get_by_test_id("list-line").first.wait_for()
    context.set_offline(True)
    page.reload()
    line = page.get_by_test_id("list-line").first
    line.get_by_role("button", name="ordered").click()
    expect(page.get_by_test_id("saving")).to_contain_text("for the network")
    page.get_by_role("link", name="Overview").click()
    expect(page.get_by_text("this is what this device loaded last")).to_be_visible()
    page.get_by_role("link", name="Sand Pocket").click()
    expect(page.get_by_text("these are your boards as this device last loaded them")).to_be_visible()
    page.get_by_role("link", name="Spit runner", exact=True).click()
    page.get_by_test_id("step").first.wait_for()
    page.reload()
    expect(page.get_by_test_id("saving")).to_contain_text("for the network")
    context.set_offline(False)
    expect_saved(page)
    to_page(page, "Parts list")
    expect(page.get_by_test_id("list-line").first.get_by_role("button", name="ordered")).to_have_attribute(
        "aria-pressed", "true"
    )


def test_two_devices_change_different_things_and_both_stand(bench, context, browser, address):
    phone = bench(SPIT_RUNNER)
    desk = _second(context, browser, address, phone.url)
    desk.get_by_test_id("gauge-speed").wait_for()
    context.set_offline(True)
    _teeth(phone, "12")
    expect(phone.get_by_test_id("saving")).to_contain_text("for the network")
    to_page(desk, "Parts list")
    desk.get_by_test_id("list-line").first.get_by_role("button", name="ordered").click()
    expect_saved(desk)
    context.set_offline(False)
    expect_saved(phone)
    expect(phone.get_by_text("both changes stand now")).to_be_visible()
    desk.reload()
    expect(desk.get_by_test_id("list-line").first.get_by_role("button", name="ordered")).to_have_attribute(
        "aria-pressed", "true"
    )
    to_page(desk, "Design")
    expect(desk.get_by_test_id("station-drive")).to_contain_text("12 : 42")
    desk.context.close()


def test_two_testers_never_overwrite_each_other_silently(bench, context, browser, address):
    phone = bench(SPIT_RUNNER)
    to_page(phone, "Bench test")
    volts = phone.locator('[data-answer="pack_v"] input')
    phone.locator('[data-answer="wheels_free"]').get_by_role("button", name="Yes").click()
    desk = _second(context, browser, address, phone.url)
    for page in (phone, desk):
        page.get_by_role("button", name="Pack voltage").click()
        page.locator('[data-answer="pack_v"] input').wait_for()
    context.set_offline(True)
    volts.fill("40.1")
    volts.press("Enter")
    phone.get_by_label("Notes").fill("on the jetty")
    phone.get_by_label("Notes").press("Tab")
    expect(phone.get_by_role("alert").first).to_contain_text("2 entries wait here")
    at_the_desk = desk.locator('[data-answer="pack_v"] input')
    with desk.expect_response(lambda r: r.request.method == "PATCH" and r.ok):
        at_the_desk.fill("39.4")
        at_the_desk.press("Enter")
    context.set_offline(False)
    clash = phone.get_by_test_id("clash")
    expect(clash).to_contain_text("39.4")
    expect(clash).to_contain_text("40.1")
    with phone.expect_response(lambda r: r.request.method == "PATCH" and r.ok):
        clash.get_by_role("button", name="Keep mine").click()
    expect(clash).to_have_count(0)
    desk.reload()
    desk.get_by_role("button", name="Pack voltage").click()
    expect(desk.locator('[data-answer="pack_v"] input')).to_have_value("40.1")
    expect(desk.get_by_label("Notes")).to_have_value("on the jetty")
    desk.context.close()


@pytest.mark.parametrize(("zone", "at"), [("America/Los_Angeles", "T03:30:00Z"), ("Pacific/Auckland", "T20:30:00Z")])
def test_a_day_is_the_same_day_west_and_east(browser: Browser, address: str, zone, at):
    """At 03:30 in London it is still yesterday in the far west; at 20:30 it is tomorrow already in the far east."""
    now = datetime.fromisoformat(f"{datetime.now(UTC).date()}{at[:-1]}+00:00")
    there = now.astimezone(ZoneInfo(zone)).date()
    context = new_context(browser, address, timezone_id=zone)
    page = context.new_page()
    page.clock.install(time=now)
    sign_up(page)
    bring(page, changed(SPIT_RUNNER, {"orders": [{"name": "Tern Street", "ordered_on": "2026-05-01"}]}))
    page.clock.run_for(2000)
    expect(page.get_by_test_id("recent")).to_contain_text("1 May")
    to_page(page, "Controller settings")
    expect(page.get_by_label("Set on", exact=True)).to_have_value(there.isoformat())
    page.get_by_label("Why", exact=False).first.fill("first set-up")
    page.get_by_role("button", name="Save entry").click()
    # The server's own clock decides what is the future: today there must not be refused where today there is.
    if there <= datetime.now(ZoneInfo(zone)).date():
        expect(page.get_by_text("Settings record 1").first).to_be_visible()
    context.close()


def test_signing_out_leaves_nothing_of_the_workshop_on_the_device(bench):
    page = bench(SPIT_RUNNER)
    expect_saved(page)
    page.get_by_role("button", name="Your workshop").click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.get_by_role("button", name="Sign in").wait_for()
    kept = page.evaluate(
        """() => new Promise((done) => { const open = indexedDB.open('keyval-store');
             open.onsuccess = () => { const all = open.result.transaction('keyval').objectStore('keyval').getAllKeys();
               all.onsuccess = () => done(all.result); }; })"""
    )
    assert [key for key in kept if not key.endswith(":who")] == []


def test_a_new_release_replaces_the_old_shell_and_keeps_what_was_entered(browser: Browser, tmp_path: Path):
    """The shell alone, from a plain file server: what is in the browser's store is older than any release."""
    shell = shutil.copytree(DIST, tmp_path / "shell")
    server = ThreadingHTTPServer(("127.0.0.1", 0), partial(SimpleHTTPRequestHandler, directory=str(shell)))
    Thread(target=server.serve_forever, daemon=True).start()
    context = browser.new_context(base_url=f"http://127.0.0.1:{server.server_port}")
    page = context.new_page()
    try:
        page.goto("/")
        page.get_by_role("heading", name="The server cannot be reached").wait_for()
        _installed(page)
        page.reload()  # from the device now
        # A function: a bare expression is evaluated again and again in the page, and its policy forbids that.
        page.wait_for_function("() => navigator.serviceWorker.controller !== null")
        page.evaluate("localStorage.setItem('sand-pocket:draft:x', 'unsent')")
        worker, start = shell / "sw.js", shell / "index.html"
        start.write_text(start.read_text().replace("<title>Sand Pocket</title>", "<title>The next release</title>"))
        said = re.compile(r'("?url"?:"index\.html","?revision"?:|"?revision"?:)"([0-9a-f]+)"(?=,"?url"?:"index|\})')
        written = worker.read_text()
        assert said.search(written), "the shell's first page is kept under a revision"
        worker.write_text(said.sub(lambda m: m[0].replace(m[2], "0" * 32), written))
        page.evaluate("navigator.serviceWorker.getRegistration().then(r => r.update())")
        page.get_by_text("A new release of Sand Pocket is here.").wait_for()
        assert page.title() == "Sand Pocket", "nothing is replaced under somebody's hands"
        with page.expect_navigation():
            page.get_by_role("button", name="Use it").click()
        expect(page).to_have_title("The next release")
        assert page.evaluate("localStorage.getItem('sand-pocket:draft:x')") == "unsent"
    finally:
        context.close()
        server.shutdown()
