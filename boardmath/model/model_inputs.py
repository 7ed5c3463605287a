"""Every input of the model: one record each, from which resolving, sampling, "why", "what makes it unsure" and what to measure
next are made.

Spreads are of common practice without a source, unless a line says otherwise; none was tuned on the boards by which the bands
are judged. docs/model.md says where each comes from.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import hypot
from typing import Literal

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import acting, controllers
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Cell, Controller, Pack, Wiring
from boardmath.buildfile.once import once_a_build, once_for_variations
from boardmath.buildfile.rolling import Wheels
from boardmath.model import estimate
from boardmath.model.bricks import brick_sets, parallel_of_brick
from boardmath.model.cell_groups import Group, measured_groups, pulse_resistance, weakest_share
from boardmath.model.defaults import MEAN_OF_CRUISE, MEAN_SPEED_KMH, OTHER_STOPS_PER_KM, STOPS_PER_KM, USUAL
from boardmath.model.estimate import Estimate
from boardmath.model.inputs import (
    Input,
    Shape,
    cell_capacity,
    cell_rating,
    cell_resistance,
    cruise_speed,
    drive_kind,
    gear_ratio,
    is_measured,
    measured_spread,
    mounted,
    taken,
)
from boardmath.model.limits import pack_current_limits
from boardmath.model.mass import WEIGHED_SPREAD, bag_mass, board_mass, resolve_masses
from boardmath.model.wheel_materials import material_of

Owner = Literal["rider", "day", "machine"]


class BuildContext:
    """One build with what its inputs are asked of: looked up once, by :func:`context_of`."""

    def __init__(self, build: Build):
        self.build, self.brief, self.overrides = build, build.brief, build.assumptions
        self.settings = acting(build)
        parts = build.parts
        self.wheels, self.motors = parts.wheels or Wheels(), parts.motors or Motors()
        self.pack, self.drive = parts.pack or Pack(), mounted(build)
        self.cell, self.controller = self.pack.cell or Cell(), parts.controller or Controller()
        self.wiring = parts.wiring or Wiring()
        self.count, self.units = self.motors.count or 1, controllers(build)
        self.series, self.parallel = self.pack.series or 1, self.pack.parallel or 1
        self.kind = drive_kind(build)
        self.controller_class = estimate.controller_class(self.controller.programmable)

    @property
    def masses(self) -> dict[str, Input]:
        return resolve_masses(self.build)

    @property
    def rating(self) -> Input:
        return cell_rating(self.pack)

    @property
    def groups(self) -> list[Group] | None:
        return measured_groups(self.build)

    @property
    def cells_mass_g(self) -> float:
        return self.masses["pack"].value / estimate.PACK_OVER_CELLS

    @property
    def motor_heat(self) -> dict[str, Estimate]:
        return _motor_heat(self.build)

    @property
    def pack_heat(self) -> dict[str, Estimate]:
        return estimate.pack_heat(self.cells_mass_g)


@once_a_build
def context_of(build: Build) -> BuildContext:
    """A build with what its inputs are asked of."""
    return BuildContext(build)


@once_for_variations
def _motor_heat(build: Build) -> dict[str, Estimate]:
    s, covers = context_of(build), build.parts.covers
    covered = covers is not None and covers.over in ("motors", "both")
    return estimate.motor_heat(s.motors, s.masses["motors"].value / s.count, covered)


@dataclass(frozen=True)
class Measure:
    """What a builder can do to know an input better."""

    how: str
    minutes: float
    spread: float
    """What is left unsure afterwards, as the input's own spread counts."""


@dataclass(frozen=True)
class ModelInput:
    """One input of the model; ``of`` finds its value, origin and spread for a build, in the build file's unit.

    ``stays`` is the share of its variance that is the road's: so much of what was learnt holds of another part.
    """

    name: str
    title: str
    quantity: str
    owner: Owner
    of: Callable[[BuildContext], Input]
    measure: Measure | None = None
    least: float = 0.0
    most: float = float("inf")
    stays: float = 0.0


def _estimated(field: str, guess: Estimate, shape: Shape = "relative") -> Input:
    return Input(field, guess.value, "estimated", guess.rule, guess.spread, shape)


def _pinned_or(
    s: BuildContext, name: str, value: float | None, otherwise: Estimate, shape: Shape = "relative"
) -> Input:
    field = f"assumptions.{name}"
    if value is None:
        return _estimated(field, otherwise, shape)
    if is_measured(s.build, field):
        return Input(field, value, "measured", None, measured_spread(name), shape)
    return Input(field, value, "pinned")


