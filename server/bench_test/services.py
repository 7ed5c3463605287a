"""Bench tests: one under way for each board, and those that were kept, as they were judged then."""

import copy
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal

from django.db import transaction
from django.db.models import Max
from django.http import Http404

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFileError, Fault, check
from boardmath.buildfile.bench_test import BenchTest as Entered
from boardmath.buildfile.bench_test import EndPoints
from boardmath.buildfile.controllers import controllers, motors_each
from planner.bench_test import BenchTestReport, report_on
from server.bench_test.models import BenchTest
from server.boards import services as builds
from server.boards.models import Build
from server.calibration.services import board_as_it_is
from server.controller.models import ControllerCommand
from server.controller_settings.models import SettingsRecord
from server.controller_settings.services import as_set
from server.errors import ApiError
from server.users import Key, Person

MOST_TESTS = 200
MOST_MOTORS = 4
TRIES: dict[str, Literal["run", "cut_off", "lose_remote"]] = {
    **dict.fromkeys(("directions", "alike", "free_speed", "free_current", "brake"), "run"),
    "cut_off": "cut_off",
    "lost_link": "lose_remote",
}
"""By step, the command on which the controllers find out what is entered there."""


def under_way(owner: Person, build_id: Key) -> BenchTest:
    """The test that is under way; an empty one where none is begun."""
    build = builds.get(owner, build_id)
    return BenchTest.objects.filter(build=build, number=None).first() or BenchTest(build=build)


def kept(owner: Person, build_id: Key) -> list[BenchTest]:
    """Those that were kept, the oldest first."""
    return list(BenchTest.objects.filter(build=builds.get(owner, build_id)).exclude(number=None))


def get(owner: Person, build_id: Key, number: int) -> BenchTest:
    """A kept test by its number."""
    found = BenchTest.objects.filter(build=builds.get(owner, build_id), number=number).first()
    if found is None:
        raise Http404
    return found


def judged(test: BenchTest) -> BenchTestReport:
    """A test against the board as it is now."""
    file, records = as_it_is(test.build)
    return judged_on(file, records[-1] if records else None, records, test)


def as_it_is(build: Build) -> tuple[BuildDocument, list[SettingsRecord]]:
    """The board with what rides taught, and what its controller was set to, the latest last."""
    return board_as_it_is(build.owner, build), list(SettingsRecord.objects.filter(build=build))


def judged_on(
    file: BuildDocument, latest: SettingsRecord | None, records: Sequence[SettingsRecord], test: BenchTest
) -> BenchTestReport:
    """A test against a board with what its controller was last set to; asks the database nothing."""
    points = next((s.end_points for s in reversed(records) if s.end_points), None)
    on_board = as_set(file, latest) if latest is not None else file
    return report_on(on_board, check(Entered, test.entered), check(EndPoints, points) if points else None)


def no_longer_on(
    file: BuildDocument, latest: SettingsRecord | None, records: Sequence[SettingsRecord], test: BenchTest
) -> list[str]:
    """Titles of the steps that a kept test passed and would not pass on a board with what its controller was last set to."""
    still = {s.key for s in judged_on(file, latest, records, test).steps if s.verdict == "passes"}
    return [
        s["title"]
        for s in (test.report or {"steps": []})["steps"]
        if s["verdict"] == "passes" and s["key"] not in still
    ]


@dataclass(frozen=True)
class Overtaken(Exception):
    """Another device entered something else at ``paths`` since. Nothing was kept of the call."""

    paths: list[str]


@transaction.atomic
def enter(owner: Person, build_id: Key, changes: Mapping[str, Any], was: Mapping[str, Any] | None = None) -> BenchTest:
    """Enters single findings of the test under way, so that two who test together do not overwrite each other.

    Args:
        changes: by dotted path, such as ``motors.0.erpm``; None takes an entry away.
        was: what stood at a path when it was entered; where something else stands by now, nothing is entered.

    Raises:
        BuildFileError: an entry that cannot be; nothing is kept of this call.
        Overtaken: two entered one thing differently.
    """
    build = builds.get(owner, build_id)
    Build.objects.select_for_update().get(pk=build.pk)
    test = under_way(owner, build_id)
    entered = copy.deepcopy(test.entered)
    standing = {path: _found(entered, path) for path in (was or {}) if path in changes}
    overtaken = [p for p, now in standing.items() if now not in ((was or {})[p], changes[p])]
    if overtaken:
        raise Overtaken(overtaken)
    for path, value in changes.items():
        _put(entered, path, value)
    check(Entered, entered)
    test.entered = entered
    test.save()
    return test


