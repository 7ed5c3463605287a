"""Maintenance and review at the server: by the rides of the log, also in the list of boards, exported and imported."""

from datetime import timedelta
from uuid import uuid4

import pytest

from server.calibration.models import Lesson
from tests.core.boards import SPIT_RUNNER, changed
from tests.server.conftest import NOON

pytestmark = pytest.mark.django_db
TODAY = NOON.date()
SPARES = {"spares": [{"id": "b", "name": "Belt", "task": "belts", "count": 1, "wanted": 1, "price": 12}]}
BOARD = changed(SPIT_RUNNER, {"stage": "riding", "maintenance": SPARES})


def ride(workshop, id: str, days_ago: int, km: float, wet: bool = False) -> None:
    day = (TODAY - timedelta(days=days_ago)).isoformat()
    said = {"id": str(uuid4()), "day": day, "way": {"distance_km": km}, "conditions": {"wet": wet}}
    workshop.send("POST", f"/builds/{id}/rides", {"rides": [{"ride": said}]})


def maintenance(workshop, id: str, document=BOARD) -> dict:
    return workshop.send("POST", f"/builds/{id}/maintenance", {"document": document}).json()


def test_what_is_due_follows_the_log_on_the_boards_too(workshop):
    id = workshop.new(BOARD)["id"]
    assert maintenance(workshop, id)["km"] == 0
    first = workshop.send("GET", "/boards").json()["builds"][0]["next"]
    assert first["id"] != "maintenance-due"
    for ago in (90, 60, 30):
        ride(workshop, id, ago, 40.0, wet=ago == 60)
    report = maintenance(workshop, id)
    belts = next(t for t in report["tasks"] if t["id"] == "belts")
    assert (belts["since_km"], belts["wet_rides"], belts["state"]) == (120, 1, "due")
    assert report["tasks"][0]["share"] >= belts["share"]
    stands = workshop.send("POST", f"/builds/{id}/overview", {"document": BOARD}).json()
    (due,) = [s for s in stands["steps"] if s["id"] == "maintenance-due"]
    assert due["title"]["text"].startswith("Due: ")
    assert due["page"] == "maintenance"


def test_what_is_seen_to_leaves_the_drawer_and_no_more_than_is_in_it(workshop):
    id = workshop.new(BOARD)["id"]
    done = {"id": "1", "task": "belts", "on": TODAY.isoformat(), "spare": "b", "count": 1, "changed": True}
    after = workshop.send("POST", f"/builds/{id}/maintenance/done", {"document": BOARD, "done": done}).json()
    assert after["maintenance"]["spares"][0]["count"] == 0
    assert after["maintenance"]["done"][0]["task"] == "belts"
    again = workshop.send("POST", f"/builds/{id}/maintenance/done", {"document": after, "done": {**done, "id": "2"}})
    assert "0 of Belt are left" in again.json()["faults"][0]["reason"]
    later = (TODAY + timedelta(days=2)).isoformat()
    refused = workshop.send(
        "POST", f"/builds/{id}/maintenance/done", {"document": BOARD, "done": {**done, "on": later}}
    )
    assert refused.json()["faults"][0]["field"] == "done.on"
    listed = workshop.send("POST", "/parts-list", {"document": after}).json()
    assert [f["record"]["name"] for f in listed["forgotten"] if f["id"] == "spare-b"] == ["Belt"]


def test_maintenance_is_somebodys_own(workshop, other_workshop):
    id = workshop.new(BOARD)["id"]
    for path in ("maintenance", "review"):
        assert other_workshop.send("POST", f"/builds/{id}/{path}", {"document": BOARD}).status_code == 404
    assert not Lesson.objects.filter(build=id).exists(), "nothing is learnt for it"


def test_the_book_is_taken_away(workshop):
    done = [{"id": "1", "task": "screws", "on": "2026-02-03", "note": "left truck"}]
    document = changed(BOARD, {"maintenance": {**SPARES, "done": done}})
    assert b"left truck" in workshop.send("POST", "/maintenance/file?form=csv", {"document": document}).content
    assert b"sand-pocket/upkeep" in workshop.send("POST", "/maintenance/file", {"document": document}).content


def test_what_it_review_and_the_page_that_is_handed_on(workshop, other_workshop):
    said = {"tools": 50, "to_say": "Take the wider belt.", "would_change": "A second motor."}
    document = changed(BOARD, {"review": said, "rider.mass_kg": 73, "parts.motors.notes": "from the neighbour"})
    id = workshop.new(document)["id"]
    ride(workshop, id, 3, 30.0)
    workshop.send("POST", f"/builds/{id}/revisions", {"name": "As planned"})
    report = workshop.send("POST", f"/builds/{id}/review", {"document": document}).json()
    assert report["planned_as"] == "As planned"
    assert report["km"] == 30
    assert report["per_km"] == pytest.approx(report["total"] / 30)
    page = workshop.made(f"/builds/{id}/review/page")
    html = b"".join(page.streaming_content) if page.streaming else page.content
    for word in (b"Take the wider belt.", b"A second motor.", b"<svg", b"Parts"):
        assert word in html
    for word in (b"neighbour", b"http://", b"https://", workshop.user.username.encode()):
        assert word not in html, word
    brought = other_workshop.send("POST", "/builds/import", html).json()
    assert brought["document"]["parts"]["motors"]["kv_rpm_per_v"] == SPIT_RUNNER["parts"]["motors"]["kv_rpm_per_v"]
    assert brought["document"]["rider"] == {"mass_kg": 75.0}
    assert workshop.made(f"/builds/{id}/review/page?form=pdf")["Content-Type"] == "application/pdf"
    broken = other_workshop.send("POST", "/builds/import", b"<!doctype html><p>hello")
    assert "contains no build" in broken.json()["faults"][0]["reason"]
