"""The same physics once more, one board at a time, in plain Python and SciPy: written from docs/model.md.

It shares the cell's measured tables and the resolved inputs with the engine, and nothing else: it searches with ``brentq``,
integrates stops by Gauss of another order and rides with ``solve_ivp``, and knows no arrays.
"""

from bisect import bisect_right
from hashlib import sha256
from math import atan, cos, exp, pi, sin, sqrt
from pathlib import Path
from statistics import NormalDist
from typing import Any

import numpy as np
from joblib import Memory
from scipy.integrate import solve_ivp
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq

from boardmath.model.model_inputs import INPUTS
from boardmath.model.resolution import Resolved
from boardmath.physics import cell

G = 9.80665
WALKING = 5 / 3.6
_NODES, _WEIGHTS = (tuple(float(v) for v in row) for row in np.polynomial.legendre.leggauss(6))
_USUAL = NormalDist()
_RECORDS = {record.name: record for record in INPUTS}


def _pieces(name: str) -> tuple[list[float], list[list[float]]]:
    """Where the pieces of a chemistry's open-circuit curve begin, and the cubic of each, as SciPy's PCHIP has them."""
    curve = PchipInterpolator(cell._CHARGE, cell._OPEN_CIRCUIT[name])
    return curve.x.tolist(), curve.c.T.tolist()


_CURVES = {name: _pieces(name) for name in cell.CHEMISTRIES}


def _rested(chemistry: str, q: float) -> float:
    """V of a rested cell at a share of its charge."""
    starts, cubics = _CURVES[chemistry]
    i = min(max(bisect_right(starts, q) - 1, 0), len(cubics) - 1)
    x, (a, b, c, d) = q - starts[i], cubics[i]
    return ((a * x + b) * x + c) * x + d


