"""What is done to build a block: the order of the work with its cautions, and what lies between cells and metal."""

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.pack_assembly import Insulated
from boardmath.messages import Message, message
from boardmath.model.cell_groups import APART_V, plan_of
from boardmath.model.inputs import cell_voltages


class InsulationStep(BaseModel):
    key: Insulated
    title: str
    why: str
    done: bool


class WorkStep(BaseModel):
    """A step of building the block, and the caution that belongs to it."""

    title: str
    text: Message
    caution: str | None = None


_INSULATION: dict[Insulated, tuple[str, str]] = {
    "rings": ("Ring over every positive end", "its edge is the negative can: a strip that slips shorts the cell"),
    "paper": ("Fish paper between groups and banks", "cans of two groups that touch are a short that no fuse sees"),
    "tape": ("Heat-proof tape over every joint", "one joint at a time, the next group covered"),
    "sleeves": ("Sleeves where balance leads cross an edge", "they lie on full voltage and chafe with every bump"),
    "wrap": ("Shrink around the whole block", "it holds, and keeps filings out"),
    "sheet": ("Plastic sheet against the box", "the box flexes against the cans for years"),
    "padding": ("Padding over every screw head beneath", "nothing sharp under cells, however short the screw"),
    "caps": ("Caps on every plug not in use", "a plug on the table is the whole pack, bare"),
}
OF_BRICKS: tuple[Insulated, ...] = ("sleeves", "sheet", "padding", "caps")


def insulation(build: Build, pack: Pack) -> list[InsulationStep]:
    """What has to lie between, ticked as far as it is done."""
    done = set(plan_of(build).insulated or ())
    keys = OF_BRICKS if pack.layout == "bricks" else tuple(_INSULATION)
    return [InsulationStep(key=k, title=_INSULATION[k][0], why=_INSULATION[k][1], done=k in done) for k in keys]


def work_of_cells(build: Build, pack: Pack) -> list[WorkStep]:
    """A block of cells, welded by the builder."""
    series, parallel = pack.series or 0, pack.parallel or 1
    half = series // 2
    full = cell_voltages(pack)[0]
    steps = []
    if parallel > 1:
        steps.append(
            WorkStep(
                title="Groups first",
                text=message(
                    f"{parallel} cells side by side, all the same way up, {series} times. All within {{near}} "
                    f"of each other before "
                    "they are joined: the fuller pushes into the emptier as hard as the strip lets it.",
                    near=(APART_V, "cell_voltage"),
                ),
                caution="A ring on every positive end before the first weld.",
            )
        )
    steps.append(
        WorkStep(
            title="Then in series, every second one turned over",
            text=message(
                "Plus of each to minus of the next, from the negative end up, in the order of the drawing. One "
                "joint at a time, the "
                "next group covered; short touch, never long on a can."
            ),
            caution="Two groups never on the bench with both ends bare. No ring, no watch; eyes covered.",
        )
    )
    if plan_of(build).halves or series >= 8:
        steps.append(
            WorkStep(
                title=f"In two halves, {series - half} and {half}",
                text=message(
                    "No more than {half} on the table at once. The link between the halves is made last of all, when both are "
                    "wrapped.",
                    half=(full * max(half, series - half), "voltage"),
                ),
                caution="From that joint on the whole voltage is there.",
            )
        )
    steps += [
        WorkStep(
            title="Balance leads",
            text=message(
                f"{series + 1} of them: black to the pack’s negative, then one to each group’s positive in "
                f"order, each with its number. "
                "Read every one before the plug goes in."
            ),
            caution="Two swapped wires destroy the board.",
        ),
        WorkStep(
            title="Wrap, pad, close",
            text=message("What the list beside this says, ticked. Nothing sharp beneath, nothing that moves."),
            caution="Not done with welding and packs before? Someone who is, beside you. Repairs of a pack go "
            "to someone qualified.",
        ),
    ]
    return steps


def work_of_bricks(pack: Pack) -> list[WorkStep]:
    """Bricks that are joined by a lead."""
    return [
        WorkStep(
            title="Each brick by itself first",
            text=message(
                "Voltage of every cell at its balance plug, no swelling, no dent. Then charged alone, balanced, watched."
            ),
            caution="A swollen brick is retired, outside, and not punctured.",
        ),
        WorkStep(
            title="The series lead",
            text=message("Soldered away from the bricks, measured for continuity, then plugged: minus side first."),
            caution="Never two leads of the pack into each other.",
        ),
    ]
