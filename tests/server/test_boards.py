"""The list of boards: builds belong to their owner, and no save overwrites another silently."""

import re
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from pypdf import PdfReader

from server.boards.models import Build
from server.library.models import Part
from tests.core.boards import SPIT_RUNNER, changed
from tests.server.conftest import Workshop


def test_a_build_is_kept_as_its_file(workshop):
    made = workshop.new()
    again = workshop.send("GET", f"/builds/{made['id']}").json()
    exported = workshop.send("GET", f"/builds/{made['id']}/file")
    assert made["revision"] == again["revision"] == 1
    assert exported.headers["Content-Disposition"] == 'attachment; filename="spit-runner.json"'
    back = workshop.new(exported.json())
    assert back["document"] == again["document"]


def test_a_new_board_begins_with_its_builders_own_ways(workshop, other_workshop):
    """However it begins: empty, out of a file, as a copy; a file that says its own keeps it, and nobody else gets them."""
    ways = {"mount_fixing": "welded", "fuse_poles": "both_poles"}
    assert "methods" not in workshop.new()["document"]
    chosen = workshop.new(changed(SPIT_RUNNER, {"methods": ways}))
    empty = workshop.send("POST", "/builds", {"name": "Next"}).json()
    copied = workshop.send("POST", f"/builds/{chosen['id']}/duplicate").json()
    for made in (empty, workshop.new(), copied):
        assert made["document"]["methods"] == ways
    own = workshop.new(changed(SPIT_RUNNER, {"methods": {"locking": "as_you_go"}}))
    assert own["document"]["methods"] == {"locking": "as_you_go"}
    assert "methods" not in other_workshop.new()["document"]


REACHES = [
    ("GET", "/builds/{id}", None),
    ("GET", "/builds/{id}/file", None),
    ("PUT", "/builds/{id}", {"revision": 1, "document": SPIT_RUNNER}),
    ("POST", "/builds/{id}/duplicate", None),
    ("POST", "/builds/{id}/restore", None),
    ("DELETE", "/builds/{id}", None),
]


@pytest.mark.parametrize(("method", "path", "body"), REACHES)
def test_nobody_else_reads_or_writes_a_build(workshop, other_workshop, method, path, body):
    made = workshop.new()
    refused = other_workshop.send(method, path.format(id=made["id"]), body)
    assert refused.status_code == 404
    assert "Board not found" in refused.json()["message"]
    untouched = Build.objects.get(pk=made["id"])
    assert (untouched.revision, untouched.deleted_at, Build.objects.count()) == (1, None, 1)


@pytest.mark.parametrize(
    ("method", "path"),
    [
        *[(m, p) for m, p, _ in REACHES],
        ("GET", "/boards"),
        ("POST", "/predict"),
        ("POST", "/curves"),
        ("GET", "/parts"),
    ],
)
def test_signed_out_there_is_nothing_to_see(workshop, client, method, path):
    made = workshop.new()
    answer = client.generic(method, "/api" + path.format(id=made["id"]), "{}", content_type="application/json")
    assert answer.status_code in (401, 403)


def test_the_boards_shows_only_ones_own(workshop, other_workshop):
    workshop.new()
    assert [b["name"] for b in workshop.send("GET", "/boards").json()["builds"]] == ["Spit runner"]
    assert other_workshop.send("GET", "/boards").json()["builds"] == []


def test_the_second_of_two_saves_gets_both_versions(workshop):
    made = workshop.new()
    path = f"/builds/{made['id']}"
    mine = {**made["document"], "name": "From the bench"}
    theirs = {**made["document"], "name": "From the phone"}
    assert workshop.send("PUT", path, {"revision": 1, "document": theirs}).json()["revision"] == 2
    refused = workshop.send("PUT", path, {"revision": 1, "document": mine})
    assert refused.status_code == 409
    assert (refused.json()["revision"], refused.json()["document"]["name"]) == (2, "From the phone")
    kept = workshop.send("PUT", path, {"revision": 2, "document": mine})
    assert (kept.status_code, kept.json()["revision"]) == (200, 3)


def test_a_save_whose_answer_was_lost_can_be_sent_again(workshop):
    made = workshop.new()
    body = {"revision": 1, "document": {**made["document"], "name": "Sent twice"}}
    first, second = (workshop.send("PUT", f"/builds/{made['id']}", body) for _ in range(2))
    assert (first.status_code, second.status_code) == (200, 200)
    assert second.json()["revision"] == 2


