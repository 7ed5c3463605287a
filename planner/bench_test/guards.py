"""What has to act when something goes wrong: the fail-safe, the cut-off, and a last look. Common practice, no source."""

from boardmath.buildfile.electrics import Pack
from boardmath.messages import message
from boardmath.model.inputs import cell_voltages
from boardmath.model.limits import recommended_taper
from planner.bench_test.steps import Judged, Stand, Step, ticked

LATE_S, TOO_LATE_S = 1.0, 2.0
"""A lost link noticed after so long: many metres, and not to be ridden."""
CUT_OFF_ROOM = 0.03


def lost_link(s: Stand) -> Step:
    """The remote switched off while the wheels turn."""
    return _lost_link(s).step(
        key="lost_link",
        title="Remote switched off",
        do=message(
            "Half throttle, then switch the remote off while you hold it. The motors have to stop driving within "
            "a second. A lost link takes the brake away too: be able to stop on foot."
        ),
        fields=["lost_link", "lost_after_s"],
        grave=True,
    )


def _lost_link(s: Stand) -> Judged:
    does, after = s.entered.lost_link, s.entered.lost_after_s
    if does is None:
        return Judged()
    words = does.replace("_", " ")
    said = (
        message("It {words} after {after}.", after=(after, "seconds"), words=words)
        if after is not None
        else message("It {words}.", words=words)
    )
    if does == "keeps_running" or (after is not None and after > TOO_LATE_S):
        return Judged(
            "fails",
            said,
            message(
                "Do not ride it: a board that drives on without its remote cannot be stopped. Set the fail-safe "
                "in receiver and controller, and test again."
            ),
        )
    if after is not None and after > LATE_S:
        return Judged("unsure", said, message("That is many metres at riding speed: shorten the receiver's time-out."))
    wanted = s.build.settings.fail_safe
    if wanted is not None and (does == "lets_go") != (wanted == "release"):
        return Judged(
            "unsure",
            said,
            message(
                "The setting is “{wanted}”. Make the two agree, so that you know what happens.",
                wanted=wanted.replace("_", " "),
            ),
        )
    return Judged("passes", said)


def cut_off(s: Stand) -> Step | None:
    """Where the controller stops to save the cells."""
    pack = s.build.parts.pack
    if pack is None or pack.series is None:
        return None
    start, end = taper(s, pack)
    return _cut_off(s, pack, pack.series).step(
        key="cut_off",
        title="Cut-off",
        do=message(
            "With a bench supply instead of the pack and a little throttle, lower the voltage slowly: from "
            "{start} the power drops, below {end} it gives nothing. Without a supply leave this out, and read "
            "the settings instead.",
            start=(start, "voltage"),
            end=(end, "voltage"),
        ),
        fields=["cut_off_begins_v", "cut_off_ends_v"],
        grave=True,
        optional=True,
    )


def taper(s: Stand, pack: Pack) -> tuple[float, float]:
    """V where it is to begin and to end: as set, as recommended where nothing is."""
    start, end = recommended_taper(pack)
    return s.build.settings.taper_start_v or start, s.build.settings.taper_end_v or end


def _cut_off(s: Stand, pack: Pack, series: int) -> Judged:
    begins, ends = s.entered.cut_off_begins_v, s.entered.cut_off_ends_v
    if ends is None:
        return Judged()
    start, end = taper(s, pack)
    floor = series * cell_voltages(pack)[2]
    said = message("It gives nothing below {ends}.", ends=(ends, "voltage"))
    if ends < floor:
        meant_for = max(round(ends / (recommended_taper(pack)[1] / series)), 1)
        return Judged(
            "fails",
            said,
            message(
                "These {series} cells are empty at {floor}; this is a cut-off for about {meant_for} cells. It "
                "would ruin the pack, and a ruined pack burns when it is charged. Set the cell count and the "
                "cut-off.",
                floor=(floor, "voltage"),
                series=series,
                meant_for=meant_for,
            ),
        )
    if abs(ends / end - 1.0) > CUT_OFF_ROOM or (begins is not None and abs(begins / start - 1.0) > CUT_OFF_ROOM):
        return Judged(
            "unsure",
            said,
            message(
                "It should start at {start} and end at {end}: read the settings, and set them again.",
                start=(start, "voltage"),
                end=(end, "voltage"),
            ),
        )
    return Judged("passes", said)


def sound(s: Stand) -> Step:
    """Hands, nose and ears at the end."""
    remedy = message(
        "Find the cause before you ride: a hot plug is a bad joint, a hot motor a wrong setting, a smell the "
        "last warning."
    )
    return ticked(s.entered.sound, remedy).step(
        key="sound",
        title="Hands, nose, ears",
        do=message(
            "Unplug it, then feel motors, controller, plugs and pack. Nothing hot, no smell, nothing loose, the "
            "belts run true."
        ),
        fields=["sound"],
        grave=True,
    )
