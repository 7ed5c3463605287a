"""The board to scale, and the template to drill by."""

from uuid import UUID

from django.utils.text import slugify
from ninja import Router, Schema

from boardmath.geometry.shapes import VIEWS, Drawing
from boardmath.geometry.transmission import StockBelt, least_distance, stock_belts
from boardmath.geometry.views.view import draw
from server.boards import services
from server.boards.schemas import DocumentIn
from server.drawings.template import template_pdf
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["drawings"])


class Drawings(Schema):
    """Every view, and the stock belts that would suit."""

    views: list[Drawing]
    belts: list[StockBelt]
    least_centre_distance_mm: float


@router.post("/drawings", response=Drawings, exclude_none=True)
@in_turn
def drawings_of_build(request: PersonRequest, payload: DocumentIn) -> Drawings:
    """The board in every view, to scale, and the stock belts that would suit."""
    build = payload.document
    return Drawings(
        views=[draw(build, view) for view in VIEWS],
        belts=stock_belts(build),
        least_centre_distance_mm=least_distance(build),
    )


@router.post("/builds/{id}/template", response=JOB_RESPONSE, exclude_none=True)
def template_of_build(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks for deck drilling and box outline at 1:1 on A4 pages, with a 100 mm line to check the printer by."""
    services.get(request.user, id)
    return job_response(jobs.ask(request.user, "template", {"build": str(id)}))


@job_handler("template")
def _template(job: JobRequest) -> Made:
    build = services.get(job.owner, job.payload["build"])
    paper = template_pdf(services.document_of(build), str(build))
    return Made(paper, "application/pdf", f"{slugify(str(build)) or 'build'}-template.pdf")
