"""The record of what was set: in order, by the day, brought back after a reset, and only its owner's."""

import json
from datetime import date
from io import BytesIO
from urllib.parse import quote

import pytest
from hypothesis import given
from hypothesis import settings as hypothesis_settings
from PIL import Image

from boardmath.buildfile.controllers import otherwise
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import as_csv, as_json, read_settings_file
from server.jobs.tasks import work_through
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_controllers import settings_of_each
from tests.server.papers import pages_of, text_of

SET = {
    "motor_current_a": 50,
    "pack_current_a": 35,
    "cells_in_series": 10,
    "taper_end_v": 31,
    "sensor_mode": "hall",
    "ramp_s": 0.4,
}


def write_down(workshop, build, on="2026-04-05", reason="first set-up", **changes):
    body = {"settings": {**SET, **changes}, "on": on, "by": "plover", "reason": reason}
    return workshop.send("POST", f"/builds/{build['id']}/controller-settings", body)


def test_sheets_follow_each_other_and_say_what_changed(workshop):
    build = workshop.new()
    assert write_down(workshop, build).json()["number"] == 1
    second = write_down(workshop, build, "2026-07-19", "softer for a beginner", motor_current_a=30, ramp_s=None).json()
    assert second["number"] == 2
    assert {c["path"]: c["values"] for c in second["changed"]} == {
        "settings.motor_current_a": [50, 30],
        "settings.ramp_s": [0.4, None],
    }
    record = workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["settings_records"]
    assert [(s["number"], s["reason"]) for s in record] == [(1, "first set-up"), (2, "softer for a beginner")]


@pytest.mark.parametrize(
    ("day", "number"),
    [("2026-04-04", None), ("2026-04-05", 1), ("2026-07-18", 1), ("2026-07-19", 3), ("2026-11-01", 3)],
)
def test_the_sheet_of_a_ride_day_is_the_last_one_set_until_then(workshop, day, number):
    build = workshop.new()
    write_down(workshop, build)
    write_down(workshop, build, "2026-07-19", "a try", motor_current_a=40)
    write_down(workshop, build, "2026-07-19", "better, the same evening", motor_current_a=45)
    answer = workshop.send("GET", f"/builds/{build['id']}/controller-settings/on/{day}")
    assert answer.status_code == (200 if number else 404)
    assert answer.json().get("number") == number


def test_a_left_over_cell_count_and_a_changed_pack_are_found_in_what_was_set(workshop):
    build = workshop.new()
    write_down(workshop, build, cells_in_series=5)
    found = {f["id"] for f in workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["findings"]}
    assert "controller-cells-mismatch" in found
    write_down(workshop, build, "2026-04-06", "ten cells, as it has")
    found = {f["id"] for f in workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["findings"]}
    assert "controller-cells-mismatch" not in found
    twelve = changed(SPIT_RUNNER, {"parts.pack.series": 12})
    workshop.send("PUT", f"/builds/{build['id']}", {"revision": build["revision"], "document": twelve})
    found = {f["id"] for f in workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["findings"]}
    assert "controller-cells-mismatch" in found, "the pack changed after the settings record was set"


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"reason": "  "}, "reason"),
        ({"on": "2999-01-01"}, "on"),
        ({"settings": {}}, "settings"),
        ({"settings": {"motor_current_a": -3}}, "settings.motor_current_a"),
        ({"settings": {"motor_amps": 30}}, "settings.motor_amps"),
    ],
)
def test_what_cannot_be_written_down_is_refused_with_its_field(workshop, body, field):
    build = workshop.new()
    good = {"settings": SET, "on": "2026-04-05", "reason": "first"}
    answer = workshop.send("POST", f"/builds/{build['id']}/controller-settings", {**good, **body})
    assert answer.status_code == 422
    assert field in [f["field"] for f in answer.json()["faults"]]
    assert SettingsRecord.objects.count() == 0


def test_nobody_else_reads_or_writes_the_record(workshop, other_workshop):
    build = workshop.new()
    write_down(workshop, build)
    at = f"/builds/{build['id']}/controller-settings"
    for method, path, body in (
        ("GET", at, None),
        ("GET", f"{at}/on/2026-05-01", None),
        ("GET", f"{at}/file?form=csv", None),
        ("POST", f"{at}/paper", None),
        ("POST", at, {"settings": SET, "on": "2026-04-05", "reason": "mine"}),
    ):
        assert other_workshop.send(method, path, body).status_code == 404
    assert SettingsRecord.objects.count() == 1


