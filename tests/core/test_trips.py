"""Trips: arrival charge against a dense integration of the other model, honest bands, exact climbs, wind by its bearing."""

import json
from math import cos, radians, sin, sqrt

import gpxpy
import numpy as np
import pytest
from pyproj import Geod

from boardmath.buildfile import BuildFileError, check, read_build, write_build
from boardmath.buildfile.trips import Trip
from boardmath.calibration.ride import Ride
from boardmath.calibration.track import bearings, climbed
from boardmath.model.evaluation import Evaluation
from boardmath.model.model_inputs import COLUMN, FROM_RIDE_TO_RIDE
from planner.__main__ import main
from planner.charging.report import charging_report
from planner.rides.files import read_track
from planner.trips.files import gpx_of, leg_of, read_trip, route_of, write_trip
from planner.trips.improvements import SAMPLES, chance_of
from planner.trips.report import trip_report
from planner.trips.riding import mean_headwind, on_the_leg, ride_trip
from planner.trips.route import segment_of, usual_steepness
from tests.core.boards import SPIT_RUNNER, changed, spit_runner
from tests.core.scalar_model import WALKING, ScalarBoard
from tests.core.test_calibration import KINDS
from tests.core.test_tracks import METRE, gpx

CALM = {"temperature_c": 15, "wind_ms": 0, "wind_from_deg": 0}
BOARD = spit_runner(assumptions__wind_ms=None)


def a_trip(*legs, weather=None, **said) -> Trip:
    day = {"start": "09:00", "weather": CALM if weather is None else weather, "legs": list(legs)}
    return check(Trip, {"id": "t", "name": "Round the bay", "days": [day], **said})


def leg(km: float, up: float = 0.0, towards: float = 0.0, **said) -> dict:
    return {"distance_km": km, "ascent_m": up, "bearing_deg": towards, **said}


class OnThePiece(ScalarBoard):
    """The scalar model of the tests on one piece of way."""

    grade = against = 0.0

    def way(self, wind: float):
        return [(1.0, self.grade, self.against, self.mean)], self.stops


def dense(board: OnThePiece, pieces: np.ndarray, wind: float, comes_from: float, step: float = 60.0) -> float:
    """Charge left after a way, metre by metre: 0 where it strands."""
    q, kelvin, r_path = board.q0, board.kelvin, board.r_path
    for metres, grade, towards in pieces:
        angle = radians(comes_from - towards)
        along, across = wind * cos(angle), wind * sin(angle)
        ahead = board.mean + along
        drag = ahead * sqrt(ahead**2 + across**2)
        board.grade, board.against = grade, np.sign(drag) * sqrt(abs(drag)) - board.mean
        board.way_wind, board.swing = along, 0.0
        count = max(round(metres / step), 1)
        for _ in range(count):
            if board.excess(WALKING, 0.0, q, max(along, 0.0), kelvin) > 0:
                return 0.0
            charge, seconds, squares, _ = board.consumption(q, kelvin)
            if grade < 0 and charge > 0:
                # The scalar model never counts less than the controller awake; a descent may give back.
                force = board.resist(board.mean, grade, board.against)
                if force < 0:
                    voc, r = board.open_circuit(q), board.cells(q, kelvin) + r_path
                    force *= board.returned
                    force /= max(board.worst(board.mean, force, 0.0, voc, r)[0], 1)
                    flat = 1.0 - 0.95 * 0.0
                    charge = min(charge, board.electric(board.mean, force, voc, r)["i"] / board.mean * flat)
            x = metres / count
            time = seconds * x
            q -= charge * board.riding * x / board.coulombs
            heat = squares / seconds * board.riding**2 * board.cells(q, kelvin)
            kelvin += (heat - (kelvin - board.ambient - 273.15) / board.pack_k_w) / board.pack_j_k * time
    return q


WAYS = {
    "flat and calm": [leg(9.0)],
    "hills, a head wind": [leg(7.0, 160, towards=270)],
    "across the wind and back": [leg(8.0, 60, towards=10, there_and_back=True)],
}


