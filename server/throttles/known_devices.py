"""Devices on which a person has signed in before: there, strangers who guess at their name do not lock them out."""

from secrets import token_hex

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import salted_hmac
from pydantic import BaseModel, ValidationError

COOKIE = "known_device"
AGE_S = 60 * 60 * 24 * 365
_SALT = "server.throttles.known_devices"
_MOST_NAMES = 8
"""Of one device, the latest."""


class _Device(BaseModel):
    id: str
    names: list[str]
    """Names that were signed in with, hashed with the server's key: a device tells nobody whose it is."""


def _hashed(name: str) -> str:
    return salted_hmac(_SALT, name.strip().casefold(), algorithm="sha256").hexdigest()[:32]


def _read(request: HttpRequest) -> _Device | None:
    try:
        return _Device.model_validate(signing.loads(request.COOKIES.get(COOKIE, ""), salt=_SALT, max_age=AGE_S))
    except (signing.BadSignature, ValidationError):
        return None


def remember_device(request: HttpRequest, response: HttpResponse, name: str) -> None:
    """Notes on the device that somebody signed in there with this name."""
    device = _read(request) or _Device(id=token_hex(8), names=[])
    names = [_hashed(name), *(n for n in device.names if n != _hashed(name))][:_MOST_NAMES]
    value = signing.dumps({"id": device.id, "names": names}, salt=_SALT)
    response.set_cookie(
        COOKIE, value, max_age=AGE_S, httponly=True, samesite="Lax", secure=bool(settings.SESSION_COOKIE_SECURE)
    )


def device_known_to(request: HttpRequest, name: str) -> str | None:
    """The device's id, where somebody has signed in on it with this name."""
    device = _read(request)
    return device.id if device is not None and _hashed(name) in device.names else None
