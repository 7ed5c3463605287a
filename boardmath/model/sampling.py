"""From resolved inputs to the engine's boards: many builds, and many samples of each."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

from boardmath.engine.boards import Boards, boards_of
from boardmath.model.inputs import RPM, Shape, student_score
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS
from boardmath.model.posterior import MultivariateNormal
from boardmath.model.resolution import WARM_WINDING, Resolved
from boardmath.physics import air, cell
from boardmath.physics.types import Array

SAMPLES = 512
"""Of a build, for every band: its ends lie about 3 % of the middle at most from where 4,096 samples put them (of range 1 %)."""
FEW = 256
"""Of each of many builds set beside each other: enough for a verdict (3 of 1,000 near an edge are others with 1,024 samples)."""
_LARGEST_LOSS = 0.6
_MEDIAN_SIZE = float(ndtri(0.75))
"""Of a standard normal score, its sign left out."""


@lru_cache(maxsize=8)
def standard_normal(samples: int) -> Array:
    """Sobol points (Owen-scrambled, fixed seed) as standard normal scores, shape (samples, 2 x inputs + 1).

    An input has the same column in every build, so that two builds meet the same rider on the same day. The second half is for
    inputs of parts that are not the same thing in both, the last column for what differs from ride to ride.
    """
    from scipy.stats import qmc  # slow to import, and many uses of the core need no bands

    points = qmc.Sobol(2 * len(INPUTS) + 1, scramble=True, rng=np.random.default_rng(20)).random(samples)
    return np.asarray(ndtri(np.clip(points, 1e-6, 1.0 - 1e-6)))


def normal_scores(samples: int, joint: MultivariateNormal | None = None, columns: Sequence[int] | None = None) -> Array:
    """Standard normal scores of every input, shape (1 + samples, inputs); the first row is the middle.

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


SHAPES: dict[Shape, int] = {
    "relative": 0,
    "complement_lognormal": 1,
    "additive": 2,
    "lognormal": 3,
    "magnitude": 4,
    "student": 5,
}
_LEAST = np.array([[[i.least]] for i in INPUTS])
_MOST = np.array([[[i.most]] for i in INPUTS])


class Sampler:
    """The engine's boards of several builds, as often as normal scores are drawn: what the builds say is looked up once."""

    def __init__(self, builds: Sequence[Resolved]) -> None:
        known = [[b.inputs[i.name] for b in builds] for i in INPUTS]
        self._value = np.array([[i.value for i in row] for row in known])
        self._spread = np.array([[i.spread for i in row] for row in known])
        self._shape = np.array([[SHAPES[i.shape] for i in row] for row in known])
        self._fixed = {name: np.array([[b.fixed[name]] for b in builds]) for name in builds[0].fixed}

    def values(self, z: Array, middle: bool = True) -> dict[str, Array]:
        """Every input of every build, in build-file units, of shape (builds, rows).

        Args:
            z: normal scores of shape (builds, rows, inputs).
            middle: whether the first row is the middle, each input's own value where its normal score is 0.
        """
        made = scattered(self._value, self._spread, self._shape, z.transpose(2, 0, 1), middle)
        return dict(zip(COLUMN, np.clip(made, _LEAST, _MOST), strict=True))

    def boards(self, z: Array, middle: bool = True) -> Boards:
        """The boards, build by build, the rows of its normal scores in a row; arguments as in :meth:`values`."""
        return boards_from(self.values(z, middle), self._fixed, z.shape[0], z.shape[1])


def values_of(builds: Sequence[Resolved], z: Sequence[Array], middle: bool = True) -> dict[str, Array]:
    """Every input of every build, as :meth:`Sampler.values` has them; ``z`` has normal scores for each build."""
    return Sampler(builds).values(np.stack(z), middle)


def within(name: str, values: Array) -> Array:
    """Values of one input, none beyond what it can be."""
    return np.clip(values, BY_NAME[name].least, BY_NAME[name].most)


