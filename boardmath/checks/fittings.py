"""The smaller parts: protection board, charge port, lights, covers, the remote's own cell, kits."""

from collections import Counter
from collections.abc import Iterator

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Finding, finding, fix
from boardmath.messages import message
from boardmath.model.defaults import MEAN_OF_CRUISE
from boardmath.model.inputs import cell_voltages, cruise_speed, drive_kind, full_voltage

VOLTS_APART = 0.15
"""Share by which a load's voltage may lie off the pack's (from memory: lamps for 12 V bear 10 to 15)."""
REMOTE_RESERVE = 1.5
"""Times the longest ride that a remote should last (from memory)."""


def protection_cells(build: Build) -> Iterator[Finding]:
    """A protection board made for another number of cells."""
    pack = build.parts.pack
    guard = pack.protection if pack else None
    if pack is None or guard is None or guard.series is None or pack.series is None or guard.series == pack.series:
        return
    yield finding(
        kind="protection-cells",
        severity="danger",
        title=message("BMS for {made_for} cells, pack has {series}", made_for=guard.series, series=pack.series),
        about=["pack"],
        fields=["parts.pack.protection.series", "parts.pack.series"],
        message=message(
            "A BMS for {made_for} cells has {leads} balance leads; {series} cells need {needed}. Groups that it does not "
            "see are overcharged and discharged too far. Use a BMS for {series}.",
            made_for=guard.series,
            leads=guard.series + 1,
            series=pack.series,
            needed=pack.series + 1,
        ),
        fixes=[fix("Use a BMS for {series} cells", {"parts.pack.protection.series": pack.series}, series=pack.series)],
    )


def protection_window(build: Build) -> Iterator[Finding]:
    """What a protection board lets through against what the cells bear: one made for another chemistry guards nothing."""
    pack = build.parts.pack
    guard = pack.protection if pack else None
    if pack is None or guard is None:
        return
    full, _, empty = cell_voltages(pack)
    if guard.ceiling_v is not None and guard.ceiling_v > full + BOARD_OVER_V:
        yield finding(
            kind="protection-ceiling",
            severity="danger",
            title="The BMS charges the cells too far",
            about=["pack"],
            fields=["parts.pack.protection.ceiling_v", "parts.pack.cell.full_v"],
            message=message(
                "It stops charging at {ends} a cell; these are full at {full}. Overcharged cells burn. Use a BMS "
                "for this chemistry.",
                ends=(guard.ceiling_v, "cell_voltage"),
                full=(full, "cell_voltage"),
            ),
            fixes=[
                fix(
                    "Use a BMS that stops at {full}",
                    {"parts.pack.protection.ceiling_v": full},
                    full=(full, "cell_voltage"),
                )
            ],
        )
    if guard.cut_off_v is not None and guard.cut_off_v < empty - BOARD_UNDER_V:
        yield finding(
            kind="protection-cut-off",
            severity="warn",
            title="The BMS discharges the cells too far",
            about=["pack"],
            fields=["parts.pack.protection.cut_off_v", "parts.pack.cell.empty_v"],
            message=message(
                "It disconnects below {opens} a cell; these are empty at {empty}. Make sure that the "
                "controller's cut-off comes first.",
                opens=(guard.cut_off_v, "cell_voltage"),
                empty=(empty, "cell_voltage"),
            ),
        )


BOARD_OVER_V, BOARD_UNDER_V = 0.08, 0.35
"""V by which boards made for cells of 4.2 V and 2.8 V end later than those: 4.25 and 2.5 are usual (from memory)."""


def nothing_balances(build: Build) -> Iterator[Finding]:
    """Welded cells that neither their board nor their charger balances."""
    pack, charger = build.parts.pack, build.parts.charger
    guard = pack.protection if pack else None
    if pack is None or guard is None or guard.balances is not False or (charger is not None and charger.balance):
        return
    yield finding(
        kind="protection-balance",
        severity="warn",
        title="Nothing balances the cells",
        about=["pack", "charger"],
        fields=["parts.pack.protection.balances", "parts.charger.balance"],
        message=message(
            "Neither the BMS nor the charger balances: groups drift apart over the months, and the first full "
            "one ends the charge for all. Use a BMS that balances, or bring a balance lead out."
        ),
        fixes=[fix("Use a BMS that balances", {"parts.pack.protection.balances": True})],
    )


def charge_port(build: Build) -> Iterator[Finding]:
    """The charge port against the charger, and against spray."""
    port, charger = build.parts.charge_port, build.parts.charger
    if port is None:
        return
    if port.max_a is not None and charger is not None and charger.a is not None and charger.a > port.max_a:
        yield finding(
            kind="charge-port-current",
            severity="warn",
            title="The charger overloads the charge port",
            about=["charge_port", "charger"],
            fields=["parts.charge_port.max_a", "parts.charger.a"],
            message=message(
                "It gives {gives} for hours through a port rated for {most}: the contacts get hot and soften the "
                "wall. Use a port rated for the charger.",
                gives=(charger.a, "current"),
                most=(port.max_a, "current"),
            ),
        )
    if build.brief.wet and port.cap is False:
        yield finding(
            kind="charge-port-open",
            severity="warn",
            title="The charge port has no cap",
            about=["charge_port"],
            fields=["parts.charge_port.cap"],
            message=message(
                "In the wet, spray bridges the open contacts of the pack: they corrode, and salt water shorts "
                "them. Use a port with a cap."
            ),
            fixes=[fix("Use one with a cap", {"parts.charge_port.cap": True})],
        )


