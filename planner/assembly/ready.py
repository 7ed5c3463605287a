"""Before a tool is lifted: what is here, what it weighs, what comes off. Times are common practice, no source."""

from collections.abc import Iterator

from boardmath.geometry.stance import axles
from boardmath.messages import counted, message
from boardmath.parts.part_types import kind_of
from planner.assembly.board import Board
from planner.shared.facts import standing_at
from planner.shared.making import minutes, step
from planner.shared.step import Check, Step

WEIGHED = ("deck", "trucks", "wheels", "motors", "drive", "controller", "enclosure")
"""Parts that are weighed by themselves, and make most of what is carried."""


def lay_out(b: Board) -> Iterator[Step]:
    """Always the first."""
    yield step(
        "lay-out",
        "ready",
        "Lay out all parts in order of assembly",
        "A missing bolt is found today, and not on Sunday evening with the truck half on.",
        [
            (
                "A sheet over the table, small parts in lids, each bag of screws beside its part. Check everything "
                "against the list, line by line."
            ),
            "What has not arrived delays only its own steps: the rest can start.",
        ],
        "You know where everything on the table goes.",
        tools=["masking_tape", "marker"],
        minutes=minutes(15, 40),
    )


def kits(b: Board) -> Iterator[Step]:
    """A kit against its list."""
    for i, kit in enumerate(b.parts.kits or []):
        yield step(
            f"kit-{i + 1}",
            "ready",
            message("Unpack the kit: {kit}", kit=kit.name or "all of it"),
            "Kits are packed by hand. Ask for what is missing before you assemble anything.",
            [
                (
                    "Check every part against its list; count the screws by size. Turn every motor by hand: it runs "
                    "without scraping."
                )
            ],
            "Nothing is missing, bent or loose.",
            tools=["camera"],
            minutes=minutes(10, 25),
            needs=[f"parts.kits.{i}"],
            after=["lay-out"],
        )


def weigh_parts(b: Board) -> Iterator[Step]:
    """Each big part on the kitchen scale, as it comes."""
    found = [
        kind for kind in WEIGHED if b.new(kind) and getattr(b.parts, kind).kit is None and (kind != "drive" or b.geared)
    ]
    if not found:
        return
    names = {
        "trucks": "both trucks",
        "wheels": "the set of wheels",
        "motors": "one motor",
        "drive": "pulleys and belt of one motor" if b.belt else "the drive of one motor",
        "enclosure": "the box",
    }
    yield step(
        "weigh-parts",
        "ready",
        "Weigh the parts as you unpack them",
        "A weighed part needs no estimate: the ranges for hill, range and weight get narrower at once.",
        ["Each by itself on a kitchen scale, to ten grams. Leave what is bolted together already."],
        "The sum is within the predicted range of the weight.",
        tools=["scale"],
        minutes=minutes(5, 15),
        after=["lay-out"],
        optional=True,
        checks=[
            Check(id=kind, text=f"{names.get(kind, 'the ' + kind)}".capitalize(), quantity="mass", unit="g")
            for kind in found
        ],
    )


def take_off(b: Board) -> Iterator[Step]:
    """On a board that was there: what is replaced comes off."""
    gone = [_PLAIN.get(kind, kind.replace("_", " ")) for kind in b.replaced]
    if not gone:
        return
    electric = bool({"pack", "controller", "motors", "wiring", "switch", "fuse"} & set(b.replaced))
    yield step(
        "take-off",
        "ready",
        message("Remove what is replaced: {parts}", parts=", ".join(gone)),
        "Most of it goes on again as it was, and after a week nobody remembers how.",
        [
            "Take photos first, from every side. Put the screws of each place into a labelled bag.",
            *(["First of all: loop key or switch off, pack unplugged, caps on its plugs."] if electric else []),
            "Check what stays: bearings, bushings, screw heads, cracks round the truck bolts.",
        ],
        "What stays is clean, whole, and nowhere loose.",
        caution="A used pack is charged: unplug it before you bring a spanner near it." if electric else None,
        tools=["camera", "allen_keys", "spanners", "masking_tape"],
        minutes=minutes(20, 60, len(gone) / 2.0),
        after=["lay-out"],
    )


