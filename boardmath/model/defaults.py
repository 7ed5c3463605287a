"""What is usual where a build does not say: one table, by field of the build file.

Common practice, no source. Figures that follow from others (a mass from a size) are rules of :mod:`boardmath.model.estimate`.
"""

from typing import Final

USUAL: Final[dict[str, float]] = {
    "rider.height_m": 1.75,
    "brief.cruise_kmh": 24.0,
    "brief.reserve_pct": 15.0,
    "brief.temperature_c": 15.0,
    "brief.hill_length_m": 200.0,
    "brief.ascent_m_per_km": 5.0,
    "deck.length_mm": 900.0,
    "deck.width_mm": 235.0,
    "deck.thickness_mm": 11.0,
    "deck.wheelbase_mm": 640.0,
    "trucks.hanger_mm": 184.0,
    "trucks.height_mm": 55.0,
    "spreaders.height_mm": 2.0,
    "spreaders.width_mm": 56.0,
    "wheels.in_set": 4,
    "wheels.diameter_mm": 90.0,
    "wheels.width_mm": 52.0,
    "wheels.hardness_a": 78.0,
    "motors.kv_rpm_per_v": 170.0,
    "motors.can_diameter_mm": 63.0,
    "motors.can_length_mm": 55.0,
    "motors.pole_pairs": 7,
    "drive.motor_teeth": 15,
    "drive.wheel_teeth": 40,
    "drive.pitch_mm": 5.0,
    "drive.belt_width_mm": 15.0,
    "drive.mount_angle_deg": 14.0,
    "pack.series": 10,
    "cell.capacity_ah": 3.0,
    "wiring.awg": 12.0,
    "wiring.length_mm": 900.0,
    "charge_port.hole_mm": 12.0,
    "covers.width_mm": 4.0,
    "enclosure.length_mm": 450.0,
    "enclosure.width_mm": 180.0,
    "enclosure.depth_mm": 40.0,
    "settings.max_duty_pct": 95.0,
}
"""A riding speed of 24 km/h is where most riders settle on a bicycle path (24 to 27)."""

MEAN_SPEED_KMH: Final = 21.0
"""Mean over a ride, moving, when nothing is said."""
MEAN_OF_CRUISE: Final = 0.85
"""Mean over a ride over the speed that riders name as their usual one. Reasoned: they name what they hold where nothing is in the
way; bends, crossings and people take a tenth to a fifth off it, as bicycle computers show (from memory). Stops count apart."""
STOPS_PER_KM: Final = {"commute": 1.0, "cruise": 0.5, "touring": 0.2, "rough_ground": 0.3}
OTHER_STOPS_PER_KM: Final = 0.5
BRICK_CELLS: Final = 6
"""Cells in series of the largest bricks that are sold for it."""
