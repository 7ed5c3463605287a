"""The bench test: entered step by step, judged, kept, printed."""

from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.utils import timezone
from django.utils.text import slugify
from ninja import Field, Router, Schema, Status

from boardmath.buildfile.bench_test import BenchTest as Entered
from boardmath.buildfile.figures import PlausibleDate
from planner.bench_test import BenchTestReport, Standing
from server.bench_test import services
from server.bench_test.models import BenchTest
from server.bench_test.pdf import bench_test_pdf
from server.boards import services as builds
from server.controller import services as link
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.users import Number, Person, PersonRequest

router = Router(tags=["bench tests"])


class KeptTestOut(Schema):
    """A test that was kept, with how it was judged then, the revision of the build and the settings record that was set."""

    number: int
    on: date
    by: str
    build_revision: int | None = None
    """None for a test that an earlier release took from an archive."""
    record_number: int | None = None
    standing: Standing
    failed: list[str]


class WholeTestOut(KeptTestOut):
    """All of a kept test."""

    entered: Entered
    report: BenchTestReport


class TestsOut(Schema):
    """The test under way, judged, and those that were kept, the oldest first.

    ``tries`` is, by step, what a controller with a link can be sent to find out; empty for a boxed one. ``no_longer`` are the
    steps that the last kept test passed and would not pass on the board as it is now.
    """

    entered: Entered
    report: BenchTestReport
    tries: dict[str, Literal["run", "cut_off", "lose_remote"]]
    record_number: int | None = None
    kept: list[KeptTestOut]
    no_longer: list[str] = []
    overtaken: list[str] = []


class EnterIn(Schema):
    """Findings by dotted path; null takes one away. With ``command`` also what a finished command found.

    ``was`` is what stood at a path when it was entered.
    """

    changes: dict[str, Any] = {}
    was: dict[str, Any] = {}
    command: UUID | None = None


class KeepIn(Schema):
    on: PlausibleDate
    by: Annotated[str, Field(max_length=60)] = ""


def _kept(test: BenchTest) -> dict[str, Any]:
    report = test.report or {"standing": "not begun", "steps": []}
    return {
        **{k: getattr(test, k) for k in ("number", "on", "by", "build_revision", "record_number")},
        "standing": report["standing"],
        "failed": [s["title"] for s in report["steps"] if s["verdict"] == "fails"],
    }


def _all(owner: Person, id: UUID) -> TestsOut:
    test = services.under_way(owner, id)
    file, records = services.as_it_is(test.build)
    record, controller = records[-1] if records else None, file.parts.controller
    kept = services.kept(owner, id)
    return TestsOut(
        entered=test.entered,
        report=services.judged_on(file, record, records, test),
        tries=dict(services.TRIES) if controller is not None and controller.programmable is not False else {},
        record_number=record.number if record else None,
        kept=[KeptTestOut(**_kept(t)) for t in kept],
        no_longer=services.no_longer_on(file, record, records, kept[-1]) if kept else [],
    )


@router.get("/builds/{id}/bench-test", response=TestsOut, exclude_none=True)
def tests(request: PersonRequest, id: UUID) -> TestsOut:
    """The test under way and the kept ones."""
    return _all(request.user, id)


@router.patch("/builds/{id}/bench-test", response={200: TestsOut, 409: TestsOut}, exclude_none=True)
def enter(request: PersonRequest, id: UUID, payload: EnterIn) -> Status[TestsOut]:
    """Enters single findings by their path; what two people enter stands side by side.

    409 with what stands there where another device entered something else since.
    """
    found: dict[str, Any] = {}
    if payload.command is not None:
        command = link.get(request.user, payload.command)
        if command.build_id != id:
            raise ApiError("That was another board.", command="one of this board")
        found = services.found_by(command, services.under_way(request.user, id).entered)
    try:
        services.enter(request.user, id, {**found, **payload.changes}, payload.was)
    except services.Overtaken as overtaken:
        return Status(409, _all(request.user, id).model_copy(update={"overtaken": overtaken.paths}))
    return Status(200, _all(request.user, id))


@router.post("/builds/{id}/bench-test", response=TestsOut, exclude_none=True)
def keep(request: PersonRequest, id: UUID, payload: KeepIn) -> TestsOut:
    """Keeps the test under way with the day and by whom."""
    if payload.on > timezone.localdate():
        raise ApiError("That day has not come yet.", on="today or earlier")
    services.keep(request.user, id, payload.on, payload.by)
    return _all(request.user, id)


@router.delete("/builds/{id}/bench-test", response=TestsOut, exclude_none=True)
def begin_anew(request: PersonRequest, id: UUID) -> TestsOut:
    """Forgets what was entered of the test under way."""
    services.drop(request.user, id)
    return _all(request.user, id)


@router.get("/builds/{id}/bench-test/{int:number}", response=WholeTestOut, exclude_none=True)
def kept_test(request: PersonRequest, id: UUID, number: Number) -> WholeTestOut:
    """A kept test with everything that was entered, and as it was judged then."""
    test = services.get(request.user, id, number)
    return WholeTestOut(**_kept(test), entered=test.entered, report=BenchTestReport.model_validate(test.report))


@router.post("/builds/{id}/bench-test/paper", response=JOB_RESPONSE, exclude_none=True)
def paper(request: PersonRequest, id: UUID, number: Number | None = None) -> JobResponse:
    """Asks for a kept test on A4; without a number for the one under way, with lines to fill in by hand."""
    builds.get(request.user, id)
    if number is not None:
        services.get(request.user, id, number)
    return job_response(jobs.ask(request.user, "bench-test", {"build": str(id), "number": number}))


@job_handler("bench-test")
def _paper(job: JobRequest) -> Made:
    id, number = job.payload["build"], job.payload["number"]
    name = str(builds.get(job.owner, id))
    test = services.under_way(job.owner, id) if number is None else services.get(job.owner, id, number)
    report = services.judged(test) if number is None else BenchTestReport.model_validate(test.report)
    which = f"-{number}" if number is not None else ""
    return Made(
        bench_test_pdf(name, test, report), "application/pdf", f"{slugify(name) or 'board'}-bench-test{which}.pdf"
    )
