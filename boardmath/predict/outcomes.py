"""The headline results of many boards at once: one build, its samples, a shelf, or ten thousand candidates."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from boardmath.arrays import nominal_board
from boardmath.buildfile.build import Build
from boardmath.estimate import chemistry_of
from boardmath.inputs import cell_voltages, hill_grade
from boardmath.parameters import Incomplete, resolve
from boardmath.physics.cell import charge_at
from boardmath.physics.road_load import GRAVITY
from boardmath.physics.types import Array
from boardmath.powertrain import Board, attained_speed, highest_speed, steepest_start
from boardmath.predict.braking import NOT_FULL, Braking, braking
from boardmath.predict.climbing import Held, steepest_held
from boardmath.predict.distance import Distance, ride
from boardmath.predict.profiles import ride_profiles
from boardmath.predict.pulling import Pull, pull_away

TOP_SPEED_CHARGE = 0.9
"""Top speed and steepest start are promised at this state of charge: the ride's beginning, not the charger's end."""


@dataclass(frozen=True)
class Outcomes:
    """Arrays of the boards' shape."""

    unloaded_speed: Array  # m/s
    top_speed: Array  # m/s
    top_limit: Array
    start_grade: Array  # rise over run
    start_limit: Array
    distance: Distance


def early_charge(board: Board) -> Array:
    """State of charge of a ride's beginning: 90 %, or full where it is charged to less."""
    return np.minimum(board.charge_full, TOP_SPEED_CHARGE)


def outcomes(board: Board, top: tuple[Array, Array] | None = None) -> Outcomes:
    """Speed, steepest start, range and consumption of every board; ``top`` speed and its limit where they are known."""
    charge = early_charge(board)
    top_speed, top_limit = top or highest_speed(board, 0.0, charge)
    start_grade, start_limit = steepest_start(board, charge)
    return Outcomes(board.unloaded_speed, top_speed, top_limit, start_grade, start_limit, ride(board))


@dataclass(frozen=True)
class Further:
    """What a headline does not show: climbs with heat, pulling away, braking, profiles."""

    held: Held
    for_ever: Held
    slip_grade: Array  # rise over run
    pull: Pull
    full_pack: Braking
    not_full: Braking
    cruise: Array  # m/s, the wanted or the possible speed on the flat


def further(board: Board, first: Outcomes, climb_length: float) -> Further:
    """The rest of a build's results, from its headline ones."""
    charge = early_charge(board)
    cruise = np.minimum(board.cruise_speed, first.top_speed)
    weight = board.rolling_mass * GRAVITY
    sine = np.clip(board.slip_thrust / weight - board.crr, 0.0, 0.99)
    held, for_ever = steepest_held(board, first.start_grade, charge, climb_length)
    both = np.stack([board.charge_full, np.minimum(board.charge_full, NOT_FULL)], axis=-1)
    brakes = braking(board.with_axis(), cruise[..., np.newaxis], both)
    return Further(
        held=held,
        for_ever=for_ever,
        slip_grade=np.asarray(sine / np.sqrt(1.0 - np.square(sine))),
        pull=pull_away(board, first.top_speed, charge),
        full_pack=brakes.at(0),
        not_full=brakes.at(1),
        cruise=cruise,
    )


def holds_back(builds: Sequence[Build], charge: float = 1.0) -> list[float]:
    """The grade (rise over run) that each build's motors hold back at cruising speed.

    At ``charge`` (0 to 1), or at what it is charged to where that is less; 0 for all where one cannot be predicted yet.
    """
    try:
        board = nominal_board([resolve(b) for b in builds])
    except Incomplete:
        return [0.0] * len(builds)
    cruise, _ = attained_speed(board, board.cruise_speed, 0.0, early_charge(board))
    held = braking(board, cruise, np.minimum(board.charge_full, charge)).holds_grade
    return [float(h) for h in held]


def first_second(build: Build) -> float | None:
    """Mean acceleration of the first second at full throttle, g; None where the build cannot be predicted yet."""
    try:
        board = nominal_board([resolve(build)])
    except Incomplete:
        return None
    charge = early_charge(board)
    return float(pull_away(board, highest_speed(board, 0.0, charge)[0], charge).first_second[0])


def charge_that_brakes(build: Build) -> float | None:
    """V a cell up to which the pack may be charged for the brakes to hold the hill from the start.

    None where they hold it on a full pack already, or hold it on none: then something else than the full pack gives way.
    """
    hill, pack = hill_grade(build), build.parts.pack
    if hill is None or pack is None or pack.series is None:
        return None
    try:
        board = nominal_board([resolve(build)])
    except Incomplete:
        return None
    full = cell_voltages(pack)[0]
    volts = [round(full - 0.05 * step, 2) for step in range(7)]
    chemistry = chemistry_of(pack.cell)
    charges = np.array([[float(charge_at(chemistry, v, full)) for v in volts]])
    row = board.with_axis().with_values(charge_full=charges)
    cruise, _ = attained_speed(row, row.cruise_speed, 0.0, early_charge(row))
    held = braking(row, cruise, row.charge_full).holds_grade[0]
    holds = [v for v, grade in zip(volts, held, strict=True) if grade * 100.0 >= hill]
    return holds[0] if holds and holds[0] != volts[0] else None


def profile_ranges(board: Board) -> dict[str, Array]:
    """Range in m on each ridden profile: the energy between full and reserve over what a pass takes.

    The pass is ridden halfway down the charge; energy is counted at the cells, so that their sag is a loss of the ride.
    """
    ledgers = ride_profiles(board, float(np.mean(board.charge_full + board.charge_reserve)) / 2.0)
    span = np.maximum(board.charge_full - board.charge_reserve, 0.0)
    charge = board.charge_reserve[..., np.newaxis] + span[..., np.newaxis] * np.linspace(0.0, 1.0, 41)
    energy = board.with_axis().open_circuit(charge).mean(axis=-1) * span * board.pack_capacity
    return {
        name: np.where(one.pack > 0.0, one.length * energy / np.maximum(one.pack, 1e-9), 0.0)
        for name, one in ledgers.items()
    }
