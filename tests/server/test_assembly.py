"""The log of the work over the API: what a phone in a garage sends arrives once, whole, and by itself; photos, the book,
the next one.
"""

from datetime import UTC, datetime, timedelta
from io import BytesIO
from uuid import uuid4

import pytest
from PIL import Image

from planner.shared.log import MOST_ENTRIES
from server import pictures
from server.assembly import services
from server.assembly.models import LogEntry, Photo
from tests.core.boards import SPIT_RUNNER, changed
from tests.server.conftest import photo
from tests.server.papers import pages_of, text_of

HERE = {
    **{f"parts.{p}.owned": True for p in SPIT_RUNNER["parts"] if p != "extras"},
    "parts.extras.0.owned": True,
    "stage": "building",
}
BUILDING = changed(SPIT_RUNNER, HERE)


def entry(kind, after=0, **more):
    at = datetime.now(UTC) - timedelta(hours=5) + timedelta(minutes=after)
    return {"kind": kind, "id": str(uuid4()), "at": at.isoformat(), "by": "warden", **more}


class AtTheBench:
    """A board of one person, and the log beside it."""

    def __init__(self, workshop, document=BUILDING):
        self.workshop, self.build = workshop, workshop.new(document)
        self.path = f"/builds/{self.build['id']}/assembly"

    def get(self, page="assembly"):
        return self.workshop.send("GET", f"{self.path}?page={page}").json()

    def send(self, *entries, page="assembly", status=200):
        answer = self.workshop.send("POST", self.path, {"entries": list(entries), "page": page})
        assert answer.status_code == status, answer.content
        return answer.json()

    def step(self, id, said=None):
        return next(s for s in (said or self.get())["report"]["steps"] if s["id"] == id)

    def tick(self, *ids):
        """Ticks steps as the interface does, with what each stood on."""
        steps = {s["id"]: s for s in self.get()["report"]["steps"]}
        return self.send(*(entry("done", n, step=id, facts=steps[id].get("facts", {})) for n, id in enumerate(ids)))

    def change(self, **changes):
        now = self.workshop.send("GET", f"/builds/{self.build['id']}").json()
        document = changed(now["document"], changes)
        answer = self.workshop.send(
            "PUT", f"/builds/{self.build['id']}", {"revision": now["revision"], "document": document}
        )
        assert answer.status_code == 200

    def photograph(self, data, step="lay-out"):
        said = entry("photographed", step=step)
        self.send(said)
        return said["id"], self.workshop.ask(f"{self.path}/photos?entry={said['id']}", data)


@pytest.fixture
def bench(workshop) -> AtTheBench:
    return AtTheBench(workshop)


def test_a_whole_afternoon_sent_three_times_stands_once(bench):
    afternoon = [entry("done", n, step=s["id"], minutes=12) for n, s in enumerate(bench.get()["report"]["steps"][:12])]
    afternoon.append(entry("noted", 30, step="trucks", text="the third bolt is short", trouble=True))
    for _ in range(3):
        said = bench.send(*afternoon)
    assert LogEntry.objects.count() == 13
    assert said["report"]["done"] == 12
    assert [line["kind"] for line in said["log"]].count("noted") == 1
    assert bench.step("lay-out", said)["by"] == "warden"


def test_two_devices_go_on_beside_each_other(bench):
    phone, tablet = entry("done", 1, step="lay-out"), entry("left_out", 2, step="grip", why="bare wood")
    bench.send(tablet)
    said = bench.send(phone)
    assert bench.step("lay-out", said)["state"] == "done"
    assert bench.step("grip", said)["state"] == "left_out"
    assert bench.step("grip", said)["word"] == "bare wood"


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"kind": "done"}, "step"),
        ({"kind": "painted", "step": "deck"}, "kind"),
        ({"kind": "measured", "step": "weigh", "values": {"board": 7400}}, "board"),
        ({"kind": "measured", "step": "dry-belt", "values": {"centre": 0.065}}, "centre"),
        ({"kind": "moved", "step": "join-loop", "before": "lay-out"}, "before"),
        ({"kind": "wished", "why": "more", "changes": {"parts.drive.motor_teeth": 900}}, "parts.drive.motor_teeth"),
        ({"kind": "rode", "day": "2026-02-30"}, "day"),
    ],
)
def test_one_entry_that_cannot_be_is_named_and_holds_up_no_other(bench, wrong, field):
    good = entry("done", step="lay-out")
    said = bench.send(entry(**wrong), good)
    (refused,) = said["refused"]
    assert [f["field"] for f in refused["faults"]] == [field]
    assert refused["faults"][0]["reason"]
    assert bench.step("lay-out", said)["state"] == "done"


