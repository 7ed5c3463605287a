"""Photos and papers that hang on a sheet: the label of a remote, the jumper of a boxed controller, a seller's leaflet."""

import uuid
import zlib
from io import BytesIO
from pathlib import PurePath
from threading import Lock
from typing import Protocol

from django.db import transaction
from django.db.models import Sum
from django.http import Http404
from PIL import Image, ImageOps, UnidentifiedImageError

from server.faults import Refused
from server.people import Key, Person
from server.sheet.models import Attachment, SetSheet
from server.sheet.services import get as get_sheet

LARGEST = 12_000_000
MOST_OF_A_SHEET = 8
MOST_OF_A_PERSON = 200_000_000
MOST_PIXELS = 25_000_000
"""A picture is unpacked in memory before it is made small."""
LONGEST_SIDE = 2000
"""Pixels: a jumper or a label can be read, and a page with eight of them stays quick."""


class Readable(Protocol):
    """What gives bytes, a request among others."""

    def read(self, size: int, /) -> bytes: ...


def get(owner: Person, file: uuid.UUID) -> Attachment:
    """One of the person's files."""
    found = Attachment.objects.filter(pk=file, sheet__build__owner=owner, sheet__build__deleted_at=None).first()
    if found is None:
        raise Http404
    return found


def whole(owner: Person, build_id: Key, number: int, file: Readable) -> bytes:
    """A file that is sent for a sheet, as it is; of one that is too large only the beginning is read.

    Raises:
        Refused: it is too large, or the sheet is full.
    """
    _room(get_sheet(owner, build_id, number))
    data = file.read(LARGEST + 1)
    if not data or len(data) > LARGEST:
        raise Refused("That file cannot be kept.", file=f"from 1 byte to {LARGEST // 1_000_000} MB")
    return data


def _room(sheet: SetSheet) -> None:
    if sheet.attachments.count() >= MOST_OF_A_SHEET:
        raise Refused(f"A sheet holds {MOST_OF_A_SHEET} files.", file="none more")


_ONE_AT_A_TIME = Lock()
"""A picture takes a hundred megabytes while it is unpacked: of one process's threads one does it at a time."""


def attach(owner: Person, build_id: Key, number: int, name: str, data: bytes) -> Attachment:
    """Keeps a file with a sheet.

    Raises:
        Refused: it is no picture, PDF or text, or there are too many.
    """
    sheet = get_sheet(owner, build_id, number)
    _room(sheet)
    # However long it takes to unpack: nothing is locked meanwhile.
    with _ONE_AT_A_TIME:
        kind, kept = _picture(data) or _paper(data)
    return _keep(owner, sheet, _named(name, kind), kind, kept)


@transaction.atomic
def _keep(owner: Person, sheet: SetSheet, name: str, kind: str, kept: bytes) -> Attachment:
    SetSheet.objects.select_for_update().get(pk=sheet.pk)
    _room(sheet)
    mine = Attachment.objects.filter(sheet__build__owner=owner)
    if (mine.aggregate(sum=Sum("size"))["sum"] or 0) + len(kept) > MOST_OF_A_PERSON:
        raise Refused(
            "The workshop is full of files.", file=f"{MOST_OF_A_PERSON // 1_000_000} MB in all; take some away"
        )
    return Attachment.objects.create(sheet=sheet, name=name, kind=kind, size=len(kept), data=kept)


def _named(name: str, kind: str) -> str:
    """The file's own name, with the ending of what it is kept as."""
    stem = "".join(c for c in PurePath(name.replace("\\", "/")).stem if c.isprintable()).strip()[:100] or "file"
    ending = {"image/jpeg": ".jpg", "image/png": ".png", "application/pdf": ".pdf"}.get(kind, ".txt")
    return stem + ending


def _picture(data: bytes) -> tuple[str, bytes] | None:
    """A picture drawn anew: turned upright, no larger than needed, and without place and time of its taking."""
    try:
        with Image.open(BytesIO(data), formats=("JPEG", "PNG", "WEBP")) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise Refused(
                    "That picture is too large.", file=f"a picture of at most {MOST_PIXELS // 10**6} megapixels"
                )
            drawn = opened.format == "PNG"
            opened.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            picture = ImageOps.exif_transpose(opened)
            picture.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    except UnidentifiedImageError:
        return None
    except (OSError, ValueError, SyntaxError, zlib.error, Image.DecompressionBombError):
        raise Refused("That picture cannot be read.", file="a whole picture of a usual size") from None
    kept = BytesIO()
    if drawn:
        # A new image carries none of the old one's text chunks.
        clean = Image.new("RGBA", picture.size)
        clean.paste(picture.convert("RGBA"))
        clean.save(kept, "PNG", optimize=True)
        return "image/png", kept.getvalue()
    picture.convert("RGB").save(kept, "JPEG", quality=85, exif=b"")
    return "image/jpeg", kept.getvalue()


def _paper(data: bytes) -> tuple[str, bytes]:
    if data.startswith(b"%PDF-"):
        if b"%%EOF" not in data[-2048:]:
            raise Refused("That PDF is cut off.", file="a whole PDF")
        return "application/pdf", data
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = "\0"
    if "\0" in text:
        raise Refused("That file cannot be kept.", file="a photo (JPEG, PNG, WebP), a PDF or plain text")
    return "text/plain; charset=utf-8", text.encode()
