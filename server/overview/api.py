"""Where a board stands, of a build that need not be saved; and the list of boards, where every board stands in a line."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.utils import timezone
from ninja import Query, Router, Schema

from boardmath.buildfile import BuildFileError
from boardmath.geometry.shapes import Drawing
from boardmath.geometry.views.view import draw
from boardmath.model.sampling import FEW
from boardmath.prediction.outcomes import Headline, Outcome, headlines
from planner.overview import Overview, overview
from planner.overview.report import next_steps
from planner.overview.step import NextStep
from server.boards import services as builds_of
from server.boards.models import Build
from server.boards.schemas import FileIn
from server.calibration.services import all_taught, taught
from server.overview import services
from server.throttles.concurrency import in_turn
from server.users import Number, Person, PersonRequest

router = Router(tags=["overview"])
BOARDS_PAGE = 12


class OverviewOut(Overview):
    """Where the board stands, and its outcomes against the brief."""

    outcomes: list[Outcome]


@router.post("/builds/{id}/overview", response=OverviewOut, exclude_none=True)
@in_turn
def overview_of_build(request: PersonRequest, id: UUID, payload: FileIn) -> OverviewOut:
    """What comes next for a board, what is done, and what happened lately."""
    build = builds_of.get(request.user, id)
    file = taught(request.user, id, payload.document)
    (known,) = services.known([build], [file], timezone.localdate(), whole=True)
    return OverviewOut(**overview(known).__dict__, outcomes=list(known.outcomes))


class ListedBoard(Schema):
    """A build in the list of boards."""

    id: UUID
    name: str
    stage: str | None
    currency: str | None
    updated_at: datetime
    headline: Headline
    dangers: int
    stops: int
    next: NextStep | None
    side: Drawing


class UnreadableBoard(Schema):
    """A build of which something that is stored no longer validates: its name, why, and that it is there to be downloaded."""

    id: UUID
    name: str
    updated_at: datetime
    reason: str


class Boards(Schema):
    """Some of the person's builds, the latest first, and how many there are in all."""

    count: int
    builds: list[ListedBoard]
    unreadable: list[UnreadableBoard] = []


@router.get("/boards", response=Boards, exclude_none=True)
@in_turn
def boards(
    request: PersonRequest,
    offset: Number = 0,
    limit: Annotated[int, Query(ge=1, le=50)] = BOARDS_PAGE,
) -> Boards:
    """Builds of the person with their outcomes, in one run of the engine."""
    mine = Build.objects.of(request.user)
    builds = list(mine[offset : offset + limit])
    unreadable: list[UnreadableBoard] = []
    rows = _listed(request.user, builds, unreadable)
    return Boards(count=mine.count(), builds=rows, unreadable=unreadable)


def _listed(owner: Person, builds: list[Build], unreadable: list[UnreadableBoard]) -> list[ListedBoard]:
    """All together; one by one where something of one of them no longer validates, which is put apart."""
    try:
        return _together(owner, builds) if builds else []
    except BuildFileError as error:
        if len(builds) > 1:
            return [row for b in builds for row in _listed(owner, [b], unreadable)]
        (b,) = builds
        unreadable.append(UnreadableBoard(id=b.id, name=str(b), updated_at=b.updated_at, reason=str(error.faults[0])))
        return []


def _together(owner: Person, builds: list[Build]) -> list[ListedBoard]:
    files = all_taught(owner, builds, [builds_of.file_of(b) for b in builds])
    heads = headlines(files, FEW)
    all_known = services.known(builds, files, timezone.localdate(), heads=heads)
    return [
        ListedBoard(
            id=b.id,
            name=str(b),
            stage=f.stage,
            currency=f.currency,
            updated_at=b.updated_at,
            headline=h,
            dangers=sum(s.urgency == "danger" for s in steps),
            stops=sum(s.urgency == "stop" for s in steps),
            next=steps[0] if steps else None,
            side=draw(f, "side"),
        )
        for b, f, h, steps in zip(builds, files, heads, map(next_steps, all_known), strict=True)
    ]
