"""The mass of every part, stated or estimated, and of the board as carried."""

from collections.abc import Mapping
from math import sqrt

from boardmath import estimate
from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Controller, Enclosure, Pack
from boardmath.buildfile.once import once_a_build
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.estimate import Estimate
from boardmath.inputs import Input, cell_capacity, cell_voltages, drive_kind, taken
from boardmath.usual import USUAL


@once_a_build
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
    whole_pack = Estimate(
        each_cell.value * cell_count * estimate.PACK_OVER_CELLS, f"{cell_count} cells and 12 % on top", 0.05
    )
    controller, drive = parts.controller or Controller(), parts.drive or Drive()

    found = {
        "deck": (parts.deck or Deck(), 1, estimate.deck_mass(parts.deck or Deck())),
        "trucks": (parts.trucks or Trucks(), 1, estimate.trucks_mass(parts.trucks or Trucks())),
        "wheels": (parts.wheels or Wheels(), 1, estimate.wheels_mass(parts.wheels or Wheels())),
        "motors": (motors, count, estimate.motor_mass(motors)),
        "drive": (drive, count, estimate.drive_mass(kind)),
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
    for name, usual in (("risers", 60.0), ("switch", 60.0), ("fuse", 20.0), ("wiring", 150.0)):
        other = getattr(parts, name)
        if other is not None:
            masses[name] = taken(f"parts.{name}", other, "mass_g", Estimate(usual, "usual", 0.3))
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


def board_mass(masses: Mapping[str, Input]) -> Input:
    """The board as carried, kg, with the spread of its parts' masses."""
    total = sum(m.value for m in masses.values())
    spread = sqrt(sum((m.value * m.spread) ** 2 for m in masses.values())) / total
    return Input("weighed_kg", total / 1000.0, "estimated", "sum of the parts", spread)
