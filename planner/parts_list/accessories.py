"""The small parts that are forgotten and ordered last: what the choices on the board call for, each with its reason.

Counts and sizes are common practice, no source, unless a line says otherwise.
"""

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain
from math import ceil

from pydantic import BaseModel

from boardmath.buildfile.build import Build, BuildFile
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.drivetrain import Drive
from boardmath.buildfile.electrics import Extra
from boardmath.buildfile.maintenance import Spare
from boardmath.buildfile.methods import EnclosureFixing
from boardmath.geometry.enclosures import boxes, boxes_under, enclosure_bolts
from boardmath.geometry.fasteners import enclosure_screw, truck_bolts
from boardmath.messages import Message, counted, message, sentence
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind, has_pulleys, wheels_bought
from boardmath.model.methods import enclosure_fixing, fuse_poles, mount_fixing


class SmallPart(BaseModel):
    """A small part that the build calls for and does not have yet; ``record`` is the extra to put on the list."""

    id: str
    record: Extra
    why: Message


@dataclass(frozen=True)
class _Call:
    """What a rule asks for: how many of which, and why; ``words`` are those that a name of such a part has."""

    id: str
    name: str
    count: int
    why: Message
    words: tuple[str, ...]
    price: float | None = None
    currency: str | None = None


Rule = Callable[[Build], Iterator[_Call]]

BEARINGS_A_SET = 8
PIECE_OF_FOAM_MM = 3000.0


def _bearings(build: Build) -> Iterator[_Call]:
    if build.parts.wheels is None:
        return
    wheels = wheels_bought(build)
    needed = 2 * wheels
    if needed:
        turning = message(
            "{wheels} with two bearings each" + ("; a hub motor brings its own." if wheels < 4 else "."),
            wheels=counted(wheels, "wheel").capitalize(),
        )
        sets = ceil(needed / BEARINGS_A_SET)
        yield _Call("bearings", "Bearings, set of eight", sets, turning, ("bearing",))
        yield _Call(
            "spacers",
            "Bearing spacers and speed washers, set",
            1,
            message("Without spacers a tightened axle nut presses the bearings sideways, and they wear out early."),
            ("spacer", "speed washer"),
        )


def _truck_bolts(build: Build) -> Iterator[_Call]:
    if build.parts.trucks is None or build.parts.deck is None:
        return
    through = truck_bolts(build)
    layers: Message | None = None
    for name, thick in through.layers:
        if name in _LAYERS:
            own = message("{name} {thick}", name=sentence(name) if layers is None else name, thick=(thick, "length"))
            layers = own if layers is None else message("{before}, {own}", before=layers, own=own)
    yield _Call(
        "truck-bolts",
        f"Truck bolts and lock nuts, {through.size}, set of eight",
        1,
        message(
            "{layers}, baseplate and lock nut: {needed}, so the next length up.",
            layers=layers,
            needed=(through.needed, "length"),
        ),
        ("truck bolt", "deck bolt"),
    )


_LAYERS = ("deck", "risers", "plates")
"""What of a bolt's way a builder has chosen."""


def _geared(build: Build) -> int:
    """How many motors turn their wheel through a belt, chain or gears."""
    motors = build.parts.motors
    return motors.count or 1 if motors is not None and has_pulleys(build) else 0


def _mount_bolts(build: Build) -> Iterator[_Call]:
    if count := _geared(build):
        yield _Call(
            "mount-bolts",
            "Bolts and lock nuts, mount set",
            count,
            message(
                "The motor mount is welded to the hanger and holds the motor with four bolts."
                if mount_fixing(build) == "welded"
                else "The motor mount is clamped to the hanger and holds the motor with four bolts."
            ),
            ("mount set", "mount bolt"),
        )


def _motor_mount(build: Build) -> Iterator[_Call]:
    """A drive that is sold as pulleys and belt alone has nothing to hang on."""
    parts = build.parts
    if _geared(build) and parts.mount is None and parts.drive is not None and parts.drive.mount_profile is None:
        clamps = f", for a {parts.trucks.profile} hanger" if parts.trucks and parts.trucks.profile else ""
        yield _Call(
            "motor-mount",
            f"Motor mount{clamps}",
            _geared(build),
            message("Neither the drive nor a part on the list holds the motor on the hanger."),
            ("motor mount",),
        )


def _threadlocker(build: Build) -> Iterator[_Call]:
    if _geared(build) or build.parts.trucks is not None:
        yield _Call(
            "threadlocker",
            "Threadlocker, medium",
            1,
            message("Grub screws and mount bolts work loose; a loose pulley shears its key on the first ride."),
            ("threadlock",),
        )


def _spare_belts(build: Build) -> Iterator[_Call]:
    drive: Drive | None = build.parts.drive
    count = _geared(build)
    if not count or drive is None or drive_kind(build) != "belt":
        return
    pitch, width = drive.pitch_mm or USUAL["drive.pitch_mm"], drive.belt_width_mm or USUAL["drive.belt_width_mm"]
    size = f"{pitch:g} mm pitch, {width:g} mm wide"
    teeth = f", {drive.belt_teeth} teeth" if drive.belt_teeth else ""
    yield _Call(
        "spare-belts",
        f"Spare belt, {size}{teeth}",
        count,
        message("Belts snap and jam with grit: carry one spare for each motor."),
        ("spare belt",),
    )


