"""Every wire of a board: from where to where, how thick, how long, what runs in it, how it ends."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from math import ceil
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.electrics import Pack
from boardmath.geometry.cell_links import drive_current
from boardmath.geometry.enclosures import stowed
from boardmath.geometry.transmission import motor_centre
from boardmath.model.defaults import USUAL
from boardmath.model.estimate import motor_current
from boardmath.model.inputs import cell_charge_rating
from boardmath.model.limits import motor_current_allowed
from boardmath.model.methods import fuse_poles
from boardmath.physics.wire import GAUGES, ampacity

Carries = Literal["plus", "minus", "charge_plus", "charge_minus", "balance", "phase", "sensor", "signal", "load"]
LEAST_DRIVE_AWG = 14.0
"""The thinnest main lead between pack and controller, whatever the current (common practice, no source: 12 to 14 AWG)."""
BALANCE_AWG, SIGNAL_AWG, LEAST_CHARGE_AWG = 24.0, 26.0, 20.0
"""Of balance leads and of sensor and receiver leads; and the thinnest that stands a charge lead's handling (common practice)."""
LIGHT_A = 0.2
"""A of a light that does not say (from memory)."""
SLACK_MM = 80.0
"""mm by which a wire is longer than the way, for its bends and for a joint that is made twice (common practice, no source)."""
AT_THE_PACK_MM = 80.0
"""mm from the pack to its fuse: the shorter, the less of the wire is unguarded (common practice, no source)."""


class Wire(BaseModel):
    """One wire or bundle. ``count`` wires alike; ``least_awg`` is the thinnest that bears the current and outlives its fuse.

    ``bears_a`` is what the chosen gauge bears; ``length_mm`` is guessed from where things stand unless the build says it.
    ``first_end`` is joined before the other, which stays covered until then.
    """

    id: str
    start: str
    end: str
    carries: Carries
    count: int = 1
    awg: float
    least_awg: float
    bears_a: float
    current_a: float
    length_mm: float
    guessed: bool = True
    colour: str
    start_plug: str | None = None
    end_plug: str | None = None
    mismatch: bool = False
    first_end: str
    fused: bool = True


@dataclass(frozen=True)
class Placed:
    """x of the middles of things along the board, where the drawings know them."""

    pack: float | None
    controller: float | None
    motor: float


def least_gauge(current: float, fuse: float = 0.0) -> float:
    """The thinnest gauge that bears a current for long and a fuse until it melts; the thickest sold where none does."""
    return next((g for g in GAUGES if ampacity(g) >= max(current, fuse)), GAUGES[-1])


def round_the_board(build: Build) -> bool:
    """Whether the drive's current is led past a protection board that only guards the charge."""
    pack = build.parts.pack
    return pack is not None and pack.protection is not None and pack.protection.in_drive_path is False


def _placed(build: Build) -> Placed:
    middles: dict[str, list[float]] = {}
    for _, inside in stowed(build):
        for item in inside.items:
            middles.setdefault(item.part, []).append(item.middle[0])
    mean = {part: sum(xs) / len(xs) for part, xs in middles.items()}
    return Placed(mean.get("pack"), mean.get("controller"), motor_centre(build)[0])


def _between(a: float | None, b: float | None, usual: float) -> float:
    return 10.0 * ceil(((abs(a - b) if a is not None and b is not None else usual) + SLACK_MM) / 10.0)


def wires(build: Build) -> list[Wire]:
    """Every wire of the power path, of charging and of sensing, in the order in which the current meets them."""
    if build.parts.pack is None or build.parts.pack.series is None:
        return []
    return [*_drive(build), *_charge(build), *_balance(build), *_motor_wires(build), *_small(build)]


def _wire(
    build: Build,
    id: str,
    ends: tuple[str, str],
    carries: Carries,
    current: float,
    length: float,
    *,
    awg: float | None = None,
    least: float | None = None,
    guessed: bool = True,
    colour: str,
    plugs: tuple[str | None, str | None] = (None, None),
    first: int = 1,
    count: int = 1,
    fused: bool = True,
) -> Wire:
    fuse = build.parts.fuse.a if build.parts.fuse and build.parts.fuse.a and carries in ("plus", "minus") else 0.0
    thin = least if least is not None else least_gauge(current, fuse)
    if carries in ("plus", "minus"):
        thin = min(thin, LEAST_DRIVE_AWG)
    taken = awg if awg is not None else thin
    one, other = plugs
    return Wire(
        id=id,
        start=ends[0],
        end=ends[1],
        carries=carries,
        count=count,
        awg=taken,
        least_awg=thin,
        bears_a=ampacity(taken),
        current_a=current,
        length_mm=length,
        guessed=guessed,
        colour=colour,
        start_plug=one,
        end_plug=other,
        mismatch=bool(one and other and one.casefold().strip() != other.casefold().strip()),
        first_end=ends[first],
        fused=fused,
    )


