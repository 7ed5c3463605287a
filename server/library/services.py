"""What changes parts of the library: one's own by hand, and many at once from a file. The shared ones nobody changes."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Literal

from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone

from boardmath.buildfile import BuildFileError, Fault, check, parse_json
from boardmath.buildfile import Part as FileOfPart
from boardmath.buildfile.figures import keys_of
from boardmath.parts.part_types import KINDS
from planner.shared.csv_table import write_table
from server.errors import ApiError, Conflict
from server.library.models import Part
from server.tabular import Row, flat, inner_model, read_table, record_of
from server.users import Key, Person

FORMAT = "sand-pocket/parts"
"""A list of parts, each with ``part`` for what it is a part of (motors and wheels have a ``kind`` of their own)."""
MOST_PARTS = 1000
LARGEST_FILE = 1024 * 1024
COLUMNS = tuple(
    key for key in keys_of(FileOfPart, "listing") if key in {column.name for column in Part._meta.get_fields()}
)
"""What a row of the database has in columns of their own."""

Outcome = Literal["new", "alters", "same", "broken"]


def part_record(part: Part) -> dict[str, Any]:
    """A library part as the build file has it."""
    record = {**part.figures, "name": part.name, "maker": part.maker or None, "mass_g": part.mass_g}
    record |= {"price": float(part.price) if part.price is not None else None, "currency": part.currency or None}
    record |= {"source": part.source or None}
    return {key: value for key, value in record.items() if value is not None}


def part_model(part: Part) -> FileOfPart:
    """A library part as the core's model of its kind."""
    return check(KINDS[part.kind].model, part_record(part))


def checked(kind: str, record: Mapping[str, Any]) -> dict[str, Any]:
    """A record that the core can read, named and without what belongs to a board.

    Raises:
        BuildFileError: with a fault for each field that is wrong.
    """
    if kind not in KINDS:
        raise BuildFileError([Fault("part", f"one of {', '.join(KINDS)}")])
    model = check(KINDS[kind].model, record)
    without = {*keys_of(FileOfPart, "buying"), *keys_of(FileOfPart, "mark")}
    if not KINDS[kind].several:  # how many of it stand on a board
        without |= set(keys_of(KINDS[kind].model, "board"))
    kept = model.model_dump(mode="json", exclude_none=True, exclude=without)
    faults = []
    if not (kept.get("name") or "").strip():
        faults.append(Fault("name", "a part of the library needs a name"))
    if Decimal(str(kept.get("price", 0))).as_tuple().exponent < -2:  # type: ignore[operator]
        faults.append(Fault("price", "at most two decimal places"))
    if faults:
        raise BuildFileError(faults)
    return {**kept, "name": kept["name"].strip()}


def _filled(part: Part, record: Mapping[str, Any]) -> Part:
    part.name, part.maker = record["name"], record.get("maker") or ""
    part.price = Decimal(str(record["price"])) if "price" in record else None
    part.currency, part.source = record.get("currency") or "", record.get("source") or ""
    part.mass_g = record.get("mass_g")
    part.figures = {key: value for key, value in record.items() if key not in COLUMNS}
    return part


def get(user: Person, id: Key) -> Part:
    """A part that the person sees; somebody else's does not exist."""
    part = Part.objects.seen_by(user).filter(pk=id).first()
    if part is None:
        raise Http404
    return part


def own(user: Person, id: Key) -> Part:
    """The person's own part; a shared one is refused with the word of what to do."""
    part = get(user, id)
    if part.owner_id is None:
        raise ApiError("A shared part cannot be changed. Duplicate it, and change your copy.", status=403)
    return part


def add(user: Person, kind: str, record: Mapping[str, Any]) -> Part:
    """A part of one's own.

    Raises:
        BuildFileError: the record is wrong.
        ApiError: there is one of that name, or no room for more.
    """
    if Part.objects.of(user).count() >= MOST_PARTS:
        raise ApiError(f"You can have {MOST_PARTS} parts of your own. Delete some first.")
    return _kept(_filled(Part(owner=user, kind=kind), checked(kind, record)))


@transaction.atomic
def alter(user: Person, id: Key, record: Mapping[str, Any], before: Mapping[str, Any]) -> Part:
    """Other figures for a part of one's own.

    Args:
        before: those that they replace.

    Raises:
        Conflict: they are others by now.
    """
    part = Part.objects.select_for_update().get(pk=own(user, id).pk)
    new = checked(part.kind, record)
    if part_record(part) not in (before, new):
        raise Conflict(part)
    return _kept(_filled(part, new))


def duplicate(user: Person, id: Key) -> Part:
    """A copy of one's own, of a shared part or of one's own, under a name that is free."""
    part = get(user, id)
    record = part_record(part)
    taken = set(Part.objects.of(user).filter(kind=part.kind).values_list("name", flat=True))
    names = (f"{part.name[:105]}, {word}" for word in ("mine", *(f"mine {n}" for n in range(2, MOST_PARTS))))
    return add(user, part.kind, {**record, "name": next(n for n in names if n not in taken)})


def delete(user: Person, id: Key) -> None:
    """Out of the library; :func:`restore` brings it back."""
    part = own(user, id)
    part.deleted_at = timezone.now()
    part.save(update_fields=["deleted_at"])


def restore(user: Person, id: Key) -> Part:
    """Back in the library, unless another of that name has come in."""
    part = Part.objects.filter(owner=user, pk=id).first()
    if part is None:
        raise Http404
    part.deleted_at = None
    return _kept(part)


def _kept(part: Part) -> Part:
    try:
        with transaction.atomic():
            part.save()
    except IntegrityError:
        raise ApiError(f"You already have a part of that kind and name: {part.name}.", name="another name") from None
    return part


