"""Tracks: distances by an independent geodesy, climbs that were built in, runs that were ridden into them, files of other
writers.
"""

import json
from datetime import UTC, datetime, timedelta

import gpxpy
import numpy as np
import pytest
from pyproj import Geod

from boardmath.buildfile import BuildFileError
from boardmath.calibration.runs import rolled_fit, summary
from boardmath.calibration.track import climbed, joined, metres_between, of_one_ride, outline, track_of
from planner.rides.files import read_track, write_gpx, write_track
from planner.rides.table import Mapped, preview

BEGUN = datetime(2026, 5, 4, 8, 0, tzinfo=UTC)
METRE = 1 / 111_320.0


def gpx(points, space="http://www.topografix.com/GPX/1/1", head="") -> bytes:
    """A file as a phone writes it: (lat, lon, height, seconds), height and seconds None where it has none."""
    rows = "".join(
        f'<trkpt lat="{lat:.7f}" lon="{lon:.7f}">'
        + (f"<ele>{high:.2f}</ele>" if high is not None else "")
        + (f"<time>{(BEGUN + timedelta(seconds=t)).strftime('%Y-%m-%dT%H:%M:%S.%fZ')}</time>" if t is not None else "")
        + "</trkpt>"
        for lat, lon, high, t in points
    )
    space = f' xmlns="{space}"' if space else ""
    inner = f'<gpx version="1.1" creator="phone"{space}><trk><trkseg>{rows}</trkseg></trk></gpx>'
    return f'<?xml version="1.0"?>{head}{inner}'.encode()


def ridden(speeds, heights=None, lat=54.0, turn_at=None):
    """Points a second apart along a meridian at ``speeds`` m/s, back again from ``turn_at`` s on."""
    way, points = 0.0, []
    for t, v in enumerate(speeds):
        way += v if turn_at is None or t < turn_at else -v
        points.append((lat + way * METRE, 8.5, heights[t] if heights is not None else None, t))
    return points


@pytest.mark.parametrize(("lat", "lon"), [(0.1, 0.0), (54.0, 8.5), (-41.2, 179.9999), (71.0, -25.0)])
def test_distances_are_those_of_the_ellipsoid(lat, lon):
    """Against the geodesics of pyproj, 3,000 steps of some metres in every direction, over the date line too."""
    chance = np.random.default_rng(1)
    lats = lat + np.cumsum(chance.normal(0, 4e-5, 3000))
    lons = (lon + np.cumsum(chance.normal(0, 6e-5, 3000)) + 180) % 360 - 180
    own = metres_between(lats, lons)[1:]
    there = Geod(ellps="WGS84").inv(lons[:-1], lats[:-1], lons[1:], lats[1:])[2]
    np.testing.assert_allclose(own, there, rtol=2e-6, atol=1e-6)


def test_a_climb_that_was_built_in_is_found():
    assert climbed(np.array([0, 10, 4, 12, 12, 0, 7.0])) == pytest.approx(10 + 8 + 7)
    way = np.linspace(0, 6000, 3000)
    for noise in (0.0, 0.4):
        heights = 15 - 15 * np.cos(way / 6000 * 6 * np.pi) + noise * np.random.default_rng(2).normal(size=len(way))
        track = read_track(gpx(ridden(np.full(3000, 2.0), heights)))
        assert summary(track).ascent_m == pytest.approx(90, abs=3)


def test_both_ways_of_a_speed_run_are_found_and_a_hill_and_a_stop():
    usual, out, back = 6.0, 9.6, 9.0
    speeds = [usual] * 200 + [out] * 15 + [usual] * 60 + [0.0] * 12 + [usual] * 60 + [back] * 15 + [usual] * 200
    found = summary(read_track(gpx(ridden(speeds, turn_at=270))))
    (run,) = [f.run for f in found.runs if f.run.kind == "speed"]
    np.testing.assert_allclose(sorted(run.kmh), sorted([out * 3.6, back * 3.6]), rtol=0.04)
    assert found.stops == 1
    assert found.moving_s == pytest.approx(len(speeds) - 12, abs=4)
    assert found.distance_km == pytest.approx(sum(speeds) / 1000, rel=0.002)
    speeds = [5.0] * 400
    heights = np.interp(np.cumsum(speeds), [0, 600, 800, 2000], [0, 0, 20, 20])
    (hill,) = [f.run for f in summary(read_track(gpx(ridden(speeds, heights)))).runs if f.run.kind == "hill"]
    assert hill.grade_pct == pytest.approx(10, abs=1.6)
    assert hill.length_m == pytest.approx(200, rel=0.2)
    assert hill.top_kmh == pytest.approx(18, rel=0.03)


