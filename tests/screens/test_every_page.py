"""Every page in a light window and on a dark phone: accessible, legible, in plain words, broad enough for a thumb, nothing
off the screen, and room for texts that are a third longer.

What the journeys of the other files open on their way (dialogs, drawers) is opened here too. ``FURTHER`` has it by
page; a page without an entry is checked as it comes.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import pytest
from playwright.sync_api import Browser, Page, expect

from planner.navigation import PAGES, STAGES
from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.accessibility import check_accessibility
from tests.screens.conftest import (
    DESK,
    board_named,
    bring,
    enter_demo,
    new_context,
    new_page,
    open_board,
    open_boards,
    sign_up,
)
from tests.screens.words import check_longer_texts, check_words

pytestmark = pytest.mark.screens
SLOW = 90_000

# On a phone at the board, what is done with greasy hands is broad; links within a sentence are not held to it.
_NARROW = """() => [...document.querySelectorAll('main button, main a.button, main summary')]
    .filter((b) => b.getClientRects().length && !b.matches('.link, [aria-label^="Undo"]'))
    .map((b) => [b.textContent.trim().slice(0, 30), b.getBoundingClientRect().height])
    .filter(([, high]) => high < 43.5)"""
_HEADER = """() => [...document.querySelector('header > div').querySelectorAll('a, button, [data-testid=saving]')]
    .map((e) => { const { x, y, width, height } = e.getBoundingClientRect(); return [x, y, width, height]; })"""


_HEADERS: dict[tuple["Look", str], list] = {}
"""Where everything of the header is, to the pixel, on the first page of a board that this worker has checked."""


@dataclass(frozen=True)
class Look:
    """One setting in which all pages are checked."""

    theme: str
    width: int
    height: int

    @property
    def is_phone(self) -> bool:
        return self.width < 700


LOOKS = [Look("light", DESK["width"], DESK["height"]), Look("dark", 360, 780)]


def checked(page: Page, look: Look, **how: bool) -> None:
    """What holds of every page in every state; elements and words are the same in both settings."""
    check_accessibility(page, whole=not look.is_phone, **how)
    if not look.is_phone:
        check_words(page)


def settled(page: Page) -> None:
    """The page has come, and everything that it asked for at first."""
    page.locator("main").first.wait_for()
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    expect(page.locator('[aria-busy="true"]')).to_have_count(0)


# --- what is opened on a page ------------------------------------------------------------------------------------------


def design_states(page: Page, look: Look) -> Iterator[None]:
    """Every sheet of the stations, on the phone of one; a danger set aside; a number's why."""
    page.get_by_test_id("gauge-speed").wait_for()
    stations = ("motor",) if look.is_phone else ("brief", "motor", "extras")
    for station in stations:
        page.get_by_test_id(f"station-{station}").click()
        for record in page.get_by_role("group", name="What to see of this station").get_by_role("button").all():
            record.click()
            if record.inner_text().startswith("Choose"):
                page.get_by_test_id("candidate").first.wait_for()
            yield
    page.get_by_role("button", name="Why this speed?").click()
    page.get_by_role("dialog").wait_for()
    yield
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Accept the risk").first.click()
    page.get_by_role("dialog").wait_for()
    yield


def list_states(page: Page, look: Look) -> Iterator[None]:
    page.get_by_test_id("list-line").first.wait_for()
    page.get_by_role("button", name="More for Outrunner").click()
    page.get_by_role("menuitem", name="Price, days, notes").click()
    yield
    page.get_by_role("button", name="Shipping, duty, tax").first.click()
    page.get_by_role("dialog").wait_for()
    yield


def settings_states(page: Page, look: Look) -> Iterator[None]:
    """A value opened; what is read of a controller is checked in test_link."""
    page.get_by_test_id("setting").first.get_by_role("button").first.click()
    yield


def bench_test_states(page: Page, look: Look) -> Iterator[None]:
    page.get_by_test_id("step").first.wait_for()
    for step in page.get_by_test_id("step").all():
        if step.get_by_role("button").first.get_attribute("aria-expanded") == "false":
            step.get_by_role("button").first.click()
        if step.get_attribute("data-key") in ("pack_voltage", "free_speed", "lost_link"):
            yield


def assembly_states(page: Page, look: Look) -> Iterator[None]:
    page.get_by_test_id("step-card").wait_for()
    for view in ("When", "Tools", "Methods", "Log", "Next time", "Steps"):
        page.get_by_role("button", name=view, exact=True).click()
        expect(page.get_by_role("button", name=view, exact=True)).to_have_attribute("aria-pressed", "true")
        yield
        if look.is_phone:
            narrow = page.evaluate(_NARROW)
            assert not narrow, (view, narrow)
    if look.is_phone:
        page.get_by_role("button", name="All ").click()
        yield


