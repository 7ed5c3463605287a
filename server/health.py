"""Whether it lives and whether it can work, as JSON, for whoever watches it."""

from datetime import timedelta

from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

WAITED = timedelta(seconds=30)
"""How long a task may wait before the workers count as away or drowned."""


def alive(request: HttpRequest) -> JsonResponse:
    """The process answers; nothing else is asked."""
    return JsonResponse({"status": "ok"})


def ready(request: HttpRequest) -> JsonResponse:
    """Database, migrations and workers, each in a word; 503 where one of them is not as it should be."""
    found = {"database": _database()}
    if found["database"] == "ok":
        found |= {"migrations": _migrations(), "worker": _worker()}
    good = all(word == "ok" for word in found.values())
    return JsonResponse({"status": "ok" if good else "not ready", **found}, status=200 if good else 503)


def _database() -> str:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return "cannot be reached, or is not prepared"
    return "ok"


def _migrations() -> str:
    executor = MigrationExecutor(connection)
    ahead = executor.migration_plan(executor.loader.graph.leaf_nodes())
    return f"{len(ahead)} to apply: manage.py prepare" if ahead else "ok"


def _worker() -> str:
    """No task has waited too long: with nothing asked for, a worker that is away is not noticed here."""
    waiting = DBTaskResult.objects.ready().filter(enqueued_at__lt=timezone.now() - WAITED).count()
    return f"{waiting} waiting for more than {WAITED.seconds} s: is manage.py worker running?" if waiting else "ok"
