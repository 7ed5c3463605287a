"""From a bag of cells to a charged pack, in a real browser: sorted, drawn, read lead by lead, wired, charged under watch."""

import re

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from planner.cells.reading import COLUMNS
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_cells import bag
from tests.screens.conftest import PHONE, expect_saved, figure, to_page

pytestmark = pytest.mark.screens

SALVAGED = changed(SPIT_RUNNER, {"parts.pack.cell.origin": "salvaged", "parts.enclosure.length_mm": 520})


def table(count: int) -> str:
    rows = bag(count)
    rows[11]["found_v"] = 1.2
    lines = [",".join(str(r.get(c, "")) for c in COLUMNS) for r in rows]
    lines[20] = lines[20].replace(f",{rows[20]['capacity_ah']},", ",two and a half,", 1)
    return "\n".join([",".join(COLUMNS), *lines])


def test_a_hundred_pasted_cells_become_groups_and_printed_labels(bench):
    own: Page = bench(SALVAGED)
    to_page(own, "Cells")
    own.get_by_role("button", name="Import measured cells").click()
    own.get_by_test_id("cells-text").fill(table(100))
    expect(own.get_by_test_id("cells-read")).to_contain_text("99 good rows")
    expect(own.get_by_test_id("cell-row").first).to_contain_text("two and a half")
    own.get_by_role("button", name="Import 99").click()
    # What is to mend stays where it was typed, under its head.
    expect(own.get_by_test_id("cells-text")).to_have_value(re.compile("^id,capacity_ah.*\n.*two and a half"))
    expect(own.get_by_test_id("cell-row")).to_have_count(1)
    own.get_by_role("button", name="Cancel").click()
    expect(own.get_by_test_id("rejected")).to_have_count(1)
    expect(own.get_by_test_id("rejected")).to_contain_text("1.2 V")
    own.get_by_role("button", name="Sort into groups").click()
    expect(own.get_by_test_id("sum")).to_contain_text("Smallest group")
    expect_saved(own)
    with own.expect_download() as down:
        own.get_by_role("button", name="Labels on A4").click()
    paper = " ".join(page.extract_text() for page in PdfReader(down.value.path()).pages)
    assert all(name in paper for name in ("a0", "a99", "group 10", "OUT"))
    own.get_by_role("button", name="undo", exact=True).click()
    expect(own.get_by_role("button", name="Sort into groups")).to_be_visible()


def test_an_exchange_shows_its_cost_before_it_is_made_and_a_lock_holds(bench):
    cells = [{"id": f"c{i}", "capacity_ah": 2.0 + 0.02 * (i % 9)} for i in range(32)]
    own: Page = bench(changed(SALVAGED, {"pack_assembly.cells": cells}))
    to_page(own, "Cells")
    own.get_by_role("button", name="Sort into groups").click()
    expect(own.get_by_test_id("sum")).to_be_visible()
    groups = own.get_by_test_id("groups").locator("li")
    first = groups.nth(0).get_by_role("button").first
    name = first.get_attribute("aria-label").split(",")[0]
    first.click()
    own.get_by_role("button", name="Lock it here").click()
    expect(groups.nth(0).get_by_role("button", name=f"{name}, group 1")).to_have_attribute(
        "aria-label", re.compile("locked")
    )
    other = groups.nth(5).get_by_role("button").first
    moved = other.get_attribute("aria-label").split(",")[0]
    other.click()
    expect(own.get_by_test_id("cost")).to_contain_text("→")
    own.get_by_role("button", name="Swap them").click()
    expect(groups.nth(0)).to_contain_text(moved)
    own.get_by_role("button", name="Sort them anew").click()
    expect(own.get_by_test_id("picked")).to_have_count(0)
    expect_saved(own)


def test_one_cell_is_typed_after_the_other_and_a_wrong_figure_says_why(bench):
    own: Page = bench(changed(SALVAGED, {"pack_assembly.cells": [{"id": "c1", "capacity_ah": 2.4}]}))
    to_page(own, "Cells")
    form = own.get_by_role("form", name="One more cell")
    form.get_by_label("Cell", exact=True).fill("c08")
    form.get_by_label("Capacity").fill("2300 mAh")
    form.get_by_label("As found").fill("41 V")
    form.get_by_role("button", name="Add cell").click()
    expect(form.get_by_role("alert")).to_be_visible()
    form.get_by_label("As found").fill("3.4")
    form.get_by_role("button", name="Add cell").click()
    expect(form.get_by_label("Cell", exact=True)).to_have_value("c09")
    expect(own.get_by_role("cell", name="2.3 Ah")).to_be_visible()
    form.get_by_label("Cell", exact=True).fill("c1")
    form.get_by_role("button", name="Add cell").click()
    expect(form.get_by_role("alert")).to_contain_text("in stock already")


