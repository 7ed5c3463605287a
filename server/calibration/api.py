"""What rides taught, and claims held against what is known."""

from typing import Annotated
from uuid import UUID

from django.utils.text import slugify
from ninja import Field, Router, Schema

from boardmath.buildfile import Build, read_build, write_build
from boardmath.calibration.report import CalibrationReport
from boardmath.model.resolution import Incomplete
from planner.rides.claims import ClaimReport, check_claim, read_claim
from planner.rides.how_far import HowFar, how_far
from server.boards import services as builds
from server.boards.schemas import DocumentIn
from server.calibration import services
from server.calibration.card import how_far_card
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["calibration"])
CARD = "voltscard"


class LearnedFrom(Schema):
    """A ride that the report counts, so that it can be named and left out."""

    id: UUID
    day: str
    title: str | None = None
    left_out: str | None = None


class CalibrationOut(CalibrationReport):
    """What the rides taught; ``of`` are the rides in the order in which the report counts them."""

    of: list[LearnedFrom]


class ClaimIn(DocumentIn):
    claim: Annotated[str, Field(min_length=1, max_length=300)]


@router.get("/builds/{id}/calibration", response=CalibrationOut, exclude_none=True)
@in_turn
def calibration_of_build(request: PersonRequest, id: UUID) -> CalibrationOut:
    """What the rides of a board as it is saved taught: inputs and outcomes before and after, each ride judged."""
    kept, report = services.report(request.user, id)
    of = [LearnedFrom(id=k.id, day=k.ride.day, title=k.ride.title, left_out=k.ride.left_out) for k in kept]
    return CalibrationOut(**report.__dict__, of=of)


@router.post("/claim", response=ClaimReport, exclude_none=True)
@in_turn
def claim_on_build(request: PersonRequest, payload: ClaimIn) -> ClaimReport:
    """A figure that somebody promises, held against a build."""
    file = _asked_of(request, payload)
    try:
        return check_claim(file, read_claim(payload.claim))
    except Incomplete as error:
        raise ApiError("There is no prediction yet.", document=error.needs[0].reason) from None


@router.post("/how-far", response=HowFar, exclude_none=True)
@in_turn
def how_far_from_here(request: PersonRequest, payload: DocumentIn) -> HowFar:
    """What is left at every reading of a build's pack: a table that a phone keeps for when there is no network."""
    return _how_far(_asked_of(request, payload))


@router.post("/how-far/card", response=JOB_RESPONSE, exclude_none=True)
def card_of_volts(request: PersonRequest, payload: DocumentIn) -> JobResponse:
    """Asks for a card to tape on the board, A7: volts, charge and what is left."""
    return job_response(jobs.ask(request.user, CARD, {"build": write_build(_asked_of(request, payload))}))


@job_handler(CARD)
def _card(job: JobRequest) -> Made:
    build = read_build(job.payload["build"])
    name = build.name or "Board"
    return Made(how_far_card(name, _how_far(build)), "application/pdf", f"{slugify(name) or 'board'}-volts.pdf")


def _asked_of(request: PersonRequest, payload: DocumentIn) -> Build:
    """The build of a request; the board that it says it is has to be the person's."""
    if payload.board is not None:
        builds.get(request.user, payload.board)
    return services.board_in(request, payload)


def _how_far(build: Build) -> HowFar:
    try:
        return how_far(build)
    except Incomplete as error:
        raise ApiError("There is no prediction yet.", document=error.needs[0].reason) from None
