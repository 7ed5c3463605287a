"""``make test``: every check, then every test; the last line says how many there were and how long they took."""

import subprocess
import sys
import time
import xml.etree.ElementTree as ET
from pathlib import Path

from cluster import ROOT

RESULTS = ROOT / ".local" / "tests"
CHECKS = ["lint", "test-frontend"]
"""Targets of the Makefile that run beside the first tests of pytest."""
WORKERS = 3
"""Of pytest, on two cores: one of them usually waits for the browser, for a slow link or for the database."""


def tests_in(report: Path) -> int:
    """How many tests a JUnit report tells of."""
    return len(ET.parse(report).getroot().findall(".//testcase")) if report.exists() else 0


def make(*targets: str) -> list[str]:
    return ["make", "--no-print-directory", *targets]


def main() -> int:
    began = time.monotonic()
    RESULTS.mkdir(parents=True, exist_ok=True)
    for old in RESULTS.glob("*.xml"):
        old.unlink()
    failed = subprocess.run(make("build"), cwd=ROOT).returncode
    if not failed:
        checks = subprocess.Popen(make("--keep-going", *CHECKS), cwd=ROOT)
        pytest = [sys.executable, "-m", "pytest", "-n", str(WORKERS), "--dist", "loadscope", "--no-loadscope-reorder"]
        pytest += ["-p", "no:schemathesis", f"--junitxml={RESULTS / 'pytest.xml'}", *sys.argv[1:]]
        server = [sys.executable, "scripts/with_database.py", "--server", *pytest]
        of_tests = subprocess.run(server, cwd=ROOT).returncode
        of_checks = checks.wait()
        if of_checks:
            print(f"A check failed: see above, or make {' '.join(CHECKS)}")
        failed = of_tests or of_checks
    tests = sum(tests_in(report) for report in RESULTS.glob("*.xml"))
    minutes = (time.monotonic() - began) / 60
    print(f"{'FAILED' if failed else 'Passed'}: {1 + len(CHECKS)} checks, {tests:,} tests, {minutes:.1f} minutes")
    return failed


if __name__ == "__main__":
    sys.exit(main())
