"""What each chemistry of lithium cells usually is: one record, asked by estimates, tapers, charging and life.

Common practice, no source, unless a line says otherwise.
"""

from dataclasses import dataclass

from boardmath.buildfile.electrics import Cell, Chemistry
from boardmath.physics.cell import CHEMISTRIES


@dataclass(frozen=True)
class Chemical:
    """Usual figures of one chemistry; voltages are V a cell."""

    full_v: float
    nominal_v: float
    empty_v: float
    taper_above_empty_v: float
    """Where a controller gives nothing more, above empty."""
    taper_span_v: float
    """How far above that it begins to hold back."""
    discharge_per_ah: float
    """A an Ah that new, labelled cells are rated for."""
    charge_per_ah: float
    wh_per_kg: float
    cycles_to_80_pct: float
    capacity_lost_per_kelvin: float
    """Share lost a kelvin below 25 °C (from memory of cells' data sheets)."""
    calendar_factor: float
    """Ageing with time, over that of the published fit for nmc (from memory)."""
    cells_unalike: float
    """Spread of capacity among new cells of one lot, as a share (from memory)."""


CHEMICALS: dict[Chemistry, Chemical] = {
    "nmc": Chemical(
        full_v=4.2,
        nominal_v=3.6,
        empty_v=2.8,
        taper_above_empty_v=0.3,
        taper_span_v=0.3,
        discharge_per_ah=5.0,
        charge_per_ah=1.0,
        wh_per_kg=230.0,
        cycles_to_80_pct=500.0,
        capacity_lost_per_kelvin=0.004,
        calendar_factor=1.0,
        cells_unalike=0.012,
    ),
    "nca": Chemical(
        full_v=4.2,
        nominal_v=3.6,
        empty_v=2.8,
        taper_above_empty_v=0.3,
        taper_span_v=0.3,
        discharge_per_ah=3.0,
        charge_per_ah=0.7,
        wh_per_kg=240.0,
        cycles_to_80_pct=400.0,
        capacity_lost_per_kelvin=0.004,
        calendar_factor=1.1,
        cells_unalike=0.012,
    ),
    "lfp": Chemical(
        full_v=3.6,
        nominal_v=3.2,
        empty_v=2.3,
        taper_above_empty_v=0.3,
        taper_span_v=0.3,
        discharge_per_ah=5.0,
        charge_per_ah=1.0,
        wh_per_kg=110.0,
        cycles_to_80_pct=1500.0,
        capacity_lost_per_kelvin=0.007,
        calendar_factor=0.6,
        cells_unalike=0.015,
    ),
    "polymer": Chemical(
        full_v=4.2,
        nominal_v=3.7,
        empty_v=3.2,
        taper_above_empty_v=0.1,
        taper_span_v=0.2,
        discharge_per_ah=15.0,
        charge_per_ah=1.0,
        wh_per_kg=160.0,
        cycles_to_80_pct=200.0,
        capacity_lost_per_kelvin=0.005,
        calendar_factor=1.3,
        cells_unalike=0.015,
    ),
}


def chemistry_of(cell: Cell | None) -> Chemistry:
    """What the cell says; nmc where it does not, as most packs are."""
    return (cell.chemistry if cell else None) or "nmc"


def chemical_of(cell: Cell | None) -> Chemical:
    """The record of what the cell says, or of what most packs are."""
    return CHEMICALS[chemistry_of(cell)]


def index_of(cell: Cell | None) -> float:
    """The number by which the engine knows the chemistry."""
    return float(CHEMISTRIES.index(chemistry_of(cell)))
