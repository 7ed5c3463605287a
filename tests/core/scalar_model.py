"""The same physics once more, one board at a time, in plain Python and SciPy: written from docs/model.md.

It shares the cell's measured tables and the resolved inputs with the engine, and nothing else: it searches with ``brentq``,
integrates stops by Gauss of another order and rides with ``solve_ivp``, and knows no arrays. One moment is compiled for speed:
it is looked at millions of times.
"""

from bisect import bisect_right
from collections.abc import Callable
from hashlib import sha256
from math import atan, cos, exp, pi, sin, sqrt
from pathlib import Path
from statistics import NormalDist
from typing import Any, NamedTuple, TypeVar

import numpy as np
from joblib import Memory
from numba import njit
from scipy.integrate import solve_ivp
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq
from scipy.stats import t as student_t

from boardmath.model.model_inputs import INPUTS
from boardmath.model.resolution import Resolved
from boardmath.physics import cell

G = 9.80665
WALKING = 5 / 3.6
COMFORT = 1.1
_NODES, _WEIGHTS = (tuple(float(v) for v in row) for row in np.polynomial.legendre.leggauss(6))
_USUAL = NormalDist()
_STUDENT = student_t(4)
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


_Function = TypeVar("_Function", bound=Callable[..., Any])


def compiled(function: _Function) -> _Function:
    """Numba's decorator, under which a function keeps its type."""
    return njit(function)


class Abilities(NamedTuple):
    """What a moment of a board depends on beside speed, way and pack; named as in ScalarBoard."""

    mass: float
    crr: float
    rho: float
    cda: float
    drag: float
    kv: float
    r: float
    gear: float
    n: float
    eta: float
    i0: float
    R: float
    r_fet: float
    switching: float
    eta_c: float
    idle: float
    grip: float
    wheels: float
    h_over_l: float
    duty: float
    i_max: float
    ibat_max: float
    we_max: float
    poles: float
    v_start: float
    v_end: float
    v_top: float
    i_brake: float
    i_regen: float


USES = (
    "pack voltage",
    "motor current",
    "pack current",
    "low-voltage cut-off",
    "electrical speed",
    "grip",
    "pack power",
    "brake",
    "charging",
    "full pack",
)


@compiled
def _resist(b: Abilities, speed: float, grade: float, wind: float) -> float:
    angle, air = atan(grade), speed + wind
    return b.mass * G * (sin(angle) + b.crr * cos(angle)) + 0.5 * b.rho * b.cda * air * abs(air) + b.drag


@compiled
def _electric(b: Abilities, speed: float, force: float, voc: float, r: float) -> tuple[float, ...]:
    kt, w = sqrt(3) / 2 / b.kv, speed / b.r * b.gear
    through = 1 / b.eta if force >= 0 else b.eta
    iq = force * through * b.r / (b.gear * b.n) / kt + b.i0 * (0.6 + 0.4 * w / (30 * b.kv))
    emf = w / b.kv
    power = 1.5 * b.R * iq**2 + sqrt(3) / 2 * emf * iq
    lost = 1.5 * b.r_fet * iq**2 + b.switching * voc * abs(iq)
    lost += abs(power) * ((1 / b.eta_c - 1) if power >= 0 else (1 - b.eta_c))
    taken = b.n * (power + lost) + b.idle
    share = 4 * r * taken / voc**2
    i = (voc - sqrt(max(voc**2 - 4 * r * taken, 0.0))) / (2 * r)
    return iq, emf + sqrt(3) * b.R * iq, w, i, voc - i * r, share


@compiled
def _slip(b: Abilities, grade: float, braking: bool) -> float:
    pressed = b.mass * G * cos(atan(grade))
    on_rear, both = min(b.wheels, 2.0) / 2, max(b.wheels - 2, 0.0) / 2
    lever = b.grip * on_rear * b.h_over_l
    rear = max(0.5 / (1 + lever), 0.35) if braking else min(0.5 / max(1 - lever, 1e-3), 0.65)
    return b.grip * pressed * (on_rear * rear + both * (1 - rear))


