"""Routes for whoever is not signed in: open to all who send the page's own CSRF token, and slow to guess at."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie

from server.throttles.rates import GuessingThrottle


class AnyoneWithCsrf(APIKeyCookie):
    """Lets everyone in who sends the page's own CSRF token."""

    param_name = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> str:
        return "anyone"


ANYONE: dict[str, Any] = {"auth": AnyoneWithCsrf(), "throttle": GuessingThrottle()}
