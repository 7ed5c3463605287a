"""The API under /api, and the interface everywhere else: it finds its own pages."""

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseNotFound, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from server import health
from server.api import api
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


handler404 = "server.urls.not_found"
urlpatterns = [
    path("healthz", health.alive),
    path("readyz", health.ready),
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", interface),
]
