"""PostgreSQL wakes the workers when something is enqueued, so that none of them has to ask in a loop."""

from typing import Any

from django.db import connection
from django.dispatch import receiver
from django_tasks import TaskResult
from django_tasks.signals import task_enqueued


def _channel(queue: str) -> str:
    return f"queue_{queue}"


@receiver(task_enqueued)
def wake_workers(sender: type, task_result: TaskResult[Any], **given: Any) -> None:
    """Tells the workers of a queue, once the transaction is committed, that there is something to do."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, '')", [_channel(task_result.task.queue_name)])


def listen(queue: str) -> Any:
    """Makes this thread's connection hear what is enqueued from here on.

    Returns:
        The connection, for :func:`wait`.
    """
    with connection.cursor() as cursor:
        cursor.execute(f"LISTEN {_channel(queue)}")
    return connection.connection


def wait(listening: Any, seconds: float) -> bool:
    """Waits until something is enqueued, at most so many seconds.

    Returns:
        Whether to look at the queue: something was enqueued, or this thread has another connection by now, which heard nothing.
    """
    if connection.connection is not listening:
        return True
    with connection.wrap_database_errors:
        return any(True for _ in listening.notifies(timeout=seconds, stop_after=1))
