"""Chances: one scale of verdicts and of words for all pages."""

from typing import Literal

from pydantic import BaseModel, computed_field

LIKELY = 0.8
"""From this chance on something is counted on; the other way round it is unlikely."""
ALMOST_CERTAIN = 0.95
Likelihood = Literal["likely", "uncertain", "unlikely"]
_TENTHS = (
    "hardly ever",
    "one time in ten",
    "two times in ten",
    "three times in ten",
    "four times in ten",
    "half the time",
    "six times in ten",
    "seven times in ten",
    "eight times in ten",
    "nine times in ten",
    "nearly always",
)


def likelihood(chance: float) -> Likelihood:
    """The verdict on a chance of 0 to 1."""
    if chance >= LIKELY:
        return "likely"
    return "uncertain" if chance >= 1.0 - LIKELY else "unlikely"


def in_words(chance: float) -> str:
    """A chance as people say it, in tenths; nothing is said to be certain."""
    if chance >= ALMOST_CERTAIN:
        return _TENTHS[10]
    return _TENTHS[0] if chance <= 1.0 - ALMOST_CERTAIN else _TENTHS[min(max(round(chance * 10.0), 1), 9)]


def in_short(chance: float) -> str:
    """The same in figures, where there is little room."""
    if chance >= ALMOST_CERTAIN:
        return "19 in 20"
    return "1 in 20" if chance <= 1.0 - ALMOST_CERTAIN else f"{min(max(round(chance * 10.0), 1), 9)} in 10"


class WithChance(BaseModel):
    """What has a chance, with its verdict, so that no page decides what is likely."""

    chance: float

    @computed_field  # type: ignore[prop-decorator]  # mypy knows no decorator above property
    @property
    def likelihood(self) -> Likelihood:
        """The verdict on the chance."""
        return likelihood(self.chance)
