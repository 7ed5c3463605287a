"""Older build files: what a field was called before. The one place that knows; everything else knows today's names."""

from collections.abc import Mapping
from typing import Any, Final

VERSION: Final = 2
"""Of the form that is written; every earlier one is still read."""

_FIELDS = {
    "set_aside": "accepted",
    "packwork": "pack_assembly",
    "upkeep": "maintenance",
    "came_to": "review",
    "learnt": "calibration",
}
"""Fields of a build of version 1, and what they are called today."""
_WITHIN = {
    "accepted": {"word": "reason", "said": "text"},
    "pack_assembly": {"taps": "balance_leads"},
    "ready_made": {"promises": "claims"},
}
"""The same of the fields within them, by today's name of the field that holds them."""
_FINDINGS = {"tap-wrong": "lead-wrong"}
"""Kinds of finding."""


def upgrade(raw: Mapping[str, Any]) -> dict[str, Any]:
    """A build file of any version under today's names; what is no build file comes back as it is.

    Args:
        raw: the parsed document, which is not altered.
    """
    if raw.get("version") != 1:
        return dict(raw)
    found = _renamed(raw, _FIELDS) | {"version": VERSION}
    for holder, names in _WITHIN.items():
        held = found.get(holder)
        if isinstance(held, dict):
            found[holder] = _renamed(held, names)
        elif isinstance(held, list):
            found[holder] = [_renamed(one, names) if isinstance(one, dict) else one for one in held]
    accepted = found.get("accepted")
    for finding in accepted if isinstance(accepted, list) else ():
        if isinstance(finding, dict) and isinstance(kind := finding.get("finding"), str):
            finding["finding"] = _FINDINGS.get(kind, kind)
    return found


def upgrade_path(path: str) -> str:
    """The path of a field of version 1, such as ``packwork.taps.readings``, under today's names."""
    first, *rest = path.split(".")
    first = _FIELDS.get(first, first)
    names = _WITHIN.get(first, {})
    return ".".join([first, *(names.get(key, key) for key in rest)])


def _renamed(document: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """The document under today's names; a name that is there already stays, and the former one beside it is a fault."""
    return {key if names.get(key, key) in document else names.get(key, key): value for key, value in document.items()}
