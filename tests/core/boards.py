"""Boards that someone would build, as plain objects, for tests to start from."""

import copy
import json
import random
import typing
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from boardmath.buildfile import Build, BuildFileError, read_build
from boardmath.buildfile.build import Parts
from boardmath.buildfile.electrics import Cell, Protection

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
        for step, following in zip(way, [*way, last][1:], strict=True):
            empty: Any = [] if following.isdigit() else {}
            if isinstance(node, list):
                node += [empty] if int(step) == len(node) else []
                node = node[int(step)]
            else:
                node = node.setdefault(step, empty)
        if value is None:
            node.pop(last, None)
        else:
            node[last] = copy.deepcopy(value)
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


def any_builds(count: int, seed: int = 3) -> Iterator[Build]:
    """Valid builds of any figures within their spans, the ends of the spans among them, many left out."""
    chance, made = random.Random(seed), 0
    while made < count:
        parts: dict[str, Any] = {}
        for name, field in Parts.model_fields.items():
            if name in ("extras", "kits") or chance.random() <= 0.15:
                continue
            model, several = _model_of(field)
            parts[name] = [_any_figures(model, chance)] if several else _any_figures(model, chance)
        if "pack" in parts:
            size = chance.choice(["18650", "21700", "26650", "brick"])
            parts["pack"] |= {
                "cell": {**_any_figures(Cell, chance), "size": size},
                "protection": _any_figures(Protection, chance),
            }
        try:
            build = read_build(
                {
                    "format": "sand-pocket/build",
                    "version": 1,
                    "rider": {"mass_kg": 75},
                    "brief": {"hill_grade_pct": 10},
                    "parts": parts,
                }
            )
        except BuildFileError:
            continue  # volts of a cell that contradict each other
        made += 1
        yield build


def _model_of(field: Any) -> tuple[type[BaseModel], bool]:
    """The model of a part, and whether a board has a list of them."""
    inner = typing.get_args(field.annotation)[0]
    return (typing.get_args(inner)[0], True) if typing.get_origin(inner) is list else (inner, False)


def _any_figures(model: type[BaseModel], chance: random.Random) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for name, field in model.model_fields.items():
        spec = field.json_schema_extra
        if chance.random() < 0.4:
            continue
        if isinstance(spec, dict) and "low" in spec:
            low, high = spec["low"], spec["high"]
            value = chance.choice([low, high, low + (high - low) * chance.random() ** 3])
            found[name] = int(value) if spec.get("whole") else float(value)
            continue
        for kind in typing.get_args(field.annotation):
            if typing.get_origin(kind) is typing.Literal:
                found[name] = chance.choice(typing.get_args(kind))
            elif kind is bool:
                found[name] = chance.choice([True, False])
    return found
