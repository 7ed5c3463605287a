"""``python -m controller.simulator BUILD.json``: a simulated controller for a build, until it is ended.

Prints its address first. ``--pty NAME`` makes a serial device of that name; without it a port of loopback is opened.
"""

import argparse
import fcntl
import signal
import sys
from pathlib import Path

from boardmath.buildfile import BuildFileError, read_build
from boardmath.buildfile.reading import parse_json
from boardmath.model.resolution import Incomplete
from controller.simulator.device import FACTORY, Device
from controller.simulator.memory import Memory
from controller.simulator.serving import serve
from controller.simulator.wires import PtyWire, TcpWire


def main() -> int:
    parser = argparse.ArgumentParser(prog="controller.simulator")
    parser.add_argument("build", type=Path, help="the build file of the board that it sits on")
    parser.add_argument("--port", type=int, default=0, help="port of loopback; 0 takes a free one")
    parser.add_argument("--pty", type=Path, help="a serial device of this name instead of a port")
    parser.add_argument("--memory", type=Path, help="file in which it keeps its settings; none without")
    parser.add_argument("--unit", type=int, default=0, help="which of the board's controllers, from 0")
    parser.add_argument("--serial", default="stand-in", help="its serial number; the same board for the same one")
    parser.add_argument("--idle", type=float, help="seconds without a word after which it ends")
    given = parser.parse_args()
    held = None
    if given.memory is not None:
        # Two devices with one memory would undo each other.
        held = given.memory.with_suffix(".lock").open("w")
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            print("another simulated controller holds this memory", file=sys.stderr)
            return 3
    try:
        build = read_build(parse_json(given.build.read_bytes()))
        device = Device(build, Memory(given.memory, FACTORY), given.serial, given.unit)
        device.board.pack_v()
    except (BuildFileError, Incomplete, OSError) as error:
        print(error, file=sys.stderr)
        return 2
    wire = PtyWire(given.pty) if given.pty else TcpWire(given.port)
    ended = False

    def end(*_: object) -> None:
        nonlocal ended
        ended = True

    for sign in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(sign, end)
    print(wire.address, flush=True)
    try:
        serve(device, wire, lambda: ended, given.idle)
    finally:
        wire.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