# --- the machine ------------------------------------------------------------------------------------------------------


def _wheel_radius(s: BuildContext) -> Input:
    diameter = taken("parts.wheels", s.wheels, "diameter_mm", Estimate(USUAL["wheels.diameter_mm"], "usual", 0.02))
    loaded = diameter.value / 2.0 * material_of(s.wheels).loaded_radius
    if diameter.origin == "measured":
        return Input(diameter.field, loaded, "measured", "half the diameter, pressed in by the rider", 0.004)
    return Input(
        diameter.field, WORN * loaded, diameter.origin, "half the diameter, worn and pressed in by the rider", 0.025
    )


WORN = 0.99
"""Of a wheel's stated radius, what most that are ridden have left (reasoned: a wheel is used until it has lost 5 mm or so of its
diameter, and listings round up)."""


def _phase_resistance(s: BuildContext) -> Input:
    found = taken("parts.motors", s.motors, "phase_resistance_mohm", estimate.phase_resistance(s.motors))
    if s.motors.phase_resistance_mohm is None or s.motors.resistance_is != "line_to_line":
        return found
    return Input(found.field, found.value / 2.0, found.origin, "half of line to line", found.spread)


def _motor_current_limit(s: BuildContext) -> Input:
    said = {
        "settings.motor_current_a": s.settings.motor_current_a,
        "parts.controller.max_motor_current_a": s.controller.max_motor_current_a,
        "parts.motors.max_current_a": s.motors.max_current_a,
    }
    known = {field: a for field, a in said.items() if a is not None}
    if not known:
        return _estimated("parts.motors.max_current_a", estimate.motor_current(s.motors))
    field = min(known, key=lambda f: known[f])
    return Input(field, known[field], "stated", None, 0.03)


def _pack_current_limit(s: BuildContext) -> Input:
    known = pack_current_limits(s.build)
    if known:
        field = min(known, key=lambda f: known[f])
        return Input(field, known[field], "stated", None, 0.03)
    usual = s.controller_class["pack_current"]
    # One for two motors takes as much as two for one each. What the cells are rated for holds nothing back.
    most = usual.value * max(s.units, s.count)
    return Input("parts.controller.max_pack_current_a", most, "estimated", usual.rule, usual.spread)


def _duty(s: BuildContext) -> Input:
    if s.settings.max_duty_pct is not None:
        return Input("settings.max_duty_pct", s.settings.max_duty_pct / 100.0, "stated", None, 0.008, "additive")
    return _estimated("settings.max_duty_pct", s.controller_class["duty"], "additive")


def _controller_loss(s: BuildContext, name: str) -> Input:
    guess = s.controller_class[name]
    if s.overrides.controller_efficiency is not None:
        return Input("assumptions.controller_efficiency", 0.0, "pinned")
    return _estimated("parts.controller.losses", guess)


def _weakest_group(s: BuildContext) -> Input:
    field = "parts.pack.weakest_brick_ah"
    if s.groups is not None:
        # What is measured differs too, if by less: of groups that look alike one is the smallest all the same.
        unsure = measured_spread("capacity_ah") * estimate.below_the_mean(s.series, s.parallel)
        loss = hypot(1.0 - weakest_share(s.groups), unsure)
        return Input(
            SORTED_CELLS, 1.0 - loss, "measured", "the smallest of the sorted groups", 0.3, "complement_lognormal"
        )
    if s.pack.weakest_brick_ah is not None:
        cells = parallel_of_brick(s.pack) if s.pack.layout == "bricks" else 1
        alike = cell_capacity(s.pack).value * cells
        of_its_set = min(s.pack.weakest_brick_ah / max(alike, 1e-6), 1.0)
        return Input(
            field,
            # Sets in parallel share the ride: the others give what the set of the smallest brick does not.
            1.0 - (1.0 - of_its_set) / brick_sets(s.pack),
            "stated",
            "the smallest brick compared with the others",
            0.15,
            "complement_lognormal",
        )
    sorted_ = "capacity_ah" in (s.cell.measured or ())
    return _estimated(field, estimate.weakest_group(s.cell, s.series, s.parallel, sorted_), "complement_lognormal")


def _cell_resistance(s: BuildContext) -> Input:
    read = pulse_resistance(s.build, s.groups) if s.groups is not None else None
    if read is None:
        return cell_resistance(s.pack)
    return Input(SORTED_CELLS, read[0], "measured", "the sorted groups, as measured", read[1])


