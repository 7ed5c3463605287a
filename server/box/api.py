"""A box to make: what it will be, and the files to make it from."""

from typing import Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from boardmath.buildfile import read_build
from boardmath.geometry.enclosures import BoxName
from planner.enclosure import flat, solid
from planner.enclosure.plan import BoxPlan, CannotBeMade, box_plan
from planner.enclosure.report import BoxReport, box_reports
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import ASKED, asked
from server.jobs.handlers import Made, Order, maker
from server.shelf import services
from server.shelf.schemas import DocumentIn
from server.throttles.concurrency import in_turn
from server.users import Key, Number, Person

router = Router(tags=["box"])

SolidFile = Literal["stl", "3mf"]
FlatFile = Literal["dxf", "svg"]
Pattern = Literal["net", "drilling"]
_TYPES = {"stl": "model/stl", "3mf": "model/3mf", "dxf": "image/vnd.dxf", "svg": "image/svg+xml"}


@router.post("/box", response=list[BoxReport], exclude_none=True)
@in_turn
def boxes_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """Every box of a build that need not be saved, as it would have to be made; or why it cannot be."""
    return box_reports(payload.document)


def _planned(owner: Person, id: Key, which: BoxName) -> tuple[BoxPlan, str]:
    build = services.get(owner, id)
    try:
        return box_plan(read_build(build.document), which), slugify(str(build)) or "build"
    except CannotBeMade as error:
        raise ApiError("The box cannot be made like that.", faults={error.field: error.saying.text}) from None


def _file(data: bytes, name: str, kind: str) -> HttpResponse:
    found = HttpResponse(data, content_type=_TYPES[kind])
    found["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return found


@router.post("/builds/{id}/box/{which}/piece-{int:number}.{kind}", response=ASKED, exclude_none=True)
def piece_of_box(request: HttpRequest, id: UUID, which: BoxName, number: Number, kind: SolidFile) -> object:
    """Asks for a piece of the box as a solid in mm, lying on its floor."""
    _planned(request.user, id, which)
    told = {"build": str(id), "which": which, "number": number, "kind": kind}
    return asked(jobs.ask(request.user, "solid", told))


@maker("solid")
def _solid(order: Order) -> Made:
    which, number, kind = order.asked["which"], order.asked["number"], order.asked["kind"]
    plan, name = _planned(order.owner, order.asked["build"], which)
    pieces = solid.pieces(plan)
    if not 1 <= number <= len(pieces):
        raise Http404
    named = f"{name}-{which}-{number}-of-{len(pieces)}.{kind}"
    return Made(solid.written(pieces[number - 1], kind), _TYPES[kind], named)


@router.get("/builds/{id}/box/{which}/{pattern}.{kind}", response=bytes)
@in_turn
def pattern_of_box(request: HttpRequest, id: UUID, which: BoxName, pattern: Pattern, kind: FlatFile) -> object:
    """The box unfolded, or the pattern of its rim to drill by, at 1:1."""
    plan, name = _planned(request.user, id, which)
    drawn = flat.flat_pattern(plan) if pattern == "net" else flat.drilling(plan)
    return _file(flat.written(drawn, kind), f"{name}-{which}-{pattern}", kind)
