"""A finding, and how grave it is."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import AcceptedFinding, Build
from boardmath.buildfile.controllers import controllers
from boardmath.buildfile.electrics import Pack
from boardmath.messages import Message, Title, as_message, message
from boardmath.model.limits import recommended_taper

Choice = int | float | str | bool | list[str]
"""What a field of the build file may be set to by a fix."""
FindingKind = Literal[
    "axle-length",
    "belt-length",
    "belt-mesh",
    "bolts-through",
    "box-contents",
    "box-length",
    "box-seat",
    "box-width",
    "boxes-overlap",
    "braking-above-full",
    "bricks-differ",
    "brief",
    "cannot-move",
    "cannot-start-on-hill",
    "cap-above-rule",
    "cap-below-brief",
    "cap-without-gearing",
    "capacity-beyond-size",
    "ceiling-on-a-descent",
    "cells-current",
    "cells-hot",
    "cells-unlabelled",
    "charge-port-current",
    "charge-port-open",
    "charge-stopped",
    "charger-cells",
    "charger-voltage",
    "charging-current",
    "connector-current",
    "controller-cells-mismatch",
    "controller-motors",
    "controller-voltage",
    "covered-motors",
    "cut-off-above-pack",
    "cut-off-too-low",
    "deck-hollow",
    "deck-routed",
    "detected-halls",
    "detected-kv",
    "detected-resistance",
    "detected-to-take",
    "detected-turned",
    "electrical-speed",
    "emptying-unguarded",
    "faster-than-local-rule",
    "first-second",
    "fixed-cells",
    "full-pack-brakes",
    "fuse-current",
    "fuse-wire",
    "ground-clearance",
    "groups-spread",
    "hanger-short",
    "heat-before-the-top",
    "heat-unguarded",
    "high-kv",
    "holes-close",
    "kit-twice",
    "late-rollback",
    "load-round-board",
    "load-some-cells",
    "load-voltage",
    "motor-current",
    "motor-power",
    "motor-deck",
    "motor-ground",
    "motors-side-by-side",
    "motors-unalike",
    "mount-profile",
    "no-brake",
    "no-cut-off",
    "no-disconnect",
    "no-fuse",
    "no-hall-sensors",
    "one-driven-wheel",
    "open-belts",
    "over-current-unguarded",
    "overcharge-unguarded",
    "pack-in-a-bag",
    "pack-worn",
    "packs-swapped",
    "plastic-pulley",
    "plugs",
    "polarity-unguarded",
    "polymer-balance",
    "protection-balance",
    "protection-ceiling",
    "protection-cells",
    "protection-current",
    "protection-cut-off",
    "pulley-ground",
    "quiet-cap-above-zone",
    "regen-current",
    "regen-protection",
    "rejected-built-in",
    "remote-hours",
    "remote-link",
    "salvaged-unmeasured",
    "shaft-bore",
    "small-hard-wheels",
    "smallest-group",
    "soft-wheels-direct",
    "speed-reads-wrong",
    "speed-to-spare",
    "standing-room",
    "strip-current",
    "strip-heat",
    "strip-rule",
    "switch-current",
    "switch-voltage",
    "lead-wrong",
    "too-few-cells",
    "trucks-beyond-deck",
    "unalike",
    "wheel-bite",
    "wheel-core",
    "wire-current",
    "wobble",
]
"""Everything that there is a finding on."""
Severity = Literal["danger", "stop", "warn", "note"]
"""danger: can hurt or burn; stop: will not work or not fit."""


@dataclass(frozen=True)
class Facts:
    """What findings read of the further results of a prediction."""

    held_grade_pct: float
    held_limit: str
    climb_m: float
    first_second_g: float
    full_pack_brake_grade_pct: float
    slip_grade_pct: float
    brakes_hold_up_to_v: float | None
    """V a cell up to which it may be charged for the brakes to hold the brief's hill from the start."""
    cells_c: float
    """The warmest that the cells get on the brief's ride."""
    pack_rms_a: float
    """Root mean square of the pack's current over the brief's ride."""


class Fix(BaseModel):
    """A choice that would fix a finding: what to call it, and the figures of the build file that it sets."""

    message: Message
    changes: dict[str, Choice]


class Finding(BaseModel):
    """Something to know about a build, with the parts it touches and the numbers compared.

    ``id`` is its kind, and of which one it speaks where there may be several; what is set aside is known by it.
    """

    id: str
    kind: FindingKind
    severity: Severity
    title: Title
    about: list[str]
    fields: list[str]
    text: str
    message: Message
    fixes: list[Fix] = []
    accepted: AcceptedFinding | None = None
    """The word with which the builder lets it stand."""


def fix(template: str, changes: dict[str, Choice], **values: tuple[float, str] | Message | str | int | None) -> Fix:
    """A fix by one choice; ``changes`` maps dotted paths to what they are set to."""
    return Fix(message=message(template, **values), changes=changes)


def can_be_set(build: Build) -> bool:
    """Whether the controller's currents can be set at all; a boxed one is as it is."""
    controller = build.parts.controller
    return controller is None or controller.programmable is not False


def less_pack_current(build: Build, amperes: float, otherwise: Sequence[Fix] = ()) -> list[Fix]:
    """The pack current of each controller, in whole amperes, that keeps the whole at ``amperes``.

    Args:
        otherwise: what fixes it where nothing can be set, as in a boxed controller.
    """
    if not can_be_set(build):
        return list(otherwise)
    each = float(int(amperes / controllers(build)))
    if each < 1.0:
        return list(otherwise)
    return [fix("Set the pack current to {each}", {"settings.pack_current_a": each}, each=(each, "current"))]


def taper_of(pack: Pack) -> Fix:
    """The taper that is recommended for a pack."""
    start, end = recommended_taper(pack)
    return fix(
        "End the cut-off at {end}", {"settings.taper_end_v": end, "settings.taper_start_v": start}, end=(end, "voltage")
    )


MOST_SOLD_A = 300.0
"""A, of fuses, switches, plugs and boards for packs of this size (from memory)."""


def bearing(build: Build, field: str, what: str, amperes: float) -> list[Fix]:
    """Another part that bears ``amperes``: the next ten above, as far as such parts are sold."""
    wanted = float(-(-amperes // 10.0) * 10.0)
    if wanted > MOST_SOLD_A:
        return []
    return [fix("Use {what} for {wanted}", {field: wanted}, wanted=(wanted, "current"), what=what)]


def less_regen(build: Build, amperes: float) -> list[Fix]:
    """The same for the current that braking puts into the pack, in half amperes."""
    each = int(2.0 * amperes / controllers(build)) / 2.0
    return [fix("Set it to {each}", {"settings.pack_regen_a": each}, each=(each, "current"))]


def finding(
    kind: FindingKind,
    severity: Severity,
    title: Message | str,
    about: list[str],
    fields: list[str],
    message: Message,
    fixes: Sequence[Fix] = (),
    of: str | None = None,
) -> Finding:
    """A finding whose plain text is its message's; ``of`` says which one, where there may be several of a kind."""
    return Finding(
        id=f"{kind}-{of}" if of else kind,
        kind=kind,
        severity=severity,
        title=as_message(title),
        about=about,
        fields=fields,
        text=message.text,
        message=message,
        fixes=list(fixes),
    )
