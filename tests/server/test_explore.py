"""The explorer at the server: lines of JSON as boards are looked at, the library that is one's own, refusals by field."""

import json

import pytest

from server.explore.services import SPACES
from server.throttles.concurrency import ENGINE
from tests.core.boards import SPIT_RUNNER, changed

pytestmark = pytest.mark.django_db
OPEN = {
    "kinds": ["motors", "controller", "cell"],
    "numbers": [
        {"path": "parts.pack.series", "low": 6, "high": 12, "step": 2},
        {"path": "parts.pack.parallel", "low": 2, "high": 5},
        {"path": "parts.drive.motor_teeth", "low": 12, "high": 18, "step": 2},
    ],
}


def lines(answer) -> list[dict]:
    return [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]


def hang_up(answer) -> None:
    """As the web server does; the response's own close would end the test's database connection as well."""
    for close in answer._resource_closers:
        close()


def test_the_first_look_comes_before_the_whole(workshop, library):
    body = {"document": SPIT_RUNNER, "open": OPEN}
    looks = lines(workshop.send("POST", "/explore", body))
    assert len(looks) > 1
    assert 0 < looks[0]["progress"] < looks[-1]["progress"] == 1
    assert looks[0]["cloud"]["cells"]
    assert looks[-1]["looked_at"] == looks[-1]["boards"] > looks[0]["looked_at"]
    assert looks[-1]["picks"]
    # Another wish of the same boards is told in one line: nothing is looked at twice.
    wanted = {"speed": 30, "hill": 6, "range": 10, "carry": None, "money": 500}
    (again,) = lines(workshop.send("POST", "/explore", {**body, "wanted": wanted}))
    assert again["boards"] == looks[-1]["boards"]
    assert {s["name"]: s.get("wanted") for s in again["spreads"]} == wanted
    number = again["picks"][0]["number"]
    looked = workshop.send(
        "POST", "/explore/board", {**body, "wanted": wanted, "number": number, "space": again["space"]}
    ).json()
    assert looked["board"]["number"] == number
    assert looked["parts"]["wheels"] == SPIT_RUNNER["parts"]["wheels"]
    laid = {**SPIT_RUNNER, "parts": looked["parts"], "settings": looked["settings"]}
    shown = {p["name"]: p["mid"] for p in looked["board"]["outcomes"]}
    on_the_bench = {
        p["name"]: p["mid"] for p in workshop.send("POST", "/predict", {"document": laid}).json()["outcomes"]
    }
    assert shown == pytest.approx(on_the_bench)


def test_a_design_is_another_one_once_the_library_or_the_board_has_changed(workshop, library):
    body = {"document": SPIT_RUNNER, "open": OPEN}
    seen = lines(workshop.send("POST", "/explore", body))[-1]
    asked = {**body, "number": seen["picks"][0]["number"], "space": seen["space"]}
    assert workshop.send("POST", "/explore/board", asked).status_code == 200
    # What is only wished for makes no other space; a charger that may be on the designs does, and so does a heavier rider.
    wish = {**asked, "wanted": {"money": 400}}
    assert workshop.send("POST", "/explore/board", wish).status_code == 200
    heavier = {**asked, "document": changed(SPIT_RUNNER, {"rider.mass_kg": 101})}
    assert workshop.send("POST", "/explore/board", heavier).status_code == 409
    charger = {"kind": "charger", "record": {"name": "Cheap", "v": 42, "a": 2, "price": 5, "currency": "EUR"}}
    assert workshop.send("POST", "/parts", charger).status_code == 200
    late = workshop.send("POST", "/explore/board", asked)
    assert (late.status_code, late.json()["message"].endswith("Search again.")) == (409, True)


def test_who_hangs_up_gives_the_engine_back(workshop, library):
    answer = workshop.send("POST", "/explore", {"document": SPIT_RUNNER, "open": {**OPEN, "kinds": ["cell", "motors"]}})
    next(iter(answer.streaming_content))
    hang_up(answer)
    with ENGINE.turn("somebody else"):
        pass
    never = workshop.send("POST", "/explore", {"document": SPIT_RUNNER, "open": OPEN})
    hang_up(never)
    with ENGINE.turn("somebody else"):
        pass


def test_a_part_of_ones_own_is_explored_by_its_owner_alone(workshop, other_workshop, library):
    record = {"name": "Motor out of the attic", "kv_rpm_per_v": 144, "kind": "outrunner", "price": 5}
    assert workshop.send("POST", "/parts", {"kind": "motors", "record": record}).status_code < 300
    body = {"document": SPIT_RUNNER, "open": {"kinds": ["motors"]}}
    labels = [lines(w.send("POST", "/explore", body))[-1]["axes"][0]["labels"] for w in (workshop, other_workshop)]
    assert record["name"] in labels[0]
    assert record["name"] not in labels[1]


@pytest.mark.parametrize(
    ("left_open", "field"),
    [
        ({"numbers": [{"path": "parts.pack.series", "low": 12, "high": 8}]}, "open.numbers.0.low"),
        ({"kinds": ["pack", "cell"]}, "open.kinds"),
        ({"numbers": [{"path": "parts.deck.length_mm", "low": 1, "high": 2}]}, "open.numbers.0"),
    ],
)
def test_what_cannot_be_open_is_refused_by_its_field(workshop, library, left_open, field):
    answer = workshop.send("POST", "/explore", {"document": SPIT_RUNNER, "open": left_open})
    assert answer.status_code == 422
    assert field in {f["field"] for f in answer.json()["faults"]}
    with ENGINE.turn("somebody else"):
        pass


def test_a_library_without_anything_is_said(workshop):
    answer = workshop.send("POST", "/explore", {"document": SPIT_RUNNER, "open": {"kinds": ["wheels"]}})
    assert "no wheels to choose from" in answer.json()["faults"][0]["reason"]
    assert workshop.send("POST", "/explore/open", {"document": SPIT_RUNNER}).json()["kinds"][0]["parts"] == 0
    (only,) = lines(workshop.send("POST", "/explore", {"document": SPIT_RUNNER, "open": {}}))
    asked = {"document": SPIT_RUNNER, "open": {}, "number": 9, "space": only["space"]}
    assert workshop.send("POST", "/explore/board", asked).json()["faults"][0]["field"] == "number"
    assert SPACES.get("never asked") is None
