"""``make demo``: the cluster, the database, the demonstration and the web server, until Ctrl-C.

``--reset`` starts the story over; ``--dev`` serves with reload and Vite in front.
"""

import argparse
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

from cluster import ROOT, Cluster, listening, state_directory
from serving import die_with_parent, gunicorn, wait_until_it_answers, workers

FIRST_PORT = 8600


def choose_port(wanted: str | None) -> socket.socket:
    """Listens on the wanted port, or on the first free one.

    Raises:
        SystemExit: the wanted port is taken.
    """
    if wanted:
        try:
            return listening(int(wanted))
        except OSError:
            said = f"Port {wanted} is taken by another program. Choose another: make demo PORT=8700"
            raise SystemExit(said) from None
    for port in range(FIRST_PORT, FIRST_PORT + 40):
        with suppress(OSError):
            return listening(port)
    raise SystemExit(f"No free port from {FIRST_PORT} to {FIRST_PORT + 39}. Choose one: make demo PORT=9000")


def hold_lock(state: Path):
    """Keeps a second ``make demo`` of the same checkout out; the lock dies with this process, however it ends."""
    state.mkdir(parents=True, exist_ok=True)
    lock = (state / "lock").open("a+")
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        lock.seek(0)
        raise SystemExit(f"The demonstration runs already: {lock.read().strip()}") from None
    return lock


def kept_secret(state: Path) -> str:
    """The demonstration's secret key, made once, so that sessions outlive a restart."""
    path = state / "secret"
    if not path.exists():
        path.write_text(secrets.token_urlsafe(50))
        path.chmod(0o600)
    return path.read_text()


def serve(listener: socket.socket, env: dict[str, str], dev: bool) -> list[subprocess.Popen[bytes]]:
    """Starts the web server and the workers (and Vite for development)."""
    port = listener.getsockname()[1]
    python, own = sys.executable, {"env": env, "cwd": ROOT, "preexec_fn": die_with_parent, "start_new_session": True}
    beside = [subprocess.Popen(command, **own) for command in workers()]
    if not dev:
        with listener as s:
            return [subprocess.Popen(gunicorn(s.fileno()), pass_fds=[s.fileno()], **own), *beside]
    listener.close()  # Django's own server for development binds by itself
    django = [python, "manage.py", "runserver", f"127.0.0.1:{port}"]
    vite = ["npx", "vite", "--host", "127.0.0.1"]
    env["SAND_POCKET_API"] = f"http://127.0.0.1:{port}"
    return [subprocess.Popen(django, **own), *beside, subprocess.Popen(vite, **{**own, "cwd": ROOT / "frontend"})]


def stop(processes: list[subprocess.Popen[bytes]]) -> None:
    """Ends what was started here, and waits for it."""
    for process in processes:
        if process.poll() is None:
            os.killpg(process.pid, signal.SIGTERM)
    for process in processes:
        try:
            process.wait(20)
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, signal.SIGKILL)


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--reset", action="store_true")
    parser.add_argument("--dev", action="store_true")
    given = parser.parse_args()

    state = state_directory("demo")
    lock = hold_lock(state)
    cluster = Cluster("demo")
    asked_to_stop = False

    def ask_to_stop(*_: object) -> None:
        nonlocal asked_to_stop
        asked_to_stop = True

    for sign in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(sign, ask_to_stop)

    processes: list[subprocess.Popen[bytes]] = []
    try:
        env = {**os.environ, "DATABASE_URL": os.environ.get("DATABASE_URL") or cluster.start(), "SAND_POCKET_DEMO": "1"}
        env["SAND_POCKET_SECRET_KEY"] = kept_secret(state)
        env["SAND_POCKET_BENCHMARK"] = str(state / "controllers")
        env["SAND_POCKET_DEBUG"] = "1" if given.dev else "0"
        prepare = [sys.executable, "manage.py", "prepare", "--demo", *(["--reset"] if given.reset else [])]
        if subprocess.run(prepare, env=env, cwd=ROOT).returncode != 0:
            raise SystemExit("The database could not be prepared; see the lines above.")
        if given.reset:
            shutil.rmtree(state / "controllers", ignore_errors=True)
            print("The demonstration's story starts over.")
            return 0
        listener = choose_port(os.environ.get("PORT"))
        port = listener.getsockname()[1]
        processes = serve(listener, env, given.dev)
        wait_until_it_answers(f"http://127.0.0.1:{port}", lambda: processes[0].poll() is not None)
        address = "http://127.0.0.1:5173" if given.dev else f"http://127.0.0.1:{port}"
        lock.truncate(0)
        lock.write(address)
        lock.flush()
        print(f"\nSand Pocket is open at {address}   (Ctrl-C closes it)\n", flush=True)
        while not asked_to_stop and all(p.poll() is None for p in processes):
            time.sleep(0.2)
        if not asked_to_stop:
            print(
                "The web server or a worker ended. What was answered as saved is kept; start again with make demo.",
                file=sys.stderr,
            )
        return 0 if asked_to_stop else 1
    finally:
        stop(processes)
        if not os.environ.get("DATABASE_URL"):
            cluster.stop()


if __name__ == "__main__":
    sys.exit(main())
