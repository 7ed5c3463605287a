"""Where builders differ: the ways of working that this board leaves open, each with its reason and with what it fits.

All of it is common practice, no source.
"""

from collections.abc import Callable
from dataclasses import dataclass

from boardmath.buildfile.build import Build
from boardmath.buildfile.methods import Methods
from boardmath.messages import message
from boardmath.model.bricks import brick_charging, bricks_of
from boardmath.model.methods import (
    enclosure_fixing,
    fuse_poles,
    hardware,
    locking,
    mount_fixing,
)
from planner.assembly.board import Board
from planner.shared.step import Method, MethodChoice


@dataclass(frozen=True)
class _Question:
    """A field of the methods: whether it arises on a board, what holds there, and its ways."""

    field: str
    arises: Callable[[Board], bool]
    holds: Callable[[Build], str]
    ways: tuple[Method, ...]


def _way(value: str, name: str, text: str, fits: str) -> Method:
    return Method(value=value, name=name, text=message(text), fits=message(fits))


QUESTIONS = (
    _Question(
        "enclosure_fixing",
        lambda b: any(not boxed.above for boxed in b.boxes),
        enclosure_fixing,
        (
            _way(
                "threaded_inserts",
                "Threaded inserts from beneath",
                "Nothing shows on top, and the grip tape stays on. They need exact holes.",
                "A deck thick enough for the insert, and an enclosure that you open often.",
            ),
            _way(
                "t_nuts",
                "T-nuts from above",
                "They pull on the whole ply. The grip tape is peeled back and laid down again.",
                "Thin decks, a heavy pack, rough ground.",
            ),
            _way(
                "wood_screws",
                "Wood screws",
                "Quick, without a special tool. The wood holds them for a few openings only.",
                "A light enclosure that you rarely open.",
            ),
            _way(
                "through_floor",
                "Bolts through its floor",
                "The container stays on the deck, and its own lid opens it. Each bolt is a hole to seal.",
                "A container with a lid of its own, such as a case or a food box.",
            ),
        ),
    ),
    _Question(
        "mount_fixing",
        lambda b: b.geared,
        mount_fixing,
        (
            _way(
                "clamped",
                "Clamped",
                "You can move it, turn it and sell it on. A clamp that does not lie flat can slip.",
                "Every hanger for which there is a clamp.",
            ),
            _way(
                "welded",
                "Welded",
                "It cannot slip, but it stays where it is. Heat can warp the hanger and soften aluminium.",
                "Hangers without a fitting clamp, the same metal on both sides, and someone who welds for a living.",
            ),
        ),
    ),
    _Question(
        "fuse_poles",
        lambda b: b.parts.fuse is not None and b.parts.pack is not None,
        fuse_poles,
        (
            _way(
                "positive",
                "In the positive lead",
                "One fuse ends every short behind it. Keep the lead from the pack to it as short as you can.",
                "Most boards: one pack, with the fuse right beside it.",
            ),
            _way(
                "both_poles",
                "In both leads",
                "The second one also ends a short of the lead before the first. It is one more contact that can get warm.",
                "Long leads before the fuse, or a metal deck that a wire can chafe on.",
            ),
        ),
    ),
    _Question(
        "brick_charging",
        lambda b: b.parts.pack is not None and bricks_of(b.parts.pack) > 1,
        brick_charging,
        (
            _way(
                "one_by_one",
                "One by one",
                "Each brick is balanced and seen by itself. It takes several turns at the charger.",
                "Bricks of different age or size, and the first charges of every pack.",
            ),
            _way(
                "together",
                "Together, on a parallel charging board",
                "One turn at the charger. Bricks that differ in voltage charge each other when they are plugged in.",
                "Bricks of one batch with the same cells in series, and a charging board with a fuse for each.",
            ),
        ),
    ),
    _Question(
        "locking",
        lambda b: b.parts.trucks is not None,
        locking,
        (
            _way(
                "after_dry_fit",
                "Dry fit everything first",
                "What does not fit costs an evening and no part. The board is put together twice.",
                "A first board, and parts that were not made for each other.",
            ),
            _way(
                "as_you_go",
                "Lock each part once it fits",
                "The board is put together once. What turns out wrong later has to be broken loose with heat.",
                "Parts out of one kit, or a board that you have built before.",
            ),
        ),
    ),
    _Question(
        "hardware",
        lambda b: b.parts.trucks is not None and b.parts.deck is not None,
        hardware,
        (
            _way(
                "metric",
                "Metric",
                "M5 through the deck; the motor's screws are metric too, so one set of keys does.",
                "Trucks with metric threads, and shops near you that sell them.",
            ),
            _way(
                "inch",
                "Inch",
                "No. 10 through the deck, as most trucks are drilled for; it needs a second set of keys.",
                "Trucks with inch threads: a 5/16 in axle nut does not fit an 8 mm axle.",
            ),
        ),
    ),
)


def methods_of(board: Board) -> list[MethodChoice]:
    """What the board leaves open, with what holds now; a way that would not hold on this board is left out."""

    def chosen(field: str, value: str | None) -> Build:
        methods = (board.build.methods or Methods()).model_copy(update={field: value})
        return board.build.model_copy(update={"methods": methods})

    return [
        MethodChoice(
            field=f"methods.{q.field}",
            title=Methods.model_fields[q.field].title or q.field,
            ways=[w for w in q.ways if q.holds(chosen(q.field, w.value)) == w.value],
            holds=q.holds(board.build),
            usual=q.holds(chosen(q.field, None)),
        )
        for q in QUESTIONS
        if q.arises(board)
    ]
