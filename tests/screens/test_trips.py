"""Trips in a real browser: typed and from a track, what helps done, the card, on a phone too."""

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_tracks import METRE, gpx
from tests.screens.conftest import expect_saved, figure, to_page

pytestmark = pytest.mark.screens
BOARD = changed(SPIT_RUNNER, {"assumptions.wind_ms": None, "stage": "riding"})


def fill(page: Page, path: str, text: str) -> None:
    figure(page, path).fill(text)
    figure(page, path).press("Enter")


def plan(page: Page, km: str) -> None:
    to_page(page, "Trips")
    page.get_by_role("button", name="Plan a trip").click()
    fill(page, "trips.0.name", "To the light")
    fill(page, "trips.0.days.0.legs.0.distance_km", km)
    page.get_by_label("Direction").select_option(label="West")


def test_a_trip_is_planned_mended_and_kept(bench):
    page = bench(BOARD)
    plan(page, "36")
    says = page.get_by_test_id("trip-says")
    expect(says).to_be_visible(timeout=60_000)
    before = float(says.get_attribute("data-chance"))
    assert before < 0.5
    expect(page.get_by_test_id("turn-back")).to_contain_text("Turn back by")
    expect(page.get_by_test_id("carry")).to_contain_text("A spare belt")
    page.get_by_test_id("help").filter(has_text="second pack").get_by_role("button", name="Apply").click()
    expect(says).not_to_have_attribute("data-chance", str(before))
    expect(figure(page, "trips.0.packs_beside")).to_have_value("1")
    expect_saved(page)
    # A plug half way, then another day; a figure that cannot be is refused where it stands.
    page.get_by_label("Stop at the end").select_option(label="stay the night")
    expect(page.get_by_test_id("trip-point").nth(1)).to_contain_text("the night")
    page.get_by_role("button", name="Another day").click()
    expect(page.get_by_test_id("trip-day")).to_have_count(2)
    fill(page, "trips.0.days.1.legs.0.distance_km", "900")
    expect(page.locator('[data-path="trips.0.days.1.legs.0.distance_km"]')).to_contain_text("outside")
    with page.expect_download() as taken:
        page.get_by_role("button", name="JSON", exact=True).click()
    assert taken.value.suggested_filename.endswith(".json")
    expect_saved(page)
    page.reload()
    expect(figure(page, "trips.0.name")).to_have_value("To the light")


def test_a_track_of_300_km_becomes_a_leg_on_a_phone(bench, tmp_path):
    page = bench(BOARD)
    page.set_viewport_size({"width": 390, "height": 844})
    plan(page, "3")
    way = np.linspace(0, 300_000, 30_000)
    points = [(50 + w * METRE, 8.5, 30 + 25 * np.sin(w / 4000), None) for w in way]
    (tmp_path / "long.gpx").write_bytes(gpx(points))
    page.get_by_role("button", name="Import a track").click()
    page.get_by_test_id("bring-way").set_input_files(tmp_path / "long.gpx")
    expect(page.get_by_test_id("from-track")).to_contain_text("299.8 km", timeout=60_000)
    expect(page.get_by_test_id("trip-point")).to_have_count(3, timeout=60_000)
    expect(page.get_by_test_id("trip-says")).to_contain_text("Under 5 % likely")
    expect_saved(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
