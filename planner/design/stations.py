"""The bench's stations: the steps of choosing in the order in which builders take them, with what the trade says at each.

Common practice, no source, unless said otherwise.
"""

from pydantic import BaseModel

from boardmath.buildfile.electrics import LIVES_LONGER


class Handle(BaseModel):
    """A figure that can be dragged, and how far: a handle's reach on the screen, not a rule."""

    path: str
    name: str | None = None
    low: float
    high: float
    step: float


class Section(BaseModel):
    """A section of the build file that is entered at a station, beside or instead of parts."""

    field: str
    name: str


class School(BaseModel):
    """Where builders disagree: the question, and each side in its own words."""

    question: str
    one: str
    other: str


class Station(BaseModel):
    """A step of choosing; ``kinds`` are the kinds of part that are chosen there."""

    id: str
    name: str
    kinds: list[str] = []
    sections: list[Section] = []
    remark: str
    schools: list[School] = []
    handles: list[Handle] = []


STATIONS = [
    Station(
        id="brief",
        name="Brief",
        sections=[Section(field="rider", name="Who rides"), Section(field="brief", name="What it is for")],
        remark="The hill on your way, the distance of a day, what you can lift and spend. Without it boards end up with "
        "a pack three times too big, or too small.",
    ),
    Station(
        id="deck",
        name="Deck",
        kinds=["deck"],
        remark="Long wheelbases are stable, short ones nimble and easy to carry. The enclosure needs a flat underside.",
    ),
    Station(
        id="trucks",
        name="Trucks",
        kinds=["trucks", "risers", "spreaders"],
        remark="The hanger must fit the motor mount; its width decides whether two motors fit side by side.",
    ),
    Station(
        id="wheels",
        name="Wheels",
        kinds=["wheels"],
        remark="Bigger wheels roll over more and raise the gearing. The core must fit the wheel pulley.",
        handles=[Handle(path="parts.wheels.diameter_mm", low=70, high=200, step=1)],
    ),
    Station(
        id="motor",
        name="Motor",
        kinds=["motors"],
        remark="Low KV gives more torque per ampere and less speed. One motor is lighter and cheaper; two give grip, "
        "brakes and hills.",
        schools=[
            School(question="One or two", one="One: lighter and cheaper.", other="Two: grip, brakes and hills."),
            School(
                question="Belt or hub",
                one="Belt: torque, and any ratio; carry spares.",
                other="Hub: clean, quiet, rolls freely.",
            ),
        ],
        handles=[
            Handle(path="parts.motors.kv_rpm_per_v", low=60, high=400, step=5, name="KV"),
            Handle(path="parts.motors.count", low=1, high=4, step=1),
            Handle(path="settings.motor_current_a", low=5, high=120, step=1),
        ],
    ),
    Station(
        id="drive",
        name="Drive",
        kinds=["drive", "mount", "covers"],
        remark="Smaller motor pulleys climb better and are slower; with few teeth in mesh a belt skips.",
        handles=[
            Handle(path="parts.drive.motor_teeth", low=9, high=30, step=1),
            Handle(path="parts.drive.wheel_teeth", low=28, high=72, step=1),
            Handle(path="parts.drive.belt_teeth", low=40, high=90, step=1),
        ],
    ),
    Station(
        id="pack",
        name="Pack",
        kinds=["pack", "cell", "protection"],
        remark="Polymer bricks are cheap, strong and short-lived; welded cells last and charge with one plug. Charged "
        f"to {LIVES_LONGER}.",
        schools=[
            School(
                question="Cells",
                one="Bricks: cheap, strong, quick to charge.",
                other="Welded block: long life, one plug, safer when treated roughly.",
            ),
            School(question="Size", one="As big as fits.", other="Sized to the daily ride and a reserve."),
            School(
                question="Charge",
                one="4.2 V a cell: full range.",
                other="4.1 V: about twice the life, and full brakes from the start.",
            ),
            School(question="Origin", one="New.", other="Salvaged: a third of the price, to be measured and matched."),
        ],
        handles=[
            Handle(path="parts.pack.series", low=4, high=16, step=1, name="In series"),
            Handle(path="parts.pack.parallel", low=1, high=8, step=1, name="In parallel"),
            Handle(path="settings.pack_current_a", low=5, high=120, step=1),
        ],
    ),
    Station(
        id="power",
        name="Power path",
        kinds=["switch", "fuse", "wiring", "charger", "charge_port"],
        remark="A loop key costs little; an electronic switch has ratings in volts and amperes. The charger must suit "
        "chemistry and cell count.",
        schools=[
            School(
                question="Protection",
                one="The BMS carries the full current.",
                other="The BMS is for charging only, the controller cuts off.",
            ),
            School(
                question="Switch",
                one="Loop key: cheap, and you hold the key.",
                other="Electronic: convenient, rated in volts and amperes.",
            ),
        ],
    ),
    Station(
        id="controller",
        name="Controller",
        kinds=["controller"],
        sections=[Section(field="settings", name="Set in the controller")],
        remark="It must bear the voltage of the full pack, not the nominal one. Record what you set: after a reset "
        "nobody remembers.",
        schools=[
            School(
                question="Kind",
                one="Boxed: cheap, fixed, works.",
                other="Programmable: can be recorded and tuned, starts smoothly.",
            )
        ],
        handles=[
            Handle(path="settings.motor_current_a", low=5, high=120, step=1),
            Handle(path="settings.motor_brake_a", low=0, high=120, step=1),
            Handle(path="settings.pack_current_a", low=5, high=120, step=1),
            Handle(path="settings.pack_regen_a", low=0, high=40, step=0.5),
        ],
    ),
    Station(
        id="remote",
        name="Remote",
        kinds=["remote"],
        remark="A lost remote link takes the brake away: being able to stop on foot is part of riding.",
    ),
    Station(
        id="box",
        name="Enclosure",
        kinds=["enclosure", "second_enclosure"],
        remark="It must sit flush with the deck or it cracks after months; gasket foam follows the concave. "
        "Splash-proof is realistic, immersion is not.",
        schools=[
            School(
                question="How many",
                one="One: short wires, one lid.",
                other="Two: the deck bends freely, the pack comes off alone.",
            ),
            School(
                question="Fixing",
                one="Hook tape and straps: off in a moment.",
                other="Screws, inserts, T-nuts: holds for good.",
            ),
        ],
    ),
    Station(
        id="extras",
        name="Extras",
        kinds=["load", "kit", "extra"],
        sections=[Section(field="assumptions", name="Pinned assumptions")],
        remark="Lights and a horn, kits of several parts, and the small things that are often forgotten: bearings, "
        "bolts, threadlocker, spare belts.",
    ),
]
