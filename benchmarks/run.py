"""``make bench``: how fast the computation and the screen are, against the aims of docs/model.md. Never a test."""

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

import further  # noqa: E402
import rides  # noqa: E402
import work  # noqa: E402

from boardmath.battery.balance_leads import judged  # noqa: E402
from boardmath.battery.cell_sorting import sort_cells  # noqa: E402
from boardmath.buildfile import check, read_build  # noqa: E402
from boardmath.buildfile.bench_test import BenchTest  # noqa: E402
from boardmath.buildfile.build import Build, Parts  # noqa: E402
from boardmath.buildfile.drivetrain import Motors  # noqa: E402
from boardmath.buildfile.electrics import Cell, Pack  # noqa: E402
from boardmath.buildfile.figures import Part  # noqa: E402
from boardmath.engine import sweeps  # noqa: E402
from boardmath.engine.boards import Boards, stacked  # noqa: E402
from boardmath.engine.boards import changed as altered  # noqa: E402
from boardmath.geometry.shapes import VIEWS  # noqa: E402
from boardmath.geometry.transmission import stock_belts  # noqa: E402
from boardmath.geometry.views.view import draw  # noqa: E402
from boardmath.model.resolution import resolve  # noqa: E402
from boardmath.model.sampling import FEW, SAMPLES, nominal_boards  # noqa: E402
from boardmath.parts.part_types import KINDS  # noqa: E402
from boardmath.prediction.curves import curves  # noqa: E402
from boardmath.prediction.outcomes import headlines  # noqa: E402
from boardmath.predictor import predict  # noqa: E402
from controller import writing  # noqa: E402
from controller.link import Link  # noqa: E402
from planner.bench_test import report_on  # noqa: E402
from planner.charging.report import charging_report  # noqa: E402
from planner.compare import compare  # noqa: E402
from planner.controller_settings import controller_settings, recommend  # noqa: E402
from planner.design.candidates import choice  # noqa: E402
from planner.design.proposals import propose  # noqa: E402
from planner.enclosure.plan import enclosure_plan  # noqa: E402
from planner.enclosure.report import enclosure_reports  # noqa: E402
from planner.enclosure.solid import pieces  # noqa: E402
from planner.enclosure.solid import written as solid_written  # noqa: E402
from planner.overview import BuildFacts, Overview, overview  # noqa: E402
from planner.pack.report import pack_report  # noqa: E402
from planner.parts_list.lines import parts_list  # noqa: E402
from planner.wiring.report import wiring_report  # noqa: E402
from tests.controller.linked import on_the_bench  # noqa: E402
from tests.core.boards import SPIT_RUNNER, changed, spit_runner  # noqa: E402
from tests.core.scalar_model import ScalarBoard  # noqa: E402
from tests.core.test_cells import best_by_solver  # noqa: E402


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


def swept_boards(count: int) -> Boards:
    """``count`` different boards around the example: teeth, KV, cells, rider."""
    rng = np.random.default_rng(5)
    every = stacked([nominal_boards([resolve(spit_runner(assumptions__wind_ms=None))])] * count)
    kv = rng.uniform(120, 250, count)
    series = rng.integers(6, 13, count).astype(float)
    return altered(
        every,
        kv=kv * 2.0 * np.pi / 60.0,
        phase_resistance=0.031 * (170.0 / kv) ** 2,
        crr=rng.uniform(0.01, 0.03, count),
        gear=rng.uniform(2.0, 5.0, count),
        series=series,
        taper_start=3.4 * series,
        taper_end=3.1 * series,
        rolling_mass=every.rolling_mass - 79.0 + rng.uniform(50, 120, count),
    )


def shared_library() -> dict[str, list[Part]]:
    """The demonstration's parts as the core reads them."""
    parts = json.loads((ROOT / "server/demo/data/library.json").read_text())
    return {
        kind: [check(KINDS[kind].model, {**p, "currency": "EUR"}) for p in of_kind] for kind, of_kind in parts.items()
    }


