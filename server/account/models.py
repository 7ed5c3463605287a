"""What a person prefers, beside Django's own user."""

from django.conf import settings
from django.db import models


class Profile(models.Model):
    """Units and theme of one person."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, primary_key=True)
    preferences = models.JSONField(default=dict)

    def __str__(self) -> str:
        return f"preferences of {self.user_id}"