def test_groups_are_exchanged_by_dragging_and_by_keys_and_taken_back(bench):
    own: Page = bench(SALVAGED)
    own.set_viewport_size(PHONE)
    to_page(own, "Pack")
    drawing = own.get_by_test_id("pack-drawing")
    expect(drawing).to_have_attribute("aria-label", re.compile("as they lie: 1, 2, 3"))
    drawing.scroll_into_view_if_needed()
    one = drawing.locator('g[data-group="1"]').first.bounding_box()
    two = drawing.locator('g[data-group="2"]').first.bounding_box()
    own.mouse.move(one["x"] + one["width"] / 2, one["y"] + one["height"] / 2)
    own.mouse.down()
    own.mouse.move(two["x"] + two["width"] / 2, two["y"] + two["height"] / 2, steps=6)
    own.mouse.up()
    expect(drawing).to_have_attribute("aria-label", re.compile("as they lie: 2, 1, 3"))
    own.get_by_role("button", name="undo", exact=True).click()
    expect(drawing).to_have_attribute("aria-label", re.compile("as they lie: 1, 2, 3"))
    own.get_by_label("Pick a group").select_option("3")
    own.get_by_role("button", name="move forward").click()
    expect(drawing).to_have_attribute("aria-label", re.compile("as they lie: 1, 3, 2"))


def test_strips_that_bear_too_little_are_found_and_cured(bench):
    own: Page = bench(SALVAGED)
    to_page(own, "Pack")
    figure(own, "pack_assembly.plan.strip").select_option("nickel")
    found = own.locator('[data-id="strip-current"]')
    expect(found).to_contain_text("35 A")
    expect(own.get_by_test_id("links")).to_contain_text("too little")
    found.get_by_role("button").first.click()
    expect(found).to_have_count(0)
    expect(own.get_by_test_id("links")).not_to_contain_text("too little")
    own.get_by_role("checkbox", name=re.compile("Ring on every positive end")).check()
    expect_saved(own)


def test_a_box_far_too_small_is_hatched_and_said(bench):
    own: Page = bench(changed(SALVAGED, {"parts.enclosure.length_mm": 220}))
    to_page(own, "Pack")
    expect(own.get_by_test_id("pack-cannot")).to_contain_text("Too short")
    assert own.get_by_test_id("pack-drawing").locator('rect[fill="url(#pack-hatch)"]').count() > 0


def read_leads(own: Page, readings: list[str]) -> None:
    for lead, reading in enumerate(readings):
        entry = own.get_by_label(f"Reading of lead {lead}")
        entry.fill(reading)
        entry.press("Enter")
        expect(own.locator(f'[data-lead="{lead}"]')).not_to_have_attribute("data-verdict", "open")


def test_a_swapped_balance_wire_is_caught_on_a_phone(bench):
    own: Page = bench(SALVAGED)
    own.set_viewport_size(PHONE)
    to_page(own, "Balance leads")
    read_leads(own, ["0", "3.75", "7.5", "15.0"])
    stop = own.get_by_test_id("stop")
    expect(stop).to_contain_text("Stop at lead 3")
    expect(own.get_by_test_id("meaning")).to_have_count(3)
    own.get_by_label("Reading of lead 4").fill("11.25")
    own.get_by_label("Reading of lead 4").press("Enter")
    expect(own.get_by_test_id("meaning")).to_have_count(1)
    expect(own.get_by_test_id("meaning")).to_have_attribute("data-kind", "swapped")
    expect(stop).to_contain_text("Wires 3 and 4 are swapped")
    expect_saved(own)
    # It is the first thing that the board's page says.
    own.get_by_role("navigation", name="Stages at the thumb").get_by_role("link", name="Overview").click()
    expect(own.get_by_test_id("step").first).to_contain_text("Balance leads wrong at lead 3")
    own.get_by_test_id("step").first.get_by_role("link").first.click()
    own.get_by_role("button", name="Start again").click()
    read_leads(own, [f"{3.75 * lead:.2f}" for lead in range(11)])
    expect(own.get_by_test_id("leads-done")).to_contain_text("All 11 leads")


