"""The board behind the simulated controller: the core's physics, with a truth of its own that nobody stated.

What sellers state is a little off, so is this board: its motors' KV, resistance and drag differ from the build's by a few per
cent, the same for the same serial number. On request something is wrong with it.
"""

import random
from collections.abc import Iterator, Mapping
from math import sqrt
from typing import Any, Literal, get_args

import numpy as np

from boardmath.buildfile import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.settings import Settings
from boardmath.engine import sweeps
from boardmath.engine.boards import Boards, changed, stacked
from boardmath.model import estimate
from boardmath.model.inputs import RPM
from boardmath.model.limits import recommended_taper
from boardmath.model.resolution import resolve
from boardmath.model.sampling import nominal_boards
from boardmath.physics.types import Array
from boardmath.prediction.unloaded import on_stand

BoardFault = Literal["swapped_phase", "hall_wire", "weak_motor", "sagging_pack"]
"""All of them sit at the last motor, but for the pack."""
BOARD_FAULTS: tuple[BoardFault, ...] = get_args(BoardFault)
HALL_ORDER = (1, 3, 2, 6, 4, 5)
"""Three sensors 120 electrical degrees apart through one turn: one changes at a time."""
WEAK, SAGS = 0.82, 6.0
STEP_S, CHARGE = 0.05, 0.85
STUTTER_ERPM = 180.0


