"""The house: its storeys in the order of a board's life, and the rooms in each, under the one name that each has everywhere."""

from typing import Literal, get_args

from pydantic import BaseModel

RoomSlug = Literal[
    "stands",
    "bench",
    "explorer",
    "curves",
    "drawings",
    "box",
    "partslist",
    "cells",
    "pack",
    "taps",
    "wiring",
    "charging",
    "assembly",
    "sheet",
    "benchtest",
    "firstride",
    "rides",
    "learnt",
    "trips",
    "upkeep",
    "cameto",
    "revisions",
]
StoreySlug = Literal["plan", "buy", "build", "setup", "ride"]


class Room(BaseModel):
    """A room of a board. ``storey`` is None for those that are reached from the board's name."""

    slug: RoomSlug
    title: str
    storey: StoreySlug | None = None


class Storey(BaseModel):
    slug: StoreySlug
    title: str


STOREYS = [
    Storey(slug="plan", title="Plan"),
    Storey(slug="buy", title="Buy"),
    Storey(slug="build", title="Build"),
    Storey(slug="setup", title="Set up"),
    Storey(slug="ride", title="Ride"),
]
ROOMS = [
    Room(slug="stands", title="Where it stands"),
    Room(slug="bench", title="Bench", storey="plan"),
    Room(slug="explorer", title="Explorer", storey="plan"),
    Room(slug="curves", title="Curves", storey="plan"),
    Room(slug="drawings", title="Drawings", storey="plan"),
    Room(slug="box", title="Box", storey="plan"),
    Room(slug="partslist", title="Parts list", storey="buy"),
    Room(slug="cells", title="Cells", storey="build"),
    Room(slug="pack", title="Pack", storey="build"),
    Room(slug="taps", title="Balance wires", storey="build"),
    Room(slug="wiring", title="Wiring", storey="build"),
    Room(slug="charging", title="Charging", storey="build"),
    Room(slug="assembly", title="Assembly", storey="build"),
    Room(slug="sheet", title="Controller sheet", storey="setup"),
    Room(slug="benchtest", title="Bench test", storey="setup"),
    Room(slug="firstride", title="First ride", storey="setup"),
    Room(slug="rides", title="Rides", storey="ride"),
    Room(slug="learnt", title="What they taught", storey="ride"),
    Room(slug="trips", title="Trips", storey="ride"),
    Room(slug="upkeep", title="Upkeep", storey="ride"),
    Room(slug="cameto", title="What it came to", storey="ride"),
    Room(slug="revisions", title="Revisions"),
]
assert [r.slug for r in ROOMS] == list(get_args(RoomSlug))
