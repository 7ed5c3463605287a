"""What was measured while building, judged at once against the plan's number, and what the model learns from it.

Tolerances are common practice, no source, unless one stands beside them.
"""

from collections.abc import Callable, Mapping
from math import degrees

from scipy.optimize import brentq

from boardmath.buildfile.build import Build
from boardmath.geometry.enclosures import boxes, enclosure_bolts
from boardmath.geometry.shapes import View
from boardmath.geometry.stance import deck_height, lean, lowest_under
from boardmath.geometry.transmission import motor_angle
from boardmath.geometry.views.rear import BITE_ROOM, motor_room, wheel_room
from boardmath.messages import message
from boardmath.model.inputs import marked
from boardmath.model.mass import board_mass, resolve_masses
from planner.assembly.dry_fit import GAPS
from planner.assembly.measuring_drive import Values, centre, line, mark, plate, tension
from planner.assembly.pictures import belt_line_picture, board_picture, foam_picture
from planner.shared.picture import Mark, Picture, circle
from planner.shared.step import Change, Judged, Step

PLAY = (0.0, 0.4)
"""mm between the core's spokes and the pulley's lug: binds below, hammers itself wide above."""
PLAY_TO_MAKE = 0.1
LEAN_READ_DEG, GROUND_READ_MM, BOARD_READ_KG = 0.5, 8.0, 0.2
"""What a phone's level, a ruler on the ground and a bathroom scale are off by."""
MASS_SPAN = 0.12
"""Share by which a part may weigh otherwise than a listing says before anybody wonders."""


def judge(build: Build, step: Step, values: Values) -> Judged:
    """What was entered at a step; open where nothing was, or not enough of it."""
    by = _JUDGES.get(step.id.removesuffix("-second"))
    if by is None or not values:
        return Judged()
    return by(marked(build), step, values)


def picture(build: Build, step: Step, measured: Mapping[str, Values]) -> Picture | None:
    """The step's drawing with what was measured in it; the foam is cut from the gaps of the dry fit."""
    values = measured.get(step.id, {})
    if step.id == "belt-line" and "near-1" in values and "far-1" in values:
        first = {key: values[key] for key in ("near-1", "far-1")}
        right = line(build, step, first).verdict == "right"
        return belt_line_picture(build, first["near-1"], first["far-1"], "right" if right else "wrong")
    if step.id.startswith("foam"):
        gaps = _gaps(build, step.id, measured.get(step.id.replace("foam", "dry-box"), {}))
        return foam_picture(gaps) or step.picture
    if (view := _SEEN.get(step.id.removesuffix("-second"))) is not None:
        drawn = board_picture(build, view)
        holes = _holes(build, step.id) if step.id.startswith("box-holes") else []
        return drawn.model_copy(update={"marks": [*drawn.marks, *holes]})
    return step.picture


def _holes(build: Build, id: str) -> list[Mark]:
    """Where a box is screwed on, seen from underneath."""
    boxed = next((b for b in boxes(build) if (b.name != "enclosure") is id.endswith("-second")), None)
    return [circle("wrong", x, y, 5.0) for x, y in enclosure_bolts(build, boxed)] if boxed is not None else []


_SEEN: dict[str, View] = {
    "dry-trucks": "side",
    "dry-mount": "drive",
    "dry-motor": "drive",
    "dry-belt": "drive",
    "lean": "behind",
    "dry-box": "side",
    "box-holes": "under",
    "controller-in": "under",
}
"""Steps at which the board itself is looked at, and from where."""


def _weighed(build: Build, step: Step, values: Values) -> Judged:
    masses = resolve_masses(build)
    changes: dict[str, Change] = {}
    odd = []
    for kind, grams in values.items():
        part = getattr(build.parts, kind, None)
        if part is None:
            continue
        counted = part.mass_g
        if counted is None and kind in masses:
            count = (part.count or 1) if kind == "motors" else 1
            counted = masses[kind].value / count
        if counted and abs(grams / counted - 1.0) > max(MASS_SPAN, 1.28 * masses[kind].spread):
            odd.append((kind, grams, counted))
        if part.mass_g != grams or "mass_g" not in (part.measured or ()):
            changes |= {f"parts.{kind}.mass_g": grams, **mark(build, f"parts.{kind}.mass_g")}
    if not odd:
        return Judged(verdict="right", said=message("As heavy as planned."), changes=changes)
    kind, grams, counted = odd[0]
    said = message(
        "{kind}: {grams}, planned {counted}.",
        grams=(grams, "mass"),
        counted=(counted, "mass"),
        kind=kind.replace("_", " ").capitalize(),
    )
    return Judged(
        verdict="unsure",
        said=said,
        remedy=message("Did you weigh it twice? Then your value is used; a seller's figure is often without screws."),
        changes=changes,
    )


