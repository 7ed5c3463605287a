"""``make test``: every check, then every test; the last line says how many there were and how long they took."""

import os
import subprocess
import sys
import time
import xml.etree.ElementTree as ET
from pathlib import Path

from cluster import ROOT

RESULTS = ROOT / ".local" / "tests"
CHECKS = ["build", "lint", "test-frontend"]
"""Targets of the Makefile, as many at a time as there are cores."""
WORKERS = 3
"""Of pytest, on two cores: one of them usually waits for the browser or for the database."""


def tests_in(report: Path) -> int:
    """How many tests a JUnit report tells of."""
    return len(ET.parse(report).getroot().findall(".//testcase")) if report.exists() else 0


def main() -> int:
    began = time.monotonic()
    RESULTS.mkdir(parents=True, exist_ok=True)
    for old in RESULTS.glob("*.xml"):
        old.unlink()
    cores = os.cpu_count() or 1
    failed = subprocess.run(["make", "--no-print-directory", f"-j{cores}", *CHECKS], cwd=ROOT).returncode
    if not failed:
        pytest = [sys.executable, "-m", "pytest", "-n", str(WORKERS), "--dist", "loadscope", "-p", "no:schemathesis"]
        pytest += [f"--junitxml={RESULTS / 'pytest.xml'}", *sys.argv[1:]]
        server = [sys.executable, "scripts/with_database.py", "--server", *pytest]
        failed = subprocess.run(server, cwd=ROOT).returncode
    tests = sum(tests_in(report) for report in RESULTS.glob("*.xml"))
    minutes = (time.monotonic() - began) / 60
    print(f"{'FAILED' if failed else 'Passed'}: {len(CHECKS)} checks, {tests:,} tests, {minutes:.1f} minutes")
    return failed


if __name__ == "__main__":
    sys.exit(main())
