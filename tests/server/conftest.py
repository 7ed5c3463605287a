"""What server and screen tests share: people with workshops of their own, and the demonstration's library."""

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from tests.core.boards import SPIT_RUNNER

PASSWORD = "dunlin over wet sand"


class Workshop:
    """A signed-in person's view of the API."""

    def __init__(self, name: str, enforce_csrf: bool = False):
        self.user = get_user_model().objects.create_user(name, password=PASSWORD)
        self.client = Client(enforce_csrf_checks=enforce_csrf)
        self.client.force_login(self.user)

    def send(self, method: str, path: str, body: Any = None):
        data = body if isinstance(body, bytes) else json.dumps(body)
        return self.client.generic(method, f"/api{path}", data, content_type="application/json")

    def new(self, document: dict[str, Any] = SPIT_RUNNER) -> dict[str, Any]:
        return self.send("POST", "/builds/import", document).json()


@pytest.fixture(autouse=True)
def quick_passwords(settings):
    """Hashing that is slow on purpose would make up most of the tests' time."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def workshop(db, cache_table) -> Workshop:
    return Workshop("plover")


@pytest.fixture
def other_workshop(db, cache_table) -> Workshop:
    return Workshop("sanderling")


@pytest.fixture
def cache_table(db):
    from django.core.cache import cache
    from django.core.management import call_command

    call_command("createcachetable", verbosity=0)
    cache.clear()


@pytest.fixture
def library(db):
    from server.demo.story import load_library

    load_library()