@pytest.mark.parametrize("form", ["json", "csv"])
def test_a_sheet_goes_out_and_comes_in_the_same(workshop, form):
    build = workshop.new()
    write_down(workshop, build)
    file = workshop.client.get(f"/api/builds/{build['id']}/controller-settings/file?form={form}").content.decode()
    read = workshop.send("POST", "/controller-settings/read", {"text": file}).json()
    assert {v["key"]: v["value"] for v in read} == SET
    assert all(v["reason"] is None for v in read)


def test_of_a_broken_sheet_the_good_values_are_kept(workshop):
    text = "setting,value\nmotor_current_a,40\npack_current_a,lots\nwings,2\nsensor_mode,by ear\n"
    read = {v["key"]: v for v in workshop.send("POST", "/controller-settings/read", {"text": text}).json()}
    assert read["motor_current_a"]["reason"] is None
    assert "must be a number" in read["pack_current_a"]["reason"]
    assert "unknown key" in read["wings"]["reason"]
    assert "one of" in read["sensor_mode"]["reason"]
    for nothing in ("", '{"format": "sand-pocket/build"}', "a,b\n1,2\n"):
        assert workshop.send("POST", "/controller-settings/read", {"text": nothing}).status_code == 422


def test_a_sheet_on_paper_says_what_is_set_why_and_what_is_wrong(workshop):
    build = workshop.new()
    write_down(workshop, build, cells_in_series=5, reason="first <set-up> & more")
    answer = workshop.made(f"/builds/{build['id']}/controller-settings/paper")
    pages, text = pages_of(answer), text_of(answer)
    assert (float(pages[0].mediabox.width), float(pages[0].mediabox.height)) == pytest.approx(
        (595.28, 841.89), abs=0.01
    )
    for words in (
        "controller settings 1",
        "first <set-up> & more",
        "Motor current",
        "50 A",
        "Cell count set to 5",
        "stop on foot",
    ):
        assert words in text, words


def test_the_dossier_holds_the_whole_board(workshop, other_workshop):
    word = {"finding": "full-pack-brakes", "reason": "Two flat kilometres come first <always>.", "day": "2026-04-19"}
    build = workshop.new(
        changed(SPIT_RUNNER, {"accepted": [word], "parts.deck.name": "Plank & bow", "parts.deck.price": 85})
    )
    write_down(workshop, build)
    at = f"/builds/{build['id']}/dossier"
    paper = workshop.made(at)
    pages, text = pages_of(paper), text_of(paper)
    assert (float(pages[0].mediabox.width), float(pages[0].mediabox.height)) == pytest.approx(
        (595.28, 841.89), abs=0.01
    )
    promised = workshop.send("POST", "/predict", {"document": build["document"]}).json()["outcomes"]
    for words in (
        "Spit runner",
        f"{promised[0]['mid']:.1f}".removesuffix(".0"),
        "Plank & bow",
        "85.00 EUR",
        "record 1, set on 5 Apr 2026",
        "Pack current",
        "Two flat kilometres come first <always>. (19 Apr 2026)",
        "wheelbase",
        "stop on foot",
    ):
        assert words in text, words
    assert other_workshop.send("POST", at).status_code == 404
    bare = workshop.new({"format": "sand-pocket/build", "version": 1, "rider": {"mass_kg": 75}})
    assert "Not predicted yet" in text_of(workshop.made(f"/builds/{bare['id']}/dossier"))


def test_a_recommendation_needs_a_controller_and_a_pack(workshop):
    bare = changed(SPIT_RUNNER, {"parts.controller": None})
    answer = workshop.send("POST", "/controller-settings", {"document": bare}).json()
    assert (answer["lacks"], answer["lines"]) == ("controller", [])
    full = workshop.send("POST", "/controller-settings", {"document": SPIT_RUNNER, "profile": "beginner"}).json()
    assert full["profile"] == "beginner"
    assert {line["stand"] for line in full["lines"]} >= {"as recommended", "not set", "within its range"}


TWO_CONTROLLERS = changed(
    SPIT_RUNNER, {"parts.controller.units": 2, "parts.motors.count": 2, "parts.drive.driven_wheels": 2}
)


