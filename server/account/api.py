"""Signing up, in and out, and what a person prefers; on Django's own auth."""

import logging
from typing import Literal, cast

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Field, Router, Schema
from pydantic import field_validator

from boardmath.units import QUANTITIES
from server.account import services
from server.account.models import Profile
from server.account.public_auth import ANYONE, AnyoneWithCsrf
from server.demo.entry import DEMO_BOARDS, demo_user, is_demo
from server.errors import ApiError
from server.throttles.known_devices import remember_device
from server.throttles.rates import GuessingThrottle, OneNameThrottle

router = Router(tags=["accounts"])
logger = logging.getLogger("sand_pocket.door")
BACKEND = "django.contrib.auth.backends.ModelBackend"


class Preferences(Schema):
    """Units by quantity (those not named stay as the build file has them) and the theme."""

    units: dict[str, str] = {}
    theme: Literal["day", "night", "system"] = "system"

    @field_validator("units")
    @classmethod
    def known_units(cls, units: dict[str, str]) -> dict[str, str]:
        for quantity, unit in units.items():
            if quantity not in QUANTITIES or unit not in QUANTITIES[quantity].shown:
                raise ValueError(f"{quantity} is not shown in {unit}")
        return units


class SessionOut(Schema):
    name: str | None
    is_demo: bool
    demo_boards: int
    """How many boards the demonstration has; 0 where none is offered."""
    registration: Literal["open", "invitation", "closed"]
    mail_works: bool
    """Whether a forgotten password can be mailed about; else whoever runs this has to be asked."""
    preferences: Preferences


class Credentials(Schema):
    """Name and password; the code of a second factor or a recovery code where there is one, an invitation where one is needed."""

    name: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)
    code: str = Field(default="", max_length=40)
    invitation: str = Field(default="", max_length=64)


def _session(request: HttpRequest) -> SessionOut:
    get_token(request)  # the shell may have come from the device; the cookie comes from here
    user = request.user
    profile = Profile.objects.filter(user=user).first() if user.is_authenticated else None
    return SessionOut(
        name=user.get_username() if user.is_authenticated else None,
        is_demo=user.is_authenticated and is_demo(user),
        demo_boards=DEMO_BOARDS if settings.DEMO else 0,
        registration=settings.REGISTRATION,
        mail_works=settings.MAIL_WORKS,
        preferences=Preferences(**(profile.preferences if profile else {})),
    )


@router.get("/session", response=SessionOut, auth=None)
def session(request: HttpRequest) -> SessionOut:
    """Who is signed in, and what they prefer."""
    return _session(request)


@router.post("/session/sign-up", response=SessionOut, **ANYONE)
def sign_up(request: HttpRequest, response: HttpResponse, payload: Credentials) -> SessionOut:
    """A new workshop of one's own."""
    name = payload.name.strip()
    if not name:
        raise ApiError("A workshop needs a name.", name="cannot be empty")
    user = User(username=name)
    try:
        user.full_clean(exclude=["password"], validate_unique=False)
    except ValidationError as error:
        raise ApiError("You cannot use that name.", name=" ".join(error.messages)) from None
    services.check_password(payload.password, user, "password")
    user.set_password(payload.password)
    try:
        with transaction.atomic():
            invitation = services.may_sign_up(payload.invitation)
            if services.known_as(name) is not None:
                raise IntegrityError
            user.save()
            if invitation is not None:
                invitation.used_by, invitation.used_at = user, timezone.now()
                invitation.save(update_fields=["used_by", "used_at"])
    except IntegrityError:
        raise ApiError("That name is taken.", name="someone else signs in with it") from None
    login(request, user, backend=BACKEND)
    remember_device(request, response, user.get_username())
    return _session(request)


@router.post(
    "/session/sign-in",
    response=SessionOut,
    auth=AnyoneWithCsrf(),
    throttle=[GuessingThrottle(), OneNameThrottle()],
)
def sign_in(request: HttpRequest, response: HttpResponse, payload: Credentials) -> SessionOut:
    """Back into one's workshop; capital letters in the name do not matter."""
    name = payload.name.strip()
    user = authenticate(request, username=services.known_as(name) or name, password=payload.password)
    if user is None:
        # For whoever watches the log for guessers; the name is not written, as people type passwords into it.
        logger.warning("sign-in refused from %s", GuessingThrottle().get_ident(request))
        raise ApiError("Name or password is wrong.", status=401)
    if services.has_second_factor(user):
        if not payload.code.strip():
            raise ApiError(
                "Enter the code of your second factor too.", status=401, code="the six digits, or a recovery code"
            )
        if not services.passes_second_factor(user, payload.code):
            logger.warning("second factor refused from %s", GuessingThrottle().get_ident(request))
            raise ApiError(
                "That code is wrong. Wait a moment before you try again.",
                status=401,
                code="the current six digits, or an unused recovery code",
            )
    login(request, user, backend=BACKEND)
    remember_device(request, response, user.get_username())
    return _session(request)


@router.post("/session/demo", response=SessionOut, **ANYONE)
def enter_demo(request: HttpRequest) -> SessionOut:
    """Into the demonstration's workshop, where it is offered."""
    user = demo_user()
    if not settings.DEMO or user is None:
        raise ApiError("There is no demonstration here.", status=404)
    login(request, user, backend=BACKEND)
    return _session(request)


@router.post("/session/sign-out", response=SessionOut, auth=AnyoneWithCsrf())
def sign_out(request: HttpRequest) -> SessionOut:
    """Out of the workshop."""
    logout(request)
    return _session(request)


@router.put("/preferences", response=Preferences)
def prefer(request: HttpRequest, payload: Preferences) -> Preferences:
    """Units and theme, kept for every device."""
    Profile.objects.update_or_create(user=cast(User, request.user), defaults={"preferences": payload.dict()})
    return payload
