"""Rides, by touch and by mouse: written down in five seconds, brought in, judged, learnt from, taken back."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_tracks import gpx, ridden
from tests.screens.conftest import ask, board_named, bring
from tests.server.conftest import photo

pytestmark = pytest.mark.screens
BOARD = changed(SPIT_RUNNER, {"assumptions.wind_ms": None, "stage": "riding", "name": "Season"})


def open_rides(page: Page, build: dict = BOARD) -> str:
    """A board of one's own with its rides open; its id."""
    id = bring(page, build, "rides")
    page.get_by_test_id("ride-entry").wait_for()
    return id


def arrived(page: Page, id: str) -> list[dict]:
    """The rides at the server, once nothing waits here any more."""
    expect(page.get_by_test_id("rides-waiting")).to_have_count(0)
    return ask(page, "GET", f"/builds/{id}/rides")["rides"]


def half_width(page: Page, id: str) -> float:
    document = ask(page, "GET", f"/builds/{id}")["document"]
    found = ask(page, "POST", "/predict", {"document": document, "board": id})["range_to_cutoff_km"]
    return (found["high"] - found["low"]) / 2 / found["mid"]


def write(page: Page, km: str, before: str, after: str) -> None:
    page.get_by_label("Distance, km").fill(km)
    page.get_by_label("Volts before, V").fill(before)
    page.get_by_label("Volts after, V").fill(after)
    page.get_by_role("button", name="Save ride").tap()


def test_a_ride_is_written_down_in_four_touches_and_judged(phone: Page):
    """Three figures and one button: the day is today's. What it says stands at once, and is judged when it has arrived."""
    id = open_rides(phone)
    phone.evaluate("window.touches = 0; addEventListener('pointerdown', () => window.touches++, true)")
    for label, text in (("Distance, km", "11.2"), ("Volts before, V", "41.6"), ("Volts after, V", "37.9")):
        phone.get_by_label(label).tap()
        phone.keyboard.type(text)
    phone.get_by_role("button", name="Save ride").tap()
    assert phone.evaluate("window.touches") == 4
    expect(phone.get_by_test_id("ride-line")).to_contain_text("11.2 km")
    (ride,) = arrived(phone, id)
    assert ride["ride"]["pack"] == {"start_v": 41.6, "end_v": 37.9}
    expect(phone.get_by_test_id("judged-figure")).to_have_attribute("data-what", "end_v")
    phone.get_by_test_id("ride-photo-file").set_input_files(
        [{"name": "wall.jpg", "mimeType": "image/jpeg", "buffer": photo((1600, 1200))}]
    )
    expect(phone.get_by_test_id("photos").locator("li")).to_have_attribute("data-unsent", "false")


@pytest.mark.installed
def test_what_is_written_down_without_network_arrives_once(phone: Page):
    id = open_rides(phone)
    phone.evaluate("navigator.serviceWorker.ready.then(() => true)")
    phone.get_by_role("button", name="How far?").tap()
    phone.get_by_label("Volts now").wait_for()
    phone.get_by_label("Views of the rides").get_by_role("button", name="Rides").tap()
    phone.context.set_offline(True)
    write(phone, "6.4 mi", "41.5", "37.2")
    write(phone, "8", "41.5", "38.6")
    expect(phone.get_by_test_id("rides-waiting")).to_contain_text("2 entries wait")
    phone.reload()
    expect(phone.get_by_test_id("ride-line")).to_have_count(2)
    # Whether it goes home is asked where there is no network.
    phone.get_by_role("button", name="How far?").tap()
    phone.get_by_label("Volts now").fill("38")
    expect(phone.get_by_test_id("how-far")).to_contain_text(re.compile(r"At least [\d.]+\s+km, 80 % likely"))
    phone.get_by_label("Way home").fill("90")
    expect(phone.get_by_test_id("how-far")).to_contain_text("Home: under 10 % likely")
    phone.get_by_label("Views of the rides").get_by_role("button", name="Rides").tap()
    phone.context.set_offline(False)
    rides = arrived(phone, id)
    assert sorted(round(r["ride"]["way"]["distance_km"], 1) for r in rides) == [8.0, 10.3]
    phone.reload()
    expect(phone.get_by_test_id("ride-line")).to_have_count(2)
    assert len(arrived(phone, id)) == 2


