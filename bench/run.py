"""``make bench``: how fast the computation and the screen are, against the aims of docs/model.md. Never a test."""

import gzip
import json
import os
import platform
import subprocess
import sys
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import psycopg
from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "scripts")]

from boardmath.powertrain import Board, highest_speed, steepest_start  # noqa: E402
from boardmath.predict.distance import ride  # noqa: E402

from boardmath.arrays import board_of, nominal_board  # noqa: E402
from boardmath.benchtest import report_on  # noqa: E402
from boardmath.buildfile import check  # noqa: E402
from boardmath.buildfile.bench_test import BenchTest  # noqa: E402
from boardmath.buildfile.build import Parts  # noqa: E402
from boardmath.buildfile.drivetrain import Motors  # noqa: E402
from boardmath.buildfile.figures import Part  # noqa: E402
from boardmath.candidates import choice  # noqa: E402
from boardmath.choosing import KINDS  # noqa: E402
from boardmath.comparing import compare  # noqa: E402
from boardmath.curves import curves  # noqa: E402
from boardmath.fit.shapes import VIEWS  # noqa: E402
from boardmath.fit.transmission import stock_belts  # noqa: E402
from boardmath.fit.views import draw  # noqa: E402
from boardmath.parameters import resolve  # noqa: E402
from boardmath.partslist import parts_list  # noqa: E402
from boardmath.predict.promises import headlines  # noqa: E402
from boardmath.proposals import propose  # noqa: E402
from boardmath.report import glance, predict  # noqa: E402
from boardmath.settings import recommend, sheet  # noqa: E402
from controllerlink import writing  # noqa: E402
from controllerlink.link import Link  # noqa: E402
from tests.core.boards import SPIT_RUNNER, changed, spit_runner  # noqa: E402
from tests.core.scalar_model import ScalarBoard  # noqa: E402
from tests.link.linked import on_the_bench  # noqa: E402


def seconds(work: Callable[[], object], repeats: int = 5) -> float:
    """The best of some runs, after one to warm up."""
    work()
    times = []
    for _ in range(repeats):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return min(times)


def row(what: str, measured: str, aim: str = "") -> None:
    print(f"  {what:<58}{measured:>14}   {aim}", flush=True)


def swept_boards(count: int) -> Board:
    """``count`` different boards around the example: teeth, KV, cells, rider."""
    rng = np.random.default_rng(5)
    resolved = resolve(spit_runner())
    values = {name: np.full(count, i.value) for name, i in resolved.inputs.items()}
    fixed = {name: np.full(count, v) for name, v in resolved.fixed.items()}
    values["kv"] = rng.uniform(120, 250, count)
    values["phase_resistance"] = 31.0 * (170.0 / values["kv"]) ** 2
    values["crr"] = rng.uniform(0.01, 0.03, count)
    fixed["gear"] = rng.uniform(2.0, 5.0, count)
    fixed["series"] = rng.integers(6, 13, count).astype(float)
    fixed["taper_start"], fixed["taper_end"] = 3.4 * fixed["series"], 3.1 * fixed["series"]
    fixed["load"] = rng.uniform(50, 120, count)
    return board_of(values, fixed)


def shared_library() -> dict[str, list[Part]]:
    """The demonstration's parts as the core reads them."""
    parts = json.loads((ROOT / "server/demo/data/library.json").read_text())
    return {kind: [check(KINDS[kind], {**p, "currency": "EUR"}) for p in of_kind] for kind, of_kind in parts.items()}


