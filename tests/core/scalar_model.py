"""The same physics once more, one board at a time, in plain Python and SciPy: written from docs/model.md.

It shares the cell's measured tables and the resolved inputs with the engine, and nothing else: it searches with
``brentq``, integrates with ``quad``, and knows no arrays.
"""

from math import atan, cos, exp, pi, sin, sqrt

from scipy.integrate import quad
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq

from boardmath.parameters import Resolved
from boardmath.physics import cell

G = 9.80665
_CURVES = {
    name: PchipInterpolator(cell._CHARGE, cell._OPEN_CIRCUIT[name], extrapolate=True) for name in cell.CHEMISTRIES
}


class ScalarBoard:
    """One board with rider."""

    def __init__(self, build: Resolved):
        v = {name: i.value for name, i in build.inputs.items()}
        f = build.fixed
        self.mass = v["board_mass"] + f["load"]
        self.crr, self.cda, self.rho, self.wind = v["crr"], v["cda"], f["air_density"], f["head_wind"]
        self.r, self.gear, self.n = f["wheel_radius"], f["gear"], f["motors"]
        self.eta, self.drag, self.eta_c, self.idle = (
            v["drive_efficiency"],
            v["drive_drag"],
            v["controller_efficiency"],
            v["idle"],
        )
        self.kv = v["kv"] * 2 * pi / 60
        self.R = v["phase_resistance"] / 1000 * (1 + 0.00393 * (f["winding_temperature"] - 25))
        self.i0, self.poles = v["no_load_current"], f["pole_pairs"]
        self.i_max, self.ibat_max, self.we_max = (
            f["motor_current_limit"],
            f["pack_current_limit"],
            f["electrical_speed_limit"],
        )
        self.duty, self.v_start, self.v_end = f["duty"], f["taper_start"], f["taper_end"]
        self.chem = cell.CHEMISTRIES[int(f["chemistry"])]
        self.s, self.p, self.full = f["series"], f["parallel"], f["cell_full"]
        self.ah = v["cell_capacity"] * f["capacity_factor"]
        self.r_cell, self.r_path = v["cell_resistance"] / 1000 * f["resistance_factor"], v["path_resistance"] / 1000
        self.kelvin = f["cell_temperature"]
        self.q0, self.q1 = f["charge_full"], f["charge_reserve"]
        self.grip, self.wheels, self.h_over_l = v["grip"], f["driven_wheels"], f["height_over_wheelbase"]
        self.cruise = f["cruise_speed"]

    def open_circuit(self, q: float) -> float:
        curve = _CURVES[self.chem]
        return self.s * float(curve(q) + (self.full - curve(1.0)) * q)

    def resistance(self, q: float) -> float:
        factor = 1.55 * (1 + 1.2 * exp(-q / 0.06)) * exp(20000 / 8.314462618 * (1 / self.kelvin - 1 / 298.15))
        return self.s / self.p * self.r_cell * factor + self.r_path

    def excess(self, speed: float, grade: float, q: float) -> float:
        """Largest share of any ability in use, less one."""
        angle = atan(grade)
        air = speed + self.wind
        force = (
            self.mass * G * (sin(angle) + self.crr * cos(angle))
            + 0.5 * self.rho * self.cda * air * abs(air)
            + self.drag
        )
        kt = sqrt(3) / 2 / self.kv
        w = speed / self.r * self.gear
        iq = max(force, 0) * self.r / (self.gear * self.eta * self.n) / kt + self.i0 * (0.6 + 0.4 * w / (30 * self.kv))
        emf = w / self.kv
        power = self.n * (1.5 * self.R * iq**2 + sqrt(3) / 2 * emf * iq) / self.eta_c + self.idle
        voc, r = self.open_circuit(q), self.resistance(q)
        share = 4 * r * power / voc**2
        if share > 1:
            return share - 1
        i = (voc - sqrt(voc**2 - 4 * r * power)) / (2 * r)
        bus = voc - i * r
        left = min(max((bus - self.v_end) / (self.v_start - self.v_end), 1e-9), 1)
        on_rear = min(0.5 + self.h_over_l * max(force, 0) / (self.mass * G), 0.65)
        slip = self.grip * self.mass * G * on_rear * min(self.wheels, 2) / 2
        uses = (
            (emf + sqrt(3) * self.R * iq) / (self.duty * bus),
            iq / self.i_max,
            i / (self.ibat_max * left),
            w * self.poles / self.we_max,
            force / slip,
        )
        self.current = i
        return max(uses) - 1

    def top_speed(self, grade: float = 0.0, q: float = 0.9) -> float:
        q = min(q, self.q0)
        if self.excess(0.0, grade, q) > 0:
            return 0.0
        return brentq(lambda v: self.excess(v, grade, q), 0.0, 80.0, xtol=1e-6)

    def start_grade(self, q: float = 0.9) -> float:
        q = min(q, self.q0)
        return brentq(lambda g: self.excess(0.0, g, q), -0.3, 3.0, xtol=1e-7)

    def range(self) -> float:
        """m from full to the reserve."""

        def metres_per_charge(q: float) -> float:
            speed = self.cruise if self.excess(self.cruise, 0.0, q) <= 0 else self.top_speed(0.0, q)
            if speed < 5 / 3.6:
                return 0.0
            self.excess(speed, 0.0, q)
            return speed / self.current

        return quad(metres_per_charge, self.q1, self.q0, limit=60, epsrel=1e-4)[0] * self.ah * self.p * 3600