def _core(build: Build, step: Step, values: Values) -> Judged:
    if "core" not in values or "lug" not in values:
        return Judged()
    play = values["core"] - values["lug"]
    if play < PLAY[0]:
        return Judged(
            verdict="wrong",
            said=message("The lug is {more} wider than its gap.", more=(-play, "thickness")),
            remedy=message(
                "Trim {off} off the lug, half on either side; mark the depth first. Never cut the spokes of the wheel.",
                off=(-play + PLAY_TO_MAKE, "thickness"),
            ),
        )
    if play > PLAY[1]:
        return Judged(
            verdict="unsure",
            said=message("{play} of play.", play=(play, "thickness")),
            remedy=message(
                "It will wear itself looser with every braking. Shim it all round, or use a pulley made for this core."
            ),
        )
    return Judged(verdict="right", said=message("It fits, with {play} of play.", play=(play, "thickness")))


def _leaned(build: Build, step: Step, values: Values) -> Judged:
    changes: dict[str, Change] = {}
    if (
        "lean" in values
        and abs(values["lean"] - degrees(lean(build))) > LEAN_READ_DEG
        and build.parts.trucks is not None
    ):
        changes |= {"parts.trucks.lean_deg": values["lean"], **mark(build, "parts.trucks.lean_deg")}
    rooms = [(name, values[key]) for key, name in (("motor", "motor"), ("wheel", "wheel")) if key in values]
    if "motor" in values:
        changes |= _angle_for(build, values["motor"])
    if not rooms:
        return Judged(changes=changes, verdict="right" if changes else "open")
    name, least = min(rooms, key=lambda r: r[1])
    plan = {"motor": motor_room(build), "wheel": wheel_room(build)}[name]
    against = (plan, "length") if plan is not None else None
    said = message(
        "{least} between {part} and deck" + (", planned {plan}." if against else "."),
        least=(least, "length"),
        part=name,
        plan=against,
    )
    if least <= 0.0:
        fix = (
            "turn the plate down, use taller risers, or a shorter belt."
            if name == "motor"
            else "use taller risers, or harder bushings."
        )
        return Judged(
            verdict="wrong",
            said=message("The {name} touches the deck.", name=name),
            remedy=message("Do not ride it like this: {fix}", fix=fix),
            changes=changes,
        )
    if least < BITE_ROOM:
        return Judged(
            verdict="unsure",
            said=said,
            remedy=message(
                "Bushings get softer and potholes press further: {more} more is needed.",
                more=(BITE_ROOM - least, "length"),
            ),
            changes=changes,
        )
    return Judged(verdict="right", said=said, changes=changes)


def _angle_for(build: Build, measured: float) -> dict[str, Change]:
    """The mount's angle at which the drawing has the motor as far from the deck as it was measured, where it has it elsewhere."""
    planned = motor_room(build)
    path = "mount.angle_deg" if build.parts.mount is not None else "drive.mount_angle_deg"
    holder, key = path.split(".")
    part = getattr(build.parts, holder)
    if planned is None or part is None or abs(planned - measured) <= BITE_ROOM:
        return {}

    def off(angle: float) -> float:
        changed = part.model_copy(update={key: angle})
        room = motor_room(build.model_copy(update={"parts": build.parts.model_copy(update={holder: changed})}))
        return (room or 0.0) - measured

    now = degrees(motor_angle(build))
    low, high = max(now - 25.0, -60.0), min(now + 25.0, 90.0)
    if off(low) * off(high) > 0.0:
        return {}
    return {f"parts.{path}": round(float(brentq(off, low, high, xtol=0.01)), 1)} | mark(build, f"parts.{path}")


