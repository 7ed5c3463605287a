"""From resolved inputs to the engine's boards: many builds, and many samples of each."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from scipy.special import ndtr, ndtri

from boardmath.engine.boards import Boards, boards_of
from boardmath.evidence import Joint
from boardmath.inputs import RPM, Shape
from boardmath.parameters import WARM_WINDING, Resolved
from boardmath.physics import air, cell
from boardmath.physics.types import Array
from boardmath.registry import COLUMN, INPUTS

SAMPLES = 1024
"""Of a build, for every band."""
FEW = 128
"""Of each of many builds set beside each other: a shelf, candidates, proposals."""
_LARGEST_LOSS = 0.6
_MEDIAN_SIZE = float(ndtri(0.75))
"""Of a standard normal deviate, its sign left out."""


@lru_cache(maxsize=8)
def standard_normal(samples: int) -> Array:
    """Sobol points (Owen-scrambled, fixed seed) as standard normal deviates, shape (samples, 2 x inputs).

    An input has the same column in every build, so that two builds meet the same rider on the same day. The second half is for
    inputs of parts that are not the same thing in both.
    """
    from scipy.stats import qmc  # slow to import, and many uses of the core need no bands

    points = qmc.Sobol(2 * len(INPUTS), scramble=True, rng=np.random.default_rng(20)).random(samples)
    return np.asarray(ndtri(np.clip(points, 1e-6, 1.0 - 1e-6)))


def deviates(samples: int, joint: Joint | None = None, columns: Sequence[int] | None = None) -> Array:
    """Standard normal deviates of every input, shape (1 + samples, inputs); the first row is the middle.

    Args:
        joint: what is known of the inputs together, where rides have taught something.
        columns: of :func:`standard_normal`, one for each input; its own where left out.
    """
    drawn = (
        standard_normal(samples)[:, list(columns) if columns is not None else slice(0, len(INPUTS))]
        if samples
        else None
    )
    middle = np.zeros((1, len(INPUTS)))
    z = np.concatenate([middle, drawn]) if drawn is not None else middle
    return joint.moved(z) if joint is not None else z


_SHAPES: dict[Shape, int] = {"relative": 0, "loss": 1, "shift": 2, "lopsided": 3, "magnitude": 4}
_LEAST = np.array([[[i.least]] for i in INPUTS])
_MOST = np.array([[[i.most]] for i in INPUTS])


def values_of(builds: Sequence[Resolved], z: Sequence[Array], middle: bool = True) -> dict[str, Array]:
    """Every input of every build, in build-file units, of shape (builds, rows of z).

    Args:
        z: for each build deviates of shape (rows, inputs), the same number of rows for all.
        middle: whether the first row is the middle, each input's own value where its deviate is 0.
    """
    known = [[b.inputs[i.name] for b in builds] for i in INPUTS]
    value = np.array([[i.value for i in row] for row in known])[:, :, np.newaxis]
    spread = np.array([[i.spread for i in row] for row in known])[:, :, np.newaxis]
    shape = np.array([[_SHAPES[i.shape] for i in row] for row in known])
    deviate = spread * np.stack(z).transpose(2, 0, 1)  # (inputs, builds, rows)
    made = value * np.exp(deviate)
    for column, build in zip(*np.nonzero(shape), strict=True):
        at = (column, build)
        made[at] = _lopsided(shape[at], float(value[at][0]), float(spread[at][0]), deviate[at], made[at], middle)
    return dict(zip(COLUMN, np.clip(made, _LEAST, _MOST), strict=True))


def _lopsided(shape: int, value: float, spread: float, deviate: Array, relative: Array, middle: bool) -> Array:
    """One input that does not scatter by a share of itself."""
    if shape == _SHAPES["loss"]:
        return np.asarray(1.0 - np.minimum((1.0 - value) * np.exp(deviate), _LARGEST_LOSS))
    if shape == _SHAPES["shift"]:
        return value + deviate
    if shape == _SHAPES["lopsided"]:
        found: Array = relative * np.exp(-spread * spread / 2.0)
        if middle:
            found[0] = relative[0]
        return found
    size = np.asarray(spread * ndtri((1.0 + ndtr(deviate / spread)) / 2.0))
    if middle:
        size[0] *= value / (spread * _MEDIAN_SIZE)
    return size


def boards(builds: Sequence[Resolved], z: Sequence[Array], middle: bool = True) -> Boards:
    """The engine's boards, build by build, the rows of its deviates one behind the other; ``middle`` as in :func:`values_of`."""
    v = values_of(builds, z, middle)
    f = {name: np.array([[b.fixed[name]] for b in builds]) for name in builds[0].fixed}
    return boards_of(_in_si(v, f), len(builds), z[0].shape[0])


