"""What no text may hold, as neither files nor databases keep it: the character U+0000, and half of a pair of surrogates."""

import re
from typing import Any

_SUSPECT = re.compile(r"\x00|\\u0000|\\u[dD][89a-fA-F]")
_NOT_PLAIN = re.compile("[\x00\ud800-\udfff]")
NOT_PLAIN = "has a character that text cannot have (U+0000, or half of one)"
"""The reason, beside the field."""


def is_suspect(json: str) -> bool:
    """Whether a JSON text may say such a character; most never do, and need not be searched."""
    return _SUSPECT.search(json) is not None


def first_not_plain(value: Any, path: str = "") -> str | None:
    """The dotted path of the first text with such a character; None where there is none.

    Args:
        value: what a JSON text says, not nested without end.
        path: where ``value`` is in the whole.
    """
    if isinstance(value, str):
        return None if _is_plain(value) else path
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, one in inner:
        if isinstance(key, str) and not _is_plain(key):
            return path
        if (found := first_not_plain(one, f"{path}.{key}" if path else str(key))) is not None:
            return found
    return None


def _is_plain(text: str) -> bool:
    return _NOT_PLAIN.search(text) is None
