"""Rides as they are summed up, simulated, tested and held against what somebody claims; and the command line."""

import json
import subprocess
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from boardmath import predict, read_build
from boardmath.buildfile import BuildFileError
from boardmath.calibration.ride_file import read_ride
from boardmath.calibration.rolling import rolled_out_of
from boardmath.calibration.runs import summary
from boardmath.calibration.simulated import Leg, a_ride_of, ridden_log
from boardmath.engine import sweeps
from boardmath.model.evaluation import Evaluation
from boardmath.model.resolution import Incomplete
from planner.rides.claims import Claim, check_claim, read_claim
from planner.rides.guided import GUIDES
from planner.rides.sums import sums
from tests.core.boards import SPIT_RUNNER, bare, changed
from tests.core.command import run
from tests.core.test_learning import SEASON

BOARD = read_build(changed(SPIT_RUNNER, {"assumptions.wind_ms": None}))
BEGUN = datetime(2026, 5, 4, 8, 0, tzinfo=UTC)
CONTRACT = {
    "format": "sand-pocket/rides",
    "version": 1,
    "rides": [
        {
            "day": "2026-05-04",
            "kind": "ride",
            "rider": {"mass_kg": 74, "carried_kg": 3},
            "conditions": {
                "temperature_c": 12,
                "wind_ms": 3,
                "wind": "out_and_back",
                "surface": "fair_asphalt",
                "wet": False,
            },
            "way": {"distance_km": 11.2, "ascent_m": 60, "moving_s": 1810, "stops": 6},
            "pack": {"start_v": 41.6, "end_v": 35.2, "rested_s": 300, "start_pct": None, "wh": None, "ended": "warned"},
            "runs": [
                {"kind": "speed", "kmh": [37.2, 34.1], "charge_pct": 90},
                {"kind": "hill", "grade_pct": 12, "length_m": 220, "foot_kmh": 22, "top_kmh": 14},
                {"kind": "coast", "from_kmh": 25, "to_kmh": 5, "metres": 140},
            ],
            "note": "gusts on the wall",
        }
    ],
}


def command(tmp_path: Path, rides: str, *more: str) -> subprocess.CompletedProcess[str]:
    file, build = tmp_path / "rides.json", tmp_path / "build.json"
    file.write_text(rides)
    build.write_text(json.dumps(SPIT_RUNNER))
    return run("predict", str(build), "--rides", str(file), *more)


def test_the_command_line_tells_what_was_learnt_in_the_contracts_words(tmp_path):
    done = command(tmp_path, json.dumps(CONTRACT))
    assert done.returncode == 0, done.stderr
    told = json.loads(done.stdout)
    plain = predict(read_build(SPIT_RUNNER))
    assert told["range_km"]["high"] - told["range_km"]["low"] < plain.range_km.high - plain.range_km.low
    (ride,) = told["rides"]
    assert ride["day"] == "2026-05-04"
    assert {f["what"] for f in ride["figures"]} >= {"end_v", "speed_kmh", "hill_kmh", "coast_m"}
    assert set(ride["figures"][0]) == {"what", "measured", "low", "mid", "high", "inside"}
    assert set(told["learnt"][0]) == {"input", "unit", "before", "after", "by"}
    assert all(i["by"] in ([], [0]) for i in told["learnt"])


@pytest.mark.parametrize(
    ("rides", "says"),
    [
        ("{", "not JSON"),
        (json.dumps({**CONTRACT, "version": 9}), "newer"),
        (json.dumps({**CONTRACT, "rides": [{"day": "2026-05-04", "km": 3}]}), "unknown key"),
        (json.dumps({**CONTRACT, "rides": [{"day": "2026-05-04", "pack": {"end_v": 12.0}}]}), "rides.0.pack.end_v"),
    ],
)
def test_a_bad_file_of_rides_is_refused_in_words_and_prints_nothing(tmp_path, rides, says):
    done = command(tmp_path, rides)
    assert (done.returncode, done.stdout) == (2, "")
    assert says in done.stderr


def test_python_learns_as_the_command_line_does(tmp_path):
    rides = [read_ride(r) for r in CONTRACT["rides"]]
    own = predict(read_build(SPIT_RUNNER), rides=rides)
    told = json.loads(command(tmp_path, json.dumps(CONTRACT)).stdout)
    assert own.range_km.mid == pytest.approx(told["range_km"]["mid"])


