"""The kinds of part: what each is called, its model, and where the build file keeps it. In the order in which builders choose."""

from dataclasses import dataclass

from boardmath.buildfile.build import Parts
from boardmath.buildfile.drivetrain import Covers, Drive, MotorMount, Motors
from boardmath.buildfile.electrics import (
    Cell,
    ChargePort,
    Charger,
    Controller,
    Enclosure,
    Extra,
    Fuse,
    Load,
    Pack,
    Protection,
    Remote,
    Switch,
    Wiring,
)
from boardmath.buildfile.figures import Part
from boardmath.buildfile.kits import Kit
from boardmath.buildfile.rolling import Deck, Risers, Spreaders, Trucks, Wheels


@dataclass(frozen=True)
class Kind:
    """``path`` leads to a part's figures in a build file, ``*`` stands for a place in a list."""

    name: str
    model: type[Part]
    path: str
    deciding: tuple[str, ...] = ()
    """The figures that tell one such part from another, as a label in a shop does."""
    against: tuple[str, ...] = ()
    """The parts of which one has to be there before it can be said whether such a part fits."""
    shelved_as: str | None = None
    """The kind among which the library has it, where it is not a kind of its own there."""

    @property
    def several(self) -> bool:
        """Whether a board has a list of them."""
        return self.path.endswith(".*")


_ALL = [
    Kind("Deck", Deck, "parts.deck", ("length_mm", "wheelbase_mm", "mount"), ("trucks", "wheels", "enclosure")),
    Kind("Trucks", Trucks, "parts.trucks", ("hanger_mm", "profile"), ("deck", "wheels", "motors", "drive", "mount")),
    Kind("Risers", Risers, "parts.risers", ("height_mm",), ("wheels",)),
    Kind("Spreader plates", Spreaders, "parts.spreaders", ("height_mm",), ("deck",)),
    Kind("Wheels", Wheels, "parts.wheels", ("diameter_mm", "hardness_a", "kind"), ("deck", "trucks", "drive")),
    Kind(
        "Motor",
        Motors,
        "parts.motors",
        ("can_diameter_mm", "kv_rpm_per_v", "kind"),
        ("trucks", "drive", "deck", "controller"),
    ),
    Kind("Drive", Drive, "parts.drive", ("motor_teeth", "wheel_teeth", "kind"), ("trucks", "wheels", "motors")),
    Kind("Motor mount", MotorMount, "parts.mount", ("profile", "angle_deg"), ("trucks",)),
    Kind("Covers", Covers, "parts.covers", ("over",), ("motors", "drive")),
    Kind("Pack", Pack, "parts.pack", ("series", "parallel"), ("controller", "enclosure", "charger", "switch")),
    Kind(
        "Cell",
        Cell,
        "parts.pack.cell",
        ("capacity_ah", "max_discharge_a", "chemistry"),
        ("controller", "enclosure", "charger"),
    ),
    Kind("BMS", Protection, "parts.pack.protection", ("series", "max_discharge_a"), ("pack",)),
    Kind("Switch", Switch, "parts.switch", ("kind", "max_a"), ("pack", "controller")),
    Kind("Fuse", Fuse, "parts.fuse", ("a",), ("wiring", "controller")),
    Kind("Wire", Wiring, "parts.wiring", ("awg",), ("controller", "fuse")),
    Kind("Charger", Charger, "parts.charger", ("v", "a"), ("pack",)),
    Kind("Charge port", ChargePort, "parts.charge_port", ("plug", "max_a"), ("charger",)),
    Kind("Controller", Controller, "parts.controller", ("max_v", "max_motor_current_a"), ("pack", "motors")),
    Kind("Remote", Remote, "parts.remote", ("link",), ("controller",)),
    Kind("Enclosure", Enclosure, "parts.enclosure", ("length_mm", "depth_mm"), ("deck", "pack", "controller")),
    Kind(
        "Second enclosure",
        Enclosure,
        "parts.second_enclosure",
        ("length_mm", "depth_mm"),
        ("deck", "pack", "controller"),
        shelved_as="enclosure",
    ),
    Kind("Lights and loads", Load, "parts.loads.*", ("v", "a"), ("pack",)),
    Kind("Kit", Kit, "parts.kits.*", (), ("deck", "trucks", "wheels", "pack")),
    Kind("Extra", Extra, "parts.extras.*"),
]
_SLUGS = {
    "parts.pack.cell": "cell",
    "parts.pack.protection": "protection",
    "parts.loads.*": "load",
    "parts.kits.*": "kit",
    "parts.extras.*": "extra",
}
KINDS: dict[str, Kind] = {_SLUGS.get(k.path, k.path.removeprefix("parts.")): k for k in _ALL}
"""By the word that the build file and the library have for it. A cell becomes the pack's cell, an extra one of the extras."""


def came_in(parts: Parts, kit: Kit) -> list[str]:
    """The kinds of part on the board that came in a kit, by name."""
    return [
        KINDS[key].name
        for key in Parts.model_fields
        if isinstance(part := getattr(parts, key), Part) and part.kit is not None and part.kit == kit.name
    ]


def kind_of(path: str) -> str | None:
    """The kind of the part at a path of the build file, such as ``parts.loads.2``; None where no part stands."""
    pattern = ".".join("*" if step.isdigit() else step for step in path.split("."))
    return next((slug for slug, kind in KINDS.items() if kind.path == pattern), None)
