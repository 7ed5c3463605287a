"""``make soak``: saves in the middle of kills, for long; the tests of operation have a short form of it.

Nothing that was answered as saved may be missing afterwards, whoever was killed: a web worker, a master, the proxy, a worker, the
database.
"""

import argparse
import os
import random
import signal
import sys
import tempfile
import threading
import time
from pathlib import Path

from cluster import ROOT
from operated import Operated, Visitor, operated

sys.path.insert(0, str(ROOT))
WHAT = ("web worker", "web master", "work", "link", "database", "nginx")


class Saver:
    """A person who saves one build over and over, each save with a number in its name."""

    def __init__(self, visitor: Visitor) -> None:
        from tests.core.boards import SPIT_RUNNER

        self.visitor = visitor
        status, self.build = visitor.send("POST", "/builds/import", SPIT_RUNNER)
        assert status == 200, self.build
        self.acknowledged = self.refused = self.last = 0

    def save_until(self, seconds: float, saves: int = 10**9) -> None:
        """Saves until the time is over or so many are acknowledged."""
        end, number = time.monotonic() + seconds, 0
        while time.monotonic() < end and self.acknowledged < saves:
            number += 1
            document = {**self.build["document"], "name": f"save {number}"}
            body = {"revision": self.build["revision"], "document": document}
            try:
                status, said = self.visitor.send("PUT", f"/builds/{self.build['id']}", body)
            except OSError:
                status, said = 0, None
            if status == 200:
                self.build, self.last = said, number
                self.acknowledged += 1
            elif status == 409:
                # An earlier save had arrived, and its answer was lost on the way.
                self.build = said
            else:
                self.refused += 1
                time.sleep(0.1)

    def lost(self) -> int:
        """How many of the saves that were acknowledged last are not there."""
        for _ in range(60):
            try:
                status, now = self.visitor.send("GET", f"/builds/{self.build['id']}")
            except OSError:
                status = 0
            if status == 200:
                kept = now["document"]["name"]
                return max(self.last - int(kept.removeprefix("save ")), 0) if self.last else 0
            time.sleep(0.5)
        raise AssertionError("the server did not come back")


def hurt(run: Operated, what: str, chance: random.Random) -> None:
    """Kills one of them without a word."""
    if what == "database":
        pid = int((run.cluster.data / "postmaster.pid").read_text().splitlines()[0])
        os.kill(pid, signal.SIGQUIT)  # PostgreSQL's immediate end: as when the power goes
        time.sleep(0.5)
        run.cluster.start()
        return
    pids = run.children("web") if what == "web worker" else run.pids({"web master": "web"}.get(what, what))
    if pids and what == "nginx":
        os.killpg(pids[0], signal.SIGKILL)  # its workers would keep the port, and systemd ends them with it
    elif pids:
        os.kill(chance.choice(pids), signal.SIGKILL)


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--saves", type=int, default=5000)
    parser.add_argument("--kills", type=int, default=20)
    given = parser.parse_args()
    chance = random.Random()
    with tempfile.TemporaryDirectory(prefix="sand-pocket-", dir="/var/tmp") as folder:
        Path(folder).chmod(0o755)
        with operated(Path(folder)) as run:
            savers = [Saver(Visitor(run.port).sign_up(f"saver{i}")) for i in range(8)]
            each = -(-given.saves // len(savers))
            threads = [threading.Thread(target=s.save_until, args=(3600.0, each)) for s in savers]
            for thread in threads:
                thread.start()
            kills = 0
            while any(t.is_alive() for t in threads):
                done = sum(s.acknowledged for s in savers)
                if kills < given.kills and done >= given.saves * (kills + 0.5) / given.kills:
                    what = WHAT[kills % len(WHAT)]
                    hurt(run, what, chance)
                    kills += 1
                    print(f"{done:6} saves acknowledged, killed: {what}", flush=True)
                time.sleep(0.05)
            lost = sum(s.lost() for s in savers)
            saved, refused = sum(s.acknowledged for s in savers), sum(s.refused for s in savers)
            print(f"{saved} saves acknowledged over {kills} kills, {refused} refused or unanswered, {lost} lost")
            return 1 if lost else 0


if __name__ == "__main__":
    sys.exit(main())
