"""The controller sheet: what to set, why, and what each value trades."""

from boardmath.sheet.lines import Sheet, SheetLine, findings_on_settings, sheet
from boardmath.sheet.recommend import Recommendation, recommend

__all__ = ["Recommendation", "Sheet", "SheetLine", "findings_on_settings", "recommend", "sheet"]
