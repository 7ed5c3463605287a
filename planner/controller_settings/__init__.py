"""The controller sheet: what to set, why, and what each value trades."""

from planner.controller_settings.lines import Sheet, SheetLine, findings_on_settings, sheet
from planner.controller_settings.recommend import Recommendation, recommend

__all__ = ["Recommendation", "Sheet", "SheetLine", "findings_on_settings", "recommend", "sheet"]
