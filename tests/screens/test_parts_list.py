"""The parts list in a real browser: from choices to orders, on a phone in the workshop, and back from a spreadsheet."""

import csv
import io
import re

import pytest
from playwright.sync_api import Page, expect

from tests.core.boards import SPIT_RUNNER, changed
from tests.screens.conftest import expect_saved, figure, to_page

pytestmark = pytest.mark.screens

PRICED = changed(
    SPIT_RUNNER,
    {
        "currency": "EUR",
        "brief.budget": 800,
        **{
            f"parts.{part}.name": name
            for part, name in {
                "deck": "Plank",
                "motors": "Motor of 170 KV",
                "pack": "Block of thirty",
                "wheels": "Soft wheels",
            }.items()
        },
        "parts.deck.price": 85,
        "parts.motors.price": 80,
        "parts.pack.price": 182,
        "parts.wheels.price": 52,
    },
)


def line(page: Page, name: str):
    return page.get_by_test_id("list-line").filter(has_text=name)


def total(page: Page, title: str):
    return page.locator(f'[data-sum="{title}"]')


def more(page: Page, name: str, item: str) -> None:
    page.get_by_role("button", name=f"More for {name}").click()
    page.get_by_role("menuitem", name=item).click()


def put_under_new_shop(page: Page, part: str, shop: str) -> None:
    page.get_by_label(f"Where {part} is bought").select_option("+")
    page.get_by_label("Name of the shop or order").fill(shop)
    page.get_by_role("button", name="Add", exact=True).last.click()
    page.get_by_role("heading", name=shop).wait_for()


@pytest.fixture
def parts(bench):
    def open_list(document: dict = PRICED) -> Page:
        page = bench(document)
        to_page(page, "Parts list")
        page.get_by_test_id("list-line").first.wait_for()
        return page

    return open_list


def test_choices_become_a_list_that_adds_up(parts):
    page = parts()
    expect(total(page, "still to spend")).to_have_text("413.00 €")  # 85 + 80 + 182 + 52, and bearings at 14
    more(page, "Block of thirty", "Already owned")
    expect(total(page, "still to spend")).to_have_text("231.00 €")
    expect(total(page, "already owned")).to_have_text("182.00 €")
    expect(total(page, "total value")).to_have_text("413.00 €")
    # A foreign shop: the builder's own rate, shipping, tax.
    put_under_new_shop(page, "Motor of 170 KV", "Over the water")
    more(page, "Motor of 170 KV", "Price, days, notes")
    figure(page, "parts.motors.currency").fill("GBP")
    figure(page, "parts.motors.currency").press("Enter")
    expect(line(page, "Motor of 170 KV")).to_contain_text("no rate from GBP to EUR")
    rate = page.get_by_test_id("rate-GBP").locator("input")
    rate.fill("1.17")
    rate.press("Enter")
    expect(line(page, "Motor of 170 KV")).to_contain_text("93.60 €")
    group = page.get_by_test_id("group").filter(has=page.get_by_role("heading", name="Over the water"))
    group.get_by_role("button", name="Shipping, duty, tax").click()
    for path, typed in {"orders.0.shipping": "10", "orders.0.tax_pct": "21"}.items():
        figure(page, path).fill(typed)
        figure(page, path).press("Enter")
    page.get_by_role("button", name="Done").click()
    expect(group.get_by_test_id("order-total")).to_have_text("125.36 €")  # (93.60 + 10.00) x 1.21
    expect_saved(page)
    page.reload()
    expect(group.get_by_test_id("order-total")).to_have_text("125.36 €")


def test_what_is_forgotten_is_proposed_with_its_reason(parts):
    page = parts()
    belt = page.locator('[data-testid="small-part"][data-id="spare-belts"]')
    expect(belt).to_contain_text("carry one spare for each motor")
    belt.get_by_role("button", name="Add").click()
    expect(line(page, "Spare belt")).to_have_count(1)
    expect(belt).to_have_count(0)
    page.get_by_role("button", name=re.compile("Threadlocker.* is not needed")).click()
    expect(page.get_by_text("1 said not to be needed.")).to_be_visible()
    expect(page.locator('[data-testid="small-part"][data-id="threadlocker"]')).to_have_count(0)
    left = page.get_by_test_id("small-part").count()
    page.get_by_role("button", name=f"Add all {left} to the list").click()
    expect(page.get_by_test_id("small-part")).to_have_count(0)
    page.get_by_role("button", name="undo").click()
    expect(page.get_by_test_id("small-part")).to_have_count(left)


