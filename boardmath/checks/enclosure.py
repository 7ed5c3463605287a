"""The box: over the road, between the trucks, against the deck's curves, and what has to go into it."""

from collections.abc import Iterator

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Finding, finding, fix
from boardmath.geometry.enclosures import (
    CLEAR,
    FLUSH,
    FOAM,
    Boxed,
    boxes,
    boxes_under,
    contents,
    gap_under_curves,
    ground_clearance,
    room,
    stowed,
)
from boardmath.geometry.stance import ends_bent, sag
from boardmath.messages import message

LEAST_CLEARANCE, USUAL_CLEARANCE = 10.0, 35.0
"""mm under a box with the rider aboard: scrapes at once; takes kerb edges and stones (from memory)."""


_NAMES = {"enclosure": "enclosure", "second_enclosure": "second enclosure"}


def _which(boxed: Boxed) -> str | None:
    """Of which box a finding speaks, where it is not the only or the first."""
    return None if boxed.name == "enclosure" else "second"


def over_the_road(build: Build) -> Iterator[Finding]:
    """Ground clearance under the lowest box with the rider aboard."""
    deck, hanging = build.parts.deck, [b for b in boxes_under(build) if b.box.depth_mm is not None]
    if not hanging or deck is None or build.parts.wheels is None:
        return
    lowest = max(hanging, key=lambda b: b.depth - b.face)
    still, gives = ground_clearance(build), sag(build)
    if still - gives >= USUAL_CLEARANCE:
        return
    scrapes = still - gives < LEAST_CLEARANCE
    yield finding(
        kind="ground-clearance",
        severity="stop" if scrapes else "warn",
        title=message("The {enclosure} hangs low", enclosure=_NAMES[lowest.name]),
        about=[lowest.name, "deck", "wheels"],
        fields=[f"parts.{lowest.name}.depth_mm", "parts.risers.height_mm"],
        message=message(
            "Ground clearance under it is {still}, {left} with the deck bending {gives} under the rider; {usual} "
            "is the usual minimum. Use a shallower enclosure, bigger wheels, risers or a stiffer deck, or mount "
            "it on top.",
            still=(still, "length"),
            left=(still - gives, "length"),
            gives=(gives, "length"),
            usual=(USUAL_CLEARANCE, "length"),
        ),
    )


def between_the_trucks(build: Build) -> Iterator[Finding]:
    """The length of the boxes under the deck against the room between baseplates, turned wheels and motor."""
    deck, hanging = build.parts.deck, boxes_under(build)
    if deck is None or deck.wheelbase_mm is None or not hanging or any(b.box.length_mm is None for b in hanging):
        return
    start, end = room(build)
    has, takes = max(end - start, 0.0), sum(b.length for b in hanging)
    beyond = max([start - b.span[0] for b in hanging] + [b.span[1] - end for b in hanging])
    if takes <= has and beyond <= CLEAR:
        return
    # Beyond the air that is kept all round, and a little for what is from memory.
    touches = takes > has + 3.0 * CLEAR or beyond > 2.0 * CLEAR
    several = len(hanging) > 1
    what = "The enclosures are {long} together" if several else "The enclosure is {long}"
    moved = takes <= has
    first = hanging[0].name
    yield finding(
        kind="box-length",
        severity="stop" if touches else "warn",
        title=message(
            "The enclosures do not fit the wheelbase" if several else "The enclosure does not fit the wheelbase"
        )
        if touches
        else message(
            "The enclosures are tight between the trucks" if several else "The enclosure is tight between the trucks"
        ),
        about=[*(b.name for b in hanging), "deck", "motors"],
        fields=[f"parts.{first}.back_mm" if moved else f"parts.{first}.length_mm", "parts.deck.wheelbase_mm"],
        message=message(
            what
            + "; {ends}, turned wheels and the motor leave {has} of the {base} wheelbase"
            + (", and where it is placed it sticks out by {beyond}" if moved else ".")
            + (
                " Use a shorter enclosure, a longer wheelbase, or put the motor behind the axle; moving a truck back "
                "costs the tail."
            ),
            long=(takes, "length"),
            has=(has, "length"),
            base=(deck.wheelbase_mm, "length"),
            ends="bends" if ends_bent(build) else "baseplates",
            beyond=(beyond, "length"),
        ),
        fixes=[fix("Move it back to the middle of its space", {f"parts.{b.name}.back_mm": 0.0 for b in hanging})]
        if moved
        else [
            fix(
                "Plan an enclosure of {length}",
                {"parts.enclosure.length_mm": float(int(has))},
                length=(float(int(has)), "length"),
            )
        ]
        if has >= 120.0 and not several
        else (),
    )


