"""``manage.py recovery_link NAME``: for who has forgotten the password, and has no mail address here."""

from django.contrib.auth.models import User
from django.core.management import BaseCommand, CommandError, CommandParser

from server.account.services import end_second_factor, known_as, recovery_link


class Command(BaseCommand):
    help = "Prints a link with which a person chooses a new password, once and within a day. Give it to nobody else."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--without-second-factor", action="store_true", help="authenticator and codes are lost too")

    def handle(self, *args: object, name: str, without_second_factor: bool, **options: object) -> None:
        user = User.objects.filter(username=known_as(name)).first()
        if user is None:
            raise CommandError(f"Nobody is called “{name}” here.")
        if not user.has_usable_password():
            raise CommandError("That is the demonstration's workshop: it has no password.")
        if without_second_factor:
            end_second_factor(user)
        self.stdout.write(recovery_link(user))
