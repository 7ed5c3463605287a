"""What a worker does for a person, and the jobs that make something to be fetched."""

import uuid
from datetime import timedelta
from typing import Any, Self, TypeVar

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone


class State(models.TextChoices):
    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    STOPPED = "stopped"


W = TypeVar("W", bound="QueuedWork", covariant=True)


def silent_for_longer(age: timedelta) -> models.Q:
    """Of rows whose last word is older than ``age``; or newer, after a clock that was ahead has been set right."""
    now = timezone.now()
    return models.Q(beat_at__lt=now - age) | models.Q(beat_at__gt=now + age)


class QueuedWorkQuerySet(models.QuerySet[W]):
    """The life of queued work, each step of it one statement: somebody may stop it at the same moment."""

    def under_way(self) -> Self:
        """Waits for a worker or is with one."""
        return self.filter(state__in=(State.WAITING, State.RUNNING))

    def begin(self) -> bool:
        """Takes it up; false where it does not wait any more."""
        return bool(self.filter(state=State.WAITING).update(state=State.RUNNING, beat_at=timezone.now()))

    def report(self, **columns: Any) -> bool:
        """Says that its worker is alive, and how far it is; true where it has to stop, or is gone."""
        return not self.update(beat_at=timezone.now(), **columns) or bool(self.values_list("stop", flat=True).first())

    def end(self, state: str, **columns: Any) -> None:
        """Ends it."""
        now = timezone.now()
        self.update(state=state, ended_at=now, beat_at=now, **columns)

    def request_stop(self, message: str = "") -> None:
        """Ends what waits; what is under way hears of it when it next reports."""
        self.filter(state=State.WAITING).end(State.STOPPED, message=message)
        self.update(stop=True)

    def give_up(self, silent_for: timedelta, message: str) -> None:
        """Ends what no worker has reported on for so long."""
        lost = self.filter(silent_for_longer(silent_for), state=State.RUNNING)
        lost.end(State.FAILED, message=message)


class QueuedWork(models.Model):
    """Something that a worker does for a person; the base of jobs and of controller commands."""

    State = State

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kind = models.CharField(max_length=40)
    payload = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    stop = models.BooleanField(default=False)
    # How it ended, in words.
    message = models.CharField(max_length=600, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    beat_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    def __str__(self) -> str:
        return f"{self.kind}, {self.state}"

    @property
    def is_under_way(self) -> bool:
        """Whether it waits for a worker or is with one."""
        return self.state in (State.WAITING, State.RUNNING)

    def is_silent(self, silent_for: timedelta) -> bool:
        """Whether it is with a worker that has not reported for so long."""
        return self.state == State.RUNNING and self.is_untouched(silent_for)

    def is_untouched(self, age: timedelta) -> bool:
        """Whether its last word is older than ``age``; or newer, after a clock that was ahead has been set right."""
        return abs(timezone.now() - self.beat_at) > age


class Job(QueuedWork):
    """One thing to be made for a person; it can be fetched for a while."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="jobs")
    # What came with it: a photo as it was sent.
    upload = models.BinaryField(null=True)
    zone = models.CharField(max_length=64, blank=True)
    progress = models.FloatField(default=0.0)
    # Reasons by field, where it was refused.
    faults = models.JSONField(default=list)
    made = models.BinaryField(null=True)
    content_type = models.CharField(max_length=100, blank=True)
    name = models.CharField(max_length=200, blank=True)

    objects = QueuedWorkQuerySet["Job"].as_manager()

    class Meta:
        ordering = ["created_at"]
        indexes = [models.Index(fields=["state", "created_at"])]
        constraints = [
            # Held by the database, so that of two workers that take at the same moment one does not get it.
            models.UniqueConstraint(
                fields=["owner"], condition=Q(state="running"), name="one_job_at_a_time_for_each_person"
            )
        ]
