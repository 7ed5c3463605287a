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
        "Lay everything out, in the order in which it goes on",
        "A bolt that is missing is found today, and not on Sunday evening with the truck half on.",
        [
            "A sheet over the table, small parts in lids, each bag of screws beside its part. Hold the list "
            "against it, line by line.",
            "What is not here holds up only its own steps: the rest can begin.",
        ],
        "Nothing lies there of which you do not know where it goes.",
        tools=["masking_tape", "marker"],
        minutes=minutes(15, 40),
    )


def kits(b: Board) -> Iterator[Step]:
    """A kit against its list."""
    for i, kit in enumerate(b.parts.kits or []):
        yield step(
            f"kit-{i + 1}",
            "ready",
            f"Unpack the kit: {kit.name or 'all of it'}",
            "A kit is packed by hand. What lacks is asked for before anything is screwed on.",
            [
                "Every part in it against its list; screws counted by size. Turn every motor by hand: it runs without a scrape."
            ],
            "Nothing lacks, nothing is bent, nothing rattles.",
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
        "Weigh the parts as they come out of the paper",
        "What is weighed is no longer guessed: range, hill and what you carry get narrower bands at once.",
        ["Each by itself on a kitchen scale, to the nearest ten grams. What is bolted together already, leave."],
        "The sum lies within the band of what is carried.",
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
        f"Take off what is replaced: {', '.join(gone)}",
        "How it was on is how most of it goes on again, and memory is worth nothing after a week.",
        [
            "Photos first, from every side. Screws of one place into one bag, with its name on it.",
            *(["Loop plug or switch off, pack unplugged first of all, caps on its plugs."] if electric else []),
            "What stays is looked at now: bearings, bushings, screw heads, cracks round the truck bolts.",
        ],
        "What stays is clean, whole, and loose nowhere.",
        caution="A pack that was ridden is charged: unplug it before a spanner comes near." if electric else None,
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
        "Drill the moved truck’s holes",
        message(
            "The rear truck stands {moved} from where the deck has its holes.", moved=(abs(deck.moved_mm), "length")
        ),
        [
            "Print the template at 100 %, check its ruler, tape it on the centre line drawn from nose to tail.",
            "3 mm first, then 5.5 mm, from the top, a scrap of wood clamped beneath. Slowly: plies lift "
            "where the drill bursts out.",
        ],
        message(
            "A truck slides onto all four bolts, and both axles stand {base} apart.", base=(_wheelbase(b), "length")
        ),
        wrong="A hole askew by a millimetre is filed; two millimetres let the truck steer by itself: plug it and drill anew.",
        caution="Eye protection; hold nothing by hand that the drill can catch.",
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
        message("{depth} come out of the underside: what is left carries you.", depth=(deck.routed_mm, "length")),
        [
            "A frame of straight battens as a guide, three passes, the depth stop checked on a scrap first.",
            "Round the corners with the bit’s own radius, seal the bare wood with varnish or thin epoxy.",
        ],
        "Stood on between two blocks it gives no more than the drawings say, and makes no sound.",
        wrong="Deeper cannot be mended. Stop a millimetre early and look.",
        caution="Eye and ear protection, dust mask; both hands on the router, the deck clamped.",
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
        f"Fit what else is on your list: {', '.join(names[:3])}{' and more' if len(names) > 3 else ''}",
        f"{counted(len(rest), 'thing').capitalize()} of your list that no other step asks for.",
        [
            f"{name[:1].upper()}{name[1:]}: where it is in nobody’s way, and cannot fall into a wheel."
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
