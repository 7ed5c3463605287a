"""All that a person has: taken out, brought in elsewhere the same, and deleted with nothing left."""

import io
import json
import zipfile

import pytest
from django.contrib.auth import get_user_model
from PIL import Image

from boardmath.buildfile import read_build
from server.assembly.models import Photo
from server.bench_test.models import BenchTest
from server.boards.models import Build
from server.controller_settings.models import Attachment, SettingsRecord
from server.demo.entry import BUILDS, demo_user
from server.demo.story import load
from server.library.models import Part
from server.revisions.models import Revision
from server.rides.models import Track
from server.rides.services import kept
from tests.core.boards import SPIT_RUNNER


def picture() -> bytes:
    file = io.BytesIO()
    Image.new("RGB", (60, 40), "tan").save(file, "JPEG")
    return file.getvalue()


def taken(workshop) -> bytes:
    answer = workshop.client.get("/api/archive")
    assert answer.status_code == 200
    assert answer["Content-Type"] == "application/zip"
    return b"".join(answer.streaming_content)


def bring(workshop, data: bytes):
    return workshop.client.post("/api/archive", data, content_type="application/zip")


def of(user) -> dict:
    """Everything that a person has, without what is only a place in the database."""
    builds = Build.objects.of(user).order_by("created_at", "id")
    return {
        "builds": [b.document for b in builds],
        "revisions": [
            list(Revision.objects.filter(build=b).values("name", "note", "document", "created_at")) for b in builds
        ],
        "settings_records": [
            list(
                SettingsRecord.objects.filter(build=b).values(
                    "number", "on", "by", "reason", "settings", "end_points", "apart"
                )
            )
            for b in builds
        ],
        "tests": [
            list(BenchTest.objects.filter(build=b).values("number", "on", "by", "entered", "report", "record_number"))
            for b in builds
        ],
        "parts": sorted(
            (p.kind, p.name, p.price, json.dumps(p.figures, sort_keys=True)) for p in Part.objects.of(user)
        ),
        "rides": [[(k.ride, k.revision, k.record, k.track is not None) for k in kept(b)] for b in builds],
        "tracks": [list(Track.objects.filter(build=b).values_list("summary", "ride")) for b in builds],
        "files": sorted(Attachment.objects.filter(record__build__owner=user).values_list("kind", "name")),
    }


@pytest.fixture
def season(workshop):
    """A workshop with a season in it: the demonstration's own, and a photo on a settings record."""
    load()
    warden = demo_user()
    Build.objects.filter(owner=warden).update(owner=workshop.user)
    Part.objects.filter(owner=warden).update(owner=workshop.user)
    record = SettingsRecord.objects.filter(build__owner=workshop.user).first()
    hung = workshop.ask(
        f"/builds/{record.build_id}/controller-settings/{record.number}/files?name=jumper-on-the-board.jpg", picture()
    )
    assert hung["state"] == "done", hung
    return workshop


def test_what_is_taken_out_comes_in_elsewhere_as_it_was(season, other_workshop):
    data = taken(season)
    told = bring(other_workshop, data).json()
    assert told["left_out"] == []
    before, after = of(season.user), of(other_workshop.user)
    assert before["builds"]
    assert before["settings_records"][-1] or before["settings_records"][0]
    for what in before:
        assert after[what] == before[what], what
    photos, tracks = (m.objects.filter(build__owner=season.user).count() for m in (Photo, Track))
    assert (told["builds"], told["files"]) == (len(BUILDS), 1 + photos + tracks)
    assert told["rides"] >= 20
    assert any(ride[3] for of_board in before["rides"] for ride in of_board), "a ride with its track"


def test_the_archive_is_of_open_forms_that_the_core_reads(season):
    with zipfile.ZipFile(io.BytesIO(taken(season))) as archive:
        names = archive.namelist()
        assert json.loads(archive.read("manifest.json"))["format"] == "sand-pocket/archive"
        for name in names:
            if name.endswith("/build.json"):
                assert read_build(archive.read(name)).name
        photo = next(n for n in names if n.endswith("jumper-on-the-board.jpg"))
        assert Image.open(io.BytesIO(archive.read(photo))).size == (60, 40)


def test_nobody_elses_things_are_in_it(season, other_workshop):
    other_workshop.new({**SPIT_RUNNER, "name": "Somebody else's secret"})
    assert b"secret" not in taken(season)
    with zipfile.ZipFile(io.BytesIO(taken(other_workshop))) as archive:
        assert sum(n.endswith("build.json") for n in archive.namelist()) == 1


