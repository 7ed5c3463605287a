"""What to set in a programmable controller, each value with its reason, its safe span and what it trades.

Nothing goes above what any part of the path bears. Figures without a source beside them are common practice, no source.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil, floor

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import controllers, directions_for, motors_each
from boardmath.buildfile.electrics import Pack
from boardmath.buildfile.settings import Profile, RideMode, Turned
from boardmath.checks.handling import tipping_g
from boardmath.messages import Message, message
from boardmath.model import estimate
from boardmath.model.chemistry import chemistry_of
from boardmath.model.inputs import cell_voltages, full_voltage, gear_ratio
from boardmath.model.limits import (
    charging_ceiling,
    gear_known,
    motor_current_ceiling,
    pack_current_ceiling,
    recommended_taper,
    rolling_diameter,
    unloaded_electrical_speed,
)
from boardmath.prediction.braking import first_second

Value = float | int | str


class Recommendation(BaseModel):
    """A value for one setting; ``low``..``high`` is the span in which nothing of the board is asked for more than it bears.

    ``further`` has a value for the second and every further controller, where they are not to have the first one's.
    """

    field: str
    group: str
    value: Value
    further: list[Value] = []
    low: float | None = None
    high: float | None = None
    why: Message
    trades: Message


@dataclass(frozen=True)
class Character:
    """What a profile makes of the values: shares of what the board bears, and how softly it starts."""

    motor: float
    brake: float
    pack: float
    speed_kmh: float | None
    first_second_g: float
    curve: str


CHARACTERS: dict[Profile, Character] = {
    "beginner": Character(0.5, 0.6, 0.5, 15.0, 0.08, "gentle"),
    "daily": Character(0.85, 0.9, 0.85, None, 0.18, "progressive"),
    "hills": Character(1.0, 1.0, 1.0, None, 0.2, "progressive"),
    "full": Character(1.0, 1.0, 1.0, None, 0.28, "linear"),
}
"""Common practice, no source."""
OF_TIPPING = 0.92
"""Share of the thrust at which this rider tips off the back that no profile exceeds (common practice, no source)."""
MODES: dict[Profile, RideMode] = {"beginner": "slow", "daily": "middle", "hills": "fast", "full": "fast"}
LEAST_A = 1.0
"""The least that can be set; a path that bears less is not for driving, and gets no current recommended."""
DEAD_BAND_PCT = 8.0
IDLE_OFF_MIN = 15.0
BELOW_THE_LIMIT_C = 10.0
"""K between where roll-back begins and where it has to have ended."""


def recommend(build: Build, profile: Profile = "daily") -> list[Recommendation]:
    """Every setting that the build says enough for; a boxed controller has few, a build without pack or controller none."""
    controller, pack = build.parts.controller, build.parts.pack
    if controller is None or pack is None or pack.series is None:
        return []
    character = CHARACTERS[profile]
    if controller.programmable is False:
        return [
            *_boxed(pack, profile),
            *(r for r in _remote(build, [], character) if r.field in ("throttle_curve", "remote_link")),
        ]
    found = [*_motor(build, character), *_pack(build, pack, character), *_speed(build, profile, character)]
    found += [*_heat(), *_sense(build), *_remote(build, found, character)]
    return found


def _boxed(pack: Pack, profile: Profile) -> Iterator[Recommendation]:
    series = pack.series or 0
    yield Recommendation(
        field="cells_in_series",
        group="Pack",
        value=series,
        low=series,
        high=series,
        why=message(
            "The pack has {series}. Check the solder jumper or the label, and record which count it is made for.",
            series=series,
        ),
        trades=message("Nothing: another count is wrong, and moves a cut-off that cannot be set."),
    )
    yield Recommendation(
        field="ride_mode",
        group="Remote",
        value=MODES[profile],
        why=message("Its modes are the only choice of currents and speed; what each gives you find out on the road."),
        trades=message("Slower: softer starts, and on many controllers less brake. Try it on empty ground first."),
    )


def _down(amperes: float, step: float = 1.0) -> float:
    return max(floor(amperes / step) * step, step)


def _motor(build: Build, character: Character) -> Iterator[Recommendation]:
    most, word = motor_current_ceiling(build)
    if most < LEAST_A:
        return
    yield Recommendation(
        field="motor_current_a",
        group="Currents",
        value=_down(most * character.motor),
        low=1.0,
        high=most,
        why=message("At most {most}: {reason}.", most=(most, "current"), reason=word),
        trades=message("Less: softer start, less climbing, cooler. The steepest possible start goes down with it."),
    )
    yield Recommendation(
        field="motor_brake_a",
        group="Currents",
        value=_down(most * character.brake),
        low=1.0,
        high=most,
        why=message(
            "At most {most}, as for driving. Enough to hold the hill, and no more than you can stand.",
            most=(most, "current"),
        ),
        trades=message("Less: softer brakes that hold less of a hill. Brakes fade: be able to stop on foot."),
    )


def _of_the_pack(build: Build, most: float, word: str) -> Message:
    """Controllers on one pack share what it bears."""
    units = controllers(build)
    if units == 1:
        return message("At most {most}: {reason}", most=(most, "current"), reason=word)
    return message(
        "At most {most} for each controller, {all} in all: {reason}",
        reason=word,
        most=(most, "current"),
        all=(most * units, "current"),
    )


def _of_the_motors(build: Build, pack: Pack) -> tuple[float, str]:
    """A of a full pack that one controller may draw for the most power that the motors' makers state."""
    motors, full = build.parts.motors, full_voltage(pack)
    if motors is None or motors.max_power_w is None or full <= 0.0:
        return float("inf"), ""
    each = motors.max_power_w * (motors.count or 1) / full / controllers(build)
    return each, "the motors' maker states no more power"


