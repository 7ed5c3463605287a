"""What a board came to, on the fingers; and a page that is handed on with nothing private in it."""

import json
from datetime import date

import pytest

from boardmath.buildfile import BuildFileError, check, read_build, write_build
from boardmath.buildfile.calibration import Calibration
from boardmath.buildfile.maintenance import Maintenance, ReviewCosts
from boardmath.model.evaluation import Evaluation
from boardmath.parts.cost import cost
from boardmath.prediction.outcomes import headlines
from planner.maintenance.schedule import RodeOn
from planner.review.report import review
from planner.review.summary import as_json, file_of, handed_on
from tests.core.boards import SPIT_RUNNER, changed, spit_runner

RIDES = [RodeOn(date(2025, 6, 1), 100.0), RodeOn(date(2026, 6, 1), 300.0)]


def board(**more):
    said = {"tools": 60, "consumables": 25, "kwh_price": 0.3, "hours": 40, "fare": 2.5, "fare_km": 5, **more}
    return spit_runner().model_copy(update={"review": check(ReviewCosts, said)})


def test_the_sum_on_the_fingers():
    """Parts and what came on top of them, tools, consumables, 6 kWh into the pack and an eighth more out of the wall."""
    build = board()
    report = review(build, RIDES, wh=6000.0)
    lines = {line.of: line.amount for line in report.lines}
    assert report.kwh == pytest.approx(6 / 0.85)
    assert lines["electricity"] == pytest.approx(6 / 0.85 * 0.3, abs=0.01)
    assert lines["parts"] == pytest.approx(cost(build).outlay, abs=0.01)
    assert report.total == pytest.approx(cost(build).outlay + 60 + 25 + 6 / 0.85 * 0.3, abs=0.02)
    assert report.per_km == pytest.approx(report.total / 400)
    assert report.running_per_km == pytest.approx(6 / 0.85 * 0.3 / 400, rel=0.01)


def test_by_year_it_becomes_cheaper_with_every_kilometre():
    report = review(board(), RIDES, wh=6000.0)
    first, second = report.years
    assert (first.year, first.km, second.year, second.km) == (2025, 100, 2026, 300)
    assert first.spent + second.spent == pytest.approx(report.total, abs=0.02)
    assert second.per_km == pytest.approx(report.per_km, rel=1e-3)
    assert first.per_km > 3 * second.per_km
    # A part that came in the second year is the second year's.
    bought = {"parts.motors.price": 90, "parts.motors.purchase": {"status": "arrived", "arrived_on": "2026-02-02"}}
    moved = review(read_build(changed(write_build(board()), bought)), RIDES, 6000.0).years
    assert moved[1].spent - second.spent == pytest.approx(90, abs=0.02)


def test_without_a_charger_that_counts_electricity_follows_the_prediction():
    report = review(board(), RIDES, wh=None)
    assert 4.0 < report.kwh < 12.0, "400 km at 10 to 20 Wh and what the charger loses"


def test_spares_that_were_used_and_those_in_the_drawer_are_paid_once():
    spare = {"id": "b", "name": "Belt", "task": "belts", "count": 3, "price": 10}
    done = [{"id": "1", "task": "belts", "on": "2026-05-01", "spare": "b", "count": 1}]
    build = board().model_copy(update={"maintenance": check(Maintenance, {"spares": [spare], "done": done})})
    assert {line.of: line.amount for line in review(build, RIDES, 1.0).lines}["spares"] == 40


def test_against_a_fare_and_a_ready_made_board():
    """A fare of 0.50 a km: 400 km of fares are 200; it pays for itself where the kilometres outweigh the board."""
    report = review(board(tools=600), RIDES, wh=6000.0)
    (fare,) = report.against
    assert fare.amount == 200
    even = (report.total - 6 / 0.85 * 0.3) / (0.5 - report.running_per_km)
    assert fare.message.values["km"].value == pytest.approx(even, rel=1e-3)
    far = review(board(), [*RIDES, RodeOn(date(2027, 1, 1), 9000.0)], 6000.0)
    assert "paid for itself" in far.against[0].message.text
    priced = read_build(changed(SPIT_RUNNER, {"ready_made": {"price": 1500}})).ready_made
    ready = board(tools=600).model_copy(update={"ready_made": priced})
    (made, _) = review(ready, RIDES, 6000.0).against
    assert made.message.values["less"].value == pytest.approx(1500 - report.total, abs=0.02)


