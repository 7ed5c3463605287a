"""What the steps of a bench test share: a step as it is judged, and the board on the stand that they read."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from boardmath.buildfile.bench_test import BenchTest, EndPoints, MotorOnTheStand
from boardmath.buildfile.build import Build
from boardmath.messages import Message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import cell_voltages, full_voltage
from boardmath.prediction.unloaded import FigureInterval, OnTheStand

Verdict = Literal["open", "passes", "unsure", "fails", "left out"]

METER = 0.02
"""Share by which a meter in a hobbyist's hand reads wrong (common practice, no source)."""


class Step(BaseModel):
    """A step of the test.

    ``fields`` are the entries that belong to it, ``motor_fields`` those that each motor has of its own. ``grave`` where a
    failure can hurt someone; ``optional`` where it may be left out with a word of why.
    """

    key: str
    title: str
    do: Message
    fields: list[str] = []
    motor_fields: list[str] = []
    grave: bool = False
    optional: bool = False
    predicted: list[FigureInterval] = []
    verdict: Verdict
    said: Message | None = None
    remedy: Message | None = None


@dataclass(frozen=True)
class Judged:
    """What was found at a step, and what to do where it is not as it should be."""

    verdict: Verdict = "open"
    said: Message | None = None
    remedy: Message | None = None

    def step(self, **about: Any) -> Step:
        """The whole step."""
        return Step(verdict=self.verdict, said=self.said, remedy=self.remedy, **about)


def ticked(value: bool | None, remedy: Message) -> Judged:
    """A step that is looked at and answered with yes or no."""
    if value is None:
        return Judged()
    return Judged("passes") if value else Judged("fails", remedy=remedy)


def of_its_cells(build: Build, pack_v: float) -> bool:
    """Whether a pack's voltage lies between its cells empty and full, as far as a meter can tell."""
    pack = build.parts.pack
    if pack is None or pack.series is None:
        return True
    empty, full = pack.series * cell_voltages(pack)[2], full_voltage(pack)
    return empty * (1.0 - METER) <= pack_v <= full * (1.0 + METER / 2.0)


@dataclass(frozen=True)
class Stand:
    """A board on the stand: the build with what is set in it, what was entered, what was predicted for that voltage.

    ``noted`` are the remote's end points as the settings record that is set says them.
    """

    build: Build
    entered: BenchTest
    predicted: OnTheStand | None
    noted: EndPoints
    comparable: bool = True
    """False where the pack's voltage is not that of its cells: then no run says anything of the motors."""

    @property
    def motors(self) -> list[MotorOnTheStand]:
        """One entry a motor; an empty one where nothing was entered."""
        parts = self.build.parts
        count = (parts.motors.count if parts.motors else 1) or 1
        found = list(self.entered.motors or [])[:count]
        return found + [MotorOnTheStand()] * (count - len(found))

    @property
    def pole_pairs(self) -> int:
        """Of each motor."""
        motors = self.build.parts.motors
        return (motors.pole_pairs if motors else None) or int(USUAL["motors.pole_pairs"])

    @property
    def electrical_speeds(self) -> list[float]:
        """erpm of each motor that was run, from the wheel's turns where only those were taken."""
        found = []
        for motor in self.motors:
            if motor.erpm is not None:
                found.append(motor.erpm)
            elif motor.wheel_rpm is not None and self.predicted is not None and self.predicted.wheel_rpm.mid > 0.0:
                found.append(motor.wheel_rpm * self.predicted.erpm.mid / self.predicted.wheel_rpm.mid)
        return found
