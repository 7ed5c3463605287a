"""Boards that someone would build, as plain objects, for tests to start from."""

import copy
import json
from pathlib import Path
from typing import Any

from boardmath.buildfile import Build, read_build

SPIT_RUNNER: dict[str, Any] = json.loads((Path(__file__).parent / "spit_runner.json").read_text())
"""The example of the build file's contract: ten in series, one 170 KV motor, 15 : 42, 90 mm wheels."""


def spit_runner(**changes: Any) -> Build:
    """The example with some dotted paths changed (dots written as two underscores); None takes a key away."""
    return read_build(changed(SPIT_RUNNER, changes))


def changed(document: dict[str, Any], changes: dict[str, Any]) -> dict[str, Any]:
    """A copy of ``document`` with dotted paths (``a__b`` or ``a.b``) set."""
    copied = copy.deepcopy(document)
    for path, value in changes.items():
        *way, last = path.replace("__", ".").split(".")
        node = copied
        for step in way:
            node = node.setdefault(step, {})
        if value is None:
            node.pop(last, None)
        else:
            node[last] = value
    return copied


def bare(**parts: Any) -> Build:
    """A build of which only the deciding figures are known, as a newcomer gives them."""
    return read_build(
        {
            "format": "sand-pocket/build",
            "version": 1,
            "rider": {"mass_kg": 75},
            "brief": parts.pop("brief", {}),
            "parts": parts,
        }
    )