def computation() -> None:
    print("\nThe computation (best of five)")
    build = spit_runner()
    row(
        "one build, every result, no bands", f"{seconds(lambda: predict(build, bands=False)) * 1e3:.1f} ms", "aim 15 ms"
    )
    row(
        "one build with 256 samples and what widens the bands",
        f"{seconds(lambda: predict(build)) * 1e3:.1f} ms",
        "aim 150 ms",
    )
    row("one build at a glance: promises with bands", f"{seconds(lambda: glance(build)) * 1e3:.1f} ms")
    row("all curves of a build with bands", f"{seconds(lambda: curves(build)) * 1e3:.1f} ms")
    motors = [spit_runner(parts__motors__kv_rpm_per_v=120 + 3 * i) for i in range(40)]
    row(
        "forty candidates for a slot, all headline results",
        f"{seconds(lambda: headlines(motors)) * 1e3:.1f} ms",
        "aim 100 ms",
    )
    shelf = [spit_runner(rider__mass_kg=50 + i) for i in range(50)]
    row("a shelf of fifty builds with bands", f"{seconds(lambda: headlines(shelf, 64)) * 1e3:.1f} ms")

    four = [spit_runner(parts__drive__motor_teeth=12 + i) for i in range(4)]
    row(
        "four builds side by side with laid-over curves", f"{seconds(lambda: compare(four, list('abcd'))) * 1e3:.0f} ms"
    )
    row(
        "a parts list with everything that it shows", f"{seconds(lambda: parts_list(build, date.today())) * 1e3:.0f} ms"
    )

    library = [Motors(name=f"KV {i}", kind="outrunner", kv_rpm_per_v=100 + i, can_diameter_mm=63) for i in range(200)]
    for count, aim in ((40, "aim 150 ms at the screen"), (200, "")):
        parts = library[:count]
        row(
            f"table of {count} candidates: changes, what fits, best first",
            f"{seconds(lambda p=parts: choice(build, 'motors', p), 3) * 1e3:.0f} ms",
            aim,
        )
    row("one drawing; all four with the stock belts", f"{seconds(lambda: draw(build, 'side')) * 1e3:.1f} ms; "
        f"{seconds(lambda: [stock_belts(build), *(draw(build, v) for v in VIEWS)]) * 1e3:.1f} ms")  # fmt: skip
    brief = build.model_copy(update={"parts": Parts()})
    row(
        "proposals from a brief, the demonstration’s library",
        f"{seconds(lambda: propose(brief, shared_library()), 2):.1f} s",
    )

    many = swept_boards(10_000)

    def sweep() -> None:
        highest_speed(many, 0.0, 0.9)
        steepest_start(many, 0.9)
        ride(many)

    row("10,000 candidates: top speed, steepest start, range", f"{seconds(sweep, 3):.2f} s", "aim 1.5 s")


def against_the_scalar_model(count: int = 1000) -> None:
    """The same results of the same builds by the plain SciPy model of the tests; also checks that they agree."""
    builds = [
        resolve(spit_runner(rider__mass_kg=50 + 0.07 * i, parts__drive__motor_teeth=11 + i % 9)) for i in range(count)
    ]
    board = nominal_board(builds)

    def fast() -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return highest_speed(board, 0.0, 0.9)[0], steepest_start(board, 0.9)[0], ride(board).range

    fast_time = seconds(fast, 3)
    begin = time.perf_counter()
    scalar = [(b.top_speed(), b.start_grade(), b.range()) for b in map(ScalarBoard, builds)]
    scalar_time = time.perf_counter() - begin
    worst = np.max(np.abs(np.array(fast()).T / np.array(scalar) - 1.0))
    row(f"{count:,} builds: the engine", f"{fast_time * 1e3:.0f} ms")
    row(f"{count:,} builds: plain scalar SciPy", f"{scalar_time:.1f} s")
    row("ratio", f"{scalar_time / fast_time:.0f} x", "aim 100 x")
    row("largest difference between the two", f"{worst * 100:.3f} %", "aim 0.5 %")


