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
            StageProgress(slug=slug, progress=progress, word=message(word))
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


def _plan(known: BuildFacts) -> tuple[Progress, str]:
    aside = sum(f.accepted is not None for f in known.findings)
    if known.dangers or known.stops:
        return "trouble", f"{counted(len(known.dangers) + len(known.stops), 'problem')} to fix first"
    if known.needs:
        return "under way" if known.lines else "open", f"{counted(len(known.to_choose), 'part')} to choose"
    asked = [p for p in known.outcomes if p.wanted is not None]
    short = [p.title.lower() for p in asked if p.verdict in MISSED]
    unsure = [p.title.lower() for p in asked if p.verdict == "uncertain"]
    if short:
        return "done" if known.stage == "riding" else "under way", f"meets the brief except {listed(short)}"
    if not asked:
        return "under way", "no brief to compare with"
    further = f"; {counted(aside, 'risk')} accepted" if aside else ""
    if unsure:
        return "done", f"may meet the brief: {listed(unsure)} uncertain{further}"
    return "done", f"meets the brief{further}"


def _buy(known: BuildFacts) -> tuple[Progress, str]:
    if not known.lines:
        return "open", "nothing chosen yet"
    here = sum(line.state in HERE for line in known.lines)
    all_ = len(known.lines) + len(known.to_choose)
    overdue = sum(bool(line.late_days) for line in known.lines)
    broken = sum(line.state == "faulty" for line in known.lines)
    said = [f"{here} of {all_} arrived"]
    if overdue:
        said.append(f"{overdue} late")
    if broken:
        said.append(f"{broken} faulty")
    if here == all_:
        return "done", "everything has arrived"
    bought = any(line.state != "to_order" for line in known.lines)
    return ("trouble" if overdue or broken else "under way" if bought else "open"), ", ".join(said)


def _build(known: BuildFacts) -> tuple[Progress, str]:
    if wrong := [f for f in known.findings if f.kind in build.OF_THE_MAKING and f.accepted is None]:
        return "trouble", f"{counted(len(wrong), 'problem')} to fix in the pack"
    if known.stage == "riding":
        return "done", "built and ridden"
    if known.work is not None and known.work.done:
        again = f", {known.work.again} to check again" if known.work.again else ""
        return "under way", f"{known.work.done} of {len(known.work.steps)} steps done{again}"
    made = self_made(known.build)
    sorted_ = measured_groups(known.build) is not None
    leads = balance_leads_report(known.build)
    read = leads is not None and leads.done
    if charged_once(known.build):
        return "under way", "first charge of the pack done"
    if read:
        return "under way", "balance leads checked, not charged yet"
    if sorted_:
        return "under way", "cells sorted into groups"
    if work_of(known.build).cells:
        return "under way", f"{counted(len(work_of(known.build).cells or []), 'cell')} measured"
    if known.stage == "planned":
        return "open", "not begun"
    return "under way", "you make the pack yourself" if made else "not charged yet"


def _ride(known: BuildFacts) -> tuple[Progress, str]:
    if known.rides is None or known.rides.count == 0:
        return "open", "no rides yet" if known.stage != "riding" else "no ride recorded"
    km = f", {known.rides.km:,.0f} km" if known.rides.km is not None else ""
    odd = "; one contradicts the others" if len(known.rides.odd) == 1 else ""
    return "under way", f"{counted(known.rides.count, 'ride')}{km}{odd}"


def _setup(known: BuildFacts) -> tuple[Progress, str]:
    last = known.tests[-1] if known.tests else None
    record = f"record {known.settings_records[-1].number} set" if known.settings_records else "nothing set yet"
    if known.wrongly_set:
        return "trouble", f"{record}, and it conflicts with the board"
    if last is None:
        return ("under way" if known.settings_records else "open"), f"{record}, not tested"
    if last.standing == "fails":
        return "trouble", "the last bench test failed"
    stale = known.no_longer or known.set_since_tested
    if stale or known.set_otherwise:
        return "under way", f"{record}; repeat the {'test' if stale else 'settings'}"
    return "done", f"{record}, tested after it was set"
