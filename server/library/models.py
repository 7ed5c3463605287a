"""Parts of the library: shared ones, and people's own."""

import uuid
from typing import Self

from django.conf import settings
from django.db import models
from django.db.models import Q

from server.users import Person


class PartQuerySet(models.QuerySet["Part"]):
    def seen_by(self, user: Person) -> Self:
        """The shared library and the person's own parts, those thrown out left aside."""
        return self.filter(Q(owner=None) | Q(owner=user), deleted_at=None)

    def of(self, user: Person) -> Self:
        """The person's own parts."""
        return self.filter(owner=user, deleted_at=None)


class Part(models.Model):
    """A part of a library: shared (no owner) or someone's own. ``figures`` are the build file's, of its kind."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, null=True, blank=True, related_name="parts")
    kind = models.CharField(max_length=20)  # one of the core's KINDS; what is written is checked by the core's models
    name = models.CharField(max_length=120)
    maker = models.CharField(max_length=120, blank=True)
    price = models.DecimalField(max_digits=10, decimal_places=2, null=True, blank=True)
    currency = models.CharField(max_length=3, blank=True)
    mass_g = models.FloatField(null=True, blank=True)
    source = models.CharField(max_length=400, blank=True)
    figures = models.JSONField(default=dict)
    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = PartQuerySet.as_manager()

    class Meta:
        db_table = "workshop_part"
        ordering = ["kind", "name", "id"]
        indexes = [models.Index(fields=["kind", "owner"], name="workshop_pa_kind_323fad_idx")]
        constraints = [
            models.UniqueConstraint(
                fields=["owner", "kind", "name"],
                name="one_name_a_kind",
                condition=Q(deleted_at=None),
                nulls_distinct=False,
            )
        ]

    def __str__(self) -> str:
        return f"{self.kind}: {self.name}"