class ScalarBoard:
    """One board with rider; ``z`` are normal scores by input, as the priors of docs/model.md spread them."""

    def __init__(self, build: Resolved, z: dict[str, float] | None = None):
        v = {name: i.value if z is None else _drawn(name, i, z[name]) for name, i in build.inputs.items()}
        f = build.fixed
        celsius = v["temperature"]
        self.ambient, self.kelvin = celsius, celsius + 273.15
        self.mass = v["board_mass"] + v["load"]
        self.turning = v["rotating_mass"]
        pressure = 101325 * (1 - 0.0065 * f["altitude"] / 288.15) ** 5.25588
        self.rho = f["air_density"] or pressure / (287.05287 * self.kelvin)
        self.crr, self.cda, self.pinned_wind = v["crr"], v["cda"], f["head_wind"]
        self.way_wind, self.swing = v["way_wind"], v["swing_wind"]
        self.r, self.gear, self.n = v["wheel_radius"] / 1000, f["gear"], f["motors"]
        self.eta, self.drag = v["drive_efficiency"], v["drive_drag"]
        self.r_fet, self.switching = v["conduction"] / 1000, v["switching"] * 1.5 * (2 / pi) * 300e-9 * 25e3
        self.eta_c, self.idle = f["controller_efficiency"], v["idle"]
        self.kv = v["kv"] * 2 * pi / 60
        self.R25 = v["phase_resistance"] / 1000
        self.R = self.R25 * (1 + 0.00393 * (celsius + 35 - 25))
        self.i0, self.poles = v["no_load_current"] * f["no_load_over_stated"], f["pole_pairs"]
        self.i_max, self.ibat_max = v["motor_current_limit"], v["pack_current_limit"]
        self.i_brake, self.i_regen, self.v_top = f["brake_current_limit"], f["regen_current_limit"], f["brake_ceiling"]
        self.we_max, self.duty = f["electrical_speed_limit"], v["duty"]
        self.v_start, self.v_end = f["taper_start"], f["taper_end"]
        self.chem = cell.CHEMISTRIES[int(f["chemistry"])]
        self.rested_full = _rested(self.chem, 1.0)
        self.s, self.p, self.full = f["series"], f["parallel"], f["cell_full"]
        cold = 1 - f["capacity_per_kelvin"] * min(max(25 - celsius, 0), 50)
        self.coulombs = v["cell_capacity"] * self.p * 3600 * cold * v["health"] * v["weakest_group"]
        grown = 1 + 3 * max(1 - v["health"], 0)
        self.r_cells = v["cell_resistance"] / 1000 * grown * self.s / self.p
        self.r_path = v["path_resistance"] / 1000
        self.q_top, self.q0, self.q1 = f["charge_full"], f["charge_full"] * v["charge_start"], f["charge_reserve"]
        self.grip, self.wheels, self.h_over_l = v["grip"], f["driven_wheels"], f["height_over_wheelbase"]
        self.pack_j_k, self.pack_k_w = v["pack_heat_capacity"], v["pack_to_air"]
        self.mean, self.cruise = v["mean_speed"] / 3.6, f["cruise_speed"]
        self.stops, self.ascent, self.returned = v["stops"] / 1000, v["ascent"] / 1000, v["returned"]
        self.riding = v["riding"]

    # --- the pack ---------------------------------------------------------------------------------------------------

    def open_circuit(self, q: float) -> float:
        q = min(max(q, 0.0), 1.0)
        return self.s * (_rested(self.chem, q) + (self.full - self.rested_full) * q)

    def cells(self, q: float, kelvin: float) -> float:
        factor = 1.55 * (1 + 1.2 * exp(-max(q, 0) / 0.06)) * exp(20000 / 8.314462618 * (1 / kelvin - 1 / 298.15))
        return self.r_cells * factor

    # --- one moment -------------------------------------------------------------------------------------------------

    def resist(self, speed: float, grade: float, wind: float) -> float:
        angle, air = atan(grade), speed + wind
        return (
            self.mass * G * (sin(angle) + self.crr * cos(angle))
            + 0.5 * self.rho * self.cda * air * abs(air)
            + self.drag
        )

    def electric(self, speed: float, force: float, voc: float, r: float) -> dict[str, float]:
        """Currents, volts and powers with ``force`` N at the road; ``share`` above 1 is more than the pack has."""
        kt, w = sqrt(3) / 2 / self.kv, speed / self.r * self.gear
        through = 1 / self.eta if force >= 0 else self.eta
        iq = force * through * self.r / (self.gear * self.n) / kt + self.i0 * (0.6 + 0.4 * w / (30 * self.kv))
        emf = w / self.kv
        power = 1.5 * self.R * iq**2 + sqrt(3) / 2 * emf * iq
        lost = 1.5 * self.r_fet * iq**2 + self.switching * voc * abs(iq)
        lost += abs(power) * ((1 / self.eta_c - 1) if power >= 0 else (1 - self.eta_c))
        taken = self.n * (power + lost) + self.idle
        share = 4 * r * taken / voc**2
        i = (voc - sqrt(max(voc**2 - 4 * r * taken, 0))) / (2 * r)
        return {"iq": iq, "volts": emf + sqrt(3) * self.R * iq, "w": w, "i": i, "bus": voc - i * r, "share": share}

    def slip(self, grade: float, braking: bool) -> float:
        """N at which the driven wheels slip, from the balance of moments about the front wheels' contact."""
        pressed = self.mass * G * cos(atan(grade))
        on_rear, both = min(self.wheels, 2) / 2, max(self.wheels - 2, 0) / 2
        lever = self.grip * on_rear * self.h_over_l
        rear = max(0.5 / (1 + lever), 0.35) if braking else min(0.5 / max(1 - lever, 1e-3), 0.65)
        return self.grip * pressed * (on_rear * rear + both * (1 - rear))

    def worst(self, speed: float, force: float, grade: float, voc: float, r: float) -> tuple[float, str]:
        """Largest share of any ability in use; of braking's only while braking."""
        e = self.electric(speed, force, voc, r)
        left = min(max((e["bus"] - self.v_end) / (self.v_start - self.v_end), 1e-9), 1)
        at_road = force - self.drag
        uses = {
            "pack voltage": e["volts"] / (self.duty * e["bus"]),
            "motor current": e["iq"] / self.i_max,
            "pack current" if left >= 1 else "low-voltage cut-off": e["i"] / (self.ibat_max * left),
            "electrical speed": e["w"] * self.poles / self.we_max,
            "grip": at_road / self.slip(grade, False) if at_road >= 0 else -at_road / self.slip(grade, True),
            "pack power": e["share"],
        }
        if force < 0:
            room = max(self.v_top - voc, 1e-3)
            uses |= {
                "brake": -e["iq"] / self.i_brake,
                "charging": -e["i"] / self.i_regen,
                "full pack": -e["i"] * r / room,
            }
        name = max(uses, key=lambda n: uses[n])
        return uses[name], name

    def excess(
        self, speed: float, grade: float, q: float, wind: float | None = None, kelvin: float | None = None
    ) -> float:
        """Largest share of any ability that driving takes, less one."""
        wind, kelvin = self.pinned_wind if wind is None else wind, kelvin or self.kelvin
        force = self.resist(speed, grade, wind)
        voc, r = self.open_circuit(q), self.cells(q, kelvin) + self.r_path
        if force < 0:
            e = self.electric(speed, force, voc, r)
            return max(e["volts"] / (self.duty * e["bus"]), e["w"] * self.poles / self.we_max) - 1
        return min(self.worst(speed, force, grade, voc, r)[0], 4) - 1

    # --- results ----------------------------------------------------------------------------------------------------

    def top_speed(
        self, grade: float = 0.0, q: float = 0.9, wind: float | None = None, kelvin: float | None = None
    ) -> float:
        q = min(q, self.q_top)
        if self.excess(0.0, grade, q, wind, kelvin) > 0:
            return 0.0
        return brentq(lambda v: self.excess(v, grade, q, wind, kelvin), 0.0, 120.0, xtol=1e-6)

    def start_grade(self, q: float = 0.9) -> float:
        q = min(q, self.q_top)
        return brentq(lambda g: self.excess(0.0, g, q), -0.9, 3.0, xtol=1e-7)

    def consumption(self, q: float, kelvin: float, as_at: float | None = None) -> tuple[float, float, float, float]:
        """C, s, A2 s and J at the terminals of a metre of the brief's way at one charge.

        Ridden as it can be at that charge, or, with ``as_at``, as it could be cold at that other charge without any taper.
        """
        voc_now, r_now = self.open_circuit(q), self.cells(q, kelvin) + self.r_path
        ridden, warm = (q, kelvin) if as_at is None else (as_at, self.kelvin)
        if as_at is not None and self.v_end > -1:
            guards = self.v_start, self.v_end
            self.v_start, self.v_end = -1.0, -2.0
            try:
                return self.consumption(q, kelvin, as_at)
            finally:
                self.v_start, self.v_end = guards
        voc, r = self.open_circuit(ridden), self.cells(ridden, warm) + self.r_path
        wind = self.pinned_wind + self.way_wind
        ways, stops = self.way(wind)
        speeds = [self._attained(grade, against, ridden, warm, wanted) for _, grade, against, wanted in ways]

        def current(speed: float, force: float) -> float:
            return self.electric(speed, force, voc_now, r_now)["i"]

        away, parts = 0.0, []
        if stops:
            top = min(speeds[0], sqrt(0.95 * 0.6 / stops))
            inertia = self.mass + self.turning

            def rate(speed: float) -> tuple[float, float]:
                """Acceleration that is possible, and the thrust of it."""
                steady = self.resist(speed, 0.0, wind)
                force = steady + inertia * 0.6
                force = max(force / max(self.worst(speed, force, 0.0, voc, r)[0], 1), steady + inertia * 0.02)
                return (force - steady) / inertia, force

            def slowing(speed: float) -> float:
                force = self.resist(speed, 0.0, wind) - inertia * 0.6
                if force >= 0:
                    return force
                force *= self.returned
                return force / max(self.worst(speed, force, 0.0, voc, r)[0], 1)

            # Gauss-Legendre over the ramp from rest, each speed looked at once.
            seconds, parts = 0.0, [0.0, 0.0]
            for x, weight in zip(_NODES, _WEIGHTS, strict=True):
                v, share = top * (x + 1) / 2, stops * top / 2 * weight
                gain, force = rate(v)
                drawn, given = current(v, force), current(v, slowing(v))
                away += share * (v / gain + v / 0.6)
                seconds += share * (1 / gain + 1 / 0.6)
                for k in (0, 1):
                    parts[k] += share * (drawn ** (k + 1) / gain + given ** (k + 1) / 0.6)
        else:
            parts, seconds = [0.0, 0.0], 0.0
        charge, squares = parts
        for (share, grade, against, _), speed in zip(ways, speeds, strict=True):
            force = self.resist(speed, grade, against)
            if force < 0 and grade < 0:
                force *= self.returned
                force /= max(self.worst(speed, force, 0.0, voc, r)[0], 1)
            i = self.idle / voc_now if force < 0 and grade >= 0 else current(speed, force)
            time = share * (1 - away) / speed
            charge, squares, seconds = charge + time * i, squares + time * i * i, seconds + time
        charge = max(charge, self.idle / voc_now * seconds)
        return charge, seconds, squares, charge * voc_now - squares * r_now

    def way(self, wind: float) -> tuple[list[tuple[float, float, float, float]], float]:
        """The brief's way: stretches (share of it, grade, wind from ahead, wanted speed), and stops a metre."""
        steep = max(0.055, 2.2 * self.ascent)
        hill = self.ascent / steep
        flat = (1 - 2 * hill) / 2
        out, back = (flat, 0.0, wind + self.swing), (flat, 0.0, wind - self.swing)
        return [(*part, self.mean) for part in (out, back, (hill, steep, wind), (hill, -steep, wind))], self.stops

    def _attained(self, grade: float, wind: float, q: float, kelvin: float, wanted: float) -> float:
        if self.excess(wanted, grade, q, wind, kelvin) <= 0:
            return wanted
        return max(min(self.top_speed(grade, q, wind, kelvin), wanted), WALKING)

    def moves(self, q: float, kelvin: float) -> float:
        """Below 0 where walking pace can be held against the wind of the way out."""
        return self.excess(WALKING, 0.0, q, self.pinned_wind + self.way_wind + self.swing, kelvin)

    def ride(self, slices: float = 0.025, rtol: float = 1e-4) -> dict[str, float]:
        """m to the reserve and to the end, J and s to the reserve; one that was ridden before is remembered."""
        remembered = type(self) is ScalarBoard
        return _ridden(vars(self), slices, rtol, _STAMP) if remembered else self._ride(slices, rtol)

    def _ride(self, slices: float, rtol: float) -> dict[str, float]:
        """Way, energy, time and warmth, integrated over the charge."""
        home = {"range": 0.0, "energy": 0.0, "seconds": 0.0}
        y, q, dearest = np.array([0.0, 0.0, 0.0, self.kelvin]), self.q0, 0.0

        def rates(t: float, y: np.ndarray) -> list[float]:
            left, kelvin = float(self.q0 - t), float(y[3])  # NumPy's own scalars are slow in sums
            charge, seconds, squares, joules = self.consumption(left, kelvin)
            most = max(charge, dearest, self.consumption(left, kelvin, as_at=0.6)[0])
            metres, scale = self.coulombs / most / self.riding, most / charge * self.riding
            time = seconds * metres
            heat = squares / seconds * self.riding**2 * self.cells(left, kelvin)
            warmer = (heat - (kelvin - self.ambient - 273.15) / self.pack_k_w) / self.pack_j_k
            return [metres, joules * metres * scale, time, warmer * time]

        def stranded(t: float, y: np.ndarray) -> float:
            return -self.moves(float(self.q0 - t), float(y[3]))

        stranded.terminal = True  # type: ignore[attr-defined]  # as solve_ivp wants it
        edges = sorted({*np.arange(0.0, self.q0, slices).tolist(), self.q1, self.q0}, reverse=True)
        for low in (e for e in edges if e < self.q0):
            if self.moves(q, float(y[3])) > 0:
                break
            slice_ = solve_ivp(
                rates, (self.q0 - q, self.q0 - low), y, "RK23", events=stranded, rtol=rtol, atol=10 * rtol
            )
            kelvin = float(y[3])
            dearest = max(dearest, self.consumption(q, kelvin)[0], self.consumption(q, kelvin, as_at=0.6)[0])
            y, q = slice_.y[:, -1], float(self.q0 - slice_.t[-1])
            if q >= self.q1 - 1e-9:
                home = {"range": float(y[0]), "energy": float(y[1]), "seconds": float(y[2])}
            if slice_.status == 1:
                break
        return {**home, "to_the_end": float(y[0])}

    def range(self) -> float:
        return self.ride()["range"]


