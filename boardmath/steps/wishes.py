"""What the builder would change: a build with it laid in, what it would do, and the second version."""

from collections.abc import Mapping, Sequence
from typing import Any

from boardmath.bench.candidates import Change, change_of
from boardmath.bench.report import predict
from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import Group, keys_of
from boardmath.buildfile.reading import BuildFileError, Fault, read_build, write_build
from boardmath.groups import as_a_plan
from boardmath.steps.log import Wished

THE_THING: tuple[Group, ...] = ("listing", "buying", "mark")
"""What a part says of itself that is of the old one when one of its figures is to be another."""


def laid_in(build: Build, changes: Mapping[str, Any]) -> Build:
    """The build with figures changed, by their paths.

    Raises:
        BuildFileError: there is no such figure, or it cannot be so.
    """
    document = write_build(build)
    for path, value in changes.items():
        _put(document, path, value)
    return read_build(document)


def _put(document: dict[str, Any], path: str, value: Any) -> None:
    *way, last = path.split(".")
    node: Any = document
    for key in way:
        if isinstance(node, list):
            node = node[int(key)] if key.isdigit() and int(key) < len(node) else None
        else:
            node = node.setdefault(key, {}) if isinstance(node, dict) else None
        if not isinstance(node, dict | list):
            raise BuildFileError([Fault(path, "there is no such figure")])
    if not isinstance(node, dict):
        raise BuildFileError([Fault(path, "there is no such figure")])
    node[last] = value


def effect(build: Build, changes: Mapping[str, Any]) -> list[Change]:
    """What a wish would do to each promise; what it does not move is left out.

    Raises:
        BuildFileError: as :func:`laid_in`.
    """
    before, after = predict(build, bands=False), predict(laid_in(build, changes), bands=False)
    found = [change_of(b, a) for b, a in zip(before.promises, after.promises, strict=True)]
    return [c for c in found if c.better is not None]


def second_version(build: Build, wishes: Sequence[Wished]) -> Build:
    """A plan with the wishes laid in, the latest of two on one figure; a part that is to be another is to be bought.

    Raises:
        BuildFileError: as :func:`laid_in`.
    """
    changes = {path: value for wish in wishes for path, value in wish.changes.items()}
    changed = laid_in(as_a_plan(build), changes)
    document = write_build(changed)
    for path in changes:
        if not path.startswith("parts.") or path.endswith((".count", ".units")):
            continue
        part: Any = document
        for key in path.split(".")[:-1]:
            part = part[int(key)] if isinstance(part, list) else part[key]
        model = _part_at(changed, path)
        for group in THE_THING:
            for key in keys_of(type(model), group):
                part.pop(key, None)
    document["stage"] = "planned"
    document["name"] = f"{(build.name or 'Board')[:100]}, second version"
    document.pop("weighed_kg", None)
    return read_build(document)


def _part_at(build: Build, path: str) -> Any:
    node: Any = build
    for key in path.split(".")[:-1]:
        node = node[int(key)] if isinstance(node, list) else getattr(node, key)
    return node
