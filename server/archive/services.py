"""One zip of all that a person has: builds with their revisions, settings records, files, bench tests and assembly logs, and
parts of their own.

``manifest.json`` says the format; each build has a folder. All of it is JSON in the formats of docs/build-file.md, and files as
they are.
"""

import json
import re
import zipfile
import zlib
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from tempfile import TemporaryFile
from typing import IO, Annotated, Any, Protocol, Self
from uuid import UUID

from django.contrib.auth.models import User
from django.db import DatabaseError, transaction
from django.utils.text import slugify
from pydantic import AfterValidator, AliasChoices, BaseModel, ConfigDict, Field, ValidationError, model_validator

from boardmath.buildfile import BuildFileError, Fault, check, read_build, write_board
from boardmath.buildfile.bench_test import BenchTest as Entered
from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.figures import PlausibleDate, PlausibleTime
from boardmath.buildfile.settings import Settings
from boardmath.calibration.ride_file import LARGEST_FILE as LARGEST_RIDES
from boardmath.calibration.ride_file import write_rides
from planner.bench_test import BenchTestReport
from planner.rides.files import write_track
from planner.shared.log import ENTRY, MOST_ENTRIES, Entry
from server import pictures
from server.assembly import services as works
from server.assembly.models import LogEntry, Photo
from server.bench_test.models import BenchTest
from server.bench_test.services import MOST_TESTS
from server.boards.models import Build
from server.boards.services import create
from server.controller_settings import files
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import MOST_RECORDS
from server.controller_settings.services import as_json as record_as_json
from server.errors import ApiError
from server.library import services as library
from server.library.models import Part
from server.reader_locale import not_yet
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.rides import services as rides
from server.rides import tracks
from server.rides.models import Ride, Track
from server.text_validation import json_of
from server.users import Person

FORMAT = "sand-pocket/archive"
LARGEST = 300_000_000
"""Bytes of an archive, and of all that is in it unpacked."""
LARGEST_DOCUMENT = 2_000_000
PIECE = 1 << 18
MOST_MEMBERS = 20_000
_UUID = r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}"
_BUILD = re.compile(r"builds/(\d{1,5})-[a-z0-9-]{0,120}/build\.json")


class Readable(Protocol):
    """What gives bytes, a request among others."""

    def read(self, size: int, /) -> bytes: ...


@dataclass
class Brought:
    """How much of each came in, and what did not with its reason."""

    builds: int = 0
    revisions: int = 0
    settings_records: int = 0
    tests: int = 0
    files: int = 0
    entries: int = 0
    rides: int = 0
    parts: int = 0
    left_out: list[tuple[str, str]] = field(default_factory=list)


def pack(owner: Person, now: datetime) -> IO[bytes]:
    """Everything that the person has, what lies in the bin left out; a file that is gone when it is closed."""
    target: IO[bytes] = TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        said = {"format": FORMAT, "version": 1, "made_at": now.isoformat(), "workshop": owner.get_username()}
        _put(archive, "manifest.json", said)
        _put(archive, "parts.json", library.as_json(list(Part.objects.of(owner))))
        for number, build in enumerate(Build.objects.of(owner).order_by("created_at", "id"), 1):
            _pack_build(archive, f"builds/{number:03d}-{slugify(str(build))[:60]}", build)
    target.seek(0)
    return target


def _put(archive: zipfile.ZipFile, name: str, document: Any) -> None:
    archive.writestr(name, json.dumps(document, ensure_ascii=False, indent=1))


def _pack_build(archive: zipfile.ZipFile, folder: str, build: Build) -> None:
    _put(archive, f"{folder}/build.json", build.document | build.history)
    for i, kept in enumerate(Revision.objects.filter(build=build), 1):
        said = {"name": kept.name, "note": kept.note, "at": kept.created_at.isoformat(), "document": kept.document}
        _put(archive, f"{folder}/revisions/{i:03d}.json", said)
    for record in SettingsRecord.objects.filter(build=build).prefetch_related("attachments"):
        said = {**record_as_json(str(build), record), "read_back": record.read_back}
        _put(archive, f"{folder}/settings-records/{record.number:03d}.json", said)
        for i, file in enumerate(record.attachments.all(), 1):
            archive.writestr(f"{folder}/settings-records/{record.number:03d}/{i}-{file.name}", bytes(file.data))
    for i, test in enumerate(BenchTest.objects.filter(build=build), 1):
        said = {
            "number": test.number,
            "on": test.on.isoformat() if test.on else None,
            "by": test.by,
            "entered": test.entered,
            "report": test.report,
            "record_number": test.record_number,
        }
        _put(archive, f"{folder}/tests/{i:03d}.json", said)
    _pack_work(archive, folder, build)
    _pack_rides(archive, folder, build)


