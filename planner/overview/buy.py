"""Next steps of the parts list: what is late or came broken, what is still to order, what is forgotten."""

from collections.abc import Iterator

from boardmath.messages import counted, message, sentence
from planner.overview.facts import BuildFacts
from planner.overview.step import NextStep, listed
from planner.parts_list.lines import ListLine


def _name(line: ListLine) -> str:
    return line.name or line.kind


def late(known: BuildFacts) -> Iterator[NextStep]:
    """What should be here and is not, by order: one word with the shop for all of it."""
    by_order: dict[str | None, list[ListLine]] = {}
    for line in known.lines:
        if line.late_days:
            by_order.setdefault(line.order, []).append(line)
    for order, lines in by_order.items():
        days = max(line.late_days or 0 for line in lines)
        one = len(lines) == 1 and lines[0].count == 1
        seller = order or "the seller"
        yield NextStep(
            id=f"late-{order or lines[0].path}",
            urgency="late",
            title=message(
                "{parts} is {days} late" if one else "{parts} are {days} late",
                parts=sentence(listed([_name(line) for line in lines], 2)),
                days=counted(days, "day"),
            ),
            why=message("Ask {seller}, or buy elsewhere. The steps that need it have to wait.", seller=seller),
            label="Open the parts list",
            page="parts-list",
        )


def faulty(known: BuildFacts) -> Iterator[NextStep]:
    """What came and is no good."""
    for line in known.lines:
        if line.state == "faulty":
            yield NextStep(
                id=f"faulty-{line.path}",
                urgency="late",
                title=message("{name} arrived faulty", name=_name(line)),
                why=message("Ask the seller for a replacement, or choose another part. Do not fit it."),
                label="Open the parts list",
                page="parts-list",
            )


def order(known: BuildFacts) -> Iterator[NextStep]:
    """What is chosen and not bought, once the board is one that can be predicted and nothing of it is dangerous."""
    open_ = [line for line in known.lines if line.state == "to_order"]
    if not open_ or known.needs or known.dangers:
        return
    amounts = [line.amount for line in open_]
    priced = sum(a for a in amounts if a is not None)
    without = sum(a is None for a in amounts)
    lacking = f", and {counted(without, 'part')} without a price" if without else ""
    yield NextStep(
        id="order",
        urgency="next",
        title=message("Order {parts}", parts=counted(len(open_), "part")),
        why=message(
            "{lines}: {money}{lacking}, before shipping.",
            money=(priced, "money"),
            lines=sentence(listed([_name(line) for line in open_], 2)),
            lacking=lacking,
        ),
        label="Open the parts list",
        page="parts-list",
    )


def small_parts(known: BuildFacts) -> Iterator[NextStep]:
    """The bolts and plugs that the choices call for and nobody has put on the list."""
    if known.forgotten and not known.needs and known.stage != "riding":
        yield NextStep(
            id="forgotten",
            urgency="better",
            title=message("{parts} often forgotten", parts=sentence(counted(known.forgotten, "small part"))),
            why=message("Each is cheap, and a missing one stops the build for days. The list says why you need it."),
            label="See the small parts",
            page="parts-list",
        )
