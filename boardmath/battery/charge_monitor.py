"""A charge that is watched: every look judged as it is entered, what stops it, when the next look is due."""

from collections.abc import Iterator, Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.pack_assembly import ChargeLook, ChargeWatch
from boardmath.messages import Message, message
from boardmath.model.bricks import cells_of_bricks
from boardmath.model.cell_groups import APART_V, TOO_EMPTY_V, work_of
from boardmath.model.inputs import cell_voltages

EVERY_MIN = 10.0
"""Minutes from look to look of a first charge (common practice, no source)."""
NEAR_THE_END_MIN = 5.0
"""The same near the end (reasoned: twice as often where the voltage turns)."""
FAR_APART_V = 0.25
"""V apart at which a charge goes on no longer: one group runs over while the sum looks right (from memory)."""
OVER_V = 0.03
"""V over full at which a group is overcharged: a pocket meter tells no less at four volts (from memory)."""
NEAR_FULL_V = 0.05
"""V under the ceiling from which looks come oftener: the last part goes by minutes (from memory)."""
AT_THE_TOP_V = 0.01
"""V under the ceiling within which a charger holds it: the last digit of a pocket meter."""
HARDLY_FALLS, HARDLY_ANY_A = 0.95, 0.2
"""Share of the last look's current that is no fall, and A that are none worth a word: what a clamp tells apart (from memory)."""
FALLS_V = 0.02
"""V that a group falls, while the others rise, that takes no charge any more: twice what a pocket meter tells apart."""

Verdict = Literal["good", "odd", "stop"]


class Look(BaseModel):
    """A look as it is judged; voltages of groups in V, ``spread_v`` the highest less the lowest."""

    minute: float
    groups_v: list[float | None]
    current_a: float | None = None
    warmth: str | None = None
    spread_v: float | None = None
    verdict: Verdict
    said: list[Message]


class MonitoredCharge(BaseModel):
    """A charge. ``due_minute`` is when the next look is due, counted from its beginning; None once it has ended or has to
    be stopped."""

    number: int
    began: str
    brick: int | None = None
    looks: list[Look]
    due_minute: float | None
    ended: str | None = None
    stop: Message | None = None
    verdict: Verdict
    last_word: Message
    ceiling_v: float
    groups: int


def all_watched(build: Build) -> list[MonitoredCharge]:
    """Every charge that was watched, the oldest first."""
    pack = build.parts.pack
    if pack is None or pack.series is None:
        return []
    return [judged(pack, charge, number) for number, charge in enumerate(work_of(build).charges or [], 1)]


def watched(build: Build) -> MonitoredCharge | None:
    """The last one."""
    found = all_watched(build)
    return found[-1] if found else None


def charged_once(build: Build) -> bool:
    """Whether a watched charge ended and nothing stopped it."""
    return any(w.ended == "by_itself" and w.stop is None for w in all_watched(build))


def groups_charged(pack: Pack, charge: ChargeWatch) -> int:
    """Groups in series in what is charged: the pack, or one brick of it."""
    each = cells_of_bricks(pack)
    return (pack.series or 0) if charge.brick is None or charge.brick > len(each) else each[charge.brick - 1]


def judged(pack: Pack, charge: ChargeWatch, number: int) -> MonitoredCharge:
    """One charge, look by look."""
    full = cell_voltages(pack)[0]
    ceiling = pack.charge_to_v or full
    entered = sorted(charge.looks or [], key=lambda look: look.minute)
    looks: list[Look] = []
    stop: Message | None = None
    for n, look in enumerate(entered):
        told = list(_of_a_look(look, entered[:n], full, ceiling, cell_voltages(pack)[2]))
        grave = next((sentence for verdict, sentence in told if verdict == "stop"), None)
        stop = stop or grave
        volts = [v for v in look.groups_v or [] if v is not None]
        looks.append(
            Look(
                minute=look.minute,
                groups_v=list(look.groups_v or []),
                current_a=look.current_a,
                warmth=look.warmth,
                spread_v=max(volts) - min(volts) if len(volts) > 1 else None,
                verdict="stop" if grave else "odd" if told else "good",
                said=[sentence for _, sentence in told],
            )
        )
    verdict: Verdict = "stop" if stop else "odd" if any(look.verdict == "odd" for look in looks[-1:]) else "good"
    return MonitoredCharge(
        number=number,
        began=charge.began,
        brick=charge.brick,
        looks=looks,
        due_minute=None if charge.ended or stop else _due(looks, ceiling),
        ended=charge.ended,
        stop=stop,
        verdict=verdict,
        last_word=_last_word(charge, looks, stop, ceiling),
        ceiling_v=ceiling,
        groups=groups_charged(pack, charge),
    )


def _due(looks: Sequence[Look], ceiling: float) -> float:
    if not looks:
        return 0.0
    volts = [v for v in looks[-1].groups_v if v is not None]
    near = bool(volts) and max(volts) >= ceiling - NEAR_FULL_V
    return looks[-1].minute + (NEAR_THE_END_MIN if near else EVERY_MIN)


