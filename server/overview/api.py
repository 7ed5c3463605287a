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
    """A build of which something that is stored no longer validates; its file can still be downloaded."""

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
    rows = _listed(request.user, builds) if builds else []
    return Boards(
        count=mine.count(),
        builds=[row for row in rows if isinstance(row, ListedBoard)],
        unreadable=[row for row in rows if isinstance(row, UnreadableBoard)],
    )


def _listed(owner: Person, builds: list[Build]) -> list[ListedBoard | UnreadableBoard]:
    """All in one run of the engine; board by board where one of them cannot be read."""
    try:
        return [*_predicted(owner, builds)]
    except BuildFileError as error:
        if len(builds) > 1:
            return [row for build in builds for row in _listed(owner, [build])]
        b, reason = builds[0], str(error.faults[0])
        return [UnreadableBoard(id=b.id, name=str(b), updated_at=b.updated_at, reason=reason)]


def _predicted(owner: Person, builds: list[Build]) -> list[ListedBoard]:
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