SORTED_CELLS = "pack_assembly.cells"
"""Where what sorted cells tell comes from."""


def _health(s: BuildContext) -> Input:
    found = taken("parts.pack", s.pack, "health_pct", _unstated_health(s))
    return Input(found.field, found.value / 100.0, found.origin, found.rule, found.spread)


def _unstated_health(s: BuildContext) -> Estimate:
    """% of its capacity that a pack has left where nobody says, beyond what is told by its cells' own capacity."""
    if estimate.salvaged(s.cell) and "capacity_ah" not in (s.cell.measured or ()):
        return Estimate(100.0, "what salvaged cells have lost is in their capacity", 0.0)
    if s.groups is not None or "capacity_ah" in (s.cell.measured or ()):
        return Estimate(100.0, "as the cells were when they were measured", 0.03)
    return Estimate(100.0 * estimate.NEW_HEALTH, "of most packs in use", 0.06)


def _board_mass(s: BuildContext) -> Input:
    return board_mass(s.build, s.masses)


def _rotating(s: BuildContext) -> Input:
    guess = estimate.rotating_mass(
        s.motors,
        s.masses["motors"].value / s.count,
        s.masses["wheels"].value,
        gear_ratio(s.build),
        (s.wheels.diameter_mm or USUAL["wheels.diameter_mm"]) / 2.0,
    )
    return _estimated("parts.motors.inertia", guess)


# --- the rider, the way and the day -----------------------------------------------------------------------------------


def _said(s: BuildContext, field: str, value: float, spread: float) -> Input:
    """What somebody says of a way or of himself, or has measured of it."""
    if is_measured(s.build, field):
        return Input(field, value, "measured", None, measured_spread(field.rpartition(".")[2]))
    return Input(field, value, "stated", None, spread)


def _load(s: BuildContext) -> Input:
    load = s.build.rider.mass_kg + (s.build.rider.carried_kg or 0.0) + bag_mass(s.build, s.masses)
    return _said(s, "rider.mass_kg", load, 0.015)


def _mean_speed(s: BuildContext) -> Input:
    field = "brief.mean_kmh"
    if s.brief.mean_kmh is not None:
        return _said(s, field, s.brief.mean_kmh, 0.08)
    if s.brief.cruise_kmh is None:
        return Input(field, MEAN_SPEED_KMH, "default", "mean of most rides", 0.15)
    return Input(field, MEAN_OF_CRUISE * cruise_speed(s.build), "estimated", "a little under the usual speed", 0.15)


_HURRY = {"easy": 0.88, "usual": 1.0, "hard": 1.15}
"""Consumption of a way by how somebody rides (common practice: 15 Wh a mile gentle, 20 hard and hilly, speed counted apart)."""


def _riding(s: BuildContext) -> Input:
    hurry = s.brief.rides
    if hurry is None:
        return Input("brief.rides", 1.0, "default", "as most ride", 0.2)
    return Input("brief.rides", _HURRY[hurry], "estimated", "as the brief says it is ridden", 0.17)


def _stops(s: BuildContext) -> Input:
    field = "brief.stops_per_km"
    if s.brief.stops_per_km is not None:
        return _said(s, field, s.brief.stops_per_km, 0.25)
    usual = STOPS_PER_KM[s.brief.use] if s.brief.use is not None else OTHER_STOPS_PER_KM
    return Input(field, usual, "default", "typical for this use", 0.6, "lognormal")


def _ascent(s: BuildContext) -> Input:
    field = "brief.ascent_m_per_km"
    if s.brief.ascent_m_per_km is not None:
        return _said(s, field, s.brief.ascent_m_per_km, 0.2)
    return Input(field, USUAL[field], "default", "typical for most routes", 0.7, "lognormal")


USUAL_SWING_MS = 1.5
"""m/s, deviation of the wind's part along the way out and back. Reasoned: 3.5 to 4 m/s on average at 10 m in lowlands (from
memory); half of it at a rider's height, by the logarithmic profile over 0.03 m (open) to 0.4 m (suburbs) of roughness; a mean of
1.8 m/s by Rayleigh has 1.4 m/s in each direction, and gusts add to that."""
ACROSS = 0.7
"""A cross wind w adds to the drag ``v sqrt(v^2 + w^2)``, about ``v^2 + w^2 / 2``: as much as w / sqrt 2 out and back."""