@compiled
def _worst(b: Abilities, speed: float, force: float, grade: float, voc: float, r: float) -> tuple[float, int]:
    iq, volts, w, i, bus, share = _electric(b, speed, force, voc, r)
    left = min(max((bus - b.v_end) / (b.v_start - b.v_end), 1e-9), 1.0)
    at_road = force - b.drag
    most, which = volts / (b.duty * bus), 0
    if iq / b.i_max > most:
        most, which = iq / b.i_max, 1
    if i / (b.ibat_max * left) > most:
        most, which = i / (b.ibat_max * left), 2 if left >= 1 else 3
    if w * b.poles / b.we_max > most:
        most, which = w * b.poles / b.we_max, 4
    slipping = at_road / _slip(b, grade, False) if at_road >= 0 else -at_road / _slip(b, grade, True)
    if slipping > most:
        most, which = slipping, 5
    if share > most:
        most, which = share, 6
    if force < 0:
        if -iq / b.i_brake > most:
            most, which = -iq / b.i_brake, 7
        if -i / b.i_regen > most:
            most, which = -i / b.i_regen, 8
        full = -i * r / max(b.v_top - voc, 1e-3)
        if full > most:
            most, which = full, 9
    return most, which


@compiled
def _excess(b: Abilities, speed: float, grade: float, wind: float, voc: float, r: float) -> float:
    force = _resist(b, speed, grade, wind)
    if force < 0:
        _, volts, w, _, bus, _ = _electric(b, speed, force, voc, r)
        return max(volts / (b.duty * bus), w * b.poles / b.we_max) - 1
    return min(_worst(b, speed, force, grade, voc, r)[0], 4.0) - 1


@compiled
def _stopped(
    b: Abilities,
    top: float,
    stops: float,
    wind: float,
    inertia: float,
    returned: float,
    voc: float,
    r: float,
    voc_now: float,
    r_now: float,
) -> tuple[float, float, float, float]:
    """Share of the way, C, A2 s and s a metre of pulling away and braking: Gauss-Legendre over the ramp from rest."""
    away = charge = squares = seconds = 0.0
    for k in range(len(_NODES)):
        v, share = top * (_NODES[k] + 1) / 2, stops * top / 2 * _WEIGHTS[k]
        steady = _resist(b, v, 0.0, wind)
        force = steady + inertia * COMFORT
        force = max(force / max(_worst(b, v, force, 0.0, voc, r)[0], 1.0), steady + inertia * 0.02)
        gain = (force - steady) / inertia
        slowing = steady - inertia * COMFORT
        if slowing < 0:
            slowing *= returned
            slowing /= max(_worst(b, v, slowing, 0.0, voc, r)[0], 1.0)
        drawn, given = _electric(b, v, force, voc_now, r_now)[3], _electric(b, v, slowing, voc_now, r_now)[3]
        away += share * (v / gain + v / COMFORT)
        seconds += share * (1 / gain + 1 / COMFORT)
        charge += share * (drawn / gain + given / COMFORT)
        squares += share * (drawn**2 / gain + given**2 / COMFORT)
    return away, charge, squares, seconds


