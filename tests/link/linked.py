"""A simulated controller in a thread of its own, over a real socket or a real pseudo-terminal."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from boardmath.buildfile import Build
from controllerlink.link import Link
from controllerlink.simulated.device import FACTORY, Device
from controllerlink.simulated.memory import Memory
from controllerlink.simulated.serving import serve
from controllerlink.simulated.wires import PtyWire, TcpWire


@contextmanager
def on_the_bench(
    build: Build, over: str, folder: Path, exact: bool = False, patience: float = 0.3
) -> Iterator[tuple[Link, Device]]:
    """A link to a device that sits on ``build``; ``over`` is "tcp" or "pty"."""
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