class TrueBoard:
    """One controller's share of a board.

    Args:
        build: the board as its builder states it.
        motors: how many motors hang on this controller.
        first: the board's number of its first motor, from 0.
        seed: the same board for the same seed.
        exact: with none of its own truth and no noise, to be held against the prediction.
    """

    def __init__(self, build: Build, motors: int, seed: str, exact: bool = False, first: int = 0):
        self.build, self.motors, self.exact, self.first = build, motors, exact, first
        self.faults: set[BoardFault] = set()
        self.charge = CHARGE
        self._chance = random.Random(seed)
        shared = {name: self._drawn(spread) for name, spread in (("kv", 0.015), ("resistance", 0.04), ("drag", 0.06))}
        self._truth = [{name: value * self._drawn(0.004) for name, value in shared.items()} for _ in range(motors)]

    def _drawn(self, spread: float) -> float:
        return 1.0 if self.exact else float(np.exp(np.clip(self._chance.gauss(0.0, spread), -2 * spread, 2 * spread)))

    def engine(self, values: Mapping[str, Any]) -> Boards:
        """The engine's boards, one row a motor, with what the controller is set to acting."""
        settings = Settings.model_validate({k: v for k, v in values.items() if v is not None})
        if settings.taper_end_v is None or settings.taper_start_v is None:
            settings = settings.model_copy(
                update=dict(zip(("taper_start_v", "taper_end_v"), self.cut_off(values), strict=True))
            )
        resolved = resolve(self.build.model_copy(update={"settings": settings, "settings_apart": None}))
        whole = on_stand(nominal_boards([resolved]))
        all_motors = float(whole.motors[0])
        every = stacked([whole] * self.motors)
        truths = [(t, WEAK if self._hurt("weak_motor", i) else 1.0) for i, t in enumerate(self._truth)]
        sags = SAGS if "sagging_pack" in self.faults else 1.0
        return changed(
            every,
            kv=[float(whole.kv[0]) * t["kv"] / weak for t, weak in truths],
            phase_resistance=[float(whole.phase_resistance[0]) * t["resistance"] / weak for t, weak in truths],
            no_load_current=[float(whole.no_load_current[0]) * t["drag"] for t, _ in truths],
            motors=1.0,
            drive_drag=every.drive_drag / all_motors,
            rotating_mass=every.rotating_mass / all_motors,
            idle_power=every.idle_power / all_motors,
            # Every motor sees what all of them together take from the pack.
            cell_resistance=every.cell_resistance * sags * all_motors,
            path_resistance=every.path_resistance * all_motors,
            pack_current_limit=every.pack_current_limit / all_motors,
            regen_current_limit=every.regen_current_limit / all_motors,
        )

    def _hurt(self, fault: BoardFault, motor: int) -> bool:
        return fault in self.faults and motor == self.motors - 1

    def cut_off(self, values: Mapping[str, Any]) -> tuple[float, float]:
        """V of the pack where the controller begins to hold back and gives nothing more; without a taper by its cell count."""
        pack = (self.build.parts.pack or Pack()).model_copy(update={"series": values.get("cells_in_series") or 1})
        begins, ends = recommended_taper(pack)
        begins, ends = values.get("taper_start_v") or begins, values.get("taper_end_v") or ends
        return max(begins, ends + 0.1), ends

    def pack_v(self) -> float:
        """V of the rested pack."""
        return float(sweeps.at_rest(self.engine({}), self.charge)[0][0, 0])

    def noise(self, value: float, spread: float) -> float:
        """``value`` as a device measures it."""
        return (
            value
            if self.exact
            else value * (1.0 + float(np.clip(self._chance.gauss(0.0, spread), -3 * spread, 3 * spread)))
        )

    def detect(self, motor: int) -> dict[str, Any]:
        """What the controller finds out about one motor."""
        engine = self.engine({})
        resistance = float(engine.phase_resistance[motor]) * 1000.0
        flux = 1.0 / (sqrt(3.0) * float(engine.pole_pairs[0]) * float(engine.kv[motor]))
        found: dict[str, Any] = {
            "resistance_mohm": round(self.noise(resistance, 0.008), 2),
            "inductance_uh": round(self.noise(estimate.phase_inductance_uh(resistance).value, 0.02), 2),
            "flux_linkage_mwb": round(self.noise(flux * 1000.0, 0.004), 4),
        }
        backward = self._backward(motor)
        found["turned"] = "backward" if backward else "forward"
        if self.build.parts.motors is not None and self.build.parts.motors.sensored is not False:
            order = list(reversed(HALL_ORDER)) if backward else list(HALL_ORDER)
            if self._hurt("hall_wire", motor):
                order = [h & 0b011 for h in order]  # the third sensor's wire is off
            found["halls"] = order
        return found

    def _backward(self, motor: int) -> bool:
        """Whether a motor told to go forward turns its wheel backward: of two that look at each other, one does."""
        return self._looks_back(motor) != self._hurt("swapped_phase", motor)

    def _looks_back(self, motor: int) -> bool:
        return (self.first + motor) % 2 == 1

    def turns(self, values: Mapping[str, Any], motor: int) -> str:
        """Which way its wheel turns with the directions that are set: what one would see."""
        directions = values.get("directions") or "forward"
        other_way = directions == "reversed" or (directions == "mirrored" and motor % 2 == 1)
        return "backward" if self._backward(motor) != other_way else "forward"

    def spins(self, values: Mapping[str, Any], motor: int) -> bool:
        """Whether a motor turns at all: without one of its sensors it stutters, if it is set to start by them."""
        return not (self._hurt("hall_wire", motor) and values.get("sensor_mode", "hall") != "sensorless")

    def run(self, values: Mapping[str, Any], seconds: float, share: float) -> Iterator[dict[str, Any]]:
        """Frames of a run with the wheels in the air: up to speed and braked again; one each :data:`STEP_S`."""
        engine = self.engine(values)
        engine = changed(engine, duty=engine.duty * share)
        steady = sweeps.free_speeds(engine, self.charge)[0][:, 0]
        ramp = max(float(values.get("ramp_s") or 0.0), STEP_S)
        speed, time = np.zeros(self.motors), 0.0
        turning = np.array([1.0 if self.spins(values, m) else 0.0 for m in range(self.motors)])
        ways = [self.turns(values, m) for m in range(self.motors)]
        while time < seconds:
            opened = changed(engine, motor_current_limit=engine.motor_current_limit * min((time + STEP_S) / ramp, 1.0))
            thrust = sweeps.most_thrusts(opened, speed[:, None], self.charge)[0][:, 0]
            gained = np.maximum(thrust - engine.drive_drag, 0.0) / engine.rotating_mass * STEP_S
            speed, time = np.minimum(speed + gained, steady), time + STEP_S
            held = speed >= steady
            yield self._frame("spin", time, engine, speed, np.where(held, engine.drive_drag, thrust), turning, ways)
        # Over its speed limit a controller still brakes.
        braked = changed(engine, electrical_speed_limit=engine.electrical_speed_limit * 10.0)
        while speed.max() > 0.0 and time < seconds + 10.0:
            force = sweeps.most_brakings(braked, speed[:, None], self.charge)[0][:, 0]
            speed, time = (
                np.maximum(speed - (force + engine.drive_drag) / engine.rotating_mass * STEP_S, 0.0),
                time + STEP_S,
            )
            yield self._frame("brake", time, engine, speed, np.where(speed > 0.0, -force, 0.0), turning, ways)

    def _frame(
        self, phase: str, time: float, engine: Boards, speed: Array, thrust: Array, turning: Array, ways: list[str]
    ) -> dict[str, Any]:
        point = sweeps.moments(engine, speed[:, None], 0.0, self.charge, thrust[:, None])[:, 0]
        resistance = sweeps.at_rest(engine, self.charge)[1][:, 0]
        erpm = point.motor_speed * engine.pole_pairs / RPM * turning
        erpm = np.where(turning > 0.0, erpm, STUTTER_ERPM * (time % (2 * STEP_S) > STEP_S / 2))
        pack_a = float(point.pack_current.sum())
        motors = [
            {
                "erpm": round(self.noise(float(e), 0.001), 1),
                "current_a": round(self.noise(float(c), 0.01), 3),
                "turns": way,
            }
            for e, c, way in zip(erpm, point.motor_current, ways, strict=True)
        ]
        pack_v = float(point.voltage[0] - point.pack_current.mean() * resistance[0])
        return {
            "phase": phase,
            "t": round(time, 3),
            "motors": motors,
            "pack_a": round(self.noise(pack_a, 0.01), 3),
            "pack_v": round(self.noise(pack_v, 0.0005), 2),
        }
