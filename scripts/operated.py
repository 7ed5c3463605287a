"""The application as an operator runs it, on loopback: nginx with TLS before several web machines, workers, a database.

What ends is started again, as systemd does it. For the tests of operation, ``make load`` and ``make soak``.
"""

import os
import secrets
import shutil
import signal
import socket
import ssl
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from threading import Event, Thread
from typing import Any

from cluster import ROOT, Cluster, free_port
from serving import die_with_parent

NAME = "boards.example.invalid"
RESTART_S = 0.5


@dataclass
class Part:
    """One process that is kept running."""

    name: str
    command: list[str]
    process: "subprocess.Popen[bytes] | None" = None
    starts: int = 0


@dataclass
class Operated:
    """What runs, and where it is reached."""

    port: int
    plain: int
    web: list[int]
    cluster: Cluster
    env: dict[str, str]
    parts: list[Part] = field(default_factory=list)

    def pids(self, name: str) -> list[int]:
        """Processes of the parts whose names begin so, masters alone."""
        return [p.process.pid for p in self.parts if p.name.startswith(name) and p.process and p.process.poll() is None]

    def children(self, name: str) -> list[int]:
        """The web workers that a master has forked."""
        found = []
        for pid in self.pids(name):
            said = Path(f"/proc/{pid}/task/{pid}/children").read_text()
            found += [int(child) for child in said.split()]
        return found

    def manage(self, *arguments: str) -> str:
        """Runs a command of manage.py against what runs here."""
        command = [sys.executable, "manage.py", *arguments]
        return subprocess.run(command, cwd=ROOT, env=self.env, check=True, capture_output=True, text=True).stdout


def site(folder: Path, upstreams: list[int], plain: int, tls: int) -> Path:
    """The project's nginx configuration on ports of its own, with a certificate that nobody signed; where it lies."""
    key, certificate = folder / "key.pem", folder / "certificate.pem"
    make = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", f"/CN={NAME}"]
    subprocess.run([*make, "-keyout", str(key), "-out", str(certificate)], check=True, capture_output=True)
    text = (ROOT / "deploy" / "nginx.conf").read_text()
    for old, new in {
        "server 127.0.0.1:8600 max_fails=0;": " ".join(f"server 127.0.0.1:{port} max_fails=0;" for port in upstreams),
        "server 127.0.0.1:8601 max_fails=0;": "",
        "listen 80;": f"listen 127.0.0.1:{plain};",
        "listen 443 ssl;": f"listen 127.0.0.1:{tls} ssl;",
        "/etc/ssl/certs/sand-pocket.pem": str(certificate),
        "/etc/ssl/private/sand-pocket.key": str(key),
    }.items():
        assert old in text, old
        text = text.replace(old, new)
    (folder / "site.conf").write_text(text)
    kept = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    paths = "\n".join(f"{kind}_temp_path {folder}/{kind};" for kind in kept)
    root = "user root;\n" if os.geteuid() == 0 else ""
    (folder / "nginx.conf").write_text(
        f"{root}daemon off; pid {folder}/pid; error_log {folder}/error.log;\n"
        f"events {{ worker_connections 512; }}\nhttp {{ access_log off; {paths}\ninclude {folder}/site.conf; }}\n"
    )
    return folder / "nginx.conf"


def nginx(configuration: Path) -> list[str]:
    """The command that runs it.

    Raises:
        SystemExit: nginx is not installed.
    """
    program = shutil.which("nginx") or "/usr/sbin/nginx"
    if not Path(program).exists():
        raise SystemExit("nginx is missing: scripts/system_packages.sh browser installs it")
    return [program, "-c", str(configuration), "-e", str(configuration.with_name("error.log"))]


