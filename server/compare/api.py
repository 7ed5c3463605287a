"""Two to four builds or revisions side by side."""

from typing import Annotated
from uuid import UUID

from ninja import Query, Router, Schema

from planner.compare import MOST, Comparison, compare
from server.boards import services
from server.calibration.services import taught
from server.errors import ApiError
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["compare"])


class Column(Schema):
    """One build or revision of a comparison."""

    ref: str
    build: UUID
    name: str
    revision: str | None = None
    currency: str | None = None


class CompareOut(Comparison):
    columns: list[Column]


@router.get("/compare", response=CompareOut, exclude_none=False)
@in_turn
def compared(request: PersonRequest, of: Annotated[list[str], Query()]) -> CompareOut:
    """Two to four builds side by side; each is a build's id, or ``build@revision`` by their ids."""
    if not 2 <= len(of) <= MOST:
        raise ApiError(f"Compare two to {MOST} boards.", of=f"you asked for {len(of)}")
    columns, files = [], []
    for ref in of:
        build_id, _, revision_id = ref.partition("@")
        try:
            build = services.get(request.user, UUID(build_id))
            kept: Revision | None = revisions.get(request.user, build.id, UUID(revision_id)) if revision_id else None
        except ValueError:
            raise ApiError("There is no such board.", of=ref[:80]) from None
        file = taught(request.user, build.pk, revisions.document_of(kept) if kept else services.document_of(build))
        files.append(file)
        columns.append(
            Column(
                ref=ref, build=build.id, name=str(build), revision=kept.name if kept else None, currency=file.currency
            )
        )
    names = [f"{c.name}, {c.revision}" if c.revision else c.name for c in columns]
    return CompareOut(columns=columns, **compare(files, names).__dict__)
