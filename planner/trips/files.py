"""Trips as files: JSON of our own, GPX of the ways that came from tracks; and routes that are brought in."""

from typing import Any

from boardmath.buildfile import BuildFileError, Fault, check, parse_json
from boardmath.buildfile.trips import Trip, TripDay, TripLeg
from boardmath.calibration.track import Track
from planner.rides.files import kind_of, read_track
from planner.trips.route import profile_of

FORMAT, VERSION = "sand-pocket/trip", 1


def write_trip(trip: Trip) -> dict[str, Any]:
    """A trip as a plain object."""
    return {"format": FORMAT, "version": VERSION, "trip": trip.model_dump(mode="json", exclude_none=True)}


def read_trip(data: bytes) -> Trip:
    """A trip from its file.

    Raises:
        BuildFileError: with a fault for each field that is wrong.
    """
    document = parse_json(data)
    if document.get("format") != FORMAT or not isinstance(document.get("trip"), dict):
        raise BuildFileError([Fault("format", f'a trip says "format": "{FORMAT}" and has a "trip"')])
    if document.get("version") != VERSION:
        raise BuildFileError([Fault("version", "a trip of a version that this program cannot read")])
    return check(Trip, document["trip"])


def leg_of(track: Track, name: str | None = None) -> TripLeg:
    """A leg from a track.

    Raises:
        BuildFileError: the track tells no way that can be ridden.
    """
    try:
        leg = TripLeg(name=name, profile=profile_of(track))
    except ValueError as error:
        raise BuildFileError([Fault("track", f"the track {error}")]) from None
    if sum(leg.profile.metres if leg.profile else []) < 50:
        raise BuildFileError([Fault("track", "the track is shorter than 50 m")])
    return leg


def route_of(data: bytes, name: str = "") -> Trip:
    """A trip from a file: our own, or the track of another program as one leg of one day.

    Raises:
        BuildFileError: it is neither.
    """
    if kind_of(data, name) == "json" and b'"sand-pocket/trip"' in data[:4096]:
        return read_trip(data)
    leg = leg_of(read_track(data, name))
    return Trip(id="route", name=name or "Route", days=[TripDay(legs=[leg])])


def gpx_of(trip: Trip) -> str | None:
    """The legs that came from tracks as GPX 1.1, one track each; None where none did."""
    import gpxpy.gpx as gpx

    file = gpx.GPX()
    file.creator = "Sand Pocket"
    file.name = trip.name
    for leg in (leg for day in trip.days for leg in day.legs):
        way = leg.profile
        if way is None:
            continue
        track = gpx.GPXTrack(name=leg.name)
        points = [
            gpx.GPXTrackPoint(lat, lon, None if way.unknown_heights else high)
            for lat, lon, high in zip(way.lat, way.lon, way.heights, strict=True)
        ]
        track.segments.append(gpx.GPXTrackSegment(points))
        file.tracks.append(track)
    return str(file.to_xml()) if file.tracks else None
