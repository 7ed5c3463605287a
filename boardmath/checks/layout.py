"""How the board is laid out: a deck routed thinner, holes beside holes, who stands where, a pack outside."""

from collections.abc import Iterator
from math import hypot

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Finding, Fix, finding, fix
from boardmath.geometry.beam import LANDING, LEAST_LEFT, bending, pocket
from boardmath.geometry.enclosures import STANDING_ROOM, boxes_under, on_the_deck
from boardmath.geometry.stance import deck_of
from boardmath.geometry.views.underside import bolt_holes, old_holes
from boardmath.messages import message
from boardmath.model.defaults import USUAL

HOLE_APART = 15.0
"""mm between the middles of two bolt holes below which the wood between them splits: three of their widths (from memory)."""
FURTHEST_MOVED = 200.0
"""mm that a truck is moved at most: further, it is another deck."""
THIN_FOR_BOLTS = 10.0
"""mm of wood under which bolts pull through beside a drop-through hole (from memory)."""


def routed_deck(build: Build) -> Iterator[Finding]:
    """What routing the deck thinner leaves of it under this rider."""
    deck = build.parts.deck
    cut = pocket(deck) if deck else None
    if deck is None or cut is None or deck.thickness_mm is None:
        return
    fields = ["parts.deck.routed_mm", "parts.deck.thickness_mm"]
    if cut.depth >= deck.thickness_mm or cut.width >= (deck.width_mm or USUAL["deck.width_mm"]):
        yield finding(
            kind="deck-routed",
            severity="danger",
            title="The routed pocket goes through the deck",
            about=["deck"],
            fields=fields,
            message=message(
                "The pocket is {depth} deep and {width} wide in a deck {thick} thick and {across} wide: no wood "
                "is left.",
                depth=(cut.depth, "length"),
                width=(cut.width, "length"),
                thick=(deck.thickness_mm, "length"),
                across=(deck.width_mm or USUAL["deck.width_mm"], "length"),
            ),
            fixes=[_not_routed()],
        )
        return
    bent = bending(build)
    assert bent is not None
    values = {
        "stiff": (100.0 * bent.stiffness_share, "share"),
        "strong": (100.0 * bent.strength_share, "share"),
        "left": (bent.left, "ratio"),
        "whole": (bent.left_whole, "ratio"),
        "landing": (LANDING, "ratio"),
    }
    kept = (
        "The routed deck keeps {stiff} of its stiffness and {strong} of its strength. By beam theory it bears {left} "
        "times the load of stepping on or landing off a kerb ({landing} times your weight); unrouted {whole} times. "
    )
    if bent.left < 1.0:
        yield finding(
            kind="deck-routed",
            severity="danger",
            title="The routed deck would break",
            about=["deck", "enclosure"],
            fields=fields,
            message=message(kept + "It breaks across the pocket with you on it. Route less, or not at all.", **values),
            fixes=[_not_routed()],
        )
    else:
        weak = bent.left < LEAST_LEFT
        yield finding(
            kind="deck-routed",
            severity="warn" if weak else "note",
            title="The routed deck is weak" if weak else "The routed deck bends more",
            about=["deck", "enclosure"],
            fields=fields,
            message=message(
                kept
                + (
                    "Wood varies: load it at home with more than your weight, round the pocket's corners, and look "
                    "for cracks after every hard landing."
                ),
                **values,
            ),
            fixes=[_not_routed()] if weak else (),
        )


def _not_routed() -> Fix:
    return fix("Do not route the deck", {"parts.deck.routed_mm": 0.0})


def hollow_deck(build: Build) -> Iterator[Finding]:
    """A hollow deeper than the deck is thick is more likely measured wrong."""
    deck = build.parts.deck
    if deck is None or deck.thickness_mm is None:
        return
    deepest = max([deck.concave_mm or 0.0, *(p.hollow_mm or 0.0 for p in deck.curve or [])])
    if deepest <= deck.thickness_mm:
        return
    yield finding(
        kind="deck-hollow",
        severity="warn",
        title="Deck hollower than it is thick",
        about=["deck"],
        fields=["parts.deck.concave_mm", "parts.deck.thickness_mm"],
        message=message(
            "The stated hollow is {hollow} in a deck {thick} thick; few are pressed that deep. Lay a straight "
            "edge across the underside and measure in the middle.",
            hollow=(deepest, "length"),
            thick=(deck.thickness_mm, "length"),
        ),
    )


