"""The shelf of builds, the library of parts, predictions and candidates."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router, Schema
from ninja.throttling import UserRateThrottle

from boardmath.buildfile import Build as BuildFile
from boardmath.buildfile import read_build, write_build
from boardmath.candidates import Candidate, choice
from boardmath.curves import Plot, curves
from boardmath.fit.shapes import VIEWS, Drawing, View
from boardmath.fit.transmission import StockBelt, least_distance, stock_belts
from boardmath.fit.views import draw
from boardmath.predict.promises import Headline, headlines
from boardmath.proposals import Proposal, propose
from boardmath.report import glance, predict
from boardmath.results import Glance, Prediction
from server.faults import FaultsOut, Refused
from server.workshop import services
from server.workshop.models import Build, Part
from server.workshop.template import template_pdf

router = Router(tags=["workshop"])
SHELF_SAMPLES = 64


class BuildOut(Schema):
    """A build with the revision to save from."""

    id: UUID
    revision: int
    updated_at: datetime
    document: BuildFile


class ShelfBuild(Schema):
    """A build as it stands on the shelf."""

    id: UUID
    name: str
    stage: str | None
    currency: str | None
    updated_at: datetime
    headline: Headline
    side: Drawing


class SaveIn(Schema):
    revision: int
    document: BuildFile


class DocumentIn(Schema):
    document: BuildFile


class GlanceIn(DocumentIn):
    view: View = "side"


class CandidatesIn(DocumentIn):
    kind: str


class NewIn(Schema):
    name: str = "New board"


class Sight(Glance):
    """What follows every key on the bench: the promises and the drawing in the view asked for."""

    drawing: Drawing


class Drawings(Schema):
    """Every view, and the stock belts that would suit."""

    views: list[Drawing]
    belts: list[StockBelt]
    least_centre_distance_mm: float


class CandidateOut(Candidate):
    id: str


class ChoiceOut(Schema):
    """The candidates, best first for what the brief lacks most."""

    lacks: str | None
    candidates: list[CandidateOut]


class PartOut(Schema):
    id: UUID
    kind: str
    own: bool
    record: dict[str, Any]


_REFUSALS = {401: FaultsOut, 404: FaultsOut, 422: FaultsOut}


def _out(build: Build) -> BuildOut:
    return BuildOut(
        id=build.id, revision=build.revision, updated_at=build.updated_at, document=read_build(build.document)
    )


@router.get("/builds", response=list[ShelfBuild], exclude_none=True)
def shelf(request: HttpRequest):
    """All builds of the person with their promises, in one run of the engine."""
    builds = list(Build.objects.of(request.user))
    files = [read_build(b.document) for b in builds]
    return [
        ShelfBuild(
            id=b.id,
            name=str(b),
            stage=f.stage,
            currency=f.currency,
            updated_at=b.updated_at,
            headline=h,
            side=draw(f, "side"),
        )
        for b, f, h in zip(builds, files, headlines(files, SHELF_SAMPLES), strict=True)
    ]


@router.post("/builds", response={200: BuildOut, **_REFUSALS}, exclude_none=True)
def new_build(request: HttpRequest, payload: NewIn):
    """An empty bench."""
    return _out(services.create(request.user, services.new_build_file(payload.name.strip()[:120] or "New board")))


@router.post(
    "/builds/import",
    response={200: BuildOut, 413: FaultsOut, **_REFUSALS},
    exclude_none=True,
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "string"}}}, "required": True}},
)
def import_build(request: HttpRequest):
    """A build file onto the shelf; the body is the file."""
    return _out(services.create(request.user, read_build(request.body)))


@router.get("/builds/{id}", response={200: BuildOut, **_REFUSALS}, exclude_none=True)
def get_build(request: HttpRequest, id: UUID):
    """One build."""
    return _out(services.get(request.user, id))


@router.put("/builds/{id}", response={200: BuildOut, 409: BuildOut, **_REFUSALS}, exclude_none=True)
def save_build(request: HttpRequest, id: UUID, payload: SaveIn):
    """Saves a build over the revision that the sender started from; 409 with what stands there now otherwise."""
    try:
        return 200, _out(services.save(request.user, id, payload.document, payload.revision))
    except services.Conflict as conflict:
        return 409, _out(conflict.current)


@router.post("/builds/{id}/duplicate", response={200: BuildOut, **_REFUSALS}, exclude_none=True)
def duplicate_build(request: HttpRequest, id: UUID):
    """A copy on the shelf."""
    return _out(services.duplicate(request.user, id))


@router.delete("/builds/{id}", response={204: None, **_REFUSALS})
def delete_build(request: HttpRequest, id: UUID):
    """Off the shelf; it can be brought back."""
    services.delete(request.user, id)
    return 204, None


@router.post("/builds/{id}/restore", response={200: BuildOut, **_REFUSALS}, exclude_none=True)
def restore_build(request: HttpRequest, id: UUID):
    """Back on the shelf."""
    return _out(services.restore(request.user, id))


@router.get("/builds/{id}/file", response={200: BuildFile, **_REFUSALS}, exclude_none=True)
def export_build(request: HttpRequest, id: UUID, response: HttpResponse):
    """The build file to take away."""
    build = services.get(request.user, id)
    name = slugify(str(build)) or "build"
    response["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return write_build(read_build(build.document))


class PredictionThrottle(UserRateThrottle):
    """Far above what hands can do, and a bound on what a script can."""

    THROTTLE_RATES = {"user": "3000/min"}


@router.post("/glance", response={200: Sight, **_REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def glance_at_build(request: HttpRequest, payload: GlanceIn):
    """The promises with their bands and the drawing; the build need not be saved."""
    return Sight(**glance(payload.document).__dict__, drawing=draw(payload.document, payload.view))


@router.post("/drawings", response={200: Drawings, **_REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def drawings_of_build(request: HttpRequest, payload: DocumentIn):
    """The board in every view, to scale, and the stock belts that would suit."""
    build = payload.document
    return Drawings(
        views=[draw(build, view) for view in VIEWS],
        belts=stock_belts(build),
        least_centre_distance_mm=least_distance(build),
    )


@router.get("/builds/{id}/template.pdf", response={200: bytes, **_REFUSALS})
def template_of_build(request: HttpRequest, id: UUID):
    """Deck drilling and box outline at 1:1 on A4 pages, with a 100 mm line to check the printer by."""
    build = services.get(request.user, id)
    name = slugify(str(build)) or "build"
    page = HttpResponse(template_pdf(read_build(build.document), str(build)), content_type="application/pdf")
    page["Content-Disposition"] = f'attachment; filename="{name}-template.pdf"'
    return page


class ProposalThrottle(UserRateThrottle):
    """A proposal looks at a thousand boards."""

    THROTTLE_RATES = {"user": "60/min"}


@router.post("/proposals", response={200: list[Proposal], **_REFUSALS}, exclude_none=True, throttle=ProposalThrottle())
def proposals_for(request: HttpRequest, payload: DocumentIn):
    """Builds from the library that would keep the brief; parts that the build already has stay."""
    library: dict[str, list] = {}
    for part in Part.objects.seen_by(request.user)[:1000]:
        library.setdefault(part.kind, []).append(services.part_model(part))
    return propose(payload.document, library)


@router.post("/predict", response={200: Prediction, **_REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def predict_build(request: HttpRequest, payload: DocumentIn):
    """The whole prediction: every result with its limit, the line of power, findings and estimates."""
    return predict(payload.document)


@router.post("/curves", response={200: list[Plot], **_REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def curves_of_build(request: HttpRequest, payload: DocumentIn):
    """Curves of a build with their bands; empty while it is not far enough for a prediction."""
    return curves(payload.document)


@router.get("/parts", response={200: list[PartOut], **_REFUSALS})
def parts(request: HttpRequest, kind: str | None = None):
    """The shared library and the person's own parts."""
    seen = Part.objects.seen_by(request.user)
    seen = seen.filter(kind=kind) if kind else seen
    return [PartOut(id=p.id, kind=p.kind, own=p.owner_id is not None, record=services.part_record(p)) for p in seen]


@router.post("/candidates", response={200: ChoiceOut, **_REFUSALS}, exclude_none=True)
def candidates_for(request: HttpRequest, payload: CandidatesIn):
    """What each part of a kind would change, were it chosen for this build; best first for what the brief lacks most."""
    seen = list(Part.objects.seen_by(request.user).filter(kind=payload.kind)[:200])
    if not seen and payload.kind not in services.KINDS:
        raise Refused("There is no such kind of part.", kind=f"one of {', '.join(services.KINDS)}")
    found = choice(payload.document, payload.kind, [services.part_model(p) for p in seen])
    rows = [CandidateOut(id=str(seen[c.index].id), **c.model_dump()) for c in found.candidates]
    return ChoiceOut(lacks=found.lacks, candidates=rows)