class TimedBoard(ScalarBoard):
    """The independent model, which rides anew every time: only its own class remembers its rides."""


def computation() -> None:
    print("\nThe computation (best of nine)")
    build = spit_runner(assumptions__wind_ms=None)

    def ms(work: Callable[[], object], repeats: int = 9) -> float:
        return seconds(work, repeats) * 1e3

    own = TimedBoard(resolve(build))

    def plain() -> object:
        return own.top_speed(), own.start_grade(), own.ride()

    scalar = ms(plain, 2)
    row("speed, start and range of one build, plain scalar SciPy", f"{scalar:.0f} ms")

    def against(what: str, took: float, aim: str, boards: int = 1) -> None:
        """A time, and how many times as long plain SciPy takes for speed, start and range alone of as many boards."""
        row(what, f"{took:.1f} ms", f"{aim}; {scalar * boards / took:,.0f} x SciPy")

    against("one build, every result, no bands", ms(lambda: predict(build, bands=False)), "aim 5 ms")
    against(
        f"one build, every result and every band, {SAMPLES} samples", ms(lambda: predict(build)), "aim 25 ms", SAMPLES
    )
    against("its outcomes with bands alone, 128 samples", ms(lambda: headlines([build], FEW)), "aim 3 ms", FEW)
    row("all curves of a build with bands", f"{ms(lambda: curves(build)):.1f} ms")
    library = [Motors(name=f"KV {i}", kind="outrunner", kv_rpm_per_v=100 + i, can_diameter_mm=63) for i in range(200)]
    for count, aim in ((40, "aim 20 ms"), (200, "no aim")):
        parts = library[:count]
        took = ms(lambda p=parts: choice(build, "motors", p), 5)
        against(f"{count} candidates with bands of the change, fit, findings", took, aim, count)
    many = swept_boards(10_000)

    def sweep() -> None:
        sweeps.headlines(many)
        sweeps.rides(many)

    against("10,000 boards: top speed, steepest start, range", ms(sweep, 5), "aim 80 ms", 10_000)
    brief = build.model_copy(update={"parts": Parts()})
    offered = shared_library()
    row(
        "proposals from the demonstration’s library",
        f"{seconds(lambda: propose(brief, offered), 2):.1f} s",
        "aim 0.6 s",
    )
    imported = seconds(
        lambda: subprocess.run([sys.executable, "-c", "import boardmath.predictor"], cwd=ROOT, check=True), 3
    )
    row("import of the core, compiled code cached, with Python itself", f"{imported:.2f} s", "aim 1.5 s")

    boards = [spit_runner(rider__mass_kg=50 + i) for i in range(50)]
    row("a list of fifty boards with bands", f"{ms(lambda: headlines(boards, FEW), 3):.1f} ms")
    four = [spit_runner(parts__drive__motor_teeth=12 + i) for i in range(4)]
    row("four builds side by side with laid-over curves", f"{ms(lambda: compare(four, list('abcd')), 3):.0f} ms")
    row("where a board stands, everything asked of it", f"{ms(lambda: where_it_stands(build), 3):.0f} ms")
    row("a parts list with everything that it shows", f"{ms(lambda: parts_list(build, date.today()), 3):.0f} ms")
    views = ms(lambda: [stock_belts(build), *(draw(build, v) for v in VIEWS)])
    two = spit_runner(
        parts__deck__length_mm=1000,
        parts__deck__wheelbase_mm=780,
        parts__enclosure={"length_mm": 370, "width_mm": 180, "depth_mm": 34, "seat": "moulded"},
        parts__second_enclosure={"length_mm": 160, "width_mm": 150, "depth_mm": 34, "seat": "moulded"},
    )
    of_two = ms(lambda: [draw(two.model_copy(), v) for v in VIEWS])
    row("the four views with two boxes, nothing known before", f"{of_two:.1f} ms", "aim 40 ms")
    made = ms(lambda: [solid_written(p, "stl") for p in pieces(enclosure_plan(two))], 3)
    row("a box's solid to the deck's shape, as STL", f"{made:.0f} ms", "aim 2,000 ms")
    row("both boxes with picture, foam and clearances", f"{ms(lambda: enclosure_reports(two), 3):.0f} ms")
    row("one drawing; all four with the stock belts", f"{ms(lambda: draw(build, 'side')):.1f} ms; {views:.1f} ms")


