"""Volts, amperes and cell counts that do not go together."""

from collections.abc import Iterator
from typing import Any

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Charger, Pack
from boardmath.checks.finding import Finding, Fix, finding, fix, less_pack_current, less_regen, taper_of
from boardmath.geometry.cell_links import drive_current
from boardmath.messages import message
from boardmath.model.bricks import cells_of_bricks
from boardmath.model.inputs import cell_charge_rating, cell_rating, cell_voltages, full_voltage
from boardmath.model.limits import regen_current_limit


def controller_voltage(build: Build) -> Iterator[Finding]:
    """The pack when full, not nominal, against what the controller stands."""
    pack, controller = build.parts.pack, build.parts.controller
    if pack is None or pack.series is None or controller is None or controller.max_v is None:
        return
    full = full_voltage(pack)
    if full > controller.max_v:
        yield finding(
            kind="controller-voltage",
            severity="danger",
            title="Pack voltage too high for the controller",
            about=["pack", "controller"],
            fields=["parts.pack.series", "parts.controller.max_v"],
            message=message(
                "{series} cells in series have {full} when full; the controller is rated for {most}. It can "
                "fail with smoke and lose the brakes. Use fewer cells in series, or a controller for this "
                "voltage.",
                full=(full, "voltage"),
                most=(controller.max_v, "voltage"),
                series=pack.series,
            ),
        )


def cells_mismatch(build: Build) -> Iterator[Finding]:
    """The cell count set in the controller against the pack's."""
    pack, count = build.parts.pack, build.settings.cells_in_series
    if pack is None or pack.series is None or count is None or count == pack.series:
        return
    empty = cell_voltages(pack)[2]
    where = "far too late" if count < pack.series else "before the pack is used up"
    yield finding(
        kind="controller-cells-mismatch",
        severity="danger" if count < pack.series else "warn",
        title=message("Cell count set to {count}, the pack has {series}", count=count, series=pack.series),
        about=["pack", "controller", "settings"],
        fields=["settings.cells_in_series", "parts.pack.series"],
        message=message(
            "A cut-off for {count} cells comes at {cut}, {where}: {series} cells are empty at {empty}. Set {series}.",
            cut=(count * empty, "voltage"),
            empty=(pack.series * empty, "voltage"),
            count=count,
            where=where,
            series=pack.series,
        ),
        fixes=[fix("Set {series} cells", {"settings.cells_in_series": pack.series}, series=pack.series)],
    )


def cut_off_above_the_pack(build: Build) -> Iterator[Finding]:
    """A cut-off voltage left over from another pack, that this one never rises above."""
    pack, end = build.parts.pack, build.settings.taper_end_v
    if pack is None or pack.series is None or end is None:
        return
    full = full_voltage(pack)
    if end >= full * 0.97:
        yield finding(
            kind="cut-off-above-pack",
            severity="stop",
            title="Cut-off above the full pack",
            about=["pack", "controller", "settings"],
            fields=["settings.taper_end_v", "parts.pack.series"],
            message=message(
                "The controller gives nothing below {end}, and {series} cells in series have {full} when full. "
                "Set the cut-off for this pack.",
                end=(end, "voltage"),
                full=(full, "voltage"),
                series=pack.series,
            ),
            fixes=[taper_of(pack)],
        )


def cells_current(build: Build) -> Iterator[Finding]:
    """The current that controller and settings allow against what the cells are rated for."""
    pack = build.parts.pack
    if pack is None or pack.series is None:
        return
    rating = cell_rating(pack)
    rated = rating.value * (pack.parallel or 1)
    allowed, field, reason, stated = drive_current(build)
    how = (
        "{allowed} may be drawn from the pack"
        if stated
        else "No limit is stated, so about {allowed} can flow ({reason})"
    )
    if allowed > rated:
        guess = "" if rating.origin in ("stated", "measured") else " (estimated: the cells state none)"
        yield finding(
            kind="cells-current",
            severity="danger",
            title="More current allowed than the cells bear",
            about=["pack", "controller", "settings"],
            fields=[field, rating.field],
            message=message(
                how
                + "; its cells are rated for {rated} together"
                + guess
                + (
                    ". They overheat, age fast and can burn. Set the pack current to {rated}, or use more cells in "
                    "parallel."
                ),
                allowed=(allowed, "current"),
                rated=(rated, "current"),
                reason=reason,
            ),
            fixes=less_pack_current(build, rated, _more_cells(pack, allowed, rating.value)),
        )


