"""The board as it was ridden on a day: the build with that day's rider, weather and way, and which of its doubts are whose."""

from dataclasses import dataclass

import numpy as np

from boardmath.buildfile import Build
from boardmath.buildfile.build import Measured
from boardmath.calibration.ride import Ride
from boardmath.model.inputs import Input
from boardmath.model.model_inputs import BY_NAME, COLUMN, FROM_RIDE_TO_RIDE, INPUTS
from boardmath.model.resolution import Incomplete, Resolved, resolve
from boardmath.physics.types import Array

OF_THE_DAY = ("swing_wind", "way_wind", "temperature", "grip", "charge_start")
"""Inputs that are drawn anew for every ride; nothing of them is carried to the next."""
_UNTOLD = ("winding_heat_capacity", "case_heat_capacity", "winding_to_case", "case_to_air", "hilliness")
"""Inputs of which nothing that is measured on a ride tells: the heat of motors, and a profile that nobody rides."""
LASTING = tuple(i.name for i in INPUTS if i.name not in (*OF_THE_DAY, *_UNTOLD))
"""Inputs of which a ride teaches something for the next."""
RIDERS_OWN = ("cda", "mean_speed", "riding", "returned")
"""What belongs to the person, and goes with them to the next board."""


def on_that_day(build: Build, ride: Ride) -> Build:
    """The build with what the ride says of rider, weather and way in place of what the brief says."""
    brief, rider, said = build.brief, build.rider, ride.conditions
    way = ride.way
    km = way.distance_km
    new: dict[str, object] = {}
    measured = {m.path: m for m in build.measured or ()}
    if said.temperature_c is not None:
        new["temperature_c"] = said.temperature_c
    if said.wind_ms is not None:
        new |= {"wind_ms": said.wind_ms, "wind": said.wind or "out_and_back"}
    if said.surface is not None:
        new["surface"] = said.surface
    if said.wet is not None:
        new["wet"] = said.wet
    if km is not None and way.ascent_m is not None:
        new["ascent_m_per_km"] = min(way.ascent_m / km, 150.0)
        measured["brief.ascent_m_per_km"] = Measured(path="brief.ascent_m_per_km")
    if km is not None and way.stops is not None:
        new["stops_per_km"] = min(way.stops / km, 20.0)
        measured["brief.stops_per_km"] = Measured(path="brief.stops_per_km")
    loads = {k: getattr(ride.rider, k) for k in ("mass_kg", "carried_kg") if getattr(ride.rider, k) is not None}
    return build.model_copy(
        update={
            "brief": brief.model_copy(update=new),
            "rider": rider.model_copy(update=loads),
            "measured": list(measured.values()) or None,
            "calibration": None,
        }
    )


@dataclass(frozen=True)
class Day:
    """A ride with its board, resolved, and where each input's normal score comes from.

    ``shared`` says which inputs are the same thing as now; ``own`` by how many of its deviations an input may differ from what is
    usual on this ride, 0 where it does not; both of shape (inputs,).
    """

    ride: Ride
    build: Build
    resolved: Resolved
    shared: Array
    own: Array

    @property
    def nuisances(self) -> list[int]:
        """Columns that are the ride's own business: they spread, and either are not shared or differ from what is usual."""
        spread = np.array([self.resolved.inputs[n].spread for n in COLUMN])
        return [int(c) for c in np.flatnonzero((spread > 0.0) & (~self.shared.astype(bool) | (self.own > 0.0)))]


def ridden_as_now(now: Build, then: Build) -> Resolved | None:
    """A board as it was ``then`` with the rider and the ways of ``now``; None where it cannot be predicted."""
    try:
        return resolve(then.model_copy(update={"brief": now.brief, "rider": now.rider, "calibration": None}))
    except Incomplete:
        return None


def the_day(then: Build, ride: Ride, same: Resolved | None, current: Resolved) -> Day | None:
    """A ride on the board as it was ``then``; None where that board cannot be predicted.

    Args:
        same: that board with today's rider and ways, as :func:`ridden_as_now` has it; current: the board as it is now.
    """
    if same is None:
        return None
    build = on_that_day(then, ride)
    try:
        resolved = resolve(build)
    except Incomplete:
        return None
    shared, own = np.zeros(len(INPUTS)), np.zeros(len(INPUTS))
    for name, column in COLUMN.items():
        that, usual = resolved.inputs[name], current.inputs[name]
        if name in OF_THE_DAY or not _alike(same.inputs[name], usual):
            continue
        if ride.rider.other and BY_NAME[name].owner == "rider":
            continue
        if name in FROM_RIDE_TO_RIDE and that.origin == "measured" and usual.field == that.field and that != usual:
            continue  # measured on this ride: nothing of what is usual
        shared[column] = 1.0
        if name in FROM_RIDE_TO_RIDE and that.spread > 0.0:
            own[column] = FROM_RIDE_TO_RIDE[name] / that.spread
    return Day(ride, build, resolved, shared, own)


def _alike(one: Input, other: Input) -> bool:
    """Whether two inputs are the same thing with the same doubt."""
    return abs(one.value - other.value) <= 1e-9 * max(abs(one.value), 1e-9) and one.spread == other.spread