def _box_held(build: Build, step: Step, values: Values) -> Judged:
    gaps = _gaps(build, step.id, values)
    changes: dict[str, Change] = {}
    known = build.parts.deck.curve if build.parts.deck is not None else None
    # An underside that was measured in more places tells more than these.
    if len(gaps) >= 3 and len(known or ()) <= GAPS:
        changes["parts.deck.curve"] = _curve(build, step, gaps)
    said = None
    if gaps:
        widest = max(gap for _, gap in gaps)
        said = message("The widest gap is {gap}; cut the foam to it.", gap=(widest, "length"))
    plan = next((c.plan for c in step.checks if c.id == "ground"), None)
    if plan is not None and "ground" in values and values["ground"] < plan - GROUND_READ_MM:
        return Judged(
            verdict="unsure",
            said=message(
                "{room} to the ground, planned {plan}.", room=(values["ground"], "length"), plan=(plan, "length")
            ),
            remedy=message(
                "Wheels on, nobody on board? Then measure wheels, risers and enclosure again: kerbs will hit it."
            ),
            changes=changes,
        )
    return Judged(verdict="right", said=said or message("Compared with the plan."), changes=changes)


def _gaps(build: Build, id: str, values: Values) -> list[tuple[float, float]]:
    """Places along the deck, from the nose, and the gap over the box there, as measured."""
    second = id.endswith("-second")
    boxed = next((b for b in boxes(build) if (b.name != "enclosure") is second), None)
    if boxed is None:
        return []
    return [
        (boxed.span[0] + boxed.length * (n - 0.5) / GAPS, values[f"gap-{n}"])
        for n in range(1, GAPS + 1)
        if f"gap-{n}" in values
    ]


def _curve(build: Build, step: Step, gaps: list[tuple[float, float]]) -> Change:
    """The underside as measured: where the box touches it hangs as low as the drawing has it there, elsewhere by the gap less."""
    at_the_mounts = deck_height(build)
    low = at_the_mounts - lowest_under(build, gaps[0][0], gaps[-1][0])
    least = min(gap for _, gap in gaps)
    hollow = build.parts.deck.concave_mm if build.parts.deck is not None else None
    points: list[dict[str, float]] = []
    for x, gap in gaps:
        point = {"at_mm": round(x, 1), "below_mm": round(low - (gap - least), 1)}
        if hollow is not None:
            point["hollow_mm"] = hollow
        points.append(point)
    return points


def _spun(build: Build, step: Step, values: Values) -> Judged:
    least = next((c.low for c in step.checks if c.id == "spin"), None)
    if "spin" not in values or least is None:
        return Judged()
    said = message("It spins for {s}.", s=(values["spin"], "seconds"))
    if values["spin"] >= least:
        return Judged(verdict="right", said=said)
    verdict = "wrong" if values["spin"] < least / 3.0 else "unsure"
    return Judged(
        verdict=verdict,
        said=said,
        remedy=message(
            "Turn the nut back by an eighth. Is the spacer in? Are both bearings flush? New bearings loosen a "
            "little with grease."
        ),
    )


def _whole_board(build: Build, step: Step, values: Values) -> Judged:
    if "board" not in values:
        return Judged()
    plan = board_mass(build.model_copy(update={"weighed_kg": None}), resolve_masses(build))
    changes: dict[str, Change] = {} if build.weighed_kg == values["board"] else {"weighed_kg": values["board"]}
    off = values["board"] - plan.value
    said = message("{board}, planned {plan}.", board=(values["board"], "body_mass"), plan=(plan.value, "body_mass"))
    if abs(off) <= max(2.0 * plan.spread * plan.value, BOARD_READ_KG):
        return Judged(verdict="right", said=said, changes=changes)
    return Judged(
        verdict="unsure",
        said=said,
        remedy=message(
            "More than the parts can account for: was everything on it, and nothing else? Your value is used."
        ),
        changes=changes,
    )


_JUDGES: dict[str, Callable[[Build, Step, Values], Judged]] = {
    "weigh-parts": _weighed,
    "pulley-core": _core,
    "lean": _leaned,
    "dry-box": _box_held,
    "dry-belt": centre,
    "free-wheels": _spun,
    "motor": plate,
    "belt-line": line,
    "belt-tension": tension,
    "weigh": _whole_board,
}
"""By the step; a second box's has the same with a suffix."""
