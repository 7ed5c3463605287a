"""The log of the work: entries taken in, each once; how the steps stand by it; photos; the second version."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any, Literal
from uuid import UUID

from django.db import transaction
from django.db.models import Sum
from django.http import Http404
from django.utils import timezone
from pydantic import ValidationError

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFileError, Fault
from planner.assembly.plan import assembly
from planner.assembly.report import assembly_report
from planner.first_ride.plan import IDS, first_ride
from planner.first_ride.report import first_ride_report
from planner.shared.log import ENTRY, MOST_ENTRIES, Entry, Log, Moved, Photographed, Wished, read_log
from planner.shared.order import why_not
from planner.shared.report import Report
from planner.shared.spans import cannot_be
from planner.shared.wishes import laid_in, second_version
from server import pictures
from server.assembly.models import LogEntry, Photo
from server.bench_test.models import BenchTest
from server.boards import services as builds
from server.boards.models import Build
from server.calibration.services import board_as_it_is
from server.controller_settings.models import SettingsRecord
from server.errors import ApiError
from server.users import Key, Person

WorkPage = Literal["assembly", "first-ride"]
MOST_AT_ONCE = 500
MOST_PHOTOS = 400
FAST_CLOCK = timedelta(minutes=5)
"""By so much a device's clock may run ahead of ours."""
OLDEST = timedelta(days=400)
"""No entry waited longer for the network: a clock that says so is wrong."""
TROUBLES = 3
"""Of other boards, at each step."""


def kept_by(owner: Person) -> int:
    """Bytes of a person's photos."""
    return Photo.objects.filter(build__owner=owner).aggregate(sum=Sum("size"))["sum"] or 0


pictures.KEPT_BY.append(kept_by)


@dataclass
class Taken:
    """What became of entries that were sent: those that cannot be with their reasons, those whose clock was wrong."""

    refused: list[tuple[str, list[Fault]]] = field(default_factory=list)
    clock: list[str] = field(default_factory=list)


@transaction.atomic
def add(owner: Person, build_id: Key, sent: Sequence[Any]) -> Taken:
    """Takes entries into the log. One that was taken before is passed over; one that cannot be holds up no other.

    Raises:
        ApiError: more than may be sent at once, or the log is full.
    """
    build = builds.get(owner, build_id)
    if len(sent) > MOST_AT_ONCE:
        raise ApiError(f"At most {MOST_AT_ONCE} entries at once.", entries=f"you sent {len(sent)}")
    Build.objects.select_for_update().get(pk=build.pk)
    known = set(LogEntry.objects.filter(build=build).values_list("entry", flat=True))
    file, taken, new = builds.document_of(build), Taken(), list[Entry]()
    log = log_of(build)
    for raw in sent:
        entry = _read(raw, taken)
        if entry is None or UUID(entry.id) in known:
            continue
        if faults := _cannot_be(file, log, entry):
            taken.refused.append((entry.id, faults))
            continue
        if (at := _believed(entry.at)) != entry.at:
            taken.clock.append(entry.id)
            entry = entry.model_copy(update={"at": at})
        new.append(entry)
        known.add(UUID(entry.id))
        log = read_log([*log.entries, entry]) if entry.kind == "moved" else log
    if new and len(known) > MOST_ENTRIES:
        raise ApiError(f"A log holds {MOST_ENTRIES} entries. Duplicate the build, and continue with the copy.")
    put(build, new)
    return taken


def put(build: Build, entries: Sequence[Entry]) -> None:
    """Entries that were read into the log as they are; a photo that is taken back goes with its picture."""
    LogEntry.objects.bulk_create(
        LogEntry(
            build=build,
            entry=entry.id,
            kind=entry.kind,
            step=getattr(entry, "step", None) or "",
            at=entry.at,
            said=entry.model_dump(mode="json", exclude_none=True),
        )
        for entry in entries
    )
    if back := [entry.entry for entry in entries if entry.kind == "taken_back"]:
        Photo.objects.filter(build=build, entry__in=back).delete()


def _read(raw: Any, taken: Taken) -> Entry | None:
    try:
        return ENTRY.validate_python(raw)
    except ValidationError as error:
        id = str(raw.get("id", ""))[:60] if isinstance(raw, dict) else ""
        faults = [Fault(".".join(str(s) for s in e["loc"][1:]) or "kind", _reason(e)) for e in error.errors()[:6]]
        taken.refused.append((id, faults))
        return None


def _reason(error: Mapping[str, Any]) -> str:
    told = str(error["msg"])
    if error["type"] == "union_tag_invalid":
        return "there is no such kind of entry"
    return told[:1].lower() + told[1:]


def _believed(at: datetime) -> datetime:
    """When it was, as far as a device can be believed."""
    now = timezone.now()
    return now if at > now + FAST_CLOCK or at < now - OLDEST else at


def _cannot_be(file: BuildDocument, log: Log, entry: Entry) -> list[Fault]:
    """Why an entry makes no sense on this board; a tick for a step that is no more stays in the log and harms nobody."""
    if isinstance(entry, Wished):
        try:
            laid_in(file, entry.changes)
        except BuildFileError as error:
            return error.faults
    if isinstance(entry, Moved):
        reason = why_not(assembly(file, log.moves), entry.step, entry.before)
        return [Fault("before", reason)] if reason else []
    if entry.kind == "measured":
        return cannot_be(first_ride(file) if entry.step in IDS else assembly(file), entry.step, entry.values)
    return []


def log_of(build: Build) -> Log:
    """The log of a board, read to its end."""
    return read_log(read_entries(LogEntry.objects.filter(build=build).values_list("said", flat=True)))


