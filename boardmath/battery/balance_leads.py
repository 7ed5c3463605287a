"""The table of leads, judged as it is entered: it stops at the first wrong one and says what that may mean."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.battery.lead_faults import Kind, Pattern, patterns, readings_of
from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.messages import Message, in_a_row, message
from boardmath.model.bricks import cells_of_bricks
from boardmath.model.cell_groups import APART_V, leads_of
from boardmath.model.chemistry import index_of
from boardmath.model.inputs import cell_voltages
from boardmath.physics import cell as cells
from boardmath.physics.types import Array

METER = 0.01
"""Share by which a pocket meter reads wrong on its direct-voltage range (common practice, no source)."""
USUAL_CHARGE = 50.0
"""Per cent at which new and salvaged cells are joined (common practice, no source: about half)."""
_ALIKE = 0.2
"""Of a group's voltage, by which a reading may lie off a pattern and still be of it: weak groups are told apart elsewhere."""
Verdict = Literal["open", "right", "wrong", "after"]


class BalanceLead(BaseModel):
    """One lead: what it has to show, what it showed, and the group below it."""

    lead: int
    expected_v: float
    low_v: float
    high_v: float
    reading_v: float | None = None
    group_v: float | None = None
    verdict: Verdict


class Meaning(BaseModel):
    """What the readings so far may mean, and what to do."""

    kind: Kind
    at: int
    other: int | None = None
    title: str
    message: Message
    remedy: Message


class BalanceLeadsReport(BaseModel):
    """The table. ``stop`` is the first wrong lead: the plug stays out. ``meanings`` are what can still be meant, likeliest first;
    ``next`` is the lead to read now, after a wrong one only to tell the meanings apart."""

    series: int
    charge_pct: float
    cell_v: float
    leads: list[BalanceLead]
    next: int | None = None
    stop: int | None = None
    meanings: list[Meaning] = []
    last_word: Message
    done: bool = False


def expected(pack: Pack, charge_pct: float) -> list[float]:
    """V of each lead, 0 to the cells in series, at rest and at a charge in per cent."""
    each = group_voltage(pack, charge_pct)
    return [lead * each for lead in range((pack.series or 0) + 1)]


def group_voltage(pack: Pack, charge_pct: float) -> float:
    """V of a group at rest at a charge in per cent."""
    cell = pack.cell or Cell()
    return float(cells.open_circuit_voltage(index_of(cell), charge_pct / 100.0, cell_voltages(pack)[0]))


def balance_leads_report(build: Build) -> BalanceLeadsReport | None:
    """The balance leads of a build; None while the pack does not say how many cells stand in series."""
    pack, entered = build.parts.pack, leads_of(build)
    if pack is None or pack.series is None:
        return None
    charge = entered.charge_pct if entered.charge_pct is not None else USUAL_CHARGE
    bricks = cells_of_bricks(pack)
    if len(bricks) < 2:
        return judged(pack, charge, entered.readings or [])
    # Every brick has a plug of its own, and is read by itself.
    one = pack.model_copy(update={"series": bricks[0]})
    report = judged(one, charge, entered.readings or [])
    if report.stop is not None:
        return report
    word = in_a_row(message("Read each of the {count} bricks by itself.", count=len(bricks)), report.last_word)
    return report.model_copy(update={"last_word": word})


def judged(pack: Pack, charge_pct: float, readings: Sequence[float | None]) -> BalanceLeadsReport:
    """The leads of a pack as they were read; None where one was not."""
    series = pack.series or 0
    read = [*readings[: series + 1], *[None] * (series + 1 - len(readings))]
    each = group_voltage(pack, charge_pct)
    _, _, empty = cell_voltages(pack)
    full = cell_voltages(pack)[0]
    meter = _Meter(each, empty - 0.3, full + 0.05)
    leads, stop = _table(read, meter)
    report = BalanceLeadsReport(
        series=series,
        charge_pct=charge_pct,
        cell_v=each,
        leads=leads,
        last_word=message(
            "Hold the black probe on the pack's negative and the red one on one lead after the other. Keep the plug "
            "out of the BMS."
        ),
    )
    if stop is None:
        following = next((t.lead for t in leads if t.verdict == "open"), None)
        done = following is None
        if done:
            word = message(
                "Every lead shows what it should. Before you plug in, read the plug once more the same way "
                "round, the black lead first by its mark. This says that the wires are right, not that the pack "
                "is safe."
            )
        elif leads[0].verdict == "open":
            word = report.last_word
        else:
            word = message("Right so far: {read} of {leads} read. Next: lead {read}.", read=following, leads=series + 1)
        return report.model_copy(update={"next": following, "done": done, "last_word": word})
    meanings = _meanings(read, stop, series, meter)
    parting = _parting(read, stop, series, meanings)
    word = in_a_row(
        message(
            "Stop at lead {stop}. Keep the plug out of the BMS: a wrong wire destroys it, and can start a fire.",
            stop=stop,
        ),
        message("Lead {lead} shows which fault it is; reading it does no harm.", lead=parting)
        if parting is not None
        else None,
    )
    return report.model_copy(
        update={
            "stop": stop,
            "meanings": [_told(m, read, meter) for m in meanings],
            "next": parting,
            "last_word": word,
        }
    )