def cells_states(page: Page, look: Look) -> Iterator[None]:
    """A cell picked with what an exchange would cost, and a pasted table with a row to mend."""
    groups = page.get_by_test_id("groups").locator("li")
    groups.nth(0).get_by_role("button").first.click()
    groups.nth(2).get_by_role("button").first.click()
    page.get_by_test_id("cost").wait_for()
    yield
    page.get_by_role("button", name="Import cells").click()
    page.get_by_test_id("cells-text").fill("id,capacity_ah\nz1,2.4\nz2,two and a half\n")
    page.get_by_test_id("cell-row").first.wait_for()
    yield


def revision_states(page: Page, look: Look) -> Iterator[None]:
    page.get_by_test_id("revision").first.wait_for()
    for box in page.get_by_role("checkbox").all()[:2]:
        box.check()
    yield
    page.get_by_role("button", name="Show the differences").click()
    page.get_by_test_id("plot-charge").wait_for()
    yield


def rides_states(page: Page, look: Look) -> Iterator[None]:
    """A ride opened with how it was judged; what an hour of tests tells; a claim held against the board."""
    page.get_by_test_id("ride-line").first.get_by_role("button").first.click()
    page.get_by_test_id("judged-figure").first.wait_for()
    yield
    page.get_by_role("button", name="How far?").click()
    page.get_by_label("Volts now").fill("38")
    page.get_by_label("Way home").fill("8")
    page.get_by_test_id("how-far").wait_for()
    yield
    page.get_by_role("button", name="Tests").click()
    yield
    page.get_by_role("button", name="A claim").click()
    page.get_by_role("textbox", name="The claim").fill("climbs 40 % at 30 km/h")
    page.get_by_role("button", name="Check the claim").click()
    page.get_by_test_id("claim").wait_for()
    yield


def maintenance_states(page: Page, look: Look) -> Iterator[None]:
    page.get_by_test_id("task").first.get_by_role("button", name=re.compile("Done")).click()
    page.get_by_test_id("seen-to").wait_for()
    yield


FURTHER: dict[str, Callable[[Page, Look], Iterator[None]]] = {
    "design": design_states,
    "parts-list": list_states,
    "cells": cells_states,
    "assembly": assembly_states,
    "controller-settings": settings_states,
    "bench-test": bench_test_states,
    "rides": rides_states,
    "maintenance": maintenance_states,
    "revisions": revision_states,
}
ON_THE_PACK = {"cells", "pack", "balance-leads", "wiring", "charging", "assembly", "first-ride"}
"""Pages that the half-built board of the demonstration fills; the others are filled by the one that is ridden."""
AT_THE_DESK = {"revisions"}
"""What is opened on these takes the server seconds, and is laid out as on every page."""
WITH_A_DANGER = {"design", "parts-list"}
WITH_AN_ENCLOSURE = {"enclosure"}


assert {*FURTHER, *ON_THE_PACK, *AT_THE_DESK, *WITH_A_DANGER, *WITH_AN_ENCLOSURE} <= {p.slug for p in PAGES}


def board_of(slug: str) -> str:
    if slug in WITH_A_DANGER:
        return "Old light"
    return "Ferry steps" if slug in ON_THE_PACK or slug in WITH_AN_ENCLOSURE else "Hide round"


@pytest.fixture(params=LOOKS, ids=lambda look: f"{look.theme}-{look.width}")
def look(request: pytest.FixtureRequest) -> Look:
    return request.param


@pytest.fixture
def seen(browser: Browser, address: str, look: Look) -> Iterator[Page]:
    """A page in this setting, with nobody signed in."""
    yield from new_page(
        new_context(browser, address, viewport={"width": look.width, "height": look.height}, color_scheme=look.theme)
    )


@pytest.mark.parametrize("slug", [title.slug for title in PAGES])
def test_a_page_of_a_board(seen: Page, look: Look, slug: str):
    """The page as it comes, everything that is opened on it, and a header that stays where it is."""
    enter_demo(seen)
    board = board_of(slug)
    id = board_named(seen, board)
    seen.goto(f"/builds/{id}" if slug == "overview" else f"/builds/{id}/{slug}")
    settled(seen)
    expect(seen.locator("html")).to_have_attribute("data-theme", "night" if look.theme == "dark" else "day")
    header = seen.evaluate(_HEADER)
    assert header == _HEADERS.setdefault((look, board), header), "the header moves from page to page"
    checked(seen, look)
    if slug in FURTHER and not (look.is_phone and slug in AT_THE_DESK):
        for _ in FURTHER[slug](seen, look):
            checked(seen, look, colours=not look.is_phone)
    check_longer_texts(seen)


