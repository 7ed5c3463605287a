"""Named points in a build's life, and builds or revisions side by side."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from boardmath.buildfile import read_build
from boardmath.comparing import MOST, Comparison, Differences, compare, differences
from server.faults import Refused
from server.workshop import revisions, services
from server.workshop.api.schemas import REFUSALS, BuildOut, PredictionThrottle, build_out
from server.workshop.models import Revision

router = Router(tags=["revisions"])


class RevisionIn(Schema):
    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=600)] = ""


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


class Column(Schema):
    """One build or revision of a comparison."""

    ref: str
    build: UUID
    name: str
    revision: str | None = None
    currency: str | None = None


class CompareOut(Comparison):
    columns: list[Column]


@router.get("/builds/{id}/revisions", response={200: History, **REFUSALS})
def life(request: HttpRequest, id: UUID) -> object:
    """How the build came to be what it is."""
    build = services.get(request.user, id)
    kept = revisions.of(request.user, id)
    files = [read_build(r.document) for r in kept]
    out = [
        _out(r, differences([before, now]) if before else [])
        for r, before, now in zip(kept, [None, *files], files, strict=False)
    ]
    return History(revisions=out, since=differences([files[-1], read_build(build.document)]) if files else [])


@router.post("/builds/{id}/revisions", response={200: RevisionOut, **REFUSALS})
def keep(request: HttpRequest, id: UUID, payload: RevisionIn) -> object:
    """Keeps the build as it is saved now, under a name."""
    return _out(revisions.keep(request.user, id, payload.name, payload.note), [])


@router.put("/builds/{id}/revisions/{revision_id}", response={200: RevisionOut, **REFUSALS})
def rename(request: HttpRequest, id: UUID, revision_id: UUID, payload: RevisionIn) -> object:
    """Another name or note for a named point."""
    return _out(revisions.rename(request.user, id, revision_id, payload.name, payload.note), [])


@router.post(
    "/builds/{id}/revisions/{revision_id}/go-back",
    response={200: BuildOut, 409: BuildOut, **REFUSALS},
    exclude_none=True,
)
def go_back(request: HttpRequest, id: UUID, revision_id: UUID, payload: GoBackIn) -> object:
    """The build as it was at a named point, as a new revision; 409 where it was saved elsewhere since."""
    try:
        return 200, build_out(revisions.go_back(request.user, id, revision_id, payload.revision))
    except services.Conflict as conflict:
        return 409, build_out(conflict.current)


@router.get("/compare", response={200: CompareOut, **REFUSALS}, exclude_none=False, throttle=PredictionThrottle())
def compared(request: HttpRequest, of: Annotated[list[str], Query()]) -> object:
    """Two to four builds side by side; each is a build's id, or ``build@revision`` by their ids."""
    if not 2 <= len(of) <= MOST:
        raise Refused(f"Two to {MOST} builds are compared.", of=f"{len(of)} were asked for")
    columns, files = [], []
    for ref in of:
        build_id, _, revision_id = ref.partition("@")
        try:
            build = services.get(request.user, UUID(build_id))
            kept: Revision | None = revisions.get(request.user, build.id, UUID(revision_id)) if revision_id else None
        except ValueError:
            raise Refused("There is no such build.", of=ref[:80]) from None
        file = read_build(kept.document if kept else build.document)
        files.append(file)
        columns.append(
            Column(
                ref=ref, build=build.id, name=str(build), revision=kept.name if kept else None, currency=file.currency
            )
        )
    names = [f"{c.name}, {c.revision}" if c.revision else c.name for c in columns]
    return CompareOut(columns=columns, **compare(files, names).__dict__)


def _out(revision: Revision, changed: list[Differences]) -> RevisionOut:
    return RevisionOut(
        id=revision.id, name=revision.name, note=revision.note, created_at=revision.created_at, changed=changed
    )
