"""The bench in a real browser: what a builder does on it."""

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import expect_saved, figure, mid

pytestmark = pytest.mark.screens


def test_choosing_a_motor_moves_the_gauges_and_is_kept(bench):
    page: Page = bench(SPIT_RUNNER)
    page.get_by_test_id("station-motor").click()
    before = mid(page, "speed")
    row = page.locator('[data-testid="candidate"][data-name="Outrunner 63 x 74 mm, 140 KV"]')
    # The change, with how sure it is beside it.
    said = row.locator("td").nth(1).inner_text().split("±")
    promised, unsure = float(said[0].replace("−", "-")), float(said[1])
    assert 0 < unsure < 0.2 * abs(promised) + 3
    row.click()
    expect(page.get_by_test_id("gauge-speed")).not_to_have_attribute("data-mid", str(before))
    assert mid(page, "speed") - before == pytest.approx(promised, abs=0.06), "what was promised is what happens"
    expect_saved(page)
    page.reload()
    page.get_by_test_id("gauge-speed").wait_for()
    expect(page.get_by_test_id("station-motor")).to_contain_text("Outrunner 63 x 74 mm, 140 KV")
    assert mid(page, "speed") - before == pytest.approx(promised, abs=0.06)


def test_a_board_from_nothing(own: Page):
    own.get_by_role("link", name="Start a board").click()
    own.get_by_role("button", name="Choose part by part").click()
    expect(own.get_by_text("Still needed for speed, hill and range")).to_be_visible()
    expect(own.get_by_test_id("gauge-speed")).to_have_attribute("data-verdict", "not predicted")
    wanted = figure(own, "brief.top_speed_kmh")
    wanted.fill("18 mph")
    wanted.press("Enter")
    for station, part in (
        ("wheels", "Urethane 90 mm, 78A, set of four"),
        ("motor", "Outrunner 63 x 55 mm, 170 KV"),
        ("drive", "Belt set 15 : 42, 5 mm, 15 mm wide"),
        ("pack", "Block 10 x 3, 18650 3.0 Ah"),
    ):
        own.get_by_test_id(f"station-{station}").click()
        own.locator(f'[data-testid="candidate"][data-name="{part}"]').click()
        expect(own.get_by_test_id(f"station-{station}")).to_contain_text(part)
    expect(own.get_by_test_id("gauge-speed")).to_have_attribute("data-verdict", "on target")
    expect(own.get_by_test_id("limit")).to_contain_text("pack voltage")
    expect_saved(own)


def test_with_the_keyboard_alone(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").wait_for()
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Your boards").wait_for()
    link = page.get_by_role("link", name="Old light", exact=True)
    for _ in range(30):
        if link.evaluate("e => e === document.activeElement"):
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Next steps").wait_for()
    stage = page.get_by_role("navigation", name="Stages", exact=True).get_by_role("link", name="Plan")
    for _ in range(12):
        if stage.evaluate("e => e === document.activeElement"):
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.get_by_test_id("line").wait_for()
    page.keyboard.press("4")
    expect(page.get_by_test_id("station-wheels")).to_have_attribute("aria-current", "step")
    page.get_by_test_id("candidate").first.wait_for()
    page.keyboard.press("f")
    page.keyboard.type("107")
    expect(page.get_by_test_id("candidate")).to_have_count(1)
    before = page.get_by_test_id("gauge-speed").get_attribute("data-mid")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("station-wheels")).to_contain_text("Urethane 107 mm")
    expect(page.get_by_test_id("gauge-speed")).not_to_have_attribute("data-mid", str(before))
    page.keyboard.press("Escape")
    page.keyboard.press("Tab")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Control+z")
    expect(page.get_by_test_id("station-wheels")).to_contain_text("Urethane 97 mm")
    page.keyboard.press("]")
    expect(page.get_by_test_id("station-motor")).to_have_attribute("aria-current", "step")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("find among the candidates")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_the_same_build_in_two_windows_never_overwrites_silently(bench, context):
    choice = "Keep both, mine as a copy"
    first: Page = bench(SPIT_RUNNER)
    second = context.new_page()
    second.goto(first.url)
    second.get_by_test_id("gauge-speed").wait_for()
    for page, teeth in ((first, "17"), (second, "12")):
        page.get_by_test_id("station-drive").click()
        page.get_by_role("button", name="Drive’s figures").click()
        figure(page, "parts.drive.motor_teeth").fill(teeth)
        figure(page, "parts.drive.motor_teeth").press("Enter")
        if page is first:
            expect_saved(first)
    dialog = second.get_by_role("dialog")
    expect(dialog).to_contain_text("changed elsewhere")
    expect(dialog.get_by_role("row").last).to_contain_text("Motor pulley teeth")
    expect(dialog.get_by_role("row").last).to_contain_text("17")
    dialog.get_by_role("button", name=choice).click()
    expect(dialog).to_have_count(0)
    expect_saved(second)
    second.goto("/")
    expect(second.get_by_test_id("board-listed")).to_have_count(2 if "both" in choice else 1)
    first.reload()
    first.get_by_test_id("station-drive").click()
    first.get_by_role("button", name="Drive’s figures").click()
    expect(figure(first, "parts.drive.motor_teeth")).to_have_value("12" if choice == "Keep mine" else "17")


