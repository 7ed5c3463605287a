"""The pages in a real browser: its stages and pages, one header, undo from page to page, addresses of before."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import board_menu, expect_saved, figure, open_board, to_page

pytestmark = pytest.mark.screens


def test_any_page_is_two_clicks_away_by_touch(demo: Page):
    demo.set_viewport_size({"width": 360, "height": 780})
    open_board(demo, "Hide round")
    for nav, step in (
        (demo.get_by_test_id("thumb"), "Set up"),
        (demo.get_by_label("Pages of this stage"), "Bench test"),
    ):
        box = nav.get_by_role("link", name=step, exact=True).bounding_box()
        assert box
        assert box["height"] >= 24
        demo.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(demo.locator('[aria-label="Pages of this stage"] [aria-current="page"]')).to_have_text("Bench test")


def test_each_stage_by_the_keyboard(demo: Page):
    open_board(demo, "Hide round")
    stages = demo.get_by_role("navigation", name="Stages", exact=True).get_by_role("link")
    stages.first.focus()
    for name, address in (
        ("Plan", "design"),
        ("Buy", "parts-list"),
        ("Build", "cells"),
        ("Set up", "controller-settings"),
    ):
        demo.keyboard.press("Tab")
        expect(stages.filter(has_text=name)).to_be_focused()
        demo.keyboard.press("Enter")
        expect(demo).to_have_url(re.compile(f"/builds/[0-9a-f-]+/{address}$"))
        expect(stages.filter(has_text=name)).to_have_attribute("aria-current", "page")


def test_nine_rooms_worth_of_names_fit(demo: Page):
    demo.set_viewport_size({"width": 360, "height": 780})
    open_board(demo, "Hide round", "Design")
    before = demo.get_by_label("Pages of this stage").get_by_role("link").count()
    demo.get_by_label("Pages of this stage").evaluate(
        """(nav) => { for (const name of ['Explorer', 'Cells', 'Pack', 'Wiring', 'Assembly', 'Open Calibration'])
             { const more = nav.lastElementChild.cloneNode(true); more.textContent = name; nav.append(more); } }"""
    )
    assert demo.get_by_label("Pages of this stage").get_by_role("link").count() == before + 6 >= 9
    assert demo.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
    cut = "e => [...e.querySelectorAll('a')].some(a => a.scrollWidth > a.clientWidth + 1)"
    assert not demo.get_by_label("Pages of this stage").evaluate(cut)


def test_the_find_box_leads_to_fields_findings_pages_and_parts(demo: Page):
    """By the keyboard alone: a field by another name for it, the same field once more, a part of the library."""
    open_board(demo, "Old light")
    demo.keyboard.press("/")
    box = demo.get_by_role("combobox", name="What to find")
    box.fill("battery amps")
    expect(demo.get_by_test_id("found").first).to_contain_text("Pack current")
    demo.keyboard.press("Enter")
    pack_current = figure(demo, "settings.pack_current_a")
    expect(pack_current).to_be_focused()
    demo.get_by_test_id("station-deck").click()
    demo.keyboard.press("Control+k")
    box.fill("battery amps")
    expect(demo.get_by_test_id("found").first).to_contain_text("Pack current")
    demo.keyboard.press("Enter")
    expect(pack_current).to_be_focused()
    demo.keyboard.press("Control+k")
    box.fill("12S3P")
    demo.get_by_test_id("found").filter(has_text="Cells in series").first.click()
    expect(figure(demo, "parts.pack.series")).to_be_focused()
    demo.keyboard.press("Control+k")
    box.fill("BOM")
    demo.keyboard.press("Enter")
    expect(demo).to_have_url(re.compile("/parts-list$"))
    demo.get_by_role("button", name="Find", exact=True).click()
    finding = demo.get_by_role("group", name="Findings").get_by_test_id("found").first
    box.fill("pack")
    finding.click()
    expect(demo).to_have_url(re.compile("/design"))
    demo.get_by_test_id("gauge-speed").wait_for()
    demo.keyboard.press("Control+k")
    box.fill("winch motor")
    demo.get_by_test_id("found").filter(has_text="Winch motor without a label").click()
    demo.get_by_test_id("part-panel").get_by_role("heading", name="Winch motor without a label, 63 mm").wait_for()


def test_cells_are_entered_as_they_are_written_on_a_pack(bench):
    page: Page = bench(SPIT_RUNNER)
    page.get_by_test_id("station-pack").click()
    page.get_by_role("button", name="Pack’s figures").click()
    figure(page, "parts.pack.series").fill("12S3P")
    figure(page, "parts.pack.series").press("Enter")
    expect(figure(page, "parts.pack.parallel")).to_have_value("3")
    expect(figure(page, "parts.pack.series")).to_have_value("12")
    page.keyboard.press("Control+z")


def test_undo_goes_from_page_to_page(bench):
    page: Page = bench(SPIT_RUNNER)
    page.get_by_test_id("station-drive").click()
    page.get_by_role("button", name="Drive’s figures").click()
    figure(page, "parts.drive.motor_teeth").fill("12")
    figure(page, "parts.drive.motor_teeth").press("Enter")
    to_page(page, "Parts list")
    page.get_by_test_id("list-line").first.get_by_role("button", name="ordered").click()
    to_page(page, "Curves")
    page.get_by_test_id("plot-thrust").wait_for()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="undo")).to_be_disabled()
    to_page(page, "Design")
    expect(page.get_by_test_id("station-drive")).to_contain_text("15 : 42")
    to_page(page, "Parts list")
    expect(page.get_by_test_id("list-line").first.get_by_role("button", name="To order")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("button", name="redo").click()
    page.get_by_role("link", name="Sand Pocket").click()
    page.get_by_role("heading", name="Your boards").wait_for()
    page.get_by_role("link", name="Spit runner", exact=True).click()
    expect(page.get_by_role("button", name="undo")).to_be_enabled()
    page.get_by_role("button", name="undo").click()
    expect_saved(page)
    to_page(page, "Design")
    expect(page.get_by_test_id("station-drive")).to_contain_text("15 : 42")


def test_addresses_of_before_still_lead_there(bench):
    page: Page = bench(SPIT_RUNNER)
    build = page.url.split("/")[-2]
    for old, new in (
        (f"#/bench/{build}", f"/builds/{build}/design"),
        (f"#/parts/{build}", f"/builds/{build}/parts-list"),
        (f"#/test/{build}", f"/builds/{build}/bench-test"),
        (f"#/sheet/{build}", f"/builds/{build}/controller-settings"),
        (f"#/compare/{build},{build}", f"/compare/{build},{build}"),
        ("#/library", "/library"),
        ("#/", "/"),
    ):
        page.goto("about:blank")
        page.goto(f"/{old}")
        expect(page).to_have_url(re.compile(re.escape(new) + "$"))
        page.locator("main h1").first.wait_for()
    page.goto("/nowhere")
    expect(page.get_by_role("heading", name="No such page")).to_be_visible()


def test_back_and_forward_go_through_the_page(demo: Page):
    open_board(demo, "Hide round", "Design")
    to_page(demo, "Parts list")
    demo.go_back()
    demo.get_by_test_id("gauge-speed").wait_for()
    demo.go_back()
    demo.get_by_role("heading", name="Next steps").wait_for()
    demo.go_forward()
    demo.get_by_test_id("station-brief").wait_for()


def test_a_page_opens_in_a_tab_of_its_own_too(demo: Page):
    open_board(demo, "Hide round")
    with demo.context.expect_page() as opened:
        demo.get_by_role("navigation", name="Stages", exact=True).get_by_role("link", name="Plan").click(
            modifiers=["Control"]
        )
    opened.value.get_by_test_id("gauge-speed").wait_for()
    demo.get_by_role("heading", name="Next steps").wait_for()


def test_the_boards_menu_has_stage_revisions_file_and_dossier(bench):
    page: Page = bench(SPIT_RUNNER)
    board_menu(page, "building")
    expect_saved(page)
    page.get_by_role("link", name="Overview").click()
    expect(page.locator("main")).to_contain_text("building")
    for item in ("Export the build file", "Dossier on A4"):
        with page.expect_download() as given:
            board_menu(page, item)
        assert given.value.suggested_filename.startswith("spit-runner")
    board_menu(page, "Rename")
    page.get_by_label("Name of the board").fill("Longshore")
    page.get_by_role("dialog").get_by_role("button", name="Rename").click()
    expect(page.get_by_test_id("board-name")).to_have_text("Longshore")
    board_menu(page, "Delete")
    page.get_by_text("No boards yet.").wait_for()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_test_id("board-name")).to_have_text("Longshore")


def test_a_newcomer_sees_at_once_what_is_next(demo: Page):
    """On the list of boards and on the board's first page: the same step, and the gravest first."""
    for board, says in (
        ("Stile carry", "Brakes cannot hold"),
        ("Old light", "Cell count set to 5"),
        ("Hide round", "Repeat the bench test"),
    ):
        listed = demo.get_by_test_id("board-listed").filter(has=demo.get_by_role("link", name=board, exact=True))
        expect(listed.get_by_test_id("next-step")).to_contain_text(says)
    open_board(demo, "Old light")
    expect(demo.get_by_test_id("step").first).to_contain_text("Cell count set to 5")


