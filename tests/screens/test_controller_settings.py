"""The controller settings in a real browser: from a build to values that are right, wanted, written down and found again."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import expect_saved, figure, mid, open_board, to_page

pytestmark = pytest.mark.screens

LEFT_OVER = changed(SPIT_RUNNER, {"settings.cells_in_series": 5})


@pytest.fixture
def record(bench):
    def open_controller_settings(document: dict = LEFT_OVER) -> Page:
        page = bench(document)
        to_page(page, "Controller settings")
        page.get_by_test_id("setting").first.wait_for()
        return page

    return open_controller_settings


def setting(page: Page, field: str):
    return page.locator(f'[data-testid="setting"][data-field="{field}"]')


def test_the_left_over_cell_count_is_caught_and_cured(record):
    page = record()
    expect(setting(page, "cells_in_series")).to_have_attribute("data-stand", "outside its range")
    finding = page.locator('[data-testid="settings-finding"][data-id="controller-cells-mismatch"]')
    expect(finding).to_contain_text("A cut-off for 5 cells comes at 14 V")
    finding.get_by_role("button", name="Set 10 cells").click()
    expect(finding).to_have_count(0)
    expect(setting(page, "cells_in_series")).to_have_attribute("data-stand", "as recommended")


def test_a_profile_is_taken_and_the_gauges_follow(record):
    page = record()
    before = mid(page, "speed")
    page.get_by_role("button", name="beginner").click()
    expect(page.get_by_role("button", name="beginner")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Use all").click()
    expect(page.get_by_text("✓ all as recommended")).to_be_visible()
    gauge = page.get_by_test_id("gauge-speed").get_by_role("img")
    expect(gauge).to_have_attribute("aria-label", re.compile("speed cap: 14.8.km/h"))
    assert before > 30
    expect(page.get_by_test_id("braking")).to_contain_text("the first second pulls")
    setting(page, "speed_cap_kmh").get_by_role("button").first.click()
    expect(setting(page, "speed_cap_kmh")).to_contain_text("Set by a beginner")
    figure(page, "settings.speed_cap_kmh").fill("12 mph")
    figure(page, "settings.speed_cap_kmh").press("Enter")
    expect(setting(page, "speed_cap_kmh")).to_have_attribute("data-stand", "outside its range")
    page.get_by_role("button", name="undo").click()
    expect(setting(page, "speed_cap_kmh")).to_have_attribute("data-stand", "as recommended")


def test_written_down_lost_by_a_reset_and_brought_back(record):
    """The record alone brings the settings record back: what a reset took is what it gives."""
    page = record()
    page.get_by_role("button", name="Use all").click()
    expect_saved(page)
    page.get_by_label("Set on", exact=True).fill("2026-04-05")
    page.get_by_label("Why", exact=True).fill("first set-up")
    page.get_by_label("Remote at full brake, ms").fill("about one")
    page.get_by_role("button", name="Save entry").click()
    expect(page.get_by_role("alert")).to_contain_text("not “about one”. Nothing was saved.")
    page.get_by_label("Remote at full brake, ms").fill("1,02")
    page.get_by_role("button", name="Save entry").click()
    first = page.locator('[data-testid="settings-record"][data-number="1"]')
    expect(first).to_contain_text("first set-up")
    expect(first).to_contain_text("low 1.02 ms")
    expect(page.get_by_label("Remote at full brake, ms")).to_have_value("1.02")  # as the last settings record has it
    expect(setting(page, "motor_current_a")).to_contain_text("in the controller: 51 A")
    # Another evening, another value, another sheet.
    figure(page, "settings.motor_current_a").fill("30")
    figure(page, "settings.motor_current_a").press("Enter")
    expect_saved(page)
    page.get_by_label("Set on", exact=True).fill("2026-07-19")
    page.get_by_label("Why", exact=True).fill("softer for a friend")
    page.get_by_role("button", name="Save entry").click()
    expect(page.locator('[data-testid="settings-record"][data-number="2"]')).to_contain_text(
        "motor current 51 A → 30 A"
    )
    page.get_by_label("Which settings applied on a day?").fill("2026-06-01")
    expect(page.get_by_test_id("of-that-day")).to_contain_text("Settings record 1, set on 5 Apr 2026")
    page.get_by_role("button", name="Use record 1 again").click()
    expect(figure(page, "settings.motor_current_a")).to_have_value("51")
    with page.expect_download() as given:
        page.get_by_role("link", name="Settings record 1, JSON").click()
    kept = json.loads(given.value.path().read_text())
    assert kept["settings"]["motor_current_a"] == 51
    # And back in as a file, after everything was cleared.
    figure(page, "settings.motor_current_a").fill("")
    figure(page, "settings.motor_current_a").press("Enter")
    kept["settings"]["pack_current_a"] = "lots"
    file = {"name": "sheet.json", "mimeType": "application/json", "buffer": json.dumps(kept).encode()}
    page.get_by_test_id("settings-import").set_input_files(files=[file])
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_test_id("brought").filter(has_text="lots")).to_contain_text("must be a number")
    dialog.get_by_role("button", name="Use these").click()
    expect(figure(page, "settings.motor_current_a")).to_have_value("51")


def test_a_detection_is_taken_as_measured_and_narrows_the_bands(record):
    page = record()

    def band() -> float:
        words = page.get_by_test_id("gauge-speed").get_by_role("img").get_attribute("aria-label") or ""
        low, high = re.search(r"between ([\d.]+)\D+([\d.]+)", words).groups()
        return float(high) - float(low)

    before, words = band(), page.get_by_test_id("gauge-speed").get_by_role("img").get_attribute("aria-label") or ""
    for key, typed in {"resistance_mohm": "0.0318 ohm", "flux_linkage_mwb": "3.4"}.items():
        figure(page, f"detected.0.{key}").fill(typed)
        figure(page, f"detected.0.{key}").press("Enter")
    finding = page.get_by_test_id("detection-finding")
    expect(finding).to_contain_text("The detected motor is not the stated one")  # 3.4 mWb are 232 rpm/V, stated are 170
    figure(page, "detected.0.flux_linkage_mwb").fill("4.65")
    figure(page, "detected.0.flux_linkage_mwb").press("Enter")
    expect(finding).to_contain_text("agrees with what you stated")
    finding.get_by_role("button", name="Use the detected value").click()
    expect(finding).to_have_count(0)
    expect_saved(page)
    gauge = page.get_by_test_id("gauge-speed").get_by_role("img")
    expect(gauge).not_to_have_attribute("aria-label", words)
    assert band() < before


def test_the_storys_record_tells_of_the_five_cells(demo: Page):
    open_board(demo, "Hide round", "Design")
    to_page(demo, "Controller settings")
    second = demo.locator('[data-testid="settings-record"][data-number="2"]')
    expect(second).to_contain_text("cells in series 5 → 10")
    demo.get_by_label("Which settings applied on a day?").fill("2026-05-17")
    expect(demo.get_by_test_id("of-that-day")).to_contain_text("Settings record 2")
