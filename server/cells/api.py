"""Cells: a bag judged and sorted, a table read, labels for A4, the bag as CSV."""

from typing import Annotated
from uuid import UUID

from django.http import HttpResponse
from django.utils.text import slugify
from ninja import Field, Router

from boardmath.battery.cells import CellsReport, cells_report, one_lot
from boardmath.buildfile.pack_assembly import MeasuredCell
from boardmath.model.cell_groups import work_of
from planner.cells.reading import COLUMNS, FURTHER, LARGEST_TABLE, ReadTable, read_table
from planner.shared.csv_table import write_table
from server.boards import services
from server.boards.schemas import DocumentIn
from server.cells.pdf import labels_pdf
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.throttles.concurrency import in_turn
from server.users import Key, Person, PersonRequest

router = Router(tags=["cells"])


class CellsTextIn(DocumentIn):
    text: Annotated[str, Field(max_length=LARGEST_TABLE + 1000)]


@router.post("/cells", response=CellsReport, exclude_none=True)
@in_turn
def cells_of_build(request: PersonRequest, payload: DocumentIn) -> CellsReport:
    """The bag of a build that need not be saved: as its cells lie, and as they would be sorted."""
    return cells_report(payload.document)


@router.post("/cells/read", response=ReadTable, exclude_none=True)
@in_turn
def read_cells(request: PersonRequest, payload: CellsTextIn) -> ReadTable:
    """A table of cells, row by row, beside those that are in the bag; nothing is saved."""
    return read_table(payload.text, [c.id for c in work_of(payload.document).cells or []])


@router.post("/cells/lot", response=list[MeasuredCell], exclude_none=True)
def one_lot_of_cells(request: PersonRequest, payload: DocumentIn) -> list[MeasuredCell]:
    """New cells of one lot for the pack of a build, in their groups."""
    return one_lot(payload.document)


@router.get("/builds/{id}/cells.csv", response=bytes)
def cells_as_csv(request: PersonRequest, id: UUID) -> HttpResponse:
    """The bag to take away, for a spreadsheet."""
    build = services.get(request.user, id)
    cells = [c.model_dump(exclude_none=True) for c in work_of(services.document_of(build)).cells or []]
    answer = HttpResponse(write_table(COLUMNS + FURTHER, cells), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(str(build)) or "build"}-cells.csv"'
    return answer


@router.post("/builds/{id}/cells/labels", response=JOB_RESPONSE, exclude_none=True)
def labels(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks for labels to cut out, and the map of the cells for the table."""
    _labelled(request.user, id)
    return job_response(jobs.ask(request.user, "cell-labels", {"build": str(id)}))


def _labelled(owner: Person, id: Key) -> tuple[str, bytes]:
    build = services.get(owner, id)
    document = services.document_of(build)
    if not work_of(document).cells:
        raise ApiError("There are no cells to label yet.", cells="measured ones, or a lot of new ones")
    return str(build), labels_pdf(str(build), document)


@job_handler("cell-labels")
def _labels(job: JobRequest) -> Made:
    name, paper = _labelled(job.owner, job.payload["build"])
    return Made(paper, "application/pdf", f"{slugify(name) or 'board'}-cell-labels.pdf")
