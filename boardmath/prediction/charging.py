"""Charging: constant current, then constant voltage; bricks one after the other or together. And how long the pack lives."""

import numpy as np

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Charger, Pack
from boardmath.model import estimate
from boardmath.model.bricks import charge_turns, charged_parallel
from boardmath.model.chemistry import chemical_of, chemistry_of, index_of
from boardmath.model.inputs import cell_charge_rating, cell_voltages
from boardmath.model.resolution import Resolved
from boardmath.physics import ageing
from boardmath.physics import cell as cells
from boardmath.physics.types import Array

CHARGER_SPREAD = 0.06
"""How far a charger's current lies off its label, as the deviation of its logarithm (common practice, no source)."""
_ENDS_AT = 0.05
"""Share of the capacity, as current in A per Ah, at which chargers end the constant-voltage part (common practice)."""


def charge_hours(build: Build, resolved: Resolved) -> dict[str, float] | None:
    """Hours from the reserve to 80 %, 90 % and full with the chosen charger; None without one.

    Full is the voltage that the pack is charged to. The charger's current is held down to what cells and protection
    board may take.
    """
    full = resolved.fixed["charge_full"]
    found = charge_course(build, resolved, resolved.fixed["charge_reserve"])
    if found is None:
        return None
    charge, hours = found
    times = charge_turns(build)
    at = {"to_80_pct": 0.8, "to_90_pct": 0.9, "to_full": full}
    return {name: float(np.interp(min(share, full), charge, hours)) * times for name, share in at.items()}


def charge_course(build: Build, resolved: Resolved, start: float) -> tuple[Array, Array] | None:
    """Charge (0 to 1) from ``start`` to full, and the hours at which each is reached, of what is charged at one turn; None
    without a charger."""
    charger, pack = build.parts.charger or Charger(), build.parts.pack or Pack()
    if charger.a is None:
        return None
    parallel, full_v = charged_parallel(build), cell_voltages(pack)[0]
    allowed = [charger.a, cell_charge_rating(pack).value * parallel]
    if pack.protection is not None and pack.protection.max_charge_a is not None:
        allowed.append(pack.protection.max_charge_a)
    kelvin, health = resolved.inputs["temperature"].value + 273.15, resolved.inputs["health"].value
    cold = cells.capacity_factor(chemical_of(pack.cell).capacity_lost_per_kelvin, kelvin)
    capacity = resolved.inputs["cell_capacity"].value * cold * health  # Ah of a cell
    each = min(allowed) / parallel
    end_v = pack.charge_to_v or full_v
    full = resolved.fixed["charge_full"]
    if full <= start:
        return None
    resistance = resolved.inputs["cell_resistance"].value / 1000.0 * cells.aged_resistance_factor(health)
    charge = np.linspace(start, full, 160)
    middle = (charge[1:] + charge[:-1]) / 2.0
    index = index_of(pack.cell)
    rest = np.array([cells.open_circuit_voltage(index, q, full_v) for q in middle])
    ohms = resistance * np.array([cells.resistance_factor(q, kelvin) for q in middle])
    current = np.clip((end_v - rest) / ohms, _ENDS_AT * capacity, each)
    hours = np.concatenate([[0.0], np.cumsum(np.diff(charge) * capacity / current)])
    return charge, hours


def life_cycles(pack: Pack) -> float:
    """Full cycles until 80 %: charged to 0.1 V less a cell about doubles them (common practice, no source)."""
    cell = pack.cell or Cell()
    full = cell_voltages(pack)[0]
    salvaged = estimate.salvaged(cell) or cell.cycles_to_80_pct is None
    cycles = estimate.cycles_to_80_pct(cell).value if salvaged else cell.cycles_to_80_pct
    assert cycles is not None
    return float(cycles * 2.0 ** (max(full - (pack.charge_to_v or full), 0.0) / 0.1))


RIDE_DAYS = 150.0
"""Days a year on which a board is ridden that is ridden at all (common practice, no source)."""
USUAL_DAY_KM = 10.0
KEPT_C = 20.0
"""Where a board stands between rides."""
LOST = 0.2
"""Share of the capacity at which a pack counts as worn."""


def life_years(pack: Pack, depth: float, charged_to: float, days: float = RIDE_DAYS) -> float:
    """Years until four fifths of the capacity are left: time and riding together, by the published fit.

    The fit's term of riding is scaled so that full cycles alone reach it after as many as the cells are good for; how a shallower
    one counts, and one around another voltage, is the fit's.

    Args:
        depth: share of the capacity that a day of riding takes; charged_to: 0 to 1, and kept there between rides.
    """
    cell = pack.cell or Cell()
    depth = min(max(depth, 0.01), 1.0)

    def volts(charge: float) -> float:
        # Cells age by how full they are; the fit's volts are those of nmc.
        full = cell_voltages(pack)[0] if chemistry_of(cell) == "nmc" else chemical_of(None).full_v
        return float(cells.open_circuit_voltage(index_of(None), charge, full))

    calendar = ageing.calendar_rate(volts(charged_to), KEPT_C + 273.15) * chemical_of(cell).calendar_factor
    milder = ageing.cycle_rate(volts(charged_to - depth / 2.0), depth) / ageing.cycle_rate(volts(0.5), 1.0)
    by_square_root_day = LOST / life_cycles(pack) ** 0.5 * milder * (depth * days / 365.0) ** 0.5
    return ageing.days_to(LOST, calendar, by_square_root_day) / 365.0
