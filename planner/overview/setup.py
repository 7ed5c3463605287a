"""Next steps of setting up: the stage, the controller settings, the bench test, the way to the first ride."""

from collections.abc import Iterator

from boardmath.checks.finding import Fix
from boardmath.messages import message
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, listed


def _stage(known: BuildFacts, id: str, title: str, why: str, label: str, stage: str) -> NextStep:
    fix = Fix(message=message(label), changes={"stage": stage})
    return NextStep(id=id, urgency="next", title=title, why=message(why), label=label, page="overview", fix=fix)


def begin_building(known: BuildFacts) -> Iterator[NextStep]:
    """Everything is in the house: the plan becomes a thing."""
    if known.stage == "planned" and known.all_here:
        yield _stage(
            known,
            "begin-building",
            "All parts are here: begin to build",
            "Weigh them as you go: what is measured makes every band narrower.",
            "It is being built",
            "building",
        )


def wrongly_set(known: BuildFacts) -> Iterator[NextStep]:
    """What the controller was last set to, and can hurt or will not work on this board as it is now."""
    for found in known.wrongly_set:
        yield NextStep(
            id=f"set-{found.id}",
            urgency="danger" if found.severity == "danger" else "stop",
            title=f"As last set: {found.title[:1].lower()}{found.title[1:]}",
            why=found.message,
            label="To the controller settings",
            page="controller-settings",
        )


def settings(known: BuildFacts) -> Iterator[NextStep]:
    """What is wanted of a controller that can be set, before it is set."""
    wanted = known.build.settings.model_dump(exclude_none=True)
    if known.programmable and not wanted and not known.needs:
        yield NextStep(
            id="settings",
            urgency="next",
            title="Decide what the controller is set to",
            why=message("Every value is recommended from this board, with its reason and what it trades."),
            label="To the controller settings",
            page="controller-settings",
        )


def set_it(known: BuildFacts) -> Iterator[NextStep]:
    """A controller that is in the house and was never set, or is set otherwise than is wanted now."""
    controller = next((line for line in known.lines if line.kind == "controller"), None)
    if not known.programmable or known.needs or controller is None or known.stage == "planned":
        return
    if not known.settings_records:
        if controller.state in ("arrived", "owned", "replaced"):
            yield NextStep(
                id="set",
                urgency="next",
                title="Set the controller, and write down what was set",
                why=message("After a reset, or for the day of a ride, it is there; the bench test is judged by it."),
                label="To the controller settings",
                page="controller-settings",
            )
    elif known.set_otherwise:
        last = known.settings_records[-1]
        yield NextStep(
            id="set-again",
            urgency="due",
            title="What is wanted is not what was last set",
            why=message(
                f"Sheet {last.number} was set for another state of the board; set the difference, or take it back."
            ),
            label="See the difference",
            page="controller-settings",
        )


def bench_test(known: BuildFacts) -> Iterator[NextStep]:
    """Wheels in the air before the first ride, and again after whatever has changed."""
    if known.needs or known.stage == "planned":
        return
    going, last = known.under_way, known.tests[-1] if known.tests else None
    if going is not None and going.standing not in ("not begun", "passes"):
        done = sum(s.verdict != "open" for s in going.steps)
        failing = [s.title.lower() for s in going.steps if s.verdict == "fails"]
        yield NextStep(
            id="bench-test",
            urgency="stop" if failing else "next",
            title=f"The bench test fails: {listed(failing)}" if failing else "Go on with the bench test",
            why=going.last_word
            if failing
            else message(f"{done} of {len(going.steps)} steps looked at. {going.last_word.text}"),
            label="To the bench test",
            page="bench-test",
        )
    elif last is None:
        if known.all_here and (known.settings_records or not known.programmable):
            yield NextStep(
                id="bench-test",
                urgency="next",
                title="Bench test, before the first ride",
                why=message("Wheels in the air, step by step: what is wrong shows here and not on the hill."),
                label="To the bench test",
                page="bench-test",
            )
    elif last.standing == "fails":
        yield NextStep(
            id="bench-test",
            urgency="stop",
            title=f"The last bench test failed: {listed([f.lower() for f in last.failed])}",
            why=message("It stays on the stand. Mend what fails, and go through it again."),
            label="To the bench test",
            page="bench-test",
        )
    elif known.no_longer:
        yield NextStep(
            id="bench-test",
            urgency="due",
            title="Test it again: the board is not what was tested",
            why=message(f"Would not pass as it was found then: {listed([s.lower() for s in known.no_longer])}."),
            label="To the bench test",
            page="bench-test",
        )
    elif since := known.set_since_tested:
        often = "once" if since == 1 else "twice" if since == 2 else f"{since} times"
        yield NextStep(
            id="bench-test",
            urgency="due",
            title="Test it again: the controller was set since",
            why=message(f"It was set {often} since the last bench test; what was found then is of another state."),
            label="To the bench test",
            page="bench-test",
        )


def first_ride(known: BuildFacts) -> Iterator[NextStep]:
    """Tested and not ridden: nothing here says that it is safe. When its protocol is through, the board is one that is ridden."""
    passed = bool(known.tests) and known.tests[-1].standing in ("passes", "unsure")
    if known.stage != "building" or not passed or not known.all_here or known.no_longer:
        return
    ride = known.ride
    if ride is not None and ride.next is None:
        yield _stage(
            known,
            "first-ride",
            "The first ride is behind you",
            "Screws after ten kilometres, and what it does from now on is worth writing down.",
            "It is ridden now",
            "riding",
        )
        return
    begun = ride is not None and ride.done > 0
    step = next((s for s in ride.steps if s.id == ride.next), None) if ride is not None else None
    yield NextStep(
        id="first-ride",
        urgency="next",
        title=f"Go on with the first ride: {step.title[:1].lower()}{step.title[1:]}"
        if begun and step is not None
        else "First ride: padded, slow mode, empty level ground",
        why=message(
            "What the stand shows is no promise for the road. Brake first at walking pace, then step by "
            "step, as the page says."
        ),
        label="To the first ride",
        page="first-ride",
        field=step.id if begun and step is not None else None,
    )


def weigh(known: BuildFacts) -> Iterator[NextStep]:
    """A whole board on a scale settles what it weighs."""
    if known.build.weighed_kg is None and known.all_here and known.stage != "planned":
        yield NextStep(
            id="weigh",
            urgency="better",
            title="Put the whole board on a scale",
            why=message("Two minutes, and what has to be carried, climbed and stopped is known instead of added up."),
            label="Write it down",
            page="design",
            field="weighed_kg",
        )


def keep_as_ridden(known: BuildFacts) -> Iterator[NextStep]:
    """A board that is ridden and has changed since its last named point."""
    if known.stage == "riding" and known.changed:
        yield NextStep(
            id="keep-point",
            urgency="better",
            title="Keep the board as it is now as a named point",
            why=message("It has changed since the last one; what you liked about it can be had back."),
            label="Keep it",
            page="revisions",
        )
