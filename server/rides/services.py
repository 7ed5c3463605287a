"""Rides taken in, each once; the board as it was on their day; rides as a file."""

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from django.apps import apps
from django.db import transaction
from django.db.models import Exists, OuterRef
from django.utils import timezone

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFileError, Fault, check
from boardmath.buildfile.figures import FIRST_YEAR, LAST_YEAR
from boardmath.calibration.learning import Ridden
from boardmath.calibration.ride import MOST_RIDES, as_document
from boardmath.calibration.ride import Ride as RideFile
from boardmath.calibration.ride_file import cannot_be, read_ride, read_rides
from planner.maintenance.schedule import RodeOn
from server.boards import services as builds
from server.boards.models import Build
from server.errors import ApiError
from server.reader_locale import not_yet
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.rides.models import Ride, Track
from server.users import Key, Person

MOST_AT_ONCE = 1000


@dataclass
class Taken:
    """What became of rides that were sent: those that cannot be, with their reasons, and those changed elsewhere since."""

    refused: list[tuple[str, list[Fault]]] = field(default_factory=list)
    changed: list[UUID] = field(default_factory=list)


@dataclass(frozen=True)
class Kept:
    """A ride as it is kept, with the board as it was."""

    id: UUID
    ride: RideFile
    board: BuildDocument
    revision: str | None
    """Name of the point at which the board was so; None where it is as now."""
    record: int | None
    """Number of what was set in the controller at the time."""
    track: UUID | None


@transaction.atomic
def add(
    owner: Person,
    build_id: Key,
    sent: Sequence[Mapping[str, Any]],
    before: Sequence[Mapping[str, Any]] | None = None,
) -> Taken:
    """Takes rides in, under the ids that their devices gave them; one that cannot be is named.

    Args:
        before: of each the ride that it replaces, as its sender knew it; one that is another by now is left as it is, and named.
            Without it whatever is there is written over.

    Raises:
        ApiError: more than may be sent at once, or kept.
    """
    build = builds.get(owner, build_id)
    if len(sent) > MOST_AT_ONCE:
        raise ApiError(f"At most {MOST_AT_ONCE} rides at once.", rides=f"you sent {len(sent)}")
    Build.objects.select_for_update().get(pk=build.pk)
    file, taken = builds.document_of(build), Taken()
    rows: list[Ride] = []
    of_build, read = Ride.objects.filter(build=build), [_read(file, raw) for raw in sent]
    there_already = of_build.filter(ride__in=[id for id, _, _ in read if id], deleted_at=None)
    known = {row.ride: row for row in there_already} if before is not None else {}
    for raw, was, (id, faults, ride) in zip(sent, before or [{}] * len(sent), read, strict=True):
        if ride is None or id is None:
            taken.refused.append((str(raw.get("id", ""))[:60], faults))
        elif id in known and _changed_since(known[id], ride, was):
            taken.changed.append(id)
        else:
            rows.append(Ride(build=build, ride=id, day=date.fromisoformat(ride.day), said=as_document(ride)))
    there = of_build.count()
    new = {r.ride for r in rows} - set(of_build.values_list("ride", flat=True))
    if there + len(new) > MOST_RIDES:
        raise ApiError(f"A board keeps {MOST_RIDES:,} rides.", rides="delete some first")
    now = timezone.now()
    for row in rows:
        row.updated_at = now
    latest = {row.ride: row for row in rows}
    Ride.objects.bulk_create(
        latest.values(),
        update_conflicts=True,
        unique_fields=["build", "ride"],
        update_fields=["day", "said", "updated_at", "deleted_at"],
    )
    return taken


def _read(build: BuildDocument, raw: Mapping[str, Any]) -> tuple[UUID | None, list[Fault], RideFile | None]:
    try:
        id = UUID(str(raw.get("id") or uuid4()))
    except ValueError:
        return None, [Fault("id", "an identifier, such as a UUID")], None
    try:
        ride = read_ride({**raw, "id": str(id)})
    except BuildFileError as error:
        return None, error.faults, None
    faults = [] if ride.revision else cannot_be(build, ride)
    if not_yet(date.fromisoformat(ride.day)):
        faults.append(Fault("day", f"{ride.day} has not come yet"))
    return (id, [], ride) if not faults else (None, faults, None)


