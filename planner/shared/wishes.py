"""What the builder would change: a build with it laid in, what it would do, and the second version."""

from collections.abc import Mapping, Sequence
from typing import Any

from boardmath.buildfile.build import Build
from boardmath.buildfile.figures import Group, keys_of
from boardmath.buildfile.reading import BuildFileError, Fault, read_build, write_build
from boardmath.model.cell_groups import as_a_plan
from boardmath.model.inputs import has_pulleys
from boardmath.predictor import predict
from planner.design.candidates import Change, change_of
from planner.shared.facts import standing_at
from planner.shared.log import Wished

THE_THING: tuple[Group, ...] = ("listing", "buying", "mark")
"""What a part says of itself that is of the old one when one of its figures is to be another."""


FIGURES = (
    "parts.drive.motor_teeth",
    "parts.drive.wheel_teeth",
    "parts.wheels.diameter_mm",
    "parts.motors.kv_rpm_per_v",
    "parts.motors.count",
    "parts.pack.series",
    "parts.pack.parallel",
    "parts.risers.height_mm",
    "parts.drive.mount_angle_deg",
    "parts.enclosure.depth_mm",
    "settings.motor_current_a",
    "settings.pack_current_a",
)
"""What is mostly changed on a second board: gearing, wheels, pack, risers, box (common practice, no source)."""


def figures_of(build: Build) -> list[str]:
    """Those that this board has: no teeth of pulleys on hubs."""
    geared = has_pulleys(build)
    return [path for path in FIGURES if geared or not path.startswith("parts.drive.")]


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


class Effect(Change):
    """What a wish does to a promise, by the promise's title."""

    title: str


def effect(build: Build, changes: Mapping[str, Any]) -> list[Effect]:
    """What a wish would do to each promise; what it does not move is left out.

    Raises:
        BuildFileError: as :func:`laid_in`.
    """
    before, after = predict(build, bands=False), predict(laid_in(build, changes), bands=False)
    found = [(b.title, change_of(b, a)) for b, a in zip(before.outcomes, after.outcomes, strict=True)]
    return [Effect(**c.__dict__, title=title) for title, c in found if c.better is not None]


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
        holder = path.rpartition(".")[0]
        part, model = _within(document, holder), standing_at(changed, holder)
        for group in THE_THING:
            for key in keys_of(type(model), group):
                part.pop(key, None)
    document["stage"] = "planned"
    document["name"] = f"{(build.name or 'Board')[:100]}, second version"
    document.pop("weighed_kg", None)
    return read_build(document)


def _within(document: Any, path: str) -> Any:
    for key in path.split("."):
        document = document[int(key)] if isinstance(document, list) else document[key]
    return document