def _pack_work(archive: zipfile.ZipFile, folder: str, build: Build) -> None:
    """The log of the work, and the pictures that its entries speak of."""
    said = list(LogEntry.objects.filter(build=build).values_list("said", flat=True))
    if said:
        _put(archive, f"{folder}/log.json", said)
    for kept in Photo.objects.filter(build=build):
        ending = "png" if kept.kind == "image/png" else "jpg"
        archive.writestr(f"{folder}/photos/{kept.entry}.{ending}", bytes(kept.data))


def _pack_rides(archive: zipfile.ZipFile, folder: str, build: Build) -> None:
    """The file of rides, those that cannot be read as they are stored, and the tracks in our own form, each named after its ride
    where it has one.
    """
    try:
        kept = rides.kept(build)
    except BuildFileError:  # of the board itself
        kept = []
    if kept:
        _put(archive, f"{folder}/rides.json", write_rides([k.ride for k in kept], str(build)))
    if unreadable := rides.unreadable(build, kept):
        _put(archive, f"{folder}/unreadable-rides.json", [row.said for row in unreadable])
    for track in Track.objects.filter(build=build):
        place = f"{folder}/tracks/{track.ride or track.pk}.json"
        archive.writestr(place, json.dumps(write_track(tracks.file_of(track)), separators=(",", ":")))


def _has_come(day: date) -> date:
    if not_yet(day.date() if isinstance(day, datetime) else day):
        raise ValueError(f"{day:%Y-%m-%d} has not come yet")
    return day


PastDay = Annotated[PlausibleDate, AfterValidator(_has_come)]
PastMoment = Annotated[PlausibleTime, AfterValidator(_has_come)]
Numbered = Annotated[int, Field(ge=1, le=MOST_MEMBERS)]


class _Told(BaseModel):
    model_config = ConfigDict(extra="ignore")


class ToldRevision(_Told):
    name: str
    note: str = ""
    at: PastMoment
    document: dict[str, Any]


class ToldRecord(_Told):
    number: Numbered
    on: PastDay
    by: str = ""
    reason: str
    settings: dict[str, Any]
    end_points: dict[str, Any] = {}
    apart: list[dict[str, Any]] = []
    read_back: bool = False


class ToldTest(_Told):
    number: Numbered | None = None
    on: PastDay | None = None
    by: str = ""
    entered: dict[str, Any]
    report: dict[str, Any] | None = None
    record_number: Numbered | None = Field(default=None, validation_alias=AliasChoices("record_number", "sheet_number"))

    @model_validator(mode="after")
    def _is_kept_or_under_way(self) -> Self:
        if len({self.number is None, self.on is None, self.report is None}) > 1:
            raise ValueError("a test that was kept has a number, a day and a report; one under way has none of them")
        return self


def unpack(owner: User, given: Readable) -> Brought:
    """Puts an archive beside what is there: builds are new ones, parts of a name that is taken stay out.

    A build that cannot be read is left out with its reason, and all that hangs on it.

    Raises:
        ApiError: it is no archive of ours, or larger than may be.
    """
    try:
        # Onto the disk piece by piece, and before any transaction: a photo album is larger than a thread should hold.
        with TemporaryFile() as kept, zipfile.ZipFile(_whole(given, kept)) as archive:
            _check(archive)
            return _unpack(owner, archive)
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError):
        raise ApiError("That is not an archive.", archive="a zip that was exported here") from None


