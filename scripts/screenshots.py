"""The pictures in docs/screenshots, from the demonstration in a fresh database."""

from cluster import ROOT
from playwright.sync_api import Page, sync_playwright
from serving import demonstration
from walking import launch, open_board, to_page

PICTURES = ROOT / "docs" / "screenshots"


def enter(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("button", name="Enter the demo workshop").click()
    page.get_by_test_id("board-listed").first.wait_for()


def bench(page: Page, name: str, station: str) -> None:
    open_board(page, name, "Design")
    page.get_by_test_id("gauge-speed").wait_for()
    page.get_by_test_id(f"station-{station}").click()


def take(page: Page, name: str) -> None:
    page.wait_for_timeout(700)
    page.screenshot(path=PICTURES / f"{name}.png")
    print(f"docs/screenshots/{name}.png")


def pictures(address: str) -> None:
    with sync_playwright() as playwright:
        browser = launch(playwright)
        wide = {"width": 1280, "height": 800}
        page = browser.new_page(viewport=wide)
        enter(page, address)
        take(page, "boards")
        page.get_by_role("link", name="New board").click()
        page.get_by_test_id("question").first.wait_for()
        take(page, "new-board")
        page.get_by_role("link", name="Boards").click()
        bench(page, "Hide round", "motor")
        page.get_by_test_id("candidate").first.wait_for()
        page.get_by_test_id("line").wait_for()
        take(page, "design")
        to_page(page, "Curves")
        page.get_by_test_id("plot-thrust").wait_for()
        take(page, "curves")
        to_page(page, "Drawings")
        page.get_by_test_id("drawing-drive").wait_for()
        take(page, "drawings")
        to_page(page, "Explore")
        page.get_by_label("Motor", exact=False).first.check()
        page.get_by_label("Controller", exact=False).first.check()
        page.get_by_label("Motors", exact=False).last.check()
        page.get_by_role("button", name="Search").click()
        page.get_by_test_id("says").wait_for()
        page.get_by_role("button", name="Search").wait_for(timeout=60_000)
        page.evaluate("scrollTo(0, 0)")
        take(page, "explore")
        page.get_by_role("link", name="Sand Pocket").click()
        page.get_by_role("link", name="Library").click()
        page.get_by_role("button", name="Winch motor without a label, 63 mm").click()
        page.get_by_test_id("assumed").wait_for()
        take(page, "library")
        page.get_by_role("link", name="Boards").click()
        open_board(page, "Old light")
        page.get_by_test_id("step").first.wait_for()
        take(page, "overview")
        to_page(page, "Parts list")
        page.get_by_test_id("list-line").first.wait_for()
        take(page, "parts-list")
        page.get_by_role("link", name="Sand Pocket").click()
        open_board(page, "Hide round", "Rides")
        page.get_by_test_id("ride-line").filter(has_text="7.3 km").get_by_role("button").first.click()
        page.get_by_test_id("judged-figure").wait_for()
        page.get_by_test_id("ride-card").evaluate("e => e.scrollIntoView({ block: 'center' })")
        take(page, "rides")
        to_page(page, "Calibration")
        page.get_by_test_id("calibrated-input").first.wait_for()
        take(page, "calibration")
        for title, there, name in (
            ("Trips", "timetable", "trips"),
            ("Maintenance", "task", "maintenance"),
            ("Review", "outcome-kept", "review"),
        ):
            to_page(page, title)
            page.get_by_test_id(there).first.wait_for()
            take(page, name)
        page.get_by_role("link", name="Sand Pocket").click()
        open_board(page, "Hide round", "Controller settings")
        page.get_by_test_id("setting").first.wait_for()
        page.get_by_test_id("controller").get_by_role("button", name="Read").click()
        page.get_by_test_id("set").wait_for(timeout=60_000)
        take(page, "controller-settings")
        page.get_by_role("link", name="Sand Pocket").click()
        open_board(page, "Ferry steps")
        for title, there in (("Cells", "groups"), ("Pack", "links"), ("Wiring", "guards")):
            to_page(page, title)
            page.get_by_test_id(there).first.wait_for()
            take(page, title.lower())
        phone = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
        enter(phone, address)
        open_board(phone, "Ferry steps")
        to_page(phone, "Assembly")
        phone.get_by_test_id("step-card").wait_for()
        phone.locator('[data-check="far-1"] input').fill("1.6")
        phone.locator('[data-check="far-1"] input').press("Enter")
        phone.locator('[data-testid="judged"][data-verdict="wrong"]').wait_for()
        phone.evaluate("document.getElementById('step-title').scrollIntoView()")
        take(phone, "assembly-phone")
        browser.close()


if __name__ == "__main__":
    PICTURES.mkdir(parents=True, exist_ok=True)
    with demonstration() as running:
        pictures(running)
