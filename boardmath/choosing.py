"""Choosing a part of the library for a build: what of the old choice stays, and what else changes with it."""

from typing import Any

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.buying import LeftOver
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Controller, Extra, Pack
from boardmath.buildfile.figures import Part
from boardmath.cost import PLACED, Priced, priced_parts

# What belongs to the build rather than to the thing that is bought, and so survives another choice.
_KEPT: dict[str, tuple[str, ...]] = {
    "motors": ("count",),
    "drive": ("driven_wheels",),
    "pack": ("charge_to_v",),
    "controller": ("units",),
}

_WITHOUT_GEARING = {"hub": "No pulleys: the motor is the wheel", "direct": "No pulleys: the motor is on the axle"}


def with_part(build: Build, kind: str, part: Part) -> Build:
    """The build with ``part`` chosen for its ``kind``; nothing else is touched but what the choice decides.

    A motor in the hub or on the axle takes the pulleys away; one with a can asks for its belt back. A part that was bought
    and is replaced is not forgotten: it is left over.
    """
    parts = build.parts
    if kind == "extra":
        assert isinstance(part, Extra)
        return _with(build, extras=[*(parts.extras or []), part])
    if kind == "cell":
        assert isinstance(part, Cell)
        return _with(build, pack=(parts.pack or Pack(parallel=1)).model_copy(update={"cell": part}))
    old = getattr(parts, kind)
    keys = _KEPT.get(kind, ())
    if old is not None and (old.name, old.maker) == (part.name, part.maker):
        keys = (*keys, "purchase", "owned")  # the same thing chosen again is not another purchase
    kept = {key: getattr(old, key) for key in keys if old is not None and getattr(part, key) is None}
    chosen = part.model_copy(update=kept)
    changed: dict[str, Any] = {kind: chosen}
    if isinstance(chosen, Motors):
        if chosen.count is None:
            changed[kind] = chosen = chosen.model_copy(update={"count": 1})
        drive = parts.drive
        if chosen.kind in ("hub", "direct"):
            changed["drive"] = Drive(
                name=_WITHOUT_GEARING[chosen.kind],
                kind=chosen.kind,
                driven_wheels=drive.driven_wheels if drive else None,
            )
        elif drive is not None and drive.kind in ("hub", "direct"):
            changed["drive"] = Drive(kind="belt", driven_wheels=drive.driven_wheels)
    if isinstance(chosen, Controller) and chosen.units is None:
        changed[kind] = chosen.model_copy(update={"units": 1})
    return _with(build, **changed)


def with_parts(build: Build, parts: Parts) -> Build:
    """The build with other parts altogether, as a proposal has them; what was bought and is not among them is left over."""
    return _with(build, **{name: getattr(parts, name) for name in Parts.model_fields})


def _with(build: Build, **changed: Any) -> Build:
    parts: Parts = build.parts.model_copy(update=changed)
    after = build.model_copy(update={"parts": parts})
    placed = [p for p in priced_parts(build) if p.state in PLACED]
    still = [_same_thing(p) for p in priced_parts(after)] if placed else []
    gone = [p for p in placed if _same_thing(p) not in still]
    if not gone:
        return after
    return after.model_copy(update={"left_over": [*(build.left_over or []), *(_left_over(p) for p in gone)]})


def _same_thing(line: Priced) -> tuple[str, str | None, str | None]:
    place = "extras" if line.path.startswith("parts.extras.") else line.path
    return place, line.part.name, line.part.maker


def _left_over(line: Priced) -> LeftOver:
    bought = {name: getattr(line.part, name) for name in Part.model_fields if name != "measured"}
    kind = "extra" if line.path.startswith("parts.extras.") else line.path.split(".")[-1]
    return LeftOver(**bought, kind=kind, count=line.count if line.count > 1 else None)
