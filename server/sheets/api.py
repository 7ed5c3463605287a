"""The controller sheet: recommended, wanted, as set; on paper and as open files."""

from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Field, Router, Schema

from boardmath.advice import Finding
from boardmath.buildfile.settings import Profile, Settings
from boardmath.comparing import Difference, settings_differences
from boardmath.report import predict
from boardmath.settings import Sheet, findings_on_settings, sheet
from server.faults import Refused
from server.sheets import services
from server.sheets.dossier import dossier_pdf
from server.sheets.models import SetSheet
from server.sheets.pdf import sheet_pdf
from server.workshop import services as builds
from server.workshop.api.schemas import REFUSALS, DocumentIn, PredictionThrottle

router = Router(tags=["sheets"])


class SheetIn(DocumentIn):
    profile: Profile | None = None


class SetSheetOut(Schema):
    """What was set, and what it changed of the sheet before."""

    number: int
    on: date
    by: str
    reason: str
    settings: Settings
    end_points: services.EndPoints
    changed: list[Difference]


class RecordOut(Schema):
    """All sheets of a board, the oldest first, and what is wrong with the latest on the board as it is now."""

    sheets: list[SetSheetOut]
    findings: list[Finding]


class WriteDownIn(Schema):
    settings: Settings
    on: date
    by: Annotated[str, Field(max_length=60)] = ""
    reason: Annotated[str, Field(max_length=600)]
    end_points: services.EndPoints | None = None


class SheetTextIn(Schema):
    text: Annotated[str, Field(max_length=200_000)]


def _out(kept: SetSheet, before: SetSheet | None) -> SetSheetOut:
    changed = settings_differences([before.settings, kept.settings]) if before else []
    return SetSheetOut(
        number=kept.number,
        on=kept.on,
        by=kept.by,
        reason=kept.reason,
        settings=kept.settings,
        end_points=kept.end_points,
        changed=changed,
    )


@router.post("/sheet", response={200: Sheet, **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def sheet_of_build(request: HttpRequest, payload: SheetIn):
    """What to set, how what is wanted stands against it, and what each value would change."""
    return sheet(payload.document, payload.profile)


@router.get("/builds/{id}/sheets", response={200: RecordOut, **REFUSALS}, exclude_none=True)
def record(request: HttpRequest, id: UUID):
    """Everything that was ever written down of this board's controller."""
    build = builds.get(request.user, id)
    kept = services.of(request.user, id)
    file = services.read_file(build)
    found = findings_on_settings(predict(services.as_set(file, kept[-1]), bands=False)) if kept else []
    return RecordOut(sheets=[_out(k, b) for k, b in zip(kept, [None, *kept], strict=False)], findings=found)


@router.post("/builds/{id}/sheets", response={200: SetSheetOut, **REFUSALS}, exclude_none=True)
def write_down(request: HttpRequest, id: UUID, payload: WriteDownIn):
    """Keeps what was set, with the day, by whom, and why."""
    if payload.on > timezone.localdate():
        raise Refused("That day has not come yet.", on="today or earlier")
    before = services.of(request.user, id)
    kept = services.write_down(
        request.user, id, payload.settings, payload.on, payload.by, payload.reason, payload.end_points
    )
    return _out(kept, before[-1] if before else None)


@router.get("/builds/{id}/sheets/on/{day}", response={200: SetSheetOut, **REFUSALS}, exclude_none=True)
def on_a_day(request: HttpRequest, id: UUID, day: date):
    """The sheet that was on the board on that day."""
    kept = services.on_board(request.user, id, day)
    if kept is None:
        raise Refused("Nothing was written down until that day.", status=404, day="later than the first sheet")
    return _out(kept, None)


@router.get("/builds/{id}/sheets/file", response={200: Any, **REFUSALS})
def sheet_file(request: HttpRequest, id: UUID, form: Literal["json", "csv", "pdf"] = "json", number: int | None = None):
    """A sheet to take away or to print: the latest, or the one of that number."""
    build, kept = builds.get(request.user, id), services.get(request.user, id, number)
    name = str(build)
    if form == "json":
        answer: HttpResponse = JsonResponse(
            services.as_json(name, kept), json_dumps_params={"ensure_ascii": False, "indent": 1}
        )
    elif form == "csv":
        answer = HttpResponse(services.as_csv(kept.settings), content_type="text/csv; charset=utf-8")
    else:
        judged = sheet(services.as_set(services.read_file(build), kept))
        answer = HttpResponse(sheet_pdf(name, kept, judged), content_type="application/pdf")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(name) or "board"}-sheet-{kept.number}.{form}"'
    return answer


@router.get("/builds/{id}/dossier.pdf", response={200: bytes, **REFUSALS})
def dossier(request: HttpRequest, id: UUID):
    """The build on A4: predictions, drawings, parts, settings, findings, what was set aside and why."""
    build = builds.get(request.user, id)
    kept = services.of(request.user, id)
    name = str(build)
    paper = dossier_pdf(name, services.read_file(build), kept[-1] if kept else None, timezone.localdate())
    answer = HttpResponse(paper, content_type="application/pdf")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(name) or "board"}-dossier.pdf"'
    return answer


@router.post("/sheet/read", response={200: list[services.ReadValue], **REFUSALS})
def read_sheet(request: HttpRequest, payload: SheetTextIn):
    """The values of a sheet as JSON or CSV, each with what is wrong with it; nothing is changed."""
    return services.read_sheet(payload.text.encode())