def holes_beside_holes(build: Build) -> Iterator[Finding]:
    """New truck holes against those that the deck came with."""
    moved = deck_of(build).moved_mm
    if not moved:
        return
    nearest = min(hypot(x - u, y - v) for x, y in bolt_holes(build) for u, v in old_holes(build))
    if nearest >= HOLE_APART:
        return
    needs = HOLE_APART if abs(moved) < HOLE_APART else abs(moved) + HOLE_APART - nearest
    yield finding(
        kind="holes-close",
        severity="warn",
        title="New truck holes too close",
        about=["deck", "trucks"],
        fields=["parts.deck.moved_mm"],
        message=message(
            "With the truck moved by {moved}, a new hole is {near} from an old one; under {least} the wood "
            "between them splits. Move the truck by {needs} or more, plug the old holes with glued hardwood, and "
            "put a plate over both.",
            moved=(abs(moved), "length"),
            near=(nearest, "length"),
            least=(HOLE_APART, "length"),
            needs=(needs, "length"),
        ),
        fixes=[
            fix(
                "Move it by {needs}",
                {"parts.deck.moved_mm": needs if moved > 0.0 else -needs},
                needs=(needs, "length"),
            )
        ]
        if needs <= FURTHEST_MOVED
        else (),
    )


def bolts_through(build: Build) -> Iterator[Finding]:
    """Bolts beside a hole through a thin deck."""
    deck = build.parts.deck
    if deck is None or deck.mount != "drop_through" or build.parts.spreaders is not None:
        return
    if deck.thickness_mm is None or deck.thickness_mm >= THIN_FOR_BOLTS:
        return
    yield finding(
        kind="bolts-through",
        severity="note",
        title="Use spreader plates under the bolts",
        about=["deck", "trucks"],
        fields=["parts.spreaders.height_mm"],
        message=message(
            "The trucks are drop-through in a deck {thick} thick, with little wood around the bolts. A plate on "
            "top spreads the load; the bolts get longer by its thickness.",
            thick=(deck.thickness_mm, "length"),
        ),
        fixes=[fix("Add plates of {two}", {"parts.spreaders.height_mm": 2.0}, two=(2.0, "length"))],
    )


def standing_room(build: Build) -> Iterator[Finding]:
    """What stands on the deck against the feet that have to stand there too."""
    taken, deck = on_the_deck(build), build.parts.deck
    if not taken or deck is None or deck.length_mm is None:
        return
    left = deck.length_mm - (deck.tail_mm or 0.0) - taken
    if left >= STANDING_ROOM:
        return
    yield finding(
        kind="standing-room",
        severity="stop" if left < 0.6 * STANDING_ROOM else "warn",
        title="Little deck is left to stand on",
        about=["deck", "enclosure", "pack"],
        fields=["parts.enclosure.length_mm", "parts.deck.length_mm"],
        message=message(
            "Parts on top take {taken} of the deck and leave {left}; two feet and the space between them need {usual}.",
            taken=(taken, "length"),
            left=(max(left, 0.0), "length"),
            usual=(STANDING_ROOM, "length"),
        ),
    )


def boxes_in_each_other(build: Build) -> Iterator[Finding]:
    """Two boxes under the deck in each other's place."""
    hanging = boxes_under(build)
    if len(hanging) < 2 or any(b.box.length_mm is None for b in hanging):
        return
    first, second = sorted(hanging, key=lambda b: b.span[0])
    over = first.span[1] - second.span[0]
    if over <= 0.0:
        return
    yield finding(
        kind="boxes-overlap",
        severity="stop",
        title="The two enclosures overlap",
        about=["enclosure", "second_enclosure"],
        fields=["parts.second_enclosure.back_mm", "parts.enclosure.length_mm"],
        message=message(
            "They are {first} and {second} long and overlap by {over}. Make them shorter, or move one.",
            first=(first.length, "length"),
            second=(second.length, "length"),
            over=(over, "length"),
        ),
    )


def pack_outside(build: Build) -> Iterator[Finding]:
    """A pack in the rider's bag, or swapped on the way."""
    pack = build.parts.pack
    if pack is None:
        return
    if pack.place == "in_a_bag":
        yield finding(
            kind="pack-in-a-bag",
            severity="warn",
            title="Cable from the rider to the board",
            about=["pack"],
            fields=["parts.pack.place"],
            message=message(
                "With the pack in a bag the cable has to unplug by itself when you step off or fall, without "
                "exposing a contact, and the cells are at your back. Use a breakaway plug, a fuse at the pack, "
                "and a bag that does not bend it."
            ),
        )
    if pack.spares:
        packs = f"{pack.spares} pack{'s' if pack.spares > 1 else ''}"
        yield finding(
            kind="packs-swapped",
            severity="note",
            title="Packs are swapped on the way",
            about=["pack"],
            fields=["parts.pack.spares"],
            message=message(
                "{packs} in the bag count towards the range. Never connect two packs to each other: a full one "
                "discharges into an empty one without limit. Cap every unused plug, and keep metal and sharp "
                "things away.",
                packs=packs,
            ),
        )
