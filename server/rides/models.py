"""Rides of a board, and the tracks that were recorded on them."""

import uuid

from django.conf import settings
from django.db import models

from server.boards.models import Build


class Ride(models.Model):
    """A ride under the id that the device gave it: however often it is sent, it stands once."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="rides")
    ride = models.UUIDField()
    day = models.DateField()
    said = models.JSONField()
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["day", "ride"]
        constraints = [models.UniqueConstraint(fields=["build", "ride"], name="a_ride_stands_once")]

    def __str__(self) -> str:
        return f"ride of {self.day}"


class Track(models.Model):
    """A track or log in our own form; the same file is kept once."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, models.CASCADE, related_name="tracks")
    digest = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    ride = models.UUIDField(null=True, blank=True)
    """The ride that it belongs to, once it was accepted."""
    summary = models.JSONField()
    size = models.PositiveIntegerField()
    data = models.BinaryField()
    """Columns as JSON, compressed by zlib."""
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created_at"]
        constraints = [models.UniqueConstraint(fields=["build", "digest"], name="a_track_is_kept_once")]

    def __str__(self) -> str:
        return self.name


class TableRead(models.Model):
    """How a person's tables with a certain head are read, as it was said once."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    head = models.CharField(max_length=64)
    mapping = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "head"], name="a_table_is_read_one_way")]

    def __str__(self) -> str:
        return self.head[:8]
