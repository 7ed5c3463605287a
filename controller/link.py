"""The careful client: every request is answered, or it is said that it was not.

Lines may be lost, cut short, garbled or late, the device may restart, the cable may be pulled. Every request of the protocol
may be sent again without harm, so a request without a whole answer is sent again, over a new connection where the old one
is gone. Answers carry the request's number: one that comes late is not taken for another's.
"""

import itertools
import logging
import select
import time
from collections.abc import Callable, Iterator
from types import TracebackType
from typing import Any

import serial

from controller.protocol import LONGEST, Garbled, line_of, message_of

logger = logging.getLogger(__name__)
TRIES = 4
PATIENCE_S = 1.0
"""How long an answer is waited for before the request is sent again."""
SLICE_S = 0.25
"""How often it is asked, while waiting, whether to stop."""
BAUD = 115_200


MOST_TROUBLES = 50
"""Troubles that are kept of a talk; a device that floods the line is no reason to remember every line."""


class LinkFailed(Exception):
    """The device did not answer, however often it was asked."""


class Refusal(Exception):
    """The device answered that it will not; ``field`` names the setting where it is about one."""

    def __init__(self, why: str, field: str | None = None):
        super().__init__(why)
        self.why, self.field = why, field


class Stopped(Exception):
    """Somebody asked to stop."""


class Link:
    """A connection to one device by any address that pyserial opens: a serial device, ``socket://host:port``.

    Args:
        address: where it is.
        patience: seconds that an answer may take.
        stopped: asked between tries and while waiting; true ends whatever goes on.
    """

    def __init__(self, address: str, patience: float = PATIENCE_S, stopped: Callable[[], bool] = lambda: False):
        self.address, self.patience, self.stopped = address, patience, stopped
        self.boot: int | None = None
        """Counts the device's starts, as it last said."""
        self.troubles: list[str] = []
        """What went wrong on the way and was made good."""
        self._port: serial.SerialBase | None = None
        # Numbers differ from one connection to the next, so that an answer to an older one is no answer.
        self._numbers = itertools.count(int(time.time() * 1000) % 1_000_000_000)
        self._rest = bytearray()

    def __enter__(self) -> "Link":
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """Lets the device go."""
        if self._port is not None:
            try:
                self._port.close()
            except OSError:
                logger.debug("closing %s", self.address, exc_info=True)
        self._port = None
        self._rest.clear()

    def ask(self, do: str, /, wait: float | None = None, **said: Any) -> dict[str, Any]:
        """Sends a request and gives its answer.

        Args:
            do: what is asked for.
            wait: seconds that this answer may take, where that is longer than usual.

        Raises:
            Refusal: the device will not.
            LinkFailed: no whole answer came.
            Stopped: somebody asked to stop.
        """
        trouble = ""
        for attempt in range(TRIES):
            if self.stopped():
                raise Stopped
            number = next(self._numbers)
            try:
                self._send({"id": number, "do": do, **said})
                answer = self._answer(number, wait or self.patience)
            except (OSError, serial.SerialException):
                logger.debug("%s at %s", do, self.address, exc_info=True)
                trouble = "the link broke"
                self.close()
                time.sleep(0.05 * 2**attempt)
            else:
                if answer is not None:
                    return self._judged(answer)
                trouble = f"no whole answer within {wait or self.patience:g} s"
            self._trouble(f"{do}: {trouble}")
        raise LinkFailed(f"{do}: {trouble}; asked {TRIES} times")

    def told(self, seconds: float) -> Iterator[dict[str, Any]]:
        """What the device tells unasked until it says that this was all; garbled frames are left out.

        Raises:
            LinkFailed: the end did not come within ``seconds``.
            Stopped: somebody asked to stop.
        """
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            if self.stopped():
                raise Stopped
            try:
                message = self._next(min(end, time.monotonic() + SLICE_S))
            except (OSError, serial.SerialException):
                self.close()
                raise LinkFailed("the link broke") from None
            if message is None:
                continue
            if message.get("tell") == "end":
                return
            if "tell" in message:
                yield message
        raise LinkFailed(f"the device did not come to an end within {seconds:g} s")

    def _trouble(self, text: str) -> None:
        if len(self.troubles) < MOST_TROUBLES:
            self.troubles.append(text)

    def _judged(self, answer: dict[str, Any]) -> dict[str, Any]:
        boot = answer.get("boot")
        if isinstance(boot, int):
            if self.boot is not None and boot != self.boot:
                self._trouble("the device started anew")
            self.boot = boot
        if answer.get("ok") is not True:
            raise Refusal(str(answer.get("why") or "it will not"), answer.get("field"))
        return answer

    def _send(self, message: dict[str, Any]) -> None:
        if self._port is None:
            self._rest.clear()
            # Listening before speaking: what is left of an earlier talk is not an answer.
            self._port = serial.serial_for_url(self.address, baudrate=BAUD, timeout=0, write_timeout=self.patience)
        self._port.write(line_of(message))

    def _answer(self, number: int, seconds: float) -> dict[str, Any] | None:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            if self.stopped():
                raise Stopped
            message = self._next(min(end, time.monotonic() + SLICE_S))
            if message is not None and message.get("to") == number:
                return message
        return None

    def _next(self, end: float) -> dict[str, Any] | None:
        """The next whole message until ``end``, None when there is none."""
        while time.monotonic() < end:
            cut = self._rest.find(b"\n")
            if cut < 0:
                if len(self._rest) > LONGEST:
                    self._rest.clear()  # noise without an end
                if self._port is None:
                    raise OSError("not connected")
                if select.select([self._port], [], [], max(end - time.monotonic(), 0.0))[0]:
                    self._rest += self._port.read(LONGEST)
                continue
            line = bytes(self._rest[:cut])
            del self._rest[: cut + 1]
            try:
                return message_of(line)
            except Garbled as error:
                self._trouble(str(error))
        return None
