"""The controllers of a board: how many, what each has, and what they do together.

``settings`` is what all of them have; ``settings_apart`` is what the second and further ones have otherwise.
"""

from collections.abc import Callable, Sequence

from boardmath.buildfile.build import Build
from boardmath.buildfile.settings import Directions, Settings, Turned


def controllers(build: Build) -> int:
    """How many controllers the board has; one where it does not say."""
    controller = build.parts.controller
    return (controller.units if controller else 1) or 1


def motors_each(build: Build) -> int:
    """How many motors hang on one controller."""
    motors = build.parts.motors
    return max(((motors.count if motors else 1) or 1) // controllers(build), 1)


def each_controller(build: Build) -> list[Settings]:
    """What each controller has, the first one first."""
    further = controllers(build) - 1
    said = with_apart(build.settings, (build.settings_apart or [])[:further])
    return said + [build.settings] * (further + 1 - len(said))


def with_apart(first: Settings, apart: Sequence[Settings]) -> list[Settings]:
    """What each controller has, from the first one's settings and what the further ones have otherwise."""
    return [first, *(first.model_copy(update=a.model_dump(exclude_none=True)) for a in apart)]


def otherwise(states: Sequence[Settings]) -> list[Settings] | None:
    """What the second and further ones have that the first has not so: the ``settings_apart`` of a build; None if nothing."""
    first, *others = states
    apart = [
        Settings(**{k: v for k, v in other.model_dump(exclude_none=True).items() if v != getattr(first, k)})
        for other in others
    ]
    return apart if any(a.model_fields_set for a in apart) else None


def _mean(values: Sequence[float]) -> float:
    return sum(values) / len(values)


_TOGETHER: dict[str, Callable[[Sequence[float]], float]] = {
    **dict.fromkeys(("motor_current_a", "motor_brake_a", "pack_current_a", "pack_regen_a", "ramp_s"), _mean),
    **dict.fromkeys(("taper_start_v", "taper_end_v"), max),
    **dict.fromkeys(("regen_ceiling_v", "max_erpm", "max_duty_pct", "speed_cap_kmh"), min),
    **dict.fromkeys(("motor_rollback_c", "controller_rollback_c"), min),
}


def acting(build: Build) -> Settings:
    """What the controllers do to the board together, as if all were set alike.

    Currents add up, so each counts with the mean; of limits of volts, speed and heat the one counts that acts first. A current
    that one of them does not say is taken to be no lower than that of the others.
    """
    if not build.settings_apart or controllers(build) == 1:
        return build.settings
    each = each_controller(build)
    said = {key: [v for s in each if (v := getattr(s, key)) is not None] for key in _TOGETHER}
    return build.settings.model_copy(update={k: _TOGETHER[k](values) for k, values in said.items() if values})


def turned_round(build: Build) -> list[bool]:
    """For each motor of the board, whether its controller is set to turn it the other way round."""
    own = range(motors_each(build))
    return [
        s.directions == "reversed" or (s.directions == "mirrored" and motor % 2 == 1)
        for s in each_controller(build)
        for motor in own
    ]


def directions_for(turned: Sequence[Turned]) -> Directions | None:
    """What to set in one controller so that its motors drive the board forward, if that can be set.

    Args:
        turned: which way each of its motors turned its wheel when told to go forward.
    """
    back = [t == "backward" for t in turned]
    if len(set(back)) == 1:
        return "reversed" if back[0] else "forward"
    return "mirrored" if back == [i % 2 == 1 for i in range(len(back))] else None
