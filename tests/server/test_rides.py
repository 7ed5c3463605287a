"""Rides at the server: each once, nobody else's, and what they teach is in every room at once."""

import json
from datetime import timedelta
from uuid import uuid4

import pytest

from boardmath.messages import written
from server.calibration.models import Lesson
from server.rides.models import Ride, Track
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_tracks import gpx, ridden
from tests.server.conftest import NOON, Workshop
from tests.server.papers import pages_of, text_of

pytestmark = pytest.mark.django_db
BOARD = changed(SPIT_RUNNER, {"assumptions.wind_ms": None})


def a_ride(day: str = "2026-05-04", km: float = 24.0, **said):
    return {"id": str(uuid4()), "day": day, "way": {"distance_km": km}, "pack": {"ended": "cut_off"}, **said}


def send(who: Workshop, id: str, *rides, **more):
    return who.send("POST", f"/builds/{id}/rides", {"rides": [{"ride": r, **more} for r in rides]})


def band(who: Workshop, document=BOARD, board: str | None = None) -> float:
    body = {"document": document} | ({"board": board} if board else {})
    found = who.send("POST", "/predict", body).json()["range_to_cutoff_km"]
    return (found["high"] - found["low"]) / 2 / found["mid"]


def test_a_ride_stands_once_however_often_it_is_sent(workshop):
    id = workshop.new(BOARD)["id"]
    ride = a_ride()
    for _ in range(3):
        answer = send(workshop, id, ride).json()
    assert len(answer["rides"]) == 1
    assert answer["sums"]["km"] == 24.0
    again = send(workshop, id, {**ride, "way": {"distance_km": 25.0}}, before=ride).json()
    assert [r["ride"]["way"]["distance_km"] for r in again["rides"]] == [25.0]
    gone = workshop.send("DELETE", f"/builds/{id}/rides/{ride['id']}").json()
    assert gone["rides"] == []
    assert len(send(workshop, id, ride).json()["rides"]) == 1, "sent again it is back"


def test_a_ride_changed_elsewhere_since_is_not_written_over(workshop):
    id = workshop.new(BOARD)["id"]
    ride, other = a_ride(), a_ride(day="2026-05-05")
    send(workshop, id, ride)
    shorter, noted = {**ride, "way": {"distance_km": 23.0}}, {**ride, "note": "headwind"}
    assert send(workshop, id, shorter, before=ride).json()["changed"] == []
    body = {"rides": [{"ride": noted, "before": ride}, {"ride": other}]}
    late = workshop.send("POST", f"/builds/{id}/rides", body).json()
    assert late["changed"] == [ride["id"]]
    assert {r["id"]: r["ride"].get("note") for r in late["rides"]} == {ride["id"]: None, other["id"]: None}
    assert send(workshop, id, noted).json()["changed"] == [ride["id"]], "nor where nobody says what was there"
    now = late["rides"][0]["ride"]
    both = send(workshop, id, {**now, "note": "headwind"}, before=now).json()
    assert both["changed"] == []
    assert (both["rides"][0]["ride"]["way"]["distance_km"], both["rides"][0]["ride"]["note"]) == (23.0, "headwind")


def test_what_cannot_be_is_named_and_holds_up_no_other(workshop):
    id = workshop.new(BOARD)["id"]
    good = a_ride()
    tomorrow = (NOON + timedelta(days=9)).date().isoformat()
    answer = send(
        workshop, id, {"day": "2026-05-04"}, a_ride(pack={"end_v": 22.0}), a_ride(km=-4), a_ride(day=tomorrow), good
    ).json()
    assert [r["id"] for r in answer["rides"]] == [good["id"]]
    reasons = [f["reason"] for r in answer["refused"] for f in r["faults"]]
    for word in ("one measurement", "not of this pack", "outside", "not come yet"):
        assert any(word in r for r in reasons), word


