"""Permanent-magnet motor in steady state, seen along the q axis."""

import numpy as np

from boardmath.physics.types import Array, Numbers

COPPER_TEMPERATURE_COEFFICIENT = 0.00393
"""1/K at 20 C, annealed copper (IEC 60028)."""
_SQRT3 = float(np.sqrt(3.0))

# Share of the no-load drag that does not grow with speed (hysteresis, bearings); the rest (eddy currents) does.
# From memory; the split only matters far from the speed at which the no-load current was taken.
STEADY_SHARE_OF_DRAG = 0.6
NO_LOAD_TEST_VOLTAGE = 30.0
"""V at which sellers mostly take the no-load current (common practice, no source)."""


def kv_from_flux_linkage(flux_linkage: Numbers, pole_pairs: Numbers) -> Array:
    """rad/s per volt line-to-line peak from the peak phase flux linkage in Wb.

    The phase emf is ``p w psi`` at its peak, between two lines ``sqrt 3`` of it, and KV is the speed at which that is one volt.
    """
    return np.asarray(1.0 / (_SQRT3 * np.asarray(pole_pairs) * flux_linkage))


def torque_constant(kv: Numbers) -> Array:
    """Torque in N m per ampere of peak phase (q-axis) current, from ``kv`` in rad/s per volt line-to-line peak.

    ``Kt = (sqrt 3 / 2) / KV``, in rpm terms 8.27 / KV. The 9.55 / KV of direct-current motors belongs to the current in
    the pack's leads of a six-step drive and would promise 15 % too much here.
    """
    return np.asarray(_SQRT3 / 2.0 / np.asarray(kv))


def no_load_current(stated: Numbers, kv: Numbers, motor_speed: Numbers) -> Array:
    """q-axis current in A that only turns the motor itself, at ``motor_speed`` in rad/s."""
    reference = np.asarray(kv) * NO_LOAD_TEST_VOLTAGE
    return np.asarray(stated * (STEADY_SHARE_OF_DRAG + (1.0 - STEADY_SHARE_OF_DRAG) * np.abs(motor_speed) / reference))


def resistance_at(at_25_c: Numbers, winding_temperature: Numbers) -> Array:
    """Phase resistance in ohm at ``winding_temperature`` in C, from its value at 25 C."""
    return np.asarray(at_25_c * (1.0 + COPPER_TEMPERATURE_COEFFICIENT * (np.asarray(winding_temperature) - 25.0)))


def line_voltage(kv: Numbers, resistance: Numbers, current: Numbers, motor_speed: Numbers) -> Array:
    """Line-to-line peak voltage in V that ``current`` (A, q axis) needs at ``motor_speed`` (rad/s).

    ``emf + sqrt 3 R iq`` with R line to neutral; inductance is left out (a few volts in quadrature).
    """
    return np.asarray(motor_speed / np.asarray(kv) + _SQRT3 * resistance * current)


def electrical_power(kv: Numbers, resistance: Numbers, current: Numbers, motor_speed: Numbers) -> Array:
    """Power in W that one motor takes: ``1.5 R iq^2 + (sqrt 3 / 2) emf iq``."""
    emf = motor_speed / np.asarray(kv)
    return np.asarray(1.5 * resistance * np.square(current) + _SQRT3 / 2.0 * emf * current)
