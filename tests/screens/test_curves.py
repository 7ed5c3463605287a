"""The line of power, the why of a number, and the curves in a real browser."""

import csv

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER
from tests.screens.conftest import figure, mid, to_page

pytestmark = pytest.mark.screens


def test_the_line_shows_which_station_gives_way(bench):
    page: Page = bench(SPIT_RUNNER)
    line = page.get_by_test_id("line")
    expect(line.locator('[data-station="volts"]')).to_contain_text("at its limit")
    page.get_by_role("button", name="The hill, 12 %").click()
    expect(line).to_have_attribute("data-moment", "hill")
    expect(line.locator('[data-station="wheel"]')).to_contain_text("at its limit")
    page.get_by_role("button", name="Cruising").click()
    expect(line.get_by_text("at its limit")).to_have_count(0)


def test_every_number_opens_to_where_it_comes_from(bench):
    page: Page = bench(SPIT_RUNNER)
    page.get_by_role("button", name="Why this speed?").click()
    dialog = page.get_by_role("dialog")
    picture = (dialog.get_by_role("img").first.get_attribute("aria-label") or "").replace("\u00a0", " ")
    assert picture == f"Wheels in the air 39.6 km/h; with you on the road {mid(page, 'speed'):.1f} km/h.".replace(
        ".0 km", " km"
    )
    row = dialog.get_by_role("row").filter(has_text="motor phase resistance").last
    expect(row).to_contain_text("31 mΩ")
    expect(row).to_contain_text("stated")
    expect(dialog.get_by_role("row").filter(has_text="rolling resistance").last).to_contain_text(
        "estimated: wheel kind"
    )
    expect(dialog).to_contain_text("motor detection")
    row.get_by_role("button").click()
    expect(figure(page, "parts.motors.phase_resistance_mohm")).to_be_focused()


def test_curves_have_bands_values_words_and_files(bench):
    page: Page = bench(SPIT_RUNNER)
    to_page(page, "Curves")
    for id in ("thrust", "range", "consumption", "charge", "heat", "braking"):
        expect(page.get_by_test_id(f"plot-{id}")).to_be_visible()
    plot = page.get_by_test_id("plot-range")
    picture = plot.get_by_role("img")
    assert "Range against cruising speed." in (picture.get_attribute("aria-label") or "")
    picture.focus()
    page.keyboard.press("ArrowRight")
    expect(plot.get_by_role("listitem").first).to_contain_text("km/h")
    with page.expect_download() as download:
        plot.get_by_role("button", name="Range against cruising speed as CSV").click()
    with open(download.value.path(), newline="") as file:
        rows = list(csv.reader(file))
    assert rows[0] == ["line", "cruising speed (km/h)", "range home with the reserve left (km)", "low", "high"]
    assert all(float(r[3]) <= float(r[2]) <= float(r[4]) for r in rows[1:])
    with page.expect_download() as download:
        plot.get_by_role("button", name="Range against cruising speed as SVG").click()
    with open(download.value.path()) as file:
        drawing = file.read()
    assert drawing.startswith("<svg")
    assert "var(--" not in drawing
    expect(page.get_by_role("row").filter(has_text="holds over 250 m")).to_contain_text("%")
