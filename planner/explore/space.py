"""What a builder leaves open, and every board that can be made of it."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import prod
from typing import Any, Literal, cast, get_args

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from boardmath.buildfile import Build, BuildFileError, Fault
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Charger, Pack
from boardmath.buildfile.figures import Part, Record
from boardmath.buildfile.rolling import Wheels
from boardmath.buildfile.settings import Settings
from boardmath.parts.default_settings import first_settings
from boardmath.parts.part_selection import for_motors, without_pulleys
from boardmath.parts.part_types import KINDS
from planner.explore.completing import chargers, completed
from planner.explore.variants import MADE

Piece = Literal["motor", "count", "controller", "drive", "wheels", "pack", "deck", "trucks"]
"""What a board is put together from here, as far as it decides how it rides, what it weighs and what fits."""
PIECES: tuple[Piece, ...] = get_args(Piece)
OpenKind = Literal["motors", "controller", "drive", "wheels", "pack", "cell", "deck", "trucks"]
NumberPath = Literal[
    "parts.motors.kv_rpm_per_v",
    "parts.motors.count",
    "parts.drive.motor_teeth",
    "parts.drive.wheel_teeth",
    "parts.wheels.diameter_mm",
    "parts.pack.series",
    "parts.pack.parallel",
]
MOST = 250_000
"""Boards that are looked at in one go; of more a random choice of so many."""
MOST_OF_A_PIECE = 2_000
"""Alternatives of one piece: each of them is resolved by itself before the boards are looked at."""
VAST = 100_000_000
"""Boards of which not even a choice would tell much."""
_STEPS = 12
"""Into how many steps a span of a figure that is no count is cut, where nobody says."""


class OpenNumber(Record):
    """A figure that is free between two ends, both of them included."""

    path: NumberPath
    low: float
    high: float
    step: float | None = Field(default=None, gt=0)


class Open(Record):
    """What is left open: kinds of part that the library answers, and figures that are free within a span."""

    kinds: list[OpenKind] = Field(default=[], max_length=8)
    numbers: list[OpenNumber] = Field(default=[], max_length=7)


_OF_KIND: dict[OpenKind, Piece] = {
    "motors": "motor",
    "controller": "controller",
    "drive": "drive",
    "wheels": "wheels",
    "pack": "pack",
    "cell": "pack",
    "deck": "deck",
    "trucks": "trucks",
}
OF_NUMBER: dict[NumberPath, tuple[Piece, type[Part]]] = {
    "parts.motors.kv_rpm_per_v": ("motor", Motors),
    "parts.motors.count": ("count", Motors),
    "parts.drive.motor_teeth": ("drive", Drive),
    "parts.drive.wheel_teeth": ("drive", Drive),
    "parts.wheels.diameter_mm": ("wheels", Wheels),
    "parts.pack.series": ("pack", Pack),
    "parts.pack.parallel": ("pack", Pack),
}
_SLOT: dict[Piece, str] = {
    "motor": "motors",
    "count": "motors",
    "controller": "controller",
    "drive": "drive",
    "wheels": "wheels",
    "pack": "pack",
    "deck": "deck",
    "trucks": "trucks",
}


@dataclass(frozen=True)
class Axis:
    """One thing that is open: ``path`` is a kind's slot or a figure's path; ``values`` are parts or numbers."""

    piece: Piece
    path: str
    title: str
    quantity: str | None
    values: Sequence[Part | float]

    def __len__(self) -> int:
        return len(self.values)


class Space:
    """Every board that can be made: one for each combination of the axes' values, numbered in their order.

    Args:
        build: with the brief, the rider and what is not open.
        library: parts by kind.
        most: boards beyond which not even a choice by chance would tell much.

    Raises:
        BuildFileError: a span that is turned round, outside what can be, without anything to choose from, or too many boards.
    """

    def __init__(self, build: Build, library: Mapping[str, Sequence[Part]], left_open: Open, most: int = VAST):
        self.left_open = left_open
        self.axes = _axes(left_open, library)
        opened = {a.piece for a in self.axes}
        accepted = _accepted(build, opened)
        self.completed = completed(accepted, library, [_SLOT[p] for p in opened])
        """What no one chose, by its slot: every board here has the cheapest that fits."""
        self.build = accepted.model_copy(update={"parts": accepted.parts.model_copy(update=self.completed)})
        self._library = library
        self.axes_of: dict[Piece, list[Axis]] = {p: [a for a in self.axes if a.piece == p] for p in PIECES}
        self.axes = [a for p in PIECES for a in self.axes_of[p]]
        self.shape = tuple(len(a) for a in self.axes)
        self.sizes = {p: prod(len(a) for a in self.axes_of[p]) for p in PIECES}
        for piece in (p for p in PIECES if self.sizes[p] > MOST_OF_A_PIECE):
            title = KINDS[_SLOT[piece]].name.lower()
            raise BuildFileError(
                [Fault("open", f"that makes {self.sizes[piece]:,} kinds of {title}; {MOST_OF_A_PIECE:,} at most")]
            )
        if len(self) > most:
            raise BuildFileError(
                [
                    Fault(
                        "open",
                        f"that makes {len(self):,} designs, too many to choose from; fix a part or narrow a range",
                    )
                ]
            )
        if missing := [f for p in PIECES if (f := _missing(p, self.alternatives[p])) is not None]:
            raise BuildFileError(missing)

    def __len__(self) -> int:
        return prod(self.shape)

    @cached_property
    def alternatives(self) -> dict[Piece, list[Any]]:
        """For each piece what it may be: a part, or how many motors."""
        return {p: [self._made(p, at) for at in np.ndindex(*(len(a) for a in self.axes_of[p]))] for p in PIECES}

    @cached_property
    def chargers(self) -> list[Charger | None]:
        """For each alternative of the pack the charger that goes with it."""
        return chargers(self.build, self._library, self.alternatives["pack"])

    def _made(self, piece: Piece, at: Sequence[int]) -> Any:
        values = {a.path: a.values[i] for a, i in zip(self.axes_of[piece], at, strict=True)}
        if piece == "count":
            motors = self.build.parts.motors
            return int(cast(float, values["parts.motors.count"])) if values else (motors.count if motors else 1) or 1
        return MADE[piece](getattr(self.build.parts, _SLOT[piece]), values)

    def seen_as(self, reads: Sequence[str]) -> tuple[tuple[Piece, ...], list[NDArray[np.int64]]]:
        """The open pieces that are read, and for each alternative of theirs the first that looks the same to whoever reads them.

        Args:
            reads: pieces, or views of them (:data:`VIEWS`).
        """
        opened = [read for read in reads if self.sizes[_piece(read)] > 1]
        return tuple(_piece(read) for read in opened), [self._alike(read) for read in opened]

    def _alike(self, read: str) -> NDArray[np.int64]:
        alternatives = self.alternatives[_piece(read)]
        if read not in VIEWS:
            return np.arange(len(alternatives))
        seen: dict[Any, int] = {}
        return np.array([seen.setdefault(VIEWS[read](a), i) for i, a in enumerate(alternatives)])

    def are_open(self, reads: Sequence[str]) -> bool:
        """Whether any of the pieces that are read may change."""
        return any(self.sizes[_piece(read)] > 1 for read in reads)

    @cached_property
    def bare(self) -> NDArray[np.bool_]:
        """Which of the motors need no pulleys."""
        return np.array([m is not None and m.kind in ("hub", "direct") for m in self.alternatives["motor"]])

    def pieces(self, boards: Any) -> dict[Piece, NDArray[np.int64]]:
        """For every board which of its pieces' alternatives it has."""
        found = np.unravel_index(np.asarray(boards), [self.sizes[p] for p in PIECES])
        return dict(zip(PIECES, found, strict=True))

    def numbers(self, pieces: Mapping[Piece, int | NDArray[np.int64]]) -> NDArray[np.int64]:
        """The boards that are made of the given alternatives of every piece."""
        each = np.broadcast_arrays(*(pieces[p] for p in PIECES))
        return np.atleast_1d(np.ravel_multi_index(each, [self.sizes[p] for p in PIECES])).astype(np.int64)

    def positions(self, board: int) -> tuple[int, ...]:
        """Where a board stands on every axis."""
        return tuple(int(i) for i in np.unravel_index(board, self.shape)) if self.shape else ()

    def beside(self, board: int, axis: int) -> NDArray[np.int64]:
        """The board with every value of one axis, all else the same."""
        at = [np.full(self.shape[axis], i) for i in self.positions(board)]
        at[axis] = np.arange(self.shape[axis])
        return np.asarray(np.ravel_multi_index(at, self.shape), dtype=np.int64)

    @property
    def chosen_from(self) -> bool:
        """Whether there are more boards than are looked at."""
        return len(self) > MOST

    @cached_property
    def boards(self) -> NDArray[np.int64]:
        """All that are boards of their own, or those of a random choice where there are too many; always the same."""
        chosen = np.unique(np.random.default_rng(11).integers(0, len(self), MOST)) if self.chosen_from else None
        every = np.arange(len(self)) if chosen is None else chosen
        return every[self.are_boards(every)]

    def are_boards(self, numbers: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Which are boards of their own: where motors need no pulleys, one for all pulleys; and none without either."""
        of = self.pieces(numbers)
        geared = np.array(
            [d is not None and None not in (d.motor_teeth, d.wheel_teeth) for d in self.alternatives["drive"]]
        )
        return np.asarray(np.where(self.bare[of["motor"]], of["drive"] == 0, geared[of["drive"]]), dtype=np.bool_)

    def made_of(self, set_up: bool = True, **pieces: int) -> Build:
        """A board of the given alternatives of its pieces, each the first where it is not named; set within every rating."""
        one = {p: self.alternatives[p][pieces.get(p, 0)] for p in PIECES}
        count, motors, controller = one["count"], one["motor"], one["controller"]
        bare = motors is not None and motors.kind in ("hub", "direct")
        changed: dict[str, Part | None] = {slot: one[slot] for slot in ("wheels", "pack", "deck", "trucks")}
        changed["charger"] = self.chargers[pieces.get("pack", 0)]
        changed["motors"] = motors.model_copy(update={"count": count}) if motors is not None else None
        drive = without_pulleys(motors, count) if bare else one["drive"] or Drive(kind="belt")
        changed["drive"] = drive.model_copy(update={"driven_wheels": count})
        if controller is not None:
            changed["controller"] = for_motors(controller, count)
        build = self.build.model_copy(update={"parts": self.build.parts.model_copy(update=changed)})
        if not set_up:
            return build
        own = {p for p in PIECES if self._own[p][pieces.get(p, 0)]}
        return build.model_copy(update={"settings": self._settings(build, own)})

    @cached_property
    def _own(self) -> dict[Piece, list[bool]]:
        """For each piece which of its alternatives is what the builder has."""
        parts = self.build.parts
        has = {p: _figures(getattr(parts, _SLOT[p])) for p in PIECES if p != "count"}
        count = (parts.motors.count if parts.motors else 1) or 1
        return {
            p: [(a == count if p == "count" else _figures(a) == has[p]) for a in self.alternatives[p]] for p in PIECES
        }

    def _settings(self, build: Build, own: set[Piece]) -> Settings:
        """Settings within every rating, and the builder's own where what they are set for is the builder's own too."""
        kept = {
            key: value
            for key, pieces in _SET_FOR.items()
            if own.issuperset(pieces) and (value := getattr(self.build.settings, key)) is not None
        }
        return first_settings(build).model_copy(update=kept)

    def board(self, number: int) -> Build:
        """One board by its number."""
        return self.made_of(True, **{str(p): int(i) for p, i in self.pieces(number).items()})


_SET_FOR: dict[str, tuple[Piece, ...]] = {
    "motor_current_a": ("motor", "controller"),
    "motor_brake_a": ("motor", "controller"),
    "pack_current_a": ("count", "controller", "pack"),
    "pack_regen_a": ("count", "controller", "pack"),
    "taper_start_v": ("pack",),
    "taper_end_v": ("pack",),
    "cells_in_series": ("pack",),
    "max_erpm": ("controller",),
    "max_duty_pct": ("controller",),
}
"""What of the settings is set for which pieces; an input that reads one of them reads those pieces too."""


def _figures(part: Part | None) -> dict[str, Any] | None:
    """What a part is, without its name, its price and how many of it there are."""
    if part is None:
        return None
    return part.model_dump(exclude={*Part.model_fields, "units", "count", "driven_wheels"}, exclude_none=True)


def _piece(read: str) -> Piece:
    return cast(Piece, read.partition(":")[0])


def _but_for_its_teeth(drive: Drive | None) -> str | None:
    """A drive as it is to whoever does not count its teeth."""
    keys = ("name", "motor_teeth", "wheel_teeth", "belt_teeth")
    return (
        drive.model_copy(update=dict.fromkeys(keys)).model_dump_json(exclude_none=True) if drive is not None else None
    )


VIEWS: dict[str, Callable[[Any], Any]] = {
    "motor:kind": lambda m: m and m.kind,
    "drive:kind": lambda d: d and d.kind,
    "drive:plain": _but_for_its_teeth,
    "pack:layout": lambda p: p and p.layout,
}
"""What of a piece is read where not all of it is: alternatives that look the same are asked once."""


def _accepted(build: Build, opened: set[Piece]) -> Build:
    """The build without what is known of the very parts that are open: marks, sorted cells, what the whole was weighed at."""
    if not opened:
        return build
    slots = tuple(f"parts.{_SLOT[p]}." for p in opened)
    measured = [m for m in build.measured or () if not m.path.startswith(slots)]
    changed: dict[str, Any] = {"measured": measured or None, "weighed_kg": None, "settings_apart": None}
    if "pack" in opened:
        changed["pack_assembly"] = None
    return build.model_copy(update=changed)


def _axes(left_open: Open, library: Mapping[str, Sequence[Part]]) -> list[Axis]:
    faults: list[Fault] = []
    found: list[Axis] = []
    free = {n.path for n in left_open.numbers}
    if {"pack", "cell"} <= set(left_open.kinds):
        faults.append(Fault("open.kinds", "either ready-made packs or cells for one you make, not both at once"))
    for i, kind in enumerate(dict.fromkeys(left_open.kinds)):
        parts = [p for p in library.get(kind, ()) if usable(p, kind, free)]
        if not parts:
            faults.append(Fault(f"open.kinds.{i}", f"the library has no {KINDS[kind].name.lower()} to choose from"))
        found.append(Axis(_OF_KIND[kind], f"parts.{kind}", KINDS[kind].name, None, parts))
    for i, number in enumerate(left_open.numbers):
        axis, wrong = _number(number, f"open.numbers.{i}")
        faults += wrong
        found.append(axis)
    paths = [a.path for a in found]
    if twice := [p for p in set(paths) if paths.count(p) > 1]:
        faults.append(Fault("open.numbers", f"{twice[0]} is listed twice"))
    if faults:
        raise BuildFileError(faults)
    return found


def usable(part: Part, kind: OpenKind, free: Collection[NumberPath] = ()) -> bool:
    """Whether a part says what no board can do without, or leaves it to a figure that is free."""
    if kind == "drive" and getattr(part, "kind", None) in ("hub", "direct"):
        return False
    keys = _NEEDS[_OF_KIND[kind]][0] if kind in ("motors", "drive", "wheels", "pack") else ()
    return all(getattr(part, k) is not None or f"parts.{kind}.{k}" in free for k in keys)


def number_spec(path: NumberPath) -> dict[str, Any]:
    """What a figure that may be free is called, its quantity and its ends."""
    model, key = OF_NUMBER[path][1], path.rpartition(".")[2]
    said: Any = model.model_fields[key].json_schema_extra
    return {**said, "title": model.model_fields[key].title or key}


def _number(number: OpenNumber, field: str) -> tuple[Axis, list[Fault]]:
    piece, said, faults = OF_NUMBER[number.path][0], number_spec(number.path), []
    title = said["title"]
    if number.low > number.high:
        faults.append(Fault(f"{field}.low", f"{number.low:g} is above {number.high:g}, the upper end"))
    for end in ("low", "high"):
        value = getattr(number, end)
        if not said["low"] <= value <= said["high"]:
            faults.append(Fault(f"{field}.{end}", f"{value:g} is outside {said['low']:g} to {said['high']:g}"))
    if faults:
        return Axis(piece, number.path, title, said["quantity"], [number.low]), faults
    if said.get("whole"):
        step = max(round(number.step or 1.0), 1)
        values = [float(v) for v in range(round(number.low), round(number.high) + 1, step)]
    else:
        wide = number.high - number.low
        steps = max(round(wide / number.step), 1) if number.step else _STEPS
        if steps > MOST_OF_A_PIECE:
            faults.append(Fault(f"{field}.step", f"a step of {number.step:g} makes {steps:,} steps"))
            steps = 1
        values = [float(f"{v:.6g}") for v in np.linspace(number.low, number.high, steps + 1 if wide > 0.0 else 1)]
    return Axis(piece, number.path, title, said["quantity"], values), faults


_NEEDS: dict[Piece, tuple[tuple[str, ...], str]] = {
    "motor": (("kv_rpm_per_v",), "choose a motor, or let it change"),
    "drive": (("motor_teeth", "wheel_teeth"), "choose pulleys, or let them change"),
    "wheels": (("diameter_mm",), "choose wheels, or let them change"),
    "pack": (("series",), "choose a pack, or let it change"),
}


def _missing(piece: Piece, alternatives: Sequence[Any]) -> Fault | None:
    """What no board can do without, where it is neither chosen nor open."""
    if piece not in _NEEDS:
        return None
    keys, word = _NEEDS[piece]
    if any(a is not None and all(getattr(a, k) is not None for k in keys) for a in alternatives):
        return None
    if piece == "drive" and all(a is None or a.kind in ("hub", "direct") for a in alternatives):
        return None  # hubs need none; a motor with a can and no pulleys is no board, and is left out
    return Fault(f"parts.{_SLOT[piece]}", word)