def _found(entered: dict[str, Any], path: str) -> Any:
    node: Any = entered
    for key in path.split("."):
        try:
            node = node[int(key)] if isinstance(node, list) else node.get(key)
        except (IndexError, ValueError):
            return None
        if node is None:
            return None
    return node


def _put(entered: dict[str, Any], path: str, value: Any) -> None:
    match path.split("."):
        case ["motors", number, key] if number.isdecimal() and int(number) < MOST_MOTORS:
            motors = entered.setdefault("motors", [])
            motors.extend({} for _ in range(int(number) + 1 - len(motors)))
            node = motors[int(number)]
        case ["left_out", key]:
            node = entered.setdefault("left_out", {})
        case [key]:
            node = entered
        case _:
            raise BuildFileError([Fault(path[:60], "there is no such entry")])
    if value is None:
        node.pop(key, None)
    else:
        node[key] = value


def found_by(command: ControllerCommand, entered: Mapping[str, Any]) -> dict[str, Any]:
    """What a finished command says of the board on the stand, as entries of a test; a meter counts before the controller.

    Raises:
        ApiError: it has not ended well, or it looks at something else.
    """
    result = command.result or {}
    if command.state != ControllerCommand.State.DONE or command.kind not in TRIES.values():
        raise ApiError(
            "That does not concern the board on the stand.", command="a run, a cut-off or a lost remote that ended"
        )
    if command.kind == "cut_off":
        # Of several controllers the one that lets the pack go lowest counts.
        lowest = min(result["cut_off"], key=lambda c: c["ends_v"])
        return {"cut_off_begins_v": lowest["begins_v"], "cut_off_ends_v": lowest["ends_v"]}
    if command.kind == "lose_remote":
        slowest = max(result["lost"], key=lambda lost: lost["after_ms"])
        does = {"release": "lets_go", "brake_gently": "brakes_gently"}.get(slowest["does"], "keeps_running")
        return {"lost_link": does, "lost_after_s": round(slowest["after_ms"] / 1000.0, 3)}
    runs, file = result["runs"], builds.document_of(command.build)
    found: dict[str, Any] = {
        "pack_v": entered.get("pack_v") or min(r["rest_v"] for r in runs),
        "stopped_in_s": max(r["stopped_in_s"] for r in runs),
    }
    if len(runs) >= controllers(file):  # one of several tells only its share
        found["pack_current_a"] = round(sum(r["steady"]["pack_a"] for r in runs), 2)
    first = (command.unit or 0) * motors_each(file)
    for number, motor in enumerate((m for r in runs for m in r["steady"]["motors"]), first):
        found |= {
            f"motors.{number}.erpm": round(abs(motor["erpm"])),
            f"motors.{number}.current_a": abs(motor["current_a"]),
        }
        if turns := motor.get("turns"):
            found[f"motors.{number}.forward"] = turns == "forward"
    return found


@transaction.atomic
def keep(owner: Person, build_id: Key, on: date, by: str) -> BenchTest:
    """Keeps the test under way as it is judged now; the next one begins empty.

    Raises:
        ApiError: nothing was looked at, or too many are kept.
    """
    build = builds.get(owner, build_id)
    Build.objects.select_for_update().get(pk=build.pk)
    test = under_way(owner, build_id)
    file, records = as_it_is(build)
    record = records[-1] if records else None
    report = judged_on(file, record, records, test)
    if report.standing == "not begun":
        raise ApiError("No step was done yet.", entered="at least one step")
    last = BenchTest.objects.filter(build=build).aggregate(last=Max("number"))["last"] or 0
    if last >= MOST_TESTS:
        raise ApiError(f"A board keeps {MOST_TESTS} bench tests. Duplicate the build, and continue with the copy.")
    test.number, test.on, test.by = last + 1, on, by.strip()[:60]
    test.report = report.model_dump(mode="json", exclude_none=True)
    test.build_revision, test.record_number = build.revision, record.number if record else None
    test.save()
    return test


def drop(owner: Person, build_id: Key) -> None:
    """Begins anew: what was entered of the test under way is gone."""
    BenchTest.objects.filter(build=builds.get(owner, build_id), number=None).delete()
