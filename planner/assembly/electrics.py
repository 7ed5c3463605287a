"""Pack, controller and wires: what is made in rooms of its own is a step that leads there; the joining is the wiring
room's order.
"""

from collections.abc import Iterator

from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.charge_monitor import charged_once
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.settings import Settings
from boardmath.messages import counted, message
from boardmath.model.bricks import brick_sets, bricks_of
from boardmath.model.cell_groups import LINE_UP_V, comes_whole, measured_groups, plan_of, work_of
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import cell_voltages, full_voltage
from boardmath.model.mass import board_mass, resolve_masses
from planner.assembly.board import Board
from planner.assembly.joining import PACK
from planner.shared.making import minutes, step
from planner.shared.step import Check, School, Step

SET_UP = [f"settings.{key}" for key in Settings.model_fields]
_GEOMETRY = [
    "parts.drive.motor_teeth",
    "parts.drive.wheel_teeth",
    "parts.wheels.diameter_mm",
    "parts.motors.pole_pairs",
]


def pack(b: Board) -> Iterator[Step]:
    """From cells or bricks to a charged pack."""
    chosen = b.parts.pack
    if chosen is None or not b.new("pack"):
        return
    series = chosen.series or 0
    if b.bricks:
        yield from _of_bricks(b)
    elif not comes_whole(b.build):
        yield from _of_cells(b, series)
    else:
        low, high = series * cell_voltages(chosen)[2], full_voltage(chosen) if series else 0.0
        yield step(
            "pack-check",
            "pack",
            "Check the pack as it arrived: look, smell, measure",
            "A pack that was dropped in transit shows it now, or in your hall at night.",
            [
                (
                    "No dent, no smell, no warm corner, plugs capped. Its label says the same cells in series as the "
                    "plan."
                ),
                message("Measure at its plug: between {low} and {high}.", low=(low, "voltage"), high=(high, "voltage"))
                if series
                else "Measure at its plug and compare with the label.",
            ],
            "Its voltage fits its cells, and is the same after a night.",
            wrong="If it is below empty, do not charge it: return it to the seller, in writing and with a photo.",
            caution="Never bare two ends of a pack at once. If it is swollen or warm: outside, and do not charge it.",
            tools=["multimeter", "sand_bucket"],
            minutes=minutes(8, 15),
            needs=b.needs("pack"),
            touches=[*PACK],
            after=["lay-out"],
        )
    if b.bricks:
        return
    charged_through = [] if comes_whole(b.build) and chosen.charge_plug else ["join-charge-port"]
    yield step(
        "first-charge",
        "pack",
        "The first charge, watched",
        "Pack faults show in the first hour on the charger, and somebody has to see them.",
        [
            (
                "On a surface that cannot burn; measure every group every ten minutes, a hand on the block. The "
                "Charging page keeps the time."
            )
        ],
        "All groups rise together, and it stops by itself.",
        caution="Never alone, never at night. If it gets warm, hisses or swells: unplug it, take it outside, and do not "
        "lean over it.",
        tools=["multimeter", "sand_bucket", "eye_protection"],
        minutes=minutes(60, 180),
        needs=b.needs("pack", "charger", "charge_port"),
        touches=[*PACK, "parts.charger.v", "parts.charger.a", "parts.pack.charge_to_v"],
        after=["taps", "pack-block", "pack-check", "join-board", "join-balance", *charged_through],
        page="charging",
    )