def test_a_track_is_dropped_in_its_runs_found_and_the_bands_shrink(own: Page):
    page = own
    id = open_rides(page)
    before = half_width(page, id)
    usual, out, back = 6.0, 9.6, 9.0
    speeds = [usual] * 200 + [out] * 15 + [usual] * 120 + [back] * 15 + [usual] * 200
    track = gpx(ridden(speeds, [2.0] * len(speeds), turn_at=270))
    page.get_by_test_id("track-file").set_input_files(
        [
            {"name": "wall.gpx", "mimeType": "application/gpx+xml", "buffer": track},
            {"name": "poem.gpx", "mimeType": "application/gpx+xml", "buffer": b"<gpx>no end"},
        ]
    )
    pieces = page.get_by_test_id("brought")
    expect(pieces.filter(has_text="poem")).to_contain_text("XML that cannot be read")
    wall = pieces.filter(has_text="wall.gpx")
    expect(wall.get_by_role("checkbox")).to_have_count(1)
    expect(wall).to_contain_text("flat out both ways")
    wall.get_by_role("button", name="Save as a ride").click()
    expect(page.get_by_test_id("track-plots")).to_be_visible()
    (ride,) = arrived(page, id)
    assert ride["track"]
    assert ride["ride"]["runs"][0]["kind"] == "speed"
    # The same file once more is the same track.
    page.get_by_test_id("track-file").set_input_files([{"name": "again.gpx", "mimeType": "x", "buffer": track}])
    expect(pieces.filter(has_text="again.gpx")).to_contain_text("imported before, with its ride")
    # A ride to the cut-off narrows the range everywhere: on the bench too.
    page.get_by_role("button", name="Tests").click()
    page.get_by_role("button", name="To the cut-off").click()
    guide = page.get_by_test_id("guide-range")
    guide.get_by_label("Distance, km").fill("24.4")
    guide.get_by_role("button", name="Save entry").click()
    expect(page.get_by_test_id("ride-line")).to_have_count(2)
    arrived(page, id)
    assert half_width(page, id) < 0.6 * before
    page.goto(f"/builds/{id}/calibration")
    expect(page.get_by_test_id("calibrated-from")).to_contain_text("2 rides")
    range_ = page.locator('[data-testid="calibrated-outcome"][data-result="cut_off"]')
    expect(range_).to_contain_text("before")
    riding = page.locator('[data-testid="calibrated-input"][data-input="riding"]')
    expect(riding).to_contain_text("to the cut-off")
    expect(riding).to_contain_text("also counts for your next board")


def test_a_wrong_ride_is_left_out_and_what_it_taught_is_gone(own: Page):
    page = own
    id = open_rides(page)
    untaught = half_width(page, id)
    rides = [
        {"ride": {"day": f"2026-05-{d:02d}", "way": {"distance_km": 24.0 + d / 50}, "pack": {"ended": "cut_off"}}}
        for d in (2, 9, 16, 23)
    ]
    rides.append({"ride": {"day": "2026-06-06", "way": {"distance_km": 14.0}, "pack": {"ended": "cut_off"}}})
    ask(page, "POST", f"/builds/{id}/rides", {"rides": rides})
    page.reload()
    odd = page.get_by_test_id("ride-line").filter(has_text="6 Jun 2026")
    expect(odd).to_contain_text("contradicts the rest")
    odd.get_by_role("button").first.click()
    expect(odd.get_by_test_id("judged-figure")).to_have_attribute("data-inside", "false")
    expect(odd).to_contain_text("It would fit with")
    expect(odd).to_contain_text("kilometres were miles")
    odd.get_by_role("button", name="Exclude it").click()
    odd.get_by_label("Why?").fill("read off in miles")
    odd.get_by_role("button", name="Skip it").click()
    expect(odd.get_by_test_id("left-out")).to_contain_text("read off in miles")
    arrived(page, id)
    taught = half_width(page, id)
    assert taught < 0.5 * untaught
    # Taken away and brought back by one word at the foot.
    odd.get_by_role("button", name="Delete the ride of").click()
    expect(page.get_by_test_id("ride-line")).to_have_count(4)
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_test_id("ride-line")).to_have_count(5)
    assert len(arrived(page, id)) == 5


def test_the_demonstrations_season_says_what_was_learnt_from_which_ride(demo: Page):
    page = demo
    id = board_named(page, "Hide round")
    page.goto(f"/builds/{id}/calibration")
    road = page.locator('[data-testid="calibrated-input"][data-input="crr"]')
    expect(road).to_contain_text("roll out on the jetty road")
    before, now = (
        int(p.rstrip(" %"))
        for p in page.locator('[data-result="range"]').inner_text().split("±")[1:3]
        for p in [p.split("%")[0]]
    )
    assert now < before / 2
    page.goto(f"/builds/{id}")
    expect(page.get_by_text("22 rides")).to_be_visible()
    # Every screen of a board with no rides says what it is for.
    page.goto(f"/builds/{board_named(page, 'Stile carry')}/calibration")
    expect(page.get_by_text("Your own riding is known from Hide round")).to_be_visible()
