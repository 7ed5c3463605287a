"""Who the demonstration's workshop belongs to, and what it is made of."""

from pathlib import Path

from django.conf import settings
from django.contrib.auth.hashers import UNUSABLE_PASSWORD_PREFIX
from django.contrib.auth.models import User

DEMO_NAME = "warden"
DATA = Path(__file__).resolve().parent / "data"
BUILDS = sorted(DATA.glob("build-*.json"))
DEMO_BOARDS = len(BUILDS)


def is_demo(user: User) -> bool:
    """Whether somebody is in the demonstration's workshop: nobody has its password."""
    return settings.DEMO and not user.has_usable_password()


def demo_user() -> User | None:
    """The demonstration's user, or None where it was not loaded.

    Somebody who signed up under that name has a password, and is not it.
    """
    found = User.objects.filter(username=DEMO_NAME, is_active=True, password__startswith=UNUSABLE_PASSWORD_PREFIX)
    return found.first()