class Member:
    """A member of a zip, read like a request.

    Raises:
        BuildFileError: it is missing, damaged, or packed otherwise than in our archives.
    """

    def __init__(self, archive: zipfile.ZipFile, name: str) -> None:
        self._archive, self._name = archive, name
        self._file: IO[bytes] | None = None

    def read(self, size: int, /) -> bytes:
        try:
            if self._file is None:
                # Other ways to pack unpack as much at once as whoever made the archive likes.
                if self._archive.getinfo(self._name).compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
                    raise NotImplementedError
                self._file = self._archive.open(self._name)
            return self._file.read(size)
        except (KeyError, zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError):
            raise BuildFileError([Fault("", "it is damaged, or packed in a way that cannot be read here")]) from None


def _reason_of(error: Exception) -> str:
    """Why something was left out, in a line."""
    if isinstance(error, ValidationError):
        first = error.errors(include_url=False)[0]
        where = ".".join(str(step) for step in first["loc"])
        return f"{where}: {first['msg'].removeprefix('Value error, ')}"[:200]
    return str(error).splitlines()[0][:200]


def _whole(given: Readable, kept: IO[bytes]) -> IO[bytes]:
    size = 0
    while piece := given.read(PIECE):
        size += len(piece)
        if size > LARGEST:
            raise ApiError("That archive is too large.", archive=f"at most {LARGEST // 1_000_000} MB")
        kept.write(piece)
    kept.seek(0)
    return kept


def _check(archive: zipfile.ZipFile) -> None:
    members = archive.infolist()
    if len(members) > MOST_MEMBERS or sum(m.file_size for m in members) > LARGEST:
        raise ApiError("That archive is too large.", archive=f"at most {LARGEST // 1_000_000} MB unpacked")
    manifest = _document(archive, "manifest.json")
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise ApiError("That is not an archive.", archive=f'its manifest.json says "format": "{FORMAT}"')
    if manifest.get("version") != 1:
        raise ApiError("That archive is of a newer release.", archive="version 1")


def _document(archive: zipfile.ZipFile, name: str) -> Any:
    """A JSON document of the archive; None where it is missing, too large, holds what no text may, or is none."""
    try:
        text = Member(archive, name).read(LARGEST_DOCUMENT + 1)
        return json_of(text) if len(text) <= LARGEST_DOCUMENT else None
    except (BuildFileError, ApiError):
        return None


@transaction.atomic
def _unpack(owner: User, archive: zipfile.ZipFile) -> Brought:
    found = Brought()
    names = sorted(archive.namelist())
    for name in names:
        if not _BUILD.fullmatch(name):
            continue
        folder = name.rpartition("/")[0]
        try:
            whole = read_build(Member(archive, name).read(LARGEST_DOCUMENT + 1))
        except BuildFileError as error:
            found.left_out.append((folder, str(error.faults[0])))
            continue
        try:
            build = create(owner, whole)
        except ApiError as refused:
            found.left_out.append((folder, refused.message))
            continue
        found.builds += 1
        for below in (n for n in names if n.startswith(f"{folder}/")):
            try:
                with transaction.atomic():
                    _hang_on(owner, build, archive, folder, below, found)
            except (ValidationError, BuildFileError, ApiError) as error:
                found.left_out.append((below, _reason_of(error)))
            except DatabaseError:
                found.left_out.append((below, "its number is taken, or a figure in it is invalid"))
    taken = _document(archive, "parts.json")
    rows = taken.get("parts") if isinstance(taken, dict) else None
    for row in rows if isinstance(rows, list) else []:
        found.parts += _part(owner, row, found)
    return found