def loads(build: Build) -> Iterator[Finding]:
    """Lights and other loads against what feeds them."""
    pack = build.parts.pack
    for i, load in enumerate(build.parts.loads or []):
        name = load.name or f"Load {i + 1}"
        if load.supply == "some_cells":
            yield finding(
                kind="load-some-cells",
                of=str(i),
                severity="danger",
                title=message("{name}: connected to only some cells", name=name),
                about=["pack", "load"],
                fields=[f"parts.loads.{i}.supply", "parts.pack.series"],
                message=message(
                    "It empties those cells alone, so the pack drifts apart and they are discharged too far "
                    "while the others still have charge. Feed it through a converter from the whole pack."
                ),
                fixes=[fix("Feed it through a converter", {f"parts.loads.{i}.supply": "converter"})],
            )
        direct = load.supply == "pack" and load.v is not None and pack is not None and pack.series is not None
        if not direct:
            continue
        assert pack is not None
        assert load.v is not None
        full = full_voltage(pack)
        nominal = (pack.series or 0) * cell_voltages(pack)[1]
        if full > load.v * (1.0 + VOLTS_APART) or nominal < load.v * (1.0 - VOLTS_APART):
            high = full > load.v
            yield finding(
                kind="load-voltage",
                of=str(i),
                severity="danger" if high else "stop",
                title=message("{name}: wrong voltage for the pack", name=name),
                about=["pack", "load"],
                fields=[f"parts.loads.{i}.supply", "parts.pack.series"],
                message=message(
                    "The pack has {full} when full; it is made for {volts}. "
                    + ("It burns out, and may damage more in the enclosure." if high else "It stays dark."),
                    full=(full, "voltage"),
                    volts=(load.v, "voltage"),
                ),
                fixes=[fix("Feed it through a converter", {f"parts.loads.{i}.supply": "converter"})],
            )


def remote_lasts(build: Build) -> Iterator[Finding]:
    """The remote's own cell against the brief's ride."""
    remote, way = build.parts.remote, build.brief.range_km
    if remote is None or remote.runtime_h is None or way is None:
        return
    hours = way / (build.brief.mean_kmh or MEAN_OF_CRUISE * cruise_speed(build))
    if remote.runtime_h >= REMOTE_RESERVE * hours:
        return
    yield finding(
        kind="remote-hours",
        severity="warn" if remote.runtime_h > hours else "stop",
        title="The remote is empty before the board",
        about=["remote"],
        fields=["parts.remote.runtime_h", "brief.range_km"],
        message=message(
            "Your ride takes about {ride}; the remote lasts {lasts} when new. An empty remote takes drive and "
            "brake away at once. Charge it every time with the board, or use one that lasts longer.",
            ride=(hours, "hours"),
            lasts=(remote.runtime_h, "hours"),
        ),
    )


def covers(build: Build) -> Iterator[Finding]:
    """Motors under covers, and belts in the open on rough ground."""
    parts, ground = build.parts, build.brief.surface
    if parts.motors is None:
        return
    over = parts.covers.over if parts.covers else None
    if over in ("motors", "both"):
        yield finding(
            kind="covered-motors",
            severity="note",
            title="Motor covers keep heat in",
            about=["motors", "covers"],
            fields=["parts.covers.over"],
            message=message(
                "A cover keeps out grit and air; the prediction counts a quarter less cooling. Leave it open to "
                "the wind."
            ),
        )
    if (
        drive_kind(build) == "belt"
        and parts.covers is None
        and (ground == "packed_gravel" or build.brief.use == "rough_ground")
    ):
        yield finding(
            kind="open-belts",
            severity="note",
            title="Open belts on gravel",
            about=["drive"],
            fields=["parts.covers.over"],
            message=message(
                "A stone between belt and pulley breaks teeth off both. Fit a cover, and carry a spare belt."
            ),
            fixes=[fix("Add belt covers", {"parts.covers.over": "belts"})],
        )


def kit_twice(build: Build) -> Iterator[Finding]:
    """The same kit on the list twice."""
    names = Counter(k.name for k in build.parts.kits or [] if k.name)
    for name, count in names.items():
        if count > 1:
            yield finding(
                kind="kit-twice",
                severity="warn",
                title="The same kit is listed twice",
                about=["kit"],
                fields=[f"parts.kits.{[k.name for k in build.parts.kits or []].index(name)}.name"],
                message=message(
                    "“{name}” is counted {count} times; the board needs it once. Remove one.", name=name, count=count
                ),
            )
