"""The work at a board: its steps, the log that is written beside it, photos, the build book, the second version."""

from datetime import datetime
from typing import Annotated, Any, Literal, cast
from uuid import UUID

from django.http import HttpResponse, JsonResponse
from django.utils.text import slugify
from ninja import Field, Query, Router, Schema

from planner.shared.log import Rode
from planner.shared.report import Report
from planner.shared.wishes import Effect, effect, figures_of
from server import pictures
from server.assembly import book, services
from server.assembly.services import WorkPage
from server.boards import services as builds
from server.boards.schemas import BuildOut, build_out
from server.calibration.services import taught
from server.errors import FaultOut
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, as_json, job_handler
from server.throttles.concurrency import in_turn
from server.users import Person, PersonRequest

router = Router(tags=["assembly"])


class LogLine(Schema):
    """An entry of the log as it is read: what was said of it depends on its kind."""

    id: str
    kind: str
    step: str | None = None
    at: datetime
    by: str = ""
    text: str | None = None
    trouble: bool = False
    minutes: float | None = None
    values: dict[str, float | None] | None = None
    photo: UUID | None = None
    """Where the picture of this entry has arrived."""


class WishOut(Schema):
    """What the builder would change."""

    id: str
    step: str | None = None
    at: datetime
    why: str
    changes: dict[str, float | int | str | bool]
    cost: float | None = None


class TroubleOut(Schema):
    """What went wrong at a step on another board of the person."""

    step: str
    board: str
    text: str


class RefusedEntry(Schema):
    """An entry that was not taken, and why."""

    id: str
    faults: list[FaultOut]


class WorkOut(Schema):
    """The work at a board: how its steps stand, what was written down, what other boards have to tell."""

    report: Report
    log: list[LogLine]
    wishes: list[WishOut]
    to_wish: list[str]
    """Figures of this board that are mostly changed on a second one."""
    rides: list[Rode]
    troubles: list[TroubleOut]
    refused: list[RefusedEntry] = []
    clock: list[str] = []
    """Entries whose time could not be, and was set to ours."""


class EntriesIn(Schema):
    """Entries as they were made on the device, in the log's form; each is judged by itself."""

    entries: Annotated[list[dict[str, Any]], Field(max_length=services.MOST_AT_ONCE)]
    page: WorkPage = "assembly"


class WishIn(Schema):
    changes: dict[str, float | int | str | bool]


class SecondIn(Schema):
    wishes: list[str]


class PhotoOut(Schema):
    id: UUID
    entry: UUID
    size: int


def _work(owner: Person, id: UUID, page: WorkPage, taken: services.Taken | None = None) -> WorkOut:
    build, log, report = services.report(owner, id, page)
    there = {e.id: p.pk for e, p in services.photos(build, log) if p is not None}
    return WorkOut(
        report=report,
        log=[_line(entry, there.get(entry.id)) for entry in log.entries],
        wishes=[WishOut(id=w.id, step=w.step, at=w.at, why=w.why, changes=w.changes, cost=w.cost) for w in log.wishes],
        to_wish=figures_of(builds.document_of(build)),
        rides=log.rides,
        troubles=[TroubleOut(step=t.step, board=t.board, text=t.text) for t in services.troubles(owner, build)],
        refused=[
            RefusedEntry(id=id, faults=[FaultOut(field=f.field, reason=f.reason) for f in faults])
            for id, faults in (taken.refused if taken else [])
        ],
        clock=taken.clock if taken else [],
    )


def _line(entry: Any, photo: UUID | None) -> LogLine:
    words = {"done": "otherwise", "noted": "text", "photographed": "caption", "rode": "note"}
    return LogLine(
        id=entry.id,
        kind=entry.kind,
        step=getattr(entry, "step", None),
        at=entry.at,
        by=entry.by,
        text=getattr(entry, words.get(entry.kind, "why"), None) or None,
        trouble=getattr(entry, "trouble", False),
        minutes=getattr(entry, "minutes", None),
        values=getattr(entry, "values", None),
        photo=photo,
    )


