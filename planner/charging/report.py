"""Everything about charging a build: the charger's fit, the timetable, ceilings, storage, and the charges that were watched."""

from math import hypot
from statistics import NormalDist

import numpy as np
from pydantic import BaseModel

from boardmath.battery.charge_monitor import EVERY_MIN, MonitoredCharge, all_watched
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Charger, Pack
from boardmath.buildfile.pack_assembly import MOST_CHARGES, MOST_LOOKS
from boardmath.checks.electrical import charger_voltage
from boardmath.checks.finding import Finding
from boardmath.checks.fittings import charge_port, nothing_balances
from boardmath.checks.power_path import charging_current, plugs
from boardmath.messages import Message, message
from boardmath.model.bricks import brick_charging, brick_full_voltage, bricks_of, cells_of_bricks, charge_turns
from boardmath.model.cell_groups import LINE_UP_V
from boardmath.model.chemistry import chemistry_of, index_of
from boardmath.model.evaluation import HIGH, Evaluation, evaluate
from boardmath.model.inputs import cell_voltages, marked
from boardmath.model.resolution import Resolved
from boardmath.physics import cell as cells
from boardmath.prediction.charging import CHARGER_SPREAD, charge_course
from boardmath.predictor import life_of

BAND = NormalDist().inv_cdf(HIGH / 100.0)
"""Deviations to each side of what is shown as a band."""
STORED = 0.5
"""Charge at which a pack is put away (common practice, no source: half)."""
LOWER_V = (0.0, 0.05, 0.1, 0.2)
"""V a cell below full, of which each ceiling is shown."""
DAY_MIN = 24 * 60


class Turn(BaseModel):
    """One brick, or the whole block, on the charger: minutes of the day, and how many days before the one it has to be ready."""

    brick: int | None
    plug_in_min: int
    unplug_min: int
    days_before: int


class Timetable(BaseModel):
    """From one charge to another, to be ready by an hour. Minutes with an 80 % band; planned by the longer end."""

    from_pct: float
    to_pct: float
    low_min: float
    mid_min: float
    high_min: float
    ready_min: int
    turns: list[Turn]
    night: Message | None = None
    """Where nobody would be awake beside it."""


class Ceiling(BaseModel):
    """What charging to a voltage a cell gives: km of a day's ride, years until four fifths are left."""

    cell_v: float
    pack_v: float
    range_km: float
    years: float | None
    chosen: bool


class ChargingReport(BaseModel):
    """``needs`` says what has to be chosen before anything can be timed; ``groups`` are those in series of each brick, of a block
    all of them."""

    needs: list[Message]
    findings: list[Finding]
    charger: Message | None = None
    timetable: Timetable | None = None
    ceilings: list[Ceiling]
    storage: Message | None = None
    words: list[Message]
    every_min: float = EVERY_MIN
    groups: list[int] = []
    ceiling_v: float = 0.0
    most_charges: int = MOST_CHARGES
    most_looks: int = MOST_LOOKS
    charges: list[MonitoredCharge]


def charging_report(
    build: Build, from_pct: float | None = None, to_pct: float = 100.0, ready_min: int = 7 * 60 + 30
) -> ChargingReport:
    """Args:
    from_pct: charge now, the reserve where it is not said; to_pct: of what it is charged to; ready_min: minute of the day.
    """
    marked_build = marked(build)
    pack = build.parts.pack
    needs: list[Message] = []
    if pack is None or pack.series is None:
        needs.append(message("Choose a pack on the Design page."))
    charger = build.parts.charger
    if charger is None or charger.a is None:
        needs.append(message("Choose a charger with its current: the charging time needs it."))
    evaluation = Evaluation(build, 0)
    needs = needs or [message(n.reason) for n in evaluation.needs]
    findings = [
        f
        for judge in (charger_voltage, charging_current, charge_port, nothing_balances, plugs)
        for f in judge(marked_build)
        if f.kind != "plugs" or f.id.endswith("charging")
    ]
    report = ChargingReport(
        needs=needs, findings=findings, ceilings=[], words=_words(build), charges=all_watched(build)
    )
    if pack is None or pack.series is None:
        return report
    full = cell_voltages(pack)[0]
    update: dict[str, object] = {
        "storage": _storage(pack),
        "groups": cells_of_bricks(pack),
        "ceiling_v": pack.charge_to_v or full,
    }
    if charger is not None and charger.a is not None:
        update["charger"] = message(
            "{a} at {v}." if charger.v is not None else "{a}.",
            a=(charger.a, "current"),
            **({"v": (_set_to(charger, charger.v, pack), "voltage")} if charger.v is not None else {}),
        )
    if not evaluation.needs:
        update["ceilings"] = _ceilings(build, pack)
        update["timetable"] = _timetable(build, evaluation.calibrated, from_pct, to_pct, ready_min)
    return report.model_copy(update=update)


def _set_to(charger: Charger, volts: float, pack: Pack) -> float:
    """V at which a charger ends: a balance charger for more cells is set to those of a brick."""
    return min(volts, brick_full_voltage(pack)) if charger.balance else volts


def _storage(pack: Pack) -> Message:
    each = float(cells.open_circuit_voltage(index_of(pack.cell), STORED, cell_voltages(pack)[0]))
    return message(
        "If you leave it for more than two weeks: half full, {cell} a cell, {pack} in all; cool, dry, loop key "
        "out. Check it every two months.",
        cell=(each, "cell_voltage"),
        pack=((pack.series or 0) * each, "voltage"),
    )


