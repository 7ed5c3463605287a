"""A box to make: what it will be, and the files to make it from."""

from typing import Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from boardmath.box import flat, solid
from boardmath.box.plan import BoxPlan, CannotBeMade, box_plan
from boardmath.box.report import BoxReport, box_reports
from boardmath.buildfile import read_build
from boardmath.fit.box import BoxName
from server.faults import REFUSALS, Refused
from server.shelf import services
from server.shelf.schemas import DocumentIn
from server.throttles import PredictionThrottle

router = Router(tags=["box"])

SolidFile = Literal["stl", "3mf"]
FlatFile = Literal["dxf", "svg"]
Pattern = Literal["net", "drilling"]
_TYPES = {"stl": "model/stl", "3mf": "model/3mf", "dxf": "image/vnd.dxf", "svg": "image/svg+xml"}


@router.post("/box", response={200: list[BoxReport], **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def boxes_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """Every box of a build that need not be saved, as it would have to be made; or why it cannot be."""
    return box_reports(payload.document)


def _planned(request: HttpRequest, id: UUID, which: BoxName) -> tuple[BoxPlan, str]:
    build = services.get(request.user, id)
    try:
        return box_plan(read_build(build.document), which), slugify(str(build)) or "build"
    except CannotBeMade as error:
        raise Refused("The box cannot be made like that.", faults={error.field: error.saying.text}) from None


def _file(data: bytes, name: str, kind: str) -> HttpResponse:
    found = HttpResponse(data, content_type=_TYPES[kind])
    found["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return found


@router.get(
    "/builds/{id}/box/{which}/piece-{int:number}.{kind}",
    response={200: bytes, **REFUSALS},
    throttle=PredictionThrottle(),
)
def piece_of_box(request: HttpRequest, id: UUID, which: BoxName, number: int, kind: SolidFile) -> object:
    """A piece of the box as a solid in mm, lying on its floor."""
    plan, name = _planned(request, id, which)
    made = solid.pieces(plan)
    if not 1 <= number <= len(made):
        raise Http404
    return _file(solid.written(made[number - 1], kind), f"{name}-{which}-{number}-of-{len(made)}", kind)


@router.get(
    "/builds/{id}/box/{which}/{pattern}.{kind}",
    response={200: bytes, **REFUSALS},
    throttle=PredictionThrottle(),
)
def pattern_of_box(request: HttpRequest, id: UUID, which: BoxName, pattern: Pattern, kind: FlatFile) -> object:
    """The box unfolded, or the pattern of its rim to drill by, at 1:1."""
    plan, name = _planned(request, id, which)
    drawn = flat.flat_pattern(plan) if pattern == "net" else flat.drilling(plan)
    return _file(flat.written(drawn, kind), f"{name}-{which}-{pattern}", kind)