def test_ordering_and_arrival_on_a_phone(parts):
    page = parts()
    page.set_viewport_size({"width": 390, "height": 844})
    for name in ("Plank", "Soft wheels"):
        if name == "Plank":
            put_under_new_shop(page, name, "Tern Street")
        else:
            page.get_by_label(f"Where {name} is bought").select_option("Tern Street")
    page.get_by_role("button", name="All ordered").click()
    for name in ("Plank", "Soft wheels"):
        expect(line(page, name)).to_have_attribute("data-state", "ordered")
    expect(page.get_by_text("276.00 € still to spend")).to_be_visible()
    group = page.get_by_test_id("group").filter(has=page.get_by_role("heading", name="Tern Street"))
    group.get_by_role("button", name="Shipping, duty, tax").click()
    figure(page, "orders.0.due_on").fill("2026-01-31")
    page.get_by_role("button", name="Done").click()
    expect(line(page, "Plank")).to_have_attribute("data-state", "late")
    expect(line(page, "Plank")).to_contain_text("days late")
    page.get_by_role("button", name="Plank: here").click()
    expect(line(page, "Plank")).to_have_attribute("data-state", "arrived")
    more(page, "Soft wheels", "Here, and faulty")
    expect(line(page, "Soft wheels")).to_contain_text("Faulty")
    more(page, "Soft wheels", "Replacement arrived")
    expect(line(page, "Soft wheels")).to_have_attribute("data-state", "replaced")
    expect(total(page, "spent or ordered")).to_have_text("137.00 €")
    size = page.get_by_role("button", name="Plank: here").bounding_box()
    assert size is not None
    assert min(size["width"], size["height"]) >= 24, "WCAG 2.2, target size: 24 x 24 CSS pixels"
    expect_saved(page)


def test_a_bought_part_that_is_replaced_on_the_bench_is_left_over(parts):
    page = parts()
    page.get_by_role("button", name="Motor of 170 KV: ordered").click()
    expect_saved(page)
    to_page(page, "Design")
    page.get_by_test_id("station-motor").click()
    page.get_by_test_id("candidate").nth(2).click()
    expect_saved(page)
    to_page(page, "Parts list")
    left = page.locator('[data-testid="group"][data-group="left"]')
    expect(left).to_contain_text("Motor of 170 KV")
    expect(total(page, "of it no longer on the board")).to_have_text("80.00 €")


def test_a_ready_made_board_stands_beside_it(parts):
    page = parts()
    section = page.get_by_test_id("ready-made")
    section.get_by_role("button", name="Enter one").click()
    wanted = {
        "price": "600",
        "shipping": "40",
        "tax_pct": "21",
        "range_km": "12 mi",
        "mass_kg": "7.5",
        "pack_wh": "150",
    }
    for key, typed in wanted.items():
        figure(page, f"ready_made.{key}").fill(typed)
        figure(page, f"ready_made.{key}").press("Enter")
    theirs = section.get_by_test_id("theirs")
    expect(theirs.get_by_test_id("gauge-money")).to_have_attribute("data-mid", "774.4")  # (600 + 40) x 1.21
    expect(theirs.get_by_test_id("gauge-range")).to_have_attribute("data-verdict", "on target")  # 19.3 km of 14
    expect(section).to_contain_text("You pay 361.40 € less")


def test_the_list_goes_to_a_spreadsheet_and_back(parts):
    page = parts()
    with page.expect_download() as given:
        page.get_by_role("button", name="CSV", exact=True).click()
    rows = list(csv.DictReader(io.StringIO(given.value.path().read_text("utf-8-sig"), newline="")))
    for row in rows:
        if row["part"] == "deck":
            row.update(price="79.50", status="arrived")
        if row["part"] == "pack":
            row.update(status="lost")
    out = io.StringIO()
    writer = csv.DictWriter(out, rows[0].keys())
    writer.writeheader()
    writer.writerows(rows)
    file = {"name": "list.csv", "mimeType": "text/csv", "buffer": out.getvalue().encode()}
    page.get_by_test_id("list-import").set_input_files(files=[file])
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("1 cannot be used")
    expect(dialog.get_by_test_id("read-row").filter(has_text="Block of thirty")).to_contain_text(
        "status: must be one of"
    )
    dialog.get_by_role("button", name="Import 1").click()
    expect(line(page, "Plank")).to_contain_text("79.50 €")
    expect(line(page, "Plank")).to_have_attribute("data-state", "arrived")
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(line(page, "Plank")).to_contain_text("85.00 €")
    # Its way back goes with the list: on another page it would undo something else, or nothing.
    page.get_by_test_id("list-import").set_input_files(files=[file])
    dialog.get_by_role("button", name="Import 1").click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_visible()
    to_page(page, "Design")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_have_count(0)
