"""``manage.py invite``: a link with which one person may open a workshop."""

from django.core.management import BaseCommand, CommandParser

from server.account.services import invite


class Command(BaseCommand):
    help = "Prints links of invitation, each for one person: where SAND_POCKET_REGISTRATION=invitation."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--days", type=int, default=14, help="how long it holds")
        parser.add_argument("--count", type=int, default=1, choices=range(1, 201), metavar="1-200")
        parser.add_argument("--note", default="", help="whom it is for, for your own list")

    def handle(self, *args: object, days: int, count: int, note: str, **options: object) -> None:
        for _ in range(count):
            self.stdout.write(invite(days, note))