def read_entries(said: Iterable[Any]) -> list[Entry]:
    """Entries as they are kept; one of a newer release that this one does not know is passed over."""
    found = []
    for one in said:
        try:
            found.append(ENTRY.validate_python(one))
        except ValidationError:
            continue
    return found


def logs_of(ids: Sequence[UUID]) -> dict[UUID, Log]:
    """The logs of many boards, in one query."""
    found: dict[UUID, list[Any]] = defaultdict(list)
    for build, said in LogEntry.objects.filter(build__in=ids).values_list("build_id", "said"):
        found[build].append(said)
    return {id: read_log(read_entries(said)) for id, said in found.items()}


def elsewhere(settings_records: bool, last_test: BenchTest | None) -> set[str]:
    """Steps that the pages of the controller settings and the bench test know to be done."""
    found = {"set-up"} if settings_records else set()
    if last_test is not None and (last_test.report or {}).get("standing") in ("passes", "unsure"):
        found.add("bench-test")
    return found


def report_of(
    file: BuildDocument, log: Log, today: date, done: set[str], page: WorkPage = "assembly", drawn: bool = True
) -> Report:
    """How the steps of a page stand."""
    if page == "first-ride":
        return first_ride_report(file, log, today, tested="bench-test" in done, others={*log.steps, *log.values})
    return assembly_report(file, log, today, done, drawn)


def report(owner: Person, build_id: Key, page: WorkPage) -> tuple[Build, Log, Report]:
    """The same of a board as it is saved."""
    build = builds.get(owner, build_id)
    log = log_of(build)
    tests = BenchTest.objects.filter(build=build).exclude(number=None)
    done = elsewhere(SettingsRecord.objects.filter(build=build).exists(), tests.last())
    return build, log, report_of(board_as_it_is(owner, build), log, timezone.localdate(), done, page)


@dataclass(frozen=True)
class Trouble:
    """What went wrong at a step on another board of the person."""

    step: str
    board: str
    text: str


def troubles(owner: Person, build: Build) -> list[Trouble]:
    """What other boards have to tell this one, the latest first, a few at each step."""
    others = Build.objects.of(owner).exclude(pk=build.pk)
    rows = LogEntry.objects.filter(build__in=others, kind__in=("noted", "done", "opened", "wished")).exclude(step="")
    names = {b.pk: str(b) for b in others}
    found: dict[str, list[Trouble]] = defaultdict(list)
    for row in rows.order_by("-at")[:2000]:
        text = _trouble(row)
        if text and len(found[row.step]) < TROUBLES:
            found[row.step].append(Trouble(row.step, names[row.build_id], text))
    return [one for of_step in found.values() for one in of_step]


def _trouble(row: LogEntry) -> str | None:
    said = row.said
    if row.kind == "noted":
        return said["text"] if said.get("trouble") else None
    text = said.get({"done": "otherwise"}.get(row.kind, "why"))
    return str(text) if text else None


def photos(build: Build, log: Log) -> list[tuple[Photographed, Photo | None]]:
    """The photos that the log speaks of, each with its picture where that has arrived."""
    there = {p.entry: p for p in Photo.objects.filter(build=build).defer("data", "small")}
    return [(e, there.get(UUID(e.id))) for e in log.entries if isinstance(e, Photographed)]


def expected(owner: Person, build_id: Key, entry: UUID) -> Build:
    """The board whose log awaits the picture of this entry.

    Raises:
        ApiError: it was taken back, or there are too many.
    """
    build = builds.get(owner, build_id)
    sentence = LogEntry.objects.filter(build=build, kind="photographed", entry=entry).exists()
    if not sentence or LogEntry.objects.filter(build=build, kind="taken_back", said__entry=str(entry)).exists():
        raise ApiError("No entry of the log has that photo, or it was withdrawn.", status=404)
    if Photo.objects.filter(build=build).count() >= MOST_PHOTOS:
        raise ApiError(f"A board keeps {MOST_PHOTOS} photos.", file="none more")
    return build


def keep_photo(owner: Person, build_id: Key, entry: UUID, data: bytes) -> Photo:
    """Keeps the picture of an entry; one that is there stays.

    Raises:
        ApiError: it is no picture, or there is no room.
    """
    build = expected(owner, build_id, entry)
    there = Photo.objects.filter(build=build, entry=entry).first()
    if there is not None:
        return there
    with pictures.ONE_AT_A_TIME:
        drawn = pictures.drawn_anew(data)
        if drawn is None:
            raise ApiError("That is not a photo.", file="a photo (JPEG, PNG or WebP)")
        small = pictures.made_small(drawn[1])
    with transaction.atomic():
        Build.objects.select_for_update().get(pk=build.pk)
        pictures.room_for(owner, len(drawn[1]))
        kept, _ = Photo.objects.get_or_create(
            build=build,
            entry=entry,
            defaults={"kind": drawn[0], "size": len(drawn[1]), "data": drawn[1], "small": small},
        )
    return kept


def photo(owner: Person, id: UUID) -> Photo:
    """One of the person's photos."""
    found = Photo.objects.filter(pk=id, build__owner=owner, build__deleted_at=None).first()
    if found is None:
        raise Http404
    return found


def second(owner: Person, build_id: Key, wishes: Sequence[str]) -> Build:
    """A second version among the boards, with these wishes laid in.

    Raises:
        ApiError: there is nothing to lay in.
        BuildFileError: a wish cannot be on the board as it is now.
    """
    build = builds.get(owner, build_id)
    chosen = [w for w in log_of(build).wishes if w.id in wishes and w.changes]
    if not chosen:
        raise ApiError("None of these changes a figure.", wishes="at least one with a figure")
    return builds.create(owner, second_version(builds.document_of(build), chosen))
