"""When a device was last seen, to the day."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils import timezone


def each_day(answer: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: the first request of a day writes the session anew, which says when it was."""

    def seen(request: HttpRequest) -> HttpResponse:
        if request.user.is_authenticated:
            today = timezone.now().date().isoformat()
            if request.session.get("seen") != today:
                request.session["seen"] = today
        return answer(request)

    return seen
