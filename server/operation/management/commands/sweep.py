"""``manage.py sweep``: takes away what is over: sessions, counts of tries, finished tasks, what lay long in the bin."""

from datetime import timedelta

from django.core.management import BaseCommand, CommandParser, call_command
from django.utils import timezone

from server.boards.models import Build
from server.boards.services import BIN_DAYS
from server.jobs.services import forget
from server.library.models import Part
from server.throttles.models import Count


class Command(BaseCommand):
    help = "Once a day: sessions and counts that are over, finished tasks, and what was deleted long ago."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--bin-days", type=int, default=BIN_DAYS, help=f"days in the bin, {BIN_DAYS} unless said")

    def handle(self, *args: object, bin_days: int, **options: object) -> None:
        call_command("clearsessions", verbosity=0)
        call_command("prune_db_task_results", verbosity=0)
        counts = Count.objects.over().delete()[0]
        forget()
        before = timezone.now() - timedelta(days=bin_days)
        builds = Build.objects.filter(deleted_at__lt=before).delete()[1].get("workshop.Build", 0)
        parts = Part.objects.filter(deleted_at__lt=before).delete()[1].get("library.Part", 0)
        self.stdout.write(f"Swept: {builds} builds and {parts} parts from the bin, {counts} counts.")
