"""The bench: predictions, candidates and proposals for a build that need not be saved."""

from uuid import UUID

from django.http import HttpResponse
from ninja import Router
from pydantic import BaseModel, TypeAdapter

from boardmath.buildfile import Build, read_build, write_build
from boardmath.buildfile import Part as FileOfPart
from boardmath.geometry.shapes import Drawing, View
from boardmath.geometry.views.view import draw
from boardmath.messages import Message
from boardmath.parts.part_types import KINDS
from boardmath.prediction.outcomes import OutcomeName
from boardmath.prediction.part_columns import OwnColumn
from boardmath.predictor import predict
from boardmath.results import Prediction
from planner.design.beginning import REPLACEABLE, adapted
from planner.design.candidates import Candidate, choice
from planner.design.entry import Entry, EntryError, read_entry
from planner.design.proposals import Proposal, propose
from server.boards.schemas import DocumentIn
from server.calibration.services import board_in
from server.errors import ApiError
from server.jobs import services as jobs
from server.jobs.api import JOB_RESPONSE, JobResponse, job_response
from server.jobs.handlers import JobRequest, Made, as_json, job_handler
from server.library import services as library
from server.library.models import Part
from server.responses import json_response
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["bench"])
PROPOSALS = "proposals"


class PredictIn(DocumentIn):
    view: View | None = None


class CandidatesIn(DocumentIn):
    kind: str


class PredictionOut(Prediction):
    """What follows every key on the bench: the whole prediction, and the drawing in the view asked for."""

    drawing: Drawing | None = None


class CandidateOut(Candidate):
    id: str


class ChoiceOut(BaseModel):
    """The candidates, best first for what the brief lacks most."""

    lacks: str | None
    candidates: list[CandidateOut]
    columns: list[OutcomeName]
    own: list[OwnColumn]
    nothing: Message | None = None


class ProposalsIn(DocumentIn):
    """A brief, and what of a board is there."""

    makes_packs: bool = False
    """Whether packs made of the library's cells are among the proposals; they have to be welded."""


class AdaptedIn(DocumentIn):
    """A board that is there, as far as it is described, and the kinds of part that will be others."""

    replaced: list[str] = []


class EntryIn(DocumentIn):
    """What was typed into a field that is no figure of its own, such as 10S4P or 315 mm."""

    path: str
    text: str


@router.post("/builds/entry", response=Entry)
def entry(request: PersonRequest, payload: EntryIn) -> Entry:
    """What an entry such as 10S4P, 250 Wh or 315 mm sets."""
    try:
        return read_entry(payload.document, payload.path, payload.text)
    except EntryError as error:
        raise ApiError(str(error), faults={payload.path: str(error)}) from None


@router.post("/proposals", response=JOB_RESPONSE, exclude_none=True)
def proposals_for(request: PersonRequest, payload: ProposalsIn) -> JobResponse:
    """Asks for builds from the library that would keep the brief; parts that the build already has stay."""
    wanted = {"build": write_build(board_in(request, payload)), "makes_packs": payload.makes_packs}
    return job_response(jobs.ask(request.user, PROPOSALS, wanted))


@router.get("/proposals/{id}", response=list[Proposal], exclude_none=True)
def proposals(request: PersonRequest, id: UUID) -> list[Proposal]:
    """The builds that were asked for, when the job is done."""
    return TypeAdapter(list[Proposal]).validate_json(bytes(jobs.made(request.user, id, PROPOSALS).made or b""))


@job_handler(PROPOSALS)
def _propose(job: JobRequest) -> Made:
    by_kind: dict[str, list[FileOfPart]] = {}
    for part in Part.objects.seen_by(job.owner)[:1000]:
        by_kind.setdefault(part.kind, []).append(library.part_model(part))
    wanted = job.payload
    return as_json(propose(read_build(wanted["build"]), by_kind, job.report_progress, wanted["makes_packs"]))


@router.post("/predict", response=PredictionOut)
@in_turn
def predict_build(request: PersonRequest, payload: PredictIn) -> HttpResponse:
    """The whole prediction: every result with its band and limit, the line of power, findings and estimates.

    The build need not be saved.
    """
    drawing = draw(payload.document, payload.view) if payload.view is not None else None
    file = board_in(request, payload)
    return json_response(PredictionOut.model_construct(**predict(file).__dict__, drawing=drawing))


@router.post("/candidates", response=ChoiceOut)
@in_turn
def candidates_for(request: PersonRequest, payload: CandidatesIn) -> HttpResponse:
    """What each part of a kind would change, were it chosen for this build; best first for what the brief lacks most."""
    if payload.kind not in KINDS:
        raise ApiError("There is no such kind of part.", kind=f"one of {', '.join(KINDS)}")
    kind = KINDS[payload.kind].shelved_as or payload.kind
    seen = list(Part.objects.seen_by(request.user).filter(kind=kind)[:200])
    file = board_in(request, payload)
    found = choice(file, payload.kind, [library.part_model(p) for p in seen])
    rows = [CandidateOut.model_construct(id=str(seen[c.index].id), **c.__dict__) for c in found.candidates]
    return json_response(ChoiceOut.model_construct(**{**found.__dict__, "candidates": rows}))


@router.post("/builds/adapt", response=Build, exclude_none=True)
@in_turn
def adapted_board(request: PersonRequest, payload: AdaptedIn) -> Build:
    """A board that is there as the beginning of a build: what stays is in hand, what is replaced has its place empty."""
    unknown = [kind for kind in payload.replaced if kind not in REPLACEABLE]
    if unknown:
        raise ApiError(f"“{unknown[0]}” cannot be replaced on a board.", replaced=f"of {', '.join(REPLACEABLE)}")
    return adapted(payload.document, payload.replaced)