def _changed_since(row: Ride, new: RideFile, was: Mapping[str, Any]) -> bool:
    """Whether a stored ride is neither what its sender knew nor what they sent; one that cannot be read is written over."""
    stored = _file_of(row)
    return stored is not None and as_document(stored) not in (as_document(new), _as_known(was, row.ride))


def _as_known(ride: Mapping[str, Any], id: UUID) -> dict[str, Any] | None:
    """A ride as its sender knew it; None where that says nothing."""
    try:
        return as_document(read_ride({**ride, "id": str(id)}))
    except BuildFileError:
        return None


@transaction.atomic
def take_away(owner: Person, build_id: Key, ride: UUID) -> None:
    """A ride off the list; sent again it is back. Its track stays, without a ride."""
    build = builds.get(owner, build_id)
    done = Ride.objects.filter(build=build, ride=ride).update(deleted_at=timezone.now(), updated_at=timezone.now())
    if not done:
        rode = build.log.filter(kind="rode", entry=ride).first()
        if rode is not None:
            said = as_document(_from_the_log(rode.said))
            Ride.objects.create(build=build, ride=ride, day=said["day"], said=said, deleted_at=timezone.now())
    Track.objects.filter(build=build, ride=ride).update(ride=None)


def _from_the_log(said: Mapping[str, Any]) -> RideFile:
    """What was written down at the first ride, before rides had their room."""
    way = {"distance_km": said["km"]} if said.get("km") else {}
    pack = {key: said[key] for key in ("start_v", "end_v") if said.get(key) is not None}
    note = said.get("note") or None
    return RideFile.model_validate(
        {"id": str(said["id"]), "day": said["day"], "way": way, "pack": pack, "note": note, "title": "First ride"}
    )


def _of_the_log(boards: Sequence[Build]) -> dict[UUID, dict[UUID, RideFile]]:
    """First rides that are only in the log of the work, by board; none that was removed, or is among the rides by now."""
    entries = apps.get_model("assembly", "LogEntry")._default_manager.filter(build__in=boards)
    logged = list(entries.filter(kind__in=("rode", "taken_back")).values_list("build", "kind", "said"))
    removed = {(build, UUID(said["entry"])) for build, kind, said in logged if kind == "taken_back"}
    rode = {(build, UUID(said["id"])): said for build, kind, said in logged if kind == "rode"}
    known = Ride.objects.filter(build__in=boards, ride__in=[id for _, id in rode]).values_list("build", "ride")
    found: dict[UUID, dict[UUID, RideFile]] = {b.pk: {} for b in boards}
    for build, id in rode.keys() - removed - set(known):
        with suppress(ValueError):  # nothing was measured on it
            found[build][id] = _from_the_log(rode[build, id])
    return found


def rode_on(boards: Sequence[Build]) -> dict[UUID, list[RodeOn]]:
    """The rides of many boards as maintenance counts them, in three queries: the day, how far, whether it was wet."""
    found: dict[UUID, list[RodeOn]] = {b.pk: [] for b in boards}
    rows = Ride.objects.filter(build__in=boards, deleted_at=None, day__year__range=(FIRST_YEAR, LAST_YEAR))
    for build, day, km, wet in rows.values_list("build", "day", "said__way__distance_km", "said__conditions__wet"):
        if km:
            found[build].append(RodeOn(day, float(km), bool(wet)))
    for build, rides in _of_the_log(boards).items():
        days = [(date.fromisoformat(r.day), r.way.distance_km) for r in rides.values()]
        found[build] += [RodeOn(day, km, False) for day, km in days if km]
    return found


def kept(build: Build, file: BuildDocument | None = None) -> list[Kept]:
    """The rides of a board in the order of their days, each with the board as it was.

    Args:
        file: what stands of the build now, which need not be saved yet.
    """
    file = file or builds.document_of(build)
    rows = Ride.objects.filter(build=build, deleted_at=None)
    read = {row.ride: ride for row in rows if (ride := _file_of(row)) is not None}
    rides = read | _of_the_log([build])[build.pk]
    # Of several of one ride the first has what all of them know.
    of_rides = Track.objects.filter(build=build).exclude(ride=None).order_by("-created_at")
    tracks = dict(of_rides.values_list("ride", "id"))
    boards = Boards(build, file)
    found = []
    for id, ride in rides.items():
        board, revision = boards.on(ride)
        found.append(Kept(id, ride, board, revision, boards.record(ride), tracks.get(id)))
    return sorted(found, key=lambda k: (k.ride.day, k.ride.at or "", str(k.id)))


