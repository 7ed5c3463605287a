"""The parts list: what it costs, how it stands, what is forgotten; as CSV out and in."""

from typing import Annotated
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Field, Router, Schema

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import Parts
from boardmath.buildfile.electrics import Extra
from boardmath.parts.part_selection import with_parts
from planner.parts_list.lines import PartsList, parts_list
from server.boards import services
from server.boards.schemas import DocumentIn, FileIn
from server.calibration.services import file_in
from server.errors import RowFaults
from server.library import services as library
from server.library.models import Part
from server.parts_list import list_csv
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["parts-list"])


class OtherPartsIn(DocumentIn):
    parts: Parts


class ListTextIn(DocumentIn):
    text: Annotated[str, Field(max_length=400_000)]


class ListRow(Schema):
    """One row of a list that was read."""

    line: int
    part: str
    name: str
    changes: bool
    faults: list[RowFaults]


class ListRead(DocumentIn):
    """The build that a list makes, row by row; ``rest`` has the broken rows with their reasons."""

    rows: list[ListRow]
    rest: str | None


@router.post("/parts-list", response=PartsList, exclude_none=True)
@in_turn
def list_of_parts(request: PersonRequest, payload: FileIn) -> PartsList:
    """The parts list of a build, which need not be saved."""
    small = Part.objects.seen_by(request.user).filter(kind="extra", figures__fills__isnull=False)
    extras = [m for p in small if isinstance(m := library.part_model(p), Extra)]
    return parts_list(file_in(request, payload), timezone.localdate(), extras)


@router.post("/builds/replace-parts", response=BuildDocument, exclude_none=True)
@in_turn
def other_parts(request: PersonRequest, payload: OtherPartsIn) -> BuildDocument:
    """The build with other parts; what was bought and is not among them is left over."""
    return with_parts(payload.document, payload.parts)


@router.get("/builds/{id}/parts-list.csv", response=bytes)
def list_as_csv(request: PersonRequest, id: UUID) -> HttpResponse:
    """The parts list to take away, for a spreadsheet."""
    build = services.get(request.user, id)
    answer = HttpResponse(list_csv.as_csv(services.document_of(build)), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(str(build)) or "build"}-parts.csv"'
    return answer


@router.post("/parts-list/read", response=ListRead, exclude_none=True)
@in_turn
def read_list(request: PersonRequest, payload: ListTextIn) -> ListRead:
    """What a list as CSV would make of a build; nothing is saved."""
    reading = list_csv.read_csv(payload.document, payload.text.encode())
    rows = [
        ListRow(
            line=r.line,
            part=r.part,
            name=r.name[:200],
            changes=r.changes,
            faults=[RowFaults(field=f.field, reason=f.reason) for f in r.faults],
        )
        for r in reading.rows
    ]
    return ListRead(document=reading.build, rows=rows, rest=list_csv.rest(reading))
