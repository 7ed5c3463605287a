"""Bolts and screws of a board: how long, how many, how hard. Everything in mm and N·m.

Threads are metric coarse ones: pitches from ISO 261 and ISO 262, lengths as they are sold after ISO 888. How hard a
steel bolt may be drawn is reckoned as VDI 2230-1 does; for wood, plastic, aluminium and inserts no published table says
it: those are hand-tight.
"""

from dataclasses import dataclass
from math import pi, sqrt

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Motors
from boardmath.geometry.enclosures import Boxed
from boardmath.geometry.stance import deck_of, riser_height
from boardmath.model.defaults import USUAL

PITCHES = {3: 0.5, 4: 0.7, 5: 0.8, 6: 1.0, 8: 1.25}
"""Coarse pitch by nominal diameter (ISO 261)."""
LENGTHS = (6, 8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100)
"""Nominal lengths (ISO 888)."""

BASEPLATE = 6.0
"""Thickness of a truck's baseplate at the bolts (from memory)."""
NUT = 6.0
"""Lock nut and two threads past it, M5 (from memory; ISO 7040 gives a nut of about 5 mm)."""
WASHERS = 1.8
"""Spring and flat washer under the head of an M4 (ISO 7089: 0.8; from memory: 1.0)."""
IN_THE_CAN = (4.0, 6.0)
"""Thread that holds in an aluminium can, and from where a screw meets the windings (common practice, no source)."""
SMALL_CAN = 45.0
"""Cans narrower than this take M3 (from memory)."""
INSERT = 8.0
"""Depth of a threaded insert for wood, M5 (from memory)."""
FOAM_PRESSED = 2.0
"""What gasket foam keeps under a rim that is screwed down (from memory)."""


def sold(needed: float) -> int:
    """The shortest length that is sold and long enough; the longest where none is."""
    return next((length for length in LENGTHS if length >= needed - 1e-9), LENGTHS[-1])


@dataclass(frozen=True)
class Through:
    """A bolt through several layers: what each takes, what all need, and the length that is sold."""

    layers: tuple[tuple[str, float], ...]
    needed: float
    length: int


def truck_bolts(build: Build) -> Through:
    """M5 through the deck with what lies on and beneath it; a drop-through truck has no riser."""
    parts = build.parts
    layers = [("deck", deck_of(build).thickness_mm or USUAL["deck.thickness_mm"])]
    if deck_of(build).mount != "drop_through" and riser_height(build):
        layers.append(("risers", riser_height(build)))
    if parts.spreaders is not None:
        layers.append(("plates", parts.spreaders.height_mm or USUAL["spreaders.height_mm"]))
    layers += [("baseplate", BASEPLATE), ("nut", NUT)]
    needed = sum(thick for _, thick in layers)
    return Through(tuple(layers), needed, sold(max(needed, 25.0)))


def motor_thread(build: Build) -> int:
    """M of the screws in the motor's face."""
    return 3 if ((build.parts.motors or Motors()).can_diameter_mm or USUAL["motors.can_diameter_mm"]) < SMALL_CAN else 4


def motor_screws(plate: float) -> tuple[int, float, float] | None:
    """The length that is sold for a plate, with the least and the most that may be; None where no length fits."""
    least, most = plate + WASHERS + IN_THE_CAN[0], plate + WASHERS + IN_THE_CAN[1]
    length = sold(least)
    return (length, least, most) if length <= most else None


def enclosure_screws(build: Build, boxed: Boxed) -> tuple[int, float]:
    """Length of an M5 through the box's rim into the deck, and the depth that the deck has for it."""
    thick = deck_of(build).thickness_mm or USUAL["deck.thickness_mm"]
    foam = 0.0 if boxed.box.seat == "moulded" else FOAM_PRESSED
    depth = min(INSERT, thick - 1.0)
    through = boxed.wall + foam
    fits = [length for length in LENGTHS if length <= through + thick - 1.0]
    return min(
        (fits or [LENGTHS[0]]), key=lambda length: (length < through + depth, abs(length - through - depth))
    ), depth


def most_torque(diameter: int, friction: float = 0.12, proof: float = 640.0) -> float:
    """N·m at which a steel bolt of class 8.8 (``proof``, ISO 898-1) is used to nine tenths, hexagon head, in steel.

    VDI 2230-1, equations for the permitted assembly preload and the tightening torque; geometry of the thread after ISO 724.
    """
    pitch = PITCHES[diameter]
    flank, core = diameter - 0.64952 * pitch, diameter - 1.22687 * pitch
    stress = (flank + core) / 2.0
    twist = 1.5 * (flank / stress) * (pitch / (pi * flank) + 1.155 * friction)
    preload = pi / 4.0 * stress**2 * 0.9 * proof / sqrt(1.0 + 3.0 * twist**2)
    # Under the head: from the medium hole (ISO 273) to the bearing face of a hexagon (ISO 4014, ring of 1.4 d).
    under = (1.1 * diameter + 1.35 * diameter) / 2.0
    return preload * (0.16 * pitch + 0.58 * flank * friction + under / 2.0 * friction) / 1000.0
