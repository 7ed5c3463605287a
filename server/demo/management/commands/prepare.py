"""``manage.py prepare``: brings the database up to date and, with ``--demo``, loads the demonstration once."""

from django.core.management import BaseCommand, CommandParser, call_command

from server.demo.entry import demo_user
from server.demo.story import load, remove


class Command(BaseCommand):
    help = "Migrates, and loads the demonstration if it is asked for and not there yet."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", action="store_true")
        parser.add_argument("--reset", action="store_true", help="start the demonstration's story over")

    def handle(self, *args: object, demo: bool, reset: bool, **options: object) -> None:
        call_command("migrate", verbosity=0)
        call_command("prune_db_task_results", verbosity=0)
        if reset:
            remove()
        if demo and demo_user() is None:
            load()
            self.stdout.write("Loaded the demonstration.")
