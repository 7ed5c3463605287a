"""Motors and the drive that turns the wheels."""

from typing import Literal

from boardmath.buildfile.figures import Part, choice, figure, whole, words, yes_no

MotorKind = Literal["outrunner", "hub", "direct"]
DriveKind = Literal["belt", "hub", "direct", "gear", "chain"]
PulleyFixing = Literal["bolted", "own_bearing"]
PulleyMaterial = Literal["metal", "plastic"]
ResistanceKind = Literal["line_to_neutral", "line_to_line"]
NoLoadKind = Literal["pack", "motor"]
MotorPlace = Literal["before", "behind"]
Covered = Literal["belts", "motors", "both"]


class Motors(Part):
    count: int | None = whole(1, 4, "Motors", group="board")
    kind: MotorKind | None = choice("Kind")
    kv_rpm_per_v: float | None = figure("motor_constant", 15, 6000, "KV", "no-load speed per volt")
    can_diameter_mm: float | None = figure("length", 15, 200, "Can diameter")
    can_length_mm: float | None = figure("length", 10, 200, "Can length")
    phase_resistance_mohm: float | None = figure("resistance", 0.5, 2000, "Phase resistance", "at 25 °C")
    resistance_is: ResistanceKind | None = choice(
        "Resistance is stated", "sellers mostly state line to line, twice the phase's own"
    )
    pole_pairs: int | None = whole(1, 50, "Pole pairs")
    no_load_current_a: float | None = figure("current", 0, 60, "No-load current")
    no_load_is: NoLoadKind | None = choice(
        "No-load current is", "of the pack, as sellers state it, or of the motor, as a controller shows it"
    )
    max_current_a: float | None = figure("current", 1, 500, "Largest current")
    max_power_w: float | None = figure("power", 10, 30_000, "Largest power", "makers' figures are peaks")
    shaft_mm: float | None = figure("length", 2, 25, "Shaft")
    sensored: bool | None = yes_no("Hall sensors")
    plug: str | None = words(30, "Phase plugs", "such as 4 mm bullet")


class Drive(Part):
    kind: DriveKind | None = choice("Kind")
    motor_teeth: int | None = whole(5, 80, "Motor pulley teeth")
    wheel_teeth: int | None = whole(5, 200, "Wheel pulley teeth")
    pitch_mm: float | None = figure("length", 1.5, 15, "Belt pitch")
    belt_width_mm: float | None = figure("length", 4, 50, "Belt width")
    belt_teeth: int | None = whole(20, 400, "Belt teeth")
    idler: bool | None = yes_no("Idler")
    mount_profile: str | None = words(30, "Mount clamps", "the hanger profile that the motor mount is made for")
    mount_angle_deg: float | None = figure(
        "angle", -60, 90, "Mount angle", "how far the motor is above the line from axle to nose"
    )
    motor_place: MotorPlace | None = choice("Motor stands", "in front of the axle, under the deck, or behind it")
    wheel_core: str | None = words(40, "Wheel core of the pulley", "the wheel core that the wheel pulley is made for")
    pulley_fixing: PulleyFixing | None = choice("Wheel pulley", "with its own bearing it needs about 7 mm more axle")
    pulley_material: PulleyMaterial | None = choice("Wheel pulley's material")
    bore_mm: float | None = figure("length", 2, 25, "Motor pulley bore")
    driven_wheels: int | None = whole(1, 4, "Driven wheels")


class MotorMount(Part):
    """What holds a motor on the hanger. What it says counts before what is said of it with the drive."""

    profile: str | None = words(30, "Clamps", "the hanger profile that it is made for")
    angle_deg: float | None = figure(
        "angle", -60, 90, "Angle", "how far the motor is above the line from axle to nose, or to tail behind it"
    )
    idler: bool | None = yes_no("Has an idler")
    plate_mm: float | None = figure("length", 3, 20, "Plate", "its thickness on the hanger")
    slot_mm: float | None = figure("length", 0, 40, "Slots", "how far the motor can slide to tension the belt")


class Covers(Part):
    """Guards against grit, spray and fingers."""

    over: Covered | None = choice("Over")
    width_mm: float | None = figure("length", 2, 60, "Stands out", "beside the pulley or round the motor")