def test_two_controllers_that_are_not_set_alike_are_kept_apart_and_found(workshop):
    build = workshop.new(TWO_CONTROLLERS)
    body = {"settings": SET, "on": "2026-04-05", "reason": "first", "apart": [{"motor_current_a": 30}]}
    first = workshop.send("POST", f"/builds/{build['id']}/controller-settings", body).json()
    assert [{k: v for k, v in a.items() if v is not None} for a in first["apart"]] == [{"motor_current_a": 30}]
    found = {
        f["id"]: f["text"]
        for f in workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["findings"]
    }
    assert "50 A in the first, 30 A in controller 2" in found["unalike-2-motor-current-a"]
    second = write_down(workshop, build, "2026-04-06", "both alike now").json()
    assert {c["path"]: c["values"] for c in second["changed"]} == {"settings_apart.0.motor_current_a": [30, None]}
    paper = workshop.made(f"/builds/{build['id']}/controller-settings/paper?number=1")
    assert "Controller 2 differs: motor current 30 A." in text_of(paper)
    for form in ("json", "csv"):
        kept = workshop.send(
            "GET", f"/builds/{build['id']}/controller-settings/file?form={form}&number=1"
        ).content.decode()
        values = workshop.send("POST", "/controller-settings/read", {"text": kept}).json()
        assert [v["reason"] for v in values if v["reason"]] == []
        assert {v["key"]: v["value"] for v in values if v["controller"] == 1} == SET
        assert [(v["key"], v["value"]) for v in values if v["controller"] == 2] == [("motor_current_a", 30)]


@pytest.mark.parametrize(
    ("text", "field"),
    [
        ("setting,value,controller\nmotor_current_a,30,5\n", "controller"),
        ("setting,value,controller\nmotor_current_a,30,second\n", "controller"),
        ('{"format": "sand-pocket/controller-settings", "settings": {}, "apart": {"motor_current_a": 30}}', "apart"),
        ('{"format": "sand-pocket/controller-settings", "settings": {}, "apart": [{}, {}, {}, {}]}', "apart"),
    ],
)
def test_a_sheet_of_more_controllers_than_a_board_has_is_refused(workshop, text, field):
    answer = workshop.send("POST", "/controller-settings/read", {"text": text})
    assert answer.status_code == 422
    assert [f["field"] for f in answer.json()["faults"]] == [field]


@given(settings_of_each())
@hypothesis_settings(deadline=None, max_examples=60)
def test_any_sheet_comes_back_from_its_files_as_it_was(states):
    """As JSON and as CSV, of up to four controllers; numbers as far as a table writes them."""
    first, *apart = [s.model_dump(mode="json", exclude_none=True) for s in (states[0], *(otherwise(states) or ()))]
    kept = SettingsRecord(number=1, on=date(2026, 4, 5), reason="first", settings=first, apart=apart)
    for text in (json.dumps(as_json("Any board", kept)), as_csv(kept)):
        values = read_settings_file(text.encode())
        assert [v.reason for v in values if v.reason] == []
        for number, wanted in enumerate([first, *apart], 1):
            assert {v.key: v.value for v in values if v.controller == number} == pytest.approx(wanted)


def test_what_differs_between_any_two_sheets(workshop):
    build = workshop.new()
    for day, amperes in (("2026-04-05", 50), ("2026-04-06", 40), ("2026-04-07", 30)):
        write_down(workshop, build, day, "a try", motor_current_a=amperes)
    path = f"/builds/{build['id']}/controller-settings"
    found = workshop.send("GET", f"{path}/1/against/3").json()
    assert found == [{"path": "settings.motor_current_a", "values": [50, 30]}]
    assert workshop.send("GET", f"{path}/2/against/2").json() == []
    assert workshop.send("GET", f"{path}/1/against/9").status_code == 404


def photo(form="JPEG", size=(400, 300), **saved) -> bytes:
    file = BytesIO()
    Image.new("RGB", size, (180, 140, 90)).save(file, form, **saved)
    return file.getvalue()


def hang(workshop, build, data: bytes, name="jumper.jpg", number=1):
    """Sends a file for a settings record, and gives the refusal or the job as a worker ended it."""
    answer = workshop.send("POST", f"/builds/{build['id']}/controller-settings/{number}/files?name={quote(name)}", data)
    if answer.status_code != 202:
        return answer
    work_through.call()
    return workshop.send("GET", f"/jobs/{answer.json()['id']}")


def hung(workshop, build, data: bytes, name="jumper.jpg"):
    job = hang(workshop, build, data, name).json()
    assert job["state"] == "done", job
    return workshop.send("GET", f"/jobs/{job['id']}/result").json()


