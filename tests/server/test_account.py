"""Signing up, in and out on Django's own auth; coming back, and what keeps the door."""

import base64
import json
import time
from xml.etree import ElementTree

import pytest
from django.contrib.auth import get_user_model
from django.core import mail
from django.core.management import CommandError, call_command
from django.test import Client
from django_otp.oath import TOTP

from boardmath.buildfile.reading import MOST_FAULTS
from server.account.services import invite, recovery_link
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
    assert visitor.send("GET", "/boards").json()["builds"] == []
    assert visitor.send("POST", "/session/sign-out").json()["name"] is None
    assert visitor.send("GET", "/boards").status_code == 401
    assert visitor.send("POST", "/session/sign-in", me).json()["name"] == "plover"


def test_without_the_pages_token_nothing_is_done(visitor):
    me = {"name": "plover", "password": PASSWORD}
    assert visitor.send("POST", "/session/sign-up", me, token="").status_code == 403
    visitor.send("POST", "/session/sign-up", me)
    assert visitor.send("POST", "/builds", {"name": "x"}, token="").status_code == 403
    assert visitor.send("GET", "/boards").json()["builds"] == []


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


def test_a_document_in_a_sign_in_is_not_read_as_a_build(visitor, monkeypatch):
    """Nobody has to be signed in to send one, and reading it takes seconds where every key of it is unknown."""
    monkeypatch.setattr("server.errors.read_build", lambda *_: pytest.fail("read as a build"))
    answer = visitor.send("POST", "/session/sign-in", {"document": {f"key{i}": 1 for i in range(30_000)}})
    assert answer.status_code == 422
    assert "name" in {f["field"] for f in answer.json()["faults"]}
    many = visitor.send("POST", "/session/sign-in", {f"key{i}": 1 for i in range(30_000)})
    assert len(many.json()["faults"]) <= MOST_FAULTS


def test_a_taken_name_is_refused(visitor, workshop):
    refused = visitor.send("POST", "/session/sign-up", {"name": "plover", "password": PASSWORD})
    assert (refused.status_code, refused.json()["faults"][0]["field"]) == (422, "name")


def test_a_wrong_password_does_not_say_which_was_wrong(visitor, workshop):
    wrong = visitor.send("POST", "/session/sign-in", {"name": "plover", "password": "x"})
    nobody = visitor.send("POST", "/session/sign-in", {"name": "nobody", "password": "x"})
    assert wrong.status_code == nobody.status_code == 401
    assert wrong.json() == nobody.json()


@pytest.mark.usefixtures("within_a_minute")
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
    assert visitor.send("GET", "/boards").status_code == 200
    assert workshop.send("GET", "/boards").status_code == 401


def test_preferences_are_kept_and_unknown_units_refused(workshop):
    wanted = {"units": {"speed": "mph"}, "theme": "night"}
    assert workshop.send("PUT", "/preferences", wanted).json() == wanted
    assert workshop.send("GET", "/session").json()["preferences"] == wanted
    assert workshop.send("PUT", "/preferences", {"units": {"speed": "furlongs"}}).status_code == 422


def test_the_demonstration_is_entered_only_where_it_is_offered(visitor, settings):
    from server.demo.entry import BUILDS
    from server.demo.story import load

    load()
    settings.DEMO = False
    assert visitor.send("POST", "/session/demo").status_code == 404
    settings.DEMO = True
    entered = visitor.send("POST", "/session/demo").json()
    assert (entered["name"], entered["is_demo"]) == ("warden", True)
    assert visitor.send("GET", "/boards").json()["count"] == len(BUILDS)


def test_whoever_signs_up_as_the_warden_is_not_the_demonstration(visitor, settings):
    settings.DEMO = True
    visitor.send("POST", "/session/sign-up", {"name": "warden", "password": PASSWORD})
    visitor.send("POST", "/session/sign-out")
    assert visitor.send("POST", "/session/demo").status_code == 404


NEW = "godwit in the reeds"


def parts_of(link: str) -> dict[str, str]:
    who, token = link.partition("#")[2].split("/")
    return {"who": who, "token": token}


# --- by invitation, or not at all -------------------------------------------------------------------------------------


def test_where_it_is_by_invitation_each_opens_one_workshop(visitor, settings):
    settings.REGISTRATION = "invitation"
    assert visitor.send("GET", "/session").json()["registration"] == "invitation"
    me = {"name": "plover", "password": PASSWORD}
    assert visitor.send("POST", "/session/sign-up", me).json()["faults"][0]["field"] == "invitation"
    code = invite(days=14, note="for the plover").rsplit("#", 1)[1]
    assert visitor.send("POST", "/session/sign-up", {**me, "invitation": code[:-1]}).status_code == 422
    assert visitor.send("POST", "/session/sign-up", {**me, "password": "short", "invitation": code}).status_code == 422
    assert visitor.send("POST", "/session/sign-up", {**me, "invitation": code}).status_code == 200
    second = {"name": "dunlin", "password": PASSWORD, "invitation": code}
    assert Visitor().send("POST", "/session/sign-up", second).status_code == 422, "used up"
    over = invite(days=-1).rsplit("#", 1)[1]
    assert Visitor().send("POST", "/session/sign-up", {**second, "invitation": over}).status_code == 422


