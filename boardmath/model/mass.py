"""The mass of every part, stated or estimated, and of the board as carried."""

from collections.abc import Mapping
from math import sqrt

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Controller, Enclosure, Pack
from boardmath.buildfile.once import once_for_variations
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.model import estimate
from boardmath.model.defaults import USUAL
from boardmath.model.estimate import Estimate
from boardmath.model.inputs import Input, cell_capacity, cell_voltages, drive_kind, has_pulleys, taken, wheels_bought


@once_for_variations
def resolve_masses(build: Build) -> dict[str, Input]:
    """The mass of each part of the board in g, by part. A part not chosen yet counts as a usual one.

    Remote and charger are not carried on the board.
    """
    parts = build.parts
    kind = drive_kind(build)
    motors = parts.motors or Motors()
    count = motors.count or 1
    pack = parts.pack or Pack()
    cell = pack.cell or Cell()
    capacity, nominal = cell_capacity(pack).value, cell_voltages(pack)[1]
    cell_count = int(pack.series or USUAL["pack.series"]) * (pack.parallel or 1)
    each_cell = taken("parts.pack.cell", cell, "mass_g", estimate.cell_mass(cell, capacity, nominal))
    # A protection board that is weighed by itself is no longer among what stands on top of the cells.
    board_apart = pack.protection is not None and pack.protection.mass_g is not None
    over = estimate.PACK_OVER_CELLS - (estimate.PROTECTION_OVER_CELLS if board_apart else 0.0)
    whole_pack = Estimate(
        each_cell.value * cell_count * over, f"{cell_count} cells and {100.0 * (over - 1.0):.0f} % on top", 0.05
    )
    wheels = parts.wheels or Wheels()
    in_set, four = wheels.in_set or USUAL["wheels.in_set"], estimate.wheels_mass(wheels)
    drive_guess = estimate.drive_mass(kind)
    if parts.mount is not None and has_pulleys(build):
        drive_guess = Estimate(max(drive_guess.value - estimate.MOUNT_G, 60.0), "without its mount", drive_guess.spread)
    controller, drive = parts.controller or Controller(), parts.drive or Drive()

    found = {
        "deck": (parts.deck or Deck(), 1, estimate.deck_mass(parts.deck or Deck())),
        "trucks": (parts.trucks or Trucks(), 1, estimate.trucks_mass(parts.trucks or Trucks())),
        "wheels": (
            wheels,
            wheels_bought(build) / in_set,
            Estimate(four.value * in_set / 4.0, four.rule, four.spread),
        ),
        "motors": (motors, count, estimate.motor_mass(motors)),
        "drive": (drive, count, drive_guess),
        "pack": (pack, 1, whole_pack),
        "controller": (controller, controllers(build), estimate.controller_mass()),
        "enclosure": (
            parts.enclosure or Enclosure(),
            1,
            estimate.enclosure_mass(parts.enclosure or Enclosure()),
        ),
    }
    masses: dict[str, Input] = {}
    for name, (part, times, guess) in found.items():
        one = taken(f"parts.{name}", part, "mass_g", guess)
        masses[name] = Input(one.field, one.value * times, one.origin, one.rule, one.spread)
    others = (
        ("risers", 60.0, 1),
        ("spreaders", 90.0, 1),
        ("mount", estimate.MOUNT_G, count if has_pulleys(build) else 0),
        ("covers", 150.0, 1),
        ("charge_port", 25.0, 1),
        ("switch", 60.0, 1),
        ("fuse", 20.0, 1),
        ("wiring", 150.0, 1),
    )
    for name, usual, times in others:
        other = getattr(parts, name)
        if other is not None:
            one = taken(f"parts.{name}", other, "mass_g", Estimate(usual, "usual", 0.3))
            masses[name] = Input(one.field, one.value * times, one.origin, one.rule, one.spread)
    if board_apart and pack.protection is not None and pack.mass_g is None:
        masses["protection"] = taken("parts.pack.protection", pack.protection, "mass_g", whole_pack)
    if (second := parts.second_enclosure) is not None:
        masses["second_enclosure"] = taken("parts.second_enclosure", second, "mass_g", estimate.enclosure_mass(second))
    for i, load in enumerate(parts.loads or []):
        one = taken(f"parts.loads.{i}", load, "mass_g", Estimate(100.0, "usual", 0.4))
        masses[f"loads.{i}"] = Input(one.field, one.value * (load.count or 1), one.origin, one.rule, one.spread)
    listed = sum((e.mass_g or 0.0) * (e.count or 1) for e in parts.extras or [])
    small = estimate.small_parts(
        parts.deck or Deck(), listed, parts.wiring is not None, count if kind == "belt" else 0, pack.layout == "bricks"
    )
    masses["small_parts"] = Input("parts.small", small.value, "estimated", small.rule, small.spread)
    for i, extra in enumerate(parts.extras or []):
        if extra.mass_g is not None:
            masses[f"extras.{i}"] = Input(
                f"parts.extras.{i}.mass_g", extra.mass_g * (extra.count or 1), "stated", None, 0.03
            )
    return masses