@pytest.mark.django_db(transaction=True)
def test_of_saves_at_the_same_moment_one_stands_and_the_rest_are_told():
    workshop = Workshop("plover")
    made = workshop.new()

    def save(i: int) -> int:
        try:
            body = {"revision": 1, "document": {**made["document"], "name": f"Window {i}"}}
            return workshop.send("PUT", f"/builds/{made['id']}", body).status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as pool:
        answers = sorted(pool.map(save, range(6)))
    assert answers == [200, 409, 409, 409, 409, 409]
    assert Build.objects.get(pk=made["id"]).revision == 2


def test_delete_is_undone(workshop):
    made = workshop.new()
    assert workshop.send("DELETE", f"/builds/{made['id']}").status_code == 204
    assert workshop.send("GET", f"/builds/{made['id']}").status_code == 404
    assert workshop.send("GET", "/boards").json()["builds"] == []
    assert workshop.send("POST", f"/builds/{made['id']}/restore").json()["document"] == made["document"]


def test_a_duplicate_is_a_build_of_its_own(workshop):
    made = workshop.new()
    copy = workshop.send("POST", f"/builds/{made['id']}/duplicate").json()
    assert copy["document"]["name"] == "Spit runner, copy"
    workshop.send("PUT", f"/builds/{copy['id']}", {"revision": 1, "document": {**SPIT_RUNNER, "name": "Other"}})
    assert workshop.send("GET", f"/builds/{made['id']}").json()["document"]["name"] == "Spit runner"


@pytest.mark.parametrize("way", ["import", "save", "predict"])
@pytest.mark.parametrize(
    ("changes", "field", "says"),
    [
        ({"parts.wheels.diameter_mm": 0.09}, "parts.wheels.diameter_mm", "metres"),
        ({"parts.drive.motor_teeth": "many"}, "parts.drive.motor_teeth", "must be a number"),
        ({"parts.drive.motor_teeth": 0}, "parts.drive.motor_teeth", "outside 5 to 80"),
        ({"parts.deck.mass_g": -1}, "parts.deck.mass_g", "outside"),
        ({"parts.pack.series": 40}, "parts.pack.series", "outside 1 to 24"),
        ({"version": 3}, "version", "newer"),
        ({"parts.deck.colour": "red"}, "parts.deck.colour", "unknown key"),
    ],
)
def test_a_bad_build_is_answered_with_its_field_and_reason(workshop, way, changes, field, says):
    made, bad = workshop.new(), changed(SPIT_RUNNER, changes)
    answer = {
        "import": lambda: workshop.send("POST", "/builds/import", bad),
        "save": lambda: workshop.send("PUT", f"/builds/{made['id']}", {"revision": 1, "document": bad}),
        "predict": lambda: workshop.send("POST", "/predict", {"document": bad}),
    }[way]()
    assert answer.status_code == 422
    assert [f["field"] for f in answer.json()["faults"]] == [field]
    assert says in answer.json()["faults"][0]["reason"]
    assert Build.objects.count() == 1
    assert Build.objects.get().document == made["document"]


@pytest.mark.parametrize("body", [b"", b"{", b"[]", b"\xff\xfe", b'{"a":' * 50_000, b'{"x": NaN}', b"null"])
def test_hostile_bodies_are_refused_everywhere(workshop, body):
    made = workshop.new()
    for method, path in (("POST", "/builds/import"), ("PUT", f"/builds/{made['id']}"), ("POST", "/predict")):
        answer = workshop.send(method, path, body)
        assert answer.status_code in (400, 422), (path, answer.content)
        assert answer.json()["message"]
    assert Build.objects.count() == 1


def test_an_oversized_body_is_refused(workshop):
    answer = workshop.send("POST", "/builds/import", b" " * 2_000_000)
    assert answer.status_code == 413
    assert "Too large" in answer.json()["message"]
    assert Build.objects.count() == 0


def test_a_half_finished_build_predicts_what_it_can_and_says_what_it_needs(workshop):
    fresh = workshop.send("POST", "/builds", {"name": "Bare"}).json()
    found = workshop.send("POST", "/predict", {"document": fresh["document"]}).json()
    assert "top_speed_kmh" not in found
    assert {n["field"] for n in found["needs"]} >= {"parts.wheels.diameter_mm", "parts.pack.series"}
    assert "drawing" not in found, "nobody asked for one"
    sight = workshop.send("POST", "/predict", {"document": fresh["document"], "view": "side"}).json()
    assert sight["needs"] == found["needs"]
    assert sight["drawing"]["shapes"]
    assert workshop.send("POST", "/curves", {"document": fresh["document"]}).json() == []


