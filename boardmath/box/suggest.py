"""The box that a board needs: as shallow as what goes into it lets it be, in the room that deck and trucks leave."""

from math import ceil

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Enclosure
from boardmath.fit.box import DECK_EDGE, FLANGE, FLUSH, WALL, boxes, gap_under_curves, room, stowed
from boardmath.fit.stance import deck_of
from boardmath.usual import USUAL

DEPTHS = range(20, 92, 2)
"""mm of depth that are tried, the shallowest first: every one of them is lost to the road."""
STEP = 5.0
"""mm to which a box's length and width are rounded."""


def suggested(build: Build) -> Enclosure | None:
    """A box for what the build has chosen; None where there is nothing to put into it yet, or nothing that deep goes under.

    As wide as the deck leaves it with its rim; where turned wheels take too much of the length from a wide one, narrower.
    """
    deck = deck_of(build)
    widest = (deck.width_mm or USUAL["deck.width_mm"]) - 2.0 * (FLANGE + DECK_EDGE)
    for depth in DEPTHS:
        for width in (widest, widest - 30.0, widest - 60.0):
            found = _as_short_as_may_be(build, STEP * int(width / STEP), float(depth))
            if found is not None:
                return found
    return None


def _as_short_as_may_be(build: Build, width: float, depth: float) -> Enclosure | None:
    if width < 80.0:
        return None
    old = build.parts.enclosure
    kept = old.model_dump(include={"bed_length_mm", "bed_width_mm", "material", "wall_mm"}) if old else {}
    trial = Enclosure(**{"material": "petg", **{k: v for k, v in kept.items() if v is not None}})
    trial = trial.model_copy(update={"width_mm": width, "depth_mm": depth, "length_mm": 1200.0, "name": "Own box"})

    def placed(box: Enclosure) -> Build:
        return build.model_copy(
            update={"parts": build.parts.model_copy(update={"enclosure": box, "second_enclosure": None})}
        )

    start, end = room(placed(trial))
    inside = stowed(placed(trial))
    if not inside or inside[0][1].too_deep is not None or inside[0][1].too_wide is not None:
        return None
    wall = trial.wall_mm if trial.wall_mm is not None else WALL
    length = STEP * ceil((inside[0][1].needed_length + 2.0 * wall) / STEP)
    if length > end - start:
        return None
    box = trial.model_copy(update={"length_mm": length})
    gap = sum(gap_under_curves(placed(box), boxes(placed(box))[0]))
    return box.model_copy(update={"seat": "moulded" if gap > FLUSH else "gasket"})