def test_a_season_is_summed_up():
    found = sums(SEASON, cost=850.0)
    assert found.rides == 5
    assert found.km == pytest.approx(24.6 + 3 * 11.2 + 14.0)
    assert found.cost_per_km == pytest.approx(850 / found.km)
    assert [m.month for m in found.months] == ["2026-05", "2026-06"]
    assert sum(m.km for m in found.months) == pytest.approx(found.km)
    best = {b.title: b for b in found.records}
    assert best["Farthest"].ride == 0
    assert best["Fastest, of both ways"].value == pytest.approx(35.35)
    assert sums([]).months == []
    gap = sums([read_ride({"day": d, "way": {"distance_km": 5}}) for d in ("2025-11-30", "2026-02-01")])
    assert [m.rides for m in gap.months] == [1, 0, 0, 1]


def test_every_test_asks_for_fields_that_a_ride_or_a_board_has():
    from scripts.generate_types import figures

    known = figures()
    for guide in GUIDES:
        assert guide.steps
        assert guide.spoils
        for path in guide.enters:
            assert path in known or f"ride.{path}" in known, path


def test_a_simulated_ride_takes_from_the_pack_what_the_engine_says():
    """At a steady speed on the flat: the power of the log is that of the moment, the charge its sum."""
    board = Evaluation(BOARD, 0).board
    log = ridden_log(board, [Leg(4000, 0.0, 6.0)], BEGUN)
    steady = sweeps.moments(board, 6.0, 0.0, 0.95)[0, 0]
    assert float(np.median(log.power)) == pytest.approx(float(steady.pack_power), rel=0.01)
    found = summary(log)
    assert found.distance_km == pytest.approx(4.0, abs=0.03)
    assert found.used_wh == pytest.approx(float(steady.pack_power) * 4000 / 6 / 3600, rel=0.03)
    assert found.end_v < found.start_v


def test_what_a_simulated_board_rolls_out_to_is_the_road_that_it_was_given():
    board = Evaluation(BOARD, 0).board
    legs = [Leg(400, 0.0, 9.0), Leg(400, 0.0, 1.0, coast=True), Leg(50, 0.0, 3.0)]
    log = ridden_log(board, legs, BEGUN)
    (rolled,) = rolled_out_of(BOARD, log, summary(log))
    assert rolled.cda_m2 == pytest.approx(float(board.cda[0]), rel=0.05)
    assert rolled.crr == pytest.approx(float(board.crr[0]), rel=0.05)


def test_a_board_of_which_nothing_is_chosen_is_not_simulated():
    with pytest.raises(Incomplete):
        a_ride_of(bare(), 1, BEGUN)


@pytest.mark.parametrize(
    ("text", "claim"),
    [
        ("climbs 40 % at 30 km/h", Claim(kind="hill", grade_pct=40, speed_kmh=30)),
        ("60 km on a charge", Claim(kind="range", range_km=60)),
        ("50 km/h", Claim(kind="speed", speed_kmh=50)),
        ("31 mph", Claim(kind="speed", speed_kmh=31 * 1.609344)),
        ("20 miles at 12 mph", Claim(kind="range", range_km=20 * 1.609344, speed_kmh=12 * 1.609344)),
        ("a hill of 10°", Claim(kind="hill", grade_pct=17.6327)),
        ("35,5 km range", Claim(kind="range", range_km=35.5)),
    ],
)
def test_claims_are_read_as_people_write_them(text, claim):
    found = read_claim(text)
    assert found.kind == claim.kind
    for key in ("speed_kmh", "range_km", "grade_pct"):
        value = getattr(claim, key)
        assert getattr(found, key) == (pytest.approx(value, rel=1e-4) if value is not None else None)


@pytest.mark.parametrize(
    ("text", "asked"),
    [
        ("fast", "a figure with its unit"),
        ("9000 km", "that a board can have, not 9000"),
        ("0 km/h", "that a board can have, not 0"),
        ("40", "a unit at 40"),
        ("climbs 40 at 30 km/h", "a unit at 40"),
        ("20 to 30 km", "a span"),
        ("30-40 miles", "a span"),
        ("40 km, or 50 km downhill", "one of the two distances 40 km and 50 km"),
        ("25 mph, 50 km/h tuned", "one of the two speeds 25 mph and 50 km/h"),
    ],
)
def test_what_claims_nothing_or_leaves_a_doubt_is_asked_back(text, asked):
    with pytest.raises(BuildFileError) as told:
        read_claim(text)
    assert asked in str(told.value)