def altered(data: bytes, changes: dict[str, bytes | None], more: dict[str, bytes] | None = None) -> bytes:
    """The archive with some members otherwise: by the end of their name."""
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(target, "w") as new:
        for name in old.namelist():
            found = next((c for end, c in changes.items() if name.endswith(end)), old.read(name))
            if found is not None:
                new.writestr(name, found)
        for name, content in (more or {}).items():
            new.writestr(name, content)
    return target.getvalue()


def test_a_build_that_cannot_be_read_stays_out_with_its_reason_and_the_others_come(season, other_workshop):
    with zipfile.ZipFile(io.BytesIO(taken(season))) as archive:
        first = next(n for n in archive.namelist() if n.endswith("/build.json"))
    broken = altered(taken(season), {first: json.dumps({**SPIT_RUNNER, "wheels": 4}).encode()})
    told = bring(other_workshop, broken).json()
    assert told["builds"] == len(BUILDS) - 1
    assert "wheels" in told["left_out"][0]["reason"]


def test_what_the_database_cannot_keep_stays_out_with_its_reason_and_the_rest_comes(season, other_workshop):
    data = taken(season)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        first = next(n for n in archive.namelist() if "/settings-records/" in n and n.endswith(".json"))
        record = json.loads(archive.read(first))
    folder = first.rpartition("/")[0]
    more = {
        f"{folder}/901.json": json.dumps(record).encode(),  # a number that is taken
        f"{folder}/902.json": json.dumps({**record, "number": 10**12}).encode(),
        f"{folder}/903.json": json.dumps({**record, "number": 77, "reason": "a\0b"}).encode(),
        "builds/990-x/build.json": json.dumps({**SPIT_RUNNER, "name": "a\0b"}).encode(),
    }
    answer = bring(other_workshop, altered(data, {"parts.json": b'{"parts": 5}'}, more))
    assert answer.status_code == 200, answer.content
    told = answer.json()
    assert [row["what"].rpartition("/")[2] for row in told["left_out"]] == ["901.json", "902.json", "903.json", "990-x"]
    assert told["builds"] == len(BUILDS)
    assert of(other_workshop.user)["settings_records"] == of(season.user)["settings_records"]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "not an archive"),
        (b"PK\x03\x04 not really", "not an archive"),
        (b"PK\x05\x06" + b"\0" * 18, "not an archive"),  # an empty zip
    ],
)
def test_what_is_no_archive_changes_nothing(workshop, data, says):
    answer = bring(workshop, data)
    assert answer.status_code == 422
    assert says in answer.json()["message"]
    assert not Build.objects.exists()


def test_a_small_file_that_unpacks_to_a_mountain_is_refused_before_it_is_unpacked(season, other_workshop, monkeypatch):
    monkeypatch.setattr("server.archive.services.LARGEST", 5_000_000)
    mountain = io.BytesIO()
    with zipfile.ZipFile(mountain, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("manifest.json", '{"format": "sand-pocket/archive", "version": 1}')
        archive.writestr("builds/001-x/build.json", b" " * 50_000_000)
    assert len(mountain.getvalue()) < 100_000
    answer = bring(other_workshop, mountain.getvalue())
    assert (answer.status_code, answer.json()["message"]) == (422, "That archive is too large.")


def test_members_that_lead_out_of_the_archive_are_only_names(season, other_workshop):
    data = altered(taken(season), {}, {"../../etc/passwd": b"x", "builds/../../x/build.json": b"{}"})
    assert bring(other_workshop, data).json()["builds"] == len(BUILDS)


def test_who_goes_leaves_nothing_behind(season, other_workshop):
    bring(other_workshop, taken(season))
    name = season.user.get_username()
    for body, field in (
        ({"name": "somebody", "password": "dunlin over wet sand"}, "name"),
        ({"name": name, "password": "guess"}, "password"),
    ):
        refused = season.send("DELETE", "/account", body)
        assert (refused.status_code, refused.json()["faults"][0]["field"]) == (422, field)
    assert season.send("DELETE", "/account", {"name": name, "password": "dunlin over wet sand"}).status_code == 204
    assert not get_user_model().objects.filter(username=name).exists()
    assert not Build.objects.exclude(owner=other_workshop.user).exists()
    assert not Part.objects.exclude(owner=None).exclude(owner=other_workshop.user).exists()
    assert season.client.get("/api/boards").status_code == 401
    assert of(other_workshop.user)["builds"], "others keep theirs"
