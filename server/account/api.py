"""Signing up, in and out, and what a person prefers; on Django's own auth."""

import logging
from typing import Any, Literal, cast

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema
from ninja.security import APIKeyCookie
from pydantic import field_validator

from boardmath.units import QUANTITIES
from server.account.models import Profile
from server.demo.entry import demo_user
from server.faults import Refused
from server.throttles.rates import GuessingThrottle, OneNameThrottle

router = Router(tags=["accounts"])
logger = logging.getLogger("sand_pocket.door")


class AnyoneWithCsrf(APIKeyCookie):
    """Lets everyone in who sends the page's own CSRF token."""

    param_name = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> str:
        return "anyone"


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
    demo_offered: bool
    preferences: Preferences


class Credentials(Schema):
    name: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


class PasswordChange(Schema):
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


def _session(request: HttpRequest) -> SessionOut:
    get_token(request)
    user = request.user
    if not user.is_authenticated:
        return SessionOut(name=None, is_demo=False, demo_offered=settings.DEMO, preferences=Preferences())
    profile = Profile.objects.filter(user=user).first()
    return SessionOut(
        name=user.get_username(),
        is_demo=settings.DEMO and not user.has_usable_password(),
        demo_offered=settings.DEMO,
        preferences=Preferences(**(profile.preferences if profile else {})),
    )


def _checked_password(password: str, user: User, field: str) -> None:
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise Refused("That password is too easy to guess.", faults={field: " ".join(error.messages)}) from None


@router.get("/session", response=SessionOut, auth=None)
def session(request: HttpRequest) -> SessionOut:
    """Who is signed in, and what they prefer."""
    get_token(request)  # the shell may have come from the device; the cookie comes from here
    return _session(request)


_ANYONE: dict[str, Any] = {"auth": AnyoneWithCsrf(), "throttle": GuessingThrottle()}


@router.post("/session/sign-up", response=SessionOut, **_ANYONE)
def sign_up(request: HttpRequest, payload: Credentials) -> SessionOut:
    """A new workshop of one's own."""
    name = payload.name.strip()
    if not name:
        raise Refused("A workshop needs a name.", name="cannot be empty")
    user = User(username=name)
    try:
        user.full_clean(exclude=["password"], validate_unique=False)
    except ValidationError as error:
        raise Refused("That name cannot be used.", name=" ".join(error.messages)) from None
    _checked_password(payload.password, user, "password")
    user.set_password(payload.password)
    try:
        with transaction.atomic():
            if _known_as(name) is not None:
                raise IntegrityError
            user.save()
    except IntegrityError:
        raise Refused("That name is taken.", name="someone already signs in with it") from None
    login(request, user)
    return _session(request)


def _known_as(name: str) -> str | None:
    """The name as it was signed up, for one that differs in capital letters at the most."""
    exact = User.objects.filter(username=name).values_list("username", flat=True).first()
    return exact or User.objects.filter(username__iexact=name).order_by("pk").values_list("username", flat=True).first()


@router.post(
    "/session/sign-in",
    response=SessionOut,
    auth=AnyoneWithCsrf(),
    throttle=[GuessingThrottle(), OneNameThrottle()],
)
def sign_in(request: HttpRequest, payload: Credentials) -> SessionOut:
    """Back into one's workshop; capital letters in the name do not matter."""
    name = payload.name.strip()
    user = authenticate(request, username=_known_as(name) or name, password=payload.password)
    if user is None:
        # For whoever watches the log for guessers; the name is not written, as people type passwords into it.
        logger.warning("sign-in refused from %s", GuessingThrottle().get_ident(request))
        raise Refused("Name and password do not go together.", status=401)
    login(request, user)
    return _session(request)


@router.post("/session/demo", response=SessionOut, **_ANYONE)
def enter_demo(request: HttpRequest) -> SessionOut:
    """Into the demonstration's workshop, where it is offered."""
    user = demo_user()
    if not settings.DEMO or user is None:
        raise Refused("There is no demonstration here.", status=404)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _session(request)


@router.post("/session/sign-out", response=SessionOut, auth=AnyoneWithCsrf())
def sign_out(request: HttpRequest) -> SessionOut:
    """Out of the workshop."""
    logout(request)
    return _session(request)


@router.post("/session/password", response=SessionOut, throttle=GuessingThrottle())
def change_password(request: HttpRequest, payload: PasswordChange) -> SessionOut:
    """A new password; other sessions of the same person end."""
    user = cast(User, request.user)  # the API lets nobody else in here
    if not user.check_password(payload.old):
        raise Refused("The old password is another.", old="not the password you sign in with")
    _checked_password(payload.new, user, "new")
    user.set_password(payload.new)
    user.save()
    update_session_auth_hash(request, user)
    return _session(request)


@router.put("/preferences", response=Preferences)
def prefer(request: HttpRequest, payload: Preferences) -> Preferences:
    """Units and theme, kept for every device."""
    Profile.objects.update_or_create(user=cast(User, request.user), defaults={"preferences": payload.dict()})
    return payload
