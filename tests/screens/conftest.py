"""The real server with the demonstration, and a real browser in front of it: one server a run, one browser a worker.

Every test is a visitor of its own. Accounts and boards are made through the API in milliseconds; one journey
(test_account) fills in the form.
"""

import json
import os
import re
import sys
import time
from collections.abc import Callable, Iterator
from itertools import count
from pathlib import Path
from typing import Any, Literal

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect, sync_playwright

from tests.server.conftest import PASSWORD

ROOT = Path(__file__).resolve().parents[2]
sys.path.insert(0, str(ROOT / "scripts"))
from serving import wait_until_it_answers  # noqa: E402
from walking import board_menu, launch, open_board, to_page  # noqa: E402, F401
from with_database import SERVER, served  # noqa: E402

expect.set_options(timeout=30_000)
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
_VISITORS = count(1)


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    """The address of the run's server; of one of this worker's own where the run has none."""
    if given := os.environ.get(SERVER):
        wait_until_it_answers(given)
        yield given
        return
    with served(dict(os.environ)) as own:
        wait_until_it_answers(own)
        yield own


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        chromium = launch(playwright)
        yield chromium
        chromium.close()


def new_context(browser: Browser, address: str, *, installed: bool = False, **options: Any) -> BrowserContext:
    """A device with nothing on it; only where the application is to be installed does it keep all of its pages."""
    options = {"viewport": DESK, "reduced_motion": "reduce", "locale": "en-GB", **options}
    workers: Literal["allow", "block"] = "allow" if installed else "block"
    return browser.new_context(base_url=address, service_workers=workers, **options)


def is_installed(request: pytest.FixtureRequest) -> bool:
    """Whether the test is marked as one of the installed application."""
    return request.node.get_closest_marker("installed") is not None


def new_page(context: BrowserContext) -> Iterator[Page]:
    """A page whose errors fail the test."""
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield page
    context.close()
    assert not errors, errors


@pytest.fixture
def context(browser: Browser, address: str, request: pytest.FixtureRequest) -> BrowserContext:
    return new_context(browser, address, installed=is_installed(request))


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    yield from new_page(context)


@pytest.fixture
def phone(browser: Browser, address: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A phone of somebody with an empty workshop; no page is open yet."""
    context = new_context(
        browser, address, installed=is_installed(request), viewport=PHONE, has_touch=True, is_mobile=True
    )
    for page in new_page(context):
        sign_up(page)
        yield page


# --- a visitor, through the API ---------------------------------------------------------------------------------------


def ask(page: Page, method: str, path: str, body: Any = None) -> Any:
    """What the API answers to whoever is signed in on this page; fails where it refuses."""
    token = next((c["value"] for c in page.context.cookies() if c["name"] == "csrftoken"), "")
    own = os.getpid() % 250, next(_VISITORS)
    answer = page.request.fetch(
        f"/api{path}",
        method=method,
        max_retries=2,  # the server closes a connection that was idle just when it is used again
        data=body if isinstance(body, bytes) or body is None else json.dumps(body),
        headers={
            "Content-Type": "application/zip" if isinstance(body, bytes) else "application/json",
            "X-CSRFToken": token,
            # Nobody is held back for what the other tests do from this machine.
            "X-Forwarded-For": f"10.{own[0]}.{own[1] // 250}.{own[1] % 250}",
        },
    )
    assert answer.ok, f"{method} {path}: {answer.status} {answer.text()[:300]}"
    return answer.json()


def sign_up(page: Page) -> str:
    """Makes an account and signs this page's device in; the account's name."""
    name = f"builder-{os.getpid()}-{time.time_ns()}"
    ask(page, "GET", "/session")
    ask(page, "POST", "/session/sign-up", {"name": name, "password": PASSWORD})
    return name


def enter_demo(page: Page) -> None:
    """Signs this page's device in to the demonstration's workshop, which all tests share: look, and leave it as it is."""
    ask(page, "GET", "/session")
    ask(page, "POST", "/session/demo")


def open_boards(page: Page) -> None:
    page.goto("/")
    page.get_by_role("heading", name="Your boards").wait_for()


def copy_demo(page: Page) -> None:
    """Makes an account with a copy of all that the demonstration has, to be changed at will, and signs this device in."""
    enter_demo(page)
    archive = page.request.get("/api/archive", max_retries=2).body()
    sign_up(page)
    ask(page, "POST", "/archive", archive)


def board_named(page: Page, name: str) -> str:
    """The id of one of the boards of whoever is signed in."""
    return next(b["id"] for b in ask(page, "GET", "/builds/names") if b["name"] == name)


def bring(page: Page, document: dict, title: str | None = None) -> str:
    """Makes a board for whoever is signed in, and opens it or one of its rooms by its slug; its id."""
    id = ask(page, "POST", "/builds/import", document)["id"]
    page.goto(f"/builds/{id}/{title}" if title else f"/builds/{id}")
    page.get_by_test_id("board-name").wait_for()
    return id


@pytest.fixture
def demo(page: Page) -> Page:
    """A page in the demonstration's workshop, at the list of boards."""
    enter_demo(page)
    open_boards(page)
    return page


@pytest.fixture
def own(page: Page) -> Page:
    """A page in an empty workshop of one's own, at the list of boards."""
    sign_up(page)
    open_boards(page)
    return page


@pytest.fixture
def bench(page: Page) -> Callable[[dict], Page]:
    """Puts a build into a workshop of one's own and opens the bench on it."""

    def open_design(document: dict) -> Page:
        sign_up(page)
        bring(page, document, "bench")
        page.get_by_test_id("gauge-speed").wait_for()
        return page

    return open_design


# --- what a page shows ------------------------------------------------------------------------------------------------


def mid(page: Page, name: str) -> float:
    """The middle of a gauge as it stands on the screen now."""
    return float(page.get_by_test_id(f"gauge-{name}").get_attribute("data-mid") or "nan")


def band(page: Page, name: str) -> tuple[float, float]:
    """The low and the high of a gauge as they stand on the screen now."""
    gauge = page.get_by_test_id(f"gauge-{name}")
    return float(gauge.get_attribute("data-low") or "nan"), float(gauge.get_attribute("data-high") or "nan")


def expect_saved(page: Page) -> None:
    expect(page.get_by_test_id("saving")).to_have_attribute("data-saving", "saved")


def expect_foretold(page: Page) -> None:
    """The bench has an answer: the gauge of the speed stands at more than nought."""
    expect(page.get_by_test_id("gauge-speed")).to_have_attribute("data-mid", re.compile(r"^[1-9]"))


def figure(page: Page, path: str) -> Locator:
    """The entry field of a figure by its path in the build file."""
    return page.locator(f'[data-path="{path}"]').locator("input, select")
