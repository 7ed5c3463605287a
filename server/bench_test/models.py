"""What was found on the stand, before a board is ridden."""

import uuid

from django.db import models

from server.boards.models import Build


class BenchTest(models.Model):
    """One test. The one without a number is under way; the others are kept as they were judged then."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, models.CASCADE, related_name="bench_tests")
    number = models.PositiveIntegerField(null=True)
    on = models.DateField(null=True)
    by = models.CharField(max_length=60, blank=True)
    entered = models.JSONField(default=dict)
    report = models.JSONField(null=True)
    build_revision = models.PositiveIntegerField(null=True)
    record_number = models.PositiveIntegerField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["build", "number"], name="one_number_a_test"),
            models.UniqueConstraint(fields=["build"], condition=models.Q(number=None), name="one_test_under_way"),
        ]

    def __str__(self) -> str:
        return f"bench test {self.number or 'under way'}"