def test_bands_shrink_in_every_room_at_once_and_come_back(workshop):
    id = workshop.new(BOARD)["id"]
    before = band(workshop, board=id)
    ride = a_ride()
    send(workshop, id, ride, a_ride("2026-05-11", 24.8))
    after = band(workshop, board=id)
    assert after < 0.55 * before
    outcomes = workshop.send("GET", "/boards").json()["builds"][0]["headline"]["outcomes"]
    ranged = next(p for p in outcomes if p["name"] == "range")
    assert (ranged["high"] - ranged["low"]) / 2 / ranged["mid"] < 0.6 * before
    for path in ("/curves", "/charging", "/candidates", f"/builds/{id}/overview"):
        more = {"kind": "wheels"} if path == "/candidates" else {}
        assert workshop.send("POST", path, {"document": BOARD, "board": id, **more}).status_code == 200
    why = workshop.send("POST", "/predict", {"document": BOARD, "board": id}).json()["why"]["range"]["inputs"]
    assert "rides" in {i["origin"] for i in why}
    calibration = workshop.send("GET", f"/builds/{id}/calibration").json()
    assert calibration["rides"] == 2
    assert {i["input"] for i in calibration["inputs"]} >= {"riding"}
    assert next(t["id"] for t in calibration["of"]) == ride["id"]
    # One is left out, and it is as if it had not been.
    left = {**ride, "left_out": "flat tyre"}
    send(workshop, id, left, before=ride)
    one = workshop.send("GET", f"/builds/{id}/calibration").json()
    assert (one["rides"], one["left_out"]) == (1, 1)
    assert after < band(workshop, board=id) < before
    # The saved build never carries it.
    assert "calibration" not in workshop.send("GET", f"/builds/{id}").json()["document"]


def test_what_is_the_riders_own_is_carried_to_the_next_board(workshop, other_workshop):
    id = workshop.new(BOARD)["id"]
    alone = band(other_workshop)
    send(workshop, id, *[a_ride(f"2026-05-{d:02d}", 24.0 + d / 40) for d in range(4, 12, 2)])
    hub = changed(BOARD, {"parts.wheels.diameter_mm": 100, "name": "The next"})
    assert band(workshop, hub) < 0.9 * band(other_workshop, hub)
    assert band(other_workshop) == alone, "somebody else's rides teach nobody here"
    other = workshop.new(hub)["id"]
    told = workshop.send("GET", f"/builds/{other}/calibration").json()
    assert told["boards"] == ["Spit runner"]


def test_a_board_changed_since_was_another_board_then(workshop):
    id = workshop.new(BOARD)["id"]
    send(workshop, id, a_ride(runs=[{"kind": "speed", "kmh": [35, 36]}]))
    workshop.send("POST", f"/builds/{id}/revisions", {"name": "As ridden", "note": ""})
    other = changed(BOARD, {"parts.motors.kv_rpm_per_v": 140})
    revision = workshop.send("GET", f"/builds/{id}").json()["revision"]
    workshop.send("PUT", f"/builds/{id}", {"revision": revision, "document": other})
    (line,) = workshop.send("GET", f"/builds/{id}/rides").json()["rides"]
    assert line["revision"] == "As ridden"
    calibration = workshop.send("GET", f"/builds/{id}/calibration").json()
    assert all(f["inside"] for r in calibration["judged"] for f in r["figures"] if f["what"] == "speed_kmh")
    assert "kv" not in {i["input"] for i in calibration["inputs"]}, "it was another motor"


def test_the_first_ride_of_the_log_is_the_first_ride(workshop):
    id = workshop.new({**BOARD, "stage": "building"})["id"]
    rode = {
        "kind": "rode",
        "id": str(uuid4()),
        "at": "2026-05-04T10:00:00Z",
        "by": "plover",
        "day": "2026-05-04",
        "km": 3.2,
    }
    workshop.send("POST", f"/builds/{id}/assembly", {"entries": [rode]})
    (line,) = workshop.send("GET", f"/builds/{id}/rides").json()["rides"]
    assert (line["ride"]["title"], line["ride"]["way"]["distance_km"]) == ("First ride", 3.2)
    assert workshop.send("DELETE", f"/builds/{id}/rides/{rode['id']}").json()["rides"] == []


def test_rides_go_out_as_a_file_and_come_in_once(workshop):
    id = workshop.new(BOARD)["id"]
    send(workshop, id, a_ride(note="gusts {on} the wall"), a_ride("2026-05-09", 11))
    file = workshop.send("GET", f"/builds/{id}/rides/file").content
    assert json.loads(file)["format"] == "sand-pocket/rides"
    copy = workshop.new(BOARD)["id"]
    for _ in range(2):
        answer = workshop.send("POST", f"/builds/{copy}/rides/file", file).json()
    assert len(answer["rides"]) == 2
    assert "{on}" in answer["rides"][0]["ride"]["note"]
    assert workshop.send("POST", f"/builds/{copy}/rides/file", b'{"format": "x"}').status_code == 422


