"""How many requests were answered, and how fast: counted by each process, added up by :mod:`server.metrics`."""

from django.http import HttpRequest
from prometheus_client import Counter, Histogram

REQUESTS = Counter("sand_pocket_requests_total", "Requests answered", ["method", "route", "status"])
SECONDS = Histogram(
    "sand_pocket_request_seconds",
    "Time to an answer",
    ["route"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0),
)
_METHODS = {"GET", "POST", "PUT", "PATCH", "DELETE", "HEAD", "OPTIONS"}


def count_request(request: HttpRequest, status: int, seconds: float) -> None:
    """Counts an answer under its route, never under its path: ids are nobody's business there."""
    route = request.resolver_match.route if request.resolver_match else "none"
    REQUESTS.labels(request.method if request.method in _METHODS else "other", route, status).inc()
    SECONDS.labels(route).observe(seconds)
