"""What is set in the controller: the controller settings's values, in the standard terms of electrical drives."""

from typing import Annotated, Literal

from pydantic import Field

from boardmath.buildfile.figures import Day, Record, choice, day, figure, whole

Profile = Literal["beginner", "daily", "hills", "full"]
SensorMode = Literal["hall", "sensorless", "hall_at_low_speed"]
Directions = Literal["forward", "reversed", "mirrored"]
Turned = Literal["forward", "backward"]
RideMode = Literal["slow", "middle", "fast"]
ThrottleCurve = Literal["linear", "progressive", "gentle"]
FailSafe = Literal["release", "brake_gently"]


class Detected(Record):
    """What the controller found out about one motor on the stand; each motor has its own."""

    resistance_mohm: float | None = figure(
        "resistance", 0.5, 2000, "Resistance found", "of one phase, line to neutral, cold"
    )
    inductance_uh: float | None = figure("inductance", 0.5, 5000, "Inductance found", "of one phase")
    flux_linkage_mwb: float | None = figure("flux_linkage", 0.05, 500, "Flux linkage found", "peak, of one phase")
    halls: list[Annotated[int, Field(ge=0, le=7)]] | None = Field(
        default=None,
        max_length=12,
        title="Hall order",
        description="what the sensors report over one electrical turn",
    )
    turned: Turned | None = choice("Turned", "when the controller turned it forward")
    on: Day | None = day("Found on")


class Settings(Record):
    """What is set in the controller. Currents of the pack are a controller's own, not the sum."""

    motor_current_a: float | None = figure("current", 1, 1000, "Motor current", "each motor")
    motor_brake_a: float | None = figure("current", 0, 1000, "Brake current", "each motor")
    pack_current_a: float | None = figure("current", 1, 1000, "Pack current", "each controller")
    pack_regen_a: float | None = figure("current", 0, 500, "Pack current when braking", "each controller")
    taper_start_v: float | None = figure(
        "voltage", 1.5, 110, "Cut-off start", "pack voltage where the controller starts to reduce power"
    )
    taper_end_v: float | None = figure("voltage", 1.5, 110, "Cut-off end", "pack voltage where it gives nothing more")
    max_erpm: float | None = figure("electrical_speed", 1000, 500_000, "Largest electrical speed")
    max_duty_pct: float | None = figure("share", 10, 100, "Largest duty cycle")
    cells_in_series: int | None = whole(1, 24, "Cells in series")
    profile: Profile | None = choice("Profile", "what these values are meant for")
    regen_ceiling_v: float | None = figure(
        "voltage", 1.5, 110, "Braking ceiling", "pack voltage above which braking gives nothing back"
    )
    speed_cap_kmh: float | None = figure(
        "speed", 3, 120, "Speed cap", "as the controller calculates speed; for a rule, or for a beginner"
    )
    quiet_cap_kmh: float | None = figure(
        "speed", 3, 60, "Quiet-zone cap", "of the remote's slow mode, beside the speed cap"
    )
    motor_rollback_c: float | None = figure(
        "temperature", 40, 180, "Motor roll-back starts", "where a hot motor gets less current"
    )
    controller_rollback_c: float | None = figure("temperature", 40, 120, "Controller roll-back starts")
    sensor_mode: SensorMode | None = choice(
        "Rotor position", "with Hall sensors, without them, or with them at low speed only"
    )
    directions: Directions | None = choice(
        "Directions", "of one controller's motors; mirrored turns its second one the other way round"
    )
    pole_pairs: int | None = whole(1, 50, "Pole pairs", "as set in the controller")
    gear_ratio: float | None = figure("ratio", 0.5, 20, "Gear ratio", "as set in the controller")
    wheel_diameter_mm: float | None = figure(
        "length", 40, 400, "Wheel diameter", "as set in the controller; of the loaded wheel"
    )
    ride_mode: RideMode | None = choice(
        "Mode", "of a boxed controller's remote: its slowest, the one between, its fastest"
    )
    throttle_curve: ThrottleCurve | None = choice("Throttle curve", "how current follows the throttle")
    ramp_s: float | None = figure("seconds", 0, 10, "Throttle ramp", "from zero to full current")
    dead_band_pct: float | None = figure("share", 0, 40, "Dead band", "around the remote's middle")
    fail_safe: FailSafe | None = choice("When the remote link is lost")
    remote_link: Literal["serial", "pulse"] | None = choice("Link to the receiver")
    idle_off_min: float | None = figure("minutes", 0, 600, "Switches off when idle for")
