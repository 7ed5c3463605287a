"""Rides of a board, tracks, sums, and the file of rides."""

import json
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Annotated, Any, Literal
from uuid import UUID

import numpy as np
from django.http import HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Field, Query, Router, Schema, Status

from boardmath.buildfile import Fault
from boardmath.calibration.ride import Ride
from boardmath.calibration.ride_file import write_rides
from boardmath.calibration.rolling import RolledOut, rolled_out_of
from boardmath.calibration.runs import Summary
from boardmath.calibration.simulated import a_ride_of
from boardmath.model.resolution import Incomplete
from boardmath.parts.cost import cost
from planner.rides.files import write_gpx, write_track
from planner.rides.guided import GUIDES, TestGuide
from planner.rides.sums import Sums, sums
from planner.rides.table import Preview
from server.boards import services as builds
from server.errors import ApiError, FaultOut
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, as_json, job_handler
from server.rides import services, tracks
from server.rides.models import Track
from server.text_validation import json_of
from server.users import Person, PersonRequest

router = Router(tags=["rides"])


class RideLine(Schema):
    """A ride as it is listed: ``revision`` and ``record`` say what was ridden and how it was set."""

    id: UUID
    ride: Ride
    revision: str | None = None
    record: int | None = None
    track: UUID | None = None


class RefusedRide(Schema):
    """A ride that was not taken, and why."""

    id: str
    faults: list[FaultOut]


class RidesOut(Schema):
    """The rides of a board, the oldest first, what they came to, and the tests that can be done."""

    rides: list[RideLine]
    sums: Sums
    currency: str | None = None
    guides: list[TestGuide]
    points: list[str]
    """Names of the points at which the board was kept."""
    refused: list[RefusedRide] = []
    unreadable: list[RefusedRide] = []
    """Rides that were kept by an earlier release and no longer validate: nothing else counts them."""
    changed: list[UUID] = []
    """Rides of which nothing was taken, as they were changed elsewhere since; ``rides`` has them as they are."""


class SentRide(Schema):
    """A ride in the form of the file of rides, under the id that its device gave it, and the track that it was read from."""

    ride: dict[str, Any]
    track: UUID | None = None
    before: dict[str, Any] | None = None
    """As this device had it from the server, for a ride that was there already."""


class RidesIn(Schema):
    rides: Annotated[list[SentRide], Field(max_length=services.MOST_AT_ONCE)]


def _answer(owner: Person, id: UUID, taken: services.Taken | None = None) -> RidesOut:
    build = builds.get(owner, id)
    file = builds.document_of(build)
    kept = services.kept(build, file)
    return RidesOut(
        rides=[RideLine(id=k.id, ride=k.ride, revision=k.revision, record=k.record, track=k.track) for k in kept],
        sums=sums([k.ride for k in kept], cost(file).total or None),
        currency=file.currency,
        guides=GUIDES,
        points=list(build.revisions.values_list("name", flat=True)),
        refused=[_refused(ride, faults) for ride, faults in (taken.refused if taken else [])],
        unreadable=[_refused(str(row.ride), services.faults_of(row)) for row in services.unreadable(build, kept)],
        changed=taken.changed if taken else [],
    )


def _refused(ride: str, faults: Sequence[Fault]) -> RefusedRide:
    return RefusedRide(id=ride, faults=[FaultOut(field=f.field, reason=f.reason) for f in faults])


@router.get("/builds/{id}/rides", response=RidesOut, exclude_none=True)
def rides_of_build(request: PersonRequest, id: UUID) -> RidesOut:
    """The rides of a board and what they came to."""
    return _answer(request.user, id)


