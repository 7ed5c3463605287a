"""Before a motor turns: how the board stands, the plug, the pack, the thumb. Tolerances: common practice, no source."""

from boardmath.buildfile.electrics import Pack
from boardmath.messages import message
from boardmath.model.inputs import cell_voltages, full_voltage
from planner.bench_test.steps import Judged, Stand, Step, of_its_cells, ticked

CELLS_APART_V, CELLS_FAR_APART_V = 0.05, 0.15
LEAST_THROW_MS = 0.25
MOVED_MS = 0.05
"""An end point that is read so much otherwise than the settings record says was taught anew, or drifts."""


def wheels_free(s: Stand) -> Step:
    """Before anything else."""
    remedy = message("Do not continue before it is secured like that: a board that runs off hits what is in its way.")
    return ticked(s.entered.wheels_free, remedy).step(
        key="wheels_free",
        title="Wheels in the air",
        do=message(
            "Put the board upside down or on a block so that no wheel can touch anything. Hair, sleeves, laces "
            "and fingers away. The loop key or the switch within reach."
        ),
        fields=["wheels_free"],
        grave=True,
    )


def polarity(s: Stand) -> Step:
    """Before the pack is plugged in."""
    remedy = message("Do not plug it in. Resolder the plug, one lead at a time, with the other one covered.")
    return ticked(s.entered.polarity_right, remedy).step(
        key="polarity",
        title="Polarity",
        do=message(
            "Measure the pack's plug before you connect the controller: red is positive. One reversed plug burns "
            "the controller."
        ),
        fields=["polarity_right"],
        grave=True,
    )


def pack_voltage(s: Stand) -> Step | None:
    """The pack against its cells, and the cells against each other."""
    pack = s.build.parts.pack
    if pack is None or pack.series is None:
        return None
    full, empty = full_voltage(pack), pack.series * cell_voltages(pack)[2]
    return _voltages(s, pack, pack.series).step(
        key="pack_voltage",
        title="Pack voltage",
        do=message(
            "Pack voltage at rest, {series} cells in series: from {empty} empty to {full} full. Also the "
            "lowest and highest cell, where there is a balance plug.",
            empty=(empty, "voltage"),
            full=(full, "voltage"),
            series=pack.series,
        ),
        fields=["pack_v", "lowest_cell_v", "highest_cell_v"],
        grave=True,
    )


def _voltages(s: Stand, pack: Pack, series: int) -> Judged:
    v, low, high = s.entered.pack_v, s.entered.lowest_cell_v, s.entered.highest_cell_v
    if v is None:
        return Judged()
    full, empty = full_voltage(pack), series * cell_voltages(pack)[2]
    said = message("{v} is {each} a cell.", v=(v, "voltage"), each=(v / series, "cell_voltage"))
    if not of_its_cells(s.build, v):
        looks_like = max(round(2.0 * v / (full + empty) * series), 1)
        of = (
            f"It looks like {looks_like} cells: another pack"
            if looks_like != series
            else "Cells charged or discharged too far"
        )
        return Judged(
            "fails",
            said,
            message(
                "{series} cells have {empty} to {full}. {of}, a dead group, or a meter on the wrong range. Do "
                "not charge it or plug it in before you know.",
                empty=(empty, "voltage"),
                full=(full, "voltage"),
                series=series,
                of=of,
            ),
        )
    if low is None or high is None:
        return Judged("passes", said)
    apart = abs(high - low)
    said = message(
        "{v} is {each} a cell; lowest and highest are {apart} apart.",
        v=(v, "voltage"),
        each=(v / series, "cell_voltage"),
        apart=(apart, "cell_voltage"),
    )
    if apart <= CELLS_APART_V:
        return Judged("passes", said)
    remedy = message(
        "Balance them before the first ride, and check again after a day: a group that falls behind again is weak."
    )
    return Judged("fails" if apart > CELLS_FAR_APART_V else "unsure", said, remedy)


def thumb(s: Stand) -> Step:
    """The remote's end points, and a board that stands still when nothing is asked of it."""
    return _thumb(s).step(
        key="thumb",
        title="Throttle at rest",
        do=message(
            "Everything on, throttle released: nothing may move. Where the controller shows it, note its reading "
            "at full brake, in the middle and at full throttle."
        ),
        fields=["still", "low_ms", "middle_ms", "high_ms"],
        grave=True,
    )


def _thumb(s: Stand) -> Judged:
    e = s.entered
    if e.still is False:
        return Judged(
            "fails",
            remedy=message("It creeps with the throttle released: measure the middle again, or widen the dead band."),
        )
    if e.low_ms is None or e.middle_ms is None or e.high_ms is None:
        return Judged("passes" if e.still else "open")
    throw = min(e.middle_ms - e.low_ms, e.high_ms - e.middle_ms)
    said = message("From the middle to the nearer end: {throw}.", throw=(throw, "milliseconds"))
    moved = [
        (now, was)
        for now, was in ((e.low_ms, s.noted.low_ms), (e.middle_ms, s.noted.middle_ms), (e.high_ms, s.noted.high_ms))
        if was is not None and abs(now - was) > MOVED_MS
    ]
    if throw >= LEAST_THROW_MS and moved:
        now, was = moved[0]
        said = message("{now}; the settings record has {was}.", now=(now, "milliseconds"), was=(was, "milliseconds"))
        remedy = message("Was the remote taught again or replaced? Teach the end points again, and record them.")
        return Judged("unsure" if e.still else "open", said, remedy)
    if throw >= LEAST_THROW_MS:
        return Judged("passes" if e.still else "open", said)
    why = "the throttle works the wrong way round" if e.high_ms < e.low_ms else "part of the throttle's travel is lost"
    remedy = message(
        "Full brake, middle and full throttle have to be in order; here {why}. Teach the end points again.", why=why
    )
    return Judged("fails", said, remedy)
