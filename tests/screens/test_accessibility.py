"""No axe violations, in both themes and on a phone, and nothing wider than the screen."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import open_board, to_room

pytestmark = pytest.mark.screens


def _clean(page: Page, *, floating: bool = False) -> None:
    page.evaluate("document.fonts.ready")
    # An open menu floats outside the landmarks on purpose; everything else is held to the best practices too.
    options = {
        "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
        "rules": {"region": {"enabled": not floating}},
    }
    # Pictures are one image with words; what they are drawn of is nobody's to read.
    found = Axe().run(page, context={"exclude": [["svg *"]]}, options=options)
    problems = [
        f"{v['id']}: {v['help']}: {[n['html'][:160] for n in v['nodes'][:3]]}" for v in found.response["violations"]
    ]
    assert not problems, "\n".join(problems)


_SMALL_TEXT = """() => {
  const small = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node; (node = walker.nextNode()); ) {
    const of = node.parentElement;
    if (!node.textContent.trim() || !of || !of.getClientRects().length) continue;
    if (of.closest('script, style, noscript, .sr-only')) continue;
    const drawn = of.closest('svg') && of.getScreenCTM ? of.getScreenCTM().d : 1;
    const size = parseFloat(getComputedStyle(of).fontSize) * drawn;
    if (size < 11.9) small.push(`${node.textContent.trim().slice(0, 30)}: ${size.toFixed(1)} px`);
  }
  return small;
}"""


def looked_at(page: Page, *, floating: bool = False) -> None:
    """Clean, legible, and nothing beside the screen."""
    _clean(page, floating=floating)
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), "wider than the screen"
    assert not page.evaluate(_SMALL_TEXT), "text under 12 px"


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize(("width", "height"), [(1280, 800), (360, 780)])
def test_every_screen_is_clean(page: Page, theme, width, height):
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").wait_for()
    expect(page.locator("html")).to_have_attribute("data-theme", "night" if theme == "dark" else "day")
    looked_at(page)
    page.get_by_role("button", name="Enter the demo workshop").click()
    page.get_by_test_id("shelf-build").first.wait_for()
    looked_at(page)
    open_board(page, "Old light")
    page.get_by_test_id("step").first.wait_for()
    looked_at(page)
    to_room(page, "Bench")
    page.get_by_test_id("staff-speed").wait_for()
    # Every sheet once; in the other lights and sizes one of each kind.
    stations = ("brief", "motor", "controller", "extras") if (theme, width) == ("light", 1280) else ("motor",)
    for station in stations:
        page.get_by_test_id(f"station-{station}").click()
        for sheet in page.get_by_role("group", name="What to see of this station").get_by_role("button").all():
            sheet.click()
            if sheet.inner_text().startswith("Choose"):
                page.get_by_test_id("candidate").first.wait_for()
            looked_at(page)


@pytest.mark.parametrize(("theme", "width", "height"), [("light", 1280, 800), ("dark", 360, 780)])
def test_drawings_and_proposals_are_clean(page: Page, theme, width, height):
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").click()
    open_board(page, "Old light", "Bench")
    page.get_by_test_id("finding").first.wait_for()
    page.get_by_test_id("station-motor").click()
    page.get_by_role("button", name="Both sides").click()
    page.get_by_role("button", name="underneath").click()
    page.get_by_role("button", name="Set aside").first.click()
    page.get_by_role("dialog").wait_for()
    looked_at(page)
    page.get_by_role("button", name="Leave it standing").click()
    page.get_by_test_id("station-brief").click()
    page.get_by_role("button", name="Propose boards").click()
    page.get_by_test_id("proposal").first.wait_for(timeout=60_000)
    looked_at(page)
    page.get_by_role("button", name="Close").click()
    to_room(page, "Drawings")
    page.get_by_test_id("drawing-drive").wait_for()
    looked_at(page)


@pytest.mark.parametrize(("theme", "width", "height"), [("light", 1280, 800), ("dark", 1280, 800), ("dark", 360, 780)])
def test_list_revisions_comparison_and_library_are_clean(page: Page, theme, width, height):
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").click()
    open_board(page, "Old light", "Bench")
    to_room(page, "Parts list")
    page.get_by_test_id("list-line").first.wait_for()
    page.get_by_role("button", name="More for Outrunner").click()
    page.get_by_role("menuitem", name="Price, days, notes").click()
    looked_at(page)
    page.get_by_role("button", name="Shipping, duty, tax").first.click()
    page.get_by_role("dialog").wait_for()
    looked_at(page)
    page.get_by_role("button", name="Done").click()
    to_room(page, "Controller sheet")
    page.get_by_test_id("setting").first.get_by_role("button").first.click()
    looked_at(page)
    to_room(page, "Revisions")
    page.get_by_test_id("revision").first.wait_for()
    for box in page.get_by_role("checkbox").all()[:2]:
        box.check()
    looked_at(page)
    page.get_by_role("button", name="What changed between them").click()
    page.get_by_test_id("plot-charge").wait_for()
    looked_at(page)
    page.get_by_role("link", name="Library").click()
    page.get_by_test_id("part").first.wait_for()
    for name in ("Outrunner 63 x 55 mm, 170 KV", "Winch motor without a label, 63 mm"):
        page.get_by_role("button", name=name).click()
        page.get_by_test_id("part-panel").get_by_role("heading", name=name).wait_for()
        looked_at(page)


@pytest.mark.parametrize(("theme", "width", "height"), [("light", 1280, 800), ("dark", 360, 780)])
def test_a_sheet_of_two_controllers_is_clean(bench, theme, width, height):
    two = {"parts.controller.units": 2, "parts.motors.count": 2, "parts.drive.driven_wheels": 2}
    page: Page = bench(changed(SPIT_RUNNER, two))
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    to_room(page, "Controller sheet")
    page.get_by_role("button", name="Take all").click()
    page.get_by_test_id("apart").wait_for()
    page.get_by_role("button", name="Brake current", exact=True).click()
    page.get_by_role("button", name="Set controller 2 apart").wait_for()
    looked_at(page)


@pytest.mark.parametrize(("theme", "width", "height"), [("light", 1280, 800), ("dark", 360, 780)])
def test_controller_and_bench_test_are_clean(page: Page, theme, width, height):
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    page.goto("/")
    page.get_by_role("button", name="Enter the demo workshop").click()
    open_board(page, "Hide round", "Bench")
    to_room(page, "Controller sheet")
    page.get_by_test_id("controller").get_by_role("button", name="Read").click()
    page.get_by_test_id("set").wait_for(timeout=60_000)
    page.get_by_test_id("trials").locator("summary").click()
    page.get_by_label("The one sheet").select_option("1")
    page.get_by_label("The other sheet").select_option("2")
    page.get_by_test_id("between").wait_for()
    looked_at(page)
    page.get_by_test_id("set").click()
    page.get_by_role("dialog").wait_for()
    looked_at(page)
    page.get_by_role("button", name="Leave it as it is").click()
    to_room(page, "Bench test")
    page.get_by_test_id("step").first.wait_for()
    for step in page.get_by_test_id("step").all():
        if step.get_by_role("button").first.get_attribute("aria-expanded") == "false":
            step.get_by_role("button").first.click()
        if step.get_attribute("data-key") in ("pack_voltage", "free_speed", "lost_link"):
            looked_at(page)


def test_dialogs_are_clean_and_keep_the_focus(demo: Page):
    demo.get_by_role("button", name="Your workshop").click()
    looked_at(demo, floating=True)
    demo.get_by_role("menuitem", name="Units and light").click()
    looked_at(demo)
    for _ in range(40):
        demo.keyboard.press("Tab")
        assert demo.evaluate("document.activeElement.closest('[role=dialog]') !== null")
    demo.keyboard.press("Escape")
    expect(demo.get_by_role("dialog")).to_have_count(0)


def test_the_bench_fits_the_screen_without_scrolling_the_page(demo: Page):
    open_board(demo, "Hide round", "Bench")
    demo.get_by_test_id("staff-speed").wait_for()
    assert demo.evaluate("document.documentElement.scrollHeight <= window.innerHeight")


def test_pictures_have_words(demo: Page):
    open_board(demo, "Hide round", "Bench")
    demo.get_by_test_id("staff-speed").wait_for()
    words = demo.get_by_test_id("staff-range").get_by_role("img").get_attribute("aria-label") or ""
    assert "The brief asks for 14 km: holds." in words
    expect(demo.get_by_role("img", name="A board 880 mm long on 90 mm wheels")).to_have_count(1)
