"""The two ways to reach the simulated controller: a TCP socket on loopback, and a pseudo-terminal as a serial device is."""

import os
import select
import socket
import tty
from pathlib import Path
from typing import Protocol

CHUNK = 65536


class Wire(Protocol):
    """One end of a connection that may be cut."""

    address: str

    def receive(self, seconds: float) -> bytes | None:
        """What came within ``seconds``; None when a connection begins or ends."""

    def send(self, data: bytes) -> None:
        """Sends, or loses it where nobody listens."""

    def cut(self) -> None:
        """Ends the connection; a new one can be made."""

    def close(self) -> None:
        """Ends it for good."""


class TcpWire:
    """Listens on a port of loopback; the newest connection is the one that counts."""

    def __init__(self, port: int = 0):
        self._listener = socket.create_server(("127.0.0.1", port))
        self.address = f"socket://127.0.0.1:{self._listener.getsockname()[1]}"
        self._peer: socket.socket | None = None

    def receive(self, seconds: float) -> bytes | None:
        """See :class:`Wire`."""
        ready, _, _ = select.select([self._listener, *([self._peer] if self._peer else [])], [], [], seconds)
        if self._listener in ready:
            self.cut()
            self._peer, _ = self._listener.accept()
            self._peer.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
            return None
        if self._peer in ready and self._peer is not None:
            try:
                data = self._peer.recv(CHUNK)
            except OSError:
                data = b""
            if not data:
                self.cut()
            return data or None
        return b""

    def send(self, data: bytes) -> None:
        """See :class:`Wire`."""
        if self._peer is not None:
            try:
                self._peer.sendall(data)
            except OSError:
                self.cut()

    def cut(self) -> None:
        """See :class:`Wire`."""
        if self._peer is not None:
            self._peer.close()
            self._peer = None

    def close(self) -> None:
        """See :class:`Wire`."""
        self.cut()
        self._listener.close()


class PtyWire:
    """A pseudo-terminal behind a fixed name, as a serial device that comes and goes has one."""

    def __init__(self, name: Path):
        self._name, self._master, self._slave = name, -1, -1
        self.address = str(name)
        self._plug_in()

    def _plug_in(self) -> None:
        self._master, self._slave = os.openpty()
        tty.setraw(self._slave)
        os.set_blocking(self._master, False)
        beside = self._name.with_name(self._name.name + ".new")
        beside.unlink(missing_ok=True)
        beside.symlink_to(os.ttyname(self._slave))
        os.replace(beside, self._name)

    def receive(self, seconds: float) -> bytes | None:
        """See :class:`Wire`."""
        if select.select([self._master], [], [], seconds)[0]:
            try:
                return os.read(self._master, CHUNK)
            except OSError:
                self.cut()
                return None
        return b""

    def send(self, data: bytes) -> None:
        """See :class:`Wire`."""
        while data:
            if not select.select([], [self._master], [], 1.0)[1]:
                return  # nobody reads
            try:
                data = data[os.write(self._master, data) :]
            except OSError:
                return

    def cut(self) -> None:
        """See :class:`Wire`."""
        os.close(self._slave)
        os.close(self._master)
        self._plug_in()

    def close(self) -> None:
        """See :class:`Wire`."""
        os.close(self._slave)
        os.close(self._master)
        self._name.unlink(missing_ok=True)
