"""Building it, on a phone that lies on the bench: by touch, with the network off and on again, to the end by following
it alone.
"""

import pytest
from playwright.sync_api import Page, expect

from tests.core.assembled import board, in_the_application
from tests.screens.conftest import ask, board_named, bring, copy_demo, open_board, to_page
from tests.server.conftest import photo

pytestmark = pytest.mark.screens


def document(build=None) -> dict:
    """A board of which everything is in the house, and that is being built."""
    found = in_the_application(build or board()).model_dump(mode="json", exclude_none=True)
    return {**found, "stage": "building", "name": "Bench board"}


def open_assembly(page: Page, build: dict) -> str:
    """A board of one's own with its assembly open; its id."""
    id = bring(page, build, "assembly")
    page.get_by_test_id("step-card").wait_for()
    return id


def at_step(page: Page, id: str):
    card = page.locator(f'[data-testid="step-card"][data-step="{id}"]')
    card.wait_for()
    return card


def tick(page: Page) -> None:
    page.get_by_role("button", name="done", exact=True).tap()


def to_step(page: Page, id: str) -> None:
    page.get_by_role("button", name="All ").tap()
    page.locator(f'[data-testid="step-row"][data-step="{id}"] button').tap()
    at_step(page, id)


def at_the_server(page: Page, id: str) -> dict:
    """How the work stands at the server now, whatever still waits on the phone."""
    return ask(page, "GET", f"/builds/{id}/assembly")


def work_of(page: Page, id: str) -> dict:
    """How the work stands when all that was entered has arrived."""
    expect(page.get_by_test_id("log-waiting")).to_have_count(0)
    return at_the_server(page, id)


def saved(page: Page) -> None:
    expect(page.get_by_test_id("saving")).to_have_attribute("data-saving", "saved")


def test_a_way_that_is_chosen_is_the_way_of_the_steps_and_of_the_next_board(phone: Page):
    id = open_assembly(phone, document())
    to_step(phone, "box-inserts")
    expect(phone.get_by_role("heading", level=2)).to_contain_text("threads in the deck")
    phone.get_by_test_id("method").get_by_role("button").tap()
    phone.get_by_role("radio", name="T-nuts from above").check()
    saved(phone)
    phone.get_by_role("button", name="Steps", exact=True).tap()
    expect(phone.get_by_role("heading", level=2)).to_contain_text("T-nuts from above for the enclosure")
    assert ask(phone, "GET", f"/builds/{id}")["document"]["methods"] == {"enclosure_fixing": "t_nuts"}
    phone.reload()
    phone.get_by_role("button", name="Methods", exact=True).tap()
    expect(phone.get_by_role("radio", name="T-nuts from above")).to_be_checked()
    # Undone like any other change, before the steps have followed.
    phone.get_by_role("radio", name="Wood screws").check()
    phone.get_by_role("button", name="undo").tap()
    expect(phone.get_by_role("radio", name="T-nuts from above")).to_be_checked()
    saved(phone)
    expect(phone.get_by_role("radio", name="T-nuts from above")).to_be_checked()


