"""The demonstration: a warden on an invented island, the boards, and the shared library of invented parts."""

import copy
import json
from datetime import UTC, date, datetime, time
from typing import Any, cast
from uuid import NAMESPACE_URL, uuid5

from django.contrib.auth import get_user_model
from django.db import transaction

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import read_build, write_board
from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.settings import Settings
from boardmath.geometry.shapes import View
from boardmath.parts.part_types import KINDS
from planner.assembly.plan import assembly
from planner.first_ride.plan import first_ride
from planner.shared.facts import facts_of
from planner.shared.log import ENTRY
from server.assembly import services as works
from server.assembly.models import Photo
from server.bench_test import services as benchtests
from server.boards.models import Build
from server.boards.services import create, document_of
from server.controller_settings.services import write_down
from server.demo import drawn
from server.demo.entry import BUILDS, DATA, DEMO_NAME, demo_user
from server.library.models import Part
from server.library.services import COLUMNS, add, part_model
from server.pictures import made_small
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.rides import services as rides
from server.rides import tracks
from server.users import Person


@transaction.atomic
def load() -> None:
    """The library, the warden, the three builds and how they came to be what they are."""
    load_library()
    user = get_user_model().objects.create_user(DEMO_NAME)
    # The list of boards shows the latest first; the story begins with the oldest.
    for path in BUILDS:
        build = create(user, read_build(path.read_bytes()))
        for told in json.loads((DATA / "revisions.json").read_text()):
            if told["build"] == path.name:
                document = _earlier(build.document, told["changes"])
                kept = Revision.objects.create(build=build, name=told["name"], note=told["note"], document=document)
                at = datetime.combine(date.fromisoformat(told["on"]), time(18), tzinfo=UTC)
                Revision.objects.filter(pk=kept.pk).update(created_at=at)
        _on_the_stand(user, build, path.name)
        _at_the_bench(build, path.name)
        _on_the_road(user, build, path.name)
    for own in json.loads((DATA / "own-parts.json").read_text())["parts"]:
        add(user, own["kind"], own["record"])


def _on_the_stand(user: Person, build: Build, name: str) -> None:
    """What was set in the controller and what was tested then, day by day."""
    told = [
        (told["on"], what, told)
        for what in ("settings-records", "bench-tests")
        for told in json.loads((DATA / f"{what}.json").read_text())
        if told["build"] == name
    ]
    for day, what, said in sorted(told, key=lambda t: (t[0], t[1] != "settings-records")):
        on = date.fromisoformat(day)
        if what == "settings-records":
            values = Settings(**{**build.document.get("settings", {}), **said["changes"]})
            write_down(user, build.pk, values, on, said["by"], said["reason"], EndPoints(**said["end_points"]))
        else:
            benchtests.enter(user, build.pk, said["entered"])
            benchtests.keep(user, build.pk, on, said["by"])


def _at_the_bench(build: Build, name: str) -> None:
    """The log of the work, as it was written beside the board; what a tick stood on is what the board was then."""
    now = document_of(build)
    points = {r.name: revisions.document_of(r) for r in Revision.objects.filter(build=build)}
    for number, told in enumerate(json.loads((DATA / "log.json").read_text())):
        said = {key: value for key, value in told.items() if key not in ("build", "photo", "then")}
        if told["build"] != name:
            continue
        was = points[told["then"]] if "then" in told else now
        said |= {
            "id": str(uuid5(NAMESPACE_URL, f"sand-pocket:{name}:{number}")),
            "at": f"{told['at']}:00Z",
            "by": DEMO_NAME,
        }
        if told["kind"] in ("done", "still_right"):
            step = next((s for s in [*assembly(was), *first_ride(was)] if s.id == told["step"]), None)
            said["facts"] = facts_of(was, step.touches) if step is not None else {}
        entry = ENTRY.validate_python(said)
        works.put(build, [entry])
        if "photo" in told:
            data = _photo(was, told["photo"], number)
            Photo.objects.create(
                build=build, entry=entry.id, kind="image/jpeg", size=len(data), data=data, small=made_small(data)
            )


def _on_the_road(user: Person, build: Build, name: str) -> None:
    """The season of the ridden board, made by scripts/season.py, and the track of an evening."""
    told = json.loads((DATA / "rides.json").read_text())
    if told["build"] != name:
        return
    sent = []
    for number, ride in enumerate(told["rides"]):
        id = uuid5(NAMESPACE_URL, f"sand-pocket:{name}:ride:{number}")
        if track := ride.pop("track", None):
            kept = tracks.bring(user, build.pk, track, (DATA / track).read_bytes(), None).track
            assert kept is not None
            kept.name, kept.ride = "evening-along-the-wall.json", id
            kept.save()
        sent.append({**ride, "id": str(id)})
    taken = rides.add(user, build.pk, sent)
    assert not taken.refused, taken.refused


def _photo(build: BuildDocument, what: str, seed: int) -> bytes:
    kind, _, name = what.partition(":")
    if kind == "view":
        return drawn.of_the_board(build, cast(View, name), seed)
    step = next(s for s in assembly(build) if s.id == name)
    assert step.picture is not None
    return drawn.of_a_step(step.picture, seed)


def _earlier(document: dict[str, Any], changes: dict[str, Any]) -> dict[str, Any]:
    """The build as it was: dotted paths set, or taken away by None."""
    earlier = copy.deepcopy(document)
    for path, value in changes.items():
        *way, last = path.split(".")
        node: Any = earlier
        for step in way:
            node = node[int(step)] if isinstance(node, list) else node[step]
        key: Any = int(last) if isinstance(node, list) else last
        if value is None:
            node.pop(key, None)
        else:
            node[key] = value
    return write_board(read_build(earlier))


def load_library() -> None:
    """The shared parts, each checked by the core's model of its kind."""
    library = json.loads((DATA / "library.json").read_text())
    parts = []
    for kind in KINDS:
        for record in library.get(kind, []):
            columns = {key: record[key] for key in COLUMNS if key in record}
            figures = {key: value for key, value in record.items() if key not in COLUMNS}
            part = Part(kind=kind, figures=figures, currency=columns.pop("currency", "EUR"), **columns)
            part_model(part)
            parts.append(part)
    Part.objects.bulk_create(parts, ignore_conflicts=True)


@transaction.atomic
def remove() -> None:
    """The warden with everything theirs, and the shared library."""
    user = demo_user()
    if user is not None:
        Build.objects.filter(owner=user).delete()
        user.delete()
    Part.objects.filter(owner=None).delete()