def test_a_track_is_read_once_and_tells_a_ride(workshop, other_workshop):
    id = workshop.new(BOARD)["id"]
    data = gpx(ridden([5.0] * 300, [2.0] * 300))
    made = workshop.made(f"/builds/{id}/rides/tracks?name=wall.gpx", data).json()
    assert made["ride"]["day"] == "2026-05-04"
    assert made["ride"]["way"]["distance_km"] == pytest.approx(1.5, rel=0.01)
    again = workshop.made(f"/builds/{id}/rides/tracks?name=other.gpx", data).json()
    assert (again["id"], again["again"]) == (made["id"], True)
    ride = {**made["ride"], "id": str(uuid4())}
    answer = send(workshop, id, ride, track=made["id"]).json()
    assert answer["rides"][0]["track"] == made["id"]
    plot = workshop.send("GET", f"/rides/tracks/{made['id']}").json()
    assert len(plot["columns"]["speed"]) == 300
    assert workshop.send("GET", f"/rides/tracks/{made['id']}/line?form=svg").content.startswith(b"<svg")
    assert workshop.send("GET", f"/rides/tracks/{made['id']}/line?form=png").content.startswith(b"\x89PNG")
    assert b"<trkpt" in workshop.send("GET", f"/rides/tracks/{made['id']}/line?form=gpx").content
    assert workshop.send("GET", f"/rides/tracks/{made['id']}/line?cut_m=900").status_code == 422
    assert other_workshop.send("GET", f"/rides/tracks/{made['id']}").status_code == 404
    workshop.send("DELETE", f"/rides/tracks/{made['id']}")
    assert not Track.objects.exists()
    assert Ride.objects.count() == 1


def test_a_table_is_asked_about_once(workshop):
    id = workshop.new(BOARD)["id"]
    table = "mood;wind\n" + "".join(f"{i};{20 + i % 4}\n" for i in range(60))
    asked = workshop.made(f"/builds/{id}/rides/tracks?name=log.csv", table.encode()).json()
    assert asked["table"]["head"] == ["mood", "wind"]
    assert "say which column is which" in asked["fault"]
    mapping = json.dumps({"time": {"name": "mood", "unit": "s"}, "speed": {"name": "wind", "unit": "km/h"}})
    told = workshop.made(f"/builds/{id}/rides/tracks?name=log.csv&mapping={mapping}", table.encode()).json()
    assert told["summary"]["distance_km"] == pytest.approx(0.36, rel=0.05)
    other = table.replace("20", "21")
    assert workshop.made(f"/builds/{id}/rides/tracks?name=b.csv", other.encode()).json()["summary"], "remembered"


def test_what_is_no_track_is_told_and_keeps_nothing(workshop):
    id = workshop.new(BOARD)["id"]
    ended = workshop.ask(f"/builds/{id}/rides/tracks?name=a.gpx", b"<gpx><trk>")
    assert ended["state"] != "done"
    assert "XML" in json.dumps(ended)
    assert workshop.send("POST", f"/builds/{id}/rides/tracks", b"").status_code == 422
    assert not Track.objects.exists()


def test_a_claim_is_held_against_what_is_known(workshop):
    id = workshop.new(BOARD)["id"]
    told = workshop.send("POST", "/claim", {"document": BOARD, "board": id, "claim": "60 km on a charge"}).json()
    assert told["chance"] < 0.1
    assert told["leaves_out"]
    assert workshop.send("POST", "/claim", {"document": BOARD, "claim": "fast"}).status_code == 422


def test_a_thousand_rides_are_listed_and_learnt_from_once(workshop, django_assert_max_num_queries):
    id = workshop.new(BOARD)["id"]
    for first in (0, 500):
        send(
            workshop,
            id,
            *[
                a_ride(f"2025-{1 + i % 12:02d}-{1 + i % 28:02d}", 11 + i % 5, pack={})
                for i in range(first, first + 500)
            ],
        )
    with django_assert_max_num_queries(16):
        answer = workshop.send("GET", f"/builds/{id}/rides").json()
    assert len(answer["rides"]) == 1000
    assert len(answer["sums"]["months"]) == 12
    band(workshop, board=id)
    kept = Lesson.objects.get(build=id).key
    band(workshop, board=id)
    assert Lesson.objects.get(build=id).key == kept