def _fastest(b: Abilities, grade: float, wind: float, voc: float, r: float) -> float:
    """m/s at which the first ability is used up; 0 where that is so at a standstill."""
    if _excess(b, 0.0, grade, wind, voc, r) > 0:
        return 0.0
    return brentq(lambda v: _excess(b, v, grade, wind, voc, r), 0.0, 120.0, xtol=1e-6)


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
        self.crr = v["crr"] * exp(-v["crr_per_kelvin"] * (celsius - 15))
        self.cda, self.pinned_wind = v["cda"], f["head_wind"]
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
        self.we_max, self.duty = f["electrical_speed_limit"], v["duty"] * v["held_back"]
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

    def abilities(self, guarded: bool = True) -> Abilities:
        """Of this board as it is now; without its taper where it is not guarded."""
        named = {name: float(getattr(self, name)) for name in Abilities._fields}
        return Abilities(**named if guarded else {**named, "v_start": -1.0, "v_end": -2.0})

    def resist(self, speed: float, grade: float, wind: float) -> float:
        return _resist(self.abilities(), speed, grade, wind)

    def electric(self, speed: float, force: float, voc: float, r: float) -> dict[str, float]:
        """Currents, volts and powers with ``force`` N at the road; ``share`` above 1 is more than the pack has."""
        found = _electric(self.abilities(), speed, force, voc, r)
        return dict(zip(("iq", "volts", "w", "i", "bus", "share"), found, strict=True))

    def slip(self, grade: float, braking: bool) -> float:
        """N at which the driven wheels slip, from the balance of moments about the front wheels' contact."""
        return _slip(self.abilities(), grade, braking)

    def worst(self, speed: float, force: float, grade: float, voc: float, r: float) -> tuple[float, str]:
        """Largest share of any ability in use; of braking's only while braking."""
        most, which = _worst(self.abilities(), speed, force, grade, voc, r)
        return most, USES[which]

    def _pack(self, q: float, kelvin: float | None) -> tuple[float, float]:
        """V at rest, and ohm of cells and path."""
        return self.open_circuit(q), self.cells(q, kelvin or self.kelvin) + self.r_path

    def excess(
        self, speed: float, grade: float, q: float, wind: float | None = None, kelvin: float | None = None
    ) -> float:
        """Largest share of any ability that driving takes, less one."""
        return _excess(
            self.abilities(), speed, grade, self.pinned_wind if wind is None else wind, *self._pack(q, kelvin)
        )

    # --- results ----------------------------------------------------------------------------------------------------

    def top_speed(
        self, grade: float = 0.0, q: float = 0.9, wind: float | None = None, kelvin: float | None = None
    ) -> float:
        against = self.pinned_wind if wind is None else wind
        return _fastest(self.abilities(), grade, against, *self._pack(min(q, self.q_top), kelvin))

    def start_grade(self, q: float = 0.9) -> float:
        q = min(q, self.q_top)
        return brentq(lambda g: self.excess(0.0, g, q), -0.9, 3.0, xtol=1e-7)

    def consumption(self, q: float, kelvin: float, as_at: float | None = None) -> tuple[float, float, float, float]:
        """C, s, A2 s and J at the terminals of a metre of the brief's way at one charge.

        Ridden as it can be at that charge, or, with ``as_at``, as it could be cold at that other charge without any taper.
        """
        voc_now, r_now = self._pack(q, kelvin)
        b = self.abilities(guarded=as_at is None)
        ridden, warm = (q, kelvin) if as_at is None else (as_at, self.kelvin)
        voc, r = self._pack(ridden, warm)
        wind = self.pinned_wind + self.way_wind
        ways, stops = self.way(wind)
        cold = self._pack(min(ridden, self.q_top), warm)
        speeds = [
            wanted
            if _excess(b, wanted, grade, against, voc, r) <= 0
            else max(min(_fastest(b, grade, against, *cold), wanted), WALKING)
            for _, grade, against, wanted in ways
        ]

        away, charge, squares, seconds = 0.0, 0.0, 0.0, 0.0
        if stops:
            top = min(speeds[0], sqrt(0.95 * COMFORT / stops))

            def stopped(top: float) -> tuple[float, float, float, float]:
                inertia = self.mass + self.turning
                return _stopped(b, top, stops, wind, inertia, self.returned, voc, r, voc_now, r_now)

            if stopped(top)[0] > 0.95:
                top = brentq(lambda v: stopped(v)[0] - 0.95, 0.1, top, rtol=1e-4)
            away, charge, squares, seconds = stopped(top)
        for (share, grade, against, _), speed in zip(ways, speeds, strict=True):
            force = _resist(b, speed, grade, against)
            if force < 0 and grade < 0:
                force *= self.returned
                force /= max(_worst(b, speed, force, 0.0, voc, r)[0], 1)
            i = self.idle / voc_now if force < 0 and grade >= 0 else _electric(b, speed, force, voc_now, r_now)[3]
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
    elif i.shape == "student":
        value = i.value * exp(i.spread * _STUDENT.ppf(_USUAL.cdf(z)) * _USUAL.inv_cdf(0.9) / _STUDENT.ppf(0.9))
    elif i.shape == "lognormal":
        value = i.value * exp(i.spread * z - i.spread**2 / 2)
    else:
        value = i.spread * _USUAL.inv_cdf((1 + _USUAL.cdf(z)) / 2)
    return min(max(value, record.least), record.most)
