"""What happened lately, from the days that the pages have noted."""

from collections.abc import Iterator
from datetime import date

from pydantic import BaseModel

from boardmath.messages import counted, sentence
from planner.navigation import PageSlug
from planner.overview.facts import BuildFacts
from planner.overview.step import listed

MOST = 8


class Event(BaseModel):
    on: date
    what: str
    page: PageSlug


_VERDICTS = {"passes": "passed", "fails": "failed", "unsure": "found something unclear"}


def recent_events(known: BuildFacts) -> list[Event]:
    """The latest first, none of the future."""
    found = [e for e in _events(known) if e.on <= known.today]
    return sorted(found, key=lambda e: e.on, reverse=True)[:MOST]


def _events(known: BuildFacts) -> Iterator[Event]:
    for record in known.settings_records:
        yield Event(
            on=record.on,
            what=f"Controller set (record {record.number}): {record.reason}",
            page="controller-settings",
        )
    for test in known.tests:
        verdict = _VERDICTS.get(test.standing, "saved unfinished")
        failed = f": {listed([f.lower() for f in test.failed])}" if test.failed else ""
        yield Event(on=test.on, what=f"Bench test {verdict}{failed}", page="bench-test")
    for worked in known.days:
        if worked.steps:
            with_photos = f", {counted(worked.photos, 'photo')}" if worked.photos else ""
            yield Event(
                on=worked.on,
                what=f"{sentence(counted(worked.steps, 'step'))} done{with_photos}",
                page="assembly",
            )
        for trouble in worked.troubles:
            yield Event(on=worked.on, what=f"Problem: {trouble}", page="assembly")
    for on, km, word in known.rides.latest if known.rides is not None else ():
        what = f"Rode {km:g} km" if km is not None else "Test ride"
        yield Event(on=on, what=f"{what}: {word}" if word else what, page="rides")
    for revision in known.revisions:
        yield Event(on=revision.on, what=f"Saved as “{revision.name}”", page="revisions")
    for order in known.build.orders or []:
        if order.ordered_on:
            yield Event(on=date.fromisoformat(order.ordered_on), what=f"Ordered: {order.name}", page="parts-list")
    came: dict[tuple[str, bool], list[str]] = {}
    for line in known.lines:
        if line.arrived_on:
            name = line.name or line.kind
            came.setdefault((line.arrived_on, line.state == "faulty"), []).append(name)
    for (day, is_faulty), names in came.items():
        verb = "came faulty" if is_faulty else "arrived"
        yield Event(on=date.fromisoformat(day), what=sentence(f"{listed(names, 2)} {verb}"), page="parts-list")
    for aside in known.build.accepted or []:
        if aside.day:
            yield Event(on=date.fromisoformat(aside.day), what=f"Risk accepted: {aside.reason}", page="design")
    for mark in known.build.measured or []:
        if mark.day:
            what = f"Measured{', ' + mark.by if mark.by else ''}: {mark.path.split('.')[-1].replace('_', ' ')}"
            yield Event(on=date.fromisoformat(mark.day), what=what, page="design")
