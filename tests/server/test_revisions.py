"""Named points in a build's life: kept as they were, compared, gone back to, and nothing lost."""

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from server.boards.models import Build
from server.revisions.models import Revision
from tests.core.boards import SPIT_RUNNER, changed

REGEARED = changed(SPIT_RUNNER, {"parts.drive.motor_teeth": 12})


def save(workshop, build, document):
    return workshop.send("PUT", f"/builds/{build['id']}", {"revision": build["revision"], "document": document}).json()


def keep(workshop, build, name, note=""):
    return workshop.send("POST", f"/builds/{build['id']}/revisions", {"name": name, "note": note}).json()


def history(workshop, build):
    return workshop.send("GET", f"/builds/{build['id']}/revisions").json()


def test_a_builds_life_tells_what_changed_from_point_to_point(workshop):
    build = workshop.new()
    keep(workshop, build, "Planned", "on paper")
    build = save(workshop, build, REGEARED)
    assert history(workshop, build)["since"][0]["rows"] == [{"path": "parts.drive.motor_teeth", "values": [15, 12]}]
    keep(workshop, build, "After the new gearing")
    told = history(workshop, build)
    assert [(r["name"], r["note"]) for r in told["revisions"]] == [
        ("Planned", "on paper"),
        ("After the new gearing", ""),
    ]
    assert told["revisions"][1]["changed"][0]["section"] == "parts.drive"
    assert told["since"] == []


def test_going_back_makes_a_new_point_and_keeps_what_stood_there(workshop):
    build = workshop.new()
    planned = keep(workshop, build, "Planned")
    build = save(workshop, build, REGEARED)  # never kept by name
    answer = workshop.send(
        "POST", f"/builds/{build['id']}/revisions/{planned['id']}/go-back", {"revision": build["revision"]}
    )
    assert answer.json()["document"]["parts"]["drive"]["motor_teeth"] == 15
    assert answer.json()["revision"] == build["revision"] + 1
    kept = list(Revision.objects.filter(build_id=build["id"]))
    assert [r.name for r in kept] == ["Planned", "Before restoring Planned", "Restored: Planned"]
    assert [r.document["parts"]["drive"]["motor_teeth"] for r in kept] == [15, 12, 15]
    # And forward again, to what was never named by hand.
    ahead = {"revision": answer.json()["revision"]}
    again = workshop.send("POST", f"/builds/{build['id']}/revisions/{kept[1].id}/go-back", ahead).json()
    assert again["document"]["parts"]["drive"]["motor_teeth"] == 12
    assert Revision.objects.filter(build_id=build["id"]).count() == 4


def test_going_back_over_somebody_elses_save_is_a_conflict_that_changes_nothing(workshop):
    build = workshop.new()
    planned = keep(workshop, build, "Planned")
    save(workshop, build, REGEARED)
    answer = workshop.send(
        "POST", f"/builds/{build['id']}/revisions/{planned['id']}/go-back", {"revision": build["revision"]}
    )
    assert answer.status_code == 409
    assert answer.json()["document"]["parts"]["drive"]["motor_teeth"] == 12
    assert Revision.objects.count() == 1


def test_a_point_needs_a_name_and_may_get_another(workshop):
    build = workshop.new()
    refused = workshop.send("POST", f"/builds/{build['id']}/revisions", {"name": "  "})
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["field"] == "name"
    point = keep(workshop, build, "Planed")
    path = f"/builds/{build['id']}/revisions/{point['id']}"
    was, now = {"name": "Planed", "note": ""}, {"name": "Planned", "note": "typo"}
    assert workshop.send("PUT", path, {**now, "before": was}).json()["name"] == "Planned"
    assert workshop.send("PUT", path, {"name": "", "before": now}).status_code == 422
    assert workshop.send("PUT", path, {"name": "x" * 61, "before": now}).status_code == 422
    assert Revision.objects.get().name == "Planned"
    # Who opened it before that does not write over it, unless it is the same.
    late = workshop.send("PUT", path, {"name": "Draft", "before": was})
    assert (late.status_code, late.json()["name"]) == (409, "Planned")
    assert workshop.send("PUT", path, {**now, "before": was}).status_code == 200
    assert Revision.objects.get().name == "Planned"


def test_nobody_else_reads_keeps_renames_or_goes_back(workshop, other_workshop):
    build = workshop.new()
    point = keep(workshop, build, "Planned")
    theirs = other_workshop.new()
    at = f"/builds/{build['id']}/revisions"
    tries = [
        ("GET", at, None),
        ("POST", at, {"name": "mine"}),
        ("PUT", f"{at}/{point['id']}", {"name": "mine", "before": {"name": "Planned"}}),
        ("POST", f"{at}/{point['id']}/go-back", {"revision": 1}),
        ("POST", f"/builds/{theirs['id']}/revisions/{point['id']}/go-back", {"revision": 1}),
        ("GET", f"/compare?of={build['id']}&of={theirs['id']}", None),
        ("GET", f"/compare?of={theirs['id']}&of={theirs['id']}@{point['id']}", None),
        ("GET", f"/compare?of={theirs['id']}&of={build['id']}@{point['id']}", None),
    ]
    for method, path, body in tries:
        assert other_workshop.send(method, path, body).status_code == 404, path
    assert [r.name for r in Revision.objects.all()] == ["Planned"]
    assert Build.objects.get(pk=build["id"]).revision == 1


def test_builds_and_revisions_stand_side_by_side(workshop):
    build = workshop.new()
    point = keep(workshop, build, "Planned")
    save(workshop, build, REGEARED)
    other = workshop.new({**SPIT_RUNNER, "name": "Another", "rider": {"mass_kg": 90}})
    found = workshop.send("GET", f"/compare?of={build['id']}@{point['id']}&of={build['id']}&of={other['id']}").json()
    assert [(c["name"], c["revision"]) for c in found["columns"]] == [
        ("Spit runner", "Planned"),
        ("Spit runner", None),
        ("Another", None),
    ]
    teeth = [r["values"] for d in found["differences"] for r in d["rows"] if r["path"] == "parts.drive.motor_teeth"]
    assert teeth == [[15, 12, 15]]
    assert [line["name"] for line in found["plots"][0]["lines"][:3]] == [
        "Spit runner, Planned",
        "Spit runner",
        "Another",
    ]
    speeds = [next(p["mid"] for p in h["outcomes"] if p["name"] == "speed") for h in found["headlines"]]
    assert speeds[0] > speeds[2] > speeds[1], "the heavier rider costs less speed than three teeth"


@pytest.mark.parametrize("of", ["", "of=x&of=y", "of={id}", "of={id}&of={id}&of={id}&of={id}&of={id}"])
def test_what_cannot_be_compared_is_refused_with_a_word(workshop, of):
    build = workshop.new()
    answer = workshop.send("GET", f"/compare?{of.format(id=build['id'])}")
    assert answer.status_code == 422
    assert answer.json()["faults"]


def test_a_long_life_takes_no_query_a_point(workshop):
    build = workshop.new()
    keep(workshop, build, "First")
    with CaptureQueriesContext(connection) as few:
        history(workshop, build)
    for i in range(20):
        keep(workshop, build, f"Point {i}")
    with CaptureQueriesContext(connection) as many:
        assert len(history(workshop, build)["revisions"]) == 21
    assert len(many) == len(few)
