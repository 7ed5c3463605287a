"""What keeps one's door: mail for a forgotten password, the second factor, and where one is signed in."""

from datetime import datetime
from typing import cast

from django.conf import settings
from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Field, Router, Schema

from server.account import services
from server.account.public_auth import ANYONE
from server.account.tasks import mail_recovery
from server.demo.entry import is_demo
from server.errors import ApiError
from server.throttles.rates import ForgottenThrottle, GuessingThrottle

router = Router(tags=["accounts"])


class SessionOfMine(Schema):
    """Where one is signed in; ``here`` is the one that asks."""

    id: str
    device: str
    since: datetime | None
    seen: datetime
    here: bool


class SecurityOut(Schema):
    """How one's door is kept."""

    mail: str
    mail_works: bool
    second_factor: bool
    codes_left: int
    sessions: list[SessionOfMine]


class PasswordIn(Schema):
    password: str = Field(max_length=200)


class PasswordChange(Schema):
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class MailIn(PasswordIn):
    mail: str = Field(max_length=254)


class CodeIn(Schema):
    code: str = Field(max_length=40)


class SecondFactorOut(Schema):
    """What an authenticator takes up: the secret to type, or the picture (SVG) to look at."""

    secret: str
    address: str
    picture: str


class CodesOut(Schema):
    """Codes that each open the door once, when the authenticator is lost; shown this one time."""

    codes: list[str]


class ForgottenIn(Schema):
    who: str = Field(min_length=1, max_length=254)


class RecoverIn(Schema):
    who: str = Field(max_length=40)
    token: str = Field(max_length=120)
    password: str = Field(max_length=200)


class WordOut(Schema):
    message: str


def _me(request: HttpRequest, password: str | None = None, field: str = "password") -> User:
    """The person; with their password, where it is asked for."""
    user = cast(User, request.user)  # the API lets nobody else in here
    if is_demo(user):
        raise ApiError("The demonstration's security settings cannot be changed.", status=403)
    if password is not None and not user.check_password(password):
        raise ApiError("That is not your password.", faults={field: "not the password you sign in with"})
    return user


@router.get("/account/security", response=SecurityOut)
def security(request: HttpRequest) -> SecurityOut:
    """How one's door is kept: mail, second factor, where one is signed in."""
    user = _me(request)
    return SecurityOut(
        mail=user.email,
        mail_works=settings.MAIL_WORKS,
        second_factor=services.has_second_factor(user),
        codes_left=services.codes_left(user),
        sessions=[SessionOfMine(**s.__dict__) for s in services.signed_in(user, request.session.session_key)],
    )


@router.post("/session/password", response=SecurityOut, throttle=GuessingThrottle())
def change_password(request: HttpRequest, payload: PasswordChange) -> SecurityOut:
    """A new password; other sessions of the same person end."""
    user = cast(User, request.user)
    if not user.check_password(payload.old):
        raise ApiError("The old password is wrong.", old="not the password you sign in with")
    services.check_password(payload.new, user, "new")
    user.set_password(payload.new)
    user.save()
    update_session_auth_hash(request, user)
    services.sign_out_elsewhere(user, request.session.session_key)
    return security(request)


@router.put("/account/security/mail", response=SecurityOut, throttle=GuessingThrottle())
def mail(request: HttpRequest, payload: MailIn) -> SecurityOut:
    """Where a link is mailed when the password is forgotten; empty for nowhere."""
    services.set_mail(_me(request, payload.password), payload.mail.strip())
    return security(request)


@router.post("/account/security/second-factor", response=SecondFactorOut, throttle=GuessingThrottle())
def begin(request: HttpRequest, payload: PasswordIn) -> SecondFactorOut:
    """Begins with a second factor; it counts once a code of it is given."""
    return SecondFactorOut(**services.begin_second_factor(_me(request, payload.password)).__dict__)


@router.post("/account/security/second-factor/confirm", response=CodesOut, throttle=GuessingThrottle())
def confirm(request: HttpRequest, payload: CodeIn) -> CodesOut:
    """Takes the second factor up; gives the recovery codes."""
    return CodesOut(codes=services.confirm_second_factor(_me(request), payload.code))


@router.post("/account/security/second-factor/end", response=SecurityOut, throttle=GuessingThrottle())
def end(request: HttpRequest, payload: PasswordIn) -> SecurityOut:
    """The password alone is enough again."""
    services.end_second_factor(_me(request, payload.password))
    return security(request)


@router.post("/account/security/sign-out-elsewhere", response=SecurityOut)
def sign_out_elsewhere(request: HttpRequest, only: str = "") -> SecurityOut:
    """Ends one session, or all but this one."""
    services.sign_out_elsewhere(_me(request), request.session.session_key, only)
    return security(request)


@router.post(
    "/session/forgotten", response=WordOut, auth=ANYONE["auth"], throttle=[GuessingThrottle(), ForgottenThrottle()]
)
def forgotten(request: HttpRequest, payload: ForgottenIn) -> WordOut:
    """Mails a link to a new password, where there is a workshop of that name or address with a mail address.

    The answer is the same whether there is one.
    """
    if not settings.MAIL_WORKS:
        raise ApiError("This server sends no mail. Ask the operator for a link.", status=404)
    for user in services.with_mail(payload.who.strip()):
        mail_recovery.enqueue(user.pk)
    return WordOut(message="If there is such a workshop with a mail address, a link was sent to it.")


@router.post("/session/recover", response=WordOut, **ANYONE)
def recover(request: HttpRequest, payload: RecoverIn) -> WordOut:
    """A new password by a link."""
    user = services.recover(payload.who, payload.token, payload.password)
    services.sign_out_elsewhere(user, None)
    return WordOut(message=f"The password was changed. Sign in as “{user.get_username()}”.")
