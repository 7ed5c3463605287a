"""What a board of a search still lacks to be ridden: the cheapest of the library that fits, so that sums are of whole boards."""

from collections.abc import Mapping, Sequence
from typing import cast

from boardmath.buildfile import Build
from boardmath.buildfile.electrics import Charger, Pack
from boardmath.buildfile.figures import Part
from boardmath.checks.electrical import charger_voltage
from boardmath.checks.power_path import charging_current
from boardmath.model.defaults import USUAL
from boardmath.parts.cost import Exchanger, Priced

ALIKE = ("deck", "trucks", "remote")
"""Slots that are filled with the same part on every board; a charger follows from each board's pack."""


def completed(build: Build, library: Mapping[str, Sequence[Part]], left_open: Sequence[str]) -> dict[str, Part]:
    """For each slot of :data:`ALIKE` that is neither chosen nor open the cheapest part of the library.

    Args:
        left_open: slots that the search itself fills.
    """
    found: dict[str, Part] = {}
    for slot in ALIKE:
        if getattr(build.parts, slot) is not None or slot in left_open:
            continue
        parts = library.get(slot, ())
        if slot == "trucks":
            # Two motors do not fit beside each other on narrow ones, however cheap.
            wide = [p for p in parts if (getattr(p, "hanger_mm", None) or 0.0) >= USUAL["trucks.hanger_mm"]]
            parts = wide or parts
        if (part := _cheapest(build, slot, parts)) is not None:
            found[slot] = part
    return found


_CHARGED_BY = {"series", "parallel", "layout", "bricks", "brick_sets", "charge_to_v", "protection", "cell"}
"""What of a pack decides which charger is for it."""


def chargers(build: Build, library: Mapping[str, Sequence[Part]], packs: Sequence[Pack | None]) -> list[Charger | None]:
    """For each pack the cheapest charger that charges it as it should; the one that is chosen, where one is."""
    if build.parts.charger is not None:
        return [build.parts.charger] * len(packs)
    offered = [c for c in library.get("charger", ()) if isinstance(c, Charger) and c.v is not None]
    known: dict[str, Charger | None] = {}
    found: list[Charger | None] = []
    for pack in packs:
        if pack is None or pack.series is None:
            found.append(None)
            continue
        key = pack.model_dump_json(include=_CHARGED_BY)
        if key not in known:
            fits = [charger for charger in offered if _charges(build, pack, charger)]
            known[key] = cast(Charger | None, _cheapest(build, "charger", fits))
        found.append(known[key])
    return found


def _charges(build: Build, pack: Pack, charger: Charger) -> bool:
    """Whether nothing is found against charging a pack with a charger."""
    parts = build.parts.model_copy(update={"pack": pack, "charger": charger})
    tried = build.model_copy(update={"parts": parts})
    return not any(list(check(tried)) for check in (charger_voltage, charging_current))


def _cheapest(build: Build, slot: str, parts: Sequence[Part]) -> Part | None:
    """The part of the lowest price in the build's currency; None where none has a price that can be told."""
    exchange = Exchanger(build)
    priced = [(amount, i) for i, p in enumerate(parts) if (amount := exchange.of(Priced(f"parts.{slot}", p, 1)))]
    return parts[min(priced)[1]] if priced else None