def _swing_wind(s: BuildContext) -> Input:
    brief, field = s.brief, "brief.wind_ms"
    if s.overrides.wind_ms is not None:
        return Input("assumptions.wind_ms", 0.0, "pinned")
    if brief.wind_ms is None:
        return Input(field, USUAL_SWING_MS, "default", "the mean of calm and windy days", USUAL_SWING_MS, "magnitude")
    if brief.wind in ("against", "behind"):
        return Input(field, 0.0, "stated")
    share = ACROSS if brief.wind == "across" else 1.0
    return Input(field, share * brief.wind_ms, "stated", None, 0.3)


def _way_wind(s: BuildContext) -> Input:
    brief, field = s.brief, "brief.wind_ms"
    if s.overrides.wind_ms is not None:
        return Input("assumptions.wind_ms", 0.0, "pinned", shape="additive")
    if brief.wind_ms is None or brief.wind not in ("against", "behind"):
        return Input(field, 0.0, "default", None, 0.0, "additive")
    sign = 1.0 if brief.wind == "against" else -1.0
    return Input(field, sign * brief.wind_ms, "stated", None, max(0.3 * brief.wind_ms, 0.8), "additive")


def _temperature(s: BuildContext) -> Input:
    field = "brief.temperature_c"
    if s.brief.temperature_c is not None:
        return Input(field, s.brief.temperature_c, "stated", None, 3.0, "additive")
    return Input(field, USUAL[field], "default", "a mild day", 7.0, "additive")


def _of_heat(name: str, title: str, quantity: str) -> ModelInput:
    """How motor or pack hold heat and give it away."""

    def of(s: BuildContext) -> Input:
        motor = name in s.motor_heat
        guess = s.motor_heat[name] if motor else s.pack_heat[name]
        return _estimated("parts.motors.heat" if motor else "parts.pack.heat", guess)

    return ModelInput(name, title, quantity, "machine", of)


def _reads_volts(name: str, title: str, volts: float) -> ModelInput:
    """What an instrument that reads the pack's volts is off by, ride after ride: ``volts`` as a deviation.

    Reasoned: hobbyists' meters are sold as true to half a per cent and keep to half of it; controllers and gauges are worse.
    """
    return ModelInput(
        name,
        title,
        "voltage",
        "machine",
        lambda _: Input("rides.volts", 0.0, "default", "as instruments of its kind", volts, "additive"),
        None,
        -10.0,
    )


READS_VOLTS = ("cell_curve", "meter_offset", "controller_offset", "gauge_offset")
"""Inputs that only what is read off depends on."""

_WEIGH = Measure("weigh the whole board", 2, WEIGHED_SPREAD)
_DETECT = Measure("motor detection on the stand", 10, measured_spread("kv_rpm_per_v"))
_COAST = Measure("let it roll out on your usual road, both ways, and pace off how far", 20, measured_spread("crr"))
_RIDES = Measure("record a few rides: kilometres, and volts before and after", 5, 0.08)

ROAD_SHARE = 0.64
"""Of the variance of rolling resistance: of its deviation of 0.25 the road has 0.2, the wheel 0.15 (reasoning: surfaces under one
word, such as fair asphalt, differ by a factor of two from best to worst, wheels of one material and size by about a third)."""

