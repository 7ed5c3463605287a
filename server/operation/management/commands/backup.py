"""``manage.py backup FOLDER``: the whole database, photos and files in it, into one file of that folder."""

from pathlib import Path

from django.core.management import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from server.operation.dumps import DumpFailed, back_up


class Command(BaseCommand):
    help = "Writes everything into one file, and keeps as many of them as are wanted."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", type=Path)
        parser.add_argument("--keep", type=int, help="how many of the newest to keep; all unless said")

    def handle(self, *args: object, folder: Path, keep: int | None, **options: object) -> None:
        if keep is not None and keep < 1:
            raise CommandError("--keep: at least one")
        try:
            path = back_up(folder, timezone.now(), keep)
        except (DumpFailed, OSError) as error:
            raise CommandError(f"Nothing was backed up: {error}") from None
        self.stdout.write(f"{path}   {path.stat().st_size / 1e6:.1f} MB")
