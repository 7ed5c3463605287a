"""What the model assumes for the figures that a part of the library does not state."""

from functools import cache
from typing import Any

from pydantic import BaseModel

from boardmath.buildfile import read_build
from boardmath.buildfile.build import FORMAT, Build
from boardmath.buildfile.figures import Part, group_of
from boardmath.buildfile.migration import VERSION
from boardmath.model.resolution import Incomplete, defaults, resolve
from boardmath.parts.part_selection import with_part


class Missing(BaseModel):
    """A figure that is not stated: what the model takes it to be and by which rule; neither where it does without.

    ``needed`` where no prediction is possible without it; until then nothing is assumed for the rest either.
    """

    key: str
    value: float | None = None
    rule: str | None = None
    needed: bool = False


_OTHERWISE: dict[str, object] = {
    "deck": {"length_mm": 900},
    "trucks": {},
    "wheels": {"diameter_mm": 90},
    "motors": {"count": 1, "kv_rpm_per_v": 170},
    "drive": {"kind": "belt", "motor_teeth": 15, "wheel_teeth": 42},
    "pack": {"series": 10, "parallel": 3, "cell": {}},
    "controller": {"units": 1},
    "enclosure": {},
    "risers": {},
    "switch": {},
    "fuse": {},
    "wiring": {},
}


@cache
def usual_board() -> Build:
    """A board of usual parts, for a part of the library to be put on: only its own figures are looked at."""
    return read_build({"format": FORMAT, "version": VERSION, "rider": {"mass_kg": 75}, "parts": _OTHERWISE})


def _assumable(model: type[BaseModel], key: str) -> bool:
    """Whether the model may have to assume it: a figure of the thing, or the mass that its listing may name."""
    extra: Any = model.model_fields[key].json_schema_extra or {}
    return group_of(model, key) == "figure" or extra.get("quantity") == "mass"


def missing_figures(kind: str, part: Part) -> list[Missing]:
    """Every figure of ``part`` that is not stated, in the order of its form; figures inside it by dotted keys."""
    build = with_part(usual_board(), kind, part)
    prefix = "parts.pack.cell." if kind == "cell" else f"parts.{kind}."
    needed: set[str] = set()
    try:
        resolved = resolve(build)
    except Incomplete as error:
        assumed = {}
        needed = {n.field.removeprefix(prefix) for n in error.needs}
    else:
        inputs = (*resolved.inputs.values(), *resolved.masses.values(), *defaults(build))
        assumed = {i.field.removeprefix(prefix): i for i in inputs if i.field.startswith(prefix) and i.rule}
    found = []
    for key in _unstated(part):
        guess = assumed.get(key)
        each = guess.value if guess else None
        found.append(Missing(key=key, value=each, rule=guess.rule if guess else None, needed=key in needed))
    return found


def _unstated(part: BaseModel, before: str = "") -> list[str]:
    keys = []
    for key in type(part).model_fields:
        if not _assumable(type(part), key):
            continue
        value = getattr(part, key)
        if isinstance(value, BaseModel):
            keys += _unstated(value, f"{before}{key}.")
        elif value is None:
            keys.append(f"{before}{key}")
    return keys
