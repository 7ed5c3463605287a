"""``manage.py ports``: whose the controllers at this machine's cables are."""

from django.contrib.auth.models import User
from django.core.management import BaseCommand, CommandError, CommandParser

from server.account.services import known_as
from server.controller.models import Port


class Command(BaseCommand):
    help = "Gives a controller at a cable of this machine to a person, or takes it back; without an action lists them."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("action", nargs="?", choices=["list", "give", "take"], default="list")
        parser.add_argument("name", nargs="?")
        parser.add_argument("address", nargs="?", help="/dev/ttyACM0, or socket://host:port")

    def handle(self, *args: object, action: str, name: str | None, address: str | None, **options: object) -> None:
        if action != "list":
            user = User.objects.filter(username=known_as(name or "")).first()
            if user is None or not address:
                raise CommandError("Whose, and which: manage.py ports give NAME ADDRESS, of somebody who is here.")
            if action == "give":
                Port.objects.get_or_create(owner=user, address=address)
            elif not Port.objects.filter(owner=user, address=address).delete()[0]:
                raise CommandError("That person has no such port.")
        for port in Port.objects.select_related("owner"):
            self.stdout.write(f"{port.owner.get_username()}  {port.address}")
