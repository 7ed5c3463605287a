"""Every address of the API, asked by somebody else and by nobody: nothing is told, nothing changes; its owner has it."""

import json
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from django.apps import apps
from django.core import serializers
from django.db import transaction
from django.test import Client
from django.test.utils import override_settings

from server.assembly.models import Photo
from server.controller.models import ControllerCommand
from server.controller_settings.models import Attachment
from server.rides.models import Track
from tests.core.boards import SPIT_RUNNER
from tests.core.test_tracks import gpx, ridden
from tests.server.conftest import QUICK, Workshop, photo
from tests.server.test_enclosure import BOXED

DOCUMENT = json.loads((Path(__file__).parents[2] / "frontend/src/lib/api/openapi.json").read_text())
"""The API as ``make build`` wrote it down; to make it takes seconds."""
SET = {"motor_current_a": 40.0, "cells_in_series": 10}
TODAY = date(2026, 4, 5).isoformat()
DONE = {"changes": {"pack_v": 40.1}}
PHOTO = "00000000-0000-4000-8000-000000000001"
WISH = "00000000-0000-4000-8000-000000000003"
AT = "2026-04-05T10:00:00Z"
ENTRY = {"kind": "noted", "id": "00000000-0000-4000-8000-000000000002", "at": AT, "text": "theirs"}
RIDE = "00000000-0000-4000-8000-000000000004"
SEEN = {"id": "theirs", "task": "belts", "on": "2026-04-05"}
RIDES = b'{"format": "sand-pocket/rides", "version": 1, "rides": [{"day": "2026-04-06", "way": {"distance_km": 5}}]}'
BODIES = {
    "PUT /api/builds/{id}": lambda v: {"revision": v["revision"], "document": SPIT_RUNNER},
    "POST /api/builds/{id}/overview": lambda v: {"document": SPIT_RUNNER},
    "POST /api/builds/{id}/revisions": lambda v: {"name": "Theirs"},
    "PUT /api/builds/{id}/revisions/{revision_id}": lambda v: {"name": "Theirs", "before": {"name": "planned"}},
    "POST /api/builds/{id}/revisions/{revision_id}/go-back": lambda v: {"revision": v["revision"]},
    "POST /api/builds/{id}/controller-settings": lambda v: {"settings": SET, "on": TODAY, "reason": "theirs"},
    "POST /api/builds/{id}/controller-settings/{number}/files": lambda v: b"a note",
    "PATCH /api/builds/{id}/bench-test": lambda v: DONE,
    "POST /api/builds/{id}/bench-test": lambda v: {"on": TODAY},
    "POST /api/builds/{id}/assembly": lambda v: {"entries": [ENTRY]},
    "POST /api/builds/{id}/assembly/photos": lambda v: b"a picture",
    "POST /api/builds/{id}/assembly/effect": lambda v: {"changes": {"parts.drive.motor_teeth": 14}},
    "POST /api/builds/{id}/assembly/second": lambda v: {"wishes": [WISH]},
    "POST /api/builds/{id}/rides": lambda v: {"rides": [{"ride": {"day": TODAY, "way": {"distance_km": 4}}}]},
    "POST /api/builds/{id}/rides/file": lambda v: RIDES,
    "POST /api/builds/{id}/rides/tracks": lambda v: b"time,speed\n0,1\n1,2\n2,3\n",
    "POST /api/builds/{id}/maintenance": lambda v: {"document": SPIT_RUNNER},
    "POST /api/builds/{id}/maintenance/done": lambda v: {"document": SPIT_RUNNER, "done": SEEN},
    "POST /api/builds/{id}/review": lambda v: {"document": SPIT_RUNNER},
    "POST /api/builds/{id}/controller": lambda v: {"kind": "read"},
    "POST /api/builds/{id}/controller/diff": lambda v: {"settings": SET},
    "POST /api/builds/{id}/controller/write": lambda v: {"settings": [SET], "seen": [{}], "reason": "theirs"},
    "PUT /api/parts/{id}": lambda v: {"record": {"name": "Theirs", "length_mm": 900}, "before": {}},
}
QUERIES = {
    "POST /api/builds/{id}/controller-settings/{number}/files": "?name=note.txt",
    "POST /api/builds/{id}/assembly/photos": f"?entry={PHOTO}",
}
FIXED = {"which": "enclosure", "kind": "stl", "pattern": "net", "day": TODAY, "one": 1, "other": 1, "number": 1}
OPERATIONS = [
    (method.upper(), path) for path, methods in DOCUMENT["paths"].items() for method in methods if "{" in path
]


@pytest.fixture(scope="module")
def everything(django_db_setup, django_db_blocker) -> Iterator[tuple[Workshop, dict]]:
    """Made once, within a transaction that is taken back at the end of the module."""
    with django_db_blocker.unblock(), transaction.atomic(), override_settings(PASSWORD_HASHERS=QUICK):
        yield with_everything(Workshop("plover"))
        transaction.set_rollback(True)


