"""What a person reads, on every page of every board of the demonstration: plain English, the trade's terms, the reader's dates.

The texts are collected as they are shown, with what they open to (``FURTHER`` of the sweep over all pages).
"""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page

from planner.navigation import PAGES
from tests.screens.conftest import ask, enter_demo, open_boards
from tests.screens.test_every_page import settled

pytestmark = pytest.mark.screens

FORMER = {
    r"shelf|storeys?|staffs?|errands?|upkeep|packwork": "boards, stage, gauge, controller command, maintenance, pack",
    r"seen to|the drawer|laying (it )?up|laid in": "done, spares or in stock, winter storage, applied",
    r"set aside|leave it standing|take it off|take away": "accept, keep, remove, delete",
    r"bring (it )?back|bring in": "restore, import",
    r"write it down|written down|handed on|hand it on": "save, record, share",
    r"times in ten|half the time|nearly always|hardly ever|\d in 10 walk": "a chance in per cent",
    r"falls short|may hold": "short, over, uncertain",
    r"promise[sd]?": "predicted, claimed",
    r"try every board|what is open": "search, what may change",
    r"side by side": "in parallel",
    r"gives way|eats the|stands at|lies apart|reckon(s|ed|ing)?": "is the limit, wears, has, apart, calculate",
    r"cannot be had|cannot be reached just now": "cannot be loaded",
    r"under watch|what is found|what it came to|as wanted": "watched, findings, what it cost, the settings you want",
    r"protection board": "BMS",
    r"loop plug": "loop key",
    r"out of the purse|is worth": "you paid, total value",
}
"""Former words as regular expressions, and what is said today."""
TOGETHER = re.compile("|".join(rf"(?P<w{i}>\b(?:{words})\b)" for i, words in enumerate(FORMER)), re.IGNORECASE)
RAW = {
    "a day as it is stored": re.compile(r"\b20\d\d-\d\d-\d\d\b"),
    "a chemistry or a plastic in small letters": re.compile(r"\b(nmc|nca|lfp|petg|abs|hdpe)\b"),
    "a key of the build file": re.compile(r"\b[a-z]+_[a-z_]+\b"),
}
MOST_WORDS_OF_A_TITLE = 7
VISIBLE = """() => {
  const seen = [];
  for (const root of document.querySelectorAll('header, main, [role=dialog]')) {
    seen.push(root.innerText);
    for (const e of root.querySelectorAll('[aria-label]')) if (e.getClientRects().length) seen.push(e.getAttribute('aria-label'));
  }
  return seen.join('\\n');
}"""
TITLES = """() => [...document.querySelectorAll('main h1, main h2')]
    .filter((h) => h.getClientRects().length).map((h) => h.innerText.trim())"""
# A person's own words (notes, names of what they built) are theirs.
THEIRS = re.compile(r"“[^”]*”")


def lines(page: Page) -> Iterator[str]:
    for line in page.evaluate(VISIBLE).splitlines():
        if line.strip():
            yield " ".join(THEIRS.sub("", line).split())


def faults(texts: set[str]) -> list[str]:
    found = []
    for text in sorted(texts):
        if match := TOGETHER.search(text):
            today = list(FORMER.values())[int((match.lastgroup or "w0")[1:])]
            found.append(f"“{match[0]}” (today: {today}): {text[:160]}")
        found += [f"{what}: {text[:160]}" for what, pattern in RAW.items() if pattern.search(text)]
    return found


def test_the_check_of_words_finds_what_it_looks_for():
    assert len(faults({"Set aside, with your reason", "on 2026-09-13", "made of petg", "parts.drive.motor_teeth"})) == 4
    assert not faults({"Accepted on 13 Sep 2026, 60 % likely, PETG"})


@pytest.mark.parametrize("board", ["Hide round", "Ferry steps", "Old light"])
def test_a_board_is_described_in_plain_words(page: Page, board: str):
    enter_demo(page)
    id = next(b["id"] for b in ask(page, "GET", "/builds/names") if b["name"] == board)
    texts: set[str] = set()
    long_titles: set[str] = set()
    for title in PAGES:
        page.goto(f"/builds/{id}" if title.slug == "overview" else f"/builds/{id}/{title.slug}")
        settled(page)
        texts |= set(lines(page))
        titles = [re.split("[:,]", line)[0] for t in page.evaluate(TITLES) for line in t.splitlines()]
        long_titles |= {line for line in titles if len(line.split()) > MOST_WORDS_OF_A_TITLE}
    assert not faults(texts), "\n".join(faults(texts))
    assert not long_titles


def test_the_pages_outside_of_boards_are_in_plain_words(page: Page):
    texts: set[str] = set()
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").wait_for()
    texts |= set(lines(page))
    enter_demo(page)
    open_boards(page)
    for address in ("/", "/library", "/new-board"):
        page.goto(address)
        settled(page)
        texts |= set(lines(page))
    assert not faults(texts), "\n".join(faults(texts))


def test_every_finding_is_short():
    """A title of at most seven words, and at most three sentences, whatever the board."""
    from boardmath.checks import findings
    from boardmath.predictor import predict
    from tests.core.boards import any_builds

    seen = {}
    for build in any_builds(120):
        for finding in predict(build, bands=False).findings:
            seen.setdefault(finding.kind if hasattr(finding, "kind") else finding.id, finding)
    assert len(seen) > 30, findings
    for finding in seen.values():
        title = re.sub(r"^[^:]{1,40}: ", "", finding.title)
        assert len(title.split()) <= MOST_WORDS_OF_A_TITLE, finding.title
        assert len(re.findall(r"[.!?](?:\s|$)", finding.text)) <= 4, finding.text
