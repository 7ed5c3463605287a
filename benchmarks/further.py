"""How fast 100,000 boards are explored and a trip of 100 km is ridden."""

import json
import time
from collections.abc import Callable
from pathlib import Path

from boardmath import read_build
from boardmath.buildfile import check
from boardmath.buildfile.trips import Trip
from boardmath.model.sampling import SAMPLES
from boardmath.parts.part_types import KINDS
from planner.explore.report import exploration
from planner.explore.search import Explored, wanted_of
from planner.explore.space import Open, OpenNumber, Space
from planner.trips.report import trip_report
from planner.trips.riding import ride_trip
from tests.core.boards import SPIT_RUNNER, changed

Row = Callable[..., None]
Seconds = Callable[..., float]
LIBRARY = json.loads((Path(__file__).parents[1] / "server/demo/data/library.json").read_text())


def exploring(row: Row, seconds: Seconds) -> None:
    """Every board of a library with its chance, and a trip by all samples."""
    print("\nExplorer and trips")
    build = read_build(changed(SPIT_RUNNER, {"assumptions.wind_ms": None}))
    parts = {
        kind: [check(KINDS[kind].model, p) for p in LIBRARY[kind]]
        for kind in ("motors", "controller", "cell", "wheels")
    }
    free = {
        "motors.count": (1, 2, 1),
        "drive.motor_teeth": (10, 20, 1),
        "drive.wheel_teeth": (36, 48, 4),
        "pack.series": (6, 12, 2),
        "pack.parallel": (2, 8, 1),
    }
    numbers = [
        OpenNumber(path=f"parts.{path}", low=low, high=high, step=step) for path, (low, high, step) in free.items()
    ]
    wanted = wanted_of(build)

    def explored() -> tuple[float, float, Explored]:
        begun, first = time.perf_counter(), 0.0
        found = Explored(Space(build, parts, Open(kinds=["motors", "cell"], numbers=numbers)))
        for _ in found.run():
            if not first:
                exploration(found, wanted, whole=False)
                first = time.perf_counter() - begun
        found.chances(wanted)
        return first, time.perf_counter() - begun, found

    explored()
    first, whole, found = min((explored() for _ in range(3)), key=lambda r: r[1])
    row(f"{found.all:,} boards with chances", f"{whole:.2f} s", "aim 2 s for 100,000")
    row("the same, first picture", f"{first:.2f} s", "aim 0.5 s")
    row("front, picks, and what to give up", f"{seconds(lambda: exploration(found, wanted), 3) * 1e3:.0f} ms")
    legs = [
        {"distance_km": 25, "ascent_m": 150, "bearing_deg": d, "then": {"kind": "charge", "minutes": 90}}
        for d in (0, 90, 180, 270)
    ]
    trip = check(
        Trip, {"id": "t", "name": "t", "days": [{"weather": {"wind_ms": 4, "wind_from_deg": 250}, "legs": legs}]}
    )
    row(
        f"a trip of 100 km, {SAMPLES} samples",
        f"{seconds(lambda: ride_trip(build, trip, SAMPLES), 3) * 1e3:.0f} ms",
        "aim 300 ms",
    )
    row("the same with turning back and what helps", f"{seconds(lambda: trip_report(build, trip), 3) * 1e3:.0f} ms")