@pytest.mark.parametrize("way", WAYS.values(), ids=WAYS)
@pytest.mark.parametrize("kind", ["belt", "pneumatic"])
def test_arrival_against_a_dense_integration(kind, way):
    """The same way in steps of 60 m by the scalar model, which shares no code: charge left to two thousandths."""
    build = read_build(changed(SPIT_RUNNER, {"brief.stops_per_km": 0.0, **KINDS[kind], "assumptions.wind_ms": None}))
    trip = a_trip(*way, weather={"temperature_c": 12, "wind_ms": 4, "wind_from_deg": 270})
    ridden = ride_trip(build, trip, 0)
    (_, _, pieces, _), *_ = ridden.ways
    evaluation = Evaluation(on_the_leg(build, trip, trip.days[0], trip.days[0].legs[0]), 0)
    left = dense(OnThePiece(evaluation.resolved), pieces.pieces, 4.0, 270.0)
    assert ridden.points[-1].charge[0] == pytest.approx(left, abs=0.002)
    assert left > 0.2, "or there would be nothing to compare"


@pytest.mark.parametrize(("stops", "within"), [(0.0, 0.035), (1.0, 0.045)])
def test_on_the_flat_it_goes_as_far_as_the_range_says(stops, within):
    """A little further with stops: what pulling away more slowly saves at the end counts on a trip."""
    build = spit_runner(
        brief__ascent_m_per_km=0.0, brief__wind_ms=0.0, brief__temperature_c=15.0, brief__stops_per_km=stops
    )
    trip = a_trip({"distance_km": 60, "ascent_m": 0, "bearing_deg": 0}, carried_kg=build.rider.carried_kg)
    ridden = ride_trip(build, trip, 0)
    alone = Evaluation(
        on_the_leg(build, trip, trip.days[0], trip.days[0].legs[0]).model_copy(update={"brief": build.brief}), 0
    )
    assert ridden.points[-1].stranded[0] * 1000 == pytest.approx(alone.rides.to_the_end[0], rel=within)


def test_eight_arrivals_in_ten_lie_in_their_band():
    """300 trips ridden by the scalar model with riders, winds and days drawn from what is not known of them."""
    chance = np.random.default_rng(17)
    inside = below = 0
    count = 300
    for i in range(count):
        rider = {"rider.mass_kg": float(chance.uniform(55, 100)), "assumptions.wind_ms": None}
        rider |= {"parts.pack.parallel": 6, "parts.pack.cell.capacity_ah": 3.4, "brief.stops_per_km": 0.3}
        build = read_build(changed(SPIT_RUNNER, rider | (KINDS["pneumatic"] if i % 2 else {})))
        said = {
            "temperature_c": float(chance.uniform(5, 25)),
            "wind_ms": float(chance.uniform(1, 6)),
            "wind_from_deg": 270,
        }
        one = leg(float(chance.uniform(6, 11)), float(chance.uniform(20, 90)), towards=float(chance.uniform(0, 360)))
        trip = a_trip(one, weather=said)
        band = np.percentile(ride_trip(build, trip, 256).points[-1].charge[1:], (10, 50, 90))
        evaluation = Evaluation(on_the_leg(build, trip, trip.days[0], trip.days[0].legs[0]), 0)
        z = {name: float(chance.normal()) for name in COLUMN}
        for name, own in FROM_RIDE_TO_RIDE.items():
            spread = evaluation.resolved.inputs[name].spread
            if spread:
                z[name] += own / spread * float(chance.normal())
        board = OnThePiece(evaluation.resolved, z)
        way = segment_of(trip.days[0].legs[0], 0.0, usual_steepness(evaluation.boards)).pieces.copy()
        # Four pieces stand for the same way: one flat, up, flat, down.
        merged = np.array([[way[way[:, 1] == g, 0].sum(), g, way[0, 2]] for g in np.unique(way[:, 1])])[::-1]
        merged[:, 1] *= float(np.exp(0.2 * z["ascent"]))
        wind = said["wind_ms"] * float(np.exp(0.3 * chance.normal()))
        left = dense(board, merged, wind, 270 + 20 * float(chance.normal()), step=1000.0)
        inside += band[0] <= left <= band[2]
        below += left < band[1]
    assert 0.76 <= inside / count <= 0.845
    assert 0.42 <= below / count <= 0.58, "not to one side"


