"""The board to scale, and the template to drill by."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router, Schema

from boardmath.buildfile import read_build
from boardmath.drawings.views import draw
from boardmath.fit.shapes import VIEWS, Drawing
from boardmath.fit.transmission import StockBelt, least_distance, stock_belts
from server.drawings.template import template_pdf
from server.faults import REFUSALS
from server.shelf import services
from server.shelf.schemas import DocumentIn
from server.throttles import PredictionThrottle

router = Router(tags=["drawings"])


class Drawings(Schema):
    """Every view, and the stock belts that would suit."""

    views: list[Drawing]
    belts: list[StockBelt]
    least_centre_distance_mm: float


@router.post("/drawings", response={200: Drawings, **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def drawings_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """The board in every view, to scale, and the stock belts that would suit."""
    build = payload.document
    return Drawings(
        views=[draw(build, view) for view in VIEWS],
        belts=stock_belts(build),
        least_centre_distance_mm=least_distance(build),
    )


@router.get("/builds/{id}/template.pdf", response={200: bytes, **REFUSALS})
def template_of_build(request: HttpRequest, id: UUID) -> object:
    """Deck drilling and box outline at 1:1 on A4 pages, with a 100 mm line to check the printer by."""
    build = services.get(request.user, id)
    name = slugify(str(build)) or "build"
    page = HttpResponse(template_pdf(read_build(build.document), str(build)), content_type="application/pdf")
    page["Content-Disposition"] = f'attachment; filename="{name}-template.pdf"'
    return page
