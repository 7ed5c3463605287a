"""From a build file to the model's parameters: every value with its origin.

:func:`resolve` decides, for one build, what each input of the model is and where it comes from.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting
from boardmath.buildfile.once import all_asked, once_for_variations
from boardmath.model import estimate
from boardmath.model.chemistry import chemical_of, index_of
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import (
    RPM,
    Input,
    cell_charge_rating,
    cell_rating,
    cell_voltages,
    climb_length,
    cruise_speed,
    drive_kind,
    gear_ratio,
    marked,
)
from boardmath.model.limits import brake_current_limit, electrical_speed_limits, recommended_taper, regen_current_limit
from boardmath.model.mass import resolve_masses
from boardmath.model.model_inputs import BY_NAME, INPUTS, BuildContext, context_of
from boardmath.physics import cell as cells
from boardmath.physics.motor import Q_AXIS_OVER_SUPPLY_CURRENT

T = TypeVar("T")
WARM_WINDING = 35.0
"""K above ambient at which a riding motor's winding is taken, where heat itself is not followed."""


@dataclass(frozen=True)
class Need:
    """Something that a prediction cannot do without."""

    field: str
    reason: str


class Incomplete(ValueError):
    """The build is not far enough for a prediction; ``needs`` says what is missing."""

    def __init__(self, needs: list[Need]):
        super().__init__(" ".join(f"{n.field}: {n.reason}" for n in needs))
        self.needs = needs


@dataclass(frozen=True)
class Resolved:
    """All inputs of one build. ``inputs`` have an origin and may be sampled; ``fixed`` are choices, not estimates."""

    inputs: dict[str, Input]
    fixed: dict[str, float]
    masses: dict[str, Input] = field(default_factory=dict)


def missing(build: Build) -> list[Need]:
    """What the build still lacks for a prediction of speed, hill and range."""
    parts, needs = build.parts, []
    if parts.wheels is None or parts.wheels.diameter_mm is None:
        needs.append(Need("parts.wheels.diameter_mm", "Choose wheels: the prediction needs their diameter."))
    motors, drive = parts.motors, parts.drive
    if motors is None or motors.kv_rpm_per_v is None:
        needs.append(Need("parts.motors.kv_rpm_per_v", "Choose a motor: the prediction needs its KV."))
    elif motors.count is None:
        needs.append(Need("parts.motors.count", "Enter how many motors there are."))
    if drive_kind(build) not in ("hub", "direct"):
        lacking = [k for k in ("motor_teeth", "wheel_teeth") if drive is None or getattr(drive, k) is None]
        if lacking:
            which = "the teeth of both" if len(lacking) == 2 else f"the {lacking[0].split('_')[0]} pulley's teeth"
            needs.append(Need(f"parts.drive.{lacking[0]}", f"Choose pulleys: the prediction needs {which}."))
    if parts.pack is None or parts.pack.series is None:
        needs.append(Need("parts.pack.series", "Choose a pack: the prediction needs its cells in series."))
    return needs


def resolve(build: Build) -> Resolved:
    """All inputs of the model for one build.

    Raises:
        Incomplete: naming what is still to be chosen.
    """
    if needs := missing(build):
        raise Incomplete(needs)
    build = marked(build)
    inputs = dict(zip(BY_NAME, all_asked(build, _INPUTS), strict=True))
    fixed = dict(zip(FIXED, all_asked(build, _FIXED), strict=True))
    return Resolved(inputs, fixed, resolve_masses(build))


def _reserve(s: BuildContext) -> float:
    reserve = s.brief.reserve_pct if s.brief.reserve_pct is not None else USUAL["brief.reserve_pct"]
    return reserve / 100.0


def centre_of_mass_height(build: Build) -> float:
    """m above the ground of a standing rider's centre of mass (from memory: 0.55 of the height, on a deck 0.12 m high)."""
    return 0.55 * (build.rider.height_m or USUAL["rider.height_m"]) + 0.12


def _height_over_wheelbase(s: BuildContext) -> float:
    deck = s.build.parts.deck
    wheelbase = (deck.wheelbase_mm if deck else None) or USUAL["deck.wheelbase_mm"]
    return centre_of_mass_height(s.build) / (wheelbase / 1000.0)


def _charge_full(s: BuildContext) -> float:
    full_v = cell_voltages(s.pack)[0]
    return cells.charge_at(cells.CHEMISTRIES[int(index_of(s.pack.cell))], s.pack.charge_to_v or full_v, full_v)