def _of_cells(b: Board, series: int) -> Iterator[Step]:
    if work_of(b.build).cells:
        yield step(
            "cells",
            "pack",
            "Measure the cells and sort them into groups",
            "The smallest group ends the ride for all.",
            ["Measure each cell, let it rest, sort, label. The Cells page says which goes where."],
            "Every place in the pack has its cell, and none is a rejected one.",
            tools=["multimeter", "marker", "masking_tape"],
            minutes=minutes(90, 300),
            waits_h=24.0 * 7.0,
            needs=b.needs("pack"),
            touches=[*PACK],
            after=["lay-out"],
            page="cells",
        )
    spot = plan_of(b.build).strip is not None
    yield step(
        "pack-block",
        "pack",
        "Join the cells to a block",
        "Every link carries the whole current of the ride.",
        [
            "As in the plan: groups first, every second one turned over, in two halves where the voltage is high.",
            (
                "Rings on every positive end, the next group covered, one joint at a time. Tick off the insulation "
                "on the Pack page."
            ),
        ],
        "No joint lifts with a fingernail, no can is bare towards another group.",
        wrong="A weld that burned through has cost a cell: replace it.",
        caution="Hundreds of amperes are ready on your table. If you have not done this before, work beside somebody who "
        "has; take repairs to someone qualified.",
        schools=[
            School(name="Spot-welded", text=message("No heat in the cell; needs the welder and trials on dead cells.")),
            School(
                name="Soldered",
                text=message(
                    "A large iron, both sides tinned first, contact for a second. Too long on a can ruins the cell."
                ),
            ),
        ],
        tools=["welder", "multimeter", "eye_protection", "gloves", "sand_bucket"]
        if spot or not work_of(b.build).cells
        else ["iron", "solder", "flux", "multimeter", "eye_protection", "gloves", "sand_bucket"],
        minutes=minutes(240, 600, max(series * ((b.parts.pack.parallel if b.parts.pack else 1) or 1) / 40.0, 1.0)),
        needs=[*b.needs("pack"), *b.small("cell-rings", "cell-strip", "heat-shrink")],
        touches=[*PACK, "pack_assembly.plan.strip", "pack_assembly.plan.strip_layers"],
        after=["cells", "lay-out"],
        page="pack",
    )
    if b.parts.pack is not None and b.parts.pack.protection is not None:
        yield step(
            "taps",
            "pack",
            "Check every balance lead before plugging in",
            "Two swapped leads destroy the BMS the moment the plug goes in.",
            [
                (
                    f"Measure {series + 1} leads against the pack's negative, one after the other. The page stops at "
                    "the first wrong one."
                )
            ],
            "All leads are right.",
            caution="Set the meter to volts, never to amperes: there it is a short circuit.",
            tools=["multimeter", "masking_tape", "eye_protection"],
            minutes=minutes(15, 40),
            needs=b.needs("pack"),
            touches=[*PACK],
            after=["pack-block"],
            page="balance-leads",
        )


def _of_bricks(b: Board) -> Iterator[Step]:
    pack = b.parts.pack or Pack()
    bricks, sets = bricks_of(pack), brick_sets(pack)
    yield step(
        "bricks",
        "pack",
        message("{bricks}: check, measure, charge each alone", bricks=counted(bricks, "brick").capitalize()),
        "You find a swollen brick or a low cell before it is joined to the others.",
        [
            "No swelling, no dent, no puffed corner. Measure every cell at its balance plug.",
            (
                "Charge each alone on the balancer and watch it; all have to be within 0.1 V of each other before "
                "they are joined."
            ),
        ],
        "All have the same voltage, are cool, and as flat as they came.",
        caution="Retire a swollen brick: outside, and never puncture it.",
        tools=["multimeter", "sand_bucket"],
        minutes=minutes(20, 40, bricks),
        waits_h=1.5 * bricks,
        needs=b.needs("pack", "charger"),
        touches=[*PACK, "parts.pack.bricks", "parts.charger.v", "parts.charger.a"],
        after=["lay-out"],
        page="charging",
    )
    if bricks > sets:
        yield step(
            "series-lead",
            "pack",
            message("Make the series lead for {bricks}", bricks=counted(bricks, "brick"))
            if sets == 1
            else message("Make {leads}, one for each set of bricks", leads=counted(sets, "series lead")),
            "Two leads of the pack plugged into each other are a short circuit without protection.",
            [
                (
                    "Solder it away from the bricks, cover each joint before you bare the next; measure it end to "
                    "end before you connect a brick."
                ),
                (
                    "A cap on every unused plug. Lead the balance plugs out of the enclosure, each with the number "
                    "of its brick."
                ),
            ],
            "Each plug fits one way only, and a wrong plug fits nowhere.",
            caution="Keep the bricks out of the room while you solder.",
            tools=["iron", "solder", "shrink", "multimeter", "stripper", "heat_gun"],
            minutes=minutes(40, 90),
            needs=[*b.needs("pack", "wiring"), *b.small("connectors", "heat-shrink")],
            touches=[*PACK, "parts.pack.bricks", "parts.pack.brick_sets", "parts.pack.plug"],
            after=["bricks"],
        )
    if sets > 1:
        yield step(
            "parallel-lead",
            "pack",
            message("Make the parallel lead for {sets}", sets=counted(sets, "set")),
            "Two sets at different voltages charge each other with all the current that their leads carry.",
            [
                message(
                    "Positive to positive and negative to negative, in a lead of {gauge} AWG or thicker for what all "
                    "sets give together. Solder it away from the bricks.",
                    gauge=f"{(b.parts.wiring.awg if b.parts.wiring else None) or USUAL['wiring.awg']:g}",
                ),
                message(
                    "Measure each set before you join them: {volts} full, all within {near} of each other. "
                    "Never join sets that differ in cells in series.",
                    volts=(full_voltage(pack), "voltage"),
                    near=(LINE_UP_V, "cell_voltage"),
                ),
            ],
            "No spark when the second set is plugged in, and the same voltage at every plug.",
            wrong="If it sparks or a lead gets warm: unplug it, and measure both sets again.",
            caution="Nothing limits the current between two sets but their leads. One hand, and no bare end.",
            tools=["iron", "solder", "shrink", "multimeter", "stripper", "heat_gun"],
            minutes=minutes(30, 60),
            needs=[*b.needs("pack", "wiring"), *b.small("connectors", "heat-shrink")],
            touches=[*PACK, "parts.pack.bricks", "parts.pack.brick_sets"],
            after=["series-lead"] if bricks > sets else ["bricks"],
        )