def the_controller() -> None:
    """The sheet, the bench test, and the talk with a simulated controller in this process."""
    print("\nThe controller")
    build = spit_runner()
    row("the sheet: every recommended value and what it would change", f"{seconds(lambda: sheet(build)) * 1e3:.0f} ms")
    entered = BenchTest(wheels_free=True, pack_v=40.4, cut_off_ends_v=31.0)
    row("a bench test judged against the prediction", f"{seconds(lambda: report_on(build, entered)) * 1e3:.0f} ms")
    values = {r.field: r.value for r in recommend(build)}
    for over in ("tcp", "pty"):
        with TemporaryDirectory() as folder, on_the_bench(build, over, Path(folder), patience=5.0) as (link, device):
            wanted = {k: v for k, v in values.items() if k in device.ranges}

            def write(link: Link = link, wanted: dict[str, object] = wanted) -> None:
                link.ask("reset")
                assert writing.write(link, wanted).verdict == "as wanted"

            row(f"{len(wanted)} values set and read back, {over}", f"{seconds(write) * 1e3:.0f} ms")

            def watch(link: Link = link) -> None:
                link.ask("watch", count=10_000, fast=True)
                assert sum(1 for _ in link.told(120)) == 10_000

            row(f"10,000 messages without loss, {over}", f"{seconds(watch, 1):.2f} s")


def first_load() -> None:
    """Everything that the first page loads, compressed as it is sent."""
    dist = ROOT / "frontend" / "dist"
    page = (dist / "index.html").read_text()
    total = len(gzip.compress(page.encode()))
    used = [p for p in (dist / "assets").iterdir() if p.name in page or p.suffix == ".css"]
    fonts = [p for p in (dist / "assets").glob("*latin-*.woff2") if "ext" not in p.name]
    for path in (*used, *fonts):
        brotli = path.with_name(path.name + ".br")
        total += (brotli if brotli.exists() else path).stat().st_size
    print("\nThe interface")
    row("first load, compressed (page, script, styles, Latin fonts)", f"{total / 1000:.0f} kB", "aim 200 kB")


def on_the_screen() -> None:
    """From a key to a moved staff, and other waits, in headless Chromium against the real server."""
    from serving import demonstration

    from tests.screens.conftest import CHROMIUM

    with demonstration() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=address)
        page.goto(address)
        page.get_by_role("button", name="Enter the demo workshop").click()
        page.get_by_role("link", name="Hide round").click()
        page.get_by_test_id("staff-speed").wait_for()
        page.get_by_test_id("station-drive").click()
        page.get_by_role("button", name="Drive’s figures").click()
        page.locator('[data-path="parts.drive.motor_teeth"] input').focus()
        page.wait_for_timeout(2000)  # both processes have answered once, and the whole prediction is there
        waits = [page.evaluate(_KEY_TO_STAFF, key) for key in ["ArrowUp", "ArrowDown"] * 12][4:]
        row("key press to moved staff, median of twenty", f"{np.median(waits):.0f} ms", "aim 150 ms")
        row("key press to moved staff, slowest of twenty", f"{max(waits):.0f} ms")
        for count, aim in ((40, "aim 150 ms"), (200, "")):
            motors_in_the_library(count)
            waits = []
            for _ in range(6):
                page.get_by_test_id("station-remote").click()
                page.wait_for_timeout(1500)  # the last whole prediction is through
                waits.append(page.evaluate(_CLICK_TO_TABLE, count))
            row(f"station opened to {count} candidates painted, median", f"{np.median(waits[1:]):.0f} ms", aim)
        begin = time.perf_counter()
        page.get_by_role("button", name="underneath").click()
        page.get_by_role("img", name="From underneath").wait_for()
        row("view turned to drawing painted", f"{(time.perf_counter() - begin) * 1e3:.0f} ms")
        page.get_by_test_id("station-brief").click()
        begin = time.perf_counter()
        page.get_by_role("button", name="Propose boards").click()
        page.get_by_test_id("proposal").first.wait_for(timeout=120_000)
        row("brief to proposals shown", f"{time.perf_counter() - begin:.1f} s")
        page.get_by_role("button", name="Close").click()
        page.get_by_role("link", name="Drawings").click()
        begin = time.perf_counter()
        page.get_by_test_id("drawing-drive").wait_for()
        row("drawings opened to all four painted", f"{(time.perf_counter() - begin) * 1e3:.0f} ms")
        fifty_builds_and_five_hundred_parts()
        for what, address_of, mark in (
            ("shelf of fifty opened to its first twelve painted", "#/", "shelf-build"),
            ("library of five hundred opened to its first page painted", "#/library", "part"),
            (
                "four builds of the shelf side by side, curves painted",
                "#/compare/" + ",".join(ids_of(page)[:4]),
                "plot-charge",
            ),
        ):
            waits = []
            for _ in range(4):
                page.goto("about:blank")
                begin = time.perf_counter()
                page.goto(f"{address}/{address_of}")
                page.get_by_test_id(mark).first.wait_for()
                waits.append((time.perf_counter() - begin) * 1e3)
            row(what + ", page load in", f"{np.median(waits[1:]):.0f} ms")
        browser.close()


