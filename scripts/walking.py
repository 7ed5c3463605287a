"""Finding one's way through the house in a browser, for screens' tests, measurements and pictures."""

import sys
from pathlib import Path

from playwright.sync_api import Browser, Page, Playwright

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
from planner.navigation import PAGES, STAGES

BROWSER = Path("/usr/bin/chromium-headless-shell")
"""Debian's Chromium without a window: half the work of the one that draws a window which nobody sees."""
_OPTIONS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]
"""Nothing that calls out."""
_TITLES = {stage.slug: stage.title for stage in STAGES}
_STAGE_OF = {title.title: _TITLES[title.stage] for title in PAGES if title.stage is not None}


def launch(playwright: Playwright) -> Browser:
    """Starts the browser.

    Raises:
        SystemExit: it is not installed.
    """
    if not BROWSER.exists():
        raise SystemExit(f"{BROWSER.name} is not installed: make setup-test, or apt-get install {BROWSER.name}")
    return playwright.chromium.launch(executable_path=BROWSER, args=_OPTIONS)


def to_page(page: Page, name: str) -> None:
    """From any page of a board to another one, by two clicks at most."""
    if name not in _STAGE_OF:
        board_menu(page, name)
        return
    # At the head of a wide screen, at the thumb of a phone.
    stages = page.locator("nav[aria-label^='Stages']:visible")
    stages.get_by_role("link", name=_STAGE_OF[name], exact=True).click()
    titles = page.get_by_role("navigation", name="Pages of this stage")
    titles.get_by_role("link", name=name, exact=True).click()
    titles.locator('[aria-current="page"]', has_text=name).wait_for()


def board_menu(page: Page, item: str) -> None:
    """What belongs to the board as a whole, from the menu under its name."""
    page.get_by_test_id("board-name").click()
    plain, one_of_several = (page.get_by_role(role, name=item, exact=True) for role in ("menuitem", "menuitemradio"))
    plain.or_(one_of_several).click()


def open_board(page: Page, name: str, title: str | None = None) -> None:
    """From the list of boards to a board's first page, or on to one of its pages."""
    page.get_by_role("link", name=name, exact=True).first.click()
    page.get_by_role("heading", name="Next steps").wait_for()
    if title:
        to_page(page, title)