def test_a_climb_that_was_built_in_is_ridden_to_the_metre():
    """Three hills of 30, 18 and 44 m with a phone's noise of a foot: up and down are what was built."""
    way = np.linspace(0, 9000, 4500)
    shape = np.interp(way, [0, 1000, 2000, 3500, 5000, 7000, 9000], [5, 35, 12, 30, 6, 50, 20])
    wobble = 0.3 * np.sin(way / 3.0)
    points = [(54.0 + w * METRE, 8.5, h, t) for t, (w, h) in enumerate(zip(way, shape + wobble, strict=True))]
    track = read_track(gpx(points))
    made = leg_of(track)
    ridden = segment_of(made, 0.0, 0.055)
    assert ridden.metres == pytest.approx(track.way[-1], abs=2.0)
    up = 30 + 18 + 44
    assert ridden.ascent == pytest.approx(up, abs=2.0)
    assert climbed(np.array(made.profile.heights)) == pytest.approx(up, abs=2.0)
    assert ridden.back().ascent == pytest.approx(up - (20 - 5), abs=2.0), "the other way round downs are ups"


@pytest.mark.parametrize(("lat", "lon"), [(0.3, 0.0), (54.0, 8.5), (-41.2, 179.998), (69.0, -20.0)])
def test_where_a_piece_leads_to_is_the_geodesic_bearing(lat, lon):
    chance = np.random.default_rng(3)
    lats = lat + np.cumsum(chance.normal(0, 8e-4, 400))
    lons = (lon + np.cumsum(chance.normal(0, 9e-4, 400)) + 180) % 360 - 180
    there = Geod(ellps="WGS84").inv(lons[:-1], lats[:-1], lons[1:], lats[1:])[0] % 360
    apart = (bearings(lats, lons) - there + 180) % 360 - 180
    assert np.abs(apart).max() < 0.06, "degrees, over some hundred metres"


def left(trip: Trip, build=BOARD) -> float:
    return float(ride_trip(build, trip, 0).points[-1].charge[0])


def test_wind_costs_by_where_it_comes_from():
    against, behind, side, none = (
        left(a_trip(leg(8, towards=d), weather={"temperature_c": 15, "wind_ms": w, "wind_from_deg": 270}))
        for d, w in ((270, 6), (90, 6), (0, 6), (0, 0))
    )
    assert against < side < none < behind
    there = left(a_trip(leg(8, towards=270, there_and_back=True), weather={"wind_ms": 6, "wind_from_deg": 270}))
    back = left(a_trip(leg(4, towards=270), leg(4, towards=90), weather={"wind_ms": 6, "wind_from_deg": 270}))
    assert there == pytest.approx(back, abs=1e-3), "there and back is the two legs one after the other"


def test_an_hour_at_the_plug_is_an_hour_of_the_charging_room():
    trip = a_trip(leg(14, 40, then={"kind": "charge", "minutes": 65}))
    arrives, leaves = ride_trip(BOARD, trip, 0).points[1:]
    before, after = 100 * float(arrives.charge[0]), 100 * float(leaves.charge[0])
    warm = spit_runner(assumptions__wind_ms=None, brief__temperature_c=15.0)
    table = charging_report(warm, before, 100.0)
    timed = charging_report(warm, before, after).timetable
    assert table.timetable.mid_min > 60, "not full by then"
    assert timed.mid_min == pytest.approx(60, abs=1.5), "five minutes go until it is plugged in"


