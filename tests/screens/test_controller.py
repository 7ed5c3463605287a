"""A controller on the bench in a real browser: read, set, read back; broken, and brought back from the record alone."""

import json

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.accessibility import check_accessibility
from tests.screens.conftest import expect_saved, figure, to_page

pytestmark = pytest.mark.screens
SLOW = 60_000


@pytest.fixture
def record(bench):
    def open_controller_settings(document: dict = SPIT_RUNNER) -> Page:
        page = bench(document)
        to_page(page, "Controller settings")
        page.get_by_test_id("setting").first.wait_for()
        return page

    return open_controller_settings


def read(page: Page) -> None:
    page.get_by_test_id("controller").get_by_role("button", name="Read").click()
    expect(page.get_by_test_id("step")).to_have_count(0, timeout=SLOW)
    expect(page.get_by_test_id("held")).to_be_visible(timeout=SLOW)


def confirm(page: Page, why: str, *, first: bool = False) -> dict[str, str]:
    """Opens the confirmation, gives what it lists, and confirms it."""
    page.get_by_test_id("set").click()
    dialog = page.get_by_role("dialog")
    if first:
        check_accessibility(page)
    listed = {row.get_attribute("data-key"): row.inner_text() for row in dialog.get_by_test_id("change").all()}
    dialog.get_by_label("Why").fill(why)
    dialog.get_by_role("button", name="Set these").click()
    expect(page.get_by_test_id("controller")).to_have_attribute("data-state", "done", timeout=SLOW)
    return listed  # type: ignore[return-value]  # a figure has its path


def let_go_wrong(page: Page, what: str) -> None:
    trials = page.get_by_test_id("trials")
    if trials.get_attribute("open") is None:
        trials.locator("summary").click()
    trials.get_by_label("While it is set").select_option(label=what)
    trials.get_by_role("button", name="Apply").click()
    expect(page.get_by_test_id("step")).to_have_count(0, timeout=SLOW)


def test_from_a_build_to_a_controller_that_is_set_and_read_back_and_after_a_reset_from_the_record(record):
    page = record()
    page.get_by_role("button", name="Use all").click()
    expect_saved(page)
    read(page)
    # Out of its box it counts five cells: that is found before anything is ridden.
    expect(page.locator('[data-testid="as-set-finding"][data-id="controller-cells-mismatch"]')).to_contain_text("5")
    listed = confirm(page, "first set-up", first=True)
    assert "5" in listed["cells_in_series"]
    assert "10" in listed["cells_in_series"]
    expect(page.get_by_test_id("written")).to_contain_text("Written, read back, the same. Saved as settings record 1.")
    expect(page.get_by_role("link", name="Open Bench test")).to_be_visible()
    expect(page.get_by_test_id("held")).to_contain_text("has all")
    first = page.locator('[data-testid="settings-record"][data-number="1"]')
    expect(first).to_contain_text("read back from the controller")
    # A reset, and somebody has played with what was wanted meanwhile: the record alone brings it back.
    page.get_by_test_id("trials").locator("summary").click()
    page.get_by_role("button", name="Reset it to its factory values").click()
    expect(page.get_by_test_id("held")).to_contain_text("wanted values differ", timeout=SLOW)
    figure(page, "settings.motor_current_a").fill("20")
    figure(page, "settings.motor_current_a").press("Enter")
    expect_saved(page)
    page.get_by_role("button", name="Use record 1 again").click()
    expect_saved(page)
    expect(page.get_by_test_id("set")).to_be_visible()
    confirm(page, "after a reset")
    expect(page.get_by_test_id("written")).to_contain_text("Saved as settings record 2.")
    page.get_by_label("The first record").select_option("1")
    page.get_by_label("The other record").select_option("2")
    expect(page.get_by_test_id("between")).to_have_text("Nothing: both say the same.")
    check_accessibility(page)


def test_a_half_written_controller_is_said_and_mended(record):
    page = record()
    page.get_by_role("button", name="Use all").click()
    read(page)
    let_go_wrong(page, "its current fails while it keeps the values")
    confirm(page, "first set-up")
    expect(page.get_by_test_id("not-written")).to_contain_text("is only partly written")
    expect(page.get_by_test_id("unsettled")).to_contain_text("Do not ride")
    expect(page.get_by_test_id("settings-record")).to_have_count(0)
    page.reload()
    expect(page.get_by_test_id("unsettled")).to_contain_text("Do not ride")
    let_go_wrong(page, "nothing")
    confirm(page, "once more")
    expect(page.get_by_test_id("written")).to_contain_text("Saved as settings record 1.")
    expect(page.get_by_test_id("unsettled")).to_have_count(0)