@router.post("/builds/{id}/rides", response=RidesOut, exclude_none=True)
def write_rides_down(request: PersonRequest, id: UUID, payload: RidesIn) -> RidesOut:
    """Takes rides in, each once however often it is sent; one that cannot be, or was changed elsewhere since, is named and holds
    up no other.
    """
    before = [one.before or {} for one in payload.rides]
    taken = services.add(request.user, id, [one.ride for one in payload.rides], before)
    for one in payload.rides:
        if one.track is not None:
            tracks.belongs(request.user, id, one.track, str(one.ride.get("id", "")))
    return _answer(request.user, id, taken)


@router.delete("/builds/{id}/rides/{uuid:ride}", response=RidesOut, exclude_none=True)
def take_ride_away(request: PersonRequest, id: UUID, ride: UUID) -> RidesOut:
    """A ride off the list; sent again it is back."""
    services.take_away(request.user, id, ride)
    return _answer(request.user, id)


@router.get("/builds/{id}/rides/file", response=Any)
def rides_file(request: PersonRequest, id: UUID) -> Any:
    """All rides of a board as a file."""
    build = builds.get(request.user, id)
    document = write_rides([k.ride for k in services.kept(build)], str(build))
    answer = JsonResponse(document, json_dumps_params={"ensure_ascii": False, "indent": 1})
    answer["Content-Disposition"] = f'attachment; filename="{slugify(str(build)) or "board"}-rides.json"'
    return answer


@router.post(
    "/builds/{id}/rides/file",
    response=RidesOut,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}},
)
def bring_rides_in(request: PersonRequest, id: UUID) -> RidesOut:
    """Rides from a file, the body as it is; those that are there already are passed over."""
    data = tracks.whole(request)
    return _answer(request.user, id, services.bring_in(request.user, id, data))


# --- tracks ---------------------------------------------------------------------------------------------------------


class TrackOut(Schema):
    """What came of a file: the track with what was found in it and the ride that it tells; or a table to be told about."""

    id: UUID | None = None
    name: str
    again: bool = False
    joined: bool = False
    """It was recorded on a ride that has a track already; that one has what this one knows."""
    summary: Summary | None = None
    ride: Ride | None = None
    ridden: UUID | None = None
    """The ride that it belongs to, where it was accepted before."""
    rolled: list[RolledOut] = []
    """What was found to roll out tells of road and air."""
    table: Preview | None = None
    fault: str | None = None


class PlotOut(Schema):
    """A track to be drawn: few enough points; what was not recorded is left out."""

    id: UUID
    name: str
    summary: Summary
    columns: dict[str, list[float | None]]


@router.post(
    "/builds/{id}/rides/tracks",
    response=JOB_RESPONSE,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}},
)
def bring_track(
    request: PersonRequest,
    id: UUID,
    name: Annotated[str, Query(max_length=120)] = "track",
    mapping: Annotated[str, Query(max_length=4000)] = "",
) -> JobResponse:
    """A track or log, the body as it is. ``mapping`` says as JSON which column of a table is what; it is remembered."""
    builds.get(request.user, id)
    try:
        told = json_of(mapping) if mapping else None
    except ApiError:
        raise ApiError("A table cannot be read like that.", mapping="an object as JSON") from None
    data = tracks.whole(request)
    return job_response(
        jobs.ask(request.user, "track", {"build": str(id), "name": name, "mapping": told, **_here()}, data)
    )


def _here() -> dict[str, str]:
    """The reader's day, and how many minutes east of universal time they are."""
    east = (timezone.localtime().utcoffset() or timedelta()).total_seconds() // 60
    return {"today": timezone.localdate().isoformat(), "east": str(int(east))}


@job_handler("track")
def _track(job: JobRequest) -> Made:
    told = job.payload
    found = tracks.bring(job.owner, told["build"], told["name"], job.upload, told["mapping"])
    if found.track is None:
        return as_json(TrackOut(name=told["name"], table=found.table, fault=found.fault))
    shown = _shown(found.track, found.again, int(told["east"]), told["today"])
    return as_json(shown.model_copy(update={"joined": found.joined}))


