"""The shelf of builds: paged, saved by revision, taken away and brought in as files."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Query, Router, Schema

from boardmath.buildfile import Build as BuildFile
from boardmath.buildfile import read_build, write_build
from boardmath.fit.shapes import Drawing
from boardmath.fit.views import draw
from boardmath.prediction.promises import Headline, headlines
from server.faults import FaultsOut
from server.workshop import services
from server.workshop.api.schemas import REFUSALS, BuildOut, build_out
from server.workshop.models import Build
from server.workshop.template import template_pdf

router = Router(tags=["builds"])
SHELF_SAMPLES = 64
SHELF_PAGE = 12


class ShelfBuild(Schema):
    """A build as it stands on the shelf."""

    id: UUID
    name: str
    stage: str | None
    currency: str | None
    updated_at: datetime
    headline: Headline
    side: Drawing


class Shelf(Schema):
    """Some of the person's builds, the latest first, and how many there are in all."""

    count: int
    builds: list[ShelfBuild]


class BuildName(Schema):
    """A build by its name, to be picked from a list."""

    id: UUID
    name: str


class SaveIn(Schema):
    revision: int
    document: BuildFile


class NewIn(Schema):
    name: str = "New board"


@router.get("/builds", response=Shelf, exclude_none=True)
def shelf(
    request: HttpRequest,
    offset: Annotated[int, Query(ge=0)] = 0,
    limit: Annotated[int, Query(ge=1, le=50)] = SHELF_PAGE,
) -> object:
    """Builds of the person with their promises, in one run of the engine."""
    mine = Build.objects.of(request.user)
    builds = list(mine[offset : offset + limit])
    files = [read_build(b.document) for b in builds]
    rows = [
        ShelfBuild(
            id=b.id,
            name=str(b),
            stage=f.stage,
            currency=f.currency,
            updated_at=b.updated_at,
            headline=h,
            side=draw(f, "side"),
        )
        for b, f, h in zip(builds, files, headlines(files, SHELF_SAMPLES), strict=True)
    ]
    return Shelf(count=mine.count(), builds=rows)


@router.get("/builds/names", response=list[BuildName])
def build_names(request: HttpRequest) -> object:
    """All builds of the person by name, the latest first."""
    rows = Build.objects.of(request.user).values_list("id", "document__name")[:500]
    return [BuildName(id=id, name=name or "unnamed build") for id, name in rows]


@router.post("/builds", response={200: BuildOut, **REFUSALS}, exclude_none=True)
def new_build(request: HttpRequest, payload: NewIn) -> object:
    """An empty bench."""
    return build_out(services.create(request.user, services.new_build_file(payload.name.strip()[:120] or "New board")))


@router.post(
    "/builds/import",
    response={200: BuildOut, 413: FaultsOut, **REFUSALS},
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "string"}}}, "required": True}},
)
def import_build(request: HttpRequest) -> object:
    """A build file onto the shelf; the body is the file."""
    return build_out(services.create(request.user, read_build(request.body)))


@router.get("/builds/{id}", response={200: BuildOut, **REFUSALS}, exclude_none=True)
def get_build(request: HttpRequest, id: UUID) -> object:
    """One build."""
    return build_out(services.get(request.user, id))


@router.put("/builds/{id}", response={200: BuildOut, 409: BuildOut, **REFUSALS}, exclude_none=True)
def save_build(request: HttpRequest, id: UUID, payload: SaveIn) -> object:
    """Saves a build over the revision that the sender started from; 409 with what stands there now otherwise."""
    try:
        return 200, build_out(services.save(request.user, id, payload.document, payload.revision))
    except services.Conflict as conflict:
        return 409, build_out(conflict.current)


@router.post("/builds/{id}/duplicate", response={200: BuildOut, **REFUSALS}, exclude_none=True)
def duplicate_build(request: HttpRequest, id: UUID) -> object:
    """A copy on the shelf."""
    return build_out(services.duplicate(request.user, id))


@router.delete("/builds/{id}", response={204: None, **REFUSALS})
def delete_build(request: HttpRequest, id: UUID) -> object:
    """Off the shelf; it can be brought back."""
    services.delete(request.user, id)
    return 204, None


@router.post("/builds/{id}/restore", response={200: BuildOut, **REFUSALS}, exclude_none=True)
def restore_build(request: HttpRequest, id: UUID) -> object:
    """Back on the shelf."""
    return build_out(services.restore(request.user, id))


@router.get("/builds/{id}/file", response={200: BuildFile, **REFUSALS}, exclude_none=True)
def export_build(request: HttpRequest, id: UUID, response: HttpResponse) -> object:
    """The build file to take away."""
    build = services.get(request.user, id)
    name = slugify(str(build)) or "build"
    response["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return write_build(read_build(build.document))


@router.get("/builds/{id}/template.pdf", response={200: bytes, **REFUSALS})
def template_of_build(request: HttpRequest, id: UUID) -> object:
    """Deck drilling and box outline at 1:1 on A4 pages, with a 100 mm line to check the printer by."""
    build = services.get(request.user, id)
    name = slugify(str(build)) or "build"
    page = HttpResponse(template_pdf(read_build(build.document), str(build)), content_type="application/pdf")
    page["Content-Disposition"] = f'attachment; filename="{name}-template.pdf"'
    return page