def test_a_fresh_pack_and_a_second_beside():
    far = leg(18, 100, then={"kind": "swap"})
    none = ride_trip(BOARD, a_trip(far, leg(18)), 0).points[-1]
    swapped = ride_trip(BOARD, a_trip(far, leg(18), swap_packs=1), 0).points
    assert swapped[2].charge[0] == swapped[0].charge[0]
    assert np.isfinite(none.stranded[0])
    assert np.isinf(swapped[-1].stranded[0])
    beside = ride_trip(BOARD, a_trip(leg(18, 100), packs_beside=1), 0).points[-1]
    used = [1 - float(p.charge[0]) for p in (swapped[1], beside)]
    assert 0.45 < used[1] / used[0] < 0.58, "half, and some for its own weight"
    assert "without a spare pack nothing is swapped" in trip_report(BOARD, a_trip(far), whole=False).remarks[0].text


def test_who_walks_and_from_where():
    report = trip_report(BOARD, a_trip(leg(45, 300), carried_kg=9))
    assert report.chance < 0.2
    assert "cases the pack is empty between" in report.walking.text
    assert report.points[-1].on_foot_km > 3
    (back,) = report.turn_back
    assert 5 < back.latest_km < 20
    slower = [h for h in report.helps if h.id == "pack"]
    assert slower[0].gains > 0.3, "twice the charge goes nearly twice as far"
    # A ramp too steep for it is carried up, and ridden on from.
    steep = [(54.0 + w * METRE, 8.5, h, i * 60) for i, (w, h) in enumerate([(0, 0), (800, 0), (830, 24), (1800, 24)])]
    ramp = ride_trip(BOARD, replace_leg(leg_of(read_track(gpx(steep)))), 0).points[-1]
    assert 10 < ramp.walked[0] < 120
    assert np.isinf(ramp.stranded[0])


def replace_leg(made) -> Trip:
    trip = a_trip(leg(1))
    return trip.model_copy(update={"days": [trip.days[0].model_copy(update={"legs": [made]})]})


def test_up_to_where_it_can_be_turned_back_is_where_eight_in_ten_come_home():
    report = trip_report(BOARD, a_trip(leg(24, 120)))
    latest = report.turn_back[0].latest_km
    for far, sure in ((0.93 * latest, True), (1.1 * latest, False)):
        out = a_trip(leg(2 * far, 2 * 120 * far / 24, there_and_back=True))
        chance = np.isinf(ride_trip(BOARD, out, 128).points[-1].stranded[1:]).mean()
        assert (chance >= 0.8) == sure


def test_what_helps_is_what_it_does_when_it_is_done():
    trip = a_trip(leg(26, 150, speed_kmh=26), carried_kg=8, start_pct=90)
    report = trip_report(BOARD, trip)
    by = {h.id: h for h in report.helps}
    assert {"slower", "full", "pack"} <= set(by)
    gains = [round(h.gains, 2) for h in report.helps]
    assert gains == sorted(gains, reverse=True)
    for help in report.helps:
        document = write_build(BOARD)
        for path, value in help.changes.items():
            document = changed(document, {path: value})
        done = ride_trip(read_build(document), help.trip or trip, SAMPLES)
        assert chance_of(done) == pytest.approx(help.chance), help.id


def test_what_is_carried_is_what_would_strand_this_board():
    def carried(build, **said):
        return {c.id for c in trip_report(build, a_trip(leg(9), **said)).carry}

    belt = carried(BOARD)
    hub = carried(read_build(changed(SPIT_RUNNER, KINDS["hub"])))
    assert "belt" in belt - hub
    assert "tube" in carried(read_build(changed(SPIT_RUNNER, KINDS["pneumatic"]))) - belt
    assert "caps" in carried(BOARD, swap_packs=1)
    assert "charger" in {c.id for c in trip_report(BOARD, a_trip(leg(9, then={"kind": "night"}))).carry}


