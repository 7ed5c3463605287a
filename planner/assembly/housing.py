"""The box: made, marked, drilled, held. Times are common practice, no source: printed boxes take twelve hours."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from boardmath.buildfile.methods import EnclosureFixing
from boardmath.geometry.enclosures import Boxed, enclosure_bolts
from boardmath.geometry.fasteners import enclosure_screw
from boardmath.geometry.stance import lowest_under, under_deck_at
from boardmath.messages import Message, counted, message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import has_pulleys
from boardmath.model.methods import enclosure_fixing
from planner.assembly.board import Board
from planner.assembly.dry_fit import GAPS
from planner.assembly.pictures import foam_picture
from planner.enclosure.plan import FOAM_LAYER, CannotBeMade, enclosure_plan
from planner.shared.making import minutes, step
from planner.shared.step import Fastener, Step
from planner.shared.tools import ToolKey

PRINTED = ("petg", "asa", "nylon")


def _of(boxed: Boxed) -> tuple[str, str, str]:
    """Suffix of its steps' ids, its kind of part, and what it is called."""
    second = boxed.name != "enclosure"
    return ("-second", "second_enclosure", "second enclosure") if second else ("", "enclosure", "enclosure")


def make(b: Board) -> Iterator[Step]:
    """A box that is made and not bought."""
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        material = boxed.box.material
        if material is None or not b.made(kind):
            continue
        try:
            plan = enclosure_plan(b.build, boxed.name)
        except CannotBeMade:
            continue
        halves = plan.split is not None
        ways = {
            "glass_fibre": ["Mould from the deck's own shape, two layers wet on wet, a third over corners and rim."],
            "wood": ["Sides glued and screwed, a floor of thin ply, sealed inside and out."],
            "sheet": ["Scored or bent along the flat pattern, corners riveted or welded, edges rounded off."],
        }.get(
            material,
            [
                (
                    "Printed "
                    f"{'in two halves, glued with an inner strip over the joint' if halves else 'in one piece'}, rim "
                    "upwards, four walls, away from draughts."
                ),
                "Watch the first layer; the rest prints by itself overnight where somebody would notice a fire.",
            ],
        )
        yield step(
            f"box-made{suffix}",
            "box",
            message("Make the {enclosure}", enclosure=word),
            "Nothing waits for it yet, and everything will in a week: start while parts are on their way.",
            ways,
            message(
                "It touches the deck all round with its rim, {long} long and {wide} wide.",
                long=(plan.length + 2.0 * plan.ends, "length"),
                wide=(plan.width + 2.0 * plan.sides, "length"),
            ),
            caution="Fibre dust, resin and paint fumes: mask, gloves, open windows."
            if material == "glass_fibre"
            else None,
            tools=["printer", "files"]
            if material in PRINTED
            else ["gloves", "dust_mask", "knife"]
            if material == "glass_fibre"
            else ["clamps", "drill", "files"],
            minutes=minutes(60, 180) if material in PRINTED else minutes(240, 720),
            waits_h=12.0 if material in PRINTED else 24.0 if material == "glass_fibre" else 0.0,
            touches=[
                f"parts.{kind}.{k}" for k in ("length_mm", "width_mm", "depth_mm", "wall_mm", "material", "flange_mm")
            ],
            after=["lay-out"],
            needs=b.needs(kind),
            page="enclosure",
        )


