"""From a brief to a build that holds together, in a real browser."""

import re
from io import BytesIO

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.accessibility import check_accessibility
from tests.screens.conftest import expect_saved, figure, mid, open_board, to_page

pytestmark = pytest.mark.screens

PROPOSED = 60_000


def tab_to(page: Page, name: str, most: int = 120) -> None:
    """Presses Tab until the control of that name has the focus."""
    for _ in range(most):
        page.keyboard.press("Tab")
        focused = page.evaluate(
            "((e) => (e === document.body ? '' : e.textContent + (e.ariaLabel ?? '')))(document.activeElement)"
        )
        if name in focused:
            return
    raise AssertionError(f"no way to “{name}” by keyboard")


def test_a_brief_to_a_finished_build_with_the_keyboard_alone(own: Page):
    tab_to(own, "Start a board")
    own.keyboard.press("Enter")
    own.get_by_role("heading", name="A new board").wait_for()
    tab_to(own, "Choose part by part")
    own.keyboard.press("Enter")
    own.get_by_test_id("gauge-speed").wait_for()
    own.keyboard.press("1")
    wanted = {
        "brief.top_speed_kmh": "28",
        "brief.cruise_kmh": "22",
        "brief.range_km": "9 mi",
        "brief.hill_grade_pct": "5°",
        "brief.budget": "900",
        "brief.carry_mass_kg": "20 lb",
    }
    tab_to(own, "Propose boards")
    seen = set()
    for _ in range(40):
        own.keyboard.press("Tab")
        path = own.evaluate("document.activeElement?.closest('[data-path]')?.dataset.path ?? ''")
        if path in wanted and path not in seen:
            seen.add(path)
            own.keyboard.type(wanted[path])
            own.keyboard.press("Enter")
    assert seen == set(wanted)
    for _ in range(120):
        own.keyboard.press("Shift+Tab")
        if "Propose boards" in own.evaluate("document.activeElement?.textContent ?? ''"):
            break
    own.keyboard.press("Enter")
    expect(own.get_by_test_id("proposal").first).to_be_visible(timeout=PROPOSED)
    check_accessibility(own)
    promised = [
        float(own.get_by_test_id("proposal").first.get_by_test_id(f"gauge-{name}").get_attribute("data-mid"))
        for name in ("speed", "range")
    ]
    tab_to(own, "Use this board")
    own.keyboard.press("Enter")
    expect(own.get_by_test_id("proposal")).to_have_count(0)
    expect(own.get_by_test_id("station-motor")).to_contain_text(re.compile("KV"))
    expect(own.get_by_test_id("gauge-hill").first).to_have_attribute("data-verdict", re.compile("on target|uncertain"))
    assert [mid(own, "speed"), mid(own, "range")] == pytest.approx(promised, rel=1e-3), (
        "what was promised is what happens"
    )
    expect(own.locator('[data-testid="finding"].danger, [data-testid="finding"].stop')).to_have_count(0)
    expect_saved(own)
    own.keyboard.press("Escape")
    tab_to(own, "Drawings")
    own.keyboard.press("Enter")
    expect(own.get_by_test_id("drawing-under")).to_be_visible()
    expect(own.locator("[data-clash]")).to_have_count(0)


def test_a_danger_is_accepted_with_a_word_and_found_again(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"parts__fuse__a": 80}))
    danger = page.locator('[data-testid="finding"][data-id="fuse-wire"]')
    expect(danger).to_contain_text("80 A")
    page.get_by_role("button", name="Accept the risk: Fuse too large for the wire").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Accept the risk").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Enter a short reason")
    dialog.get_by_label("Why do you accept it?").fill("The wire runs 200 mm in free air.")
    dialog.get_by_role("button", name="Accept the risk").click()
    expect(danger).to_have_count(0)
    expect_saved(page)
    page.reload()
    page.get_by_test_id("accepted").locator("summary").click()
    accepted = page.locator('[data-testid="finding-accepted"][data-id="fuse-wire"]')
    expect(accepted).to_contain_text("The wire runs 200 mm in free air.")
    page.get_by_role("button", name="Reopen: Fuse too large for the wire").click()
    expect(danger).to_be_visible()


