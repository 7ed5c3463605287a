"""Runs a command on the demonstration's database: the one that ``make demo`` keeps, running or not."""

import os
import secrets
import subprocess
import sys

from cluster import ROOT, Cluster


def main() -> int:
    cluster = Cluster("demo")
    running = cluster.is_running()
    env = {"SAND_POCKET_SECRET_KEY": secrets.token_urlsafe(50), **os.environ, "DATABASE_URL": cluster.start()}
    try:
        return subprocess.run([sys.executable, *sys.argv[1:]], env=env, cwd=ROOT).returncode
    finally:
        if not running:
            cluster.stop()


if __name__ == "__main__":
    sys.exit(main())
