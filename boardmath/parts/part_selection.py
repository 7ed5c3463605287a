"""Choosing a part of the library for a build: what of the old choice stays, and what else changes with it."""

from typing import Any

from boardmath.buildfile.build import Build, Parts
from boardmath.buildfile.buying import LeftOver
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Controller, Pack, Protection
from boardmath.buildfile.figures import Part
from boardmath.buildfile.kits import Kit, KitContents
from boardmath.buildfile.settings import Settings
from boardmath.model.inputs import full_voltage, gear_ratio
from boardmath.model.limits import gear_known, recommended_taper, rolling_diameter
from boardmath.parts.cost import PLACED, Priced, priced_parts
from boardmath.parts.part_types import KINDS, kind_of

# What belongs to the build rather than to the thing that is bought, and so survives another choice.
_KEPT: dict[str, tuple[str, ...]] = {
    "motors": ("count",),
    "drive": ("driven_wheels", "motor_place"),
    "pack": ("charge_to_v", "place", "spares"),
    "controller": ("units",),
    "enclosure": ("place", "holds", "back_mm", "bed_length_mm", "bed_width_mm"),
    "second_enclosure": ("place", "holds", "back_mm", "bed_length_mm", "bed_width_mm"),
}
_OF_THE_PURCHASE = ("purchase", "owned", "kit")

_WITHOUT_GEARING = {"hub": "No pulleys: the motor is the wheel", "direct": "No pulleys: the motor is on the axle"}


def with_part(build: Build, kind: str, part: Part) -> Build:
    """The build with ``part`` chosen for its ``kind``; nothing else is touched but what the choice decides.

    A motor in the hub or on the axle takes the pulleys away; one with a can asks for its belt back. A kit brings all that is in
    it. What a controller was set to by the old part follows the new one. A part that was bought and is replaced is not
    forgotten: it is left over.
    """
    if kind == "kit":
        assert isinstance(part, Kit)
        return _following(build, _with(build, **_kit(build.parts, part)))
    return _following(build, _with(build, **_chosen(build.parts, kind, part)))


def _chosen(parts: Parts, kind: str, part: Part) -> dict[str, Any]:
    """What choosing one part changes among the parts."""
    if KINDS[kind].several:
        name = KINDS[kind].path.split(".")[1]
        return {name: [*(getattr(parts, name) or []), part]}
    if kind in ("cell", "protection"):
        assert isinstance(part, Cell | Protection)
        return {"pack": (parts.pack or Pack(parallel=1)).model_copy(update={kind: part})}
    old = getattr(parts, kind)
    keys = _KEPT.get(kind, ())
    if old is not None and (old.name, old.maker) == (part.name, part.maker):
        keys = (*keys, *_OF_THE_PURCHASE)  # the same thing chosen again is not another purchase
    kept = {key: getattr(old, key) for key in keys if old is not None and getattr(part, key) is None}
    if isinstance(part, Pack) and isinstance(old, Pack):
        kept |= _guard(old, part)
    chosen = part.model_copy(update=kept)
    changed: dict[str, Any] = {kind: chosen}
    if isinstance(chosen, Motors):
        if chosen.count is None:
            changed[kind] = chosen = chosen.model_copy(update={"count": 1})
        changed |= _drive_for(chosen, parts.drive)
    if isinstance(chosen, Controller) and chosen.units is None:
        changed[kind] = chosen.model_copy(update={"units": 1})
    return changed


def _guard(old: Pack, new: Pack) -> dict[str, Any]:
    """A protection board that was bought by itself stays with another pack of as many cells of one chemistry; how far the
    cells are charged stays only where they are of one chemistry.
    """
    one, other = old.cell or Cell(), new.cell or Cell()
    alike = (one.chemistry or "nmc") == (other.chemistry or "nmc")
    kept: dict[str, Any] = {}
    if not alike and new.charge_to_v is None:
        kept["charge_to_v"] = None
    guard = old.protection
    if new.protection is None and guard is not None and guard.name is not None and alike and old.series == new.series:
        kept["protection"] = guard
    return kept


def _drive_for(motors: Motors, drive: Drive | None) -> dict[str, Any]:
    if motors.kind in ("hub", "direct"):
        return {"drive": without_pulleys(motors, drive.driven_wheels if drive else None), "mount": None}
    if drive is not None and drive.kind in ("hub", "direct"):
        return {"drive": Drive(kind="belt", driven_wheels=drive.driven_wheels)}
    return {}


