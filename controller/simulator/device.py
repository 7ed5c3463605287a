"""The simulated controller itself: its settings with their ranges, and what it does when asked."""

import struct
import time
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from boardmath.buildfile import Build
from boardmath.buildfile.controllers import motors_each
from boardmath.buildfile.settings import Settings
from controller.protocol import VERSION
from controller.simulator.board import BOARD_FAULTS, STEP_S, TrueBoard
from controller.simulator.fault_injection import LINK_FAULTS, FaultInjection
from controller.simulator.memory import Memory

NOT_A_DEVICES = {"profile", "ride_mode"}
"""What the record says of the values, and what only boxed controllers have: no programmable device keeps it."""
FACTORY: dict[str, Any] = {
    "motor_current_a": 25.0,
    "motor_brake_a": 25.0,
    "pack_current_a": 20.0,
    "pack_regen_a": 3.0,
    "cells_in_series": 5,
    "max_duty_pct": 90.0,
    "sensor_mode": "sensorless",
    "directions": "forward",
    "throttle_curve": "linear",
    "ramp_s": 0.4,
    "dead_band_pct": 15.0,
    "fail_safe": "release",
    "remote_link": "pulse",
    "pole_pairs": 7,
    "gear_ratio": 1.0,
    "wheel_diameter_mm": 80.0,
    "motor_rollback_c": 85.0,
    "controller_rollback_c": 70.0,
    "idle_off_min": 10.0,
}
"""As it leaves the box: five cells, whatever it will be plugged into."""
LONGEST_RUN_S = 20.0
FAIL_SAFE_MS = 260.0


class Denied(Exception):
    """The device will not."""

    def __init__(self, why: str, field: str | None = None):
        super().__init__(why)
        self.why, self.field = why, field


def ranges_of(build: Build) -> dict[str, dict[str, Any]]:
    """What each setting of the controller may be: a span of numbers, or words."""
    controller, schema = build.parts.controller, Settings.model_json_schema()
    most = {
        "motor_current_a": controller and controller.max_motor_current_a,
        "motor_brake_a": controller and controller.max_motor_current_a,
        "pack_current_a": controller and controller.max_pack_current_a,
        "pack_regen_a": controller and controller.max_pack_current_a,
        "max_erpm": controller and controller.max_erpm,
        **dict.fromkeys(("taper_start_v", "taper_end_v", "regen_ceiling_v"), controller and controller.max_v),
    }
    found: dict[str, dict[str, Any]] = {}
    for key, spec in schema["properties"].items():
        if key in NOT_A_DEVICES:
            continue
        choices = next((n["enum"] for n in (spec, *spec.get("anyOf", ())) if "enum" in n), None)
        if choices:
            found[key] = {"choices": choices}
        else:
            found[key] = {"low": spec["low"], "high": min(spec["high"], most.get(key) or spec["high"])}
            if spec.get("whole"):
                found[key]["whole"] = True
    return found


def as_kept(value: Any) -> Any:
    """A number in the single precision in which a device keeps it."""
    if isinstance(value, float):
        return float(f"{struct.unpack('f', struct.pack('f', value))[0]:.7g}")
    return value


