"""The wiring: of a build that need not be saved; as SVG and on A4 of a saved one."""

from uuid import UUID

from django.http import HttpResponse
from django.utils.text import slugify
from ninja import Router

from planner.wiring.diagram import diagram, svg
from planner.wiring.report import WiringReport, wiring_report
from server.boards import services
from server.boards.schemas import DocumentIn
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.throttles.concurrency import in_turn
from server.users import PersonRequest
from server.wiring.pdf import wiring_pdf

router = Router(tags=["wiring"])


@router.post("/wiring", response=WiringReport, exclude_none=True)
@in_turn
def wiring_of_build(request: PersonRequest, payload: DocumentIn) -> WiringReport:
    """The way of the current, drawn; wires, guards, the order of joining, what to cut."""
    return wiring_report(payload.document)


@router.get("/builds/{id}/wiring.svg", response=bytes)
@in_turn
def wiring_as_svg(request: PersonRequest, id: UUID) -> HttpResponse:
    """The drawing to take away."""
    build = services.get(request.user, id)
    answer = HttpResponse(svg(diagram(services.document_of(build))), content_type="image/svg+xml")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(str(build)) or "build"}-wiring.svg"'
    return answer


@router.post("/builds/{id}/wiring/paper", response=JOB_RESPONSE, exclude_none=True)
def wiring_on_paper(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks for drawing, wires and order on A4."""
    services.get(request.user, id)
    return job_response(jobs.ask(request.user, "wiring", {"build": str(id)}))


@job_handler("wiring")
def _paper(job: JobRequest) -> Made:
    build = services.get(job.owner, job.payload["build"])
    name = str(build)
    return Made(
        wiring_pdf(name, services.document_of(build)), "application/pdf", f"{slugify(name) or 'board'}-wiring.pdf"
    )
