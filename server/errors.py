"""How the API says what is wrong: always the same shape, with fields and reasons."""

import json
from collections.abc import Callable, Mapping
from typing import Any

import psycopg
from django.core.exceptions import RequestDataTooBig
from django.db import DataError, InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, AuthorizationError, HttpError, Throttled, ValidationError

from boardmath.buildfile import BuildFileError, read_build
from boardmath.buildfile.reading import MOST_FAULTS

FULL = "The server's disk is full, so this was not saved; everything that was saved before is safe. Tell the operator."
AWAY = "The database cannot be reached at the moment; everything that was saved is safe. Try again."


class FaultOut(Schema):
    field: str
    reason: str


class FaultsOut(Schema):
    """Why a request was not carried out. ``field`` is a dotted path, empty for the whole."""

    message: str
    faults: list[FaultOut] = []


class RowFaults(Schema):
    """What is wrong with one row of a file that is brought in."""

    field: str
    reason: str


class ApiError(Exception):
    """A request that cannot be carried out, with its status and faults."""

    def __init__(
        self,
        message: str,
        status: int = 422,
        faults: Mapping[str, str] | None = None,
        retry_after: int | None = None,
        **fields: str,
    ) -> None:
        super().__init__(message)
        self.message, self.status, self.retry_after = message, status, retry_after
        self.faults = [FaultOut(field=f, reason=r) for f, r in {**(faults or {}), **fields}.items()]


def database_message(error: BaseException | None) -> str:
    """Why the database did not take something, in words."""
    return FULL if isinstance(getattr(error, "__cause__", None), psycopg.errors.DiskFull) else AWAY


def refusal(error: ApiError) -> JsonResponse:
    """A refusal of what the API does not hear of, in its shape."""
    faults = [fault.model_dump() for fault in error.faults]
    return JsonResponse({"message": error.message, "faults": faults}, status=error.status)


class Conflict(Exception):
    """What was to be replaced was changed since by someone else; ``current`` is the row as it is now."""

    def __init__(self, current: Any):
        super().__init__("changed since")
        self.current = current


def of_build_file(error: BuildFileError) -> FaultsOut:
    """What is wrong with a build file, in the API's shape."""
    faults = [FaultOut(field=f.field, reason=f.reason) for f in error.faults]
    return FaultsOut(message="The build file has faults; nothing was changed.", faults=faults)


def _of_validation(request: HttpRequest, error: ValidationError) -> FaultsOut:
    """A build inside a request is read again for reasons in the words of the trade, where the route takes a build."""
    if any(
        "document" in e["loc"] and (e["type"], e["loc"][-1]) != ("extra_forbidden", "document") for e in error.errors
    ):
        try:
            document = json.loads(request.body)["document"]
            read_build(document)
        except BuildFileError as in_document:
            return of_build_file(in_document)
        except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
            pass
    # "body", "payload", ... are the API's own words, not the sender's.
    faults = [
        FaultOut(
            field=".".join(str(s) for s in e["loc"] if s not in ("body", "query", "path", "payload")), reason=e["msg"]
        )
        for e in error.errors[:MOST_FAULTS]
    ]
    return FaultsOut(message="The request has faults; nothing was changed.", faults=faults)


def in_one_shape(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: what refuses before the API hears of it (method, token, host) says so in the API's shape too."""

    def answered(request: HttpRequest) -> HttpResponse:
        found = get_response(request)
        kind = found.headers.get("Content-Type", "")
        if found.status_code < 400 or not request.path.startswith("/api/") or kind.startswith("application/json"):
            return found
        said = JsonResponse({"message": f"{found.reason_phrase}.", "faults": []}, status=found.status_code)
        for name in ("Allow", "Retry-After"):
            if found.has_header(name):
                said[name] = found[name]
        return said

    return answered


def install(api: NinjaAPI) -> None:
    """Registers the handlers on an API."""

    def answer(request: HttpRequest, faults: FaultsOut, status: int, retry_after: int | None = None) -> HttpResponse:
        said = api.create_response(request, faults, status=status)
        if retry_after is not None:
            said["Retry-After"] = str(retry_after)
        return said

    @api.exception_handler(BuildFileError)
    def build_file(request: HttpRequest, error: BuildFileError) -> HttpResponse:
        return answer(request, of_build_file(error), 422)

    @api.exception_handler(ValidationError)
    def validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return answer(request, _of_validation(request, error), 422)

    @api.exception_handler(ApiError)
    def refused(request: HttpRequest, error: ApiError) -> HttpResponse:
        return answer(request, FaultsOut(message=error.message, faults=error.faults), error.status, error.retry_after)

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return answer(request, FaultsOut(message="Too large: at most one megabyte at a time."), 413)

    @api.exception_handler(DataError)
    def beyond_the_database(request: HttpRequest, error: DataError) -> HttpResponse:
        return answer(request, FaultsOut(message="A number or a text in it is too large."), 422)

    @api.exception_handler(OperationalError)
    @api.exception_handler(InterfaceError)
    def database_away(request: HttpRequest, error: Exception) -> HttpResponse:
        return answer(request, FaultsOut(message=database_message(error)), 503, 5)

    @api.exception_handler(Http404)
    def not_found(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, FaultsOut(message="Board not found."), 404)

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return answer(request, FaultsOut(message="Sign in first."), 401)

    @api.exception_handler(AuthorizationError)
    def forbidden(request: HttpRequest, error: AuthorizationError) -> HttpResponse:
        return answer(request, FaultsOut(message="Not allowed."), 403)

    @api.exception_handler(Throttled)
    def too_often(request: HttpRequest, error: Throttled) -> HttpResponse:
        wait = f" Try again in {error.wait} seconds." if error.wait else ""
        return answer(request, FaultsOut(message="Too many tries." + wait), 429, error.wait)

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        # Ninja takes whatever its reader of bodies raises for one and the same.
        if isinstance(error.__cause__, ApiError):
            return refused(request, error.__cause__)
        return answer(request, FaultsOut(message=str(error)), error.status_code)
