"""The controller sheet: recommended, wanted, as set; on paper and as open files."""

from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.http import content_disposition_header
from django.utils.text import slugify
from ninja import Field, Query, Router, Schema, Status

from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.settings import Profile, Settings
from boardmath.checks import Finding
from boardmath.predictor import predict
from planner.compare import Difference
from planner.controller_settings import Sheet, findings_on_settings, sheet
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import ASKED, asked
from server.jobs.handlers import Made, Order, as_json, maker
from server.sheet import files, services
from server.sheet.models import SetSheet
from server.sheet.pdf import sheet_pdf
from server.shelf import services as builds
from server.shelf.schemas import DocumentIn
from server.throttles.concurrency import in_turn
from server.users import Number

router = Router(tags=["sheets"])


class SheetIn(DocumentIn):
    profile: Profile | None = None


class FileOut(Schema):
    """A photo or a paper that hangs on a sheet."""

    id: UUID
    name: str
    kind: str
    size: int


class SetSheetOut(Schema):
    """What was set, and what it changed of the sheet before.

    ``apart`` is what further controllers have otherwise, ``each`` what each controller has.
    """

    number: int
    on: date
    by: str
    reason: str
    settings: Settings
    apart: list[Settings]
    each: list[Settings]
    end_points: EndPoints
    read_back: bool
    changed: list[Difference]
    files: list[FileOut]


class RecordOut(Schema):
    """All sheets of a board, the oldest first, and what is wrong with the latest on the board as it is now."""

    sheets: list[SetSheetOut]
    findings: list[Finding]


class WriteDownIn(Schema):
    settings: Settings
    apart: Annotated[list[Settings], Field(max_length=3)] = []
    on: date
    by: Annotated[str, Field(max_length=60)] = ""
    reason: Annotated[str, Field(max_length=600)]
    end_points: EndPoints | None = None


class SheetTextIn(Schema):
    text: Annotated[str, Field(max_length=200_000)]


def _out(kept: SetSheet, before: SetSheet | None) -> SetSheetOut:
    changed = services.differences(before, kept) if before else []
    return SetSheetOut(
        number=kept.number,
        on=kept.on,
        by=kept.by,
        reason=kept.reason,
        settings=kept.settings,
        apart=kept.apart,
        each=services.each_set(kept),
        end_points=kept.end_points,
        read_back=kept.read_back,
        changed=changed,
        files=[FileOut(id=f.pk, name=f.name, kind=f.kind, size=f.size) for f in kept.attachments.all()],
    )


@router.post("/sheet", response=Sheet, exclude_none=True)
@in_turn
def sheet_of_build(request: HttpRequest, payload: SheetIn) -> object:
    """What to set, how what is wanted stands against it, and what each value would change."""
    return sheet(payload.document, payload.profile)


@router.get("/builds/{id}/sheet", response=RecordOut, exclude_none=True)
@in_turn
def record(request: HttpRequest, id: UUID) -> object:
    """Everything that was ever written down of this board's controller."""
    build = builds.get(request.user, id)
    kept = services.of(request.user, id)
    file = services.read_file(build)
    found = findings_on_settings(predict(services.as_set(file, kept[-1]), bands=False)) if kept else []
    return RecordOut(sheets=[_out(k, b) for k, b in zip(kept, [None, *kept], strict=False)], findings=found)


@router.post("/builds/{id}/sheet", response=SetSheetOut, exclude_none=True)
def write_down(request: HttpRequest, id: UUID, payload: WriteDownIn) -> object:
    """Keeps what was set, with the day, by whom, and why."""
    if payload.on > timezone.localdate():
        raise ApiError("That day has not come yet.", on="today or earlier")
    before = services.of(request.user, id)
    kept = services.write_down(
        request.user,
        id,
        payload.settings,
        payload.on,
        payload.by,
        payload.reason,
        payload.end_points,
        payload.apart,
    )
    return _out(kept, before[-1] if before else None)