SPELLINGS = {
    "speed": {
        **dict.fromkeys(
            ["km/h", "kmh", "kph", "km / h", "kilometers an hour", "kilometres per hour", "km an hour"], 1.0
        ),
        **dict.fromkeys(["mph", "miles an hour", "miles per hour", "mi/h", "mile a hour"], 1.609344),
        **dict.fromkeys(["m/s", "metres per second", "meters a second"], 3.6),
    },
    "range": {
        **dict.fromkeys(["km", "kms", "kilometers", "kilometres", "KM"], 1.0),
        **dict.fromkeys(["mi", "miles", "Miles"], 1.609344),
    },
    "grade": dict.fromkeys(["%", "percent", "per cent", "pct"], 1.0),
}
BEFORE = ["", "goes ", "does up to ", "about ", "tested with a 75 kg rider: ", "at 20 °C "]
BETWEEN = [" at ", " for ", ", ", " and ", " with "]
BEHIND = ["", " on one charge", ", 10 kg bag included", "!", " for 2 hours"]


@st.composite
def claims(draw):
    """A sentence with one to three figures, each of a kind of its own, and what was meant."""
    kinds = draw(st.permutations(list(SPELLINGS)))[: draw(st.integers(1, 3))]
    meant, parts = {}, []
    for kind in kinds:
        unit, factor = draw(st.sampled_from(list(SPELLINGS[kind].items())))
        value = draw(st.integers(5, 60)) + draw(st.sampled_from([0.0, 0.5]))
        number = f"{value:g}".replace(".", draw(st.sampled_from([".", ","])))
        parts.append(number + draw(st.sampled_from(["", " "])) + unit)
        meant[kind] = value * factor
    between = draw(st.lists(st.sampled_from(BETWEEN), min_size=3, max_size=3))
    sentence = parts[0] + "".join(b + p for b, p in zip(between, parts[1:], strict=False))
    return draw(st.sampled_from(BEFORE)) + sentence + draw(st.sampled_from(BEHIND)), meant


@given(claims())
@settings(max_examples=400, deadline=None)
def test_a_claim_is_read_in_any_order_and_unit(claim):
    sentence, meant = claim
    found = read_claim(sentence)
    kind = "hill" if "grade" in meant else "range" if "range" in meant else "speed"
    assert found.kind == kind
    assert found.speed_kmh == (pytest.approx(meant["speed"]) if "speed" in meant else None)
    if kind != "speed":
        shown = found.grade_pct if kind == "hill" else found.range_km
        assert shown == pytest.approx(meant["grade" if kind == "hill" else "range"])


def test_a_claim_that_names_a_speed_is_not_told_that_it_says_none():
    for said, there in ((None, True), (30.0, False)):
        found = check_claim(BOARD, Claim(kind="range", range_km=20, speed_kmh=said))
        assert any("The speed" in line.text for line in found.leaves_out) is there


def test_a_claim_holds_where_the_band_says_so_and_tells_what_is_left_out():
    evaluation = Evaluation(BOARD)
    low, high = evaluation.bands["cut_off"]
    assert check_claim(BOARD, Claim(kind="range", range_km=0.9 * low)).chance > 0.9
    far = check_claim(BOARD, Claim(kind="range", range_km=2 * high))
    assert far.chance < 0.02
    assert "Wh from the pack" in far.needs[0].text
    # What is said of wheels in the air is not said of a road.
    free = float(evaluation.values["unloaded"][0])
    told = check_claim(BOARD, Claim(kind="speed", speed_kmh=free - 0.2))
    assert "in the air" in told.leaves_out[0].text
    # 36 % at 25 km/h is what no small drive does (common practice, no source).
    assert check_claim(BOARD, Claim(kind="hill", grade_pct=36, speed_kmh=25)).chance == 0.0
    # A claim of a hill without a speed is held against what is held over its length.
    held = check_claim(BOARD, Claim(kind="hill", grade_pct=2))
    assert (held.quantity, held.chance) == ("grade", 1.0)
    with pytest.raises(Incomplete):
        check_claim(bare(), Claim(kind="speed", speed_kmh=30))