def for_motors(controller: Controller, motors: int) -> Controller:
    """As many controllers as so many motors need."""
    return controller.model_copy(update={"units": -(-motors // (controller.motors or 1))})


def without_pulleys(motors: Motors, driven_wheels: int | None) -> Drive:
    """The drive of motors that need none; ``motors`` are in the hub or on the axle."""
    assert motors.kind in ("hub", "direct")
    return Drive(name=_WITHOUT_GEARING[motors.kind], kind=motors.kind, driven_wheels=driven_wheels)


def _kit(parts: Parts, kit: Kit) -> dict[str, Any]:
    """The kit on the list, and what is in it on the board; the same kit again is not another one."""
    for name in KitContents.model_fields:
        part = getattr(kit.contents, name) if kit.contents else None
        if part is not None:
            own = part.model_copy(update={"kit": kit.name, "price": None, "currency": None})
            parts = parts.model_copy(update=_chosen(parts, name, own))
    bought = kit.model_copy(update={"contents": None})
    others = [k for k in parts.kits or [] if (k.name, k.maker) != (kit.name, kit.maker)]
    same = next((k for k in parts.kits or [] if (k.name, k.maker) == (kit.name, kit.maker)), None)
    parts = parts.model_copy(update={"kits": [*others, same or bought]})
    return {name: getattr(parts, name) for name in Parts.model_fields}


def with_parts(build: Build, parts: Parts) -> Build:
    """The build with other parts altogether, as a proposal has them; what was bought and is not among them is left over.

    Taking a kit off the list takes off what came in it.
    """
    kits = {k.name for k in parts.kits or []}
    gone = [
        name
        for name in Parts.model_fields
        if isinstance(part := getattr(parts, name), Part) and part.kit is not None and part.kit not in kits
    ]
    parts = parts.model_copy(update=dict.fromkeys(gone))
    return _following(build, _with(build, **{name: getattr(parts, name) for name in Parts.model_fields}))


def _following(before: Build, after: Build) -> Build:
    """What the controller was set to for the old parts, set for the new ones: cells and cut-off, pole pairs, gear and wheel.

    Only what was set at all, and only what was right for the old part: what somebody set otherwise is his own.
    """
    said, changes = before.settings, dict[str, float | int | None]()
    old, new = before.parts, after.parts
    if old.pack is not None and new.pack is not None and old.pack.series and new.pack.series:
        changes |= _for_the_pack(said, old.pack, new.pack)
    pairs = [p.motors.pole_pairs if p.motors else None for p in (old, new)]
    if said.pole_pairs is not None and said.pole_pairs == pairs[0] and pairs[1]:
        changes["pole_pairs"] = pairs[1]
    if said.gear_ratio is not None and gear_known(before) and gear_known(after):
        ratios = gear_ratio(before), gear_ratio(after)
        if abs(said.gear_ratio - ratios[0]) < 0.01 * ratios[0]:
            changes["gear_ratio"] = round(ratios[1], 4)
    rolling = rolling_diameter(before), rolling_diameter(after)
    if said.wheel_diameter_mm is not None and rolling[0] and rolling[1]:
        scale = said.wheel_diameter_mm / rolling[0]
        if abs(scale - 1.0) < SET_FOR:
            changes["wheel_diameter_mm"] = round(scale * rolling[1], 1)
    changes = {key: value for key, value in changes.items() if value != getattr(said, key)}
    return after.model_copy(update={"settings": said.model_copy(update=changes)}) if changes else after


SET_FOR = 0.06
"""Share by which a wheel set in the controller may lie off the board's own and still be meant to be it."""


def _for_the_pack(said: Settings, old: Pack, new: Pack) -> dict[str, float | int | None]:
    """Of another pack: its cells, the cut-off that its chemistry asks for, and the ceiling at the same share of full."""
    changes: dict[str, float | int | None] = {}
    if said.cells_in_series is not None and said.cells_in_series == old.series:
        changes["cells_in_series"] = new.series
    full = full_voltage(old), full_voltage(new)
    if (old.series, *recommended_taper(old)) == (new.series, *recommended_taper(new)):
        return changes
    if said.taper_end_v is not None or said.taper_start_v is not None:
        start, end = recommended_taper(new)
        if said.taper_start_v is not None:
            changes["taper_start_v"] = start
        if said.taper_end_v is not None:
            changes["taper_end_v"] = end
    if said.regen_ceiling_v is not None and full[0] > 0.0:
        changes["regen_ceiling_v"] = round(said.regen_ceiling_v / full[0] * full[1], 1)
    return changes


def _with(build: Build, **changed: Any) -> Build:
    parts: Parts = build.parts.model_copy(update=changed)
    after = _remembering(build, build.model_copy(update={"parts": parts}))
    placed = [p for p in priced_parts(build) if p.state in PLACED]
    still = [_same_thing(p) for p in priced_parts(after)] if placed else []
    gone = [p for p in placed if _same_thing(p) not in still]
    if not gone:
        return after
    return after.model_copy(update={"left_over": [*(build.left_over or []), *(_left_over(p) for p in gone)]})


def _remembering(before: Build, after: Build) -> Build:
    """On a board that was there before, what is replaced is remembered as it was: the board was weighed with it."""
    known = before.existing
    if known is None:
        return after
    was = known.was or Parts()
    gone = {
        name: old
        for name in Parts.model_fields
        if isinstance(old := getattr(before.parts, name), Part)
        and old.owned
        and getattr(was, name) is None
        and _thing(old) != _thing(getattr(after.parts, name))
    }
    if not gone:
        return after
    return after.model_copy(update={"existing": known.model_copy(update={"was": was.model_copy(update=gone)})})


def _thing(part: Part | None) -> tuple[str | None, str | None] | None:
    return None if part is None else (part.name, part.maker)


def _same_thing(line: Priced) -> tuple[str, str | None, str | None]:
    # A place in a list is no mark of a thing.
    place = ".".join(step for step in line.path.split(".") if not step.isdigit())
    return place, line.part.name, line.part.maker


def _left_over(line: Priced) -> LeftOver:
    bought = {name: getattr(line.part, name) for name in Part.model_fields if name not in ("measured", "kit")}
    return LeftOver(**bought, kind=kind_of(line.path) or "extra", count=line.count if line.count > 1 else None)
