"""What wheels are made of: one record a material, with all that the model and the checks need to know of it."""

from dataclasses import dataclass

from boardmath.buildfile.rolling import WheelKind, Wheels


@dataclass(frozen=True)
class WheelMaterial:
    """A material of wheels, for the usual wheel made of it.

    Args:
        crr: rolling resistance coefficient on fair asphalt at ``crr_at_mm``; urethane of 78A.
        crr_at_mm: diameter in mm at which ``crr`` holds.
        size_exponent: power of the diameter with which the coefficient falls.
        surface_felt: share of the surface's effect that such a wheel feels, 0 to 1; a soft tyre swallows more.
        hardness_counts: whether the durometer changes the coefficient; a tyre's pressure counts instead.
        grip: friction over that of urethane.
        loaded_radius: rolling radius under a rider over the printed one.
        density_g_cm3: mass of wheel, core and bearings over the cylinder that they fill.
        soft: whether it asks much torque of a motor without a gear.
        inflated: whether it has a tyre with air, a pressure to check and a tube to carry.
    """

    crr: float
    crr_at_mm: float
    size_exponent: float
    surface_felt: float
    hardness_counts: bool
    grip: float
    loaded_radius: float
    density_g_cm3: float
    soft: bool
    inflated: bool


MATERIALS: dict[WheelKind, WheelMaterial] = {
    "urethane": WheelMaterial(
        crr=0.0142,  # warm from riding; 0.015 cold (docs/model.md)
        crr_at_mm=90.0,
        size_exponent=0.5,
        surface_felt=1.0,
        hardness_counts=True,
        grip=1.0,
        loaded_radius=0.99,
        density_g_cm3=0.62,
        soft=False,
        inflated=False,
    ),
    "rubber": WheelMaterial(
        crr=0.0185,
        crr_at_mm=100.0,
        size_exponent=0.5,
        surface_felt=0.6,
        hardness_counts=True,
        grip=1.1,
        loaded_radius=0.98,
        density_g_cm3=0.6,
        soft=True,
        inflated=False,
    ),
    "pneumatic": WheelMaterial(
        crr=0.0215,
        crr_at_mm=175.0,
        size_exponent=0.3,
        surface_felt=0.15,
        hardness_counts=False,
        grip=1.1,
        loaded_radius=0.95,
        density_g_cm3=0.3,
        soft=True,
        inflated=True,
    ),
}
"""From memory: coefficients of 0.010 to 0.020 for urethane and 0.018 to 0.025 for small pneumatic tyres on asphalt."""


def material_of(wheels: Wheels) -> WheelMaterial:
    """The material of a set of wheels; urethane unless said."""
    return MATERIALS[wheels.kind or "urethane"]
