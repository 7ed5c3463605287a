"""What happened lately, from the days that the pages have noted."""

from collections.abc import Iterator
from datetime import date

from pydantic import BaseModel

from boardmath.messages import Title, counted, message, sentence
from planner.navigation import PageSlug
from planner.overview.facts import BuildFacts
from planner.overview.step import listed

MOST = 8


class Event(BaseModel):
    on: date
    what: Title
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
            what=message("Controller set (record {number}): {reason}", number=record.number, reason=record.reason),
            page="controller-settings",
        )
    for test in known.tests:
        verdict = _VERDICTS.get(test.standing, "saved unfinished")
        failed = message(": {steps}", steps=listed([f.lower() for f in test.failed])) if test.failed else None
        what = message("Bench test {verdict}{failed}", verdict=verdict, failed=failed)
        yield Event(on=test.on, what=what, page="bench-test")
    for worked in known.days:
        if worked.steps:
            photos = message(", {photos}", photos=counted(worked.photos, "photo")) if worked.photos else None
            yield Event(
                on=worked.on,
                what=message("{steps} done{photos}", steps=sentence(counted(worked.steps, "step")), photos=photos),
                page="assembly",
            )
        for trouble in worked.troubles:
            yield Event(on=worked.on, what=message("Problem: {trouble}", trouble=trouble), page="assembly")
    for on, km, word in known.rides.latest if known.rides is not None else ():
        rode = message("Rode {km}", km=(km, "distance")) if km is not None else message("Test ride")
        yield Event(on=on, what=message("{rode}: {word}", rode=rode, word=word) if word else rode, page="rides")
    for revision in known.revisions:
        yield Event(on=revision.on, what=message("Saved as “{name}”", name=revision.name), page="revisions")
    for order in known.build.orders or []:
        if order.ordered_on:
            yield Event(
                on=date.fromisoformat(order.ordered_on),
                what=message("Ordered: {name}", name=order.name),
                page="parts-list",
            )
    came: dict[tuple[str, bool], list[str]] = {}
    for line in known.lines:
        if line.arrived_on:
            name = line.name or line.kind
            came.setdefault((line.arrived_on, line.state == "faulty"), []).append(name)
    for (day, is_faulty), names in came.items():
        what = message("{parts} came faulty" if is_faulty else "{parts} arrived", parts=sentence(listed(names, 2)))
        yield Event(on=date.fromisoformat(day), what=what, page="parts-list")
    for aside in known.build.accepted or []:
        if aside.day:
            yield Event(
                on=date.fromisoformat(aside.day),
                what=message("Risk accepted: {reason}", reason=aside.reason),
                page="design",
            )
    for mark in known.build.measured or []:
        if mark.day:
            measured = mark.path.split(".")[-1].replace("_", " ")
            what = (
                message("Measured, {by}: {what}", by=mark.by, what=measured)
                if mark.by
                else message("Measured: {what}", what=measured)
            )
            yield Event(on=date.fromisoformat(mark.day), what=what, page="design")
