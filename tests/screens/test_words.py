"""Every page of every board of the demonstration in plain words; what they open to is read by the sweep over all pages."""

import re

import pytest
from playwright.sync_api import Page

from planner.navigation import PAGES
from tests.screens.conftest import board_named, enter_demo
from tests.screens.test_every_page import board_of, settled
from tests.screens.words import MOST_WORDS_OF_A_TITLE, check_words, faults

pytestmark = pytest.mark.screens


def test_the_check_of_words_finds_what_it_looks_for():
    assert len(faults({"Set aside, with your reason", "on 2026-09-13", "made of petg", "parts.drive.motor_teeth"})) == 4
    assert not faults({"Accepted on 13 Sep 2026, 60 % likely, PETG"})


@pytest.mark.parametrize("board", ["Hide round", "Ferry steps", "Old light"])
def test_a_board_is_described_in_plain_words(page: Page, board: str):
    enter_demo(page)
    id = board_named(page, board)
    for title in PAGES:
        if board_of(title.slug) != board:
            page.goto(f"/builds/{id}" if title.slug == "overview" else f"/builds/{id}/{title.slug}")
            settled(page)
            check_words(page)


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
        title = re.sub(r"^[^:]{1,40}: ", "", finding.title.text)
        assert len(title.split()) <= MOST_WORDS_OF_A_TITLE, finding.title.text
        assert len(re.findall(r"[.!?](?:\s|$)", finding.text)) <= 4, finding.text
