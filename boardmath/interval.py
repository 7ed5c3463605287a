"""A figure with its range: the one record for it in results and reports."""

from pydantic import BaseModel


class Interval(BaseModel):
    """``low`` and ``high`` are the 10th and 90th percentile of what is not known; ``mid`` is the middle."""

    low: float
    mid: float
    high: float