def test_changes_made_offline_survive_closing_the_page(bench, context):
    page: Page = bench(SPIT_RUNNER)
    url = page.url
    page.get_by_test_id("station-drive").click()
    page.get_by_role("button", name="Drive’s figures").click()
    context.set_offline(True)
    figure(page, "parts.drive.motor_teeth").fill("19")
    figure(page, "parts.drive.motor_teeth").press("Enter")
    expect(page.get_by_test_id("saving")).to_have_attribute("data-saving", "offline")
    page.close()
    context.set_offline(False)
    later = context.new_page()
    later.goto(url)
    expect(later.get_by_test_id("station-drive")).to_contain_text("19 : 42")
    expect_saved(later)


def test_leaving_at_once_after_a_change_loses_nothing(bench, context):
    page: Page = bench(SPIT_RUNNER)
    url = page.url
    page.get_by_test_id("station-drive").click()
    page.get_by_role("button", name="Drive’s figures").click()
    figure(page, "parts.drive.motor_teeth").fill("20")
    figure(page, "parts.drive.motor_teeth").press("Enter")
    page.goto("/")
    page.get_by_role("heading", name="Your boards").wait_for()
    fresh = context.browser.new_context(storage_state=context.storage_state(), base_url=page.url)
    fresh_page = fresh.new_page()
    fresh_page.goto(url)
    expect(fresh_page.get_by_test_id("station-drive")).to_contain_text("20 : 42")
    fresh.close()


def test_units_are_ones_own_choice(bench):
    page: Page = bench(SPIT_RUNNER)
    kmh = mid(page, "speed")
    page.get_by_role("button", name="Your workshop").click()
    page.get_by_role("menuitem", name="Units and light").click()
    with page.expect_response(lambda r: r.url.endswith("/api/preferences") and r.ok):
        page.get_by_role("button", name="all imperial").click()
    page.keyboard.press("Escape")
    gauge = page.get_by_test_id("gauge-speed")
    expect(gauge).to_contain_text("mph")
    expect(gauge).to_contain_text(f"{kmh / 1.609344:.0f}")
    expect(page.get_by_test_id("limit")).to_contain_text("mph")
    page.reload()
    expect(page.get_by_test_id("gauge-speed")).to_contain_text("mph")


def test_range_is_answered_three_ways_and_the_gauge_shows_the_one_that_is_meant(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"assumptions": None}))
    page.get_by_role("button", name="range", exact=True).click()
    sure = page.get_by_test_id("sureness")
    expect(sure).to_contain_text("to meet the target of 14 km")
    expect(sure.get_by_test_id("whose")).to_be_visible()
    home = mid(page, "range")
    expect(sure.get_by_test_id("range-to_cut_off")).to_contain_text("km")
    figure(page, "brief.range_means").select_option("worst_day")
    expect(sure.get_by_test_id("range-with_reserve")).to_contain_text(f"{home:.1f} km")
    assert mid(page, "range") < 0.8 * home