_STAMP = sha256(Path(__file__).read_bytes() + Path(cell.__file__).read_bytes()).hexdigest()
"""Of all that a ride depends on beside the board itself: another model rides anew."""


@Memory(Path(__file__).resolve().parents[2] / ".local" / "scalar-model", verbose=0).cache
def _ridden(board: dict[str, Any], slices: float, rtol: float, stamp: str) -> dict[str, float]:
    """What the board of these values does, kept under the project's cache folder."""
    ridden = ScalarBoard.__new__(ScalarBoard)
    vars(ridden).update(board)
    return ridden._ride(slices, rtol)


def _drawn(name: str, i, z: float) -> float:
    """A value scattered by its prior: written from docs/model.md, "Bands"."""
    record = _RECORDS[name]
    if i.shape == "relative":
        value = i.value * exp(i.spread * z)
    elif i.shape == "complement_lognormal":
        value = 1 - min((1 - i.value) * exp(i.spread * z), 0.6)
    elif i.shape == "additive":
        value = i.value + i.spread * z
    elif i.shape == "lognormal":
        value = i.value * exp(i.spread * z - i.spread**2 / 2)
    else:
        value = i.spread * _USUAL.inv_cdf((1 + _USUAL.cdf(z)) / 2)
    return min(max(value, record.least), record.most)
