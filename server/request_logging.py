"""Every request has an id, is logged in one line, and its answer is nobody else's to keep."""

import logging
import re
import time
import uuid
from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse

from server.request_metrics import count_request

logger = logging.getLogger("sand_pocket.request")
_ID = re.compile(r"[A-Za-z0-9-]{8,64}")
current: ContextVar[str] = ContextVar("request_id", default="")


class WithRequestId(logging.Filter):
    """Puts the id of the request under way on every line that is logged."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request_id = current.get()
        return True


def each_request(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware. The id comes from the proxy where it gives one; neither query nor body is logged, as they are private."""

    def watched(request: HttpRequest) -> HttpResponse:
        given = request.headers.get("X-Request-ID", "")
        token = current.set(given if _ID.fullmatch(given) else uuid.uuid4().hex)
        begun = time.perf_counter()
        try:
            response = get_response(request)
            seconds = time.perf_counter() - begun
            response["X-Request-ID"] = current.get()
            count_request(request, response.status_code, seconds)
            if request.path.startswith("/api/") and not response.has_header("Cache-Control"):
                response["Cache-Control"] = "no-store"
            user = getattr(request, "user", None)
            logger.info(
                "%s %s %s",
                request.method,
                request.path,
                response.status_code,
                extra={
                    "method": request.method,
                    "path": request.path,
                    "status": response.status_code,
                    "ms": round(seconds * 1e3, 1),
                    "user": user.pk if user is not None and user.is_authenticated else None,
                },
            )
            return response
        finally:
            current.reset(token)

    return watched
