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
    """A page of a board. ``stage`` is None for those that are reached from the board's name.

    ``also`` are other names by which it is found.
    """

    slug: PageSlug
    title: str
    stage: StageSlug | None = None
    also: str = ""

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
    Page(slug="overview", title="Overview", also="dashboard, next steps, to do, progress"),
    Page(
        slug="design",
        title="Design",
        stage="plan",
        also="bench, calculator, configurator, specs, top speed, range, hill",
    ),
    Page(
        slug="explore", title="Explore", stage="plan", also="search, compare designs, optimise, best setup, suggestions"
    ),
    Page(slug="curves", title="Curves", stage="plan", also="graphs, charts, plots, torque curve, efficiency"),
    Page(slug="drawings", title="Drawings", stage="plan", also="blueprint, DXF, SVG, drill template, side view"),
    Page(
        slug="enclosure",
        title="Enclosure",
        stage="plan",
        also="box, case, battery box, STL, 3MF, 3D print, foam, gasket",
    ),
    Page(
        slug="parts-list",
        title="Parts list",
        stage="buy",
        also="BOM, bill of materials, shopping list, order, cart, cost, price, duty, shipping",
    ),
    Page(
        slug="cells",
        title="Cells",
        stage="build",
        also="18650, 21700, capacity test, internal resistance, IR, matching, salvage",
    ),
    Page(
        slug="pack",
        title="Pack",
        stage="build",
        also="battery, nickel strip, spot welding, p-group, cell layout, holder",
    ),
    Page(
        slug="balance-leads", title="Balance leads", stage="build", also="balance connector, sense wires, BMS harness"
    ),
    Page(
        slug="wiring",
        title="Wiring",
        stage="build",
        also="wiring diagram, circuit, schematic, AWG, fuse, connector, loop key, anti-spark",
    ),
    Page(slug="charging", title="Charging", stage="build", also="charger, charge time, balance charge, storage charge"),
    Page(
        slug="assembly",
        title="Assembly",
        stage="build",
        also="build steps, instructions, tools, screws, threadlocker, build log",
    ),
    Page(
        slug="controller-settings",
        title="Controller settings",
        stage="setup",
        also="ESC settings, speed controller, motor current, battery current, firmware parameters",
    ),
    Page(
        slug="bench-test",
        title="Bench test",
        stage="setup",
        also="checklist, first power-up, wheels off the ground, motor detection",
    ),
    Page(slug="first-ride", title="First ride", stage="setup", also="test ride, empty car park, shake-down"),
    Page(slug="rides", title="Rides", stage="ride", also="ride log, GPX, GPS track, import, telemetry"),
    Page(
        slug="calibration",
        title="Calibration",
        stage="ride",
        also="accuracy, learned, correction, measured against predicted",
    ),
    Page(slug="trips", title="Trips", stage="ride", also="route, tour, commute, can I make it, range anxiety"),
    Page(
        slug="maintenance",
        title="Maintenance",
        stage="ride",
        also="service, belt tension, bearings, winter storage, spares",
    ),
    Page(slug="review", title="Review", stage="ride", also="total cost, cost per kilometre, share, summary"),
    Page(slug="revisions", title="Revisions", also="versions, history, go back, snapshot"),
]
assert [r.slug for r in PAGES] == list(get_args(PageSlug))
