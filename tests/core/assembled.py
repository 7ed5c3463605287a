"""Boards of every kind that somebody puts together, and a log written beside them, for tests to start from."""

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from boardmath import read_build
from boardmath.buildfile import Build
from planner.assembly.plan import assembly
from planner.shared.facts import facts_of
from planner.shared.log import ENTRY, Log, read_log
from tests.core.boards import SPIT_RUNNER, changed

BEGUN = datetime(2026, 5, 2, 9, 0, tzinfo=UTC)
BRICKS = {
    "layout": "bricks",
    "series": 12,
    "parallel": 1,
    "bricks": 2,
    "price": 90,
    "cell": {"chemistry": "polymer", "capacity_ah": 5.0},
    "length_mm": 150,
    "width_mm": 50,
    "height_mm": 50,
}
KINDS: dict[str, dict[str, Any]] = {
    "belt": {},
    "two motors": {"parts.motors.count": 2, "parts.drive.driven_wheels": 2},
    "idler": {"parts.drive.idler": True},
    "chain": {"parts.drive.kind": "chain"},
    "gear": {"parts.drive.kind": "gear", "parts.drive.belt_teeth": None},
    "hub": {"parts.motors.kind": "hub", "parts.motors.count": 2, "parts.drive": {"kind": "hub", "driven_wheels": 2}},
    "direct": {"parts.motors.kind": "direct", "parts.motors.count": 2, "parts.drive": {"kind": "direct"}},
    "drop-through": {"parts.deck.mount": "drop_through", "parts.risers": None, "parts.spreaders": {"height_mm": 2}},
    "two boxes": {
        "parts.enclosure": {"length_mm": 240, "width_mm": 180, "depth_mm": 40, "holds": "pack"},
        "parts.second_enclosure": {"length_mm": 140, "width_mm": 150, "depth_mm": 40, "holds": "electronics"},
    },
    "bricks": {"parts.pack": BRICKS, "settings": None},
    "boxed controller": {"parts.controller": {"units": 1, "programmable": False, "fixed_cells": 10}},
    "own bearing": {"parts.drive.pulley_fixing": "own_bearing"},
    "printed box": {"parts.enclosure.material": "petg"},
    "moved and routed": {"parts.deck.moved_mm": 30, "parts.deck.routed_mm": 3, "parts.deck.thickness_mm": 14},
    "covers and lights": {"parts.covers": {"over": "belts"}, "parts.loads": [{"name": "Lamp", "count": 1}]},
}
KIT = {
    "parts.kits": [{"name": "Belt kit", "price": 300}],
    **{f"parts.{kind}.kit": "Belt kit" for kind in ("motors", "drive", "controller", "remote", "trucks", "wheels")},
    "parts.pack.price": 200,
    "parts.pack.charge_plug": "three pin",
}
ADAPTED = {
    "existing": {"name": "Old longboard", "was": {"motors": {"kind": "hub"}, "wheels": {"diameter_mm": 70}}},
    **{
        f"parts.{kind}.owned": True
        for kind in (
            "deck",
            "trucks",
            "risers",
            "pack",
            "controller",
            "charger",
            "remote",
            "switch",
            "fuse",
            "wiring",
            "enclosure",
        )
    },
}
KINDS |= {"kit": KIT, "adapted": ADAPTED}


def board(kind: str = "belt", **more: Any) -> Build:
    """A board of one kind; everything of it in the house."""
    document = changed(SPIT_RUNNER, {**KINDS[kind], **{k.replace("__", "."): v for k, v in more.items()}})
    return read_build(document)


def in_the_application(build: Build) -> Build:
    """The same board with everything arrived."""
    parts = build.parts
    kept: dict[str, Any] = {}
    for name in type(parts).model_fields:
        part = getattr(parts, name)
        if isinstance(part, list):
            kept[name] = [p.model_copy(update={"owned": True}) for p in part]
        elif part is not None:
            kept[name] = part.model_copy(update={"owned": True})
    pack = kept.get("pack")
    if pack is not None and pack.cell is not None:
        kept["pack"] = pack.model_copy(update={"cell": pack.cell.model_copy(update={"owned": True})})
    return build.model_copy(update={"parts": parts.model_copy(update=kept)})


class Written:
    """A log that is being written, entry by entry, a minute apart."""

    def __init__(self, build: Build) -> None:
        self.build, self.entries, self.clock = build, [], BEGUN

    def message(self, kind: str, **more: Any) -> str:
        self.clock += timedelta(minutes=1)
        id = str(UUID(int=len(self.entries) + 1))
        self.entries.append(ENTRY.validate_python({"kind": kind, "id": id, "at": self.clock, **more}))
        return id

    def done(self, *ids: str, **more: Any) -> "Written":
        steps = {s.id: s for s in assembly(self.build)}
        for id in ids:
            self.message("done", step=id, facts=facts_of(self.build, steps[id].touches if id in steps else []), **more)
        return self

    def all_done(self) -> "Written":
        return self.done(*(s.id for s in assembly(self.build)))

    @property
    def log(self) -> Log:
        return read_log(self.entries)
