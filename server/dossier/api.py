"""A build on paper, all of it."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Router

from server.benchtest import services as benchtests
from server.dossier.pdf import dossier_pdf
from server.faults import REFUSALS
from server.sheet import services as sheets
from server.shelf import services as builds

router = Router(tags=["dossier"])


@router.get("/builds/{id}/dossier.pdf", response={200: bytes, **REFUSALS})
def dossier(request: HttpRequest, id: UUID) -> object:
    """The build on A4: predictions, drawings, parts, settings, bench test, findings, what was set aside and why."""
    build = builds.get(request.user, id)
    set_so_far, tested = sheets.of(request.user, id), benchtests.kept(request.user, id)
    name = str(build)
    paper = dossier_pdf(
        name,
        sheets.read_file(build),
        set_so_far[-1] if set_so_far else None,
        tested[-1] if tested else None,
        timezone.localdate(),
    )
    answer = HttpResponse(paper, content_type="application/pdf")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(name) or "board"}-dossier.pdf"'
    return answer
