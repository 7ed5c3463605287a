"""The log of the work at a board, and its photos. Entries are added and never changed."""

import uuid

from django.db import models

from server.boards.models import Build


class LogEntry(models.Model):
    """One entry, under the id that the device gave it: however often it is sent, it stands once."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="log")
    entry = models.UUIDField()
    kind = models.CharField(max_length=20)
    step = models.CharField(max_length=60, blank=True)
    at = models.DateTimeField()
    """By the device's clock, or by ours where that cannot be."""
    said = models.JSONField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "entry"]
        constraints = [models.UniqueConstraint(fields=["build", "entry"], name="an_entry_stands_once")]

    def __str__(self) -> str:
        return f"{self.kind} {self.step}".strip()


class Photo(models.Model):
    """A photo that an entry of the log speaks of; it arrives by itself, and once."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, models.CASCADE, related_name="photos")
    entry = models.UUIDField()
    kind = models.CharField(max_length=40)
    size = models.PositiveIntegerField()
    data = models.BinaryField()
    small = models.BinaryField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created_at"]
        constraints = [models.UniqueConstraint(fields=["build", "entry"], name="a_photo_arrives_once")]

    def __str__(self) -> str:
        return f"photo to {self.entry}"
