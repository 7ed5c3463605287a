"""Runs a command with a throw-away cluster in DATABASE_URL, or with the one that is given there already.

With ``--server`` the application also serves the demonstration from a database of its own, for the browser tests: its
address is in SAND_POCKET_TEST_SERVER. The command starts at once and finds the server when it needs it.
"""

import os
import secrets
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from threading import Event, Thread
from urllib.parse import urlsplit, urlunsplit

import psycopg
from cluster import ROOT, Cluster, listening
from serving import demonstration

SERVER = "SAND_POCKET_TEST_SERVER"
SETTINGS = "tests.screens.settings"


@contextmanager
def served(env: dict[str, str]) -> Iterator[str]:
    """Serves the demonstration for browser tests; gives the address before the server answers there."""
    url, name = env["DATABASE_URL"], f"screens_{os.getpid()}"
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}")
    own = {
        **env,
        "DATABASE_URL": urlunsplit(urlsplit(url)._replace(path=f"/{name}")),
        "DJANGO_SETTINGS_MODULE": SETTINGS,
        # Each test is a visitor from an address of its own.
        "SAND_POCKET_PROXIES": "1",
    }
    listener, over = listening(), Event()
    address = f"http://127.0.0.1:{listener.getsockname()[1]}"

    def serve() -> None:
        with demonstration(own, listener):
            over.wait()

    serving = Thread(target=serve)
    serving.start()
    try:
        yield address
    finally:
        over.set()
        serving.join()
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE {name} WITH (FORCE)")


def run(command: list[str], env: dict[str, str], with_server: bool) -> int:
    """The command's own exit status."""
    with served(env) if with_server else nullcontext() as address:
        if address:
            env = {**env, SERVER: address}
        return subprocess.run(command, env=env, cwd=ROOT).returncode


def main() -> int:
    with_server = sys.argv[1] == "--server"
    command = sys.argv[2:] if with_server else sys.argv[1:]
    env = {"SAND_POCKET_SECRET_KEY": secrets.token_urlsafe(50), **os.environ}
    if "DATABASE_URL" in env:
        return run(command, env, with_server)
    cluster = Cluster(f"test-{os.getpid()}", durable=False)
    try:
        env["DATABASE_URL"] = cluster.start()
        return run(command, env, with_server)
    finally:
        cluster.destroy()


if __name__ == "__main__":
    sys.exit(main())