def test_where_it_is_closed_nobody_signs_up_and_everybody_signs_in(visitor, workshop, settings):
    settings.REGISTRATION = "closed"
    refused = visitor.send("POST", "/session/sign-up", {"name": "dunlin", "password": PASSWORD})
    assert (refused.status_code, "No new workshops" in refused.json()["message"]) == (403, True)
    assert visitor.send("POST", "/session/sign-in", {"name": "plover", "password": PASSWORD}).status_code == 200


# --- the password is forgotten ----------------------------------------------------------------------------------------


def test_the_operators_link_leads_back_in_once(visitor, workshop, settings, capsys):
    settings.CSRF_TRUSTED_ORIGINS = ["https://boards.invalid"]
    call_command("recovery_link", "PLOVER")
    link = capsys.readouterr().out.strip()
    assert link.startswith("https://boards.invalid/recover#")
    easy = visitor.send("POST", "/session/recover", {**parts_of(link), "password": "password123"})
    assert easy.json()["faults"][0]["field"] == "password"
    done = visitor.send("POST", "/session/recover", {**parts_of(link), "password": NEW})
    assert "Sign in as “plover”" in done.json()["message"]
    assert workshop.send("GET", "/boards").status_code == 401, "sessions of before are over"
    assert visitor.send("POST", "/session/sign-in", {"name": "plover", "password": NEW}).status_code == 200
    again = visitor.send("POST", "/session/recover", {**parts_of(link), "password": PASSWORD})
    assert again.json()["faults"][0]["field"] == "token"
    with pytest.raises(CommandError, match="Nobody is called"):
        call_command("recovery_link", "nobody")


@pytest.mark.parametrize("who", ["", "!", "MQ", "____", "OTk5OTk5OTk5OTk5OTk5OTk5OTk5"])
def test_a_link_that_is_none_changes_nothing(visitor, workshop, who):
    token = parts_of(recovery_link(workshop.user))["token"][:-1] + "x"
    refused = visitor.send("POST", "/session/recover", {"who": who, "token": token, "password": NEW})
    assert (refused.status_code, refused.json()["faults"][0]["field"]) == (422, "token")
    assert get_user_model().objects.get().check_password(PASSWORD)


def test_a_link_is_over_after_a_day(visitor, workshop, settings):
    link = recovery_link(workshop.user)
    settings.PASSWORD_RESET_TIMEOUT = -1
    assert visitor.send("POST", "/session/recover", {**parts_of(link), "password": NEW}).status_code == 422


def test_by_mail_where_it_is_set_up_and_the_answer_gives_nobody_away(visitor, workshop, settings):
    assert visitor.send("POST", "/session/forgotten", {"who": "plover"}).status_code == 404
    settings.MAIL_WORKS = True
    set_to = {"mail": "plover@marsh.invalid", "password": PASSWORD}
    assert (
        workshop.send("PUT", "/account/security/mail", {**set_to, "password": "x"}).json()["faults"][0]["field"]
        == "password"
    )
    assert (
        workshop.send("PUT", "/account/security/mail", {**set_to, "mail": "marsh"}).json()["faults"][0]["field"]
        == "mail"
    )
    assert workshop.send("PUT", "/account/security/mail", set_to).json()["mail"] == "plover@marsh.invalid"
    told = [visitor.send("POST", "/session/forgotten", {"who": who}).json() for who in ("PLOVER", "nobody")]
    assert told[0] == told[1]
    assert mail.outbox == [], "a worker sends it"
    call_tasks()
    (sent,) = mail.outbox
    assert sent.to == ["plover@marsh.invalid"]
    link = next(line for line in sent.body.splitlines() if "/recover#" in line)
    assert visitor.send("POST", "/session/recover", {**parts_of(link), "password": NEW}).status_code == 200
    for _ in range(6):
        last = visitor.send("POST", "/session/forgotten", {"who": "Plover"})
    assert last.status_code == 429, "nobody's letter box is filled"


def call_tasks() -> None:
    from django_tasks_db.models import DBTaskResult

    for result in DBTaskResult.objects.ready():
        result.task.call(*result.task_result.args)
        result.delete()


# --- the second factor ------------------------------------------------------------------------------------------------


def code_of(secret: str, steps: int = 0) -> str:
    """RFC 6238 by the reference that the package ships: HMAC-SHA-1, six figures, thirty seconds."""
    key = base64.b32decode(secret + "=" * (-len(secret) % 8))
    return f"{TOTP(key, t0=-30 * steps).token():06d}"