def test_fifty_builds_on_the_boards_take_no_query_each(workshop):
    for i in range(3):
        workshop.new({**SPIT_RUNNER, "name": f"Board {i}"})
    with CaptureQueriesContext(
        connection,
    ) as few:
        workshop.send("GET", "/boards")
    for i in range(12):
        workshop.new({**SPIT_RUNNER, "name": f"Board {i}"})
    with CaptureQueriesContext(connection) as many:
        assert len(workshop.send("GET", "/boards?limit=50").json()["builds"]) == 15
    assert len(many) == len(few)


def test_candidates_are_the_shared_library_and_ones_own_parts(workshop, other_workshop, library):
    Part.objects.create(owner=workshop.user, kind="motors", name="From my drawer", figures={"kv_rpm_per_v": 150})
    ask = {"document": SPIT_RUNNER, "kind": "motors"}
    mine, theirs = (w.send("POST", "/candidates", ask).json()["candidates"] for w in (workshop, other_workshop))
    assert "From my drawer" in {c["name"] for c in mine}
    assert "From my drawer" not in {c["name"] for c in theirs}
    assert len(mine) == len(theirs) + 1
    assert {p["record"]["name"] for p in other_workshop.send("GET", "/parts?kind=motors").json()["parts"]} == {
        c["name"] for c in theirs
    }


def test_there_is_no_such_kind_of_part(workshop):
    answer = workshop.send("POST", "/candidates", {"document": SPIT_RUNNER, "kind": "wings"})
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "kind"


def test_the_library_has_parts_of_every_kind_that_the_core_can_read(library):
    from boardmath.parts.part_types import KINDS
    from server.library.services import part_model

    assert Part.objects.count() >= 60
    for kind, known in KINDS.items():
        assert Part.objects.filter(kind=known.shelved_as or kind).exists(), kind
    for part in Part.objects.all():
        assert part_model(part).name == part.name
        assert part.maker


# --- what fits --------------------------------------------------------------------------------------------------------


def test_candidates_come_best_first_for_what_the_brief_lacks(workshop, library):
    steep = changed(SPIT_RUNNER, {"brief__hill_grade_pct": 30, "brief__top_speed_kmh": 10})
    answer = workshop.send("POST", "/candidates", {"document": steep, "kind": "drive"}).json()
    assert answer["lacks"] == "hill"
    fitting = [c for c in answer["candidates"] if c["fits"]]
    assert [c["fits"] for c in answer["candidates"]] == [True] * len(fitting) + [False] * (
        len(answer["candidates"]) - len(fitting)
    )
    gains = [next(x for x in c["changes"] if x["name"] == "hill")["change"] for c in fitting]
    assert gains == sorted(gains, reverse=True)
    assert len(gains) > 3


def proposed(workshop, brief, **asked):
    job = workshop.ask("/proposals", {"document": brief, **asked})
    assert (job["state"], job["progress"]) == ("done", 1.0), job
    return workshop.send("GET", f"/proposals/{job['id']}").json()


def test_a_brief_becomes_boards_from_the_library_and_ones_own_parts(workshop, library):
    brief = {**SPIT_RUNNER, "parts": {}, "settings": {}}
    proposals = proposed(workshop, brief)
    assert 2 <= len(proposals) <= 3
    for one in proposals:
        again = workshop.send("POST", "/predict", {"document": one["build"]}).json()
        assert not [f["id"] for f in again["findings"] if f["severity"] in ("danger", "stop")]
        for promised, found in zip(one["outcomes"], again["outcomes"], strict=True):
            assert promised["mid"] == pytest.approx(found["mid"])


def test_packs_made_of_cells_are_proposed_only_where_they_are_asked_for(workshop, library):
    brief = changed({**SPIT_RUNNER, "parts": {}, "settings": {}}, {"brief": {"range_km": 20, "budget": 700}})
    ready, made = (
        {p["build"]["parts"]["pack"]["name"] for p in proposed(workshop, brief, makes_packs=m)} for m in (False, True)
    )
    assert not any(" of " in name for name in ready)
    assert any(" of " in name for name in made)


def test_every_view_and_the_belts_that_would_suit(workshop):
    answer = workshop.send("POST", "/drawings", {"document": SPIT_RUNNER}).json()
    assert [d["view"] for d in answer["views"]] == ["side", "under", "behind", "drive"]
    assert all(d["description"] for d in answer["views"])
    assert [b["teeth"] for b in answer["belts"] if b["chosen"]] == [56]
    glanced = workshop.send("POST", "/predict", {"document": SPIT_RUNNER, "view": "under"}).json()
    assert glanced["drawing"] == answer["views"][1]