@pytest.mark.installed
def test_an_afternoon_without_network_arrives_once(phone: Page):
    id = open_assembly(phone, document())
    phone.evaluate("navigator.serviceWorker.ready.then(() => true)")
    at_step(phone, "lay-out")
    tick(phone)
    at_step(phone, "bearings")
    expect(phone.get_by_test_id("log-waiting")).to_have_count(0)
    phone.context.set_offline(True)
    for following in ("dry-trucks", "pulley-core", "dry-mount"):
        tick(phone)
        at_step(phone, following)
    phone.get_by_test_id("photo-file").set_input_files(
        [{"name": "clamp.jpg", "mimeType": "image/jpeg", "buffer": photo((1600, 1200))}]
    )
    expect(phone.get_by_test_id("photos").locator("li")).to_have_attribute("data-unsent", "true")
    phone.get_by_role("button", name="note", exact=True).tap()
    phone.get_by_role("textbox", name="Note").fill("The clamp closes on one side first.")
    phone.get_by_label("Something went wrong").tap()
    phone.get_by_role("button", name="Save entry").tap()
    expect(phone.get_by_text("The clamp closes on one side first.")).to_be_visible()
    expect(phone.get_by_test_id("log-waiting")).to_contain_text("6 entries wait")
    assert len(at_the_server(phone, id)["log"]) == 1
    # The phone is put into the pocket and taken out again: all of it is still there.
    phone.reload()
    at_step(phone, "dry-mount")
    expect(phone.get_by_test_id("log-waiting")).to_contain_text("6 entries wait")
    expect(phone.get_by_test_id("photos").get_by_role("button")).to_have_count(1)
    phone.context.set_offline(False)
    expect(phone.get_by_test_id("log-waiting")).to_have_count(0)
    expect(phone.get_by_test_id("photos").locator("li")).to_have_attribute("data-unsent", "false")
    log = work_of(phone, id)["log"]
    assert [line["kind"] for line in log].count("done") == 4
    assert len([line for line in log if line.get("photo")]) == 1
    phone.reload()
    at_step(phone, "dry-mount")
    assert len(work_of(phone, id)["log"]) == len(log)


def test_what_is_no_photo_is_told_and_the_tick_stays(phone: Page):
    id = open_assembly(phone, document())
    tick(phone)
    at_step(phone, "bearings")
    phone.get_by_test_id("photo-file").set_input_files(
        [{"name": "poem.jpg", "mimeType": "image/jpeg", "buffer": b"no picture at all"}]
    )
    expect(phone.get_by_role("alert")).to_contain_text("no photo that can be read")
    assert [line["kind"] for line in work_of(phone, id)["log"]] == ["done"]


def test_a_belt_that_would_be_thrown_is_measured_again(phone: Page):
    build = document()
    id = open_assembly(phone, build)
    to_step(phone, "belt-line")
    for check, value in (("near-1", "0.4"), ("far-1", "1.6")):
        field = phone.locator(f'[data-check="{check}"] input')
        field.fill(value)
        field.press("Enter")
    expect(phone.get_by_test_id("judged")).to_have_attribute("data-verdict", "wrong")
    expect(phone.get_by_test_id("judged")).to_contain_text("comes off on the first ride")
    expect(phone.get_by_role("button", name="measure again")).to_be_visible()
    expect(phone.get_by_test_id("step-picture").get_by_role("img")).to_have_accessible_name(
        "Seen from above: a straight edge on the wheel pulley’s face reaches past the motor pulley. The "
        "gap is 0.4 mm on the near "
        "side and 1.6 mm on the far side, drawn 5 times larger."
    )
    for check, value in (("near-1", "0.1"), ("far-1", "0.01 in")):
        phone.locator(f'[data-check="{check}"] input').fill(value)
        phone.locator(f'[data-check="{check}"] input').press("Enter")
    expect(phone.get_by_test_id("judged")).to_have_attribute("data-verdict", "right")
    phone.locator('[data-check="near-1"] input').fill("4 m")
    phone.locator('[data-check="near-1"] input').press("Enter")
    expect(phone.locator('[data-check="near-1"]').get_by_role("alert")).to_contain_text("in another unit?")
    assert work_of(phone, id)["report"]["odd"] == 0


