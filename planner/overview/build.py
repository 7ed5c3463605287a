"""Next steps of building: cells, pack, balance leads, the first charge."""

from collections.abc import Iterator

from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.cells import cells_report
from boardmath.battery.charge_monitor import charged_once, watched
from boardmath.checks.finding import FindingKind
from boardmath.messages import counted, in_a_row, message
from boardmath.model.cell_groups import leads_of, measured_groups, plan_of, self_made, work_of
from boardmath.model.estimate import salvaged
from planner.navigation import PageSlug
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, listed
from planner.shared.report import HERE

PAGE_OF: dict[FindingKind, PageSlug] = {
    "rejected-built-in": "cells",
    "too-few-cells": "cells",
    "salvaged-unmeasured": "cells",
    "strip-current": "pack",
    "groups-spread": "pack",
    "lead-wrong": "balance-leads",
    "charge-stopped": "charging",
    "load-round-board": "wiring",
}
"""Where what is found in the making of the pack is mended, if not on the bench."""
OF_THE_MAKING: tuple[FindingKind, ...] = (
    "rejected-built-in",
    "too-few-cells",
    "strip-current",
    "lead-wrong",
    "charge-stopped",
)


def look_again(known: BuildFacts) -> Iterator[NextStep]:
    """Steps that were done, and stand on something that is another now."""
    work = known.work
    again = [s for s in work.steps if s.state == "again"] if work is not None else []
    if again:
        yield NextStep(
            id="look-again",
            urgency="due",
            title=message("Check again: {steps}", steps=listed([s.title.text.split(":")[0] for s in again], 2)),
            why=again[0].again[0],
            label="Open the step",
            page="assembly",
            field=again[0].id,
        )


def measured_wrong(known: BuildFacts) -> Iterator[NextStep]:
    """What was measured at the bench and cannot stay so."""
    for step in known.work.steps if known.work is not None else ():
        if step.judged.verdict == "wrong" and step.judged.said is not None and known.stage == "building":
            yield NextStep(
                id=f"wrong-{step.id}",
                urgency="stop",
                title=message("Measured out of range: {step}", step=step.title.text.split(":")[0].lower()),
                why=step.judged.said,
                label="Open the step",
                page="assembly",
                field=step.id,
            )


def assemble(known: BuildFacts) -> Iterator[NextStep]:
    """The next step of putting it together, or what holds all of them up."""
    work = known.work
    if work is None or known.stage != "building" or work.done == len(work.steps) or known.needs:
        return
    step = next((s for s in work.steps if s.id == work.next and s.state == "ready"), None)
    if step is not None and step.id not in ("taps", "first-charge", "set-up", "bench-test", "weigh", "box-made"):
        short = step.title.text.split(":")[0]
        yield NextStep(
            id="assemble",
            urgency="next",
            title=message(
                "Continue building: {step}" if work.done else "Start building: {step}",
                step=short[:1].lower() + short[1:],
            ),
            why=in_a_row(
                message("{done} of {steps} steps done.", done=work.done, steps=len(work.steps)),
                step.why,
            ),
            label="Open the step",
            page="assembly",
            field=step.id,
        )
    elif step is None and work.agenda.blocked:
        blocked = work.agenda.blocked[0]
        yield NextStep(
            id="assemble-waits",
            urgency="late" if blocked.state in ("late", "faulty") else "next",
            title=message("Building waits for: {name}", name=blocked.name),
            why=message(
                "{steps} need it, and nothing else can be done first.", steps=counted(len(blocked.steps), "step")
            ),
            label="Open the parts list",
            page="parts-list",
        )


def _pack_here(known: BuildFacts) -> bool:
    return all(line.state in HERE for line in known.lines if line.kind in ("pack", "cell"))


def measure_cells(known: BuildFacts) -> Iterator[NextStep]:
    """Salvaged cells that nobody measured yet: a week of rest is the longest thing in the making of a pack."""
    pack = known.build.parts.pack
    if pack is None or pack.cell is None or not salvaged(pack.cell) or work_of(known.build).cells:
        return
    if "capacity_ah" in (pack.cell.measured or ()):
        return
    yield NextStep(
        id="measure-cells",
        urgency="next",
        title=message("Measure each cell"),
        why=message(
            "Voltage as found, full capacity, and voltage after a week of rest. Start now: this takes longest."
        ),
        label="Open Cells",
        page="cells",
    )


def sort_cells(known: BuildFacts) -> Iterator[NextStep]:
    """Measured cells that lie in no groups yet."""
    if not work_of(known.build).cells or measured_groups(known.build) is not None:
        return
    report = cells_report(known.build)
    if report.sorted is None or report.bound_ah is None:
        return
    yield NextStep(
        id="sort-cells",
        urgency="next",
        title=message("Sort the cells into groups"),
        why=message(
            "{usable} for {needed} places. The smallest group can have {least}.",
            least=(report.sorted_weakest_ah or 0.0, "charge"),
            usable=counted(report.usable, "usable cell"),
            needed=report.needed,
        ),
        label="Open Cells",
        page="cells",
    )


def plan_pack(known: BuildFacts) -> Iterator[NextStep]:
    """What joins the groups, before anything is welded."""
    if known.stage != "building" or not self_made(known.build) or plan_of(known.build).strip is not None:
        return
    yield NextStep(
        id="plan-pack",
        urgency="next",
        title=message("Plan the cell layout and its links"),
        why=message(
            "Every link carries the whole pack current. How many strips it needs depends on how the groups meet."
        ),
        label="Open Pack",
        page="pack",
    )


def read_leads(known: BuildFacts) -> Iterator[NextStep]:
    """Balance leads of a pack that the builder makes, before the plug goes into the board."""
    pack = known.build.parts.pack
    if known.stage != "building" or not self_made(known.build) or pack is None or pack.protection is None:
        return
    report = balance_leads_report(known.build)
    if report is None or report.done or report.stop is not None or not _pack_here(known):
        return
    begun = any(v is not None for v in leads_of(known.build).readings or [])
    yield NextStep(
        id="read-leads",
        urgency="next",
        title=message("Continue reading the balance leads" if begun else "Check every balance lead before plugging in"),
        why=message("{leads} leads, one after the other. Two swapped leads destroy the BMS.", leads=report.series + 1),
        label="Open Balance leads",
        page="balance-leads",
    )


def first_charge(known: BuildFacts) -> Iterator[NextStep]:
    """A pack that is here and was never charged under watch."""
    if known.stage != "building" or known.needs or not _pack_here(known) or charged_once(known.build):
        return
    if self_made(known.build) and known.build.parts.pack is not None and known.build.parts.pack.protection is not None:
        report = balance_leads_report(known.build)
        if report is None or not report.done:
            return
    last = watched(known.build)
    going = last is not None and last.ended is None and last.stop is None
    if last is not None and last.stop is not None:
        return
    yield NextStep(
        id="first-charge",
        urgency="due" if going else "next",
        title=message("Check the charge that is running" if going else "Watch the first charge"),
        why=message(
            "Measure every group every ten minutes, feel the block for warmth, and check that it stops by itself."
        ),
        label="Open Charging",
        page="charging",
    )