def test_what_rides_taught_is_held_against_the_prediction_of_the_board_as_it_is_built():
    """Another pulley than planned changes both; only the rides set them apart."""
    slow = Calibration.model_validate(
        {"inputs": [{"name": "crr", "value": 0.0, "spread": 0.0, "mean": 2.0}], "covariance": [[0.1]], "rides": 5}
    )
    crr = Evaluation(board(), 0).resolved.inputs["crr"]
    known = slow.inputs[0].model_copy(update={"value": crr.value, "spread": crr.spread})
    ridden = board().model_copy(update={"calibration": slow.model_copy(update={"inputs": [known]})})
    report = review(ridden, RIDES, 1.0, "Planned", ["parts.drive"], wishes=["lower gearing"])
    speed, reach = report.outcomes[0], report.outcomes[2]
    assert speed.predicted.mid == pytest.approx(headlines([board()])[0].outcomes[0].mid)
    assert reach.now.mid < reach.predicted.mid
    assert report.changed == ["parts.drive"]
    assert report.would_change == ["lower gearing"]
    assert review(spit_runner(), [], None).per_km is None


PRIVATE = {
    "rider.mass_kg": 73.4,
    "rider.height_m": 1.81,
    "brief.local_rules": "asked constable Farrow",
    "orders": [{"name": "Shop at the quay", "shipping": 9, "notes": "number 4711"}],
    "parts.motors.purchase": {"status": "arrived", "order": "Shop at the quay", "arrived_on": "2026-01-09"},
    "parts.motors.notes": "from the neighbour",
    "parts.deck.owned": True,
    "accepted": [{"finding": "no-fuse", "reason": "my own word"}],
    "trips": [{"id": "t", "name": "To my aunt", "days": []}],
    "maintenance": {"done": [{"id": "d", "task": "belts", "on": "2026-02-02", "by": "warden"}]},
    "review": {"to_say": "only in the page"},
    "pack_assembly": {"cells": [{"id": "a1", "capacity_ah": 2.5, "source": "neighbour"}]},
}


def test_nothing_private_is_handed_on():
    build = read_build(changed(SPIT_RUNNER, PRIVATE))
    own = handed_on(build)
    text = json.dumps(write_build(own))
    for word in (
        "Farrow",
        "quay",
        "4711",
        "neighbour",
        "my own word",
        "aunt",
        "warden",
        "2026-",
        "1.81",
        "73",
        "arrived",
    ):
        assert word not in text, word
    assert own.rider.mass_kg == 75
    assert own.parts.motors.name == build.parts.motors.name
    assert [p.mid for p in headlines([own])[0].outcomes[:2]] == pytest.approx(
        [p.mid for p in headlines([build])[0].outcomes[:2]], rel=0.05
    )


def test_a_page_gives_its_build_back():
    own = handed_on(spit_runner(name="Board </script><b>&", brief__use="commute"))
    page = f'<!doctype html><html><body><script type="application/json" id="sand-pocket-build">{as_json(own)}</script></body>'
    assert "</script><b>" not in as_json(own)
    assert read_build(file_of(page.encode())) == own
    document = json.dumps(SPIT_RUNNER).encode()
    assert file_of(document) is document, "what is no page stays what it is"
    with pytest.raises(BuildFileError, match="contains no build"):
        file_of(b"<!DOCTYPE html><html></html>")
    with pytest.raises(BuildFileError, match="too large"):
        file_of(b"<html>" + b" " * 5_000_000)
