"""What stands in the queue: a call to do whatever waits. Which job is next is decided when a worker is free."""

from django_tasks import task

from server.jobs import services

QUEUE = "work"


@task(queue_name=QUEUE)
def work_through() -> None:
    """Does jobs until none may be begun."""
    services.work_all()