def unreadable(build: Build, read: Sequence[Kept]) -> list[Ride]:
    """Rides of a board that are not among those that could be read: an earlier release took what no longer validates."""
    rows = Ride.objects.filter(build=build, deleted_at=None)
    others = set(rows.values_list("ride", flat=True)) - {k.id for k in read}
    return list(rows.filter(ride__in=others)) if others else []


def faults_of(row: Ride) -> list[Fault]:
    """Why a stored ride cannot be read; empty where it can."""
    try:
        check(RideFile, row.said)
    except BuildFileError as error:
        return error.faults
    return []


def _file_of(row: Ride) -> RideFile | None:
    """A ride as it was entered; None where it no longer validates."""
    try:
        return check(RideFile, row.said)
    except BuildFileError:
        return None


class Boards:
    """What the board was on a day: a point that was kept marks the beginning of what it was from then on, the last one of what it
    is now; before the first it was as that one.
    """

    def __init__(self, build: Build, now: BuildDocument):
        self.now = now
        points = Revision.objects.filter(build=build).order_by("created_at", "id")
        self.points = [(timezone.localdate(p.created_at).isoformat(), p) for p in points]
        self.files: dict[UUID, BuildDocument] = {}
        records = build.settings_records.order_by("number").values_list("on", "number")
        self.settings_records = [(on.isoformat(), number) for on, number in records]

    def on(self, ride: RideFile) -> tuple[BuildDocument, str | None]:
        """The board of a ride, and the name of the point at which it was so."""
        if ride.revision is not None:
            point = next((p for _, p in reversed(self.points) if p.name == ride.revision), None)
        else:
            point = self._at(ride.day)
        if point is None:
            return self.now, None
        if point.pk not in self.files:
            self.files[point.pk] = revisions.document_of(point)
        return self.files[point.pk], point.name

    def _at(self, day: str) -> Revision | None:
        if not self.points or day >= self.points[-1][0]:
            return None
        return next((p for since, p in reversed(self.points) if since <= day), self.points[0][1])

    def record(self, ride: RideFile) -> int | None:
        return next((number for on, number in reversed(self.settings_records) if on <= ride.day), None)


def ridden(rides: Sequence[Kept]) -> list[Ridden]:
    """Rides as the core learns from them."""
    return [Ridden(k.ride, k.board) for k in rides]


def bring_in(owner: Person, build_id: Key, data: bytes) -> Taken:
    """Rides from a file; one whose day and figures are there already is passed over.

    Raises:
        BuildFileError: it is no file of rides.
    """
    build = builds.get(owner, build_id)
    there = {_alike(k.ride) for k in kept(build)}
    new = [r for r in read_rides(data) if _alike(r) not in there]
    points = set(Revision.objects.filter(build=build).values_list("name", flat=True))
    sent = []
    for ride in new:
        known = ride.id
        try:
            known = str(UUID(known or ""))
        except ValueError:
            known = str(uuid4())
        # The named point of another board's life means nothing here.
        sent.append({**as_document(ride), "id": known, "revision": ride.revision if ride.revision in points else None})
    return add(owner, build_id, sent)


def _alike(ride: RideFile) -> str:
    said = as_document(ride)
    return repr(sorted((k, v) for k, v in said.items() if k not in ("id", "revision", "left_out")))


def of_the_person(owner: Person) -> "list[Build]":
    """Boards of a person that have rides."""
    own = OuterRef("pk")
    # The room of the log stands above this one, and is known here by its table alone.
    rode = apps.get_model("assembly", "LogEntry")._default_manager.filter(build=own, kind="rode")
    ridden = Exists(Ride.objects.filter(build=own, deleted_at=None)) | Exists(rode)
    # A document is much to fetch for everybody who only asks whether there is something to learn from.
    return list(Build.objects.of(owner).filter(ridden).defer("document"))
