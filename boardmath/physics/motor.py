"""Permanent-magnet motor in steady state, seen along the q axis."""

from math import sqrt

from boardmath.physics.jit import kernel

COPPER_TEMPERATURE_COEFFICIENT = 0.00393
"""1/K at 20 C, annealed copper (IEC 60028)."""
_SQRT3 = sqrt(3.0)

# Share of the no-load drag that does not grow with speed (hysteresis, bearings); the rest (eddy currents) does.
# From memory; the split only matters far from the speed at which the no-load current was taken.
STEADY_SHARE_OF_DRAG = 0.6
NO_LOAD_TEST_VOLTAGE = 30.0
"""V at which sellers mostly take the no-load current (common practice, no source)."""
Q_AXIS_OVER_SUPPLY_CURRENT = 2.0 / _SQRT3
"""A motor running free at a supply of V takes V I0, and turns at KV V: its drag torque times that speed is the same power,
so ``Kt iq KV V = (sqrt 3 / 2) V iq = V I0`` and iq = 1.155 I0."""


@kernel
def kv_from_flux_linkage(flux_linkage: float, pole_pairs: float) -> float:
    """rad/s per volt line-to-line peak from the peak phase flux linkage in Wb.

    The phase emf is ``p w psi`` at its peak, between two lines ``sqrt 3`` of it, and KV is the speed at which that is one volt.
    """
    return 1.0 / (_SQRT3 * pole_pairs * flux_linkage)


@kernel
def torque_constant(kv: float) -> float:
    """Torque in N m per ampere of peak phase (q-axis) current, from ``kv`` in rad/s per volt line-to-line peak.

    ``Kt = (sqrt 3 / 2) / KV``, in rpm terms 8.27 / KV. The 9.55 / KV of direct-current motors belongs to the current in
    the pack's leads of a six-step drive and would promise 15 % too much here.
    """
    return _SQRT3 / 2.0 / kv


@kernel
def no_load_current(at_test: float, kv: float, motor_speed: float) -> float:
    """q-axis current in A that only turns the motor itself, at ``motor_speed`` in rad/s.

    Args:
        at_test: q-axis current in A at the test voltage of sellers.
    """
    reference = kv * NO_LOAD_TEST_VOLTAGE
    return at_test * (STEADY_SHARE_OF_DRAG + (1.0 - STEADY_SHARE_OF_DRAG) * abs(motor_speed) / reference)


@kernel
def resistance_at(at_25_c: float, winding_temperature: float) -> float:
    """Phase resistance in ohm at ``winding_temperature`` in C, from its value at 25 C."""
    return at_25_c * (1.0 + COPPER_TEMPERATURE_COEFFICIENT * (winding_temperature - 25.0))


@kernel
def line_voltage(kv: float, resistance: float, current: float, motor_speed: float) -> float:
    """Line-to-line peak voltage in V that ``current`` (A, q axis) needs at ``motor_speed`` (rad/s).

    ``emf + sqrt 3 R iq`` with R line to neutral; inductance is left out (a few volts in quadrature).
    """
    return motor_speed / kv + _SQRT3 * resistance * current


@kernel
def electrical_power(kv: float, resistance: float, current: float, motor_speed: float) -> float:
    """Power in W that one motor takes: ``1.5 R iq^2 + (sqrt 3 / 2) emf iq``."""
    emf = motor_speed / kv
    return 1.5 * resistance * current * current + _SQRT3 / 2.0 * emf * current
