"""``manage.py worker link`` and ``manage.py worker work``: what talks to controllers, and what takes its time."""

import logging
import signal
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType

from django.core.management import BaseCommand, CommandParser
from django.db import DatabaseError, InterfaceError, connections
from django.utils.crypto import get_random_string
from django_tasks_db.management.commands.db_worker import Worker

from server.jobs import wake_ups

logger = logging.getLogger("sand_pocket.worker")
QUEUES = {"link": 8, "work": 1}
"""How many things at once in one process: talks wait for a cable most of the time, work keeps a core busy."""
LOOK_S = 10.0
"""Between two looks at the queue that nothing was enqueued for: a connection that was lost has heard nothing."""
HEED_S = 0.5
"""Between two looks at whether it is to end."""
AWAY_S = (0.5, 1.0, 2.0, 5.0)
"""Seconds between tries while the database is away."""


class Steady(Worker):
    """The queue's own worker, which wakes when something is enqueued, and comes back when the database does."""

    def __init__(self, queue: str, until_empty: bool) -> None:
        super().__init__(
            queue_names=[queue],
            interval=0.0,
            batch=True,
            backend_name="default",
            startup_delay=False,
            max_tasks=None,
            worker_id=get_random_string(32),
            excluded_queue_names=[],
        )
        self.queue, self.until_empty = queue, until_empty

    def run(self) -> None:
        tries = 0
        while self.running:
            try:
                listening = wake_ups.listen(self.queue)
                super().run()
                if self.until_empty:
                    return
                tries, look_at = 0, time.monotonic() + LOOK_S
                while self.running and time.monotonic() < look_at and not wake_ups.wait(listening, HEED_S):
                    pass
            except (DatabaseError, InterfaceError) as gone:
                # What was under way is told as lost by its silence; nothing of it is done twice.
                self.running_task = False
                connections.close_all()
                if not tries:
                    logger.warning("the database is away, trying again: %s", str(gone).splitlines()[0][:200])
                time.sleep(AWAY_S[min(tries, len(AWAY_S) - 1)])
                tries += 1


class Command(BaseCommand):
    help = "Does what waits in a queue, until it is told to end; what is under way is ended first."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("queue", choices=[*QUEUES, "all"])
        parser.add_argument("--at-once", type=int, help="how many things at once: 8 talks, 1 of what takes its time")
        parser.add_argument("--until-empty", action="store_true", help="end when nothing waits")

    def handle(self, *args: object, queue: str, at_once: int | None, until_empty: bool, **options: object) -> None:
        queues = list(QUEUES) if queue == "all" else [queue]
        # The first of the last queue has the main thread: what takes too long is ended by a signal, which arrives there.
        kinds = [name for name in queues for _ in range(at_once or QUEUES[name])]
        workers = [Steady(name, until_empty) for name in kinds]
        threads = [threading.Thread(target=w.run, name=f"worker-{i}", daemon=True) for i, w in enumerate(workers[:-1])]
        with _heeding(workers):
            for thread in threads:
                thread.start()
            workers[-1].run()
            for thread in threads:
                thread.join()


@contextmanager
def _heeding(workers: list[Steady]) -> Iterator[None]:
    """Asked to end, each ends what it is at; asked twice, at once."""
    asked = 0

    def end(sign: int, frame: FrameType | None) -> None:
        nonlocal asked
        asked += 1
        for worker in workers:
            worker.running = False
        if asked > 1:
            raise SystemExit(1)

    before = {sign: signal.signal(sign, end) for sign in (signal.SIGINT, signal.SIGTERM)}
    try:
        yield
    finally:
        for sign, heard in before.items():
            signal.signal(sign, heard)
