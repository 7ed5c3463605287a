"""The library in a real browser: parts by hand, from a file, and what is assumed for them."""

import json
import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.screens.conftest import figure

pytestmark = pytest.mark.screens

FILE = """part,name,kv_rpm_per_v,can_diameter_mm,price,currency
motors,Jetty motor,190,63,45,EUR
motors,Broken motor,2,63,45,EUR
motors,Winch motor,170,63,=1+1,EUR
"""


@pytest.fixture
def library(own: Page) -> Page:
    own.get_by_role("link", name="Library").click()
    own.get_by_test_id("part").first.wait_for()
    return own


def row(page: Page, name: str):
    return page.locator(f'[data-testid="part"][data-name="{name}"]')


def test_what_is_entered_while_the_first_figure_is_on_its_way_is_kept_beside_it(library: Page):
    library.get_by_role("button", name="Add a part").click()
    library.get_by_label("Kind", exact=True).select_option("motors")
    library.get_by_label("Name", exact=True).fill("Capstan motor")
    library.get_by_role("button", name="Add it").click()
    kv, can, resistance = (
        figure(library, f"parts.motors.{key}") for key in ("kv_rpm_per_v", "can_diameter_mm", "phase_resistance_mohm")
    )
    kv.wait_for()
    held: list[Route] = []
    library.route("**/api/parts/*", lambda route: held.append(route))
    for field, typed in ((kv, "190"), (can, "63"), (resistance, "0.001")):
        field.fill(typed)
        field.press("Enter")
    expect(kv).to_have_value("190")
    expect(can).to_have_value("63")
    assert [route.request.method for route in held] == ["PUT"]  # the next waits for its answer
    held[0].continue_()
    library.unroute("**/api/parts/*")
    panel = library.get_by_test_id("part-panel")
    # The one that is refused stays in its field with the reason, and keeps nothing else back.
    expect(panel.get_by_role("alert")).to_contain_text("outside")
    expect(resistance).to_have_value("0.001")
    expect(row(library, "Capstan motor")).not_to_contain_text("needs")
    library.reload()
    row(library, "Capstan motor").click()
    expect(kv).to_have_value("190")
    expect(can).to_have_value("63")
    expect(resistance).to_have_value("")


def test_a_part_by_hand_says_what_is_assumed_and_serves_the_bench(library: Page):
    library.get_by_role("button", name="Add a part").click()
    library.get_by_label("Kind", exact=True).select_option("motors")
    library.get_by_label("Name", exact=True).fill("Winch motor")
    library.get_by_role("button", name="Add it").click()
    panel = library.get_by_test_id("part-panel")
    expect(row(library, "Winch motor")).to_contain_text("needs 1")
    expect(panel.get_by_test_id("assumed")).to_contain_text("no prediction without it")
    figure(library, "parts.motors.kv_rpm_per_v").fill("190")
    figure(library, "parts.motors.kv_rpm_per_v").press("Enter")
    figure(library, "parts.motors.can_diameter_mm").fill("2.5 in")
    figure(library, "parts.motors.can_diameter_mm").press("Enter")
    expect(panel.get_by_test_id("assumed")).to_contain_text("from can volume and KV")
    expect(figure(library, "parts.motors.can_diameter_mm")).to_have_value("63.5")
    resistance = figure(library, "parts.motors.phase_resistance_mohm")
    expect(resistance).to_have_attribute("placeholder", re.compile("≈"))
    resistance.fill("0.001")
    resistance.press("Enter")
    expect(panel.get_by_role("alert")).to_contain_text("outside")
    resistance.fill("29")
    resistance.press("Enter")
    expect(panel.get_by_test_id("assumed")).not_to_contain_text("Phase resistance")
    panel.get_by_role("button", name="undo").click()
    expect(panel.get_by_test_id("assumed")).to_contain_text("Phase resistance")
    # It is there to be chosen.
    library.get_by_role("link", name="Boards").click()
    library.get_by_role("link", name="Start a board").click()
    library.get_by_role("button", name="Choose part by part").click()
    library.get_by_test_id("station-motor").click()
    expect(library.get_by_test_id("candidate").filter(has_text="Winch motor")).to_have_count(1)