def test_forty_one_volts_on_the_first_group_and_no_number_at_all_each_get_a_word(bench):
    own: Page = bench(SALVAGED)
    to_page(own, "Balance leads")
    read_leads(own, ["0"])
    entry = own.get_by_label("Reading of lead 1")
    entry.fill("about four")
    entry.press("Enter")
    expect(own.get_by_role("form").get_by_role("alert")).to_be_visible()
    entry.fill("41")
    entry.press("Enter")
    expect(own.get_by_test_id("stop")).to_contain_text("lead 10")


def test_a_missing_fuse_with_the_load_round_the_board_is_a_gap_with_a_fix(bench):
    own: Page = bench(
        changed(SALVAGED, {"parts.pack.protection.in_drive_path": False, "parts.fuse": None, "stage": "building"})
    )
    to_page(own, "Wiring")
    expect(own.get_by_test_id("wiring-drawing").get_by_role("img")).to_have_accessible_name(
        re.compile("bypasses the BMS")
    )
    short = own.locator('[data-against="short"]')
    expect(short).to_have_attribute("data-gap", "true")
    expect(short).to_contain_text("Nothing stops a short")
    short.get_by_role("button").first.click()
    expect(short).to_have_attribute("data-gap", "false")
    expect(own.get_by_test_id("joints").locator("li").last).to_contain_text("Loop key last")
    expect_saved(own)
    with own.expect_download() as down:
        own.get_by_role("button", name="On A4").click()
    assert "In this order" in " ".join(p.extract_text() for p in PdfReader(down.value.path()).pages)
    own.get_by_role("button", name=re.compile("to the parts list")).click()
    expect(own.get_by_text("Everything is on the parts list")).to_be_visible()


def look(own: Page, volts: str, current: str = "", warmth: str = "cool") -> None:
    form = own.get_by_role("form", name="A look")
    for group in range(1, 11):
        form.get_by_label(f"Group {group}", exact=True).fill(volts)
    if current:
        form.get_by_label("Current, A").fill(current)
    form.get_by_role("button", name=warmth, exact=True).click()
    form.get_by_role("button", name="Save reading").click()


def test_the_first_charge_is_followed_by_the_clock_and_kept(bench):
    own: Page = bench(SALVAGED)
    own.set_viewport_size(PHONE)
    to_page(own, "Charging")
    own.clock.install()
    own.get_by_role("button", name="Begin the first charge").click()
    expect(own.get_by_test_id("due")).to_contain_text("Take the reading now")
    look(own, "3.70", "2.9")
    expect(own.get_by_test_id("due")).to_contain_text("Next reading in 9:")
    own.clock.fast_forward("08:00")
    expect(own.get_by_test_id("due")).to_contain_text("Next reading in 1:")
    own.clock.fast_forward("03:00")
    expect(own.get_by_test_id("due")).to_contain_text("Take the reading now")
    look(own, "4.14", "2.2")
    expect(own.get_by_test_id("due")).to_contain_text("Next reading in 4:")
    own.reload()
    expect(own.get_by_test_id("watch")).to_contain_text(re.compile(r"2\s+readings"))
    own.get_by_role("button", name="It stopped by itself").click()
    kept = own.get_by_test_id("kept-charge")
    expect(kept).to_contain_text("stopped by itself")
    expect(kept.get_by_role("img")).to_have_accessible_name(re.compile("Groups from 3.70"))
    expect_saved(own)


def test_when_to_plug_in_and_what_a_ceiling_gives(bench):
    own: Page = bench(SALVAGED)
    to_page(own, "Charging")
    at = own.get_by_test_id("plug-in").locator("b").first
    expect(at).to_have_text(re.compile(r"\d\d:\d\d"))
    before = at.inner_text()
    own.get_by_label("To, %").fill("80")
    own.get_by_label("To, %").press("Tab")
    expect(at).not_to_have_text(before)
    own.get_by_label("Ready by").fill("06:00")
    expect(own.get_by_test_id("night")).to_contain_text("while you sleep")
    ceilings = own.get_by_test_id("ceilings")
    ceilings.get_by_role("button", name="Charge to 4.1 V a cell").click()
    expect(ceilings.locator("tr", has_text="current")).to_contain_text("4.1 V")
    expect_saved(own)


def test_a_bought_pack_has_nothing_to_do_on_its_makers_pages(bench):
    own: Page = bench(changed(SPIT_RUNNER, {"parts.pack.name": "Slim block", "parts.pack.price": 320.0}))
    for name in ("Cells", "Pack", "Balance leads"):
        to_page(own, name)
        expect(own.get_by_test_id("bought-pack")).to_contain_text("the board asks for up to")
    expect(own.get_by_test_id("leads")).to_be_hidden()
