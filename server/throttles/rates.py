"""So many tries in a window of time, by address or by name."""

import hashlib
import time

from django.http import HttpRequest
from ninja.throttling import BaseThrottle

from server.errors import ApiError
from server.text_validation import json_of
from server.throttles.known_devices import device_known_to
from server.throttles.models import count


class Rate(BaseThrottle):
    """Holds back who tries more than ``most`` times within ``seconds``; windows begin at whole multiples of them."""

    scope = ""
    most = 1
    seconds = 60

    def who(self, request: HttpRequest) -> str | None:
        """Whose tries are counted together; None where nobody's are."""
        raise NotImplementedError

    def allow_request(self, request: HttpRequest) -> bool:
        """Counts the try; False where it is one too many."""
        who = self.who(request)
        if who is None:
            return True
        # Hashed: neither addresses nor names lie about, and every key has the same length.
        return count(self.scope, hashlib.sha256(who.encode()).hexdigest(), self._until()) <= self.most

    def _until(self) -> int:
        return (int(time.time()) // self.seconds + 1) * self.seconds

    def wait(self) -> float:
        """Seconds until the window ends."""
        return max(self._until() - time.time(), 1.0)


class GuessingThrottle(Rate):
    """Holds back whoever tries many passwords, names or codes from one address."""

    scope, most, seconds = "guessing", 30, 60

    def who(self, request: HttpRequest) -> str | None:
        return self.get_ident(request)


class OneNameThrottle(Rate):
    """Holds back who tries many passwords of one name, from wherever: the name counts as written in small letters.

    Devices on which its owner has signed in before are counted each by itself, so that nobody can lock the owner out there.
    """

    scope, most, seconds = "one-name", 40, 3600
    field = "name"

    def who(self, request: HttpRequest) -> str | None:
        try:
            name = json_of(request.body).get(self.field)
        except (ApiError, AttributeError):
            return None
        name = str(name).strip().casefold()
        device = device_known_to(request, name)
        return name if device is None else f"{name}\0{device}"


class ForgottenThrottle(OneNameThrottle):
    """So that nobody's letter box is filled by somebody else."""

    scope, most, field = "forgotten", 5, "who"
