"""Backed up, destroyed and brought back; swept; behind the proxy that buffers."""

import configparser
import http.client
import json
import os
import re
import socket
import ssl
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread

import pytest
from django.core.management import CommandError, call_command
from django.utils import timezone

from server.boards.models import Build
from server.library.models import Part
from server.operation.dumps import tool
from tests.server.conftest import Workshop
from tests.server.test_security import GOOD

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "scripts"))
from cluster import free_port
from operated import nginx, site, until_open

ROOT = Path(__file__).resolve().parents[2]
DEPLOY = ROOT / "deploy"


# --- backup and restore ------------------------------------------------------------------------------------------------


@pytest.mark.django_db(transaction=True)
def test_what_was_backed_up_and_destroyed_is_brought_back(tmp_path, capsys):
    workshop = Workshop("keeper")
    kept = workshop.new()
    call_command("backup", str(tmp_path))
    (file,) = tmp_path.glob("sand-pocket-*.dump")
    assert file.stat().st_mode & 0o077 == 0, "nobody else reads it"
    Build.objects.all().delete()
    workshop.user.delete()
    later = Workshop("after-the-backup")
    call_command("restore", str(file), "--yes")
    again = Build.objects.get()
    assert str(again.pk) == kept["id"]
    assert again.document == kept["document"]
    assert again.owner.check_password("dunlin over wet sand")
    assert type(later.user).objects.filter(username="after-the-backup").count() == 0
    assert "as it was" in capsys.readouterr().out


@pytest.mark.django_db(transaction=True)
def test_a_file_that_is_no_backup_changes_nothing(tmp_path):
    Workshop("keeper").new()
    wrong = tmp_path / "holiday.dump"
    wrong.write_bytes(b"not a dump")
    for file in (wrong, tmp_path / "missing.dump"):
        with pytest.raises(CommandError, match="Nothing was changed"):
            call_command("restore", str(file), "--yes")
    assert Build.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_only_the_newest_backups_are_kept_and_none_is_half(tmp_path, monkeypatch):
    for day in range(4):
        (tmp_path / f"sand-pocket-2026010{day}-000000.dump").write_bytes(b"older")
    call_command("backup", str(tmp_path), "--keep", "2")
    names = sorted(p.name for p in tmp_path.iterdir())
    assert len(names) == 2
    assert names[0] == "sand-pocket-20260103-000000.dump"
    monkeypatch.setattr("server.operation.dumps.tool", lambda name: "/bin/false")
    with pytest.raises(CommandError, match="Nothing was backed up"):
        call_command("backup", str(tmp_path))
    assert sorted(p.name for p in tmp_path.iterdir()) == names


def test_the_tools_are_postgresqls_own():
    assert "pg_dump" in subprocess.run([tool("pg_dump"), "--version"], capture_output=True, text=True).stdout


def test_what_lay_long_in_the_bin_is_swept_and_what_was_deleted_yesterday_is_not(workshop, capsys):
    ids = [workshop.new()["id"] for _ in range(3)]
    for id, days in zip(ids, (90, 1), strict=False):
        Build.objects.filter(pk=id).update(deleted_at=timezone.now() - timedelta(days=days))
    Part.objects.create(
        owner=workshop.user, kind="fuse", name="Old", figures={}, deleted_at=timezone.now() - timedelta(days=90)
    )
    call_command("sweep")
    assert {str(b.pk) for b in Build.objects.all()} == set(ids[1:])
    assert not Part.objects.exists()
    assert "1 builds and 1 parts" in capsys.readouterr().out


# --- the files for an operator -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", sorted(p.name for p in DEPLOY.glob("*.service")))
def test_what_the_units_start_is_there(unit):
    said = configparser.ConfigParser(strict=False, interpolation=None)
    said.optionxform = str
    said.read(DEPLOY / unit)
    start = said["Service"]["ExecStart"].split()
    assert start[0].startswith("/opt/sand-pocket/.venv/bin/")
    assert said["Service"]["EnvironmentFile"] == "/etc/sand-pocket.env"
    if "manage.py" in start:
        command = start[start.index("manage.py") + 1]
        assert command in {"prepare", "worker", "sweep", "backup"}
    if said["Service"].get("Type") != "oneshot":
        assert said["Service"]["Restart"] == "always"


class Behind(BaseHTTPRequestHandler):
    """Stands where the application would: says what reached it."""

    protocol_version = "HTTP/1.1"
    reached = 0

    def do_GET(self):
        Behind.reached += 1
        said = "\n".join(f"{k}: {v}" for k, v in self.headers.items()).encode()
        self.send_response(200)
        self.send_header("Content-Length", str(len(said)))
        self.end_headers()
        self.wfile.write(said)

    def do_POST(self):
        self.rfile.read(int(self.headers.get("Content-Length", "0")))
        self.do_GET()

    def log_message(self, *_):
        pass


@pytest.fixture(scope="module")
def proxy(tmp_path_factory):
    """Debian's nginx with the configuration of the project, on ports of its own, in front of one slow-witted server."""
    behind = ThreadingHTTPServer(("127.0.0.1", 0), Behind)
    Thread(target=behind.serve_forever, daemon=True).start()
    plain, tls = free_port(), free_port()
    configuration = site(tmp_path_factory.mktemp("nginx"), [behind.server_port], plain, tls)
    running = subprocess.Popen(nginx(configuration))
    try:
        until_open(tls)
        yield plain, tls
    finally:
        running.terminate()
        running.wait(10)
        behind.shutdown()


def _asked(port: int, method: str = "GET", path: str = "/", body: bytes | None = None, **headers: str):
    context = ssl.create_default_context()
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE
    there = http.client.HTTPSConnection("127.0.0.1", port, context=context, timeout=10)
    there.request(method, path, body, {"Host": "boards.example.invalid", **headers})
    answer = there.getresponse()
    return answer.status, answer.read().decode(errors="replace")