def against_the_scalar_model(count: int = 40) -> None:
    """The same results of the same builds by the plain SciPy model of the tests; also checks that they agree."""
    builds = [
        resolve(spit_runner(rider__mass_kg=50 + 1.7 * i, parts__drive__motor_teeth=11 + i % 9)) for i in range(count)
    ]
    boards = nominal_boards(builds)

    def fast() -> np.ndarray:
        line = sweeps.headlines(boards)
        return np.array([line.top_speed, line.start_grade, sweeps.rides(boards).range]).T

    fast_time = seconds(fast, 5)
    begin = time.perf_counter()
    scalar = [(b.top_speed(), b.start_grade(), b.range()) for b in map(TimedBoard, builds)]
    scalar_time = time.perf_counter() - begin
    worst = np.max(np.abs(fast() / np.array(scalar) - 1.0))
    row(f"{count:,} builds: the engine", f"{fast_time * 1e3:.1f} ms")
    row(f"{count:,} builds: plain scalar SciPy", f"{scalar_time:.1f} s")
    row("ratio", f"{scalar_time / fast_time:,.0f} x", "aim 1,000 x")
    row("largest difference between the two", f"{worst * 100:.2f} %", "aim 0.5 %")


def where_it_stands(build: Build) -> Overview:
    found = predict(build)
    known = BuildFacts(
        build=build, today=date.today(), findings=found.findings, outcomes=found.outcomes, prediction=found
    )
    return overview(known)


def the_pack() -> None:
    """Cells sorted, the pack's plan, leads, wiring; an exact solver beside the sorting where one can be waited for."""
    print("\nThe pack in the making")
    rng = np.random.default_rng(4)
    capacity, resistance = rng.normal(2.4, 0.15, 500), rng.normal(55.0, 5.0, 500)
    for series, parallel in ((20, 25), (14, 35)):
        took = seconds(lambda s=series, p=parallel: sort_cells(capacity, s, p, resistance), 3)
        found = sort_cells(capacity, series, parallel, resistance)
        below = 100.0 * (1.0 - capacity[found.groups].sum(axis=1).min() / found.bound_ah)
        row(
            f"500 cells into {series} x {parallel}, {below:.3f} % under the bound",
            f"{took * 1e3:.0f} ms",
            "aim 1,000 ms",
        )
    few = np.round(rng.normal(2.4, 0.15, 12), 2)
    exact, own = seconds(lambda: best_by_solver(few, 4, 3), 1), seconds(lambda: sort_cells(few, 4, 3), 3)
    row("12 cells into 4 x 3", f"{own * 1e3:.1f} ms", f"{exact / own:,.0f} x scipy.optimize.milp")
    long = {
        "parts.pack.series": 12,
        "parts.pack.parallel": 11,
        "parts.enclosure.depth_mm": 80,
        "pack_assembly.plan.strip": "copper",
    }
    large = changed(SPIT_RUNNER, long)
    row(
        "plan and drawing of 12 x 11",
        f"{seconds(lambda: pack_report(read_build(large)), 3) * 1e3:.0f} ms",
        "aim 100 ms",
    )
    row(
        "wiring, drawn, guarded, in order",
        f"{seconds(lambda: wiring_report(spit_runner()), 3) * 1e3:.1f} ms",
        "aim 50 ms",
    )
    board = Pack(series=16, cell=Cell(chemistry="nmc"))
    wrong = [0.0, 3.75, 11.25, 7.5]
    row(
        "a wrong lead among sixteen groups told",
        f"{seconds(lambda: judged(board, 50, wrong), 3) * 1e3:.1f} ms",
        "aim 50 ms",
    )
    row(
        "charging with its ceilings", f"{seconds(lambda: charging_report(spit_runner()), 3) * 1e3:.0f} ms", "aim 150 ms"
    )


