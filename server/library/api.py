"""The library: shared parts for everyone to see, one's own to alter, files out and in."""

from typing import Annotated, Any, Literal
from uuid import UUID

from django.db.models import Count, Q
from django.http import HttpResponse, JsonResponse
from ninja import Query, Router, Schema, Status

from boardmath.parts.library import Missing, missing_figures
from server.errors import ApiError, Conflict, RowFaults
from server.library import services as library
from server.library.models import Part
from server.users import Number, PersonRequest

router = Router(tags=["library"])
PAGE = 40
MOST_WORDS = 12
"""Of a search: each is looked for in every name and maker."""


class PartOut(Schema):
    """A part as a row of the library.

    ``assumed`` is how many of its figures the model has to assume, ``needs`` how many it cannot do without.
    """

    id: UUID
    kind: str
    own: bool
    record: dict[str, Any]
    assumed: int
    needs: int


class PartsPage(Schema):
    """Some of the parts, how many there are of this kind, and how many of every kind."""

    count: int
    parts: list[PartOut]
    kinds: dict[str, int]


class PartDetail(Schema):
    """One part with every figure that it does not state and what the model takes it to be."""

    id: UUID
    kind: str
    own: bool
    record: dict[str, Any]
    missing: list[Missing]


class PartIn(Schema):
    kind: str
    record: dict[str, Any]


class RecordIn(Schema):
    """Other figures of a part, and those that they replace as the sender knows them."""

    record: dict[str, Any]
    before: dict[str, Any]


class OfferOut(Schema):
    """One part of a file, and what becomes of it."""

    line: int
    kind: str
    name: str
    outcome: library.Outcome
    faults: list[RowFaults]


class ImportOut(Schema):
    """What a file brings in, or brought in; ``rest`` has the broken rows with their reasons, as a file of the same form."""

    form: Literal["csv", "json"]
    taken: bool
    good: int
    rows: list[OfferOut]
    rest: str | None


def _detail(part: Part) -> PartDetail:
    model = library.part_model(part)
    return PartDetail(
        id=part.id,
        kind=part.kind,
        own=part.owner_id is not None,
        record=library.part_record(part),
        missing=missing_figures(part.kind, model),
    )


def _row(part: Part) -> PartOut:
    missing = missing_figures(part.kind, library.part_model(part))
    return PartOut(
        id=part.id,
        kind=part.kind,
        own=part.owner_id is not None,
        record=library.part_record(part),
        assumed=sum(m.rule is not None for m in missing),
        needs=sum(m.needed for m in missing),
    )


@router.get("/parts", response=PartsPage)
def parts(
    request: PersonRequest,
    kind: str | None = None,
    find: str = "",
    own: bool = False,
    offset: Number = 0,
    limit: Annotated[int, Query(ge=1, le=200)] = PAGE,
) -> PartsPage:
    """Parts of the shared library and one's own, by kind and name."""
    seen = Part.objects.of(request.user) if own else Part.objects.seen_by(request.user)
    words = find.split()
    if len(words) > MOST_WORDS:
        raise ApiError("That search is too long.", find=f"at most {MOST_WORDS} words")
    for word in words:
        seen = seen.filter(Q(name__icontains=word) | Q(maker__icontains=word))
    kinds = dict(seen.order_by().values_list("kind").annotate(Count("id")))
    of_kind = seen.filter(kind=kind) if kind else seen
    count = kinds.get(kind, 0) if kind else sum(kinds.values())
    return PartsPage(count=count, parts=[_row(p) for p in of_kind[offset : offset + limit]], kinds=kinds)


@router.get("/parts/file", response=Any)
def export_parts(
    request: PersonRequest, form: Literal["csv", "json"] = "csv", own: bool = True, kind: str | None = None
) -> Any:
    """Parts to take away: one's own, or all that one sees."""
    seen = Part.objects.of(request.user) if own else Part.objects.seen_by(request.user)
    found = list(seen.filter(kind=kind) if kind else seen)
    if form == "json":
        answer: HttpResponse = JsonResponse(
            library.as_json(found), json_dumps_params={"ensure_ascii": False, "indent": 1}
        )
    else:
        answer = HttpResponse(library.as_csv(found), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="sand-pocket-parts.{form}"'
    return answer


@router.post(
    "/parts/import",
    response=ImportOut,
    openapi_extra={"requestBody": {"content": {"text/plain": {"schema": {"type": "string"}}}, "required": True}},
)
def import_parts(request: PersonRequest, take: bool = False) -> ImportOut:
    """What a file of parts (CSV or JSON, the body) would bring in; with ``take`` the good ones are taken in."""
    form, found = library.offers(request.user, request.body)
    good = library.take(request.user, found) if take else sum(o.outcome in ("new", "alters") for o in found)
    rows = [
        OfferOut(
            line=o.line,
            kind=o.kind[:60],
            name=o.name[:200],
            outcome="broken" if o.faults else o.outcome,
            faults=[RowFaults(field=f.field, reason=f.reason) for f in o.faults],
        )
        for o in found
    ]
    return ImportOut(form=form, taken=take, good=good, rows=rows, rest=library.rest(form, found))


@router.get("/parts/{id}", response=PartDetail, exclude_none=True)
def part(request: PersonRequest, id: UUID) -> PartDetail:
    """One part, with what is assumed for it."""
    return _detail(library.get(request.user, id))


@router.post("/parts", response=PartDetail, exclude_none=True)
def add_part(request: PersonRequest, payload: PartIn) -> PartDetail:
    """A part of one's own."""
    return _detail(library.add(request.user, payload.kind, payload.record))


@router.put("/parts/{id}", response={200: PartDetail, 409: PartDetail}, exclude_none=True)
def alter_part(request: PersonRequest, id: UUID, payload: RecordIn) -> Status[PartDetail]:
    """Other figures for a part of one's own; 409 with the part as it is where it was changed elsewhere since."""
    try:
        return Status(200, _detail(library.alter(request.user, id, payload.record, payload.before)))
    except Conflict as conflict:
        return Status(409, _detail(conflict.current))


@router.post("/parts/{id}/duplicate", response=PartDetail, exclude_none=True)
def duplicate_part(request: PersonRequest, id: UUID) -> PartDetail:
    """A copy of one's own, to be altered."""
    return _detail(library.duplicate(request.user, id))


@router.delete("/parts/{id}", response={204: None})
def delete_part(request: PersonRequest, id: UUID) -> Status[None]:
    """Out of the library; it can be brought back."""
    library.delete(request.user, id)
    return Status(204, None)


@router.post("/parts/{id}/restore", response=PartDetail, exclude_none=True)
def restore_part(request: PersonRequest, id: UUID) -> PartDetail:
    """Back in the library."""
    return _detail(library.restore(request.user, id))
