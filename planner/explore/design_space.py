"""What a builder may leave open, and what most would: for the form that asks."""

from collections.abc import Mapping, Sequence
from typing import Any, get_args

from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.buildfile.figures import Part
from boardmath.parts.part_types import KINDS
from planner.explore.space import OF_NUMBER, Open, OpenKind, OpenNumber, number_spec


class OpenableKind(BaseModel):
    """A kind of part that the library may answer."""

    kind: OpenKind
    title: str
    parts: int
    """How many the library has."""
    own: str | None = None
    """What is chosen and stays, while it is not open."""


class OpenableNumber(BaseModel):
    """A figure that may be free: the ends that most would give it, and those that there are."""

    path: str
    title: str
    quantity: str
    low: float
    high: float
    step: float | None
    least: float
    most: float
    own: float | None = None
    of: str
    """The kind of part that it is a figure of."""


class OpenChoices(BaseModel):
    kinds: list[OpenableKind]
    numbers: list[OpenableNumber]
    usual: Open


_USUAL: dict[str, tuple[float, float, float | None]] = {
    "parts.motors.kv_rpm_per_v": (140, 280, 10),
    "parts.motors.count": (1, 2, None),
    "parts.drive.motor_teeth": (10, 20, 2),
    "parts.drive.wheel_teeth": (32, 60, 4),
    "parts.wheels.diameter_mm": (80, 110, 5),
    "parts.pack.series": (6, 12, None),
    "parts.pack.parallel": (1, 6, None),
}
"""From where to where most builders look (common practice, no source)."""


def open_choices(build: Build, library: Mapping[str, Sequence[Part]]) -> OpenChoices:
    """What of a build may be left open."""
    parts, kinds, numbers = build.parts, [], []
    for kind in get_args(OpenKind):
        own = (parts.pack.cell if parts.pack else None) if kind == "cell" else getattr(parts, kind)
        kinds.append(
            OpenableKind(
                kind=kind,
                title="Cells, for a pack you make" if kind == "cell" else KINDS[kind].name,
                parts=len(library.get(kind, ())),
                own=(own.name or "chosen") if own is not None else None,
            )
        )
    for path in OF_NUMBER:
        spec: Any = number_spec(path)
        slot, key = path.split(".")[1:]
        own_part = getattr(parts, slot)
        low, high, step = _USUAL[path]
        numbers.append(
            OpenableNumber(
                path=path,
                title=spec["title"],
                quantity=spec["quantity"],
                low=low,
                high=high,
                step=step,
                least=spec["low"],
                most=spec["high"],
                own=getattr(own_part, key) if own_part is not None else None,
                of=slot,
            )
        )
    return OpenChoices(kinds=kinds, numbers=numbers, usual=usual_open(build, library))


def usual_open(build: Build, library: Mapping[str, Sequence[Part]]) -> Open:
    """What a builder most likely leaves open: what is not chosen yet; where all is, gearing and the size of the pack."""
    parts, kinds, numbers = build.parts, [], []
    of_parts: tuple[OpenKind, ...] = ("motors", "controller", "drive", "wheels")
    for kind in of_parts:
        if getattr(parts, kind) is None and library.get(kind):
            kinds.append(kind)
    bare = parts.motors is not None and parts.motors.kind in ("hub", "direct")
    if bare and "drive" in kinds:
        kinds.remove("drive")
    if parts.pack is None or parts.pack.series is None:
        if library.get("cell"):
            kinds.append("cell")
            numbers += [_free("parts.pack.series"), _free("parts.pack.parallel")]
        elif library.get("pack"):
            kinds.append("pack")
    if parts.motors is None or parts.motors.count is None:
        numbers.append(_free("parts.motors.count"))
    if not kinds and not numbers:
        if not bare:
            numbers += [_free("parts.drive.motor_teeth"), _free("parts.drive.wheel_teeth")]
        numbers.append(_free("parts.pack.parallel"))
    return Open(kinds=kinds, numbers=numbers)


def _free(path: Any) -> OpenNumber:
    low, high, step = _USUAL[path]
    return OpenNumber(path=path, low=low, high=high, step=step)