def test_a_measure_feeds_the_model_and_a_changed_pulley_opens_what_stands_on_it(phone: Page):
    id = open_assembly(phone, document())
    tick(phone)
    to_step(phone, "belt-tension")
    teeth = phone.locator('[data-check="teeth"] input')
    teeth.fill("57")
    teeth.press("Enter")
    expect(phone.get_by_text("The model counts with what you measured.")).to_be_visible()
    saved(phone)
    now = ask(phone, "GET", f"/builds/{id}")
    assert now["document"]["parts"]["drive"]["belt_teeth"] == 57
    # Two steps that stand on the pulley, and one that does not; then another pulley.
    steps = {s["id"]: s for s in work_of(phone, id)["report"]["steps"]}
    for step in ("bearings", "dry-trucks", "pulley-core", "dry-mount", "dry-motor", "dry-belt"):
        phone.goto(f"/builds/{id}/assembly?at={step}")
        at_step(phone, step)
        tick(phone)
        expect(phone.get_by_test_id("log-waiting")).to_have_count(0)
    assert steps["dry-belt"]["facts"]["parts.drive.wheel_teeth"] == 42
    to_page(phone, "Design")
    phone.get_by_test_id("station-drive").tap()
    phone.get_by_role("button", name="Drive’s figures").tap()
    field = phone.locator('[data-path="parts.drive.wheel_teeth"] input')
    field.fill("36")
    field.press("Enter")
    saved(phone)
    to_page(phone, "Assembly")
    at_step(phone, "pulley-core")
    expect(phone.get_by_test_id("again")).to_contain_text("42")
    expect(phone.get_by_test_id("again")).to_contain_text("36")
    phone.get_by_role("button", name="All ").tap()
    rows = phone.get_by_test_id("step-row")
    assert {r.get_attribute("data-step") for r in rows.all() if r.get_attribute("data-state") == "again"} == {
        "pulley-core",
        "dry-mount",
        "dry-belt",
    }
    phone.locator('[data-testid="step-row"][data-step="pulley-core"] button').tap()
    phone.get_by_role("button", name="Checked: still right").tap()
    expect(phone.locator('[data-testid="step-card"][data-step="pulley-core"]')).to_have_attribute("data-state", "done")


def test_a_late_parcel_blocks_its_steps_and_frees_them(phone: Page):
    build = document()
    build["parts"]["wheels"] = {**build["parts"]["wheels"], "owned": None, "name": "Big wheels"}
    build["parts"]["wheels"]["purchase"] = {"status": "late"}
    id = open_assembly(phone, build)
    tick(phone)
    at_step(phone, "dry-trucks")
    to_step(phone, "bearings")
    expect(phone.get_by_test_id("parcels")).to_contain_text("Big wheels: late")
    expect(phone.get_by_role("button", name="done", exact=True)).to_be_disabled()
    phone.get_by_role("button", name="When", exact=True).tap()
    expect(phone.get_by_test_id("held")).to_contain_text("Big wheels")
    expect(phone.get_by_test_id("today")).not_to_contain_text("Press in the bearings")
    phone.get_by_role("link", name="Open Parts list").tap()
    phone.get_by_role("button", name="Big wheels: Here").tap()
    saved(phone)
    phone.goto(f"/builds/{id}/assembly?at=bearings")
    at_step(phone, "bearings")
    expect(phone.get_by_test_id("parcels")).to_have_count(0)
    expect(phone.get_by_role("button", name="done", exact=True)).to_be_enabled()


def test_the_half_built_demo_board_is_finished_by_following_it_alone(phone: Page):
    copy_demo(phone)
    id = board_named(phone, "Ferry steps")
    phone.goto(f"/builds/{id}/assembly")
    at_step(phone, "belt-line")
    expect(phone.get_by_test_id("trouble").first).to_contain_text("Hide round")
    for _ in range(40):
        if phone.get_by_test_id("finished").count():
            break
        before = phone.get_by_test_id("step-card").get_attribute("data-step")
        tick(phone)
        expect(
            phone.locator(f'[data-testid="step-card"]:not([data-step="{before}"]), [data-testid="finished"]').first
        ).to_be_visible()
    expect(phone.get_by_test_id("finished")).to_be_visible()
    expect(phone.get_by_test_id("log-waiting")).to_have_count(0)
    report = work_of(phone, id)["report"]
    assert [s["id"] for s in report["steps"] if s["state"] not in ("done", "left_out")] == []
    to_page(phone, "First ride")
    for _ in range(20):
        card = phone.get_by_test_id("step-card")
        card.wait_for()
        before = card.get_attribute("data-step")
        if before == "fr-write":
            break
        tick(phone)
        phone.locator(f'[data-testid="step-card"]:not([data-step="{before}"])').wait_for()
    ride = phone.get_by_role("form", name="The ride")
    ride.get_by_label("Distance").fill("4 mi")
    ride.get_by_label("Volts before").fill("400")
    ride.get_by_role("button", name="Save ride").tap()
    expect(ride).to_contain_text("outside")
    ride.get_by_label("Volts before").fill("40.6")
    ride.get_by_label("Volts after").fill("38.9")
    ride.get_by_role("button", name="Save ride").tap()
    expect(phone.locator('[data-testid="step-card"][data-step="fr-write"]')).to_have_attribute("data-state", "done")
    rides = ask(phone, "GET", f"/builds/{id}/assembly?page=first-ride")["rides"]
    assert rides[0]["km"] == pytest.approx(6.44, abs=0.01)


