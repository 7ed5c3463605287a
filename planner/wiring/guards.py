"""What guards the cells against what, in this wiring; where nothing does, a finding with its fix."""

from collections.abc import Callable
from typing import Literal

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.checks.cells import polymer_balance
from boardmath.checks.finding import Finding, finding, fix
from boardmath.checks.power_path import STANDARD_FUSES, no_fuse, only_guard
from boardmath.geometry.cell_links import drive_current
from boardmath.messages import Message, message
from boardmath.model.inputs import cell_voltages

Against = Literal["short", "emptying", "overcharge", "over_current", "heat", "reversed"]
Guardian = Literal[
    "fuse",
    "BMS",
    "controller's cut-off",
    "controller's current limit",
    "balance charger",
    "sensor at the cells",
    "keyed connectors",
]


class Guard(BaseModel):
    """What guards against one thing; ``gap`` where nothing does, with the finding that says what to do."""

    against: Against
    title: str
    by: list[Guardian]
    gap: bool
    message: Message
    finding: Finding | None = None


def guards(build: Build) -> list[Guard]:
    """One after the other in the order of danger; empty without a pack."""
    pack = build.parts.pack
    if pack is None or pack.series is None:
        return []
    return [judge(build, pack) for judge in _JUDGES]


def _in_path(pack: Pack) -> bool:
    return pack.protection is not None and pack.protection.in_drive_path is not False


def _short(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = []
    if build.parts.fuse is not None:
        by.append("fuse")
    if _in_path(pack):
        by.append("BMS")
    told = (
        "A chafed wire or a dropped spanner draws hundreds of amperes until something breaks the circuit. That has "
        "to be at the pack."
    )
    return _guard("short", "A short", by, told, next(no_fuse(build), None) if not by else None)


def _emptying(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = []
    if _in_path(pack):
        by.append("BMS")
    programmable = build.parts.controller is not None and build.parts.controller.programmable is not False
    if build.settings.taper_end_v is not None or (build.parts.controller is not None and not programmable):
        by.append("controller's cut-off")
    found = next(only_guard(build), None) or finding(
        kind="emptying-unguarded",
        severity="danger",
        title="Nothing stops the discharge at empty",
        about=["pack", "controller"],
        fields=["parts.pack.protection.in_drive_path", "settings.taper_end_v"],
        message=message("Put a BMS in the drive path, or set a cut-off."),
    )
    return _guard(
        "emptying", "Emptying", by, "Cells discharged too far are ruined, and can burn when charged again.", found
    )


def _overcharge(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = []
    charger = build.parts.charger
    if pack.protection is not None:
        by.append("BMS")
    if charger is not None and charger.balance:
        by.append("balance charger")
    found = next(polymer_balance(build), None) or finding(
        kind="overcharge-unguarded",
        severity="danger",
        title="No protection for a single overcharged group",
        about=["pack", "charger"],
        fields=["parts.pack.protection", "parts.charger.balance"],
        message=message(
            "The charger sees {series} groups as one voltage; when they drift apart the smallest is charged "
            "past {full} while the sum looks right. Use a BMS that balances, or a balance charger, and "
            "watch it.",
            full=(cell_voltages(pack)[0], "voltage"),
            series=pack.series,
        ),
        fixes=[fix("The charger balances", {"parts.charger.balance": True})] if charger is not None else (),
    )
    return _guard("overcharge", "Overcharge", by, "Charged past full, a cell heats up from inside and can burn.", found)


def _over_current(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = []
    current = drive_current(build).current
    controller = build.parts.controller
    if build.settings.pack_current_a is not None or (
        controller is not None and controller.max_pack_current_a is not None
    ):
        by.append("controller's current limit")
    if build.parts.fuse is not None:
        by.append("fuse")
    if _in_path(pack) and pack.protection is not None and pack.protection.max_discharge_a is not None:
        by.append("BMS")
    size = next((a for a in STANDARD_FUSES if a >= current), STANDARD_FUSES[-1])
    found = finding(
        kind="over-current-unguarded",
        severity="warn",
        title="Nothing limits the current",
        about=["pack", "controller", "settings"],
        fields=["settings.pack_current_a", "parts.fuse.a"],
        message=message(
            "There is no limit in the controller, no fuse and no BMS: about {current} can flow, for as long as it is asked "
            "for. Add a fuse, and set a limit.",
            current=(current, "current"),
        ),
        fixes=[fix("Add a fuse of {a}", {"parts.fuse.a": size}, a=(size, "current"))],
    )
    return _guard(
        "over_current",
        "Over-current",
        by,
        "More current than cells, strips and wires bear heats all of them at once.",
        found,
    )


def _heat(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = ["sensor at the cells"] if pack.protection is not None and pack.protection.sensor else []
    found = finding(
        kind="heat-unguarded",
        severity="note",
        title="Nothing measures the cell temperature",
        about=["pack"],
        fields=["parts.pack.protection.sensor"],
        message=message(
            "There is no sensor between the cells, so neither a hot ride nor a hot charge stops by itself. Feel "
            "the enclosure at every stop and during charging, or use a BMS with a sensor."
        ),
        fixes=[fix("The BMS has a temperature sensor", {"parts.pack.protection.sensor": True})]
        if pack.protection is not None
        else (),
    )
    return _guard("heat", "Heat", by, "A hot cell heats its neighbours.", found)


_ONE_WAY = ("keyed", "polari", "one way")
"""What the name of a plug says that goes in one way round; of any other name nothing is taken for granted."""


def keyed(plug: str | None) -> bool:
    """Whether a plug is said to go in one way round only."""
    return plug is not None and any(word in plug.casefold() for word in _ONE_WAY)


def _reversed(build: Build, pack: Pack) -> Guard:
    by: list[Guardian] = ["keyed connectors"] if keyed(pack.plug) else []
    bullets = "bullet" in (pack.plug or "").casefold()
    loose = (
        "Bullet connectors fit either way round"
        if bullets
        else "It is not stated that the drive plug fits one way only"
    )
    found = finding(
        kind="polarity-unguarded",
        severity="note",
        title="Polarity can be reversed",
        about=["pack", "controller"],
        fields=["parts.pack.plug"],
        message=message(
            "{loose}: one moment of reversed polarity destroys the controller. Use one socket and one pin "
            "on each lead, or a keyed pair, and check with a meter, twice, before the first time.",
            loose=loose,
        ),
        fixes=[fix("Use a keyed pair", {"parts.pack.plug": "keyed pair", "parts.controller.plug": "keyed pair"})]
        if build.parts.controller is not None
        else (),
    )
    return _guard("reversed", "Wrong polarity", by, "A controller has no protection against it.", found)


def _guard(against: Against, title: str, by: list[Guardian], told: str, found: Finding | None) -> Guard:
    return Guard(against=against, title=title, by=by, gap=not by, message=message(told), finding=None if by else found)


_JUDGES: tuple[Callable[[Build, Pack], Guard], ...] = (_short, _overcharge, _emptying, _over_current, _reversed, _heat)
