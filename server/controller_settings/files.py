"""Photos and papers of a settings record: the label of a remote, the jumper of a boxed controller, a seller's leaflet."""

import uuid
from pathlib import PurePath

from django.db import transaction
from django.db.models import Sum
from django.http import Http404

from server import pictures
from server.controller_settings.models import Attachment, SettingsRecord
from server.controller_settings.services import get as get_record
from server.errors import ApiError
from server.users import Key, Person

MOST_OF_A_RECORD = 8


def kept_by(owner: Person) -> int:
    """Bytes of the files on a person's settings records."""
    return Attachment.objects.filter(record__build__owner=owner).aggregate(sum=Sum("size"))["sum"] or 0


pictures.KEPT_BY.append(kept_by)


def get(owner: Person, file: uuid.UUID) -> Attachment:
    """One of the person's files."""
    found = Attachment.objects.filter(pk=file, record__build__owner=owner, record__build__deleted_at=None).first()
    if found is None:
        raise Http404
    return found


def whole(owner: Person, build_id: Key, number: int, file: pictures.Readable) -> bytes:
    """A file that is sent for a settings record, as it is; of one that is too large only the beginning is read.

    Raises:
        ApiError: it is too large, or the settings record is full.
    """
    _room(get_record(owner, build_id, number))
    return pictures.whole(file)


def _room(record: SettingsRecord) -> None:
    if record.attachments.count() >= MOST_OF_A_RECORD:
        raise ApiError(f"A settings record holds {MOST_OF_A_RECORD} files.", file="none more")


def attach(owner: Person, build_id: Key, number: int, name: str, data: bytes) -> Attachment:
    """Keeps a file with a settings record.

    Raises:
        ApiError: it is no picture, PDF or text, or there are too many.
    """
    record = get_record(owner, build_id, number)
    _room(record)
    # However long it takes to unpack: nothing is locked meanwhile.
    with pictures.ONE_AT_A_TIME:
        kind, kept = pictures.drawn_anew(data) or _paper(data)
    return _keep(owner, record, _named(name, kind), kind, kept)


@transaction.atomic
def _keep(owner: Person, record: SettingsRecord, name: str, kind: str, kept: bytes) -> Attachment:
    SettingsRecord.objects.select_for_update().get(pk=record.pk)
    _room(record)
    pictures.room_for(owner, len(kept))
    return Attachment.objects.create(record=record, name=name, kind=kind, size=len(kept), data=kept)


def _named(name: str, kind: str) -> str:
    """The file's own name, with the ending of what it is kept as."""
    stem = "".join(c for c in PurePath(name.replace("\\", "/")).stem if c.isprintable()).strip()[:100] or "file"
    ending = {"image/jpeg": ".jpg", "image/png": ".png", "application/pdf": ".pdf"}.get(kind, ".txt")
    return stem + ending


def _paper(data: bytes) -> tuple[str, bytes]:
    if data.startswith(b"%PDF-"):
        if b"%%EOF" not in data[-2048:]:
            raise ApiError("That PDF is incomplete.", file="a complete PDF")
        return "application/pdf", data
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = "\0"
    if "\0" in text:
        raise ApiError("That file cannot be stored.", file="a photo (JPEG, PNG, WebP), a PDF or plain text")
    return "text/plain; charset=utf-8", text.encode()
