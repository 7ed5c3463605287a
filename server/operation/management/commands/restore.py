"""``manage.py restore FILE``: the database as it was in a backup; what is there now is replaced."""

from pathlib import Path

from django.core.management import BaseCommand, CommandError, CommandParser, call_command

from server.operation.dumps import DumpFailed, bring_back


class Command(BaseCommand):
    help = "Replaces everything by what a backup holds, and brings it up to date. Stop web and workers first."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--yes", action="store_true", help="do not ask")

    def handle(self, *args: object, file: Path, yes: bool, **options: object) -> None:
        if not yes and input("Everything that is there now is replaced. Type yes: ").strip() != "yes":
            raise CommandError("Nothing was changed.")
        try:
            bring_back(file)
        except DumpFailed as error:
            raise CommandError(f"Nothing was changed: {error}") from None
        # A backup of an earlier release is brought up to date.
        call_command("migrate", verbosity=0)
        self.stdout.write("It is as it was in the backup.")
