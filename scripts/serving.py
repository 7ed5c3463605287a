"""Starting the web server as the demonstration does, for demo, bench, screenshots and the tests of the screens."""

import ctypes
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from cluster import ROOT, listening


def die_with_parent() -> None:
    """Linux: what is started ends when this script is killed, so that no port stays taken."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)


def gunicorn(listener: int, log_level: str = "warning") -> list[str]:
    """The command that serves the application with two processes on a listening socket that it inherits."""
    bind = ["--bind", f"fd://{listener}", "--preload", "--log-level", log_level]
    # Threads: browsers open connections that they keep for later, and one of those would hold up a whole process.
    # Asked to end, it ends: connections that a browser keeps for later are not waited for.
    bind += ["--graceful-timeout", "5"]
    bind += ["--workers", "2", "--worker-class", "gthread", "--threads", "16"]
    return [sys.executable, "-m", "gunicorn", "server.wsgi", *bind]


def workers() -> list[list[str]]:
    """The commands of the workers: what talks to controllers, and what takes its time."""
    return [[sys.executable, "manage.py", "worker", queue] for queue in ("link", "work")]


def wait_until_it_answers(address: str, ended: Callable[[], bool] = lambda: False, seconds: float = 90.0) -> None:
    """Returns when the server at ``address`` answers.

    Raises:
        SystemExit: it has ended, or does not answer in time.
    """
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if ended():
            raise SystemExit("The web server did not start; see the lines above.")
        try:
            urllib.request.urlopen(f"{address}/api/session", timeout=5).close()
            return
        except OSError:
            time.sleep(0.1)
    raise SystemExit("The web server does not answer.")


@contextmanager
def demonstration(env: dict[str, str] | None = None, listener: socket.socket | None = None) -> Iterator[str]:
    """Serves the demonstration from the database of ``DATABASE_URL`` until the block ends.

    Args:
        env: variables of the processes, beside those of this one.
        listener: a socket that listens already; without one any free port of loopback.

    Yields:
        The server's address, once it answers.
    """
    env = {**os.environ, **(env or {}), "SAND_POCKET_DEMO": "1"}
    with listener or listening() as listener, tempfile.TemporaryDirectory() as bench:
        prepare = [sys.executable, "manage.py", "prepare", "--demo"]
        subprocess.run(prepare, cwd=ROOT, env=env, check=True, stdout=subprocess.DEVNULL)
        env["SAND_POCKET_BENCHMARK"] = bench
        own = {"cwd": ROOT, "env": env}
        address, fd = f"http://127.0.0.1:{listener.getsockname()[1]}", listener.fileno()
        processes = [subprocess.Popen(gunicorn(fd), pass_fds=[fd], **own)]
        listener.close()
        processes += [subprocess.Popen(command, **own) for command in workers()]
        try:
            wait_until_it_answers(address, lambda: processes[0].poll() is not None)
            yield address
        finally:
            for process in processes:
                process.terminate()
            for process in processes:
                process.wait(20)