def test_a_photo_hangs_on_its_sheet_upright_and_without_where_it_was_taken(workshop):
    build = workshop.new()
    write_down(workshop, build)
    taken = Image.Exif()
    taken[0x0112] = 6  # lying on its side
    taken.get_ifd(0x8825)[2] = (54.0, 10.0, 0.0)  # a latitude
    said = hung(workshop, build, photo(size=(3000, 1500), exif=taken), "Jumper & label.HEIC.jpg")
    assert (said["name"], said["kind"]) == ("Jumper & label.HEIC.jpg", "image/jpeg")
    answer = workshop.send("GET", f"/controller-settings/files/{said['id']}")
    assert answer["Content-Type"] == "image/jpeg"
    kept = Image.open(BytesIO(answer.content))
    assert kept.size == (1000, 2000), "turned upright, and no larger than needed"
    assert not kept.getexif()
    record = workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["settings_records"]
    assert [f["id"] for f in record[0]["files"]] == [said["id"]]
    page = pages_of(workshop.made(f"/builds/{build['id']}/controller-settings/paper"))[0]
    assert "Jumper & label.HEIC.jpg" in page.extract_text()
    assert [i.image.size for i in page.images] == [(1000, 2000)], "printed on the settings record"
    assert workshop.send("DELETE", f"/controller-settings/files/{said['id']}").status_code == 204
    assert workshop.send("GET", f"/controller-settings/files/{said['id']}").status_code == 404


@pytest.mark.parametrize(
    ("data", "name", "kept_as"),
    [
        (photo("PNG"), "../../label.png", ("label.png", "image/png")),
        (photo("WEBP"), "C:\\photos\\label.webp", ("label.jpg", "image/jpeg")),
        (b"%PDF-1.4\n...\n%%EOF\n", "leaflet.pdf", ("leaflet.pdf", "application/pdf")),
        ("Jumper on 10 Zellen, 4,2 Ω".encode(), "", ("file.txt", "text/plain; charset=utf-8")),
        (b"<script>alert(1)</script>", "page.html", ("page.txt", "text/plain; charset=utf-8")),
    ],
)
def test_a_file_is_kept_as_what_it_is_and_not_as_what_it_says(workshop, data, name, kept_as):
    build = workshop.new()
    write_down(workshop, build)
    said = hung(workshop, build, data, name)
    assert (said["name"], said["kind"]) == kept_as
    answer = workshop.send("GET", f"/controller-settings/files/{said['id']}")
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["Content-Disposition"].startswith("inline" if kept_as[1].startswith("image") else "attachment")


@pytest.mark.parametrize(
    "data",
    [b"", b"\x00\x01\x02", photo()[:600], photo("PNG")[:60], b"%PDF-1.4 cut", b"\xff" * 12_000_001],
    ids=["nothing", "bytes", "half a photo", "half a picture", "half a paper", "too large"],
)
def test_what_cannot_be_kept_is_refused_with_what_can(workshop, data):
    build = workshop.new()
    write_down(workshop, build)
    answer = hang(workshop, build, data)
    assert answer.json().get("state") == "failed" or answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "file"
    assert answer.json()["faults"][0]["reason"]


def test_files_are_their_owners_and_not_without_end(workshop, other_workshop):
    build = workshop.new()
    write_down(workshop, build)
    said = hung(workshop, build, photo())
    for method, path in (
        ("GET", f"/controller-settings/files/{said['id']}"),
        ("DELETE", f"/controller-settings/files/{said['id']}"),
    ):
        assert other_workshop.send(method, path).status_code == 404
    assert hang(other_workshop, build, photo()).status_code == 404
    assert hang(workshop, build, photo(), number=7).status_code == 404
    for _ in range(7):
        hung(workshop, build, photo())
    assert "8 files" in hang(workshop, build, photo()).json()["message"]


def test_a_long_record_takes_no_more_questions_than_a_short_one(workshop, django_assert_max_num_queries):
    build = workshop.new()
    for day in range(1, 21):
        write_down(workshop, build, f"2026-04-{day:02d}", "a try")
    hang(workshop, build, photo(), number=3)
    with django_assert_max_num_queries(10):
        record = workshop.send("GET", f"/builds/{build['id']}/controller-settings").json()["settings_records"]
    assert [len(s["files"]) for s in record] == [0, 0, 1, *[0] * 17]


def test_a_picture_too_large_to_unpack_is_refused(workshop):
    build = workshop.new()
    write_down(workshop, build)
    file = BytesIO()
    Image.new("1", (9000, 9000)).save(file, "PNG")  # a small file of 81 megapixels
    assert "25 megapixels" in hang(workshop, build, file.getvalue(), "huge.png").json()["faults"][0]["reason"]
