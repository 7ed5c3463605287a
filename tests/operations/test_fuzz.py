"""Every address of the API, asked by chance: nothing falls, and every answer is as the API's document says."""

import os

import pytest
import schemathesis
from django.contrib.auth.models import User
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.config import SchemathesisConfig
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from server.jobs.models import Job
from server.jobs.tasks import work_through
from server.throttles import concurrency
from server.wsgi import application
from tests.server.conftest import Workshop
from tests.server.test_attack import DOCUMENT

CASES = int(os.environ.get("SAND_POCKET_FUZZ", "12"))
"""Of each operation; ``make fuzz`` takes 290, which makes more than 20,000."""
# What it enumerates of a build file's hundreds of fields takes minutes an operation; chance takes them as well.
CONFIG = SchemathesisConfig.from_dict({"phases": {"coverage": {"enabled": False}}})
schema = schemathesis.openapi.from_dict(DOCUMENT, config=CONFIG)
schema.app = application


@pytest.fixture
def signed_in(db, monkeypatch, settings):
    """Headers of somebody who is signed in, with a purse that is never empty."""
    settings.ALLOWED_HOSTS = ["*"]
    monkeypatch.setattr(concurrency.ENGINE, "_burst", 1e9)
    workshop = Workshop("turnstone")
    workshop.client.get("/api/session")
    token = workshop.client.cookies["csrftoken"].value
    # Last, as Django's test client connects it again: a request's end does not close the connection of the test's own
    # transaction.
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    session = workshop.client.cookies["sessionid"].value
    yield {"Cookie": f"sessionid={session}; csrftoken={token}", "X-CSRFToken": token, "Accept-Encoding": "identity"}
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


@schema.exclude(path_regex="/session/|/archive").parametrize()
@settings(
    max_examples=CASES, deadline=None, suppress_health_check=list(HealthCheck), derandomize=CASES <= 12, database=None
)
def test_whatever_comes_is_answered_as_the_document_says(case, signed_in):
    Job.objects.all().delete()
    response = case.call(headers={**signed_in, **dict(case.headers or {})})
    case.validate_response(
        response,
        checks=[not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance],
    )
    if response.status_code == 202 and "jobs" not in case.path and "link" not in case.path:
        work_through.call()
        assert Job.objects.get().state in ("done", "failed")
        assert "The worker failed" not in Job.objects.get().message
    assert User.objects.filter(username="turnstone", is_active=True).exists(), "whatever came, the workshop stands"