def test_plain_http_is_led_to_tls(proxy):
    there = http.client.HTTPConnection("127.0.0.1", proxy[0], timeout=10)
    there.request("GET", "/builds/1", headers={"Host": "boards.example.invalid"})
    answer = there.getresponse()
    assert (answer.status, answer.headers["Location"]) == (301, "https://boards.example.invalid/builds/1")


def test_what_a_browser_writes_of_its_address_counts_for_nothing(proxy):
    _, said = _asked(
        proxy[1], **{"X-Forwarded-For": "10.1.2.3", "X-Forwarded-Proto": "http", "X-Request-ID": "mine-mine"}
    )
    assert "X-Forwarded-For: 127.0.0.1" in said
    assert "10.1.2.3" not in said
    assert "X-Forwarded-Proto: https" in said
    assert re.search(r"X-Request-ID: [0-9a-f]{32}", said)


@pytest.mark.parametrize(
    ("path", "megabytes"),
    [
        ("/api/builds/import", 0.9),
        ("/api/builds/1/assembly/photos", 12),
        ("/api/builds/1/rides/tracks", 40),
        ("/api/builds/1/rides/file", 40),
        ("/api/trip/route", 40),
    ],
)
def test_bodies_reach_the_application_up_to_their_size_and_no_larger_ones(proxy, path, megabytes):
    """Refused at the door, in the API's shape; so no half-read body is blamed on the machine behind."""
    before = Behind.reached
    assert _asked(proxy[1], "POST", path, b"x" * int(megabytes * 1e6))[0] == 200
    status, said = _asked(proxy[1], "POST", path, b"x" * int((megabytes + 3) * 1e6))
    assert (status, json.loads(said)["faults"]) == (413, [])
    assert Behind.reached == before + 1
    assert _asked(proxy[1])[0] == 200


def test_who_is_not_signed_in_is_limited_by_address(proxy):
    """Without a session all requests of an address are of one person."""
    context = ssl.create_default_context()
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE

    def loop(_: int) -> list[int]:
        there = http.client.HTTPSConnection("127.0.0.1", proxy[1], context=context, timeout=10)
        seen = []
        for _ in range(80):
            there.request("GET", "/api/boards", headers={"Host": "boards.example.invalid"})
            answer = there.getresponse()
            answer.read()
            seen.append(answer.status)
        return seen

    with ThreadPoolExecutor(8) as pool:
        every = [status for seen in pool.map(loop, range(8)) for status in seen]
    assert every.count(200) >= 100
    assert 429 in every
    time.sleep(5)  # some of the allowance comes back for who asks next


def test_guessing_is_slowed_down_at_the_door(proxy):
    seen = [_asked(proxy[1], "POST", "/api/session/sign-in", b"{}")[0] for _ in range(40)]
    assert seen[0] == 200
    assert 429 in seen


def test_one_session_that_asks_in_a_loop_is_told_when_to_come_again_and_others_are_not(proxy):
    """A page that opens asks for some forty things at once; eight loops of sixty are no page."""
    context = ssl.create_default_context()
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE

    def asked(session: str, times: int):
        there = http.client.HTTPSConnection("127.0.0.1", proxy[1], context=context, timeout=10)
        for _ in range(times):
            there.request(
                "GET", "/api/boards", headers={"Host": "boards.example.invalid", "Cookie": f"sessionid={session}"}
            )
            answer = there.getresponse()
            yield answer.status, answer.headers, answer.read()

    assert {status for status, *_ in asked("quiet", 40)} == {200}
    with ThreadPoolExecutor(8) as pool:
        loops = list(pool.map(lambda _: list(asked("loud", 60)), range(8)))
    refused = [(headers, body) for loop in loops for status, headers, body in loop if status == 429]
    assert refused
    headers, body = refused[0]
    assert headers["Retry-After"] == "1"
    assert json.loads(body)["message"].startswith("That is much")
    assert {status for status, *_ in asked("another", 40)} == {200}


def test_a_hundred_half_sent_requests_hold_nobody_up(proxy):
    """Heads and bodies that never end stay with the proxy; the others are answered at once."""
    context = ssl.create_default_context()
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE
    halves = []
    for i in range(50):
        for text in (
            "GET / HTTP/1.1\r\nHost: boards.example.invalid\r\nX-Slow",
            "POST /api/x HTTP/1.1\r\nHost: boards.example.invalid\r\nContent-Length: 5000\r\n\r\nhalf",
        ):
            if len(halves) < 58 or i % 2:
                one = context.wrap_socket(socket.create_connection(("127.0.0.1", proxy[1]), timeout=10))
                one.sendall(text.encode())
                halves.append(one)
    before = Behind.reached
    answers = [_asked(proxy[1])[0] for _ in range(5)]
    # One address has so many connections and no more: it may hold itself up, and nobody else.
    assert set(answers) <= {200, 503}
    assert Behind.reached - before == answers.count(200), "nothing of the halves came through"
    for one in halves:
        one.close()


def test_the_settings_of_the_web_server_can_be_read():
    done = subprocess.run(
        [sys.executable, "-m", "gunicorn", "--check-config", "-c", "deploy/gunicorn.conf.py", "server.wsgi"],
        cwd=ROOT,
        env={**os.environ, "SAND_POCKET_SECRET_KEY": "checks"},
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stderr[-2000:]


def test_django_finds_nothing_to_check_in_what_is_served_over_tls():
    """``check --deploy`` in a process of its own, as the settings are read once."""
    command = [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
    done = subprocess.run(command, env={**os.environ, **GOOD}, cwd=ROOT, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout + done.stderr
