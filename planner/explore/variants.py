"""Parts with other figures: the same can wound otherwise, a block of another size, pulleys of other teeth."""

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.figures import Part
from boardmath.buildfile.rolling import Wheels
from boardmath.model.inputs import cell_voltages

P = TypeVar("P", bound=Part)


def _motor(own: Motors | None, values: Mapping[str, Any]) -> Motors | None:
    motors: Motors | None = values.get("parts.motors", own)
    kv = values.get("parts.motors.kv_rpm_per_v")
    if kv is None:
        return motors
    return rewound(motors, kv) if motors is not None else Motors(kv_rpm_per_v=kv, kind="outrunner")


def rewound(motors: Motors, kv: float) -> Motors:
    """The same can wound for another KV, with as much copper: turns go with 1 / KV, so resistance with 1 / KV squared, and the
    currents that magnetise and heat it with KV.
    """
    if motors.kv_rpm_per_v is None or motors.kv_rpm_per_v == kv:
        return motors.model_copy(update={"kv_rpm_per_v": kv})
    ratio = kv / motors.kv_rpm_per_v
    powers = {"phase_resistance_mohm": -2, "no_load_current_a": 1, "max_current_a": 1}
    known = {key: v * ratio**power for key, power in powers.items() if (v := getattr(motors, key)) is not None}
    name = f"{motors.name}, wound for {kv:g} KV" if motors.name else None
    return _as_another(motors, name=name, kv_rpm_per_v=kv, **known)


def _drive(own: Drive | None, values: Mapping[str, Any]) -> Drive | None:
    drive: Drive | None = values.get("parts.drive", own)
    teeth = {k: int(values[f"parts.drive.{k}"]) for k in ("motor_teeth", "wheel_teeth") if f"parts.drive.{k}" in values}
    if not teeth:
        return drive
    drive = drive or Drive(kind="belt")
    if all(getattr(drive, key) == value for key, value in teeth.items()):
        return drive
    changed = drive.model_copy(update=teeth)
    name = f"{(drive.kind or 'belt').capitalize()} {changed.motor_teeth or '?'} : {changed.wheel_teeth or '?'}"
    return _as_another(drive, name=name, belt_teeth=None, **teeth)


def _wheels(own: Wheels | None, values: Mapping[str, Any]) -> Wheels | None:
    wheels: Wheels | None = values.get("parts.wheels", own)
    diameter = values.get("parts.wheels.diameter_mm")
    if diameter is None:
        return wheels
    wheels = wheels or Wheels()
    if wheels.diameter_mm == diameter:
        return wheels
    ratio = diameter / wheels.diameter_mm if wheels.diameter_mm else 1.0
    mass = wheels.mass_g * ratio**2 if wheels.mass_g is not None else None
    name = f"{wheels.name}, as {diameter:g} mm" if wheels.name else f"Wheels {diameter:g} mm"
    return _as_another(wheels, name=name, diameter_mm=diameter, mass_g=mass)


def _pack(own: Pack | None, values: Mapping[str, Any]) -> Pack | None:
    base: Pack | None = values.get("parts.pack", own)
    cell: Cell | None = values.get("parts.cell")
    sizes = {k: int(values[f"parts.pack.{k}"]) for k in ("series", "parallel") if f"parts.pack.{k}" in values}
    if cell is not None:
        kept = own or Pack()
        return pack_of_cells(own, cell, sizes.get("series", kept.series), sizes.get("parallel", kept.parallel or 1))
    if base is None:
        series, parallel = sizes.get("series"), sizes.get("parallel", 1)
        return Pack(name=f"{series or '?'} x {parallel}", series=series, parallel=parallel) if sizes else None
    if own is not None and base is not own:
        kept_keys = {k: getattr(own, k) for k in ("place", "spares", "charge_to_v") if getattr(own, k) is not None}
        base = _charged_within(base.model_copy(update=kept_keys))
    if all(getattr(base, key) == value for key, value in sizes.items()):
        return base
    return resized(base, **sizes)


def pack_of_cells(own: Pack | None, cell: Cell, series: int | None, parallel: int) -> Pack:
    """A pack made of cells of the library; where it lies and how far it is charged is as on the pack that there is."""
    kept = own or Pack()
    layout = kept.layout if kept.layout != "bricks" else None
    made = Pack(name=f"{series} x {parallel} of {cell.name}", series=series, parallel=parallel, cell=cell)
    made.place, made.spares, made.layout, made.charge_to_v = kept.place, kept.spares, layout, kept.charge_to_v
    return _charged_within(made)


def resized(pack: Pack, **sizes: int) -> Pack:
    """Another size of the same block, by ``series`` and ``parallel``: by the cell it weighs and costs as much."""
    before = (pack.series or 1) * (pack.parallel or 1)
    changed = pack.model_copy(update=sizes)
    ratio = (changed.series or 1) * (changed.parallel or 1) / before
    scaled = {k: round(v * ratio, 2) for k in ("price", "mass_g") if (v := getattr(pack, k)) is not None}
    sides = dict.fromkeys(("length_mm", "width_mm", "height_mm", "weakest_brick_ah"))
    name = f"{pack.name}, as {changed.series} x {changed.parallel or 1}" if pack.name else None
    return _as_another(pack, name=name, **sizes, **scaled, **sides)


def _charged_within(pack: Pack) -> Pack:
    """Charged no further than its own cells bear."""
    if pack.charge_to_v is not None and pack.charge_to_v > cell_voltages(pack)[0]:
        return pack.model_copy(update={"charge_to_v": None})
    return pack


def _as_it_is(slot: str) -> Callable[[Part | None, Mapping[str, Any]], Part | None]:
    """A part that is only ever another one of the library."""
    return lambda own, values: values.get(f"parts.{slot}", own)


MADE: dict[str, Any] = {
    **{slot: _as_it_is(slot) for slot in ("controller", "deck", "trucks")},
    "motor": _motor,
    "drive": _drive,
    "wheels": _wheels,
    "pack": _pack,
}


def _as_another(part: P, **changed: Any) -> P:
    """A part with other figures: no longer the one that was bought, measured or taken out of a kit."""
    return part.model_copy(update={**dict.fromkeys(("purchase", "owned", "kit", "measured")), **changed})