@dataclass(frozen=True)
class _Meter:
    """What a group may show: about ``each`` V, never outside ``low`` to ``high``."""

    each: float
    low: float
    high: float

    def band(self, lead: int) -> tuple[float, float]:
        """Between which a right lead lies, the charge being known only about."""
        off = METER * lead * self.each + 0.02
        return lead * self.low - off if lead else -off, lead * self.high + off


def _table(read: Sequence[float | None], meter: _Meter) -> tuple[list[BalanceLead], int | None]:
    """Each lead with its verdict; the first wrong one."""
    leads: list[BalanceLead] = []
    stop: int | None = None
    right: list[float] = []
    """Group voltages that were found right so far."""
    for lead, value in enumerate(read):
        before = read[lead - 1] if lead else None
        group = value - before if value is not None and before is not None else None
        verdict: Verdict = "open"
        if value is not None:
            good = abs(value) <= 0.1 if lead == 0 else group is not None and _good(group, right, value, meter)
            judged_at_all = lead == 0 or group is not None
            if stop is not None:
                verdict = "after"
            elif good:
                verdict = "right"
            elif judged_at_all:
                verdict, stop = "wrong", lead
            if verdict == "right" and group is not None:
                right.append(group)
        low, high = meter.band(lead)
        leads.append(
            BalanceLead(
                lead=lead,
                expected_v=lead * meter.each,
                low_v=max(low, 0.0) if lead else low,
                high_v=high,
                reading_v=value,
                group_v=group,
                verdict=verdict,
            )
        )
    return leads, stop


def _good(group: float, right: Sequence[float], value: float, meter: _Meter) -> bool:
    """Whether a group shows what its neighbours do, as far as the meter tells; the first, what the charge lets expect."""
    off = METER * abs(value) + 0.01
    if not right:
        return meter.low - off <= group <= meter.high + off and abs(group - meter.each) <= 0.12 * meter.each + off
    return abs(group - float(np.median(right))) <= APART_V + off


def _off(shown: Array, read: Array, meter: _Meter) -> Array:
    """The worst deviation from each pattern, in groups, with the v that fits it best; infinite where no group has such a v.

    Args:
        shown: voltages of a group that each pattern gives at the leads that were read, of shape (patterns, leads).
    """
    squares = (shown * shown).sum(axis=1)
    each = np.where(squares > 0.0, shown @ read / np.maximum(squares, 1e-12), meter.each)
    off = np.abs(read - shown * each[:, None]).max(axis=1) / np.maximum(each, 1e-9)
    likely = (meter.low - 0.02 <= each) & (each <= meter.high + 0.02) & (np.abs(each - meter.each) <= 0.14 * meter.each)
    return np.asarray(np.where(likely, off, np.inf))


def _meanings(read: Sequence[float | None], stop: int, series: int, meter: _Meter) -> list[Pattern]:
    """The mistakes that fit all readings so far, the likeliest first."""
    taken = np.array([v is not None for v in read])
    values = np.array([0.0 if v is None else v for v in read])
    every = patterns(series)
    off = _off(readings_of(series)[:, taken], values[taken], meter)
    found = [(float(off[n]), n, p) for n, p in enumerate(every) if p.at <= stop and off[n] <= _ALIKE]
    # Readings that lie near a pattern are of it, however likely another.
    least = min((off for off, _, _ in found), default=0.0)
    kept = [p for off, _, p in sorted(found, key=lambda f: f[1]) if off <= least + 0.06]
    if kept:
        return kept
    value, before = read[stop], read[stop - 1] if stop else 0.0
    assert value is not None
    if abs(value) > (series + 0.5) * meter.high:
        return [Pattern("beyond", stop, None, np.empty(0))]
    group = value - (before or 0.0)
    if 0.1 < group < meter.high + 0.4:
        usual = _usual(read, stop, meter)
        return [Pattern("weak" if group < usual else "strong", stop, None, np.empty(0))]
    return [Pattern("beyond", stop, None, np.empty(0))]


def _usual(read: Sequence[float | None], stop: int, meter: _Meter) -> float:
    """V of the groups that were right so far."""
    right = [b - a for a, b in pairwise(read[:stop]) if a is not None and b is not None]
    return float(np.median(right)) if stop > 1 and right else meter.each


