"""Trips of a build that need not be saved; ways from tracks; cards and files to take away."""

import json
from typing import Annotated, Literal
from uuid import UUID

from django.http import HttpResponse
from django.utils.text import slugify
from ninja import Query, Router, Schema

from boardmath.buildfile import BuildFileError, read_build, write_build
from boardmath.buildfile.trips import Trip, TripLeg
from boardmath.calibration.ride import Ride
from planner.rides.files import LARGEST_TRACK, read_track
from planner.trips.files import gpx_of, leg_of, read_trip, write_trip
from planner.trips.report import TripReport, trip_report
from server.boards import services as builds
from server.boards.schemas import DocumentIn
from server.calibration.services import board_in
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, as_json, job_handler
from server.pictures import Readable
from server.rides import services as rides
from server.throttles.concurrency import in_turn
from server.trips.card import trip_card
from server.users import Person, PersonRequest

router = Router(tags=["trips"])
ROUTE, CARD = "tripway", "tripcard"
BODY = {"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}}


class TripIn(DocumentIn):
    """A trip with a build; ``board`` says whose rides are held against it afterwards."""

    trip: Trip


class TripFileIn(Schema):
    trip: Trip


def _ridden(owner: Person, payload_board: UUID | None, trip: Trip) -> list[Ride]:
    """The rides of the log on the days of a trip."""
    days = {d.on for d in trip.days if d.on}
    if payload_board is None or not days:
        return []
    return [k.ride for k in rides.kept(builds.get(owner, payload_board)) if k.ride.day in days]


@router.post("/trip", response=TripReport, exclude_none=True)
@in_turn
def trip_of_build(request: PersonRequest, payload: TripIn) -> TripReport:
    """Arrival charge and chance at every point of a trip, where to turn back, what helps, what to carry."""
    build = board_in(request, payload)
    return trip_report(build, payload.trip, _ridden(request.user, payload.board, payload.trip))


def _whole(given: Readable) -> bytes:
    data = given.read(LARGEST_TRACK + 1)
    if len(data) > LARGEST_TRACK:
        raise ApiError(
            "The file is too large for a track.", status=413, track=f"at most {LARGEST_TRACK // 1_000_000} MB"
        )
    return data


@router.post("/trip/route", response=JOB_RESPONSE, exclude_none=True, openapi_extra=BODY)
def ask_for_route(request: PersonRequest, name: Annotated[str, Query(max_length=120)] = "way") -> JobResponse:
    """Asks for a leg from a track, the body as it is: GPX, CSV or JSON of our own."""
    return job_response(jobs.ask(request.user, ROUTE, {"name": name}, _whole(request)))


@job_handler(ROUTE)
def _route(job: JobRequest) -> Made:
    name = job.payload["name"]
    try:
        leg = leg_of(read_track(job.upload, name), name.rpartition(".")[0][:80] or name[:80])
    except BuildFileError as error:
        faults = {f.field or "track": f.reason for f in error.faults}
        raise ApiError("No route can be read from it.", faults=faults) from None
    return as_json(leg)


@router.get("/trip/route/{job}", response=TripLeg, exclude_none=True)
def read_route(request: PersonRequest, job: UUID) -> TripLeg:
    """The leg, when the job is done."""
    return TripLeg.model_validate_json(bytes(jobs.made(request.user, job, ROUTE).made or b""))


@router.post("/trip/read", response=Trip, exclude_none=True, openapi_extra=BODY)
def read_trip_file(request: PersonRequest) -> Trip:
    """A trip from its file, the body as it is."""
    return read_trip(_whole(request))


@router.post("/trip/file", response=bytes)
def trip_file(request: PersonRequest, payload: TripFileIn, form: Literal["json", "gpx"] = "json") -> HttpResponse:
    """A trip to take away: JSON of our own, or the ways that came from tracks as GPX."""
    name = slugify(payload.trip.name) or "trip"
    if form == "json":
        text = json.dumps(write_trip(payload.trip), ensure_ascii=False, indent=1)
        answer = HttpResponse(text, content_type="application/json")
    else:
        ways = gpx_of(payload.trip)
        if ways is None:
            raise ApiError("No leg has a track, so its route is not known.", form="json")
        answer = HttpResponse(ways, content_type="application/gpx+xml")
    answer["Content-Disposition"] = f'attachment; filename="{name}.{form}"'
    return answer


@router.post("/trip/card", response=JOB_RESPONSE, exclude_none=True)
def card_of_trip(request: PersonRequest, payload: TripIn) -> JobResponse:
    """Asks for a trip on a card for the pocket, A6."""
    build = board_in(request, payload)
    trip = payload.trip.model_dump(mode="json", exclude_none=True)
    return job_response(jobs.ask(request.user, CARD, {"build": write_build(build), "trip": trip}))


@job_handler(CARD)
def _card(job: JobRequest) -> Made:
    build, trip = read_build(job.payload["build"]), Trip.model_validate(job.payload["trip"])
    report = trip_report(build, trip)
    if report.needs:
        raise ApiError("There is no trip to print yet.", trip=report.needs[0].text)
    name = slugify(trip.name) or "trip"
    return Made(trip_card(build.name or "Board", trip, report), "application/pdf", f"{name}-card.pdf")
