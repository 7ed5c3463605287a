"""``make demo``'s script: starts, serves, recovers from being killed, and stops cleanly."""

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path

import pytest

from server.demo.entry import BUILDS

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def state():
    # Somewhere that the server's unprivileged account can reach.
    folder = Path(tempfile.mkdtemp(prefix="sand-pocket-", dir="/var/tmp"))
    folder.chmod(0o755)
    yield folder
    sys.path.insert(0, str(ROOT / "scripts"))
    os.environ["SAND_POCKET_STATE"] = str(folder)
    try:
        from cluster import Cluster

        Cluster("demo").destroy()
    finally:
        del os.environ["SAND_POCKET_STATE"]
        shutil.rmtree(folder, ignore_errors=True)


class Demo:
    """One run of the start script and a visitor to it."""

    def __init__(self, state: Path):
        env = {k: v for k, v in os.environ.items() if k not in ("DATABASE_URL", "SAND_POCKET_SECRET_KEY", "PORT")}
        self.process = subprocess.Popen(
            [sys.executable, "scripts/demo.py"],
            cwd=ROOT,
            env={**env, "SAND_POCKET_STATE": str(state), "PYTHONUNBUFFERED": "1"},
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        self.lines: list[str] = []
        for line in self.process.stdout:
            self.lines.append(line)
            if found := re.search(r"http://127\.0\.0\.1:\d+", line):
                self.address = found.group()
                break
        else:
            raise AssertionError("".join(self.lines))
        self.cookies = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))
        self.send("GET", "/session")
        self.send("POST", "/session/demo")

    def send(self, method: str, path: str, body: object = None):
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "")
        request = urllib.request.Request(
            f"{self.address}/api{path}",
            method=method,
            data=json.dumps(body).encode() if method != "GET" else None,
            headers={"X-CSRFToken": token or "", "Content-Type": "application/json"},
        )
        with self.opener.open(request, timeout=20) as answer:
            return json.load(answer)


def test_a_killed_server_loses_nothing_and_the_next_start_recovers(state):
    first = Demo(state)
    builds = first.send("GET", "/boards")["builds"]
    assert len(builds) == len(BUILDS)
    kept = first.send("GET", f"/builds/{builds[0]['id']}")
    saved = first.send(
        "PUT", f"/builds/{kept['id']}", {"revision": 1, "document": {**kept["document"], "name": "Kept"}}
    )
    first.process.send_signal(signal.SIGKILL)
    first.process.wait(10)

    started = time.monotonic()
    second = Demo(state)  # the cluster was left running
    print(f"second start: {time.monotonic() - started:.1f} s")
    assert second.send("GET", f"/builds/{kept['id']}") == saved
    assert second.send("GET", "/boards")["count"] == len(BUILDS), "the story is loaded once"

    second.process.send_signal(signal.SIGINT)
    assert second.process.wait(30) == 0
    assert not (state / "demo" / "postgres" / "postmaster.pid").exists(), "the cluster is stopped"


def test_the_demonstration_outlives_its_database(state, monkeypatch):
    """The cluster goes and comes back: web server and workers are the same, and a paper is made."""
    running = Demo(state)
    try:
        build = running.send("GET", "/boards")["builds"][0]["id"]
        monkeypatch.syspath_prepend(str(ROOT / "scripts"))
        monkeypatch.setenv("SAND_POCKET_STATE", str(state))
        from cluster import Cluster

        cluster = Cluster("demo")
        cluster.stop()
        time.sleep(1.5)
        with pytest.raises(urllib.error.HTTPError, match="503"):
            running.send("GET", f"/builds/{build}")
        cluster.start()
        job = running.send("POST", f"/builds/{build}/dossier")
        end = time.monotonic() + 60
        while job["state"] in ("waiting", "running") and time.monotonic() < end:
            time.sleep(0.2)
            job = running.send("GET", f"/jobs/{job['id']}")
        assert job["state"] == "done", job
        assert running.process.poll() is None
    finally:
        running.process.send_signal(signal.SIGINT)
        running.process.wait(30)


def test_a_second_start_beside_the_first_says_so(state):
    running = Demo(state)
    try:
        again = subprocess.run(
            [sys.executable, "scripts/demo.py"],
            cwd=ROOT,
            env={**os.environ, "SAND_POCKET_STATE": str(state)},
            capture_output=True,
            text=True,
            timeout=60,
        )
        assert again.returncode != 0
        assert f"runs already: {running.address}" in again.stderr
    finally:
        running.process.send_signal(signal.SIGINT)
        running.process.wait(30)
