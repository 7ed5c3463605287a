"""The cells themselves: unlike, worn, salvaged, without a label, or without anything that balances them."""

from collections.abc import Iterator

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell
from boardmath.checks.finding import Finding, finding, fix
from boardmath.messages import message
from boardmath.model.bricks import parallel_of_brick
from boardmath.model.cell_groups import measured_groups
from boardmath.model.estimate import SALVAGED_KEEPS, salvaged, unlabelled, weakest_group
from boardmath.model.inputs import cell_capacity, cell_rating, cell_voltages
from boardmath.physics.cell import aged_resistance_factor


def unlike_bricks(build: Build) -> Iterator[Finding]:
    """Bricks in series of different capacity: the smallest is empty first and is driven below nothing."""
    pack = build.parts.pack
    if pack is None or pack.weakest_brick_ah is None:
        return
    cells = parallel_of_brick(pack) if pack.layout == "bricks" else 1.0
    full = cell_capacity(pack).value * cells
    if pack.weakest_brick_ah >= 0.97 * full:
        return
    yield finding(
        kind="bricks-differ",
        severity="danger",
        title="The bricks in series differ",
        about=["pack"],
        fields=["parts.pack.weakest_brick_ah", "parts.pack.cell.capacity_ah"],
        message=message(
            "The smallest brick holds {least}, the others {full}. In series it is empty first and is then "
            "discharged too far: it swells and can burn. Match the bricks, or limit the ride to the smallest.",
            least=(pack.weakest_brick_ah, "charge"),
            full=(full, "charge"),
        ),
        fixes=[
            fix(
                "Use the smallest, {least}, for all",
                {"parts.pack.cell.capacity_ah": pack.weakest_brick_ah},
                least=(pack.weakest_brick_ah, "charge"),
            )
        ]
        # Of more cells in parallel the figure is the brick's, and not a cell's.
        if cells == 1.0
        else (),
    )


UNLIKE_GROUPS = 0.95
"""Share of the mean capacity below which the smallest group is worth a word."""


def smallest_group(build: Build) -> Iterator[Finding]:
    """The group of cells that ends the ride, where cells vary so much that it is far below the mean."""
    pack = build.parts.pack
    if pack is None or pack.series is None or pack.weakest_brick_ah is not None or measured_groups(build) is not None:
        return
    cell, parallel = pack.cell or Cell(), pack.parallel or 1
    known = "capacity_ah" in (cell.measured or ())
    share = weakest_group(cell, pack.series, parallel, known).value
    if share >= UNLIKE_GROUPS:
        return
    mean = cell_capacity(pack).value * parallel
    yield finding(
        kind="smallest-group",
        severity="note",
        title="The smallest group ends the ride",
        about=["pack"],
        fields=["parts.pack.parallel", "parts.pack.cell.measured"],
        message=message(
            "Of {series} groups the smallest holds about {least}, the average {mean}, and the prediction "
            "uses the smallest. Measure and sort the cells, or put more in parallel.",
            least=(mean * share, "charge"),
            mean=(mean, "charge"),
            series=pack.series,
        ),
    )


def worn_pack(build: Build) -> Iterator[Finding]:
    """A pack that has lost much of its capacity sags more, and is near its end."""
    pack = build.parts.pack
    if pack is None or pack.health_pct is None or pack.health_pct > WORN_PCT:
        return
    yield finding(
        kind="pack-worn",
        severity="warn" if pack.health_pct < 70.0 else "note",
        title="The pack is worn",
        about=["pack"],
        fields=["parts.pack.health_pct"],
        message=message(
            "With {left} of its capacity left it sags about {more} times as much as a new one, and the "
            "prediction includes that. Retire it when groups drift apart, it gets warm on the charger, or a cell "
            "swells.",
            left=(pack.health_pct, "share"),
            more=(aged_resistance_factor(pack.health_pct / 100.0), "ratio"),
        ),
    )


WORN_PCT = 85.0


