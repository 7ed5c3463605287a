"""What is looked at and measured on the stand before a board is ridden, wheels in the air."""

from typing import Annotated, Literal

from pydantic import Field

from boardmath.buildfile.figures import Key, Record, choice, figure, words, yes_no

Word = Annotated[str, Field(min_length=1, max_length=200)]
LostLink = Literal["lets_go", "brakes_gently", "keeps_running"]


class MotorOnTheStand(Record):
    """One motor at full throttle, nothing touching its wheel."""

    forward: bool | None = yes_no("Turns the board forward")
    backward: bool | None = yes_no("And backward", "in reverse, where the remote has it")
    erpm: float | None = figure("electrical_speed", 0, 500_000, "Electrical speed", "as the controller shows it")
    wheel_rpm: float | None = figure(
        "turns", 0, 20_000, "Wheel's turns", "by a tachometer, where no controller shows them"
    )
    current_a: float | None = figure("current", 0, 200, "Motor current")


class EndPoints(Record):
    """What the remote's thumb gives at its ends and in its middle, as the controller reads it."""

    low_ms: float | None = figure("milliseconds", 0.2, 5, "Reading at full brake")
    middle_ms: float | None = figure("milliseconds", 0.2, 5, "Reading in the middle")
    high_ms: float | None = figure("milliseconds", 0.2, 5, "Reading at full throttle")


class BenchTest(EndPoints):
    """One test; what was not looked at is absent."""

    wheels_free: bool | None = yes_no("Wheels in the air, nothing near them")
    polarity_right: bool | None = yes_no("Red is positive, by the meter")
    pack_v: float | None = figure("voltage", 1, 120, "Pack voltage", "at rest, by the meter")
    lowest_cell_v: float | None = figure("cell_voltage", 0, 5, "Lowest cell")
    highest_cell_v: float | None = figure("cell_voltage", 0, 5, "Highest cell")
    still: bool | None = yes_no("Stands still with the throttle released")
    motors: list[MotorOnTheStand] | None = Field(default=None, max_length=4)
    pack_current_a: float | None = figure("current", 0, 400, "Pack current", "at full throttle, wheels free")
    brakes: bool | None = yes_no("The brake stops the wheels")
    stopped_in_s: float | None = figure("seconds", 0, 60, "Stopped after", "from full speed, wheels free")
    lost_link: LostLink | None = choice("With the remote switched off it")
    lost_after_s: float | None = figure("seconds", 0, 30, "After")
    cut_off_begins_v: float | None = figure("voltage", 1, 120, "Power drops from")
    cut_off_ends_v: float | None = figure("voltage", 1, 120, "Gives nothing below")
    sound: bool | None = yes_no("Nothing hot, no smell, no rattle")
    left_out: dict[Key, Word] | None = Field(
        default=None,
        max_length=12,
        title="Left out",
        description="steps that could not be done here, each with a reason",
    )
    notes: str | None = words(2000, "Notes")