def test_a_step_is_taken_with_one_click_and_the_next_one_comes_up(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"settings.cells_in_series": 5}))
    page.get_by_role("link", name="Overview").click()
    # The bench, which is being left, has a finding of that name.
    first = page.locator('[data-testid="step"][data-id="controller-cells-mismatch"]')
    first.get_by_role("button").click()
    expect(first).to_have_count(0)
    expect(page.get_by_text("Set 10 cells: done.")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(first).to_be_visible()


def test_a_way_in_leads_to_the_field(bench):
    document = {k: v for k, v in SPIT_RUNNER.items() if k != "brief"}
    page: Page = bench({**document, "brief": {}})
    page.get_by_role("link", name="Overview").click()
    page.get_by_role("link", name="Write the brief").first.click()
    expect(figure(page, "brief.range_km")).to_be_focused()


def test_stations_are_at_the_thumb_on_a_phone(demo: Page):
    demo.set_viewport_size({"width": 390, "height": 844})
    open_board(demo, "Hide round", "Design")
    bar = demo.get_by_role("navigation", name="Stations at the thumb")
    bar.get_by_label("Station").select_option("drive")
    expect(demo.get_by_role("region", name="Drive station")).to_be_in_viewport()
    bar.get_by_role("button", name="Next: Pack").click()
    expect(demo.get_by_role("region", name="Pack station")).to_be_in_viewport()


def test_what_is_said_on_a_phone_stands_above_the_stages(bench):
    page: Page = bench(changed(SPIT_RUNNER, {"settings.cells_in_series": 5}))
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_role("link", name="Overview").click()
    # The bench, which is being left, has a finding of that name.
    page.locator('[data-testid="step"][data-id="controller-cells-mismatch"]').get_by_role("button").click()
    said = page.get_by_text("Set 10 cells: done.").bounding_box()
    thumb = page.get_by_test_id("thumb").bounding_box()
    assert said
    assert thumb
    assert said["y"] + said["height"] < thumb["y"]