def in_the_box(b: Board) -> Iterator[Step]:
    """What is bedded in the box before it is wired."""
    if b.parts.controller is not None and b.new("controller"):
        units = controllers(b.build)
        boxed = b.parts.controller.programmable is False
        yield step(
            "controller-in",
            "wiring",
            message(
                "Fix the {controllers} in place",
                controllers=("boxed " if boxed else "") + ("controllers" if units > 1 else "controller"),
            ),
            "A controller that slides pulls on its own wires at every kerb.",
            [
                (
                    "Put its metal side against the outer wall or a plate: that is where its heat goes. Mounting "
                    "tape beneath, a strap over it."
                ),
                "Phase side towards the motors, pack side towards the pack: no wire has to turn back.",
                *(
                    [
                        (
                            "Set its jumper or dial for the cell count before the enclosure is closed: you cannot "
                            "reach it later."
                        )
                    ]
                    if boxed
                    else ["Its plug for setting it up stays within reach."]
                ),
            ],
            "It does not move when you shake the enclosure, and a finger reaches its warm side.",
            tools=["mounting_tape", "cable_ties"],
            minutes=minutes(10, 25, units),
            needs=b.needs("controller", "enclosure"),
            touches=["parts.controller.units", "parts.controller.programmable", "parts.controller.fixed_cells"],
            after=["dry-look", "openings", "box-made"],
        )
    if b.parts.pack is not None and b.parts.pack.place in (None, "in_a_box") and b.boxes and b.new("pack", "enclosure"):
        yield step(
            "pack-in",
            "wiring",
            "Bed the pack so that nothing presses on it",
            "A screw head under a pack works its way into the cells over months.",
            [
                (
                    "Padding over every screw head and rib, a plastic sheet against the wall, foam on all sides; a "
                    "strap so that it cannot rise."
                ),
                (
                    "Plugs reachable, capped, and not beneath it. Hook strip holds it; screws through hook strip "
                    "tear out."
                ),
            ],
            "Turned upside down and knocked, it neither moves nor rattles.",
            caution="Do not use a swollen or dented pack.",
            schools=[
                School(
                    name="Hook strip and straps",
                    text=message("Out in a minute, moves with the deck. Alone it fails on kerbs."),
                ),
                School(
                    name="Wedged and screwed over a bar",
                    text=message("Does not move at all; the bar needs padding."),
                ),
            ],
            tools=["mounting_tape", "foam", "knife"],
            minutes=minutes(15, 40),
            needs=b.needs("pack", "enclosure", "second_enclosure"),
            touches=[*PACK, "parts.enclosure.length_mm", "parts.enclosure.depth_mm"],
            after=["first-charge", "bricks", "series-lead", "openings", "controller-in", "box-inserts"],
        )