def test_at_the_desk_a_wish_becomes_a_second_version(own: Page):
    open_assembly(own, document())
    own.locator("summary", has_text="More with this step").click()
    own.get_by_role("button", name="I would change…").click()
    own.get_by_label("Why", exact=True).fill("It crawls up the ramp")
    own.get_by_label("Which figure").select_option(label="drive: Motor pulley teeth")
    field = own.locator('[data-path="parts.drive.motor_teeth"] input')
    field.fill("13")
    field.press("Enter")
    expect(own.get_by_test_id("effect")).to_contain_text("Speed −")
    own.get_by_role("button", name="Save entry").click()
    expect(own.get_by_test_id("wish").filter(has_text="It crawls up the ramp")).to_contain_text("13")
    own.get_by_role("button", name="Make the second version with these changes").click()
    own.get_by_role("heading", name="Next steps").wait_for()
    expect(own.get_by_test_id("board-name")).to_contain_text("Bench board, second version")


def test_a_step_is_moved_and_a_tool_is_told(demo: Page):
    open_board(demo, "Hide round", "Assembly")
    rows = demo.get_by_test_id("step-row")
    rows.first.wait_for()
    demo.locator(
        '[data-testid="step-row"][data-step="covers"], [data-testid="step-row"][data-step="foam"]'
    ).first.click()
    before = [r.get_attribute("data-step") for r in rows.all()]
    demo.locator("summary", has_text="More with this step").click()
    demo.get_by_role("button", name="Do this before").click()
    expect(rows.nth(before.index("foam") - 1)).to_have_attribute("data-step", "foam")
    demo.get_by_role("button", name="Tools", exact=True).click()
    tool = demo.locator('[data-tool="straight_edge"]')
    tool.get_by_role("button", name="buy").click()
    tool.get_by_label("costs").fill("12,50")
    tool.get_by_label("costs").press("Enter")
    expect(demo.get_by_test_id("tools-sum")).to_contain_text("12.50")


def test_who_knows_why_ticks_lines(phone: Page):
    """The short form: a line is ticked and taken back, its explanation is one touch away, and a caution stays."""
    open_assembly(phone, document())
    phone.get_by_role("checkbox", name="Short form").check()
    lines = phone.get_by_test_id("short-list")
    line = lines.get_by_role("checkbox", checked=False).first
    title = line.get_attribute("aria-label") or ""
    line.check()
    expect(lines.get_by_role("checkbox", name=title, exact=True)).to_be_checked()
    lines.get_by_role("button", name=title, exact=True).click()
    expect(phone.get_by_test_id("step-card")).to_have_attribute("data-state", "done")
    phone.get_by_role("button", name="Back to the short form").click()
    expect(lines.locator(".text-short").first).to_contain_text("!")
    phone.reload()
    expect(lines.get_by_role("checkbox", name=title, exact=True)).to_be_checked()
    to_page(phone, "Bench test")
    free = phone.locator('[data-key="wheels_free"]')
    expect(phone.get_by_role("checkbox", name="Short form")).to_be_checked()
    free.get_by_role("button", name="Yes").click()
    expect(free).to_have_attribute("data-verdict", "passes")
