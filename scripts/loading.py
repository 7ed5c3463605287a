"""``make load``: fifty builders as they work, through the proxy; then the same with somebody beside them who asks in eight loops.

A builder types a few figures, each with its whole prediction, looks at what a part would change, saves, thinks; and asks
for boards now and then. All of it on this machine: what asks takes its share of the same cores.
"""

import argparse
import random
import statistics
import sys
import tempfile
import threading
import time
from collections import Counter
from dataclasses import dataclass, field
from multiprocessing import Process, Queue
from pathlib import Path

from cluster import ROOT
from operated import Operated, Visitor, operated

sys.path.insert(0, str(ROOT))
KEY_S, THINK_S = (0.4, 1.5), (6.0, 24.0)
"""Between two figures, and before the next few: reading what came of them, measuring a part, asking a friend."""


AWAY_S = 0.02
"""How far away whoever asks in loops is: the way there and back."""


@dataclass
class Seen:
    """What builders saw: seconds of predictions, and answers that were none."""

    predictions: list[float] = field(default_factory=list)
    other: list[float] = field(default_factory=list)
    statuses: Counter[str] = field(default_factory=Counter)

    def p(self, per_cent: float) -> float:
        """A percentile of the predictions, in milliseconds."""
        return statistics.quantiles(self.predictions, n=200)[round(per_cent * 2) - 1] * 1e3

    def asked(self, visitor: Visitor, method: str, path: str, body: object, prediction: bool = False) -> object:
        begun = time.perf_counter()
        try:
            status, said = visitor.send(method, path, body)
        except OSError as gone:
            self.statuses[f"{path}: {gone}"[:60]] += 1
            return None
        (self.predictions if prediction else self.other).append(time.perf_counter() - begun)
        if status >= 400:
            self.statuses[f"{path}: {status}"] += 1
        return said if status < 300 else None


def build_boards(visitor: Visitor, seen: Seen, until: float, chance: random.Random, proposes: bool) -> None:
    """One builder, until the time is over."""
    from tests.core.boards import SPIT_RUNNER

    _, build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
    time.sleep(chance.uniform(0, THINK_S[1]))
    while time.monotonic() < until:
        document = build["document"]
        for _ in range(chance.randint(1, 5)):
            document = {**document, "rider": {**document["rider"], "mass_kg": round(chance.uniform(55, 110), 1)}}
            seen.asked(visitor, "POST", "/predict", {"document": document, "view": "side"}, prediction=True)
            time.sleep(chance.uniform(*KEY_S))
        if chance.random() < 0.3:
            seen.asked(
                visitor, "POST", "/candidates", {"document": document, "kind": chance.choice(["wheels", "motors"])}
            )
        body = {"revision": build["revision"], "document": document}
        build = seen.asked(visitor, "PUT", f"/builds/{build['id']}", body) or build
        if proposes and chance.random() < 0.3:
            proposes = False
            brief = {**document, "parts": {}, "settings": {}}
            job = seen.asked(visitor, "POST", "/proposals", {"document": brief})
            while isinstance(job, dict) and job["state"] in ("waiting", "running"):
                time.sleep(0.5)
                job = seen.asked(visitor, "GET", f"/jobs/{job['id']}", None)
        time.sleep(chance.uniform(*THINK_S))


def abuse(port: int, cookies: dict[str, str], seconds: float, told: "Queue[Counter[int]]") -> None:
    """Eight loops that ask as fast as they are answered, whatever the answer, in a process of their own: whoever measures is
    not to wait for them."""
    from tests.core.boards import SPIT_RUNNER

    counted, until = Counter[int](), time.monotonic() + seconds

    def loop() -> None:
        visitor = Visitor(port)
        visitor.cookies = dict(cookies)
        while time.monotonic() < until:
            try:
                status, _ = visitor.send("POST", "/predict", {"document": SPIT_RUNNER})
            except OSError:
                status = 0
            counted[status] += 1
            time.sleep(AWAY_S)

    threads = [threading.Thread(target=loop) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    told.put(counted)


def a_minute(
    run: Operated, builders: list[Visitor], seconds: float, abuser: Visitor | None
) -> tuple[Seen, Counter[int]]:
    """What the builders saw, and how an abuser beside them was answered."""
    seen, counted, until = Seen(), Counter[int](), time.monotonic() + seconds
    threads = [
        threading.Thread(target=build_boards, args=(b, seen, until, random.Random(i), i % 5 == 0))
        for i, b in enumerate(builders)
    ]
    told: Queue[Counter[int]] = Queue()
    if abuser is not None:
        Process(target=abuse, args=(run.port, abuser.cookies, seconds, told)).start()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return seen, told.get() if abuser is not None else counted


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--builders", type=int, default=50)
    parser.add_argument("--seconds", type=float, default=60.0)
    parser.add_argument("--machines", type=int, default=2)
    given = parser.parse_args()
    with tempfile.TemporaryDirectory(prefix="sand-pocket-", dir="/var/tmp") as folder:
        Path(folder).chmod(0o755)
        with operated(Path(folder), machines=given.machines, workers=1) as run:
            # The door slows down whoever comes fifty times a minute from one address.
            builders = signed_in(run, given.builders + 1)
            abuser = builders.pop()
            a_minute(run, builders, min(10.0, given.seconds), None)
            for what, beside in (("alone", None), ("with an abuser in eight loops", abuser)):
                seen, counted = a_minute(run, builders, given.seconds, beside)
                print(
                    f"{given.builders} builders {what}: {len(seen.predictions)} predictions, half under {seen.p(50):.0f} ms, "
                    f"95 % under {seen.p(95):.0f} ms, slowest {max(seen.predictions) * 1e3:.0f} ms; "
                    f"{len(seen.other)} other requests; refused or failed: {dict(seen.statuses) or 'none'}"
                    + (f"; the abuser: {dict(counted)}" if counted else ""),
                    flush=True,
                )
    return 0


def signed_in(run: Operated, many: int) -> list[Visitor]:
    """Builders with sessions of their own, made as the operator's machine can: the door would take minutes over them."""
    script = (
        "from django.contrib.auth.models import User\n"
        "from django.contrib.auth import SESSION_KEY, BACKEND_SESSION_KEY, HASH_SESSION_KEY\n"
        "from qsessions.backends.db import SessionStore\n"
        f"for i in range({many}):\n"
        "    user = User.objects.create_user(f'load{i}', password=None)\n"
        "    session = SessionStore(user_agent='', ip=None)\n"
        "    session[SESSION_KEY], session[HASH_SESSION_KEY] = str(user.pk), user.get_session_auth_hash()\n"
        "    session[BACKEND_SESSION_KEY] = 'django.contrib.auth.backends.ModelBackend'\n"
        "    session.save()\n"
        "    print('session', session.session_key)\n"
    )
    found = []
    for line in run.manage("shell", "-c", script).splitlines():
        if line.startswith("session "):
            visitor = Visitor(run.port)
            visitor.cookies["sessionid"] = line.split()[1]
            visitor.send("GET", "/session")
            found.append(visitor)
    return found


if __name__ == "__main__":
    sys.exit(main())
