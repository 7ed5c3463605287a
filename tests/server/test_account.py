"""Signing up, in and out on Django's own auth."""

import json

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from tests.server.conftest import PASSWORD

pytestmark = pytest.mark.django_db


class Visitor:
    """Somebody at the door, with the page's CSRF token as a browser has it."""

    def __init__(self):
        self.client = Client(enforce_csrf_checks=True)
        self.client.get("/api/session")

    def send(self, method: str, path: str, body=None, token: str | None = None):
        token = token if token is not None else self.client.cookies["csrftoken"].value
        return self.client.generic(
            method, f"/api{path}", json.dumps(body), content_type="application/json", headers={"X-CSRFToken": token}
        )


@pytest.fixture
def visitor():
    return Visitor()


def test_up_out_and_in_again(visitor):
    me = {"name": "plover", "password": PASSWORD}
    assert visitor.send("POST", "/session/sign-up", me).json()["name"] == "plover"
    assert visitor.send("GET", "/shelf").json()["builds"] == []
    assert visitor.send("POST", "/session/sign-out").json()["name"] is None
    assert visitor.send("GET", "/shelf").status_code == 401
    assert visitor.send("POST", "/session/sign-in", me).json()["name"] == "plover"


def test_without_the_pages_token_nothing_is_done(visitor):
    me = {"name": "plover", "password": PASSWORD}
    assert visitor.send("POST", "/session/sign-up", me, token="").status_code == 403
    visitor.send("POST", "/session/sign-up", me)
    assert visitor.send("POST", "/builds", {"name": "x"}, token="").status_code == 403
    assert visitor.send("GET", "/shelf").json()["builds"] == []


@pytest.mark.parametrize(
    ("name", "password", "field"),
    [
        ("plover", "short", "password"),
        ("plover", "password123", "password"),
        ("   ", PASSWORD, "name"),
        ("a/b c!", PASSWORD, "name"),
    ],
)
def test_what_cannot_be_signed_up_with(visitor, name, password, field):
    refused = visitor.send("POST", "/session/sign-up", {"name": name, "password": password})
    assert refused.status_code == 422
    assert [f["field"] for f in refused.json()["faults"]] == [field]
    assert get_user_model().objects.count() == 0


def test_a_taken_name_is_refused(visitor, workshop):
    refused = visitor.send("POST", "/session/sign-up", {"name": "plover", "password": PASSWORD})
    assert (refused.status_code, refused.json()["faults"][0]["field"]) == (422, "name")


def test_a_wrong_password_does_not_say_which_was_wrong(visitor, workshop):
    wrong = visitor.send("POST", "/session/sign-in", {"name": "plover", "password": "x"})
    nobody = visitor.send("POST", "/session/sign-in", {"name": "nobody", "password": "x"})
    assert wrong.status_code == nobody.status_code == 401
    assert wrong.json() == nobody.json()


def test_guessing_is_held_back(visitor, workshop):
    answers = [
        visitor.send("POST", "/session/sign-in", {"name": "plover", "password": "x"}).status_code for _ in range(34)
    ]
    assert answers[0] == 401
    assert answers[-1] == 429


def test_changing_the_password_ends_other_sessions(visitor, workshop):
    visitor.send("POST", "/session/sign-in", {"name": "plover", "password": PASSWORD})
    refused = visitor.send("POST", "/session/password", {"old": "wrong", "new": "godwit in the reeds"})
    assert refused.json()["faults"][0]["field"] == "old"
    changed = visitor.send("POST", "/session/password", {"old": PASSWORD, "new": "godwit in the reeds"})
    assert changed.status_code == 200
    assert visitor.send("GET", "/shelf").status_code == 200
    assert workshop.send("GET", "/shelf").status_code == 401


def test_preferences_are_kept_and_unknown_units_refused(workshop):
    wanted = {"units": {"speed": "mph"}, "theme": "night"}
    assert workshop.send("PUT", "/preferences", wanted).json() == wanted
    assert workshop.send("GET", "/session").json()["preferences"] == wanted
    assert workshop.send("PUT", "/preferences", {"units": {"speed": "furlongs"}}).status_code == 422


def test_the_demonstration_is_entered_only_where_it_is_offered(visitor, settings):
    from server.demo.story import load

    load()
    settings.DEMO = False
    assert visitor.send("POST", "/session/demo").status_code == 404
    settings.DEMO = True
    entered = visitor.send("POST", "/session/demo").json()
    assert (entered["name"], entered["is_demo"]) == ("warden", True)
    assert visitor.send("GET", "/shelf").json()["count"] == 3


def test_whoever_signs_up_as_the_warden_is_not_the_demonstration(visitor, settings):
    settings.DEMO = True
    visitor.send("POST", "/session/sign-up", {"name": "warden", "password": PASSWORD})
    visitor.send("POST", "/session/sign-out")
    assert visitor.send("POST", "/session/demo").status_code == 404