def _of_a_look(
    look: ChargeLook, before: Sequence[ChargeLook], full: float, ceiling: float, empty: float
) -> Iterator[tuple[Verdict, Message]]:
    volts = look.groups_v or []
    known = [v for v in volts if v is not None]
    if look.warmth == "hot":
        yield (
            "stop",
            message(
                "Hot to the hand: switch the charger off at the wall, take the pack outside onto stone, and keep "
                "away from it. Do not charge it again before you know why."
            ),
        )
    elif look.warmth == "warm":
        yield (
            "odd",
            message(
                "Warm: at this current a block should stay at room temperature. Use less current, and find out which "
                "group it is."
            ),
        )
    if not known:
        return
    highest, lowest = max(known), min(known)
    top, low = volts.index(highest) + 1, volts.index(lowest) + 1
    if highest > full + OVER_V:
        yield (
            "stop",
            message(
                "Group {top} has {volts}, above its {full}: stop at once. The BMS does not see that group: "
                "check its leads.",
                volts=(highest, "cell_voltage"),
                full=(full, "cell_voltage"),
                top=top,
            ),
        )
    if lowest < min(TOO_EMPTY_V, empty):
        yield (
            "stop",
            message(
                "Group {low} has {volts}: so empty that it must not be charged. Stop, and remove it.",
                volts=(lowest, "cell_voltage"),
                low=low,
            ),
        )
    yield from _apart(highest, lowest, top, low, ceiling)
    if before:
        yield from _since(look, before[-1])
        yield from _at_the_end(look, before[-1], highest, ceiling)


def _apart(highest: float, lowest: float, top: int, low: int, ceiling: float) -> Iterator[tuple[Verdict, Message]]:
    spread = highest - lowest
    if spread > FAR_APART_V:
        yield (
            "stop",
            message(
                "Groups {low} and {top} are {apart} apart: the higher one overcharges while the sum looks "
                "right. Stop. Charge the low one alone to the others' voltage, watched, or remove it.",
                apart=(spread, "cell_voltage"),
                low=low,
                top=top,
            ),
        )
    elif spread > APART_V:
        near = highest >= ceiling - NEAR_FULL_V
        yield (
            "odd",
            message(
                "Groups {low} and {top} are {apart} apart; {most} is usual. "
                + (
                    "Leave it on the BMS until it has balanced, then check again."
                    if near
                    else "Watch whether that grows."
                ),
                low=low,
                top=top,
                apart=(spread, "cell_voltage"),
                most=(APART_V, "cell_voltage"),
            ),
        )


def _since(look: ChargeLook, last: ChargeLook) -> Iterator[tuple[Verdict, Message]]:
    now, then = look.groups_v or [], last.groups_v or []
    rises = [a - b if a is not None and b is not None else None for a, b in zip(now, then, strict=False)]
    known = [r for r in rises if r is not None]
    if len(known) < 3:
        return
    middle = float(np.median(known))
    for group, rise in enumerate(rises, 1):
        if rise is not None and rise < -FALLS_V and middle > 0.0:
            yield (
                "stop",
                message(
                    "Group {group} fell by {fell} while the others rose: it takes no charge. Stop; a cell in it is "
                    "failing.",
                    fell=(-rise, "cell_voltage"),
                    group=group,
                ),
            )


def _at_the_end(
    look: ChargeLook, last: ChargeLook, highest: float, ceiling: float
) -> Iterator[tuple[Verdict, Message]]:
    if look.current_a is None or last.current_a is None or not last.groups_v:
        return
    before = max((v for v in last.groups_v if v is not None), default=0.0)
    at_the_top = min(highest, before) >= ceiling - AT_THE_TOP_V
    if at_the_top and look.current_a > max(HARDLY_FALLS * last.current_a, HARDLY_ANY_A):
        yield (
            "odd",
            message(
                "It is at its end voltage and the current does not fall: {now}. If the next reading shows the "
                "same, stop it by hand.",
                now=(look.current_a, "current"),
            ),
        )


def _last_word(charge: ChargeWatch, looks: Sequence[Look], stop: Message | None, ceiling: float) -> Message:
    if stop is not None:
        return stop
    volts = [v for look in looks[-1:] for v in look.groups_v if v is not None]
    if charge.ended == "stopped":
        return message("You stopped it. Measure every group again after an hour of rest.")
    if charge.ended == "by_itself":
        if volts and max(volts) > ceiling + OVER_V:
            return message(
                "It stopped too late: a group is above the set voltage. The ceiling of the BMS is not what it "
                "should be."
            )
        if volts and max(volts) - min(volts) > APART_V:
            return message("It stopped; the groups are apart. Leave it on the BMS to balance, then measure them again.")
        return message(
            "It stopped by itself at the set voltage, with the groups together. Measure them again tomorrow: "
            "none should have dropped."
        )
    if not looks:
        return message(
            "Put it on a surface that cannot burn, with nothing near that can, and stay with it. Take the first "
            "reading now, before you plug in."
        )
    return message("Charging. Stay within sight of it; the next reading is timed.")