def test_the_controller_finds_out_about_its_motor(record):
    page = record(changed(SPIT_RUNNER, {"parts.motors.kv_rpm_per_v": 170}))
    page.get_by_role("button", name="Let the controller detect").click()
    expect(page.get_by_test_id("detection")).to_contain_text("Hall order 1 3 2 6 4 5", timeout=SLOW)
    expect(figure(page, "detected.0.flux_linkage_mwb")).not_to_have_value("")
    page.get_by_test_id("detection-finding").get_by_role("button", name="Use the detected value").click()
    expect_saved(page)


def test_a_photo_hangs_on_a_sheet(record, tmp_path):
    from PIL import Image

    Image.new("RGB", (600, 400), (180, 140, 90)).save(tmp_path / "jumper.jpg")
    page = record()
    page.get_by_label("Why", exact=True).fill("as the jumper says")
    page.get_by_role("button", name="Save entry").click()
    first = page.locator('[data-testid="settings-record"][data-number="1"]')
    first.get_by_test_id("attach-1").set_input_files(tmp_path / "jumper.jpg")
    picture = first.get_by_role("img", name="jumper.jpg")
    expect(picture).to_be_visible()
    picture.scroll_into_view_if_needed()
    expect(picture).to_have_js_property("naturalWidth", 600)
    (tmp_path / "noise.jpg").write_bytes(b"\x00\x01\x02")
    first.get_by_test_id("attach-1").set_input_files(tmp_path / "noise.jpg")
    expect(first.get_by_role("alert")).to_contain_text("It needs a photo (JPEG, PNG, WebP), a PDF or plain text.")
    first.get_by_role("button", name="Remove jumper.jpg").click()
    expect(picture).to_have_count(0)


TWO = changed(SPIT_RUNNER, {"parts.controller.units": 2, "parts.motors.count": 2, "parts.drive.driven_wheels": 2})


def test_two_controllers_are_each_set_as_their_motor_needs_it(record):
    page = record(TWO)
    page.get_by_role("button", name="Use all").click()
    directions = page.locator('[data-testid="setting"][data-field="directions"]')
    expect(directions).to_have_attribute("data-stand", "as recommended")
    expect(directions).to_contain_text("forward, controller 2 reversed")
    expect(figure(page, "settings_apart.0.directions")).to_have_value("reversed")
    read(page)
    listed = confirm(page, "first set-up")
    assert "1: forward, 2: reversed" in listed["directions"]
    assert "51\xa0A" in listed["motor_current_a"]
    assert ":" not in listed["motor_current_a"], "what both get stands there once"
    expect(page.get_by_test_id("written")).to_contain_text("Saved as settings record 1")
    expect(page.get_by_test_id("held")).to_contain_text("has all")
    expect(directions).to_contain_text("in the controllers: 1: forward, 2: reversed")
    first = page.locator('[data-testid="settings-record"][data-number="1"]')
    expect(first).to_contain_text("Different: directions of controller 2 reversed")
    page.get_by_role("button", name="undo").click()
    expect(figure(page, "settings_apart.0.directions")).to_have_count(0)
    expect(first.get_by_role("button", name="Use record 1 again")).to_be_visible()
    first.get_by_role("button", name="Use record 1 again").click()
    expect(figure(page, "settings_apart.0.directions")).to_have_value("reversed")


def test_two_controllers_that_are_not_alike_are_written_down_apart(record):
    page = record(TWO)
    brake = page.locator('[data-testid="setting"][data-field="motor_brake_a"]')
    brake.get_by_role("button", name="Brake current", exact=True).click()
    brake.get_by_role("button", name="Set controller 2 separately").click()
    figure(page, "settings_apart.0.motor_brake_a").fill("20")
    figure(page, "settings_apart.0.motor_brake_a").press("Enter")
    page.get_by_label("Why", exact=True).fill("as found")
    page.get_by_role("button", name="Save entry").click()
    first = page.locator('[data-testid="settings-record"][data-number="1"]')
    expect(first).to_contain_text("Different: brake current of controller 2 20 A")
    wanted, as_set = (
        page.locator(f'[data-testid="{which}"][data-id="unalike-2-motor-brake-a"]')
        for which in ("settings-finding", "as-set-finding")
    )
    expect(wanted).to_contain_text("40 A in the first, 20 A in controller 2")
    wanted.get_by_role("button", name="Set it as on the first").click()
    # Wanted alike now; what was written down is not so before it is set again.
    expect(wanted).to_have_count(0)
    expect(as_set).to_contain_text("40 A in the first, 20 A in controller 2")
    with page.expect_download() as given:
        page.get_by_role("link", name="Settings record 1, JSON").click()
    assert json.loads(given.value.path().read_text())["apart"] == [{"motor_brake_a": 20}]
