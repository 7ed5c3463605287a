"""Lithium cells: open-circuit voltage and resistance against charge and temperature.

Open-circuit curves are those of published, measured cells, taken at 25 C over the whole window from empty to full as
their parameter sets in PyBaMM give them:

- nmc: Chen et al., J. Electrochem. Soc. 167 (2020) 080534, a 21700 cell
- nca: Kim et al., J. Electrochem. Soc. 158 (2011) A955
- lfp: Prada et al., J. Electrochem. Soc. 159 (2012) A1508 and 160 (2013) A616
- polymer (lithium cobalt oxide): Ramadass et al., J. Electrochem. Soc. 151 (2004) A196
"""

from math import exp
from typing import Any

import numpy as np
from scipy.interpolate import PchipInterpolator

from boardmath.physics.jit import kernel

CHEMISTRIES = ("nmc", "nca", "lfp", "polymer")

# fmt: off
_CHARGE = (0, .01, .02, .03, .05, .075, .1, .15, .2, .25, .3, .35, .4, .45, .5, .55, .6, .65, .7, .75, .8, .85, .9, .95, .98, 1)
_OPEN_CIRCUIT = {
    "nmc": (2.5, 2.7114, 2.8625, 2.9712, 3.1094, 3.2107, 3.2959, 3.4339, 3.4852, 3.5286, 3.5814, 3.629, 3.667, 3.7054,
            3.7509, 3.7983, 3.8406, 3.8896, 3.9479, 3.9943, 4.0421, 4.0809, 4.0967, 4.1236, 4.1645, 4.2),
    "nca": (2.7, 3.0127, 3.1181, 3.161, 3.1939, 3.2181, 3.2471, 3.3099, 3.3721, 3.4331, 3.4918, 3.5472, 3.5978, 3.643,
            3.6846, 3.7253, 3.7678, 3.8163, 3.8742, 3.93, 3.9803, 4.0295, 4.0803, 4.1354, 4.1726, 4.2),
    "lfp": (2.0, 2.2655, 2.46, 2.6028, 2.7853, 2.9057, 2.9781, 3.108, 3.1685, 3.1857, 3.2058, 3.2324, 3.2525, 3.2621,
            3.266, 3.2678, 3.2688, 3.27, 3.274, 3.2926, 3.3097, 3.3132, 3.3142, 3.3164, 3.3502, 3.6),
    "polymer": (2.8, 3.0828, 3.231, 3.3261, 3.4462, 3.5367, 3.5955, 3.6663, 3.7063, 3.7323, 3.7522, 3.7699, 3.7875,
                3.8062, 3.8266, 3.8491, 3.8738, 3.9009, 3.9304, 3.9626, 3.9977, 4.0363, 4.0798, 4.1313, 4.1693, 4.2),
}
# fmt: on
_GRID = 400
_TABLE = np.stack(
    [PchipInterpolator(_CHARGE, _OPEN_CIRCUIT[name])(np.linspace(0.0, 1.0, _GRID + 1)) for name in CHEMISTRIES]
)
TABLE_FULL = _TABLE[:, -1].copy()
"""V at full charge, by chemistry, to which a cell's own full voltage is compared."""

# A resistance found with a ten-second pulse misses the slow diffusion that a ride brings out. The ratio, and its growth
# near empty, are read from single-particle-with-electrolyte simulations (PyBaMM) of the Chen 2020 cell.
RIDE_OVER_PULSE = 1.55
_ACTIVATION_OVER_GAS_CONSTANT = 20_000.0 / 8.314462618
"""K; 20 kJ/mol for the resistance of lithium cells, from memory."""


@kernel
def open_circuit_voltage(chemistry: float, charge: float, full_voltage: float) -> float:
    """Open-circuit voltage in V of one cell.

    Args:
        chemistry: index into :data:`CHEMISTRIES`, a whole number.
        charge: state of charge, 0 to 1; beyond is clamped.
        full_voltage: the cell's own full voltage, V; the curve is stretched to end there.
    """
    row = int(chemistry)
    clamped = min(max(charge, 0.0), 1.0)
    place = clamped * _GRID
    below = min(int(place), _GRID - 1)
    low = _TABLE[row, below]
    curve = low + (_TABLE[row, below + 1] - low) * (place - below)
    return curve + (full_voltage - TABLE_FULL[row]) * clamped


def charge_at(chemistry: str, voltage: float, full_voltage: float) -> float:
    """State of charge (0 to 1) of a rested cell at ``voltage``."""
    row = CHEMISTRIES.index(chemistry)
    charge = np.linspace(0.0, 1.0, _GRID + 1)
    return float(np.interp(voltage, _TABLE[row] + (full_voltage - TABLE_FULL[row]) * charge, charge))


@kernel
def resistance_factor(charge: float, temperature: float) -> float:
    """A cell's resistance while riding over its pulse resistance at half charge and 25 C.

    Args:
        charge: state of charge, 0 to 1.
        temperature: of the cell, K.
    """
    near_empty = 1.0 + 1.2 * exp(-min(max(charge, 0.0), 1.0) / 0.06)
    cold = exp(_ACTIVATION_OVER_GAS_CONSTANT * (1.0 / temperature - 1.0 / 298.15))
    return RIDE_OVER_PULSE * near_empty * cold


@kernel
def capacity_factor(per_kelvin: float, temperature: float) -> float:
    """Share of the 25 C capacity that a cell gives at ``temperature`` K, by its loss ``per_kelvin`` below 25 C."""
    return 1.0 - per_kelvin * min(max(298.15 - temperature, 0.0), 50.0)


AGED_RESISTANCE = 3.0
"""Growth of a cell's resistance for its loss of capacity: at 80 % left it has 1.6 times its own (from memory)."""


def aged_resistance_factor(health: Any) -> Any:
    """A cell's resistance over a new one's, with ``health`` (share of capacity left, a number or an array)."""
    return 1.0 + AGED_RESISTANCE * np.clip(1.0 - health, 0.0, 1.0)