def _pack(build: Build, pack: Pack, character: Character) -> Iterator[Recommendation]:
    most, word = min(pack_current_ceiling(build), _of_the_motors(build, pack))
    if most >= LEAST_A:
        yield Recommendation(
            field="pack_current_a",
            group="Currents",
            value=_down(most * character.pack),
            low=1.0,
            high=most,
            why=_of_the_pack(build, most, f"{word}."),
            trades=message("Less: slower uphill and against the wind, cooler cells, longer life."),
        )
    most, word = charging_ceiling(build)
    yield Recommendation(
        field="pack_regen_a",
        group="Currents",
        low=0.0,
        high=most,
        value=_down(most, 0.5) if most >= 0.5 else floor(most * 10.0) / 10.0,
        why=_of_the_pack(build, most, f"{word}. Less in the cold."),
        trades=message("Less: weaker brakes at speed, where the motor current is not the limit."),
    )
    series = pack.series or 0
    full, _, empty = cell_voltages(pack)
    yield Recommendation(
        field="cells_in_series",
        group="Pack",
        value=series,
        low=series,
        high=series,
        why=message("The pack has {series}. A wrong count left by a set-up wizard moves every cut-off.", series=series),
        trades=message("Nothing: another count is wrong."),
    )
    start, end = recommended_taper(pack)
    chemistry = chemistry_of(pack.cell)
    yield Recommendation(
        field="taper_start_v",
        group="Pack",
        value=start,
        low=end,
        high=series * full,
        why=message(
            "{series} {chemistry} cells under load; from here to the end of the cut-off the power drops gradually.",
            series=series,
            chemistry=chemistry,
        ),
        trades=message(
            "Higher: warns earlier, and leaves range unused. Lower: full power for longer, then it stops at once."
        ),
    )
    yield Recommendation(
        field="taper_end_v",
        group="Pack",
        value=end,
        low=series * empty,
        high=start,
        why=message(
            "The cells are empty at {empty} together and are ruined below it; {each} a cell are kept in reserve.",
            empty=(series * empty, "voltage"),
            each=((end / series - empty) if series else 0.0, "cell_voltage"),
        ),
        trades=message("Lower: a little more range, and a shorter life. Never below empty."),
    )
    yield Recommendation(
        field="regen_ceiling_v",
        group="Pack",
        value=round(series * full, 1),
        low=start,
        high=series * full,
        why=message(
            "The pack is full at {full}; braking above it overcharges the cells.", full=(series * full, "voltage")
        ),
        trades=message(
            "At the ceiling the motors stop braking: on a full pack at the top of a hill, plan to stop on foot."
        ),
    )


