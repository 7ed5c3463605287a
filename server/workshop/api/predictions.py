"""Predictions, drawings, candidates and proposals for a build that need not be saved."""

from django.http import HttpRequest
from ninja import Router, Schema
from ninja.throttling import UserRateThrottle

from boardmath.buildfile import Part as FileOfPart
from boardmath.candidates import Candidate, choice
from boardmath.choosing import KINDS
from boardmath.curves import Plot, curves
from boardmath.fit.shapes import VIEWS, Drawing, View
from boardmath.fit.transmission import StockBelt, least_distance, stock_belts
from boardmath.fit.views import draw
from boardmath.proposals import Proposal, propose
from boardmath.report import predict
from boardmath.results import Prediction
from server.faults import Refused
from server.workshop import library
from server.workshop.api.schemas import REFUSALS, DocumentIn, PredictionThrottle
from server.workshop.models import Part

router = Router(tags=["predictions"])


class PredictIn(DocumentIn):
    view: View | None = None


class CandidatesIn(DocumentIn):
    kind: str


class PredictionOut(Prediction):
    """What follows every key on the bench: the whole prediction, and the drawing in the view asked for."""

    drawing: Drawing | None = None


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


@router.post("/drawings", response={200: Drawings, **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def drawings_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """The board in every view, to scale, and the stock belts that would suit."""
    build = payload.document
    return Drawings(
        views=[draw(build, view) for view in VIEWS],
        belts=stock_belts(build),
        least_centre_distance_mm=least_distance(build),
    )


class ProposalThrottle(UserRateThrottle):
    """A proposal looks at a thousand boards."""

    THROTTLE_RATES = {"user": "60/min"}


@router.post("/proposals", response={200: list[Proposal], **REFUSALS}, exclude_none=True, throttle=ProposalThrottle())
def proposals_for(request: HttpRequest, payload: DocumentIn) -> object:
    """Builds from the library that would keep the brief; parts that the build already has stay."""
    by_kind: dict[str, list[FileOfPart]] = {}
    for part in Part.objects.seen_by(request.user)[:1000]:
        by_kind.setdefault(part.kind, []).append(library.part_model(part))
    return propose(payload.document, by_kind)


@router.post("/predict", response={200: PredictionOut, **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def predict_build(request: HttpRequest, payload: PredictIn) -> object:
    """The whole prediction: every result with its band and limit, the line of power, findings and estimates.

    The build need not be saved.
    """
    drawing = draw(payload.document, payload.view) if payload.view is not None else None
    return PredictionOut(**predict(payload.document).__dict__, drawing=drawing)


@router.post("/curves", response={200: list[Plot], **REFUSALS}, exclude_none=True, throttle=PredictionThrottle())
def curves_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """Curves of a build with their bands; empty while it is not far enough for a prediction."""
    return curves(payload.document)


@router.post("/candidates", response={200: ChoiceOut, **REFUSALS}, exclude_none=True)
def candidates_for(request: HttpRequest, payload: CandidatesIn) -> object:
    """What each part of a kind would change, were it chosen for this build; best first for what the brief lacks most."""
    seen = list(Part.objects.seen_by(request.user).filter(kind=payload.kind)[:200])
    if not seen and payload.kind not in KINDS:
        raise Refused("There is no such kind of part.", kind=f"one of {', '.join(KINDS)}")
    found = choice(payload.document, payload.kind, [library.part_model(p) for p in seen])
    rows = [CandidateOut(id=str(seen[c.index].id), **c.model_dump()) for c in found.candidates]
    return ChoiceOut(lacks=found.lacks, candidates=rows)
