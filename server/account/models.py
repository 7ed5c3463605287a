"""What stands beside Django's own user: what a person prefers, and invitations."""

from django.conf import settings
from django.db import models


class Profile(models.Model):
    """Units and theme of one person."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, primary_key=True)
    preferences = models.JSONField(default=dict)

    def __str__(self) -> str:
        return f"preferences of {self.user_id}"


class Invitation(models.Model):
    """With it one person may open a workshop. Its code is known to whoever has the link, and here only its digest."""

    digest = models.CharField(max_length=64, unique=True)
    note = models.CharField(max_length=200, blank=True)
    until = models.DateTimeField()
    used_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    used_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"invitation until {self.until:%Y-%m-%d}"
