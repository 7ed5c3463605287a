"""The web server behind a buffering proxy: ``gunicorn -c deploy/gunicorn.conf.py server.wsgi``."""

import os
import sys
import tempfile
from typing import Any

# Figures of all processes are added up in files of this folder; it begins empty with every start.
os.environ["PROMETHEUS_MULTIPROC_DIR"] = tempfile.mkdtemp(prefix="sand-pocket-figures-")

bind = os.environ.get("SAND_POCKET_BIND", "127.0.0.1:8600")
# One process: nginx gives each request to the instance that has least to do, which a gunicorn of many processes cannot.
workers = 1
worker_class = "gthread"
threads = 12
preload_app = True
timeout = 60
graceful_timeout = 30
keepalive = 20
# A process that has grown is replaced, not all at once.
max_requests = 20_000
max_requests_jitter = 4_000
worker_tmp_dir = "/dev/shm" if os.path.isdir("/dev/shm") else None


def child_exit(server: Any, worker: Any) -> None:
    """What a process that has ended had counted stays in the sums."""
    from prometheus_client.multiprocess import mark_process_dead

    mark_process_dead(worker.pid)


def post_fork(server: Any, worker: Any) -> None:
    """Between two steps of the engine its thread waits for the interpreter: not for the 5 ms that another may keep it."""
    sys.setswitchinterval(0.0005)
