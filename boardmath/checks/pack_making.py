"""The pack as it is made: cells that should not be in it, strips that bear too little, wires that sit wrong, a charge that
stopped."""

from collections.abc import Iterator

from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.cells import bag_of
from boardmath.battery.charge_monitor import watched
from boardmath.buildfile.build import Build
from boardmath.checks.finding import Choice, Finding, finding, fix, less_pack_current
from boardmath.geometry.cell_links import laid, links, needed_strips, strip_size
from boardmath.messages import counted, message, sentence
from boardmath.model.cell_groups import comes_whole, plan_of, work_of


def cells_of_the_bag(build: Build) -> Iterator[Finding]:
    """Cells that are built in and should not be; and a bag that does not fill the pack."""
    if not work_of(build).cells:
        return
    bag = bag_of(build)
    if wrong := bag.wrongly_in:
        first = next(r for r in bag.rejected if r.id == wrong[0])
        yield finding(
            kind="rejected-built-in",
            severity="danger",
            title=message("{cells} in the pack", cells=sentence(counted(len(wrong), "rejected cell"))),
            about=["pack"],
            fields=["pack_assembly.cells"],
            message=message("{cells}. {reason}", cells=", ".join(wrong[:6]), reason=first.message),
        )
    if bag.short is not None:
        smaller = len(bag.fit) // len(bag.groups)
        yield finding(
            kind="too-few-cells",
            severity="stop",
            title="The measured cells do not fill the pack",
            about=["pack"],
            fields=["pack_assembly.cells", "parts.pack.parallel"],
            message=bag.short,
            fixes=[fix("{smaller} in parallel", {"parts.pack.parallel": smaller}, smaller=smaller)] if smaller else (),
        )


def strip_current(build: Build) -> Iterator[Finding]:
    """A link that is planned and bears less than the settings let through."""
    plan = plan_of(build)
    if plan.strip is None or comes_whole(build):
        return
    short = [link for link in links(build) if link.current > link.bears]
    if not short:
        return
    worst = max(short, key=lambda link: link.current / link.bears)
    width, thickness = strip_size(plan)
    low, high = worst.between
    fixes = []
    if worst.awg is None:
        for material in ("nickel", "copper"):
            count = needed_strips(worst, width, thickness, material)
            more = count - worst.strips
            if material == plan.strip and 0 < more <= 12:
                fixes.append(
                    fix(
                        "{more} more of {material}",
                        {"pack_assembly.plan.bridges": (plan.bridges or 0) + more},
                        more=more,
                        material=material,
                    )
                )
            elif material != plan.strip and count <= worst.strips:
                fixes.append(fix("Take {material}", {"pack_assembly.plan.strip": material}, material=material))
            elif material != plan.strip and count - worst.strips <= 6:
                changes: dict[str, Choice] = {
                    "pack_assembly.plan.strip": material,
                    "pack_assembly.plan.bridges": (plan.bridges or 0) + more,
                }
                fixes.append(fix("Use {material}, {more} more", changes, material=material, more=more))
    through = (
        message("{strips} of {strip}", strips=counted(worst.strips, "strip"), strip=plan.strip)
        if worst.awg is None
        else message("{gauge} AWG wire", gauge=f"{worst.awg:g}")
    )
    yield finding(
        kind="strip-current",
        severity="danger" if worst.current > 1.5 * worst.bears else "warn",
        title=message(
            "{count} links of the pack are too thin" if len(short) > 1 else "{count} link of the pack is too thin",
            count=len(short),
        ),
        about=["pack", "settings"],
        fields=["pack_assembly.plan.strip", "settings.pack_current_a"],
        message=message(
            "Between groups {low} and {high} {current} flow through {through} rated for {bears}. A link that is too thin "
            "heats the cells under it. Use copper, more strips, or a braid over the joint.",
            current=(worst.current, "current"),
            bears=(worst.bears, "current"),
            low=low,
            high=high,
            through=through,
        ),
        fixes=fixes or less_pack_current(build, worst.bears),
    )


def groups_spread(build: Build) -> Iterator[Finding]:
    """Groups that are spread over two banks because they do not lie whole in the box."""
    if plan_of(build).strip is None or not any(part.spread for part in laid(build)):
        return
    yield finding(
        kind="groups-spread",
        severity="warn",
        title="A group is split over two banks",
        about=["pack", "enclosure"],
        fields=["pack_assembly.plan.lie", "parts.enclosure.length_mm"],
        message=message(
            "The enclosure is so short that cells of one group end in two planes and need wires instead of a "
            "strip. Use a longer enclosure, another layout, or another cell count."
        ),
    )


def lead_wrong(build: Build) -> Iterator[Finding]:
    """A balance lead that reads wrong."""
    report = balance_leads_report(build)
    if report is None or report.stop is None:
        return
    likely = report.meanings[0] if report.meanings else None
    yield finding(
        kind="lead-wrong",
        severity="danger",
        title=message("Balance leads wrong at lead {stop}", stop=report.stop),
        about=["pack"],
        fields=["pack_assembly.balance_leads.readings"],
        message=message(
            "{reading}. Keep the plug out of the BMS: a wrong wire destroys it, and can start a fire.",
            reading=likely.title if likely else "The reading is not what it should be",
        ),
    )


def charge_stopped(build: Build) -> Iterator[Finding]:
    """The last watched charge showed what stops it."""
    report = watched(build)
    if report is None or report.stop is None:
        return
    yield finding(
        kind="charge-stopped",
        severity="danger",
        title="Stop the charge" if not report.ended else "The last charge was abnormal",
        about=["pack", "charger"],
        fields=["pack_assembly.charges"],
        message=report.stop,
    )


def load_round_the_board(build: Build) -> Iterator[Finding]:
    """The drive's current led past a board that only guards the charge."""
    pack = build.parts.pack
    if pack is None or pack.protection is None or pack.protection.in_drive_path is not False:
        return
    left = [
        word
        for word, there in (("the fuse", build.parts.fuse), ("the controller's cut-off", build.settings.taper_end_v))
        if there
    ]
    yield finding(
        kind="load-round-board",
        severity="note",
        title="The drive current bypasses the BMS",
        about=["pack", "fuse"],
        fields=["parts.pack.protection.in_drive_path"],
        message=message(
            "The BMS protects only while charging. While riding the only protection is {left}: it does not stop a "
            "short circuit, an empty group or a hot cell.",
            left=" and ".join(left) if left else "nothing yet",
        ),
    )


of_the_making = (cells_of_the_bag, strip_current, groups_spread, lead_wrong, charge_stopped, load_round_the_board)
