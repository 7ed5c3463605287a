"""All that a person has: out, in, and gone."""

from django.contrib.auth import logout
from django.http import FileResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Field, Router, Schema, Status

from server.archive import services
from server.demo.entry import is_demo
from server.errors import ApiError
from server.throttles.concurrency import Turns, in_turn_of
from server.throttles.rates import GuessingThrottle
from server.users import PersonRequest

router = Router(tags=["archive"])


class LeftOut(Schema):
    what: str
    reason: str


class BroughtOut(Schema):
    """How much of each came in, and what did not with its reason."""

    builds: int
    revisions: int
    settings_records: int
    tests: int
    files: int
    entries: int
    rides: int
    parts: int
    left_out: list[LeftOut]


class DeleteAccountIn(Schema):
    """The name, typed once more, and the password: what is deleted so is gone."""

    name: str = Field(max_length=150)
    password: str = Field(max_length=200)


ARCHIVES = Turns(most_each=1)
"""An archive is hundreds of megabytes: one at a time in a process."""


@router.get("/archive", response=bytes)
@in_turn_of(ARCHIVES)
def take_out(request: PersonRequest) -> FileResponse:
    """Everything: builds, revisions, settings records with their files, bench tests, parts of one's own, in one zip."""
    user = request.user
    now = timezone.now()
    name = f"sand-pocket-{slugify(user.get_username()) or 'workshop'}-{now:%Y%m%d}.zip"
    return FileResponse(services.pack(user, now), as_attachment=True, filename=name, content_type="application/zip")


@router.post(
    "/archive",
    response=BroughtOut,
    openapi_extra={"requestBody": {"content": {"application/zip": {"schema": {"type": "string", "format": "binary"}}}}},
)
@in_turn_of(ARCHIVES)
def bring_in(request: PersonRequest) -> BroughtOut:
    """An archive beside what is there; the body is the file."""
    found = services.unpack(request.user, request)
    left = [LeftOut(what=what, reason=reason) for what, reason in found.left_out]
    return BroughtOut(**{k: v for k, v in found.__dict__.items() if k != "left_out"}, left_out=left)


@router.delete("/account", response={204: None}, throttle=GuessingThrottle())
def delete_account(request: PersonRequest, payload: DeleteAccountIn) -> Status[None]:
    """Deletes the workshop with all it holds, at once and for good; backups of the operator keep it until they are renewed."""
    user = request.user
    if is_demo(user):
        raise ApiError("The demonstration's workshop cannot be deleted.", name="not the demonstration's")
    if payload.name.strip() != user.get_username():
        raise ApiError("That is another name.", name="the name you sign in with")
    if not user.check_password(payload.password):
        raise ApiError("That is not your password.", password="not the password you sign in with")
    logout(request)
    user.delete()
    return Status(204, None)
