"""How fast the work at a board is: its steps and their report, and the room opened with eighty steps and sixty photos."""

import os
import time
import uuid
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from io import BytesIO

import numpy as np
import psycopg
from PIL import Image
from playwright.sync_api import Page

from boardmath.buildfile import read_build, write_build
from boardmath.buildfile.build import Build
from planner.assembly.plan import assembly, steps_of
from planner.assembly.report import assembly_report
from server.demo.drawn import of_the_board
from tests.core.assembled import Written, board

STEPS, PHOTOS = 80, 60
Row = Callable[..., None]
Seconds = Callable[..., float]


def steps_of_a_build(row: Row, seconds: Seconds) -> None:
    """Steps of a build that nobody has asked before, and how they stand."""
    print("\nThe work at a board")
    document = write_build(board("two boxes", parts__pack__cell__price=3, parts__motors__count=2))
    builds: list[Build] = [read_build(document) for _ in range(60)]
    waiting = iter(builds)

    def fresh() -> None:
        assembly(next(waiting))

    count = len(steps_of(builds[-1]))
    row(f"{count} steps of a build, nothing known of it", f"{seconds(fresh, 20) * 1e3:.1f} ms", "aim 30 ms")
    written = Written(builds[-1]).all_done()
    log = written.log
    report = seconds(lambda: assembly_report(next(waiting), log, date(2026, 5, 6)), 10)
    row(f"how {count} steps stand, all of them ticked, drawn", f"{report * 1e3:.1f} ms", "aim 50 ms")
    bare = seconds(lambda: assembly_report(next(waiting), log, date(2026, 5, 6), drawn=False), 10)
    row("the same for whoever only asks how it stands", f"{bare * 1e3:.1f} ms", "aim 15 ms")


def on_the_screen(page: Page, row: Row) -> None:
    """The room of the demonstration's half-built board, filled up to eighty ticks and sixty photos."""
    boards = page.request.get("/api/boards").json()["builds"]
    id = next(b["id"] for b in boards if b["name"] == "Ferry steps")
    _fill(id)
    page.goto(f"/builds/{id}/assembly")
    page.get_by_test_id("step-card").wait_for()
    waits, logs = [], []
    for _ in range(5):
        page.goto("about:blank")
        begin = time.perf_counter()
        page.goto(f"/builds/{id}/assembly")
        page.get_by_test_id("step-card").wait_for()
        waits.append((time.perf_counter() - begin) * 1e3)
        begin = time.perf_counter()
        page.get_by_role("button", name="Log", exact=True).click()
        page.get_by_test_id("log-line").nth(STEPS).wait_for()
        logs.append((time.perf_counter() - begin) * 1e3)
    row(
        f"assembly opened, {STEPS} ticks and {PHOTOS} photos, page load in",
        f"{np.median(waits[1:]):.0f} ms",
        "aim 800 ms",
    )
    row("from there to its log painted", f"{np.median(logs[1:]):.0f} ms", "aim 300 ms")


def _fill(id: str) -> None:
    """Entries and photos straight into the database: what a weekend with a phone leaves."""
    begun = datetime(2026, 11, 20, 9, tzinfo=UTC)
    data = of_the_board(board(), "under", 1)
    picture, file = Image.open(BytesIO(data)), BytesIO()
    picture.thumbnail((360, 360))
    picture.save(file, "JPEG", quality=80)
    small = file.getvalue()
    steps = [s.id for s in assembly(board())]
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as connection:
        for n in range(STEPS + PHOTOS):
            kind = "done" if n < STEPS else "photographed"
            entry, at, step = uuid.uuid4(), begun + timedelta(minutes=n), steps[n % len(steps)]
            said = f'{{"kind": "{kind}", "id": "{entry}", "at": "{at.isoformat()}", "by": "warden", "step": "{step}"}}'
            connection.execute(
                "INSERT INTO assembly_logentry (build_id, entry, kind, step, at, said, received_at)"
                " VALUES (%s, %s, %s, %s, %s, %s, %s)",
                (id, entry, kind, step, at, said, at),
            )
            if kind == "photographed":
                connection.execute(
                    "INSERT INTO assembly_photo (id, build_id, entry, kind, size, data, small, created_at)"
                    " VALUES (%s, %s, %s, 'image/jpeg', %s, %s, %s, %s)",
                    (uuid.uuid4(), id, entry, len(data), data, small, at),
                )