def test_a_shared_part_is_duplicated_taken_out_and_brought_back(library: Page):
    name = library.get_by_test_id("part").first.get_attribute("data-name")
    row(library, name).get_by_role("button").click()
    expect(library.get_by_test_id("part-panel").locator("input")).to_have_count(0)
    library.get_by_role("button", name="Duplicate to change it").click()
    mine = row(library, f"{name}, mine")
    expect(mine).to_contain_text("mine")
    library.get_by_role("checkbox", name="only mine").check()
    expect(library.get_by_test_id("part")).to_have_count(1)
    library.get_by_role("button", name="Delete").click()
    expect(mine).to_have_count(0)
    library.get_by_role("button", name="Undo", exact=True).click()
    expect(mine).to_have_count(1)


def test_a_file_is_looked_at_row_by_row_and_the_good_ones_are_kept(library: Page):
    file = {"name": "parts.csv", "mimeType": "text/csv", "buffer": FILE.encode()}
    library.get_by_test_id("parts-import").set_input_files(files=[file])
    dialog = library.get_by_role("dialog")
    expect(dialog.get_by_test_id("offer")).to_have_count(3)
    expect(dialog.locator('[data-outcome="broken"]').filter(has_text="Broken motor")).to_contain_text("15 to 6000")
    expect(dialog.locator('[data-outcome="broken"]').filter(has_text="Winch motor")).to_contain_text("must be a number")
    dialog.get_by_role("button", name="Import 1").click()
    expect(dialog).to_contain_text("Imported, except these rows")
    with library.expect_download() as given:
        dialog.get_by_role("button", name="Save rows with errors").click()
    rest = given.value.path().read_text("utf-8-sig")
    assert "'=1+1" in rest, "what is given back runs in no spreadsheet either"
    dialog.get_by_role("button", name="Close").last.click()
    library.get_by_role("checkbox", name="only mine").check()
    expect(row(library, "Jetty motor")).to_have_count(1)
    mended = rest.replace("Broken motor,2,", "Mended motor,120,").replace("'=1+1", "50")
    library.get_by_test_id("parts-import").set_input_files(files=[{**file, "buffer": mended.encode()}])
    dialog.get_by_role("button", name="Import 2").click()
    expect(library.get_by_test_id("part")).to_have_count(3)
    with library.expect_download() as given:
        library.get_by_role("button", name="Files").click()
        library.get_by_role("menuitem", name="Export my parts as JSON").click()
    assert {p["name"] for p in json.loads(given.value.path().read_text())["parts"]} == {
        "Jetty motor",
        "Mended motor",
        "Winch motor",
    }


def test_many_parts_come_by_the_page_and_are_found_by_name(library: Page):
    lines = "\n".join(f"motors,Motor number {i:03},{100 + i},63" for i in range(400))
    text = "part,name,kv_rpm_per_v,can_diameter_mm\n" + lines
    file = {"name": "parts.csv", "mimeType": "text/csv", "buffer": text.encode()}
    library.get_by_test_id("parts-import").set_input_files(files=[file])
    library.get_by_role("button", name="Import 400").click()
    library.get_by_role("checkbox", name="only mine").check()
    library.get_by_role("navigation", name="Kinds of part").get_by_role("button", name="Motor 400").click()
    expect(library.get_by_test_id("part")).to_have_count(40)
    library.get_by_role("button", name="Show more: 40 of 400").click()
    expect(library.get_by_test_id("part")).to_have_count(80)
    library.get_by_label("Find by name or maker").fill("number 39")
    expect(library.get_by_test_id("part")).to_have_count(14)  # 039 to 339, and 390 to 399


def test_on_a_phone_a_part_is_read_above_the_table(library: Page):
    library.set_viewport_size({"width": 390, "height": 844})
    library.get_by_test_id("part").last.get_by_role("button").click()
    expect(library.get_by_test_id("part-panel")).to_be_in_viewport()
    assert library.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