def drill(b: Board) -> Iterator[Step]:
    """Marked and drilled, as deep and as wide as the way of holding it asks."""
    fixing = enclosure_fixing(b.build)
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        if not b.new(kind, "deck") or boxed.above:
            continue
        holes = len(enclosure_bolts(b.build, boxed))
        thick = (b.parts.deck.thickness_mm if b.parts.deck else None) or USUAL["deck.thickness_mm"]
        stop = message(
            "From beneath, with a stop on the bit at {stop}: the deck is {thick} there. Slowly in "
            "brittle plastic, with scrap behind.",
            stop=(max(thick - 1.0, 1.0), "length"),
            thick=(thick, "length"),
        )
        right_through = (
            "Right through the deck from beneath, with a block of wood clamped on top: without it the top ply tears "
            "out. Warm the grip tape with a hair dryer and peel it back first."
        )
        how: dict[EnclosureFixing, list[Message | str]] = {
            "threaded_inserts": [stop],
            "t_nuts": [right_through, "Wide enough for the barrel of the T-nut, and sunk on top for its flange."],
            "wood_screws": [
                stop,
                message(
                    "A pilot hole of {pilot} for a screw of {thick}: without one the plies split.",
                    pilot=(PILOT, "length"),
                    thick=(WOOD_SCREW, "length"),
                ),
            ],
            "through_floor": [
                right_through,
                "Floor and deck together, so that the holes meet. No hole where cells will be.",
            ],
        }
        yield step(
            f"box-holes{suffix}",
            "box",
            message("Mark and drill the {enclosure}: {holes}", enclosure=word, holes=counted(holes, "hole")),
            "A hole that is a millimetre off strains the enclosure, and it cracks there.",
            [
                (
                    "Use the template at 100 % with its ruler checked; or clamp the enclosure in place, drill one "
                    "hole, put one screw in, then the next."
                ),
                *how[fixing],
            ],
            "All screws start by hand, without pushing the enclosure.",
            wrong="If you drill through the top, use a T-nut from above there."
            if fixing in ("threaded_inserts", "wood_screws")
            else None,
            caution="Wear eye protection. Never drill near a cell: the pack is out of the room.",
            tools=[
                "template",
                "drill",
                "wood_bits",
                "clamps",
                "eye_protection",
                "marker",
                *(["hair_dryer", "baking_paper"] if fixing in FROM_ABOVE else []),
            ],
            minutes=minutes(30, 75),
            needs=b.needs(kind, "deck"),
            touches=[f"parts.{kind}.{k}" for k in ("length_mm", "width_mm", "back_mm", "flange_mm")]
            + ["parts.deck.thickness_mm", "methods.enclosure_fixing"],
            after=["dry-look", f"box-made{suffix}", f"dry-box{suffix}"],
            method="methods.enclosure_fixing",
        )


WOOD_SCREW, PILOT = 5.0, 3.0
"""mm of a wood screw and of the hole drilled for it (common practice, no source: six tenths of the screw)."""
FROM_ABOVE = ("t_nuts", "through_floor")
"""Ways of holding an enclosure for which the grip tape is peeled back."""


@dataclass(frozen=True)
class _Fixing:
    """What a way of holding an enclosure is as a step; ``do`` and ``right`` have the size of the screw and what holds it."""

    title: str
    why: str
    do: tuple[str, ...]
    right: str
    wrong: str
    set: str | None
    """What is set into the deck, if anything, and how."""
    square: str
    tools: tuple[ToolKey, ...]


_FIXINGS: dict[EnclosureFixing, _Fixing] = {
    "threaded_inserts": _Fixing(
        "Set {threads} in the deck for the {enclosure}",
        "Screws straight into wood hold three times. A metal thread holds every time you look inside.",
        (
            "Inserts of {holds}, driven in square with their key.",
            "A drop of thin glue in the hole; none on the thread.",
        ),
        "Every screw {size} goes in by hand to its head, and none comes through the top.",
        "Glue in an insert that turns again, one size deeper, or use a T-nut.",
        "Threaded inserts",
        "Square to the deck, flush.",
        ("insert_key",),
    ),
    "t_nuts": _Fixing(
        "Set {threads} from above for the {enclosure}",
        "A T-nut pulls on the whole ply and not on a thread in it.",
        (
            "Pull each in with a bolt and a large washer from beneath. Do not hammer it in: that splits the plies.",
            "Flange flush or a hair below the top. Lay the grip tape down again, warm.",
        ),
        "Every screw {size} goes in by hand, {holds} of it in the thread, and none stands above the T-nut.",
        "A T-nut that turns has torn its hole: move it by its own width, and fill the old hole.",
        "T-nuts",
        "Flange flush beneath the grip tape.",
        ("countersink", "allen_keys"),
    ),
    "wood_screws": _Fixing(
        "Try the {threads} for the {enclosure}",
        "Wood holds a screw a few times only: open the enclosure seldom, and turn the screws by hand.",
        (
            "Screws {size} with a large washer: {holds} of each are in the wood.",
            "Wax the thread, and turn each in once, by hand, to its head. When you put one back, turn it backwards "
            "until it drops into its thread.",
        ),
        "Every screw draws tight by hand, and none comes through the top.",
        "One that turns without end: fill its hole with hardwood and glue, or set a threaded insert there.",
        None,
        "",
        ("screwdrivers",),
    ),
    "through_floor": _Fixing(
        "Bolt the {enclosure} on through its floor: {threads}",
        "A container has no rim to screw through; its own lid opens it, and these bolts stay.",
        (
            "Bolts {size} from above, heads sunk flush; inside, a large washer with a ring of sealant, then a lock nut.",
            "A sheet of foam between floor and deck: the container is flat and the deck is not.",
            "Cover every nut inside with a pad, higher than the bolt's end: cells come to lie beside them.",
        ),
        "You cannot rock it by hand, water poured around it stays outside, and no bolt end can be felt inside.",
        "A floor that dishes is pulled too hard: larger washers, or a plate inside.",
        None,
        "",
        ("countersink", "allen_keys", "spanners", "hair_dryer", "baking_paper"),
    ),
}


