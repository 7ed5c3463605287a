"""The box: made, marked, drilled, held. Times are common practice, no source: printed boxes take twelve hours."""

from collections.abc import Iterator

from boardmath.geometry.enclosures import Boxed, enclosure_bolts
from boardmath.geometry.fasteners import enclosure_screws
from boardmath.geometry.stance import lowest_under, under_deck_at
from boardmath.messages import counted, message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import has_pulleys
from planner.assembly.board import Board
from planner.assembly.dry_fit import GAPS
from planner.assembly.pictures import foam_picture
from planner.enclosure.plan import FOAM_LAYER, CannotBeMade, enclosure_plan
from planner.shared.making import minutes, step
from planner.shared.step import Fastener, School, Step

PRINTED = ("petg", "asa", "nylon")
BOTH_SCHOOLS_OF_BOXES = [
    School(
        name="Threaded inserts from beneath",
        text=message(
            "Nothing shows on top, the grip tape stays on. Needs thick enough wood, and holes of the exact size."
        ),
    ),
    School(
        name="T-nuts from above",
        text=message(
            "Pull on the whole ply and not on a thread. Sunk flush, with the grip tape peeled back and laid down again."
        ),
    ),
]


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
    """Marked, drilled, inserts set."""
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        if not b.new(kind, "deck") or boxed.above:
            continue
        holes = len(enclosure_bolts(b.build, boxed))
        thick = (b.parts.deck.thickness_mm if b.parts.deck else None) or USUAL["deck.thickness_mm"]
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
                message(
                    "From beneath, with a stop on the bit at {stop}: the deck is {thick} there. Slowly in "
                    "brittle plastic, with scrap behind.",
                    stop=(max(thick - 1.0, 1.0), "length"),
                    thick=(thick, "length"),
                ),
            ],
            "All screws start by hand, without pushing the enclosure.",
            wrong="If you drill through the top, use a T-nut from above there.",
            caution="Wear eye protection. Never drill near a cell: the pack is out of the room.",
            tools=["template", "drill", "wood_bits", "clamps", "eye_protection", "marker"],
            minutes=minutes(30, 75),
            needs=b.needs(kind, "deck"),
            touches=[f"parts.{kind}.{k}" for k in ("length_mm", "width_mm", "back_mm", "flange_mm")]
            + ["parts.deck.thickness_mm"],
            after=["dry-look", f"box-made{suffix}", f"dry-box{suffix}"],
        )


def inserts(b: Board) -> Iterator[Step]:
    """Threads of metal in the deck."""
    for boxed in b.boxes:
        suffix, kind, word = _of(boxed)
        if not b.new(kind, "deck") or boxed.above:
            continue
        holes = len(enclosure_bolts(b.build, boxed))
        length, depth = enclosure_screws(b.build, boxed)
        yield step(
            f"box-inserts{suffix}",
            "box",
            message("Set {threads} in the deck for the {enclosure}", threads=counted(holes, "thread"), enclosure=word),
            "Screws straight into wood hold three times. A metal thread holds every time you look inside.",
            [
                message(
                    "M5 inserts of {depth}, driven in square with their key; or T-nuts pulled in from above, "
                    "sunk flush.",
                    depth=(depth, "length"),
                ),
                "A drop of thin glue in the hole; none on the thread.",
            ],
            message(
                "Every screw M5 x {length} goes in by hand to its head, and none comes through the top.",
                length=length,
            ),
            wrong="Glue in an insert that turns again, one size deeper, or use a T-nut.",
            schools=BOTH_SCHOOLS_OF_BOXES,
            tools=["insert_key", "countersink", "hammer", "hair_dryer", "baking_paper"],
            fasteners=[
                Fastener(
                    what="Threaded inserts or T-nuts",
                    count=holes,
                    thread="M5",
                    tighten=message("Square to the deck, flush."),
                ),
                Fastener(
                    what="Box screws",
                    count=holes,
                    thread="M5",
                    length_mm=length,
                    beneath="large washer, so that the rim does not crack",
                    tighten=message("When you close it: until the foam is half compressed."),
                ),
            ],
            minutes=minutes(25, 70),
            waits_h=6.0,
            needs=[*b.needs("deck"), *b.small("box-screws")],
            touches=["parts.deck.thickness_mm", f"parts.{kind}.wall_mm", f"parts.{kind}.seat"],
            after=[f"box-holes{suffix}"],
        )


def foam(b: Board) -> Iterator[Step]:
    """Foam round the rim, in steps where the deck is hollow."""
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
            message("Foam on the rim of the {enclosure}", enclosure=word),
            "It follows the deck, keeps spray out, and protects the rim: a flat enclosure on a hollow deck cracks.",
            [
                (
                    message(
                        "Strips of {thick} on the rim, one layer everywhere, butted and not overlapped; more "
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
            after=[f"box-inserts{suffix}", f"dry-box{suffix}"],
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
    screws = sum(len(enclosure_bolts(b.build, boxed)) for boxed in b.boxes)
    yield step(
        "close-box",
        "finish",
        message("Close the enclosures" if len(b.boxes) > 1 else "Close the enclosure"),
        "A wire pinched by the rim chafes through on the tenth ride, unseen.",
        [
            "No wire on the rim, on an edge, or across the joint of two cells. Take a photo before the lid goes on.",
            "All screws by hand, then in rounds from the middle outwards, until the foam is half compressed.",
        ],
        "No gap, no light, and shaken upside down nothing moves inside.",
        wrong="A rim that bends between two screws is too tight.",
        tools=["allen_keys", "camera"],
        fasteners=[
            Fastener(
                what="Box screws",
                count=screws,
                thread="M5",
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