def bag_mass(build: Build, masses: Mapping[str, Input]) -> float:
    """kg of packs that ride in the rider's bag: the pack itself, where it is carried there, and those to swap."""
    pack = build.parts.pack
    if pack is None:
        return 0.0
    return ((pack.place == "in_a_bag") + (pack.spares or 0)) * masses["pack"].value / 1000.0


def summed(build: Build, masses: Mapping[str, Input]) -> dict[str, Input]:
    """The masses that the board itself carries: not a pack in the bag."""
    bagged = build.parts.pack is not None and build.parts.pack.place == "in_a_bag"
    return {name: m for name, m in masses.items() if not (bagged and name == "pack")}


def board_mass(build: Build, masses: Mapping[str, Input]) -> Input:
    """The board as carried, kg, with its spread: as weighed; else as it was weighed before, less what went and plus what came;
    else the sum of its parts.
    """
    if build.weighed_kg is not None:
        return Input("weighed_kg", build.weighed_kg, "measured", None, WEIGHED_SPREAD)
    own = summed(build, masses)
    before = build.existing
    if before is not None and before.mass_kg is not None:
        return _changed(build, own, before.mass_kg)
    total = sum(m.value for m in own.values())
    spread = sqrt(sum((m.value * m.spread) ** 2 for m in own.values())) / total
    return Input("weighed_kg", total / 1000.0, "estimated", "sum of the parts", spread)


WEIGHED_SPREAD = 0.004
"""Of a whole board on a scale."""


def masses_then(build: Build) -> dict[str, Input]:
    """What the board carried when it was weighed before: its parts as they were then, what stayed as it is."""
    was = (build.existing.was if build.existing is not None else None) or Parts()
    earlier = {name: part for name in Parts.model_fields if (part := getattr(was, name)) is not None}
    old = build.model_copy(update={"parts": build.parts.model_copy(update=earlier), "existing": None})
    return summed(old, resolve_masses(old))


def _changed(build: Build, now: Mapping[str, Input], weighed_kg: float) -> Input:
    """What stayed on the board cancels out; only what went and what came is unsure."""
    then = masses_then(build)
    differs = [name for name in {*now, *then} if _of(now, name) != _of(then, name)]
    change = sum(_of(now, name) - _of(then, name) for name in differs) / 1000.0
    total = max(weighed_kg + change, 0.5)
    unsure = sum(
        (m.value * m.spread / 1000.0) ** 2 for which in (now, then) for name, m in which.items() if name in differs
    )
    spread = sqrt(unsure + (weighed_kg * WEIGHED_SPREAD) ** 2) / total
    return Input(
        "existing.mass_kg", total, "estimated", "weighed before, minus what was removed, plus what was added", spread
    )


def _of(masses: Mapping[str, Input], name: str) -> float:
    return masses[name].value if name in masses else 0.0