def until_open(port: int, seconds: float = 60.0) -> None:
    """Returns when somebody listens on a port of loopback."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with socket.socket() as tried:
            if tried.connect_ex(("127.0.0.1", port)) == 0:
                return
        time.sleep(0.05)
    raise SystemExit(f"Nobody listens on port {port}.")


@contextmanager
def operated(
    folder: Path, machines: int = 2, workers: int = 2, demo: bool = True, **further: str
) -> Iterator[Operated]:
    """Starts all of it, keeps it running, and ends it.

    ``machines`` web instances, and ``workers`` of each kind.
    """
    cluster = Cluster(f"operated-{os.getpid()}")
    plain, tls, *web = (free_port() for _ in range(2 + machines))
    env = {**os.environ, "DATABASE_URL": cluster.start()}
    env |= {
        "SAND_POCKET_SECRET_KEY": secrets.token_urlsafe(50),
        "SAND_POCKET_HTTPS": "1",
        "SAND_POCKET_HOSTS": f"{NAME},127.0.0.1",
        "SAND_POCKET_ORIGINS": f"https://{NAME}",
        "SAND_POCKET_PROXIES": "1",
        "SAND_POCKET_DEMO": "1" if demo else "0",
        "SAND_POCKET_BENCHMARK": str(folder / "bench"),
        **further,
    }
    run = Operated(tls, plain, web, cluster, env)
    stopping = Event()
    keeping: Thread | None = None
    try:
        run.manage("prepare", *(["--demo"] if demo else []))
        for port in web:
            command = [sys.executable, "-m", "gunicorn", "-c", "deploy/gunicorn.conf.py", "--bind", f"127.0.0.1:{port}"]
            run.parts.append(Part(f"web-{port}", [*command, "--log-level", "error", "server.wsgi"]))
        for number in range(workers):
            for queue in ("link", "work"):
                # As its unit says.
                idle = ["chrt", "--idle", "0"] if queue == "work" else []
                run.parts.append(Part(f"{queue}-{number}", [*idle, sys.executable, "manage.py", "worker", queue]))
        run.parts.append(Part("nginx", nginx(site(folder, web, plain, tls))))
        keeping = Thread(target=_keep, args=(run, stopping), daemon=True)
        keeping.start()
        for port in (*web, tls):
            until_open(port)
        yield run
    finally:
        stopping.set()
        if keeping:
            keeping.join(10)
        _end(run.parts)
        cluster.destroy()


def _keep(run: Operated, stopping: Event) -> None:
    """As systemd does with Restart=always."""
    log = open(os.devnull, "wb")  # noqa: SIM115 - as long as the processes live
    while not stopping.is_set():
        for part in run.parts:
            if part.process is None or part.process.poll() is not None:
                part.process = subprocess.Popen(
                    part.command, cwd=ROOT, env=run.env, stdout=log, start_new_session=True, preexec_fn=die_with_parent
                )
                part.starts += 1
        stopping.wait(RESTART_S)


def _end(parts: list[Part]) -> None:
    for part in parts:
        if part.process and part.process.poll() is None:
            os.killpg(part.process.pid, signal.SIGTERM)
    for part in parts:
        if part.process:
            try:
                part.process.wait(15)
            except subprocess.TimeoutExpired:
                os.killpg(part.process.pid, signal.SIGKILL)
                part.process.wait()


class Visitor:
    """A person at the proxy, with a connection that is kept, cookies, and the page's own token."""

    def __init__(self, port: int, timeout: float = 30.0) -> None:
        self.port, self.timeout, self.cookies = port, timeout, dict[str, str]()
        self._there: Any = None

    def send(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        """Status and answer, as JSON where it is; asked once more over a fresh connection where the old one had died.

        Raises:
            OSError: the proxy is not there, or does not answer in time.
        """
        import http.client
        import json

        data = body if isinstance(body, bytes) else None if body is None else json.dumps(body).encode()
        headers = {"Host": NAME, "Content-Type": "application/json", "Referer": f"https://{NAME}/"}
        headers["Cookie"] = "; ".join(f"{k}={v}" for k, v in self.cookies.items())
        if token := self.cookies.get("csrftoken"):
            headers["X-CSRFToken"] = token
        try:
            if self._there is None:
                context = ssl.create_default_context()
                context.check_hostname, context.verify_mode = False, ssl.CERT_NONE
                self._there = http.client.HTTPSConnection("127.0.0.1", self.port, context=context, timeout=self.timeout)
            self._there.request(method, f"/api{path}" if path.startswith("/") else f"/{path}", data, headers)
            answer = self._there.getresponse()
            text = answer.read()
        except (OSError, http.client.HTTPException) as gone:
            self._there = None
            raise OSError(str(gone)) from gone
        for line in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = line.partition(";")[0].partition("=")
            self.cookies[name] = value
        kind = answer.headers.get("Content-Type", "")
        return answer.status, json.loads(text) if "json" in kind and text else text

    def sign_up(self, name: str) -> "Visitor":
        """A workshop of one's own."""
        self.send("GET", "/session")
        status, said = self.send("POST", "/session/sign-up", {"name": name, "password": "dunlin over wet sand"})
        assert status == 200, said
        return self

    def into_the_demo(self) -> "Visitor":
        """The demonstration's workshop."""
        self.send("GET", "/session")
        status, said = self.send("POST", "/session/demo")
        assert status == 200, said
        return self

    def wait_for(self, job: dict[str, Any], seconds: float = 60.0) -> dict[str, Any]:
        """The job as it ended."""
        end = time.monotonic() + seconds
        while job["state"] in ("waiting", "running") and time.monotonic() < end:
            time.sleep(0.1)
            _, job = self.send("GET", f"/jobs/{job['id']}")
        return job