def _drive(build: Build) -> Iterator[Wire]:
    parts = build.parts
    pack, controller, wiring = parts.pack, parts.controller, parts.wiring
    assert pack is not None
    if controller is None:
        return
    where, units = _placed(build), controllers(build)
    current = drive_current(build).current
    stated = wiring.length_mm if wiring is not None else None
    long = stated or _between(where.pack, where.controller, USUAL["wiring.length_mm"] / 3.0)
    awg = wiring.awg if wiring is not None else None
    inline = [n for n, there in (("fuse", parts.fuse), ("switch", parts.switch)) if there is not None]
    if parts.switch is not None and parts.switch.kind == "none":
        inline.remove("switch")
    stops = ["pack", *inline]
    plug = (pack.plug, controller.plug)
    ends = [f"controller-{n}" for n in range(1, units + 1)]
    for n, (a, b) in enumerate(pairwise(stops)):
        near = AT_THE_PACK_MM if n == 0 else max(long - AT_THE_PACK_MM, AT_THE_PACK_MM) / 2.0
        yield _wire(
            build,
            f"plus-{b}",
            (a, b),
            "plus",
            current,
            near,
            awg=awg,
            guessed=stated is None,
            colour="red",
            fused=n > 0,
        )
    rest = long if len(stops) == 1 else max(long - AT_THE_PACK_MM, AT_THE_PACK_MM) / (2.0 if len(stops) > 2 else 1.0)
    for end in ends:
        yield _wire(
            build,
            f"plus-{end}",
            (stops[-1], end),
            "plus",
            current / units,
            rest,
            awg=awg,
            guessed=stated is None,
            colour="red",
            plugs=plug,
            fused="fuse" in stops,
        )
    start = "pack"
    guarded = pack.protection is not None and not round_the_board(build)
    both = parts.fuse is not None and fuse_poles(build) == "both_poles"
    for id, stop, there in (("minus-board", "protection", guarded), ("minus-fuse", "negative_fuse", both)):
        if there:
            yield _wire(build, id, (start, stop), "minus", current, AT_THE_PACK_MM, awg=awg, colour="black", first=0)
            start = stop
    for end in ends:
        yield _wire(
            build,
            f"minus-{end}",
            (start, end),
            "minus",
            current / units,
            long,
            awg=awg,
            guessed=stated is None,
            colour="black",
            plugs=plug,
        )


def charge_current(build: Build) -> float:
    """A that runs into the pack: the charger's, or what board or cells allow where none is chosen."""
    charger, pack = build.parts.charger, build.parts.pack or Pack()
    if charger is not None and charger.a is not None:
        return charger.a
    guard = pack.protection
    cells = cell_charge_rating(pack).value * (pack.parallel or 1)
    return min(guard.max_charge_a, cells) if guard is not None and guard.max_charge_a else min(cells, 4.0)


def _charge(build: Build) -> Iterator[Wire]:
    pack = build.parts.pack
    assert pack is not None
    if pack.layout == "bricks" and build.parts.charge_port is None:
        return
    current = charge_current(build)
    least = min(least_gauge(current), LEAST_CHARGE_AWG)
    plug = (pack.charge_plug or (build.parts.charge_port.plug if build.parts.charge_port else None), None)
    yield _wire(
        build, "charge-plus", ("port", "pack"), "charge_plus", current, 250.0, least=least, colour="red", plugs=plug
    )
    to = "protection" if pack.protection is not None else "pack"
    yield _wire(
        build, "charge-minus", ("port", to), "charge_minus", current, 250.0, least=least, colour="black", plugs=plug
    )
    if round_the_board(build):
        yield _wire(
            build,
            "charge-board",
            ("protection", "pack"),
            "charge_minus",
            current,
            AT_THE_PACK_MM,
            least=least,
            colour="black",
        )


def _balance(build: Build) -> Iterator[Wire]:
    pack = build.parts.pack
    assert pack is not None
    assert pack.series is not None
    if pack.protection is not None or pack.layout == "bricks":
        yield _wire(
            build,
            "balance",
            ("pack", "protection" if pack.protection is not None else "port"),
            "balance",
            0.1,
            200.0,
            least=BALANCE_AWG,
            colour="black for lead 0, then each with its number",
            count=pack.series + 1,
            first=0,
        )


def _motor_wires(build: Build) -> Iterator[Wire]:
    motors, controller = build.parts.motors, build.parts.controller
    if motors is None or controller is None:
        return
    where, units, count = _placed(build), controllers(build), motors.count or 1
    current = motor_current_allowed(build) or motor_current(motors).value
    length = _between(where.controller, where.motor, 220.0)
    for n in range(1, count + 1):
        ends = (f"controller-{min((n - 1) * units // count + 1, units)}", f"motor-{n}")
        yield _wire(
            build,
            f"phase-{n}",
            ends,
            "phase",
            current,
            length,
            colour="three, marked with one, two, three rings at both ends",
            plugs=(controller.motor_plug, motors.plug),
            count=3,
        )
        if motors.sensored:
            yield _wire(
                build, f"sensor-{n}", ends, "sensor", 0.1, length, least=SIGNAL_AWG, colour="bundle", plugs=(None, None)
            )


def _small(build: Build) -> Iterator[Wire]:
    parts = build.parts
    if parts.remote is not None and parts.controller is not None:
        # Any of several takes it, and tells the others.
        nearest = controllers(build) if controllers(build) > 2 else 1
        yield _wire(
            build,
            "receiver",
            ("receiver", f"controller-{nearest}"),
            "signal",
            0.1,
            120.0,
            least=SIGNAL_AWG,
            colour="as the plug has it",
        )
    for n, load in enumerate(parts.loads or [], 1):
        if load.supply == "own_battery":
            continue
        amperes = (LIGHT_A if load.a is None else load.a) * (load.count or 1)
        yield _wire(
            build,
            f"load-{n}",
            ("switch" if parts.switch is not None and parts.switch.kind != "none" else "pack", f"load-{n}"),
            "load",
            amperes,
            600.0,
            least=min(least_gauge(amperes), 22.0),
            colour="red and black",
            count=2,
            fused=parts.fuse is not None,
        )
