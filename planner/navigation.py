"""The stages in the order of a board's life, and the pages in each, under the one name that each has everywhere."""

from typing import Literal, get_args

from pydantic import BaseModel

PageSlug = Literal[
    "overview",
    "design",
    "explore",
    "curves",
    "drawings",
    "enclosure",
    "parts-list",
    "cells",
    "pack",
    "balance-leads",
    "wiring",
    "charging",
    "assembly",
    "controller-settings",
    "bench-test",
    "first-ride",
    "rides",
    "calibration",
    "trips",
    "maintenance",
    "review",
    "revisions",
]
StageSlug = Literal["plan", "buy", "build", "setup", "ride"]


class Page(BaseModel):
    """A page of a board. ``stage`` is None for those that are reached from the board's name."""

    slug: PageSlug
    title: str
    stage: StageSlug | None = None

    @property
    def package(self) -> str:
        """Its folder in ``planner`` and ``server``; ``frontend/src/features`` has it under the slug."""
        return self.slug.replace("-", "_")


class Stage(BaseModel):
    slug: StageSlug
    title: str


STAGES = [
    Stage(slug="plan", title="Plan"),
    Stage(slug="buy", title="Buy"),
    Stage(slug="build", title="Build"),
    Stage(slug="setup", title="Set up"),
    Stage(slug="ride", title="Ride"),
]
PAGES = [
    Page(slug="overview", title="Overview"),
    Page(slug="design", title="Design", stage="plan"),
    Page(slug="explore", title="Explore", stage="plan"),
    Page(slug="curves", title="Curves", stage="plan"),
    Page(slug="drawings", title="Drawings", stage="plan"),
    Page(slug="enclosure", title="Enclosure", stage="plan"),
    Page(slug="parts-list", title="Parts list", stage="buy"),
    Page(slug="cells", title="Cells", stage="build"),
    Page(slug="pack", title="Pack", stage="build"),
    Page(slug="balance-leads", title="Balance leads", stage="build"),
    Page(slug="wiring", title="Wiring", stage="build"),
    Page(slug="charging", title="Charging", stage="build"),
    Page(slug="assembly", title="Assembly", stage="build"),
    Page(slug="controller-settings", title="Controller settings", stage="setup"),
    Page(slug="bench-test", title="Bench test", stage="setup"),
    Page(slug="first-ride", title="First ride", stage="setup"),
    Page(slug="rides", title="Rides", stage="ride"),
    Page(slug="calibration", title="Calibration", stage="ride"),
    Page(slug="trips", title="Trips", stage="ride"),
    Page(slug="maintenance", title="Maintenance", stage="ride"),
    Page(slug="review", title="Review", stage="ride"),
    Page(slug="revisions", title="Revisions"),
]
assert [r.slug for r in PAGES] == list(get_args(PageSlug))
