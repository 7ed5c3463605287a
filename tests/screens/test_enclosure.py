"""The box's room, and the four ways in which a board begins, in a real browser."""

import json

import pytest
import trimesh
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import expect_saved, figure, open_board, to_page

pytestmark = pytest.mark.screens


def test_a_box_is_changed_and_taken_away(bench, tmp_path):
    own = bench(changed(SPIT_RUNNER, {"parts.enclosure.depth_mm": 40}))
    to_page(own, "Enclosure")
    box = own.get_by_test_id("box-enclosure")
    expect(box.get_by_test_id("box-piece")).to_have_count(1)
    before = box.get_by_test_id("box-numbers").inner_text()
    figure(own, "parts.enclosure.bed_length_mm").fill("300")
    figure(own, "parts.enclosure.bed_length_mm").press("Enter")
    expect(box.get_by_test_id("box-piece")).to_have_count(2)
    figure(own, "parts.enclosure.seat").select_option("moulded")
    expect(box.get_by_test_id("foam")).to_have_count(0)
    expect(box.get_by_text("The rim follows the deck’s curves")).to_be_visible()
    assert box.get_by_test_id("box-numbers").inner_text() != before, "the rim rises with the deck"
    expect_saved(own)
    with own.expect_download() as down:
        box.get_by_role("button", name="STL").first.click()
    solid = trimesh.load_mesh(down.value.path(), file_type="stl")
    assert solid.is_watertight
    assert max(solid.extents) < 300
    own.get_by_test_id("undo").or_(own.get_by_role("button", name="undo")).first.click()
    expect(box.get_by_test_id("foam").first).to_be_visible()


def test_a_box_that_cannot_be_made_leads_to_where_it_is_mended(demo: Page):
    open_board(demo, "Old light", "Enclosure")
    expect(demo.get_by_role("alert")).to_contain_text("do not fit")
    demo.get_by_role("link", name="Change it on the Design page").click()
    expect(figure(demo, "parts.enclosure.length_mm")).to_be_focused()


def test_answers_about_a_board_that_is_there_outlive_a_reload_and_a_bad_one_says_why(own: Page):
    own.goto("/new-board?way=existing")
    figure(own, "parts.charger.v").fill("900")
    figure(own, "parts.charger.v").press("Enter")
    expect(own.get_by_role("alert")).to_contain_text("outside")
    figure(own, "parts.charger.v").fill("25.2")
    figure(own, "parts.charger.v").press("Enter")
    own.get_by_label("Deck", exact=True).check()
    own.reload()
    expect(figure(own, "parts.charger.v")).to_have_value("25.2")
    expect(own.get_by_label("Deck", exact=True)).to_be_checked()


def test_a_part_typed_at_a_station_is_kept_and_found_again(bench):
    own = bench(SPIT_RUNNER)
    own.get_by_test_id("station-wheels").click()
    own.get_by_role("button", name="Wheels’ figures").click()
    figure(own, "parts.wheels.diameter_mm").fill("104")
    figure(own, "parts.wheels.diameter_mm").press("Enter")
    own.get_by_role("button", name="Save it to your library").click()
    own.get_by_label("Called").fill("Wheels off an old board")
    own.get_by_role("button", name="Keep it", exact=True).click()
    expect(own.get_by_text("is in your library")).to_be_visible()
    own.get_by_role("button", name="Choose wheels").click()
    row = own.locator('[data-testid="candidate"][data-name="Wheels off an old board"]')
    expect(row).to_be_visible()


def test_a_line_of_ones_own_and_a_part_that_came_in_a_kit(bench):
    own = bench(SPIT_RUNNER)
    to_page(own, "Parts list")
    own.get_by_role("button", name="Add a line").click()
    own.get_by_label("What").fill("Paint for the deck")
    own.get_by_role("textbox", name="Price").fill("12,50")
    own.get_by_role("button", name="Add to the list").click()
    expect(own.locator('[data-path="parts.extras.1"]')).to_contain_text("12.50")
    for name, path in (("motors", "parts.motors"), ("remote", "parts.remote")):
        line = own.locator(f'[data-path="{path}"]')
        line.get_by_role("button", name="More for").click()
        own.get_by_role("menuitem", name="Came in a kit…").click()
        if name == "motors":
            own.get_by_label("Name of the kit").fill("Drive kit")
        own.get_by_role("button", name="Part of this kit").click()
        expect(line).to_have_count(0)
    kit = own.locator('[data-path="parts.kits.0"]')
    expect(kit).to_contain_text("brings motor, remote")
    expect_saved(own)
    document = own.evaluate("fetch(`/api/builds/${location.pathname.split('/')[2]}`).then((r) => r.json())")["document"]
    assert [k["name"] for k in document["parts"]["kits"]] == ["Drive kit"]
    assert json.dumps(document).count("Drive kit") == 3


def test_the_underside_is_measured_place_by_place(bench):
    own = bench(SPIT_RUNNER)
    own.get_by_test_id("station-deck").click()
    own.get_by_role("button", name="Deck’s figures").click()
    for _ in range(2):
        own.get_by_role("button", name="Add a place").click()
    expect(own.get_by_test_id("curve-point")).to_have_count(2)
    figure(own, "parts.deck.curve.0.below_mm").fill("30")
    figure(own, "parts.deck.curve.0.below_mm").press("Enter")
    expect(own.get_by_text("The enclosure does not sit flush").first).to_be_visible()
    own.get_by_role("button", name="Remove place 1").click()
    expect(own.get_by_test_id("curve-point")).to_have_count(1)
