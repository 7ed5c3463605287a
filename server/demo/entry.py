"""Who the demonstration's workshop belongs to."""

from django.contrib.auth import get_user_model
from django.contrib.auth.hashers import UNUSABLE_PASSWORD_PREFIX

DEMO_NAME = "warden"


def demo_user():
    """The demonstration's user, or None where it was not loaded.

    Somebody who signed up under that name has a password, and is not it.
    """
    users = get_user_model().objects
    return users.filter(username=DEMO_NAME, is_active=True, password__startswith=UNUSABLE_PASSWORD_PREFIX).first()