class Device:
    """One controller on the bench.

    Args:
        build: the board that it sits on, as its builder states it.
        memory: what it keeps without current.
        serial: its own name; the same board for the same one.
        unit: which of the board's controllers it is, from 0.
        exact: see :class:`TrueBoard`.
    """

    def __init__(self, build: Build, memory: Memory, serial: str = "stand-in", unit: int = 0, exact: bool = False):
        self.ranges, self.serial, self.memory = ranges_of(build), serial, memory
        own = motors_each(build)
        self.board = TrueBoard(build, own, f"{serial}/{unit}", exact, first=unit * own)
        self.injected: list[FaultInjection] = []
        self.frames: Iterator[dict[str, Any]] | None = None
        self.due = 0.0
        self._does: dict[str, Callable[[Mapping[str, Any]], dict[str, Any]]] = {
            "hello": self._hello,
            "read": self._read,
            "begin": self._begin,
            "set": self._set,
            "keep": self._keep,
            "drop": self._drop,
            "reset": self._reset,
            "detect": self._detect,
            "run": self._run,
            "watch": self._watch,
            "stop": self._stop,
            "cut_off": self._cut_off,
            "lose_remote": self._lose_remote,
            "pretend": self._pretend,
        }
        self.start()

    def start(self) -> None:
        """Power on, or a restart: what was staged is gone."""
        self.boot = self.memory.start()
        self.staged: dict[str, Any] = {}
        self.token: str | None = None
        self.kept_token: str | None = None
        self.frames = None
        self.began = time.monotonic()

    def answer(self, message: Mapping[str, Any]) -> dict[str, Any]:
        """The answer to one request."""
        head = {"to": message.get("id"), "boot": self.boot}
        try:
            do = self._does.get(str(message.get("do")))
            if do is None:
                raise Denied(f"no such command: {str(message.get('do'))[:30]}")
            return {**head, "ok": True, **do(message)}
        except Denied as denied:
            field = {"field": denied.field} if denied.field else {}
            return {**head, "ok": False, "why": denied.why, **field}

    def strike(self, command: str) -> set[str]:
        """The faults that happen at this command."""
        return {m.what for m in self.injected if m.strikes(command)}

    def next_frame(self) -> dict[str, Any] | None:
        """What it tells unasked, when it is due; None when there is nothing."""
        if self.frames is None or time.monotonic() < self.due:
            return None
        frame = next(self.frames, None)
        if frame is None:
            self.frames = None
            return {"tell": "end", "boot": self.boot}
        self.due += STEP_S
        return {"tell": "frame", "boot": self.boot, **frame}

    # --- what can be asked of it ------------------------------------------------------------------------------------

    def _hello(self, message: Mapping[str, Any]) -> dict[str, Any]:
        return {
            "device": "simulated controller",
            "protocol": VERSION,
            "serial": self.serial,
            "motors": self.board.motors,
            "pack_v": round(self.board.noise(self.board.pack_v(), 0.001), 2),
            "ranges": self.ranges,
            "pretends": sorted(self.board.faults),
        }

    def _read(self, message: Mapping[str, Any]) -> dict[str, Any]:
        return {"values": self.memory.values, "kept": self.memory.kept}

    def _begin(self, message: Mapping[str, Any]) -> dict[str, Any]:
        self.staged, self.token = {}, self._text(message, "token")
        return {}

    def _set(self, message: Mapping[str, Any]) -> dict[str, Any]:
        self._same_token(message)
        key, value = self._text(message, "key"), message.get("value")
        span = self.ranges.get(key)
        if span is None:
            raise Denied("no such setting", key)
        if "choices" in span:
            if value not in span["choices"]:
                raise Denied(f"one of {', '.join(span['choices'])}", key)
        elif value is not None:
            if (
                isinstance(value, bool)
                or not isinstance(value, int | float)
                or (span.get("whole") and value != int(value))
            ):
                raise Denied("a whole number" if span.get("whole") else "a number", key)
            if not span["low"] <= value <= span["high"]:
                raise Denied(f"from {span['low']:g} to {span['high']:g}, not {value:g}", key)
        if "swallowed" not in self.strike("set value"):
            self.staged[key] = as_kept(value)
        return {"count": len(self.staged)}

    def _keep(self, message: Mapping[str, Any]) -> dict[str, Any]:
        if message.get("token") == self.kept_token:
            return {"kept": self.memory.kept}  # asked again: it was kept, and only the answer got lost
        self._same_token(message)
        self.memory.keep(self.staged)
        self.kept_token, self.token, self.staged = self.token, None, {}
        return {"kept": self.memory.kept}

    def tear(self) -> None:
        """The current fails while keeping: half is stored."""
        self.memory.keep(dict(list(self.staged.items())[: len(self.staged) // 2]))

    def _drop(self, message: Mapping[str, Any]) -> dict[str, Any]:
        self.staged, self.token = {}, None
        return {}

    def _reset(self, message: Mapping[str, Any]) -> dict[str, Any]:
        self.memory.forget()
        return {}

    def _detect(self, message: Mapping[str, Any]) -> dict[str, Any]:
        motor = message.get("motor", 0)
        if not isinstance(motor, int) or not 0 <= motor < self.board.motors:
            raise Denied(f"a motor from 0 to {self.board.motors - 1}", "motor")
        return {"motor": motor, "found": self.board.detect(motor)}

    def _run(self, message: Mapping[str, Any]) -> dict[str, Any]:
        seconds, share = message.get("seconds", 2.0), message.get("share", 1.0)
        if not isinstance(seconds, int | float) or not 0.2 <= seconds <= LONGEST_RUN_S:
            raise Denied(f"from 0.2 to {LONGEST_RUN_S:g} s", "seconds")
        if not isinstance(share, int | float) or not 0.05 <= share <= 1.0:
            raise Denied("from 0.05 to 1", "share")
        self.frames, self.due = self.board.run(self.memory.values, seconds, share), time.monotonic()
        return {"every_s": STEP_S}

    def _watch(self, message: Mapping[str, Any]) -> dict[str, Any]:
        count = message.get("count", 20)
        if not isinstance(count, int) or not 1 <= count <= 100_000:
            raise Denied("from 1 to 100000", "count")
        volts, fast = self.board.pack_v(), message.get("fast") is True
        every = 0.0 if fast else STEP_S

        def idle() -> Iterator[dict[str, Any]]:
            for number in range(count):
                if fast:
                    self.due = 0.0
                yield {"phase": "idle", "n": number, "pack_v": round(self.board.noise(volts, 0.0005), 2), "pack_a": 0.0}

        self.frames, self.due = idle(), time.monotonic()
        return {"every_s": every}

    def _stop(self, message: Mapping[str, Any]) -> dict[str, Any]:
        self.frames = None
        return {}

    def _cut_off(self, message: Mapping[str, Any]) -> dict[str, Any]:
        begins, ends = self.board.cut_off(self.memory.values)
        return {
            "begins_v": round(self.board.noise(begins, 0.001), 2),
            "ends_v": round(self.board.noise(ends, 0.001), 2),
        }

    def _lose_remote(self, message: Mapping[str, Any]) -> dict[str, Any]:
        return {
            "does": self.memory.values.get("fail_safe") or "release",
            "after_ms": round(self.board.noise(FAIL_SAFE_MS, 0.05)),
        }

    def _pretend(self, message: Mapping[str, Any]) -> dict[str, Any]:
        board, link = message.get("board", []), message.get("link", [])
        if not isinstance(board, list) or any(b not in BOARD_FAULTS for b in board):
            raise Denied(f"any of {', '.join(BOARD_FAULTS)}", "board")
        if not isinstance(link, list) or any(not isinstance(x, dict) or x.get("what") not in LINK_FAULTS for x in link):
            raise Denied(f"any of {', '.join(LINK_FAULTS)}", "link")
        self.board.faults = set(board)
        known = ("what", "at", "after", "times")
        self.injected = [FaultInjection(**{k: x[k] for k in known if k in x}) for x in link]
        return {}

    def _text(self, message: Mapping[str, Any], key: str) -> str:
        value = message.get(key)
        if not isinstance(value, str) or not 0 < len(value) <= 60:
            raise Denied("a short text", key)
        return value

    def _same_token(self, message: Mapping[str, Any]) -> None:
        if self.token is None or message.get("token") != self.token:
            raise Denied("nothing is staged under this token")
        if message.get("do") == "keep" and message.get("count") != len(self.staged):
            raise Denied(f"{len(self.staged)} values are staged, not {message.get('count')}")
