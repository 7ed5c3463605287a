"""What is refused for every address: hosts that are not ours, what is no plain text, and JSON nested without end."""

import json
from collections.abc import Callable
from typing import Any, cast

from django.http import HttpRequest, HttpResponse
from ninja.parser import Parser
from ninja.types import DictStrAny
from pydantic_core import from_json

from boardmath.buildfile.plain_text import NOT_PLAIN, first_not_plain, is_suspect
from server.errors import ApiError, refusal

_FROM_THE_MACHINE = ("/healthz", "/readyz", "/metrics")


def only_our_hosts(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: a name that is not served here is refused for every method, not only where something is written."""

    def checked(request: HttpRequest) -> HttpResponse:
        if request.path not in _FROM_THE_MACHINE:
            request.get_host()
        return get_response(request)

    return checked


def only_plain_addresses(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: an address with what no text may hold is refused before anything is looked up."""

    def checked(request: HttpRequest) -> HttpResponse:
        if "\x00" in request.path or "%00" in request.META.get("QUERY_STRING", ""):
            return refusal(_not_plain(""))
        return get_response(request)

    return checked


class JsonBody(Parser):
    """Reads the body of a request, whatever its content type says that it is."""

    def parse_body(self, request: HttpRequest) -> DictStrAny:
        return cast(DictStrAny, json_of(request.body))


def json_of(body: bytes | str) -> Any:
    """What a JSON text from outside says; 200 levels deep at most.

    Raises:
        ApiError: it is not UTF-8, no JSON, nested too deeply, or holds what no text may.
    """
    try:
        text = body if isinstance(body, str) else body.decode()
    except UnicodeDecodeError as error:
        raise ApiError(f"The request is not UTF-8 text (byte {error.start}).", status=400) from None
    try:
        found = from_json(text, allow_inf_nan=False)
    except ValueError as error:
        # Half of a character is no JSON to this reader; Python's own says in which field it is.
        if is_suspect(text) and (field := _half_a_character_in(text)) is not None:
            raise _not_plain(field) from None
        raise ApiError(f"The request is not JSON: {error}.", status=400) from None
    if is_suspect(text) and (field := first_not_plain(found)) is not None:
        raise _not_plain(field)
    return found


def _half_a_character_in(text: str) -> str | None:
    try:
        return first_not_plain(json.loads(text))
    except (ValueError, RecursionError):
        return None


def _not_plain(field: str) -> ApiError:
    return ApiError("The request has faults; nothing was changed.", faults={field: NOT_PLAIN})
