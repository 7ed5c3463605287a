"""With the wheels turning in the air, held against the prediction. Tolerances: common practice, no source."""

from boardmath.messages import Message, message
from boardmath.prediction.unloaded import OnTheStand
from planner.bench_test.steps import METER, Judged, Stand, Step, Verdict

ALIKE, UNALIKE = 0.03, 0.08
"""Shares by which motors of one kind may differ in speed: noticed, and wrong."""
CURRENT_ALIKE, CURRENT_UNALIKE = 1.3, 1.7
OFF = 0.1
"""Share beyond which a speed is another motor's, another pack's or another pole count's."""
TAKES_MORE, TAKES_FAR_MORE, TAKES_LESS = 1.5, 2.5, 0.4
"""Free-running current as multiples of the predicted band's ends: something rubs, something jams, nothing is driven."""
BRAKES_WITHIN_S = 3.0

_VOLTAGE_FIRST = message("Cannot be compared: the pack's voltage does not fit its cells.")


def directions(s: Stand) -> Step:
    """Every motor, forward and backward."""
    several = len(s.motors) > 1
    return _directions(s).step(
        key="directions",
        title="Both directions",
        do=message(
            "A little throttle: each driven wheel has to turn the board forward. Then reverse, where the remote has it."
        ),
        motor_fields=["forward", "backward"],
        grave=several,
    )


def _directions(s: Stand) -> Judged:
    wrong = [i for i, m in enumerate(s.motors, 1) if m.forward is False or m.backward is False]
    if wrong:
        both = " One wheel that drives against the other throws the rider." if len(s.motors) > 1 else ""
        which = " and ".join(map(str, wrong))
        return Judged(
            "fails",
            remedy=message(
                "Motor {which}: swap any two of its three phase wires, or reverse its direction setting. Test "
                "again, slowly.{both}",
                which=which,
                both=both,
            ),
        )
    return Judged("passes" if all(m.forward for m in s.motors) else "open")


def alike(s: Stand) -> Step | None:
    """Motors of one kind at the same throttle."""
    if len(s.motors) < 2:
        return None
    return _alike(s).step(
        key="alike",
        title="Motors alike",
        do=message(
            "Full throttle for three seconds, wheels free: enter what the controller shows for each motor, or a "
            "tachometer at each wheel."
        ),
        motor_fields=["erpm", "wheel_rpm", "current_a"],
        optional=True,
    )


def _alike(s: Stand) -> Judged:
    speeds, currents = s.electrical_speeds, [m.current_a for m in s.motors if m.current_a]
    if len(speeds) < len(s.motors):
        return Judged()
    if min(speeds) <= 0.0:
        still = speeds.index(min(speeds)) + 1
        return Judged(
            "fails",
            remedy=message("Motor {still} does not turn: check phase wires, Hall plug, detection.", still=still),
        )
    apart = max(speeds) / min(speeds) - 1.0
    said = message(
        "{slow} against {fast}.", slow=(min(speeds), "electrical_speed"), fast=(max(speeds), "electrical_speed")
    )
    stronger = max(currents) / min(currents) if len(currents) == len(s.motors) else 1.0
    if apart <= ALIKE and stronger <= CURRENT_ALIKE:
        return Judged("passes", said)
    odd = _odd_one(s, speeds) if apart > ALIKE else f"Motor {currents.index(max(currents)) + 1} draws far more current"
    verdict: Verdict = "fails" if apart > UNALIKE or stronger > CURRENT_UNALIKE else "unsure"
    remedy = message(
        "{odd}. Are the belts equally tight? Does a wheel rub? Do both have the same KV and limits? Let "
        "the controller detect both, and compare.",
        odd=odd,
    )
    return Judged(verdict, said, remedy)


def _odd_one(s: Stand, speeds: list[float]) -> str:
    """Which of two is to be looked at: the one farther from what was predicted, where that can be said."""
    told = s.predicted.erpm.mid if s.predicted is not None and s.comparable else None
    odd = min(speeds) if told is None or told - min(speeds) > max(speeds) - told else max(speeds)
    than = "" if told is None else ", and further from the prediction"
    return f"Motor {speeds.index(odd) + 1} is the {'slower' if odd == min(speeds) else 'faster'} one{than}"


