"""Figures for a collector, in the text form that Prometheus reads: requests of all processes of this machine, and what waits."""

import os

from django.contrib.auth.models import User
from django.db.models import Count, Min
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from prometheus_client import (
    CONTENT_TYPE_LATEST,
    REGISTRY,
    CollectorRegistry,
    Gauge,
    generate_latest,
)
from prometheus_client.multiprocess import MultiProcessCollector

from server.boards.models import Build
from server.controller.models import ControllerCommand
from server.jobs.models import Job


def metrics(request: HttpRequest) -> HttpResponse:
    """All of it, once."""
    if os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        counted = CollectorRegistry()
        MultiProcessCollector(counted)  # type: ignore[no-untyped-call]
    else:
        counted = REGISTRY
    return HttpResponse(generate_latest(counted) + generate_latest(_now()), content_type=CONTENT_TYPE_LATEST)


def _now() -> CollectorRegistry:
    """What the database says at this moment: the same from every machine."""
    found = CollectorRegistry()
    jobs = Gauge("sand_pocket_jobs", "What takes its time, by state", ["state"], registry=found)
    commands = Gauge("sand_pocket_controller_commands", "Talks with controllers, by state", ["state"], registry=found)
    for gauge, model, states in (
        (jobs, Job, Job.State.values),
        (commands, ControllerCommand, ControllerCommand.State.values),
    ):
        rows = dict(model.objects.values_list("state").annotate(n=Count("pk")))
        for state in states:
            gauge.labels(state).set(rows.get(state, 0))
    waited = Gauge("sand_pocket_longest_wait_seconds", "How long the first in the queue has waited", registry=found)
    first = Job.objects.filter(state=Job.State.WAITING).aggregate(first=Min("created_at"))["first"]
    waited.set((timezone.now() - first).total_seconds() if first else 0)
    Gauge("sand_pocket_people", "Workshops", registry=found).set(User.objects.count())
    Gauge("sand_pocket_builds", "Builds that are not deleted", registry=found).set(
        Build.objects.filter(deleted_at=None).count()
    )
    return found
