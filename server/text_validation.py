"""What is refused at the door, for every address: hosts that are not ours, and what no text may hold: the character of number
nought, and halves of characters."""

import json
import re
from collections.abc import Callable
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, JsonResponse

_SUSPECT = re.compile(rb"\x00|\\u0000|\\u[dD][89a-fA-F]")


_FROM_THE_MACHINE = ("/healthz", "/readyz", "/metrics")


def only_our_hosts(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: a name that is not served here is refused for every method, not only where something is written."""

    def checked(request: HttpRequest) -> HttpResponse:
        if request.path not in _FROM_THE_MACHINE:
            request.get_host()
        return get_response(request)

    return checked


def only_plain_text(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: 422 with the field, before anything is looked up or changed."""

    def checked(request: HttpRequest) -> HttpResponse:
        if "\x00" in request.path or "%00" in request.META.get("QUERY_STRING", ""):
            return _refused("")
        if request.content_type == "application/json":
            try:
                body = request.body
            except RequestDataTooBig:
                return get_response(request)  # said with its own words there
            if (field := not_plain(body)) is not None:
                return _refused(field)
        return get_response(request)

    return checked


def _refused(field: str) -> HttpResponse:
    reason = "has a character that text cannot have (U+0000, or half of one)"
    body = {"message": "The request has faults; nothing was changed.", "faults": [{"field": field, "reason": reason}]}
    return JsonResponse(body, status=422)


def not_plain(body: bytes) -> str | None:
    """The dotted path of the first such text; None where there is none, or the body is no JSON (which is said elsewhere)."""
    if not _SUSPECT.search(body):
        return None
    try:
        return _in(json.loads(body), "")
    except (ValueError, RecursionError):
        return None


def _in(value: Any, path: str) -> str | None:
    if isinstance(value, str):
        return None if _plain(value) else path
    if isinstance(value, dict):
        for key, inner in value.items():
            if not _plain(key):
                return path
            if (found := _in(inner, f"{path}.{key}" if path else key)) is not None:
                return found
    if isinstance(value, list):
        for i, inner in enumerate(value):
            if (found := _in(inner, f"{path}.{i}" if path else str(i))) is not None:
                return found
    return None


def _plain(text: str) -> bool:
    if "\x00" in text:
        return False
    try:
        text.encode()
    except UnicodeEncodeError:
        return False
    return True
