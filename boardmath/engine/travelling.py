"""A way ridden piece after piece, as far as the charge carries: where it walks, where it strands, what is left on arriving."""

from math import cos, sin, sqrt
from typing import Any

import numpy as np

from boardmath.engine.boards import Board, Boards
from boardmath.engine.operating import BY_SPEED, _use_at, open_circuit, pack_resistance
from boardmath.engine.riding import STRANDED, moments_of, per_metre, room, too_much
from boardmath.engine.sweeps import cut_over_threads
from boardmath.physics import cell, pack
from boardmath.physics.jit import kernel
from boardmath.physics.types import Array

WALKING = 4.0 / 3.6
"""m/s of a person with a board under the arm (common practice, no source)."""
_SHARE = 0.02
"""Of the pack's charge that one step of a long piece may take, so that volts and warmth are followed."""
METRES, GRADE, TOWARDS = 0, 1, 2
"""Columns of a piece of way: m, rise over run, degrees from north that it leads to."""
STATE = np.dtype(
    [
        ("charge", float),  # 0 to 1
        ("kelvin", float),  # of the cells
        ("seconds", float),  # under way, walking too
        ("joules", float),  # at the pack's terminals
        ("metres", float),
        ("walked", float),  # m of it on foot
        ("stranded", float),  # m after which the charge was used up for the first time; inf where it never was
    ]
)


@kernel
def along_and_against(speed: float, along: float, across: float) -> float:
    """The head wind that would drag as much as a wind that also blows from the side, m/s."""
    ahead = speed + along
    drag = ahead * sqrt(ahead * ahead + across * across)
    return (sqrt(drag) if drag >= 0.0 else -sqrt(-drag)) - speed


@kernel
def _travel(
    b: Board, way: Array, wind: float, comes_from: float, steeper: float, s: Any, out: Array, rows: Array, m: Array
) -> None:
    """One board over the pieces of ``way``, on from the state ``s``; ``out`` gets the charge after each piece."""
    reach = b.pack_capacity / b.riding
    for j in range(len(way)):
        metres, grade = way[j, METRES], way[j, GRADE] * steeper
        angle = (comes_from - way[j, TOWARDS]) * np.pi / 180.0
        along, across = wind * cos(angle) + b.head_wind, wind * sin(angle)
        left, on_foot = metres, s.charge <= 0.0
        while left > 0.0 and not on_foot:
            v, r = open_circuit(b, s.charge), pack_resistance(b, s.charge, s.kelvin)
            against = along_and_against(b.mean_speed, along, across)
            if too_much(b, max(along_and_against(STRANDED, along, across), 0.0), s.charge, s.kelvin) > 0.0:
                on_foot = True
                if s.metres < s.stranded:
                    s.stranded = s.metres
                break
            if _use_at(b, BY_SPEED, STRANDED, grade, along_and_against(STRANDED, along, across), v, r)[0] > 1.0:
                on_foot = True  # too steep for it, whatever is left: it is carried up
                break
            rows[0, 0], rows[0, 1], rows[0, 2], rows[0, 3] = 1.0, b.mean_speed, grade, against
            count, _ = moments_of(b, 1, rows, b.stops, along, m, v, r)
            charge, joules, seconds, heat, _ = per_metre(b, m, count, v, r)
            least = b.idle_power / v * seconds
            if charge < 0.0 and grade >= 0.0:
                charge = least
            step = left
            if abs(charge) * step > _SHARE * reach:
                step = _SHARE * reach / abs(charge)
            time = seconds * step
            used = charge * step / reach
            if used >= s.charge:
                step *= s.charge / used
                used, time = s.charge, seconds * step
                if s.metres + step < s.stranded:
                    s.stranded = s.metres + step
            s.charge = min(s.charge - used, b.charge_full)
            s.joules += joules * step * b.riding
            watts = heat / max(seconds, 1e-9) * b.riding * b.riding
            watts *= b.cell_resistance * cell.resistance_factor(s.charge, s.kelvin)
            s.kelvin = pack.warmed(s.kelvin, watts, b.ambient + 273.15, b.pack_heat_capacity, b.pack_to_air, time)
            s.seconds += time
            s.metres += step
            left -= step
            on_foot = s.charge <= 1e-9
        if left > 0.0:
            s.seconds += left / WALKING
            s.walked += left
            s.metres += left
        out[j] = s.charge


@kernel
def _travels(
    boards: Boards, wind: Array, comes_from: Array, steeper: Array, states: Any, out: Array, way: Array
) -> None:
    rows, m, _ = room()
    for i in range(len(boards)):
        _travel(boards[i], way, wind[i], comes_from[i], steeper[i], states[i], out[i], rows, m[0])


def beginning(boards: Boards) -> Any:
    """The states of boards that set out: as they are charged at the start of a ride, cells as warm as the air."""
    states = np.recarray(len(boards), dtype=STATE)
    states.charge, states.kelvin = boards.charge_start, boards.cell_temperature
    states.seconds = states.joules = states.metres = states.walked = 0.0
    states.stranded = np.inf
    return states


def travelled(
    boards: Boards, way: Array, wind: Array, comes_from: Array, states: Any, steeper: Array | None = None
) -> Array:
    """Takes every board over a way, on from its state, which is changed.

    Args:
        way: pieces of shape (pieces, 3): m, rise over run, degrees from north that it leads to.
        wind: m/s for each board, felt standing; comes_from: degrees from north for each.
        steeper: by how much each board's hills are steeper than the way says.

    Returns:
        Charge after each piece, 0 to 1, of shape (boards, pieces).
    """
    out = np.empty((len(boards), len(way)))
    way = np.ascontiguousarray(way, dtype=float)
    cut_over_threads(
        lambda b, w, f, k, s, o: _travels(b, w, f, k, s, o, way),
        boards,
        np.ascontiguousarray(wind, dtype=float),
        np.ascontiguousarray(comes_from, dtype=float),
        np.ones(len(boards)) if steeper is None else np.ascontiguousarray(steeper, dtype=float),
        states,
        out,
    )
    return out
