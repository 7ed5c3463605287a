"""The engine in processes of its own: compiled once and kept, the same as plain Python, and never older than its formulas."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from boardmath.engine import sweeps
from boardmath.model.resolution import resolve
from boardmath.model.sampling import boards, normal_scores
from tests.core.boards import spit_runner

ROOT = Path(__file__).resolve().parents[2]


def _python(code: str, cwd: Path = ROOT, **environment: str) -> subprocess.Popen[str]:
    surroundings = {**os.environ, "PYTHONPATH": str(cwd), **environment}
    return subprocess.Popen(
        [sys.executable, "-c", code],
        cwd=cwd,
        env=surroundings,
        text=True,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )


def _said(process: subprocess.Popen[str]):
    out, wrong = process.communicate(timeout=300)
    assert process.returncode == 0, wrong
    return json.loads(out)


SPEEDS = """
import json
from boardmath.engine import sweeps
from boardmath.engine.boards import FIELDS, boards_of
row = json.load(open({path!r}))
found = sweeps.headlines(boards_of(row, 1, 1))
print(json.dumps([float(found.top_speed[0]), float(found.start_grade[0])]))
"""


@pytest.fixture(scope="module")
def one_board(tmp_path_factory):
    """One board's numbers in a file, so that a process can ask the engine alone."""
    board = boards([resolve(spit_runner())], [normal_scores(0)])
    path = tmp_path_factory.mktemp("board") / "board.json"
    path.write_text(json.dumps({name: float(board[name][0]) for name in board.dtype.names}))
    found = sweeps.headlines(board)
    return str(path), [float(found.top_speed[0]), float(found.start_grade[0])]


def test_plain_python_says_what_the_compiled_code_says():
    """The debugging path and the coverage run: every result of a whole prediction, to nine digits."""
    code = """
import json
from boardmath import predict, read_build
from tests.core.boards import SPIT_RUNNER, changed
found = predict(read_build(changed(SPIT_RUNNER, {"parts.motors.count": 2, "assumptions.wind_ms": None})), bands=False)
print(found.model_dump_json(exclude={"findings", "why", "line"}))
"""
    compiled, plain = (_said(_python(code, NUMBA_DISABLE_JIT=d)) for d in ("0", "1"))

    def same(one, other, path=""):
        if isinstance(one, dict):
            assert one.keys() == other.keys(), path
            for key in one:
                same(one[key], other[key], f"{path}.{key}")
        elif isinstance(one, list):
            for i, pair in enumerate(zip(one, other, strict=True)):
                same(*pair, f"{path}[{i}]")
        elif isinstance(one, float):
            assert one == pytest.approx(other, rel=1e-9, abs=1e-9), path
        else:
            assert one == other, path

    same(compiled, plain)


def test_the_independent_model_agrees_with_plain_python_too():
    """The same tests, uncompiled."""
    tests = ["tests/core/test_against_scalar_model.py", "-p", "no:django", "-q", "-k", "designed or salvaged"]
    done = subprocess.run(
        [sys.executable, "-m", "pytest", *tests],
        cwd=ROOT,
        env={**os.environ, "NUMBA_DISABLE_JIT": "1"},
        text=True,
        capture_output=True,
        timeout=600,
    )
    assert done.returncode == 0, done.stdout[-2000:]


def test_nothing_is_compiled_while_a_person_waits():
    """After the set-up a fresh process takes all of it from what is kept: any board, any room."""
    code = """
import json
from numba.core import event
compiled = event.RecordingListener()
event.register("numba:compile", compiled)
from planner.warm_cache import any_board, compile_all
from boardmath import predict
compile_all()
first = len(compiled.buffer)
hubs = any_board(drive={"kind": "hub"}, motors={"count": 2, "kind": "hub", "kv_rpm_per_v": 75})
tyres = any_board(wheels={"diameter_mm": 175, "kind": "pneumatic"}, pack={"series": 12, "parallel": 4})
bricks = any_board(pack={"series": 6, "parallel": 1, "cell": {"chemistry": "polymer", "capacity_ah": 8.0}})
for build in (hubs, tyres, bricks):
    predict(build)
print(json.dumps([first, len(compiled.buffer)]))
"""
    environment = {"SAND_POCKET_COMPILED": str(ROOT / ".local" / "compiled")}
    _said(_python(code, **environment))
    assert _said(_python(code, **environment)) == [0, 0]


def test_compiled_code_never_outlives_the_formula_that_it_came_from(tmp_path, one_board):
    """Another gravity in the source of a function that is only called by others: another answer at once."""
    shutil.copytree(ROOT / "boardmath", tmp_path / "boardmath", ignore=shutil.ignore_patterns("__pycache__"))
    kept = {"SAND_POCKET_COMPILED": str(tmp_path / "kept"), "PYTHONDONTWRITEBYTECODE": "1"}
    path, here = one_board
    assert _said(_python(SPEEDS.format(path=path), tmp_path, **kept)) == pytest.approx(here)
    source = tmp_path / "boardmath" / "physics" / "road_load.py"
    source.write_text(source.read_text().replace("GRAVITY = 9.80665", "GRAVITY = 3.71"))
    on_mars = _said(_python(SPEEDS.format(path=path), tmp_path, **kept))
    assert on_mars[0] > here[0]
    assert len(list((tmp_path / "kept").iterdir())) == 2


def test_two_processes_that_compile_at_once_both_get_the_right_answer(tmp_path, one_board):
    path, here = one_board
    racing = [_python(SPEEDS.format(path=path), SAND_POCKET_COMPILED=str(tmp_path)) for _ in range(2)]
    for process in racing:
        assert _said(process) == pytest.approx(here)


def test_a_folder_that_cannot_be_written_is_no_reason_to_fail(tmp_path, one_board):
    path, here = one_board
    nowhere = {"SAND_POCKET_COMPILED": "/dev/null/compiled", "TMPDIR": str(tmp_path)}
    assert _said(_python(SPEEDS.format(path=path), **nowhere)) == pytest.approx(here)