_PLAIN = {
    "enclosure": "box",
    "second_enclosure": "second box",
    "charge_port": "charge port",
    "drive": "pulleys and belts",
}


def drill_trucks(b: Board) -> Iterator[Step]:
    """New holes where the rear truck was moved."""
    deck = b.parts.deck
    if deck is None or not deck.moved_mm:
        return
    yield step(
        "drill-trucks",
        "ready",
        "Drill the holes for the moved truck",
        message("The rear truck is {moved} from the holes of the deck.", moved=(abs(deck.moved_mm), "length")),
        [
            "Print the template at 100 %, check its ruler, and tape it on a centre line drawn from nose to tail.",
            (
                "First 3 mm, then 5.5 mm, from the top, with a scrap of wood clamped beneath. Slowly: the plies lift "
                "where the drill comes out."
            ),
        ],
        message("A truck slides onto all four bolts, and the axles are {base} apart.", base=(_wheelbase(b), "length")),
        wrong="A hole that is off by one millimetre can be filed; two millimetres make the truck steer by itself: plug "
        "it and drill again.",
        caution="Wear eye protection; hold nothing by hand that the drill can catch.",
        tools=["template", "drill", "wood_bits", "clamps", "square", "eye_protection"],
        minutes=minutes(30, 75),
        needs=b.needs("deck"),
        touches=["parts.deck.moved_mm", "parts.deck.wheelbase_mm", "parts.deck.front_axle_mm"],
        after=["lay-out"],
    )


def _wheelbase(b: Board) -> float:
    front, rear = axles(b.build)
    return rear - front


def rout_deck(b: Board) -> Iterator[Step]:
    """The pocket for the box, where one is cut."""
    deck = b.parts.deck
    if deck is None or not deck.routed_mm:
        return
    yield step(
        "rout-deck",
        "ready",
        "Rout the pocket",
        message(
            "{depth} come out of the underside: the wood that is left carries you.", depth=(deck.routed_mm, "length")
        ),
        [
            "A frame of straight battens as a guide, three passes, the depth stop checked on a scrap first.",
            "Round the corners with the bit's own radius, and seal the bare wood with varnish or thin epoxy.",
        ],
        "Standing on it between two blocks, it bends no more than the drawings say, and makes no sound.",
        wrong="Too deep cannot be repaired. Stop a millimetre early and check.",
        caution="Wear eye and ear protection and a dust mask; both hands on the router, the deck clamped.",
        tools=["router", "clamps", "dust_mask", "eye_protection", "sandpaper"],
        minutes=minutes(60, 180),
        waits_h=12.0,
        needs=b.needs("deck"),
        touches=["parts.deck.routed_mm", "parts.deck.routed_length_mm", "parts.deck.routed_width_mm"],
        after=["lay-out"],
    )


def rest_of_the_list(b: Board, handled: set[str]) -> Iterator[Step]:
    """What stands on the parts list and no other step asks for."""
    rest = [path for path in b.to_put_on if path not in handled]
    if not rest:
        return
    names = [_named(b, path) for path in rest]
    yield step(
        "rest-of-the-list",
        "finish",
        message(
            "Fit the other parts on your list: {parts}",
            parts=", ".join(names[:3]) + (" and more" if len(names) > 3 else ""),
        ),
        message("{rest} on your list that no other step uses.", rest=counted(len(rest), "part").capitalize()),
        [
            f"{name[:1].upper()}{name[1:]}: where it is in nobody's way, and cannot fall into a wheel."
            for name in names[:8]
        ],
        "Shaken upside down, nothing moves.",
        tools=["allen_keys", "cable_ties"],
        minutes=minutes(5, 20, len(rest)),
        needs=rest,
        after=["phase:dry_fit", "phase:wiring"],
    )


def _named(b: Board, path: str) -> str:
    part = standing_at(b.build, path)
    return getattr(part, "name", None) or (kind_of(path) or "part").replace("_", " ")
