"""Another language is a file: built in a language of accents, no page of a board has a text that is in no catalogue."""

import mimetypes
import os
import re
import subprocess
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Response, Route

from planner.navigation import PAGES
from scripts.message_templates import HEADINGS, templates
from tests.screens.conftest import ROOT, address, browser, enter_demo, new_context, new_page

__all__ = ["address", "browser"]
LANGUAGE = "en-XA"
ACCENTED = re.compile("[áçéíñóšúýÁÉÍÓÚ]")
CAN_BE_ACCENTED = re.compile("[aceinosuyAEIOU]")
DAYS = r"\d* ?(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sept?|Oct|Nov|Dec)\b(?: \d{4})?"
FIGURES = re.compile(rf"{DAYS}|, m/s²$|[€+−-]?\d[\d.,]*(?:\s*[a-zA-Z/²°Ω%€]{{1,5}})?(?!\w)")
PARTS = re.compile(r"[.,:;×“”] || – |^[✓~✕] ")
TEXTS = """() => {
  const found = new Set();
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node; (node = walker.nextNode()); )
    if (!node.parentElement.closest('script, noscript, style, code')) found.add(node.textContent.replace(/\\s+/g, ' ').trim());
  for (const name of ['aria-label', 'title', 'placeholder', 'alt'])
    for (const e of document.querySelectorAll(`[${name}]`)) found.add(e.getAttribute(name).trim());
  return [...found];
}"""


@pytest.fixture(scope="module")
def interface(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The interface in the language of accents."""
    made = tmp_path_factory.mktemp("interface")
    build = ["vite", "build", "--outDir", str(made), "--logLevel", "error"]
    for language, command in (({}, ["wuchale"]), ({"SAND_POCKET_LANGUAGE": LANGUAGE}, build)):
        subprocess.run(
            ["npx", "--no", *command],
            cwd=ROOT / "frontend",
            env=os.environ | language,
            check=True,
            stdout=subprocess.DEVNULL,
        )
    return made


def strings(value: Any) -> list[str]:
    if isinstance(value, dict):
        return [*value, *(text for key, inner in value.items() if key not in HEADINGS for text in strings(inner))]
    if isinstance(value, list):
        return [text for inner in value for text in strings(inner)]
    return [value] if isinstance(value, str) else []


ANSWERS = {"yes", "no"}
"""Values of the interface that are shown as they are."""


class Heard:
    """What the server said in English: people's own names, and sentences of the core that are in no catalogue yet."""

    def __init__(self, page: Page) -> None:
        self.texts: set[str] = set(ANSWERS)
        page.on("response", self.hear)

    def hear(self, response: Response) -> None:
        if "/api/" in response.url and "json" in response.headers.get("content-type", ""):
            self.add(response.json())

    def add(self, said: Any) -> None:
        self.texts |= {" ".join(text.replace("_", " ").lower().split()) for text in strings(said)}

    def has(self, text: str) -> bool:
        """Whether it came from there, apart from figures, days and units."""
        whole, together = " ".join(text.split()), "\n".join(self.texts)
        pieces = [p.strip(" .,:;()·“”×").lower() for part in FIGURES.split(whole) for p in PARTS.split(part)]
        return whole.lower() in together or all(
            piece in self.texts if " " not in piece and piece == whole.lower() else piece in together
            for piece in pieces
        )


@pytest.mark.screens
def test_every_text_of_a_board_is_in_the_catalogue(browser: Browser, address: str, interface: Path):
    def from_the_build(route: Route) -> None:
        path = interface / re.sub(r"[?#].*", "", route.request.url.removeprefix(address)).lstrip("/")
        path = path if path.is_file() else interface / "index.html"
        route.fulfill(path=path, content_type=mimetypes.guess_type(path.name)[0] or "text/plain")

    context = new_context(browser, address)
    context.route(lambda url: url.startswith(address) and "/api/" not in url, from_the_build)
    found: dict[str, str] = {}
    for page in new_page(context):
        heard = Heard(page)
        enter_demo(page)

        def read(where: str, page: Page = page) -> None:
            page.wait_for_load_state("networkidle")
            found.update(dict.fromkeys(page.evaluate(TEXTS), where))

        for path in ("/", "/library", "/new-board"):
            page.goto(path)
            read(path)
        page.goto("/")
        home = page.locator('a[href*="/builds/"]').first.get_attribute("href") or ""
        board = re.match(r"/builds/[\w-]+", home)[0]  # type: ignore[index]
        for one in PAGES:
            page.goto(f"{board}/{one.slug}")
            read(one.slug)
    headings = {text for text in templates() if text[:1].isupper()}
    plain = {
        f"{where}: {text}"
        for text, where in found.items()
        if CAN_BE_ACCENTED.search(text) and not ACCENTED.search(text) and (text in headings or not heard.has(text))
    }
    accented = sum(bool(ACCENTED.search(text)) for text in found)
    assert accented > 500, "the catalogue of the pages was loaded"
    assert not plain, "\n".join(sorted(plain))
