"""Who may come in and how they come back: invitations, recovery, the second factor, where one is signed in."""

import hashlib
import secrets
from base64 import b32encode
from dataclasses import dataclass
from datetime import datetime, timedelta
from io import BytesIO
from urllib.parse import quote

import segno
from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from django.utils.encoding import force_str
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode
from django_otp import verify_token
from django_otp.models import Device
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from qsessions.models import Session

from server.account.models import Invitation
from server.errors import ApiError

RECOVERY_CODES = 10
ISSUER = "Sand Pocket"


def known_as(name: str) -> str | None:
    """The name as it was signed up, for one that differs in capital letters at the most."""
    exact = User.objects.filter(username=name).values_list("username", flat=True).first()
    return exact or User.objects.filter(username__iexact=name).order_by("pk").values_list("username", flat=True).first()


def check_password(password: str, user: User, field: str) -> None:
    """Raises ApiError where a password is too easy to guess."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise ApiError("That password is too easy to guess.", faults={field: " ".join(error.messages)}) from None


def address(path: str) -> str:
    """A path of the interface as a link that can be sent."""
    origin = settings.CSRF_TRUSTED_ORIGINS[0] if settings.CSRF_TRUSTED_ORIGINS else "http://localhost"
    return f"{origin}{path}"


# --- invitations ------------------------------------------------------------------------------------------------------


def invite(days: int, note: str = "") -> str:
    """A link with which one person may open a workshop; only a digest of its code is kept."""
    code = secrets.token_urlsafe(16)
    until = timezone.now() + timedelta(days=days)
    Invitation.objects.create(digest=_digest(code), until=until, note=note[:200])
    return address(f"/join#{code}")


def _digest(code: str) -> str:
    return hashlib.sha256(code.encode()).hexdigest()


def may_sign_up(code: str) -> Invitation | None:
    """The invitation that a code stands for, kept for this sign-up; None where none is needed.

    Raises:
        ApiError: registration is closed, or the invitation is none, used or over.
    """
    if settings.REGISTRATION == "open":
        return None
    if settings.REGISTRATION == "closed":
        raise ApiError("No new workshops can be opened at the moment.", status=403)
    free = Invitation.objects.filter(digest=_digest(code), used_by=None, until__gt=timezone.now())
    found = free.select_for_update().first()
    if found is None:
        raise ApiError(
            "You need an invitation to open a workshop.",
            invitation="an invitation link that is unused and not expired",
        )
    return found


# --- coming back ------------------------------------------------------------------------------------------------------


def recovery_link(user: User) -> str:
    """A link with which a person chooses a new password: once, and for a day.

    What opens the door is behind the mark that browsers keep to themselves, so that no log of requests has it.
    """
    return address(
        f"/recover#{urlsafe_base64_encode(str(user.pk).encode())}/{default_token_generator.make_token(user)}"
    )


@transaction.atomic
def recover(who: str, token: str, password: str) -> User:
    """A new password by a link; sessions that are open elsewhere end with the old one.

    Raises:
        ApiError: the link is none, used or over, or the password is too easy to guess.
    """
    try:
        user = User.objects.select_for_update().get(pk=int(force_str(urlsafe_base64_decode(who))), is_active=True)
    except (ValueError, OverflowError, User.DoesNotExist):
        user = None
    if user is None or not default_token_generator.check_token(user, token):
        raise ApiError("This link was used or has expired. Ask for another.", token="one that is at most a day old")
    check_password(password, user, "password")
    user.set_password(password)
    user.save(update_fields=["password"])
    return user


def with_mail(asked: str) -> list[User]:
    """Whom a name or a mail address belongs to, that a mail can be sent to."""
    mine = User.objects.filter(Q(username__iexact=asked) | Q(email__iexact=asked), is_active=True).exclude(email="")
    return [user for user in mine[:5] if user.has_usable_password()]


def set_mail(user: User, mail: str) -> None:
    """Where a forgotten password is mailed; empty for nowhere."""
    if mail:
        try:
            validate_email(mail)
        except ValidationError:
            raise ApiError("That is not a mail address.", mail="name@example.org") from None
    user.email = mail
    user.save(update_fields=["email"])


# --- second factor ----------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Begun:
    """A second factor to be taken up by an authenticator: its secret, its address, and that as a picture (SVG)."""

    secret: str
    address: str
    picture: str


def has_second_factor(user: User) -> bool:
    """Whether a code is asked for besides the password."""
    return bool(TOTPDevice.objects.filter(user=user, confirmed=True).exists())


def codes_left(user: User) -> int:
    """How many recovery codes are not used yet."""
    return int(StaticToken.objects.filter(device__user=user).count())


def begin_second_factor(user: User) -> Begun:
    """A new secret; nothing changes until a code from it is given."""
    TOTPDevice.objects.filter(user=user, confirmed=False).delete()
    device = TOTPDevice.objects.create(user=user, name=ISSUER, confirmed=False)
    secret = b32encode(device.bin_key).decode().rstrip("=")
    said = f"otpauth://totp/{quote(ISSUER)}:{quote(user.get_username())}?secret={secret}&issuer={quote(ISSUER)}"
    picture = BytesIO()
    segno.make(said, error="m").save(picture, kind="svg", xmldecl=False, border=2, omitsize=True)
    return Begun(secret, said, picture.getvalue().decode())


@transaction.atomic
def confirm_second_factor(user: User, code: str) -> list[str]:
    """Takes the second factor up, once a code shows that the authenticator has it; gives fresh recovery codes.

    Raises:
        ApiError: the code is another.
    """
    device = TOTPDevice.objects.select_for_update().filter(user=user, confirmed=False).first()
    if device is None:
        raise ApiError("There is no second factor to confirm. Start again.", code="of one that was started")
    if verify_token(user, device.persistent_id, code.replace(" ", "")) is None:
        raise ApiError("That is not the current code.", code="the six digits that the authenticator shows now")
    TOTPDevice.objects.filter(user=user, confirmed=True).delete()
    TOTPDevice.objects.filter(pk=device.pk).update(confirmed=True)
    return _fresh_codes(user)


def _fresh_codes(user: User) -> list[str]:
    StaticDevice.objects.filter(user=user).delete()
    device = StaticDevice.objects.create(user=user, name="recovery codes")
    codes = [StaticToken.random_token() for _ in range(RECOVERY_CODES)]
    StaticToken.objects.bulk_create([StaticToken(device=device, token=code) for code in codes])
    return codes


def end_second_factor(user: User) -> None:
    """The password alone is enough again."""
    TOTPDevice.objects.filter(user=user).delete()
    StaticDevice.objects.filter(user=user).delete()


def passes_second_factor(user: User, code: str) -> bool:
    """Whether a code is that of the moment, or one of the recovery codes, which is used up by it."""
    code = code.strip().replace(" ", "").lower()
    kind: type[Device] = TOTPDevice if code.isdigit() and len(code) == 6 else StaticDevice
    devices = kind.objects.filter(user=user, confirmed=True)
    return any(verify_token(user, device.persistent_id, code) is not None for device in devices)


# --- where one is signed in -------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class SignedIn:
    """A device or browser in which the person is signed in."""

    id: str
    device: str
    since: datetime | None
    seen: datetime
    here: bool


def signed_in(user: User, key: str | None) -> list[SignedIn]:
    """Where the person is signed in, this one first, then the latest seen; a session's key is never shown."""
    rows = Session.objects.filter(user=user, expire_date__gt=timezone.now()).order_by("-updated_at")
    found = [
        SignedIn(_digest(s.session_key)[:16], _device(s), s.created_at, s.updated_at, s.session_key == key)
        for s in rows
    ]
    return sorted(found, key=lambda s: not s.here)


def _device(session: Session) -> str:
    said = session.device_info
    browser = said.user_agent.family if said and said.user_agent else "Something"
    return f"{browser} on {said.os.family}" if said and said.os else browser


def sign_out_elsewhere(user: User, key: str | None, only: str = "") -> int:
    """Ends one session of the person's, or all but this one; how many."""
    others = Session.objects.filter(user=user).exclude(session_key=key)
    ended = [s for s in others if not only or _digest(s.session_key)[:16] == only]
    for session in ended:
        session.delete()
    return len(ended)