def unlabelled_cells(build: Build) -> Iterator[Finding]:
    """Cells that say neither what they hold nor what they bear."""
    pack = build.parts.pack
    cell = pack.cell if pack else None
    if pack is None or cell is None or cell.name is None or not unlabelled(cell) or salvaged(cell):
        return
    yield finding(
        kind="cells-unlabelled",
        severity="note",
        title="The cells have no stated figures",
        about=["pack"],
        fields=["parts.pack.cell.capacity_ah", "parts.pack.cell.max_discharge_a"],
        message=message(
            "Neither capacity nor current is stated, so the prediction uses low values: {holds} and {bears} a "
            "cell. Read the label, or measure one cell.",
            holds=(cell_capacity(pack).value, "charge"),
            bears=(cell_rating(pack).value, "current"),
        ),
    )


MOST_AH = {"18650": 3.7, "21700": 6.2}
"""Ah that no cell of the size holds (from memory: the best are just below)."""


def more_than_a_cell_holds(build: Build) -> Iterator[Finding]:
    """A capacity above that of any cell of its size, measured or stated."""
    pack = build.parts.pack
    cell = pack.cell if pack else None
    if cell is None or cell.capacity_ah is None or cell.size not in MOST_AH or cell.capacity_ah <= MOST_AH[cell.size]:
        return
    measured = "capacity_ah" in (cell.measured or ())
    origin = "marked as measured" if measured else "stated"
    likely = (
        "The meter may be set wrong, or a group was measured as one cell"
        if measured
        else "The label may promise too much"
    )
    yield finding(
        kind="capacity-beyond-size",
        severity="warn",
        title="More capacity than such a cell has",
        about=["pack"],
        fields=["parts.pack.cell.capacity_ah", "parts.pack.cell.size"],
        message=message(
            "{said} is {origin} for a {size} cell; the best hold just below {most}. {likely}.",
            said=(cell.capacity_ah, "charge"),
            most=(MOST_AH[cell.size], "charge"),
            origin=origin,
            size=cell.size,
            likely=likely,
        ),
        fixes=[
            fix(
                "Use {most} instead",
                {"parts.pack.cell.capacity_ah": MOST_AH[cell.size]},
                most=(MOST_AH[cell.size], "charge"),
            )
        ],
    )


def polymer_balance(build: Build) -> Iterator[Finding]:
    """Polymer bricks without anything that balances their cells."""
    pack, charger = build.parts.pack, build.parts.charger
    if pack is None or pack.cell is None or pack.cell.chemistry != "polymer" or pack.protection is not None:
        return
    if charger is None or charger.balance:
        return
    count = pack.series or 0
    yield finding(
        kind="polymer-balance",
        severity="danger",
        title="Polymer cells are charged without balancing",
        about=["pack", "charger"],
        fields=["parts.charger.balance"],
        message=message(
            "{count} polymer cells in series have no BMS, and the charger does not balance: one of them "
            "will be charged past {full}, and overcharged polymer burns. Use a balance charger and watch "
            "it, on a surface that cannot burn.",
            full=(cell_voltages(pack)[0], "voltage"),
            count=count,
        ),
        fixes=[fix("My charger balances", {"parts.charger.balance": True})],
    )


def salvaged_cells(build: Build) -> Iterator[Finding]:
    """Salvaged cells that nobody measured."""
    pack = build.parts.pack
    cell = pack.cell if pack else None
    if cell is None or cell.origin != "salvaged" or "capacity_ah" in (cell.measured or ()):
        return
    assert pack is not None
    groups, counted = pack.series or 0, cell_capacity(pack).value
    printed = cell.capacity_ah if cell.capacity_ah is not None else counted / SALVAGED_KEEPS
    yield finding(
        kind="salvaged-unmeasured",
        severity="warn",
        title="Salvaged cells, not measured",
        about=["pack"],
        fields=["parts.pack.cell.measured", "parts.pack.cell.capacity_ah"],
        message=message(
            "{groups} groups in series are only as good as the weakest. Of the {printed} printed on each "
            "cell the prediction uses {counted}, and {rated} of current. Measure capacity and rest voltage "
            "of every cell, match the groups, and retire what gets warm or has swollen.",
            printed=(printed, "charge"),
            counted=(counted, "charge"),
            rated=(cell_rating(pack).value, "current"),
            groups=groups,
        ),
    )
