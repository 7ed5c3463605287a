"""How the builder works where builders differ: each way is right in its place, and is chosen once."""

from typing import Literal

from boardmath.buildfile.figures import Record, choice

EnclosureFixing = Literal["threaded_inserts", "t_nuts", "wood_screws", "through_floor"]
MountFixing = Literal["clamped", "welded"]
FusePoles = Literal["positive", "both_poles"]
BrickCharging = Literal["one_by_one", "together"]
Locking = Literal["after_dry_fit", "as_you_go"]
Threads = Literal["metric", "inch"]


class Methods(Record):
    """What the builder chose; where nothing is chosen, the first of each."""

    enclosure_fixing: EnclosureFixing | None = choice("Screwing the enclosure on")
    mount_fixing: MountFixing | None = choice("Holding the motor mounts")
    fuse_poles: FusePoles | None = choice("Where the fuse goes")
    brick_charging: BrickCharging | None = choice("Charging the bricks")
    locking: Locking | None = choice("When screws are locked")
    hardware: Threads | None = choice("Bolts and nuts", "those of the trucks unless stated")
