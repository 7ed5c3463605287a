"""Asking for a job, looking at it, stopping it; taking it up and carrying it out. Everything a person does takes the owner."""

import logging
import signal
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from importlib import import_module
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone

from boardmath.buildfile import BuildFileError
from server.errors import ApiError, of_build_file
from server.jobs.handlers import JOB_HANDLERS, JobRequest, Made, StopAsked, TooLong
from server.jobs.models import Job, silent_for_longer
from server.users import Person

logger = logging.getLogger(__name__)
MOST_OF_ALL = 60
"""Jobs that wait, of everybody; more and the door says to come again."""
MOST_OF_A_PERSON = 6
"""Jobs of one person that wait or are under way; hands do not ask for more at once."""
LONGEST_S = 120
SILENT_FOR = timedelta(seconds=LONGEST_S + 30)
"""No job runs so long: its worker is gone."""
KEPT_FOR = timedelta(hours=2)
UNTOUCHED_FOR = timedelta(seconds=5)
BEAT_S = 0.2


def ask(owner: Person, kind: str, payload: dict[str, Any], upload: bytes | None = None) -> Job:
    """Asks for a job.

    Raises:
        ApiError: too much waits, of this person (429) or of all (503, with when to come again).
    """
    from server.jobs.tasks import work_through

    assert kind in JOB_HANDLERS, kind
    forget()
    mine = Job.objects.filter(owner=owner).under_way().count()
    if mine >= MOST_OF_A_PERSON:
        raise ApiError(
            f"{mine} of your jobs are waiting or running. Wait for one, or stop one.", status=429, retry_after=5
        )
    waiting = Job.objects.filter(state=Job.State.WAITING).count()
    if waiting >= MOST_OF_ALL:
        raise ApiError("Too many requests at the moment. Try again in a little while.", status=503, retry_after=15)
    zone = timezone.get_current_timezone_name()
    job = Job.objects.create(owner=owner, kind=kind, payload=payload, upload=upload, zone=zone)
    work_through.enqueue()
    return job


def forget() -> None:
    """Takes away what lay there long enough to be fetched."""
    Job.objects.filter(ended_at__lt=timezone.now() - KEPT_FOR).delete()


def of(owner: Person) -> list[Job]:
    """The person's jobs, the oldest first."""
    return list(Job.objects.filter(owner=owner).defer("made", "upload"))


def get(owner: Person, id: UUID) -> Job:
    """One job of the person's, without what was made; one that no worker has taken up is called out again."""
    job = Job.objects.filter(owner=owner, pk=id).defer("made", "upload").first()
    if job is None:
        raise Http404
    if job.is_under_way and job.is_untouched(UNTOUCHED_FOR):
        call_out()
        job.refresh_from_db(fields=["state", "message", "progress"])
    return job


def call_out() -> None:
    """Ends jobs whose worker is gone, and sees to it that somebody looks for those that wait: a worker that died took
    its call with it."""
    from django_tasks_db.models import DBTaskResult

    from server.jobs.tasks import work_through

    _give_up_the_lost()
    waiting = Job.objects.filter(silent_for_longer(UNTOUCHED_FOR), state=Job.State.WAITING)
    called = DBTaskResult.objects.ready().filter(queue_name=work_through.queue_name)
    if waiting.exists() and not called.exists():
        work_through.enqueue()


def stop(owner: Person, id: UUID) -> Job:
    """One that waits is stopped at once; one under way when it next says how far it is."""
    get(owner, id)
    Job.objects.filter(pk=id).request_stop()
    return get(owner, id)


def made(owner: Person, id: UUID, *kinds: str) -> Job:
    """A job of the person's that is done, with what came of it; of one of ``kinds`` where any are named."""
    done = Job.objects.filter(owner=owner, pk=id, state=Job.State.DONE)
    job = (done.filter(kind__in=kinds) if kinds else done).first()
    if job is None:
        raise Http404
    return job


# --- what a worker does -----------------------------------------------------------------------------------------------


def work_all() -> None:
    """Does one job after the other until there is none that may be begun."""
    import_module(settings.ROOT_URLCONF)  # the APIs say what they make
    while (job := _take()) is not None:
        _run(job)


def _take() -> Job | None:
    """The job that has waited longest, of those whose owner has none under way."""
    _give_up_the_lost()
    while True:
        try:
            with transaction.atomic():
                busy = Job.objects.filter(state=Job.State.RUNNING).values("owner")
                waiting = Job.objects.filter(state=Job.State.WAITING).exclude(owner__in=busy).order_by("created_at")
                job = waiting.select_for_update(skip_locked=True, of=("self",)).first()
                if job is None:
                    return None
                job.state, job.beat_at = Job.State.RUNNING, timezone.now()
                job.save(update_fields=["state", "beat_at"])
                return job
        except IntegrityError:
            continue  # another worker took one of the same person in the same moment


def _give_up_the_lost() -> None:
    Job.objects.all().give_up(SILENT_FOR, "The worker was lost while running this. Ask for it again.")


class _Progress:
    """Keeps a job's row fresh, and hears whether it shall stop."""

    def __init__(self, job: Job) -> None:
        self.job, self.last = job, 0.0

    def __call__(self, progress: float) -> None:
        if time.monotonic() - self.last < BEAT_S:
            return
        self.last = time.monotonic()
        if Job.objects.filter(pk=self.job.pk).report(progress=min(max(progress, 0.0), 1.0)):
            raise StopAsked


@contextmanager
def _at_most(seconds: int) -> Iterator[None]:
    """Ends what takes longer, wherever it is in Python; only in a process's main thread, where signals arrive."""
    if threading.current_thread() is not threading.main_thread():
        yield
        return

    def ring(*_: object) -> None:
        raise TooLong

    before = signal.signal(signal.SIGALRM, ring)
    signal.setitimer(signal.ITIMER_REAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)


def _run(job: Job) -> None:
    ended: dict[str, Any] = {"state": Job.State.FAILED}
    try:
        with _at_most(LONGEST_S), timezone.override(ZoneInfo(job.zone) if job.zone else None):
            request = JobRequest(job.owner, job.payload, bytes(job.upload or b""), _Progress(job))
            request.report_progress(0.0)
            ended = _done(JOB_HANDLERS[job.kind](request))
    except StopAsked:
        ended["state"] = Job.State.STOPPED
    except TooLong:
        ended["message"] = f"It took longer than {LONGEST_S} seconds and was stopped."
    except ApiError as refused:
        ended |= {"message": refused.message, "faults": [f.dict() for f in refused.faults]}
    except BuildFileError as error:
        said = of_build_file(error)
        ended |= {"message": said.message, "faults": [f.dict() for f in said.faults]}
    except Http404:
        ended["message"] = "What it needs was deleted."
    except Exception:
        logger.exception("job %s, %s", job.pk, job.kind)
        ended["message"] = "The worker failed. The operator can find the reason in the log."
    Job.objects.filter(pk=job.pk, state=Job.State.RUNNING).end(upload=None, **ended)


def _done(made: Made) -> dict[str, Any]:
    return {
        "state": Job.State.DONE,
        "progress": 1.0,
        "made": made.data,
        "content_type": made.content_type,
        "name": made.name,
    }
