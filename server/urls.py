"""The API under /api, and the interface everywhere else: it finds its own pages."""

import sys

from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseNotFound, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from server import health
from server.api import api
from server.errors import database_message
from server.metrics import metrics
from server.settings import INTERFACE


@ensure_csrf_cookie
def interface(request: HttpRequest) -> HttpResponse:
    """The single page of the interface."""
    page = INTERFACE / "index.html"
    if not page.is_file():
        raise Http404("The interface is not built: make build")
    response = HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Below ``/api/`` in the API's own shape, elsewhere in a word."""
    if request.path.startswith("/api/"):
        return JsonResponse({"message": "There is no such address.", "faults": []}, status=404)
    return HttpResponseNotFound("There is no such page.", content_type="text/plain; charset=utf-8")


def fallen(request: HttpRequest) -> HttpResponse:
    """What nobody caught: in the API's own shape; a database that is away is a matter of moments."""
    error = sys.exc_info()[1]
    is_away = isinstance(error, OperationalError | InterfaceError)
    message = (
        database_message(error)
        if is_away
        else "Something went wrong here. The operator can find the reason in the log."
    )
    said = JsonResponse({"message": message, "faults": []}, status=503 if is_away else 500)
    if is_away:
        said["Retry-After"] = "5"
    return said


handler404 = "server.urls.not_found"
handler500 = "server.urls.fallen"
urlpatterns = [
    path("healthz", health.alive),
    path("readyz", health.ready),
    path("metrics", metrics),
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", interface),
]