def _more_cells(pack: Pack, amperes: float, each: float) -> list[Fix]:
    """As many cells side by side as bear ``amperes``."""
    wanted = int(-(-amperes // max(each, 1e-6)))
    if wanted > MOST_PARALLEL:
        return []
    return [fix("Use {wanted} cells in parallel", {"parts.pack.parallel": wanted}, wanted=wanted)]


MOST_PARALLEL = 12
"""More are not carried on a board."""


ALMOST_FULL = 0.94
"""Share of the full voltage below which a charger is made for fewer cells."""


def charger_voltage(build: Build) -> Iterator[Finding]:
    """The charger against the pack's full voltage."""
    pack, charger = build.parts.pack, build.parts.charger
    if pack is None or pack.series is None or charger is None or charger.v is None:
        return
    full = full_voltage(pack)
    bricks = cells_of_bricks(pack)
    if len(bricks) > 1 and charger.v < full * ALMOST_FULL:
        yield from _charger_of_bricks(pack, charger, charger.v, min(bricks), max(bricks))
        return
    if charger.v > full + 0.1:
        yield finding(
            kind="charger-voltage",
            severity="danger",
            title="Charger voltage too high for the pack",
            about=["charger", "pack"],
            fields=["parts.charger.v", "parts.pack.series"],
            message=message(
                "The charger ends at {charger}; {series} cells are full at {full}. Overcharged cells burn. Use "
                "a charger for this chemistry and cell count.",
                charger=(charger.v, "voltage"),
                full=(full, "voltage"),
                series=pack.series,
            ),
        )
    elif charger.v < full * ALMOST_FULL:
        made_for = max(round(charger.v / cell_voltages(pack)[0]), 1)
        yield finding(
            kind="charger-cells",
            severity="stop",
            title=message("Charger for {made_for} cells, pack has {series}", made_for=made_for, series=pack.series),
            about=["charger", "pack"],
            fields=["parts.charger.v", "parts.pack.series"],
            message=message(
                "The charger ends at {charger}, as for {made_for} cells; {series} cells are full at {full}. It "
                "never fills or balances them. Use a charger for this chemistry and cell count.",
                charger=(charger.v, "voltage"),
                full=(full, "voltage"),
                made_for=made_for,
                series=pack.series,
            ),
        )


def _charger_of_bricks(pack: Pack, charger: Charger, volts: float, fewest: int, most: int) -> Iterator[Finding]:
    """A charger that is not for the whole pack, against one brick: it is right for bricks that are charged one by one."""
    cell = cell_voltages(pack)[0]
    about: dict[str, Any] = {"about": ["charger", "pack"], "fields": ["parts.charger.v", "parts.pack.bricks"]}
    if volts > fewest * cell + 0.1:
        if charger.balance:
            return  # it is set to a brick's cells before each charge, and the Charging page says so
        yield finding(
            kind="charger-voltage",
            severity="danger",
            title="Charger fits neither brick nor pack",
            message=message(
                "The charger ends at {charger}; a brick of {cells} cells is full at {full}. Overcharged cells burn. "
                "Use a balance charger that is set to a brick's cells.",
                charger=(volts, "voltage"),
                full=(fewest * cell, "voltage"),
                cells=fewest,
            ),
            **about,
        )
    elif volts < most * cell * ALMOST_FULL:
        yield finding(
            kind="charger-cells",
            severity="stop",
            title="Charger for fewer cells than a brick has",
            message=message(
                "The charger ends at {charger}; a brick of {cells} cells is full at {full}. It never fills or balances "
                "it. Use a charger for this chemistry and cell count.",
                charger=(volts, "voltage"),
                full=(most * cell, "voltage"),
                cells=most,
            ),
            **about,
        )


def regen_current(build: Build) -> Iterator[Finding]:
    """The current that braking is set to put into the pack against what its cells may be charged with."""
    pack, set_to = build.parts.pack, build.settings.pack_regen_a
    if pack is None or set_to is None:
        return
    rating = cell_charge_rating(pack)
    most, given = rating.value * (pack.parallel or 1), regen_current_limit(build)
    guard = pack.protection.max_charge_a if pack.protection and pack.protection.in_drive_path else None
    if given > most * 1.001:
        yield finding(
            kind="regen-current",
            severity="danger",
            title="Braking charges the cells too hard",
            about=["pack", "controller", "settings"],
            fields=["settings.pack_regen_a", rating.field],
            message=message(
                "Braking may push {given} into the pack; its cells may be charged with {most} together. Charging "
                "too hard, above all in the cold, damages cells and can end in fire. Set the pack current when "
                "braking to {most}.",
                given=(given, "current"),
                most=(most, "current"),
            ),
            fixes=less_regen(build, most),
        )
    elif guard is not None and given > guard:
        yield finding(
            kind="regen-protection",
            severity="warn",
            title="The BMS may disconnect while braking",
            about=["pack", "controller", "settings"],
            fields=["settings.pack_regen_a", "parts.pack.protection.max_charge_a"],
            message=message(
                "Braking may push {given} through a BMS that allows {most} of charging. When it disconnects, the "
                "brake is gone. Set the pack current when braking below that.",
                given=(given, "current"),
                most=(guard, "current"),
            ),
            fixes=less_regen(build, guard),
        )
