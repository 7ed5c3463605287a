"""What rides taught, and claims held against what is known."""

from typing import Annotated
from uuid import UUID

from ninja import Field, Router, Schema

from boardmath.calibration.report import CalibrationReport
from boardmath.model.resolution import Incomplete
from planner.rides.claims import ClaimReport, check_claim, read_claim
from planner.rides.how_far import HowFar, how_far
from server.boards import services as builds
from server.boards.schemas import DocumentIn
from server.calibration import services
from server.errors import ApiError
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["calibration"])


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
    if payload.board is not None:
        builds.get(request.user, payload.board)
    file = services.board_in(request, payload)
    try:
        return check_claim(file, read_claim(payload.claim))
    except Incomplete as error:
        raise ApiError("There is no prediction yet.", document=error.needs[0].reason) from None


@router.post("/how-far", response=HowFar, exclude_none=True)
@in_turn
def how_far_from_here(request: PersonRequest, payload: DocumentIn) -> HowFar:
    """What is left at every reading of a build's pack: a table that a phone keeps for when there is no network."""
    if payload.board is not None:
        builds.get(request.user, payload.board)
    try:
        return how_far(services.board_in(request, payload))
    except Incomplete as error:
        raise ApiError("There is no prediction yet.", document=error.needs[0].reason) from None
