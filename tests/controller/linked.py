"""A simulated controller in a thread of its own, over a real socket or a real pseudo-terminal."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from boardmath.buildfile import Build
from controller.link import Link
from controller.simulator.device import FACTORY, Device
from controller.simulator.memory import Memory
from controller.simulator.serving import serve
from controller.simulator.wires import PtyWire, TcpWire


@contextmanager
def on_the_bench(
    build: Build, over: str, folder: Path, exact: bool = False, patience: float = 3.0
) -> Iterator[tuple[Link, Device]]:
    """A link to a device that sits on ``build``; ``over`` is "tcp" or "pty".

    A machine that is busy with other tests answers late; short patience is for tests of what goes wrong.
    """
    device = Device(build, Memory(folder / "memory.json", FACTORY), exact=exact)
    wire = TcpWire() if over == "tcp" else PtyWire(folder / "device")
    ended = threading.Event()
    thread = threading.Thread(target=serve, args=(device, wire, ended.is_set), daemon=True)
    thread.start()
    try:
        with Link(wire.address, patience) as link:
            yield link, device
    finally:
        ended.set()
        thread.join(5)
        wire.close()
