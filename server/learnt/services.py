"""What rides taught of a board: learnt when they change, kept, and laid into every build that is asked about."""

import hashlib
import json
from collections.abc import Mapping, Sequence
from uuid import UUID

import numpy as np
from django.db.models import Count, Max

from boardmath.buildfile import Build as BuildFile
from boardmath.buildfile import read_build
from boardmath.buildfile.learnt import Learnt
from boardmath.evidence import Joint, written
from boardmath.inputs import Input
from boardmath.learnt.posterior import OfTheRider, learn, of_the_rider, together
from boardmath.learnt.report import LearntReport, learnt_report
from boardmath.parameters import Incomplete, resolve
from server.learnt.models import Lesson
from server.people import Person
from server.revisions.models import Revision
from server.rides import services as rides
from server.rides.models import Ride
from server.shelf import services as builds
from server.shelf.models import Build

RULES = "1"
"""Raised where the same rides would teach something else."""


def taught(owner: Person, board: UUID | None, file: BuildFile) -> BuildFile:
    """A build of a person with what rides taught laid in: those of this board, and of the rider's others. It need not be
    saved.
    """
    return _taught(owner, rides.of_the_person(owner), board, file)


def _taught(owner: Person, mine: Sequence[Build], board: UUID | None, file: BuildFile) -> BuildFile:
    if not mine:
        return file.model_copy(update={"learnt": None})
    own = next((b for b in mine if b.pk == board), None)
    others = [b for b in mine if b is not own]
    if own is not None:
        lesson = _lesson(owner, own, others)
        learnt = Learnt.model_validate(lesson.taught) if lesson.taught else None
        return file.model_copy(update={"learnt": learnt})
    return file.model_copy(update={"learnt": _along(file, others)})


def all_taught(owner: Person, boards: Sequence[Build], files: Sequence[BuildFile]) -> list[BuildFile]:
    """The same of many boards of one person."""
    mine = rides.of_the_person(owner)
    return [_taught(owner, mine, b.pk, f) for b, f in zip(boards, files, strict=True)]


def _key(build: Build, others: Sequence[Build]) -> str:
    """From what a lesson was made: rides and points of this board, and what other boards say of the rider."""
    points = Revision.objects.filter(build=build).aggregate(n=Count("id"), last=Max("created_at"))
    ridden = (
        Ride.objects.filter(build__in=[build, *others]).values("build").annotate(n=Count("id"), last=Max("updated_at"))
    )
    logged = build.log.filter(kind__in=("rode", "taken_back")).count()
    said = [
        RULES,
        sorted((str(r["build"]), r["n"], str(r["last"])) for r in ridden),
        points["n"],
        str(points["last"]),
        logged,
    ]
    return hashlib.sha256(json.dumps(said).encode()).hexdigest()


def _lesson(owner: Person, build: Build, others: Sequence[Build], fresh: bool = False) -> Lesson:
    """What a board's rides taught; learnt anew where they changed, or where ``fresh`` is asked for."""
    key = _key(build, others)
    known = Lesson.objects.filter(build=build).first()
    if known is not None and known.key == key and not fresh:
        return known
    file = read_build(build.document)
    ridden = rides.ridden(rides.kept(build, file))
    said: dict[str, object] = {"key": key, "taught": None, "own": None}
    try:
        own, boards = _riders(owner, others, resolve(file.model_copy(update={"learnt": None})).inputs)
        alone = learn(file, ridden)
        lesson = learn(file, ridden, own) if own is not None else alone
        if lesson is not None and alone is not None:
            learnt = written(lesson.joint, lesson.usual.inputs, len(lesson.seen), boards)
            said["taught"] = learnt.model_dump(mode="json", exclude_none=True)
            said["own"] = _said(of_the_rider(alone))
    except Incomplete:
        pass
    return Lesson.objects.update_or_create(build=build, defaults=said)[0]


def _said(own: OfTheRider) -> dict[str, object]:
    joint = own.joint
    return {
        "names": list(joint.names),
        "spread": list(own.spread),
        "mean": joint.mean.tolist(),
        "covariance": joint.covariance.tolist(),
    }


def _riders(owner: Person, others: Sequence[Build], usual: Mapping[str, Input]) -> tuple[Joint | None, list[str]]:
    """What the rider's other boards say of the rider, each by its own rides alone."""
    kept = {one.build_id: one for one in Lesson.objects.filter(build__in=others)}
    found, names = [], []
    for build in others:
        # What one board learns may come from another: only what its own rides gave counts here, so that nothing goes in a circle.
        lesson = kept.get(build.pk) or _lesson(owner, build, [])
        if lesson.own:
            said = lesson.own
            joint = Joint(tuple(said["names"]), np.array(said["mean"]), np.array(said["covariance"]))
            found.append(OfTheRider(joint, tuple(said["spread"])))
            names.append(str(build))
    return together(found, usual), names


def _along(file: BuildFile, others: Sequence[Build]) -> Learnt | None:
    """What goes along to a board that nobody has ridden yet."""
    if not others:
        return None
    try:
        inputs = resolve(file.model_copy(update={"learnt": None})).inputs
    except Incomplete:
        return None
    joint, names = _riders(others[0].owner, others, inputs)
    return written(joint, inputs, 0, names) if joint is not None else None


def report(owner: Person, build_id: UUID) -> tuple[list[rides.Kept], LearntReport]:
    """What the rides of a board taught, learnt anew; the rides in the order in which the report counts them."""
    build = builds.get(owner, build_id)
    mine = rides.of_the_person(owner)
    others = [b for b in mine if b.pk != build.pk]
    if any(b.pk == build.pk for b in mine):
        _lesson(owner, build, others, fresh=True)
    file = read_build(build.document)
    kept = rides.kept(build, file)
    try:
        joint, names = _riders(owner, others, resolve(file.model_copy(update={"learnt": None})).inputs)
    except Incomplete:
        joint, names = None, []
    return kept, learnt_report(file, rides.ridden(kept), joint, names)
