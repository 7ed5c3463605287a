"""Builds, each with its owner."""

import uuid
from typing import Self

from django.conf import settings
from django.db import models

from server.users import Person


class BuildQuerySet(models.QuerySet["Build"]):
    def of(self, user: Person) -> Self:
        """The person's builds, those on the scrap heap left out."""
        return self.filter(owner=user, deleted_at=None)


class Build(models.Model):
    """One board: its build file in two parts, and the revision that a save must start from."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="builds")
    # What the board is and what is asked of it.
    document = models.JSONField()
    # What happened to it, in the form of a build file: trips, maintenance, review.
    history = models.JSONField(default=dict)
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = BuildQuerySet.as_manager()

    class Meta:
        ordering = ["-updated_at", "id"]
        indexes = [models.Index(fields=["owner", "deleted_at", "-updated_at"])]

    def __str__(self) -> str:
        return self.document.get("name") or "unnamed build"
