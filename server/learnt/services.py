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
from boardmath.learnt.posterior import OfTheRider, contradicting, learn, of_the_rider, together
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
    """A build of a person, saved or not, with what rides taught laid in: those of this board, and of the rider's others."""
    return Rider(owner).taught(board, file)


def all_taught(owner: Person, boards: Sequence[Build], files: Sequence[BuildFile]) -> list[BuildFile]:
    """The same of many boards of one person."""
    rider = Rider(owner)
    return [rider.taught(b.pk, f) for b, f in zip(boards, files, strict=True)]


def odd_days(owner: Person, boards: Sequence[Build]) -> dict[UUID, list[str]]:
    """Days of rides that contradict the others, by board, as far as they were learnt from."""
    return dict(Lesson.objects.filter(build__in=boards, build__owner=owner).values_list("build_id", "odd"))


class Rider:
    """A person with the boards that they rode; what each board says of the rider is looked up once."""

    def __init__(self, owner: Person):
        self.owner = owner
        self.boards = rides.of_the_person(owner)
        self.lessons = (
            {one.build_id: one for one in Lesson.objects.filter(build__in=self.boards)} if self.boards else {}
        )

    def taught(self, board: UUID | None, file: BuildFile) -> BuildFile:
        """A build with what rides taught laid in."""
        own = next((b for b in self.boards if b.pk == board), None)
        learnt = None
        if own is not None:
            said = self.lesson(own).taught
            learnt = Learnt.model_validate(said) if said else None
        elif self.boards:
            learnt = self._along(file)
        return file.model_copy(update={"learnt": learnt})

    def lesson(self, build: Build, fresh: bool = False) -> Lesson:
        """What a board's rides taught; learnt anew where they changed, or where ``fresh`` is asked for."""
        others = [b for b in self.boards if b.pk != build.pk]
        key = _key(build, others)
        known = self.lessons.get(build.pk)
        if known is not None and known.key == key and not fresh:
            return known
        file = read_build(build.document)
        ridden = rides.ridden(rides.kept(build, file))
        said: dict[str, object] = {"key": key, "taught": None, "own": None, "odd": []}
        try:
            own, boards = self.along(build.pk, resolve(file.model_copy(update={"learnt": None})).inputs)
            alone = learn(file, ridden)
            lesson = learn(file, ridden, own) if own is not None else alone
            if lesson is not None and alone is not None:
                learnt = written(lesson.joint, lesson.usual.inputs, len(lesson.seen), boards)
                said["taught"] = learnt.model_dump(mode="json", exclude_none=True)
                said["own"] = _said(of_the_rider(alone))
                said["odd"] = contradicting(lesson)
        except Incomplete:
            pass
        self.lessons[build.pk] = Lesson.objects.update_or_create(build=build, defaults=said)[0]
        return self.lessons[build.pk]

    def along(self, board: UUID | None, usual: Mapping[str, Input]) -> tuple[Joint | None, list[str]]:
        """What the rider's other boards say of the rider on a board whose inputs are ``usual``, and their names.

        Each says what its own rides alone gave, so that nothing that one board learnt from another comes back to it.
        """
        found, names = [], []
        for build in self.boards:
            lesson = self.lessons.get(build.pk)
            if build.pk == board:
                continue
            if lesson is None:
                lesson = Rider.of_one(self.owner, build)
                self.lessons[build.pk] = lesson
            if lesson.own:
                said = lesson.own
                joint = Joint(tuple(said["names"]), np.array(said["mean"]), np.array(said["covariance"]))
                found.append(OfTheRider(joint, tuple(said["spread"])))
                names.append(str(build))
        return together(found, usual), names

    @staticmethod
    def of_one(owner: Person, build: Build) -> Lesson:
        """What a board's rides taught by themselves, where nothing is known of them yet."""
        rider = Rider.__new__(Rider)
        rider.owner, rider.boards, rider.lessons = owner, [build], {}
        return rider.lesson(build)

    def _along(self, file: BuildFile) -> Learnt | None:
        """What goes along to a board that nobody has ridden yet."""
        try:
            inputs = resolve(file.model_copy(update={"learnt": None})).inputs
        except Incomplete:
            return None
        joint, names = self.along(None, inputs)
        return written(joint, inputs, 0, names) if joint is not None else None


def _key(build: Build, others: Sequence[Build]) -> str:
    """From what a lesson was made: rides and points of this board, and what other boards say of the rider."""
    points = Revision.objects.filter(build=build).aggregate(n=Count("id"), last=Max("created_at"))
    ridden = (
        Ride.objects.filter(build__in=[build, *others]).values("build").annotate(n=Count("id"), last=Max("updated_at"))
    )
    logged = build.log.filter(kind__in=("rode", "taken_back")).count()
    of_rides = sorted((str(r["build"]), r["n"], str(r["last"])) for r in ridden)
    said = [RULES, of_rides, points["n"], str(points["last"]), logged]
    return hashlib.sha256(json.dumps(said).encode()).hexdigest()


def _said(own: OfTheRider) -> dict[str, object]:
    joint = own.joint
    return {
        "names": list(joint.names),
        "spread": list(own.spread),
        "mean": joint.mean.tolist(),
        "covariance": joint.covariance.tolist(),
    }


def report(owner: Person, build_id: UUID) -> tuple[list[rides.Kept], LearntReport]:
    """What the rides of a board taught, learnt anew where it or they changed; the rides in the order in which it counts them."""
    build = builds.get(owner, build_id)
    rider = Rider(owner)
    file = read_build(build.document)
    kept = rides.kept(build, file)
    if all(b.pk != build.pk for b in rider.boards):
        return kept, _told(rider, build, file, kept)
    told_of = f"{_key(build, [b for b in rider.boards if b.pk != build.pk])}:{build.revision}"
    known = rider.lessons.get(build.pk)
    if known is not None and known.told_of == told_of and known.report is not None:
        return kept, LearntReport.model_validate(known.report)
    lesson = rider.lesson(build, fresh=True)
    found = _told(rider, build, file, kept)
    Lesson.objects.filter(pk=lesson.pk).update(report=found.model_dump(mode="json"), told_of=told_of)
    return kept, found


def _told(rider: Rider, build: Build, file: BuildFile, kept: Sequence[rides.Kept]) -> LearntReport:
    try:
        joint, names = rider.along(build.pk, resolve(file.model_copy(update={"learnt": None})).inputs)
    except Incomplete:
        joint, names = None, []
    return learnt_report(file, rides.ridden(kept), joint, names)