def inserts(b: Board) -> Iterator[Step]:
    """What holds the enclosure's screws: threads of metal, the wood itself, or nuts inside."""
    fixing = enclosure_fixing(b.build)
    way = _FIXINGS[fixing]
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        if not b.new(kind, "deck") or boxed.above:
            continue
        holes, screw = len(enclosure_bolts(b.build, boxed)), enclosure_screw(b.build, boxed)
        what = {"threaded_inserts": "thread", "t_nuts": "T-nut", "wood_screws": "screw", "through_floor": "bolt"}[
            fixing
        ]
        figures: dict[str, Any] = {
            "threads": counted(holes, what),
            "enclosure": word,
            "size": screw.size,
            "holds": (screw.holds, "length"),
        }

        def told(template: str, figures: dict[str, Any] = figures) -> Message:
            return message(template, **{k: v for k, v in figures.items() if f"{{{k}}}" in template})

        screws = Fastener(
            what="Bolts, large washers and lock nuts" if fixing == "through_floor" else "Box screws",
            count=holes,
            thread=screw.size,
            beneath="large washer, so that the rim does not crack"
            if fixing != "through_floor"
            else "large washer and sealant inside",
            tighten=message(
                "Until the foam is half compressed; the nut's plastic ring locks it."
                if fixing == "through_floor"
                else "When you close it: until the foam is half compressed."
            ),
        )
        yield step(
            f"box-inserts{suffix}",
            "box",
            told(way.title),
            way.why,
            [told(line) for line in way.do],
            told(way.right),
            wrong=way.wrong,
            tools=list(way.tools),
            fasteners=[
                *(
                    [Fastener(what=way.set, count=holes, thread=screw.size.split(" ")[0], tighten=message(way.square))]
                    if way.set
                    else []
                ),
                screws,
            ],
            minutes=minutes(25, 70),
            waits_h=6.0 if fixing == "threaded_inserts" else 0.0,
            needs=[*b.needs("deck"), *b.small("box-screws")],
            touches=[
                "parts.deck.thickness_mm",
                f"parts.{kind}.wall_mm",
                f"parts.{kind}.seat",
                "methods.enclosure_fixing",
                "methods.hardware",
            ],
            after=[f"box-holes{suffix}", *([f"foam{suffix}"] if fixing == "through_floor" else [])],
            method="methods.enclosure_fixing",
        )


def foam(b: Board) -> Iterator[Step]:
    """Foam between enclosure and deck, in steps where the deck is hollow."""
    through_floor = enclosure_fixing(b.build) == "through_floor"
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        if boxed.box.seat == "moulded" or boxed.above or not b.new(kind, "deck"):
            continue
        places = [boxed.span[0] + boxed.length * (i + 0.5) / GAPS for i in range(GAPS)]
        low = lowest_under(b.build, *boxed.span)
        gaps = [(x, max(under_deck_at(b.build, x) - low, 0.0)) for x in places]
        yield step(
            f"foam{suffix}",
            "box",
            message("Foam on the {side} of the {enclosure}", side="floor" if through_floor else "rim", enclosure=word),
            "It follows the deck, keeps spray out, and protects the rim: a flat enclosure on a hollow deck cracks.",
            [
                (
                    message(
                        "A sheet of {thick} over the floor where it meets the deck; more layers where the measured gaps "
                        "are wider."
                        if through_floor
                        else "Strips of {thick} on the rim, one layer everywhere, butted and not overlapped; more "
                        "where the measured gaps are wider.",
                        thick=(FOAM_LAYER, "thickness"),
                    )
                ),
                "Make the holes in the foam with a hot nail, not with the drill: it winds the foam up.",
            ],
            "Screwed down by hand, no light shows anywhere.",
            tools=["foam", "knife"],
            minutes=minutes(20, 45),
            needs=[*b.needs(kind), *b.small("gasket")],
            touches=["parts.deck.concave_mm", "parts.deck.rocker_mm", "parts.deck.curve", f"parts.{kind}.seat"],
            after=[f"box-holes{suffix}" if through_floor else f"box-inserts{suffix}", f"dry-box{suffix}"],
            picture=foam_picture(gaps),
        )


