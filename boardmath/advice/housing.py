"""The box: over the road, between the trucks, against the deck's curves, and what has to go into it."""

from collections.abc import Iterator

from boardmath.advice.finding import Finding, cure, finding
from boardmath.buildfile.build import Build
from boardmath.fit.box import CLEAR, contents, gap_under_curves, room
from boardmath.fit.stance import ground_clearance, sag
from boardmath.saying import say

LEAST_CLEARANCE, USUAL_CLEARANCE = 10.0, 35.0
"""mm under a box with the rider aboard: scrapes at once; takes kerb edges and stones (from memory)."""
FLUSH, FOAM = 2.0, 8.0
"""mm of gap that a flat box bears without cracking, and that gasket foam follows (from memory)."""


def over_the_road(build: Build) -> Iterator[Finding]:
    """Ground clearance under the box with the rider aboard."""
    box, deck = build.parts.enclosure, build.parts.deck
    if box is None or deck is None or box.depth_mm is None or build.parts.wheels is None:
        return
    still, gives = ground_clearance(build), sag(build)
    if still - gives >= USUAL_CLEARANCE:
        return
    scrapes = still - gives < LEAST_CLEARANCE
    yield finding(
        kind="ground-clearance",
        severity="stop" if scrapes else "warn",
        title="The box hangs low",
        about=["enclosure", "deck", "wheels"],
        fields=["parts.enclosure.depth_mm", "parts.risers.height_mm"],
        saying=say(
            "Under the box {still} are left standing, {left} with the deck giving {gives} under the rider; {usual} is the usual "
            "least. Stones and kerbs reach the cells. A shallower box, bigger wheels, risers or a stiffer deck.",
            still=(still, "length"),
            left=(still - gives, "length"),
            gives=(gives, "length"),
            usual=(USUAL_CLEARANCE, "length"),
        ),
    )


def between_the_trucks(build: Build) -> Iterator[Finding]:
    """The box's length against the room between baseplates, turned wheels and motor."""
    box, deck = build.parts.enclosure, build.parts.deck
    if box is None or deck is None or box.length_mm is None or deck.wheelbase_mm is None:
        return
    start, end = room(build)
    has = max(end - start, 0.0)
    if box.length_mm <= has:
        return
    # Beyond the air that is kept all round, and a little for what is from memory.
    touches = box.length_mm > has + 3.0 * CLEAR
    yield finding(
        kind="box-length",
        severity="stop" if touches else "warn",
        title="The box does not fit between the trucks" if touches else "The box is tight between the trucks",
        about=["enclosure", "deck", "motors"],
        fields=["parts.enclosure.length_mm", "parts.deck.wheelbase_mm"],
        saying=say(
            "The box is {long}; clear of baseplates, turned wheels and motor there are {has} of the {base} wheelbase. A shorter "
            "box, a longer wheelbase, or the motor behind the axle. Moving a truck back costs the tail.",
            long=(box.length_mm, "length"),
            has=(has, "length"),
            base=(deck.wheelbase_mm, "length"),
        ),
        cures=[
            cure(
                "Plan a box of {length}",
                {"parts.enclosure.length_mm": float(int(has))},
                length=(float(int(has)), "length"),
            )
        ]
        if has >= 120.0
        else (),
    )


def beside_the_deck(build: Build) -> Iterator[Finding]:
    """The box's width against the deck's."""
    box, deck = build.parts.enclosure, build.parts.deck
    if (
        box is None
        or deck is None
        or box.width_mm is None
        or deck.width_mm is None
        or box.width_mm <= deck.width_mm - 10.0
    ):
        return
    yield finding(
        kind="box-width",
        severity="stop" if box.width_mm > deck.width_mm else "warn",
        title="The box is as wide as the deck",
        about=["enclosure", "deck"],
        fields=["parts.enclosure.width_mm", "parts.deck.width_mm"],
        saying=say(
            "The box is {wide} across, the deck {deck}: no edge is left to screw into or to carry by.",
            wide=(box.width_mm, "length"),
            deck=(deck.width_mm, "length"),
        ),
    )


def against_the_curves(build: Build) -> Iterator[Finding]:
    """A flat box on a deck with rocker and concave."""
    box, deck = build.parts.enclosure, build.parts.deck
    if box is None or deck is None or (deck.concave_mm is None and deck.rocker_mm is None) or box.seat == "moulded":
        return
    concave, rocker = gap_under_curves(build)
    gap, bears = concave + rocker, FOAM if box.seat == "gasket" else FLUSH
    if gap <= bears:
        return
    held = "gasket foam follows" if box.seat == "gasket" else "a flat box bears"
    better = "gasket" if gap <= FOAM else "moulded"
    yield finding(
        kind="box-seat",
        severity="warn",
        title="The box does not sit flush",
        about=["enclosure", "deck"],
        fields=["parts.enclosure.seat", "parts.deck.concave_mm"],
        saying=say(
            f"Concave and rocker leave {{gap}} under its edges; {held} "
            "{bears}. Screwed down it cracks after months, and water comes in. Gasket foam, a box moulded to the deck, or a "
            "flatter deck.",
            gap=(gap, "length"),
            bears=(bears, "length"),
        ),
        cures=[
            cure(
                "Seat it on gasket foam" if better == "gasket" else "Mould it to the deck",
                {"parts.enclosure.seat": better},
            )
        ],
    )


def cells_in_the_box(build: Build) -> Iterator[Finding]:
    """Pack, protection board, wires and controllers against the inside of the box."""
    stowed, pack = contents(build), build.parts.pack
    if stowed is None or stowed.fits or pack is None:
        return
    guess = " Some sizes are estimated: enter the parts' own." if stowed.guessed else ""
    if stowed.too_deep is not None:
        text = say(
            "The flattest way stands {high}; inside the box there are {inner} of depth." + guess,
            high=(stowed.too_deep, "length"),
            inner=(stowed.inner[2], "length"),
        )
    elif stowed.too_wide is not None:
        text = say(
            "The cells need {wide} across; inside the box there are {inner}." + guess,
            wide=(stowed.too_wide, "length"),
            inner=(stowed.inner[1], "length"),
        )
    else:
        text = say(
            "Pack, protection board, wires and controller take {need} of its length; inside there are {inner}."
            + guess
            + " A longer or deeper box, or fewer cells.",
            need=(stowed.needed_length, "length"),
            inner=(stowed.inner[0], "length"),
        )
    cures = []
    if pack.layout == "flat":
        stacked = build.model_copy(
            update={"parts": build.parts.model_copy(update={"pack": pack.model_copy(update={"layout": "stacked"})})}
        )
        other = contents(stacked)
        if other is not None and other.fits:
            cures.append(cure("Stack the cells in layers", {"parts.pack.layout": "stacked"}))
    yield finding(
        kind="box-contents",
        severity="stop",
        title="The parts do not go into the box",
        about=["enclosure", "pack", "controller"],
        fields=["parts.enclosure.length_mm", "parts.pack.layout"],
        saying=text,
        cures=cures,
    )
