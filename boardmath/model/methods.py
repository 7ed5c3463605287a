"""Which way of working holds on a board: the builder's choice where the board allows it, otherwise the usual one."""

from typing import get_args

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Enclosure
from boardmath.buildfile.methods import EnclosureFixing, FusePoles, Locking, Methods, MountFixing, Threads
from boardmath.model.defaults import USUAL


def _chosen(build: Build) -> Methods:
    return build.methods or Methods()


def made(box: Enclosure | None) -> bool:
    """Whether a box is made by the builder: of a material, and neither at hand nor ordered anywhere."""
    if box is None or box.material is None or box.owned or box.kit is not None:
        return False
    return box.purchase is None or box.purchase.status in (None, "to_order")


LEAST_WOOD = 10.0
"""mm of deck in which a wood screw holds an enclosure (from memory)."""


def enclosure_fixings(build: Build) -> tuple[EnclosureFixing, ...]:
    """Ways in which this board's enclosures can be screwed on.

    An enclosure that is made here has its rim, and no floor, at the deck; a thin deck does not hold wood screws.
    """
    own = made(build.parts.enclosure) or made(build.parts.second_enclosure)
    deck = build.parts.deck
    thick = (deck.thickness_mm if deck is not None else None) or USUAL["deck.thickness_mm"]
    left_out = {"through_floor" if own else None, "wood_screws" if thick < LEAST_WOOD else None}
    return tuple(way for way in get_args(EnclosureFixing) if way not in left_out)


def enclosure_fixing(build: Build) -> EnclosureFixing:
    """How the enclosures are screwed on."""
    wanted = _chosen(build).enclosure_fixing
    return wanted if wanted in enclosure_fixings(build) else "threaded_inserts"


def mount_fixing(build: Build) -> MountFixing:
    """How the motor mounts are held on the hanger."""
    return _chosen(build).mount_fixing or "clamped"


def fuse_poles(build: Build) -> FusePoles:
    """Which of the pack's leads have a fuse, where there is one."""
    return _chosen(build).fuse_poles or "positive"


def locking(build: Build) -> Locking:
    """When threadlocker is used: once all of the board was tried together, or part by part."""
    return _chosen(build).locking or "after_dry_fit"


def hardware(build: Build) -> Threads:
    """Metric or inch bolts: as chosen, otherwise as the trucks have them, metric where nothing says it."""
    return _chosen(build).hardware or axle_threads(build) or "metric"


def axle_threads(build: Build) -> Threads | None:
    """Threads of the trucks' axles, where the trucks say it."""
    return build.parts.trucks.threads if build.parts.trucks is not None else None
