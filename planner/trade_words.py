"""The trade's words: other names by which part types and fields are found, and the terms that screens explain.

Names and explanations are common practice, no source.
"""

from pydantic import BaseModel

PART_NAMES: dict[str, str] = {
    "deck": "board, longboard, plank",
    "trucks": "axles, hangers, kingpin, bushings, baseplate",
    "risers": "riser pads, shock pads, standoff",
    "spreaders": "mounting plates, backing plates",
    "wheels": "tyres, tires, pneumatics, urethane, hub, durometer",
    "motors": "brushless motor, BLDC, outrunner, hub motor, KV",
    "drive": "belt drive, pulleys, gear ratio, gearing, sprocket, gear drive",
    "mount": "motor mount, bracket, clamp, idler",
    "covers": "belt cover, motor guard, fender, mudguard",
    "pack": "battery, LiPo, Li-ion, lithium, bricks, 10S4P, 12S",
    "cell": "18650, 21700, pouch, LiPo, Li-ion, LiFePO4, cell",
    "protection": "BMS, protection board, PCM, battery management system",
    "switch": "power switch, loop key, anti-spark, e-switch",
    "fuse": "breaker",
    "wiring": "cable, AWG, wire gauge, connectors",
    "charger": "power supply, charging brick, balance charger",
    "charge_port": "charging socket, barrel jack, charge plug",
    "controller": "ESC, speed controller, motor controller, FOC, field-oriented controller",
    "remote": "transmitter, throttle, receiver, hand control",
    "enclosure": "box, case, battery box, tray, housing",
    "second_enclosure": "second box, split enclosure, controller box",
    "load": "lights, headlight, tail light, horn, converter, step-down",
    "kit": "bundle, set, combo",
    "extra": "grip tape, bearings, bolts, threadlocker, heat-shrink, spare belt, hardware",
}
"""What a builder may type to find a type of part, by its word in the build file."""

FIELD_NAMES: dict[str, str] = {
    "rider.mass_kg": "body weight",
    "brief.hill_grade_pct": "slope, incline, gradient, climb",
    "brief.range_km": "range, commute",
    "brief.surface": "asphalt, gravel, grass, pavement",
    "brief.wet": "rain, waterproof",
    "parts.wheels.hardness_a": "durometer, duro, softness",
    "parts.trucks.lean_deg": "bushings, turning",
    "parts.trucks.pivots": "double kingpin, DKP, reverse kingpin, RKP",
    "parts.deck.flex": "stiffness, bend",
    "parts.motors.kv_rpm_per_v": "rpm per volt, motor constant",
    "parts.motors.pole_pairs": "magnets, poles",
    "parts.motors.phase_resistance_mohm": "winding resistance, Rm",
    "parts.motors.sensored": "sensor cable, Hall",
    "parts.drive.motor_teeth": "motor pulley, pinion, gear ratio",
    "parts.drive.wheel_teeth": "wheel pulley, gear ratio",
    "parts.drive.belt_teeth": "belt length",
    "parts.pack.series": "S count, 10S, 12S, 10S4P",
    "parts.pack.parallel": "P count, 2P, 4P, 10S4P",
    "parts.pack.cell.resistance_mohm": "IR, internal resistance, DCIR",
    "parts.pack.cell.max_discharge_a": "C rating, CDR, continuous discharge",
    "parts.pack.health_pct": "SOH, state of health, worn pack, degradation",
    "parts.pack.charge_to_v": "charge limit, 4.1 V",
    "parts.wiring.awg": "AWG, cable size, cross-section",
    "settings.motor_current_a": "motor amps, phase current",
    "settings.motor_brake_a": "brake amps, brake strength",
    "settings.pack_current_a": "battery current, battery amps, input current",
    "settings.pack_regen_a": "regen, battery regen, brake charging",
    "settings.taper_start_v": "cut-off start, low voltage",
    "settings.taper_end_v": "cut-off end, LVC, low-voltage cut-off",
    "settings.regen_ceiling_v": "over-voltage, full pack downhill",
    "settings.max_erpm": "ERPM limit, rpm limit",
    "settings.max_duty_pct": "duty cycle limit",
    "settings.motor_rollback_c": "thermal throttling, overheating",
    "settings.sensor_mode": "FOC, sensorless, Hall",
    "settings.fail_safe": "signal lost, failsafe",
    "settings.ramp_s": "ramping, acceleration, jerk",
    "settings.dead_band_pct": "deadzone, dead zone",
    "assumptions.crr": "rolling drag, Crr",
    "assumptions.cda_m2": "air drag, CdA, wind resistance",
}
"""What a builder may type to find a field of the build file, beside its title."""


class Term(BaseModel):
    """A word of the trade, explained in two sentences where it stands on a screen, and in the user guide.

    ``fields`` are those whose title is the term; ``drawing`` says what a drawing of its name shows.
    """

    slug: str
    title: str
    text: str
    also: str = ""
    fields: list[str] = []
    drawing: str | None = None


