"""From resolved inputs to the engine's arrays: one build, many builds, or many samples of one."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from boardmath.inputs import RPM
from boardmath.parameters import Resolved
from boardmath.physics import motor
from boardmath.physics.types import Array
from boardmath.powertrain import Board


def board_of(values: Mapping[str, Any], fixed: Mapping[str, Any]) -> Board:
    """The engine's arrays from inputs in build-file units; arrays of any shapes that broadcast.

    Args:
        values: by name as in :attr:`Resolved.inputs`, numbers or arrays.
        fixed: by name as in :attr:`Resolved.fixed`.
    """
    v = {name: np.asarray(value, dtype=np.float64) for name, value in {**values, **fixed}.items()}
    return Board(
        rolling_mass=v["board_mass"] + v["load"],
        crr=v["crr"],
        cda=v["cda"],
        air_density=v["air_density"],
        head_wind=v["head_wind"],
        wheel_radius=v["wheel_radius"],
        gear=v["gear"],
        drive_efficiency=v["drive_efficiency"],
        drive_drag=v["drive_drag"],
        motors=v["motors"],
        kv=v["kv"] * RPM,
        phase_resistance=motor.resistance_at(v["phase_resistance"] / 1000.0, v["winding_temperature"]),
        no_load_current=v["no_load_current"],
        pole_pairs=v["pole_pairs"],
        motor_current_limit=v["motor_current_limit"],
        electrical_speed_limit=v["electrical_speed_limit"],
        duty=v["duty"],
        controller_efficiency=v["controller_efficiency"],
        idle_power=v["idle"],
        pack_current_limit=v["pack_current_limit"],
        taper_start=v["taper_start"],
        taper_end=v["taper_end"],
        chemistry=v["chemistry"],
        series=v["series"],
        cell_full=v["cell_full"],
        pack_capacity=v["cell_capacity"] * v["parallel"] * 3600.0 * v["capacity_factor"],
        cell_resistance=v["cell_resistance"] / 1000.0 * v["series"] / v["parallel"] * v["resistance_factor"],
        path_resistance=v["path_resistance"] / 1000.0,
        cell_temperature=v["cell_temperature"],
        charge_full=v["charge_full"],
        charge_reserve=v["charge_reserve"],
        grip=v["grip"],
        driven_wheels=v["driven_wheels"],
        height_over_wheelbase=v["height_over_wheelbase"],
        cruise_speed=v["cruise_speed"],
        **{name: v[name] for name in _TAKEN_AS_THEY_ARE},
    )


_TAKEN_AS_THEY_ARE = (
    "rotating_mass", "brake_current_limit", "regen_current_limit", "brake_ceiling", "winding_temperature", "ambient",
    "winding_heat_capacity", "case_heat_capacity", "winding_to_case", "case_to_air", "winding_limit",
    "controller_heat_capacity", "controller_to_air", "controller_limit",
)  # fmt: skip


def nominal_board(builds: Sequence[Resolved]) -> Board:
    """One board a build, every input at its own value; arrays of shape (builds,)."""
    names, fixed = builds[0].inputs.keys(), builds[0].fixed.keys()
    return board_of(
        {name: np.array([b.inputs[name].value for b in builds]) for name in names},
        {name: np.array([b.fixed[name] for b in builds]) for name in fixed},
    )


def uncertain(build: Resolved) -> list[str]:
    """Names of the inputs that carry a spread, in a fixed order."""
    return [name for name, i in build.inputs.items() if i.spread > 0.0]


def sampled_board(build: Resolved, standard_normal: Array) -> Board:
    """Many samples of one build; ``standard_normal`` has a row a sample and a column for each of :func:`uncertain`."""
    values: dict[str, Any] = {name: i.value for name, i in build.inputs.items()}
    for column, name in enumerate(uncertain(build)):
        i = build.inputs[name]
        factor = np.exp(i.spread * standard_normal[:, column])
        if i.shape == "loss":
            values[name] = 1.0 - np.minimum((1.0 - i.value) * factor, 0.6)
        else:
            values[name] = i.value * factor
    shape = (standard_normal.shape[0],)
    board = board_of(values, build.fixed)
    return Board(**{f: np.broadcast_to(getattr(board, f), shape) for f in Board.__dataclass_fields__})
