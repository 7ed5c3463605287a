"""The boards of a person: saved by revision, taken away and brought in as files."""

from datetime import datetime, timedelta
from uuid import UUID

from django.http import HttpResponse, JsonResponse
from django.utils.text import slugify
from ninja import Router, Schema, Status

from boardmath.buildfile import BuildFile, BuildFileError, read_build
from planner.design.beginning import new_build as empty_design
from planner.review.summary import file_of
from server.boards import services
from server.boards.models import Build
from server.boards.schemas import BuildOut, FileIn, build_out
from server.errors import Conflict
from server.users import PersonRequest

router = Router(tags=["boards"])


class BuildName(Schema):
    """A build by its name, to be picked from a list."""

    id: UUID
    name: str


class Binned(Schema):
    """A board in the bin."""

    id: UUID
    name: str
    deleted_at: datetime
    until: datetime


class SaveIn(Schema):
    revision: int
    document: BuildFile


class NewIn(Schema):
    name: str = "New board"


@router.get("/builds/names", response=list[BuildName])
def build_names(request: PersonRequest) -> list[BuildName]:
    """All builds of the person by name, the latest first."""
    rows = Build.objects.of(request.user).values_list("id", "document__name")[:500]
    return [BuildName(id=id, name=name or "unnamed build") for id, name in rows]


@router.post("/builds", response=BuildOut, exclude_none=True)
def new_build(request: PersonRequest, payload: NewIn) -> BuildOut:
    """A board without parts."""
    return build_out(services.create(request.user, empty_design(payload.name.strip()[:120] or "New board")))


@router.post(
    "/builds/import",
    response=BuildOut,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "string"}}}, "required": True}},
)
def import_build(request: PersonRequest) -> BuildOut:
    """A build file into the workshop, or the build of a page that was handed on; the body is the file."""
    return build_out(services.create(request.user, read_build(file_of(request.body))))


@router.post("/builds/upgrade", response=BuildFile, exclude_none=True)
def upgrade_build(request: PersonRequest, payload: FileIn) -> BuildFile:
    """A build file of any version under today's names; nothing is saved."""
    return payload.document


@router.get("/builds/{id}", response=BuildOut, exclude_none=True)
def get_build(request: PersonRequest, id: UUID) -> BuildOut:
    """One build."""
    return build_out(services.get(request.user, id))


@router.put("/builds/{id}", response={200: BuildOut, 409: BuildOut}, exclude_none=True)
def save_build(request: PersonRequest, id: UUID, payload: SaveIn) -> Status[BuildOut]:
    """Saves a build over the revision that the sender started from; 409 with what stands there now otherwise."""
    try:
        return Status(200, build_out(services.save(request.user, id, payload.document, payload.revision)))
    except Conflict as conflict:
        return Status(409, build_out(conflict.current))


@router.post("/builds/{id}/duplicate", response=BuildOut, exclude_none=True)
def duplicate_build(request: PersonRequest, id: UUID) -> BuildOut:
    """A copy."""
    return build_out(services.duplicate(request.user, id))


@router.delete("/builds/{id}", response={204: None})
def delete_build(request: PersonRequest, id: UUID) -> Status[None]:
    """Deletes it; it can be brought back."""
    services.delete(request.user, id)
    return Status(204, None)


@router.get("/bin", response=list[Binned])
def what_was_deleted(request: PersonRequest) -> list[Binned]:
    """Boards that were deleted and can be brought back, the latest first, and until when."""
    return [
        Binned(id=b.id, name=str(b), deleted_at=b.deleted_at, until=b.deleted_at + timedelta(days=services.BIN_DAYS))
        for b in services.in_the_bin(request.user)
        if b.deleted_at is not None
    ]


@router.post("/builds/{id}/restore", response=BuildOut, exclude_none=True)
def restore_build(request: PersonRequest, id: UUID) -> BuildOut:
    """Restores it."""
    return build_out(services.restore(request.user, id))


@router.get("/builds/{id}/file", response=BuildFile, exclude_none=True)
def export_build(request: PersonRequest, id: UUID, response: HttpResponse) -> BuildFile | HttpResponse:
    """The build file to download; as it is stored where it no longer validates."""
    build = services.get(request.user, id)
    named = f'attachment; filename="{slugify(str(build)) or "build"}.json"'
    response["Content-Disposition"] = named
    try:
        return services.file_of(build)
    except BuildFileError:
        return JsonResponse(build.document | build.history, headers={"Content-Disposition": named})
