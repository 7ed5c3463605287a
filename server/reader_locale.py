"""Where the reader of a request is: a day is a day of their calendar, not of the server's."""

from collections.abc import Callable
from datetime import date, timedelta
from functools import cache
from zoneinfo import ZoneInfo, available_timezones

from django.http import HttpRequest, HttpResponse
from django.utils import timezone

HEADER = "X-Time-Zone"
"""What the interface sends: the name of the device's time zone, such as ``Pacific/Auckland``."""


@cache
def _zones() -> frozenset[str]:
    return frozenset(available_timezones())


def not_yet(day: date) -> bool:
    """Whether a day is after tomorrow, which has begun somewhere already."""
    return day > timezone.localdate() + timedelta(days=1)


def in_the_readers_zone(answer: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Today is today where the reader is; without a word of it, or with one that is no zone, where the server is."""

    def middleware(request: HttpRequest) -> HttpResponse:
        name = request.headers.get(HEADER, "")
        with timezone.override(ZoneInfo(name) if name in _zones() else None):
            return answer(request)

    return middleware
