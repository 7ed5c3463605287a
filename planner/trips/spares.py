"""What to carry, by what would strand one. Common practice, no source."""

from collections.abc import Iterator

from pydantic import BaseModel

from boardmath.buildfile import Build
from boardmath.buildfile.trips import Trip
from boardmath.messages import Message, message
from boardmath.model.bricks import bricks_of
from boardmath.model.inputs import drive_kind
from boardmath.model.wheel_materials import material_of


class Carried(BaseModel):
    """A thing to carry, and what it is for."""

    id: str
    what: Message
    why: Message


def to_carry(build: Build, trip: Trip, hours: float, dark: bool) -> list[Carried]:
    """Spares and tools for this board on this trip; ``hours`` under way on the longest day."""
    return [Carried(id=id, what=what, why=why) for id, what, why in _all(build, trip, hours, dark)]


def _all(build: Build, trip: Trip, hours: float, dark: bool) -> Iterator[tuple[str, Message, Message]]:
    parts, kind = build.parts, drive_kind(build)
    if kind == "belt":
        drive = parts.drive
        teeth = f", {drive.belt_teeth} teeth" if drive is not None and drive.belt_teeth else ""
        yield (
            "belt",
            message("A spare belt{teeth}, one for each length", teeth=teeth),
            message("A torn belt ends the ride, and the brake."),
        )
    if kind == "chain":
        yield "link", message("A chain link and its pliers"), message("A chain that opens ends the ride.")
    if kind in ("belt", "chain"):
        yield (
            "keys",
            message("Keys for wheel nuts, motor screws and grub screws"),
            message("To tighten what has moved, and to change a belt."),
        )
    else:
        yield "keys", message("Keys for wheel nuts and truck nuts"), message("To tighten what has worked loose.")
    if parts.wheels is not None and material_of(parts.wheels).inflated:
        yield "tube", message("A tube, patches, levers and a pump"), message("You cannot ride on a flat tyre.")
    if parts.fuse is not None:
        yield (
            "fuse",
            message("A spare fuse"),
            message("Only once you have found the reason: what blew it is still there."),
        )
    stops = [leg.then for d in trip.days for leg in d.legs if leg.then is not None]
    if any(s.kind in ("charge", "night") for s in stops):
        each = " and its balance lead" if parts.pack is not None and bricks_of(parts.pack) > 1 else ""
        yield (
            "charger",
            message("The charger{each}, its mains lead, an adaptor", each=each),
            message("The trip counts on charging."),
        )
    if trip.swap_packs or trip.packs_beside:
        yield (
            "caps",
            message("Caps on every plug, packs in a padded bag"),
            message("Two open plugs that touch in a bag start a fire. In parallel only within 0.1 V of each other."),
        )
    runtime = parts.remote.runtime_h if parts.remote is not None else None
    if runtime is None or runtime < 2.0 * hours:
        lasts = (
            message("It lasts {h}.", h=(runtime, "hours"))
            if runtime is not None
            else message("Its running time is not stated.")
        )
        yield "remote", message("The remote's cable, and something to charge it from"), lasts
    if dark:
        yield "lights", message("Lights, front and back"), message("Part of the trip is in the dark.")
    yield (
        "walk",
        message("Shoes to walk in, water, a charged phone"),
        message("The last kilometres on foot are the usual price of a wrong guess."),
    )
    yield "safety", message("Helmet, pads, gloves; a first-aid kit"), message("Far from home, help is far too.")
