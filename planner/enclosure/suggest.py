"""The box that a board needs: as shallow as what goes into it lets it be, in the room that deck and trucks leave."""

from math import ceil

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Enclosure
from boardmath.geometry.enclosures import DECK_EDGE, FLANGE, FLUSH, boxes, gap_under_curves, room, stowed
from boardmath.geometry.stance import deck_of
from boardmath.model.defaults import USUAL

DEPTHS = range(20, 92, 2)
"""mm of depth that are tried, the shallowest first: every one of them is lost to the road."""
STEP = 5.0
"""mm to which a box's length and width are rounded."""
NARROWER = (0.0, 30.0, 60.0)
"""mm off the widest box that are tried in turn where turned wheels are in its way; coarse, it is somebody's to alter."""
NARROWEST = 80.0
"""mm: a 21700 lying across in its sleeve, and two walls."""
SECOND_LENGTH = 160.0
"""mm of a second box to begin with: a controller and its wires (from memory)."""


def suggested(build: Build) -> Enclosure | None:
    """A box for what the build has chosen; None where there is nothing to put into it yet, or nothing that deep goes under.

    As wide as the deck leaves it with its rim; where turned wheels take too much of the length from a wide one, narrower.
    """
    deck = deck_of(build)
    widest = (deck.width_mm or USUAL["deck.width_mm"]) - 2.0 * (FLANGE + DECK_EDGE)
    for depth in DEPTHS:
        for less in NARROWER:
            found = _as_short_as_may_be(build, STEP * int((widest - less) / STEP), float(depth))
            if found is not None:
                return found
    return None


def another(build: Build) -> Enclosure | None:
    """A second box beside the one there is, to begin with; None where there is none, or there are two."""
    first = build.parts.enclosure
    if first is None or build.parts.second_enclosure is not None:
        return None
    alike = {key: getattr(first, key) for key in ("width_mm", "depth_mm", "seat", "material", "wall_mm")}
    return Enclosure(**alike, length_mm=SECOND_LENGTH)


def _as_short_as_may_be(build: Build, width: float, depth: float) -> Enclosure | None:
    if width < NARROWEST:
        return None
    old = build.parts.enclosure
    kept = old.model_dump(include={"bed_length_mm", "bed_width_mm", "material", "wall_mm"}) if old else {}
    trial = Enclosure(**{"material": "petg", **{k: v for k, v in kept.items() if v is not None}})
    trial = trial.model_copy(update={"width_mm": width, "depth_mm": depth, "name": "Own box"})
    trial = trial.model_copy(update={"length_mm": deck_of(build).length_mm or USUAL["deck.length_mm"]})

    def placed(box: Enclosure) -> Build:
        return build.model_copy(
            update={"parts": build.parts.model_copy(update={"enclosure": box, "second_enclosure": None})}
        )

    start, end = room(placed(trial))
    inside = stowed(placed(trial))
    if not inside or inside[0][1].too_deep is not None or inside[0][1].too_wide is not None:
        return None
    length = STEP * ceil((inside[0][1].needed_length + 2.0 * boxes(placed(trial))[0].wall) / STEP)
    if length > end - start:
        return None
    box = trial.model_copy(update={"length_mm": length})
    gap = sum(gap_under_curves(placed(box), boxes(placed(box))[0]))
    holds = old.holds if old else None
    return box.model_copy(update={"seat": "moulded" if gap > FLUSH else "gasket", "holds": holds})