def _speed(build: Build, profile: Profile, character: Character) -> Iterator[Recommendation]:
    brief, controller = build.brief, build.parts.controller
    caps = {
        "your note of the local rule": brief.local_speed_limit_kmh,
        "the target speed": brief.top_speed_kmh if profile != "full" else None,
        "a beginner": character.speed_kmh,
    }
    stated = {word: cap for word, cap in caps.items() if cap is not None}
    if stated:
        word = min(stated, key=lambda w: stated[w])
        yield Recommendation(
            field="speed_cap_kmh",
            group="Speed",
            value=float(stated[word]),
            low=3.0,
            high=float(stated[word]),
            why=message("Set by {word}. Rules differ from place to place: ask locally, and ride to them.", word=word),
            trades=message("Higher: faster, and it is you who falls. A quiet zone may need less."),
        )
    quiet = brief.quiet_zone_kmh
    if quiet is not None:
        yield Recommendation(
            field="quiet_cap_kmh",
            group="Speed",
            value=float(quiet),
            low=3.0,
            high=float(quiet),
            why=message("Your note for the quiet zone, for the remote's slow mode. Ask there which rule applies."),
            trades=message("Nothing outside the zone: the speed cap applies there."),
        )
    unloaded = unloaded_electrical_speed(build)
    follows = controller.max_erpm if controller else None
    if follows is not None or unloaded is not None:
        most = follows if follows is not None else max(ceil(1.3 * (unloaded or 0.0) / 500.0) * 500.0, 1000.0)
        yield Recommendation(
            field="max_erpm",
            group="Speed",
            value=most,
            low=unloaded and min(unloaded, most),
            high=follows,
            why=message(
                "The controller follows up to {most}. Set as high as it goes: a steep descent must not reach it.",
                most=(most, "electrical_speed"),
            )
            if follows is not None
            else message("A third above the motor's speed without load: a steep descent must not reach it."),
            trades=message(
                "Lower also caps the speed, but at this limit the controller brakes by itself; use the speed cap "
                "instead."
            ),
        )
    yield Recommendation(
        field="max_duty_pct",
        group="Speed",
        value=95.0,
        low=80.0,
        high=95.0,
        why=message("The last five per cent leave the controller time to measure the currents."),
        trades=message("Lower: less top speed, in proportion."),
    )
    motors = build.parts.motors
    if motors is not None and motors.pole_pairs is not None:
        yield Recommendation(
            field="pole_pairs",
            group="Speed",
            value=motors.pole_pairs,
            low=motors.pole_pairs,
            high=motors.pole_pairs,
            why=message("Of the motor; the controller counts speed in electrical turns."),
            trades=message("Another count makes the speed reading wrong."),
        )
    if gear_known(build):
        gear = round(gear_ratio(build), 3)
        yield Recommendation(
            field="gear_ratio",
            group="Speed",
            value=gear,
            low=gear,
            high=gear,
            why=message("Turns of the motor for one turn of the wheel."),
            trades=message("Another ratio makes the speed and distance readings wrong."),
        )
    rolling = rolling_diameter(build)
    if rolling is not None:
        yield Recommendation(
            field="wheel_diameter_mm",
            group="Speed",
            value=round(rolling, 1),
            low=0.97 * rolling,
            high=1.03 * rolling,
            why=message("The rolling diameter under load, not the printed one."),
            trades=message("Too big shows too much speed. Worn wheels shrink: measure again."),
        )


def _heat() -> Iterator[Recommendation]:
    motor, controller = estimate.WINDING_LIMIT_C, estimate.CONTROLLER_LIMIT_C
    yield Recommendation(
        field="motor_rollback_c",
        group="Heat",
        value=motor - BELOW_THE_LIMIT_C,
        low=60.0,
        high=motor,
        why=message("Magnets and insulation are damaged from {most}.", most=(motor, "temperature")),
        trades=message(
            "Lower: reduces power earlier on a long climb. A motor without a temperature sensor is not protected."
        ),
    )
    yield Recommendation(
        field="controller_rollback_c",
        group="Heat",
        value=controller - BELOW_THE_LIMIT_C,
        low=50.0,
        high=controller,
        why=message("In a closed enclosure it has to reduce power before {most}.", most=(controller, "temperature")),
        trades=message("Lower: reduces power earlier on a hot day. Better: let it touch metal that the air cools."),
    )


