"""The bench test in a real browser, on a phone beside the board."""

import re
from io import BytesIO

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import figure, open_board, to_page

pytestmark = pytest.mark.screens
SLOW = 60_000
TWO = {"parts.motors.count": 2, "parts.drive.driven_wheels": 2, "settings.directions": "mirrored"}


@pytest.fixture
def stand(bench):
    def open_test(document: dict = SPIT_RUNNER) -> Page:
        page = bench(document)
        page.set_viewport_size({"width": 390, "height": 844})
        to_page(page, "Bench test")
        page.get_by_test_id("step").first.wait_for()
        return page

    return open_test


def step(page: Page, key: str):
    return page.locator(f'[data-testid="step"][data-key="{key}"]')


def answer(page: Page, path: str, word: str = "yes") -> None:
    page.locator(f'[data-answer="{path}"]').get_by_role("button", name=word).click()


def measure(page: Page, path: str, value: str) -> None:
    figure(page, f"bench_test.{path}").fill(value)
    figure(page, f"bench_test.{path}").press("Enter")


def verdict(page: Page, key: str, word: str) -> None:
    expect(step(page, key)).to_have_attribute("data-verdict", word)


def let_the_controller(page: Page, name: str) -> None:
    """Until what it found is entered."""
    with page.expect_response(lambda r: r.request.method == "PATCH" and "bench-test" in r.url, timeout=SLOW):
        page.get_by_role("button", name=name).click()


def test_an_unfinished_board_says_what_its_test_waits_for(stand):
    page = stand(changed(SPIT_RUNNER, {"parts.pack": None}))
    expect(page.get_by_test_id("waits")).to_contain_text("Not in the list yet: the pack's voltage, the cut-off")
    page.get_by_role("link", name="Open Design").click()
    expect(page.get_by_test_id("station-pack")).to_be_visible()


def test_step_by_step_to_a_test_that_is_kept_and_printed(stand):
    page = stand()
    run = "Let the controller run the motors"
    step(page, "directions").get_by_role("button", name="Both directions").click()
    expect(page.get_by_role("button", name=run)).to_be_disabled()
    expect(step(page, "directions")).to_contain_text("First: wheels in the air.")
    step(page, "wheels_free").get_by_role("button", name="Wheels in the air").click()
    answer(page, "wheels_free")
    answer(page, "polarity_right")  # a step of one answer leads on by itself
    measure(page, "pack_v", "40.4")
    verdict(page, "pack_voltage", "passes")
    expect(step(page, "pack_voltage").get_by_test_id("said")).to_contain_text("4.04 V a cell")
    page.get_by_role("button", name="On to throttle at rest").click()
    answer(page, "still")
    page.get_by_role("button", name="On to both directions").click()
    let_the_controller(page, run)
    # Out of its box it is set to a duty cycle of 90 % where 95 % are wanted: the speed is odd, or just within the band.
    expect(step(page, "free_speed")).to_have_attribute("data-verdict", re.compile("passes|unsure"))
    for key in ("directions", "free_current"):
        verdict(page, key, "passes")
    page.get_by_role("button", name="On to brake").click()
    answer(page, "brakes")
    page.get_by_role("button", name="On to remote switched off").click()
    let_the_controller(page, "Switch the simulated remote off")
    verdict(page, "lost_link", "passes")
    page.get_by_role("button", name="On to cut-off").click()
    # The simulated controller is as it left its box: five cells on a pack of ten.
    let_the_controller(page, "Let the controller try its cut-off")
    verdict(page, "cut_off", "fails")
    expect(step(page, "cut_off").get_by_test_id("remedy")).to_contain_text("a cut-off for about 5")
    page.get_by_role("button", name="On to hands, nose, ears").click()
    answer(page, "sound")
    expect(page.get_by_test_id("standing")).to_have_text("✕ fails")
    page.get_by_role("button", name="Save this test").click()
    kept = page.locator('[data-testid="kept-test"][data-number="1"]')
    expect(kept).to_contain_text("failed: cut-off")
    expect(page.get_by_test_id("standing")).to_have_text("Not begun")
    with page.expect_download() as given:
        kept.get_by_role("button", name="Test 1 on A4").click()
    words = " ".join(PdfReader(BytesIO(given.value.path().read_bytes())).pages[0].extract_text().split())
    assert "40.4 V" in words
    assert "FAILS" in words


def test_a_weak_motor_shows_on_the_stand(stand):
    page = stand(changed(SPIT_RUNNER, TWO))
    answer(page, "wheels_free")
    page.get_by_test_id("trials").locator("summary").click()
    page.get_by_label("one weak motor").check()
    page.get_by_role("button", name="Apply").click()
    step(page, "alike").get_by_role("button", name="Motors alike").click()
    expect(page.get_by_role("button", name="Let the controller run the motors")).to_be_enabled(timeout=SLOW)
    let_the_controller(page, "Let the controller run the motors")
    verdict(page, "alike", "fails")
    expect(step(page, "alike").get_by_test_id("remedy")).to_contain_text("Motor 2 is the faster one")
    page.get_by_test_id("run").locator("summary").click()
    expect(page.get_by_test_id("plot-run")).to_contain_text("predicted at full throttle")


def test_what_is_typed_wrong_stays_with_its_reason_and_what_cannot_be_done_is_left_out_with_a_word(stand):
    page = stand(changed(SPIT_RUNNER, {"parts.controller.programmable": False}))
    step(page, "pack_voltage").get_by_role("button", name="Pack voltage").click()
    measure(page, "pack_v", "forty")
    expect(step(page, "pack_voltage").get_by_role("alert")).to_contain_text("Enter a number")
    measure(page, "pack_v", "400")
    expect(step(page, "pack_voltage").get_by_role("alert")).to_contain_text("outside 1 V to 120 V")
    measure(page, "pack_v", "40400 mV")
    verdict(page, "pack_voltage", "passes")
    step(page, "cut_off").get_by_role("button", name="Cut-off").click()
    expect(step(page, "cut_off").get_by_role("button", name="Let the controller")).to_have_count(0)
    page.get_by_role("button", name="I cannot do this here…").click()
    page.get_by_label("Why can you not do it here?").fill("no bench supply")
    page.get_by_role("button", name="Skip it").click()
    verdict(page, "cut_off", "left out")


def test_the_storys_first_test_found_the_five_cells(demo: Page):
    open_board(demo, "Hide round", "Design")
    to_page(demo, "Bench test")
    expect(demo.locator('[data-testid="kept-test"][data-number="1"]')).to_contain_text("failed: cut-off")
    second = demo.locator('[data-testid="kept-test"][data-number="2"]')
    expect(second).to_contain_text("as expected")
    expect(second).to_contain_text("The settings changed after it (record 3). Repeat the test.")
    demo.get_by_role("button", name="Test 1", exact=True).click()
    then = demo.locator('[data-testid="judged-then"][data-key="cut_off"]')
    expect(then).to_contain_text("It gives nothing below 15.5 V.")
    expect(demo.get_by_role("dialog")).to_contain_text("supply borrowed from the boat shed")
