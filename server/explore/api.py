"""The explorer: what may be left open, every board that can be made of it, and one of them looked into."""

from collections.abc import Generator
from contextlib import ExitStack
from typing import Annotated

from django.http import HttpResponseBase, StreamingHttpResponse
from ninja import Field, Router, Schema

from boardmath.physics.types import Array
from boardmath.prediction.outcomes import OutcomeName
from planner.explore.design_space import OpenChoices, open_choices
from planner.explore.detail import looked_into
from planner.explore.report import exploration
from planner.explore.schemas import Exploration, LookedInto
from planner.explore.search import Explored, wanted_of
from planner.explore.space import Open
from server.boards.schemas import DocumentIn
from server.calibration.services import board_in
from server.errors import ApiError
from server.explore import services
from server.throttles.concurrency import ENGINE, in_turn
from server.users import PersonRequest

router = Router(tags=["explore"])


class Wishes(Schema):
    """What is wanted while exploring, instead of what the brief says; None asks for nothing."""

    speed: Annotated[float, Field(ge=0, le=200)] | None = None
    hill: Annotated[float, Field(ge=0, le=100)] | None = None
    range: Annotated[float, Field(ge=0, le=1000)] | None = None
    carry: Annotated[float, Field(ge=0, le=200)] | None = None
    money: Annotated[float, Field(ge=0, le=1_000_000)] | None = None


class ExploreIn(DocumentIn):
    """A build with what stays and what is wanted, and what is left open."""

    open: Open
    wanted: Wishes | None = None
    across: OutcomeName = "money"
    up: OutcomeName = "range"


class LookIntoIn(ExploreIn):
    """A design by its number, and the space in which that is its number."""

    number: Annotated[int, Field(ge=0)]
    space: Annotated[str, Field(max_length=64)]


@router.post("/explore/open", response=OpenChoices, exclude_none=True)
@in_turn
def open_choices_of_build(request: PersonRequest, payload: DocumentIn) -> OpenChoices:
    """What of a build may be left open, between which ends, and what most builders would leave open."""
    return open_choices(payload.document, services.library_of(request.user))


@router.post("/explore", response=Exploration)
def explore(request: PersonRequest, payload: ExploreIn) -> HttpResponseBase:
    """Every board that can be made of what is open: a line of JSON for each look, the last one whole.

    Each line is an ``Exploration``; ``share`` says how much was looked at. Whoever hangs up has it stopped.
    """
    build = board_in(request, payload)
    turn = ExitStack()
    turn.enter_context(ENGINE.turn(request.user.pk))
    try:
        key, explored, whole = services.explored(request.user, build, payload.open)
        lines = _Lines(key, explored, whole, wanted_of(build, _otherwise(payload)), payload, turn)
    except BaseException:
        turn.close()
        raise
    answer = StreamingHttpResponse(lines, content_type="application/x-ndjson")
    answer["Content-Encoding"] = "identity"  # a line is sent when it is there, not when a buffer is full
    answer["Cache-Control"] = "no-store"
    return answer


def _otherwise(payload: ExploreIn) -> dict[OutcomeName, float | None] | None:
    w = payload.wanted
    if w is None:
        return None
    return {"speed": w.speed, "hill": w.hill, "range": w.range, "carry": w.carry, "money": w.money}


class _Lines:
    """The looks at a space, one after the other; gives the engine back when it is through or nobody listens any more."""

    def __init__(
        self, key: str, explored: Explored, whole: bool, wanted: Array, payload: ExploreIn, turn: ExitStack
    ) -> None:
        self._turn, self._looks = turn, _looks(key, explored, whole, wanted, payload)

    def __iter__(self) -> "_Lines":
        return self

    def __next__(self) -> bytes:
        try:
            return next(self._looks).model_dump_json(exclude_none=True).encode() + b"\n"
        except BaseException:
            self.close()
            raise

    def close(self) -> None:
        self._looks.close()
        self._turn.close()


def _looks(
    key: str, explored: Explored, whole: bool, wanted: Array, payload: ExploreIn
) -> Generator[Exploration, None, None]:
    if not whole:
        for done in explored.run():
            if done < 1.0:
                yield _named(key, exploration(explored, wanted, payload.across, payload.up, whole=False))
        services.SPACES.keep(key, explored)
    yield _named(key, exploration(explored, wanted, payload.across, payload.up))


def _named(key: str, seen: Exploration) -> Exploration:
    return seen.model_copy(update={"space": key})


@router.post("/explore/board", response=LookedInto, exclude_none=True)
@in_turn
def look_into(request: PersonRequest, payload: LookIntoIn) -> LookedInto:
    """One board of the space: what lays it on the bench, what a step of each part buys, the nearest real parts."""
    build = board_in(request, payload)
    key, explored, _ = services.explored(request.user, build, payload.open)
    if payload.space != key:
        raise ApiError("The board or the library has changed since this search. Search again.", status=409)
    if payload.number >= len(explored.space):
        raise ApiError("There is no such design.", number=f"below {len(explored.space)}")
    parts = services.library_of(request.user)
    return looked_into(explored.space, parts, payload.number, wanted_of(build, _otherwise(payload)))