def _timetable(
    build: Build, resolved: Resolved, from_pct: float | None, to_pct: float, ready_min: int
) -> Timetable | None:
    full, reserve = resolved.fixed["charge_full"], resolved.fixed["charge_reserve"]
    start = min(reserve if from_pct is None else from_pct / 100.0, full)
    end = min(max(to_pct / 100.0, start), full)
    course = charge_course(build, resolved, start)
    if course is None:
        return None
    charge, hours = course
    each = 60.0 * float(np.interp(end, charge, hours))
    capacity = hypot(resolved.inputs["cell_capacity"].spread, resolved.inputs["health"].spread)
    off = BAND * hypot(CHARGER_SPREAD, capacity)
    bricks = charge_turns(build)
    low, high = each * float(np.exp(-off)), each * float(np.exp(off))
    turns = []
    for n in range(bricks):
        begin = ready_min - (bricks - n) * high
        turns.append(
            Turn(
                brick=n + 1 if bricks > 1 else None,
                plug_in_min=int(begin // 5 * 5) % DAY_MIN,
                unplug_min=int(begin + high) % DAY_MIN,
                days_before=-int(begin // DAY_MIN),
            )
        )
    return Timetable(
        from_pct=100.0 * start,
        to_pct=100.0 * end,
        low_min=bricks * low,
        mid_min=bricks * each,
        high_min=bricks * high,
        ready_min=ready_min,
        turns=turns,
        night=_night(ready_min, bricks * high),
    )


NIGHT_MIN = (23 * 60, 6 * 60)
"""From which minute of the day to which most people sleep."""


def _night(ready_min: int, minutes: float) -> Message | None:
    """A charge that would run while nobody looks."""
    asleep, awake = NIGHT_MIN
    begin = ready_min - minutes
    hours_of_night = range(int(begin), ready_min, 5)
    if not any(m % DAY_MIN >= asleep or m % DAY_MIN < awake for m in hours_of_night):
        return None
    return message(
        "That would charge while you sleep. Charge the evening before and stop before bed, or charge to less, or "
        "use a stronger charger that the cells bear. A full pack loses almost nothing in a night."
    )


def _ceilings(build: Build, pack: Pack) -> list[Ceiling]:
    full = cell_voltages(pack)[0]
    chosen = pack.charge_to_v or full
    # The plateau of iron phosphate is so flat that its charge cannot be chosen by voltage.
    steps = (0.0, 0.1) if chemistry_of(pack.cell) == "lfp" else LOWER_V
    wanted = sorted({round(full - s, 2) for s in steps} | {chosen}, reverse=True)
    builds = [
        build.model_copy(
            update={"parts": build.parts.model_copy(update={"pack": pack.model_copy(update={"charge_to_v": ceiling})})}
        )
        for ceiling in wanted
    ]
    found = []
    for ceiling, evaluation in zip(wanted, evaluate(builds, 0), strict=True):
        life = life_of(evaluation)
        found.append(
            Ceiling(
                cell_v=ceiling,
                pack_v=ceiling * (pack.series or 0),
                range_km=float(evaluation.headline_values["range"][0]),
                years=life.years if life else None,
                chosen=abs(ceiling - chosen) < 0.005,
            )
        )
    return found


def _words(build: Build) -> list[Message]:
    pack = build.parts.pack
    together = brick_charging(build) == "together"
    said = [
        message(
            "Stay with it, on a surface that cannot burn, with nothing near that can. Never overnight, never on "
            "your way out of the house."
        ),
        message(
            "Use a charger of the right chemistry and cell count. Retire a pack that is swollen, dented or hot. "
            "Mains-side work: someone qualified."
        ),
    ]
    if pack is not None and bricks_of(pack) > 1:
        said.append(
            message(
                "Together, on a parallel charging board with a fuse for each brick: measure every brick first, and join "
                "them only within {near} of each other. Main plugs first, balance plugs after: the other way "
                "round the balance leads carry what flows between the bricks.",
                near=(LINE_UP_V, "cell_voltage"),
            )
            if together
            else message(
                "Charge one brick after the other, each alone with its balance plug; cap the charged one and put "
                "it aside."
            )
        )
        sizes = sorted(set(cells_of_bricks(pack)))
        said.append(
            message(
                "Set the charger to {cells} cells for each brick: {full} full. Set for the whole pack it would "
                "overcharge a single brick.",
                cells=sizes[0],
                full=(sizes[0] * cell_voltages(pack)[0], "voltage"),
            )
            if len(sizes) == 1
            else message(
                "The bricks differ: set the charger to {few} or {many} cells, as each brick's balance plug has leads "
                "less one.",
                few=sizes[0],
                many=sizes[-1],
            )
        )
        if not together and len(sizes) == 1:
            said.append(
                message(
                    "Bricks of one batch can also be charged together on a parallel charging board: choose it on the "
                    "Assembly page, under Methods."
                )
            )
    if pack is not None and pack.spares:
        said.append(
            message(
                "Charge the second pack by itself. Connect packs in parallel only within {near} of each other.",
                near=(LINE_UP_V, "cell_voltage"),
            )
        )
    return said
