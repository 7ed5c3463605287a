"""What the rides of a board taught, kept until they change."""

from django.db import models

from server.boards.models import Build


class Lesson(models.Model):
    """What was learnt of a board, and what of it is its rider's own. ``key`` says from which rides."""

    build = models.OneToOneField(Build, models.CASCADE, related_name="lesson")
    key = models.CharField(max_length=64, blank=True)
    taught = models.JSONField(null=True)
    """As a build carries it; None where nothing was learnt."""
    own = models.JSONField(null=True)
    """Names, mean and covariance of what is the rider's own, by this board's rides alone."""
    own_key = models.CharField(max_length=64, blank=True)
    """From which rides that is."""

    odd = models.JSONField(default=list)
    """Days of the rides that contradict the others."""

    report = models.JSONField(null=True)
    """All that is told of it, and of which state of the board and its rides that is."""
    told_of = models.CharField(max_length=90, blank=True)

    def __str__(self) -> str:
        return self.key[:8]