@router.get("/builds/{id}/sheet/on/{day}", response=SetSheetOut, exclude_none=True)
def on_a_day(request: HttpRequest, id: UUID, day: date) -> object:
    """The sheet that was on the board on that day."""
    kept = services.on_board(request.user, id, day)
    if kept is None:
        raise ApiError("Nothing was written down until that day.", status=404, day="later than the first sheet")
    return _out(kept, None)


@router.get("/builds/{id}/sheet/{one}/against/{other}", response=list[Difference])
def against(request: HttpRequest, id: UUID, one: Number, other: Number) -> object:
    """What differs between any two sheets of a board."""
    return services.differences(services.get(request.user, id, one), services.get(request.user, id, other))


@router.post(
    "/builds/{id}/sheet/{number}/files",
    response=ASKED,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}},
)
def attach(request: HttpRequest, id: UUID, number: Number, name: Annotated[str, Query(max_length=300)]) -> object:
    """Hangs a photo or a paper, the body as it is, on a sheet; pictures are kept without what a camera writes into them."""
    data = files.whole(request.user, id, number, request)
    return asked(jobs.ask(request.user, "attach", {"build": str(id), "number": number, "name": name}, data))


@maker("attach")
def _attach(order: Order) -> Made:
    told = order.asked
    kept = files.attach(order.owner, told["build"], told["number"], told["name"], order.brought)
    return as_json(FileOut(id=kept.pk, name=kept.name, kind=kept.kind, size=kept.size))


@router.get("/sheet/files/{file}", response=bytes)
def attached(request: HttpRequest, file: UUID) -> object:
    """A photo or a paper; pictures are shown, everything else is taken away."""
    kept = files.get(request.user, file)
    answer = HttpResponse(bytes(kept.data), content_type=kept.kind)
    shown = kept.kind.startswith("image/")
    answer["Content-Disposition"] = content_disposition_header(not shown, kept.name) or "attachment"
    answer["Cache-Control"] = "private, no-cache"
    return answer


@router.delete("/sheet/files/{file}", response={204: None})
def detach(request: HttpRequest, file: UUID) -> object:
    """Takes a photo or a paper off its sheet."""
    files.get(request.user, file).delete()
    return Status(204, None)


@router.get("/builds/{id}/sheet/file", response=Any)
def sheet_file(
    request: HttpRequest, id: UUID, form: Literal["json", "csv"] = "json", number: Number | None = None
) -> object:
    """A sheet to take away: the latest, or the one of that number."""
    build, kept = builds.get(request.user, id), services.get(request.user, id, number)
    name = str(build)
    if form == "json":
        answer: HttpResponse = JsonResponse(
            services.as_json(name, kept), json_dumps_params={"ensure_ascii": False, "indent": 1}
        )
    else:
        answer = HttpResponse(services.as_csv(kept), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(name) or "board"}-sheet-{kept.number}.{form}"'
    return answer


@router.post("/builds/{id}/sheet/paper", response=ASKED, exclude_none=True)
def sheet_paper(request: HttpRequest, id: UUID, number: Number | None = None) -> object:
    """Asks for a sheet on A4: the latest, or the one of that number."""
    kept = services.get(request.user, id, number)
    return asked(jobs.ask(request.user, "sheet", {"build": str(id), "number": kept.number}))


@maker("sheet")
def _paper(order: Order) -> Made:
    id = order.asked["build"]
    build, kept = builds.get(order.owner, id), services.get(order.owner, id, order.asked["number"])
    name = str(build)
    paper = sheet_pdf(name, kept, sheet(services.as_set(services.read_file(build), kept)))
    return Made(paper, "application/pdf", f"{slugify(name) or 'board'}-sheet-{kept.number}.pdf")


@router.post("/sheet/read", response=list[services.ReadValue])
def read_sheet(request: HttpRequest, payload: SheetTextIn) -> object:
    """The values of a sheet as JSON or CSV, each with what is wrong with it; nothing is changed."""
    return services.read_sheet(payload.text.encode())
