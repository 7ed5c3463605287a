"""The controller settings: what to set, why, and what each value trades."""

from planner.controller_settings.lines import ControllerSettings, SettingLine, controller_settings, findings_on_settings
from planner.controller_settings.recommend import Recommendation, recommend

__all__ = [
    "ControllerSettings",
    "Recommendation",
    "SettingLine",
    "controller_settings",
    "findings_on_settings",
    "recommend",
]
