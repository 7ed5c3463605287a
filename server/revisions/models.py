"""Named points in the life of builds."""

import uuid

from django.db import models

from server.boards.models import Build


class Revision(models.Model):
    """A named point in a build's life: planned, ordered, as built. It never changes but in its name and note."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, models.CASCADE, related_name="revisions")
    name = models.CharField(max_length=60)
    note = models.CharField(max_length=600, blank=True)
    document = models.JSONField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "workshop_revision"
        ordering = ["created_at", "id"]
        indexes = [models.Index(fields=["build", "created_at"], name="workshop_re_build_i_f6a0f1_idx")]

    def __str__(self) -> str:
        return self.name
