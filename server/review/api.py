"""What a board came to; the page to hand on, as HTML and on A4."""

from uuid import UUID

from django.utils.text import slugify
from ninja import Router

from boardmath.buildfile import Build, BuildFile
from boardmath.model.sampling import FEW
from boardmath.prediction.outcomes import headlines
from planner.compare import differences
from planner.review.report import ReviewReport, charged_wh, review
from planner.review.summary import handed_on
from planner.shared.log import Done
from server.assembly import services as works
from server.boards import services as builds
from server.boards.schemas import FileIn
from server.calibration.services import board_as_it_is, taught
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.review.page import page_html, page_pdf
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.rides import services as rides
from server.throttles.concurrency import in_turn
from server.users import Person, PersonRequest

router = Router(tags=["review"])


def changed_since(first: Build, now: Build) -> list[str]:
    """Sections of the build file, such as ``parts.drive``, that are not as they were; without the rider and the brief."""
    return [group.section for group in differences([first, now]) if group.section not in ("rider", "brief")]


def report_of(owner: Person, id: UUID, file: BuildFile) -> ReviewReport:
    """What a board came to, by all that is known of it."""
    build = builds.get(owner, id)
    ridden = rides.rode_on([build])[id]
    first = Revision.objects.filter(build=build).order_by("created_at", "id").first()
    log = works.log_of(build)
    minutes = sum(e.minutes or 0.0 for e in log.entries if isinstance(e, Done))
    return review(
        taught(owner, id, file),
        ridden,
        charged_wh([k.ride for k in rides.kept(build)]),
        first.name if first is not None else None,
        changed_since(revisions.document_of(first), file) if first is not None else (),
        minutes / 60.0 if minutes else None,
        [w.why for w in log.wishes],
    )


@router.post("/builds/{id}/review", response=ReviewReport, exclude_none=True)
@in_turn
def review_of_build(request: PersonRequest, id: UUID, payload: FileIn) -> ReviewReport:
    """True cost, hours, cost a kilometre by year, what was predicted and what it does."""
    return report_of(request.user, id, payload.document)


@router.post("/builds/{id}/review/page", response=JOB_RESPONSE, exclude_none=True)
def page_to_hand_on(request: PersonRequest, id: UUID, form: str = "html") -> JobResponse:
    """Asks for the page to hand on of a board as it is saved: HTML that needs no network, or A4."""
    builds.get(request.user, id)
    return job_response(
        jobs.ask(request.user, "review", {"build": str(id), "form": "pdf" if form == "pdf" else "html"})
    )


@job_handler("review")
def _page(job: JobRequest) -> Made:
    build = builds.get(job.owner, job.payload["build"])
    file = builds.file_of(build)
    report = report_of(job.owner, build.pk, file)
    own, name = handed_on(file), str(build)
    outcomes = headlines([board_as_it_is(job.owner, build)], FEW)[0].outcomes
    said = file.review.to_say if file.review is not None else None
    if said:
        report = report.model_copy(update={"would_change": [*report.would_change, said]})
    slug = slugify(name) or "board"
    if job.payload["form"] == "pdf":
        return Made(page_pdf(name, own, outcomes, report), "application/pdf", f"{slug}-handed-on.pdf")
    return Made(page_html(name, own, outcomes, report).encode(), "text/html; charset=utf-8", f"{slug}-handed-on.html")
