"""Trucks and the wheels that nothing drives, for good. Figures: common practice, no source."""

from collections.abc import Iterator

from boardmath.geometry.fasteners import axle_nut, truck_bolts
from boardmath.messages import counted, message
from boardmath.model.inputs import wheels_bought
from boardmath.model.methods import hardware, mount_fixing
from planner.assembly.board import Board
from planner.assembly.pictures import bolt_picture
from planner.shared.making import minutes, step
from planner.shared.step import Check, Fastener, Step

SPINS_S = 6.0
"""Seconds that a wheel runs on from a flick of the hand (common practice, no source)."""


def trucks(b: Board) -> Iterator[Step]:
    """Trucks onto the deck for good."""
    if not b.new("deck", "trucks", "risers", "spreaders") or b.parts.deck is None or b.parts.trucks is None:
        return
    through = truck_bolts(b.build)
    yield step(
        "trucks",
        "running_gear",
        message("Trucks on for good: eight {size}", size=through.size),
        message(
            "{needed} of deck and metal, so the next length that is sold. A bolt that is too short holds by half "
            "a nut.",
            needed=(through.needed, "length"),
        ),
        [
            (
                "Put in all eight before you tighten any. Tighten the nuts crosswise, in three rounds, until the "
                "riser or baseplate just presses."
            ),
            "Two threads show past every nut. A lock nut holds by itself: no threadlocker on its plastic ring.",
            *(
                ["Use inch hex keys and a 3/8 in socket: a metric key rounds the heads off."]
                if hardware(b.build) == "inch"
                else []
            ),
        ],
        "Both axles are square to the centre line, no bolt head sinks into the grip tape, nothing creaks when "
        "you stand on it.",
        wrong="A nut tightened until the wood cracks holds less than one that just presses.",
        tools=["skate_tool", "allen_keys", "square"],
        fasteners=[
            Fastener(
                what="Truck bolts",
                count=8,
                thread=through.size,
                beneath="nothing under a countersunk head, a plate or washer under the nut",
                tighten=message("Until it presses: there is no torque for wood and plastic."),
            ),
            Fastener(
                what="Lock nuts",
                count=8,
                thread=through.size.split(" ")[0],
                tighten=message("Crosswise, in three rounds."),
            ),
        ],
        minutes=minutes(15, 35),
        needs=[*b.needs("deck", "trucks", "risers", "spreaders"), *b.small("truck-bolts")],
        touches=[
            "parts.deck.thickness_mm",
            "parts.deck.mount",
            "parts.risers.height_mm",
            "parts.spreaders.height_mm",
            "parts.trucks.threads",
            "methods.hardware",
        ],
        # Where each part is locked as it fits, its own dry fit is all that comes before; a hanger is welded off the board.
        after=["dry-look", "dry-trucks", *(["mount"] if mount_fixing(b.build) == "welded" else [])],
        method="methods.hardware",
        picture=bolt_picture(through),
    )


def free_wheels(b: Board) -> Iterator[Step]:
    """The wheels that nothing drives."""
    drive = b.parts.drive
    driven = ((drive.driven_wheels if drive else None) or b.motors) if b.kind != "hub" and b.motors else 0
    count = wheels_bought(b.build) - (driven if b.new("motors", "drive") or b.geared else 0)
    if count <= 0 or not b.new("wheels", "trucks"):
        return
    yield step(
        "free-wheels",
        "running_gear",
        message(
            "{wheels} that nothing drives: spacer, washers, nut" if b.motors else "{wheels}: spacer, washers, nut",
            wheels=counted(count, "wheel").capitalize(),
        ),
        "A nut that is too tight presses the bearings sideways, one too loose lets the wheel knock.",
        [
            (
                "Washer, wheel with its spacer, washer, nut. Tighten until it holds, then back until the wheel just "
                "spins freely."
            ),
            "Pull at the rim: it does not knock. Flick it: it keeps spinning.",
        ],
        message("It spins for {least} or more, without rattling.", least=(SPINS_S, "seconds")),
        tools=["skate_tool", "stopwatch", "washers"],
        fasteners=[
            Fastener(
                what="Axle nuts",
                count=count,
                thread=axle_nut(b.build),
                beneath="a speed washer on both sides of the wheel",
                tighten=message("Until it neither knocks nor binds. Replace a lock nut that turns easily."),
            )
        ],
        minutes=minutes(8, 20),
        needs=[*b.needs("wheels", "trucks"), *b.small("bearings", "spacers")],
        touches=["parts.wheels.diameter_mm", "parts.wheels.width_mm", "parts.drive.driven_wheels"],
        after=["trucks", "bearings", "take-off"],
        checks=[Check(id="spin", text="A wheel spins for", quantity="seconds", unit="s", low=SPINS_S)],
    )
