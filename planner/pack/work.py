"""What is done to build a block: the order of the work with its cautions, and what lies between cells and metal."""

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.pack_assembly import Insulated
from boardmath.messages import Message, message
from boardmath.model.bricks import brick_sets
from boardmath.model.cell_groups import APART_V, LINE_UP_V, plan_of
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
    "rings": ("Ring on every positive end", "its edge is the negative can: a strip that slips shorts the cell"),
    "paper": (
        "Fish paper between groups and banks",
        "two groups whose cans touch are a short circuit without a fuse",
    ),
    "tape": ("Heat-proof tape over every joint", "one joint at a time, the next group covered"),
    "sleeves": ("Sleeves where balance leads cross an edge", "they carry full voltage, and chafe with every bump"),
    "wrap": ("Shrink around the whole block", "it holds everything together, and keeps filings out"),
    "sheet": ("Plastic sheet towards the enclosure", "the enclosure flexes against the cans for years"),
    "padding": ("Padding on every screw head beneath", "nothing sharp under cells, however short the screw"),
    "caps": ("Cap on every unused plug", "an open plug on the table is the whole pack, bare"),
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
                    "{parallel} cells in parallel, all the same way up, {series} times. All within {near} of each "
                    "other before you join them: the fuller charges the emptier as hard as the strip allows.",
                    near=(APART_V, "cell_voltage"),
                    parallel=parallel,
                    series=series,
                ),
                caution="A ring on every positive end before the first weld.",
            )
        )
    steps.append(
        WorkStep(
            title="Then in series, every second group turned over",
            text=message(
                "Positive of each to negative of the next, from the negative end up, in the order of the "
                "drawing. One joint at a time, the next group covered; short contact, never long on a can."
            ),
            caution="Never two groups on the bench with both ends bare. Finger rings and watch off, eye protection on.",
        )
    )
    if plan_of(build).halves or series >= 8:
        steps.append(
            WorkStep(
                title=f"In two halves, {series - half} and {half}",
                text=message(
                    "No more than {half} on the table at once. Make the link between the halves last of all, "
                    "when both are wrapped.",
                    half=(full * max(half, series - half), "voltage"),
                ),
                caution="From that joint on the full voltage is there.",
            )
        )
    steps += [
        WorkStep(
            title="Balance leads",
            text=message(
                "{leads} of them: black to the pack's negative, then one to each group's positive in order, "
                "each with its number. Measure every one before the plug goes in.",
                leads=series + 1,
            ),
            caution="Two swapped leads destroy the BMS.",
        ),
        WorkStep(
            title="Wrap, pad, close",
            text=message("Tick off the insulation list. Nothing sharp beneath, nothing that moves."),
            caution="If you have not welded a pack before, work beside someone who has. Take pack repairs to someone "
            "qualified.",
        ),
    ]
    return steps


def work_of_bricks(pack: Pack) -> list[WorkStep]:
    """Bricks that are joined by a lead."""
    return [
        WorkStep(
            title="Each brick by itself first",
            text=message(
                "Measure every cell at the balance plug; no swelling, no dent. Then charge each alone on a "
                "balancer, and watch it."
            ),
            caution="Retire a swollen brick: outside, and never puncture it.",
        ),
        WorkStep(
            title="The series lead",
            text=message("Solder it away from the bricks, check its continuity, then plug it in, negative side first."),
            caution="Never plug two leads of the pack into each other.",
        ),
        *([_parallel_lead()] if brick_sets(pack) > 1 else []),
    ]


def _parallel_lead() -> WorkStep:
    return WorkStep(
        title="The parallel lead",
        text=message(
            "Measure every set first; join them only within {near} of each other, negative side first.",
            near=(LINE_UP_V, "cell_voltage"),
        ),
        caution="Nothing limits the current between two sets but their leads.",
    )