def _connectors(build: Build) -> Iterator[_Call]:
    pack, controller, motors = build.parts.pack, build.parts.controller, build.parts.motors
    if pack is None or controller is None:
        return
    units = controllers(build)
    one, other = (pack.plug or "").casefold().strip(), (controller.plug or "").casefold().strip()
    if one and other and one == other and units == 1:
        return
    kind = pack.plug or "rated for the pack's current"
    yield _Call(
        "connectors",
        f"Connectors for pack and controller, {kind}",
        units,
        message(
            "The pack has {one}, the controller {other}: one half has to be changed."
            if one and other and one != other
            else "One pair for every controller."
            if one and one == other
            else "Not stated for both ends: look, and order the half that is missing.",
            one=pack.plug,
            other=controller.plug,
        ),
        ("connector", "plug"),
    )
    ends, theirs = (motors.plug if motors else None), controller.motor_plug
    if motors is not None and ends and theirs and ends.casefold().strip() != theirs.casefold().strip():
        yield _Call(
            "phase-connectors",
            f"Bullet connectors, {ends}, set of three pairs",
            motors.count or 1,
            message(
                "The motor has {ends}, the controller {theirs}; three phases for every motor.", ends=ends, theirs=theirs
            ),
            ("bullet",),
        )


def _insulation(build: Build) -> Iterator[_Call]:
    pack = build.parts.pack
    if pack is None:
        return
    yield _Call(
        "heat-shrink",
        "Heat shrink and insulating paper",
        1,
        message("Cover every joint before you bare the next one; sleeves over the phase wires, paper under the pack."),
        ("heat shrink",),
    )
    cell = pack.cell
    if cell is not None and pack.price is None and cell.price is not None and pack.layout != "bricks":
        cells = (pack.series or 1) * (pack.parallel or 1)
        yield _Call(
            "cell-rings",
            "Insulating rings for the cells' ends, bag of a hundred",
            ceil(cells / 100),
            message(
                "You weld {cells} cells: put a ring on every positive end, or one slip of a strip shorts a cell.",
                cells=cells,
            ),
            ("ring",),
        )
        yield _Call(
            "cell-strip",
            "Nickel strip, roll",
            1,
            message("The links between the cells; thickness and layers follow from the current."),
            ("strip",),
        )


def _second_fuse(build: Build) -> Iterator[_Call]:
    fuse = build.parts.fuse
    if fuse is not None and fuse_poles(build) == "both_poles":
        yield _Call(
            "second-fuse",
            f"Fuse with holder{f', {fuse.a:g} A' if fuse.a else ''}, for the negative lead",
            1,
            message("You put a fuse in both poles: the second one is of the same rating."),
            ("second fuse", "negative fuse"),
        )


def _charging(build: Build) -> Iterator[_Call]:
    """What a pack that is built by oneself is charged through."""
    parts = build.parts
    if parts.pack is None or parts.pack.layout == "bricks" or parts.charge_port is not None or parts.pack.charge_plug:
        return
    plug = f" for {parts.charger.plug}" if parts.charger and parts.charger.plug else ""
    yield _Call(
        "charge-port",
        f"Charge port with cap{plug}",
        1,
        message("Without one you open the enclosure for every charge, and its screws wear out first."),
        ("charge port", "charging port"),
    )


def _between_boxes(build: Build) -> Iterator[_Call]:
    """What runs along the deck between two boxes."""
    both = boxes_under(build)
    if len(both) < 2:
        return
    first, second = sorted(both, key=lambda b: b.span[0])
    gap = max(second.span[0] - first.span[1], 0.0)
    yield _Call(
        "harness",
        "Wire channel between the enclosures, and glands for both ends",
        1,
        message(
            "{gap} between the enclosures: the wires need a channel, slack where the deck bends, and a seal at "
            "both ends.",
            gap=(gap, "length"),
        ),
        ("channel", "harness"),
    )


def _box(build: Build) -> Iterator[_Call]:
    all_boxes = boxes(build)
    if not all_boxes:
        return
    around = sum(2.0 * (b.length + b.width) for b in all_boxes)
    if any(b.box.seat != "moulded" for b in all_boxes):
        yield _Call(
            "gasket",
            "Gasket foam, 3 m",
            ceil(around / PIECE_OF_FOAM_MM),
            message(
                "{around} around the enclosure: foam follows the concave and keeps spray out.",
                around=(around, "length"),
            ),
            ("gasket", "foam"),
        )
    screws = sum(len(enclosure_bolts(build, b)) for b in all_boxes)
    fixing = enclosure_fixing(build)
    yield _Call(
        "box-screws",
        f"{_HELD_BY[fixing]}, {enclosure_screw(build, all_boxes[0]).size}, {screws} of each",
        1,
        message(
            "{screws} through the floor, with a nut and a large washer inside for each."
            if fixing == "through_floor"
            else "One about every 80 mm along both sides: {screws}. Keep them away from soft cells.",
            screws=screws,
        ),
        ("insert", "t-nut", "enclosure screw", "floor bolt"),
    )
    if build.brief.wet:
        yield _Call(
            "glands",
            "Cable glands and grommets, set",
            1,
            message("For riding in the wet: wires go through the wall sealed, and do not chafe."),
            ("gland", "grommet"),
        )


