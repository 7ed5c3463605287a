"""The real server with two processes and a database of its own, and a real browser in front of it."""

import json
import os
import re
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.parse import urlsplit, urlunsplit

import psycopg
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from tests.server.conftest import PASSWORD

ROOT = Path(__file__).resolve().parents[2]
sys.path.insert(0, str(ROOT / "scripts"))
from serving import demonstration  # noqa: E402
from walking import CHROMIUM, board_menu, open_board, to_room  # noqa: E402, F401

expect.set_options(timeout=30_000)


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    url, name = os.environ["DATABASE_URL"], f"screens_{os.getpid()}"
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}")
    try:
        with demonstration({"DATABASE_URL": urlunsplit(urlsplit(url)._replace(path=f"/{name}"))}) as running:
            yield running
    finally:
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        chromium = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM)
        yield chromium
        chromium.close()


@pytest.fixture
def context(browser: Browser, address: str) -> Iterator[BrowserContext]:
    context = browser.new_context(
        base_url=address, viewport={"width": 1280, "height": 800}, reduced_motion="reduce", locale="en-GB"
    )
    yield context
    context.close()


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield page
    assert not errors, "the page raised errors"


@pytest.fixture
def demo(page: Page) -> Page:
    """A page in the demonstration's workshop, at the shelf."""
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").click()
    page.get_by_role("heading", name="Your shelf").wait_for()
    return page


@pytest.fixture
def own(page: Page) -> Page:
    """A page in an empty workshop of one's own, made for this test."""
    page.goto("/")
    page.get_by_role("button", name="Open a workshop of your own").click()
    page.get_by_label("Name").fill(f"builder{time.time_ns()}")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Open it").click()
    page.get_by_role("heading", name="Your shelf").wait_for()
    return page


@pytest.fixture
def bench(own: Page) -> Callable[[dict], Page]:
    """Brings a build into the workshop as a file and opens the bench on it."""

    def open_bench(document: dict) -> Page:
        file = {"name": "board.json", "mimeType": "application/json", "buffer": json.dumps(document).encode()}
        own.get_by_test_id("import").set_input_files(files=[file])
        own.get_by_role("heading", name="What comes next").wait_for()
        to_room(own, "Bench")
        own.get_by_test_id("staff-speed").wait_for()
        return own

    return open_bench


def mid(page: Page, name: str) -> float:
    """The middle of a staff as it stands on the screen now."""
    return float(page.get_by_test_id(f"staff-{name}").get_attribute("data-mid") or "nan")


def band(page: Page, name: str) -> tuple[float, float]:
    """The low and the high of a staff as they stand on the screen now."""
    staff = page.get_by_test_id(f"staff-{name}")
    return float(staff.get_attribute("data-low") or "nan"), float(staff.get_attribute("data-high") or "nan")


def expect_saved(page: Page) -> None:
    expect(page.get_by_test_id("saving")).to_have_attribute("data-saving", "saved")


def expect_foretold(page: Page) -> None:
    """The bench has an answer: the staff of the speed stands at more than nought."""
    expect(page.get_by_test_id("staff-speed")).to_have_attribute("data-mid", re.compile(r"^[1-9]"))


def figure(page: Page, path: str):
    """The entry field of a figure by its path in the build file."""
    return page.locator(f'[data-path="{path}"]').locator("input, select")
