"""The controller sheet: what to set, why, and what each value trades."""

from boardmath.settings.recommend import Recommendation, recommend
from boardmath.settings.sheet import Sheet, SheetLine, findings_on_settings, sheet

__all__ = ["Recommendation", "Sheet", "SheetLine", "findings_on_settings", "recommend", "sheet"]