@pytest.fixture
def victim(everything, db) -> tuple[Workshop, dict]:
    """Somebody who has everything; what a test does to it is taken back after the test."""
    return everything


def with_everything(workshop: Workshop) -> tuple[Workshop, dict]:
    """Something of everything that a person can have, by the names under which addresses ask for it."""
    build = workshop.new({**BOXED, "pack_assembly": {"cells": [{"id": "a1", "capacity_ah": 2.4}]}})
    at = f"/builds/{build['id']}"
    revision = workshop.send("POST", f"{at}/revisions", {"name": "Planned"}).json()
    assert (
        workshop.send(
            "POST", f"{at}/controller-settings", {"settings": SET, "on": TODAY, "reason": "first"}
        ).status_code
        == 200
    )
    workshop.ask(f"{at}/controller-settings/1/files?name=note.txt", b"the jumper on 10")
    workshop.send("PATCH", f"{at}/bench-test", DONE)
    workshop.send("POST", f"{at}/bench-test", {"on": TODAY})
    workshop.send("PATCH", f"{at}/bench-test", DONE)
    taken = {"kind": "photographed", "id": PHOTO, "at": AT, "step": "lay-out"}
    wish = {"kind": "wished", "id": WISH, "at": AT, "why": "taller", "changes": {"parts.drive.motor_teeth": 14}}
    workshop.send("POST", f"{at}/assembly", {"entries": [taken, wish]})
    workshop.ask(f"{at}/assembly/photos?entry={PHOTO}", photo())
    rode = {"id": RIDE, "day": TODAY, "way": {"distance_km": 12}, "pack": {"ended": "cut_off"}}
    workshop.send("POST", f"{at}/rides", {"rides": [{"ride": rode}]})
    brought = workshop.ask(f"{at}/rides/tracks?name=wall.gpx", gpx(ridden([5.0] * 300)))
    way = workshop.ask("/trip/route?name=wall.gpx", gpx(ridden([5.0] * 300)))
    part = workshop.send("POST", "/parts", {"kind": "deck", "record": {"name": "Plank", "length_mm": 900}}).json()
    job = workshop.ask("/proposals", {"document": {**SPIT_RUNNER, "parts": {}, "settings": {}}})
    command = ControllerCommand.objects.create(build_id=build["id"], asked_by=workshop.user, kind="read", state="done")
    found = {
        "build": build["id"],
        "revision": build["revision"],
        "revision_id": revision["id"],
        "file": str(Attachment.objects.get().pk),
        "photo": str(Photo.objects.get().pk),
        "ride": RIDE,
        "track": str(Track.objects.get().pk),
        "brought": brought["id"],
        "way": way["id"],
        "part": part["id"],
        "job": job["id"],
        "command": str(command.pk),
    }
    return workshop, found


def address(path: str, found: dict) -> str:
    ids = {"parts": "part", "jobs": "job", "proposals": "job", "builds": "build", "assembly": "photo"}
    filled = {**FIXED, **found, "id": found[ids.get(path.split("/")[2], "build")]}
    if "track-imports" in path:
        filled["job"] = found["brought"]
    if path.startswith("/api/trip/route/"):
        filled["job"] = found["way"]
    if path.endswith(".{kind}") and "pattern" in path:
        filled["kind"] = "svg"
    return path.format(**filled)


def kept() -> str:
    """All that stands in the database and belongs to somebody, as text."""
    left = {"Session", "Count", "DBTaskResult", "Permission", "ContentType"}
    models = [m for m in apps.get_models() if m.__name__ not in left]
    return "".join(serializers.serialize("json", m._default_manager.order_by("pk")) for m in models)


def send(client: Client, method: str, path: str, found: dict):
    name = f"{method} {path}"
    body = BODIES[name](found) if name in BODIES else None
    data = body if isinstance(body, bytes) else json.dumps(body)
    return client.generic(method, address(path, found) + QUERIES.get(name, ""), data, content_type="application/json")


@pytest.mark.parametrize(("method", "path"), OPERATIONS, ids=[f"{m} {p.removeprefix('/api')}" for m, p in OPERATIONS])
def test_somebody_elses_is_not_here_and_nobody_is_let_in(victim, other_workshop, method, path):
    """Asked by a stranger it is not there, by nobody the door is closed, and both change nothing; its owner has it."""
    workshop, found = victim
    before = kept()
    stranger = send(other_workshop.client, method, path, found)
    assert stranger.status_code == 404, stranger.content[:300]
    assert set(stranger.json()) == {"message", "faults"}
    assert send(Client(), method, path, found).status_code == 401
    assert kept() == before
    owner = send(workshop.client, method, path, found)
    assert owner.status_code in (200, 202, 204, 409), owner.content[:300]


def test_boards_are_compared_with_ones_own_alone(victim, other_workshop):
    _, found = victim
    mine = other_workshop.new()["id"]
    assert other_workshop.send("GET", f"/compare?refs={mine},{found['build']}").status_code in (404, 422)