def _sense(build: Build) -> Iterator[Recommendation]:
    motors = build.parts.motors
    if motors is None:
        return
    if motors.sensored is not None:
        yield Recommendation(
            field="sensor_mode",
            group="Motor",
            value="hall_at_low_speed" if motors.sensored else "sensorless",
            why=message(
                "Hall sensors give a smooth start; above walking pace the controller works without them."
                if motors.sensored
                else "The motor has no sensors: push off before you use the throttle."
            ),
            trades=message("Hall sensors at all speeds: one broken wire stops the motor."),
        )
    yield _directions(build, motors.count or 1)


def _directions(build: Build, count: int) -> Recommendation:
    """What detection saw decides; until then it is that two motors on one axle look at each other."""
    own, units = motors_each(build), controllers(build)
    looking: list[Turned | None] = ["backward" if i % 2 else "forward" for i in range(own * units)]
    saw = [d.turned for d in build.detected or ()]
    known = len(saw) == own * units and None not in saw
    groups = [(saw if known else looking)[i * own : (i + 1) * own] for i in range(units)]
    first, *further = [directions_for([t for t in g if t is not None]) or "mirrored" for g in groups]
    return Recommendation(
        field="directions",
        group="Motor",
        value=first,
        further=further if set(further) - {first} else [],
        why=message(
            "Detection found which way each wheel turned. Test it with the wheels in the air."
            if known
            else "Two motors on one axle face each other. The second one has its own value: test it with the wheels in "
            "the air."
            if count > 1 and units > 1
            else "Two motors on one axle face each other. One turns the other way round: test it with the wheels in "
            "the air."
            if count > 1
            else "Test it with the wheels in the air; swapping two phase wires reverses it as well."
        ),
        trades=message("If wrong, one wheel drives against the other."),
    )


def _remote(build: Build, so_far: list[Recommendation], character: Character) -> Iterator[Recommendation]:
    yield Recommendation(
        field="throttle_curve",
        group="Remote",
        value=character.curve,
        why=message("How current follows the throttle: gentle near the middle for small corrections."),
        trades=message("Linear reacts at once, and lurches over a kerb with the rider behind it."),
    )
    first = _first_second(build, so_far)
    if first is not None:
        wanted = min(character.first_second_g, OF_TIPPING * tipping_g(build), first)
        ramp = 2.0 * (1.0 - wanted / first) if wanted >= first / 2.0 else first / (2.0 * wanted)
        yield Recommendation(
            field="ramp_s",
            group="Remote",
            value=max(round(ramp, 1), 0.1),
            low=0.1,
            high=3.0,
            why=message(
                "Without a ramp the first second pulls {first}; with this time it pulls {wanted}.",
                first=(first, "g"),
                wanted=(wanted, "g"),
            ),
            trades=message("Shorter: livelier, and easier to fall off. Longer: late at a crossing."),
        )
    yield Recommendation(
        field="dead_band_pct",
        group="Remote",
        value=DEAD_BAND_PCT,
        low=3.0,
        high=15.0,
        why=message("Measure the remote's end points and middle; this much around the middle does nothing."),
        trades=message("Less: creeps with the throttle released. More: a slow response near the middle."),
    )
    yield Recommendation(
        field="fail_safe",
        group="Remote",
        value="release",
        why=message("A lost link lets the motors coast: a sudden brake throws the rider. Test it on the stand."),
        trades=message("Gentle braking stops a board that rolls away, and surprises the rider on it."),
    )
    remote = build.parts.remote
    if remote is not None and remote.link is not None:
        yield Recommendation(
            field="remote_link",
            group="Remote",
            value=remote.link,
            why=message("What the receiver uses."),
            trades=message("With the other one nothing moves."),
        )
    yield Recommendation(
        field="idle_off_min",
        group="Remote",
        value=IDLE_OFF_MIN,
        low=5.0,
        high=60.0,
        why=message("A controller left on empties the pack below its cut-off within weeks."),
        trades=message("Shorter: off while you are in a shop."),
    )


def _first_second(build: Build, so_far: list[Recommendation]) -> float | None:
    """g of the first second with the recommended currents and no ramp."""
    values = {r.field: r.value for r in so_far if r.group == "Currents"}
    return first_second(build.model_copy(update={"settings": build.settings.model_copy(update=values)})) or None
