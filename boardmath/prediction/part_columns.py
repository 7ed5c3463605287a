"""Kinds of part know themselves: what is told of each beside the outcomes, what it fits, what a board does without."""

from collections.abc import Callable
from dataclasses import dataclass

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.geometry.axle import axle_needed, axle_stub
from boardmath.geometry.enclosures import ground_clearance, room, stowed
from boardmath.geometry.stance import sag
from boardmath.messages import Figure, Message, message
from boardmath.model.defaults import USUAL
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_voltages, drive_kind, has_pulleys
from boardmath.model.limits import allowed_pack_current
from boardmath.parts.part_types import KINDS, came_in
from boardmath.physics.wire import ampacity
from boardmath.physics.wire import resistance as wire_resistance
from boardmath.prediction.charging import charge_hours


class Telling(BaseModel):
    """What a column says of a part: a figure, or words."""

    figure: Figure | None = None
    words: str | None = None


class OwnColumn(BaseModel):
    """A column that a kind of part has of its own."""

    id: str
    title: str


Found = Figure | str | None
Teller = Callable[[Build, Evaluation | None], Found]


@dataclass(frozen=True)
class _Column:
    id: str
    title: str
    tell: Teller


def _figure(value: float | None, quantity: str) -> Figure | None:
    return None if value is None else Figure(value=value, quantity=quantity)


def _hours_to_full(build: Build, evaluation: Evaluation | None) -> Found:
    hours = charge_hours(build, evaluation.calibrated) if evaluation is not None else None
    return _figure(hours["to_full"], "hours") if hours else None


def _ends_at(build: Build, evaluation: Evaluation | None) -> Found:
    charger = build.parts.charger
    return _figure(charger.v if charger else None, "voltage")


def _protects(build: Build, evaluation: Evaluation | None) -> Found:
    fuse, wiring = build.parts.fuse, build.parts.wiring
    if fuse is None or fuse.a is None or wiring is None or wiring.awg is None:
        return None
    return f"{wiring.awg:g} AWG" if fuse.a <= float(ampacity(wiring.awg)) else f"not {wiring.awg:g} AWG"


def _spare_over(rating: float | None, build: Build) -> Found:
    """A that a part bears beyond what the drive may draw."""
    allowed = allowed_pack_current(build)
    return None if rating is None or allowed is None else _figure(rating - allowed, "current")


def _path_current(evaluation: Evaluation) -> tuple[float, float]:
    """A from the pack cruising on the flat, and the most that may be drawn."""
    pack = evaluation.build.parts.pack or Pack()
    volts = float(evaluation.resolved.fixed["series"]) * cell_voltages(pack)[1]
    watts = float(evaluation.headline_values["consumption"][0]) * evaluation.cruise * 3.6
    return watts / volts, evaluation.inputs["pack_current_limit"].value


def _wire_watts(build: Build, amperes: float) -> float | None:
    wiring = build.parts.wiring
    if wiring is None or wiring.awg is None:
        return None
    metres = 2.0 * (wiring.length_mm or USUAL["wiring.length_mm"]) / 1000.0
    return amperes**2 * wire_resistance(wiring.awg, metres)


def _wire_loss(build: Build, evaluation: Evaluation | None) -> Found:
    return _figure(_wire_watts(build, _path_current(evaluation)[0]), "power") if evaluation else None


def _wire_used(build: Build, evaluation: Evaluation | None) -> Found:
    """The most that may be drawn, % of the current that the wire bears for long."""
    wiring = build.parts.wiring
    if evaluation is None or wiring is None or wiring.awg is None:
        return None
    return _figure(100.0 * _path_current(evaluation)[1] / float(ampacity(wiring.awg)), "share")


def _box_left(build: Build, evaluation: Evaluation | None) -> Found:
    known = [inside for _, inside in stowed(build)]
    if not known:
        return None
    return _figure(sum(i.inner[0] - i.needed_length for i in known), "length")


def _under_it(build: Build, evaluation: Evaluation | None) -> Found:
    return _figure(ground_clearance(build) - sag(build), "length") if build.parts.wheels else None


def _for_a_box(build: Build, evaluation: Evaluation | None) -> Found:
    start, end = room(build)
    return _figure(max(end - start, 0.0), "length")


def _axle_left(build: Build, evaluation: Evaluation | None) -> Found:
    trucks = build.parts.trucks
    if trucks is None or trucks.axle_mm is None:
        return None
    return _figure(axle_stub(build) - axle_needed(build), "length")


def _lasts(build: Build, evaluation: Evaluation | None) -> Found:
    return _figure(build.parts.remote.runtime_h if build.parts.remote else None, "hours")


def _clamps(build: Build, evaluation: Evaluation | None) -> Found:
    return build.parts.mount.profile if build.parts.mount else None


def _ports(build: Build, evaluation: Evaluation | None) -> Found:
    guard = build.parts.pack.protection if build.parts.pack else None
    if guard is None:
        return None
    ports = {"one": "one port", "two": "two ports"}.get(guard.ports or "", "")
    return ", ".join(w for w in (ports, "balances" if guard.balances else "") if w) or None


def _takes(build: Build, evaluation: Evaluation | None) -> Found:
    loads = build.parts.loads or []
    load = loads[-1] if loads else None
    if load is None or load.v is None or load.a is None:
        return None
    return _figure((load.count or 1) * load.v * load.a, "power")


def _brings(build: Build, evaluation: Evaluation | None) -> Found:
    kits = build.parts.kits
    return ", ".join(name.lower() for name in came_in(build.parts, kits[-1])) or None if kits else None