def test_the_winds_mark_is_seen_between_out_and_back():
    found = summary(read_track(gpx(ridden([5.0] * 200 + [6.5] * 200, turn_at=200))))
    assert "slower going north" in found.wind
    assert summary(read_track(gpx(ridden([5.0] * 400, turn_at=200)))).wind is None


def test_a_rolling_board_tells_its_road_and_its_air():
    """Speeds off the closed solution with a phone's errors give both coefficients back, within the errors that are told."""
    a, b, mass = 18.0, 0.32, 84.0
    t = np.arange(0, 18, 0.5)
    v = np.sqrt(a / b) * np.tan(np.arctan(9.0 * np.sqrt(b / a)) - t * np.sqrt(a * b) / mass)
    exact = rolled_fit(t, v, mass)
    assert (exact.steady, exact.square) == pytest.approx((a, b), rel=1e-3)
    off = []
    for seed in range(40):
        read = v + 0.08 * np.random.default_rng(seed).normal(size=len(v))
        fit = rolled_fit(t, read, mass)
        off.append([(fit.steady - a) / fit.covariance[0, 0] ** 0.5, (fit.square - b) / fit.covariance[1, 1] ** 0.5])
    assert 0.6 < np.std(off) < 1.5
    with pytest.raises(ValueError, match="less than 1 m/s"):
        rolled_fit(t, np.full(len(t), 4.0), mass)


def test_what_a_phone_gets_wrong_is_left_out_and_counted():
    points = ridden([5.0] * 100)
    points[40] = (points[40][0] + 0.01, *points[40][1:])  # a jump of a kilometre and back
    points[60] = (*points[60][:3], 20)  # back in time
    points[70] = (*points[70][:3], 69)  # the same moment again
    track = read_track(gpx(points))
    assert track.dropped == {"a jump": 1, "with a time that goes backwards": 1, "with the same time": 1}
    assert track.way[-1] == pytest.approx(99 * 5, rel=0.01)


@pytest.mark.parametrize(
    ("points", "space", "knows"),
    [
        ([(54 + i * 1e-4, 8.5, 2.0, i) for i in range(50)], "http://www.topografix.com/GPX/1/0", "all"),
        ([(54 + i * 1e-4, 8.5, None, i) for i in range(50)], "", "no heights"),
        ([(54 + i * 1e-4, 8.5, 2.0, None) for i in range(50)], "http://www.topografix.com/GPX/1/1", "no times"),
    ],
)
def test_files_of_other_writers_are_read_as_the_library_reads_them(points, space, knows):
    data = gpx(points, space)
    track, theirs = read_track(data), gpxpy.parse(data.decode())
    assert len(track) == sum(len(s.points) for t in theirs.tracks for s in t.segments)
    assert track.way[-1] == pytest.approx(theirs.length_2d(), rel=0.004)
    found = summary(track)
    assert (found.ascent_m is None) == (knows == "no heights")
    assert (found.moving_s is None) == (knows == "no times")


def test_a_track_goes_out_and_comes_in_again():
    track = read_track(gpx(ridden([5.0] * 60, np.linspace(2, 9, 60))))
    for again in (read_track(write_gpx(track, "Wall").encode()), read_track(json.dumps(write_track(track)).encode())):
        np.testing.assert_allclose(again.way, track.way, atol=0.05)
        np.testing.assert_allclose(again.height, track.height, atol=0.01)
        assert again.began == track.began


BOMB = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>'


