"""Bolts and screws of a board: how long, how many, how hard. Everything in mm and N·m.

Metric threads are coarse ones: pitches from ISO 261 and ISO 262, lengths as they are sold after ISO 888. Inch threads are
UNF No. 10 in the deck (ASME B1.1: 0.190 in across, 32 to the inch), with lengths from memory. How hard a steel bolt may be
drawn is reckoned as VDI 2230-1 does; for wood, plastic, aluminium and inserts no published table says it: those are hand-tight.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import pi, sqrt

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.methods import Threads
from boardmath.geometry.enclosures import Boxed
from boardmath.geometry.stance import deck_of, riser_height
from boardmath.model.defaults import USUAL
from boardmath.model.methods import axle_threads, enclosure_fixing, hardware

PITCHES = {3: 0.5, 4: 0.7, 5: 0.8, 6: 1.0, 8: 1.25}
"""Coarse pitch by nominal diameter (ISO 261)."""
LENGTHS = (6, 8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100)
"""Nominal lengths (ISO 888)."""

INCH = 25.4
INCHES = (0.375, 0.5, 0.625, 0.75, 0.875, 1.0, 1.25, 1.5, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0)
"""Lengths of inch bolts, in inches (from memory)."""
WOOD_SCREWS = (10.0, 12.0, 16, 20, 25, 30, 35, 40)
"""Lengths of wood screws 5 mm thick (from memory)."""

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
T_NUT = 8.0
"""Length of an M5 T-nut's barrel, with its flange flush (from memory)."""
FOAM_PRESSED = 2.0
"""What gasket foam keeps under a rim that is screwed down (from memory)."""


def sold(needed: float, lengths: Sequence[float] = LENGTHS) -> float:
    """The shortest length that is sold and long enough; the longest where none is."""
    return next((length for length in lengths if length >= needed - 1e-9), lengths[-1])


def lengths_of(threads: Threads) -> tuple[float, ...]:
    """mm of the lengths in which bolts are sold."""
    return LENGTHS if threads == "metric" else tuple(INCH * length for length in INCHES)


def bolt_size(threads: Threads, length: float) -> str:
    """A bolt through the deck as a shop calls it, such as M5 x 35 mm or 10-32 x 1 1/4 in."""
    if threads == "metric":
        return f"M5 x {length:g} mm"
    whole, rest = divmod(Fraction(length / INCH).limit_denominator(16), 1)
    return f"10-32 x {' '.join(str(part) for part in (whole, rest) if part)} in"


@dataclass(frozen=True)
class Through:
    """A bolt through several layers: what each takes, what all need, and the length that is sold, all in mm."""

    layers: tuple[tuple[str, float], ...]
    needed: float
    length: float
    size: str


def truck_bolts(build: Build) -> Through:
    """M5, or No. 10, through the deck with what lies on and beneath it; a drop-through truck has no riser."""
    parts, threads = build.parts, hardware(build)
    layers = [("deck", deck_of(build).thickness_mm or USUAL["deck.thickness_mm"])]
    if deck_of(build).mount != "drop_through" and riser_height(build):
        layers.append(("risers", riser_height(build)))
    if parts.spreaders is not None:
        layers.append(("plates", parts.spreaders.height_mm or USUAL["spreaders.height_mm"]))
    layers += [("baseplate", BASEPLATE), ("nut", NUT)]
    needed = sum(thick for _, thick in layers)
    length = sold(max(needed, 25.0), lengths_of(threads))
    return Through(tuple(layers), needed, length, bolt_size(threads, length))


def axle_nut(build: Build) -> str:
    """Thread of the nuts on the trucks' axles; either where the trucks do not say it (from memory)."""
    return {"metric": "M8", "inch": "5/16-24", None: "M8 or 5/16-24"}[axle_threads(build)]


def motor_thread(build: Build) -> int:
    """M of the screws in the motor's face."""
    return 3 if ((build.parts.motors or Motors()).can_diameter_mm or USUAL["motors.can_diameter_mm"]) < SMALL_CAN else 4


def motor_screws(plate: float) -> tuple[float, float, float] | None:
    """The length that is sold for a plate, with the least and the most that may be; None where no length fits."""
    least, most = plate + WASHERS + IN_THE_CAN[0], plate + WASHERS + IN_THE_CAN[1]
    length = sold(least)
    return (length, least, most) if length <= most else None


@dataclass(frozen=True)
class EnclosureScrew:
    """A screw of an enclosure: how a shop calls it, mm of its length, and mm of the deck, insert or nut that hold it."""

    size: str
    length: float
    holds: float


def enclosure_screw(build: Build, boxed: Boxed) -> EnclosureScrew:
    """The screw that holds an enclosure, by the way in which its builder fixes it.

    Through the rim from beneath it never comes out at the top. Through a container's floor it comes
    from above, with a nut inside.
    """
    thick = deck_of(build).thickness_mm or USUAL["deck.thickness_mm"]
    foam = 0.0 if boxed.box.seat == "moulded" else FOAM_PRESSED
    through, fixing, threads = boxed.wall + foam, enclosure_fixing(build), hardware(build)
    if fixing == "through_floor":
        length = sold(thick + through + WASHERS + NUT, lengths_of(threads))
        return EnclosureScrew(bolt_size(threads, length), length, NUT)
    if fixing == "wood_screws":
        fits = [one for one in WOOD_SCREWS if one <= through + thick - 2.0] or [WOOD_SCREWS[0]]
        return EnclosureScrew(f"5 x {fits[-1]:g} mm", fits[-1], fits[-1] - through)
    lengths = lengths_of(threads)
    if fixing == "t_nuts":
        length = ([one for one in lengths if one <= through + thick] or [lengths[0]])[-1]
        return EnclosureScrew(bolt_size(threads, length), length, length - through - max(thick - T_NUT, 0.0))
    depth = min(INSERT, thick - 1.0)
    fits = [one for one in lengths if one <= through + thick - 1.0] or [lengths[0]]
    length = min(fits, key=lambda one: (one < through + depth, abs(one - through - depth)))
    return EnclosureScrew(bolt_size(threads, length), length, depth)


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