def _in_si(v: Mapping[str, Array], f: Mapping[str, Array]) -> dict[str, Array]:
    """Every field of a board, in SI, from inputs and choices in the build file's units."""
    celsius = v["temperature"]
    kelvin = celsius + 273.15
    density = air.GAS_CONSTANT_DRY_AIR * kelvin
    pressure = np.array([[air.pressure_at(float(a))] for a in f["altitude"][:, 0]])
    capacity = 1.0 - f["capacity_per_kelvin"] * np.clip(298.15 - kelvin, 0.0, 50.0)
    health = v["health"]
    share = f["series"] / f["parallel"]
    ascent = v["ascent"] / 1000.0
    return {
        "rolling_mass": v["board_mass"] + v["load"],
        "rotating_mass": v["rotating_mass"],
        "crr": v["crr"],
        "cda": v["cda"],
        "air_density": np.where(f["air_density"] > 0.0, f["air_density"], pressure / density),
        "head_wind": f["head_wind"],
        "way_wind": v["way_wind"],
        "swing_wind": v["swing_wind"],
        "wheel_radius": v["wheel_radius"] / 1000.0,
        "gear": f["gear"],
        "drive_efficiency": v["drive_efficiency"],
        "drive_drag": v["drive_drag"],
        "motors": f["motors"],
        "kv": v["kv"] * RPM,
        "phase_resistance": v["phase_resistance"] / 1000.0,
        "winding_temperature": celsius + WARM_WINDING,
        "no_load_current": v["no_load_current"] * f["no_load_over_stated"],
        "pole_pairs": f["pole_pairs"],
        "motor_current_limit": v["motor_current_limit"],
        "brake_current_limit": f["brake_current_limit"],
        "electrical_speed_limit": f["electrical_speed_limit"],
        "duty": v["duty"],
        "conduction": v["conduction"] / 1000.0,
        "switching": v["switching"],
        "controller_efficiency": f["controller_efficiency"],
        "idle_power": v["idle"],
        "pack_current_limit": v["pack_current_limit"],
        "regen_current_limit": f["regen_current_limit"],
        "brake_ceiling": f["brake_ceiling"],
        "taper_start": f["taper_start"],
        "taper_end": f["taper_end"],
        "chemistry": f["chemistry"],
        "series": f["series"],
        "cell_full": f["cell_full"],
        "pack_capacity": v["cell_capacity"] * f["parallel"] * 3600.0 * capacity * health * v["weakest_group"],
        "cell_resistance": v["cell_resistance"]
        / 1000.0
        * share
        * (1.0 + cell.AGED_RESISTANCE * np.clip(1.0 - health, 0.0, 1.0)),
        "path_resistance": v["path_resistance"] / 1000.0,
        "cell_temperature": kelvin,
        "pack_heat_capacity": v["pack_heat_capacity"],
        "pack_to_air": v["pack_to_air"],
        "cell_limit": f["cell_limit"],
        "charge_full": f["charge_full"],
        "charge_start": f["charge_full"] * v["charge_start"],
        "charge_reserve": f["charge_reserve"],
        "grip": v["grip"],
        "driven_wheels": f["driven_wheels"],
        "height_over_wheelbase": f["height_over_wheelbase"],
        "cruise_speed": f["cruise_speed"],
        "mean_speed": v["mean_speed"] / 3.6,
        "stops": v["stops"] / 1000.0,
        "ascent": ascent,
        "ascent_grade": np.maximum(RIDDEN_GRADE, 2.2 * ascent),
        "hilliness": v["hilliness"],
        "returned": v["returned"],
        "riding": v["riding"],
        "ambient": celsius,
        **{n: v[n] for n in ("winding_heat_capacity", "case_heat_capacity", "winding_to_case", "case_to_air")},
        **{n: f[n] for n in ("winding_limit", "controller_heat_capacity", "controller_to_air", "controller_limit")},
        "climb_length": f["climb_length"],
    }


RIDDEN_GRADE = 0.055
"""Rise over run of the slopes that make up the climb of a ride: gentler ones cost little, as they are rolled down again (common
practice, no source)."""


def nominal_boards(builds: Sequence[Resolved]) -> Boards:
    """One board a build, every input at its middle."""
    return boards(builds, [deviates(0)] * len(builds))