@pytest.mark.parametrize(
    ("data", "name", "reason"),
    [
        (b"", "a.gpx", "empty"),
        (b"<gpx><trk>", "a.gpx", "XML that cannot be read"),
        (gpx(ridden([5.0] * 9), head=BOMB), "a.gpx", "entities"),
        (b"<kml></kml>", "a.kml", "not GPX"),
        (b"<gpx><wpt lat='1' lon='2'/></gpx>", "a.gpx", "waypoints alone"),
        (gpx(ridden([5.0])), "a.gpx", "fewer than two"),
        (b'{"format": "other"}', "a.json", "not a track"),
        (b'{"format": "sand-pocket/track", "version": 1, "columns": {"mood": [1]}}', "a.json", "no column mood"),
        (
            b'{"format": "sand-pocket/track", "version": 1, "columns": {"time": [1], "speed": [1, 2]}}',
            "a.json",
            "the same length",
        ),
        (b"\x89PNG\r\n\0\0\0,", "a.csv", "not text"),
        (b"hello", "a.csv", "no columns"),
        (b"mood,weather\n1,2\n", "a.csv", "say which column is which"),
        (b"time,voltage\n1,40\n2,39\n", "a.csv", "has no distance"),
        (b"x" * (41 * 1024 * 1024), "a.gpx", "MB"),
    ],
)
def test_what_is_no_track_is_told_why(data, name, reason):
    with pytest.raises(BuildFileError, match=reason):
        read_track(data, name)


def test_a_table_is_read_by_its_heads_or_as_it_is_told():
    text = "ms_today;Speed (mph);Input voltage;Battery current;Motor temp [F]\n"
    text += "".join(f"{1000 * i};{10 + i % 3};{41 - 0.01 * i};{8};{100 + i}\n" for i in range(60)) + "61000;x;1;1;1\n"
    seen = preview(text.encode())
    assert seen.mapping["time"] == Mapped(name="ms_today", unit="ms")
    assert seen.mapping["speed"].unit == "mph"
    assert seen.broken == ["line 62: x is not a number"]
    track = read_track(text.encode())
    assert track.dropped == {"a row that cannot be read": 1}
    assert track.speed[0] * 3.6 == pytest.approx(16.09, abs=0.01)
    assert track.motor_c[0] == pytest.approx(37.78, abs=0.01)
    assert track.power[0] == pytest.approx(41 * 8)
    told = read_track(
        text.encode(),
        mapping={"time": Mapped(name="ms_today", unit="ms"), "speed": Mapped(name="Speed (mph)", unit="km/h")},
    )
    assert told.speed[0] * 3.6 == pytest.approx(10)
    with pytest.raises(BuildFileError, match="is not a unit of speed"):
        read_track(
            text.encode(),
            mapping={"time": Mapped(name="ms_today", unit="ms"), "speed": Mapped(name="Speed (mph)", unit="furlongs")},
        )


def test_the_line_to_share_begins_and_ends_away_from_home():
    track = read_track(gpx(ridden([5.0] * 400)))
    line = np.array(outline(track, 200.0))
    whole = np.array(outline(track, 0.0))
    assert np.ptp(whole[:, 1]) - np.ptp(line[:, 1]) == pytest.approx(400, abs=12)
    assert outline(track, 1200.0) == [], "nothing is left of a way that short"


def test_a_log_without_places_gets_its_way_from_speed_and_time():
    track = track_of({"time": list(range(100)), "speed": [5.0] * 100})
    assert track.way[-1] == pytest.approx(495)
    assert outline(track, 0.0) == []


def test_a_phone_and_a_controller_on_one_ride_are_joined_by_time():
    """The phone knows where, the controller how much: moved by the seconds between their beginnings."""
    phone = read_track(gpx(ridden([5.0] * 120, [3.0] * 120)))
    later = BEGUN + timedelta(seconds=7)
    log = track_of({"time": list(range(110)), "speed": [5.0] * 110, "power": [100.0 + i for i in range(110)]}, later)
    assert of_one_ride(phone, log)
    both = joined(phone, log)
    assert both.power[7] == pytest.approx(100.0)
    assert both.power[60] == pytest.approx(153.0)
    assert np.isnan(both.power[0]), "nothing is made up before it began"
    assert (both.lat == phone.lat).all()
    assert not of_one_ride(phone, track_of({"time": [0, 60], "speed": [5.0, 5.0]}, BEGUN + timedelta(hours=1)))
    assert not of_one_ride(phone, track_of({"time": list(range(110)), "speed": [5.0] * 110}))