def free_speed(s: Stand) -> Step | None:
    """What the wheels reach, against what was predicted for this voltage."""
    if s.predicted is None:
        return None
    return _free_speed(s, s.predicted).step(
        key="free_speed",
        title="Speed, wheels free",
        do=message("Full throttle for three seconds. Predicted for {v} at rest:", v=(s.predicted.pack_v, "voltage")),
        # Where there are several motors, their speeds were entered at the step before.
        motor_fields=["erpm", "wheel_rpm", "current_a"] if len(s.motors) < 2 else [],
        predicted=[s.predicted.erpm, s.predicted.wheel_rpm],
        optional=True,
    )


def _free_speed(s: Stand, predicted: OnTheStand) -> Judged:
    speeds = s.electrical_speeds
    if not speeds:
        return Judged()
    if not s.comparable:
        return Judged(said=_VOLTAGE_FIRST)
    band = predicted.erpm
    found = max(speeds, key=lambda speed: abs(speed - band.mid))  # of several the worst
    # A cap is known to the digit; volts are not.
    said = message(
        "{found}, predicted {mid} at {v}."
        if band.high - band.low < 1.0
        else "{found}, predicted {low} to {high} at {v}.",
        found=(found, "electrical_speed"),
        low=(band.low, "electrical_speed"),
        mid=(band.mid, "electrical_speed"),
        high=(band.high, "electrical_speed"),
        v=(predicted.pack_v, "voltage"),
    )
    if band.low * (1.0 - METER) <= found <= band.high * (1.0 + METER):
        return Judged("passes", said)
    off = found / max(band.mid, 1e-9) - 1.0
    return Judged("unsure" if abs(off) <= OFF else "fails", said, _why_off(s, predicted, found, off > 0.0))


def _why_off(s: Stand, predicted: OnTheStand, found: float, fast: bool) -> Message:
    if predicted.limit != "pack voltage":
        return message(
            "Too fast: the speed cap in the prediction does not work. Read the settings."
            if fast
            else "Too slow: something limits it below the settings record. Read the settings."
        )
    kv = found / s.pole_pairs / max(predicted.bus_v * predicted.duty, 1e-9)
    causes = "weak magnets" if fast else "a cap or a duty cycle limit that is set lower"
    return message(
        "Too {how}: that speed fits about {kv}. Another winding, another pole count than assumed, {causes}. Let "
        "the controller detect the motors.",
        how="fast" if fast else "slow",
        causes=causes,
        kv=(kv, "motor_constant"),
    )


def free_current(s: Stand) -> Step | None:
    """What it takes to turn nothing."""
    if s.predicted is None:
        return None
    return _free_current(s, s.predicted).step(
        key="free_current",
        title="Current, wheels free",
        do=message("At the same full throttle: the current from the pack. Predicted:"),
        fields=["pack_current_a"],
        predicted=[s.predicted.pack_current_a],
        optional=True,
    )


def _free_current(s: Stand, predicted: OnTheStand) -> Judged:
    found, band = s.entered.pack_current_a, predicted.pack_current_a
    if found is None:
        return Judged()
    if not s.comparable:
        return Judged(said=_VOLTAGE_FIRST)
    said = message(
        "{found}, predicted {low} to {high}.",
        found=(found, "current"),
        low=(band.low, "current"),
        high=(band.high, "current"),
    )
    if found > TAKES_MORE * band.high:
        remedy = message(
            "It draws more than it should: a belt too tight, a pulley that rubs, a crooked bearing, a wheel "
            "against the deck. Unplug it, and turn each wheel by hand."
        )
        return Judged("fails" if found > TAKES_FAR_MORE * band.high else "unsure", said, remedy)
    if found < TAKES_LESS * band.low:
        remedy = message("Less than the motors need by themselves: is the belt on, is the meter in the pack's lead?")
        return Judged("unsure", said, remedy)
    return Judged("passes", said)


def brake(s: Stand) -> Step:
    """The brake, before there is a hill."""
    return _brake(s).step(
        key="brake",
        title="Brake",
        do=message("From full speed, full brake: the wheels stop evenly and at once, and do not turn backwards."),
        fields=["brakes", "stopped_in_s"],
        grave=True,
    )


def _brake(s: Stand) -> Judged:
    stops, after = s.entered.brakes, s.entered.stopped_in_s
    if stops is False:
        return Judged(
            "fails",
            remedy=message(
                "Do not ride it. Check the brake current and the remote's direction; a full pack cannot take "
                "braking energy."
            ),
        )
    said = message("From full speed to a stop in {after}.", after=(after, "seconds")) if after is not None else None
    if stops and after is not None and after > BRAKES_WITHIN_S:
        return Judged("unsure", said, message("That is long for the wheels alone: check the brake current."))
    return Judged("passes" if stops else "open", said)
