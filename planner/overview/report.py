"""The overview: the next steps in their order, and how far each stage is."""

from collections.abc import Callable, Iterator
from typing import Literal, get_args

from pydantic import BaseModel

from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.charge_monitor import charged_once
from boardmath.messages import Message, counted, message
from boardmath.model.cell_groups import measured_groups, self_made, work_of
from boardmath.prediction.outcomes import MISSED
from planner.navigation import StageSlug
from planner.overview import build, buy, plan, ride, setup
from planner.overview.facts import BuildFacts
from planner.overview.recent_activity import Event, recent_events
from planner.overview.step import NextStep, Urgency, listed
from planner.shared.report import HERE

RULES: tuple[Callable[[BuildFacts], Iterator[NextStep]], ...] = (
    plan.dangers,
    setup.wrongly_set,
    plan.stops,
    plan.brief,
    plan.choose,
    plan.explore,
    plan.falls_short,
    plan.warnings,
    buy.late,
    buy.faulty,
    buy.order,
    plan.make_the_box,
    setup.begin_building,
    build.measured_wrong,
    build.look_again,
    build.measure_cells,
    build.sort_cells,
    build.plan_pack,
    build.read_leads,
    build.first_charge,
    build.assemble,
    setup.settings,
    setup.set_it,
    setup.bench_test,
    setup.first_ride,
    setup.weigh,
    ride.wheels_worn,
    ride.maintenance_due,
    ride.odd_rides,
    ride.write_rides,
    buy.small_parts,
    plan.measure,
    plan.keep_the_plan,
    setup.keep_as_ridden,
)
"""One function for each kind of next step, in the order of the work; how pressing a step is comes before that order."""

Progress = Literal["done", "under way", "open", "trouble"]


class StageProgress(BaseModel):
    """How far a stage is, and what of it is done."""

    slug: StageSlug
    progress: Progress
    word: Message


class Overview(BaseModel):
    """Where the board stands. ``steps`` come most pressing first; an empty list says that nothing is asked just now."""

    steps: list[NextStep]
    stages: list[StageProgress]
    recent: list[Event]


def next_steps(known: BuildFacts) -> list[NextStep]:
    """All next steps, the most pressing first and then in the order of the work."""
    urgencies = get_args(Urgency)
    found = [step for rule in RULES for step in rule(known)]
    return sorted(found, key=lambda step: urgencies.index(step.urgency))


def overview(known: BuildFacts) -> Overview:
    """The first page of a board."""
    return Overview(
        steps=next_steps(known),
        stages=[
            StageProgress(slug=slug, progress=progress, word=word)
            for slug, (progress, word) in (
                ("plan", _plan(known)),
                ("buy", _buy(known)),
                ("build", _build(known)),
                ("setup", _setup(known)),
                ("ride", _ride(known)),
            )
        ],
        recent=recent_events(known),
    )


def _plan(known: BuildFacts) -> tuple[Progress, Message]:
    aside = sum(f.accepted is not None for f in known.findings)
    if known.dangers or known.stops:
        return "trouble", message(
            "{problems} to fix first", problems=counted(len(known.dangers) + len(known.stops), "problem")
        )
    if known.needs:
        return "under way" if known.lines else "open", message(
            "{parts} to choose", parts=counted(len(known.to_choose), "part")
        )
    asked = [p for p in known.outcomes if p.wanted is not None]
    short = [p.title.lower() for p in asked if p.verdict in MISSED]
    unsure = [p.title.lower() for p in asked if p.verdict == "uncertain"]
    if short:
        return "done" if known.stage == "riding" else "under way", message(
            "meets the brief except {short}", short=listed(short)
        )
    if not asked:
        return "under way", message("no brief to compare with")
    further = message("; {risks} accepted", risks=counted(aside, "risk")) if aside else None
    if unsure:
        return "done", message(
            "may meet the brief: {unsure} uncertain{further}", unsure=listed(unsure), further=further
        )
    return "done", message("meets the brief{further}", further=further)


def _buy(known: BuildFacts) -> tuple[Progress, Message]:
    if not known.lines:
        return "open", message("nothing chosen yet")
    here = sum(line.state in HERE for line in known.lines)
    all_ = len(known.lines) + len(known.to_choose)
    overdue = sum(bool(line.late_days) for line in known.lines)
    broken = sum(line.state == "faulty" for line in known.lines)
    if here == all_:
        return "done", message("everything has arrived")
    words = message(
        "{here} of {all} arrived{late}{faulty}",
        here=here,
        all=all_,
        late=message(", {count} late", count=overdue) if overdue else None,
        faulty=message(", {count} faulty", count=broken) if broken else None,
    )
    bought = any(line.state != "to_order" for line in known.lines)
    return ("trouble" if overdue or broken else "under way" if bought else "open"), words


def _build(known: BuildFacts) -> tuple[Progress, Message]:
    if wrong := [f for f in known.findings if f.kind in build.OF_THE_MAKING and f.accepted is None]:
        return "trouble", message("{problems} to fix in the pack", problems=counted(len(wrong), "problem"))
    if known.stage == "riding":
        return "done", message("built and ridden")
    if known.work is not None and known.work.done:
        again = message(", {count} to check again", count=known.work.again) if known.work.again else None
        return "under way", message(
            "{done} of {steps} steps done{again}", done=known.work.done, steps=len(known.work.steps), again=again
        )
    made = self_made(known.build)
    sorted_ = measured_groups(known.build) is not None
    leads = balance_leads_report(known.build)
    read = leads is not None and leads.done
    if charged_once(known.build):
        return "under way", message("first charge of the pack done")
    if read:
        return "under way", message("balance leads checked, not charged yet")
    if sorted_:
        return "under way", message("cells sorted into groups")
    if work_of(known.build).cells:
        return "under way", message("{cells} measured", cells=counted(len(work_of(known.build).cells or []), "cell"))
    if known.stage == "planned":
        return "open", message("not begun")
    return "under way", message("you make the pack yourself" if made else "not charged yet")


def _ride(known: BuildFacts) -> tuple[Progress, Message]:
    if known.rides is None or known.rides.count == 0:
        return "open", message("no rides yet" if known.stage != "riding" else "no ride recorded")
    km = message(", {km}", km=(round(known.rides.km), "distance")) if known.rides.km is not None else None
    odd = message("; one contradicts the others") if len(known.rides.odd) == 1 else None
    return "under way", message("{rides}{km}{odd}", rides=counted(known.rides.count, "ride"), km=km, odd=odd)


def _setup(known: BuildFacts) -> tuple[Progress, Message]:
    last = known.tests[-1] if known.tests else None
    record = (
        message("record {number} set", number=known.settings_records[-1].number)
        if known.settings_records
        else message("nothing set yet")
    )
    if known.wrongly_set:
        return "trouble", message("{record}, and it conflicts with the board", record=record)
    if last is None:
        return ("under way" if known.settings_records else "open"), message("{record}, not tested", record=record)
    if last.standing == "fails":
        return "trouble", message("the last bench test failed")
    stale = known.no_longer or known.set_since_tested
    if stale or known.set_otherwise:
        return "under way", message("{record}; repeat the {what}", record=record, what="test" if stale else "settings")
    return "done", message("{record}, tested after it was set", record=record)
