"""All that a person has: taken out, brought in elsewhere the same, and deleted with nothing left."""

import io
import json
import random
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
from server.rides.models import Ride, Track
from server.rides.services import kept
from server.throttles import concurrency
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


HOSTILE = [
    *("0001-01-01", "9999-12-31", "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-14:00", "2026-13-40"),
    *(2**31 - 1, 2**31, -1, 1e308, True, None, "", "\0", "x" * 5000, [], {}, [[[]]], {"": None}),
]
"""What a file from outside may have instead of any of its values."""


def leaves(value, path=()):
    """The path of every value in a document that is no list and no object."""
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else None
    if inner is None:
        yield path
        return
    for key, one in inner:
        yield from leaves(one, (*path, key))


def with_wrong_values(data: bytes, chance: random.Random) -> bytes:
    """The archive with some values of what happened to its boards replaced."""
    changes = {}
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        for name in archive.namelist():
            if not name.endswith(".json") or name.endswith(("build.json", "manifest.json")) or chance.random() < 0.3:
                continue
            document = json.loads(archive.read(name))
            paths = list(leaves(document))
            # The columns of a track are thousands of numbers; what they are of is what matters.
            days = [p for p in paths if p[-1] in ("day", "on", "at", "began", "number", "record_number")]
            for path in chance.sample(days, min(len(days), 2)) + chance.sample(paths, min(len(paths), 1)):
                inside = document
                for step in path[:-1]:
                    inside = inside[step]
                inside[path[-1]] = chance.choice(HOSTILE)
            changes[name] = json.dumps(document).encode()
    return altered(data, changes)


def fallen_pages(workshop) -> dict[str, str]:
    """Pages of a workshop that do not answer 200, each with what it answers."""
    asked = [("GET", "/boards", None), ("GET", "/bin", None), ("GET", "/parts", None)]
    for build in workshop.send("GET", "/builds/names").json():
        at = f"/builds/{build['id']}"
        document = workshop.send("GET", at).json().get("document")
        asked += [("GET", f"{at}{page}", None) for page in ("", "/file", "/assembly", "/bench-test", "/rides")]
        asked += [("GET", f"{at}/{page}", None) for page in ("controller-settings", "revisions", "calibration")]
        asked += [("GET", f"{at}/{file}", None) for file in ("assembly/file", "rides/file", "controller-settings/file")]
        asked += [("POST", f"{at}/{page}", {"document": document}) for page in ("overview", "maintenance", "review")]
    found = {}
    for method, path, body in asked:
        answer = workshop.send(method, path, body)
        # Nothing is set in a controller of which no record came in.
        if answer.status_code not in (200, 404 if path.endswith("controller-settings/file") else 200):
            found[f"{method} {path}"] = f"{answer.status_code} {answer.content[:200]!r}"
    return found


def test_what_came_in_leaves_every_page_whole(season, other_workshop, monkeypatch):
    """Whatever an archive says of days and numbers: what cannot be is left out by its name, and the rest is there."""
    data, left_out = taken(season), []
    chance = random.Random(5)
    monkeypatch.setattr(concurrency.ENGINE, "_burst", 1e9)
    other_workshop.client.raise_request_exception = False
    for _ in range(2):
        answer = bring(other_workshop, with_wrong_values(data, chance))
        assert answer.status_code == 200, answer.content
        left_out += answer.json()["left_out"]
        assert fallen_pages(other_workshop) == {}
        Build.objects.filter(owner=other_workshop.user).delete()
    assert any("has not come yet" in row["reason"] for row in left_out)
    assert any("is not from 1990 to 2199" in row["reason"] for row in left_out)


def test_more_revisions_than_a_board_keeps_stay_out(season, other_workshop, monkeypatch):
    monkeypatch.setattr("server.revisions.services.MOST_REVISIONS", 1)
    told = bring(other_workshop, taken(season)).json()
    assert told["revisions"] <= told["builds"]
    assert any("keeps 1 revisions" in row["reason"] for row in told["left_out"])


@pytest.mark.parametrize("packed", [zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_a_damaged_member_stays_out_and_the_others_come(season, other_workshop, packed):
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(taken(season))) as old, zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as new:
        for name in old.namelist():
            kind = packed if name.endswith("rides.json") else zipfile.ZIP_DEFLATED
            new.writestr(name, old.read(name), compress_type=kind)
        broken = [m for m in new.infolist() if m.filename.endswith("rides.json")]
    data = bytearray(target.getvalue())
    for member in broken:
        at = member.header_offset + 30 + len(member.filename)
        data[at + 20 : at + 60] = bytes(40)
    told = bring(other_workshop, bytes(data)).json()
    assert told["builds"] == len(BUILDS)
    assert {row["what"].rpartition("/")[2] for row in told["left_out"]} == {"rides.json"}
    assert all("damaged" in row["reason"] for row in told["left_out"])


def test_what_is_stored_and_no_longer_validates_is_named_and_can_be_downloaded(season):
    """Kept by an earlier release: its board is put apart with the reason, and nothing else is held up by it."""
    whole, stored = Build.objects.of(season.user)[:2]
    Build.objects.filter(pk=stored.pk).update(document={**stored.document, "wheels": 4})
    row = Ride.objects.filter(build__owner=season.user).exclude(build=stored).first()
    Ride.objects.filter(pk=row.pk).update(day="0001-01-01", said={**row.said, "day": "0001-01-01"})
    listed = season.send("GET", "/boards").json()
    assert [b["id"] for b in listed["unreadable"]] == [str(stored.pk)]
    assert "wheels" in listed["unreadable"][0]["reason"]
    assert str(whole.pk) in {b["id"] for b in listed["builds"]}
    assert listed["count"] == len(listed["builds"]) + 1
    assert json.loads(season.send("GET", f"/builds/{stored.pk}/file").content)["wheels"] == 4
    told = season.send("GET", f"/builds/{row.build_id}/rides").json()
    assert [r["id"] for r in told["unreadable"]] == [str(row.ride)]
    assert str(row.ride) not in {r["id"] for r in told["rides"]}
    season.client.raise_request_exception = False
    assert not any(f"{stored.pk}" not in path for path in fallen_pages(season)), fallen_pages(season)
    with zipfile.ZipFile(io.BytesIO(taken(season))) as archive:
        apart = [archive.read(n) for n in archive.namelist() if n.endswith("unreadable-rides.json")]
    assert any(b"0001-01-01" in rides for rides in apart)