def beside_the_deck(build: Build) -> Iterator[Finding]:
    """A box's width against the deck's."""
    deck = build.parts.deck
    for boxed in boxes(build):
        if deck is None or boxed.box.width_mm is None or deck.width_mm is None:
            continue
        if boxed.width <= deck.width_mm - 10.0:
            continue
        yield finding(
            kind="box-width",
            of=_which(boxed),
            severity="stop" if boxed.width > deck.width_mm else "warn",
            title=message("The {enclosure} is too wide", enclosure=_NAMES[boxed.name]),
            about=[boxed.name, "deck"],
            fields=[f"parts.{boxed.name}.width_mm", "parts.deck.width_mm"],
            message=message(
                "It is {wide} wide, the deck {deck}: no edge is left for screws or for carrying.",
                wide=(boxed.width, "length"),
                deck=(deck.width_mm, "length"),
            ),
        )


def against_the_curves(build: Build) -> Iterator[Finding]:
    """A flat box on a deck with rocker and hollow."""
    deck = build.parts.deck
    if deck is None or (deck.concave_mm is None and deck.rocker_mm is None and not deck.curve):
        return
    for boxed in boxes_under(build):
        if boxed.box.seat == "moulded":
            continue
        hollow, rocker = gap_under_curves(build, boxed)
        gap, bears = hollow + rocker, FOAM if boxed.box.seat == "gasket" else FLUSH
        if gap <= bears:
            continue
        held = "gasket foam follows" if boxed.box.seat == "gasket" else "a flat enclosure tolerates"
        better = "gasket" if gap <= FOAM else "moulded"
        yield finding(
            kind="box-seat",
            of=_which(boxed),
            severity="warn",
            title=message("The {enclosure} does not sit flush", enclosure=_NAMES[boxed.name]),
            about=[boxed.name, "deck"],
            fields=[f"parts.{boxed.name}.seat", "parts.deck.concave_mm"],
            message=message(
                "The deck's curve leaves {gap} under its edges, {hollow} of it across; {held} {bears}. Screwed "
                "down it cracks after months and lets water in. Cut gasket foam in steps, make the enclosure to "
                "the deck's shape, or use a flatter deck.",
                gap=(gap, "length"),
                hollow=(hollow, "length"),
                bears=(bears, "length"),
                held=held,
            ),
            fixes=[
                fix(
                    "Seat it on gasket foam" if better == "gasket" else "Make it to the deck's shape",
                    {f"parts.{boxed.name}.seat": better},
                )
            ],
        )


def what_goes_into_it(build: Build) -> Iterator[Finding]:
    """What a box has to hold against its inside."""
    pack = build.parts.pack
    for boxed, inside in stowed(build):
        if inside.fits:
            continue
        guess = " Some sizes are estimated: enter the real ones." if inside.guessed else ""
        if inside.too_deep is not None:
            text = message(
                "Laid flat they are {high} high; inside the enclosure {inner} are available." + guess,
                high=(inside.too_deep, "length"),
                inner=(inside.inner[2], "length"),
            )
        elif inside.too_wide is not None:
            text = message(
                "The cells need {wide} of width; inside the enclosure {inner} are available." + guess,
                wide=(inside.too_wide, "length"),
                inner=(inside.inner[1], "length"),
            )
        else:
            what = {
                "all": "Pack, BMS, wires and controller need",
                "pack": "Pack, BMS and wires need",
                "electronics": "Controller and wires need",
            }[boxed.holds]
            text = message(
                what
                + " {need} of length; inside {inner} are available."
                + guess
                + " Use a longer or deeper enclosure, a second one, or fewer cells.",
                need=(inside.needed_length, "length"),
                inner=(inside.inner[0], "length"),
            )
        fixes = []
        if pack is not None and pack.layout == "flat" and boxed.holds != "electronics":
            other_pack = pack.model_copy(update={"layout": "stacked"})
            stacked = build.model_copy(update={"parts": build.parts.model_copy(update={"pack": other_pack})})
            other = contents(stacked, boxed)
            if other is not None and other.fits:
                fixes.append(fix("Stack the cells in layers", {"parts.pack.layout": "stacked"}))
        yield finding(
            kind="box-contents",
            of=_which(boxed),
            severity="stop",
            title="The parts do not fit the enclosure"
            if boxed.name == "enclosure"
            else "Parts do not fit the second enclosure",
            about=[boxed.name, "pack", "controller"],
            fields=[f"parts.{boxed.name}.length_mm", "parts.pack.layout"],
            message=text,
            fixes=fixes,
        )
