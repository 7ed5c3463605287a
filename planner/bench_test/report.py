"""A whole bench test, judged: every step, what comes next, and how it stands."""

from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.bench_test import BenchTest, EndPoints
from boardmath.buildfile.build import Build
from boardmath.messages import Message, message
from boardmath.model.resolution import Incomplete, missing
from boardmath.prediction.unloaded import OnTheStand, on_the_stand
from planner.bench_test.before_power import pack_voltage, polarity, thumb, wheels_free
from planner.bench_test.guards import cut_off, lost_link, sound
from planner.bench_test.spinning import alike, brake, directions, free_current, free_speed
from planner.bench_test.steps import Stand, Step, of_its_cells

Standing = Literal["not begun", "under way", "fails", "unsure", "passes"]

STEPS = (
    wheels_free,
    polarity,
    pack_voltage,
    thumb,
    directions,
    alike,
    free_speed,
    free_current,
    brake,
    lost_link,
    cut_off,
    sound,
)
"""In their order: nothing is plugged in before its plug was measured, nothing spins before the thumb is right."""


BEFORE_POWER = ("wheels_free", "polarity", "pack_voltage")
"""What fails here is mended before a plug goes in or a motor turns."""


class BenchTestReport(BaseModel):
    """The steps in their order; ``next`` is the one to do now, ``held`` the one that has to pass before anything goes on.

    ``waits`` says which steps are not there yet, and what the build has to say for them.
    """

    steps: list[Step]
    standing: Standing
    next: str | None = None
    held: str | None = None
    failed: int
    last_word: Message
    waits: Message | None = None


_LAST_WORDS: dict[Standing, str] = {
    "not begun": "Start by putting the wheels in the air.",
    "under way": "Some steps are still to do. Leave the board on the stand until then.",
    "fails": "Leave the board on the stand. Fix what fails, and repeat the test.",
    "unsure": "Nothing fails; something is unclear, or was left out. Find out what, before you ride.",
    "passes": (
        "On the stand everything was as expected. That does not show how it rides: pads on, slow mode, empty ground "
        "first."
    ),
}


def report_on(build: Build, entered: BenchTest, noted: EndPoints | None = None) -> BenchTestReport:
    """The test of a build as it is set; what needs a prediction is left out where the build is not far enough for one."""
    plausible = entered.pack_v is None or of_its_cells(build, entered.pack_v)
    predicted: OnTheStand | None
    try:
        predicted = on_the_stand(build, entered.pack_v if plausible else None)
    except Incomplete:
        predicted = None
    stand = Stand(build, entered, predicted, noted or EndPoints(), plausible)
    steps = [_left_out(step, entered) for judge in STEPS if (step := judge(stand)) is not None]
    standing = _standing(steps)
    if standing == "passes" and predicted is None:
        standing = "unsure"  # pack or run could not be judged on a board that is not known far enough
    held = next((s.key for s in steps if s.key in BEFORE_POWER and s.verdict == "fails"), None)
    if held is None and entered.wheels_free is not True:
        held = "wheels_free"
    return BenchTestReport(
        steps=steps,
        standing=standing,
        next=held or next((s.key for s in steps if s.verdict == "open"), None),
        held=held,
        failed=[s.verdict for s in steps].count("fails"),
        last_word=message(_LAST_WORDS[standing]),
        waits=_waits(build),
    )


def _waits(build: Build) -> Message | None:
    needs = missing(build)
    if not needs:
        return None
    pack = build.parts.pack
    later = ["speed and current with the wheels free"]
    if pack is None or pack.series is None:
        later = ["the pack's voltage", "the cut-off", *later]
    first = (n.reason.split(":")[0].removesuffix(".") for n in needs)
    said = ", ".join(f"{reason[0].lower()}{reason[1:]}" for reason in first)
    return message("Not in the list yet: {later}. First, on the bench: {said}.", later=", ".join(later), said=said)


def _left_out(step: Step, entered: BenchTest) -> Step:
    """A step that could not be done says so; what was found after all counts before that."""
    word = (entered.left_out or {}).get(step.key)
    if not step.optional or step.verdict != "open" or not word:
        return step
    said = message("Left out: {word}", word=word)
    return step.model_copy(update={"verdict": "left out", "said": said})


def _standing(steps: list[Step]) -> Standing:
    verdicts = {s.verdict for s in steps}
    if "fails" in verdicts:
        return "fails"
    if "open" in verdicts:
        return "not begun" if verdicts == {"open"} else "under way"
    return "unsure" if verdicts & {"unsure", "left out"} else "passes"
