"""Trips at the server: kept with the board, ways from tracks, cards, and the rides that they became."""

import json
from io import BytesIO

import numpy as np
import pytest
from pypdf import PdfReader

from server.revisions.models import Revision
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_tracks import METRE, gpx

pytestmark = pytest.mark.django_db
HISTORY = {"trips", "maintenance", "review"}
TRIP = {
    "id": "t",
    "name": "Round the bay",
    "days": [
        {
            "on": "2026-06-01",
            "start": "08:30",
            "weather": {"temperature_c": 15},
            "legs": [
                {"name": "Light", "distance_km": 9, "then": {"kind": "charge", "minutes": 60}},
                {"distance_km": 6},
            ],
        }
    ],
}
BOARD = changed(SPIT_RUNNER, {"assumptions.wind_ms": None})


def test_a_board_keeps_its_trips_and_going_back_leaves_them(workshop):
    made = workshop.new(SPIT_RUNNER)
    id = made["id"]
    point = workshop.send("POST", f"/builds/{id}/revisions", {"name": "before"}).json()
    workshop.send(
        "PUT", f"/builds/{id}", {"revision": 1, "document": {**made["document"], "trips": [TRIP], "name": "Other"}}
    )
    back = workshop.send("POST", f"/builds/{id}/revisions/{point['id']}/go-back", {"revision": 2}).json()
    assert back["document"]["name"] == SPIT_RUNNER["name"]
    assert back["document"]["trips"][0]["name"] == "Round the bay"
    # The named points are what the board was: no trip is in any of them, and a copy begins without one.
    assert not [r for r in Revision.objects.all() if HISTORY & r.document.keys()]
    copied = workshop.send("POST", f"/builds/{id}/duplicate").json()
    assert not HISTORY & copied["document"].keys()
    # The file has all of it, and comes back whole.
    file = workshop.send("GET", f"/builds/{id}/file").json()
    assert file["trips"] == back["document"]["trips"]
    assert workshop.send("POST", "/builds/import", file).json()["document"]["trips"] == file["trips"]


def test_what_a_prediction_does_not_read_is_not_taken_with_it(workshop):
    answer = workshop.send("POST", "/predict", {"document": {**BOARD, "trips": [TRIP]}})
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "document.trips"


def test_a_trip_is_held_against_the_rides_of_its_days(workshop):
    id = workshop.new(BOARD)["id"]
    ask = {"document": BOARD, "board": id, "trip": TRIP}
    report = workshop.send("POST", "/trip", ask).json()
    assert not report.get("after")
    assert len(report["points"]) == 3
    ride = {"day": "2026-06-01", "way": {"distance_km": 15.2}, "pack": {"wh": 190, "end_v": 36.9}}
    other = {"day": "2026-06-03", "way": {"distance_km": 3.0}}
    for i, said in enumerate((ride, other)):
        one = {"id": f"0000000{i}-0000-4000-8000-000000000000", **said}
        workshop.send("POST", f"/builds/{id}/rides", {"rides": [{"ride": one}]})
    after = {a["what"]: a for a in workshop.send("POST", "/trip", ask).json()["after"]}
    assert after["km"]["ridden"] == 15.2
    assert after["wh"]["ridden"] == 190


def test_somebody_elses_rides_are_not_looked_at(workshop, other_workshop):
    id = workshop.new(BOARD)["id"]
    answer = other_workshop.send("POST", "/trip", {"document": BOARD, "board": id, "trip": TRIP})
    assert answer.status_code == 404


def test_a_way_from_a_track(workshop, other_workshop):
    points = [(54.0 + i * 40 * METRE, 8.5, 4 + 12 * np.sin(i / 25), i * 8) for i in range(300)]
    made = workshop.ask("/trip/route?name=wall.gpx", gpx(points))
    leg = workshop.send("GET", f"/trip/route/{made['id']}").json()
    assert sum(leg["profile"]["metres"]) == pytest.approx(299 * 40, rel=0.01)
    assert leg["name"] == "wall"
    assert other_workshop.send("GET", f"/trip/route/{made['id']}").status_code == 404
    trip = {**TRIP, "days": [{"legs": [leg]}]}
    way = workshop.send("POST", "/trip/file?form=gpx", {"trip": trip})
    assert b"<trkpt" in way.content
    told = workshop.send("POST", "/trip/file?form=json", {"trip": trip}).content
    assert json.loads(told)["format"] == "sand-pocket/trip"
    assert workshop.send("POST", "/trip/file?form=gpx", {"trip": TRIP}).status_code == 422


def test_a_file_that_is_no_way_says_why(workshop):
    for body, why in ((b"<gpx/>", "no track"), (b"", "empty"), (b"<!DOCTYPE x [<!ENTITY a 'b'>]><gpx/>", "entities")):
        job = workshop.ask("/trip/route?name=x.gpx", body)
        assert job["state"] == "failed"
        assert why in json.dumps(job)


def test_the_card_is_read_at_arms_length(workshop):
    made = workshop.made("/trip/card", {"document": BOARD, "trip": TRIP})
    pdf = PdfReader(BytesIO(b"".join(made.streaming_content) if made.streaming else made.content))
    text = "".join(page.extract_text() for page in pdf.pages)
    assert "Light, charge until" in text
    assert "To carry" in text
    assert float(pdf.pages[0].mediabox.width) == pytest.approx(297.6, abs=1)


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"days": [{"legs": [{"distance_km": 1, "ascent_m": 9000}]}]}, "trip.days.0.legs.0"),
        ({"days": [{"start": "25:00"}]}, "trip.days.0.start"),
        ({"name": ""}, "trip.name"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(workshop, changes, field):
    answer = workshop.send("POST", "/trip", {"document": SPIT_RUNNER, "trip": {**TRIP, **changes}})
    assert answer.status_code == 422
    assert field in {f["field"] for f in answer.json()["faults"]}
