"""The state classes of the interface, in the tests that stand beside them, one file a test of this run."""

import subprocess
from pathlib import Path

import pytest

FRONTEND = Path(__file__).resolve().parents[2] / "frontend"
FILES = sorted(str(p.relative_to(FRONTEND)) for p in FRONTEND.glob("src/**/*.test.ts"))


def test_there_are_some():
    assert len(FILES) >= 5


@pytest.mark.parametrize("file", FILES)
def test_state(file):
    command = ["npx", "vitest", "run", "--reporter=verbose", "--no-color", file]
    done = subprocess.run(command, cwd=FRONTEND, capture_output=True, text=True, timeout=180)
    assert done.returncode == 0, done.stdout + done.stderr
    assert "passed" in done.stdout