TERMS = [
    Term(
        slug="kv",
        title="KV",
        text="KV is how many turns a minute a motor makes for each volt, without load. A lower KV gives more torque per "
        "ampere and a lower top speed.",
        also="rpm per volt, motor constant",
        fields=["parts.motors.kv_rpm_per_v"],
        drawing="Two lines of motor speed against voltage: the motor of 190 KV turns twice as fast as the one of 95 KV.",
    ),
    Term(
        slug="gear-ratio",
        title="Gear ratio",
        text="The gear ratio is the turns that the motor makes for one turn of the wheel: teeth of the wheel pulley divided "
        "by teeth of the motor pulley. A higher ratio climbs better and has a lower top speed.",
        also="gearing, reduction, pulley ratio",
        fields=["settings.gear_ratio", "parts.drive.motor_teeth", "parts.drive.wheel_teeth"],
        drawing="A small pulley of 15 teeth drives a large one of 45 teeth by a belt: 45 : 15 is a ratio of 3.",
    ),
    Term(
        slug="sag",
        title="Voltage sag",
        text="While current flows, the pack's voltage falls, because cells, links and wires resist it; it rises again when "
        "the current stops. A cold, old or small pack sags more, which costs speed and range.",
        also="voltage drop, internal resistance, IR",
        fields=["parts.pack.cell.resistance_mohm"],
        drawing="Voltage over time: it falls while the throttle is pulled, and rises again afterwards.",
    ),
    Term(
        slug="regenerative-braking",
        title="Regenerative braking",
        text="The motors brake by working as generators, and charge the pack. A full pack cannot take that charge, so the "
        "brakes get weaker or end: leave room in the pack before a descent.",
        also="regen, recuperation, brake current",
        fields=["settings.pack_regen_a", "settings.regen_ceiling_v"],
        drawing="Braking current flows from the wheel through the motor and the controller to the pack.",
    ),
    Term(
        slug="duty-cycle",
        title="Duty cycle",
        text="The duty cycle is the share of the pack's voltage that the controller passes on to the motor. When it reaches "
        "its limit, usually about 95 %, the board cannot go faster.",
        also="modulation, PWM",
        fields=["settings.max_duty_pct"],
        drawing="The controller switches the pack's voltage on for three quarters of the time: a duty cycle of 75 %.",
    ),
    Term(
        slug="balance-lead",
        title="Balance lead",
        text="A balance lead is a thin wire from a joint between two cell groups to the BMS or to a balance charger, which "
        "measures and evens out each group through it. It can carry a short circuit's full current: insulate its end at once.",
        also="sense wire, balance connector",
        drawing="Four cell groups in series; a thin lead goes from each end and each joint to one connector.",
    ),
    Term(
        slug="cut-off",
        title="Cut-off",
        text="Below the cut-off start the controller gives less and less power, and at the cut-off end none. This keeps the "
        "cells from being emptied so far that they are damaged.",
        also="LVC, low-voltage cut-off, taper",
        fields=["settings.taper_start_v", "settings.taper_end_v"],
        drawing="Power against the pack's voltage: full above the cut-off start, then falling to nothing at the cut-off end.",
    ),
    Term(
        slug="grip-limit",
        title="Grip limit",
        text="The grip limit is the largest push or brake force that the driven wheels can pass to the ground before they "
        "slip. It falls with less weight on those wheels and on wet, dusty or loose ground.",
        also="traction, wheel slip, skid",
        fields=["assumptions.grip"],
    ),
    Term(
        slug="range-kinds",
        title="Kinds of range",
        text="“To the cut-off” ends when the controller gives no more power, and “with reserve” leaves the share of the pack "
        "that your brief sets aside. “Worst day” is a day 10 °C colder, with more head wind and a pack that has aged.",
        also="reserve, worst day, cut-off range",
        fields=["brief.range_means"],
    ),
    Term(
        slug="predicted-range",
        title="Gauge",
        text="A gauge shows one outcome: the mark ◄ is the target in your brief, and the line is the middle of the "
        "prediction. The block is the predicted range: 80 % of such boards, riders and days lie in it; "
        "the thin line is your next ride, with its own stops and pace.",
        also="predicted range, outcome, target, uncertainty, band",
    ),
    Term(
        slug="power-flow",
        title="Power flow",
        text="Each ring shows how much of a part's ability is used at this moment, from the cells to the road. The part at "
        "100 % is the limit.",
        also="bottleneck, limiting part, power path",
    ),
    Term(
        slug="series-parallel",
        title="Cells in series and in parallel",
        text="Cells in parallel (P) form a group and share the current; groups in series (S) add up their voltages. 10S4P is "
        "ten groups in series of four cells each: 40 cells.",
        also="10S4P, S and P, cell count, p-group",
        fields=["parts.pack.series", "parts.pack.parallel", "settings.cells_in_series"],
        drawing="Three groups in series, each of two cells in parallel: 3S2P.",
    ),
    Term(
        slug="bms",
        title="BMS",
        text="A BMS (battery management system) watches the voltage of every cell group and disconnects the pack before a "
        "group is charged too full or emptied too far. Some carry the whole drive current, others only the charge current.",
        also="protection board, battery management system, PCM",
        fields=["parts.pack.protection.in_drive_path"],
    ),
    Term(
        slug="electrical-speed",
        title="Electrical speed",
        text="Electrical speed is the motor's speed times its pole pairs, which is what a controller counts. Every "
        "controller has a limit: close to it the power falls, and beyond it the controller can stop the motor abruptly.",
        also="ERPM, electrical rpm",
        fields=["settings.max_erpm", "parts.controller.max_erpm"],
    ),
    Term(
        slug="hardness",
        title="Hardness",
        text="Hardness (durometer) is measured on the A scale: 75A is soft, 85A is firm. Softer wheels ride and grip better "
        "on rough ground; harder ones roll with less loss on smooth ground.",
        also="durometer, bushing hardness, duro",
        fields=["parts.wheels.hardness_a"],
    ),
]
"""The words that a newcomer to the trade meets on the screens."""
TERM_OF_FIELD: dict[str, str] = {field: term.slug for term in TERMS for field in term.fields}
