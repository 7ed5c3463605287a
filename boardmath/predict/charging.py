"""Charging: constant current, then constant voltage; bricks one after the other. And what the pack's life costs."""

from math import ceil

import numpy as np

from boardmath import estimate
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Charger, Pack
from boardmath.inputs import cell_charge_rating, cell_voltages
from boardmath.parameters import Resolved
from boardmath.physics import cell as cells

_ENDS_AT = 0.05
"""Share of the capacity, as current in A per Ah, at which chargers end the constant-voltage part (common practice)."""
_USUAL_BRICK = 6


def charge_hours(build: Build, resolved: Resolved) -> dict[str, float] | None:
    """Hours from the reserve to 80 %, 90 % and full with the chosen charger; None without one.

    Full is the voltage that the pack is charged to. The charger's current is held down to what cells and protection
    board may take.
    """
    charger, pack = build.parts.charger or Charger(), build.parts.pack or Pack()
    if charger.a is None:
        return None
    cell = pack.cell or Cell()
    chemistry = estimate.chemistry_of(cell)
    parallel, full_v = float(pack.parallel or 1), cell_voltages(pack)[0]
    allowed = [charger.a, cell_charge_rating(pack).value * parallel]
    if pack.protection is not None and pack.protection.max_charge_a is not None:
        allowed.append(pack.protection.max_charge_a)
    capacity = resolved.inputs["cell_capacity"].value * resolved.fixed["capacity_factor"]  # Ah of a cell
    each = min(allowed) / parallel
    end_v = pack.charge_to_v or full_v
    start, full = resolved.fixed["charge_reserve"], resolved.fixed["charge_full"]
    if full <= start:
        return None
    resistance = resolved.inputs["cell_resistance"].value / 1000.0 * resolved.fixed["resistance_factor"]
    charge = np.linspace(start, full, 400)
    middle = (charge[1:] + charge[:-1]) / 2.0
    index = np.full(middle.shape, float(cells.CHEMISTRIES.index(chemistry)))
    rest = cells.open_circuit_voltage(index, middle, full_v)
    room = (end_v - rest) / (resistance * cells.resistance_factor(middle, resolved.fixed["cell_temperature"]))
    current = np.clip(room, _ENDS_AT * capacity, each)
    hours = np.concatenate([[0.0], np.cumsum(np.diff(charge) * capacity / current)])
    times = bricks_of(pack)
    at = {"to_80_pct": 0.8, "to_90_pct": 0.9, "to_full": full}
    return {name: float(np.interp(min(share, full), charge, hours)) * times for name, share in at.items()}


def bricks_of(pack: Pack) -> int:
    """How many bricks are charged one after the other; 1 for a block with one plug."""
    if pack.bricks is not None:
        return pack.bricks
    return ceil((pack.series or 1) / _USUAL_BRICK) if pack.layout == "bricks" else 1


def life_cycles(pack: Pack) -> float:
    """Full cycles until 80 %: charged to 0.1 V less a cell about doubles them (common practice, no source)."""
    cell = pack.cell or Cell()
    full = cell_voltages(pack)[0]
    cycles = cell.cycles_to_80_pct or estimate.cycles_to_80_pct(cell).value
    return float(cycles * 2.0 ** (max(full - (pack.charge_to_v or full), 0.0) / 0.1))
