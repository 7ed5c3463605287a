"""How fast rides are learnt from, a track is read and judged, and the room of a thousand rides is opened."""

import time
from collections.abc import Callable

import numpy as np
from playwright.sync_api import Page

from boardmath import read_build
from boardmath.calibration.learning import Ridden, learn
from boardmath.calibration.report import calibration_report
from boardmath.calibration.ride import Ride
from boardmath.calibration.runs import summary
from planner.rides.files import read_track
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_tracks import gpx, ridden

Row = Callable[..., None]
Seconds = Callable[..., float]


def learning(row: Row, seconds: Seconds) -> None:
    """A season learnt from, and a track of 20,000 points read."""
    print("\nRides")
    build = read_build(changed(SPIT_RUNNER, {"assumptions.wind_ms": None}))

    def season(count: int) -> list[Ridden]:
        return [
            Ridden(
                Ride.model_validate(
                    {
                        "day": f"{2020 + i // 300}-{1 + i // 25 % 12:02d}-{1 + i % 25:02d}",
                        "way": {"distance_km": 9 + i % 7, "ascent_m": 50},
                        "pack": {"start_v": 41.4, "end_v": 38.4 - 0.05 * (i % 7)},
                    }
                ),
                build,
            )
            for i in range(count)
        ]

    for count, aim in ((5, "aim 300 ms"), (200, "aim 2,000 ms")):
        rides = season(count)
        row(f"learning from {count} rides", f"{seconds(lambda r=rides: learn(build, r), 3) * 1e3:.0f} ms", aim)
    rides = season(22)
    row("the same of 22, told ride by ride", f"{seconds(lambda: calibration_report(build, rides), 3) * 1e3:.0f} ms")
    speeds = 6.0 + np.sin(np.arange(20_000) / 90.0)
    track = gpx(ridden(list(speeds), list(8 + 6 * np.sin(np.arange(20_000) / 300.0)), turn_at=10_000))
    long = gpx(ridden([5.0] * 50_000, turn_at=25_000))
    row("GPX of 50,000 points, read", f"{seconds(lambda: read_track(long), 3) * 1e3:.0f} ms", "aim 2,000 ms")
    row("a track of 20,000 points, read and searched", f"{seconds(lambda: summary(read_track(track)), 3) * 1e3:.0f} ms")


def on_the_screen(page: Page, row: Row) -> None:
    """The room of a board with a thousand rides."""
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    head = {"X-CSRFToken": token, "Referer": page.url}
    document = changed(SPIT_RUNNER, {"stage": "riding", "name": "A thousand rides"})
    id = page.request.post("/api/builds/import", data=document, headers=head).json()["id"]
    rides = [
        {
            "ride": {
                "day": f"{2020 + i // 300}-{1 + i // 25 % 12:02d}-{1 + i % 25:02d}",
                "way": {"distance_km": 9 + i % 7},
            }
        }
        for i in range(1000)
    ]
    for first in (0, 500):
        page.request.post(f"/api/builds/{id}/rides", data={"rides": rides[first : first + 500]}, headers=head)
    waits = []
    for _ in range(5):
        page.goto("about:blank")
        begin = time.perf_counter()
        page.goto(f"/builds/{id}/rides")
        page.get_by_test_id("ride-line").first.wait_for()
        waits.append((time.perf_counter() - begin) * 1e3)
    row("the room with 1,000 rides, until they are listed", f"{np.median(waits):.0f} ms")
