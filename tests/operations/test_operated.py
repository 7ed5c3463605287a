"""All of it as an operator runs it: two web machines and two workers of each kind behind the proxy, and what happens to them."""

import os
import random
import signal
import socket
import sys
import tempfile
import threading
import time
import urllib.request
from pathlib import Path

import pytest

from tests.core.boards import SPIT_RUNNER

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "scripts"))
from operated import Operated, Visitor, operated
from soaking import Saver, hurt


@pytest.fixture(scope="module")
def hall():
    """What runs; somewhere that the database's unprivileged account can reach."""
    with tempfile.TemporaryDirectory(prefix="sand-pocket-", dir="/var/tmp") as folder:
        Path(folder).chmod(0o755)
        with operated(Path(folder)) as running:
            yield running


@pytest.fixture
def visitor(hall):
    return Visitor(hall.port).sign_up(f"builder{time.time_ns()}")


def figures_of(port: int) -> str:
    asked = urllib.request.Request(f"http://127.0.0.1:{port}/metrics", headers={"X-Forwarded-Proto": "https"})
    with urllib.request.urlopen(asked, timeout=20) as answer:
        return answer.read().decode()


def talked(visitor: Visitor, command: dict) -> dict:
    """The command as it ended."""
    end = time.monotonic() + 60
    while command["state"] in ("waiting", "running") and time.monotonic() < end:
        time.sleep(0.2)
        _, command = visitor.send("GET", f"/controller-commands/{command['id']}")
    return command


def test_two_web_machines_and_their_workers_are_one(hall: Operated, visitor: Visitor):
    status, build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
    assert status == 200
    for i in range(20):
        body = {"revision": build["revision"], "document": {**build["document"], "name": f"Spit runner {i}"}}
        status, build = visitor.send("PUT", f"/builds/{build['id']}", body)
        assert status == 200, build
    for port in hall.web:
        assert 'method="PUT"' in figures_of(port), "both machines saved"
    jobs = [visitor.send("POST", f"/builds/{build['id']}/{what}")[1] for what in ("dossier", "template")]
    assert [visitor.wait_for(job)["state"] for job in jobs] == ["done", "done"]
    status, paper = visitor.send("GET", f"/jobs/{jobs[0]['id']}/result")
    assert paper.startswith(b"%PDF-")
    _, command = visitor.send("POST", f"/builds/{build['id']}/controller", {"kind": "read"})
    assert talked(visitor, command)["state"] == "done"


def test_a_controller_that_never_answers_holds_up_nobody_elses(hall: Operated, visitor: Visitor):
    """Its line is open and silent: the one who asked waits, everybody else is served meanwhile."""
    silent = socket.create_server(("127.0.0.1", 0))
    name = visitor.send("GET", "/session")[1]["name"]
    address = f"socket://127.0.0.1:{silent.getsockname()[1]}"
    hall.manage("ports", "give", name, address)
    _, build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
    _, stuck = visitor.send("POST", f"/builds/{build['id']}/controller", {"kind": "read", "port": address})
    for i in range(3):
        other = Visitor(hall.port).sign_up(f"other{i}-{time.time_ns()}")
        _, theirs = other.send("POST", "/builds/import", SPIT_RUNNER)
        _, command = other.send("POST", f"/builds/{theirs['id']}/controller", {"kind": "read"})
        assert talked(other, command)["state"] == "done"
    _, stuck = visitor.send("GET", f"/controller-commands/{stuck['id']}")
    assert stuck["state"] in ("running", "failed")
    ended = talked(visitor, stuck)
    assert (ended["state"], "does not answer" in ended["message"]) == ("failed", True)
    silent.close()


def test_the_operators_commands_work_on_it(hall: Operated):
    link = hall.manage("invite", "--note", "for the club").strip()
    assert link.startswith("https://boards.example.invalid/join#")
    with pytest.raises(Exception, match="exit status"):
        hall.manage("recovery_link", "nobody at all")


def test_the_database_goes_and_comes_back_and_so_does_everything_else(hall: Operated, visitor: Visitor):
    _, build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
    hall.cluster.stop()
    try:
        time.sleep(1.5)
        status, said = visitor.send("GET", f"/builds/{build['id']}")
        assert (status, "database" in said["message"]) == (503, True)
        body = {"revision": 1, "document": build["document"]}
        assert visitor.send("PUT", f"/builds/{build['id']}", body)[0] == 503
    finally:
        hall.cluster.start()
    before = {p.name: p.starts for p in hall.parts}
    status, job = visitor.send("POST", f"/builds/{build['id']}/dossier")
    assert status == 202, job
    assert visitor.wait_for(job)["state"] == "done"
    assert {p.name: p.starts for p in hall.parts} == before, "nothing had to be started anew"


def test_what_was_answered_as_saved_is_there_whatever_was_killed(hall: Operated):
    """The short form of ``make soak``: web workers, a master, a worker and the database are killed in the middle of saves."""
    savers = [Saver(Visitor(hall.port).sign_up(f"saver{i}-{time.time_ns()}")) for i in range(4)]
    threads = [threading.Thread(target=s.save_until, args=(14.0,)) for s in savers]
    for thread in threads:
        thread.start()
    for what in ("web worker", "web master", "database", "web worker", "work"):
        time.sleep(2.2)
        hurt(hall, what, random.Random(7))
    for thread in threads:
        thread.join(60)
    saved = sum(s.acknowledged for s in savers)
    assert saved > 40, "too few to say anything"
    assert [s.lost() for s in savers] == [0] * len(savers)


def test_a_worker_that_is_killed_loses_one_job_and_says_so(hall: Operated, visitor: Visitor):
    """The one that had it is killed; whoever asks once more gets it."""
    _, build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
    brief = {**build["document"], "parts": {}, "settings": {}}
    _, job = visitor.send("POST", "/proposals", {"document": brief})
    end = time.monotonic() + 20
    while job["state"] == "waiting" and time.monotonic() < end:
        time.sleep(0.05)
        _, job = visitor.send("GET", f"/jobs/{job['id']}")
    for pid in hall.pids("work"):
        os.kill(pid, signal.SIGKILL)
    _, stopped = visitor.send("POST", f"/jobs/{job['id']}/stop")
    assert stopped["state"] in ("running", "done", "stopped")
    other = Visitor(hall.port).sign_up(f"other{time.time_ns()}")
    _, theirs = other.send("POST", "/builds/import", SPIT_RUNNER)
    _, paper = other.send("POST", f"/builds/{theirs['id']}/dossier")
    assert other.wait_for(paper)["state"] == "done", "another person's is made by the worker that was started anew"