def scattered(value: Array, spread: Array, shape: NDArray[np.int64], z: Array, middle: bool = True) -> Array:
    """Values of inputs, shape (inputs, builds, rows), each scattered as its shape says.

    Args:
        value, spread, shape: of shape (inputs, builds); shapes as in :data:`SHAPES`.
        z: normal scores of shape (inputs, builds, rows).
        middle: as in :meth:`Sampler.values`.
    """
    deviate = spread[:, :, np.newaxis] * z
    made: Array = value[:, :, np.newaxis] * np.exp(deviate)
    for kind in np.unique(shape[shape > 0]):
        at = np.nonzero(shape == kind)
        made[at] = _by_shape(kind, value[at][:, np.newaxis], spread[at][:, np.newaxis], deviate[at], made[at], middle)
    return made


def _by_shape(kind: int, value: Array, spread: Array, deviate: Array, relative: Array, middle: bool) -> Array:
    """Inputs of builds that do not scatter by a share of themselves; all of shape (inputs, rows or 1)."""
    if kind == SHAPES["complement_lognormal"]:
        return np.asarray(1.0 - np.minimum((1.0 - value) * np.exp(deviate), _LARGEST_LOSS))
    if kind == SHAPES["additive"]:
        return value + deviate
    if kind == SHAPES["student"]:
        return np.asarray(value * np.exp(spread * student_score(deviate / np.maximum(spread, 1e-9))))
    if kind == SHAPES["lognormal"]:
        found: Array = relative * np.exp(-spread * spread / 2.0)
        if middle:
            found[:, 0] = relative[:, 0]
        return found
    size = np.asarray(spread * ndtri((1.0 + ndtr(deviate / spread)) / 2.0))
    if middle:
        size[:, 0] *= value[:, 0] / (spread[:, 0] * _MEDIAN_SIZE)
    return size


def boards(builds: Sequence[Resolved], z: Sequence[Array], middle: bool = True) -> Boards:
    """The engine's boards, as :meth:`Sampler.boards` makes them; ``z`` has normal scores for each build."""
    return Sampler(builds).boards(np.stack(z), middle)


def boards_from(v: Mapping[str, Array], f: Mapping[str, Array], builds: int, rows: int) -> Boards:
    """The engine's boards from inputs and choices in the build file's units, each broadcasting to (builds, rows)."""
    return boards_of(_in_si(v, f), builds, rows)


def _in_si(v: Mapping[str, Array], f: Mapping[str, Array]) -> dict[str, Array]:
    """Every field of a board, in SI, from inputs and choices in the build file's units."""
    celsius = v["temperature"]
    kelvin = celsius + 273.15
    density = air.GAS_CONSTANT_DRY_AIR * kelvin
    altitude = f["altitude"]
    pressure = np.array([air.pressure_at(float(a)) for a in altitude.flat]).reshape(altitude.shape)
    capacity = 1.0 - f["capacity_per_kelvin"] * np.clip(298.15 - kelvin, 0.0, 50.0)
    health = v["health"]
    share = f["series"] / f["parallel"]
    ascent = v["ascent"] / 1000.0
    return {
        "rolling_mass": v["board_mass"] + v["load"],
        "rotating_mass": v["rotating_mass"],
        "crr": v["crr"] * np.exp(-v["crr_per_kelvin"] * (celsius - CRR_AT_C)),
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
        "duty": v["duty"] * v["held_back"],
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


CRR_AT_C = 15.0
"""Temperature at which rolling resistances are stated here: of a mild day."""
RIDDEN_GRADE = 0.055
"""Rise over run of the slopes that make up the climb of a ride: gentler ones cost little, as they are rolled down again (common
practice, no source)."""


def nominal_boards(builds: Sequence[Resolved]) -> Boards:
    """One board a build, every input at its middle."""
    return boards(builds, [normal_scores(0)] * len(builds))