def _parting(read: Sequence[float | None], stop: int, series: int, meanings: Sequence[Pattern]) -> int | None:
    """The next lead to read that tells the meanings apart; None where there is one meaning, or nothing tells."""
    if len(meanings) < 2:
        return None
    for lead in range(stop + 1, series + 1):
        if read[lead] is None and len({float(m.groups[lead]) for m in meanings if m.groups.size}) > 1:
            return lead
    return None


_REMEDIES: dict[Kind, str] = {
    "swapped": (
        "Take both wires off and put each where it belongs, one at a time, with the other taped over. Then read from "
        "lead 0 again."
    ),
    "missing": (
        "Look for a cold joint, a broken crimp, or a contact that slid out of the plug. Never bridge it as a test."
    ),
    "skipped": (
        "Find the group that has no wire. From there move the wires down by one, one at a time. Then read from lead "
        "0 again."
    ),
    "reversed": (
        "The cells of this group are reversed. Disconnect it from its neighbours, half a pack at a time, and turn "
        "it. If you have not done this before, take it to someone who has."
    ),
    "short": (
        "Feel it, without leaning over it. If it is warm there is a short inside or across it: take it outside at "
        "once, onto stone. If it is cold, read the group alone between its own two ends. If it shows its voltage, "
        "two wires are on one point and all further ones are one behind."
    ),
    "weak": (
        "Read the group alone between its own ends. If it is more than a twentieth of a volt below its neighbours, "
        "remove the cell that pulls it down, or charge the group alone to their voltage and watch it."
    ),
    "strong": (
        "Read the group alone between its own ends. Discharge it to the others' voltage with a lamp or a resistor, "
        "watched, before the BMS goes on."
    ),
    "other_lead": (
        "Hold the probe to the lead that is asked for and read again. If it shows the same, that wire is on another "
        "group."
    ),
    "meter_reversed": (
        "Hold the black probe to the pack's negative and the red one to the lead. If they already are, the pack's "
        "ends are marked the wrong way round."
    ),
    "beyond": "No lead of this pack can show that. Check the meter's range and the decimal point, and read again.",
}


def _told(pattern: Pattern, read: Sequence[float | None], meter: _Meter) -> Meaning:
    """A mistake in words."""
    at, other, kind = pattern.at, pattern.other, pattern.kind
    value = read[at] if read[at] is not None else 0.0
    assert value is not None
    titles: dict[Kind, str] = {
        "swapped": f"Wires {at} and {other} are swapped",
        "missing": f"Wire {at} has no contact",
        "skipped": f"Wire {at} and all further ones are one group too high",
        "reversed": f"Group {at} is reversed",
        "short": f"Group {at} shows nothing",
        "weak": f"Group {at} is lower than the others",
        "strong": f"Group {at} is higher than the others",
        "other_lead": f"You read lead {other}, not lead {at}",
        "meter_reversed": "The meter's leads are swapped",
        "beyond": f"Lead {at} cannot show that",
    }
    before = read[at - 1] if at else 0.0
    value_here, wanted = (value, "cell_voltage"), (at * meter.each, "cell_voltage")
    groups: dict[str, tuple[float, str] | int] = {
        "lead": at,
        "before": at - 1,
        "group": (value - (before or 0.0), "cell_voltage"),
        "others": (_usual(read, at, meter), "cell_voltage"),
    }
    why: dict[Kind, Message] = {
        "swapped": message(
            "Lead {lead} shows what belongs to lead {other}, and the other way round. Plugged in, both inputs get the "
            "wrong voltage.",
            lead=at,
            other=other,
        ),
        "missing": message(
            "It shows {value}; about {wanted} belongs there. The wire has no contact.", value=value_here, wanted=wanted
        ),
        "skipped": message(
            "From lead {lead} on each lead shows one group too much: group {lead} has no wire of its own.", lead=at
        ),
        "reversed": message(
            "Lead {lead} shows one group less instead of one more: its plus and minus are swapped.", lead=at
        ),
        "short": message("Lead {lead} shows the same as lead {before}.", lead=at, before=at - 1),
        "weak": message(
            "Too little between leads {before} and {lead}: {group} where the others have {others}.", **groups
        ),
        "strong": message(
            "Too much between leads {before} and {lead}: {group} where the others have {others}.", **groups
        ),
        "other_lead": message(
            "{value} belongs to lead {other}; {wanted} belongs here.", value=value_here, other=other, wanted=wanted
        ),
        "meter_reversed": message("It shows a negative voltage."),
        "beyond": message("You entered {value}; {wanted} belongs here.", value=value_here, wanted=wanted),
    }
    return Meaning(
        kind=kind,
        at=at,
        other=other,
        title=titles[kind],
        message=why[kind],
        remedy=message(_REMEDIES[kind]),
    )
