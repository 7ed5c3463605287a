"""A board with its rider as a row of numbers in SI units, and many of them as one record array."""

from collections.abc import Mapping, Sequence
from typing import Any, TypeAlias

import numpy as np

FIELDS: dict[str, str] = {
    "rolling_mass": "kg, board, rider and load",
    "rotating_mass": "kg at the road that wheels and rotors add",
    "crr": "rolling resistance coefficient",
    "cda": "m2",
    "air_density": "kg/m3",
    "head_wind": "m/s, pinned: blows everywhere and always",
    "way_wind": "m/s against the whole way, of the brief",
    "swing_wind": "m/s against on the way out, from behind on the way back",
    "wheel_radius": "m, loaded",
    "gear": "turns of the motor for one of the wheel",
    "drive_efficiency": "share",
    "drive_drag": "N at the road",
    "motors": "count",
    "kv": "rad/s per V, line to line peak",
    "phase_resistance": "ohm at 25 C, line to neutral",
    "winding_temperature": "C, riding",
    "no_load_current": "A, q axis, at the test voltage",
    "pole_pairs": "count",
    "motor_current_limit": "A, peak, one motor",
    "brake_current_limit": "A, peak, one motor",
    "electrical_speed_limit": "rad/s",
    "duty": "largest duty cycle",
    "conduction": "ohm of one transistor with its share of board and leads",
    "switching": "over usual switching losses",
    "controller_efficiency": "pinned, else 1",
    "idle_power": "W",
    "pack_current_limit": "A",
    "regen_current_limit": "A into the pack",
    "brake_ceiling": "V of the pack, above which braking gives nothing back",
    "taper_start": "V",
    "taper_end": "V",
    "chemistry": "index into cell.CHEMISTRIES",
    "series": "cells",
    "cell_full": "V",
    "pack_capacity": "C, of the weakest group, as cold and as old as it is",
    "cell_resistance": "ohm, all cells together, pulse, 25 C, half charge",
    "path_resistance": "ohm, links, wire, connectors",
    "cell_temperature": "K, setting out",
    "pack_heat_capacity": "J/K, all cells",
    "pack_to_air": "K/W, all cells, in their box",
    "cell_limit": "C",
    "charge_full": "0 to 1, as it is charged at the most",
    "charge_start": "0 to 1, at the start of a ride",
    "charge_reserve": "0 to 1",
    "grip": "friction coefficient of the driven wheels",
    "driven_wheels": "count",
    "height_over_wheelbase": "of the centre of mass",
    "cruise_speed": "m/s, the rider's usual top",
    "mean_speed": "m/s, moving, over a ride",
    "stops": "per m",
    "ascent": "m per m of way",
    "ascent_grade": "rise over run of what is climbed on a ride",
    "hilliness": "over usual hills",
    "returned": "share of the braking that the motors do",
    "riding": "consumption over that of the way alone: how this person rides",
    "ambient": "C",
    "winding_heat_capacity": "J/K, one motor",
    "case_heat_capacity": "J/K, one motor",
    "winding_to_case": "K/W",
    "case_to_air": "K/W, riding",
    "winding_limit": "C",
    "controller_heat_capacity": "J/K, all controllers",
    "controller_to_air": "K/W",
    "controller_limit": "C",
    "climb_length": "m, of the brief's hill along the slope",
}
"""Every number of a board that the engine sees, with its unit."""

BOARD = np.dtype([(name, np.float64) for name in FIELDS])
Boards: TypeAlias = Any
"""A record array of :data:`BOARD`, one row a board. (Numba knows its fields; a type checker does not.)"""
Board: TypeAlias = Any
"""One row of it."""


def boards_of(values: Mapping[str, Any], builds: int, rows: int) -> Boards:
    """``builds`` times ``rows`` boards from numbers or arrays of every field that broadcast to that shape."""
    made = np.recarray((builds, rows), dtype=BOARD)
    for name in FIELDS:
        made[name] = values[name]
    return made.reshape(-1)


def changed(boards: Boards, **values: Any) -> Boards:
    """A copy with some fields replaced."""
    copied = boards.copy()
    for name, value in values.items():
        copied[name] = value
    return copied


def stacked(many: Sequence[Boards]) -> Boards:
    """All boards of ``many`` one behind the other."""
    made = np.recarray(sum(len(b) for b in many), dtype=BOARD)
    first = 0
    for boards in many:
        made[first : first + len(boards)] = boards
        first += len(boards)
    return made
