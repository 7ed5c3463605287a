"""A build on paper, all of it."""

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from django.utils.text import slugify
from ninja import Router

from planner.maintenance.report import upkeep_report
from planner.rides.sums import sums
from server.assembly import services as works
from server.benchtest import services as benchtests
from server.cameto.api import report_of
from server.dossier.pdf import dossier_pdf
from server.jobs import services as jobs
from server.jobs.api import ASKED, asked
from server.jobs.handlers import Made, Order, maker
from server.learnt import services as learnt
from server.rides import services as rides
from server.sheet import services as sheets
from server.shelf import services as builds

router = Router(tags=["dossier"])


@router.post("/builds/{id}/dossier", response=ASKED, exclude_none=True)
def dossier(request: HttpRequest, id: UUID) -> object:
    """Asks for the build on A4: predictions, drawings, parts, settings, bench test, findings, what was set aside and why."""
    builds.get(request.user, id)
    return asked(jobs.ask(request.user, "dossier", {"build": str(id)}))


@maker("dossier")
def _dossier(order: Order) -> Made:
    build = builds.get(order.owner, order.asked["build"])
    set_so_far, tested = sheets.of(order.owner, build.pk), benchtests.kept(order.owner, build.pk)
    _, log, report = works.report(order.owner, build.pk, "assembly")
    name = str(build)
    ridden, taught = learnt.report(order.owner, build.pk)
    file, today = sheets.read_file(build), timezone.localdate()
    paper = dossier_pdf(
        name,
        learnt.taught(order.owner, build.pk, file),
        set_so_far[-1] if set_so_far else None,
        tested[-1] if tested else None,
        (report, log),
        (sums([k.ride for k in ridden]), taught),
        (upkeep_report(file, rides.rode_on([build])[build.pk], today), report_of(order.owner, build.pk, file)),
        today,
    )
    return Made(paper, "application/pdf", f"{slugify(name) or 'board'}-dossier.pdf")