def test_a_tick_for_a_step_that_is_no_more_stays_in_the_log(bench):
    bench.change(**{"parts.drive": {"kind": "hub", "owned": True}, "parts.motors.kind": "hub"})
    said = bench.send(entry("done", step="belt-line"))
    assert not said.get("refused")
    assert said["report"]["gone"] == ["belt-line"]
    assert said["log"][0]["step"] == "belt-line"


@pytest.mark.parametrize("off", [timedelta(days=365 * 30), timedelta(days=-365 * 30), timedelta(hours=3)])
def test_a_clock_that_is_wrong_loses_nothing(bench, off):
    said = entry("done", step="lay-out")
    said["at"] = (datetime.now(UTC) + off).isoformat()
    found = bench.send(said)
    assert found["clock"] == [said["id"]]
    assert abs(LogEntry.objects.get().at - datetime.now(UTC)) < timedelta(minutes=1)
    assert bench.step("lay-out", found)["state"] == "done"


def test_a_log_holds_so_many_entries_and_takes_so_many_at_once(bench, monkeypatch):
    monkeypatch.setattr(services, "MOST_ENTRIES", 3)
    bench.send(*(entry("noted", text="x") for _ in range(3)))
    bench.send(entry("noted", text="x"), status=422)
    assert MOST_ENTRIES > 1000
    answer = bench.workshop.send("POST", bench.path, {"entries": [entry("noted", text="x")] * 501})
    assert answer.status_code == 422


def test_a_changed_pulley_opens_the_right_steps_and_says_why(bench):
    bench.tick("lay-out", "bearings", "dry-trucks", "pulley-core", "dry-mount", "dry-motor", "dry-belt", "trucks")
    bench.change(**{"parts.drive.wheel_teeth": 36})
    again = {s["id"]: s["again"] for s in bench.get()["report"]["steps"] if s["state"] == "again"}
    assert set(again) == {"pulley-core", "dry-mount", "dry-belt"}
    assert "42" in again["dry-belt"][0]["text"]
    assert "36" in again["dry-belt"][0]["text"]
    now = bench.step("dry-belt")
    bench.send(entry("still_right", 200, step="dry-belt", facts=now["facts"]))
    assert bench.step("dry-belt")["state"] == "done"


def test_a_late_parcel_blocks_and_frees(bench):
    bench.change(**{"parts.wheels.owned": None, "parts.wheels.purchase": {"status": "late"}})
    found = bench.get()["report"]
    assert bench.step("bearings")["state"] == "parcel"
    assert found["agenda"]["blocked"][0]["path"] == "parts.wheels"
    bench.change(**{"parts.wheels.purchase": {"status": "arrived"}})
    bench.send(entry("done", step="lay-out"))
    assert bench.step("bearings")["state"] == "ready"
    assert not bench.get()["report"]["agenda"]["blocked"]


def test_a_measure_is_judged_and_offers_the_model_its_figure(bench):
    said = bench.send(entry("measured", step="belt-tension", values={"press-1": 4.0, "teeth": 57}))
    judged = bench.step("belt-tension", said)["judged"]
    assert judged["verdict"] == "right"
    assert judged["changes"]["parts.drive.belt_teeth"] == 57


def test_a_step_is_moved_where_the_order_allows_it(bench):
    order = [s["id"] for s in bench.get()["report"]["steps"]]
    assert order.index("pack-block") > order.index("dry-trucks")
    said = bench.send(entry("moved", step="pack-block", before="bearings"))
    order = [s["id"] for s in said["report"]["steps"]]
    assert order.index("pack-block") == order.index("bearings") - 1


