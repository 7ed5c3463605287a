"""The physics against published figures and reference libraries."""

from importlib.metadata import version
from math import pi, sqrt
from pathlib import Path

import fluids
import numpy as np
import pytest
from joblib import Memory

from boardmath.physics import air, cell, motor, pack, road_load, wire
from boardmath.units import grade_percent


@pytest.mark.parametrize(
    ("altitude", "density"),
    [(0, 1.2250), (500, 1.1673), (1000, 1.1117), (2000, 1.0066), (4000, 0.81913)],
)
def test_air_density_of_the_standard_atmosphere(altitude, density):
    """ISO 2533:1975, table of the standard atmosphere by geopotential altitude."""
    temperature = 288.15 - 0.0065 * altitude
    assert air.density(temperature, float(altitude)) == pytest.approx(density, rel=2e-4)


@pytest.mark.parametrize("altitude", [0.0, 800.0, 3000.0])
@pytest.mark.parametrize("warmer", [-25.0, 0.0, 20.0])
def test_air_density_on_a_warm_or_cold_day(altitude, warmer):
    """The ``fluids`` package, US Standard Atmosphere 1976 with an offset temperature."""
    standard = fluids.ATMOSPHERE_1976(altitude)
    expected = fluids.ATMOSPHERE_1976.density(standard.T + warmer, standard.P)
    # fluids takes geometric altitude; a difference of 0.05 % at 3000 m.
    assert air.density(standard.T + warmer, altitude) == pytest.approx(expected, rel=1e-3)


@pytest.mark.parametrize(("awg", "mm"), [(8, 3.2639), (10, 2.5882), (12, 2.0525), (14, 1.6277), (16, 1.2908)])
def test_wire_diameter_by_gauge(awg, mm):
    """ASTM B258, diameters of solid round wire."""
    assert wire.diameter(awg) * 1000 == pytest.approx(mm, rel=5e-4)


@pytest.mark.parametrize(("awg", "amperes"), [(8, 73), (10, 55), (12, 41), (14, 32), (16, 22)])
def test_wire_bears_somewhat_more_than_common_tables_for_chassis_wiring(awg, amperes):
    """Handbook tables for single wires in open chassis, ordinary insulation; from memory. Silicone may get hotter."""
    assert 1.0 < float(wire.ampacity(awg)) / amperes < 1.6


@pytest.mark.parametrize(("awg", "ohm_per_km"), [(10, 3.277), (12, 5.211), (14, 8.286)])
def test_wire_resistance_by_gauge(awg, ohm_per_km):
    """Annealed copper at 20 C: IEC 60028's resistivity over ASTM B258's sections, as handbooks tabulate it."""
    assert wire.resistance(awg, 1000.0) == pytest.approx(ohm_per_km, rel=2e-3)


def test_torque_constant_by_kv():
    """8.27 / KV (rpm per volt) newton metres per ampere of peak phase current."""
    assert motor.torque_constant(170.0 * 2 * pi / 60) == pytest.approx(8.27 / 170.0, rel=1e-3)


def test_shaft_and_copper_power_are_all_the_power():
    """1.5 R iq^2 + T w = electrical power: what the torque constant and the emf say must be one machine."""
    kv, resistance, current, speed = 18.0, 0.03, 40.0, 300.0
    shaft = motor.torque_constant(kv) * current * speed
    heat = 3.0 * resistance * (current / sqrt(2.0)) ** 2
    assert motor.electrical_power(kv, resistance, current, speed) == pytest.approx(shaft + heat, rel=1e-12)


def test_copper_at_100_c_has_three_tenths_more_resistance():
    """0.393 % a kelvin (IEC 60028)."""
    assert motor.resistance_at(1.0, 100.0) == pytest.approx(1.295, abs=1e-3)


@pytest.mark.parametrize(("degrees", "percent"), [(16.7, 30.0), (45.0, 100.0), (5.71, 10.0)])
def test_grades_in_percent_and_degrees(degrees, percent):
    """Rise over run; 30 % is 16.7 degrees."""
    assert grade_percent(degrees) == pytest.approx(percent, rel=2e-3)


def test_climbing_power_is_weight_times_rate_of_climb():
    force = road_load.climbing_force(85.0, 0.12)
    rise_a_second = 5.0 * np.sin(np.arctan(0.12))
    assert force * 5.0 == pytest.approx(85.0 * 9.80665 * rise_a_second)


