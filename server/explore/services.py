"""Spaces of boards, made of a build and of the library, and kept for a while: whoever pulls at a wish asks for the same again."""

import hashlib
import json
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from threading import Lock
from typing import Any

from boardmath.buildfile import Build, write_build
from boardmath.buildfile import Part as FileOfPart
from planner.explore.completing import ALIKE
from planner.explore.search import Explored
from planner.explore.space import Open, Space
from server.library import services as library
from server.library.models import Part
from server.users import Person

_KEPT = 3
"""Spaces in one process: some 20 MB each where they are large."""
_WISHES = ("top_speed_kmh", "hill_grade_pct", "hill_rise_m", "range_km", "carry_mass_kg", "budget")
"""What of a brief no board of a space depends on."""


def library_of(person: Person) -> dict[str, list[FileOfPart]]:
    """The parts that somebody sees, by kind."""
    found: dict[str, list[FileOfPart]] = {}
    for part in Part.objects.seen_by(person)[: library.MOST_PARTS * 2]:
        found.setdefault(part.kind, []).append(library.part_model(part))
    return found


class Spaces:
    """The latest spaces of this process, each whole."""

    def __init__(self) -> None:
        self._lock, self._kept = Lock(), OrderedDict[str, Explored]()

    def get(self, key: str) -> Explored | None:
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
            return self._kept.get(key)

    def keep(self, key: str, explored: Explored) -> None:
        with self._lock:
            self._kept[key] = explored
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)


SPACES = Spaces()


def key_of(person: Person, build: Build, left_open: Open, parts: Mapping[str, Sequence[FileOfPart]]) -> str:
    """A name for a space: whose, of what, with which parts; what is only wished for does not make another."""
    document: dict[str, Any] = write_build(build)
    document["brief"] = {k: v for k, v in document.get("brief", {}).items() if k not in _WISHES}
    document.pop("name", None)
    taught = build.calibration.model_dump_json() if build.calibration is not None else ""
    rows = {
        kind: [p.model_dump_json(exclude_none=True) for p in found]
        for kind, found in parts.items()
        if kind in {*left_open.kinds, *ALIKE, "charger"}
    }
    said = json.dumps([person.pk, document, taught, left_open.model_dump(), rows], sort_keys=True)
    return hashlib.sha256(said.encode()).hexdigest()


def explored(person: Person, build: Build, left_open: Open) -> tuple[str, Explored, bool]:
    """A space by its name, and whether all of it was looked at already.

    Raises:
        BuildFileError: what is open is wrong, or the build lacks something that is not open.
    """
    parts = library_of(person)
    key = key_of(person, build, left_open, parts)
    known = SPACES.get(key)
    if known is not None:
        return key, known, True
    return key, Explored(Space(build, parts, left_open)), False
