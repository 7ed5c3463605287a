"""Simulated controllers of builds: started when one is needed, found again when it runs, ended when nobody asks any more.

Every controller of a build has a memory of its own in the bench's folder. The process holds a lock beside it, so that any worker
of this machine sees whether it runs, and never starts a second one.
"""

import ctypes
import fcntl
import hashlib
import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.conf import settings

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import write_build
from controller.link import LinkFailed
from server.users import Key

IDLE_S = 1800
STARTS_WITHIN_S = 60.0
MOST = 12
"""Simulated controllers that run at once on this machine; what the others hold stays in their memories."""


def _dies_with_parent() -> None:
    """Linux: no stand-in outlives the worker that started it."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)


def running(lock: Path) -> bool:
    """Whether the simulated controller that holds this lock lives."""
    if not lock.exists():
        return False
    with lock.open("r+") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return True
    return False


def address(build_id: Key, file: BuildDocument, unit: int, stopped: Callable[[], bool] = lambda: False) -> str:
    """Where the simulated controller ``unit`` of a build answers; it is started where it does not run yet.

    A board that was changed since, in more than its settings, gets a controller that sits on the board as it is now; what
    was set in it stays.

    Raises:
        LinkFailed: it cannot be started, with the reason.
    """
    folder = settings.BENCHMARK_FOLDER
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    memory = folder / f"{build_id}-{unit}.json"
    note, lock = memory.with_suffix(".address"), memory.with_suffix(".lock")
    document = write_build(file)
    physical = {k: document.get(k) for k in ("parts", "brief", "rider")}
    digest = hashlib.sha256(json.dumps(physical, sort_keys=True).encode()).hexdigest()
    with (folder / "starting").open("w") as starting:
        fcntl.flock(starting, fcntl.LOCK_EX)
        if running(lock) and note.exists():
            said = json.loads(note.read_text())
            if said["digest"] == digest:
                note.touch()
                return str(said["address"])
            _end(int(said["pid"]), lock)
        _make_room(folder)
        return _start(build_id, unit, document, digest, memory, note, stopped)


def _make_room(folder: Path) -> None:
    """Ends those that were not asked for the longest, so that no more than :data:`MOST` run."""
    live = [n for n in folder.glob("*.address") if running(n.with_suffix(".lock"))]
    for note in sorted(live, key=lambda n: n.stat().st_mtime)[: max(len(live) + 1 - MOST, 0)]:
        _end(int(json.loads(note.read_text())["pid"]), note.with_suffix(".lock"))


def _end(pid: int, lock: Path) -> None:
    try:
        os.kill(pid, signal.SIGTERM)
    except ProcessLookupError:
        return
    until = time.monotonic() + 5.0
    while running(lock) and time.monotonic() < until:
        time.sleep(0.05)


def _start(
    build_id: Key,
    unit: int,
    document: dict[str, Any],
    digest: str,
    memory: Path,
    note: Path,
    stopped: Callable[[], bool],
) -> str:
    board = memory.with_suffix(".board")
    board.write_text(json.dumps(document))
    command = [
        sys.executable,
        "-m",
        "controller.simulator",
        str(board),
        "--memory",
        str(memory),
        "--unit",
        str(unit),
        "--serial",
        str(build_id)[:8],
        "--idle",
        str(IDLE_S),
    ]
    process = subprocess.Popen(
        command,
        cwd=settings.ROOT,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        preexec_fn=_dies_with_parent,
    )
    assert process.stdout is not None
    assert process.stderr is not None
    os.set_blocking(process.stdout.fileno(), False)
    said, until = b"", time.monotonic() + STARTS_WITHIN_S
    while b"\n" not in said and process.poll() is None and time.monotonic() < until and not stopped():
        time.sleep(0.05)
        said += process.stdout.read() or b""
    if b"\n" not in said:
        process.kill()
        reason = process.stderr.read().decode(errors="replace").strip().splitlines()
        raise LinkFailed(f"the simulated controller did not start: {reason[-1] if reason else 'no word from it'}")
    where = said.decode().strip()
    note.write_text(json.dumps({"address": where, "pid": process.pid, "digest": digest}))
    return where


def end_all() -> None:
    """Ends every simulated controller of this bench."""
    for note in settings.BENCHMARK_FOLDER.glob("*.address"):
        lock = note.with_suffix(".lock")
        if running(lock):
            _end(int(json.loads(note.read_text())["pid"]), lock)
