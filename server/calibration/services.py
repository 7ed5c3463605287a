"""What rides taught of a board: learnt when they change, kept, and laid into every build that is asked about."""

import hashlib
import json
from collections.abc import Mapping, Sequence
from typing import Any, TypeVar
from uuid import UUID

import numpy as np
from django.apps import apps
from django.db.models import Count, F, Max, Value

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFile
from boardmath.buildfile.calibration import Calibration
from boardmath.calibration.learning import OfTheRider, contradicting, learn, of_the_rider, together
from boardmath.calibration.report import CalibrationReport, calibration_report
from boardmath.messages import Message
from boardmath.model.inputs import Input
from boardmath.model.posterior import MultivariateNormal, written
from boardmath.model.resolution import Incomplete, resolve
from server.boards import services as builds
from server.boards.models import Build
from server.boards.schemas import DocumentIn, FileIn
from server.calibration.models import Lesson
from server.revisions.models import Revision
from server.rides import services as rides
from server.rides.models import Ride
from server.users import Person, PersonRequest

B = TypeVar("B", bound=BuildDocument)
"""A board, or a whole build file."""
RULES = "3"
"""Raised where the same rides would teach something else."""


def taught(owner: Person, board: UUID | None, file: B) -> B:
    """A build of a person, saved or not, with what rides taught laid in: those of this board, and of the rider's others."""
    return Rider(owner).taught(board, file)


def board_in(request: PersonRequest, payload: DocumentIn) -> BuildDocument:
    """The board that is asked about, saved or not, with what rides taught."""
    return taught(request.user, payload.board, payload.document)


def file_in(request: PersonRequest, payload: FileIn) -> BuildFile:
    """The same of a whole build file."""
    return taught(request.user, payload.board, payload.document)


def board_as_it_is(owner: Person, build: Build) -> BuildDocument:
    """A saved board with what rides taught: what every page and paper of it takes its figures from."""
    return taught(owner, build.pk, builds.document_of(build))


def all_taught(owner: Person, boards: Sequence[Build], files: Sequence[B]) -> list[B]:
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
        self.lessons: dict[UUID, Lesson] = {}
        self.stamps: dict[UUID, list[str]] = {}
        if self.boards:
            self.lessons = {one.build_id: one for one in Lesson.objects.filter(build__in=self.boards)}
            self.stamps = _stamps(self.boards)

    def taught(self, board: UUID | None, file: B) -> B:
        """A build with what rides taught laid in."""
        own = next((b for b in self.boards if b.pk == board), None)
        calibration = None
        if own is not None:
            said = self.lesson(own).taught
            calibration = Calibration.model_validate(said) if said else None
        elif self.boards:
            calibration = self._along(file)
        return file.model_copy(update={"calibration": calibration})

    def key(self, build: Build) -> str:
        """From what a lesson is made: the rides and points of this board, and those of the rider's others."""
        others = sorted(str(stamp) for id, stamp in self.stamps.items() if id != build.pk)
        return _digest([RULES, self.stamps[build.pk], others])

    def lesson(self, build: Build, fresh: bool = False) -> Lesson:
        """What a board's rides taught; learnt anew where they changed, or where ``fresh`` is asked for."""
        key, known = self.key(build), self.lessons.get(build.pk)
        if known is not None and known.key == key and not fresh:
            return known
        file = builds.document_of(build)
        said: dict[str, object] = {"key": key, "taught": None, "odd": []}
        try:
            own, boards = self.along(build.pk, resolve(file.model_copy(update={"calibration": None})).inputs)
            lesson = learn(file, rides.ridden(rides.kept(build, file)), own)
            if lesson is not None:
                calibration = written(lesson.joint, lesson.usual.inputs, len(lesson.seen), file, boards)
                said["taught"] = calibration.model_dump(mode="json", exclude_none=True)
                said["odd"] = contradicting(lesson)
        except Incomplete:
            pass
        self.lessons[build.pk] = Lesson.objects.update_or_create(build=build, defaults=said)[0]
        return self.lessons[build.pk]

    def along(self, board: UUID | None, usual: Mapping[str, Input]) -> tuple[MultivariateNormal | None, list[str]]:
        """What the rider's other boards say of the rider on a board whose inputs are ``usual``, and their names.

        Each says what its own rides alone gave, so that nothing that one board learnt from another comes back to it.
        """
        found, names = [], []
        for build in self.boards:
            own = self._own(build) if build.pk != board else None
            if own:
                joint = MultivariateNormal(tuple(own["names"]), np.array(own["mean"]), np.array(own["covariance"]))
                found.append(OfTheRider(joint, tuple(own["spread"])))
                names.append(str(build))
        return together(found, usual), names

    def _own(self, build: Build) -> Any:
        """What a board's rides by themselves say of the rider; None where they say nothing."""
        key, known = _digest([RULES, self.stamps[build.pk]]), self.lessons.get(build.pk)
        if known is not None and known.own_key == key:
            return known.own
        file = builds.document_of(build)
        try:
            alone = learn(file, rides.ridden(rides.kept(build, file)))
        except Incomplete:
            alone = None
        said = {"own_key": key, "own": _said(of_the_rider(alone)) if alone is not None else None}
        self.lessons[build.pk] = Lesson.objects.update_or_create(build=build, defaults=said)[0]
        return self.lessons[build.pk].own

    def _along(self, file: BuildDocument) -> Calibration | None:
        """What goes along to a board that nobody has ridden yet."""
        try:
            inputs = resolve(file.model_copy(update={"calibration": None})).inputs
        except Incomplete:
            return None
        joint, names = self.along(None, inputs)
        return written(joint, inputs, 0, file, names) if joint is not None else None


