"""Where a board stands over the API: owners, records of all rooms, the list of boards, and the reader's day."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.core.boards import SPIT_RUNNER, changed

HERE = {
    **{f"parts.{p}.purchase.status": "arrived" for p in SPIT_RUNNER["parts"] if p != "extras"},
    "parts.extras.0.owned": True,
    "stage": "building",
    "accepted": [{"finding": "full-pack-brakes", "reason": "flat kilometres come first"}],
}
BUILDING = changed(SPIT_RUNNER, HERE)


def stands(workshop, build, document=None):
    return workshop.send("POST", f"/builds/{build['id']}/overview", {"document": document or build["document"]})


def ids(workshop, build, document=None):
    return [s["id"] for s in stands(workshop, build, document).json()["steps"]]


def write_down(workshop, build, on="2026-04-05", settings=None):
    body = {"settings": settings or build["document"]["settings"], "on": on, "by": "x", "reason": "set up"}
    answer = workshop.send("POST", f"/builds/{build['id']}/controller-settings", body)
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_it_follows_what_the_page_have_kept(workshop):
    build = workshop.new(BUILDING)
    assert "set" in ids(workshop, build)
    write_down(workshop, build)
    found = ids(workshop, build)
    assert "set" not in found
    assert "bench-test" in found
    workshop.send("PATCH", f"/builds/{build['id']}/bench-test", {"changes": {"wheels_free": True}})
    answer = stands(workshop, build).json()
    assert next(s for s in answer["steps"] if s["id"] == "bench-test")["title"]["text"] == "Continue the bench test"
    assert any("record 1" in e["what"]["text"] for e in answer["recent"])
    assert {p["name"] for p in answer["outcomes"]} == {"speed", "hill", "range", "carry", "money"}


def test_what_is_not_saved_yet_counts_already(workshop):
    build = workshop.new(BUILDING)
    wrong = changed(BUILDING, {"settings.cells_in_series": 5})
    assert ids(workshop, build, wrong)[0] == "controller-cells-mismatch"
    assert ids(workshop, build)[0] != "controller-cells-mismatch"


def test_what_was_set_and_goes_against_the_board_comes_first(workshop):
    build = workshop.new(BUILDING)
    write_down(workshop, build, settings={**BUILDING["settings"], "cells_in_series": 5})
    assert ids(workshop, build)[0] == "set-controller-cells-mismatch"
    row = workshop.send("GET", "/boards").json()["builds"][0]
    assert row["dangers"] == 1
    assert row["next"]["id"] == "set-controller-cells-mismatch"


def test_it_is_the_owners_alone(workshop, other_workshop):
    build = workshop.new(BUILDING)
    assert stands(other_workshop, build).status_code == 404
    assert other_workshop.send("GET", "/boards").json()["builds"] == []


def test_a_fuller_boards_asks_the_database_no_oftener(workshop):
    def asked() -> int:
        with CaptureQueriesContext(
            connection,
        ) as queries:
            workshop.send("GET", "/boards")
        return len(queries)

    write_down(workshop, workshop.new(BUILDING))
    one = asked()
    for _ in range(4):
        write_down(workshop, workshop.new(BUILDING))
    assert asked() == one


@pytest.mark.parametrize(("zone", "hours"), [("Pacific/Kiritimati", 14), ("Etc/GMT+12", -12)])
def test_today_is_the_readers_today(workshop, zone, hours):
    """On Kiritimati it is tomorrow for most of the day; at the other end it is still yesterday for half of it."""
    build = workshop.new(BUILDING)
    there = datetime.now(ZoneInfo(zone)).date()
    assert there == (datetime.now(UTC) + timedelta(hours=hours)).date()

    def set_on(day):
        body = {"settings": BUILDING["settings"], "on": day.isoformat(), "by": "x", "reason": "set up"}
        return workshop.client.post(
            f"/api/builds/{build['id']}/controller-settings",
            body,
            content_type="application/json",
            headers={"X-Time-Zone": zone},
        ).status_code

    assert set_on(there) == 200
    assert set_on(there + timedelta(days=1)) == 422


def test_a_zone_that_is_none_is_no_fault(workshop):
    workshop.new(BUILDING)
    for name in ("Atlantis/Harbour", "../../etc/passwd", "x" * 500, ""):
        assert workshop.client.get("/api/boards", headers={"X-Time-Zone": name}).status_code == 200


def test_two_testers_meet(workshop):
    build = workshop.new(BUILDING)
    at = f"/builds/{build['id']}/bench-test"

    def enter(value, was):
        return workshop.send("PATCH", at, {"changes": {"pack_v": value}, "was": {"pack_v": was}})

    assert enter(40.1, None).status_code == 200
    assert enter(40.1, None).status_code == 200, "the same entry sent again is no clash"
    met = enter(39.4, None)
    assert met.status_code == 409
    assert met.json()["overtaken"] == ["pack_v"]
    assert met.json()["entered"]["pack_v"] == 40.1
    assert enter(39.4, 40.1).status_code == 200
    gone = workshop.send("PATCH", at, {"changes": {"pack_v": None}, "was": {"pack_v": 40.1}})
    assert gone.json()["overtaken"] == ["pack_v"], "what was taken as it stood before does not go silently either"
    motor = workshop.send("PATCH", at, {"changes": {"motors.0.erpm": 4e4}, "was": {"motors.0.erpm": None}})
    assert motor.status_code == 200