@pytest.fixture
def guarded(workshop):
    """A workshop with a second factor: the secret, and the recovery codes."""
    begun = workshop.send("POST", "/account/security/second-factor", {"password": PASSWORD}).json()
    assert begun["address"].startswith("otpauth://totp/Sand%20Pocket:plover?secret=")
    assert ElementTree.fromstring(begun["picture"]).tag == "{http://www.w3.org/2000/svg}svg"
    wrong = workshop.send("POST", "/account/security/second-factor/confirm", {"code": "000000"})
    assert wrong.json()["faults"][0]["field"] == "code"
    time.sleep(1.1)  # the package makes whoever guesses wait
    done = workshop.send("POST", "/account/security/second-factor/confirm", {"code": code_of(begun["secret"])}).json()
    return workshop, begun["secret"], done["codes"]


def test_the_reference_code_is_that_of_the_standard():
    """RFC 6238, appendix B: the secret 12345678901234567890 at 59 s gives 94287082, the last six figures of it."""
    totp = TOTP(b"12345678901234567890")
    totp.time = 59
    assert totp.token() == 287082


def test_with_a_second_factor_the_password_alone_opens_nothing(guarded, visitor):
    workshop, secret, codes = guarded
    assert len(set(codes)) == 10
    me = {"name": "plover", "password": PASSWORD}
    asked = visitor.send("POST", "/session/sign-in", me)
    assert (asked.status_code, asked.json()["faults"][0]["field"]) == (401, "code")
    assert visitor.send("GET", "/boards").status_code == 401
    assert visitor.send("POST", "/session/sign-in", {**me, "password": "x", "code": codes[0]}).json()["faults"] == []
    assert visitor.send("POST", "/session/sign-in", {**me, "code": code_of(secret, 1)}).status_code == 200
    assert workshop.send("GET", "/account/security").json()["codes_left"] == 10


def test_a_code_of_the_moment_opens_once_and_so_does_a_recovery_code(guarded):
    _, secret, codes = guarded
    me = {"name": "plover", "password": PASSWORD}
    code = code_of(secret, 1)
    assert [Visitor().send("POST", "/session/sign-in", {**me, "code": code}).status_code for _ in range(2)] == [
        200,
        401,
    ]
    used = f" {codes[0].upper()} "
    assert [Visitor().send("POST", "/session/sign-in", {**me, "code": used}).status_code for _ in range(2)] == [
        200,
        401,
    ]


def test_it_is_taken_off_with_the_password_or_by_the_operator(guarded, visitor):
    workshop, *_ = guarded
    me = {"name": "plover", "password": PASSWORD}
    assert workshop.send("POST", "/account/security/second-factor/end", {"password": "x"}).status_code == 422
    assert (
        workshop.send("POST", "/account/security/second-factor/end", {"password": PASSWORD}).json()["second_factor"]
        is False
    )
    assert visitor.send("POST", "/session/sign-in", me).status_code == 200
    begun = workshop.send("POST", "/account/security/second-factor", {"password": PASSWORD}).json()
    workshop.send("POST", "/account/security/second-factor/confirm", {"code": code_of(begun["secret"])})
    assert Visitor().send("POST", "/session/sign-in", me).status_code == 401
    call_command("recovery_link", "plover", "--without-second-factor")
    assert Visitor().send("POST", "/session/sign-in", me).status_code == 200


# --- where one is signed in -------------------------------------------------------------------------------------------

PHONE = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0 Mobile Safari/537.36"


def test_a_device_left_behind_is_seen_and_signed_out(workshop):
    me = {"name": "plover", "password": PASSWORD}
    phone, other = Visitor(), Visitor()
    phone.client.defaults["HTTP_USER_AGENT"] = PHONE
    for visitor in (phone, other):
        visitor.send("POST", "/session/sign-in", me)
    rows = phone.send("GET", "/account/security").json()["sessions"]
    assert len(rows) == 3
    assert (rows[0]["here"], rows[0]["device"]) == (True, "Chrome on Android")
    keys = {v.client.cookies["sessionid"].value for v in (phone, other)}
    assert not keys & {r["id"] for r in rows}, "a key is never shown"
    left = phone.send("POST", f"/account/security/sign-out-elsewhere?only={rows[1]['id']}").json()["sessions"]
    assert len(left) == 2
    assert len(phone.send("POST", "/account/security/sign-out-elsewhere").json()["sessions"]) == 1
    assert [v.send("GET", "/boards").status_code for v in (phone, other, workshop)] == [200, 401, 401]


def test_nobody_signs_somebody_else_out(workshop, other_workshop):
    mine = workshop.send("GET", "/account/security").json()["sessions"][0]["id"]
    other_workshop.send("POST", f"/account/security/sign-out-elsewhere?only={mine}")
    assert workshop.send("GET", "/boards").status_code == 200


def test_the_demonstrations_door_stays_as_it_is(visitor, settings):
    from server.demo.story import load

    load()
    settings.DEMO = True
    visitor.send("POST", "/session/demo")
    assert visitor.send("GET", "/account/security").status_code == 403
    assert visitor.send("POST", "/account/security/sign-out-elsewhere").status_code == 403
