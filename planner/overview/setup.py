"""Next steps of setting up: the stage, the controller settings, the bench test, the way to the first ride."""

from collections.abc import Iterator

from boardmath.checks.finding import Fix
from boardmath.messages import Message, in_a_row, lower_first, message
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, listed


def _stage(known: BuildFacts, id: str, title: Message, why: Message, label: Message, stage: str) -> NextStep:
    fix = Fix(message=label, changes={"stage": stage})
    return NextStep(id=id, urgency="next", title=title, why=why, label=label.text, page="overview", fix=fix)


def begin_building(known: BuildFacts) -> Iterator[NextStep]:
    """Everything is in the house: the plan becomes a thing."""
    if known.stage == "planned" and known.all_here:
        yield _stage(
            known,
            "begin-building",
            message("All parts are here: start building"),
            message("Weigh each part as you go. What is measured narrows every predicted range."),
            message("Start building"),
            "building",
        )


def wrongly_set(known: BuildFacts) -> Iterator[NextStep]:
    """What the controller was last set to, and can hurt or will not work on this board as it is now."""
    for found in known.wrongly_set:
        yield NextStep(
            id=f"set-{found.id}",
            urgency="danger" if found.severity == "danger" else "stop",
            title=message("As last set: {finding}", finding=lower_first(found.title.text)),
            why=found.message,
            label="Open Controller settings",
            page="controller-settings",
        )


def settings(known: BuildFacts) -> Iterator[NextStep]:
    """What is wanted of a controller that can be set, before it is set."""
    wanted = known.build.settings.model_dump(exclude_none=True)
    if known.programmable and not wanted and not known.needs:
        yield NextStep(
            id="settings",
            urgency="next",
            title=message("Choose the controller settings"),
            why=message("Every value is recommended for this board, with its reason and what it costs you."),
            label="Open Controller settings",
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
                title=message("Set the controller and save a record"),
                why=message("After a reset, or for any ride, you can look it up. The bench test is judged by it."),
                label="Open Controller settings",
                page="controller-settings",
            )
    elif known.set_otherwise:
        last = known.settings_records[-1]
        yield NextStep(
            id="set-again",
            urgency="due",
            title=message("The settings you want were not set yet"),
            why=message(
                "Record {number} was made for a different state of the board. Set the differences, or restore "
                "the old values.",
                number=last.number,
            ),
            label="See the differences",
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
            title=message("The bench test fails: {failing}", failing=listed(failing))
            if failing
            else message("Continue the bench test"),
            why=going.last_word
            if failing
            else in_a_row(
                message("{done} of {steps} steps checked.", done=done, steps=len(going.steps)), going.last_word
            ),
            label="Open Bench test",
            page="bench-test",
        )
    elif last is None:
        if known.all_here and (known.settings_records or not known.programmable):
            yield NextStep(
                id="bench-test",
                urgency="next",
                title=message("Do the bench test before the first ride"),
                why=message("Wheels in the air, step by step. Faults show here and not on the hill."),
                label="Open Bench test",
                page="bench-test",
            )
    elif last.standing == "fails":
        yield NextStep(
            id="bench-test",
            urgency="stop",
            title=message("The last bench test failed: {steps}", steps=listed([f.lower() for f in last.failed])),
            why=message("Leave the board on the stand. Fix what failed, then repeat the test."),
            label="Open Bench test",
            page="bench-test",
        )
    elif known.no_longer:
        yield NextStep(
            id="bench-test",
            urgency="due",
            title=message("Repeat the bench test: the board has changed"),
            why=message(
                "With today's board these would fail: {no_longer}.",
                no_longer=listed([s.lower() for s in known.no_longer]),
            ),
            label="Open Bench test",
            page="bench-test",
        )
    elif since := known.set_since_tested:
        often = "once" if since == 1 else "twice" if since == 2 else f"{since} times"
        yield NextStep(
            id="bench-test",
            urgency="due",
            title=message("Repeat the bench test: settings have changed"),
            why=message(
                "The controller settings changed {often} after the last test, so its results no longer apply.",
                often=often,
            ),
            label="Open Bench test",
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
            message("The first ride is done"),
            message("Check the screws after ten kilometres, and record your rides from now on."),
            message("Mark as riding"),
            "riding",
        )
        return
    begun = ride is not None and ride.done > 0
    step = next((s for s in ride.steps if s.id == ride.next), None) if ride is not None else None
    yield NextStep(
        id="first-ride",
        urgency="next",
        title=message("Continue the first ride: {step}", step=lower_first(step.title.text))
        if begun and step is not None
        else message("Do the first ride"),
        why=message(
            "The bench test does not show how it rides. Pads on, slow mode, empty level ground; brake first at "
            "walking pace."
        ),
        label="Open First ride",
        page="first-ride",
        field=step.id if begun and step is not None else None,
    )


def weigh(known: BuildFacts) -> Iterator[NextStep]:
    """A whole board on a scale settles what it weighs."""
    if known.build.weighed_kg is None and known.all_here and known.stage != "planned":
        yield NextStep(
            id="weigh",
            urgency="better",
            title=message("Weigh the whole board"),
            why=message(
                "Two minutes. Weight affects hills, range and carrying, and then it is known and not added up."
            ),
            label="Enter it",
            page="design",
            field="weighed_kg",
        )


def keep_as_ridden(known: BuildFacts) -> Iterator[NextStep]:
    """A board that is ridden and has changed since its last named point."""
    if known.stage == "riding" and known.changed:
        yield NextStep(
            id="keep-point",
            urgency="better",
            title=message("Save the board as it is now"),
            why=message("It has changed since the last revision. A saved revision can be restored."),
            label="Keep it",
            page="revisions",
        )
