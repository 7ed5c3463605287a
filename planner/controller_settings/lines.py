"""The controller settings of a build: what is recommended, what is set, how the two stand, and what the difference does."""

from collections.abc import Sequence
from typing import Literal, get_args

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.controllers import each_controller, otherwise
from boardmath.buildfile.settings import Profile, Settings
from boardmath.checks import Finding
from boardmath.prediction.outcomes import Outcome, headlines
from boardmath.predictor import predict
from boardmath.results import Prediction
from planner.controller_settings.recommend import Recommendation, Value, recommend
from planner.design.candidates import Change, change_of

Stand = Literal["as recommended", "within its range", "not set", "outside its range"]
"""The best first."""


class SettingLine(Recommendation):
    """A recommendation beside what is set; ``changes`` is what the recommended value would change, where it changes anything.

    ``set_each`` is what each controller is set to; ``stand`` is that of the controller that stands worst.
    """

    set_each: list[Value | None]
    stand: Stand
    changes: list[Change]


class Braking(BaseModel):
    """What the settings leave of braking and of the first second."""

    full_pack_grade_pct: float
    at_80_pct_grade_pct: float
    first_second_g: float


class ControllerSettings(BaseModel):
    """All settings; ``lacks`` says why there is none yet.

    ``clears`` are values that are wanted and that the profile has none of: another profile's speed cap, left standing.
    """

    profile: Profile
    programmable: bool
    lines: list[SettingLine]
    clears: list[str]
    outcomes: list[Outcome]
    braking: Braking | None
    findings: list[Finding]
    lacks: str | None = None


def compare_setting(recommended: Recommendation, wanted: Value, set_to: Value | None) -> Stand:
    """How what is set in one controller stands against what it is ``wanted`` to have; words have no span."""
    if set_to is None:
        return "not set"
    if isinstance(set_to, str) or isinstance(wanted, str):
        return "as recommended" if set_to == wanted else "within its range"
    if abs(set_to - wanted) <= 1e-9:
        return "as recommended"
    low = recommended.low if recommended.low is not None else set_to
    high = recommended.high if recommended.high is not None else set_to
    # A span is known to three digits at best.
    room = 1e-3 * max(abs(low), abs(high))
    return "within its range" if low - room <= set_to <= high + room else "outside its range"


def controller_settings(build: Build, profile: Profile | None = None) -> ControllerSettings:
    """The settings record for a ``profile``, or for the one that the settings are meant for."""
    meant = profile or build.settings.profile or "daily"
    recommended = recommend(build, meant)
    tried = [_with(build, r) for r in recommended]
    before, *after = headlines([build, *tried])
    prediction = predict(build)
    hill, pull, brakes = prediction.hill, prediction.acceleration, prediction.braking
    lines = []
    for r, then in zip(recommended, after, strict=True):
        lines.append(
            SettingLine(
                **r.__dict__,
                set_each=[getattr(said, r.field) for said in each_controller(build)],
                stand=_stand_of_all(build, r),
                changes=_changes(before.outcomes, then.outcomes),
            )
        )
    return ControllerSettings(
        profile=meant,
        programmable=build.parts.controller is None or build.parts.controller.programmable is not False,
        lines=lines,
        clears=_left_standing(build, recommended),
        outcomes=prediction.outcomes,
        braking=Braking(
            full_pack_grade_pct=brakes.full_pack_grade_pct,
            at_80_pct_grade_pct=brakes.at_80_pct_grade_pct,
            first_second_g=pull.first_second_g,
        )
        if hill and pull and brakes
        else None,
        findings=findings_on_settings(prediction),
        lacks=_lacks(build),
    )


def _left_standing(build: Build, recommended: Sequence[Recommendation]) -> list[str]:
    """The speed cap is the one value that some profiles have and others have not."""
    capped = any(r.field == "speed_cap_kmh" for r in recommended)
    return ["speed_cap_kmh"] if recommended and not capped and build.settings.speed_cap_kmh is not None else []


def findings_on_settings(prediction: Prediction) -> list[Finding]:
    """Those of a prediction that are about what is set in the controller."""
    return [f for f in prediction.findings if "settings" in f.about or any("settings." in x for x in f.fields)]


def _lacks(build: Build) -> str | None:
    if build.parts.controller is None:
        return "controller"
    if build.parts.pack is None or build.parts.pack.series is None:
        return "pack"
    return None


def _for_each(build: Build, r: Recommendation) -> list[tuple[Settings, Value]]:
    """Each controller's settings, and the value that is recommended to it."""
    each = each_controller(build)
    return list(zip(each, [r.value, *(r.further or [r.value] * (len(each) - 1))], strict=True))


def _stand_of_all(build: Build, r: Recommendation) -> Stand:
    found = [compare_setting(r, wanted, getattr(said, r.field)) for said, wanted in _for_each(build, r)]
    return max(found, key=get_args(Stand).index)


def _with(build: Build, r: Recommendation) -> Build:
    first, *others = states = [s.model_copy(update={r.field: value}) for s, value in _for_each(build, r)]
    return build.model_copy(update={"settings": first, "settings_apart": otherwise(states) if others else None})


def _changes(before: Sequence[Outcome], after: Sequence[Outcome]) -> list[Change]:
    found = [change_of(b, a) for b, a in zip(before, after, strict=True)]
    return [c for c in found if c.better is not None]