def test_what_other_rooms_know_is_done(bench):
    record = {"settings": BUILDING["settings"], "on": "2026-04-05", "reason": "first"}
    assert bench.step("set-up")["state"] != "done"
    bench.workshop.send("POST", f"/builds/{bench.build['id']}/controller-settings", record)
    assert bench.step("set-up")["state"] == "done"


# --- photos -------------------------------------------------------------------------------------------------------------


def test_a_photo_is_kept_once_without_its_place_and_shown_small(bench):
    taken = Image.Exif()
    taken[0x010E] = "the place"
    id, job = bench.photograph(photo((3000, 2000), exif=taken))
    assert job["state"] == "done", job
    again = bench.workshop.ask(f"{bench.path}/photos?entry={id}", photo())
    assert again["state"] == "done"
    kept = Photo.objects.get()
    line = next(line for line in bench.get()["log"] if line["id"] == id)
    assert line["photo"] == str(kept.pk)
    large = bench.workshop.send("GET", f"/assembly/photos/{kept.pk}")
    small = bench.workshop.send("GET", f"/assembly/photos/{kept.pk}?small=true")
    assert max(Image.open(BytesIO(large.content)).size) == pictures.LONGEST_SIDE
    assert b"the place" not in large.content
    assert max(Image.open(BytesIO(small.content)).size) == pictures.SMALL_SIDE
    assert len(small.content) < 40_000


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"a poem about a truck", "not a photo"),
        (b"%PDF-1.4 %%EOF", "not a photo"),
        (photo()[:900], "cannot be read"),
        # Thousands of scans in a small file: refused before any of them is drawn.
        (photo() + b"\xff\xda\x00" * 5000, "cannot be read"),
    ],
)
def test_what_is_no_picture_is_refused_in_words_and_the_tick_stays(bench, data, says):
    bench.send(entry("done", step="lay-out"))
    _, job = bench.photograph(data)
    assert job["state"] == "failed"
    assert says in job["message"]
    assert bench.step("lay-out")["state"] == "done"
    assert not Photo.objects.exists()


def test_sixty_megabytes_are_told_and_nothing_is_lost(bench):
    said = entry("photographed", step="lay-out")
    bench.send(said)
    answer = bench.workshop.send("POST", f"{bench.path}/photos?entry={said['id']}", b"\xff\xd8" + bytes(60_000_000))
    assert answer.status_code == 422
    assert "12 MB" in answer.json()["faults"][0]["reason"]
    assert bench.get()["log"]


def test_a_photo_that_was_taken_back_is_gone_and_does_not_come_again(bench):
    id, _ = bench.photograph(photo())
    bench.send(entry("taken_back", 400, entry=id))
    assert not Photo.objects.exists()
    assert not bench.get()["log"]
    assert bench.workshop.send("POST", f"{bench.path}/photos?entry={id}", photo()).status_code == 404


def test_the_workshops_files_are_counted_together(bench, monkeypatch):
    bench.photograph(photo())
    monkeypatch.setattr(pictures, "MOST_OF_A_PERSON", Photo.objects.get().size + 10)
    _, job = bench.photograph(photo())
    assert job["state"] == "failed"
    assert "storage is full" in job["message"]
    monkeypatch.setattr(services, "MOST_PHOTOS", 1)
    said = entry("photographed")
    bench.send(said)
    assert bench.workshop.send("POST", f"{bench.path}/photos?entry={said['id']}", photo()).status_code == 422


# --- the book, the next one ---------------------------------------------------------------------------------------------


@pytest.fixture
def written(bench):
    bench.tick("lay-out", "bearings")
    bench.send(
        entry("noted", 20, step="bearings", text="One *inner* ring was rough.\nSent back.", trouble=True),
        entry("measured", 30, step="belt-line", values={"near-1": 0.4, "far-1": 1.6}),
        entry("wished", 40, step="bearings", why="Ceramic ones", changes={"parts.drive.motor_teeth": 14}, cost=40),
        entry("rode", 50, day="2026-05-03", km=6.0, start_v=41.0, end_v=38.2, note="gusts"),
    )
    bench.photograph(photo(), step="bearings")
    return bench


