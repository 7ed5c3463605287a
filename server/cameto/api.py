"""What a board came to; the page to hand on, as HTML and on A4."""

from uuid import UUID

from django.http import HttpRequest
from django.utils.text import slugify
from ninja import Router, Schema

from boardmath.buildfile import Build, read_build
from planner.review.report import CameToReport, came_to
from planner.review.summary import handed_on
from planner.shared.log import Done
from server.assembly import services as works
from server.cameto.page import page_html, page_pdf
from server.jobs import services as jobs
from server.jobs.api import ASKED, asked
from server.jobs.handlers import Made, Order, maker
from server.learnt.services import taught
from server.revisions.models import Revision
from server.rides import services as rides
from server.shelf import services as builds
from server.throttles.concurrency import in_turn
from server.users import Person

router = Router(tags=["cameto"])


class CameToIn(Schema):
    document: Build


def report_of(owner: Person, id: UUID, file: Build) -> CameToReport:
    """What a board came to, by all that is known of it."""
    build = builds.get(owner, id)
    kept = rides.kept(build)
    charged = [k.ride.pack.wh for k in kept if k.ride.pack.wh is not None]
    # Only where every ride tells it is the sum of what was charged the whole of it.
    wh = sum(charged) if charged and len(charged) == len(kept) else None
    first = Revision.objects.filter(build=build).order_by("created_at", "id").first()
    log = works.log_of(build)
    minutes = sum(e.minutes or 0.0 for e in log.entries if isinstance(e, Done))
    return came_to(
        taught(owner, id, file),
        rides.rode_on([build])[id],
        wh,
        read_build(first.document) if first is not None else None,
        first.name if first is not None else None,
        minutes / 60.0 if minutes else None,
        [w.why for w in log.wishes],
    )


@router.post("/builds/{id}/cameto", response=CameToReport, exclude_none=True)
@in_turn
def came_to_of_build(request: HttpRequest, id: UUID, payload: CameToIn) -> object:
    """True cost, hours, cost a kilometre by year, what was promised and what it does."""
    return report_of(request.user, id, payload.document)


@router.post("/builds/{id}/cameto/page", response=ASKED, exclude_none=True)
def page_to_hand_on(request: HttpRequest, id: UUID, form: str = "html") -> object:
    """Asks for the page to hand on of a board as it is saved: HTML that needs no network, or A4."""
    builds.get(request.user, id)
    return asked(jobs.ask(request.user, "cameto", {"build": str(id), "form": "pdf" if form == "pdf" else "html"}))


@maker("cameto")
def _page(order: Order) -> Made:
    build = builds.get(order.owner, order.asked["build"])
    file = read_build(build.document)
    report = report_of(order.owner, build.pk, file)
    own, name = handed_on(file), str(build)
    said = file.came_to.to_say if file.came_to is not None else None
    if said:
        report = report.model_copy(update={"would_change": [*report.would_change, said]})
    slug = slugify(name) or "board"
    if order.asked["form"] == "pdf":
        return Made(page_pdf(name, own, report), "application/pdf", f"{slug}-handed-on.pdf")
    return Made(page_html(name, own, report).encode(), "text/html; charset=utf-8", f"{slug}-handed-on.html")
