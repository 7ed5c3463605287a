"""What all pages know of a board, brought together for the overview; for many boards in as many queries as for one."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from django.db.models import Count, QuerySet
from django.utils import timezone

from boardmath.buildfile import BuildFile
from boardmath.checks import Finding
from boardmath.prediction.outcomes import Headline, Outcome
from boardmath.predictor import predict
from planner.compare import differences
from planner.overview import BuildFacts, RecordKept, RevisionKept, RidesKept, TestKept, WorkDay
from planner.shared.log import Log, read_log
from server.assembly import services as works
from server.bench_test import services as benchtests
from server.bench_test.models import BenchTest
from server.boards.models import Build
from server.calibration.services import odd_days
from server.controller_settings import services as settings_records
from server.controller_settings.models import SettingsRecord
from server.revisions import services as revisions
from server.revisions.models import Revision
from server.rides import services as rides
from server.rides.models import Ride


def known(
    builds: Sequence[Build],
    files: Sequence[BuildFile],
    today: date,
    whole: bool = False,
    heads: Sequence[Headline] | None = None,
) -> list[BuildFacts]:
    """Each board as all its pages know it.

    Args:
        files: what stands of each build now, which need not be saved yet.
        whole: with bands and what to measure next; for one board.
        heads: the outcomes with their bands, where they are known already.
    """
    ids = [b.pk for b in builds]
    kept_records = _by_build(SettingsRecord.objects.filter(build__in=ids).order_by("number"))
    kept_tests = _by_build(BenchTest.objects.filter(build__in=ids).order_by("number"))
    logs = works.logs_of(ids)
    points = Revision.objects.filter(build__in=ids)
    kept_points = _by_build(points.defer("document").order_by("created_at", "id"))
    # Only the last point of each board is held against it; a whole document is much to fetch for a name.
    last_points = {p.build_id: p for p in points.order_by("build_id", "-created_at", "-id").distinct("build_id")}
    ridden = _ridden(builds, whole, logs)
    return [
        _known(
            file,
            today,
            kept_records[build.pk],
            kept_tests[build.pk],
            kept_points[build.pk],
            last_points.get(build.pk),
            logs.get(build.pk),
            ridden[build.pk],
            whole,
            heads[i].outcomes if heads else None,
        )
        for i, (build, file) in enumerate(zip(builds, files, strict=True))
    ]


def _ridden(builds: Sequence[Build], whole: bool, logs: Mapping[UUID, Log]) -> dict[UUID, RidesKept]:
    """The rides of many boards by their number; of one board, asked for whole, how far and what was last."""
    if whole:
        found = {}
        for build in builds:
            kept = rides.kept(build)
            latest = [(date.fromisoformat(k.ride.day), k.ride.way.distance_km, k.ride.broke or "") for k in kept[-3:]]
            km = sum(k.ride.way.distance_km or 0.0 for k in kept)
            odd = odd_days(build.owner, [build]).get(build.pk, [])
            found[build.pk] = RidesKept(len(kept), km, odd, latest, rides.rode_on([build])[build.pk])
        return found
    rows = Ride.objects.filter(build__in=builds, deleted_at=None).values_list("build").annotate(n=Count("id"))
    counts = dict(rows)
    odd_of = odd_days(builds[0].owner, builds) if counts else {}
    # Where no ride was written down since, the first one stands in the log of the work.
    first = {id: len(log.rides) for id, log in logs.items()}
    ridden = rides.rode_on(builds)
    return {
        b.pk: RidesKept(counts.get(b.pk) or first.get(b.pk, 0), odd=odd_of.get(b.pk, []), ridden=ridden[b.pk])
        for b in builds
    }


def _by_build(rows: "QuerySet[Any]") -> dict[UUID, list[Any]]:
    found: dict[UUID, list[Any]] = defaultdict(list)
    for row in rows:
        found[row.build_id].append(row)
    return found


def _known(
    file: BuildFile,
    today: date,
    records_set: list[SettingsRecord],
    tests: list[BenchTest],
    points: list[Revision],
    last: Revision | None,
    log: Log | None,
    ridden: RidesKept,
    whole: bool,
    outcomes: Sequence[Outcome] | None,
) -> BuildFacts:
    # What is found follows the outcomes with their bands, among the boards as on the board's own page.
    prediction = predict(file, bands=whole, outcomes=outcomes)
    latest = records_set[-1] if records_set else None
    kept = [t for t in tests if t.number is not None]
    going = next((t for t in tests if t.number is None), None)
    as_set: list[Finding] = []
    otherwise = latest is not None and settings_records.otherwise_than(file, latest)
    if latest is not None and otherwise:
        wanted = {f.id for f in prediction.findings}
        # What is wrong with the board as wanted too is said once.
        as_set = [f for f in predict(settings_records.as_set(file, latest), bands=False).findings if f.id not in wanted]
    done = works.elsewhere(bool(records_set), kept[-1] if kept else None)
    # A board that is only planned has no bench to look at, and one that is ridden has it behind it until something changes.
    worked = log or read_log([])
    building = file.stage == "building" or (file.stage == "riding" and log is not None)
    return BuildFacts(
        build=file,
        today=today,
        findings=prediction.findings,
        outcomes=prediction.outcomes,
        needs=[n.reason for n in prediction.needs],
        prediction=prediction if whole else None,
        settings_records=[RecordKept(number=s.number, on=s.on, reason=s.reason) for s in records_set],
        as_set=as_set,
        set_otherwise=otherwise,
        tests=[_kept(t) for t in kept],
        under_way=benchtests.judged_on(file, latest, records_set, going) if going is not None else None,
        no_longer=benchtests.no_longer_on(file, latest, records_set, kept[-1]) if kept else (),
        revisions=[RevisionKept(name=p.name, on=timezone.localdate(p.created_at)) for p in points],
        work=works.report_of(file, worked, today, done, drawn=False) if building else None,
        # Its protocol is asked for when the stand has nothing against it.
        ride=works.report_of(file, worked, today, done, "first-ride")
        if file.stage == "building" and "bench-test" in done
        else None,
        days=_days(worked),
        rides=ridden,
        changed=last is None or bool(differences([revisions.document_of(last), file])),
    )


def _days(log: Log) -> list[WorkDay]:
    """The work day by day, by the reader's calendar."""
    by_day: dict[date, list[Any]] = defaultdict(list)
    for entry in log.entries:
        if entry.kind in ("done", "photographed", "noted"):
            by_day[timezone.localdate(entry.at)].append(entry)
    days = [
        WorkDay(
            on=day,
            steps=sum(e.kind == "done" for e in entries),
            photos=sum(e.kind == "photographed" for e in entries),
            troubles=[e.text for e in entries if e.kind == "noted" and e.trouble],
        )
        for day, entries in by_day.items()
    ]
    return days


def _kept(test: BenchTest) -> TestKept:
    report = test.report or {"standing": "not begun", "steps": []}
    assert test.number is not None
    assert test.on is not None
    return TestKept(
        number=test.number,
        on=test.on,
        standing=report["standing"],
        failed=[s["title"] for s in report["steps"] if s["verdict"] == "fails"],
        record_number=test.record_number,
    )
