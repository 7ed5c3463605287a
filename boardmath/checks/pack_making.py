"""The pack as it is made: cells that should not be in it, strips that bear too little, wires that sit wrong, a charge that
stopped."""

from collections.abc import Iterator
from dataclasses import replace
from math import ceil

from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.cells import bag_of
from boardmath.battery.charge_monitor import watched
from boardmath.buildfile.build import Build
from boardmath.buildfile.pack_assembly import PackPlan
from boardmath.checks.finding import Choice, Facts, Finding, Fix, finding, fix, less_pack_current
from boardmath.geometry.cell_links import Link, laid, links, needed_strips
from boardmath.messages import Message, counted, message, sentence
from boardmath.model.cell_groups import comes_whole, plan_of, work_of
from boardmath.physics.strip import RISE_AT_THE_LIMIT


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


def _planned_links(build: Build) -> list[Link]:
    """The links of a pack that its builder welds, once a strip is chosen for them."""
    return [] if plan_of(build).strip is None or comes_whole(build) else links(build)


def _through(link: Link) -> Message:
    if link.awg is not None:
        return message("{gauge} AWG wire", gauge=f"{link.awg:g}")
    return message("{strips} of {strip}", strips=counted(link.strips, "strip"), strip=link.material)


def _more_strips(plan: PackPlan, link: Link) -> list[Fix]:
    """More strips of the same kind, or another kind, so that a link bears its largest current."""
    fixes = []
    for material in ("nickel", "copper"):
        more = needed_strips(link, material) - link.strips
        if material == plan.strip and 0 < more <= 12:
            fixes.append(
                fix(
                    "{more} more of {material}",
                    {"pack_assembly.plan.bridges": (plan.bridges or 0) + more},
                    more=more,
                    material=material,
                )
            )
        elif material != plan.strip and more <= 0:
            fixes.append(fix("Take {material}", {"pack_assembly.plan.strip": material}, material=material))
        elif material != plan.strip and more <= 6:
            changes: dict[str, Choice] = {
                "pack_assembly.plan.strip": material,
                "pack_assembly.plan.bridges": (plan.bridges or 0) + more,
            }
            fixes.append(fix("Use {material}, {more} more", changes, material=material, more=more))
    return fixes


DANGEROUS_RISE = 2.0 * RISE_AT_THE_LIMIT
"""K over the cells from which on a strip may melt what insulates it (reasoned as :data:`RISE_AT_THE_LIMIT`)."""


def strip_current(build: Build) -> Iterator[Finding]:
    """A link that the largest current makes too hot within seconds."""
    short = [link for link in _planned_links(build) if not link.holds]
    if not short:
        return
    worst = max(short, key=lambda link: link.current / link.bears)
    low, high = worst.between
    hot = worst.current > 1.5 * worst.bears if worst.awg is not None else worst.rise(worst.current) > DANGEROUS_RISE
    fixes = _more_strips(plan_of(build), worst) if worst.awg is None else []
    yield finding(
        kind="strip-current",
        severity="danger" if hot else "warn",
        title=message(
            "{count} links of the pack are too thin" if len(short) > 1 else "{count} link of the pack is too thin",
            count=len(short),
        ),
        about=["pack", "settings"],
        fields=["pack_assembly.plan.strip", "settings.pack_current_a"],
        message=message(
            "{current} flow between groups {low} and {high} through {through} rated for {bears}. A link that is too thin "
            "heats the cells under it. Use copper, more strips, or a braid over the joint.",
            current=(worst.current, "current"),
            bears=(worst.bears, "current"),
            low=low,
            high=high,
            through=_through(worst),
        ),
        fixes=fixes or less_pack_current(build, worst.bears),
    )


OVER_THE_RULE = 2.0
"""Times the current by the rule of thumb from which on a strip has to be what it is sold as."""


def strip_rule(build: Build) -> Iterator[Finding]:
    """Strips that bear their current only where they are pure and well welded: more than builders usually allow."""
    found = _planned_links(build)
    if any(not link.holds for link in found):
        return
    over = [
        (link.current / rule, rule, link)
        for link in found
        if (rule := link.rule_a) and link.current > OVER_THE_RULE * rule
    ]
    if not over:
        return
    _, rule, worst = max(over, key=lambda each: each[0])
    low, high = worst.between
    yield finding(
        kind="strip-rule",
        severity="note",
        title="Strips carry more than builders usually allow",
        about=["pack"],
        fields=["pack_assembly.plan.strip"],
        message=message(
            "{current} flow between groups {low} and {high} through {through}; the rule of thumb allows {rule}. The cells "
            "cool so short a strip: it gets {rise} K warmer than they are, if it is pure metal with two good welds on each "
            "cell. Steel that is sold as nickel rusts in salt water where you file it.",
            low=low,
            high=high,
            current=(worst.current, "current"),
            through=_through(worst),
            rule=(rule, "current"),
            rise=f"{worst.rise(worst.current):.0f}",
        ),
        fixes=_more_strips_by_rule(plan_of(build), worst),
    )


def _more_strips_by_rule(plan: PackPlan, link: Link) -> list[Fix]:
    """So many more strips that the rule of thumb allows the current."""
    rule = link.rule_a
    if rule is None:
        return []
    more = ceil(link.strips * (link.current / rule - 1.0))
    if more > 12:
        return []
    return [
        fix(
            "{more} more of {material}",
            {"pack_assembly.plan.bridges": (plan.bridges or 0) + more},
            more=more,
            material=link.material,
        )
    ]


def strip_heat(build: Build, facts: Facts) -> Iterator[Finding]:
    """A link that the brief's ride keeps warm, and the cells under it."""
    yield from strip_heat_at(build, facts.pack_rms_a)


def strip_heat_at(build: Build, mean: float) -> Iterator[Finding]:
    """The same of a ride that takes ``mean`` A, the root mean square."""
    found = _planned_links(build)
    short = [link for link in found if mean > link.bears_long]
    if not short or any(not link.holds for link in found):
        return
    worst = max(short, key=lambda link: mean / link.bears_long)
    low, high = worst.between
    yield finding(
        kind="strip-heat",
        severity="warn",
        title="Links of the pack stay warm all ride",
        about=["pack"],
        fields=["pack_assembly.plan.strip"],
        message=message(
            "On your ride {mean} flow on the average (root mean square). Between groups {low} and {high} {through} may take "
            "{bears} all the time: more warms the cells under it. Use copper or more strips.",
            mean=(mean, "current"),
            bears=(worst.bears_long, "current"),
            low=low,
            high=high,
            through=_through(worst),
        ),
        fixes=_more_strips(plan_of(build), replace(worst, current=worst.bears * mean / worst.bears_long))
        if worst.awg is None
        else [],
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


of_the_making = (
    cells_of_the_bag,
    strip_current,
    strip_rule,
    groups_spread,
    lead_wrong,
    charge_stopped,
    load_round_the_board,
)