def test_a_fix_is_one_click_and_one_step_back(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"settings__taper_end_v": 25, "settings__taper_start_v": 26}))
    danger = page.locator('[data-testid="finding"][data-id="cut-off-too-low"]')
    danger.get_by_role("button", name="End the cut-off at 31 V").click()
    expect(danger).to_have_count(0)
    page.get_by_role("button", name="undo", exact=True).click()
    expect(danger).to_be_visible()


def test_dragging_a_handle_moves_the_gauges_and_is_one_step(bench):
    page: Page = bench(SPIT_RUNNER)
    page.get_by_test_id("station-drive").click()
    before = mid(page, "speed")
    handle = page.locator('[data-handle="parts.drive.motor_teeth"]')
    box = handle.bounding_box()
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] * 6 / 21, middle)
    page.mouse.down()
    for share in (0.4, 0.5, 0.6, 0.7):
        page.mouse.move(box["x"] + box["width"] * share, middle)
    expect(page.get_by_test_id("gauge-speed")).not_to_have_attribute("data-mid", str(before))
    page.mouse.up()
    assert mid(page, "speed") > before
    page.get_by_role("button", name="undo", exact=True).click()
    expect(page.get_by_test_id("gauge-speed")).to_have_attribute("data-mid", str(before))
    handle.focus()
    page.keyboard.press("ArrowRight")
    expect(handle).to_have_value("16")
    expect_saved(page)


def test_candidates_are_filtered_by_fit_and_price(demo: Page):
    open_board(demo, "Old light", "Design")
    demo.get_by_test_id("station-wheels").click()
    rows = demo.get_by_test_id("candidate")
    rows.first.wait_for()
    everything = rows.count()
    demo.get_by_label("fits").check()
    expect(rows).not_to_have_count(everything)
    for row in rows.all():
        expect(row).to_contain_text("✓")
    demo.get_by_label("Price at most").fill("1")
    expect(demo.get_by_text("No part matches these filters.")).to_be_visible()
    demo.get_by_label("Price at most").fill("")
    expect(rows.first).to_be_visible()
    demo.get_by_label("already owned").check()
    expect(demo.get_by_text("No part matches these filters.")).to_be_visible()


def test_what_collides_is_hatched_and_named_and_parts_are_named_on_focus(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"parts__enclosure__length_mm": 600, "parts__deck__name": "Plank"}))
    expect(page.locator('[data-clash="motor in the enclosure"]')).to_have_count(1)
    picture = page.get_by_role("img", name=re.compile("Collides: motor in the enclosure"))
    picture.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_test_id("part-name")).to_have_text("Deck: Plank")
    page.get_by_role("button", name="from below").click()
    expect(page.get_by_role("img", name=re.compile("From underneath"))).to_be_visible()


def test_drawings_are_taken_away_as_svg_and_pdf(bench):
    page: Page = bench(SPIT_RUNNER)
    to_page(page, "Drawings")
    page.get_by_test_id("drawing-under").wait_for()
    with page.expect_download() as taken:
        page.get_by_role("button", name="From underneath as SVG").click()
    svg = taken.value.path().read_text()
    width = float(re.search(r'width="([\d.]+)mm"', svg).group(1))
    box = [float(v) for v in re.search(r'viewBox="([\d. ]+)"', svg).group(1).split()]
    assert width == box[2], "a millimetre of the file is a millimetre of the board"
    assert "var(--" not in svg
    with page.expect_download() as taken:
        page.get_by_role("button", name=re.compile("Template")).click()
    assert len(PdfReader(BytesIO(taken.value.path().read_bytes())).pages) == 8
    expect(page.get_by_role("row", name=re.compile("56 teeth"))).to_contain_text("chosen")


def test_a_hill_by_its_rise_and_length(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"brief__hill_grade_pct": None}))
    page.get_by_test_id("station-brief").click()
    rise = figure(page, "brief.hill_rise_m")
    rise.fill("30 m")
    rise.press("Enter")
    expect(page.get_by_test_id("gauge-hill")).to_have_attribute("data-verdict", re.compile("on target|uncertain|short"))
    expect(page.get_by_role("button", name=re.compile("The hill, 12"))).to_be_visible()