def test_pack_gives_its_utmost_at_half_its_voltage():
    """Maximum power transfer: Voc^2 / 4R at Voc / 2R amperes; above it no current gives the power."""
    current, share = pack.current_for_power(40.0**2 / 4.0 / 0.2, 40.0, 0.2)
    assert current == pytest.approx(100.0)
    assert share == pytest.approx(1.0)
    assert pack.current_for_power(2100.0, 40.0, 0.2)[1] > 1.0


_kept = Memory(Path(__file__).resolve().parents[2] / ".local" / "scalar-model", verbose=0).cache
"""What PyBaMM takes seconds for is kept from run to run, under its version."""


@_kept
def _chen2020_energy(rate: float, version: str = version("pybamm")) -> float:
    """Wh of the cell."""
    import pybamm

    model = pybamm.lithium_ion.SPMe({"calculate discharge energy": "true"})
    simulation = pybamm.Simulation(model, parameter_values=pybamm.ParameterValues("Chen2020"), C_rate=rate)
    return float(simulation.solve([0, 4000 / rate])["Discharge energy [W.h]"].entries[-1])


@pytest.mark.parametrize("rate", [0.2, 0.5, 1.0, 2.0])
def test_energy_of_a_21700_cell(rate):
    """PyBaMM's single-particle model with electrolyte of the Chen 2020 cell, within 5 % from 0.2C to 2C.

    The builder's view of that cell: 5.15 Ah between 4.2 and 2.5 V, and 28.6 mOhm in a ten-second pulse at half charge
    (the same model's pulse).
    """
    capacity, current = 5.15, rate * 5.0
    charge = np.linspace(1.0, 0.0, 4001)
    volts = np.array([cell.open_circuit_voltage(0.0, q, 4.2) for q in charge])
    volts -= current * 0.0286 * np.array([cell.resistance_factor(q, 298.15) for q in charge])
    until_empty = volts >= 2.5
    energy = np.trapezoid(volts[until_empty], -charge[until_empty]) * capacity
    assert energy == pytest.approx(_chen2020_energy(rate), rel=0.05)


@pytest.mark.parametrize("chemistry", cell.CHEMISTRIES)
def test_charge_and_voltage_are_each_others_inverse(chemistry):
    full = float(cell.TABLE_FULL[cell.CHEMISTRIES.index(chemistry)])
    index = float(cell.CHEMISTRIES.index(chemistry))
    for charge in (0.05, 0.3, 0.7, 0.95):
        volts = float(cell.open_circuit_voltage(index, charge, full))
        assert cell.charge_at(chemistry, volts, full) == pytest.approx(charge, abs=5e-3)


@_kept
def _chen2020_warmed(rate: float, version: str = version("pybamm")) -> tuple[float, float, float]:
    """K by which the cell warms up in two thirds of a discharge, its heat capacity in J/K, and K/W to the air."""
    import pybamm

    values = pybamm.ParameterValues("Chen2020")
    simulation = pybamm.Simulation(pybamm.lithium_ion.SPMe({"thermal": "lumped"}), parameter_values=values, C_rate=rate)
    celsius = simulation.solve([0, 2400 / rate])["Volume-averaged cell temperature [C]"].entries
    layers = (
        "Negative electrode",
        "Positive electrode",
        "Separator",
        "Negative current collector",
        "Positive current collector",
    )
    thick = [values[f"{name} thickness [m]"] for name in layers]
    held = [
        values[f"{name} density [kg.m-3]"] * values[f"{name} specific heat capacity [J.kg-1.K-1]"] for name in layers
    ]
    capacity = float(np.dot(thick, held) / sum(thick)) * values["Cell volume [m3]"]
    cooled = values["Total heat transfer coefficient [W.m-2.K-1]"] * values["Cell cooling surface area [m2]"]
    return float(celsius[-1] - celsius[0]), capacity, 1.0 / cooled


@pytest.mark.parametrize("rate", [1.0, 2.0])
def test_a_cell_warms_up_as_the_single_particle_model_with_lumped_heat_says(rate):
    """PyBaMM's Chen 2020 cell, cooled as its parameters say: our lump errs to the warm side, by no more than half.

    The resistance is the one that brings out a ride's sag; a steady discharge from full makes somewhat less heat.
    """
    rise, capacity, to_air = _chen2020_warmed(rate)
    celsius, charge, current, seconds = 25.0, 1.0, 5.0 * rate, 2400 / rate / 200
    for _ in range(200):
        charge -= current * seconds / 3600 / 5.15
        watts = current**2 * 0.0286 * cell.resistance_factor(charge, celsius + 273.15)
        celsius = pack.warmed(celsius, watts, 25.0, capacity, to_air, seconds)
    assert 0.9 < (celsius - 25.0) / rise < 1.5
