"""Runs a command with a throw-away cluster in DATABASE_URL, or with the one that is given there already."""

import os
import secrets
import subprocess
import sys

from cluster import ROOT, Cluster


def main() -> int:
    env = {"SAND_POCKET_SECRET_KEY": secrets.token_urlsafe(50), **os.environ}
    if "DATABASE_URL" in env:
        return subprocess.run(sys.argv[1:], env=env, cwd=ROOT).returncode
    cluster = Cluster(f"test-{os.getpid()}", durable=False)
    try:
        env["DATABASE_URL"] = cluster.start()
        return subprocess.run(sys.argv[1:], env=env, cwd=ROOT).returncode
    finally:
        cluster.destroy()


if __name__ == "__main__":
    sys.exit(main())