def test_the_simulated_controller_rides_a_board_like_this_one_and_the_log_tells_its_road(workshop):
    id = workshop.new(BOARD)["id"]
    made = workshop.ask(f"/builds/{id}/rides/simulated")
    assert made["state"] == "done", made
    told = workshop.send("GET", f"/track-imports/{made['id']}").json()
    kinds = {r["kind"] for r in told["ride"]["runs"]}
    assert kinds == {"speed", "hill", "coast"}
    assert told["summary"]["stops"] == 2
    (rolled,) = told["rolled"]
    assert 0.006 < rolled["crr"] < 0.035
    assert 0.3 < rolled["cda_m2"] < 1.0
    assert rolled["crr_error"] < 0.3 * rolled["crr"]
    empty = workshop.send("POST", "/builds", {"name": "Nothing yet"}).json()["id"]
    assert workshop.ask(f"/builds/{empty}/rides/simulated")["state"] == "failed"


def test_a_controllers_log_of_a_ride_that_is_there_is_joined_to_its_track(workshop):
    id = workshop.new(BOARD)["id"]
    made = workshop.made(f"/builds/{id}/rides/tracks?name=wall.gpx", gpx(ridden([5.0] * 300, [2.0] * 300))).json()
    ride = {**made["ride"], "id": str(uuid4())}
    send(workshop, id, ride, track=made["id"])
    rows = "".join(f"2026-05-04T08:{i // 60:02d}:{i % 60:02d}Z,18,{40.5 - i // 60 / 10},4\n" for i in range(120))
    log = workshop.made(
        f"/builds/{id}/rides/tracks?name=log.csv", ("time,speed,voltage,current\n" + rows).encode()
    ).json()
    assert log["joined"]
    assert log["ridden"] == ride["id"]
    plot = workshop.send("GET", f"/rides/tracks/{made['id']}").json()
    assert plot["columns"]["voltage"][30] == 40.5
    assert plot["columns"]["voltage"][200] is None
    (line,) = workshop.send("GET", f"/builds/{id}/rides").json()["rides"]
    assert line["track"] == made["id"]


def test_what_another_board_has_learnt_since_is_carried_too(workshop):
    """The next board was looked at before; a ride more on the first one is known there at once, though nobody looked at the
    first.
    """
    first, other = workshop.new(BOARD)["id"], workshop.new(changed(BOARD, {"name": "The next"}))["id"]
    send(workshop, first, a_ride())
    send(workshop, other, {**a_ride("2026-05-06"), "pack": {}, "way": {"distance_km": 3}})
    one = band(workshop, board=other)
    for day in range(7, 27, 4):
        send(workshop, first, a_ride(f"2026-05-{day:02d}", 24 + day / 60))
    assert band(workshop, board=other) < 0.98 * one
    hub = changed(BOARD, {"parts.wheels.diameter_mm": 100})
    assert band(workshop, hub) < 0.9 * band(Workshop("godwit"), hub)


def test_how_far_is_asked_of_a_board_and_printed_to_be_taped_on_it(workshop, other_workshop):
    build = workshop.new({**SPIT_RUNNER, "name": "Season & more"})
    body = {"document": build["document"], "board": build["id"]}
    found = workshop.send("POST", "/how-far", body).json()
    rows = next(t["rows"] for t in found["tables"] if (t["by"], t["rested"]) == ("meter", True))
    pages = pages_of(workshop.made("/how-far/card", body))
    assert len(pages) == 1
    text = text_of(workshop.made("/how-far/card", body))
    assert "Season & more: volts at rest" in text
    full = rows[-1]["paces"][0]["km"][found["counted_on"]]
    assert " ".join(written(full, "distance").split()) in text
    assert "do not charge this pack" in text
    for path in ("/how-far", "/how-far/card"):
        assert other_workshop.send("POST", path, body).status_code == 404, "somebody else's board"
    bare = {"document": {**SPIT_RUNNER, "parts": {}, "settings": {}}}
    refused = workshop.send("POST", "/how-far", bare)
    assert (refused.status_code, refused.json()["faults"][0]["field"]) == (422, "document")
