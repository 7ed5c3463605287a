"""What server and screen tests share: people with workshops of their own, and the demonstration's library."""

import json
from datetime import UTC, datetime
from io import BytesIO
from typing import Any

import pytest
import time_machine
from django.contrib.auth import get_user_model
from django.test import Client
from PIL import Image

from server.jobs.tasks import work_through
from tests.core.boards import SPIT_RUNNER

PASSWORD = "dunlin over wet sand"
QUICK = ["django.contrib.auth.hashers.MD5PasswordHasher"]
"""Hashing that is slow on purpose would make up most of the tests' time."""


class Workshop:
    """A signed-in person's view of the API."""

    def __init__(self, name: str, enforce_csrf: bool = False):
        self.user = get_user_model().objects.create_user(name, password=PASSWORD)
        self.client = Client(enforce_csrf_checks=enforce_csrf)
        self.client.force_login(self.user)

    def send(self, method: str, path: str, body: Any = None):
        data = body if isinstance(body, bytes) else json.dumps(body)
        return self.client.generic(method, f"/api{path}", data, content_type="application/json")

    def ask(self, path: str, body: Any = None) -> dict[str, Any]:
        """Asks for a job, which a worker does at once, and gives how it ended."""
        asked = self.send("POST", path, body)
        assert asked.status_code == 202, asked.content
        work_through.call()
        return self.send("GET", f"/jobs/{asked.json()['id']}").json()

    def made(self, path: str, body: Any = None):
        """The answer with what was made."""
        job = self.ask(path, body)
        assert job["state"] == "done", job
        return self.send("GET", f"/jobs/{job['id']}/result")

    def new(self, document: dict[str, Any] = SPIT_RUNNER) -> dict[str, Any]:
        return self.send("POST", "/builds/import", document).json()


def photo(size: tuple[int, int] = (640, 480), form: str = "JPEG", **saved: Any) -> bytes:
    """A photo as a camera would send it."""
    file = BytesIO()
    Image.new("RGB", size, (180, 140, 90)).save(file, form, **saved)
    return file.getvalue()


NOON = datetime(2026, 12, 2, 12, 0, tzinfo=UTC)
"""After the last day of the demonstration's story."""


@pytest.fixture(scope="package", autouse=True)
def around_noon():
    """A day of the tests' own: none begins before midnight and ends after it, whenever they run."""
    with time_machine.travel(NOON):
        yield


@pytest.fixture
def within_a_minute(around_noon):
    """The clock stands, so that tries that are counted by the minute all count together however long they take."""
    with time_machine.travel(datetime.now(UTC), tick=False):
        yield


@pytest.fixture(autouse=True)
def quick_passwords(settings):
    settings.PASSWORD_HASHERS = QUICK


@pytest.fixture
def workshop(db) -> Workshop:
    return Workshop("plover")


@pytest.fixture
def other_workshop(db) -> Workshop:
    return Workshop("sanderling")


@pytest.fixture
def library(db):
    from server.demo.story import load_library

    load_library()
