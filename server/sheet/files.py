"""Photos and papers that hang on a sheet: the label of a remote, the jumper of a boxed controller, a seller's leaflet."""

import uuid
from pathlib import PurePath

from django.db import transaction
from django.db.models import Sum
from django.http import Http404

from server import pictures
from server.errors import ApiError
from server.sheet.models import Attachment, SetSheet
from server.sheet.services import get as get_sheet
from server.users import Key, Person

MOST_OF_A_SHEET = 8


def kept_by(owner: Person) -> int:
    """Bytes of the files on a person's sheets."""
    return Attachment.objects.filter(sheet__build__owner=owner).aggregate(sum=Sum("size"))["sum"] or 0


pictures.KEPT_BY.append(kept_by)


def get(owner: Person, file: uuid.UUID) -> Attachment:
    """One of the person's files."""
    found = Attachment.objects.filter(pk=file, sheet__build__owner=owner, sheet__build__deleted_at=None).first()
    if found is None:
        raise Http404
    return found


def whole(owner: Person, build_id: Key, number: int, file: pictures.Readable) -> bytes:
    """A file that is sent for a sheet, as it is; of one that is too large only the beginning is read.

    Raises:
        ApiError: it is too large, or the sheet is full.
    """
    _room(get_sheet(owner, build_id, number))
    return pictures.whole(file)


def _room(sheet: SetSheet) -> None:
    if sheet.attachments.count() >= MOST_OF_A_SHEET:
        raise ApiError(f"A sheet holds {MOST_OF_A_SHEET} files.", file="none more")


def attach(owner: Person, build_id: Key, number: int, name: str, data: bytes) -> Attachment:
    """Keeps a file with a sheet.

    Raises:
        ApiError: it is no picture, PDF or text, or there are too many.
    """
    sheet = get_sheet(owner, build_id, number)
    _room(sheet)
    # However long it takes to unpack: nothing is locked meanwhile.
    with pictures.ONE_AT_A_TIME:
        kind, kept = pictures.drawn_anew(data) or _paper(data)
    return _keep(owner, sheet, _named(name, kind), kind, kept)


@transaction.atomic
def _keep(owner: Person, sheet: SetSheet, name: str, kind: str, kept: bytes) -> Attachment:
    SetSheet.objects.select_for_update().get(pk=sheet.pk)
    _room(sheet)
    pictures.room_for(owner, len(kept))
    return Attachment.objects.create(sheet=sheet, name=name, kind=kind, size=len(kept), data=kept)


def _named(name: str, kind: str) -> str:
    """The file's own name, with the ending of what it is kept as."""
    stem = "".join(c for c in PurePath(name.replace("\\", "/")).stem if c.isprintable()).strip()[:100] or "file"
    ending = {"image/jpeg": ".jpg", "image/png": ".png", "application/pdf": ".pdf"}.get(kind, ".txt")
    return stem + ending


def _paper(data: bytes) -> tuple[str, bytes]:
    if data.startswith(b"%PDF-"):
        if b"%%EOF" not in data[-2048:]:
            raise ApiError("That PDF is cut off.", file="a whole PDF")
        return "application/pdf", data
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = "\0"
    if "\0" in text:
        raise ApiError("That file cannot be kept.", file="a photo (JPEG, PNG, WebP), a PDF or plain text")
    return "text/plain; charset=utf-8", text.encode()
