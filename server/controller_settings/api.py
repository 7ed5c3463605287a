"""The controller settings: recommended, wanted, as set; on paper and as open files."""

from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.http import content_disposition_header
from django.utils.text import slugify
from ninja import Field, Query, Router, Schema, Status

from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.figures import PlausibleDate
from boardmath.buildfile.settings import Profile, Settings
from boardmath.checks import Finding
from boardmath.predictor import predict
from planner.compare import Difference
from planner.controller_settings import ControllerSettings, controller_settings, findings_on_settings
from server.boards import services as builds
from server.boards.schemas import DocumentIn
from server.calibration.services import board_as_it_is, board_in
from server.controller_settings import files, services
from server.controller_settings.models import SettingsRecord
from server.controller_settings.pdf import settings_pdf
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, as_json, job_handler
from server.throttles.concurrency import in_turn
from server.users import Number, PersonRequest

router = Router(tags=["settings_records"])


class SettingsRecordIn(DocumentIn):
    profile: Profile | None = None


class FileOut(Schema):
    """A photo or a paper that hangs on a settings record."""

    id: UUID
    name: str
    kind: str
    size: int


class SettingsRecordOut(Schema):
    """What was set, and what it changed of the settings record before.

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
    """All settings records of a board, the oldest first, and what is wrong with the latest on the board as it is now."""

    settings_records: list[SettingsRecordOut]
    findings: list[Finding]


class WriteDownIn(Schema):
    settings: Settings
    apart: Annotated[list[Settings], Field(max_length=3)] = []
    on: PlausibleDate
    by: Annotated[str, Field(max_length=60)] = ""
    reason: Annotated[str, Field(max_length=600)]
    end_points: EndPoints | None = None


class SettingsTextIn(Schema):
    text: Annotated[str, Field(max_length=200_000)]


def _out(kept: SettingsRecord, before: SettingsRecord | None) -> SettingsRecordOut:
    changed = services.differences(before, kept) if before else []
    return SettingsRecordOut(
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


@router.post("/controller-settings", response=ControllerSettings, exclude_none=True)
@in_turn
def controller_settings_of_build(request: PersonRequest, payload: SettingsRecordIn) -> ControllerSettings:
    """What to set, how what is wanted stands against it, and what each value would change."""
    return controller_settings(board_in(request, payload), payload.profile)


@router.get("/builds/{id}/controller-settings", response=RecordOut, exclude_none=True)
@in_turn
def record(request: PersonRequest, id: UUID) -> RecordOut:
    """Everything that was ever written down of this board's controller."""
    build = builds.get(request.user, id)
    kept = services.of(request.user, id)
    file = board_as_it_is(request.user, build)
    found = findings_on_settings(predict(services.as_set(file, kept[-1]), bands=False)) if kept else []
    return RecordOut(settings_records=[_out(k, b) for k, b in zip(kept, [None, *kept], strict=False)], findings=found)


@router.post("/builds/{id}/controller-settings", response=SettingsRecordOut, exclude_none=True)
def write_down(request: PersonRequest, id: UUID, payload: WriteDownIn) -> SettingsRecordOut:
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


@router.get("/builds/{id}/controller-settings/on/{day}", response=SettingsRecordOut, exclude_none=True)
def on_a_day(request: PersonRequest, id: UUID, day: date) -> SettingsRecordOut:
    """The settings record that was on the board on that day."""
    kept = services.on_board(request.user, id, day)
    if kept is None:
        raise ApiError("Nothing was recorded until that day.", status=404, day="later than the first settings record")
    return _out(kept, None)


@router.get("/builds/{id}/controller-settings/{one}/against/{other}", response=list[Difference])
def against(request: PersonRequest, id: UUID, one: Number, other: Number) -> list[Difference]:
    """What differs between any two settings records of a board."""
    return services.differences(services.get(request.user, id, one), services.get(request.user, id, other))


@router.post(
    "/builds/{id}/controller-settings/{number}/files",
    response=JOB_RESPONSE,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}},
)
def attach(
    request: PersonRequest, id: UUID, number: Number, name: Annotated[str, Query(max_length=300)]
) -> JobResponse:
    """Attaches a photo or a paper, the body as it is; pictures are kept without what a camera writes into them."""
    data = files.whole(request.user, id, number, request)
    return job_response(jobs.ask(request.user, "attach", {"build": str(id), "number": number, "name": name}, data))


@job_handler("attach")
def _attach(job: JobRequest) -> Made:
    told = job.payload
    kept = files.attach(job.owner, told["build"], told["number"], told["name"], job.upload)
    return as_json(FileOut(id=kept.pk, name=kept.name, kind=kept.kind, size=kept.size))


@router.get("/controller-settings/files/{file}", response=bytes)
def attached(request: PersonRequest, file: UUID) -> HttpResponse:
    """A photo or a paper; pictures are shown, everything else is taken away."""
    kept = files.get(request.user, file)
    answer = HttpResponse(bytes(kept.data), content_type=kept.kind)
    shown = kept.kind.startswith("image/")
    answer["Content-Disposition"] = content_disposition_header(not shown, kept.name) or "attachment"
    answer["Cache-Control"] = "private, no-cache"
    return answer


@router.delete("/controller-settings/files/{file}", response={204: None})
def detach(request: PersonRequest, file: UUID) -> Status[None]:
    """Takes a photo or a paper off its settings record."""
    files.get(request.user, file).delete()
    return Status(204, None)


@router.get("/builds/{id}/controller-settings/file", response=Any)
def settings_file(
    request: PersonRequest, id: UUID, form: Literal["json", "csv"] = "json", number: Number | None = None
) -> Any:
    """A settings record to take away: the latest, or the one of that number."""
    build, kept = builds.get(request.user, id), services.get(request.user, id, number)
    name = str(build)
    if form == "json":
        answer: HttpResponse = JsonResponse(
            services.as_json(name, kept), json_dumps_params={"ensure_ascii": False, "indent": 1}
        )
    else:
        answer = HttpResponse(services.as_csv(kept), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = (
        f'attachment; filename="{slugify(name) or "board"}-controller-settings-{kept.number}.{form}"'
    )
    return answer


@router.post("/builds/{id}/controller-settings/paper", response=JOB_RESPONSE, exclude_none=True)
def settings_paper(request: PersonRequest, id: UUID, number: Number | None = None) -> JobResponse:
    """Asks for a settings record on A4: the latest, or the one of that number."""
    kept = services.get(request.user, id, number)
    return job_response(jobs.ask(request.user, "controller-settings", {"build": str(id), "number": kept.number}))


@job_handler("controller-settings")
def _paper(job: JobRequest) -> Made:
    id = job.payload["build"]
    build, kept = builds.get(job.owner, id), services.get(job.owner, id, job.payload["number"])
    name = str(build)
    paper = settings_pdf(name, kept, controller_settings(services.as_set(board_as_it_is(job.owner, build), kept)))
    return Made(paper, "application/pdf", f"{slugify(name) or 'board'}-controller-settings-{kept.number}.pdf")


@router.post("/controller-settings/read", response=list[services.ReadValue])
def read_settings_file(request: PersonRequest, payload: SettingsTextIn) -> list[services.ReadValue]:
    """The values of a settings record as JSON or CSV, each with what is wrong with it; nothing is changed."""
    return services.read_settings_file(payload.text.encode())