def openings(b: Board) -> Iterator[Step]:
    """Holes in the wall: charge port, switch, glands, the way to a second box."""
    if not b.boxes or not b.new("enclosure", "charge_port", "switch", "second_enclosure"):
        return
    parts = b.parts
    port = parts.charge_port
    hole = (port.hole_mm if port else None) or USUAL["charge_port.hole_mm"]
    do = []
    if port is not None:
        do.append(
            message(
                "Charge port: {hole}, where you can plug in with the board on its side, cap upwards.",
                hole=(hole, "length"),
            )
        )
    if parts.switch is not None and parts.switch.kind != "none":
        do.append(
            message("Loop key where your hand finds it without looking: it is the emergency stop.")
            if parts.switch.kind == "loop"
            else message("Switch where no kerb and no shoe reaches it.")
        )
    if parts.motors is not None:
        do.append(
            message(
                "{sets} of phase wires out of the enclosure"
                + (" towards the driven truck" if has_pulleys(b.build) else " to the hubs")
                + ": a grommet or gland each, with the edge rounded off.",
                sets=counted(b.motors, "set").capitalize(),
            )
        )
    if len(b.boxes) > 1:
        do.append(message("A channel between the enclosures, sealed at both ends, slack where the deck bends."))
    if not do:
        return
    yield step(
        "openings",
        "box",
        "Cut the openings: port, switch, wires",
        "Drill every hole while the enclosure is empty: metal chips and cells do not go together.",
        [*do, "Brittle plastic: small first, then wider, backwards with a dull bit for the last millimetre."],
        "Every plug goes in without scraping, every edge is round, and water would have to run upwards.",
        caution="Wear eye protection. The pack is out of the room.",
        tools=["drill", "files", "eye_protection"],
        minutes=minutes(25, 60),
        needs=[
            *b.needs("enclosure", "second_enclosure", "charge_port"),
            *b.small("glands", "harness", "charge-port"),
        ],
        touches=[
            "parts.charge_port.hole_mm",
            "parts.switch.kind",
            "parts.second_enclosure.length_mm",
            "parts.motors.count",
        ],
        after=["dry-look", "box-made", "box-made-second"],
    )


def close(b: Board) -> Iterator[Step]:
    """The box shut, after all of it was seen to work."""
    if not b.boxes or not b.new("enclosure", "second_enclosure", "pack", "controller"):
        return
    fixing = enclosure_fixing(b.build)
    lid, wood = fixing == "through_floor", fixing == "wood_screws"
    size = enclosure_screw(b.build, b.boxes[0]).size
    yield step(
        "close-box",
        "finish",
        message("Close the enclosures" if len(b.boxes) > 1 else "Close the enclosure"),
        "A wire pinched by the rim chafes through on the tenth ride, unseen.",
        [
            "No wire on the rim, on an edge, or across the joint of two cells. Take a photo before the lid goes on.",
            "Wipe the lid's seal and its groove; close every clasp, and tape over those that a kerb can open."
            if lid
            else "All screws by hand, then in rounds from the middle outwards, until the foam is half compressed.",
        ],
        "No gap, no light, and shaken upside down nothing moves inside.",
        wrong="A lid that springs open has something under it: look."
        if lid
        else "A rim that bends between two screws is too tight.",
        tools=[*([] if lid else ["screwdrivers" if wood else "allen_keys"]), "camera"],
        fasteners=[]
        if lid
        else [
            Fastener(
                what="Box screws",
                count=sum(len(enclosure_bolts(b.build, boxed)) for boxed in b.boxes),
                thread=size if wood else size.split(" ")[0],
                beneath="large washer",
                tighten=message(
                    "In rounds, until the foam is half compressed. No threadlocker: you will open it again."
                ),
            )
        ],
        minutes=minutes(10, 25),
        needs=b.needs("enclosure", "second_enclosure"),
        touches=["parts.enclosure.length_mm", "parts.enclosure.width_mm"],
        after=["foam", "foam-second", "openings", "bench-test", "box-inserts", "phase:wiring"],
    )
