"""A build on paper, all of it."""

from uuid import UUID

from django.utils import timezone
from django.utils.text import slugify
from ninja import Router

from planner.maintenance.report import maintenance_report
from planner.rides.sums import sums
from server.assembly import services as works
from server.bench_test import services as benchtests
from server.boards import services as builds
from server.calibration import services as calibration
from server.controller_settings import services as settings_records
from server.dossier.pdf import dossier_pdf
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, job_handler
from server.review.api import report_of
from server.rides import services as rides
from server.users import PersonRequest

router = Router(tags=["dossier"])


@router.post("/builds/{id}/dossier", response=JOB_RESPONSE, exclude_none=True)
def dossier(request: PersonRequest, id: UUID) -> JobResponse:
    """Asks for the build on A4: predictions, drawings, parts, settings, bench test, findings, what was set aside and why."""
    builds.get(request.user, id)
    return job_response(jobs.ask(request.user, "dossier", {"build": str(id)}))


@job_handler("dossier")
def _dossier(job: JobRequest) -> Made:
    build = builds.get(job.owner, job.payload["build"])
    set_so_far, tested = settings_records.of(job.owner, build.pk), benchtests.kept(job.owner, build.pk)
    _, log, report = works.report(job.owner, build.pk, "assembly")
    name = str(build)
    ridden, taught = calibration.report(job.owner, build.pk)
    file, today = calibration.taught(job.owner, build.pk, builds.file_of(build)), timezone.localdate()
    paper = dossier_pdf(
        name,
        file,
        set_so_far[-1] if set_so_far else None,
        tested[-1] if tested else None,
        (report, log),
        (sums([k.ride for k in ridden]), taught),
        (maintenance_report(file, rides.rode_on([build])[build.pk], today), report_of(job.owner, build.pk, file)),
        today,
    )
    return Made(paper, "application/pdf", f"{slugify(name) or 'board'}-dossier.pdf")
