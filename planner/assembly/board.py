"""A build as the rules of its assembly look at it: what is new, what stays, which parcels a step waits for."""

from functools import cached_property
from typing import Any

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.electrics import Enclosure
from boardmath.buildfile.figures import Part
from boardmath.geometry.enclosures import Boxed, boxes
from boardmath.model.inputs import drive_kind, has_pulleys
from boardmath.model.methods import made
from boardmath.parts.cost import LEFT_OVER, priced_parts
from planner.parts_list.accessories import stands_for


class Board:
    """One build, asked by many small rules."""

    def __init__(self, build: Build) -> None:
        self.build = build
        self.parts = build.parts
        self.kind = drive_kind(build)

    def stays(self, kind: str) -> bool:
        """Whether a part was on the board before and is not replaced: nobody puts it on."""
        part, before = getattr(self.parts, kind), self.build.existing
        if part is None or before is None or isinstance(part, list) or not part.owned:
            return False
        was = before.was
        return was is None or getattr(was, kind) is None

    def new(self, *kinds: str) -> bool:
        """Whether any of these is chosen and comes onto the board now."""
        return any(getattr(self.parts, kind) is not None and not self.stays(kind) for kind in kinds)

    def made(self, kind: str) -> bool:
        """Whether a box is made by the builder: of a material, and neither at hand nor ordered anywhere."""
        part = getattr(self.parts, kind)
        return isinstance(part, Enclosure) and made(part)

    def in_one_kit(self, *kinds: str) -> bool:
        """Whether these came in one kit, and so were made for each other."""
        kits = {part.kit if (part := getattr(self.parts, kind)) is not None else None for kind in kinds}
        return len(kits) == 1 and None not in kits

    def fitting_left(self, *kinds: str) -> float:
        """Share of the trying that is left: what came in one kit was tried by whoever packed it (from memory)."""
        return 0.5 if self.in_one_kit(*kinds) else 1.0

    @property
    def replaced(self) -> list[str]:
        """Kinds of part that come off the board that was there."""
        was = self.build.existing.was if self.build.existing else None
        return [] if was is None else [kind for kind in Parts.model_fields if getattr(was, kind)]

    @cached_property
    def motors(self) -> int:
        """How many motors; one where there is one and it does not say."""
        return (self.parts.motors.count or 1) if self.parts.motors is not None else 0

    @property
    def geared(self) -> bool:
        return self.motors > 0 and has_pulleys(self.build)

    @property
    def belt(self) -> bool:
        return self.geared and self.kind in ("belt", "chain")

    @property
    def drop_through(self) -> bool:
        return self.parts.deck is not None and self.parts.deck.mount == "drop_through"

    @property
    def bricks(self) -> bool:
        return self.parts.pack is not None and self.parts.pack.layout == "bricks"

    @cached_property
    def boxes(self) -> list[Boxed]:
        """Boxes that are chosen."""
        return boxes(self.build) if self.parts.enclosure is not None or self.parts.second_enclosure is not None else []

    @cached_property
    def lines(self) -> list[str]:
        """Every line of the parts list that is on the board."""
        return [p.path for p in priced_parts(self.build) if not p.path.startswith(LEFT_OVER)]

    @cached_property
    def _small(self) -> dict[str, list[str]]:
        found: dict[str, list[str]] = {}
        for index, id in stands_for(self.build).items():
            found.setdefault(id, []).append(f"parts.extras.{index}")
        return found

    def small(self, *ids: str) -> list[str]:
        """Lines of the list that stand for small parts, by the names under which they are called for."""
        return [path for id in ids for path in self._small.get(id, ())]

    @property
    def to_put_on(self) -> list[str]:
        """Everything that is put onto the board: each chosen part, and each line of the list."""
        chosen = [f"parts.{kind}" for kind in Parts.model_fields if isinstance(getattr(self.parts, kind), Part)]
        return [p for p in dict.fromkeys([*self.lines, *chosen]) if not self.stays(p.split(".")[1])]

    def needs(self, *kinds: str) -> list[str]:
        """Parts that a step asks for, and the lines of the list that have to be in the house: a part out of a kit comes
        with the kit.
        """
        found: list[str] = []
        for kind in kinds:
            part: Any = getattr(self.parts, kind)
            if part is None or self.stays(kind):
                continue
            found += [] if isinstance(part, list) else [f"parts.{kind}"]
            kit = None if isinstance(part, list) else part.kit
            if kit is not None:
                found += [f"parts.kits.{i}" for i, k in enumerate(self.parts.kits or []) if k.name == kit]
            found += [p for p in self.lines if p == f"parts.{kind}" or p.startswith(f"parts.{kind}.")]
        return list(dict.fromkeys(found))