INPUTS: tuple[ModelInput, ...] = (
    # the machine
    ModelInput(
        "crr",
        "rolling resistance",
        "ratio",
        "machine",
        lambda s: _pinned_or(s, "crr", s.overrides.crr, estimate.rolling_resistance(s.wheels, s.brief)),
        _COAST,
        stays=ROAD_SHARE,
    ),
    ModelInput(
        "crr_per_kelvin",
        "rolling resistance lost by a kelvin",
        "ratio",
        "machine",
        lambda s: (
            Input("parts.wheels.warmth", 0.0, "pinned")
            if s.overrides.crr is not None and not is_measured(s.build, "assumptions.crr")
            else _estimated("parts.wheels.warmth", estimate.crr_per_kelvin())
        ),
    ),
    ModelInput(
        "wheel_radius",
        "rolling radius",
        "length",
        "machine",
        _wheel_radius,
        Measure("mark ten turns of the loaded wheel along a tape", 5, 0.004),
    ),
    ModelInput(
        "drive_efficiency",
        "efficiency of the drive",
        "ratio",
        "machine",
        lambda s: _pinned_or(
            s,
            "drive_efficiency",
            s.overrides.drive_efficiency,
            estimate.drive_efficiency(s.kind, s.drive),
            "complement_lognormal",
        ),
        Measure("let it roll out with the belt on and off", 30, measured_spread("drive_efficiency")),
    ),
    ModelInput(
        "drive_drag",
        "drag of belts or gears",
        "force",
        "machine",
        lambda s: _pinned_or(s, "drag_n", s.overrides.drag_n, estimate.drive_drag(s.kind, s.drive, s.count)),
        Measure("the current with the wheels in the air, belt on and off", 20, measured_spread("drag_n")),
    ),
    ModelInput(
        "conduction",
        "resistance of the controller",
        "resistance",
        "machine",
        lambda s: _controller_loss(s, "conduction"),
    ),
    ModelInput(
        "switching",
        "switching losses of the controller",
        "ratio",
        "machine",
        lambda s: _controller_loss(s, "switching"),
    ),
    ModelInput(
        "idle",
        "idle draw",
        "power",
        "machine",
        lambda s: _pinned_or(s, "idle_w", s.overrides.idle_w, estimate.idle_draw(s.build.parts.loads or [])),
        Measure("the pack current with everything switched on and nothing turning", 5, measured_spread("idle_w")),
    ),
    ModelInput("duty", "largest duty cycle", "ratio", "machine", _duty, None, 0.1, 1.15),
    ModelInput(
        "held_back",
        "speed that the firmware lets through",
        "ratio",
        "machine",
        lambda s: _estimated(
            "parts.controller.firmware", estimate.held_back(s.controller.programmable), "complement_lognormal"
        ),
    ),
    ModelInput(
        "kv",
        "motor KV",
        "motor_constant",
        "machine",
        lambda s: taken("parts.motors", s.motors, "kv_rpm_per_v", Estimate(USUAL["motors.kv_rpm_per_v"], "usual", 0.2)),
        _DETECT,
    ),
    ModelInput(
        "phase_resistance",
        "motor phase resistance",
        "resistance",
        "machine",
        _phase_resistance,
        Measure("motor detection on the stand", 10, measured_spread("phase_resistance_mohm")),
    ),
    ModelInput(
        "no_load_current",
        "no-load current",
        "current",
        "machine",
        lambda s: taken("parts.motors", s.motors, "no_load_current_a", estimate.no_load_current(s.motors)),
        Measure("the motor's current with the wheels in the air", 10, measured_spread("no_load_current_a")),
    ),
    ModelInput(
        "motor_current_limit",
        "motor current limit",
        "current",
        "machine",
        _motor_current_limit,
        Measure("read the limit from the controller, or watch it on a hill", 15, 0.03),
    ),
    ModelInput(
        "pack_current_limit",
        "pack current limit",
        "current",
        "machine",
        _pack_current_limit,
        Measure("read the limit from the controller, or use a clamp meter at full throttle", 15, 0.03),
    ),
    ModelInput(
        "cell_capacity",
        "cell capacity",
        "charge",
        "machine",
        lambda s: cell_capacity(s.pack),
        Measure("one slow full discharge of a cell, or of the pack", 240, measured_spread("capacity_ah")),
    ),
    ModelInput(
        "weakest_group",
        "weakest group of cells",
        "ratio",
        "machine",
        _weakest_group,
        Measure("every group's voltage at the end of a full ride", 15, 0.15),
    ),
    ModelInput(
        "health",
        "capacity left",
        "ratio",
        "machine",
        _health,
        Measure("a full charge by a wall meter or charger that counts", 10, measured_spread("health_pct")),
        0.2,
        1.2,
    ),
    ModelInput(
        "cell_resistance",
        "cell resistance",
        "resistance",
        "machine",
        _cell_resistance,
        Measure("the pack's voltage step when a known current is switched on", 15, measured_spread("resistance_mohm")),
    ),
    # what reads the pack's volts; no result of the board depends on it
    ModelInput(
        "cell_curve",
        "rest voltage of the cells over their kind's",
        "cell_voltage",
        "machine",
        lambda _: Input("parts.pack.cell.curve", 0.0, "default", "as most of their chemistry", 0.010, "additive"),
        None,
        -1.0,
    ),
    _reads_volts("meter_offset", "what your voltmeter reads too much", 0.08),
    _reads_volts("controller_offset", "what the controller reads too much", 0.15),
    _reads_volts("gauge_offset", "what the gauge reads too much", 0.35),
    ModelInput(
        "path_resistance",
        "links, wire and connectors",
        "resistance",
        "machine",
        lambda s: _pinned_or(
            s, "path_resistance_mohm", s.overrides.path_resistance_mohm, estimate.path_resistance(s.series, s.wiring)
        ),
        Measure("the voltage lost between pack and controller under load", 20, measured_spread("path_resistance_mohm")),
    ),
    ModelInput(
        "charge_start",
        "charge at the start of a ride",
        "ratio",
        "rider",
        lambda s: Input(
            "parts.pack.charge_to_v", 0.98, "default", "rarely directly off the charger", 0.012, "additive"
        ),
        None,
        0.5,
        1.0,
    ),
    ModelInput("board_mass", "board as carried", "body_mass", "machine", _board_mass, _WEIGH),
    ModelInput("rotating_mass", "mass of what turns", "body_mass", "machine", _rotating),
    _of_heat("winding_heat_capacity", "heat capacity of the winding", "heat_capacity"),
    _of_heat("case_heat_capacity", "heat capacity of the case", "heat_capacity"),
    _of_heat("winding_to_case", "heat path winding to case", "thermal_resistance"),
    _of_heat("case_to_air", "heat path case to air", "thermal_resistance"),
    _of_heat("pack_heat_capacity", "heat capacity of the cells", "heat_capacity"),
    _of_heat("pack_to_air", "heat path cells to air", "thermal_resistance"),
    # the rider
    ModelInput(
        "load",
        "rider and what is carried",
        "body_mass",
        "rider",
        _load,
        Measure("stand on a scale, dressed and loaded", 2, measured_spread("mass_kg")),
    ),
    ModelInput(
        "cda",
        "drag area",
        "area",
        "rider",
        lambda s: _pinned_or(s, "cda_m2", s.overrides.cda_m2, estimate.drag_area(s.build.rider)),
        Measure("let it roll out from as fast as you ride, both ways", 20, measured_spread("cda_m2")),
    ),
    ModelInput(
        "mean_speed",
        "mean speed of a ride",
        "speed",
        "rider",
        _mean_speed,
        Measure("kilometres over minutes of one usual ride", 5, measured_spread("mean_kmh")),
    ),
    ModelInput("riding", "how you ride", "ratio", "rider", _riding, _RIDES),
    ModelInput(
        "returned",
        "share of braking by the motors",
        "ratio",
        "rider",
        lambda s: Input("brief.rides", 0.65, "default", "the rest is braked by drag and your foot", 0.2),
        None,
        0.05,
        1.0,
    ),
    # the way and the day
    ModelInput(
        "stops",
        "stops on the way",
        "stops",
        "day",
        _stops,
        Measure("count the stops of one usual ride", 1, measured_spread("stops_per_km")),
    ),
    ModelInput(
        "ascent",
        "climb on the way",
        "ascent",
        "day",
        _ascent,
        Measure("the climb of your usual route, from a map or a phone", 5, measured_spread("ascent_m_per_km")),
    ),
    ModelInput(
        "hilliness",
        "how hilly a hilly route is",
        "ratio",
        "day",
        lambda s: Input("profiles.hilly", 1.0, "default", "as the profile shows", 0.3),
    ),
    ModelInput(
        "swing_wind",
        "wind out and back",
        "wind",
        "day",
        _swing_wind,
        Measure("enter in the brief how windy your route usually is", 1, 0.3),
    ),
    ModelInput("way_wind", "wind along the way", "wind", "day", _way_wind, None, -30.0),
    ModelInput("temperature", "temperature", "temperature", "day", _temperature, None, -40.0, 60.0),
    ModelInput(
        "grip",
        "grip of the driven wheels",
        "ratio",
        "day",
        lambda s: _pinned_or(s, "grip", s.overrides.grip, estimate.grip(s.wheels, s.brief)),
        Measure("where the driven wheel slips on a ramp that you know", 15, measured_spread("grip")),
    ),
)
"""In a fixed order: each has its own column among the samples, the same in every build."""

FROM_RIDE_TO_RIDE = {"mean_speed": 0.08, "riding": 0.05, "stops": 0.3, "ascent": 0.3}
"""How far a ride's own figure lies off what is usual for rider and way, as the deviation of its logarithm, where the
ride does not say (common practice, no source: hurry, gusts, traffic and tyres of the day; two ways home)."""

BY_NAME = {i.name: i for i in INPUTS}
COLUMN = {i.name: column for column, i in enumerate(INPUTS)}