def ids_of(page: Page) -> list[str]:
    return [b["id"] for b in page.request.get("/api/builds/names").json()]


def fifty_builds_and_five_hundred_parts() -> None:
    """Copies on the demonstration's shelf and in its library."""
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as connection:
        connection.execute(
            "INSERT INTO workshop_build (id, owner_id, document, revision, created_at, updated_at) "
            "SELECT gen_random_uuid(), owner_id, document, 1, now(), now() "
            "FROM (SELECT * FROM workshop_build WHERE document->>'name' = 'Hide round') one, generate_series(1, 47)"
        )
    motors_in_the_library(500)


def motors_in_the_library(count: int) -> None:
    """Copies of a motor, so that the shared library has ``count`` of them."""
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as connection:
        shared = "SELECT count(*) FROM workshop_part WHERE kind = 'motors' AND owner_id IS NULL"
        (have,) = connection.execute(shared).fetchone() or (0,)
        connection.execute(
            "INSERT INTO workshop_part (id, kind, name, maker, price, currency, mass_g, source, figures) "
            "SELECT gen_random_uuid(), kind, name || ' ' || n, maker, price, currency, mass_g, source, figures "
            "FROM (SELECT * FROM workshop_part WHERE kind = 'motors' AND owner_id IS NULL ORDER BY name LIMIT 1) one, "
            "generate_series(%s::int, %s::int) n",
            (have + 1, count),
        )


_CLICK_TO_TABLE = """count => new Promise(resolve => {
  const begin = performance.now();
  const look = () => {
    const rows = document.querySelectorAll('[data-testid=candidate][data-name*=KV]').length;
    if (rows >= count) requestAnimationFrame(() => resolve(performance.now() - begin));
    else requestAnimationFrame(look);
  };
  document.querySelector('[data-testid=station-motor]').click();
  look();
})"""


_KEY_TO_STAFF = """key => new Promise(resolve => {
  const staff = document.querySelector('[data-testid=staff-speed]');
  const before = staff.dataset.mid;
  const begin = performance.now();
  new MutationObserver((_, observer) => {
    if (staff.dataset.mid === before) return;
    observer.disconnect();
    requestAnimationFrame(() => resolve(performance.now() - begin));
  }).observe(staff, {attributes: true});
  document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}));
})"""


def command_line() -> None:
    document = json.dumps(changed(SPIT_RUNNER, {"name": "bench"}))
    command = [sys.executable, "-m", "boardmath", "predict", "-"]

    def run() -> None:
        subprocess.run(command, input=document, text=True, stdout=subprocess.DEVNULL, cwd=ROOT)

    row("python -m boardmath predict, start to end", f"{seconds(run, 3):.2f} s")


if __name__ == "__main__":
    print(f"{platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}, NumPy {np.__version__}")
    computation()
    against_the_scalar_model()
    command_line()
    the_controller()
    first_load()
    on_the_screen()
