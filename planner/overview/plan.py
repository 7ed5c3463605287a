"""Next steps at the bench: dangers, what will not work, what is not chosen, what the brief asks and does not get."""

from collections.abc import Iterator

from boardmath.checks import Finding
from boardmath.messages import counted, in_a_row, message, sentence
from boardmath.parts.part_types import KINDS
from boardmath.prediction.outcomes import MISSED
from planner.assembly.board import Board
from planner.enclosure.plan import CannotBeMade, enclosure_plan
from planner.navigation import PAGES
from planner.overview.build import PAGE_OF
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, Urgency, listed
from planner.shared.report import HERE


def _of_finding(finding: Finding, urgency: Urgency) -> NextStep:
    fix = finding.fixes[0] if finding.fixes else None
    page = PAGE_OF.get(finding.kind, "design")
    title = next(r.title for r in PAGES if r.slug == page)
    return NextStep(
        id=finding.id,
        urgency=urgency,
        title=finding.title,
        why=finding.message,
        label=fix.message.text if fix else f"To the {title.lower()}",
        page=page,
        field=finding.fields[0] if finding.fields and page == "design" else None,
        fix=fix,
    )


def dangers(known: BuildFacts) -> Iterator[NextStep]:
    """What can hurt someone comes before everything else."""
    yield from (_of_finding(f, "danger") for f in known.dangers)


def stops(known: BuildFacts) -> Iterator[NextStep]:
    """What will not work or not fit."""
    yield from (_of_finding(f, "stop") for f in known.stops)


def brief(known: BuildFacts) -> Iterator[NextStep]:
    """Without a way and a hill nothing can be held against anything."""
    asked = known.build.brief
    if asked.range_km is None and asked.hill_grade_pct is None and asked.hill_rise_m is None:
        yield NextStep(
            id="brief",
            urgency="next",
            title=message("Say what the board is for"),
            why=message(
                "Distance a day, steepest hill, weight you can carry and budget: the board is built to meet them."
            ),
            label="Write the brief",
            page="design",
            field="brief.range_km",
        )


def choose(known: BuildFacts) -> Iterator[NextStep]:
    """What a board has and this one has not yet, in the order of choosing."""
    if not known.to_choose:
        return
    first, *rest = (kind for kind in KINDS if kind in known.to_choose)
    name = KINDS[first].name.lower()
    further = f", then {listed([KINDS[k].name.lower() for k in rest])}" if rest else ""
    why = (
        "Not chosen yet: {parts}. The prediction is incomplete until then."
        if known.needs
        else "Not chosen yet: {parts}. The prediction works already; the parts list and the checks need it."
    )
    yield NextStep(
        id="choose",
        urgency="next",
        title=message("Choose the {name}", name=name),
        why=message(why, parts=name + further),
        label=f"Choose the {name}",
        page="design",
        field=f"{KINDS[first].path}.name",
    )


_DECIDING = {"motors", "pack", "wheels", "controller"}


def explore(known: BuildFacts) -> Iterator[NextStep]:
    """A board of which little is settled, or which will not do what is asked: every board can be tried at once."""
    short = [p.title.lower() for p in known.outcomes if p.verdict in MISSED]
    little = len(_DECIDING & set(known.to_choose)) >= 2
    asked = any(p.wanted is not None for p in known.outcomes)
    if known.stage == "planned" and asked and (little or short):
        why = (
            "This design misses the target for {short}. " if short and not little else "Little is chosen yet. "
        ) + "Choose which parts may change. Every combination in the library is compared, and the best are shown."
        yield NextStep(
            id="explore",
            urgency="better",
            title=message("Find a design that meets the brief"),
            why=message(why, short=listed(short)),
            label="Explore designs",
            page="explore",
        )


