"""Pictures that people send: drawn anew, upright, no larger than needed, without place and time; and how much a person
may keep.
"""

import zlib
from collections.abc import Callable
from io import BytesIO
from threading import Lock
from typing import Protocol

from PIL import Image, ImageOps, UnidentifiedImageError

from server.errors import ApiError
from server.users import Person

LARGEST = 12_000_000
MOST_OF_A_PERSON = 200_000_000
MOST_PIXELS = 25_000_000
"""A picture is unpacked in memory before it is made small."""
MOST_SCANS = 100
"""A progressive picture is drawn once for each of its scans; cameras write about ten, and a small file can hold thousands."""
_SCAN = b"\xff\xda"
"""What each scan of a JPEG begins with; between these bytes a scan itself always has a zero (ITU-T T.81, B.1.1.5)."""
LONGEST_SIDE = 2000
"""Pixels: a jumper or a label can be read, and a page with eight of them stays quick."""
SMALL_SIDE = 360
"""Pixels of the small one that stands in a list."""
ONE_AT_A_TIME = Lock()
"""A picture takes a hundred megabytes while it is unpacked: of one process's threads one does it at a time."""


class Readable(Protocol):
    """What gives bytes, a request among others."""

    def read(self, size: int, /) -> bytes: ...


KEPT_BY: list[Callable[[Person], int]] = []
"""How many bytes a person keeps, by each room that keeps files."""


def whole(given: Readable) -> bytes:
    """What was sent, as it is; of what is too large only the beginning is read.

    Raises:
        ApiError: it is empty or too large.
    """
    data = given.read(LARGEST + 1)
    if not data or len(data) > LARGEST:
        raise ApiError("That file cannot be stored.", file=f"from 1 byte to {LARGEST // 1_000_000} MB")
    return data


def room_for(owner: Person, more: int) -> None:
    """Raises ApiError where a person's files would be more than may be."""
    if sum(kept(owner) for kept in KEPT_BY) + more > MOST_OF_A_PERSON:
        raise ApiError(
            "Your workshop's storage is full.", file=f"{MOST_OF_A_PERSON // 1000000} MB in all; delete some files"
        )


def drawn_anew(data: bytes) -> tuple[str, bytes] | None:
    """A picture's kind and bytes, without what a camera writes into it; None where it is none.

    Raises:
        ApiError: it is broken or far too large.
    """
    opened = _opened(data, LONGEST_SIDE)
    if opened is None:
        return None
    picture, drawn = opened
    kept = BytesIO()
    if drawn:
        # A new image carries none of the old one's text chunks.
        clean = Image.new("RGBA", picture.size)
        clean.paste(picture.convert("RGBA"))
        clean.save(kept, "PNG", optimize=True)
        return "image/png", kept.getvalue()
    picture.convert("RGB").save(kept, "JPEG", quality=85, exif=b"")
    return "image/jpeg", kept.getvalue()


def made_small(data: bytes) -> bytes:
    """A picture that was drawn anew, as a small JPEG for a list."""
    opened = _opened(data, SMALL_SIDE)
    assert opened is not None
    kept = BytesIO()
    opened[0].convert("RGB").save(kept, "JPEG", quality=80)
    return kept.getvalue()


def _opened(data: bytes, side: int) -> tuple[Image.Image, bool] | None:
    try:
        with Image.open(BytesIO(data), formats=("JPEG", "PNG", "WEBP")) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise ApiError(
                    "That picture is too large.", file=f"a picture of at most {MOST_PIXELS // 10**6} megapixels"
                )
            if opened.format == "JPEG" and data.count(_SCAN) > MOST_SCANS:
                raise ApiError("That picture cannot be read.", file=f"a picture of at most {MOST_SCANS} scans")
            drawn = opened.format == "PNG"
            opened.draft("RGB", (side, side))
            picture = ImageOps.exif_transpose(opened)
            picture.thumbnail((side, side))
    except UnidentifiedImageError:
        return None
    except (OSError, ValueError, SyntaxError, zlib.error, Image.DecompressionBombError):
        raise ApiError("That picture cannot be read.", file="a complete picture of a usual size") from None
    return picture, drawn