def test_the_template_is_real_size_on_a4_and_only_its_owners(workshop, other_workshop):
    """Print at 100 %: A4 in points is 595.28 x 841.89, 100 mm are 283.46 points (ISO 216, 72 points an inch)."""
    build = workshop.new()
    answer = workshop.made(f"/builds/{build['id']}/template")
    assert answer["Content-Type"] == "application/pdf"
    pages = PdfReader(BytesIO(answer.content)).pages
    # 880 mm of deck up the page, 235 mm across: four rows, two columns.
    assert len(pages) == 8
    for page in pages:
        assert (float(page.mediabox.width), float(page.mediabox.height)) == pytest.approx((595.28, 841.89), abs=0.01)
        assert "This line is 100 mm" in page.extract_text()
        lines = re.findall(r"([\d.]+) ([\d.]+) m ([\d.]+) ([\d.]+) l", page.get_contents().get_data().decode("latin-1"))
        spans = [float(x1) - float(x0) for x0, y0, x1, y1 in lines if y0 == y1]
        assert any(span == pytest.approx(283.46, abs=0.02) for span in spans)
    assert other_workshop.send("POST", f"/builds/{build['id']}/template").status_code == 404


def test_a_finding_accepted_keeps_its_word_through_the_file(workshop):
    word = {"finding": "full-pack-brakes", "reason": "Two flat kilometres come first.", "day": "2026-04-19"}
    build = workshop.new({**SPIT_RUNNER, "accepted": [word]})
    file = workshop.client.get(f"/api/builds/{build['id']}/file").json()
    assert file["accepted"] == [word]
    found = workshop.send("POST", "/predict", {"document": file}).json()["findings"]
    assert [f["accepted"]["reason"] for f in found if f["id"] == "full-pack-brakes"] == [word["reason"]]
    short = workshop.send("POST", "/builds/import", {**SPIT_RUNNER, "accepted": [{**word, "reason": ""}]})
    assert short.status_code == 422
    assert short.json()["faults"][0]["field"] == "accepted.0.reason"


def test_what_was_deleted_lies_in_the_bin_until_it_is_brought_back_or_swept(workshop, other_workshop):
    kept, gone = workshop.new(), workshop.new({**SPIT_RUNNER, "name": "Marsh hare"})
    workshop.send("DELETE", f"/builds/{gone['id']}")
    (binned,) = workshop.send("GET", "/bin").json()
    assert (binned["id"], binned["name"]) == (gone["id"], "Marsh hare")
    assert binned["until"] > binned["deleted_at"]
    assert other_workshop.send("GET", "/bin").json() == []
    assert workshop.send("POST", f"/builds/{gone['id']}/restore").status_code == 200
    assert workshop.send("GET", "/bin").json() == []
    assert {b["id"] for b in workshop.send("GET", "/builds/names").json()} == {kept["id"], gone["id"]}


def test_a_boards_has_an_end_the_bin_makes_room_and_a_word_says_so(workshop, monkeypatch):
    from server.boards import services

    monkeypatch.setattr(services, "MOST_BUILDS", 3)
    first, *_ = [workshop.new() for _ in range(3)]
    full = workshop.send("POST", "/builds", {"name": "One more"})
    assert (full.status_code, "3 boards" in full.json()["message"]) == (422, True)
    assert workshop.send("POST", f"/builds/{first['id']}/duplicate").status_code == 422
    workshop.send("DELETE", f"/builds/{first['id']}")
    assert workshop.send("POST", "/builds", {"name": "One more"}).status_code == 200
    assert workshop.send("GET", "/bin").json() == [], "the oldest of the bin made room"


def test_changes_kept_under_an_earlier_version_are_brought_to_the_names_of_today(workshop):
    earlier = {**SPIT_RUNNER, "version": 1, "packwork": {"plan": {"halves": True}}}
    today = workshop.send("POST", "/builds/upgrade", {"document": earlier}).json()
    assert (today["version"], today["pack_assembly"]) == (2, {"plan": {"halves": True}})
    assert "packwork" not in today
    made = workshop.new()
    saved = workshop.send("PUT", f"/builds/{made['id']}", {"revision": 1, "document": earlier})
    assert saved.status_code == 200
    assert workshop.send("GET", f"/builds/{made['id']}").json()["document"] == today
