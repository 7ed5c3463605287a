"""Chances: one scale of verdicts and of words for all pages."""

from typing import Literal

from pydantic import BaseModel, computed_field

LIKELY = 0.8
"""From this chance on something is counted on; the other way round it is unlikely."""
ALMOST_CERTAIN = 0.95
Likelihood = Literal["likely", "uncertain", "unlikely"]


def likelihood(chance: float) -> Likelihood:
    """The verdict on a chance of 0 to 1."""
    if chance >= LIKELY:
        return "likely"
    return "uncertain" if chance >= 1.0 - LIKELY else "unlikely"


def in_words(chance: float) -> str:
    """A chance in words, to 5 %; nothing is said to be certain or impossible."""
    return f"{in_short(chance)} likely".replace(">", "over").replace("<", "under")


def in_short(chance: float) -> str:
    """The same in figures, where there is little room."""
    if chance > ALMOST_CERTAIN:
        return "> 95 %"
    return "< 5 %" if chance < 1.0 - ALMOST_CERTAIN else f"{5 * round(chance * 20.0)} %"


class WithChance(BaseModel):
    """What has a chance, with its verdict, so that no page decides what is likely."""

    chance: float

    @computed_field  # type: ignore[prop-decorator]  # mypy knows no decorator above property
    @property
    def likelihood(self) -> Likelihood:
        """The verdict on the chance."""
        return likelihood(self.chance)