def test_the_book_goes_onto_paper_with_its_photos(written):
    paper = written.workshop.made(f"{written.path}/paper")
    text = text_of(paper)
    assert "build book" in text
    assert "One *inner* ring was rough." in text
    assert "the belt comes off on the first ride" in text
    assert "What I would change" in text
    assert sum(len(p.images) for p in pages_of(paper)) >= 1


def test_the_dossier_says_how_far_it_is_put_together(written):
    paper = written.workshop.made(f"/builds/{written.build['id']}/dossier")
    text = text_of(paper)
    assert "Put together" in text
    assert "2 of" in text
    assert "Problem: One *inner* ring was rough." in text
    assert "Would change: Ceramic ones" in text


def test_the_book_is_taken_away_as_json_and_markdown(written):
    told = written.workshop.send("GET", f"{written.path}/file?form=json")
    document = told.json()
    assert (document["format"], document["version"]) == ("sand-pocket/build-book", 1)
    assert {"done", "noted", "measured", "wished", "rode", "photographed"} == {e["kind"] for e in document["log"]}
    assert "attachment" in told["Content-Disposition"]
    text = written.workshop.send("GET", f"{written.path}/file?form=md").content.decode()
    assert "- [x] **Lay out all parts" in text
    assert r"Problem: One \*inner\* ring was rough. Sent back." in text, "a person's words are no markup"


def test_a_second_board_is_warned_of_what_went_wrong_at_the_first(written):
    second = AtTheBench(written.workshop, changed(BUILDING, {"name": "Number two"}))
    found = {(t["step"], t["text"]) for t in second.get()["troubles"]}
    assert ("bearings", "One *inner* ring was rough.\nSent back.") in found
    assert not written.get()["troubles"], "its own remarks it has beside its steps"


def test_wishes_become_a_second_version_on_the_boards(written):
    wish = written.get()["wishes"][0]
    effect = written.workshop.send("POST", f"{written.path}/effect", {"changes": wish["changes"]}).json()
    assert next(c for c in effect if c["name"] == "speed")["change"] < 0
    made = written.workshop.send("POST", f"{written.path}/second", {"wishes": [wish["id"]]}).json()
    assert made["document"]["parts"]["drive"]["motor_teeth"] == 14
    assert "owned" not in made["document"]["parts"]["drive"]
    assert made["document"]["name"].endswith("second version")
    assert written.workshop.send("POST", f"{written.path}/second", {"wishes": []}).status_code == 422


def test_the_first_ride_is_the_same_log_in_another_room(written):
    found = written.get("first-ride")
    assert found["rides"][0]["km"] == 6.0
    assert next(s for s in found["report"]["steps"] if s["id"] == "fr-write")["state"] == "done"
    assert not found["report"]["gone"]
    said = written.send(entry("done", step="fr-gear"), page="first-ride")
    assert next(s for s in said["report"]["steps"] if s["id"] == "fr-gear")["state"] == "done"
    assert not written.get()["report"]["gone"]


def test_where_it_stands_follows_the_work(bench):
    def ids():
        path, body = f"/builds/{bench.build['id']}/overview", {"document": BUILDING}
        return bench.workshop.send("POST", path, body).json()

    assert next(s for s in ids()["steps"] if s["id"] == "assemble")["field"] == "lay-out"
    bench.tick("lay-out", "bearings")
    found = ids()
    assert next(s for s in found["steps"] if s["id"] == "assemble")["title"]["text"].startswith("Continue building")
    assert any("Two steps done" in e["what"]["text"] for e in found["recent"])
    assert "2 of" in next(s for s in found["stages"] if s["slug"] == "build")["word"]["text"]


def test_the_archive_carries_the_log_and_its_photos(written, other_workshop):
    data = b"".join(written.workshop.client.get("/api/archive").streaming_content)
    brought = other_workshop.client.post("/api/archive", data, content_type="application/zip").json()
    assert (brought["builds"], brought["entries"], brought["files"]) == (1, 7, 1), brought
    assert not brought["left_out"]
    there = other_workshop.send("GET", "/boards").json()["builds"][0]["id"]
    found = other_workshop.send("GET", f"/builds/{there}/assembly").json()
    assert [(line["kind"], line["at"]) for line in found["log"]] == [
        (line["kind"], line["at"]) for line in written.get()["log"]
    ]
    assert any(line.get("photo") for line in found["log"])
