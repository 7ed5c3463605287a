"""Choosing a part of the library for a build: what of the old choice stays, and what else changes with it."""

from typing import Any

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import (
    Cell,
    Charger,
    Controller,
    Enclosure,
    Extra,
    Fuse,
    Pack,
    Remote,
    Switch,
    Wiring,
)
from boardmath.buildfile.figures import Part
from boardmath.buildfile.rolling import Deck, Risers, Trucks, Wheels

KINDS: dict[str, type[Part]] = {
    "deck": Deck,
    "trucks": Trucks,
    "wheels": Wheels,
    "risers": Risers,
    "motors": Motors,
    "drive": Drive,
    "pack": Pack,
    "cell": Cell,
    "controller": Controller,
    "charger": Charger,
    "remote": Remote,
    "switch": Switch,
    "fuse": Fuse,
    "wiring": Wiring,
    "enclosure": Enclosure,
    "extra": Extra,
}
"""Kinds of library part and their models. A cell becomes the pack's cell, an extra one of the extras."""

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

    A motor in the hub or on the axle takes the pulleys away; one with a can asks for its belt back.
    """
    parts = build.parts
    if kind == "extra":
        assert isinstance(part, Extra)
        return _with(build, extras=[*(parts.extras or []), part])
    if kind == "cell":
        assert isinstance(part, Cell)
        return _with(build, pack=(parts.pack or Pack(parallel=1)).model_copy(update={"cell": part}))
    old = getattr(parts, kind)
    kept = {key: getattr(old, key) for key in _KEPT.get(kind, ()) if old is not None and getattr(part, key) is None}
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


def _with(build: Build, **changed: Any) -> Build:
    parts: Parts = build.parts.model_copy(update=changed)
    return build.model_copy(update={"parts": parts})
