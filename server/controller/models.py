"""What the worker was asked to do with a controller on the bench, and how it went."""

from django.conf import settings
from django.db import models

from server.boards.models import Build
from server.jobs.models import QueuedWork, QueuedWorkQuerySet


class ControllerCommand(QueuedWork):
    """One talk with the controllers of a board. Its row is written before anything is sent, and kept afterwards."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="controller_commands")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    port = models.CharField(max_length=200, blank=True)
    # Which of the board's controllers the port leads to, from 0; the simulated ones are all asked, one after the other.
    unit = models.PositiveSmallIntegerField(null=True)
    step = models.CharField(max_length=200, blank=True)
    live = models.JSONField(null=True)
    result = models.JSONField(null=True)

    objects = QueuedWorkQuerySet["ControllerCommand"].as_manager()

    class Meta:
        ordering = ["created_at"]
        db_table = "link_errand"
        indexes = [models.Index(fields=["build", "kind", "created_at"], name="link_errand_build_i_7ea023_idx")]

    @property
    def line(self) -> tuple[str, int | None]:
        """The port and which controller it leads to."""
        return self.port, self.unit


class Port(models.Model):
    """A controller at a cable of this machine, and whose it is. Given by the operator to an account, not to a name."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="ports")
    address = models.CharField(max_length=200)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "address"], name="a_port_once_for_each_person")]
        ordering = ["id"]

    def __str__(self) -> str:
        return self.address