def _stamps(boards: Sequence[Build]) -> dict[UUID, list[str]]:
    """Of each board how many rides, points and log entries of rides there are, and when the last of them changed."""
    found: dict[UUID, list[str]] = {b.pk: [] for b in boards}
    logged = apps.get_model("assembly", "LogEntry")._default_manager.filter(kind__in=("rode", "taken_back"))
    counted, *others = (
        rows.filter(build__in=boards)
        .order_by()
        .values(of=Value(when), board=F("build"))
        .annotate(n=Count("pk"), last=Max(when))
        .values_list("board", "of", "n", "last")
        for rows, when in (
            (Ride.objects.all(), "updated_at"),
            (Revision.objects.all(), "created_at"),
            (logged, "received_at"),
        )
    )
    # One question for all three: every prediction asks it.
    for id, of, n, last in sorted(counted.union(*others, all=True)):
        found[id].append(f"{of} {n} {last}")
    return found


def _digest(said: list[object]) -> str:
    return hashlib.sha256(json.dumps(said).encode()).hexdigest()


def _said(own: OfTheRider) -> dict[str, object]:
    joint = own.joint
    return {
        "names": list(joint.names),
        "spread": list(own.spread),
        "mean": joint.mean.tolist(),
        "covariance": joint.covariance.tolist(),
    }


def report(owner: Person, build_id: UUID) -> tuple[list[rides.Kept], CalibrationReport]:
    """What the rides of a board taught, learnt anew where it or they changed; the rides in the order in which it counts them."""
    build = builds.get(owner, build_id)
    rider = Rider(owner)
    file = builds.document_of(build)
    kept = rides.kept(build, file)
    if all(b.pk != build.pk for b in rider.boards):
        return kept, _told(rider, build, file, kept)
    told_of = f"{rider.key(build)}:{build.revision}"
    known = rider.lessons.get(build.pk)
    if known is not None and known.told_of == told_of and known.report is not None:
        return kept, CalibrationReport.model_validate(known.report)
    lesson = rider.lesson(build, fresh=True)
    found = _told(rider, build, file, kept)
    Lesson.objects.filter(pk=lesson.pk).update(report=found.model_dump(mode="json"), told_of=told_of)
    return kept, found


def trends_of(build: Build) -> list[Message]:
    """What rides told of a pack that fades or something that drags, as it was last reckoned; nothing is learnt for it."""
    kept = Lesson.objects.filter(build=build, report__isnull=False).first()
    return [t.message for t in CalibrationReport.model_validate(kept.report).trends] if kept is not None else []


def _told(rider: Rider, build: Build, file: BuildDocument, kept: Sequence[rides.Kept]) -> CalibrationReport:
    try:
        joint, names = rider.along(build.pk, resolve(file.model_copy(update={"calibration": None})).inputs)
    except Incomplete:
        joint, names = None, []
    return calibration_report(file, rides.ridden(kept), joint, names)