@router.post("/builds/{id}/rides/simulated", response=JOB_RESPONSE, exclude_none=True)
def simulated_ride(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks the simulated controller for the log of a ride: of a board like this one, with a truth that nobody knows."""
    builds.get(request.user, id)
    order = {"build": str(id), "at": timezone.now().replace(microsecond=0).isoformat(), **_here()}
    return job_response(jobs.ask(request.user, "simulatedride", order))


@job_handler("simulatedride")
def _simulated(job: JobRequest) -> Made:
    told = job.payload
    build = builds.get(job.owner, told["build"])
    began = datetime.fromisoformat(told["at"])
    try:
        log = a_ride_of(builds.document_of(build), int(began.timestamp()), began)
    except Incomplete as error:
        raise ApiError(
            "There is no prediction yet, so nothing can be simulated.", build=error.needs[0].reason
        ) from None
    data = json.dumps(write_track(log)).encode()
    found = tracks.bring(job.owner, build.pk, "simulated-controller.json", data, None)
    assert found.track is not None
    return as_json(_shown(found.track, found.again, int(told["east"]), told["today"]))


@router.get("/track-imports/{job}", response=TrackOut, exclude_none=True)
def brought(request: PersonRequest, job: UUID) -> TrackOut:
    """What came of a file, when the job is done."""
    made = jobs.made(request.user, job, "track", "simulatedride").made
    return TrackOut.model_validate_json(bytes(made or b""))


def _shown(track: Track, again: bool, east: int, today: str) -> TrackOut:
    told = Summary.model_validate(track.summary)
    return TrackOut(
        id=track.pk,
        name=track.name,
        again=again,
        summary=told,
        rolled=rolled_out_of(builds.document_of(track.build), tracks.file_of(track), told),
        ride=tracks.as_ride(track, east, today),
        ridden=track.ride,
    )


@router.get("/rides/tracks/{track}", response=PlotOut, exclude_none=True)
def track_plot(request: PersonRequest, track: UUID) -> PlotOut:
    """A track to be drawn."""
    kept = tracks.get(request.user, track)
    file = tracks.shown(kept)
    columns: dict[str, list[float | None]] = {}
    for name in ("way", "time", "speed", "height", "power", "voltage", "current", "motor_c", "board_c"):
        values = getattr(file, name)
        if np.isfinite(values).any():
            columns[name] = [round(float(v), 2) if np.isfinite(v) else None for v in values]
    return PlotOut(id=kept.pk, name=kept.name, summary=Summary.model_validate(kept.summary), columns=columns)


@router.delete("/rides/tracks/{track}", response={204: None})
def take_track_away(request: PersonRequest, track: UUID) -> Status[None]:
    """A track is thrown away; the ride that was read from it stays."""
    tracks.take_away(request.user, track)
    return Status(204, None)


@router.get("/rides/tracks/{track}/line", response=bytes)
def track_line(
    request: PersonRequest,
    track: UUID,
    form: Literal["svg", "png", "gpx"] = "svg",
    cut_m: Annotated[float, Query(ge=0, le=5000)] = 200.0,
) -> HttpResponse:
    """The way as a line without a map, to share, both ends cut off; or the whole track as GPX."""
    kept = tracks.get(request.user, track)
    if form == "gpx":
        try:
            body: bytes | str = write_gpx(tracks.file_of(kept), kept.name)
        except ValueError:
            raise ApiError("That track has no positions.", form="not as GPX") from None
    else:
        body = tracks.line_svg(kept, cut_m) if form == "svg" else tracks.line_png(kept, cut_m)
    kinds = {"svg": "image/svg+xml", "png": "image/png", "gpx": "application/gpx+xml"}
    answer = HttpResponse(body, content_type=kinds[form])
    answer["Content-Disposition"] = f'attachment; filename="{slugify(kept.name.rpartition(".")[0]) or "way"}.{form}"'
    answer["Cache-Control"] = "private, no-store"
    return answer