def test_several_days_have_their_own_mornings():
    days = [
        {"on": "2026-06-01", "start": "08:30", "weather": CALM, "legs": [leg(14, 50, then={"kind": "night"})]},
        {"on": "2026-06-02", "start": "10:00", "weather": {"temperature_c": 2}, "legs": [leg(14, 50)]},
    ]
    trip = check(Trip, {"id": "t", "name": "Two days", "days": days})
    report = trip_report(BOARD, trip)
    first, second = report.points[1], report.points[2]
    assert first.leaves_pct.mid > 95
    assert report.points[0].clock.mid == 510
    assert second.clock.mid > 600
    assert second.charge.mid < first.charge.mid, "the cold takes its share"
    rides = [Ride(day="2026-06-01", way={"distance_km": 14.1, "moving_s": 2500}, pack={"wh": 150, "end_v": 37.2})]
    after = {a.what: a for a in trip_report(BOARD, trip, rides, whole=False).after}
    assert set(after) == {"km", "wh", "moving", "volts"}
    assert after["km"].inside
    assert after["wh"].planned.low < 150 < 2 * after["wh"].planned.high


@pytest.mark.parametrize(
    ("said", "reason"),
    [
        (leg(1, 9000), "no road is that steep"),
        ({"distance_km": 0.0}, "outside 0.05"),
        ({"distance_km": 3, "bearing_deg": 400}, "360"),
        ({"profile": {"metres": [10], "heights": [1, 2, 3], "lat": [0, 0], "lon": [0, 0]}}, "one more than the metres"),
    ],
)
def test_what_is_no_leg_is_said(said, reason):
    with pytest.raises(BuildFileError, match=reason):
        a_trip(said)


def test_what_lacks_is_asked_for_and_a_charger_that_never_fills_is_told():
    assert "distance of the first leg" in trip_report(BOARD, a_trip({})).needs[0].text
    assert trip_report(spit_runner(parts__wheels=None), a_trip(leg(5))).needs
    weak = a_trip(leg(8, then={"kind": "charge", "charger_v": 24, "charger_a": 3}), leg(2))
    report = trip_report(BOARD, weak)
    assert "never fills this pack" in report.remarks[0].text
    assert report.points[1].leaves_pct.mid == report.points[1].charge.mid
    low = a_trip(leg(8, then={"kind": "charge", "charger_v": 39, "charger_a": 9, "minutes": 600}))
    assert 40 < trip_report(BOARD, low, whole=False).points[1].leaves_pct.mid < 90, "it ends where its volts end"


def test_a_long_route_stays_small_and_whole():
    """300 km of 30,000 points: a leg of some hundred nodes, as far and as high."""
    chance = np.random.default_rng(5)
    way = np.linspace(0, 300_000, 30_000)
    heights = 60 * np.sin(way / 9000) + 25 * np.sin(way / 1300) + chance.normal(0, 0.3, len(way))
    points = [(50.0 + w * METRE, 8.5 + 0.1 * np.sin(w / 20_000), h, None) for w, h in zip(way, heights, strict=True)]
    track = read_track(gpx(points))
    made = leg_of(track)
    assert len(made.profile.metres) <= 1600
    ridden = segment_of(made, 0.0, 0.055)
    assert ridden.metres == pytest.approx(track.way[-1], rel=1e-3)
    smooth = 60 * np.sin(way / 9000) + 25 * np.sin(way / 1300)
    assert ridden.ascent == pytest.approx(np.clip(np.diff(smooth), 0, None).sum(), rel=0.03)
    assert len(json.dumps(write_trip(replace_leg(made)))) < 120_000