def _hang_on(owner: User, build: Build, archive: zipfile.ZipFile, folder: str, name: str, found: Brought) -> None:
    """What hangs on a build: a revision, a settings record with its files, a bench test."""
    place = name.removeprefix(f"{folder}/")
    if re.fullmatch(r"revisions/\d+\.json", place):
        told = ToldRevision.model_validate(_document(archive, name))
        document = write_board(read_build(told.document))
        revisions.check_room(build, 1)
        kept = Revision.objects.create(build=build, name=told.name[:60], note=told.note[:600], document=document)
        Revision.objects.filter(pk=kept.pk).update(
            created_at=told.at if told.at.tzinfo else told.at.replace(tzinfo=UTC)
        )
        found.revisions += 1
    elif re.fullmatch(r"(settings-records|sheets)/\d+\.json", place):
        _record(owner, build, archive, name, found)
    elif place == "log.json":
        _log(build, archive, name, found)
    elif place == "rides.json":
        taken = rides.bring_in(owner, build.pk, Member(archive, name).read(LARGEST_RIDES + 1))
        found.rides += Ride.objects.filter(build=build, deleted_at=None).count()
        found.left_out += [(f"ride {id}", str(faults[0])) for id, faults in taken.refused]
    elif re.fullmatch(rf"tracks/{_UUID}\.json", place):
        _track(owner, build, archive, name, found)
    elif re.fullmatch(rf"photos/{_UUID}\.(jpg|png)", place):
        _photo(owner, build, archive, name, found)
    elif re.fullmatch(r"tests/\d+\.json", place):
        said = ToldTest.model_validate(_document(archive, name))
        check(Entered, said.entered)
        _check_room(build.bench_tests.count(), MOST_TESTS, "bench tests")
        report = (
            BenchTestReport.model_validate(said.report).model_dump(mode="json", exclude_none=True)
            if said.report
            else None
        )
        fields = {**said.model_dump(), "report": report, "by": said.by[:60], "build_revision": build.revision}
        BenchTest.objects.create(build=build, **fields)
        found.tests += 1


def _check_room(there: int, most: int, of_these: str) -> None:
    if there >= most:
        raise ApiError(f"A board keeps {most} {of_these}.")


def _log(build: Build, archive: zipfile.ZipFile, name: str, found: Brought) -> None:
    told = _document(archive, name)
    entries: dict[str, Entry] = {}
    for row, one in enumerate(told[:MOST_ENTRIES] if isinstance(told, list) else [], 1):
        try:
            entry = ENTRY.validate_python(one)
            _has_come(entry.at)
            entries.setdefault(entry.id, entry)
        except ValueError as error:
            found.left_out.append((f"{name}, entry {row}", _reason_of(error)))
    works.put(build, list(entries.values()))
    found.entries += len(entries)


def _track(owner: User, build: Build, archive: zipfile.ZipFile, name: str, found: Brought) -> None:
    of = UUID(name.rpartition("/")[2].partition(".")[0])
    kept = tracks.bring(owner, build.pk, "track.json", Member(archive, name).read(tracks.LARGEST + 1), None).track
    if kept is not None:
        # The rides come in after the tracks or before them: a track belongs to the ride that has its name, if there is one.
        Track.objects.filter(pk=kept.pk).update(ride=of)
        found.files += 1


def _photo(owner: User, build: Build, archive: zipfile.ZipFile, name: str, found: Brought) -> None:
    data = pictures.whole(Member(archive, name))
    works.keep_photo(owner, build.pk, UUID(name.rpartition("/")[2].partition(".")[0]), data)
    found.files += 1


def _record(owner: User, build: Build, archive: zipfile.ZipFile, name: str, found: Brought) -> None:
    told = ToldRecord.model_validate(_document(archive, name))
    for settings in (told.settings, *told.apart):
        check(Settings, settings)
    check(EndPoints, told.end_points)
    _check_room(build.settings_records.count(), MOST_RECORDS, "settings records")
    fields = {**told.model_dump(), "by": told.by[:60], "reason": told.reason[:600]}
    record = SettingsRecord.objects.create(build=build, **fields)
    found.settings_records += 1
    folder = f"{name.removesuffix('.json')}/"
    for member in sorted(n for n in archive.namelist() if n.startswith(folder) and not n.endswith("/")):
        try:
            data = files.whole(owner, build.pk, record.number, Member(archive, member))
            name = member.removeprefix(folder).partition("-")[2] or "file"
            files.attach(owner, build.pk, record.number, name, data)
            found.files += 1
        except (ApiError, BuildFileError) as refused:
            found.left_out.append((member, _reason_of(refused)))


def _part(owner: User, row: Any, found: Brought) -> int:
    record = dict(row) if isinstance(row, dict) else {}
    kind, name = str(record.pop("part", "")), str(record.get("name", ""))
    try:
        with transaction.atomic():
            library.add(owner, kind, record)
    except (BuildFileError, ApiError) as error:
        found.left_out.append((f"part {name}"[:120], _reason_of(error)))
        return 0
    return 1
