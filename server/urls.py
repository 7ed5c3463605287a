"""The API under /api, and the interface everywhere else: it finds its own pages."""

from django.http import Http404, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

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


urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|assets/).*$", interface)]
