"""Next steps of riding: rides written down, and what in them does not go together."""

from collections.abc import Iterator

from boardmath.saying import counted, say
from boardmath.stands.known import Known
from boardmath.stands.step import NextStep


def write_rides(known: Known) -> Iterator[NextStep]:
    """A board that is ridden, and of which no ride was written down."""
    if known.stage == "riding" and known.rides is not None and known.rides.count == 0 and not known.needs:
        yield NextStep(
            id="write-rides",
            urgency="better",
            title="Write the next ride down",
            why=say("Kilometres, and volts before and after: five seconds, and the doubt of the range is halved."),
            label="To the rides",
            room="rides",
        )


def odd_rides(known: Known) -> Iterator[NextStep]:
    """A ride that contradicts the others: mistyped, or the board changed."""
    if known.rides is not None and known.rides.odd:
        many = len(known.rides.odd)
        yield NextStep(
            id="odd-rides",
            urgency="better",
            title=f"{'A ride contradicts' if many == 1 else counted(many, 'ride') + ' contradict'} the others",
            why=say(
                "Mistyped, somebody else’s, or a sign that something drags. It counts for little until it is looked at."
            ),
            label="To the rides",
            room="learnt",
        )