# --- files ------------------------------------------------------------------------------------------------------------


def as_json(parts: Sequence[Part]) -> dict[str, Any]:
    """Parts as an open JSON document."""
    return {"format": FORMAT, "version": 1, "parts": [{"part": p.kind, **part_record(p)} for p in parts]}


def as_csv(parts: Sequence[Part]) -> str:
    """Parts as a table: what all have first, then the figures that any of them has."""
    rows = [{"part": p.kind, **flat(part_record(p))} for p in parts]
    first = ["part", *COLUMNS]
    order = {key: None for kind in KINDS for key in _keys(kind)}
    used = {key for row in rows for key in row}
    return write_table([*first, *(k for k in order if k in used and k not in first)], rows)


def _keys(kind: str) -> list[str]:
    model = KINDS[kind].model
    keys = []
    for key in model.model_fields:
        inner = inner_model(model, key)
        keys += [f"{key}.{k}" for k in inner.model_fields] if inner else [key]
    return keys


@dataclass
class Offer:
    """One part of a file: where it stands there, what it is, and what is wrong with it."""

    line: int
    kind: str
    name: str
    given: dict[str, Any]
    """As it stands in the file, to be given back when it is broken."""
    record: dict[str, Any] | None = None
    faults: list[Fault] = field(default_factory=list)
    outcome: Outcome = "broken"


def offers(user: Person, data: bytes) -> tuple[Literal["csv", "json"], list[Offer]]:
    """What a file would bring into the person's library, row by row; nothing is changed.

    Raises:
        BuildFileError: nothing of it can be used.
    """
    is_json = data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] in (b"{", b"[")
    found = _json_offers(data) if is_json else _csv_offers(data)
    known = {(p.kind, p.name): part_record(p) for p in Part.objects.of(user)}
    seen: set[tuple[str, str]] = set()
    for offer in found:
        if offer.record is None:
            continue
        key = (offer.kind, offer.record["name"])
        if key in seen:
            offer.faults.append(Fault("name", "a part of that kind and name is further up"))
            continue
        seen.add(key)
        offer.outcome = "new" if key not in known else "same" if known[key] == offer.record else "alters"
    return ("json" if is_json else "csv"), found


def _json_offers(data: bytes) -> list[Offer]:
    document = parse_json(data, LARGEST_FILE)
    if document.get("format") != FORMAT or not isinstance(document.get("parts"), list):
        raise BuildFileError([Fault("format", f'a file of parts says "format": "{FORMAT}" and has a list "parts"')])
    if document.get("version") != 1:
        raise BuildFileError([Fault("version", "this version reads version 1; nothing was changed")])
    found = []
    for i, given in enumerate(document["parts"], 1):
        if not isinstance(given, dict):
            found.append(Offer(i, "", "", {"notes": given}, faults=[Fault("", "must be an object in braces")]))
            continue
        record = {key: value for key, value in given.items() if key not in ("part", "reason")}
        found.append(_offer(i, given.get("part"), record, given))
    return found


def _csv_offers(data: bytes) -> list[Offer]:
    _, rows, decimal_comma = read_table(data, ("part", "name"))
    return [_csv_offer(row, decimal_comma) for row in rows]


def _csv_offer(row: Row, decimal_comma: bool) -> Offer:
    cells = {c: v for c, v in row.cells.items() if c not in ("part", "reason")}
    kind = row.cells.get("part", "")
    if "" in cells:
        return Offer(row.line, kind, cells.get("name", ""), dict(row.cells), faults=[Fault("", cells[""])])
    record = record_of(KINDS[kind].model, cells, decimal_comma) if kind in KINDS else cells
    return _offer(row.line, kind, record, dict(row.cells))


def _offer(line: int, kind: Any, record: dict[str, Any], given: dict[str, Any]) -> Offer:
    offer = Offer(line, str(kind or ""), str(record.get("name") or ""), given)
    try:
        offer.record = checked(offer.kind, record)
    except BuildFileError as error:
        offer.faults = error.faults
    return offer


def take(user: Person, found: Sequence[Offer]) -> int:
    """Takes the good ones in, all or none of them; how many were new or altered.

    Raises:
        ApiError: there is no room for as many.
    """
    good = [o for o in found if o.outcome in ("new", "alters") and o.record is not None]
    fresh = [_filled(Part(owner=user, kind=o.kind), o.record) for o in good if o.outcome == "new" and o.record]
    with transaction.atomic():
        if Part.objects.of(user).count() + len(fresh) > MOST_PARTS:
            raise ApiError(f"You can have {MOST_PARTS} parts of your own; nothing was imported.")
        mine = {(p.kind, p.name): p for p in Part.objects.of(user).select_for_update()}
        altered = [
            _filled(mine[o.kind, o.record["name"]], o.record) for o in good if o.outcome == "alters" and o.record
        ]
        try:
            with transaction.atomic():
                Part.objects.bulk_create(fresh)
                Part.objects.bulk_update(altered, [*COLUMNS, "figures"])
        except IntegrityError:
            raise ApiError(
                "Your library was changed meanwhile; nothing was imported. Look at the file again."
            ) from None
    return len(good)


def rest(form: Literal["csv", "json"], found: Sequence[Offer]) -> str | None:
    """The broken ones as a file of the same form, each with its reason, to be mended and brought in again."""
    broken = [o for o in found if o.faults]
    if not broken:
        return None
    rows = [{**o.given, "reason": "; ".join(str(f) for f in o.faults)} for o in broken]
    if form == "json":
        return json.dumps({"format": FORMAT, "version": 1, "parts": rows}, indent=1, ensure_ascii=False)
    columns = dict.fromkeys(key for row in rows for key in row if key not in ("", "reason"))
    return write_table([*columns, "reason"], rows)
