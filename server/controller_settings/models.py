"""What was really set in a board's controller, by the day."""

import uuid

from django.db import models

from server.boards.models import Build


class SettingsRecord(models.Model):
    """One state of the controller as somebody set it; it is never changed, the next one follows it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, models.CASCADE, related_name="settings_records")
    number = models.PositiveIntegerField()
    on = models.DateField()
    by = models.CharField(max_length=60, blank=True)
    reason = models.CharField(max_length=600)
    settings = models.JSONField()
    end_points = models.JSONField(default=dict, blank=True)
    apart = models.JSONField(default=list, blank=True)
    """What the second and further controllers have where it is not what the first has."""
    read_back = models.BooleanField(default=False)
    """Read out of the controller, not typed."""
    build_revision = models.PositiveIntegerField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["build", "number"], name="one_number_a_build")]

    def __str__(self) -> str:
        return f"record {self.number}"


class Attachment(models.Model):
    """A photo or a paper to a settings record: the label of a remote, the jumper of a boxed controller."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    record = models.ForeignKey(SettingsRecord, models.CASCADE, related_name="attachments")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=40)
    size = models.PositiveIntegerField()
    data = models.BinaryField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created_at"]

    def __str__(self) -> str:
        return self.name
