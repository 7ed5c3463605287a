"""Older build files: what a field was called before. The one place that knows; everything else knows today's names."""

from collections.abc import Mapping
from typing import Any, Final

VERSION: Final = 2
"""Of the form that is written; every earlier one is still read."""

_RENAMED = {
    "accepted": "set_aside",
    "pack_assembly": "packwork",
    "maintenance": "upkeep",
    "review": "came_to",
    "calibration": "learnt",
}
"""Fields of a build of version 2, and what version 1 calls them."""
_RENAMED_WITHIN = {"pack_assembly": {"balance_leads": "taps"}, "ready_made": {"claims": "promises"}}
"""The same of what lies within them."""
_FINDINGS = {"tap-wrong": "lead-wrong"}
"""What a kind of finding was called, and is called today."""


def upgrade(raw: Mapping[str, Any]) -> dict[str, Any]:
    """A build file of any version under today's names; what is no build file comes back as it is.

    Args:
        raw: the parsed document, which is not altered.
    """
    found = dict(raw)
    if found.get("version") != 1:
        return found
    found["version"] = VERSION
    for new, old in _RENAMED.items():
        _rename(found, old, new)
    for holder, fields in _RENAMED_WITHIN.items():
        if isinstance(found.get(holder), dict):
            found[holder] = dict(found[holder])
            for new, old in fields.items():
                _rename(found[holder], old, new)
    if isinstance(found.get("accepted"), list):
        found["accepted"] = [_accepted(a) if isinstance(a, dict) else a for a in found["accepted"]]
    return found


def upgrade_path(path: str) -> str:
    """The path of a field of version 1, such as ``packwork.taps.readings``, under today's names."""
    first, *rest = path.split(".")
    first = {old: new for new, old in _RENAMED.items()}.get(first, first)
    within = {old: new for new, old in _RENAMED_WITHIN.get(first, {}).items()}
    return ".".join([first, *(within.get(key, key) for key in rest[:1]), *rest[1:]])


def _accepted(finding: dict[str, Any]) -> dict[str, Any]:
    found = _rename(_rename(dict(finding), "word", "reason"), "said", "text")
    kind = found.get("finding")
    return found | {"finding": _FINDINGS.get(kind, kind)} if isinstance(kind, str) else found


def _rename(document: dict[str, Any], old: str, new: str) -> dict[str, Any]:
    if old in document and new not in document:
        document[new] = document.pop(old)
    return document