def test_files_and_the_command_line(tmp_path, capsys):
    points = [(54.0 + i * 60 * METRE, 8.5, 4 + 10 * np.sin(i / 20), i * 12) for i in range(150)]
    trip = replace_leg(leg_of(read_track(gpx(points)), "The wall"))
    assert read_trip(json.dumps(write_trip(trip)).encode()) == trip
    build = BOARD.model_copy(update={"trips": [trip]})
    assert read_build(write_build(build)) == build, "a board keeps its trips"
    read = gpxpy.parse(gpx_of(trip))
    assert read.length_2d() == pytest.approx(sum(trip.days[0].legs[0].profile.metres), rel=0.01)
    assert gpx_of(a_trip(leg(5))) is None
    board, route = tmp_path / "board.json", tmp_path / "route.gpx"
    board.write_text(json.dumps(SPIT_RUNNER))
    route.write_bytes(gpx(points))
    assert main(["trip", str(board), str(route)]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["km"] == pytest.approx(8.94, abs=0.05)
    assert said["points"][-1]["charge"]["low"] < said["points"][-1]["charge"]["high"]
    route = tmp_path / "route.json"
    route.write_text(
        json.dumps({"format": "sand-pocket/trip", "version": 1, "trip": {"id": "x", "name": "x", "days": 3}})
    )
    assert main(["trip", str(board), str(route)]) == 2
    assert "days" in capsys.readouterr().err
    with pytest.raises(BuildFileError, match="shorter than 50 m"):
        route_of(gpx([*points[:1], (54.0 + 20 * METRE, 8.5, 4, 9)]), "x.gpx")


@pytest.mark.parametrize("way", [[leg(9, 60)], [leg(4, 30), leg(5, 30, towards=90)], [leg(9, 60, there_and_back=True)]])
def test_the_middle_of_a_wind_from_anywhere_is_in_the_middle_of_its_range(way):
    """Not lucky with the wind, and not unlucky."""
    build = spit_runner(assumptions__wind_ms=None, parts__pack__parallel=3)
    ridden = ride_trip(build, a_trip(*way, weather={"temperature_c": 15, "wind_ms": 5}), 512)
    charge = ridden.points[-1].charge
    below = float((charge[1:] < charge[0]).mean())
    assert 0.35 < below < 0.65, below


def test_a_day_without_a_word_on_the_wind_has_the_briefs():
    calm, windy = (
        left(
            a_trip(leg(8), weather={}), spit_runner(assumptions__wind_ms=None, brief__wind_ms=w, brief__wind="against")
        )
        for w in (0.0, 6.0)
    )
    assert windy < calm - 0.05
    said = a_trip(leg(8), weather={"wind_ms": 0})
    assert left(said, spit_runner(assumptions__wind_ms=None, brief__wind_ms=6, brief__wind="against")) == pytest.approx(
        left(said, spit_runner(assumptions__wind_ms=None, brief__wind_ms=0)), abs=0.01
    )


def test_a_wind_from_behind_is_in_the_face_on_the_way_back():
    calm, behind = (
        spit_runner(assumptions__wind_ms=None, brief__wind_ms=w, brief__wind="behind", parts__pack__parallel=2)
        for w in (0.0, 7.0)
    )
    out, both = a_trip(leg(5), weather={}), a_trip(leg(10, there_and_back=True), weather={})
    assert left(out, behind) > left(out, calm) + 0.02, "the way out is easier"
    assert left(both, behind) < left(both, calm) - 0.02, "there and back costs more than the calm does"
    far = a_trip(leg(14), weather={})
    latest = [trip_report(build, far).turn_back[0].latest_km for build in (calm, behind)]
    assert latest[1] < latest[0], "and one has to turn round earlier"


def test_the_mean_headwind_drags_as_the_mean_of_all_directions():
    rng = np.random.default_rng(1)
    for speed, wind in ((6.0, 4.0), (3.0, 8.0), (8.0, 1.0)):
        angle = rng.uniform(0, 2 * np.pi, 200_000)
        ahead = speed + wind * np.cos(angle)
        drag = (ahead * np.sqrt(ahead**2 + (wind * np.sin(angle)) ** 2)).mean()
        assert (speed + mean_headwind(speed, wind)) ** 2 == pytest.approx(drag, rel=0.02)


def test_a_trip_round_the_world_is_refused_before_it_is_ridden():
    """Fourteen days of forty legs of 400 km held a core for minutes."""
    far = {"id": "far", "name": "Far", "days": [{"legs": [{"distance_km": 400}] * 40}] * 14}
    with pytest.raises(ValueError, match="224,000 km together; a trip holds 2,000 km"):
        Trip.model_validate(far)
    back = {"id": "b", "name": "Back", "days": [{"legs": [{"distance_km": 399, "there_and_back": True}] * 3}]}
    with pytest.raises(ValueError, match="2,394 km"):
        Trip.model_validate(back)
