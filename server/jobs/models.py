"""A job that waits for a worker, is under way, or lies there to be fetched."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q


class Job(models.Model):
    """One thing to be made for a person."""

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        STOPPED = "stopped"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=40)
    payload = models.JSONField(default=dict)
    # What came with it: a photo as it was sent.
    upload = models.BinaryField(null=True)
    zone = models.CharField(max_length=64, blank=True)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    stop = models.BooleanField(default=False)
    progress = models.FloatField(default=0.0)
    # Why it failed: a message and reasons by field, as any refusal says them.
    message = models.CharField(max_length=600, blank=True)
    faults = models.JSONField(default=list)
    made = models.BinaryField(null=True)
    content_type = models.CharField(max_length=100, blank=True)
    name = models.CharField(max_length=200, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    beat_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["created_at"]
        indexes = [models.Index(fields=["state", "created_at"])]
        constraints = [
            # Held by the database, so that of two workers that take at the same moment one does not get it.
            models.UniqueConstraint(
                fields=["owner"], condition=Q(state="running"), name="one_job_at_a_time_for_each_person"
            )
        ]

    def __str__(self) -> str:
        return f"{self.kind}, {self.state}"