def _brake_ceiling(s: BuildContext) -> float:
    full = s.series * cell_voltages(s.pack)[0]
    return min(s.settings.regen_ceiling_v or full, full)


FIXED: dict[str, Callable[[BuildContext], float]] = {
    "altitude": lambda s: s.brief.altitude_m or 0.0,
    "air_density": lambda s: s.overrides.air_density_kg_m3 or 0.0,
    "head_wind": lambda s: s.overrides.wind_ms or 0.0,
    "gear": lambda s: gear_ratio(s.build),
    "motors": lambda s: float(s.count),
    # A seller's figure is what the pack's leads carry.
    "no_load_over_stated": lambda s: 1.0 if s.motors.no_load_is == "motor" else Q_AXIS_OVER_SUPPLY_CURRENT,
    "pole_pairs": lambda s: float(s.motors.pole_pairs or USUAL["motors.pole_pairs"]),
    "winding_limit": lambda s: s.settings.motor_rollback_c or estimate.WINDING_LIMIT_C,
    "controller_efficiency": lambda s: s.overrides.controller_efficiency or 1.0,
    "controller_heat_capacity": lambda s: (
        max(s.masses["controller"].value, 1.0) / 1000.0 * estimate.CONTROLLER_HEAT_PER_KG
    ),
    "controller_to_air": lambda s: estimate.CONTROLLER_TO_AIR / s.units,
    "controller_limit": lambda s: s.settings.controller_rollback_c or estimate.CONTROLLER_LIMIT_C,
    "cell_limit": lambda s: estimate.CELL_LIMIT_C,
    "brake_ceiling": _brake_ceiling,
    "brake_current_limit": lambda s: brake_current_limit(s.build, BY_NAME["motor_current_limit"].of(s).value),
    "regen_current_limit": lambda s: regen_current_limit(s.build),
    "capacity_per_kelvin": lambda s: chemical_of(s.pack.cell).capacity_lost_per_kelvin,
    "electrical_speed_limit": lambda s: min(electrical_speed_limits(s.build).values(), default=1e6) * RPM,
    "taper_start": lambda s: taper(s.build)[0],
    "taper_end": lambda s: taper(s.build)[1],
    "chemistry": lambda s: index_of(s.pack.cell),
    "series": lambda s: float(s.series),
    "parallel": lambda s: float(s.parallel),
    "cell_full": lambda s: cell_voltages(s.pack)[0],
    "charge_full": _charge_full,
    "charge_reserve": _reserve,
    "driven_wheels": lambda s: float(s.drive.driven_wheels or s.count),
    "height_over_wheelbase": _height_over_wheelbase,
    "cruise_speed": lambda s: cruise_speed(s.build) / 3.6,
    "climb_length": lambda s: climb_length(s.build),
}
"""What the model needs of a build beside its inputs: choices and rules, which do not scatter."""


def _once(of: Callable[[BuildContext], T]) -> Callable[[Build], T]:
    return once_for_variations(lambda build: of(context_of(build)))


_INPUTS = [_once(i.of) for i in INPUTS]
_FIXED = [_once(of) for of in FIXED.values()]


def defaults(build: Build) -> list[Input]:
    """What the build does not say and the model takes as usual, beside the inputs with an origin of their own."""
    taper_rule = "by chemistry and cells in series"
    start, end = taper(build)
    usual = {
        "brief.reserve_pct": (USUAL["brief.reserve_pct"], "usual"),
        "parts.motors.pole_pairs": (USUAL["motors.pole_pairs"], "usual for outrunners"),
        "settings.taper_start_v": (start, taper_rule),
        "settings.taper_end_v": (end, taper_rule),
    }
    assert build.parts.pack is not None
    ratings = (cell_rating(build.parts.pack), cell_charge_rating(build.parts.pack))
    found = [i for i in ratings if i.origin == "estimated"]
    for path, (value, rule) in usual.items():
        node: Any = build
        for step in path.split("."):
            node = getattr(node, step, None)
        if node is None:
            found.append(Input(path, value, "default", rule))
    return found


def taper(build: Build) -> tuple[float, float]:
    """Pack voltages where the controller begins and ends holding back; the end always below the beginning."""
    pack = build.parts.pack
    assert pack is not None
    start, end = recommended_taper(pack)
    said = acting(build)
    start = said.taper_start_v if said.taper_start_v is not None else start
    end = said.taper_end_v if said.taper_end_v is not None else min(end, 0.95 * start)
    return max(start, end + 0.1), end