@pytest.mark.parametrize("look", LOOKS[-1:], ids=["phone"], indirect=True)
@pytest.mark.parametrize("stage", [None, *(stage.slug for stage in STAGES)])
def test_pages_of_a_board_of_which_nothing_is_known_yet(seen: Page, look: Look, stage: str | None):
    """Empty pages are designed too: each says what will be here."""
    sign_up(seen)
    id = bring(seen, {**SPIT_RUNNER, "name": "Bare", "parts": {}, "settings": {}, "brief": {}})
    for title in (title for title in PAGES if title.stage == stage):
        seen.goto(f"/builds/{id}" if title.slug == "overview" else f"/builds/{id}/{title.slug}")
        settled(seen)
        assert len(seen.locator("main").first.inner_text().split()) > 5, (
            f"{title.slug}: an empty page says what it is for"
        )
        check_accessibility(seen, colours=False)


def test_the_pages_outside_of_boards(seen: Page, look: Look):
    seen.goto("/")
    seen.get_by_role("button", name="Enter the demo workshop").wait_for()
    checked(seen, look)
    seen.goto("/recover#MQ/no-such-token")
    seen.get_by_label("New password").wait_for()
    checked(seen, look)
    enter_demo(seen)
    open_boards(seen)
    seen.get_by_test_id("board-listed").first.wait_for()
    checked(seen, look)
    seen.goto("/builds/00000000-0000-4000-8000-000000000009")
    seen.get_by_role("heading", name="Board not found").wait_for()
    checked(seen, look)
    seen.goto("/library")
    seen.get_by_test_id("part").first.wait_for()
    for name in ("Outrunner 63 x 55 mm, 170 KV", "Winch motor without a label, 63 mm"):
        seen.get_by_role("button", name=name).click()
        seen.get_by_test_id("part-panel").get_by_role("heading", name=name).wait_for()
        checked(seen, look)
    both = ",".join(board_named(seen, name) for name in ("Hide round", "Old light"))
    seen.goto(f"/compare/{both}")
    seen.get_by_test_id("plot-range").wait_for()
    checked(seen, look)


def test_the_ways_to_begin(seen: Page, look: Look):
    enter_demo(seen)
    seen.goto("/new-board")
    for way in ("From six questions", "I have a board already", "From a kit", "From a copy or a file"):
        seen.get_by_role("button", name=way).click()
        if way == "From a kit":
            seen.get_by_test_id("kit").first.wait_for()
        if way == "From a copy or a file":
            seen.get_by_role("button", name="Copy Hide round", exact=True).wait_for()
        checked(seen, look)


def test_what_is_made_and_what_failed_at_the_foot_of_the_screen(seen: Page, look: Look):
    sign_up(seen)
    bring(seen, SPIT_RUNNER)
    full = {"message": "Too much is asked for at the moment. Try again in a little while.", "faults": []}
    seen.route("**/api/builds/*/dossier", lambda route: route.fulfill(status=503, json=full))
    seen.get_by_role("button", name="The board").click()
    checked(seen, look, floating=True)
    seen.get_by_role("menuitem", name="Dossier on A4").click()
    seen.get_by_test_id("tray").get_by_role("alert").wait_for()
    checked(seen, look)


def test_the_account_and_its_dialogs_keep_the_focus(seen: Page, look: Look):
    sign_up(seen)
    open_boards(seen)
    menu = seen.get_by_role("button", name="Your workshop")
    menu.click()
    checked(seen, look, floating=True)
    seen.keyboard.press("Escape")
    for item in ("Units and light", "Password and devices", "Your data: export, import, delete"):
        menu.click()
        seen.get_by_role("menuitem", name=item).click()
        seen.get_by_role("dialog").wait_for()
        settled(seen)
        checked(seen, look)
        for _ in range(30):
            seen.keyboard.press("Tab")
            assert seen.evaluate("document.activeElement.closest('[role=dialog]') !== null"), item
        seen.keyboard.press("Escape")
        expect(seen.get_by_role("dialog")).to_have_count(0)


def test_settings_of_two_controllers(seen: Page, look: Look):
    sign_up(seen)
    two = {"parts.controller.units": 2, "parts.motors.count": 2, "parts.drive.driven_wheels": 2}
    bring(seen, changed(SPIT_RUNNER, two), "controller-settings")
    seen.get_by_role("button", name="Use all").click()
    seen.get_by_test_id("apart").wait_for()
    seen.get_by_role("button", name="Brake current", exact=True).click()
    seen.get_by_role("button", name="Set controller 2 separately").wait_for()
    checked(seen, look)


def test_the_bench_fits_the_screen_and_its_pictures_have_words(demo: Page):
    open_board(demo, "Hide round", "Design")
    demo.get_by_test_id("gauge-speed").wait_for()
    assert demo.evaluate("document.documentElement.scrollHeight <= window.innerHeight")
    words = demo.get_by_test_id("gauge-range").get_by_role("img").get_attribute("aria-label") or ""
    assert re.search(r"On your next ride \S+ km to \S+ km\. Target 14 km: (on target|uncertain)\.", words), words
    expect(demo.get_by_role("img", name="A board 880 mm long on 90 mm wheels")).to_have_count(1)
