"""A box to make: what it will be, and the files to make it from."""

from typing import Literal
from uuid import UUID

from django.http import Http404, HttpResponse
from django.utils.text import slugify
from ninja import Router

from boardmath.geometry.enclosures import EnclosureName
from planner.enclosure import flat, solid
from planner.enclosure.plan import CannotBeMade, EnclosurePlan, enclosure_plan
from planner.enclosure.report import EnclosureReport, enclosure_reports
from server.boards import services
from server.boards.schemas import DocumentIn
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.throttles.concurrency import in_turn
from server.users import Key, Number, Person, PersonRequest

router = Router(tags=["box"])

SolidFile = Literal["stl", "3mf"]
FlatFile = Literal["dxf", "svg"]
Pattern = Literal["net", "drilling"]
_TYPES = {"stl": "model/stl", "3mf": "model/3mf", "dxf": "image/vnd.dxf", "svg": "image/svg+xml"}


@router.post("/enclosure", response=list[EnclosureReport], exclude_none=True)
@in_turn
def enclosures_of_build(request: PersonRequest, payload: DocumentIn) -> list[EnclosureReport]:
    """Every box of a build that need not be saved, as it would have to be made; or why it cannot be."""
    return enclosure_reports(payload.document)


def _planned(owner: Person, id: Key, which: EnclosureName) -> tuple[EnclosurePlan, str]:
    build = services.get(owner, id)
    try:
        return enclosure_plan(services.document_of(build), which), slugify(str(build)) or "build"
    except CannotBeMade as error:
        raise ApiError("The enclosure cannot be made like that.", faults={error.field: error.message.text}) from None


def _file(data: bytes, name: str, kind: str) -> HttpResponse:
    found = HttpResponse(data, content_type=_TYPES[kind])
    found["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return found


@router.post("/builds/{id}/enclosure/{which}/piece-{int:number}.{kind}", response=JOB_RESPONSE, exclude_none=True)
def piece_of_enclosure(
    request: PersonRequest, id: UUID, which: EnclosureName, number: Number, kind: SolidFile
) -> JobResponse:
    """Asks for a piece of the box as a solid in mm, lying on its floor."""
    _planned(request.user, id, which)
    told = {"build": str(id), "which": which, "number": number, "kind": kind}
    return job_response(jobs.ask(request.user, "solid", told))


@job_handler("solid")
def _solid(job: JobRequest) -> Made:
    which, number, kind = job.payload["which"], job.payload["number"], job.payload["kind"]
    plan, name = _planned(job.owner, job.payload["build"], which)
    pieces = solid.pieces(plan)
    if not 1 <= number <= len(pieces):
        raise Http404
    named = f"{name}-{which}-{number}-of-{len(pieces)}.{kind}"
    return Made(solid.written(pieces[number - 1], kind), _TYPES[kind], named)


@router.get("/builds/{id}/enclosure/{which}/{pattern}.{kind}", response=bytes)
@in_turn
def pattern_of_enclosure(
    request: PersonRequest, id: UUID, which: EnclosureName, pattern: Pattern, kind: FlatFile
) -> HttpResponse:
    """The box unfolded, or the pattern of its rim to drill by, at 1:1."""
    plan, name = _planned(request.user, id, which)
    drawn = flat.flat_pattern(plan) if pattern == "net" else flat.drilling(plan)
    return _file(flat.written(drawn, kind), f"{name}-{which}-{pattern}", kind)
