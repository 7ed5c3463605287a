"""How often something was tried. In the database, so that it holds over all web machines, and counted in one statement, so that
tries in the same moment all count."""

import time
from typing import Self

from django.db import models
from django.db.models import F


class CountQuerySet(models.QuerySet["Count"]):
    def over(self) -> Self:
        """Counts of windows that have passed."""
        return self.filter(until__lt=time.time())


class Count(models.Model):
    """Tries of one within one window of time."""

    scope = models.CharField(max_length=40)
    who = models.CharField(max_length=64)
    until = models.BigIntegerField()
    n = models.PositiveIntegerField(default=0)

    objects = CountQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["scope", "who", "until"], name="one_count_a_window")]
        indexes = [models.Index(fields=["until"])]

    def __str__(self) -> str:
        return f"{self.n} of {self.scope}"


def count(scope: str, who: str, until: int) -> int:
    """One try more; how many there were until the end of the window, in seconds since 1970."""
    mine = Count.objects.filter(scope=scope, who=who, until=until)
    if not mine.update(n=F("n") + 1):
        Count.objects.bulk_create([Count(scope=scope, who=who, until=until)], ignore_conflicts=True)
        mine.update(n=F("n") + 1)
    return mine.values_list("n", flat=True).get()