def falls_short(known: BuildFacts) -> Iterator[NextStep]:
    """A promise that the brief asks for and that the board will hardly keep; once it is ridden, the ride is the judge."""
    if known.stage == "riding":
        return
    for outcome in known.outcomes:
        if outcome.verdict not in MISSED or outcome.wanted is None or outcome.mid is None:
            continue
        yield NextStep(
            id=f"short-{outcome.name}",
            urgency="next",
            title=message("{title} is below the target", title=outcome.title)
            if outcome.more_is_better
            else message("{title} is above the target", title=outcome.title),
            why=in_a_row(
                message(
                    "Target {wanted}, predicted {mid}.",
                    wanted=(outcome.wanted, outcome.quantity),
                    mid=(outcome.mid, outcome.quantity),
                ),
                outcome.message if outcome.name not in ("money", "carry") else None,
            ),
            label="Open Design",
            page="design",
        )


def warnings(known: BuildFacts) -> Iterator[NextStep]:
    """What should be weighed up before it is bought."""
    # What the brief lacks has a step of its own.
    open_ = [f for f in known.findings if f.severity == "warn" and f.accepted is None and f.kind != "brief"]
    if open_ and known.stage == "planned":
        further = f"; and {counted(len(open_) - 2, 'more', 'more')}" if len(open_) > 2 else ""
        yield NextStep(
            id="warnings",
            urgency="next",
            title=message("Decide on {findings}", findings=counted(len(open_), "finding")),
            why=message(
                "{findings}{further}. Changing the plan costs nothing now.",
                findings="; ".join(f.title.text for f in open_[:2]),
                further=further,
            ),
            label="Read them",
            page="design",
        )


def make_the_box(known: BuildFacts) -> Iterator[NextStep]:
    """A box that is made and not bought, once its inside is settled: a night on the printer that nothing has to wait for."""
    build = known.build
    box = build.parts.enclosure
    if known.stage != "building" or box is None or not Board(build).made("enclosure") or known.stops or known.dangers:
        return
    try:
        plan = enclosure_plan(build)
    except CannotBeMade:
        return
    yield NextStep(
        id="make-box",
        urgency="next",
        title=message("Make the enclosure"),
        why=message(
            "Make it while parts are on their way: {long} long over its rim, {wide} wide, "
            + ("in two halves." if plan.split is not None else "in one piece."),
            long=(plan.length + 2.0 * plan.ends, "length"),
            wide=(plan.width + 2.0 * plan.sides, "length"),
        ),
        label="Open Enclosure",
        page="enclosure",
    )


def keep_the_plan(known: BuildFacts) -> Iterator[NextStep]:
    """A plan that is whole is kept under a name before the first order changes it."""
    if known.stage == "planned" and not known.needs and not known.to_choose and not known.revisions:
        yield NextStep(
            id="keep-plan",
            urgency="better",
            title=message("Save the plan as a revision"),
            why=message("Whatever changes while you buy and build, this is what you planned."),
            label="Keep it",
            page="revisions",
        )


def measure(known: BuildFacts) -> Iterator[NextStep]:
    """What would take most off the bands, for the least time: of a thing that can be measured already."""
    measures = (known.prediction.measure_next if known.prediction else None) or []
    absent = [line.path for line in known.lines if line.state not in HERE]
    best = next((m for m in measures if m.gains and not any(f.startswith(p) for f in m.fields for p in absent)), None)
    if best is None or known.stage == "planned":
        return
    gain = best.gains[0]
    of = gain.result.replace("_", " ")
    yield NextStep(
        id="measure",
        urgency="better",
        title=message(sentence(best.measure)),
        why=message(
            "Narrows the {of} figure from ±{before} to ±{after}, in about {minutes}.",
            before=(gain.width / 2.0, gain.quantity),
            after=((gain.width - gain.narrower) / 2.0, gain.quantity),
            minutes=(best.minutes, "minutes"),
            of=of,
        ),
        label="Enter it",
        page="design",
        field=best.fields[0] if best.fields else None,
    )
