"""Carries a simulated controller's words over a wire, with whatever faults were injected."""

import random
import time
from collections.abc import Callable

from controller.protocol import LONGEST, Garbled, line_of, message_of
from controller.simulator.device import Device
from controller.simulator.wires import Wire

LATE_S = 1.6
"""Longer than the client waits for a usual answer."""


def serve(device: Device, wire: Wire, stopped: Callable[[], bool], idle_s: float | None = None) -> None:
    """Answers until ``stopped``, or until nothing was asked for ``idle_s`` seconds."""
    rest, last = bytearray(), time.monotonic()
    while not stopped() and (idle_s is None or time.monotonic() - last < idle_s):
        waits = 0.1 if device.frames is None else max(0.0, min(device.due - time.monotonic(), 0.1))
        data = wire.receive(waits)
        if data is None:
            rest.clear()
            device.frames = None  # nobody listens any more: a motor must not run on
        elif data:
            rest += data
            last = time.monotonic()
            *lines, left = bytes(rest).split(b"\n")
            rest = bytearray(left if len(left) <= LONGEST else b"")
            for line in lines:
                _answer(device, wire, line)
        if (frame := device.next_frame()) is not None:
            last = time.monotonic()
            wire.send(line_of(frame))


def _answer(device: Device, wire: Wire, line: bytes) -> None:
    try:
        message = message_of(line)
    except Garbled:
        return  # whoever sent it asks again
    command = str(message.get("do"))
    wrong = device.strike(command) if command != "pretend" else set()
    if "cut_before" in wrong or "restart_before" in wrong:
        if "restart_before" in wrong:
            device.start()
        wire.cut()
        return
    if "request_lost" in wrong:
        return
    if "torn" in wrong:
        device.tear()
        device.start()
        wire.cut()
        return
    answer = device.answer(message)
    if "restart_after" in wrong:
        device.start()
        wire.cut()
    elif "cut_after" in wrong:
        wire.cut()
    elif "answer_lost" not in wrong:
        if "wrong_number" in wrong:
            answer = {**answer, "to": -1}
        sent = line_of(answer)
        if "late" in wrong:
            time.sleep(LATE_S)
        if "half_answer" in wrong:
            sent = sent[: len(sent) // 2]
        if "garbage" in wrong:
            noise = bytearray(sent)
            for _ in range(3):
                noise[random.randrange(len(noise) - 1)] ^= 0x15
            sent = bytes(random.randrange(256) for _ in range(40)) + bytes(noise)
        wire.send(sent)
