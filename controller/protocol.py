"""One message a line: a JSON object whose last member is a checksum of everything before it."""

import json
from collections.abc import Mapping
from typing import Any
from zlib import crc32

VERSION = 1
LONGEST = 8192
"""Bytes of a line; more without an end is noise."""
_SUM = b',"sum":"'


class Garbled(ValueError):
    """A line that is no message: noise, half of one, or changed on its way."""


def line_of(message: Mapping[str, Any]) -> bytes:
    """The line of a message, end and checksum included.

    Raises:
        ValueError: it is empty, holds what JSON does not know, or is too long.
    """
    body = json.dumps(message, separators=(",", ":"), allow_nan=False).encode()[:-1]
    line = body + _SUM + f"{crc32(body):08x}".encode() + b'"}\n'
    if len(body) < 2 or len(line) > LONGEST:
        raise ValueError(f"a message of {len(line)} bytes")
    return line


def message_of(line: bytes) -> dict[str, Any]:
    """The message of a line.

    Raises:
        Garbled: it is not whole, or not what was sent.
    """
    line = line.strip()
    body, mark, rest = line.rpartition(_SUM)
    if not mark or len(line) > LONGEST or rest != f'{crc32(body):08x}"}}'.encode():
        raise Garbled(f"{line[:60]!r} is no whole message")
    try:
        message = json.loads(body + b"}")
    except (ValueError, RecursionError):
        raise Garbled(f"{line[:60]!r} is no JSON") from None
    if not isinstance(message, dict):
        raise Garbled(f"{line[:60]!r} is no object")
    return message
