"""Next steps of riding: rides written down, and what in them does not go together."""

from collections.abc import Iterator

from boardmath.messages import counted, in_a_row, message, sentence
from planner.maintenance.report import WORN_MM, due_now
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, listed


def write_rides(known: BuildFacts) -> Iterator[NextStep]:
    """A board that is ridden, and of which no ride was written down."""
    if known.stage == "riding" and known.rides is not None and known.rides.count == 0 and not known.needs:
        yield NextStep(
            id="write-rides",
            urgency="better",
            title=message("Record the next ride"),
            why=message(
                "Kilometres, and volts before and after. It takes five seconds and halves the uncertainty of the range."
            ),
            label="Open Rides",
            page="rides",
        )


def maintenance_due(known: BuildFacts) -> Iterator[NextStep]:
    """What is due by kilometres, days and wet rides."""
    if known.rides is None or known.stage != "riding":
        return
    due = due_now(known.build, known.rides.ridden, known.today)
    if not due:
        return
    first, names = due[0], [t.title.lower() for t in due]
    past = first.due_km is not None and first.due_km < 0.0
    yield NextStep(
        id="maintenance-due",
        urgency="due",
        title=message("Due: {names}", names=listed(names)),
        why=in_a_row(
            message("{task}: {since} since this was last done.", task=first.title, since=(first.since_km, "distance"))
            if past
            else None,
            message("{why}", why=first.why),
        ),
        label="Open Maintenance",
        page="maintenance",
    )


def wheels_worn(known: BuildFacts) -> Iterator[NextStep]:
    """Wheels that were measured and are worn out."""
    kept, wheels = known.build.maintenance, known.build.parts.wheels
    if kept is None or kept.wheels_new_mm is None or wheels is None or wheels.diameter_mm is None:
        return
    worn = kept.wheels_new_mm - wheels.diameter_mm
    if worn >= WORN_MM:
        yield NextStep(
            id="wheels-worn",
            urgency="due",
            title=message("Replace the wheels"),
            why=message("Worn by {worn}.", worn=(worn, "length")),
            label="Open Maintenance",
            page="maintenance",
        )


def odd_rides(known: BuildFacts) -> Iterator[NextStep]:
    """A ride that contradicts the others: mistyped, or the board changed."""
    if known.rides is not None and known.rides.odd:
        many = len(known.rides.odd)
        yield NextStep(
            id="odd-rides",
            urgency="better",
            title=message("A ride contradicts the others")
            if many == 1
            else message("{rides} contradict the others", rides=sentence(counted(many, "ride"))),
            why=message(
                "It may be mistyped, someone else's ride, or a sign that something drags. It counts for little "
                "until you check it."
            ),
            label="Open Rides",
            page="calibration",
        )
