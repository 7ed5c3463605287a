"""What happened lately, from the days that the rooms have noted."""

from collections.abc import Iterator
from datetime import date

from pydantic import BaseModel

from boardmath.messages import counted, plain, sentence
from planner.navigation import RoomSlug
from planner.overview.facts import BuildFacts
from planner.overview.step import listed

MOST = 8


class Event(BaseModel):
    on: date
    what: str
    room: RoomSlug


_VERDICTS = {"passes": "passed", "fails": "failed", "unsure": "found something odd"}


def lately(known: BuildFacts) -> list[Event]:
    """The latest first, none of the future."""
    found = [e for e in _events(known) if e.on <= known.today]
    return sorted(found, key=lambda e: e.on, reverse=True)[:MOST]


def _events(known: BuildFacts) -> Iterator[Event]:
    for sheet in known.sheets:
        yield Event(on=sheet.on, what=f"Controller set, sheet {sheet.number}: {plain(sheet.reason)}", room="sheet")
    for test in known.tests:
        verdict = _VERDICTS.get(test.standing, "kept as far as it got")
        failed = f": {listed([f.lower() for f in test.failed])}" if test.failed else ""
        yield Event(on=test.on, what=f"Bench test {verdict}{failed}", room="benchtest")
    for worked in known.days:
        if worked.steps:
            with_photos = f", {counted(worked.photos, 'photo')}" if worked.photos else ""
            yield Event(
                on=worked.on,
                what=f"{sentence(counted(worked.steps, 'step'))} of the work done{with_photos}",
                room="assembly",
            )
        for trouble in worked.troubles:
            yield Event(on=worked.on, what=f"Went wrong: {plain(trouble)}", room="assembly")
    for on, km, word in known.rides.latest if known.rides is not None else ():
        what = f"Ridden, {km:g} km" if km is not None else "A test ridden"
        yield Event(on=on, what=f"{what}: {plain(word)}" if word else what, room="rides")
    for revision in known.revisions:
        yield Event(on=revision.on, what=f"Kept as “{plain(revision.name)}”", room="revisions")
    for order in known.build.orders or []:
        if order.ordered_on:
            yield Event(on=date.fromisoformat(order.ordered_on), what=f"Ordered: {plain(order.name)}", room="partslist")
    came: dict[tuple[str, bool], list[str]] = {}
    for line in known.lines:
        if line.arrived_on:
            name = plain(line.name or line.kind)
            came.setdefault((line.arrived_on, line.state == "faulty"), []).append(name)
    for (day, is_faulty), names in came.items():
        verb = "came faulty" if is_faulty else "arrived"
        yield Event(on=date.fromisoformat(day), what=sentence(f"{listed(names, 2)} {verb}"), room="partslist")
    for aside in known.build.set_aside or []:
        if aside.day:
            yield Event(on=date.fromisoformat(aside.day), what=f"Set aside: {plain(aside.word)}", room="bench")
    for mark in known.build.measured or []:
        if mark.day:
            what = f"Measured{', ' + plain(mark.by) if mark.by else ''}: {mark.path.split('.')[-1].replace('_', ' ')}"
            yield Event(on=date.fromisoformat(mark.day), what=what, room="bench")