@router.get("/builds/{id}/assembly", response=WorkOut, exclude_none=True)
def work(request: PersonRequest, id: UUID, page: WorkPage = "assembly") -> WorkOut:
    """The steps of a board as it is saved, and how they stand by the log."""
    return _work(request.user, id, page)


@router.post("/builds/{id}/assembly", response=WorkOut, exclude_none=True)
def write_down(request: PersonRequest, id: UUID, payload: EntriesIn) -> WorkOut:
    """Takes entries into the log, each once however often it is sent; one that cannot be is named and holds up no other."""
    taken = services.add(request.user, id, payload.entries)
    return _work(request.user, id, payload.page, taken)


@router.post(
    "/builds/{id}/assembly/photos",
    response=JOB_RESPONSE,
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string"}}}}},
)
def send_photo(request: PersonRequest, id: UUID, entry: Annotated[UUID, Query()]) -> JobResponse:
    """The picture of an entry, the body as it is; it is kept without what a camera writes into it, and once."""
    services.expected(request.user, id, entry)
    data = pictures.whole(request)
    return job_response(jobs.ask(request.user, "photo", {"build": str(id), "entry": str(entry)}, data))


@job_handler("photo")
def _photo(job: JobRequest) -> Made:
    kept = services.keep_photo(job.owner, job.payload["build"], UUID(job.payload["entry"]), job.upload)
    return as_json(PhotoOut(id=kept.pk, entry=kept.entry, size=kept.size))


@router.get("/assembly/photos/{photo}", response=bytes)
def photo(request: PersonRequest, photo: UUID, small: bool = False) -> HttpResponse:
    """A photo, or the small one of it."""
    kept = services.photo(request.user, photo)
    answer = HttpResponse(bytes(kept.small if small else kept.data), content_type="image/jpeg" if small else kept.kind)
    answer["Content-Disposition"] = "inline"
    # It never changes under this address.
    answer["Cache-Control"] = "private, max-age=86400"
    return answer


@router.post("/builds/{id}/assembly/effect", response=list[Effect], exclude_none=True)
@in_turn
def wish_effect(request: PersonRequest, id: UUID, payload: WishIn) -> list[Effect]:
    """What a wish would do to the board's promises."""
    file = builds.document_of(builds.get(request.user, id))
    return effect(taught(request.user, id, file), payload.changes)


@router.post("/builds/{id}/assembly/second", response=BuildOut, exclude_none=True)
def second_version(request: PersonRequest, id: UUID, payload: SecondIn) -> BuildOut:
    """A second version of the board among the boards, with wishes laid in."""
    return build_out(services.second(request.user, id, payload.wishes))


@router.get("/builds/{id}/assembly/file", response=Any)
def book_file(request: PersonRequest, id: UUID, form: Literal["json", "md"] = "json") -> Any:
    """The build book to take away."""
    build, log, report = services.report(request.user, id, "assembly")
    ride = services.report(request.user, id, "first-ride")[2]
    name = str(build)
    if form == "json":
        answer: HttpResponse = JsonResponse(
            book.as_json(name, report, ride, log), json_dumps_params={"ensure_ascii": False, "indent": 1}
        )
    else:
        answer = HttpResponse(book.as_markdown(name, report, ride, log), content_type="text/markdown; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(name) or "board"}-build-book.{form}"'
    return answer


@router.post("/builds/{id}/assembly/paper", response=JOB_RESPONSE, exclude_none=True)
def book_paper(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks for the build book on A4, with its photos."""
    builds.get(request.user, id)
    return job_response(jobs.ask(request.user, "buildbook", {"build": str(id)}))


@job_handler("buildbook")
def _paper(job: JobRequest) -> Made:
    id = cast(str, job.payload["build"])
    build, log, report = services.report(job.owner, id, "assembly")
    ride = services.report(job.owner, id, "first-ride")[2]
    job.report_progress(0.2)
    name = str(build)
    made = book.book_pdf(name, report, ride, log, book.photos_of(services.photos(build, log)))
    return Made(made, "application/pdf", f"{slugify(name) or 'board'}-build-book.pdf")