def the_controller() -> None:
    """The settings record, the bench test, and the talk with a simulated controller in this process."""
    print("\nThe controller")
    build = spit_runner()
    row(
        "the settings record: every recommended value and what it would change",
        f"{seconds(lambda: controller_settings(build)) * 1e3:.0f} ms",
    )
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


_FETCHED = """() => [...performance.getEntriesByType('resource'), ...performance.getEntriesByType('navigation')]
  .filter((e) => !e.name.includes('/api/')).reduce((sum, e) => sum + e.transferSize, 0)"""


def first_load(page: Page, address: str) -> None:
    """Everything that a browser fetches until the list of boards is painted, compressed; the service worker comes after."""
    page.goto(address)
    page.get_by_role("button", name="Enter the demo workshop").click()
    page.get_by_test_id("board-listed").first.wait_for()
    page.evaluate("document.fonts.ready")
    row("first load to the list of boards, as sent", f"{page.evaluate(_FETCHED) / 1000:.0f} kB", "aim 200 kB")


def on_the_screen() -> None:
    """From a key to a moved gauge, and other waits, in headless Chromium against the real server."""
    from serving import demonstration
    from walking import launch, open_board, to_page

    with demonstration() as address, sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=address)
        print("\nThe interface")
        first_load(page, address)
        open_board(page, "Hide round", "Design")
        page.get_by_test_id("gauge-speed").wait_for()
        page.get_by_test_id("station-drive").click()
        page.get_by_role("button", name="Drive’s figures").click()
        page.locator('[data-path="parts.drive.motor_teeth"] input').focus()
        page.wait_for_timeout(2000)  # both processes have answered once, and the whole prediction is there
        waits = [page.evaluate(_KEY_TO_GAUGE, key) for key in ["ArrowUp", "ArrowDown"] * 12][4:]
        row("key press to moved gauge, median of twenty", f"{np.median(waits):.0f} ms", "aim 150 ms")
        row("key press to moved gauge, slowest of twenty", f"{max(waits):.0f} ms")
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
        to_page(page, "Drawings")
        begin = time.perf_counter()
        page.get_by_test_id("drawing-drive").wait_for()
        row("drawings opened to all four painted", f"{(time.perf_counter() - begin) * 1e3:.0f} ms")
        work.on_the_screen(page, row)
        rides.on_the_screen(page, row)
        fifty_builds_and_five_hundred_parts()
        for what, address_of, mark in (
            ("list of fifty boards opened to its first twelve painted", "", "board-listed"),
            ("library of five hundred opened to its first page painted", "library", "part"),
            (
                "four builds of the list of boards side by side, curves painted",
                "compare/" + ",".join(ids_of(page)[:4]),
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
    """Copies on the demonstration's boards and in its library."""
    with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as connection:
        connection.execute(
            "INSERT INTO workshop_build (id, owner_id, document, history, revision, created_at, updated_at) "
            "SELECT gen_random_uuid(), owner_id, document, history, 1, now(), now() "
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


_KEY_TO_GAUGE = """key => new Promise(resolve => {
  const gauge = document.querySelector('[data-testid=gauge-speed]');
  const before = gauge.dataset.mid;
  const begin = performance.now();
  new MutationObserver((_, observer) => {
    if (gauge.dataset.mid === before) return;
    observer.disconnect();
    requestAnimationFrame(() => resolve(performance.now() - begin));
  }).observe(gauge, {attributes: true});
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
    the_pack()
    the_controller()
    work.steps_of_a_build(row, seconds)
    rides.learning(row, seconds)
    further.exploring(row, seconds)
    on_the_screen()
