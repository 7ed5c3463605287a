"""The controller sheet: what to set, why, and what each value trades."""

from boardmath.settings.recommend import Recommendation, recommend
from boardmath.settings.sheet import Sheet, SheetLine, sheet

__all__ = ["Recommendation", "Sheet", "SheetLine", "recommend", "sheet"]