_HELD_BY: dict[EnclosureFixing, str] = {
    "threaded_inserts": "Threaded inserts and screws for the enclosure",
    "t_nuts": "T-nuts and screws for the enclosure",
    "wood_screws": "Enclosure screws for wood, with large washers",
    "through_floor": "Floor bolts of the enclosure, with large washers and lock nuts",
}


def _grip(build: Build) -> Iterator[_Call]:
    if build.parts.deck is not None:
        yield _Call(
            "grip",
            "Grip tape sheet",
            1,
            message("So that your feet hold when it pulls and brakes, above all in the wet."),
            ("grip",),
        )


def _gear(build: Build) -> Iterator[_Call]:
    """What its rider wears, and what its builder measures with: part of a first budget, unless it is there already."""
    if build.parts.motors is None or build.parts.deck is None:
        return
    yield _Call(
        "helmet",
        "Helmet",
        1,
        message("For the first metre already. Replace one that was in a fall. Own one? Leave it out here."),
        ("helmet",),
    )
    yield _Call(
        "pads",
        "Pads for wrists, elbows and knees",
        1,
        message("Wrists break first in a fall from a board. Own them? Leave them out here."),
        ("pad", "wrist guard"),
    )
    if build.parts.pack is not None:
        yield _Call(
            "multimeter",
            "Multimeter",
            1,
            message("Every lead is measured before its plug goes in, and every pack before it is charged."),
            ("multimeter", "voltmeter"),
        )


def spares_lacking(build: BuildFile) -> list[Spare]:
    """Spares of which fewer lie in the drawer than should."""
    spares = build.maintenance.spares if build.maintenance is not None else []
    return [s for s in spares if s.wanted is not None and (s.count or 0) < s.wanted]


def _spares(build: BuildFile) -> Iterator[_Call]:
    for spare in spares_lacking(build):
        yield _Call(
            f"spare-{spare.id}"[:60],
            spare.name,
            (spare.wanted or 0) - (spare.count or 0),
            message("You have {count} of {wanted} spares.", count=spare.count or 0, wanted=spare.wanted),
            (),
            spare.price,
            spare.currency,
        )


RULES: tuple[Rule, ...] = (
    _bearings,
    _truck_bolts,
    _mount_bolts,
    _motor_mount,
    _threadlocker,
    _spare_belts,
    _connectors,
    _insulation,
    _second_fuse,
    _charging,
    _box,
    _between_boxes,
    _grip,
    _gear,
)
_BEFORE_RIDING = frozenset({"helmet", "pads", "multimeter"})
"""Small parts of which whoever rides already has one."""


def forgotten(build: BuildFile, library: Sequence[Extra] = ()) -> list[SmallPart]:
    """What is called for, not on the list and not said to be needless.

    A part of ``library`` that stands for one lends its name and price.
    """
    extras, needless = build.parts.extras or [], set(build.not_needed or [])
    return [
        SmallPart(id=call.id, record=_record(call, library), why=call.why)
        for call in chain(*(rule(build) for rule in RULES), _spares(build))
        if call.id not in needless
        and not (call.id in _BEFORE_RIDING and build.stage == "riding")
        and not any(_is(call, extra) for extra in extras)
    ]


def stands_for(build: Build) -> dict[int, str]:
    """For extras that are a small part which the choices call for, by their place on the list: which one."""
    calls = [call for rule in RULES for call in rule(build)]
    found = {i: e.fills for i, e in enumerate(build.parts.extras or []) if e.fills}
    for i, extra in enumerate(build.parts.extras or []):
        call = next((c for c in calls if _is(c, extra)), None)
        if i not in found and call is not None:
            found[i] = call.id
    return found


def _is(call: _Call, extra: Extra) -> bool:
    """An extra is what it says it stands for, or else what its name says."""
    if extra.fills:
        return extra.fills == call.id
    # From the beginning of a word: bearings are no rings.
    return any(re.search(rf"\b{re.escape(word)}", (extra.name or "").casefold()) for word in call.words)


def _record(call: _Call, library: Sequence[Extra]) -> Extra:
    found = next((e for e in library if e.fills == call.id), None)
    if found is None:
        return Extra(name=call.name, count=call.count, fills=call.id, price=call.price, currency=call.currency)
    # What is sized keeps the size that the board needs; the shop's price goes with it.
    return found.model_copy(update={"name": call.name, "count": call.count})