def _port_bears(build: Build, evaluation: Evaluation | None) -> Found:
    return _figure(build.parts.charge_port.max_a if build.parts.charge_port else None, "current")


_COLUMNS: dict[str, list[_Column]] = {
    "deck": [_Column("box", "for an enclosure", _for_a_box)],
    "trucks": [_Column("axle", "axle to spare", _axle_left)],
    "mount": [_Column("clamps", "clamps", _clamps)],
    "protection": [
        _Column("spare", "to spare", lambda b, c: _spare_over(_guard_a(b), b)),
        _Column("ports", "ports", _ports),
    ],
    "switch": [
        _Column("spare", "to spare", lambda b, c: _spare_over(b.parts.switch.max_a if b.parts.switch else None, b))
    ],
    "fuse": [
        _Column("protects", "protects", _protects),
        _Column("spare", "to spare", lambda b, c: _spare_over(b.parts.fuse.a if b.parts.fuse else None, b)),
    ],
    "wiring": [
        _Column("loss", "lost cruising", _wire_loss),
        _Column("used", "of its rating", _wire_used),
    ],
    "charger": [_Column("full", "to full", _hours_to_full), _Column("ends", "ends at", _ends_at)],
    "charge_port": [_Column("bears", "bears", _port_bears)],
    "remote": [_Column("lasts", "lasts", _lasts)],
    "enclosure": [_Column("left", "room left", _box_left), _Column("under", "under it", _under_it)],
    "second_enclosure": [_Column("left", "room left", _box_left), _Column("under", "under it", _under_it)],
    "load": [_Column("takes", "takes", _takes)],
    "kit": [_Column("brings", "brings", _brings)],
}


def _guard_a(build: Build) -> float | None:
    guard = build.parts.pack.protection if build.parts.pack else None
    return guard.max_discharge_a if guard is not None and guard.in_drive_path else None


def own_columns(kind: str) -> list[OwnColumn]:
    """The columns that a kind has of its own."""
    return [OwnColumn(id=c.id, title=c.title) for c in _COLUMNS.get(kind, [])]


def own_figures(kind: str, build: Build, evaluation: Evaluation | None) -> dict[str, Telling]:
    """What those columns say of the part on ``build``; ``evaluation`` where the build is far enough for a prediction."""
    found: dict[str, Telling] = {}
    for column in _COLUMNS.get(kind, []):
        told = column.tell(build, evaluation)
        if isinstance(told, Figure):
            found[column.id] = Telling(figure=told)
        elif told is not None:
            found[column.id] = Telling(words=told)
    return found


def can_be_judged(build: Build, kind: str) -> bool:
    """Whether there is anything on the board that such a part could fit, or not."""
    against = KINDS[kind].against
    return not against or any(getattr(build.parts, name) is not None for name in against)


def not_of_this_board(build: Build, kind: str) -> Message | None:
    """Why a board like this has no such part to choose."""
    motors = build.parts.motors
    if kind in ("drive", "mount") and motors is not None and not has_pulleys(build):
        where = "in the hub" if drive_kind(build) == "hub" else "on the axle"
        what = "pulleys, belt or gears" if kind == "drive" else "motor mount"
        return message(
            "The motor is {where}, so there are no {what} to choose or pay for. Another motor brings them back.",
            where=where,
            what=what,
        )
    return None


_OF_BELTS = ("pitch_mm", "belt_width_mm", "belt_teeth", "idler", "pulley_material")
_OF_PULLEYS = (
    *_OF_BELTS,
    "motor_teeth",
    "wheel_teeth",
    "mount_profile",
    "mount_angle_deg",
    "motor_place",
    "wheel_core",
    "pulley_fixing",
    "bore_mm",
)
_OF_BRICKS = ("bricks", "weakest_brick_ah")
_BOXED_KNOWS = ("cells_in_series", "ride_mode", "directions")
"""What can be set in a boxed controller: by a solder jumper, by its remote, by swapping two wires."""


def fields_not_of(build: Build) -> list[str]:
    """Fields that a board like this has no use for; each kind and layout has its own."""
    parts, found = build.parts, list[str]()
    kind = drive_kind(build)
    if parts.motors is not None or (parts.drive is not None and parts.drive.kind is not None):
        if not has_pulleys(build):
            found += [f"parts.drive.{key}" for key in _OF_PULLEYS] + ["parts.motors.shaft_mm"]
        elif kind in ("gear", "chain"):
            found += [f"parts.drive.{key}" for key in (_OF_BELTS if kind == "gear" else _OF_BELTS[1:3])]
    if parts.mount is not None:
        found += [f"parts.drive.{key}" for key in ("mount_profile", "mount_angle_deg", "idler")]
    controller = parts.controller
    if controller is not None and controller.programmable is False:
        found += [f"settings.{key}" for key in type(build.settings).model_fields if key not in _BOXED_KNOWS]
        found += ["parts.controller.max_erpm"]
    elif controller is not None and controller.programmable:
        found += ["settings.ride_mode", "parts.controller.fixed_cells"]
    pack = parts.pack
    if pack is not None and pack.layout in ("flat", "stacked"):
        found += [f"parts.pack.{key}" for key in _OF_BRICKS]
    if parts.second_enclosure is None:
        found += ["parts.enclosure.holds"]
    deck = parts.deck
    if deck is not None:
        found += [] if deck.routed_mm else ["parts.deck.routed_length_mm", "parts.deck.routed_width_mm"]
        found += [] if deck.ends_deg else ["parts.deck.bend_mm"]
    return found
