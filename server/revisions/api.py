"""Named points in a build's life."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from ninja import Field, Router, Schema, Status

from planner.compare import Differences, differences
from server.boards import services
from server.boards.schemas import BuildOut, build_out
from server.errors import Conflict
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.users import PersonRequest

router = Router(tags=["revisions"])


class RevisionIn(Schema):
    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=600)] = ""


class RenameIn(RevisionIn):
    """Another name and note, and those that they replace as the sender knows them."""

    before: RevisionIn


class RevisionOut(Schema):
    """A named point, with what changed since the one before it."""

    id: UUID
    name: str
    note: str
    created_at: datetime
    changed: list[Differences]


class History(Schema):
    """A build's named points, the oldest first, and what has changed since the last of them."""

    revisions: list[RevisionOut]
    since: list[Differences]


class GoBackIn(Schema):
    revision: int


@router.get("/builds/{id}/revisions", response=History)
def life(request: PersonRequest, id: UUID) -> History:
    """How the build came to be what it is."""
    build = services.get(request.user, id)
    kept = revisions.of(request.user, id)
    files = [revisions.document_of(r) for r in kept]
    out = [
        _out(r, differences([before, now]) if before else [])
        for r, before, now in zip(kept, [None, *files], files, strict=False)
    ]
    return History(revisions=out, since=differences([files[-1], services.document_of(build)]) if files else [])


@router.post("/builds/{id}/revisions", response=RevisionOut)
def keep(request: PersonRequest, id: UUID, payload: RevisionIn) -> RevisionOut:
    """Keeps the build as it is saved now, under a name."""
    return _out(revisions.keep(request.user, id, payload.name, payload.note), [])


@router.put("/builds/{id}/revisions/{revision_id}", response={200: RevisionOut, 409: RevisionOut})
def rename(request: PersonRequest, id: UUID, revision_id: UUID, payload: RenameIn) -> Status[RevisionOut]:
    """Another name or note for a named point; 409 with what it has where that was changed elsewhere since."""
    before = payload.before
    try:
        found = revisions.rename(
            request.user, id, revision_id, (payload.name, payload.note), (before.name, before.note)
        )
    except Conflict as conflict:
        return Status(409, _out(conflict.current, []))
    return Status(200, _out(found, []))


@router.post(
    "/builds/{id}/revisions/{revision_id}/go-back",
    response={200: BuildOut, 409: BuildOut},
    exclude_none=True,
)
def go_back(request: PersonRequest, id: UUID, revision_id: UUID, payload: GoBackIn) -> Status[BuildOut]:
    """The build as it was at a named point, as a new revision; 409 where it was saved elsewhere since."""
    try:
        return Status(200, build_out(revisions.go_back(request.user, id, revision_id, payload.revision)))
    except Conflict as conflict:
        return Status(409, build_out(conflict.current))


def _out(revision: Revision, changed: list[Differences]) -> RevisionOut:
    return RevisionOut(
        id=revision.id, name=revision.name, note=revision.note, created_at=revision.created_at, changed=changed
    )