def set_up(b: Board) -> Iterator[Step]:
    """Controller set, bench test: pages of their own."""
    controller = b.parts.controller
    if (
        controller is None
        or b.parts.pack is None
        or not b.new("controller", "pack", "motors", "drive", "wheels", "remote")
    ):
        return
    if controller.programmable is not False:
        yield step(
            "set-up",
            "power",
            "Set up the controller",
            "A cut-off for five cells left on a pack of ten never comes.",
            [
                (
                    "Motor detection on the stand, cells and cut-off, limits, "
                    f"{'gear ratio and ' if b.geared else ''}wheel size; read back and record every value."
                ),
                "For the first ride use the beginner's values. They are on the Controller settings page.",
            ],
            "Every controller has the values of the settings record.",
            caution="Wheels in the air: detection turns them without warning.",
            tools=["stand"],
            minutes=minutes(30, 90),
            needs=b.needs("controller", "remote"),
            touches=[*_GEOMETRY, "parts.pack.series", "parts.controller.units", *SET_UP],
            after=["join-loop", "run-true", "motor"],
            page="controller-settings",
        )
    yield step(
        "bench-test",
        "power",
        "Bench test, wheels in the air",
        "Faults show here, and not on the hill.",
        [
            (
                "Go through the Bench test page step by step: directions, speed, brake, lost remote, cut-off. If a "
                "motor turns the wrong way, swap two phases or change the setting."
            )
        ],
        "It passes, or you understand what is unusual.",
        caution="Wheels free; fingers, hair and laces away; the plug within reach.",
        tools=["stand", "multimeter", "eye_protection"],
        minutes=minutes(25, 60),
        needs=b.needs("controller", "motors", "pack", "remote"),
        touches=[*_GEOMETRY, *PACK, "parts.motors.count", *SET_UP],
        after=["set-up", "join-loop", "run-true", "motor", "free-wheels"],
        page="bench-test",
    )


def finish(b: Board) -> Iterator[Step]:
    """Grip back on, everything on the scale."""
    if b.parts.deck is not None and b.new("deck", "enclosure", "trucks"):
        yield step(
            "grip",
            "finish",
            "Put the grip tape back over every screw head",
            "A lifted corner catches your shoe just when you step.",
            [
                (
                    "Warmed with a hair dryer it lies flat again. New tape: from the middle outwards, a needle into "
                    "every bubble."
                ),
                "Keep it on baking paper; it sticks to wax paper for good.",
            ],
            "No edge lifts under a thumb, and you cannot feel any screw head.",
            tools=["hair_dryer", "baking_paper", "knife"],
            minutes=minutes(15, 40),
            needs=[*b.needs("deck"), *b.small("grip")],
            after=["trucks", "box-inserts", "box-inserts-second", "close-box"],
        )
    yield step(
        "weigh",
        "finish",
        "Put the whole board on a scale",
        "What you carry, climb with and stop is measured from now on, instead of added up.",
        ["As it is ridden, with the pack. A bathroom scale will do: you with it, minus you."],
        "It is within a few hundred grams of the plan, or you know which part is heavier.",
        tools=["hanging_scale"],
        minutes=minutes(3, 6),
        after=["close-box", "grip", "phase:drive", "phase:running_gear"],
        checks=[_weight(b)],
    )


def _weight(b: Board) -> Check:
    mass = board_mass(b.build.model_copy(update={"weighed_kg": None}), resolve_masses(b.build))
    return Check(id="board", text="The whole board", quantity="body_mass", unit="kg", plan=round(mass.value, 2))


def done_on_its_page(b: Board) -> set[str]:
    """Steps that were done on a page of their own, whether or not anybody ticked them."""
    found = set()
    leads = balance_leads_report(b.build) if b.parts.pack is not None and b.parts.pack.series else None
    if measured_groups(b.build) is not None:
        found.add("cells")
    if leads is not None and leads.done:
        # What is read lead by lead has been joined, and of cells that were sorted.
        found |= {"cells", "pack-block", "taps"}
    if charged_once(b.build):
        found |= {"cells", "pack-block", "bricks", "series-lead", "pack-check", "first-charge"}
    if b.build.weighed_kg is not None:
        found.add("weigh")
    return found
